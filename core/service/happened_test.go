package service_test

import (
	"context"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/service"
	"jointime/core/verify"
	"jointime/core/workload"
	"jointime/demo"
)

// demoNight is the demo's evening with a plan.
var demoNight = sync.OnceValue(func() (n struct {
	e    *expand.Evening
	told *workload.Schedule
	view *expand.EveningPlan
}) {
	d, err := demo.Kitchen()
	if err != nil {
		panic(err)
	}
	d.Services = demo.Services(time.Date(2026, 5, 14, 0, 0, 0, 0, time.UTC))
	b, err := kitchen.NewBook(d)
	if err != nil {
		panic(err)
	}
	s, ok := b.Service(demo.Tonight)
	if !ok {
		panic("no service")
	}
	if n.e, err = expand.NewEvening(b, s, true); err != nil {
		panic(err)
	}
	n.told = schedule.Solve(context.Background(), n.e.Workload, schedule.Options{Seed: 1, Rounds: 2000, Anyway: true})
	n.view = n.e.Read(n.told)
	return n
})

// again plans again after some events, and says how many open runs moved; everything is checked by the judge.
func again(t *testing.T, now time.Time, log ...service.Event) (w *workload.Workload, s *workload.Schedule, moved int) {
	t.Helper()
	n := demoNight()
	open := service.Event{ID: "open-now", Kind: service.Opened, At: n.view.From.Add(-time.Hour), ReceivedAt: n.view.From.Add(-time.Hour)}
	state := service.Fold(append([]service.Event{open}, log...))
	require.Empty(t, state.Settle)
	w = service.Happened(n.e, n.told, service.PlanOf(1, n.view), state, now)
	require.NoError(t, workload.Check(w))
	s = schedule.Solve(t.Context(), w, schedule.Options{Seed: 1, Rounds: 20, Anyway: true, Previous: n.told, MovePrice: 2})
	broken, err := verify.Check(w, s)
	require.NoError(t, err)
	if s.Status != workload.BestEffort {
		require.Empty(t, broken)
	} else {
		for i, b := range s.Broken {
			if i < 6 {
				t.Logf("broken %+v", b)
			}
		}
		x := schedule.Solve(t.Context(), w, schedule.Options{Seed: 1, Rounds: 60})
		t.Log(len(s.Broken), "broken", x.Status, x.Broken)
	}
	fixed, was := w.FixedTasks(), map[string]int64{}
	for _, r := range n.told.Tasks {
		was[r.ID] = r.Start
	}
	for _, r := range s.Tasks {
		if f := fixed[r.ID]; f != nil {
			require.Equal(t, f.Start, r.Start, "nothing begun moves")
		} else {
			require.GreaterOrEqual(t, r.Start, *w.Now, "nothing is fired in the past")
			if r.Start != was[r.ID] {
				moved++
			}
		}
	}
	return w, s, moved
}

// runAt is a run of a section that begins nearest after an instant, and how it is said to be fired.
func runAt(t *testing.T, section string, after time.Time) service.PlanRun {
	t.Helper()
	var best *service.PlanRun
	p := service.PlanOf(1, demoNight().view)
	for i := range p.Runs {
		r := &p.Runs[i]
		if r.Section == section && r.From.After(after) && (best == nil || r.From.Before(best.From)) && r.To.Sub(r.From) > time.Minute {
			best = r
		}
	}
	require.NotNil(t, best)
	return *best
}

func said(kind service.Kind, at time.Time, r service.PlanRun, change func(e *service.Event)) service.Event {
	e := service.Event{ID: string(kind) + "-" + r.Task, Kind: kind, At: at, ReceivedAt: at, Device: r.Section,
		Facts: service.Facts{Task: r.Task,
			Component: r.Component, Step: r.Step, Section: r.Section, Portions: r.Portions, Joins: r.Joins}}
	if change != nil {
		change(&e)
	}
	return e
}

// Where nobody says anything, all has gone as planned: what began before now is where it was told, and nothing of the rest moves.
func TestSilenceMovesNothing(t *testing.T) {
	n := demoNight()
	for _, after := range []time.Duration{30 * time.Minute, 75 * time.Minute, 2 * time.Hour} {
		now := n.view.From.Add(after)
		w, _, moved := again(t, now)
		begun := 0
		for _, r := range n.told.Tasks {
			if f := w.FixedTasks()[r.ID]; f != nil {
				require.Equal(t, r.Start, f.Start)
				begun++
			} else if ref, _ := n.e.RefOf(r.ID); ref.Main == "" {
				require.Greater(t, r.Start, *w.Now-1, "what was to begin has begun: %s", r.ID)
			}
		}
		require.Positive(t, begun)
		require.LessOrEqual(t, moved, 3, "%s", after)
	}
}

// A pan that needs three minutes more stays where it is for so long, and only what it touches moves.
func TestThreeMinutesMore(t *testing.T) {
	r := runAt(t, "fish", demoNight().view.From.Add(time.Hour))
	now := r.To.Add(-30 * time.Second)
	w, s, moved := again(t, now, said(service.Fired, r.From, r, nil), said(service.More, now, r, func(e *service.Event) { e.Minutes = 3 }))
	f := w.FixedTasks()[r.Task]
	require.NotNil(t, f)
	require.Equal(t, int64(now.Add(3*time.Minute).Sub(demoNight().e.Origin)/time.Second), *f.Finish)
	open := len(s.Tasks) - len(w.FixedTasks())
	t.Log("open", open, "moved", moved)
	require.Less(t, moved, open/4)
}

// A section that taps and did not fire what is due: it has not begun, and is planned from now on. What was dropped is made anew.
func TestWhatWasNotFiredIsStillToDo(t *testing.T) {
	r := runAt(t, "fish", demoNight().view.From.Add(time.Hour))
	other := runAt(t, "fish", r.From.Add(-25*time.Minute)) // of late enough for the section to be one that taps
	require.NotEqual(t, r.Task, other.Task)
	now := r.From.Add(time.Minute)
	w, _, _ := again(t, now, said(service.Fired, other.From, other, nil))
	require.Nil(t, w.FixedTasks()[r.Task])
	require.NotNil(t, w.FixedTasks()[other.Task])
	w, _, _ = again(t, now)
	require.NotNil(t, w.FixedTasks()[r.Task], "where nobody taps the clock stands in")
	fired := said(service.Fired, r.From, r, nil)
	w, s, _ := again(t, now, fired, said(service.Again, now, r, func(e *service.Event) { e.Portions, e.Why = 1, "dropped" }))
	require.Nil(t, w.FixedTasks()[r.Task])
	for _, x := range s.Tasks {
		if x.ID == r.Task {
			require.GreaterOrEqual(t, x.Start, *w.Now)
		}
	}
}

// What has left is done, whatever was said of it; what was fired later than planned ends later.
func TestWhatHasLeftIsDone(t *testing.T) {
	n := demoNight()
	j := n.view.Joins[0]
	now := j.At.Add(time.Minute)
	w, _, _ := again(t, now, service.Event{ID: "sent-first", Kind: service.Sent, At: now, ReceivedAt: now,
		Facts: service.Facts{Table: j.Table, Course: j.Course}})
	for _, r := range service.PlanOf(1, n.view).Runs {
		if len(r.Joins) == 1 && r.Joins[0] == (service.TableCourse{Table: j.Table, Course: j.Course, Round: j.Round}) {
			require.NotNil(t, w.FixedTasks()[r.Task])
		}
	}
	r := runAt(t, "garnish", n.view.From.Add(time.Hour))
	late := r.From.Add(20 * time.Second)
	w, _, _ = again(t, late.Add(10*time.Second), said(service.Fired, late, r, nil))
	f := w.FixedTasks()[r.Task]
	require.Equal(t, int64(late.Sub(n.e.Origin)/time.Second), f.Start)
	require.Equal(t, int64(r.To.Add(20*time.Second).Sub(n.e.Origin)/time.Second), *f.Finish)
}

// A course that is left out asks for nothing any more; what was begun for it stays, and so does what others share.
func TestWhatIsLeftOut(t *testing.T) {
	n := demoNight()
	j := n.view.Joins[len(n.view.Joins)-1]
	key := service.TableCourse{Table: j.Table, Course: j.Course, Round: j.Round}
	now := n.view.From.Add(30 * time.Minute)
	w, s, moved := again(t, now, service.Event{ID: "skipped-1", Kind: service.Skipped, At: now, ReceivedAt: now,
		Facts: service.Facts{Table: j.Table, Course: j.Course}})
	there := map[string]bool{}
	for _, task := range w.Tasks {
		there[task.ID] = true
	}
	gone := 0
	for _, r := range service.PlanOf(1, n.view).Runs {
		alone := len(r.Joins) == 1 && r.Joins[0] == key
		require.Equal(t, !alone, there[r.Task], r.Task)
		if alone {
			gone++
		}
	}
	require.Positive(t, gone)
	require.LessOrEqual(t, moved, 20)
	whole := service.Whole(n.told, s)
	require.Len(t, whole.Tasks, len(n.told.Tasks))
	require.NotPanics(t, func() { n.e.Read(whole) })
}
