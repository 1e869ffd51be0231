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

// goingOn is a night twenty minutes after its first course, and its plan.
func goingOn(t *testing.T) (*night, *planner.Plan) { return goingOnIn(t, kitchenOf(t)) }

// goingOnIn is one in a kitchen.
func goingOnIn(t *testing.T, m *memory) (*night, *planner.Plan) {
	n := newNight(t, m, 7)
	plan := settled(t, n.p, service).Plan
	n.now = plan.View.Joins[0].At.Add(20 * time.Minute)
	n.say(live.Event{Kind: live.Opened})
	return n, plan
}

// goes says that a piece of equipment is not there, nobody knows until when, and is the plan that follows.
func (n *night) goes(equipment string) *planner.Plan {
	n.say(live.Event{Kind: live.Out, Device: "pass", Facts: live.Facts{Equipment: equipment}})
	told, err := n.p.Happened(n.t.Context(), service, live.Fold(n.log))
	require.NoError(n.t, err)
	require.NotNil(n.t, told)
	return told
}

// Once the oven is gone that most of the evening needs, no repair near what was told leads to the order in which the other oven serves it
// best: a plan made without regard for what was told is much cheaper, and told.
func TestAnEveningIsMadeAnewWithoutItsOven(t *testing.T) {
	n, _ := goingOn(t)
	_, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	calm, err := n.p.Service(t.Context(), service)
	require.NoError(t, err)
	found := n.improves(live.Fold(n.log))
	if found != nil {
		require.Less(t, movedJoins(calm.Plan.Schedule.Joins, found.Schedule.Joins), 10, "an evening that goes well is not made anew")
	}
	tried := planner.TriedAt(n.p, service)

	near := n.goes("combi")
	require.Empty(t, near.Schedule.Broken)
	found = n.improves(live.Fold(n.log))
	require.NotNil(t, found)
	require.Empty(t, found.Schedule.Broken)
	require.Less(t, 2*found.View.Cost, near.View.Cost)
	require.Greater(t, movedJoins(near.Schedule.Joins, found.Schedule.Joins), 10)
	require.Greater(t, found.Number, near.Number)
	require.Greater(t, planner.TriedAt(n.p, service), tried)
	tried = planner.TriedAt(n.p, service)
	n.improves(live.Fold(n.log))
	require.LessOrEqual(t, planner.TriedAt(n.p, service), tried, "what costs no more is not made anew again")
	require.False(t, n.p.LooksAgain(service))
	n.now = n.now.Add(20 * time.Second)
	require.True(t, n.p.LooksAgain(service), "another chance")
	require.False(t, planner.Dearer(n.p, service, 0, 10, n.now))
	require.False(t, n.p.LooksAgain(service), "it is not dear")
}

// Once an oven is back no chance is waited for, though the rest costs what it did: a repair leads no more to the plan with it than to the one
// without it.
func TestAnEveningIsMadeAnewOnceItsOvenIsBack(t *testing.T) {
	n, _ := goingOn(t)
	n.goes("combi")
	without := n.improves(live.Fold(n.log))
	require.NotNil(t, without)
	n.now = n.now.Add(5 * time.Second)
	n.say(live.Event{Kind: live.In, Device: "pass", Facts: live.Facts{Equipment: "combi"}})
	_, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	with := n.improves(live.Fold(n.log))
	require.NotNil(t, with)
	require.Less(t, 2*with.View.Cost, without.View.Cost)
}

// begins is when the runs of a plan begin.
func begins(p *planner.Plan) map[string]time.Time {
	out := map[string]time.Time{}
	for _, r := range live.PlanOf(1, &p.View).Runs {
		out[r.Task] = r.From
	}
	return out
}

// A plan made without regard for what was told leaves what is about to begin where it is, but for what was moved there less than half a minute
// ago: nobody has that in mind.
func TestWhatWasJustMovedIsInNobodysMind(t *testing.T) {
	n, plan := goingOn(t)
	told := n.goes("combi")
	was, moved := begins(plan), n.now
	pinned := func(after time.Duration) (same, other int) {
		for task := range planner.Pinned(t, told, live.Fold(n.log), moved.Add(after), 10*time.Minute) {
			if at, of := begins(told)[task]; !of {
				continue // hands at the ends of a run
			} else if at.Equal(was[task]) {
				same++
			} else {
				other++
			}
		}
		return same, other
	}
	same, other := pinned(29 * time.Second)
	require.Positive(t, same)
	require.Zero(t, other)
	same, other = pinned(30 * time.Second)
	require.Positive(t, same)
	require.Positive(t, other)

	n.now = moved.Add(20 * time.Second)
	told = n.goes("steamer")
	same, other = pinned(29 * time.Second)
	require.Positive(t, same)
	require.Zero(t, other, "and not where another plan has been told since either")
}

// Where the plan does not follow yet the search has that told first, as a repair, which keeps when what it puts off was to begin.
func TestASearchFollowsFirst(t *testing.T) {
	n, _ := goingOn(t)
	_, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	before, err := n.p.Service(t.Context(), service)
	require.NoError(t, err)
	n.say(live.Event{Kind: live.Out, Device: "pass", Facts: live.Facts{Equipment: "steamer"}})
	_, found := n.finds()
	repair, err := found[0].Tell(t.Context(), live.Fold(n.log))
	require.NoError(t, err)
	require.NotNil(t, repair)
	require.Empty(t, repair.Schedule.Broken)
	require.Greater(t, len(planner.Aim(repair)), len(planner.Aim(before.Plan)))
	for _, r := range repair.Schedule.Tasks {
		at := repair.Evening.Origin.Add(time.Duration(r.Start) * time.Second)
		if at.After(n.now) && at.Before(n.now.Add(20*time.Minute)) { // when it is taken that it is back
			require.NotContains(t, r.Resources, "equipment/steamer", r.ID)
		}
	}
}

// What is tapped while a better plan is looked for is followed before that is told: a run that was begun sooner than it was told, and by
// neither plan, is where it was begun, and the plan keeps every rule. Where the service is over meanwhile nothing is told.
func TestABetterPlanCatchesUp(t *testing.T) {
	n, _ := goingOn(t)
	told := n.goes("combi")
	state, was := live.Fold(n.log), len(n.log)
	var tapped live.PlanRun
	for _, r := range live.PlanOf(1, &told.View).Runs {
		if r.Section == "fish" && r.From.After(n.now.Add(15*time.Minute)) && (tapped.Task == "" || r.From.Before(tapped.From)) {
			tapped = r
		}
	}
	require.NotEmpty(t, tapped.Task)

	n.say(live.Event{Kind: live.Closed})
	found := n.improves(state)
	require.Nil(t, found)

	n.log = n.log[:was]
	n.say(live.Event{Kind: live.Fired, Device: "fish", Facts: live.Facts{Task: tapped.Task, Component: tapped.Component, Step: tapped.Step,
		Section: tapped.Section, Portions: tapped.Portions, Joins: tapped.Joins}})
	found = n.improves(state)
	require.NotNil(t, found)
	require.Empty(t, found.Schedule.Broken)
	require.Less(t, found.View.Cost, told.View.Cost)
	for _, r := range live.PlanOf(2, &found.View).Runs {
		if r.Task == tapped.Task {
			require.Equal(t, n.now, r.From.In(n.now.Location()))
			return
		}
	}
	require.Fail(t, "it is in the plan", tapped.Task)
}

// What moves everything has to save a tenth, and two minutes of lateness for each course that moves. It is looked for where the rest of the
// service costs as much as half of its courses would, and again once that is a tenth dearer than it has been.
func TestWhatIsMadeAnewHasToPay(t *testing.T) {
	require.True(t, planner.SavesEnough(10_000, 9000, 0))
	require.False(t, planner.SavesEnough(10_000, 9001, 0))
	require.True(t, planner.SavesEnough(10_000, 8520, 1))
	require.False(t, planner.SavesEnough(10_000, 8521, 1))
	require.True(t, planner.SavesEnough(math.MaxInt64, 1<<40, 60))

	n := newNight(t, kitchenOf(t), 1)
	dearer := func(cost int64) bool { return planner.Dearer(n.p, "x", cost, 10, n.now) }
	require.False(t, dearer(2399))
	require.True(t, dearer(2400))
	planner.Known(n.p, "x", 2400, true, n.now)
	require.False(t, dearer(2640))
	require.True(t, dearer(2641))
	require.False(t, dearer(1000))
	require.True(t, dearer(2400), "it has been cheaper since")
}

// Where the rest of the service stays dear another chance is taken after a while, and after twice as long each time that brings nothing; where
// it is not dear, or has become dearer meanwhile, that begins anew.
func TestAnotherChanceIsTakenWhereItIsDear(t *testing.T) {
	n := newNight(t, kitchenOf(t), 1)
	begin := n.now
	dearer := func(after time.Duration, cost int64) bool {
		return planner.Dearer(n.p, "x", cost, 10, begin.Add(after))
	}
	known := func(after time.Duration, told bool) { planner.Known(n.p, "x", 100_000, told, begin.Add(after)) }
	second := time.Second
	known(0, true)
	require.False(t, dearer(19*second, 100_000))
	require.True(t, dearer(20*second, 100_000))
	known(20*second, false)
	require.False(t, dearer(59*second, 100_000))
	require.True(t, dearer(60*second, 100_000))
	known(60*second, false)
	require.False(t, dearer(139*second, 100_000))
	require.True(t, dearer(140*second, 100_000))
	known(140*second, true)
	require.False(t, dearer(159*second, 100_000), "what was told was worth the chance")
	require.True(t, dearer(160*second, 100_000))
	known(160*second, false)
	require.True(t, dearer(161*second, 110_001))
	known(161*second, false)
	require.True(t, dearer(181*second, 110_001), "dearer than before: it begins anew")
	require.False(t, dearer(182*second, 2399), "not dear any more")
	known(182*second, false)
	require.True(t, dearer(202*second, 100_000))
	known(202*second, false)
	require.False(t, dearer(203*second, 100_000))
	require.True(t, planner.Dearer(n.p, "x", 100_000, 10, begin.Add(203*second), live.Absence{Equipment: "combi"}), "something else is away")
}
