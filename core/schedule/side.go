package schedule

import "slices"

// Two searches on one schedule: the one changes only what ends before an instant, the other only what begins after it, so that what both
// find holds together, but for waits and temperatures across that instant, which are looked at when the two are joined.

// side is what a search may change: what lies between two instants as it stands.
type side struct {
	from, to int64
	still    []bool // of each node, whether it stays
	moves    []bool // of each group, whether some of it may move
	many     int    // groups that may
	lo, hi   []int64
}

// still reports whether a node stays where it is.
func (m *improver) still(v int32) bool { return m.p.fixed[v] || m.side != nil && m.side.still[v] }

// movable reports whether some of a group may move.
func (m *improver) movable(g int) bool { return m.side == nil || m.side.moves[g] }

// largeGroup is from how many nodes on a group is not put down as a whole.
const largeGroup = 60

// inOne reports whether a group is put down as a whole.
func (m *improver) inOne(g int) bool { return m.gs[g].join >= 0 && len(m.gs[g].nodes) <= largeGroup }

// confine lets a search change only what lies between two instants, and only so that it stays there. Groups that are put down as a whole
// stay where a part of them lies elsewhere.
func (m *improver) confine(d *side, from, to int64) {
	p := m.p
	if d.still == nil {
		d.still, d.moves = make([]bool, p.n), make([]bool, len(m.gs))
		d.lo, d.hi = append(d.lo, m.lo...), append(d.hi, m.hi...)
	}
	m.side = d
	d.from, d.to, d.many = from, to, 0
	for v := range p.n {
		if p.lead[v] == int32(v) {
			m.lo[v], m.hi[v] = max(d.lo[v], from-p.head[v]), min(d.hi[v], to-p.tail[v])
		}
	}
	for i := range m.gs {
		g := &m.gs[i]
		all := true
		d.moves[i] = false
		for _, v := range g.nodes {
			l := p.lead[v]
			in := m.x[l] >= m.lo[l] && m.x[l] <= m.hi[l]
			d.still[v] = !in
			all = all && in
			d.moves[i] = d.moves[i] || in
		}
		if j := g.join; j >= 0 {
			in := m.x[j] >= m.lo[j] && m.x[j] <= m.hi[j]
			d.still[j] = !in
			all = all && in
		}
		if m.inOne(i) && !all {
			d.moves[i] = false
			for _, v := range g.nodes {
				d.still[v] = true
			}
			d.still[g.join] = true
		} else if m.inOne(i) {
			d.moves[i] = true
		}
		if d.moves[i] {
			d.many++
		}
	}
	m.costs.added = false
}

// release lets it change everything again.
func (m *improver) release() {
	if m.side == nil {
		return
	}
	copy(m.lo, m.side.lo)
	copy(m.hi, m.side.hi)
	m.side = nil
	m.costs.added = false
}

// joinWith takes over what another search has changed on its side of the same schedule; false, with nothing taken over, where that does not
// hold together with what this one has changed.
func (m *improver) joinWith(other *improver) bool {
	p := m.p
	m.differ = m.differ[:0]
	for v := range p.n {
		if other.still(int32(v)) || m.x[v] == other.x[v] && slices.Equal(m.on[v], other.on[v]) {
			continue
		}
		m.differ = append(m.differ, int32(v))
		m.savedX[v] = m.x[v]
		copy(m.savedOn[v], m.on[v])
		m.take(v)
	}
	ok := true
	for _, v := range m.differ {
		for _, a := range p.in[v] {
			if m.placed[a.other] {
				ok = ok && m.x[a.other]+a.w <= other.x[v]
			}
		}
		for _, a := range p.out[v] {
			if m.placed[a.other] {
				ok = ok && other.x[v]+a.w <= m.x[a.other]
			}
		}
		for k := range p.needs[v] {
			r := other.on[v][k]
			if nd := &p.needs[v][k]; ok && nd.asks() && p.res[r].thermostat != nil {
				clash, _, _ := p.res[r].blocked(&m.heat[r], other.x[v], other.ends(int(v))-other.x[v], nd.setpoint)
				ok = !clash
			}
		}
		if !ok {
			break
		}
	}
	for _, v := range m.differ {
		if ok {
			copy(m.on[v], other.on[v])
			m.put(int(v), other.x[v])
		} else {
			copy(m.on[v], m.savedOn[v])
			m.put(int(v), m.savedX[v])
		}
	}
	m.current = p.cost(m.x)
	m.anyMoved()
	return ok
}
