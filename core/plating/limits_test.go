package plating

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// put is an element of a component, of so many millilitres since everything here weighs a gram a millilitre.
func put(component string, ml float64, form kitchen.Form, x, y float64) kitchen.Element {
	return kitchen.Element{Component: component, Amount: ml, Form: form, At: kitchen.At{XMm: x, YMm: y}, Temp: "ambient", Seconds: 5, Hands: 1}
}

// drawn draws a plate of a slate of 300 × 200 mm without a rim unless change says otherwise.
func drawn(t *testing.T, change func(*kitchen.Data), es ...kitchen.Element) *Plate {
	t.Helper()
	d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
	d.Vessels = []kitchen.Vessel{{ID: "slate", Name: "Slate", Kind: "slate", WidthMm: 300, DepthMm: 200, HeightMm: 6}}
	for _, id := range []string{"a", "b", "c"} {
		d.Components = append(d.Components, kitchen.Component{ID: id, Name: id, Section: "stove", Unit: kitchen.Grams, GramsPerUnit: 1,
			DensityGPerMl: 1, Ingredients: []kitchen.Ingredient{{Name: "x", Amount: 1, Unit: "g"}}})
	}
	d.Dishes = []kitchen.Dish{{ID: "d", Name: "D", Course: kitchen.Main, State: kitchen.CurrentDish,
		Specification: kitchen.Specification{Vessel: "slate", VesselTemp: "hot", Elements: es}}}
	if change != nil {
		change(&d)
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	x, _ := b.Dish("d")
	return Draw(b, &x.Specification, x.Specification.Elements, kitchen.Needs{})
}

// state is that of the first finding of a kind; "" when there is none.
func state(p *Plate, kind string) string {
	for _, f := range p.Findings {
		if f.Kind == kind {
			return f.State
		}
	}
	return ""
}

// disc is a cylinder of a radius, 10 mm high: its volume is π r² · 10 mm³.
func disc(component string, radius, x, y float64) kitchen.Element {
	return put(component, math.Pi*radius*radius*10/1000, kitchen.Form{Kind: "cylinder", RadiusMm: radius}, x, y)
}

// A disc of 20 mm whose centre is so far from the middle of a slate that ends 150 mm from it.
func TestLimitOfTheEdge(t *testing.T) {
	for x, want := range map[float64]string{130.3: "", 130.4: "", 130.7: "fault", 140: "fault"} {
		require.Equal(t, want, state(drawn(t, nil, disc("a", 20, x, 0)), "edge"), x)
	}
}

// The rim begins 20 mm inside the edge; a millimetre on it is nothing to speak of.
func TestLimitOfTheRim(t *testing.T) {
	rim := func(d *kitchen.Data) { d.Vessels[0].RimMm = 20 }
	for x, want := range map[float64]string{110: "good", 110.9: "good", 111.2: "mind"} {
		require.Equal(t, want, state(drawn(t, rim, disc("a", 20, x, 0)), "rim"), x)
	}
}

// Two discs of 20 mm. They cover each other by a lens of 2 r² acos(d/2r) − d/2 √(4r² − d²), which is a quarter of a
// disc at 25.4 mm; the grid of 3 mm sees it to some per cent.
func TestLimitOfOverlaps(t *testing.T) {
	const r = 20.0
	share := func(d float64) float64 {
		return (2*r*r*math.Acos(d/(2*r)) - d/2*math.Sqrt(4*r*r-d*d)) / (math.Pi * r * r)
	}
	limit := 0.0
	for d := 1.0; d < 2*r; d += 0.01 {
		if share(d) < overlapShare {
			limit = d
			break
		}
	}
	require.InDelta(t, 25.4, limit, 0.1)
	require.Equal(t, "mind", state(drawn(t, nil, disc("a", r, 0, 0), disc("b", r, limit-1.5, 0)), "overlap"))
	require.Empty(t, state(drawn(t, nil, disc("a", r, 0, 0), disc("b", r, limit+1.5, 0)), "overlap"))
	// What is said to stand there is no fault, and neither is what lies on something thin.
	on := disc("b", r, 0, 0)
	on.On = 1
	require.Empty(t, state(drawn(t, nil, disc("a", r, 0, 0), on), "overlap"))
	flat := put("a", math.Pi*r*r*5.9/1000, kitchen.Form{Kind: "cylinder", RadiusMm: r}, 0, 0)
	require.Empty(t, state(drawn(t, nil, flat, disc("b", r, 0, 0)), "overlap"))
	flat.Amount = math.Pi * r * r * 6.1 / 1000
	require.Equal(t, "mind", state(drawn(t, nil, flat, disc("b", r, 0, 0)), "overlap"))
}

// A slate of 60,000 mm²: 12 per cent are 7,200 mm², a disc of 47.9 mm; 85 per cent are a block of 51,000 mm².
func TestLimitsOfCoverage(t *testing.T) {
	require.Equal(t, "mind", state(drawn(t, nil, disc("a", 46.5, 0, 0)), "coverage"))
	require.Equal(t, "good", state(drawn(t, nil, disc("a", 49, 0, 0)), "coverage"))
	block := func(share float64) kitchen.Element {
		w := 60_000 * share / 290
		return put("a", 290*w*10/1000, kitchen.Form{Kind: "block", LengthMm: 290, WidthMm: w}, 0, 0)
	}
	require.Equal(t, "good", state(drawn(t, nil, block(0.83)), "coverage"))
	require.Equal(t, "mind", state(drawn(t, nil, block(0.87)), "coverage"))
	p := drawn(t, nil, block(0.83))
	require.InDelta(t, 0.83, p.Covered, 0.02)
}

// One disc alone: its own place is the centre of weight, and 14 mm are the most without a word.
func TestLimitOfBalance(t *testing.T) {
	require.Equal(t, "good", state(drawn(t, nil, disc("a", 20, 13.8, 0)), "balance"))
	require.Equal(t, "mind", state(drawn(t, nil, disc("a", 20, 14.2, 0)), "balance"))
	for hour, at := range map[int][2]float64{12: {0, -40}, 3: {40, 0}, 6: {0, 40}, 9: {-40, 0}} {
		p := drawn(t, nil, disc("a", 20, at[0], at[1]))
		i := 0
		for k, f := range p.Findings {
			if f.Kind == "balance" {
				i = k
			}
		}
		require.Contains(t, p.Findings[i].Said.Text, fmt.Sprintf("40 mm towards %d o’clock; highest point 10 mm", hour))
	}
	// Two of one weight: the middle between them. Three to one: a quarter of the way.
	require.InDelta(t, 0, drawn(t, nil, disc("a", 20, -50, 0), disc("b", 20, 50, 0)).Centre.X, 0.1)
	require.InDelta(t, -25, drawn(t, nil, disc("a", 20, -50, 0), disc("b", 20/math.Sqrt(3), 50, 0)).Centre.X, 0.2)
}

// Frozen beside hot: under eight millimetres between the outlines of two discs of 20 mm.
func TestLimitOfFrozenBesideHot(t *testing.T) {
	cold, warm := disc("a", 20, 0, 0), disc("b", 20, 47.7, 0)
	cold.Temp, warm.Temp = "frozen", "hot"
	require.Equal(t, "fault", state(drawn(t, nil, cold, warm), "temperature"))
	warm.At.XMm = 48.3
	require.Empty(t, state(drawn(t, nil, cold, warm), "temperature"))
	cold.On = 1
	require.Equal(t, "fault", state(drawn(t, nil, warm, cold), "temperature"), "standing on it is beside it")
	cold.On, warm.Temp, warm.At.XMm = 0, "warm", 45
	require.Empty(t, state(drawn(t, nil, cold, warm), "temperature"), "only what is hot")
}

// A crisp thing on a wet one is soft after six minutes: a stand limit of 360 s is the longest.
func TestLimitOfCrispOnWet(t *testing.T) {
	wet, crisp := put("a", 30, kitchen.Form{Kind: "pool"}, 0, 0), disc("b", 10, 0, 0)
	wet.Textures, crisp.Textures, crisp.On = []kitchen.Texture{"liquid"}, []kitchen.Texture{"crisp"}, 1
	for limit, want := range map[int]string{0: "mind", 1: "good", 360: "good", 361: "mind"} {
		p := drawn(t, func(d *kitchen.Data) { d.Dishes[0].Specification.StandLimitS = limit }, wet, crisp)
		require.Equal(t, want, state(p, "crisp"), limit)
	}
	crisp.On = 0
	require.Empty(t, state(drawn(t, nil, wet, crisp), "crisp"), "beside it is not on it")
}

// A last-moment element is last, or only others of its kind follow.
func TestLastMomentElementsAreLast(t *testing.T) {
	a, b, c := disc("a", 10, -60, 0), disc("b", 10, 0, 0), disc("c", 10, 60, 0)
	b.LastMoment = true
	require.Equal(t, "fault", state(drawn(t, nil, a, b, c), "order"))
	c.LastMoment = true
	require.Empty(t, state(drawn(t, nil, a, b, c), "order"))
}

// Each contrast by itself: what is missing is named, and with all four there is praise.
func TestContrasts(t *testing.T) {
	full := func() kitchen.Element {
		e := disc("a", 10, 0, 0)
		e.Textures, e.Tastes = []kitchen.Texture{"crisp", "soft"}, []kitchen.Taste{"sour", "rich"}
		return e
	}
	require.Equal(t, "good", state(drawn(t, nil, full()), "contrast"))
	for missing, change := range map[string]func(*kitchen.Element){
		"crisp": func(e *kitchen.Element) { e.Textures = e.Textures[1:] },
		"soft":  func(e *kitchen.Element) { e.Textures = e.Textures[:1] },
		"sharp": func(e *kitchen.Element) { e.Tastes = e.Tastes[1:] },
		"rich":  func(e *kitchen.Element) { e.Tastes = e.Tastes[:1] },
	} {
		e := full()
		change(&e)
		p := drawn(t, nil, e)
		require.Equal(t, "mind", state(p, "contrast"), missing)
		require.Contains(t, finding(p, "contrast"), "Nothing "+missing)
	}
	for _, alike := range [][2]string{{"crumbly", "creamy"}, {"crisp", "tender"}} {
		e := full()
		e.Textures = []kitchen.Texture{kitchen.Texture(alike[0]), kitchen.Texture(alike[1])}
		require.Equal(t, "good", state(drawn(t, nil, e), "contrast"), alike)
	}
	for _, taste := range []kitchen.Taste{"savoury", "sweet"} {
		e := full()
		e.Tastes = []kitchen.Taste{"sour", taste}
		require.Equal(t, "good", state(drawn(t, nil, e), "contrast"), taste)
	}
}

// The worst comes first.
func TestFindingsAreRanked(t *testing.T) {
	p := drawn(t, nil, disc("a", 20, 140, 0))
	rank := map[string]int{"fault": 0, "mind": 1, "good": 2}
	for i := 1; i < len(p.Findings); i++ {
		require.LessOrEqual(t, rank[p.Findings[i-1].State], rank[p.Findings[i].State])
	}
	require.Equal(t, "fault", p.Findings[0].State)
}

func TestNothingOnThePlate(t *testing.T) {
	p := drawn(t, nil)
	require.Len(t, p.Findings, 1)
	require.Equal(t, "plate.empty", p.Findings[0].Said.Key)
	require.Zero(t, p.WeightG)
}

// On a round plate the rim is measured along the ray from the middle: a disc on the diagonal of an oval.
func TestRoundAndOvalPlates(t *testing.T) {
	oval := func(d *kitchen.Data) {
		d.Vessels[0] = kitchen.Vessel{ID: "slate", Name: "Oval", Kind: "oval", WidthMm: 300, DepthMm: 200, RimMm: 0, HeightMm: 20}
	}
	require.Empty(t, state(drawn(t, oval, disc("a", 20, 0, 79)), "edge"))
	require.Equal(t, "fault", state(drawn(t, oval, disc("a", 20, 0, 82)), "edge"))
	require.Equal(t, "fault", state(drawn(t, oval, disc("a", 20, 110, 60)), "edge"), "in the corner of the slate, off the oval")
	require.Empty(t, state(drawn(t, nil, disc("a", 20, 110, 60)), "edge"))
}
