package planner

import (
	"context"
	"slices"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
)

// WithTimes is the plan of a service that is shown, and what it would be if a component were written otherwise; nothing is told. The
// evening is nil where the service does not serve the component. Errors: those of Service.
func (p *Planner) WithTimes(ctx context.Context, id, component string, change func(*kitchen.Component)) (was *Plan, e *expand.Evening,
	s *workload.Schedule, err error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, nil, nil, err
	}
	was = shown.Plan
	d := was.in.data
	k := slices.IndexFunc(d.Components, func(c kitchen.Component) bool { return c.ID == component })
	if k < 0 {
		return was, nil, nil, nil
	}
	d.Components = slices.Clone(d.Components)
	c := d.Components[k].Clone()
	change(&c)
	d.Components[k] = c
	b, err := kitchen.NewBook(d)
	if err != nil {
		return nil, nil, nil, err
	}
	if e, err = expand.NewEvening(b, was.Evening.Service, true, d.Services[1:]...); err != nil {
		return nil, nil, nil, err
	}
	if err := workload.Check(e.Workload); err != nil {
		return nil, nil, nil, err // a fault of ours
	}
	o := schedule.Options{Seed: 1, Anyway: true, Rounds: practiceEffort.rounds, MovePrice: movePrice}
	if o.Previous, o.Loose, err = e.Follow(was.Evening.Workload, was.Schedule); err != nil {
		return nil, nil, nil, err
	}
	search, cancel := context.WithTimeout(ctx, practiceEffort.atMost*p.patience)
	defer cancel()
	s = schedule.Solve(search, e.Workload, o)
	return was, e, s, ctx.Err()
}
