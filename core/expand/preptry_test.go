package expand_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/demo"
)

func TestTryPrep(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	zone, _ := time.LoadLocation("Europe/Copenhagen")
	day := time.Date(2026, 5, 14, 0, 0, 0, 0, zone)
	d.Services = demo.Services(day)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	for _, back := range []int{72, 0} {
		now := day.Add(10*time.Hour - time.Duration(back)*time.Hour)
		start := time.Now()
		p, err := expand.NewPrep(b, b.Services(), now, nil)
		require.NoError(t, err)
		fmt.Println("expanded", time.Since(start), len(p.Workload.Tasks), "tasks", len(p.Workload.Links), "links", len(p.Amounts.Batches), "batches")
		for _, limit := range []time.Duration{300 * time.Millisecond, time.Second, 3 * time.Second} {
			ctx, cancel := context.WithTimeout(context.Background(), limit)
			start = time.Now()
			s := schedule.Solve(ctx, p.Workload, schedule.Options{Seed: 1, Anyway: true})
			cancel()
			fmt.Println(limit, time.Since(start), s.Status, *s.Cost, len(s.Broken), s.Search.Schedules)
			if limit == 3*time.Second {
				for _, x := range s.Broken {
					fmt.Println(x)
				}
				plan := p.Read(s)
				for _, j := range plan.Jobs {
					fmt.Println(j.StartAt.Format("Mon 15:04"), j.ReadyAt.Format("Mon 15:04"), j.StartBy.Format("Mon 15:04"), j.State, j.ID, j.Amount, j.Left, j.Unit, j.Portions, j.Container)
				}
				for _, x := range plan.Trouble {
					fmt.Println(x.Kind, x.Text, x.Helps)
				}
				fmt.Println(plan.Load)
			}
		}
	}
}
