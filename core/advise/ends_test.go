package advise_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/workload"
)

// A pan of 60 s with hands for 10 s at its start and at its end, then plating of 10 s: the join is at 70. Somebody's work with
// the same hands comes before the one or before the other, and takes 30 s longer than it was planned: the plate is 30 s late,
// because the pan cannot be begun, or cannot be taken out.
func TestHandsAtTheEndsHoldAStepBack(t *testing.T) {
	zero := int64(0)
	for name, before := range map[string]int64{"laying in": -50, "taking out": 0} {
		w := &workload.Workload{Resources: []workload.Resource{{ID: "hands", Capacity: 1}}, Joins: []workload.Join{{ID: "j", At: at(70)}}}
		s := &workload.Schedule{Joins: []workload.Instant{{ID: "j", At: 70}}}
		add := func(id string, from, to int64, hands bool) {
			task := workload.Task{ID: id, Seconds: to - from}
			run := workload.Run{ID: id, Start: from, Finish: to, Resources: []string{}}
			if hands {
				task.Needs, run.Resources = []workload.Need{{AnyOf: []string{"hands"}, Units: 1}}, []string{"hands"}
			}
			w.Tasks, s.Tasks = append(w.Tasks, task), append(s.Tasks, run)
		}
		add("pan", 0, 60, false)
		add("in", 0, 10, true)
		add("out", 50, 60, true)
		add("plating", 60, 70, false)
		add("other", before, before+50, true)
		if before == 0 { // … and the laying in is somebody else's
			w.Tasks[1].Needs, s.Tasks[1].Resources = nil, []string{}
		}
		w.Links = []workload.Link{{From: "pan", To: "in", Kind: workload.StartStart, Max: &zero},
			{From: "pan", To: "out", Kind: workload.FinishFinish, Max: &zero},
			{From: "pan", To: "plating", Kind: workload.FinishStart}, {From: "plating", To: "j", Kind: workload.FinishStart}}
		late := func(by float64) float64 {
			long := map[string]float64{"pan": 60, "in": 10, "out": 10, "plating": 10, "other": 50 + by}
			return advise.Sure(w, s, func(id string) advise.Spread { return advise.Spread{Low: long[id], Likely: long[id], High: long[id]} }, nil,
				0, 1,
				1)["j"].MeanS
		}
		require.InDelta(t, 0, late(0), 1e-9, name)
		require.InDelta(t, 30, late(30), 1e-9, name)
	}
}
