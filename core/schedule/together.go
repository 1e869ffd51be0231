package schedule

import "sync"

// workers are how many searches go on side by side, on as many cores as there are: always so many, so that a seed gives the same schedule on
// every machine.
const workers = 2

// epoch is how many rounds each of them searches by itself before they compare.
const epoch = 250

// shared is from how many rounds on several search side by side: fewer are over before they could help each other.
const shared = 2000

// behind is for how many epochs one may stay worse than the best before it goes on from there; what has been found by itself is another
// valley, and is given that long.
const behind = 12

// starts is how many first schedules each worker tries for a few rounds each, to go on from the best, where there is time for it; a fresh
// start is made too where nothing better has been found for so many epochs.
const (
	starts     = 4
	startEpoch = 250
	manyRounds = 8000
	stale      = 24
)

// improveTogether is improve on several cores: each worker has a schedule of its own, the first the one that is there, the others new ones, and
// the rounds are divided among them. Who stays behind goes on from the best; who has it and finds nothing better for long leaves it to the
// others, and begins anew. What comes out depends on the seed and the rounds alone.
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
	if rounds >= manyRounds { // a quick answer does without
		bounds.Go(func() { pooled = poolBound(s.ctx, s.p, gs, known) })
	}
	left := rounds / workers
	if rounds >= manyRounds {
		s.eachOf(all, func(k int, m *improver) {
			for i := 1; i < starts && s.ctx.Err() == nil; i++ {
				fresh := s.another(gs, int64(k+i*workers))
				if fresh == nil {
					continue
				}
				fresh.run(s.ctx, startEpoch, s.bound, nil)
				m.tried += fresh.tried
				m.rounds += fresh.rounds
				if i == 1 {
					m.run(s.ctx, startEpoch, s.bound, nil)
				}
				if fresh.best < m.best {
					m.adopt(fresh.bestX, fresh.bestOn)
					m.keep()
				}
			}
		})
		left -= starts * startEpoch
	}
	late := make([]int, len(all))
	best, since, again := int64(far), 0, int64(starts*workers)
	for ; left > 0 && s.ctx.Err() == nil; left -= epoch {
		s.eachOf(all, func(_ int, m *improver) { m.run(s.ctx, min(left, epoch), s.bound, nil) })
		first := all[0]
		var tried, used int64
		for _, m := range all {
			if m.best < first.best {
				first = m
			}
			tried, used = tried+m.tried, used+m.rounds
		}
		if since++; first.best < best {
			best, since = first.best, 0
		}
		for k, m := range all {
			if late[k]++; m.best == first.best {
				late[k] = 0
			} else if late[k] > behind {
				m.adopt(first.bestX, first.bestOn)
				m.keep()
				m.idle, late[k] = 0, 0
			}
		}
		if s.o.Progress != nil {
			s.o.Progress(Progress{first.best, s.bound, tried, used})
		}
		if first.best <= s.bound {
			break
		}
		if last := all[len(all)-1]; since > stale && last != first || since > stale && last.best == all[0].best {
			// Both stand in one valley, and it is searched: the last looks for another.
			if fresh := s.another(gs, again); fresh != nil {
				last.adopt(fresh.bestX, fresh.bestOn)
				last.keep()
				last.idle, late[len(all)-1] = 0, -behind
			}
			since = 0
			again++
		}
	}
	for _, m := range all[1:] {
		if m.best < s.m.best {
			s.m.adopt(m.bestX, m.bestOn)
			s.m.keep()
		}
		s.m.tried += m.tried
		s.m.rounds += m.rounds
	}
	s.m.adopt(s.m.bestX, s.m.bestOn)
	bounds.Wait()
	s.bound = min(max(s.bound, pooled), s.m.best)
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
