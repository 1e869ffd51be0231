package schedule

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
)

// boundWithin looks for a bound of an evening with a clock by which each instant that is looked at takes a microsecond, on the grid of a
// second a half more; long is whether the search is. It returns what is proved, and how many instants were looked at.
func boundWithin(t *testing.T, known int64, budget int, long bool) (proved int64, looked int) {
	t.Helper()
	j := newJoint(compiled(t, instances.Nights()[3].Evening(11)), known)
	j.long = long
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	spent, seen := 0, 0
	clock := func() int {
		each := 2
		if j.step == 1 {
			each = 3
		}
		spent, seen = spent+each*(j.time.looked-seen), j.time.looked
		return spent / 2
	}
	j.over = func() bool {
		if budget > 0 && clock() >= budget {
			cancel()
			return true
		}
		return false
	}
	if budget > 0 {
		j.time.begin(func() time.Duration { return time.Duration(budget-clock()) * time.Microsecond })
	}
	return j.bound(ctx), j.time.looked
}

// With less time fewer prices are tried, and what they prove is known before it is over; with hardly any it is not begun.
func TestABoundIsFoundInItsTime(t *testing.T) {
	const known = 39_000
	whole, all := boundWithin(t, known, 0, false)
	require.Greater(t, whole, int64(known/2))
	proved, looked := boundWithin(t, known, 10*all, false)
	require.Equal(t, whole, proved, "time enough changes nothing")
	require.Equal(t, all, looked)

	for _, part := range []int{2, 3} {
		proved, looked := boundWithin(t, known, all/part, false)
		require.Greater(t, proved, whole*3/4, part)
		require.LessOrEqual(t, proved, int64(known))
		require.Less(t, looked, all/part)
		require.Greater(t, looked, all/part/3, part)
	}
	for _, part := range []int{5, 100} {
		proved, looked = boundWithin(t, known, all/part, false)
		require.Zero(t, proved)
		require.Less(t, looked, all/20, "what cannot be found in time is not looked for")
	}
}

// A long search has more moves on the coarse grids, which prove more, where they take no more than a tenth of its time.
func TestALongSearchProvesMore(t *testing.T) {
	const known = 39_000
	whole, all := boundWithin(t, known, 0, false)
	further, more := boundWithin(t, known, 0, true)
	require.Greater(t, further, whole)
	require.LessOrEqual(t, further, int64(known))
	require.Greater(t, more, all)
	proved, looked := boundWithin(t, known, longerInTime*more, true)
	require.Equal(t, further, proved)
	require.Equal(t, more, looked)
	proved, looked = boundWithin(t, known, 2*all, true)
	require.Equal(t, whole, proved, "no tenth of it is enough")
	require.Equal(t, all, looked)
}
