package planner

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"golang.org/x/sync/errgroup"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
)

// mends is what would help a plan, each solved again. It is never written to.
type mends struct {
	of    int64 // the plan's number
	list  []advise.Mend
	plans map[string]*Plan // by the mend's id
	with  map[string]kitchen.Service
}

// plan is what was tried with the inputs of this hash; nil when nothing was.
func (m *mends) plan(hash string) *Plan {
	if m == nil {
		return nil
	}
	for _, p := range m.plans {
		if p.in.hash == hash {
			return p
		}
	}
	return nil
}

// Mends solves again with everything that may help, two at a time, and keeps what does.
// Errors are those of Service.
func (p *Planner) Mends(ctx context.Context, id string) ([]advise.Mend, error) {
	for {
		shown, err := p.Settled(ctx, id)
		if err != nil {
			return nil, err
		}
		e, base := p.entry(id), shown.Plan
		m, err := once(ctx, p, fmt.Sprintf("mends %s %d", e.subject, base.Number), func() (*mends, error) { return p.mend(e, base, shown.Held) })
		if errors.Is(err, errSuperseded) {
			continue
		}
		if err != nil {
			return nil, err
		}
		return m.list, nil
	}
}

func (p *Planner) mend(e *entry, base *Plan, held bool) (*mends, error) {
	e.mu.Lock()
	known := e.mends
	e.mu.Unlock()
	if known != nil && known.of == base.Number {
		return known, nil
	}
	price := int64(movePrice)
	if !held {
		price = 0
		// The service as it is gets as much more search as a mend, so that a mend is not praised
		// for what the search alone would have found.
		again, err := p.solve(p.life, base.in, base, 0, mendEffort)
		if err != nil {
			return nil, err
		}
		if again.View.Cost < base.View.Cost {
			e.mu.Lock()
			before := e.before
			e.mu.Unlock()
			told, err := p.better(p.life, e, base, before, again, look{effort: mendEffort})
			if err == nil && told != nil {
				err = p.settle(p.life, e, told)
			}
			if err != nil {
				return nil, err
			}
			return nil, errSuperseded // the better one is the base now
		}
	}
	candidates := advise.Candidates(base.in.book, base.Evening, &base.View)
	solved := make([]*Plan, len(candidates))
	group, ctx := errgroup.WithContext(p.life)
	group.SetLimit(2)
	for i := range candidates {
		group.Go(func() error {
			in, err := with(base.in, candidates[i].Service)
			if err != nil {
				return nil // a change that the kitchen cannot take is no mend
			}
			_ = guarded(func() error { // what cannot be solved is no mend
				found, err := p.solve(ctx, in, base, price, mendEffort)
				if err == nil {
					solved[i] = found
				}
				return err
			})
			return ctx.Err()
		})
	}
	if err := group.Wait(); err != nil {
		return nil, ErrClosed
	}
	m := &mends{of: base.Number, list: []advise.Mend{}, plans: map[string]*Plan{}, with: map[string]kitchen.Service{}}
	for i, c := range candidates {
		f := solved[i]
		if f == nil || !c.Worth(&base.View, &f.View) {
			continue
		}
		f.Said = advise.EveningDifference(&base.View, &f.View)
		m.plans[c.Mend.ID], m.with[c.Mend.ID] = f, c.Service
		m.list = append(m.list, c.Mend)
	}
	advise.Rank(m.list)
	if err := p.together(m, base, candidates, price); err != nil {
		return nil, err
	}
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.plan == nil || e.plan.Number != base.Number {
		return nil, errSuperseded // something was changed meanwhile: the new plan's are asked
	}
	e.mends = m
	return m, nil
}

// together adds the mends that make everything fit together, where none does by itself.
func (p *Planner) together(m *mends, base *Plan, candidates []advise.Candidate, price int64) error {
	var helpful []advise.Candidate
	for _, x := range m.list {
		if x.Fits && !x.Guests {
			return nil
		}
		i := slices.IndexFunc(candidates, func(c advise.Candidate) bool { return c.Mend.ID == x.ID })
		helpful = append(helpful, candidates[i])
	}
	var plans []*Plan
	c, ok := advise.Fit(base.Evening.Service, &base.View, helpful, func(services []kitchen.Service) []*expand.EveningPlan {
		solved, out := make([]*Plan, len(services)), make([]*expand.EveningPlan, len(services))
		group, ctx := errgroup.WithContext(p.life)
		group.SetLimit(2)
		for i := range services {
			group.Go(func() error {
				_ = guarded(func() error {
					in, err := with(base.in, services[i])
					if err != nil {
						return err
					}
					found, err := p.solve(ctx, in, base, price, mendEffort)
					if err == nil {
						solved[i], out[i] = found, &found.View
					}
					return err
				})
				return ctx.Err()
			})
		}
		_ = group.Wait() // what could not be solved is nil
		plans = append(plans, solved...)
		return out
	})
	if p.life.Err() != nil {
		return ErrClosed
	}
	if !ok {
		return nil
	}
	in, err := with(base.in, c.Service)
	if err != nil {
		return nil // each could be, and together they cannot
	}
	for _, f := range plans {
		if f != nil && f.in.hash == in.hash {
			f.Said = advise.EveningDifference(&base.View, &f.View)
			m.plans[c.Mend.ID], m.with[c.Mend.ID] = f, c.Service
			m.list = append(m.list, c.Mend)
			advise.Rank(m.list)
			return nil
		}
	}
	return nil
}

// with is the inputs of a plan with another service.
func with(in *inputs, s kitchen.Service) (*inputs, error) {
	d := in.data
	d.Services = append([]kitchen.Service{s}, in.data.Services[1:]...)
	b, err := kitchen.NewBook(d)
	if err != nil {
		return nil, err
	}
	out, err := hashed(b, d)
	if err == nil {
		out.versions = in.versions
	}
	return out, err
}

// Tried is the plan with a mend, and the service that the mend makes. ErrNotOffered when the
// mend is not one of the plan that is shown.
func (p *Planner) Tried(ctx context.Context, id, mend string) (*Shown, kitchen.Service, error) {
	shown, err := p.Service(ctx, id)
	if err != nil {
		return nil, kitchen.Service{}, err
	}
	e := p.entry(id)
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.mends == nil || e.mends.of != shown.Plan.Number || e.mends.plans[mend] == nil {
		return nil, kitchen.Service{}, ErrNotOffered
	}
	plan := *e.mends.plans[mend]
	plan.Number, plan.MadeAt, plan.Printed, plan.OnPaper = shown.Plan.Number, shown.Plan.MadeAt, shown.Plan.Printed, shown.Plan.OnPaper
	return &Shown{Plan: &plan, Held: shown.Held}, e.mends.with[mend], nil
}
