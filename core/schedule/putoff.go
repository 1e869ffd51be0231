package schedule

import (
	"context"
	"slices"
)

// What may wait for nothing is put off to where it need not wait so long, though others have to be passed for it: the best times keep the
// order of work, and that leaves a broth on the stove hours before its table for no better reason than that it once stood before a pan.
//
// Source of the method: justification, Valls, Ballestín & Quintanilla, European Journal of Operational Research 165 (2005); here of single
// bodies, as far as the cost stays what it is.

// putOff goes through the bodies, the last first, and puts each as late as it may be at the same cost where that is more than a head start
// later, with what hangs on it alone.
func (m *improver) putOff(ctx context.Context) {
	var list []int32
	for v := range int32(m.p.tasks) {
		if m.p.leads(v) && !m.p.fixed[v] {
			list = append(list, v)
		}
	}
	slices.SortFunc(list, func(a, b int32) int { return -sooner(m.x, member{node: a}, member{node: b}) })
	for _, v := range list {
		if ctx.Err() != nil {
			return
		}
		m.putOffOne(v)
	}
}

// putOffTries is at how many instants a body is tried.
const putOffTries = 4

// putOffOne puts off one body with what hangs on it.
func (m *improver) putOffOne(v int32) {
	hang := m.hangsOn(v)
	nodes := slices.Clone(m.p.body[v])
	for _, u := range hang {
		nodes = append(nodes, m.p.body[u]...)
	}
	was := m.x[v]
	m.remember(nodes)
	m.remove(nodes)
	for at, try := m.lst[v], 0; try < putOffTries && at > was+headStart; try++ {
		got, ok := m.room(int(v), at, was+headStart+1, backward)
		if !ok {
			break
		}
		m.place(int(v), got)
		if m.placeAll(hang) {
			if cost := m.p.cost(m.x); cost <= m.current {
				m.current = cost
				m.anyMoved()
				return
			}
		}
		m.remove(nodes)
		at = got - (got-was)/4 - 1
	}
	m.recall(nodes)
}

// placeAll puts bodies down as soon as may be; false, with some of them placed, where one finds no room.
func (m *improver) placeAll(bodies []int32) bool {
	for _, u := range bodies {
		if m.est[u] > m.lst[u] {
			return false
		}
		at, ok := m.room(int(u), m.est[u], m.lst[u], forward)
		if !ok {
			return false
		}
		m.place(int(u), at)
	}
	return true
}

// hangsOn lists the bodies that waits tie to one and, beside it, to each other alone, the first first: the stirring of a pot.
func (m *improver) hangsOn(v int32) (out []int32) {
	for _, a := range m.p.outOf[v] {
		u := a.other
		if int(u) >= m.p.tasks || m.p.fixed[u] || slices.Contains(out, u) {
			continue
		}
		out = append(out, u)
	}
	for again := true; again; {
		again = false
		for k, u := range out {
			alone := true
			for _, list := range [2][]arc{m.p.outOf[u], m.p.inTo[u]} {
				for _, a := range list {
					alone = alone && (a.other == v || slices.Contains(out, a.other))
				}
			}
			if !alone {
				out, again = slices.Delete(out, k, k+1), true
				break
			}
		}
	}
	slices.SortFunc(out, func(a, b int32) int { return sooner(m.x, member{node: a}, member{node: b}) })
	return out
}
