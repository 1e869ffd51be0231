package planner

import (
	"context"
	"errors"
	"fmt"

	"jointime/core/advise"
	"jointime/core/message"
)

// offer begins to work out what following a change would do to a held plan. fault is why
// the changed kitchen cannot be planned at all.
func (p *Planner) offer(e *entry, plan *Plan, in *inputs, fault error) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.plan == nil || e.plan.Number != plan.Number || e.offer != nil && e.offer.hash == in.hash {
		return
	}
	if e.unoffer != nil {
		e.unoffer()
	}
	o := &Offer{Changed: in.changed(plan.in), hash: in.hash}
	if fault != nil {
		o.Said = message.Of("fire.cannot-plan", "why", fault.Error())
		e.offer, e.unoffer = o, nil
		return
	}
	run, stop := context.WithCancel(p.life)
	e.offer, e.unoffer = o, stop
	p.background("what a change would do to "+e.subject, func() error {
		defer stop()
		found, err := p.solve(run, in, plan, movePrice, firstEffort)
		if errors.Is(err, errSuperseded) {
			return nil
		}
		if err != nil {
			return err
		}
		e.mu.Lock()
		defer e.mu.Unlock()
		if e.offer == o {
			e.offer = &Offer{Changed: o.Changed, Said: advise.EveningDifference(&plan.View, &found.View), plan: found, hash: o.hash}
		}
		return nil
	})
}

// Use takes the change that is offered: what it would do is told. ErrNotOffered when there
// is none, or it is not worked out yet.
func (p *Planner) Use(ctx context.Context, id string) (*Shown, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	if shown.Offer == nil || shown.Offer.plan == nil {
		return nil, ErrNotOffered
	}
	e, plan, o := p.entry(id), shown.Plan, shown.Offer
	_, err = once(ctx, p, fmt.Sprintf("use %s %d %s", e.subject, plan.Number, o.hash), func() (*Plan, error) {
		return p.tell(p.life, e, plan, o.plan, plan.Number, Used)
	})
	if err != nil && !errors.Is(err, ErrBehind) {
		return nil, err
	}
	return p.Service(ctx, id)
}

// Pending is a service whose held plan has not followed a change.
type Pending struct {
	Service string // id
	Name    string
	Number  int64
	Offer   Offer
}

// Pending lists the services of today and later whose held plans have not followed a
// change. It plans nothing but what is offered.
func (p *Planner) Pending(ctx context.Context) ([]Pending, error) {
	k, err := p.store.Kitchen(ctx)
	if err != nil || k.Book == nil {
		return nil, err
	}
	var out []Pending
	for _, s := range k.Book.Coming(p.clock()) {
		plan, err := p.Told(ctx, k, &s)
		if err != nil {
			return nil, err
		}
		if plan == nil || !plan.held(p.clock()) {
			continue
		}
		e := p.entry(s.ID)
		in, err := p.inputs(ctx, e, k)
		if err != nil {
			return nil, err
		}
		if plan.in.hash == in.hash || plan.in.service != in.service {
			continue
		}
		shown, _, err := p.show(e, plan, in)
		if err != nil {
			return nil, err
		}
		if shown != nil && shown.Offer != nil {
			out = append(out, Pending{s.ID, s.Name, plan.Number, *shown.Offer})
		}
	}
	return out, nil
}
