package plating

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Worked by hand: elements of 10, 5, 5, 10 s and two people. Cut in the middle each has
// 15 s: the first plate is done after 30 s and then one every 15 s, so the fifth after
// 30 + 4·15 = 90 s. But two people who each plate whole plates take 30 s a plate, two at
// a time: also one every 15 s, with one station; the fifth is done after 3·30 = 90 s. The
// fewest stations win. A pass of two plates leaves after 30, 60 and 90 s.
func TestLineByHand(t *testing.T) {
	l, err := NewLine([]Job{{"a", 10, 1}, {"b", 5, 1}, {"c", 5, 1}, {"d", 10, 1}}, 5, 2, 2)
	require.NoError(t, err)
	require.Equal(t, []Station{{1, 4, 2, 30, 2, 15}}, l.Stations)
	require.Equal(t, 90, l.LastS)
	require.Equal(t, []Round{{2, 30, 30}, {2, 60, 60}, {1, 90, 90}}, l.Rounds)
	require.Equal(t, 4.0, l.PerMinute)
}

// A two-handed element binds a pair: with three people, elements of 8 (one hand) and 12 s
// (two people at once) divide as one person and a pair; the pair is the bottleneck.
func TestLineWithAPair(t *testing.T) {
	l, err := NewLine([]Job{{"a", 8, 1}, {"b", 12, 2}}, 4, 3, 0)
	require.NoError(t, err)
	require.Equal(t, []Station{{1, 1, 1, 8, 1, 8}, {2, 2, 2, 12, 1, 12}}, l.Stations)
	require.Equal(t, 8+12*4, l.LastS)
	require.Equal(t, []Round{{4, 20, 56}}, l.Rounds)
}

func TestLineRefusesWhatCannotBe(t *testing.T) {
	jobs := []Job{{"a", 8, 2}}
	for _, c := range []struct {
		jobs                 []Job
		plates, people, room int
		say                  string
	}{{jobs, 0, 2, 0, "plates"}, {jobs, 10, 0, 0, "people"}, {jobs, 10, 21, 0, "people"}, {jobs, 10, 1, 0, "takes 2 people"},
		{nil, 10, 2, 0, "Nothing"}} {
		_, err := NewLine(c.jobs, c.plates, c.people, c.room)
		require.ErrorContains(t, err, c.say)
	}
}

// bottleneck tries every division.
func bottleneck(jobs []Job, from, people int) float64 {
	if from == len(jobs) {
		if people == 0 {
			return 0
		}
		return math.Inf(1)
	}
	best := math.Inf(1)
	for to := from + 1; to <= len(jobs); to++ {
		for q := 1; q <= people; q++ {
			if s, ok := station(jobs, from, to, q); ok {
				best = math.Min(best, math.Max(s.CycleS, bottleneck(jobs, to, people-q)))
			}
		}
	}
	return best
}

func TestLineAgainstEveryDivision(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		people := rapid.IntRange(1, 5).Draw(t, "people")
		var jobs []Job
		for range rapid.IntRange(1, 6).Draw(t, "elements") {
			jobs = append(jobs, Job{"x", rapid.IntRange(1, 30).Draw(t, "s"), rapid.IntRange(1, min(2, people)).Draw(t, "hands")})
		}
		plates, room := rapid.IntRange(1, 40).Draw(t, "plates"), rapid.IntRange(0, 12).Draw(t, "room")
		l, err := NewLine(jobs, plates, people, room)
		require.NoError(t, err)
		require.InDelta(t, bottleneck(jobs, 0, people), l.CycleS, 1e-9)
		// Nothing is done before its work, the stations cover the plate, all people stand
		// somewhere, and no round is larger than the pass.
		next, all := 1, 0
		for _, s := range l.Stations {
			require.Equal(t, next, s.From)
			next, all = s.To+1, all+s.People
		}
		require.Equal(t, len(jobs)+1, next)
		require.Equal(t, people, all)
		sum := 0
		for _, r := range l.Rounds {
			require.True(t, room == 0 || r.Plates <= room)
			require.LessOrEqual(t, r.FirstS, r.LeaveS)
			sum += r.Plates
		}
		require.Equal(t, plates, sum)
		require.GreaterOrEqual(t, l.LastS, l.ThroughS)
		require.GreaterOrEqual(t, float64(l.LastS)+1e-9, float64(plates)*l.CycleS)
		require.LessOrEqual(t, float64(l.LastS), float64(l.ThroughS)+float64(plates)*l.CycleS+1e-9)
	})
}
