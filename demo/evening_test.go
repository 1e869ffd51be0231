package demo_test

import (
	"context"
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
	"jointime/demo"
)

func book(t testing.TB) *kitchen.Book {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = demo.Services(time.Date(2026, 11, 26, 0, 0, 0, 0, time.UTC))
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	return b
}

// BenchmarkEvening plans the demo's services with the rounds of a first answer and of the
// better one behind it.
func BenchmarkEvening(b *testing.B) {
	house := book(b)
	for _, id := range []string{demo.Tonight, demo.Tomorrow} {
		s, _ := house.Service(id)
		for name, rounds := range map[string]int{"first": 3_000, "better": 30_000} {
			b.Run(id+"/"+name, func(b *testing.B) {
				for b.Loop() {
					e, err := expand.NewEvening(house, s, true)
					require.NoError(b, err)
					a := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: rounds, Anyway: true})
					p := e.Read(a)
					b.ReportMetric(float64(*a.Cost), "cost")
					b.ReportMetric(float64(advise.Lateness(p)), "late-s")
					b.ReportMetric(float64(advise.Overdue(p)), "over-s")
					b.ReportMetric(float64(len(e.Workload.Tasks)), "tasks")
				}
			})
		}
	}
}

// The demo's evenings keep every rule but the longest waits, which are dear there; the
// judge finds nothing in the plans, the banquet's batches serve several rounds, and of an evening only what stands on the
// stove is for several tables. Nothing is held minutes too long so that a table is not late.
func TestThePlansOfTheDemoKeepTheRules(t *testing.T) {
	house := book(t)
	for _, id := range []string{demo.Tonight, demo.Tomorrow} {
		s, _ := house.Service(id)
		e, err := expand.NewEvening(house, s, true)
		require.NoError(t, err)
		a := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: 6_000, Anyway: true})
		require.Equal(t, workload.Feasible, a.Status)
		broken, err := verify.Check(e.Workload, a)
		require.NoError(t, err)
		require.Empty(t, broken)
		shared := 0
		p := e.Read(a)
		pots := map[string]bool{}
		for _, c := range house.Components() {
			pots[c.Name] = c.Pot != nil
		}
		for _, r := range p.Runs {
			if len(r.Joins) > 1 {
				shared++
				require.True(t, id == demo.Tomorrow || pots[r.What], "%s is for several tables", r.What)
			}
		}
		require.Positive(t, shared)
		for _, j := range p.Joins {
			require.Less(t, j.OverS, int64(300), "%s: rather late than held much too long", j.ID)
		}
		for _, l := range p.Loads {
			require.LessOrEqual(t, l.Peak, l.Capacity, l.Name)
		}
	}
}

// weekend is 120 covers at three services over 60 components: the demo's, and three of its
// dishes again under other names.
func weekend(t testing.TB) *kitchen.Book {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	seen := map[string]bool{}
	again := func(id string) string {
		if !seen[id] {
			seen[id] = true
			i := slices.IndexFunc(d.Components, func(c kitchen.Component) bool { return c.ID == id })
			c := d.Components[i].Clone()
			c.ID, c.Name = c.ID+"-again", c.Name+" again"
			d.Components = append(d.Components, c)
		}
		return id + "-again"
	}
	var menu []kitchen.MenuLine
	for _, x := range d.Dishes {
		menu = append(menu, kitchen.MenuLine{Dish: x.ID, Share: 16})
	}
	for _, x := range slices.Clone(d.Dishes) {
		if len(d.Components) >= 60 {
			break
		}
		x.ID, x.Name = x.ID+"-again", x.Name+" again"
		x.Specification.Variants = []kitchen.Variant{}
		x.Specification.Elements = slices.Clone(x.Specification.Elements)
		for i := range x.Specification.Elements {
			if e := &x.Specification.Elements[i]; len(d.Components) < 60 || seen[e.Component] {
				e.Component = again(e.Component)
			}
		}
		d.Dishes = append(d.Dishes, x)
		menu = append(menu, kitchen.MenuLine{Dish: x.ID, Share: 16})
	}
	require.Len(t, d.Components, 60)
	d.Services = nil
	for k, name := range []string{"friday", "saturday", "sunday"} {
		s := demo.Services(time.Date(2026, 11, 27+k, 0, 0, 0, 0, time.UTC))[0]
		s.ID, s.Name, s.Menu, s.Tables = name, name, menu, s.Tables[:10]
		for i := range s.Tables {
			s.Tables[i].Covers, s.Tables[i].Needs = 4, []kitchen.GuestNeed{}
		}
		require.Equal(t, 40, s.Covers())
		d.Services = append(d.Services, s)
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	return b
}

// BenchmarkWeekend plans the make-ahead work of a weekend, and plans it again after one
// table more.
func BenchmarkWeekend(b *testing.B) {
	house := weekend(b)
	now := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	plan := func(b *testing.B, house *kitchen.Book, told *workload.Schedule, rounds int) *workload.Schedule {
		p, err := expand.NewPrep(house, house.Services(), now, nil, nil)
		require.NoError(b, err)
		s := schedule.Solve(context.Background(), p.Workload, schedule.Options{Seed: 1, Rounds: rounds, Anyway: true, Previous: told,
			MovePrice: 1})
		b.ReportMetric(float64(len(p.Workload.Tasks)), "tasks")
		b.ReportMetric(float64(*s.Cost), "cost")
		b.ReportMetric(float64(len(p.Read(s).Trouble)), "trouble")
		return s
	}
	var told *workload.Schedule
	b.Run("first", func(b *testing.B) {
		for b.Loop() {
			told = plan(b, house, nil, 6000)
		}
	})
	d := house.Data()
	d.Services[1].Tables = append(slices.Clone(d.Services[1].Tables), kitchen.ServiceTable{ID: "more", Name: "More", Covers: 6,
		SeatedAt: 20 * 60})
	changed, err := kitchen.NewBook(d)
	require.NoError(b, err)
	b.Run("again", func(b *testing.B) {
		for b.Loop() {
			plan(b, changed, told, 2000)
		}
	})
}

// BenchmarkEveningOf300 plans 300 covers at 100 tables: with the demo's six cooks, who
// cannot send them, and with six times as many hands and as much room. As the application
// does, with 3,000 rounds or two seconds.
func BenchmarkEveningOf300(b *testing.B) {
	for name, times := range map[string]int{"six-cooks": 1, "six-kitchens": 6} {
		b.Run(name, func(b *testing.B) {
			d := book(b).Data()
			s := d.Services[0]
			s.Tables = nil
			for i := range 100 {
				s.Tables = append(s.Tables, kitchen.ServiceTable{ID: fmt.Sprint("t", i), Name: fmt.Sprint("T", i), Covers: 3, SeatedAt: 18*60 + i*2})
			}
			d.Services = []kitchen.Service{s}
			for _, p := range d.People {
				for k := range times - 1 {
					p.ID = fmt.Sprintf("%s-%d", p.ID, k)
					d.People = append(d.People, p)
				}
			}
			for i := range d.Equipment {
				d.Equipment[i].Capacity *= times
			}
			house, err := kitchen.NewBook(d)
			require.NoError(b, err)
			for b.Loop() {
				e, err := expand.NewEvening(house, &house.Services()[0], true)
				require.NoError(b, err)
				ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
				a := schedule.Solve(ctx, e.Workload, schedule.Options{Seed: 1, Rounds: 3000, Anyway: true})
				cancel()
				p := e.Read(a)
				b.ReportMetric(float64(len(a.Tasks)), "tasks")
				b.ReportMetric(float64(len(p.Joins)), "joins")
				b.ReportMetric(float64(advise.Lateness(p))/60, "late-min")
				b.ReportMetric(float64(advise.Overdue(p))/60, "over-min")
			}
		})
	}
}
