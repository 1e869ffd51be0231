package planner_test

import (
	"context"
	"errors"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/planner"
)

const service = "tonight"

// An asker who leaves at once leaves the whole plan for the others: the same as one that
// somebody waited for.
func TestAnAskerWhoLeavesTruncatesNothing(t *testing.T) {
	waited := settled(t, open(t, small(t), afternoon), service)
	m := small(t)
	p := open(t, m, afternoon)
	for range 20 {
		ctx, cancel := context.WithTimeout(t.Context(), time.Millisecond)
		_, err := p.Service(ctx, service)
		cancel()
		if err != nil {
			require.ErrorIs(t, err, context.DeadlineExceeded)
		}
	}
	left := settled(t, p, service)
	require.Equal(t, waited.Plan.View.Cost, left.Plan.View.Cost)
	require.Equal(t, joins(waited), joins(left))
}

// After a restart, and on a second server on the same store, the same plan is shown to the
// second, under the same number, and nothing is computed for it.
func TestARestartMovesNothing(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	was := settled(t, p, service)
	told := m.tells
	second := open(t, m, afternoon.Add(time.Hour))
	there := settled(t, second, service)
	p.Close()
	again := settled(t, open(t, m, afternoon.Add(2*time.Hour)), service)
	for _, s := range []*planner.Shown{there, again} {
		require.Equal(t, was.Plan.Number, s.Plan.Number)
		require.Equal(t, was.Plan.View, s.Plan.View)
		require.Equal(t, was.Plan.Schedule.Tasks, s.Plan.Schedule.Tasks)
		require.Equal(t, was.Plan.Rounds, s.Plan.Rounds)
	}
	require.Equal(t, told, m.tells)
	at, err := open(t, m, afternoon).Service(t.Context(), service)
	require.NoError(t, err)
	require.False(t, at.Looking, "behind a plan that is settled nothing is looked for")
	_, err = p.Service(t.Context(), "tomorrow")
	require.ErrorIs(t, err, planner.ErrClosed)
}

// A server that ends while it looks for a better plan leaves that to the next.
func TestTheSearchBehindGoesOnAfterARestart(t *testing.T) {
	m := kitchenOf(t)
	p := open(t, m, afternoon)
	first, err := p.Service(t.Context(), service)
	require.NoError(t, err)
	require.True(t, first.Looking)
	p.Close()
	require.Empty(t, m.marks["service/tonight"])
	q := open(t, m, afternoon)
	again, err := q.Service(t.Context(), service)
	require.NoError(t, err)
	require.Equal(t, joins(first), joins(again))
	require.True(t, again.Looking)
	// How far it is goes up, and what it would save.
	far := 0.0
	for s := again; s.Looking; {
		require.GreaterOrEqual(t, s.Looked, 0.0)
		require.LessOrEqual(t, s.Looked, 1.0)
		require.GreaterOrEqual(t, s.Saves, int64(0))
		far = max(far, s.Looked)
		time.Sleep(5 * time.Millisecond)
		s, err = q.Service(t.Context(), service)
		require.NoError(t, err)
	}
	require.Positive(t, far)
	last := settled(t, q, service)
	require.Contains(t, m.marks["service/tonight"], last.Plan.Number)
	require.Less(t, last.Plan.View.Cost, first.Plan.View.Cost)
}

// Where nobody works by a plan, a cheaper one takes its place; where somebody does, only one
// that saves more than moving to it costs.
func TestWhatABetterPlanIsWorth(t *testing.T) {
	m := kitchenOf(t)
	p := open(t, m, afternoon)
	first, err := p.Service(t.Context(), service)
	require.NoError(t, err)
	last := settled(t, p, service)
	saves, moves := first.Plan.View.Cost-last.Plan.View.Cost, planner.Moved(first.Plan, last.Plan)
	require.Positive(t, moves)
	require.Positive(t, saves)
	require.True(t, planner.Worth(first.Plan, last.Plan, false, 0))
	require.False(t, planner.Worth(last.Plan, first.Plan, false, 0))
	require.False(t, planner.Worth(first.Plan, first.Plan, false, 0), "the same is not better")
	// The same schedules at other costs: on both sides of what moving costs.
	with := func(saves int64) *planner.Plan {
		out := *last.Plan
		out.View.Cost = first.Plan.View.Cost - saves
		return &out
	}
	require.False(t, planner.Worth(first.Plan, with(moves), true, 0))
	require.True(t, planner.Worth(first.Plan, with(moves+1), true, 0))
	require.True(t, planner.Worth(first.Plan, with(1), false, 0))
	// And of what it has to save at the least.
	tenth := first.Plan.View.Cost / 100 * 10
	require.False(t, planner.Worth(first.Plan, with(tenth-1), false, 10))
	require.True(t, planner.Worth(first.Plan, with(tenth), false, 10))
}

// What the plan does not depend on may change as it likes; a new name is shown at once.
func TestAnEditElsewhereMovesNothing(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	was := settled(t, p, service)
	told := m.tells
	for name, edit := range map[string]func(*kitchen.Data){
		"another service": func(d *kitchen.Data) {
			for i := range d.Services {
				if d.Services[i].ID != service {
					d.Services[i].Margin = 80
				}
			}
		},
		"a dish that is not on the menu": func(d *kitchen.Data) {
			d.Dishes = append(d.Dishes, kitchen.Dish{ID: "toast", Name: "Toast", Course: "first", State: kitchen.DraftDish,
				Specification: d.Dishes[0].Specification})
		},
		"a draft of a dish that is": func(d *kitchen.Data) {
			draft := d.Dishes[0].Specification
			draft.Elements, draft.Variants = draft.Elements[:1], nil
			d.Dishes[0].Draft = &draft
		},
		"something on hand": func(d *kitchen.Data) {
			d.Stock = append(d.Stock, kitchen.Stock{ID: "oil", Component: "dill-oil", Amount: 100, UseBy: afternoon.Add(48 * time.Hour)})
		},
		"the tick of a step": func(*kitchen.Data) { m.ticks["x"] = planner.Tick{Task: "x", Done: true, At: afternoon} },
	} {
		m.change(t, key("x/y"), edit)
		now := settled(t, p, service)
		require.Equal(t, joins(was), joins(now), name)
		require.Equal(t, was.Plan.Number, now.Plan.Number, name)
	}
	m.change(t, key("component/hake"), func(d *kitchen.Data) {
		d.Components[slices.IndexFunc(d.Components, func(c kitchen.Component) bool { return c.ID == "hake" })].Name = "Line-caught hake"
	})
	now := settled(t, p, service)
	require.Equal(t, joins(was), joins(now))
	require.Equal(t, was.Plan.Number, now.Plan.Number)
	require.True(t, slices.ContainsFunc(now.Plan.View.Runs, func(r expand.FireRun) bool { return r.What == "Line-caught hake" }))
	require.Equal(t, told, m.tells, "nothing was told for any of it")
	// After a restart the new name still stands on the old plan.
	again := settled(t, open(t, m, afternoon), service)
	require.Equal(t, now.Plan.View, again.Plan.View)
	require.Equal(t, told, m.tells)
}

// A table that comes ten minutes later moves its own courses, and little else; what else
// moves shares somebody or something with them.
func TestALaterTableMovesItsOwnCourses(t *testing.T) {
	if testing.Short() {
		t.Skip("a whole evening: not with -short")
	}
	m := kitchenOf(t)
	p := open(t, m, afternoon)
	before := settled(t, p, service)
	was, wished := joins(before), map[string]time.Time{}
	for _, j := range before.Plan.View.Joins {
		wished[j.ID] = j.WantedAt
	}
	for _, by := range []int{10, -10} {
		n := kitchenOf(t)
		n.records[`service/tonight`], n.marks = m.records[`service/tonight`], m.marks
		n.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables[4].SeatedAt += by })
		q := open(t, n, afternoon)
		s, err := q.Service(t.Context(), service)
		require.NoError(t, err)
		require.Equal(t, planner.Change, s.Plan.Kind)
		require.Contains(t, s.Plan.Said.Text, "Table 5 goes")
		own, others := 0, 0
		for _, j := range s.Plan.View.Joins {
			d := j.At.Sub(was[j.ID]).Abs()
			switch {
			case j.Table == "table-5":
				require.Equal(t, time.Duration(by)*time.Minute, j.WantedAt.Sub(wished[j.ID]))
				if d > 0 {
					own++
				}
			case d > 0:
				others++
				require.Less(t, d, 10*time.Minute, "%s moves no further than the table itself", j.ID)
				require.True(t, shares(s.Plan, j.ID, "table-5"), j.ID)
			}
		}
		require.GreaterOrEqual(t, own, 3, "of its four courses")
		require.LessOrEqual(t, others, 16, "of 56; at most 13 when this was written: hands at the ends of every pan tie more of them together")
	}
}

// shares reports whether a join uses somebody or something that a table uses.
func shares(p *planner.Plan, join, table string) bool {
	of := map[string]bool{}
	uses := func(mine func(expand.TaskRef) bool, each func(resource string) bool) bool {
		for _, r := range p.Schedule.Tasks {
			if ref := p.Evening.Refs()[r.ID]; mine(ref) {
				for _, x := range r.Resources {
					if each(x) {
						return true
					}
				}
			}
		}
		return false
	}
	at := func(id string) string { c, _ := p.Evening.CourseByID(id); return c.Table }
	uses(func(r expand.TaskRef) bool {
		return slices.ContainsFunc(r.Joins, func(j string) bool { return at(j) == table })
	}, func(x string) bool { of[x] = true; return false })
	return uses(func(r expand.TaskRef) bool { return slices.Contains(r.Joins, join) }, func(x string) bool { return of[x] })
}

// longer makes a step of a component take longer.
func longer(t testing.TB, m *memory, component string, seconds int) {
	m.change(t, kitchen.Key{Kind: "component", ID: component}, func(d *kitchen.Data) {
		c := &d.Components[slices.IndexFunc(d.Components, func(c kitchen.Component) bool { return c.ID == component })]
		for i := range c.Steps {
			if s := &c.Steps[i]; s.Phase == kitchen.PickUp {
				s.Time.Fixed.Low, s.Time.Fixed.Likely, s.Time.Fixed.High = s.Time.Fixed.Low+seconds, s.Time.Fixed.Likely+seconds,
					s.Time.Fixed.High+seconds
				return
			}
		}
	})
}

// Before anybody works by the plan, it follows an edit of a dish by itself. Once it is
// printed it stays, and says what following would do; taken, that is the next plan. Changing
// the service itself is followed all the same, and what was not taken is still offered.
func TestAPlanThatIsHeldAsks(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	first := settled(t, p, service)
	require.False(t, first.Held)
	longer(t, m, "hake", 20)
	followed := settled(t, p, service)
	require.Greater(t, followed.Plan.Number, first.Plan.Number)
	require.Nil(t, followed.Offer)

	require.ErrorIs(t, p.Print(t.Context(), service, followed.Plan.Number+1), planner.ErrNotOffered)
	require.NoError(t, p.Print(t.Context(), service, followed.Plan.Number))
	longer(t, m, "hake", 30)
	held := offered(t, p)
	require.True(t, held.Held)
	require.Equal(t, followed.Plan.Number, held.Plan.Number)
	require.Equal(t, joins(followed), joins(held))
	require.Equal(t, []string{"Hake, roasted"}, held.Offer.Changed)
	list, err := p.Pending(t.Context())
	require.NoError(t, err)
	require.Len(t, list, 1)
	require.Equal(t, held.Offer.Said, list[0].Offer.Said)

	m.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables[2].SeatedAt += 10 })
	moved := offered(t, p)
	require.Greater(t, moved.Plan.Number, held.Plan.Number)
	require.Equal(t, planner.Change, moved.Plan.Kind)
	require.Contains(t, moved.Plan.Said.Text, "Table 3 goes")
	require.Equal(t, held.Plan.Number, moved.Plan.OnPaper, "the paper has an older plan")

	used, err := p.Use(t.Context(), service)
	require.NoError(t, err)
	require.Equal(t, planner.Used, used.Plan.Kind)
	require.Equal(t, moved.Offer.Said, used.Plan.Said)
	require.Nil(t, settled(t, p, service).Offer)
	_, err = p.Use(t.Context(), service)
	require.ErrorIs(t, err, planner.ErrNotOffered)

	// Put back as it was, there is nothing to ask.
	longer(t, m, "hake", 30)
	require.NotNil(t, offered(t, p).Offer)
	longer(t, m, "hake", -30)
	require.Nil(t, settled(t, p, service).Offer)
}

func offered(t testing.TB, p *planner.Planner) *planner.Shown {
	t.Helper()
	for {
		s := settled(t, p, service)
		if s.Offer != nil && s.Offer.Said.Said() {
			return s
		}
		time.Sleep(5 * time.Millisecond)
	}
}

// A service begins with its first fire, by the clock.
func TestAServiceThatHasBegunAsks(t *testing.T) {
	m := small(t)
	begins := settled(t, open(t, m, afternoon), service).Plan.View.From
	longer(t, m, "hake", 20)
	before, err := open(t, m, begins.Add(-time.Second)).Service(t.Context(), service)
	require.NoError(t, err)
	require.False(t, before.Held)
	require.Equal(t, planner.Change, before.Plan.Kind)
	begins = before.Plan.View.From
	number := int64(len(m.records["service/tonight"]))
	longer(t, m, "hake", 20)
	after := offered(t, open(t, m, begins))
	require.True(t, after.Held)
	require.GreaterOrEqual(t, after.Plan.Number, number)
	require.Equal(t, []string{"Hake, roasted"}, after.Offer.Changed)
}

// Made again it is as if none had been told: the same as the first.
func TestMadeAgain(t *testing.T) {
	m := small(t)
	first, err := open(t, m, afternoon).Service(t.Context(), service)
	require.NoError(t, err)
	p := open(t, m, afternoon)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables[0].SeatedAt += 30 })
	settled(t, p, service)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables[0].SeatedAt -= 30 })
	settled(t, p, service)
	again, err := p.Again(t.Context(), service)
	require.NoError(t, err)
	require.Equal(t, planner.Again, again.Plan.Kind)
	require.Equal(t, first.Plan.Schedule.Tasks, again.Plan.Schedule.Tasks)
	require.Equal(t, []int{planner.FirstRounds()}, again.Plan.Rounds)
}

// A mend that was tried is what is kept; other mends are not offered for that plan.
func TestAMendThatWasTriedIsKept(t *testing.T) {
	m := small(t)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) {
		s := tonight(d)
		s.Menu = []kitchen.MenuLine{{Dish: "guinea-fowl-barley", Share: 100}}
		for i := range s.Tables {
			s.Tables[i].Covers, s.Tables[i].SeatedAt, s.Tables[i].Needs = 8, 19*60, []kitchen.GuestNeed{}
		}
	})
	p := open(t, m, afternoon)
	list, err := p.Mends(t.Context(), service)
	require.NoError(t, err)
	require.NotEmpty(t, list)
	tried, changed, err := p.Tried(t.Context(), service, list[0].ID)
	require.NoError(t, err)
	base := settled(t, p, service)
	require.Equal(t, list[0].SavesS, base.Plan.View.Cost-tried.Plan.View.Cost, "the saving promised is the difference of the two plans")
	m.change(t, key("service/tonight"), func(d *kitchen.Data) { *tonight(d) = changed })
	kept, err := p.Service(t.Context(), service)
	require.NoError(t, err)
	require.Equal(t, planner.Mended, kept.Plan.Kind)
	require.Equal(t, joins(tried), joins(kept))
	require.Equal(t, tried.Plan.Said, kept.Plan.Said)
	_, _, err = p.Tried(t.Context(), service, list[0].ID)
	require.ErrorIs(t, err, planner.ErrNotOffered)
}

// Two servers that follow the same change at once tell it once, and show the same.
func TestTwoServersTellOnce(t *testing.T) {
	m := small(t)
	a, b := open(t, m, afternoon), open(t, m, afternoon)
	number := settled(t, a, service).Plan.Number
	settled(t, b, service)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables[1].SeatedAt += 15 })
	var wg sync.WaitGroup
	var x, y *planner.Shown
	wg.Go(func() { x = settled(t, a, service) })
	wg.Go(func() { y = settled(t, b, service) })
	wg.Wait()
	x, y = settled(t, a, service), settled(t, b, service)
	require.Equal(t, x.Plan.Number, y.Plan.Number)
	require.Equal(t, x.Plan.View, y.Plan.View)
	require.Greater(t, x.Plan.Number, number)
	m.mu.Lock()
	defer m.mu.Unlock()
	changes := 0
	for _, r := range m.records["service/tonight"] {
		if r.Kind == planner.Change {
			changes++
		}
	}
	require.Equal(t, 1, changes)
}

// A service that is deleted is gone, with what was being computed for it; one that comes
// under its name again is planned anew.
func TestADeletedServiceLeavesNothing(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	_, err := p.Service(t.Context(), service)
	require.NoError(t, err)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) {
		d.Services = slices.DeleteFunc(d.Services, func(s kitchen.Service) bool { return s.ID == service })
	})
	_, err = p.Service(t.Context(), service)
	require.ErrorIs(t, err, planner.ErrNoService)
	k, err := m.Kitchen(t.Context())
	require.NoError(t, err)
	for _, s := range k.Book.Coming(afternoon) {
		require.NotEqual(t, service, s.ID)
	}
	_, err = p.Mends(t.Context(), service)
	require.ErrorIs(t, err, planner.ErrNoService)
	list, err := p.Pending(t.Context())
	require.NoError(t, err)
	require.Empty(t, list)
}

// A service that nobody can cook is refused with what is missing, and planned when it is
// there again.
func TestAServiceThatCannotBePlanned(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	whole := m.data.People
	m.change(t, key("person/x"), func(d *kitchen.Data) {
		for i := range d.People {
			d.People[i].Sections = []string{"pass"}
		}
	})
	_, err := p.Service(t.Context(), service)
	var faults kitchen.Faults
	require.True(t, errors.As(err, &faults), "%v", err)
	m.change(t, key("person/x"), func(d *kitchen.Data) { d.People = whole })
	_, err = p.Service(t.Context(), service)
	require.NoError(t, err)
}

// Twenty people read, edit, tick, try and print at once: every answer is a whole plan, and in
// the end all see the same.
func TestTwentyAtOnce(t *testing.T) {
	m := small(t)
	p := open(t, m, afternoon)
	var wg sync.WaitGroup
	for i := range 20 {
		wg.Go(func() {
			for k := range 4 {
				ctx, cancel := context.WithTimeout(t.Context(), time.Duration(1+(i*7+k*13)%40)*50*time.Millisecond)
				var err error
				switch i % 5 {
				case 0:
					m.change(t, key("service/tonight"), func(d *kitchen.Data) { tonight(d).Tables[i%3].SeatedAt += 1 })
				case 1:
					_, err = p.Mends(ctx, service)
				case 2:
					m.tick(planner.Tick{Task: "x", Done: k%2 == 0, At: afternoon})
					_, err = p.Prep(ctx)
				case 3:
					if k == 3 {
						err = p.Print(ctx, service, 1)
						break
					}
					_, err = p.Again(ctx, service)
				default:
					var s *planner.Shown
					if s, err = p.Service(ctx, service); err == nil && len(s.Plan.View.Joins) != 12 {
						t.Errorf("%d joins", len(s.Plan.View.Joins))
					}
				}
				cancel()
				if err != nil && !errors.Is(err, context.DeadlineExceeded) && !errors.Is(err, planner.ErrNotOffered) {
					t.Error(err)
				}
			}
		})
	}
	wg.Wait()
	last := settled(t, p, service)
	require.Equal(t, joins(last), joins(settled(t, open(t, m, afternoon), service)))
}
