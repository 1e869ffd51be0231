package heat

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// The FSA's pairs (60 °C 45 min, 65 °C 10 min, 70 °C 2 min, 75 °C 30 s, 80 °C 6 s; from memory) are those of z = 7.5 °C, rounded up.
func TestTheUKsPairs(t *testing.T) {
	for _, x := range []struct{ c, computed, published float64 }{{60, 43.1 * 60, 45 * 60}, {65, 9.28 * 60, 600}, {70, 120, 120}, {75, 25.9,
		30}, {80, 5.57, 6}} {
		got := KillUK.Holds(x.c)
		require.InEpsilon(t, x.computed, got, 0.01)
		require.LessOrEqual(t, got, x.published)
		require.Greater(t, got, 0.8*x.published)
	}
	require.True(t, math.IsInf(KillUK.Holds(59.9), 1), "below 60 °C no equal is given")
}

// FDA Food Code 2022, 3-401.11(B), whole roasts (from memory): the straight line through the logarithms has a z near 5.8 °C; what it leaves
// is less than a fifth.
func TestTheFDAsRoasts(t *testing.T) {
	table := []Reading{{112, 54.4}, {89, 55.0}, {56, 56.1}, {36, 57.2}, {28, 57.8}, {18, 58.9}, {12, 60.0}, {8, 61.1}, {5, 62.2}, {4, 62.8}}
	var n, x, y, xx, xy float64
	for _, r := range table {
		l := math.Log10(r.S)
		n, x, y, xx, xy = n+1, x+r.C, y+l, xx+r.C*r.C, xy+r.C*l
	}
	slope := (n*xy - x*y) / (n*xx - x*x)
	z := -1 / slope
	t.Logf("z = %.2f °C", z)
	require.InDelta(t, KillFDA.Z, z, 0.2)
	for _, r := range table {
		left := KillFDA.Holds(r.C)/60/r.S - 1
		t.Logf("%.1f °C: published %v min, computed %.1f", r.C, r.S, KillFDA.Holds(r.C)/60)
		require.Less(t, math.Abs(left), 0.2)
	}
}

// A history is worth the sum of its parts; below what counts it is worth nothing; the instant at which it is enough is found within it.
func TestWhatAHistoryIsWorth(t *testing.T) {
	flat := []Reading{{0, 70}, {60, 70}, {120, 70}, {180, 70}}
	require.InDelta(t, 180, KillUK.Worth(flat), 1e-9)
	at, ok := KillUK.Enough(flat)
	require.True(t, ok)
	require.InDelta(t, 120, at, 1e-9)
	_, ok = KillUK.Enough(flat[:2])
	require.False(t, ok)
	require.Zero(t, KillUK.Worth([]Reading{{0, 20}, {3600, 59.9}}))
	require.InDelta(t, KillUK.Seconds, KillUK.Worth([]Reading{{0, 65}, {KillUK.Holds(65), 65}}), 1e-6)
	up := []Reading{{0, 60}, {600, 75}}
	k := KillUK.Z / math.Ln10
	want := 600.0 / 15 * k * (math.Pow(10, 5/KillUK.Z) - math.Pow(10, -10/KillUK.Z))
	require.InEpsilon(t, want, KillUK.Worth(up), 0.001, "the integral of a straight rise, in closed form")
}

// played are the readings of a probe in a piece that takes so much longer than computed, every twenty seconds, with the noise of a good
// probe.
func played(p *Piece, factor, until float64, seed uint64) (out []Reading, truth float64) {
	rng := rand.New(rand.NewPCG(seed, 1))
	c := p.curve()
	for s := 0.0; s <= until; s += 20 {
		out = append(out, Reading{s, c.at(s/factor) + rng.NormFloat64()*0.15})
	}
	return out, c.when(p.TargetC) * factor
}

// The forecast of a probe is right within what it says, two times of three and far more often within twice that, and better each minute.
func TestTheForecastOfAProbe(t *testing.T) {
	p := Piece{Shape: Cylinder, Mm: 50, Food: MeatFood, StartC: 8, TargetC: 54, Medium: FanOven, MediumC: 180}
	within, twice, all := 0, 0, 0
	var early, late float64
	for seed := range uint64(40) {
		for _, factor := range []float64{0.8, 1, 1.3} {
			for _, share := range []float64{0.35, 0.8} {
				_, truth := played(&p, factor, 0, seed)
				r, _ := played(&p, factor, truth*share, seed)
				f, err := p.Probe(r, r[len(r)-1].S)
				require.NoError(t, err)
				miss := math.Abs(f.S - truth)
				all++
				if miss <= f.Error {
					within++
				}
				if miss <= 2*f.Error {
					twice++
				}
				if share < 0.5 {
					early += miss
				} else {
					late += miss
				}
				require.InDelta(t, factor, f.Factor, 0.1)
			}
		}
	}
	require.Greater(t, float64(within)/float64(all), 0.6)
	require.Greater(t, float64(twice)/float64(all), 0.9)
	require.Less(t, late, early/2)
}

// A probe that says too little, jumps, falls or goes silent gets a clear word.
func TestReadingsThatCannotBe(t *testing.T) {
	p := Piece{Shape: Cylinder, Mm: 50, Food: MeatFood, StartC: 8, TargetC: 54, Medium: FanOven, MediumC: 180}
	good, _ := played(&p, 1, 600, 1)
	last := good[len(good)-1].S
	_, err := p.Probe(good, last+120)
	require.NoError(t, err)
	_, err = p.Probe(good, last+121)
	require.ErrorIs(t, err, ErrSilent)
	_, err = p.Probe(nil, 0)
	require.ErrorIs(t, err, ErrSilent)
	_, err = p.Probe(good[:6], 100)
	require.ErrorIs(t, err, ErrFew, "100 s are not two minutes")
	_, err = p.Probe(good[:7], 120)
	require.NoError(t, err)
	_, err = p.Probe([]Reading{good[0], good[5], good[10]}, 200)
	require.ErrorIs(t, err, ErrFew)
	jumped := append([]Reading{}, good...)
	jumped[15].C += 6
	_, err = p.Probe(jumped, last)
	require.ErrorIs(t, err, ErrJumps)
	falling := append([]Reading{}, good...)
	for i := range 8 {
		falling = append(falling, Reading{last + 20*float64(i+1), good[len(good)-1].C - float64(i)})
	}
	_, err = p.Probe(falling, last+160)
	require.ErrorIs(t, err, ErrFalls)
}

// A sauce on a warm plate stays hot longer than on a cold one, under a lamp longer still, covered longest; what the food loses the plate
// and the air have got.
func TestHowLongAPlateIsHot(t *testing.T) {
	s := Served{Grams: 40, AreaM2: 0.004, TouchM2: 0.004, FoodC: 80, PlateG: porcelain.Share(0.004), PlateC: 22, AirC: 24}
	cold := s.Cools(55)
	s.PlateC = 65
	warm := s.Cools(55)
	require.Greater(t, warm, 1.4*cold)
	s.LampW = 600
	lamp := s.Cools(55)
	require.Greater(t, lamp, warm)
	s.LampW, s.Covered = 0, true
	require.Greater(t, s.Cools(55), warm)
	s.Covered = false
	require.Zero(t, s.Cools(81))
	s.AirC = 60
	require.Equal(t, 3*3600.0, s.Cools(55), "warm air never lets it get colder")
	s.AirC, s.PlateC = 24, 22
	food, plate, air := s.FoodC, s.PlateC, 0.0
	for range 1200 {
		a, b := s.slopes(food, plate)
		toAir := openH*s.AreaM2*(food-s.AirC) + plateH*2*s.PlateG/1000/porcelain.KgPerM2*(plate-s.AirC)
		require.InDelta(t, 0, a*s.Grams/1000*foodJ+b*s.PlateG/1000*porcelain.J+toAir, 1e-9)
		food, plate = food+a*0.1, plate+b*0.1
		air += toAir * 0.1
	}
	had := s.Grams / 1000 * foodJ * (s.FoodC - food)
	require.InEpsilon(t, had, air+s.PlateG/1000*porcelain.J*(plate-s.PlateC), 1e-9)
}

// Two trays cool far sooner than one: a stirred one in half the time (Newton), one that is not in less.
func TestDivideIntoTwoTrays(t *testing.T) {
	b := Batch{DepthMm: 80, Food: Liquid, Stirred: true, Medium: Chiller, MediumC: 2, FromC: 85}
	one, err := b.Cools(8)
	require.NoError(t, err)
	two, err := b.Divided(2).Cools(8)
	require.NoError(t, err)
	require.InEpsilon(t, one.Likely/2, two.Likely, 1e-9)
	b.Stirred, b.Food = false, RootFood
	one, err = b.Cools(8)
	require.NoError(t, err)
	two, err = b.Divided(2).Cools(8)
	require.NoError(t, err)
	require.Less(t, two.Likely, one.Likely/2)
	_, err = b.Cools(1)
	require.ErrorIs(t, err, ErrBeyond)
}

// °F and gas marks: 350 °F is 177 °C by definition; gas 4 is 180 °C, between 3 and 4 lies between (common practice, no source).
func TestOvenHabits(t *testing.T) {
	require.InDelta(t, 176.67, FromF(350), 0.01)
	require.InDelta(t, 350, ToF(FromF(350)), 1e-9)
	c, ok := FromGas(4)
	require.True(t, ok)
	require.Equal(t, 180.0, c)
	c, _ = FromGas(3.5)
	require.Equal(t, 170.0, c)
	c, _ = FromGas(0.5)
	require.Equal(t, 120.0, c)
	mark, ok := ToGas(184)
	require.True(t, ok)
	require.Equal(t, 4.0, mark)
	mark, _ = ToGas(185)
	require.Equal(t, 4.0, mark, "the lower of two as near")
	_, ok = ToGas(270.1)
	require.False(t, ok)
	mark, ok = ToGas(270)
	require.True(t, ok)
	require.Equal(t, 10.0, mark)
	_, ok = FromGas(11)
	require.False(t, ok)
	_, ok = FromGas(-1)
	require.False(t, ok)
}
