package schedule

import "jointime/core/workload"

// propagate tightens lo and hi to the longest paths through the arcs (Bellman
// and Ford's label correcting, with a queue). It returns the rules in conflict
// when a node has no time left or a cycle of arcs has positive length; nil when
// the windows are consistent.
//
// Source of the method: longest paths in temporal constraint networks, Dechter,
// Meiri & Pearl, Artificial Intelligence 49 (1991).
func (p *problem) propagate() *conflict {
	const root = int32(-1)
	var queue []int32
	inQueue := make([]bool, p.n)
	fromLo, fromHi := make([]arc, p.n), make([]arc, p.n)
	steps := 0
	for v := range p.n {
		fromLo[v], fromHi[v] = arc{other: root}, arc{other: root}
		queue = append(queue, int32(v))
		inQueue[v] = true
	}
	push := func(v int32) {
		if !inQueue[v] {
			inQueue[v] = true
			queue = append(queue, v)
		}
	}
	for len(queue) > 0 {
		v := queue[0]
		queue = queue[1:]
		inQueue[v] = false
		if p.lo[v] > p.hi[v] {
			return p.explain(int(v), fromLo, fromHi)
		}
		// Labels that run round a cycle of positive length leave a cycle of
		// predecessors; looking for one every n steps costs no more than the steps.
		if steps++; steps%(p.n+1) == 0 {
			for _, from := range [][]arc{fromLo, fromHi} {
				if u := cycleOf(from); u >= 0 {
					return p.explain(u, fromLo, fromHi)
				}
			}
		}
		for _, a := range p.out[v] {
			if t := p.lo[v] + a.w; t > p.lo[a.other] {
				p.lo[a.other] = t
				fromLo[a.other] = arc{v, a.rule, a.w}
				push(a.other)
			}
		}
		for _, a := range p.in[v] {
			if t := p.hi[v] - a.w; t < p.hi[a.other] {
				p.hi[a.other] = t
				fromHi[a.other] = arc{v, a.rule, a.w}
				push(a.other)
			}
		}
	}
	return nil
}

// cycleOf returns a node on a cycle of predecessors, or -1.
func cycleOf(from []arc) int {
	const unseen, done = 0, -1
	mark := make([]int, len(from)) // the walk that met the node, or done
	for v := range from {
		u := int32(v)
		for u >= 0 && mark[u] == unseen {
			mark[u] = v + 1
			u = from[u].other
		}
		if u >= 0 && mark[u] == v+1 {
			return int(u)
		}
		for u = int32(v); u >= 0 && mark[u] == v+1; u = from[u].other {
			mark[u] = done
		}
	}
	return -1
}

// conflict is a set of rules that cannot hold together.
type conflict struct{ rules []workload.Broken }

// explain walks back from a node whose window is empty to the bounds that closed
// it, naming every rule on the way.
func (p *problem) explain(v int, fromLo, fromHi []arc) *conflict {
	by := p.lo[v] - p.hi[v]
	c := &conflict{}
	type side struct {
		rule int32
		kind workload.Rule
	}
	seenRule := map[side]bool{}
	walk := func(from []arc, lower bool) {
		seen := map[int32]bool{}
		u := int32(v)
		for !seen[u] {
			seen[u] = true
			a := from[u]
			if a.other < 0 {
				c.bound(p, int(u), lower, by)
				return
			}
			if a.rule == ofLength {
				u = a.other
				continue
			}
			l := &p.w.Links[a.rule]
			rule := workload.RuleMin
			// The arc of a longest wait runs against its link.
			if forward := p.id(int(u)) == l.To; l.Max != nil && forward != lower {
				rule = workload.RuleMax
			}
			if k := (side{a.rule, rule}); !seenRule[k] {
				seenRule[k] = true
				c.rules = append(c.rules, workload.Broken{Rule: rule, IDs: []string{l.From, l.To}, By: max(by, 0), Unit: "s"})
			}
			u = a.other
		}
	}
	walk(fromLo, true)
	walk(fromHi, false)
	return c
}

// bound names the rule that gives a node its own lower or upper bound.
func (c *conflict) bound(p *problem, v int, lower bool, by int64) {
	rule := workload.RuleHorizon
	w := p.w
	var latest *int64
	earliest := int64(0)
	if v < p.tasks {
		latest, earliest = p.task(v).Latest, p.task(v).Earliest
	} else {
		latest, earliest = p.join(v).Latest, p.join(v).Earliest
	}
	end := p.horizon
	if latest != nil {
		end = min(end, *latest)
	}
	switch {
	case p.fixed[v]:
		rule = workload.RuleFixed
	case lower && w.Now != nil && *w.Now >= max(0, earliest):
		rule = workload.RuleNow
	case lower && earliest <= 0:
		return // time begins at 0: nothing that one could change
	case lower:
		rule = workload.RuleEarliest
	case end < p.horizon:
		rule = workload.RuleLatest
	}
	for _, b := range c.rules {
		if b.Rule == rule && b.IDs[0] == p.id(v) {
			return
		}
	}
	c.rules = append(c.rules, workload.Broken{Rule: rule, IDs: []string{p.id(v)}, By: max(by, 0), Unit: "s"})
}
