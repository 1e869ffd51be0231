package schedule

import (
	"math"
	"slices"

	"jointime/core/workload"
)

// broken lists the rules that the schedule in s does not keep. It is the search's
// own view; package verify judges it from outside.
func (s *state) broken() []workload.Broken {
	p := s.p
	var out []workload.Broken
	add := func(rule workload.Rule, by int64, unit string, ids ...string) {
		if by > 0 {
			out = append(out, workload.Broken{Rule: rule, IDs: ids, By: by, Unit: unit})
		}
	}
	for v := range p.n {
		if p.fixed[v] {
			continue
		}
		var latest *int64
		earliest := int64(0)
		if v < p.tasks {
			latest, earliest = p.task(v).Latest, p.task(v).Earliest
		} else {
			latest, earliest = p.join(v).Latest, p.join(v).Earliest
		}
		add(workload.RuleEarliest, max(0, earliest)-s.x[v], "s", p.id(v))
		if latest != nil && p.stop[v] < 0 {
			add(workload.RuleLatest, s.x[v]+p.dur[v]-*latest, "s", p.id(v))
		}
		if p.w.Now != nil {
			add(workload.RuleNow, *p.w.Now-s.x[v], "s", p.id(v))
		}
		if p.stop[v] < 0 {
			add(workload.RuleHorizon, s.x[v]+p.dur[v]-p.horizon, "s", p.id(v))
		}
	}
	for u := range p.n {
		for _, a := range p.out[u] {
			if a.rule == ofLength {
				add("length", s.x[u]+a.w-s.x[a.other], "s", p.id(u))
				continue
			}
			rule := workload.RuleMin
			l := &p.w.Links[a.rule]
			if p.isMax(a.rule, int32(u)) || l.From == l.To && a.w < 0 {
				rule = workload.RuleMax
			}
			add(rule, s.x[u]+a.w-s.x[a.other], "s", l.From, l.To)
		}
	}
	for r := range p.res {
		s.overloads(r, add)
		s.clashes(r, add)
	}
	return out
}

// overloads reports each stretch in which a resource has fewer units than are
// taken, where at least one open task takes part.
func (s *state) overloads(r int, add func(workload.Rule, int64, string, ...string)) {
	f := s.prof[r]
	seen := map[string]bool{}
	for i := range f.steps {
		if f.steps[i].units <= f.capacity {
			continue
		}
		from, to := f.steps[i].at, 2*far
		if i+1 < len(f.steps) {
			to = f.steps[i+1].at
		}
		ids := []string{s.p.w.Resources[r].ID}
		open, taken := false, int64(0)
		for v := range s.p.tasks {
			for k, nd := range s.p.needs[v] {
				if int(s.on[v][k]) == r && s.x[v] < to && s.ends(v) > from && s.ends(v) > s.x[v] {
					taken += nd.units
					open = open || !s.p.fixed[v]
					if !slices.Contains(ids, s.p.id(v)) {
						ids = append(ids, s.p.id(v))
					}
				}
			}
		}
		rule := workload.RuleCapacity
		if taken < f.steps[i].units {
			rule = workload.RuleWindow
		}
		if key := ids[len(ids)-1]; open && !seen[key] {
			seen[key] = true
			add(rule, f.steps[i].units-f.capacity, "unit", ids...)
		}
	}
}

// clashes reports pairs of runs that want different temperatures too close
// together.
func (s *state) clashes(r int, add func(workload.Rule, int64, string, ...string)) {
	t := s.p.res[r].thermostat
	if t == nil {
		return
	}
	name := s.p.w.Resources[r].ID
	h := s.heat[r].list
	for i := range h {
		a := &h[i]
		if !s.p.fixed[a.node] {
			add(workload.RuleChangeover, changeover(t, standby(t), a.c)-a.start, "s", name, s.p.id(int(a.node)))
		}
		for k := range i {
			b := &h[k]
			if s.p.fixed[a.node] && s.p.fixed[b.node] || !differ(t, a.c, b.c) {
				continue
			}
			first, later := b, a
			if first.start > later.start || first.start == later.start && first.finish > later.finish {
				first, later = a, b
			}
			gap := later.start - first.finish
			if gap < 0 || a.node == b.node {
				add(workload.RuleSetpoint, max(1, -gap), "s", name, s.p.id(int(first.node)), s.p.id(int(later.node)))
			} else {
				add(workload.RuleChangeover, changeover(t, first.c, later.c)-gap, "s", name, s.p.id(int(first.node)), s.p.id(int(later.node)))
			}
		}
	}
}

// force places the nodes of a group that could not be placed within the rules:
// shortest waits and resources are kept where they can be, longest waits, latest
// times and the horizon give way.
func (b *builder) force(g *group) {
	nodes := b.members(g)
	b.refresh(nodes)
	todo := slices.Clone(nodes)
	slices.SortFunc(todo, func(x, y int32) int {
		if c := compare(b.p.lo[x], b.p.lo[y]); c != 0 {
			return c
		}
		if c := compare(b.p.hi[x], b.p.hi[y]); c != 0 {
			return c
		}
		return int(x - y)
	})
	for _, u := range todo {
		v := int(u)
		if !b.p.leads(u) {
			continue
		}
		from := b.p.lo[v]
		if !b.p.fixed[v] && b.p.w.Now != nil {
			from = max(from, *b.p.w.Now)
		}
		from = max(0, from)
		for _, m := range b.p.body[v] {
			if !b.p.fixed[m] {
				from = max(from, -b.p.off[m]) // nothing of what is tied to it begins before zero
			}
			for _, a := range b.p.in[m] {
				if b.placed[a.other] && a.w > -far/2 && !b.p.isMax(a.rule, a.other) {
					from = max(from, b.x[a.other]+a.w-b.p.off[m])
				}
			}
		}
		if v >= b.p.tasks {
			if at := b.p.join(v).At; at != nil {
				from = max(from, *at)
			}
		}
		at, ok := b.room(v, from, max(from, b.p.horizon)+workload.MaxSeconds, forward)
		if !ok {
			at = from
			for k, s := range b.p.segs[v] {
				b.on[s.node][s.need] = b.open(int(s.node), int(s.need), k)[0]
			}
		}
		for _, m := range b.p.body[v] {
			b.put(int(m), min(at+b.p.off[m], workload.MaxSeconds))
		}
		b.keepLengths(b.p.body[v])
	}
}

// has is what a need of what has happened has, −1 for others.
func (p *problem) has(m member) int32 {
	if on := p.fixOn[m.node]; int(m.need) < len(on) {
		return on[m.need]
	}
	return -1
}

// hopeless names needs that no resource can ever serve: more units than there
// are, or longer than any time in which they are there. What is taken as something that has begun has what that has.
func (p *problem) hopeless() *conflict {
	for v := range p.tasks {
		if p.fixed[v] || p.dur[v] == 0 {
			continue
		}
		for k := range p.needs[v] {
			nd := &p.needs[v][k]
			ids := []string{p.id(v)}
			short, window := int64(math.MaxInt64), false
			possible := false
			for _, r := range p.candidates(v, k, p.has) {
				ids = append(ids, p.w.Resources[r].ID)
				short = min(short, nd.units-p.res[r].capacity)
				if nd.units <= p.res[r].capacity {
					window = true
					if _, ok := newProfile(&p.res[r]).earliest(p.lo[v], p.hi[v], p.dur[v], nd.units); ok {
						possible = true
						break
					}
				}
			}
			switch {
			case possible:
			case window:
				return &conflict{[]workload.Broken{{Rule: workload.RuleWindow, IDs: ids, By: nd.units, Unit: "unit"}}}
			default:
				return &conflict{[]workload.Broken{{Rule: workload.RuleCapacity, IDs: ids, By: short, Unit: "unit"}}}
			}
		}
	}
	return nil
}
