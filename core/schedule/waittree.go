package schedule

import "slices"

// The waits of a group as a tree: of its join, and of what leads up to it.

// wspot is the join or a body of a group. What it is beside others, and when it is looked at, is of the search at hand (fit.go).
type wspot struct {
	v      int32 // its leader
	parent int   // what it leads up to, an earlier one of the group; −1 for the join
	// What is between it and that, x(parent) − x: how long at the least and at the most, how long without a price for waiting, and what
	// it costs.
	least, most, best int64
	wait              convex

	own  convex     // what it costs by when it is, beside what is placed elsewhere
	free []interval // when it may begin
	at   []int64    // the instants at which it is looked at
	cost []float64  // what it and all below it cost at the least then
}

// waitTree makes one of a group: from the join on to what is tied to it, and so on. A wait that would close a circle is left out.
func (p *problem) waitTree(g *group) []wspot {
	place := map[int32]int{int32(g.join): 0}
	for _, v := range g.nodes {
		place[p.lead[v]] = -1
	}
	spots := []wspot{{v: int32(g.join), parent: -1}}
	var tied []int32
	for i := 0; i < len(spots); i++ {
		u := spots[i].v
		tied = p.tiedTo(tied[:0], u)
		for _, v := range tied {
			if at, mine := place[v]; mine && at < 0 {
				place[v] = len(spots)
				spots = append(spots, p.waitBetween(v, u, i))
			}
		}
	}
	for _, v := range g.nodes { // what only others tie to it
		if at := place[p.lead[v]]; at < 0 {
			place[p.lead[v]] = len(spots)
			spots = append(spots, wspot{v: p.lead[v], parent: 0, least: -far, most: far, best: far})
		}
	}
	return spots
}

// tiedTo appends to out the leaders that links tie to one, in order.
func (p *problem) tiedTo(out []int32, u int32) []int32 {
	for _, list := range [][]arc{p.inTo[u], p.outOf[u]} {
		for _, a := range list {
			out = append(out, a.other)
		}
	}
	for _, m := range p.body[u] {
		for _, k := range p.softOf[m] {
			out = append(out, p.lead[p.soft[k].from], p.lead[p.soft[k].to])
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// waitBetween is the spot of v below that of u.
func (p *problem) waitBetween(v, u int32, parent int) wspot {
	s := wspot{v: v, parent: parent, least: -far, most: far}
	for _, a := range p.outOf[v] { // x(u) ≥ x(v) + w
		if a.other == u {
			s.least = max(s.least, a.w)
		}
	}
	for _, a := range p.inTo[v] { // x(v) ≥ x(u) + w
		if a.other == u {
			s.most = min(s.most, -a.w)
		}
	}
	for _, m := range p.body[v] {
		for _, k := range p.softOf[m] {
			switch l := &p.soft[k]; {
			case l.from == m && p.lead[l.to] == u:
				s.wait = append(s.wait, hinge{l.best + p.off[m] - p.off[l.to], 0, l.weight})
			case l.to == m && p.lead[l.from] == u:
				s.wait = append(s.wait, hinge{p.off[m] - p.off[l.from] - l.best, l.weight, 0})
			}
		}
	}
	slices.SortStableFunc(s.wait, func(a, b hinge) int { return compare(a.at, b.at) })
	s.best = s.most
	for _, h := range s.wait {
		if h.after > 0 {
			s.best = max(min(s.best, h.at), s.least)
			break
		}
	}
	return s
}

// costs is what a wait costs; impossibly where it may not be so long.
func (s *wspot) costs(wait int64) float64 {
	if wait < s.least || wait > s.most {
		return impossibly
	}
	return float64(s.wait.cost(wait))
}

// longest is how long it may wait for no more than so much, and no longer than a while beyond what costs nothing.
func (s *wspot) longest(may int64) int64 {
	if s.best >= far {
		return s.most
	}
	long, slope, cost := s.best, int64(0), int64(0)
	for _, h := range s.wait {
		if h.after == 0 {
			continue
		}
		if by := max(h.at-long, 0); slope > 0 && cost+by*slope > may {
			break
		} else {
			long, cost = max(long, h.at), cost+by*slope
		}
		slope += h.after
	}
	if slope > 0 {
		long += max(may-cost, 0) / slope
	}
	return min(s.most, long, s.best+longestWait)
}

// longestWait is how much longer than without a price a wait is looked at, seconds.
const longestWait = 5400

// standing leaves in own what a spot costs by when it is, beside what is placed.
func (s *state) standing(w *wspot) {
	w.own = w.own[:0]
	p := s.p
	for _, m := range p.body[w.v] {
		for _, a := range p.wants[m] {
			w.own = append(w.own, hinge{a.at - p.off[m], a.early, a.late})
		}
		for _, k := range p.softOf[m] {
			l := &p.soft[k]
			switch o := l.from + l.to - m; {
			case !s.placed[o]:
			case l.from == m:
				w.own = append(w.own, hinge{s.x[o] - l.best - p.off[m], l.weight, 0})
			default:
				w.own = append(w.own, hinge{s.x[o] + l.best - p.off[m], 0, l.weight})
			}
		}
	}
}
