package schedule

import "slices"

// Making way: what keeps a join from standing where it would like to is taken out with it, and finds its place after it.
//
// Source of the method: ejection chains, Glover, Discrete Applied Mathematics 65 (1996); here the chain is one step, and what it ejects is
// put back by insertion.

// mostEjected is how many groups make way at the most.
const mostEjected = 14

// makeWay takes out a group and every group that holds what its runs need, were its join to stand at its wish.
func (m *improver) makeWay(g int) bool {
	j := m.gs[g].join
	if j < 0 {
		return false
	}
	by := m.p.wish(j) - m.x[j]
	if m.rng.IntN(4) == 0 {
		by = by * m.rng.Int64N(5) / 4
	}
	if by == 0 {
		by = m.rng.Int64N(601) - 300
	}
	m.outGroups = append(m.outGroups, g)
	m.held.forget()
	for _, v := range m.gs[g].nodes {
		if !m.p.leads(v) || int(v) >= m.p.tasks {
			continue
		}
		for _, tie := range m.p.ties[v] {
			m.eject(g, v, tie, m.x[v]+by)
			if len(m.outGroups) > mostEjected {
				return true
			}
		}
	}
	return len(m.outGroups) > 1
}

// eject adds the groups that hold what one tie of v's body needs at t, on the alternative where they are the fewest.
func (m *improver) eject(g int, v int32, tie []int32, t int64) {
	segs := m.p.segs[v]
	first := &m.p.needs[segs[tie[0]].node][segs[tie[0]].need]
	best := -1
	m.fewest = m.fewest[:0]
	n := len(first.anyOf)
	turn := m.rng.IntN(n)
	for i := range n {
		i = (i + turn) % n
		there := true
		for _, k := range tie {
			sg := &segs[k]
			nd := &m.p.needs[sg.node][sg.need]
			there = there && m.p.res[nd.anyOf[i]].there(nd.units, t+sg.off, t+sg.off+sg.dur)
		}
		if !there {
			continue // whoever makes way
		}
		m.inWay = m.inWay[:0]
		for _, k := range tie {
			sg := &segs[k]
			nd := &m.p.needs[sg.node][sg.need]
			m.holders(g, nd.anyOf[i], nd, t+sg.off, t+sg.off+sg.dur)
		}
		if best < 0 || len(m.inWay) < best {
			best = len(m.inWay)
			m.fewest = append(m.fewest[:0], m.inWay...)
		}
		if best == 0 {
			return
		}
	}
	for _, k := range m.fewest {
		m.also(k)
	}
}

// holding is what a need has of a resource.
type holding struct {
	node, need int32
	from, to   int64
}

// holdings are what is had of each resource. What moves makes them untrue: they are read anew after forget.
type holdings struct {
	of   [][]holding
	read []bool
}

func (h *holdings) forget() { clear(h.read) }

// heldOf is what is had of a resource.
func (m *improver) heldOf(r int32) []holding {
	h := &m.held
	if h.read[r] {
		return h.of[r]
	}
	list := h.of[r][:0]
	for _, u := range m.users[r] {
		if m.on[u.node][u.need] == r && m.placed[u.node] {
			list = append(list, holding{u.node, u.need, m.x[u.node], m.ends(int(u.node))})
		}
	}
	h.of[r], h.read[r] = list, true
	return list
}

// holders adds the groups, beside g and those that are out already, that leave no room for a need on r from one instant to another.
func (m *improver) holders(g int, r int32, nd *need, from, to int64) {
	before := len(m.inWay)
	left, slowest := m.p.res[r].capacity-nd.units, m.p.res[r].slowest
	th := m.p.res[r].thermostat
	held := m.heldOf(r)
	for i := range held {
		u := &held[i]
		a, b := u.from, u.to
		if b+slowest <= from || a-slowest >= to || m.homes[u.node] == g {
			continue
		}
		other := &m.p.needs[u.node][u.need]
		apart := th != nil && nd.asks() && other.asks() && differ(th, nd.setpoint, other.setpoint)
		if apart {
			a, b = a-changeover(th, nd.setpoint, other.setpoint), b+changeover(th, other.setpoint, nd.setpoint)
		}
		if b <= from || a >= to || slices.Contains(m.outGroups, m.homes[u.node]) {
			continue
		}
		if !apart {
			left -= other.units
		} else {
			left = -1
		}
		if k := m.homes[u.node]; !m.still(u.node) && !slices.Contains(m.inWay, k) {
			m.inWay = append(m.inWay, k)
		}
	}
	if left >= 0 {
		m.inWay = m.inWay[:before]
	}
}

// there reports whether so many units are there from one instant to another, as long as nothing is taken.
func (r *resource) there(units, from, to int64) bool {
	for _, b := range r.blocks {
		if b.from < to && b.to > from && r.capacity-b.units < units {
			return false
		}
	}
	return true
}
