package lookback

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// Fisher's exact test: the lady tasting tea (all eight right p = 1/70 one-sided, two-sided 2/70; six right 34/70), as in The Design of
// Experiments, 1935 (from memory); both sides of a table are the same.
func TestFishersExactTest(t *testing.T) {
	require.InDelta(t, 2.0/70, fisher(4, 4, 0, 4), 1e-9)
	require.InDelta(t, 34.0/70, fisher(3, 4, 1, 4), 1e-9)
	require.InDelta(t, 1, fisher(2, 4, 2, 4), 1e-9)
	require.InDelta(t, fisher(9, 20, 3, 25), fisher(3, 25, 9, 20), 1e-12)
}

// By hand: two guests, each with a chance of a half. With one portion ready a quarter of a plate is missing in the mean, and a quarter
// thrown away; with none one is missing, with three two are thrown away. What the newsvendor proposes is the cheapest of all.
func TestWhatAReserveCosts(t *testing.T) {
	for ready, want := range map[int][2]float64{0: {1, 0}, 1: {0.25, 0.25}, 2: {0, 1}, 3: {0, 2}} {
		short, over := ReserveCost(2, 0.5, ready)
		require.InDelta(t, want[0], short, 1e-9, ready)
		require.InDelta(t, want[1], over, 1e-9, ready)
	}
	for share, want := range map[float64]float64{0: 5, 1: 0} {
		_, over := ReserveCost(5, share, 5)
		require.InDelta(t, want, over, 1e-9)
	}
	short, over := ReserveCost(0, 0.5, 4)
	require.Zero(t, short)
	require.InDelta(t, 4, over, 1e-9)
	cost := func(ready int) float64 {
		short, over := ReserveCost(46, 0.38, ready)
		return 9*short + over
	}
	best := Reserve(46, 0.38, 9, 1)
	for n := range 47 {
		require.LessOrEqual(t, cost(best), cost(n)+1e-9, n)
	}
}

// A dish that half as many again take on Sundays is found for Sundays alone; with every day alike next to nothing is said.
func TestADayOfTheWeekIsFound(t *testing.T) {
	weeks := func(seed uint64, sunday float64) ([][]Ordered, []time.Weekday) {
		rng := rand.New(rand.NewPCG(seed, 5))
		var nights [][]Ordered
		var days []time.Weekday
		for i := range 35 {
			day := time.Weekday(i % 7)
			share := 0.4
			if day == time.Sunday {
				share *= sunday
			}
			n := 0
			for range 45 {
				if rng.Float64() < share {
					n++
				}
			}
			nights, days = append(nights, []Ordered{{Dish: "roast", What: "Roast", Share: 0.4, Count: n, Of: 45}}), append(days, day)
		}
		return nights, days
	}
	found, other, none := 0, 0, 0
	for seed := range uint64(60) {
		for _, f := range said(DayShares(weeks(seed, 1.5))) {
			if f.Day == 7 && f.Factor > 1 {
				found++
			} else {
				other++
			}
		}
		if len(said(DayShares(weeks(seed, 1)))) > 0 {
			none++
		}
	}
	require.GreaterOrEqual(t, found, 57)
	require.LessOrEqual(t, none, 5)
	require.LessOrEqual(t, other, 24, "of 360 other days, which are the less for it")
	nights, days := weeks(1, 1.5)
	require.Empty(t, DayShares(nights[:21], days[:21]), "three Sundays are too few")
}

func TestAmountsAddUp(t *testing.T) {
	a := Amount{Nights: []DishNight{{Ready: 10, Ordered: 12}, {Ready: 10, Ordered: 7, Thrown: 2}}}
	a.Sum()
	require.Equal(t, 20, a.Ready)
	require.Equal(t, 19, a.Ordered)
	require.Equal(t, 2, a.Short)
	require.Equal(t, 3, a.Over)
	require.Equal(t, 2, a.Thrown)
	require.Equal(t, 3, a.Nights[1].Over)
}
