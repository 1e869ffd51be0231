package schedule

import "context"

// The best times for an order that stands.

// retime keeps the order of work and makes the times the best for it (timing.go). It
// returns whether the cost went down.
func (m *improver) retime() bool { return m.retimeWithin(m.ctx) }

func (m *improver) retimeWithin(ctx context.Context) bool {
	if m.timing == nil {
		m.timing = newTiming(m.p)
	}
	m.timedAt, m.timedWork = m.rounds, m.work
	m.times.Rounds++
	if !m.timing.solve(ctx, m.state, m.users) {
		return false
	}
	cost := m.p.cost(m.timing.times)
	if cost >= m.current || !m.move(cost) {
		return false
	}
	m.times.Taken++
	return true
}

// move goes over to the times that were found, of which the cost is given; false, with nothing moved, where that takes more than there is.
func (m *improver) move(cost int64) bool {
	was := m.current
	m.exchange(m.timing.times)
	if m.current = cost; m.overfull() {
		m.exchange(m.timing.times)
		m.current = was
		return false
	}
	m.anyMoved()
	m.timing.goneOver()
	return true
}

// quickly is up to how many nodes the last times are found in no time worth speaking of, though the time of the search is over.
const quickly = 3000

// soonest gives the order of work its best times, puts off what may wait for nothing, and gives it a head start.
func (m *improver) soonest() {
	ctx := m.ctx
	if m.p.n <= quickly {
		ctx = context.WithoutCancel(ctx)
	}
	m.retimeWithin(ctx)
	m.putOff(ctx)
	m.beginSooner(ctx)
}

// beginSooner goes over to the last of the best times, but for a head start of what may come sooner for nothing. Where the last take more
// of a resource than there is, the head start is counted from the times as they are.
func (m *improver) beginSooner(ctx context.Context) {
	for _, first := range []func(*timing){(*timing).latest, func(*timing) {}} {
		if !m.timing.solveNear(ctx, m.state, m.users, far) {
			return
		}
		first(m.timing)
		m.timing.sooner()
		if cost := m.p.cost(m.timing.times); cost <= m.current && m.move(cost) {
			return
		}
	}
}

// retimeEvery is how many rounds lie between two optimal timings: they move many runs a little, which putting groups back one by one does
// not.
const retimeEvery = 50

// pointsPerPlace is how many points the timing looks at in the time of a placement.
const pointsPerPlace = 8

// timely reports whether it is time again for the best times: after some rounds, and, where there is so much that they take long, as many
// as they take themselves.
func (m *improver) timely() bool {
	return !m.near && m.rounds-m.timedAt >= retimeEvery && (m.timing == nil || m.work-m.timedWork >= m.timing.work/pointsPerPlace)
}

// exchange moves every node to the time given for it, and leaves there where it was.
func (m *improver) exchange(times []int64) {
	m.differ = m.differ[:0]
	for v := range m.p.n {
		if times[v] != m.x[v] && !m.p.fixed[v] {
			m.take(v)
			m.differ = append(m.differ, int32(v))
		}
	}
	for _, v := range m.differ {
		at := times[v]
		times[v] = m.x[v]
		m.put(int(v), at)
	}
}

// overfull reports whether more of a resource is taken than there is: the order of work says nothing of windows in which only a part of it
// is away.
func (m *improver) overfull() bool {
	for r, f := range m.prof {
		if len(m.p.res[r].blocks) == 0 {
			continue
		}
		for _, s := range f.steps {
			if s.units > f.capacity {
				return len(m.broken()) > 0
			}
		}
	}
	return false
}
