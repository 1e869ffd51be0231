package schedule

import "slices"

// Squeezing together: where a resource is busy for long, a run finds room only far away, though it would fit if each of those before it
// moved a little. So all runs of a stretch of time on a resource, and what leads up to them, are taken out together with a group that
// would like to be there, and put back one by one, the last first, each as late as it can.

// mostSqueezed is how many runs are taken out at the most.
const mostSqueezed = 60

// squeeze takes out a group, and the runs that hold what one of its long runs needs, in the time before it where it would like to be.
func (m *improver) squeeze(g int) bool {
	grp := &m.gs[g]
	if grp.join < 0 || len(grp.nodes) == 0 {
		return false
	}
	v := m.longRun(grp)
	if v < 0 || len(m.p.needs[v]) == 0 {
		return false
	}
	by := m.p.wish(grp.join) - m.x[grp.join]
	if m.rng.IntN(4) == 0 {
		by = 0
	}
	nd := &m.p.needs[v][m.rng.IntN(len(m.p.needs[v]))]
	to := m.x[v] + by + m.p.dur[v] + m.rng.Int64N(600)
	from := to - m.p.dur[v] - []int64{600, 1200, 2400, 4800}[m.rng.IntN(4)]
	m.out = append(append(m.out, grp.nodes...), int32(grp.join))
	for i, r := range nd.anyOf {
		if slices.Contains(nd.anyOf[:i], r) {
			continue
		}
		for _, u := range m.users[r] {
			if m.on[u.node][u.need] == r && !m.still(u.node) && m.x[u.node] < to && m.ends(int(u.node)) > from {
				m.withBefore(m.p.lead[u.node])
			}
			if len(m.out) > mostSqueezed+len(grp.nodes) {
				return true
			}
		}
	}
	return true
}

// longRun draws a run of a group, the longer the likelier.
func (m *improver) longRun(g *group) int32 {
	var total int64
	pick := int32(-1)
	for _, v := range g.nodes {
		if int(v) >= m.p.tasks || m.p.dur[v] == 0 || len(m.p.needs[v]) == 0 {
			continue
		}
		total += m.p.dur[v]
		if m.rng.Int64N(total) < m.p.dur[v] {
			pick = v
		}
	}
	return pick
}

// withBefore takes out a run and, as far as they are open, all that lead up to it.
func (m *improver) withBefore(v int32) {
	if slices.Contains(m.out, v) {
		return
	}
	from := len(m.out)
	m.out = append(m.out, v)
	for i := from; i < len(m.out); i++ {
		for _, b := range m.p.body[m.p.lead[m.out[i]]] {
			for _, a := range m.p.in[b] {
				u := m.p.lead[a.other]
				if int(u) < m.p.tasks && !m.still(u) && a.w >= 0 && m.x[u] < m.x[b] && !slices.Contains(m.out, u) {
					m.out = append(m.out, u)
				}
			}
		}
	}
}
