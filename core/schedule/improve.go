package schedule

import (
	"context"
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
		m.out = m.p.whole(m.out)
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
	m.todo = m.p.leaders(m.todo, m.out)
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
