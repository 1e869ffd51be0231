package schedule

import (
	"math"
	"slices"
	"sync"
	"sync/atomic"
)

// workers are how many searches go on side by side, on as many cores as there are: always so many, so that a seed gives the same schedule
// on every machine.
const workers = 2

// stint is how many rounds each of them searches before what they have found is joined.
const stint = 100

// shared is from how many rounds on several search side by side: fewer are over before they could help each other.
const shared = 2000

// manyRounds is from how many rounds on there is time to look for a bound, and longRounds for a better one.
const (
	manyRounds = 8000
	longRounds = 30_000
)

// boundAfter is after how many cycles a bound is looked for beside the search, at the latest beside the last: it takes a third of what
// both cores do meanwhile, and at first a better plan is worth more. What it says hangs on nothing that happens in the search.
const boundAfter = 2

// divided is from how cool on the two divide one schedule between them: before that what is to be found lies too far away for the half of
// it.
const divided = 0.02

// firstCycle is how many rounds the first cycle has; each has twice as many as the one before, and the last what is left.
const firstCycle = 1000

// team is two searches for one schedule. They go in cycles that begin hot and cool down, each from the best of all. While it is hot, each
// goes its own way; then both go on from the better one, the one changing what is before an instant and the other what is after it, and
// after each stint what they have found is joined, and the whole gets its best times. What comes out depends on the seed and the rounds
// alone.
//
// Source of the method: at first independent chains, then domain decomposition of one chain: Crainic & Toulouse, in Handbook of
// Metaheuristics (2003); Greening, Physica D 42 (1990), for simulated annealing.
type team struct {
	s     *solver
	all   [workers]*improver
	sides [workers]side
	best  solution
	// second is where the other search begins, once; the best where there is none.
	second solution
	at     []int64
	// proved is a bound that is looked for beside the search: what is told tells it, and nothing else looks at it before the end, so that the
	// same comes out whenever it is found.
	proved atomic.Int64
	gains  []Gain
	time   timekeeper
}

// improveTogether is improve on several cores.
func (s *solver) improveTogether(gs []group, rounds int) {
	t := &team{s: s, time: timekeeper{left: s.o.Left}}
	t.all[0] = s.m
	for k := 1; k < workers; k++ {
		b := newBuilder(s.ctx, s.p, s.o.Seed+int64(k))
		b.adoptInto(s.m.bestX, s.m.bestOn)
		t.all[k] = newImprover(b, gs)
		t.all[k].near = s.m.near
	}
	t.best.take(s.m)
	var bounds sync.WaitGroup
	bounded := rounds < manyRounds // a quick answer does without
	bound := func() {
		if !bounded && !t.over() {
			known := t.best.cost
			bounds.Go(func() { t.proved.Store(jointBound(s.ctx, s.p, known, s.o.Left, rounds >= longRounds)) })
		}
		bounded = true
	}
	hot := s.heat()
	if s.o.Starts > 1 && !s.near() && !s.relaxes {
		rounds -= t.starts(gs, rounds)
		hot = s.hot(reheated)
	}
	for left, n := rounds/workers, 0; left > 0 && !t.over() && !t.time.last; n++ {
		length := firstCycle << min(n, 20)
		if left < 2*length {
			length = left
		}
		length = t.time.begin(length, left)
		left -= length
		if n == boundAfter || t.time.last {
			bound()
		}
		t.cycle(hot, length)
		t.time.end()
		hot = min(hot, s.hot(reheated))
	}
	s.m.goOnFrom(t.best.x, t.best.on)
	bound()
	bounds.Wait()
	s.bound = min(max(s.bound, t.proved.Load()), s.m.best)
	t.tell()
	for _, m := range t.all[1:] {
		s.m.tried += m.tried
		s.m.rounds += m.rounds
	}
}

// over reports whether nothing more is to be found, or there is no time for it.
func (t *team) over() bool { return t.s.ctx.Err() != nil || t.best.cost <= t.s.bound }

// cycle runs from hot to cold, from the best. Where there is a hot part of it the other always begins as hot as may be: it finds what lies
// too far away from the best, and is as cool as the first when they meet.
func (t *team) cycle(hot float64, length int) {
	for _, m := range t.all {
		m.adopt(t.best.x, t.best.on)
		m.best = t.best.cost
		m.heatUp(hot, length)
	}
	apart := hot > divided
	switch {
	case apart && t.second.x != nil:
		t.all[1].adopt(t.second.x, t.second.on)
		t.second = solution{}
	case apart:
		most := t.s.hot(hottest)
		t.all[1].heatUp(most, int(float64(length)*hotPart(hot)/hotPart(most)))
	}
	for done := 0; t.time.goesOn(done, length) && !t.over(); done += stint {
		t.cool(done, length)
		if apart && t.all[0].temperature() <= divided {
			apart = false
			t.meet()
		}
		rounds := min(stint, length-done)
		if t.time.last {
			rounds = stint
		}
		if apart {
			t.run(rounds)
		} else {
			t.divide(rounds)
		}
		t.tell()
	}
}

// cool makes both as cool as they have to be to end on time; so many of the rounds of the cycle are done.
func (t *team) cool(done, length int) {
	if t.time.left == nil {
		return
	}
	cooled := t.time.cooled(done, length)
	for _, m := range t.all {
		m.cooled = cooled
	}
}

// run lets both search so many rounds, and keeps the best that they find.
func (t *team) run(rounds int) {
	t.both(func(m *improver) { m.run(t.s.ctx, rounds, t.s.bound, nil) })
	for _, m := range t.all {
		t.best.take(m)
	}
	for _, m := range t.all {
		m.best = t.best.cost
	}
}

// meet lets both go on from the better of the two.
func (t *team) meet() {
	t.both(func(m *improver) { m.retime() })
	a, b := t.all[0], t.all[1]
	if b.current < a.current {
		a, b = b, a
	}
	b.adopt(a.x, a.on)
	first := t.all[0]
	for _, m := range t.all[1:] {
		m.hot, m.cycle, m.cooled = first.hot, first.cycle, first.cooled
	}
}

// hotPart is which part of a cycle is over when it is so cool that the two divide the schedule.
func hotPart(hot float64) float64 { return math.Log(hot/divided) / math.Log(hot/coldest) }

// divide lets each search so many rounds on its side of an instant, and joins what they find. Where too little lies on one of the sides
// each searches all of it, and the better of the two is gone on from.
func (t *team) divide(rounds int) {
	a, b := t.all[0], t.all[1]
	cut := t.cut()
	a.confine(&t.sides[0], -far, cut)
	b.confine(&t.sides[1], cut, far)
	split := a.side.many > 0 && b.side.many > 0
	if !split {
		a.release()
		b.release()
	}
	t.run(rounds)
	joined := split && a.joinWith(b)
	a.release()
	b.release()
	if !joined && b.current < a.current {
		a.adopt(b.x, b.on)
	}
	if a.timely() && a.retime() && a.current < t.best.cost {
		a.times.Won += t.best.cost - a.current
		a.keep()
		t.best.take(a)
		b.best = t.best.cost
	}
	b.adopt(a.x, a.on)
}

// cut is the instant that divides the schedule: that of a join in the middle half of them.
func (t *team) cut() int64 {
	m := t.all[0]
	t.at = t.at[:0]
	for i := range m.gs {
		if j := m.gs[i].join; j >= 0 {
			t.at = append(t.at, m.x[j])
		}
	}
	if len(t.at) == 0 {
		return 0
	}
	slices.Sort(t.at)
	n := len(t.at)
	return t.at[n/4+m.rng.IntN(n/2+1)]
}

func (t *team) tell() {
	if t.s.o.Progress == nil {
		return
	}
	var tried, used int64
	t.gains = t.gains[:0]
	for _, m := range t.all {
		tried, used = tried+m.tried, used+m.rounds
		t.gains = AddGains(t.gains, m.won())
	}
	bound := min(max(t.s.bound, t.proved.Load()), t.best.cost)
	t.s.o.Progress(Progress{Cost: t.best.cost, Bound: bound, Schedules: tried, Rounds: used, Gains: t.gains})
}

// both lets the two do something at the same time.
func (t *team) both(do func(m *improver)) {
	var wg sync.WaitGroup
	for _, m := range t.all {
		wg.Go(func() { do(m) })
	}
	wg.Wait()
}
