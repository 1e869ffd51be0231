package lookback

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/simulate"
)

// Closed forms: the estimate is the mean of the nights, weighed against what is written by their variances (normal–normal); many nights
// alone decide; no difference has a chance of one.
func TestAnEstimateIsDrawnTowardsWhatIsWritten(t *testing.T) {
	const spread = 0.05
	nights := []float64{0.15, 0.25, 0.2, 0.2}
	variance := (0.05*0.05*2 + spreadWeight*spread*spread) / (3 + spreadWeight)
	se2 := variance/4 + modelSD*modelSD
	e := drawn(nights, spread)
	require.InDelta(t, 0.2*writtenSD*writtenSD/(writtenSD*writtenSD+se2), e.mean, 1e-12)
	require.InDelta(t, math.Sqrt(1/(1/se2+1/(writtenSD*writtenSD))), e.sd, 1e-12)
	many := make([]float64, 4000)
	for i := range many {
		many[i] = 0.2
	}
	require.InDelta(t, 0.2, drawn(many, spread).mean, 1e-3)
	require.InDelta(t, 1, drawn([]float64{-0.1, 0.1, 0.05, -0.05}, spread).p, 1e-9)
	require.Less(t, drawn(nights, spread).p, 0.01)
}

// With normal nights the interval holds the truth in nine cases of ten, whatever the spread, a little oftener where nights are few.
func TestIntervalsHoldOnNormalNights(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	for _, n := range []int{8, 20} {
		for _, spread := range []float64{0.06, 0.12} {
			in := 0
			for range 4000 {
				truth := writtenSD * rng.NormFloat64()
				nights := make([]float64, n)
				for i := range nights {
					nights[i] = truth + spread*rng.NormFloat64()
				}
				low, high := drawn(nights, spread).interval(n)
				if math.Exp(truth) >= low && math.Exp(truth) <= high {
					in++
				}
			}
			require.InDelta(t, 0.90, float64(in)/4000, 0.03, "%d nights, %v", n, spread)
		}
	}
}

// On played nights whose truth is known the intervals hold it in 90 ± 3 of a hundred cases.
func TestIntervalsHoldOnPlayedNights(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	keys := map[string]bool{}
	for _, r := range evening().plan.Runs {
		keys[r.Component+"/"+r.Step] = true
	}
	names := sorted(keys)
	in, all := 0, 0
	for s := range uint64(40) {
		set := simulate.Usual().AsOrdered()
		step := names[rng.IntN(len(names))]
		truth := math.Exp(writtenSD * rng.NormFloat64())
		set.Steps = map[string]float64{step: truth}
		for _, f := range Learn(record(1000*s+3, 8, set), nil) {
			is := 1.0
			if f.Component+"/"+f.Step == step {
				is = truth
			}
			if f.Kind == "step" {
				all++
				if is >= f.Low && is <= f.High {
					in++
				}
			}
		}
	}
	t.Logf("%d of %d intervals hold the truth", in, all)
	require.Greater(t, all, 1000)
	require.InDelta(t, 0.90, float64(in)/float64(all), 0.03, "%d of %d", in, all)
}

// Where what is written is right, next to nothing is said: over a hundred records of eight nights in no more than one of twenty. Where a
// step is slower than written and somebody quicker, both are found, and of all that is said no more than one in twenty is something else.
func TestFalseClaims(t *testing.T) {
	wrong, beside := 0, 0
	for s := range uint64(100) {
		nights := record(1000*s+7, 8, simulate.Usual().AsOrdered())
		if len(said(Learn(nights, nil))) > 0 {
			wrong++
		}
		now := bookWritten()
		if len(said(Equipment(nights, now)))+len(said(PortionTimes(nights, now))) > 0 {
			beside++
		}
	}
	t.Logf("of 100 records in which there is nothing to find something is said of steps and people in %d, of equipment and parts in %d", wrong,
		beside)
	require.LessOrEqual(t, wrong, 5, "of 100 records in which there is nothing to find")
	require.LessOrEqual(t, beside, 5, "of 100 records in which there is nothing to find")
	slow, quick, other := 0, 0, 0
	for s := range uint64(60) {
		for _, f := range said(Learn(record(1000*s+7, 8, truth()), nil)) {
			switch {
			case f.Kind == "step" && f.Component == "baked-celeriac" && f.Step == "heat" && f.Factor > 1:
				slow++
			case f.Kind == "person" && f.What == "Oluwa" && f.Factor < 1:
				quick++
			default:
				other++
			}
		}
	}
	t.Logf("the slow step is found %d times of 60, the quick person %d times, and %d other things are said", slow, quick, other)
	require.GreaterOrEqual(t, slow, 58)
	require.GreaterOrEqual(t, quick, 56)
	require.LessOrEqual(t, float64(other), 0.05*float64(slow+quick+other))
}

// bookWritten are the times that are written in the demo's book.
func bookWritten() Written {
	book := evening().evening.Book()
	return func(component, step string, portions int) (low, likely, high float64, ok bool) {
		c, there := book.Component(component)
		if !there || c.StepIndex(step) < 0 {
			return 0, 0, 0, false
		}
		x := c.Steps[c.StepIndex(step)].Time.For(portions)
		return float64(x.Low), float64(x.Likely), float64(x.High), true
	}
}

// A step that takes a quarter longer is found within five nights, one that takes a seventh longer within six.
func TestHowSoonAShiftIsFound(t *testing.T) {
	for _, c := range []struct {
		factor float64
		nights int
	}{{1.25, 5}, {1.15, 6}} {
		found := 0
		for s := range uint64(30) {
			set := simulate.Usual().AsOrdered()
			set.Steps = map[string]float64{"baked-celeriac/heat": c.factor}
			for _, f := range said(Learn(record(1000*s+7, c.nights, set), nil)) {
				if f.Component == "baked-celeriac" && f.Step == "heat" {
					found++
				}
			}
		}
		t.Logf("× %v is found %d times of 30 within %d nights", c.factor, found, c.nights)
		require.GreaterOrEqual(t, found, 27, "× %v within %d nights", c.factor, c.nights)
	}
}

// What is written now counts, not what was written then: once the time that the record says is written, there is nothing more to say of it.
func TestWhatIsWrittenNowCounts(t *testing.T) {
	nights := record(7, 8, truth())
	before := said(Learn(nights, nil))
	factor := 0.0
	for _, f := range before {
		if f.Component == "baked-celeriac" && f.Step == "heat" {
			factor = f.Factor
		}
	}
	require.Greater(t, factor, 1.2)
	now := func(component, step string, portions int) (low, likely, high float64, ok bool) {
		for i := range nights[0].Steps {
			if s := &nights[0].Steps[i]; s.Component == component && s.Step == step && s.Portions == portions {
				x := 1.0
				if component == "baked-celeriac" && step == "heat" {
					x = factor
				}
				return x * s.Low, x * s.Likely, x * s.High, true
			}
		}
		return 0, 0, 0, false
	}
	for _, f := range said(Learn(nights, now)) {
		require.NotEqual(t, "baked-celeriac", f.Component)
	}
	require.Empty(t, Learn(nights, func(string, string, int) (float64, float64, float64, bool) { return 0, 0, 0, false }),
		"nothing of it is in the book")
}

// The step-up of Benjamini and Hochberg: the largest k with p(k) ≤ k/m · q, and all before it (their example of fifteen, from memory).
func TestWhichAreSaid(t *testing.T) {
	p := []float64{0.0001, 0.0004, 0.0019, 0.0095, 0.0201, 0.0278, 0.0298, 0.0344, 0.0459, 0.3240, 0.4262, 0.5719, 0.6528, 0.7590, 1.0000}
	list := make([]Evidence, len(p))
	for i := range p {
		list[i] = Evidence{P: p[len(p)-1-i], Factor: 2}
	}
	decide(list)
	require.Len(t, said(list), 4)
	for i := range list {
		list[i].Factor = 1 + worthSaying - 0.001
	}
	decide(list)
	require.Empty(t, said(list), "more than chance, and not worth saying")
	decide(nil)
}

func TestOutliersAreLeftOut(t *testing.T) {
	s := &seen{by: map[int][]ratio{}}
	for night := range 4 {
		for k := range 5 {
			s.add(night, ratio{y: 0.02 * float64(k-2)})
		}
	}
	s.add(2, ratio{y: 3}) // somebody forgot to say that it was done
	got := s.medians(func(int, string) float64 { return 0 })
	require.Len(t, got, 4)
	require.Equal(t, 1, s.leftOut)
	for _, y := range got {
		require.InDelta(t, 0, y, 1e-12)
	}
	require.Equal(t, 21, s.count)
}

// Shares: the exact test against a sum by hand, the beta–binomial mean, and what is too little to say.
func TestSharesThatLearn(t *testing.T) {
	// Eight of ten where half is expected: 2 · (45 + 10 + 1) / 1024.
	require.InDelta(t, 2*56.0/1024, exactly(8, 10, 0.5), 1e-12)
	require.InDelta(t, 2*56.0/1024, exactly(2, 10, 0.5), 1e-12)
	require.InDelta(t, 1, exactly(5, 10, 0.5), 1e-12)
	night := func(a, b int) []Ordered {
		return []Ordered{{Dish: "a", What: "A", Share: 0.5, Count: a, Of: a + b}, {Dish: "b", What: "B", Share: 0.5, Count: b, Of: a + b},
			{Dish: "all", Share: 1, Count: a + b, Of: a + b}}
	}
	even := [][]Ordered{night(20, 20), night(21, 19), night(19, 21), night(20, 20)}
	require.Empty(t, said(Shares(even)))
	require.Len(t, Shares(even), 2, "what everybody takes has no share")
	more := [][]Ordered{night(30, 10), night(28, 12), night(31, 9), night(29, 11)}
	list := said(Shares(more))
	require.Len(t, list, 2)
	a := list[0]
	if a.Component != "a" {
		a = list[1]
	}
	require.InDelta(t, (writtenPlates*0.5+118)/(writtenPlates+160)/0.5, a.Factor, 1e-12)
	require.Less(t, a.Low, a.Factor)
	require.Greater(t, a.High, a.Factor)
	require.Empty(t, Shares(more[:3]), "too few services")
}

// As many as make one more cost as much thrown away as it saves: at even costs the median of what is ordered, and no fewer where what is
// missing costs more.
func TestHowMuchInReserve(t *testing.T) {
	require.Equal(t, 5, Reserve(10, 0.5, 1, 1))
	require.Equal(t, 7, Reserve(10, 0.5, 9, 1)) // 0.945 of the nights are below eight, 0.828 below seven
	require.Equal(t, 3, Reserve(10, 0.5, 1, 9))
	require.Zero(t, Reserve(0, 0.5, 1, 1))
	require.Zero(t, Reserve(10, 0, 1, 1))
	require.Equal(t, 10, Reserve(10, 1, 1, 1))
	last := 0
	for short := 0.5; short < 50; short *= 2 {
		n := Reserve(46, 0.38, short, 1)
		require.GreaterOrEqual(t, n, last)
		last = n
	}
	require.Greater(t, last, 46*38/100)
}
