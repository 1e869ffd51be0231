package planner_test

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	live "jointime/core/service"
	"jointime/core/workload"
	"jointime/planner"
)

// movedJoins is how many joins stand at another time.
func movedJoins(was, is []workload.Instant) (moved int) {
	for _, j := range is {
		if !slices.Contains(was, j) {
			moved++
		}
	}
	return moved
}

// Once the oven is gone that most of the evening needs, no repair near what was told leads to the order in which the other oven serves it
// best: a plan made without regard for what was told is much cheaper, and told. What was to begin within ten minutes stays.
func TestAnEveningIsMadeAnewWithoutItsOven(t *testing.T) {
	n := newNight(t, kitchenOf(t), 7)
	plan := settled(t, n.p, service).Plan
	n.now = plan.View.Joins[0].At.Add(20 * time.Minute)
	n.say(live.Event{Kind: live.Opened})
	follow := func() {
		_, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
		require.NoError(t, err)
	}
	follow()
	calm, err := n.p.Service(t.Context(), service)
	require.NoError(t, err)
	found, err := n.p.Improve(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	if found != nil {
		require.Less(t, movedJoins(calm.Plan.Schedule.Joins, found.Schedule.Joins), 10, "an evening that goes well is not made anew")
	}
	before := planner.TriedAt(n.p, service)

	n.say(live.Event{Kind: live.Out, Device: "pass", Facts: live.Facts{Equipment: "combi"}})
	follow()
	near, err := n.p.Service(t.Context(), service)
	require.NoError(t, err)
	require.Empty(t, near.Plan.Schedule.Broken)
	found, err = n.p.Improve(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	require.NotNil(t, found)
	require.Empty(t, found.Schedule.Broken)
	require.Less(t, 2*found.View.Cost, near.Plan.View.Cost)
	require.Greater(t, movedJoins(near.Plan.Schedule.Joins, found.Schedule.Joins), 10)
	soon := n.now.Add(10 * time.Minute)
	was := live.PlanOf(1, &near.Plan.View)
	stays := 0
	for _, r := range live.PlanOf(2, &found.View).Runs {
		for _, o := range was.Runs {
			if o.Task == r.Task && o.From.After(n.now) && !o.From.After(soon) {
				require.Equal(t, o.From, r.From, "what cooks have in mind stays: %s", r.Task)
				stays++
			}
		}
	}
	require.Positive(t, stays)
	require.Equal(t, found.Number, near.Plan.Number+1)
	require.Greater(t, planner.TriedAt(n.p, service), before)
	tried := planner.TriedAt(n.p, service)
	_, err = n.p.Improve(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	require.LessOrEqual(t, planner.TriedAt(n.p, service), tried, "what costs no more is not made anew again")
}

// What moves everything has to save a tenth, and two minutes of lateness for each course that moves. It is looked for where the rest of the
// service costs as much as half of its courses would, and again once that is a tenth dearer than it has been.
func TestWhatIsMadeAnewHasToPay(t *testing.T) {
	require.True(t, planner.SavesEnough(10_000, 9000, 0))
	require.False(t, planner.SavesEnough(10_000, 9001, 0))
	require.True(t, planner.SavesEnough(10_000, 8520, 1))
	require.False(t, planner.SavesEnough(10_000, 8521, 1))
	require.True(t, planner.SavesEnough(math.MaxInt64, 1<<40, 60))

	p := newNight(t, kitchenOf(t), 1).p
	require.False(t, planner.Dearer(p, "x", 2399, 10))
	require.True(t, planner.Dearer(p, "x", 2400, 10))
	planner.Known(p, "x", 2400)
	require.False(t, planner.Dearer(p, "x", 2640, 10))
	require.True(t, planner.Dearer(p, "x", 2641, 10))
	require.False(t, planner.Dearer(p, "x", 1000, 10))
	require.True(t, planner.Dearer(p, "x", 2400, 10), "it has been cheaper since")
}
