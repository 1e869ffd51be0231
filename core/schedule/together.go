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

// improveTogether is improve on several cores: each worker has a schedule of its own, the first the one that is there, the others new ones, and
// the rounds are divided among them. What comes out depends on the seed and the rounds alone.
//
// Source of the method: independent chains that exchange their best at fixed steps, cooperative parallel search, Crainic & Toulouse, in
// Handbook of Metaheuristics (2003).
func (s *solver) improveTogether(gs []group, rounds int) {
	all := []*improver{s.m}
	for k := 1; k < workers; k++ {
		b := newBuilder(s.ctx, s.p, s.o.Seed+int64(k)*7919)
		b.noise = 60
		if !b.construct(s.ctx, gs) {
			b = newBuilder(s.ctx, s.p, s.o.Seed+int64(k)*7919)
			b.adoptInto(s.m.bestX, s.m.bestOn)
		}
		all = append(all, newImprover(b, gs))
	}
	late := make([]int, len(all))
	for left := rounds / workers; left > 0 && s.ctx.Err() == nil && s.m.best > s.bound; left -= epoch {
		var wg sync.WaitGroup
		for _, m := range all {
			wg.Go(func() { m.run(s.ctx, min(left, epoch), s.bound, nil) })
		}
		wg.Wait()
		first := all[0]
		for _, m := range all[1:] {
			if m.best < first.best {
				first = m
			}
		}
		var tried, used int64
		for k, m := range all {
			tried, used = tried+m.tried, used+m.rounds
			if m.best == first.best {
				late[k] = 0
				continue
			}
			if late[k]++; late[k] > behind {
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
}
