package heat

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Incropera & DeWitt, Fundamentals of Heat and Mass Transfer, coefficients of the one-term series (from memory), each recomputed from the
// equation of its shape.
func TestCoefficientsOfTheSeries(t *testing.T) {
	for _, x := range []struct {
		shape       Shape
		bi, zeta, c float64
	}{{Slab, 1, 0.8603, 1.1191}, {Cylinder, 1, 1.2558, 1.2071}, {Sphere, 1, 1.5708, 1.2732}, {Slab, 100, 1.5552, 1.2731}, {Cylinder, 100,
		2.3809, 1.6015},
		{Sphere, 100, 3.1102, 1.9990}} {
		z, ok := roots(x.shape, x.bi, 6)
		require.True(t, ok)
		require.InDelta(t, x.zeta, z[0], 6e-5)
		require.InDelta(t, x.c, coefficient(x.shape, z[0]), 6e-5)
		for _, z := range z {
			switch x.shape {
			case Slab:
				require.InDelta(t, x.bi, z*math.Tan(z), 1e-6*x.bi*math.Max(1, z*z))
			case Cylinder:
				require.InDelta(t, x.bi, z*math.J1(z)/math.J0(z), 1e-5*x.bi*math.Max(1, z*z))
			case Sphere:
				require.InDelta(t, x.bi, 1-z/math.Tan(z), 1e-6*x.bi*math.Max(1, z*z))
			}
		}
	}
	_, ok := roots(Ellipsoid, 1, 1)
	require.False(t, ok)
}

// At the start nothing is lost; one term is enough only where Fo is above 0.2 (Incropera & DeWitt).
func TestTermsOfTheSeries(t *testing.T) {
	for _, shape := range []Shape{Slab, Cylinder, Sphere} {
		for _, bi := range []float64{0.1, 1, 10, 100} {
			s, _ := newSeries(shape, bi)
			require.InDelta(t, 1, s.core(1e-3), 5e-3, "%s %v", shape, bi)
			one := func(fo float64) float64 { return s.c[0] * math.Exp(-s.zeta[0]*s.zeta[0]*fo) }
			require.InDelta(t, s.core(0.2), one(0.2), 0.02, "%s %v", shape, bi)
			require.InDelta(t, 0.5, s.core(s.fourier(0.5)), 1e-9)
		}
	}
}

func bath(shape Shape, mm float64) Piece {
	return Piece{Shape: shape, Mm: mm, Food: MeatFood, StartC: 5, TargetC: 56.5, Medium: Bath, MediumC: 57}
}

// byVolumes is a piece's time by finite volumes of so many cells and steps.
func byVolumes(p *Piece, cells int, dt float64) float64 {
	b := NewBody(p.Shape, p.Mm/2000, materials[p.Food], p.StartC, cells)
	before, last, at := p.StartC, 0.0, 0.0
	b.Run([]Stage{{MediumC: p.MediumC, H: surfaces[p.Medium].Likely, Seconds: longest}}, dt, func(s, core, _ float64) bool {
		if core >= p.TargetC {
			at = last + (s-last)*(p.TargetC-before)/(core-before)
			return false
		}
		before, last = core, s
		return true
	})
	return at
}

// Finite volumes and the series say the same within half a per cent, and halving the cells and the steps leaves a quarter of what is
// wrong: the method is of second order.
func TestFiniteVolumesAgainstTheSeries(t *testing.T) {
	for _, shape := range []Shape{Slab, Cylinder, Sphere} {
		p := bath(shape, 30)
		p.TargetC = 50
		want, err := p.Time()
		require.NoError(t, err)
		require.InEpsilon(t, want.Likely, byVolumes(&p, cells, 2), 0.005, string(shape))
		coarse := math.Abs(byVolumes(&p, 8, 8) - want.Likely)
		fine := math.Abs(byVolumes(&p, 16, 4) - want.Likely)
		require.InDelta(t, 4, coarse/fine, 0.8, "%s: %v and %v s", shape, coarse, fine)
	}
}

// Baldwin, A Practical Guide to Sous Vide Cooking, heating times from 5 °C to 0.5 °C below the bath (from memory): rounded up to five
// minutes, and over many foods; within a quarter of what was rounded.
func TestHeatingTimesInAWaterBath(t *testing.T) {
	for _, x := range []struct {
		shape   Shape
		mm, min float64
	}{{Slab, 20, 50}, {Cylinder, 20, 30}, {Sphere, 20, 20}, {Slab, 25, 75}, {Cylinder, 25, 40}, {Sphere, 25, 25}, {Slab, 40, 150},
		{Cylinder, 40, 75}, {Sphere, 40, 55}} {
		p := bath(x.shape, x.mm)
		got, err := p.Time()
		require.NoError(t, err)
		m := got.Likely / 60
		require.Greater(t, m, (x.min-5)*0.75, "%s %v mm", x.shape, x.mm)
		require.Less(t, m, x.min*1.25, "%s %v mm", x.shape, x.mm)
	}
}

// A thin piece in still air is as warm everywhere: Newton's law of cooling, in closed form.
func TestNewtonsLaw(t *testing.T) {
	p := Piece{Shape: Slab, Mm: 2, Food: Liquid, StartC: 80, TargetC: 40, Medium: Bench, MediumC: 20}
	m := materials[Liquid]
	want := m.Capacity.Likely * 0.001 / surfaces[Bench].Likely * math.Log(60.0/20)
	require.InEpsilon(t, want, p.solve(m, surfaces[Bench].Likely, 0), 0.02)
	b := Batch{DepthMm: 2, Food: Liquid, Stirred: true, Medium: Bench, MediumC: 20, FromC: 80}
	got, err := b.Cools(40)
	require.NoError(t, err)
	require.InEpsilon(t, want, got.Likely, 1e-9)
}

// What comes in through the surface is what the body has more.
func TestEnergyIsKept(t *testing.T) {
	for _, shape := range Shapes() {
		m := materials[MeatFood]
		b := NewBody(shape, 0.02, m, 5, cells)
		volume := 0.0
		for _, v := range b.volume {
			volume += v
		}
		st := Stage{MediumC: 60, H: 120, Seconds: 1}
		in := 0.0
		for range 600 {
			before := b.temps[cells-1]
			b.Step(1, &st)
			film := 1 / (1/st.H + b.dr/2/b.conducts)
			in += film * (st.MediumC - (before+b.temps[cells-1])/2) * b.area[cells-1]
		}
		require.InEpsilon(t, in, (b.Mean()-5)*m.Capacity.Likely*volume, 1e-9, string(shape))
	}
}

// Thicker takes longer, hotter is sooner, and low, likely and high stand in that order.
func TestTimesMoveTheRightWay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := Piece{Shape: rapid.SampledFrom(Shapes()).Draw(t, "shape"), Mm: rapid.Float64Range(5, 120).Draw(t, "mm"),
			Food: rapid.SampledFrom(Foods()).Draw(t, "food"), StartC: 5, TargetC: rapid.Float64Range(40, 60).Draw(t, "target"),
			Medium: rapid.SampledFrom([]Medium{Bath, Steam, Boiling}).Draw(t, "medium"), MediumC: rapid.Float64Range(62, 95).Draw(t, "at")}
		x, err := p.Time()
		require.NoError(t, err)
		require.Less(t, x.Low, x.Likely)
		require.Less(t, x.Likely, x.High)
		thicker, hotter := p, p
		thicker.Mm *= 1.1
		hotter.MediumC += 4
		a, err := thicker.Time()
		require.NoError(t, err)
		b, err := hotter.Time()
		require.NoError(t, err)
		require.Greater(t, a.Likely, x.Likely)
		require.Less(t, b.Likely, x.Likely)
	})
}

// A piece's sizes by its weight: a sphere of a litre of water is 124 mm.
func TestThicknessByWeight(t *testing.T) {
	require.InDelta(t, 124.07, ThicknessOf(Sphere, 1000), 0.01)
	require.InDelta(t, 10*math.Cbrt(160.0/16), ThicknessOf(Slab, 160), 1e-9)
	a, b := Piece{Shape: Sphere, Grams: 1000}, Piece{Shape: Sphere, Grams: 1000, Mm: 50}
	require.InDelta(t, 124.07, a.Thickness(), 0.01)
	require.Equal(t, 50.0, b.Thickness(), "what was measured counts")
}

// Sizes of nothing or of metres, and targets that the core never reaches, get a clear word.
func TestPiecesThatCannotBe(t *testing.T) {
	for name, x := range map[string]struct {
		change func(p *Piece)
		want   error
	}{
		"no size":                {func(p *Piece) { p.Mm = 0 }, ErrSize},
		"three metres":           {func(p *Piece) { p.Mm = 3000 }, ErrSize},
		"half a millimetre":      {func(p *Piece) { p.Mm = 0.9 }, ErrSize},
		"a negative size":        {func(p *Piece) { p.Mm = -20 }, ErrSize},
		"no number":              {func(p *Piece) { p.Mm = math.NaN() }, ErrSize},
		"an ox":                  {func(p *Piece) { p.Mm, p.Grams = 0, 400_000 }, ErrWeight},
		"a shape of its own":     {func(p *Piece) { p.Shape = "star" }, ErrKind},
		"a food of its own":      {func(p *Piece) { p.Food = "gold" }, ErrKind},
		"a medium of its own":    {func(p *Piece) { p.Medium = "sun" }, ErrKind},
		"target above medium":    {func(p *Piece) { p.TargetC = 58 }, ErrBeyond},
		"target at the medium":   {func(p *Piece) { p.TargetC = 56.9 }, ErrBeyond},
		"target below the start": {func(p *Piece) { p.TargetC = 4 }, ErrBeyond},
		"a forge":                {func(p *Piece) { p.MediumC = 351 }, ErrRange},
		"no temperature":         {func(p *Piece) { p.MediumC = math.NaN() }, ErrRange},
		"cooling upwards":        {func(p *Piece) { p.MediumC = 2; p.TargetC = 6 }, ErrBeyond},
	} {
		p := bath(Slab, 25)
		x.change(&p)
		_, err := p.Time()
		require.ErrorIs(t, err, x.want, name)
		_, err = p.TakeOut(Bench, 22)
		require.Error(t, err, name)
	}
	least, most := bath(Slab, LeastMm), bath(Slab, MostMm)
	_, err := least.Time()
	require.NoError(t, err)
	_, err = most.Time()
	require.NoError(t, err)
}

// The core goes on rising: nothing in a bath, a little in a fillet, more in a joint from a hot oven than from a cool one; and it comes to
// the target. Usual rises are 0 °C from a bath, 2–4 a portion, 5–8 a joint: common practice, no source.
func TestCarryOver(t *testing.T) {
	rise := func(p Piece) float64 {
		d, err := p.TakeOut(Foil, 22)
		require.NoError(t, err)
		require.InDelta(t, p.TargetC, d.OutC+d.RiseC, 0.5)
		require.Positive(t, d.OutS)
		return d.RiseC
	}
	require.Less(t, rise(bath(Cylinder, 40)), 0.5)
	fillet := rise(Piece{Shape: Slab, Mm: 25, Food: FishFood, StartC: 5, TargetC: 52, Medium: FanOven, MediumC: 180})
	require.Greater(t, fillet, 2.0)
	require.Less(t, fillet, 5.0)
	joint := Piece{Shape: Cylinder, Mm: 90, Food: MeatFood, StartC: 10, TargetC: 54, Medium: FanOven, MediumC: 120}
	slow := rise(joint)
	require.Greater(t, slow, 4.0)
	require.Less(t, slow, 9.0)
	joint.MediumC = 180
	require.Greater(t, rise(joint), slow)
}
