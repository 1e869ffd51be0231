package planner

import (
	"context"
	"fmt"

	"golang.org/x/sync/errgroup"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
)

// PrepMends plans again with each thing that can still be done about what is not ready, two
// at a time, and keeps what helps. Errors are those of Prep.
func (p *Planner) PrepMends(ctx context.Context) ([]advise.PrepMend, error) {
	shown, err := p.Prep(ctx)
	if err != nil {
		return nil, err
	}
	m := &p.prep
	m.mu.Lock()
	plan, list, of := m.plan, m.mends, m.mendsOf
	m.mu.Unlock()
	if plan == nil {
		plan = shown
	}
	if of == plan {
		return list, nil
	}
	return once(ctx, p, fmt.Sprintf("prep mends %d %d", plan.Number, plan.asOf.UnixNano()),
		func() ([]advise.PrepMend, error) { return p.mendPrep(plan) })
}

func (p *Planner) mendPrep(plan *Prep) ([]advise.PrepMend, error) {
	group, ctx := errgroup.WithContext(p.life)
	late := func(b *kitchen.Book) (int64, error) {
		e, err := expand.NewPrep(b, b.Coming(plan.asOf), plan.asOf, plan.done, plan.told)
		if err != nil {
			return 0, err
		}
		answer := schedule.Solve(ctx, e.Workload, schedule.Options{Seed: 1, Rounds: prepRounds, Anyway: true})
		return advise.PrepLateness(e.Read(answer)), ctx.Err()
	}
	candidates := advise.PrepCandidates(plan.Book, &plan.View)
	lates := make([]int64, len(candidates)+1)
	group.SetLimit(2)
	for i := range lates {
		group.Go(func() (err error) {
			b := plan.Book // the last one is the plan as it is, searched as long
			if i < len(candidates) {
				b = candidates[i].Book
			}
			lates[i], err = late(b)
			return err
		})
	}
	if err := group.Wait(); err != nil {
		return nil, err
	}
	out := advise.RankPrep(candidates, lates, min(lates[len(candidates)], advise.PrepLateness(&plan.View)))
	m := &p.prep
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.plan == plan {
		m.mends, m.mendsOf = out, plan
	}
	return out, nil
}
