package planner_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/planner"
)

// followed waits until the make-ahead plan has caught up with what was ticked.
func followed(t testing.TB, p *planner.Planner) *planner.Prep {
	t.Helper()
	for {
		v, err := p.Prep(t.Context())
		require.NoError(t, err)
		if !v.Following {
			return v
		}
		time.Sleep(5 * time.Millisecond)
	}
}

func jobs(p *planner.Prep) map[string]expand.Job {
	out := map[string]expand.Job{}
	for _, j := range p.View.Jobs {
		out[j.ID] = j
	}
	return out
}

// A tick is on the plan at once; the next plan, made behind it, moves nothing that the tick
// does not free, and is the same after a restart.
func TestATickIsOnThePlanAtOnce(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	was := followed(t, p)
	var job expand.Job
	for _, j := range was.View.Jobs {
		if j.State == "to-do" && len(j.Steps) == 1 {
			job = j
		}
	}
	require.NotEmpty(t, job.ID)
	ref, ok := was.Step(job.Steps[0].Task)
	require.True(t, ok)
	require.Equal(t, job.ID, was.BatchOf(ref))
	gave := 123.0
	m.tick(planner.Tick{Task: job.Steps[0].Task, Batch: job.ID, Done: true, Amount: &gave, At: afternoon})
	at, err := p.Prep(t.Context())
	require.NoError(t, err)
	require.Equal(t, "done", jobs(at)[job.ID].State)
	require.Equal(t, gave, jobs(at)[job.ID].Amount)
	for id, j := range jobs(at) {
		require.True(t, jobs(was)[id].StartAt.Equal(j.StartAt), "a tick moves nothing by itself")
	}
	now := followed(t, p)
	require.Equal(t, "done", jobs(now)[job.ID].State)
	require.Equal(t, gave, jobs(now)[job.ID].Amount)
	again := followed(t, open(t, m, afternoon))
	require.Equal(t, now.Number, again.Number)
	require.Equal(t, now.View, again.View)

	// Taken back.
	m.tick(planner.Tick{Task: job.Steps[0].Task, Batch: job.ID, At: afternoon})
	at, err = p.Prep(t.Context())
	require.NoError(t, err)
	require.NotEqual(t, "done", jobs(at)[job.ID].State)
}

// The clock moves on what was not begun; a plan in which nothing moves is not told again.
func TestTheClockMovesOnWhatWasNotBegun(t *testing.T) {
	m := small(t)
	first := followed(t, open(t, m, afternoon))
	later := open(t, m, afternoon.Add(4*time.Minute+59*time.Second))
	fresh, err := later.Prep(t.Context())
	require.NoError(t, err)
	require.False(t, fresh.Following, "it is fresh for five minutes")
	require.Equal(t, first.Number, fresh.Number)
	// Where everything is done the hours go by, and nothing is told.
	done := small(t)
	for _, j := range followed(t, open(t, done, afternoon)).View.Jobs {
		for _, x := range j.Steps {
			done.tick(planner.Tick{Task: x.Task, Batch: j.ID, Done: true, At: afternoon})
		}
	}
	number := followed(t, open(t, done, afternoon)).Number
	require.Equal(t, number, followed(t, open(t, done, afternoon.Add(time.Hour))).Number)

	later = open(t, m, afternoon.Add(time.Hour))
	old, err := later.Prep(t.Context())
	require.NoError(t, err)
	require.True(t, old.Following)
	require.Equal(t, first.Number, old.Number)
	next := followed(t, later)
	require.Equal(t, planner.Clock, next.Kind)
	require.Equal(t, first.Number+1, next.Number)
	for _, j := range next.View.Jobs {
		for _, s := range j.Steps {
			require.False(t, s.StartAt.Before(afternoon.Add(time.Hour)) && !s.Done && !s.Begun, "%s begins in the past", s.Task)
		}
	}
}

// An edit is followed before the answer, and says what it did.
func TestPrepFollowsAnEdit(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	was := followed(t, p)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) {
		for i := range tonight(d).Tables {
			tonight(d).Tables[i].Covers = 40
		}
	})
	now, err := p.Prep(t.Context())
	require.NoError(t, err)
	require.Equal(t, was.Number+1, now.Number)
	require.Equal(t, planner.Change, now.Kind)
	require.Contains(t, now.Said.Text, "batches, was")
	require.Greater(t, len(now.View.Jobs), len(was.View.Jobs))
	for id := range jobs(was) {
		require.Contains(t, jobs(now), id, "a batch keeps its id when others are added")
	}
}
