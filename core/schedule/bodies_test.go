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
		require.Len(t, b.prof[r].at, 1, "nothing is left of what was taken out")
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
