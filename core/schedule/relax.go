package schedule

import (
	"context"
	"slices"

	"jointime/core/workload"
)

// relaxed prices of a broken rule for each second; far above what ordinary waiting
// costs, so that as little as possible is broken.
const relaxedWeight = 2000

// relax returns the workload with its longest waits, latest times and horizon as
// costs instead of rules: its best schedule is the least broken one of the other. What is tied exactly (the hands to
// their pan) stays tied where that is asked for.
func relax(w *workload.Workload, tied bool) *workload.Workload {
	r := w.Clone()
	r.Horizon = min(workload.MaxSeconds, w.Horizon+4*24*3600)
	for i := range r.Resources { // what is there tomorrow is of no use to tonight
		r.Resources[i].Windows = slices.DeleteFunc(r.Resources[i].Windows, func(x workload.Window) bool { return x.From >= w.Horizon })
	}
	for i := range r.Tasks {
		r.Tasks[i].Latest = nil
	}
	for i := range r.Joins {
		r.Joins[i].Latest = nil
	}
	for i := range r.Links {
		if l := &r.Links[i]; l.Max != nil && !(tied && *l.Max == l.Min) {
			l.Max = nil
		}
	}
	return r
}

// priceRules adds what relax took away as prices.
func (p *problem) priceRules(w *workload.Workload) {
	p.makespan = false
	index := map[string]int32{}
	for v := range p.n {
		if v < p.real || v >= p.tasks { // the end of a run has its name, and is not what a link means
			index[p.id(v)] = int32(v)
		}
		if p.fixed[v] {
			continue
		}
		end := w.Horizon
		if v < p.tasks {
			if l := p.task(v).Latest; l != nil {
				end = min(end, *l)
			}
		} else if l := w.Joins[v-p.tasks].Latest; l != nil {
			end = min(end, *l)
		}
		p.wants[v] = append(p.wants[v], want{at: end - p.dur[v], late: relaxedWeight})
	}
	for i := range w.Links {
		l := &w.Links[i]
		u, v := index[l.From], index[l.To]
		if l.Max == nil || u == v || p.fixed[u] && p.fixed[v] {
			continue
		}
		s := softLink{best: *l.Max, weight: relaxedWeight}
		var offU, offV int64
		if l.Kind == workload.FinishStart || l.Kind == workload.FinishFinish {
			u, offU = p.finish(u)
		}
		if l.Kind == workload.StartFinish || l.Kind == workload.FinishFinish {
			v, offV = p.finish(v)
		}
		s.from, s.to = u, v
		s.best += offU - offV
		p.softOf[u] = append(p.softOf[u], int32(len(p.soft)))
		p.softOf[v] = append(p.softOf[v], int32(len(p.soft)))
		p.soft = append(p.soft, s)
	}
}

// clash is what it costs that something has what is not there, as much as an hour by which something waits too long: nobody can do that,
// but next to a table put off until tomorrow it is the lesser evil.
const clash = 3600 * relaxedWeight

// broke is what some broken rules cost.
func broke(rules []workload.Broken) (sum int64) {
	for _, k := range rules {
		if k.Unit == "s" {
			sum += k.By * relaxedWeight
		} else {
			sum += clash
		}
	}
	return sum
}

// leastBroken solves the workload with its longest waits and latest times as costs.
func (s *solver) leastBroken() *workload.Schedule {
	p := s.asPrices(true)
	if p == nil {
		p = s.asPrices(false)
	}
	var b *builder
	if p != nil {
		b = s.relaxed(p)
	} else {
		b = newBuilder(s.ctx, s.p, s.o.Seed)
		b.constructAll(s.ctx, s.p.groups())
	}
	// Back under the rules of the workload itself.
	return s.answer(s.under(b).state, s.tried+b.tried, false)
}

// asPrices is the problem with its rules, and what moves of what was told, as prices; nil where what is left of the rules contradicts
// itself.
func (s *solver) asPrices(tied bool) *problem {
	p := compile(relax(s.p.w, tied))
	if p.propagate() != nil {
		return nil
	}
	p.priceRules(s.p.w)
	if s.near() {
		p.priceMoves(&s.o)
	}
	return p
}

// under is a schedule found with the rules as prices, under the rules themselves.
func (s *solver) under(b *builder) *builder {
	u := newBuilder(s.ctx, s.p, s.o.Seed)
	u.adoptInto(b.x, b.on)
	return u
}

// Rounds of a search for what breaks the least: from nothing, and at the least from what was told.
const (
	relaxedRounds = 3000
	roundsNear    = 200
)

// Up to how many broken rules nothing else is looked for near what was told, and how many times fewer a plan made anew has to break to be
// told: one pan that cannot be had in time is no reason to move what has nothing to do with it, all burners away for long may be.
const (
	fewBroken  = 3
	timesFewer = 2
)

// relaxed is the best schedule that is found of a workload of which the rules have become prices: near what was told, where something was.
func (s *solver) relaxed(p *problem) *builder {
	b := s.relaxedNear(p)
	if b == nil {
		return s.relaxedAnew(s.ctx, p, relaxedRounds)
	}
	if anew := s.worthAnew(p, len(s.under(b).broken()), nil); anew != nil {
		return anew
	}
	return b
}

// worthAnew is a schedule made anew with the rules as prices, where what is near what was told breaks so many; nil where it does not break
// so much less. Of an answer at once it has few rounds, and may be made already.
func (s *solver) worthAnew(p *problem, many int, made *builder) *builder {
	if many <= fewBroken {
		return nil
	}
	rounds := relaxedRounds
	if s.o.Stay {
		rounds = roundsNear
	}
	if made == nil {
		made = s.relaxedAnew(s.ctx, p, rounds)
	}
	if timesFewer*len(s.under(made).broken()) < many {
		return made
	}
	return nil
}

// relaxedNear takes what was told over and mends it; nil where nothing was told.
func (s *solver) relaxedNear(p *problem) *builder {
	r := &solver{p: p, o: s.o, ctx: s.ctx, relaxes: true}
	b, gs := newBuilder(s.ctx, p, s.o.Seed), p.groups()
	if !r.startFromPrevious(b, gs) {
		return nil
	}
	rounds := relaxedRounds
	if s.o.Rounds > 0 {
		rounds = min(max(s.o.Rounds, roundsNear), relaxedRounds)
	}
	// Of what breaks rules the cost is so high that warmer would be hot for all else.
	s.search(s.ctx, b, gs, coldest, rounds)
	return b
}

// relaxedAnew makes one from nothing, with so many rounds; what finds no room is put down by the clock.
func (s *solver) relaxedAnew(ctx context.Context, p *problem, rounds int) *builder {
	b, gs := newBuilder(ctx, p, s.o.Seed), p.groups()
	if !b.construct(ctx, gs) {
		b.byTheClock(gs)
	}
	if len(b.broken()) == 0 {
		s.search(ctx, b, gs, hottest, rounds)
	}
	return b
}

// search improves what stands, by so many rounds from so hot.
func (s *solver) search(ctx context.Context, b *builder, gs []group, hot float64, rounds int) {
	m := newImprover(b, gs)
	m.near = s.near()
	m.heatUp(hot, rounds)
	m.run(ctx, rounds, 0, nil)
	m.adopt(m.bestX, m.bestOn)
}
