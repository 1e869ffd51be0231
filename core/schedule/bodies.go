package schedule

import "slices"

// Tasks that exact links tie to each other (shortest and longest wait the same) move as one: a pan with the hands that
// lay in and take out, a turn half-way. They are a body: its leader is placed, and the others with it. What a body takes
// are its segments, each at its own time from the leader's start.
//
// The branch and bound does not need bodies: there exact links are carried like any others.

// seg is one need of one task of a body.
type seg struct {
	node, need int32
	off, dur   int64 // from the leader's start, and how long
	stop       int32 // where it ends, when that is not so long after; −1 otherwise
}

// findBodies gathers the tasks that exact links tie, and the segments of every leader. What is fixed stays where it is
// and leads nobody.
func (p *problem) findBodies() {
	p.lead, p.off = make([]int32, p.n), make([]int64, p.n)
	p.body, p.segs, p.ties, p.tail, p.head = make([][]int32, p.n), make([][]seg, p.n), make([][][]int32, p.n), make([]int64, p.n),
		make([]int64, p.n)
	p.closes, p.open, p.alike = make([]bool, p.n), make([]bool, p.n), make([][]int32, p.n)
	p.rank = make([][]int32, p.n)
	for v := range p.n {
		p.lead[v], p.body[v] = int32(v), []int32{int32(v)}
	}
	for u := range p.tasks {
		for _, a := range p.out[u] {
			if v := a.other; int(v) < p.tasks && !p.fixed[u] && !p.fixed[v] && p.lead[u] != p.lead[v] && p.exact(int32(u), v, a.w) {
				p.merge(int32(u), v, a.w)
			}
		}
	}
	for v := range p.n {
		if p.lead[v] == int32(v) {
			p.segment(v)
		}
	}
	p.tieBodies()
}

// tieBodies gathers the arcs between bodies.
func (p *problem) tieBodies() {
	p.inTo, p.outOf = make([][]arc, p.n), make([][]arc, p.n)
	at := map[[2]int32]int{}
	for u := range p.n {
		for _, a := range p.out[u] {
			from, to := p.lead[u], p.lead[a.other]
			if from == to {
				continue // the windows have told whether it holds
			}
			w := p.off[u] + a.w - p.off[a.other]
			if k, there := at[[2]int32{from, to}]; there {
				p.outOf[from][k].w = max(p.outOf[from][k].w, w)
				continue
			}
			at[[2]int32{from, to}] = len(p.outOf[from])
			p.outOf[from] = append(p.outOf[from], arc{to, a.rule, w})
		}
	}
	for u := range p.n {
		for _, a := range p.outOf[u] {
			p.inTo[a.other] = append(p.inTo[a.other], arc{int32(u), a.rule, a.w})
		}
	}
}

// exact reports whether x[v] ≥ x[u] + w is all that the two may do.
func (p *problem) exact(u, v int32, w int64) bool {
	return slices.ContainsFunc(p.out[v], func(b arc) bool { return b.other == u && b.w == -w })
}

// merge makes one body of those of u and v, where v starts w after u. The longest of all leads: its end is what the
// others are placed by.
func (p *problem) merge(u, v int32, w int64) {
	a, b := p.lead[u], p.lead[v]
	by := p.off[u] + w - p.off[v] // of b's leader from a's
	if p.dur[b] > p.dur[a] {
		a, b, by = b, a, -by
	}
	for _, m := range p.body[b] {
		p.lead[m], p.off[m] = a, p.off[m]+by
	}
	p.body[a], p.body[b] = append(p.body[a], p.body[b]...), nil
}

// segment lists what the body of a leader takes: needs that are taken as each other first, side by side, so that who
// cannot do all of it is given up at once.
func (p *problem) segment(v int) {
	chains := map[int32]int{}
	var tied, alone [][]seg
	for _, m := range p.body[v] {
		p.tail[v] = max(p.tail[v], p.off[m]+p.dur[m])
		p.head[v] = min(p.head[v], p.off[m])
		p.closes[v] = p.closes[v] || p.run[m] >= 0
		p.open[v] = p.open[v] || p.stop[m] >= 0 && p.lead[p.stop[m]] != int32(v)
		for k := range p.needs[m] {
			s := seg{m, int32(k), p.off[m], p.dur[m], p.stop[m]}
			if s.stop >= 0 && p.lead[s.stop] == int32(v) {
				s.stop, s.dur = -1, p.off[s.stop]-p.off[m]
			}
			c := p.needs[m][k].chain
			if c < 0 {
				alone = append(alone, []seg{s})
				continue
			}
			if _, known := chains[c]; !known {
				chains[c] = len(tied)
				tied = append(tied, nil)
			}
			tied[chains[c]] = append(tied[chains[c]], s)
		}
	}
	for _, list := range append(tied, alone...) {
		var tie []int32
		for _, s := range list {
			tie = append(tie, int32(len(p.segs[v])))
			p.needs[s.node][s.need].seg = int32(len(p.segs[v]))
			p.segs[v] = append(p.segs[v], s)
		}
		p.ties[v] = append(p.ties[v], tie)
	}
	p.alike[v], p.rank[v] = make([]int32, len(p.segs[v])), make([]int32, len(p.segs[v]))
	for k := range p.alike[v] {
		p.alike[v][k] = -1
	}
	for i, a := range p.ties[v] {
		for _, b := range p.ties[v][:i] {
			if p.same(v, a, b) {
				p.alike[v][a[0]] = b[0]
				if p.alone(v, a[0]) {
					p.rank[v][a[0]] = p.rank[v][b[0]] + 1
				}
			}
		}
	}
}

// alone reports whether no resource of a segment has room for two like it.
func (p *problem) alone(v int, k int32) bool {
	sg := &p.segs[v][k]
	nd := &p.needs[sg.node][sg.need]
	return sg.dur > 0 && !slices.ContainsFunc(nd.anyOf, func(r int32) bool { return 2*nd.units <= p.res[r].capacity })
}

// same reports whether two ties of a leader ask for the same, so that who has the one and who the other is all one.
func (p *problem) same(v int, a, b []int32) bool {
	return slices.EqualFunc(a, b, func(i, k int32) bool {
		x, y := p.segs[v][i], p.segs[v][k]
		m, n := &p.needs[x.node][x.need], &p.needs[y.node][y.need]
		return x.off == y.off && x.dur == y.dur && x.stop == y.stop && m.units == n.units &&
			(m.setpoint == n.setpoint || !m.asks() && !n.asks()) &&
			slices.Equal(m.anyOf, n.anyOf) && (m.chain < 0) == (n.chain < 0) &&
			(m.chain < 0 || len(p.chains[m.chain]) == len(a) && len(p.chains[n.chain]) == len(b))
	})
}

// precedes reports whether an arc from u to v, of two bodies, lets the leader of the one begin no sooner than that of
// the other.
func (p *problem) precedes(u, v int32, w int64) bool {
	return p.lead[u] != p.lead[v] && w+p.off[u]-p.off[v] >= 0
}

// leads reports whether a node is placed by itself.
func (p *problem) leads(v int32) bool { return p.lead[v] == v }

// leaders puts those of some nodes that are placed by themselves into a list.
func (p *problem) leaders(into, nodes []int32) []int32 {
	into = into[:0]
	for _, v := range nodes {
		if p.leads(v) {
			into = append(into, v)
		}
	}
	return into
}

// early reports whether a body has to wait for its end to be placed, going backwards: until then it is not known how long
// it holds what it needs.
func (s *state) early(v int32) bool {
	if !s.p.open[v] {
		return false
	}
	for _, m := range s.p.body[v] {
		if e := s.p.stop[m]; e >= 0 && !s.placed[e] && s.p.lead[e] != v {
			return true
		}
	}
	return false
}

// whole adds to some nodes the others of their bodies.
func (s *state) whole(nodes []int32) []int32 {
	for _, v := range nodes {
		s.marked[v] = true
	}
	for _, v := range nodes {
		for _, m := range s.p.body[s.p.lead[v]] {
			if !s.marked[m] {
				s.marked[m] = true
				nodes = append(nodes, m)
			}
		}
	}
	for _, v := range nodes {
		s.marked[v] = false
	}
	return nodes
}

// beside reports whether segment k of v has room on r for all its units, beside v's segments before it.
func (s *state) beside(v, r int, t int64, k int) bool {
	sg := &s.p.segs[v][k]
	nd := &s.p.needs[sg.node][sg.need]
	from, to := t+sg.off, t+sg.off+s.length(sg, t)
	th := s.p.res[r].thermostat
	var cuts []int64
	for m := range k {
		o := &s.p.segs[v][m]
		if int(s.on[o.node][o.need]) != r {
			continue
		}
		other := &s.p.needs[o.node][o.need]
		a, b := t+o.off, t+o.off+s.length(o, t)
		if th != nil && nd.asks() && other.asks() {
			if o.node == sg.node && differ(th, nd.setpoint, other.setpoint) {
				return false
			}
			if b+changeover(th, other.setpoint, nd.setpoint) > from && to+changeover(th, nd.setpoint, other.setpoint) > a &&
				differ(th, nd.setpoint, other.setpoint) {
				return false
			}
		}
		if a < to && from < b {
			cuts = append(cuts, max(a, from), min(b, to))
		}
	}
	if cuts == nil {
		return s.prof[r].fits(from, to, nd.units)
	}
	cuts = append(cuts, from, to)
	slices.Sort(cuts)
	for i := 1; i < len(cuts); i++ {
		units := nd.units
		for m := range k {
			o := &s.p.segs[v][m]
			if int(s.on[o.node][o.need]) == r && t+o.off <= cuts[i-1] && t+o.off+s.length(o, t) >= cuts[i] {
				units += s.p.needs[o.node][o.need].units
			}
		}
		if !s.prof[r].fits(cuts[i-1], cuts[i], units) {
			return false
		}
	}
	return true
}
