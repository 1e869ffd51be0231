package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// A pan of four minutes on a burner with an eye on it, hands for 25 s to lay in and 30 s to take out: 240−30 = 210 s after
// the pan begins. A turn half-way for 10 s comes 120 s after.
func pan() *workload.Workload {
	zero, turn := int64(0), int64(120)
	at := int64(1000)
	return &workload.Workload{Objective: workload.Joins, Horizon: 4000,
		Resources: []workload.Resource{{ID: "hands", Capacity: 1}, {ID: "eyes", Capacity: 2}, {ID: "burner", Capacity: 1}},
		Tasks: []workload.Task{
			{ID: "in", Seconds: 25, Needs: []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}},
			{ID: "pan", Seconds: 240, Needs: []workload.Need{{AnyOf: []string{"eyes"}, Units: 1}, {AnyOf: []string{"burner"}, Units: 1}}},
			{ID: "turn", Seconds: 10, Needs: []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}},
			{ID: "out", Seconds: 30, Needs: []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}},
			{ID: "chop", Seconds: 90, Needs: []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}}},
		Links: []workload.Link{{From: "pan", To: "in", Kind: workload.StartStart, Max: &zero, Weight: 1},
			{From: "pan", To: "turn", Kind: workload.StartStart, Min: turn, Max: &turn, Weight: 1},
			{From: "pan", To: "out", Kind: workload.FinishFinish, Max: &zero, Weight: 1},
			{From: "pan", To: "plate", Kind: workload.FinishStart, Max: &zero, Weight: 1},
			{From: "chop", To: "plate", Kind: workload.FinishStart, Max: &turn, Weight: 1}},
		Joins: []workload.Join{{ID: "plate", At: &at, Weight: 4, EarlyWeight: 4}}}
}

func TestExactLinksMakeABody(t *testing.T) {
	p := compile(pan())
	require.Equal(t, []int32{1, 1, 1, 1, 4, 5}, p.lead, "the longest leads; the chopping and the join are by themselves")
	require.Equal(t, []int64{0, 0, 120, 210, 0, 0}, p.off)
	require.ElementsMatch(t, []int32{0, 1, 2, 3}, p.body[1])
	require.Len(t, p.segs[1], 5)
	require.EqualValues(t, 240, p.tail[1])
	// A second less or more than exact is a wait like any other.
	w := pan()
	one := int64(1)
	w.Links[0].Max = &one
	require.EqualValues(t, 0, compile(w).lead[0])
	// What has happened leads nobody, and is led by nobody.
	w = pan()
	w.Fixed = []workload.Fixed{{Task: "in", Start: 700, Resources: []string{"hands"}}}
	require.EqualValues(t, 0, compile(w).lead[0])
	require.EqualValues(t, 1, compile(w).lead[3])
}

// The pan stands from 760 to 1000; its hands are taken 760–785, 880–890 and 970–1000. Chopping for 90 s fits between the
// turn and the taking out only from 890 to 970, which is 80 s, and between the laying in and the turn, from 785 to 880,
// which is 95 s: it ends at 880, 120 s before the plate, as long as it may.
func TestHandsInsideAStepAreFreeBetween(t *testing.T) {
	w := pan()
	s := Solve(context.Background(), w, Options{})
	require.Equal(t, workload.Optimal, s.Status)
	require.Zero(t, *s.Cost)
	require.EqualValues(t, 790, start(s, "chop"))
	require.EqualValues(t, 760, start(s, "in"))
	require.EqualValues(t, 880, start(s, "turn"))
	require.EqualValues(t, 970, start(s, "out"))
	// The gap is 95 s. What takes that long fits, with a wait of 120 s; a second more fits nowhere.
	w.Tasks[4].Seconds = 95
	require.Zero(t, *Solve(context.Background(), w, Options{}).Cost)
	w.Tasks[4].Seconds = 96
	require.Equal(t, workload.Impossible, Solve(context.Background(), w, Options{}).Status)
}

// Serial generation by itself, without the branch and bound, puts a body down as one and never lets its parts overlap.
func TestSerialGenerationPlacesABodyAsOne(t *testing.T) {
	p := compile(pan())
	require.Nil(t, p.propagate())
	b := newBuilder(context.Background(), p, 1)
	require.True(t, b.construct(context.Background(), p.groups()))
	require.Empty(t, b.broken())
	for v := range p.tasks {
		require.Equal(t, b.x[p.lead[v]]+p.off[v], b.x[v], p.id(v))
	}
	b.remove(p.groups()[0].nodes)
	for r := range b.prof {
		require.Len(t, b.prof[r].steps, 1, "nothing is left of what was taken out")
	}
}

// A body whose own parts would take more of a resource than there is has no place.
func TestPartsOfABodyCountTogether(t *testing.T) {
	w := pan()
	w.Tasks[2].Seconds = 100 // the turn runs into the taking out: two pairs of hands from 970
	require.Equal(t, workload.Impossible, Solve(context.Background(), w, Options{}).Status)
	w.Resources[0].Capacity = 2
	require.Equal(t, workload.Optimal, Solve(context.Background(), w, Options{}).Status)
}

func start(s *workload.Schedule, id string) int64 {
	for _, r := range s.Tasks {
		if r.ID == id {
			return r.Start
		}
	}
	return -1
}

// By hand: b starts 10 after a, d 20 after c, c 5 after b; so d starts 35 after a. The two pairs are tied first. The longest is
// d, and leads: a at −35, b at −25, c at −20.
func TestBodiesThatAreTiedToEachOtherAreOne(t *testing.T) {
	exact := func(from, to string, by int64) workload.Link {
		return workload.Link{From: from, To: to, Kind: workload.StartStart, Min: by, Max: &by, Weight: 1}
	}
	w := &workload.Workload{Horizon: 1000, Tasks: []workload.Task{{ID: "c", Seconds: 3}, {ID: "d", Seconds: 40}, {ID: "a", Seconds: 1},
		{ID: "b", Seconds: 2}},
		Links: []workload.Link{exact("a", "b", 10), exact("c", "d", 20), exact("b", "c", 5)}}
	p := compile(w)
	require.Equal(t, []int32{1, 1, 1, 1}, p.lead)
	require.Equal(t, []int64{-20, 0, -35, -25}, p.off)
}

// Two pairs of hands of three, one taken until 100, one until 50, one free: there is room for both from 50 on, in whichever
// order they are asked for, and not before.
func TestAlikeNeedsHaveOneEach(t *testing.T) {
	all := []string{"x", "y", "z"}
	w := &workload.Workload{Horizon: 1000, Resources: []workload.Resource{{ID: "x", Capacity: 1, HasWindows: true,
		Windows: []workload.Window{{From: 100, To: 1000, Capacity: 1}}},
		{ID: "y", Capacity: 1, HasWindows: true, Windows: []workload.Window{{From: 50, To: 1000, Capacity: 1}}}, {ID: "z", Capacity: 1}},
		Tasks: []workload.Task{{ID: "plating", Seconds: 10, Needs: []workload.Need{{AnyOf: all, Units: 1}, {AnyOf: all, Units: 1}}}}}
	p := compile(w)
	require.Equal(t, []int32{-1, 0}, p.alike[0])
	for pick := range uint32(3) {
		s := newState(p)
		s.pick = pick
		at, ok := s.room(0, 0, 900, forward)
		require.True(t, ok)
		require.EqualValues(t, 50, at)
		at, ok = s.room(0, 900, 0, backward)
		require.True(t, ok)
		require.EqualValues(t, 900, at)
	}
	w.Tasks[0].Needs = append(w.Tasks[0].Needs, workload.Need{AnyOf: all, Units: 1})
	at, ok := newState(compile(w)).room(0, 0, 900, forward)
	require.True(t, ok)
	require.EqualValues(t, 100, at, "three have all three")
	// What has room for two like it may be the same.
	for i := range w.Resources {
		w.Resources[i].Capacity = 2
		for k := range w.Resources[i].Windows {
			w.Resources[i].Windows[k].Capacity = 2
		}
	}
	at, ok = newState(compile(w)).room(0, 0, 900, forward)
	require.True(t, ok)
	require.EqualValues(t, 50, at)
}

// What has been told stays where it was told, though it would be put elsewhere today; what is new is put beside it.
func TestWhatWasToldStays(t *testing.T) {
	at, later := int64(500), int64(600)
	w := &workload.Workload{Objective: workload.Joins, Horizon: 2000, Resources: []workload.Resource{{ID: "hands", Capacity: 1}},
		Joins: []workload.Join{{ID: "j", At: &at, Weight: 1}, {ID: "k", At: &later, Weight: 1}}}
	for _, id := range []string{"a", "b", "new"} {
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 50, Needs: []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}})
	}
	for id, join := range map[string]string{"a": "j", "b": "k", "new": "k"} {
		w.Links = append(w.Links, workload.Link{From: id, To: join, Kind: workload.FinishStart, Weight: 1})
	}
	p := compile(w)
	require.Nil(t, p.propagate())
	run := func(id string, from int64) workload.Run {
		return workload.Run{ID: id, Start: from, Finish: from + 50, Resources: []string{"hands"}}
	}
	s := &solver{p: p, ctx: context.Background(), o: Options{Previous: &workload.Schedule{Tasks: []workload.Run{run("a", 100), run("b", 450)},
		Joins: []workload.Instant{{ID: "j", At: 480}, {ID: "k", At: 620}}}}}
	b := newBuilder(context.Background(), p, 1)
	gs := p.groups()
	require.True(t, s.keepTold(b, gs, s.readTold()))
	require.Empty(t, b.broken())
	require.EqualValues(t, 100, b.x[0], "as it was told, though 450 would be later")
	require.EqualValues(t, 480, b.x[3])
	require.EqualValues(t, 620, b.x[4], "with what is new it is planned again, for when it was told")
}
