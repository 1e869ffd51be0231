// Package demotest has the demo's evening ready for tests.
package demotest

import (
	"context"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
	"jointime/demo"
)

// Planned is the demo's evening of a day in May with its first tables, and a plan that so many rounds find. It panics where the demo cannot
// be planned.
func Planned(tables, rounds int) (*expand.Evening, *workload.Schedule) {
	d, err := demo.Kitchen()
	if err != nil {
		panic(err)
	}
	d.Services = demo.Services(time.Date(2026, 5, 15, 0, 0, 0, 0, time.UTC))
	b, err := kitchen.NewBook(d)
	if err != nil {
		panic(err)
	}
	s, _ := b.Service(demo.Tonight)
	some := *s
	some.Tables = some.Tables[:tables]
	e, err := expand.NewEvening(b, &some, true)
	if err != nil {
		panic(err)
	}
	return e, schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: rounds, Anyway: true})
}

// Tables is how many tables the demo's evening has.
const Tables = 15
