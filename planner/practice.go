package planner

import (
	"context"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
)

// Practice plans a part of a service by itself, for somebody to train at: part says which, from the plan that is shown, and whether there
// is any. The service's own plan stays as it is, and nothing is written down; it is nil where there is no such part. Errors: those of
// Service.
func (p *Planner) Practice(ctx context.Context, id string,
	part func(*Plan) (kitchen.Service, bool)) (*expand.Evening, *workload.Schedule, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	svc, some := part(shown.Plan)
	if !some {
		return nil, nil, nil
	}
	if len(svc.Tables) == len(shown.Plan.Evening.Service.Tables) {
		return shown.Plan.Evening, shown.Plan.Schedule, nil
	}
	e, err := expand.NewEvening(shown.Plan.in.book, &svc, true)
	if err != nil {
		return nil, nil, err
	}
	if err := workload.Check(e.Workload); err != nil {
		return nil, nil, err // a fault of ours
	}
	search, cancel := context.WithTimeout(ctx, practiceEffort.atMost*p.patience)
	defer cancel()
	s := schedule.Solve(search, e.Workload, schedule.Options{Seed: 1, Anyway: true, Rounds: practiceEffort.rounds})
	return e, s, ctx.Err()
}

// practiceEffort plans a part of a service while somebody waits for it to begin.
var practiceEffort = effort{rounds: 400, atMost: 5 * time.Second}
