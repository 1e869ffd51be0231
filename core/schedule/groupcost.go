package schedule

import (
	"slices"
	"sort"
)

// What the groups cost, by which the dear ones are picked the oftener.

// groupCosts are what the groups of a search cost where they stand, and at least one each.
type groupCosts struct {
	of    []int64
	upTo  []int64 // their sums, up to each; what may not move adds nothing
	known bool    // false where anything may have moved
	added bool    // false where the sums are not those of now
	stale []int32 // groups of which the cost may have changed since it was known
	marks []bool  // of each group, whether it is among these
}

// Once in so many rounds any group is picked, whatever it costs: where what was told is mended what costs nothing is seldom in the way.
const (
	oftenAny  = 3
	seldomAny = 6
)

// costly picks a group, the dearer the likelier.
func (m *improver) costly() int {
	if m.rng.IntN(m.stray) == 0 {
		for range 20 {
			if g := m.rng.IntN(len(m.gs)); m.movable(g) {
				return g
			}
		}
	}
	m.price()
	upTo := m.costs.upTo
	x := m.rng.Int64N(upTo[len(upTo)-1])
	return sort.Search(len(upTo), func(i int) bool { return upTo[i] > x })
}

// price finds what the groups cost, of those that have changed, and adds it up. Most rounds put everything back, and change nothing.
func (m *improver) price() {
	c := &m.costs
	if c.known && c.added {
		return
	}
	if !c.known {
		c.of, c.stale = slices.Grow(c.of[:0], len(m.gs))[:len(m.gs)], c.stale[:0]
		c.marks = slices.Grow(c.marks[:0], len(m.gs))[:len(m.gs)]
		clear(c.marks)
		for i := range m.gs {
			c.of[i] = m.costOfGroup(i)
		}
	}
	for _, i := range c.stale {
		c.of[i], c.marks[i] = m.costOfGroup(int(i)), false
	}
	c.known, c.added, c.stale, c.upTo = true, true, c.stale[:0], c.upTo[:0]
	var total int64
	for i := range m.gs {
		if m.movable(i) {
			total += c.of[i]
		}
		c.upTo = append(c.upTo, total)
	}
}

// costOfGroup is what a group costs where it stands.
func (m *improver) costOfGroup(i int) int64 {
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
	return c
}

// anyMoved says that anything may have moved.
func (m *improver) anyMoved() { m.costs.known = false }

// haveMoved says that of all nodes only some have moved: their groups cost something else, and those to which waits lead from there.
func (m *improver) haveMoved(nodes []int32) {
	c := &m.costs
	c.added = false
	if !c.known {
		return
	}
	for _, v := range nodes {
		m.outOfDate(m.homes[v])
		for _, k := range m.p.softOf[v] {
			s := &m.p.soft[k]
			m.outOfDate(m.homes[s.from])
			m.outOfDate(m.homes[s.to])
		}
	}
}

func (m *improver) outOfDate(group int) {
	if c := &m.costs; !c.marks[group] {
		c.marks[group] = true
		c.stale = append(c.stale, int32(group))
	}
}
