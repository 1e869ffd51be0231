package plating

import (
	"encoding/xml"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/demo"
)

// Closed forms of textbook geometry: the solids have the volume they are made from.
func TestSolidsHaveTheirVolume(t *testing.T) {
	for _, kind := range kitchen.FormKinds() {
		for _, n := range []int{0, 3} {
			for _, v := range []float64{500, 9000, 80_000} {
				sum := 0.0
				for _, p := range build(kitchen.Form{Kind: kind, Count: n}, v) {
					sum += p.Volume()
				}
				require.InEpsilon(t, v, sum, 0.005, "%s of %g mm³", kind, v)
			}
		}
	}
}

// Sizes against formulas worked the other way round. A 30 g quenelle of density 0.92:
// 32.6 ml; half width b from 4/3·π·1.9·0.85·b³.
func TestSizesFollowFromAmounts(t *testing.T) {
	q := build(kitchen.Form{Kind: "quenelle"}, 30/0.92*1000)[0]
	b := math.Cbrt(3 * 32608.7 / (4 * math.Pi * 1.9 * 0.85))
	require.InEpsilon(t, math.Pi*1.9*b*b, area(q.Outline), 0.001)
	require.InEpsilon(t, 1.7*b, q.High, 0.001)
	d := build(kitchen.Form{Kind: "dome"}, 2.0/3*math.Pi*8000)[0] // radius 20 mm
	require.InEpsilon(t, 20, d.High, 0.001)
	c := build(kitchen.Form{Kind: "cylinder", RadiusMm: 40}, math.Pi*1600*25)[0]
	require.InEpsilon(t, 25, c.High, 0.001)
	p := build(kitchen.Form{Kind: "pool"}, math.Pi*900*3)[0] // radius 30 mm, 3 mm deep
	require.InEpsilon(t, math.Pi*900, area(p.Outline), 0.001)
}

// The height profiles integrate to the same volume (fine numeric integration).
func TestVolumesByIntegration(t *testing.T) {
	for _, kind := range []string{"dome", "foam", "quenelle", "cylinder", "block", "heap", "pool", "swipe", "shard"} {
		for _, p := range build(kitchen.Form{Kind: kind}, 20_000) {
			const h = 0.25
			sum := 0.0
			for x := -120.0; x < 120; x += h {
				for y := -120.0; y < 120; y += h {
					if q := (Point{x + h/2, y + h/2}); inside(q, p.Outline) {
						sum += p.High * p.profile(q) * h * h
					}
				}
			}
			limit := 0.01
			if kind == "heap" {
				limit = 0.06 // its ragged foot against the round paraboloid
			}
			require.InEpsilon(t, 20_000, sum, limit, kind)
		}
	}
}

// Outlines never cross themselves, and grow with the amount.
func TestOutlinesAreSimpleAndGrow(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := kitchen.Form{Kind: rapid.SampledFrom(kitchen.FormKinds()).Draw(t, "kind"), Count: rapid.IntRange(0, 6).Draw(t, "count"),
			LengthMm: rapid.SampledFrom([]float64{0, 40, 90, 150}).Draw(t, "length"), RadiusMm: rapid.SampledFrom([]float64{0, 25, 60}).Draw(t,
				"radius")}
		v := rapid.Float64Range(200, 120_000).Draw(t, "volume")
		small, large := build(f, v), build(f, v*1.5)
		size := func(ps []Piece) (a, h float64) {
			for _, p := range ps {
				a += area(p.Outline)
				h = math.Max(h, p.High)
			}
			return a, h
		}
		a1, h1 := size(small)
		a2, h2 := size(large)
		require.GreaterOrEqual(t, a2, a1*0.999, "footprint of %s", f.Kind)
		require.GreaterOrEqual(t, h2, h1*0.999, "height of %s", f.Kind)
		for _, p := range small {
			require.False(t, crossesItself(p.Outline), "%+v", f)
			for _, q := range p.Outline {
				require.False(t, math.IsNaN(q.X) || math.IsInf(q.X, 0) || math.IsNaN(q.Y))
			}
		}
	})
}

func crossesItself(ps []Point) bool {
	cross := func(a, b, c Point) float64 { return (b.X-a.X)*(c.Y-a.Y) - (b.Y-a.Y)*(c.X-a.X) }
	n := len(ps)
	for i := range n {
		a, b := ps[i], ps[(i+1)%n]
		for k := i + 2; k < n; k++ {
			if i == 0 && k == n-1 {
				continue
			}
			c, d := ps[k], ps[(k+1)%n]
			if cross(a, b, c)*cross(a, b, d) < -1e-9 && cross(c, d, a)*cross(c, d, b) < -1e-9 {
				return true
			}
		}
	}
	return false
}

func book(t testing.TB) *kitchen.Book {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	return b
}

// The demo's plates: weights add up, nothing hangs over an edge or lies on a rim, and
// nothing overlaps without being said.
func TestDemoPlatesAreSound(t *testing.T) {
	b := book(t)
	for _, d := range b.Dishes() {
		p := Draw(b, &d.Specification, d.Specification.Elements, kitchen.Needs{})
		sum := 0.0
		for _, e := range p.Elements {
			sum += e.GramsG
			require.GreaterOrEqual(t, e.TopMm, e.BaseMm)
		}
		require.InDelta(t, sum, p.WeightG, 1e-9)
		for _, f := range p.Findings {
			require.NotEqual(t, "fault", f.State, "%s: %s", d.Name, f.Said.Text)
			require.NotContains(t, []string{"rim", "overlap", "edge"}, map[bool]string{true: f.Kind}[f.State != "good"], "%s: %s", d.Name,
				f.Said.Text)
		}
	}
}

func finding(p *Plate, kind string) string {
	var all []string
	for _, f := range p.Findings {
		if f.Kind == kind && f.State != "good" {
			all = append(all, f.Said.Text)
		}
	}
	return strings.Join(all, " ")
}

// Every finding is provoked, and names the element and the number.
func TestFindings(t *testing.T) {
	b := book(t)
	hake, _ := b.Dish("hake-cider-butter")
	change := func(f func(es []kitchen.Element)) *Plate {
		es := append([]kitchen.Element(nil), hake.Specification.Elements...)
		f(es)
		return Draw(b, &hake.Specification, es, kitchen.Needs{})
	}
	require.Contains(t, finding(change(func(es []kitchen.Element) { es[1].At = kitchen.At{XMm: 120} }), "edge"), "Pressed potato reaches")
	require.Contains(t, finding(change(func(es []kitchen.Element) { es[1].At = kitchen.At{XMm: 80} }), "rim"), "mm on the rim")
	require.Contains(t, finding(change(func(es []kitchen.Element) { es[3].On = 0; es[3].At = es[1].At }), "overlap"), "covers Pressed potato")
	require.Contains(t, finding(change(func(es []kitchen.Element) { es[0].LastMoment = true }), "order"),
		"Cider butter sauce is a last-moment element")
	require.Contains(t, finding(change(func(es []kitchen.Element) { es[5].Temp = "frozen" }), "temperature"),
		"Skin crisp is frozen and lies 0 mm from")
	require.Contains(t, finding(change(func(es []kitchen.Element) {
		for i := range es {
			es[i].Tastes = nil
		}
	}), "contrast"), "Nothing sharp")
	require.Contains(t, finding(change(func(es []kitchen.Element) {
		for i := range es {
			es[i].At = kitchen.At{XMm: 60, YMm: -40}
		}
	}), "balance"), "towards 2 o’clock")
}

func TestTakeOutsThatStayIn(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	for i := range d.Components {
		if d.Components[i].ID == "guinea-fowl-breast" {
			d.Components[i].Steps[2].TakesOut = nil
		}
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	fowl, _ := b.Dish("guinea-fowl-barley")
	p := Draw(b, &fowl.Specification, fowl.Specification.Elements, kitchen.Needs{})
	require.True(t, strings.Contains(finding(p, "take-out"), "twine goes in and is never taken out"))
}

func BenchmarkPlateOf25(b *testing.B) {
	bk := book(b)
	var es []kitchen.Element
	for _, d := range bk.Dishes() {
		es = append(es, d.Specification.Elements...)
	}
	es = es[:25]
	for i := range es {
		es[i].On = 0
	}
	d, _ := bk.Dish("hake-cider-butter")
	for b.Loop() {
		Draw(bk, &d.Specification, es, kitchen.Needs{})
	}
}

// The SVG is read back by an independent reader: its size is the vessel's in real
// millimetres with the margin, every element is there, and a name is text whatever it
// holds.
func TestSVGReadBack(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	for i := range d.Components {
		if d.Components[i].ID == "hake" {
			d.Components[i].Name = `Hake <script>alert("1")</script> & 鱈`
		}
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	hake, _ := b.Dish("hake-cider-butter")
	raw := Draw(b, &hake.Specification, hake.Specification.Elements, kitchen.Needs{}).SVG(hake.Name)
	var read struct {
		Width  string `xml:"width,attr"`
		Height string `xml:"height,attr"`
		Title  string `xml:"title"`
		Groups []struct {
			ID   string `xml:"id,attr"`
			Desc string `xml:"desc"`
		} `xml:"g"`
	}
	require.NoError(t, xml.Unmarshal([]byte(raw), &read))
	require.Equal(t, "294.00mm", read.Width)
	require.Equal(t, "294.00mm", read.Height)
	require.Equal(t, hake.Name, read.Title)
	require.Len(t, read.Groups, 6)
	require.Equal(t, `Hake <script>alert("1")</script> & 鱈`, read.Groups[3].Desc)
	require.NotContains(t, raw, "<script")
}
