package schedule

import "context"

// windowBound is what the windows alone force.
func (p *problem) windowBound() int64 {
	sum := p.base
	if p.makespan {
		var m int64
		for v := range p.tasks {
			m = max(m, p.lo[v]+p.dur[v])
		}
		sum += m
	}
	for v := range p.n {
		if len(p.wants[v]) > 0 {
			low := p.nodeCost(v, p.lo[v])
			for _, u := range p.wants[v] {
				low = min(low, p.nodeCost(v, min(max(u.at, p.lo[v]), p.hi[v])))
			}
			sum += min(low, p.nodeCost(v, p.hi[v]))
		}
	}
	for i := range p.soft {
		s := &p.soft[i]
		if over := p.lo[s.to] - p.hi[s.from] - s.best; over > 0 {
			sum += over * s.weight
		}
	}
	return sum
}

// rootBound is the best bound that the first node of the branch and bound can
// prove: a cost that is refuted there by propagation, edge-finding (which contains
// the preemptive one-machine bound) and optimal timing. Costs below `known` need no
// trial. It is found by halving.
//
// Source of the method: destructive lower bounds, Klein & Scholl, EJOR 112 (1999).
func rootBound(ctx context.Context, p *problem, known, above int64) int64 {
	lo, hi := known, above
	for lo < hi && ctx.Err() == nil {
		mid := lo + (hi-lo)/2 // is there anything of cost ≤ mid?
		b, ok := newBrancher(ctx, p, mid+1, 1)
		if ok && b.net.value+p.base <= mid {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return lo
}
