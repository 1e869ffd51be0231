package schedule_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
)

// oneCook is a few runs for one pair of hands, each for its own join, which may come early for nothing.
func oneCook(runs int) *workload.Workload {
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 9000,
		Resources: []workload.Resource{{ID: "hands", Capacity: 1}}}
	for i := range runs {
		id := fmt.Sprint("run-", i)
		at := int64(3000)
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 100, Needs: []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}})
		w.Joins = append(w.Joins, workload.Join{ID: "join-" + id, At: &at, Weight: 1})
		w.Links = append(w.Links, workload.Link{Kind: workload.FinishStart, From: id, To: "join-" + id})
	}
	return w
}

// What was put off comes sooner again once nothing keeps it, as far as where it was to be before that and no further; without that it stays
// where it was told; and where something still keeps it, it stays behind that.
func TestWhatWasPutOffComesSoonerAgain(t *testing.T) {
	w := oneCook(2)
	now := int64(90)
	w.Now = &now
	told := &workload.Schedule{Tasks: []workload.Run{{ID: "run-0", Start: 100, Finish: 200, Resources: []string{"hands"}},
		{ID: "run-1", Start: 700, Finish: 800, Resources: []string{"hands"}}},
		Joins: []workload.Instant{{ID: "join-run-0", At: 3000}, {ID: "join-run-1", At: 3000}}}
	start := func(aim map[string]int64) map[string]int64 {
		s := schedule.Solve(t.Context(), w, schedule.Options{Seed: 1, Rounds: 50, Previous: told, MovePrice: 4, Aim: aim})
		broken, err := verify.Check(w, s)
		require.NoError(t, err)
		require.Empty(t, broken)
		out := map[string]int64{}
		for _, r := range s.Tasks {
			out[r.ID] = r.Start
		}
		return out
	}
	require.Equal(t, map[string]int64{"run-0": 100, "run-1": 700}, start(nil))
	require.Equal(t, map[string]int64{"run-0": 100, "run-1": 300}, start(map[string]int64{"run-1": 300}))
	require.Equal(t, map[string]int64{"run-0": 100, "run-1": 200}, start(map[string]int64{"run-1": 150}), "the hands are free at 200")
	require.Equal(t, map[string]int64{"run-0": 100, "run-1": 700}, start(map[string]int64{"run-1": 900}), "an aim that is later is none")
}
