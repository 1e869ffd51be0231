package schedule

import (
	"context"
	"slices"
)

// improver is a large neighbourhood search: it takes some groups (or runs) out and
// puts them back in another order, and keeps what is not worse.
//
// Source of the method: Shaw, Principles and Practice of Constraint Programming
// (1998); Palpant, Artigues & Michelon, Annals of Operations Research 131 (2004),
// for scheduling.
type improver struct {
	*builder
	gs        []group
	homes     []int // group of each node
	best      int64
	bestX     []int64
	bestOn    [][]int32
	current   int64
	savedX    []int64
	savedOn   [][]int32
	out       []int32
	outGroups []int
	tangled   bool
	rounds    int64 // used up so far
}

func newImprover(b *builder, gs []group) *improver {
	m := &improver{builder: b, gs: gs, homes: make([]int, b.p.n)}
	for i := range gs {
		for _, v := range gs[i].nodes {
			m.homes[v] = i
		}
		if gs[i].join >= 0 {
			m.homes[gs[i].join] = i
		}
	}
	m.savedX = make([]int64, b.p.n)
	m.savedOn = make([][]int32, b.p.n)
	for v := range m.savedOn {
		m.savedOn[v] = make([]int32, len(b.on[v]))
	}
	m.current = b.p.cost(b.x)
	m.tangled = m.isTangled()
	m.keep()
	return m
}

// keep remembers the present schedule as the best.
func (m *improver) keep() {
	m.best = m.current
	m.bestX = append(m.bestX[:0], m.x...)
	if m.bestOn == nil {
		m.bestOn = make([][]int32, m.p.n)
	}
	for v := range m.p.n {
		m.bestOn[v] = append(m.bestOn[v][:0], m.on[v]...)
	}
}

// adopt puts a complete schedule into the state.
func (m *improver) adopt(x []int64, on [][]int32) {
	var open []int32
	for v := range m.p.n {
		if m.placed[v] && !m.p.fixed[v] {
			m.take(v)
		}
		if !m.p.fixed[v] {
			open = append(open, int32(v))
		}
	}
	for _, v := range open {
		copy(m.on[v], on[v])
		m.put(int(v), x[v])
	}
	m.current = m.p.cost(m.x)
}

// polishEvery is how many rounds lie between two optimal timings; they cost as much
// as some hundred rounds.
const polishEvery = 1200

// tellEvery is how many rounds lie between two calls that only say how far the search is.
const tellEvery = 500

// run improves until rounds are used up, the bound is met, or the context ends.
func (m *improver) run(ctx context.Context, rounds int, bound int64, told func()) {
	idle := 0
	polished := int64(-1)
	for i := 0; i < rounds && m.best > bound; i++ {
		// Now and then the best order gets its best times: that moves many runs a
		// little, which putting groups back one by one does not.
		if i%polishEvery == polishEvery-1 && m.best != polished {
			m.adopt(m.bestX, m.bestOn)
			if m.retime() {
				m.keep()
				if told != nil {
					told()
				}
			}
			polished = m.best
		}
		if i&15 == 0 && ctx.Err() != nil {
			return
		}
		m.rounds++
		if m.rounds%tellEvery == 0 && told != nil {
			told()
		}
		if !m.choose() {
			return
		}
		m.remember()
		ok := m.rebuild()
		cost := int64(0)
		if ok {
			cost = m.p.cost(m.x)
		}
		// A little worse is taken now and then, less the longer nothing was found.
		limit := m.current
		if m.rng.IntN(12) == 0 {
			limit += m.best / int64(100+10*min(idle, 1000))
		}
		if !ok || cost > limit {
			m.revert()
			idle++
			continue
		}
		m.current = cost
		if cost < m.best {
			idle = 0
			m.keep()
			if told != nil {
				told()
			}
		} else if idle++; idle > 400 && m.current > m.best {
			m.adopt(m.bestX, m.bestOn)
			idle = 0
		}
	}
}

// choose picks what to take out: the groups near one that costs something, or those
// in a stretch of time, or a part of one large group.
func (m *improver) choose() bool {
	m.out, m.outGroups = m.out[:0], m.outGroups[:0]
	if len(m.gs) == 0 {
		return false
	}
	g := m.costly()
	if m.tangled && m.gs[g].join >= 0 && m.rng.IntN(2) == 0 && m.stretch(g) {
		return true
	}
	if len(m.gs[g].nodes) > 60 || len(m.gs) == 1 || m.gs[g].join < 0 {
		if m.part(g) {
			return true
		}
	}
	m.outGroups = append(m.outGroups, g)
	more := m.rng.IntN(4)
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
		if k >= 0 && k < len(m.gs) && m.gs[k].join >= 0 && len(m.gs[k].nodes) <= 60 && !slices.Contains(m.outGroups, k) {
			m.outGroups = append(m.outGroups, k)
		}
	}
	for _, k := range m.outGroups {
		m.out = append(m.out, m.gs[k].nodes...)
		if m.gs[k].join >= 0 {
			m.out = append(m.out, int32(m.gs[k].join))
		}
	}
	return true
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
	type near struct {
		v int32
		d int64
	}
	var list []near
	for u := range m.p.tasks {
		if m.p.fixed[u] || !slices.Contains(m.on[u], r) {
			continue
		}
		d := m.x[u] - m.x[v]
		list = append(list, near{int32(u), max(d, -d)})
	}
	slices.SortFunc(list, func(a, b near) int {
		if c := compare(a.d, b.d); c != 0 {
			return c
		}
		return int(a.v - b.v)
	})
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
			if u := a.other; int(u) < m.p.tasks && !m.p.fixed[u] && !slices.Contains(m.out, u) && m.x[u] < m.x[x.v] {
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

// isTangled reports whether some run leads to two joins: then taking out whole groups
// leaves too much in place.
func (m *improver) isTangled() bool {
	for v := range m.p.tasks {
		for _, a := range m.p.out[v] {
			if k := m.homes[a.other]; a.w >= 0 && k != m.homes[v] && m.gs[k].join >= 0 && int(a.other) != m.gs[k].join {
				return true
			}
		}
	}
	return false
}

// linked picks a group that a link ties to one, −1 when none does.
func (m *improver) linked(g int) int {
	seen, pick := 0, -1
	for _, v := range m.gs[g].nodes {
		for _, list := range [][]arc{m.p.out[v], m.p.in[v]} {
			for _, a := range list {
				if k := m.homes[a.other]; k != g && !m.p.fixed[a.other] {
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
	r := m.on[v][m.rng.IntN(len(m.on[v]))]
	// The third nearest at most: a nearer one is passed over now and then.
	pick, best := -1, int64(0)
	for u := range m.p.tasks {
		if m.p.fixed[u] || m.homes[u] == g || !slices.Contains(m.on[u], r) {
			continue
		}
		d := m.x[u] - m.x[v]
		if d = max(d, -d); (pick < 0 || d < best) && (pick < 0 || m.rng.IntN(3) > 0) {
			pick, best = m.homes[u], d
		}
	}
	return pick
}

// costly picks a group, the dearer the likelier.
func (m *improver) costly() int {
	if m.rng.IntN(3) == 0 {
		return m.rng.IntN(len(m.gs))
	}
	var total int64
	pick := 0
	for i := range m.gs {
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
		total += c
		if m.rng.Int64N(total) < c {
			pick = i
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
	type near struct {
		v int32
		d int64
	}
	list := make([]near, 0, len(nodes))
	for _, v := range nodes {
		d := m.x[v] - m.x[centre]
		list = append(list, near{v, max(d, -d) + m.rng.Int64N(60)})
	}
	slices.SortFunc(list, func(a, b near) int {
		if c := compare(a.d, b.d); c != 0 {
			return c
		}
		return int(a.v - b.v)
	})
	for _, x := range list[:min(count, len(list))] {
		m.out = append(m.out, x.v)
	}
	return true
}

func (m *improver) remember() {
	for _, v := range m.out {
		m.savedX[v] = m.x[v]
		copy(m.savedOn[v], m.on[v])
	}
}

// rebuild takes the chosen nodes out and puts them in again.
func (m *improver) rebuild() bool {
	m.remove(m.out)
	m.noise = []int64{0, 20, 60, 180, 600}[m.rng.IntN(5)]
	m.pick = m.rng.Uint32()
	m.lag = []int64{0, 0, 0, 60, 180, 600}[m.rng.IntN(6)]
	if len(m.outGroups) == 0 {
		return m.rebuildPart()
	}
	m.rng.Shuffle(len(m.outGroups), func(a, b int) { m.outGroups[a], m.outGroups[b] = m.outGroups[b], m.outGroups[a] })
	for _, k := range m.outGroups {
		if !m.insert(&m.gs[k]) {
			return false
		}
	}
	return true
}

// rebuildPart puts single runs back: towards their join, or as early as they can
// where they lead to none.
func (m *improver) rebuildPart() bool {
	m.tried++
	m.todo = append(m.todo[:0], m.out...)
	late := m.gs[m.homes[m.out[0]]].join >= 0
	for _, v := range m.todo {
		m.key[v] = 0
		if m.noise > 0 {
			m.key[v] = m.rng.Int64N(m.noise + 1)
		}
		if !late {
			m.key[v] += m.p.hi[v]
		}
	}
	for len(m.todo) > 0 {
		var i int
		if late {
			i = m.last()
		} else {
			i = m.first()
		}
		v := int(m.todo[i])
		m.todo[i] = m.todo[len(m.todo)-1]
		m.todo = m.todo[:len(m.todo)-1]
		if m.est[v] > m.lst[v] {
			return false
		}
		from, limit, d := m.lst[v], m.est[v], backward
		if !late {
			from, limit, d = m.est[v], m.lst[v], forward
		}
		if len(m.p.wants[v]) > 0 && m.rng.IntN(4) > 0 {
			// What has been told starts where it was told, if it can.
			if t := min(max(m.p.wants[v][0].at, m.est[v]), m.lst[v]); m.serve(v, t, 0) {
				m.place(v, t)
				continue
			}
		}
		at, ok := m.room(v, from, limit, d)
		if !ok {
			return false
		}
		m.place(v, at)
	}
	return true
}

// revert puts everything back where it was.
func (m *improver) revert() {
	for _, v := range m.out {
		if m.placed[v] {
			m.take(int(v))
		}
	}
	for _, v := range m.out {
		copy(m.on[v], m.savedOn[v])
		m.put(int(v), m.savedX[v])
	}
}

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
			if !add(int32(v), zero, -w.at, w.late) || !add(zero, int32(v), w.at, w.early) {
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
			d := p.dur[u.v]
			if d > 0 {
				taken := int64(0)
				for i := range lastOn {
					if taken == u.units {
						break
					}
					if q := lastOn[i]; q < 0 || m.x[q]+p.dur[q] <= m.x[u.v] {
						if q >= 0 && !(p.fixed[q] && p.fixed[u.v]) && !add(q, u.v, p.dur[q], endless) {
							return false
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
					} else if b.from >= m.x[u.v]+d && b.from < far {
						if !add(u.v, zero, d-b.from, endless) {
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
			if us[i].need.setpoint != us[i].need.setpoint {
				continue
			}
			if !p.fixed[us[i].v] && !add(zero, us[i].v, t.Changeover(t.StartC, us[i].need.setpoint), endless) {
				return false
			}
			for k := range i {
				a, b := us[k], us[i]
				if a.v == b.v || p.fixed[a.v] && p.fixed[b.v] || a.need.setpoint != a.need.setpoint || !t.Differ(a.need.setpoint, b.need.setpoint) {
					continue
				}
				if !add(a.v, b.v, p.dur[a.v]+t.Changeover(a.need.setpoint, b.need.setpoint), endless) {
					return false
				}
			}
		}
	}
	return true
}
