package schedule

import (
	"slices"
)

// exactNeighbourhoods improves the best schedule by solving parts of it with the
// branch and bound: the runs in a stretch of time, or on some resources, are freed,
// everything else keeps its order and its resources. The part grows while it is
// solved to the end, and shrinks when it is not.
//
// Source of the method: large neighbourhood search with constraint propagation,
// Shaw (1998); relaxing the order within a time window, Godard, Laborie & Nuijten,
// ICAPS (2005).
func (s *solver) exactNeighbourhoods(rounds int) {
	m := s.m
	size := 0.25
	var open []int32
	for v := range s.p.tasks {
		if !s.p.fixed[v] {
			open = append(open, int32(v))
		}
	}
	if len(open) < 2 {
		return
	}
	free := make([]bool, s.p.n)
	idle := 0
	for range rounds {
		if s.ctx.Err() != nil || m.best <= s.bound {
			break
		}
		s.freePart(open, free, size)
		// Mostly something better is wanted; now and then anything that is not much
		// worse, to come to another valley.
		target, wander := m.current, m.rng.IntN(4) == 0
		if wander {
			target = m.current + 1 + m.rng.Int64N(1+m.best/150)
		}
		br, ok := newBrancher(s.ctx, s.p, target, 250)
		br.rng, br.first = m.rng, wander
		ok = ok && br.keepOrder(m.x, m.on, free)
		if ok {
			br.search()
		}
		m.tried += br.nodes
		if idle++; br.found {
			m.adopt(br.bestX, br.bestOn)
			if m.current < m.best {
				m.keep()
				s.told()
				idle = 0
			}
		}
		switch {
		case wander:
		case ok && br.stopped:
			size = max(0.05, size*0.96)
		default:
			size = min(0.9, size*1.02)
		}
		if idle > 120 {
			m.adopt(m.bestX, m.bestOn)
			idle = 0
		}
	}
	m.adopt(m.bestX, m.bestOn)
}

// freePart marks which runs may move: those that touch a stretch of time of the
// present schedule, or those on a part of the resources.
func (s *solver) freePart(open []int32, free []bool, size float64) {
	m := s.m
	clear(free)
	switch m.rng.IntN(4) {
	case 0: // some resources
		for r := range s.p.res {
			if m.rng.Float64() > size*1.2 {
				continue
			}
			for _, v := range open {
				free[v] = free[v] || slices.Contains(m.on[v], int32(r))
			}
		}
	default: // a stretch of time
		first, last := far, -far
		for _, v := range open {
			first, last = min(first, m.x[v]), max(last, ends(s.p, m.x, int(v)))
		}
		length := max(1, int64(float64(last-first)*size))
		from := first - length/2 + m.rng.Int64N(last-first+1)
		for _, v := range open {
			free[v] = m.x[v] < from+length && ends(s.p, m.x, int(v)) > from
		}
	}
}

// keepOrder posts the order and the resources that a schedule has, except between
// two runs that are free, and where both may move.
func (b *brancher) keepOrder(x []int64, on [][]int32, free []bool) bool {
	for v := range b.p.tasks {
		for k := range b.on[v] {
			if b.on[v][k] < 0 && !free[v] && !b.assign(int32(v), k, on[v][k]) {
				return false
			}
		}
	}
	for r := range b.users {
		us := b.users[r]
		for i := range us {
			for j := range us {
				u, v := &us[i], &us[j]
				if u.node == v.node || u.block || v.block || free[u.node] && free[v.node] || b.still(u) && b.still(v) {
					continue
				}
				if b.order[int(u.node)*b.n+int(v.node)] == before {
					continue
				}
				gap, apart := b.gap(r, u, v)
				if apart && ends(b.p, x, int(u.node))+gap <= x[v.node] {
					b.decide(u.node, v.node, before)
					if !b.near(us, u, v, x, r) {
						continue // follows from the runs between
					}
					if !b.precede(u.node, v.node, gap) {
						return false
					}
				}
			}
		}
	}
	return b.propagate()
}

// near reports whether no third run of a resource lies between u and v for sure, so
// that their order must be posted itself.
func (b *brancher) near(us []user, u, v *user, x []int64, r int) bool {
	if b.p.res[r].thermostat != nil {
		return true
	}
	for i := range us {
		t := &us[i]
		if t.block || t.node == u.node || t.node == v.node {
			continue
		}
		if ends(b.p, x, int(u.node)) <= x[t.node] && ends(b.p, x, int(t.node)) <= x[v.node] && b.dur[t.node] > 0 &&
			u.units+t.units > b.p.res[r].capacity && t.units+v.units > b.p.res[r].capacity &&
			b.order[int(u.node)*b.n+int(t.node)] == before && b.order[int(t.node)*b.n+int(v.node)] == before {
			return false
		}
	}
	return true
}
