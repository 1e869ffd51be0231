package planner

import (
	"context"
	"errors"

	"jointime/core/advise"
	"jointime/core/schedule"
)

// lookBehind begins the search behind a plan; the lock is held.
func (p *Planner) lookBehind(e *entry, plan *Plan) {
	if e.goesOn != nil {
		return // it would not know what has begun
	}
	run, stop := context.WithCancel(p.life)
	ended := make(chan struct{})
	e.stop, e.ended, e.looked = stop, ended, schedule.Progress{}
	before := e.before
	by := p.byBetter
	by.tell = func(far schedule.Progress) {
		e.mu.Lock()
		defer e.mu.Unlock()
		if e.ended == ended {
			far.Gains = nil // they hold during the call only
			e.looked = far
		}
	}
	p.background("a better plan of "+e.subject, func() error {
		defer func() {
			stop()
			e.mu.Lock()
			if e.ended == ended {
				e.ended, e.stop = nil, nil
			}
			e.mu.Unlock()
			close(ended)
		}()
		select {
		case p.behind <- struct{}{}:
			defer func() { <-p.behind }()
		case <-run.Done():
			return nil
		}
		price := int64(movePrice)
		if plan.Kind == First || plan.Kind == Again {
			price = 0 // it was made from nothing: nobody has seen it for long
		}
		found, err := p.solve(run, plan.in, plan, price, by)
		if errors.Is(err, errSuperseded) {
			return nil
		}
		if err != nil {
			return err
		}
		return p.better(run, e, plan, before, found, p.byBetter)
	})
}

// better tells what was found behind a plan, if it is worth it and still wanted.
func (p *Planner) better(ctx context.Context, e *entry, plan, before, found *Plan, by effort) error {
	k, err := p.store.Kitchen(ctx)
	if err != nil {
		return err
	}
	in, err := p.inputs(ctx, e, k)
	if err != nil {
		return nil // the service is gone
	}
	head, err := p.store.Head(ctx, e.subject)
	if err != nil {
		return err
	}
	held := head.Printed != nil || plan.Begun(p.clock())
	e.mu.Lock()
	goesOn := e.goesOn
	e.mu.Unlock()
	if goesOn != nil || head.Number != plan.Number || in.hash != plan.in.hash && !held {
		return nil // something was changed meanwhile; what follows has a search of its own
	}
	if !worth(plan, found, held) {
		return p.settle(ctx, e, plan)
	}
	out := *found
	out.Number, out.Kind, out.MadeAt, out.Printed, out.OnPaper = plan.Number+1, Better, p.clock(), head.Printed, head.OnPaper
	out.Rounds = after(plan.Rounds, found, by)
	if before != nil {
		out.Said = advise.EveningDifference(&before.View, &out.View)
	}
	if err := p.write(ctx, e, &out); err != nil {
		if errors.Is(err, ErrBehind) || errors.Is(err, errSuperseded) {
			return nil
		}
		return err
	}
	e.mu.Lock()
	if e.plan != nil && e.plan.Number == plan.Number {
		e.stop = nil // this search: it has ended
		e.ended = nil
		e.adopt(&out, before)
	}
	e.mu.Unlock()
	return p.settle(ctx, e, &out)
}

// worth reports whether a plan that was found takes the place of another: when it costs
// less, and where somebody works by that, when it saves more than moving costs.
func worth(plan, found *Plan, held bool) bool {
	cost := found.View.Cost
	if held {
		cost += moved(plan, found)
	}
	return cost < plan.View.Cost
}

// settle marks a plan behind which nothing better is looked for any more.
func (p *Planner) settle(ctx context.Context, e *entry, plan *Plan) error {
	if err := p.store.Mark(ctx, e.subject, plan.Number, Settled); err != nil {
		return err
	}
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.plan != nil && e.plan.Number == plan.Number {
		settled := *e.plan
		settled.settled = true
		e.plan = &settled
	}
	return nil
}

// Settled is what is shown of a service once nothing better is looked for. Errors: those of Service.
func (p *Planner) Settled(ctx context.Context, id string) (*Shown, error) {
	for {
		shown, err := p.Service(ctx, id)
		if err != nil {
			return nil, err
		}
		e := p.entry(id)
		e.mu.Lock()
		ended := e.ended
		e.mu.Unlock()
		if ended == nil {
			return p.Service(ctx, id)
		}
		select {
		case <-ended:
		case <-ctx.Done():
			return shown, ctx.Err()
		}
	}
}
