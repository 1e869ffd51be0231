package planner

import (
	"context"
	"time"
)

// pastEffort plans a service that is over: nobody waits for it.
var pastEffort = effort{rounds: 300, atMost: 20 * time.Second}

// Recorded is the plan of a service that a record was loaded for: told once, and not looked at further. Errors: those of Service.
func (p *Planner) Recorded(ctx context.Context, id string) (*Plan, error) {
	k, err := p.store.Kitchen(ctx)
	if err != nil {
		return nil, err
	}
	list, err := servicesOf(k, id)
	if err != nil {
		return nil, err
	}
	in, err := inputsOf(k, list[:1], false)
	if err != nil {
		return nil, err
	}
	plan, err := p.solve(ctx, in, nil, 0, pastEffort)
	if err != nil {
		return nil, err
	}
	e := p.entry(id)
	plan.Number, plan.Kind, plan.MadeAt, plan.settled = 1, First, p.clock(), true
	if err := p.write(ctx, e, plan); err != nil {
		return nil, err
	}
	return plan, p.settle(ctx, e, plan)
}

// ToldPlan is a plan of a service as it was told, by its number. Errors: store's not found, errOtherProgram.
func (p *Planner) ToldPlan(ctx context.Context, id string, number int64) (*Plan, error) {
	r, err := p.store.Record(ctx, p.entry(id).subject, number)
	if err != nil {
		return nil, err
	}
	return told(r, Head{Number: number, Settled: true}, nil, nil)
}
