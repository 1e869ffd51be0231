package demo_test

import (
	"context"
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
// judge finds nothing in the plans, and the banquet's batches serve several rounds.
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
		for _, r := range p.Runs {
			if len(r.Joins) > 1 {
				shared++
			}
		}
		require.Equal(t, id == demo.Tomorrow, shared > 0)
		for _, l := range p.Loads {
			require.LessOrEqual(t, l.Peak, l.Capacity, l.Name)
		}
	}
}
