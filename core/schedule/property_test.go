package schedule_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
	"jointime/core/workload/workloadtest"
)

// Whatever valid workload comes in, the schedule passes verify or says which
// rules it breaks; nothing panics and no time is negative.
func TestEveryScheduleIsJudgedTheSameByVerify(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := workloadtest.Draw(t, 14)
		require.NoError(t, workload.Check(w))
		s := schedule.Solve(context.Background(), w, schedule.Options{Seed: 1})
		if s.Status == workload.Impossible {
			require.NotEmpty(t, s.Broken)
			require.Empty(t, s.Tasks)
			require.Nil(t, s.Cost)
			return
		}
		findings, err := verify.Check(w, s)
		require.NoError(t, err)
		fixed := w.FixedTasks()
		for _, r := range s.Tasks {
			if fixed[r.ID] == nil {
				require.GreaterOrEqual(t, r.Start, int64(0))
			}
		}
		if s.Status == workload.BestEffort {
			require.NotEmpty(t, s.Broken)
			for _, f := range findings {
				require.NotContains(t, []workload.Rule{"cost", "bound", "length", "any-of", "fixed", "status"}, f.Rule, f.Text)
			}
			require.NotEmpty(t, findings, "best-effort says that rules are broken: %v", s.Broken)
			return
		}
		for _, f := range findings {
			t.Errorf("%s", f.Text)
		}
	})
}
