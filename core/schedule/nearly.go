package schedule

import (
	"slices"

	"jointime/core/workload"
)

// nearly is a schedule near what was told, and the problem in which the rules are prices: what it breaks costs there.
type nearly struct {
	*builder
	prices *problem
}

// nearlyKept is, in the middle of a service, a schedule near what was told that is found with the rules as prices: it keeps them all after
// all, or a few things wait longer than they may where that is asked for (Stay), and nothing has what is not there. It is nil where there
// is none.
func (s *solver) nearlyKept() *nearly {
	if !s.near() || s.p.w.Now == nil || s.relaxes {
		return nil
	}
	p := s.asPrices(true)
	if p == nil {
		return nil
	}
	b := s.relaxedNear(p)
	if b == nil {
		return nil
	}
	s.tried += b.tried
	under := s.under(b)
	broken := under.broken()
	absent := slices.ContainsFunc(broken, func(k workload.Broken) bool { return k.Unit != "s" })
	if len(broken) > 0 && !s.o.Stay || len(broken) > fewBroken || absent {
		return nil
	}
	return &nearly{under, p}
}

// rather reports whether what is nearly kept is better than a schedule that keeps every rule: that one moves so much more. Cooks work by
// what was told, and a plan made anew keeps its rules by moving all of it, by hours where it must.
func (n *nearly) rather(x []int64) bool {
	return n != nil && n.prices.cost(n.x) < n.prices.cost(x)
}
