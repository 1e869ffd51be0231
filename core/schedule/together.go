package schedule

import "sync"

// workers are how many searches go on side by side, on as many cores as there are: always so many, so that a seed gives the same schedule on
// every machine.
const workers = 2

// epoch is how many rounds each of them searches before it is told how far they are.
const epoch = 250

// shared is from how many rounds on several search side by side: fewer are over before they could help each other.
const shared = 2000

// manyRounds is from how many rounds on there is time to look for a bound.
const manyRounds = 8000

// boundAfter is after how many cycles a bound is looked for beside the search, where that is not over by then: it takes a third of what both
// cores do meanwhile, and at first a better plan is worth more. What it says hangs on nothing that happens in the search.
const boundAfter = 2

// firstCycle is how many rounds the first cycle has; each has twice as many as the one before, and the last what is left.
const firstCycle = 1000

// improveTogether is improve on several cores: each worker has a schedule of its own, the first the one that is there, the others new ones, and
// the rounds are divided among them. They search in cycles that begin hot and cool down. After each the first goes on from the best of all
// and the others begin anew; where a plan was told, the first stays near what it has. What comes out depends on the seed
// and the rounds alone.
//
// Source of the method: independent chains that exchange their best at fixed steps, cooperative parallel search, Crainic & Toulouse, in
// Handbook of Metaheuristics (2003).
func (s *solver) improveTogether(gs []group, rounds int) {
	all := []*improver{s.m}
	for k := 1; k < workers; k++ {
		m := s.another(gs, int64(k))
		if m == nil {
			b := newBuilder(s.ctx, s.p, s.o.Seed+int64(k))
			b.adoptInto(s.m.bestX, s.m.bestOn)
			m = newImprover(b, gs)
		}
		all = append(all, m)
	}
	var bounds sync.WaitGroup
	pooled, known := int64(0), s.m.best
	var best solution
	best.take(s.m)
	bounded := rounds < manyRounds // a quick answer does without
	bound := func() {
		if !bounded && s.ctx.Err() == nil && best.cost > s.bound {
			bounds.Go(func() { pooled = poolBound(s.ctx, s.p, gs, known) })
		}
		bounded = true
	}
	for left, n := rounds/workers, 0; left > 0 && s.ctx.Err() == nil && best.cost > s.bound; n++ {
		length := firstCycle << min(n, 20)
		if left < 2*length {
			length = left
		}
		left -= length
		if n == boundAfter {
			bound()
		}
		s.eachOf(all, func(k int, m *improver) { s.beginCycle(m, k, n, length, gs, &best) })
		s.cool(all, length, &best)
	}
	for _, m := range all[1:] {
		s.m.tried += m.tried
		s.m.rounds += m.rounds
	}
	s.m.goOnFrom(best.x, best.on)
	bound()
	bounds.Wait()
	s.bound = min(max(s.bound, pooled), s.m.best)
}

// beginCycle says from where worker k begins cycle n, and how hot.
func (s *solver) beginCycle(m *improver, k, n, length int, gs []group, best *solution) {
	hot := hottest
	switch {
	case s.o.Previous != nil && k == 0:
		hot = gentle
	case n == 0:
	case k == 0:
		m.goOnFrom(best.x, best.on)
		hot = reheated
	default:
		if fresh := s.another(gs, int64(k+n*workers)); fresh != nil {
			m.goOnFrom(fresh.bestX, fresh.bestOn)
		} else {
			m.goOnFrom(best.x, best.on)
		}
	}
	m.heatUp(hot, length)
}

// cool runs a cycle on all workers, and leaves the best of all in best.
func (s *solver) cool(all []*improver, length int, best *solution) {
	for left := length; left > 0 && s.ctx.Err() == nil && best.cost > s.bound; left -= epoch {
		s.eachOf(all, func(_ int, m *improver) { m.run(s.ctx, min(left, epoch), s.bound, nil) })
		var tried, used int64
		for _, m := range all {
			best.take(m)
			tried, used = tried+m.tried, used+m.rounds
		}
		if s.o.Progress != nil {
			s.o.Progress(Progress{best.cost, s.bound, tried, used})
		}
	}
}

// eachOf lets every worker do something at the same time.
func (s *solver) eachOf(all []*improver, do func(k int, m *improver)) {
	var wg sync.WaitGroup
	for k, m := range all {
		wg.Go(func() { do(k, m) })
	}
	wg.Wait()
}

// another is a schedule built anew in another order, nil where that finds none.
func (s *solver) another(gs []group, k int64) *improver {
	b := newBuilder(s.ctx, s.p, s.o.Seed+k*7919)
	b.noise = []int64{60, 200, 30, 600}[k%4]
	if !b.construct(s.ctx, gs) {
		return nil
	}
	return newImprover(b, gs)
}
