package schedule_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule"
	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// In the middle of an evening somebody has to be at a pan and is called away for just that second: the pan cannot wait, and nobody else may
// do it. What has nothing to do with it stands where it was told, whatever else one rule that cannot be kept costs.
func TestOnlyWhatIsTouchedMovesWhereARuleCannotBeKept(t *testing.T) {
	for _, n := range instances.Nights() {
		w := n.Evening(7)
		told := schedule.Solve(t.Context(), w, schedule.Options{Seed: 1, Rounds: 1500})
		require.Empty(t, told.Broken)
		again, _ := instances.Delayed(w, told, 60, 20)
		was := map[string]workload.Run{}
		for _, r := range told.Tasks {
			was[r.ID] = r
		}
		at := calledAway(t, again, was)
		require.NoError(t, workload.Check(again))
		s := schedule.Solve(t.Context(), again, schedule.Options{Seed: 1, Rounds: 50, Anyway: true, Previous: told, MovePrice: 2})
		fixed, open, moved, joins := again.FixedTasks(), 0, 0, 0
		for _, r := range s.Tasks {
			if fixed[r.ID] == nil {
				if open++; r.Start < was[r.ID].Start-60 || r.Start > was[r.ID].Start+60 {
					moved++
				}
			}
		}
		for k, j := range s.Joins {
			if d := j.At - told.Joins[k].At; d < -60 || d > 60 {
				joins++
			}
		}
		t.Log(n.Name, at, "open", open, "moved", moved, "joins", joins, "cost", *told.Cost, *s.Cost, len(s.Broken))
		require.NotEmpty(t, s.Broken)
		require.LessOrEqual(t, moved, open/20, n.Name)
		require.LessOrEqual(t, joins, 5, n.Name)
	}
}

// calledAway has one open run of hands stand where it was told, with nobody there for the first second of it.
func calledAway(t *testing.T, w *workload.Workload, told map[string]workload.Run) string {
	fixed := w.FixedTasks()
	for i := range w.Tasks {
		o := &w.Tasks[i]
		r := told[o.ID]
		if fixed[o.ID] != nil || r.Start < *w.Now+300 || o.Seconds < 10 || !strings.HasPrefix(o.Needs[0].AnyOf[0], "hands") {
			continue
		}
		finish := r.Finish
		o.Earliest, o.Latest = r.Start, &finish
		for k := range w.Resources {
			if c := &w.Resources[k]; c.ID == r.Resources[0] && !c.HasWindows {
				o.Needs = []workload.Need{{AnyOf: []string{c.ID}, Units: 1}}
				c.HasWindows = true
				c.Windows = []workload.Window{{From: 0, To: r.Start, Capacity: c.Capacity}, {From: r.Start + 1, To: w.Horizon, Capacity: c.Capacity}}
				return o.ID
			}
		}
	}
	t.Fatal("nobody can be called away")
	return ""
}
