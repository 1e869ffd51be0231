package planner_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	live "jointime/core/service"
	"jointime/planner"
)

// improves looks for better plans after what a state says, tells each after what has been said by then, and is the last that was told.
func (n *night) improves(state *live.State) (told *planner.Plan) {
	search, err := n.p.Search(n.t.Context(), service, state)
	require.NoError(n.t, err)
	require.NoError(n.t, search.Look(n.t.Context(), func(found *planner.Found) {
		plan, err := found.Tell(n.t.Context(), live.Fold(n.log))
		require.NoError(n.t, err)
		if plan != nil {
			told = plan
		}
	}))
	return told
}

// finds is what a search finds after what has been said, none of it told, and the search.
func (n *night) finds() (*planner.Search, []*planner.Found) {
	search, err := n.p.Search(n.t.Context(), service, live.Fold(n.log))
	require.NoError(n.t, err)
	var found []*planner.Found
	require.NoError(n.t, search.Look(n.t.Context(), func(f *planner.Found) { found = append(found, f) }))
	require.NotEmpty(n.t, found)
	return search, found
}

// oneLess has the last table of the service not come.
func (m *memory) oneLess(t *testing.T) {
	m.change(t, kitchen.Key{Kind: "service", ID: service}, func(d *kitchen.Data) {
		for i := range d.Services {
			if s := &d.Services[i]; s.ID == service {
				s.Tables = s.Tables[:len(s.Tables)-1]
			}
		}
	})
}

// What is tapped does not change what a search looks for, nor do repairs; what was ordered does, and who or what has gone or come back, and
// the end of the service. What was found is not told then.
func TestWhatASearchLooksFor(t *testing.T) {
	m := kitchenOf(t)
	n, plan := goingOnIn(t, m)
	n.goes("combi")
	search, found := n.finds()
	holds := func(want bool, why string) {
		t.Helper()
		state := live.Fold(n.log)
		is, err := search.Holds(t.Context(), state)
		require.NoError(t, err)
		require.Equal(t, want, is, why)
		if !want {
			told, err := found[0].Tell(t.Context(), state)
			require.NoError(t, err)
			require.Nil(t, told, why)
		}
	}
	holds(true, "as it began")
	n.now = n.now.Add(20 * time.Second)
	for n.tap(plan); len(n.log) < 4; n.tap(plan) {
		n.now = n.now.Add(10 * time.Second)
	}
	holds(true, "taps")
	was := len(n.log)
	for _, e := range []live.Event{{Kind: live.Out, Facts: live.Facts{Equipment: "steamer"}}, {Kind: live.Out, Facts: live.Facts{Who: "pim"}},
		{Kind: live.In, Facts: live.Facts{Equipment: "combi"}}, {Kind: live.Closed}} {
		n.say(e)
		holds(false, string(e.Kind))
		n.log = n.log[:was]
	}
	holds(true, "as it was")
	m.oneLess(t)
	holds(false, "a table that does not come")

	n.say(live.Event{Kind: live.Closed})
	search, err := n.p.Search(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	require.Nil(t, search, "nothing is looked for once the service is over")
}

// Each plan that is found is told at once, and each is cheaper than the one before; after what was told meanwhile as well.
func TestEachBetterPlanIsTold(t *testing.T) {
	n, _ := goingOn(t)
	near := n.goes("combi")
	_, found := n.finds()
	first, err := found[0].Tell(t.Context(), live.Fold(n.log))
	require.NoError(t, err)
	require.NotNil(t, first)
	require.Less(t, first.View.Cost, near.View.Cost)
	require.Equal(t, near.Number+1, first.Number)
	again, err := found[0].Tell(t.Context(), live.Fold(n.log))
	require.NoError(t, err)
	require.Nil(t, again, "it is told already")
	last, err := found[len(found)-1].Tell(t.Context(), live.Fold(n.log))
	require.NoError(t, err)
	if len(found) > 1 {
		require.NotNil(t, last)
		require.Less(t, last.View.Cost, first.View.Cost)
		require.Equal(t, first.Number+1, last.Number)
	}
}

// What was put off when an oven went keeps when it was to begin, and what was moved a moment ago is in nobody's mind, also once something else
// is ordered.
func TestAnOrderKeepsWhatWasPutOff(t *testing.T) {
	m := kitchenOf(t)
	n, first := goingOnIn(t, m)
	was := n.goes("combi")
	require.NotEmpty(t, planner.Aim(was))
	later := was.Schedule.Shift(func(string) int64 { return 100 })
	for task, aim := range planner.PutOff(was, later, later, 100) {
		require.Equal(t, planner.Aim(was)[task]+100, aim, "from an origin that is sooner")
	}
	m.oneLess(t)
	n.now = n.now.Add(20 * time.Second)
	shown, err := n.p.Service(t.Context(), service)
	require.NoError(t, err)
	is := shown.Plan
	require.Greater(t, is.Number, was.Number)
	before, now := begins(was), begins(is)
	kept := 0
	for task, aim := range planner.Aim(was) {
		if at, there := now[task]; there && at.Equal(before[task]) {
			require.Equal(t, aim, planner.Aim(is)[task], task)
			kept++
		}
	}
	require.Positive(t, kept)
	fresh := 0
	for task := range planner.Pinned(t, is, live.Fold(n.log), n.now.Add(9*time.Second), 10*time.Minute) {
		require.True(t, now[task].IsZero() || now[task].Equal(begins(first)[task]), "%s was moved 29 seconds ago", task)
	}
	for task := range planner.Pinned(t, is, live.Fold(n.log), n.now.Add(10*time.Second), 10*time.Minute) {
		if !now[task].IsZero() && !now[task].Equal(begins(first)[task]) {
			fresh++
		}
	}
	require.Positive(t, fresh)
}

// What was told to begin while a better plan was looked for has begun, by what the cooks saw: it stands in what is told then.
func TestWhatHasBegunMeanwhileStands(t *testing.T) {
	n, _ := goingOn(t)
	near := n.goes("combi")
	_, found := n.finds()
	from := n.now
	n.now = n.now.Add(3 * time.Minute)
	told, err := found[len(found)-1].Tell(t.Context(), live.Fold(n.log))
	require.NoError(t, err)
	require.NotNil(t, told)
	is, many := begins(told), 0
	for task, at := range begins(near) {
		if at.After(from) && !at.After(n.now) {
			require.Equal(t, at, is[task], task)
			many++
		}
	}
	require.Positive(t, many)
}
