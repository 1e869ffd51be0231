package schedule

import "slices"

// Several first schedules, each by another order of the groups: where the temperatures of an oven have to follow each other, what comes out
// hangs on the first schedule, and no heat leads from one order of an oven's work to another within the rounds of an answer. Each is
// searched for a while, and what is left of the rounds goes on from the two best.
//
// Source of the method: multi-start with selection, Martí, Resende & Ribeiro, European Journal of Operational Research 226 (2013).

// startsPart is which part of all rounds the starts have together, and startRounds how many one of them has at the most.
const (
	startsPart  = 4
	startRounds = 400
)

// starts begins as many ways as were asked for, the first from what the search has, and leaves the cheapest in best and the next in second.
// It returns how many of the rounds are used up.
func (t *team) starts(gs []group, rounds int) (used int) {
	many := t.s.o.Starts
	each := min(rounds/startsPart/many, startRounds)
	found := make([]solution, many)
	var has solution
	has.take(t.all[0])
	t.both(func(m *improver) {
		for i := slices.Index(t.all[:], m); i < many; i += workers {
			if i > 0 {
				switch b := t.s.start(gs, i); {
				case b != nil:
					m.goOnFrom(b.x, b.on)
				case t.s.o.Previous == nil:
					continue // that order does not keep every rule
				default:
					if m.goOnFrom(has.x, has.on); !m.laterStart(i) {
						continue
					}
				}
			}
			m.heatUp(t.s.hot(reheated), each)
			m.run(t.s.ctx, each, t.s.bound, nil)
			if m.retime() && m.current < m.best {
				m.keep()
			}
			found[i].take(m)
		}
	})
	found = slices.DeleteFunc(found, func(x solution) bool { return x.x == nil })
	slices.SortStableFunc(found, func(a, b solution) int { return compare(a.cost, b.cost) })
	if t.best = found[0]; len(found) > 1 {
		t.second = found[1]
	}
	for _, m := range t.all {
		m.goOnFrom(t.best.x, t.best.on)
	}
	return each * len(found)
}

// start is the i-th first schedule, from 1 on, nil where it does not keep every rule. Where something was told, which is the first of all
// then, the next is what a search from nothing would begin with, however long it takes to find: little room keeps most orders from being
// one. Where others take longer than those that lead somewhere, what was told is begun from anyhow (laterstart.go).
func (s *solver) start(gs []group, i int) *builder {
	if i == 1 && s.o.Previous != nil {
		b, ok := s.fromNothing(gs, nil, nil)
		if !ok {
			b = s.retry(b, gs, nil)
		}
		return b
	}
	b, _ := s.otherOrder(s.ctx, gs, int64(i), int64(i), s.o.Previous != nil)
	return b
}
