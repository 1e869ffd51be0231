package planner

import (
	"context"
	"errors"

	"jointime/core/advise"
	"jointime/core/schedule"
)

// look is one search behind a plan.
type look struct {
	effort
	price int64 // of a second by which what the plan says moves
	saves int64 // how much cheaper a plan has to be at the least to be told, in hundredths of the cost
	free  bool  // only while nobody holds the plan
}

// anewSaves is what a plan has to save that was made without regard for what was told before, in hundredths: whoever has just changed a
// table sees all others move by it.
const anewSaves = 10

// looks are the searches behind a plan: near what was told, and then, while nobody holds it, without regard for that. A plan that only
// ever follows the one before stays in the order of work of the first few tables: the demo's evening, of which the tables came one by one,
// cost four times as much as made at once.
func (p *Planner) looks(kind Kind) []look {
	near, anew := look{effort: p.byBetter, price: movePrice}, look{effort: p.byAnew, saves: anewSaves, free: true}
	if kind == First || kind == Again {
		near.price, anew.saves = 0, 0 // it was made from nothing: nobody has seen it for long
	}
	return []look{near, anew}
}

// lookAgain looks behind a plan as behind one that was made from nothing; false where another has been told meanwhile.
func (p *Planner) lookAgain(e *entry, plan *Plan) bool {
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.plan == nil || e.plan.Number != plan.Number {
		return false
	}
	if e.stop != nil {
		e.stop()
		e.stop, e.ended = nil, nil
	}
	e.before = e.plan
	p.lookBehind(e, e.plan, Again)
	return true
}

// lookBehind begins the searches behind a plan, as they are behind one of a kind; the lock is held.
func (p *Planner) lookBehind(e *entry, plan *Plan, kind Kind) {
	if e.goesOn != nil {
		return // it would not know what has begun
	}
	run, stop := context.WithCancel(p.life)
	ended := make(chan struct{})
	looks := p.looks(kind)
	e.stop, e.ended, e.looking, e.looked = stop, ended, looks, schedule.Progress{}
	before := e.before
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
		for len(looks) > 0 && plan != nil {
			var err error
			if plan, err = p.lookOnce(run, e, ended, plan, before, looks[0]); err != nil {
				return err
			}
			looks = looks[1:]
			e.mu.Lock()
			if e.ended == ended {
				e.looking, e.looked = looks, schedule.Progress{}
			}
			e.mu.Unlock()
		}
		if plan == nil {
			return nil
		}
		return p.settle(run, e, plan)
	})
}

// lookOnce looks for a better plan once, and returns the one that stands then; nil where nothing more is to be looked for behind it.
func (p *Planner) lookOnce(run context.Context, e *entry, ended chan struct{}, plan, before *Plan, l look) (*Plan, error) {
	select {
	case p.behind <- struct{}{}:
		defer func() { <-p.behind }()
	case <-run.Done():
		return nil, nil
	}
	if l.free {
		head, err := p.store.Head(run, e.subject)
		if err != nil {
			return nil, err
		}
		if head.Printed != nil || plan.Begun(p.clock()) {
			return plan, nil
		}
	}
	l.tell = func(far schedule.Progress) {
		e.mu.Lock()
		defer e.mu.Unlock()
		if e.ended == ended {
			far.Gains = nil // they hold during the call only
			e.looked = far
		}
	}
	found, err := p.solve(run, plan.in, plan, l.price, l.effort)
	if errors.Is(err, errSuperseded) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return p.better(run, e, plan, before, found, l)
}

// better tells what was found behind a plan, if it is worth it and still wanted. It returns the plan that stands then; nil where something
// was changed meanwhile, since what follows has a search of its own.
func (p *Planner) better(ctx context.Context, e *entry, plan, before, found *Plan, l look) (*Plan, error) {
	k, err := p.store.Kitchen(ctx)
	if err != nil {
		return nil, err
	}
	in, err := p.inputs(ctx, e, k)
	if err != nil {
		return nil, nil // the service is gone
	}
	head, err := p.store.Head(ctx, e.subject)
	if err != nil {
		return nil, err
	}
	held := head.Printed != nil || plan.Begun(p.clock())
	e.mu.Lock()
	goesOn := e.goesOn
	e.mu.Unlock()
	if goesOn != nil || head.Number != plan.Number || in.hash != plan.in.hash && !held {
		return nil, nil
	}
	if !worth(plan, found, held, l.saves) {
		return plan, nil
	}
	out := *found
	out.Number, out.Kind, out.MadeAt, out.Printed, out.OnPaper = plan.Number+1, Better, p.clock(), head.Printed, head.OnPaper
	if out.Rounds = []int{}; l.price == 0 {
		out.Rounds = after(plan.Rounds, found, l.effort)
	}
	if before != nil {
		out.Said = advise.EveningDifference(&before.View, &out.View)
	}
	if err := p.write(ctx, e, &out); err != nil {
		if errors.Is(err, ErrBehind) || errors.Is(err, errSuperseded) {
			return nil, nil
		}
		return nil, err
	}
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.plan != nil && e.plan.Number == plan.Number {
		stop, ended := e.stop, e.ended
		e.stop, e.ended = nil, nil // the search that found it: it may go on
		e.adopt(&out, before)
		e.stop, e.ended = stop, ended
	}
	return &out, nil
}

// howFar is how much of what is searched behind a plan is over, 0 to 1; the lock is held.
func (p *Planner) howFar(e *entry, plan *Plan) float64 {
	all, left := 0, -e.looked.Rounds
	for _, l := range p.looks(plan.Kind) {
		all += l.rounds
	}
	for _, l := range e.looking {
		left += int64(l.rounds)
	}
	return min(1, max(0, 1-float64(left)/float64(all)))
}

// worth reports whether a plan that was found takes the place of another: when it costs
// less, by so many hundredths at the least, and where somebody works by that, when it saves more than moving costs.
func worth(plan, found *Plan, held bool, hundredths int64) bool {
	cost := found.View.Cost
	if held {
		cost += moved(plan, found)
	}
	return cost < plan.View.Cost && cost <= plan.View.Cost-plan.View.Cost/100*hundredths
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
