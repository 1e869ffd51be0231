package schedule

import (
	"slices"

	"jointime/core/workload"
)

// nearly is a schedule near what was told, the rules that it breaks, and the problem in which the rules are prices: what it breaks costs
// there.
type nearly struct {
	*builder
	prices *problem
	breaks []workload.Broken
}

// nearlyKept is, where that may be (mayBeNearly), a schedule near what was told that is found with the rules as prices: it keeps them all
// after all, or breaks some where that may be (Stay). It is nil where there is none.
func (s *solver) nearlyKept() *nearly {
	p := s.asPrices(true)
	if p == nil {
		return nil
	}
	b := s.relaxedNear(p)
	if b == nil {
		return nil
	}
	s.tried += b.tried
	n := &nearly{builder: s.under(b), prices: p}
	if n.breaks = n.broken(); len(n.breaks) > 0 && !s.o.Stay {
		return nil
	}
	return n
}

// mayBeNearly reports whether a schedule may be told that is nearly kept: in the middle of a service, near what was told.
func (s *solver) mayBeNearly() bool { return s.near() && s.p.w.Now != nil && !s.relaxes }

// few reports whether what is nearly kept breaks so little that it may be told though another keeps every rule: a few things wait longer
// than they may, and nothing has what is not there.
func (n *nearly) few() bool {
	absent := slices.ContainsFunc(n.breaks, func(k workload.Broken) bool { return k.Unit != "s" })
	return len(n.breaks) <= fewBroken && !absent
}

// rather reports whether what is nearly kept is better than a schedule that keeps every rule: that one moves so much more. Cooks work by
// what was told, and a plan made anew keeps its rules by moving all of it, by hours where it must.
func (n *nearly) rather(x []int64) bool {
	return n != nil && n.prices.cost(n.x) < n.prices.cost(x)
}

// seek looks on for a schedule that keeps every rule, where neither what was told nor the first order in which groups are put down has led
// to one; with little effort where there is something to be told at once. Where it finds none it returns the answer without, nil for none.
func (s *solver) seek(b *builder, gs []group, n *nearly, a *anew, small bool) (*builder, *workload.Schedule) {
	switch nodes := int64(40 * firstNodes); {
	case small:
		if n != nil {
			nodes = firstNodes
		}
		if r := s.proveOrFind(b, nodes); r != nil {
			return nil, r
		}
		if s.m != nil {
			return b, nil
		}
	case n != nil:
		if s.tried += a.tried; a.other != nil {
			return a.other, nil
		}
	default:
		if again := s.retry(b, gs, a); again != nil {
			return again, nil
		}
	}
	if n == nil {
		return nil, nil
	}
	if anew := s.worthAnew(n.prices, len(n.breaks), a.priced); anew != nil {
		return nil, s.answer(s.under(anew).state, s.tried, false)
	}
	return nil, s.answer(n.state, s.tried, false)
}
