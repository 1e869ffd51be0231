package schedule

import "slices"

// What a round of the search takes out: a group, and what stands in its way.

// operator is a way to choose what is taken out, with what it has gained of late for what it cost.
type operator struct {
	Gain               // of all its rounds
	wide          bool // it takes out much, of which hardly anything comes back as cheap once the search settles
	pick          func(m *improver, g int) bool
	gained, spent float64
}

// operators are tried the oftener the more they gain for each group that they put down (adaptive large neighbourhood search: Ropke &
// Pisinger, Transportation Science 40, 2006).
func operators() []operator {
	return []operator{
		{Gain: Gain{Neighbourhood: "alone"}, pick: func(m *improver, g int) bool { return m.some(g, 0) }},
		{Gain: Gain{Neighbourhood: "rivals"}, pick: func(m *improver, g int) bool { return m.some(g, 1+m.rng.IntN(3)) }},
		{Gain: Gain{Neighbourhood: "many rivals"}, pick: func(m *improver, g int) bool { return m.some(g, 4+m.rng.IntN(6)) }},
		{Gain: Gain{Neighbourhood: "making way"}, wide: true, pick: func(m *improver, g int) bool { m.firstIn = m.makeWay(g); return m.firstIn }},
		{Gain: Gain{Neighbourhood: "squeezing"}, pick: func(m *improver, g int) bool { return m.squeeze(g) }},
		{Gain: Gain{Neighbourhood: "a stretch of a resource"}, pick: func(m *improver, g int) bool { return m.gs[g].join >= 0 && m.stretch(g) }},
		{Gain: Gain{Neighbourhood: "around a time"}, wide: true, pick: func(m *improver, g int) bool { return m.around(g, 3+m.rng.IntN(4)) }},
		{Gain: Gain{Neighbourhood: "far around a time"}, wide: true, pick: func(m *improver, g int) bool { return m.around(g, 7+m.rng.IntN(8)) }},
	}
}

// leastShare is how often an operator is tried at the least, whatever it has gained.
const leastShare = 0.04

// operator draws one; of the wide ones none once the search settles.
func (m *improver) operator() *operator {
	var total float64
	many := 0
	for i := range m.ops {
		if o := &m.ops[i]; m.draws(o) {
			total += o.worth()
			many++
		}
	}
	x := m.rng.Float64() * (total*(1+leastShare*float64(many)) + 1e-12)
	last := 0
	for i := range m.ops {
		if o := &m.ops[i]; m.draws(o) {
			last = i
			if x -= o.worth() + leastShare*total; x <= 0 {
				break
			}
		}
	}
	return &m.ops[last]
}

func (m *improver) draws(o *operator) bool { return !(o.wide && m.settles) }

func (o *operator) worth() float64 { return (o.gained + 1e-9) / (o.spent + 1) }

// reward notes what an operator has gained, as a share of the cost, for so many groups put down; what is long ago counts less.
func (o *operator) reward(gained float64, spent int64) {
	const fade = 0.998
	o.gained, o.spent = o.gained*fade+gained, o.spent*fade+float64(spent)
}

// choose picks what to take out: the groups near one that costs something, or those
// in a stretch of time, or a part of one large group.
func (m *improver) choose() bool {
	m.out, m.outGroups = m.out[:0], m.outGroups[:0]
	if len(m.gs) == 0 || m.side != nil && m.side.many == 0 {
		return false
	}
	g := m.led(m.costly())
	m.op = nil
	if len(m.gs) == 1 || !m.inOne(g) {
		if m.part(g) {
			return true
		}
		if m.side != nil {
			return false
		}
	}
	m.op = m.operator()
	if !m.op.pick(m, g) {
		m.out, m.outGroups = m.out[:0], m.outGroups[:0]
		m.some(g, m.rng.IntN(4))
	}
	m.takeGroups()
	return true
}

// some takes out a group and some that stand in its way.
func (m *improver) some(g, more int) bool {
	m.outGroups = append(m.outGroups, g)
	for range more {
		k := -1
		switch m.rng.IntN(3) {
		case 0:
			k = g + m.rng.IntN(7) - 3
		case 1:
			k = m.linked(m.outGroups[m.rng.IntN(len(m.outGroups))])
		default:
			k = m.rival(m.outGroups[m.rng.IntN(len(m.outGroups))])
		}
		m.also(k)
	}
	return true
}

// also takes a group out with the others, where it is one that is put down as a whole.
func (m *improver) also(k int) {
	if k < 0 || k >= len(m.gs) {
		return
	}
	if k = m.led(k); m.movable(k) && m.inOne(k) && !slices.Contains(m.outGroups, k) {
		m.outGroups = append(m.outGroups, k)
	}
}

// around takes out the groups whose joins are the nearest to that of one, or to where that one would like to be.
func (m *improver) around(g, many int) bool {
	j := m.gs[g].join
	if j < 0 {
		return false
	}
	at := m.x[j]
	if m.rng.IntN(2) == 0 {
		at = m.p.wish(j)
	}
	m.outGroups = append(m.outGroups, g)
	m.byTime = m.byTime[:0]
	for k := range m.gs {
		if j := m.gs[k].join; j >= 0 && k != g {
			d := m.x[j] - at
			m.byTime = append(m.byTime, nearby{int32(k), max(d, -d) + m.rng.Int64N(120)})
		}
	}
	slices.SortFunc(m.byTime, nearer)
	for _, x := range m.byTime[:min(many, len(m.byTime))] {
		m.also(int(x.v))
	}
	return true
}

// nearby is a node or a group, with how far away it is.
type nearby struct {
	v int32
	d int64
}

func nearer(a, b nearby) int {
	if c := compare(a.d, b.d); c != 0 {
		return c
	}
	return int(a.v - b.v)
}

// stretch takes out the runs that follow each other on one resource around a run of a
// group, of whatever joins they are: who has it first is decided again.
func (m *improver) stretch(g int) bool {
	nodes := m.gs[g].nodes
	if len(nodes) == 0 {
		return false
	}
	v := nodes[m.rng.IntN(len(nodes))]
	if int(v) >= m.p.tasks || len(m.on[v]) == 0 {
		return false
	}
	r := m.on[v][m.rng.IntN(len(m.on[v]))]
	list := m.byTime[:0]
	for _, u := range m.users[r] {
		if m.still(u.node) || m.on[u.node][u.need] != r || len(list) > 0 && list[len(list)-1].v == u.node {
			continue
		}
		d := m.x[u.node] - m.x[v]
		list = append(list, nearby{u.node, max(d, -d)})
	}
	m.byTime = list
	slices.SortFunc(list, nearer)
	for _, x := range list[:min(len(list), 2+m.rng.IntN(7))] {
		if slices.Contains(m.out, x.v) {
			continue // it leads up to one that is out already
		}
		m.out = append(m.out, x.v)
		if m.rng.IntN(2) == 0 {
			continue
		}
		// What leads up to it moves with it.
		for _, a := range m.p.in[x.v] {
			if u := a.other; int(u) < m.p.tasks && !m.still(u) && !slices.Contains(m.out, u) && m.x[u] < m.x[x.v] {
				m.out = append(m.out, u)
			}
		}
	}
	if len(m.out) < 2 {
		m.out = m.out[:0]
		return false
	}
	return true
}

// linked picks a group that a link ties to one, −1 when none does.
func (m *improver) linked(g int) int {
	seen, pick := 0, -1
	for _, v := range m.gs[g].nodes {
		for _, list := range [][]arc{m.p.out[v], m.p.in[v]} {
			for _, a := range list {
				if k := m.homes[a.other]; k != g && !m.still(a.other) {
					if seen++; m.rng.IntN(seen) == 0 {
						pick = k
					}
				}
			}
		}
	}
	return pick
}

// rival picks a group that holds a resource near the time at which a run of one group
// uses it, −1 when that run uses none.
func (m *improver) rival(g int) int {
	nodes := m.gs[g].nodes
	if len(nodes) == 0 {
		return -1
	}
	v := nodes[m.rng.IntN(len(nodes))]
	if int(v) >= m.p.tasks || len(m.on[v]) == 0 {
		return -1
	}
	k := m.rng.IntN(len(m.on[v]))
	r := m.on[v][k]
	at := m.x[v]
	if j := m.gs[g].join; j >= 0 && m.rng.IntN(2) == 0 {
		// Not what stands beside it: what stands where it would like to be, on any resource that would do.
		at += m.p.wish(j) - m.x[j]
		for i, need := range m.p.needs[v] {
			if i == k {
				r = need.anyOf[m.rng.IntN(len(need.anyOf))]
			}
		}
	}
	// The third nearest at most: a nearer one is passed over now and then.
	pick, best := -1, int64(0)
	for _, w := range m.users[r] {
		u := w.node
		if m.still(u) || m.homes[u] == g || m.on[u][w.need] != r {
			continue
		}
		d := m.x[u] - at
		if d = max(d, -d); (pick < 0 || d < best) && (pick < 0 || m.rng.IntN(3) > 0) {
			pick, best = m.homes[u], d
		}
	}
	return pick
}

// part takes some runs of one group out: those in a stretch of time.
func (m *improver) part(g int) bool {
	nodes := m.gs[g].nodes
	if len(nodes) == 0 {
		return false
	}
	centre := nodes[m.rng.IntN(len(nodes))]
	count := 3 + m.rng.IntN(12)
	list := m.byTime[:0]
	for _, v := range nodes {
		if m.still(v) {
			continue
		}
		d := m.x[v] - m.x[centre]
		list = append(list, nearby{v, max(d, -d) + m.rng.Int64N(60)})
	}
	m.byTime = list
	slices.SortFunc(list, nearer)
	for _, x := range list[:min(count, len(list))] {
		m.out = append(m.out, x.v)
	}
	return len(m.out) > 0
}
