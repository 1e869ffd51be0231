package schedule

import (
	"math"
	"slices"
)

// Where little room keeps other orders from being a first schedule, what was told is begun from, with what comes together late in another
// order: what has begun or is about to, and so what is hardest to find room for, keeps its place.
//
// Source of the method: ruin and recreate, Schrimpf, Schneider, Stamm-Wilbrandt & Dueck, Journal of Computational Physics 159 (2000).

const (
	// laterShares is how many shares of the time that is left keep their place in turn, in tenths: none, a tenth, two tenths …
	laterShares = 8
	// laterTries is how often a start is tried, each time with seven tenths of the time in which things move.
	laterTries = 6
	laterLess  = 0.7
	// laterNoise is by how many seconds more the i-th start strays from the order of the wishes.
	laterNoise = 160
)

// laterStart makes the present schedule the i-th start: the groups that come together late go out and come back in another order. It reports
// whether that keeps every rule; where it does not, the schedule stays as it was.
func (m *improver) laterStart(i int) bool {
	moves := 1 - float64(i%laterShares)/10
	for range laterTries {
		if m.laterAnew(moves, int64(i)*laterNoise) {
			m.keep()
			return true
		}
		moves *= laterLess
	}
	return false
}

// laterAnew takes out the groups that come together in the last share of the time that is left, 0 to 1, and puts them back by their wishes,
// each up to so many seconds later.
func (m *improver) laterAnew(share float64, noise int64) bool {
	m.out, m.outGroups = m.out[:0], m.outGroups[:0]
	first, last := int64(math.MaxInt64), int64(math.MinInt64)
	for k := range m.gs {
		if j := m.gs[k].join; j >= 0 && m.movable(k) {
			first, last = min(first, m.x[j]), max(last, m.x[j])
		}
	}
	from, turn := last-int64(share*float64(last-first)), make(map[int]int64, len(m.gs))
	for k := range m.gs {
		if j := m.gs[k].join; j >= 0 && m.movable(k) && m.x[j] >= from {
			m.outGroups = append(m.outGroups, k)
		}
	}
	if len(m.outGroups) == 0 {
		return false
	}
	m.takeGroups()
	m.out = m.whole(m.out)
	m.save()
	m.remove(m.out)
	for _, k := range m.outGroups {
		turn[k] = m.wishOf(k) + m.rng.Int64N(noise+1)
	}
	slices.SortFunc(m.outGroups, func(a, b int) int {
		if c := compare(turn[a], turn[b]); c != 0 {
			return c
		}
		return a - b
	})
	m.followersLast()
	m.noise, m.pick, m.lag, m.may, m.alone = noise/4, m.rng.Uint32(), 0, far, true
	defer func() { m.alone = false }()
	for _, k := range m.outGroups {
		if !m.insert(&m.gs[k]) {
			m.revert()
			return false
		}
	}
	m.round.end()
	m.current = m.p.cost(m.x)
	m.haveMoved(m.out)
	return true
}
