package schedule

import (
	"slices"
)

// The best times for an order that stands.

// retime keeps the order of work and makes the times the best for it (network). It
// returns whether the cost went down.
func (m *improver) retime() bool {
	p := m.p
	g := newNetwork(p.n + 1)
	zero := int32(p.n)
	add := func(u, v int32, w, c int64) bool { return g.add(u, v, w, c) }
	for v := range p.n {
		// Starting from the present times keeps most arcs satisfied from the outset.
		g.x[v] = p.lo[v]
	}
	for v := range p.n {
		if !add(zero, int32(v), p.lo[v], endless) || !add(int32(v), zero, -p.hi[v], endless) {
			return false
		}
	}
	for u := range p.n {
		for _, a := range p.out[u] {
			if !add(int32(u), a.other, a.w, endless) {
				return false
			}
		}
	}
	if !m.orderArcs(add) {
		return false
	}
	for v := range p.n {
		for _, w := range p.wants[v] {
			if w.late > 0 && !add(int32(v), zero, -w.at, w.late) || w.early > 0 && !add(zero, int32(v), w.at, w.early) {
				return false
			}
		}
	}
	for i := range p.soft {
		s := &p.soft[i]
		if s.from != s.to && !add(s.to, s.from, -s.best, s.weight) {
			return false
		}
	}
	if g.value+p.base >= m.current {
		return false
	}
	x := make([]int64, p.n)
	for v := range p.n {
		x[v] = g.x[v] - g.x[zero]
	}
	wasX, wasCost := slices.Clone(m.x), m.current
	on := make([][]int32, p.n)
	for v := range p.n {
		on[v] = slices.Clone(m.on[v])
	}
	m.adopt(x, on)
	if m.current >= wasCost || len(m.broken()) > 0 {
		m.adopt(wasX, on)
		return false
	}
	return true
}

// orderArcs adds, for each resource, the order in which the present schedule uses
// it: units are handed on from run to run, windows are kept on their side, and runs
// at different temperatures keep their changeover.
func (m *improver) orderArcs(add func(u, v int32, w, c int64) bool) bool {
	p := m.p
	zero := int32(p.n)
	type use struct {
		v     int32
		units int64
		need  *need
	}
	for r := range p.res {
		var us []use
		for v := range p.tasks {
			for k := range p.needs[v] {
				if int(m.on[v][k]) == r {
					us = append(us, use{int32(v), p.needs[v][k].units, &p.needs[v][k]})
				}
			}
		}
		slices.SortFunc(us, func(a, b use) int {
			if c := compare(m.x[a.v], m.x[b.v]); c != 0 {
				return c
			}
			return int(a.v - b.v)
		})
		if p.res[r].capacity > 4096 {
			return false
		}
		lastOn := make([]int32, p.res[r].capacity)
		for i := range lastOn {
			lastOn[i] = -1
		}
		for _, u := range us {
			if n, d := p.finish(u.v); p.dur[u.v] > 0 {
				taken := int64(0)
				for i := range lastOn {
					if taken == u.units {
						break
					}
					if q := lastOn[i]; q < 0 || m.ends(int(q)) <= m.x[u.v] {
						if q >= 0 && !(p.fixed[q] && p.fixed[u.v]) {
							if end, after := p.finish(q); !add(end, u.v, after, endless) {
								return false
							}
						}
						lastOn[i] = u.v
						taken++
					}
				}
				for _, b := range p.res[r].blocks {
					if p.fixed[u.v] {
						break
					}
					if b.to <= m.x[u.v] && b.to > -far {
						if !add(zero, u.v, b.to, endless) {
							return false
						}
					} else if b.from >= m.ends(int(u.v)) && b.from < far {
						if !add(n, zero, d-b.from, endless) {
							return false
						}
					}
				}
			}
		}
		t := p.res[r].thermostat
		if t == nil {
			continue
		}
		for i := range us {
			if us[i].need.setpoint.none() {
				continue
			}
			if !p.fixed[us[i].v] && !add(zero, us[i].v, changeover(t, standby(t), us[i].need.setpoint), endless) {
				return false
			}
			for k := range i {
				a, b := us[k], us[i]
				if a.v == b.v || p.fixed[a.v] && p.fixed[b.v] || a.need.setpoint.none() || !differ(t, a.need.setpoint, b.need.setpoint) {
					continue
				}
				end, after := p.finish(a.v)
				if !add(end, b.v, after+changeover(t, a.need.setpoint, b.need.setpoint), endless) {
					return false
				}
			}
		}
	}
	return true
}
