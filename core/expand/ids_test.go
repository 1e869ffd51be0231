package expand_test

import (
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// refsOf is what every run of the first service is, by id.
func refsOf(t testing.TB, d kitchen.Data) map[string]expand.TaskRef {
	t.Helper()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	e, err := expand.NewEvening(b, &b.Services()[0], true)
	require.NoError(t, err)
	ids := map[string]bool{}
	for _, x := range e.Workload.Tasks {
		require.False(t, ids[x.ID], x.ID)
		ids[x.ID] = true
		require.Contains(t, e.Refs(), x.ID)
	}
	return e.Refs()
}

// pans is a component that a pan takes two portions of, kept for a while.
func pans() ([]kitchen.Component, []kitchen.Element) {
	sear := pick("sear", kitchen.Both, 60)
	sear.Batch = &kitchen.BatchLimit{Portions: 2, Run: kitchen.SideBySide}
	sear.Equipment = nil
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(1800)}, Steps: []kitchen.Step{sear}}
	return []kitchen.Component{fish}, []kitchen.Element{{Component: "fish", Seconds: 10}}
}

// A run's id is the same however many batches there are, and in whatever order the tables
// stand; what it means stands beside it.
func TestIDsLast(t *testing.T) {
	cs, es := pans()
	two := refsOf(t, served(cs, es, table("a", 2, 1140), table("b", 2, 1150)))
	require.Equal(t, []string{"a/main/fish/sear", "a/main/plating", "b/main/fish/sear", "b/main/plating"}, slices.Sorted(maps.Keys(two)))
	require.Equal(t, expand.TaskRef{Component: "fish", Step: "sear", Batch: 1, Of: 1, Portions: 2, Joins: []string{"a/main"}},
		two["a/main/fish/sear"])

	more := refsOf(t, served(cs, es, table("b", 2, 1150), table("a", 3, 1140)))
	for id := range two {
		require.Contains(t, more, id, "it keeps its id when another batch is added and the tables change places")
	}
	require.Equal(t, expand.TaskRef{Component: "fish", Step: "sear", Batch: 1, Of: 2, Portions: 2, Joins: []string{"a/main"}},
		more["a/main/fish/sear"])
	require.Equal(t, expand.TaskRef{Component: "fish", Step: "sear", Batch: 2, Of: 2, Portions: 1, Joins: []string{"a/main"}},
		more["a/main/fish/sear/2"])
	require.Len(t, more, 5)
}

// A shared batch has its runs' names by its own id: not by the table that comes first, nor by
// how many share it.
func TestASharedBatchKeepsItsIDs(t *testing.T) {
	cs, es := pans()
	share := func(ids []string, tables ...kitchen.ServiceTable) []string {
		d := served(cs, es, tables...)
		d.Services[0].Shared = []kitchen.SharedBatch{{ID: "fish-1", Component: "fish", Course: kitchen.Main, Tables: ids}}
		refs := refsOf(t, d)
		require.ElementsMatch(t, joinsOf(ids), refs["~fish-1/fish/sear"].Joins[:min(len(ids), len(refs["~fish-1/fish/sear"].Joins))])
		var out []string
		for id, ref := range refs {
			if !ref.Plating {
				out = append(out, id)
			}
		}
		slices.Sort(out)
		return out
	}
	a, b, c := table("a", 1, 1140), table("b", 1, 1145), table("c", 1, 1135)
	first := share([]string{"a", "b"}, a, b)
	require.Equal(t, []string{"~fish-1/fish/sear"}, first)
	require.Equal(t, first, share([]string{"b", "a"}, b, a))
	require.Equal(t, append(first, "~fish-1/fish/sear/2"), sharedWith(t, cs, es, c, a, b), "a third table adds a batch and takes no id away")
}

func joinsOf(tables []string) (out []string) {
	for _, x := range tables {
		out = append(out, x+"/main")
	}
	return out
}

func sharedWith(t testing.TB, cs []kitchen.Component, es []kitchen.Element, tables ...kitchen.ServiceTable) []string {
	d := served(cs, es, tables...)
	d.Services[0].Shared = []kitchen.SharedBatch{{ID: "fish-1", Component: "fish", Course: kitchen.Main, Tables: []string{"a", "b", "c"}}}
	var out []string
	for id, ref := range refsOf(t, d) {
		if !ref.Plating {
			out = append(out, id)
		}
	}
	slices.Sort(out)
	return out
}

// One guest more makes a second round of a banquet: the first keeps its name, and what was
// cooked for it too.
func TestARoundMoreTakesNoIDAway(t *testing.T) {
	cs, es := pans()
	banquet := func(covers int) map[string]expand.TaskRef {
		d := served(cs, es, table("hall", covers, 1140))
		d.Services[0].Kind = kitchen.Banquet
		d.Equipment = slices.DeleteFunc(d.Equipment, func(e kitchen.Equipment) bool { return e.Kind == kitchen.Pass })
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "ledge", Name: "Ledge", Kind: kitchen.Pass, Capacity: 8, Unit: "plates"})
		return refsOf(t, d)
	}
	seen := banquet(4)
	require.Contains(t, banquet(17), "hall/main~3/plating", "the pass takes eight plates: seventeen go in three rounds")
	for _, covers := range []int{8, 9, 16, 17, 40, 60} {
		now := banquet(covers)
		for id := range seen {
			require.Contains(t, now, id, "%d covers", covers)
		}
		seen = now
	}
}

// Followed, a told plan stands at the same place on the clock, and what belongs to a table
// that comes ten minutes later stands ten minutes later, free to move; the origin is that of
// the first seating, four hours before.
func TestFollowMovesWhatWasAskedFor(t *testing.T) {
	cs, es := pans()
	was, told, _ := evening(t, served(cs, es, table("a", 2, 1140), table("b", 2, 1150)), true)
	b, err := kitchen.NewBook(served(cs, es, table("a", 2, 1130), table("b", 2, 1150)))
	require.NoError(t, err)
	now, err := expand.NewEvening(b, &b.Services()[0], true)
	require.NoError(t, err)
	s, loose, err := now.Follow(was.Workload, told)
	require.NoError(t, err)
	require.Equal(t, map[string]bool{"a/main": true, "a/main/plating": true, "a/main/fish/sear": true}, loose)
	start := func(s *workload.Schedule, id string) int64 {
		return s.Tasks[slices.IndexFunc(s.Tasks, func(r workload.Run) bool { return r.ID == id })].Start
	}
	// The origin lies ten minutes sooner: b stands 600 s further on, a where it was.
	require.Equal(t, start(told, "b/main/fish/sear")+600, start(s, "b/main/fish/sear"))
	require.Equal(t, start(told, "a/main/fish/sear"), start(s, "a/main/fish/sear"))
	// Nothing changed, nothing is loose.
	s, loose, err = was.Follow(was.Workload, told)
	require.NoError(t, err)
	require.Empty(t, loose)
	require.Equal(t, told.Tasks, s.Tasks)
}

// What was ticked shows at once: the step, its batch, and how far the section is.
func TestTickedShowsAtOnce(t *testing.T) {
	_, plan := prepOf(t, at(14, 9, 0), nil, 48, st("chop", 15, kitchen.Both, 0), st("cook", 30, kitchen.Both, 0))
	j := plan.Jobs[0]
	require.Equal(t, "to-do", j.State)
	one := plan.Ticked(map[string]expand.Done{j.Steps[0].Task: {Batch: j.ID, At: at(14, 9, 30)}})
	require.Equal(t, "begun", one.Jobs[0].State)
	require.True(t, one.Jobs[0].Steps[0].Done)
	require.Equal(t, 0, one.Gates[0].Ready)
	gave := 77.0
	both := plan.Ticked(map[string]expand.Done{j.Steps[0].Task: {At: at(14, 9, 30)}, j.Steps[1].Task: {At: at(14, 10, 0), Amount: &gave}})
	require.Equal(t, "done", both.Jobs[0].State)
	require.Equal(t, gave, both.Jobs[0].Amount)
	require.Equal(t, both.Gates[0].Of, both.Gates[0].Ready)
	require.Equal(t, "to-do", plan.Jobs[0].State, "the plan itself is not written to")
	require.Equal(t, "to-do", both.Ticked(nil).Jobs[0].State)
}
