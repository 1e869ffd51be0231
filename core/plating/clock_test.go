package plating

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func same(n int, jobs ...Job) [][]Job {
	out := make([][]Job, n)
	for i := range out {
		out[i] = jobs
	}
	return out
}

// Worked by hand: one plate, one pair of hands. Sauce 8 s, potato 9, beet 10, fish 7:
// done after 34 s; the fish goes on 7 s before that, beet 17, potato 26, sauce 34.
func TestOnePlateOneHand(t *testing.T) {
	c, err := NewClock(same(1, Job{"sauce", 8, 1}, Job{"potato", 9, 1}, Job{"beet", 10, 1}, Job{"fish", 7, 1}), 1)
	require.NoError(t, err)
	require.Equal(t, 34, c.Seconds)
	require.True(t, c.Exact)
	require.Equal(t, map[string]int{"sauce": 0, "potato": 8, "beet": 17, "fish": 27}, c.First)
	require.Equal(t, 7, c.Lead("fish"))
}

// Worked by hand: two plates, two people, four elements of 8, 9, 10 and 7 s. Each
// takes a plate: 34 s, everything needed as for one plate.
func TestTwoPlatesTwoHands(t *testing.T) {
	c, err := NewClock(same(2, Job{"sauce", 8, 1}, Job{"potato", 9, 1}, Job{"beet", 10, 1}, Job{"fish", 7, 1}), 2)
	require.NoError(t, err)
	require.Equal(t, 34, c.Seconds)
	require.Equal(t, 27, c.First["fish"])
}

// Worked by hand: three plates of a (4 s) and b (2 s), two people. Total work 18 s,
// so at least 9 s. a1 and a2 run 0–4, then a3 and b1 start: a3 4–8, b1 4–6, b2 6–8,
// b3 8–10: 10 s. 9 s would need both people busy throughout: b2 and b3 cannot both
// follow without a gap, since a3 starts at 4 at the earliest, ends at 8, and b3
// ends at 10. So 10 is the shortest.
func TestBoundFromWorkIsNotAlwaysReached(t *testing.T) {
	c, err := NewClock(same(3, Job{"a", 4, 1}, Job{"b", 2, 1}), 2)
	require.NoError(t, err)
	require.Equal(t, 10, c.Seconds)
	require.True(t, c.Exact)
}

func TestTwoPeopleForOneElement(t *testing.T) {
	c, err := NewClock(same(2, Job{"carve", 10, 2}, Job{"sauce", 5, 1}), 2)
	require.NoError(t, err)
	// carve 0–10, carve 10–20, sauces 20–25 side by side.
	require.Equal(t, 25, c.Seconds)
	_, err = NewClock(same(1, Job{"carve", 10, 2}), 1)
	require.ErrorContains(t, err, "takes 2 people at once")
}

// exhaustive is the naive twin: every order of starts, no bound, no symmetry.
func exhaustive(plates [][]Job, hands int) int {
	best := 1 << 30
	next, ready := make([]int, len(plates)), make([]int, len(plates))
	var visit func(free []int, done int)
	visit = func(free []int, done int) {
		all := true
		for p := range plates {
			if next[p] == len(plates[p]) {
				continue
			}
			all = false
			j := plates[p][next[p]]
			// Every choice of hands.
			for mask := 1; mask < 1<<hands; mask++ {
				at, n := ready[p], 0
				for h := range hands {
					if mask>>h&1 == 1 {
						n++
						at = max(at, free[h])
					}
				}
				if n != j.Hands {
					continue
				}
				f := append([]int(nil), free...)
				for h := range hands {
					if mask>>h&1 == 1 {
						f[h] = at + j.Seconds
					}
				}
				r := ready[p]
				next[p]++
				ready[p] = at + j.Seconds
				visit(f, max(done, at+j.Seconds))
				next[p]--
				ready[p] = r
			}
		}
		if all {
			best = min(best, done)
		}
	}
	visit(make([]int, hands), 0)
	return best
}

// The clock is exact for small cases (against exhaustive search), its times are
// possible, and nothing starts later than it must.
func TestClockAgainstExhaustiveSearch(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		hands := rapid.IntRange(1, 2).Draw(t, "hands")
		var plates [][]Job
		for p := range rapid.IntRange(1, 3).Draw(t, "plates") {
			var jobs []Job
			for e := range rapid.IntRange(1, 2).Draw(t, "elements") {
				jobs = append(jobs, Job{string(rune('a' + e + 3*p%2)), rapid.IntRange(1, 9).Draw(t, "seconds"),
					rapid.IntRange(1, hands).Draw(t, "hands")})
			}
			plates = append(plates, jobs)
		}
		c, err := NewClock(plates, hands)
		require.NoError(t, err)
		require.True(t, c.Exact)
		require.Equal(t, exhaustive(plates, hands), c.Seconds)
		possible(t, plates, hands, c)
	})
}

// A large table is still possible and at least as quick as its bound allows.
func TestLargeTableIsPossible(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		hands := rapid.IntRange(2, 4).Draw(t, "hands")
		jobs := []Job{{"a", 8, 1}, {"b", rapid.IntRange(1, 20).Draw(t, "b"), 2}, {"c", 5, 1}, {"d", 7, 1}, {"e", 3, 1}}
		plates := same(rapid.IntRange(4, 12).Draw(t, "plates"), jobs...)
		c, err := NewClock(plates, hands)
		require.NoError(t, err)
		possible(t, plates, hands, c)
	})
}

func possible(t require.TestingT, plates [][]Job, hands int, c Clock) {
	busy := make([]int, c.Seconds)
	end := 0
	for p, plate := range plates {
		at := 0
		for e, j := range plate {
			require.GreaterOrEqual(t, c.Starts[p][e], at, "elements of a plate go on one after another")
			require.GreaterOrEqual(t, c.Starts[p][e], c.First[j.Key])
			at = c.Starts[p][e] + j.Seconds
			for s := c.Starts[p][e]; s < at; s++ {
				busy[s] += j.Hands
			}
		}
		end = max(end, at)
	}
	require.Equal(t, c.Seconds, end)
	for s, n := range busy {
		require.LessOrEqual(t, n, hands, "second %d", s)
	}
}
