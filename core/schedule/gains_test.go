package schedule

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
)

// What is told of a large search says what each neighbourhood has won: their rounds are those that are used up, what they have won
// together comes down from the first schedule to the best of each of the two searches, and nothing of it goes back.
func TestWhatEachNeighbourhoodHasWon(t *testing.T) {
	n := instances.Nights()[1]
	n.Tables /= 2
	var first, last Progress
	var gains []Gain
	s := Solve(context.Background(), n.Evening(3), Options{Seed: 2, Rounds: shared + 1000, Progress: func(p Progress) {
		if first.Cost == 0 {
			first = p
		}
		var rounds int64
		names := map[string]bool{}
		for i, g := range p.Gains {
			require.False(t, names[g.Neighbourhood], g.Neighbourhood)
			names[g.Neighbourhood] = true
			require.LessOrEqual(t, g.Taken, g.Rounds, g.Neighbourhood)
			require.GreaterOrEqual(t, g.Won, int64(0), g.Neighbourhood)
			if g.Neighbourhood != bestTimes {
				rounds += g.Rounds
			}
			if len(gains) > 0 {
				require.GreaterOrEqual(t, g.Rounds, gains[i].Rounds, g.Neighbourhood)
				require.GreaterOrEqual(t, g.Won, gains[i].Won, g.Neighbourhood)
			}
		}
		require.Equal(t, p.Rounds, rounds)
		last, gains = p, append(gains[:0], p.Gains...)
	}})
	require.Len(t, gains, len(operators())+2)
	won := int64(0)
	for _, g := range gains {
		require.NotEmpty(t, g.Neighbourhood)
		won += g.Won
	}
	fell := first.Cost - last.Cost
	require.Positive(t, fell)
	require.GreaterOrEqual(t, won, fell, "each step down is one's")
	require.LessOrEqual(t, won, int64(workers)*fell, "of both searches")
	require.LessOrEqual(t, *s.Cost, last.Cost)
	for _, name := range []string{"alone", bestTimes} {
		for _, g := range gains {
			if g.Neighbourhood == name {
				require.Positive(t, g.Taken, name)
			}
		}
	}
}

// A bound that is looked for beside the search is told as soon as it is there, and what comes out is the same.
func TestABoundIsToldBesideTheSearch(t *testing.T) {
	n := instances.Nights()[0]
	n.Tables /= 3
	told, beside := []int64{0}, false
	o := Options{Seed: 1, Rounds: 3 * manyRounds}
	quiet := Solve(context.Background(), n.Evening(5), o)
	o.Progress = func(p Progress) {
		require.LessOrEqual(t, p.Bound, p.Cost)
		require.GreaterOrEqual(t, p.Bound, told[len(told)-1])
		told = append(told, p.Bound)
		if beside = beside || p.Bound > 0 && p.Rounds < int64(o.Rounds); !beside && p.Rounds > int64(o.Rounds)/2 {
			time.Sleep(100 * time.Millisecond) // it is being looked for: the search waits for it here
		}
	}
	s := Solve(context.Background(), n.Evening(5), o)
	require.Equal(t, quiet.Tasks, s.Tasks)
	require.Equal(t, *quiet.LowerBound, *s.LowerBound)
	require.True(t, beside, "told before the search is over")
	require.Zero(t, told[1], "nothing is proved at first")
	require.Positive(t, *s.LowerBound)
	require.Equal(t, *s.LowerBound, told[len(told)-1])
}
