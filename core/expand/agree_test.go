package expand_test

import (
	"context"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
)

// A table by itself and an evening that has no other table have one plan, whether everything can be kept or not: small tables
// drawn at random, with one oven at two heats, solved to proof both ways.
func TestATableAndAnEveningAgree(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 5))
	kept, broken := 0, 0
	for range 60 {
		var cs []kitchen.Component
		var es []kitchen.Element
		for k := range 2 + rng.IntN(2) {
			s := inOven(pick("s", kitchen.None, 300+rng.IntN(900)), []float64{180, 220}[rng.IntN(2)])
			s.Equipment.Units = 1 + rng.IntN(2)
			if rng.IntN(3) == 0 {
				s = pick("s", kitchen.Both, 60+rng.IntN(200))
			}
			c := kitchen.Component{ID: string(rune('x' + k)), Hold: kitchen.Wait{Longest: seconds(rng.IntN(400))}, Steps: []kitchen.Step{s}}
			if rng.IntN(2) == 0 {
				c.Hold.Best = seconds(*c.Hold.Longest / 2)
			}
			cs = append(cs, c)
			es = append(es, kitchen.Element{Component: c.ID, Seconds: 5 + rng.IntN(20)})
		}
		d := served(cs, es, table("a", 2, 19*60))
		_, whole, _ := evening(t, d, true)
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		f, err := expand.NewSoftFiring(b, expand.Table{ID: "a/main", Orders: []expand.Order{{Dish: "dish", Count: 2}}, At: at(14, 19, 0)})
		require.NoError(t, err)
		require.NoError(t, workload.Check(f.Workload))
		alone := schedule.Solve(context.Background(), f.Workload, schedule.Options{Seed: 1, Rounds: 4000})
		if whole.Status != workload.Optimal || alone.Status != workload.Optimal {
			continue
		}
		require.Equal(t, *whole.Cost, *alone.Cost)
		hard, err := expand.NewFiring(b, expand.Table{ID: "a/main", Orders: []expand.Order{{Dish: "dish", Count: 2}}, At: at(14, 19, 0)})
		require.NoError(t, err)
		h := schedule.Solve(context.Background(), hard.Workload, schedule.Options{Seed: 1, Rounds: 4000})
		if over := f.Read(alone).Overdue(); len(over) > 0 {
			broken++
			continue
		}
		kept++
		if h.Status == workload.Optimal {
			require.LessOrEqual(t, *h.Cost, *alone.Cost, "what is forbidden costs nothing, and where nothing is late neither does the clock")
		}
	}
	require.Greater(t, kept, 5)
	require.Greater(t, broken, 5)
}
