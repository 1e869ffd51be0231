package schedule

// The best times for an order that stands.

// retime keeps the order of work and makes the times the best for it (timing.go). It
// returns whether the cost went down.
func (m *improver) retime() bool {
	if m.timing == nil {
		m.timing = newTiming(m.p)
	}
	if !m.timing.solve(m.state, m.users) {
		return false
	}
	cost := m.p.cost(m.timing.times)
	if cost >= m.current {
		return false
	}
	was := m.current
	m.exchange(m.timing.times)
	if m.current = cost; m.overfull() {
		m.exchange(m.timing.times)
		m.current = was
		return false
	}
	m.priced = false
	return true
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
