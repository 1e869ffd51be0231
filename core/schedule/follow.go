package schedule

import "slices"

// Joins that follow: where what is made has to be there by one time and would better be by another, two joins hang on the same tasks.
// These are of the group of one of them (groups.go), and the other is a group without any. It goes out and comes back with the one that
// it follows, which could not be put later without it, and by itself it has nothing to gain.

// findFollowers finds for each group the one that it follows, −1 for most, and for each group those that follow it.
func (m *improver) findFollowers() {
	m.leader, m.followers = make([]int, len(m.gs)), make([][]int, len(m.gs))
	for k := range m.gs {
		m.leader[k] = m.leaderOf(k)
		if l := m.leader[k]; l >= 0 {
			m.followers[l] = append(m.followers[l], k)
		}
	}
}

// leaderOf is the first group with tasks that a join without any hangs on, −1 where there is none or the group has tasks of its own.
func (m *improver) leaderOf(k int) int {
	j := m.gs[k].join
	if j < 0 || len(m.gs[k].nodes) > 0 {
		return -1
	}
	for _, list := range [][]arc{m.p.in[j], m.p.out[j]} {
		for _, a := range list {
			if m.p.fixed[a.other] {
				continue
			}
			if l := m.homes[a.other]; l != k && len(m.gs[l].nodes) > 0 {
				return l
			}
		}
	}
	return -1
}

// led is the group to take out where one was picked: what it follows, where that may be put down as a whole.
func (m *improver) led(g int) int {
	if l := m.leader[g]; l >= 0 && m.movable(l) && m.inOne(l) {
		return l
	}
	return g
}

// takeGroups takes out all nodes of the groups that were chosen, and of what follows them.
func (m *improver) takeGroups() {
	for i := range m.outGroups {
		for _, k := range m.followers[m.outGroups[i]] {
			if m.movable(k) && !slices.Contains(m.outGroups, k) {
				m.outGroups = append(m.outGroups, k)
			}
		}
	}
	for _, k := range m.outGroups {
		m.out = append(m.out, m.gs[k].nodes...)
		if m.gs[k].join >= 0 {
			m.out = append(m.out, int32(m.gs[k].join))
		}
	}
}

// followersLast puts what follows after all else: where it may be is known then.
func (m *improver) followersLast() {
	slices.SortStableFunc(m.outGroups, func(a, b int) int { return min(m.leader[a], 0) - min(m.leader[b], 0) })
}
