package schedule

import (
	"slices"
)

// What a round of the search takes out: a group, and what stands in its way.

// choose picks what to take out: the groups near one that costs something, or those
// in a stretch of time, or a part of one large group.
func (m *improver) choose() bool {
	m.out, m.outGroups = m.out[:0], m.outGroups[:0]
	if len(m.gs) == 0 {
		return false
	}
	g := m.costly()
	if m.tangled && m.gs[g].join >= 0 && m.rng.IntN(2) == 0 && m.stretch(g) {
		return true
	}
	if len(m.gs[g].nodes) > 60 || len(m.gs) == 1 || m.gs[g].join < 0 {
		if m.part(g) {
			return true
		}
	}
	m.outGroups = append(m.outGroups, g)
	more := m.rng.IntN(4)
	for range more {
		k := -1
		switch m.rng.IntN(3) {
		case 0:
			k = g + m.rng.IntN(7) - 3
		case 1:
			k = m.linked(m.outGroups[m.rng.IntN(len(m.outGroups))])
		default:
			k = m.rival(m.outGroups[m.rng.IntN(len(m.outGroups))])
		}
		if k >= 0 && k < len(m.gs) && m.gs[k].join >= 0 && len(m.gs[k].nodes) <= 60 && !slices.Contains(m.outGroups, k) {
			m.outGroups = append(m.outGroups, k)
		}
	}
	for _, k := range m.outGroups {
		m.out = append(m.out, m.gs[k].nodes...)
		if m.gs[k].join >= 0 {
			m.out = append(m.out, int32(m.gs[k].join))
		}
	}
	return true
}

// stretch takes out the runs that follow each other on one resource around a run of a
// group, of whatever joins they are: who has it first is decided again.
func (m *improver) stretch(g int) bool {
	nodes := m.gs[g].nodes
	if len(nodes) == 0 {
		return false
	}
	v := nodes[m.rng.IntN(len(nodes))]
	if int(v) >= m.p.tasks || len(m.on[v]) == 0 {
		return false
	}
	r := m.on[v][m.rng.IntN(len(m.on[v]))]
	type near struct {
		v int32
		d int64
	}
	var list []near
	for u := range m.p.tasks {
		if m.p.fixed[u] || !slices.Contains(m.on[u], r) {
			continue
		}
		d := m.x[u] - m.x[v]
		list = append(list, near{int32(u), max(d, -d)})
	}
	slices.SortFunc(list, func(a, b near) int {
		if c := compare(a.d, b.d); c != 0 {
			return c
		}
		return int(a.v - b.v)
	})
	for _, x := range list[:min(len(list), 2+m.rng.IntN(7))] {
		if slices.Contains(m.out, x.v) {
			continue // it leads up to one that is out already
		}
		m.out = append(m.out, x.v)
		if m.rng.IntN(2) == 0 {
			continue
		}
		// What leads up to it moves with it.
		for _, a := range m.p.in[x.v] {
			if u := a.other; int(u) < m.p.tasks && !m.p.fixed[u] && !slices.Contains(m.out, u) && m.x[u] < m.x[x.v] {
				m.out = append(m.out, u)
			}
		}
	}
	if len(m.out) < 2 {
		m.out = m.out[:0]
		return false
	}
	return true
}

// isTangled reports whether some run leads to two joins: then taking out whole groups
// leaves too much in place.
func (m *improver) isTangled() bool {
	for v := range m.p.tasks {
		for _, a := range m.p.out[v] {
			if k := m.homes[a.other]; a.w >= 0 && k != m.homes[v] && m.gs[k].join >= 0 && int(a.other) != m.gs[k].join {
				return true
			}
		}
	}
	return false
}

// linked picks a group that a link ties to one, −1 when none does.
func (m *improver) linked(g int) int {
	seen, pick := 0, -1
	for _, v := range m.gs[g].nodes {
		for _, list := range [][]arc{m.p.out[v], m.p.in[v]} {
			for _, a := range list {
				if k := m.homes[a.other]; k != g && !m.p.fixed[a.other] {
					if seen++; m.rng.IntN(seen) == 0 {
						pick = k
					}
				}
			}
		}
	}
	return pick
}

// rival picks a group that holds a resource near the time at which a run of one group
// uses it, −1 when that run uses none.
func (m *improver) rival(g int) int {
	nodes := m.gs[g].nodes
	if len(nodes) == 0 {
		return -1
	}
	v := nodes[m.rng.IntN(len(nodes))]
	if int(v) >= m.p.tasks || len(m.on[v]) == 0 {
		return -1
	}
	r := m.on[v][m.rng.IntN(len(m.on[v]))]
	// The third nearest at most: a nearer one is passed over now and then.
	pick, best := -1, int64(0)
	for u := range m.p.tasks {
		if m.p.fixed[u] || m.homes[u] == g || !slices.Contains(m.on[u], r) {
			continue
		}
		d := m.x[u] - m.x[v]
		if d = max(d, -d); (pick < 0 || d < best) && (pick < 0 || m.rng.IntN(3) > 0) {
			pick, best = m.homes[u], d
		}
	}
	return pick
}

// costly picks a group, the dearer the likelier.
func (m *improver) costly() int {
	if m.rng.IntN(3) == 0 {
		return m.rng.IntN(len(m.gs))
	}
	var total int64
	pick := 0
	for i := range m.gs {
		c := int64(1)
		if j := m.gs[i].join; j >= 0 {
			c += m.p.nodeCost(j, m.x[j])
		}
		for _, v := range m.gs[i].nodes {
			for _, k := range m.p.softOf[v] {
				s := &m.p.soft[k]
				if over := m.x[s.to] - m.x[s.from] - s.best; over > 0 {
					c += over * s.weight
				}
			}
			if len(m.p.wants[v]) > 0 {
				c += m.p.nodeCost(int(v), m.x[v])
			}
		}
		total += c
		if m.rng.Int64N(total) < c {
			pick = i
		}
	}
	return pick
}

// part takes some runs of one group out: those in a stretch of time.
func (m *improver) part(g int) bool {
	nodes := m.gs[g].nodes
	if len(nodes) == 0 {
		return false
	}
	centre := nodes[m.rng.IntN(len(nodes))]
	count := 3 + m.rng.IntN(12)
	type near struct {
		v int32
		d int64
	}
	list := make([]near, 0, len(nodes))
	for _, v := range nodes {
		d := m.x[v] - m.x[centre]
		list = append(list, near{v, max(d, -d) + m.rng.Int64N(60)})
	}
	slices.SortFunc(list, func(a, b near) int {
		if c := compare(a.d, b.d); c != 0 {
			return c
		}
		return int(a.v - b.v)
	})
	for _, x := range list[:min(count, len(list))] {
		m.out = append(m.out, x.v)
	}
	return true
}
