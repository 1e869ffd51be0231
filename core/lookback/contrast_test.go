package lookback

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// made are nights of six steps that everybody does, on two ovens by turns, for one to eight portions; how makes one run, written to take
// 300 s and 20 s for a portion. Each night is 4 % off by itself, each run 6 %.
func made(seed uint64, nights int, how func(night, step int, s *RealStep)) []Night {
	rng := rand.New(rand.NewPCG(seed, 99))
	out := make([]Night, nights)
	for i := range out {
		out[i].Date = noon().AddDate(0, 0, i).Format(time.DateOnly)
		pace := 0.04 * rng.NormFloat64()
		for k := range 6 {
			for run := range 4 {
				n := 1 + rng.IntN(8)
				s := RealStep{Task: fmt.Sprint(i, k, run), Component: fmt.Sprint("c", k), Step: "s", What: fmt.Sprint("C", k),
					People: []string{fmt.Sprint("p", k%2)}, On: []string{[]string{"Left oven", "Right oven"}[rng.IntN(2)]}, Portions: n, hands: "none"}
				s.Low, s.Likely, s.High = written(n)
				s.PlannedS = s.Likely
				at := noon()
				long := s.Likely * math.Exp(pace+0.06*rng.NormFloat64())
				s.At, s.RealS = &at, &long
				how(i, k, &s)
				out[i].Steps = append(out[i].Steps, s)
			}
		}
	}
	return out
}

func written(n int) (low, likely, high float64) {
	x := 300 + 20*float64(n)
	return 0.8 * x, x, 1.2 * x
}

func asWritten(_, _ string, n int) (low, likely, high float64, ok bool) {
	low, likely, high = written(n)
	return low, likely, high, true
}

// An oven that is an eighth slower than the other is found by the steps that are done in both, and nothing else is; where there is nothing
// to find, in no more than one record of twenty anything is said. What is always done in one oven says nothing.
func TestASlowOvenIsFound(t *testing.T) {
	found, within, wrong := 0, 0, 0
	for seed := range uint64(40) {
		slow := said(Equipment(made(seed, 8, func(_, _ int, s *RealStep) {
			if s.On[0] == "Left oven" {
				*s.RealS *= 1.125
			}
		}), nil))
		for _, f := range slow {
			require.Equal(t, "equipment", f.Kind)
			require.Equal(t, "Left oven", f.What)
			found++
			if f.Low <= 1.125 && f.High >= 1.125 {
				within++
			}
		}
		wrong += len(said(Equipment(made(seed, 8, func(int, int, *RealStep) {}), nil)))
	}
	require.GreaterOrEqual(t, found, 38)
	require.GreaterOrEqual(t, float64(within), 0.8*float64(found), "the truth is within the interval")
	require.LessOrEqual(t, wrong, 2)
	apart := made(1, 8, func(_, step int, s *RealStep) {
		s.On = []string{[]string{"Left oven", "Right oven"}[step%2]}
		if step%2 == 0 {
			*s.RealS *= 1.5
		}
	})
	require.Empty(t, Equipment(apart, nil), "nothing tells the oven from its steps")
}

// A step that takes a fifth longer in winter is found then, once there are enough services on both sides.
func TestASeasonIsFound(t *testing.T) {
	require.Equal(t, Winter, SeasonOf(time.Date(2026, 12, 1, 0, 0, 0, 0, time.UTC)))
	require.Equal(t, Winter, SeasonOf(time.Date(2026, 2, 28, 0, 0, 0, 0, time.UTC)))
	require.Equal(t, Spring, SeasonOf(time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)))
	require.Equal(t, Autumn, SeasonOf(time.Date(2026, 11, 30, 0, 0, 0, 0, time.UTC)))
	year := func(seed uint64, winter float64, cold int) []Night {
		nights := made(seed, 20, func(night, step int, s *RealStep) {
			if night < cold && step == 2 {
				*s.RealS *= winter
			}
		})
		for i := range nights {
			day := time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)
			if i < cold {
				day = time.Date(2026, 1, 5, 0, 0, 0, 0, time.UTC)
			}
			nights[i].Date = day.AddDate(0, 0, i).Format(time.DateOnly)
		}
		return nights
	}
	found, other := 0, 0
	for seed := range uint64(30) {
		for _, f := range said(Seasons(year(seed, 1.2, 8), nil, Winter)) {
			if f.Component == "c2" && f.Factor > 1.1 && f.Season == Winter {
				found++
			} else {
				other++
			}
		}
		require.Empty(t, said(Seasons(year(seed, 1, 8), nil, Summer)), seed)
	}
	require.GreaterOrEqual(t, found, 28)
	require.LessOrEqual(t, other, 2)
	require.Empty(t, Seasons(year(1, 1.2, leastNights-1), nil, Winter), "too few services in it")
}

// Which part is off is found: a fixed part that is a fifth less and portions that take twice as long; with the truth within the interval.
// Where both are off by the same factor, or nothing is, the parts are not told apart.
func TestPartsAreToldApart(t *testing.T) {
	found, within, wrong := 0, 0, 0
	for seed := range uint64(40) {
		is := func(a, b float64) []Night {
			return made(seed, 8, func(_, step int, s *RealStep) {
				if step == 1 {
					*s.RealS *= (a*300 + b*20*float64(s.Portions)) / s.Likely
				}
			})
		}
		for _, f := range said(PortionTimes(is(0.8, 2), asWritten)) {
			if f.Component != "c1" {
				wrong++
				continue
			}
			found++
			require.Less(t, f.Factor, 1.0)
			require.Greater(t, f.PerPortion, 1.15)
			require.InDelta(t, 300*f.Factor, f.FixedS, 1e-6)
			require.InDelta(t, 20*f.PerPortion, f.PortionS, 1e-6)
			if f.Low <= 0.8 && f.High >= 0.8 {
				within++
			}
		}
		wrong += len(said(PortionTimes(is(1.3, 1.3), asWritten))) + len(said(PortionTimes(is(1, 1), asWritten)))
	}
	require.GreaterOrEqual(t, found, 38)
	require.GreaterOrEqual(t, float64(within), 0.8*float64(found))
	require.LessOrEqual(t, wrong, 4, "of a hundred and twenty records")
	alike := made(1, 8, func(_, _ int, s *RealStep) { s.Portions = 2 })
	require.Empty(t, PortionTimes(alike, asWritten), "always as many")
}
