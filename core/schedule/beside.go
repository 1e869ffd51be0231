package schedule

import (
	"context"
	"sync"
)

// Where what was told finds no room as it is there are two ways on that know nothing of each other: near what was told, with the rules as
// prices (nearly.go), and anew. Somebody waits for the answer, so that each has a core.

// anew is what comes of putting everything down from nothing, with little effort.
type anew struct {
	first *builder // by the first order
	ok    bool     // it keeps every rule
	other *builder // by one of few other orders, and keeps every rule; nil where there is none, or none was needed
	tried int64    // schedules tried for other orders
	// priced is with the rules as prices, where neither keeps them all and an answer is wanted at once.
	priced *builder
}

// besideTold is what is nearly kept of a torn plan, and what was made anew meanwhile; that is nil where the plan itself found some room.
func (s *solver) besideTold(gs []group, found, small bool) (n *nearly, a *anew) {
	if !s.torn || !s.mayBeNearly() {
		return nil, nil
	}
	ctx, stop := context.WithCancel(s.ctx)
	defer stop()
	var beside sync.WaitGroup
	if !found {
		beside.Go(func() { a = s.anew(ctx, gs, !small) })
	}
	if n = s.nearlyKept(); n != nil && len(n.breaks) == 0 {
		stop() // nothing else is asked for
	}
	beside.Wait()
	if a != nil {
		a.first.ctx = s.ctx // what is gone on from has as long as the search
		if a.other != nil {
			a.other.ctx = s.ctx
		}
	}
	return n, a
}

// anew puts everything down anew, by a few other orders too where these are asked for.
func (s *solver) anew(ctx context.Context, gs []group, orders bool) *anew {
	a := &anew{first: newBuilder(ctx, s.p, s.o.Seed)}
	a.first.quick = true
	if a.ok = a.first.construct(ctx, gs) && len(a.first.broken()) == 0; a.ok || !orders {
		return a
	}
	if a.other, a.tried = s.otherOrder(ctx, gs, 1, fewOrders, true); a.other == nil && s.o.Stay {
		if p := s.asPrices(true); p != nil {
			a.priced = s.relaxedAnew(ctx, p, roundsNear)
		}
	}
	return a
}

// fromNothing is the schedule that the first order leads to, and whether it keeps every rule: the one that was made beside what is nearly
// kept, unless that was given up and there is nothing else to be told.
func (s *solver) fromNothing(gs []group, n *nearly, a *anew) (b *builder, ok bool) {
	if a != nil && (a.ok || n != nil || !a.first.gaveUp) {
		return a.first, a.ok
	}
	b = newBuilder(s.ctx, s.p, s.o.Seed) // of a told plan that found no room nothing is left behind
	return b, b.construct(s.ctx, gs) && len(b.broken()) == 0
}
