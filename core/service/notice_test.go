package service_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
)

// What was told to begin only in more than ten minutes begins in a minute at the soonest, whatever a repair would like: nobody knows of it
// yet. What is told for sooner may begin at once, and so may what has been called.
func TestWhatIsFarOffIsNotBegunAtOnce(t *testing.T) {
	r := runAt(t, "fish", demoNight().view.From.Add(100*time.Minute))
	earliest := func(before time.Duration, called bool) time.Duration {
		now := r.From.Add(-before)
		var log []service.Event
		if called {
			j := r.Joins[0]
			log = append(log, said(service.Called, now, service.PlanRun{}, func(e *service.Event) {
				e.Device, e.Facts = "pass", service.Facts{Table: j.Table, Course: j.Course, Round: j.Round}
			}))
		}
		w, _, moved := again(t, now, log...)
		if !called {
			require.Zero(t, moved)
		}
		for _, x := range w.Tasks {
			if x.ID == r.Task {
				return time.Duration(x.Earliest-*w.Now) * time.Second
			}
		}
		require.Fail(t, "it is still to do")
		return 0
	}
	require.LessOrEqual(t, earliest(10*time.Minute, false), time.Duration(0))
	require.Equal(t, time.Minute, earliest(10*time.Minute+time.Second, false))
	require.LessOrEqual(t, earliest(10*time.Minute+time.Second, true), time.Duration(0))
}
