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
	gs                 []group
	homes              []int // group of each node
	best               int64
	bestX              []int64
	bestOn             [][]int32
	current            int64
	savedX             []int64
	savedOn            [][]int32
	out                []int32
	differ             []int32 // what another schedule has elsewhere
	outGroups          []int
	leader             []int   // of each group, the one that it follows; −1 for most
	followers          [][]int // of each group
	near               bool    // it stays near what has been told: its times are not made the best for all
	side               *side   // the part of the time that it searches, nil for all of it
	rounds             int64   // used up so far
	idle               int     // rounds since the last that was better than all before
	hot                float64 // how hot the cycle began, how many rounds it lasts, and how many are over
	cycle              int
	cooled             int
	stray              int // once in so many rounds any group is picked
	ops                []operator
	op                 *operator // that of this round; nil where a part of one large group is out
	parts, times       Gain      // of rounds of the one kind, and of optimal timings
	gains              []Gain
	byTime             []nearby
	timing             *timing
	timedAt, timedWork int64      // the rounds and the work that were over when the times were last made the best
	users              [][]member // of each resource, the needs that may have it
	inWay              []int
	held               holdings
	fewest             []int
	costs              groupCosts
	firstIn            bool // the group that began it is put in first
	fit                *fitter
	settles            bool // it is cooler than settled
}

func newImprover(b *builder, gs []group) *improver {
	m := &improver{builder: b, gs: gs, homes: make([]int, b.p.n), ops: operators(), hot: coldest, stray: oftenAny,
		parts: Gain{Neighbourhood: partOfGroup}, times: Gain{Neighbourhood: bestTimes}}
	for i := range gs {
		for _, v := range gs[i].nodes {
			m.homes[v] = i
		}
		if gs[i].join >= 0 {
			m.homes[gs[i].join] = i
		}
	}
	m.users = make([][]member, len(b.p.res))
	m.held = holdings{make([][]holding, len(b.p.res)), make([]bool, len(b.p.res))}
	for v := range b.p.tasks {
		for k := range b.p.needs[v] {
			for i, r := range b.p.needs[v][k].anyOf {
				if !slices.Contains(b.p.needs[v][k].anyOf[:i], r) {
					m.users[r] = append(m.users[r], member{int32(v), int32(k)})
				}
			}
		}
	}
	m.savedX = make([]int64, b.p.n)
	m.savedOn = make([][]int32, b.p.n)
	for v := range m.savedOn {
		m.savedOn[v] = make([]int32, len(b.on[v]))
	}
	m.current = b.p.cost(b.x)
	m.keep()
	m.fit = newFitter(m)
	m.findFollowers()
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
	m.differ = m.differ[:0]
	for v := range m.p.n {
		if m.p.fixed[v] || m.placed[v] && m.x[v] == x[v] && slices.Equal(m.on[v], on[v]) {
			continue
		}
		if m.placed[v] {
			m.take(v)
		}
		m.differ = append(m.differ, int32(v))
	}
	for _, v := range m.differ {
		copy(m.on[v], on[v])
		m.put(int(v), x[v])
	}
	m.current = m.p.cost(m.x)
	m.anyMoved()
}

// tellEvery is how many rounds lie between two calls that only say how far the search is.
const tellEvery = 500

// patience is for how many rounds without a better schedule the search goes on from where it has wandered before it goes back to the best;
// while it is hotter than settled it is meant to wander.
const (
	patience = 1500
	settled  = 0.05
)

// oftenFitted is how often in ten a group is fitted in once the search settles. Tried: 3, 5, 7, 9 and 10.
const oftenFitted = 7

// run improves until rounds are used up, the bound is met, or the context ends. It goes on where it stopped before.
//
// A worse schedule is taken too, by so much the less as it cools (cool.go).
func (m *improver) run(ctx context.Context, rounds int, bound int64, told func()) {
	for i := 0; i < rounds && m.best > bound; i++ {
		if m.side == nil && m.timely() && m.retime() && m.current < m.best {
			m.times.Won += m.best - m.current
			m.keep()
			if told != nil {
				told()
			}
		}
		if i&15 == 0 && ctx.Err() != nil {
			return
		}
		heat := m.temperature()
		m.settles = heat < settled
		if m.side == nil && m.idle > patience && m.settles {
			m.kick()
		}
		m.rounds++
		m.cooled++
		if m.rounds%tellEvery == 0 && told != nil {
			told()
		}
		if !m.choose() {
			if m.side != nil {
				continue
			}
			return
		}
		m.out = m.whole(m.out)
		m.save()
		limit := m.current + int64(m.rng.ExpFloat64()*float64(m.best)*heat)
		before, work := m.current, m.work
		cost, ok := m.rebuild(limit)
		of := &m.parts
		if m.op != nil {
			of = &m.op.Gain
			gained := 0.0
			if ok && cost < before {
				gained = float64(before-cost) / float64(before)
			}
			m.op.reward(gained, m.work-work)
		}
		if !ok || cost > limit {
			of.note(false, m.best, m.best)
			m.revert()
			m.idle++
			continue
		}
		m.round.end()
		of.note(true, m.best, min(m.best, cost))
		m.current = cost
		m.haveMoved(m.out)
		if cost < m.best {
			m.idle = 0
			m.keep()
			if told != nil {
				told()
			}
		} else {
			m.idle++
		}
	}
}

// kick goes back to the best schedule and leaves it for another: the groups around a time are put in again in any order, whatever that
// costs.
//
// Source of the method: iterated local search, Lourenço, Martin & Stützle, in Handbook of Metaheuristics (2003).
func (m *improver) kick() {
	m.adopt(m.bestX, m.bestOn)
	m.idle = 0
	g := m.led(m.rng.IntN(len(m.gs)))
	m.out, m.outGroups = m.out[:0], m.outGroups[:0]
	if !m.around(g, 4+m.rng.IntN(12)) {
		return
	}
	m.takeGroups()
	m.out = m.whole(m.out)
	m.save()
	if cost, ok := m.rebuild(m.current + m.current/4); ok {
		m.round.end()
		m.current = cost
		m.haveMoved(m.out)
		return
	}
	m.revert()
}

// save remembers where what is taken out stands, and what resources are used for before the round.
func (m *improver) save() {
	m.round.begin()
	for _, v := range m.out {
		m.savedX[v] = m.x[v]
		copy(m.savedOn[v], m.on[v])
	}
}

// rebuild takes the chosen nodes out and puts them in again; it returns the cost of all then, and gives up where that comes to more
// than the limit.
func (m *improver) rebuild(limit int64) (cost int64, ok bool) {
	m.remove(m.out)
	cost = m.current - m.costOut()
	m.noise = []int64{0, 20, 60, 180, 600}[m.rng.IntN(5)]
	m.pick = m.rng.Uint32()
	m.lag = []int64{0, 0, 0, 60, 180, 600}[m.rng.IntN(6)]
	m.attempts, m.alone = fewAttempts, true // what is not taken out stays as it is
	defer func() { m.may, m.attempts, m.alone = far, maxAttempts, false }()
	if len(m.outGroups) == 0 {
		m.may = limit - cost
		ok = m.rebuildPart()
		return cost + m.spent, ok
	}
	m.order()
	m.followersLast()
	for _, k := range m.outGroups {
		m.may = limit - cost
		if !m.putBack(k) {
			return cost, false
		}
		cost += m.spent
	}
	return cost, true
}

// putBack puts one group in: once the search settles mostly where it costs least (fit.go), and else, or where that finds nothing, where
// it first finds room. While it wanders that does as well, for less time.
func (m *improver) putBack(k int) bool {
	if m.settles && m.rng.IntN(10) < oftenFitted && m.fit.insert(k, m.savedX, m.savedOn) {
		return true
	}
	return m.insert(&m.gs[k])
}

// order is the one in which groups are put in again: any, by their wishes, or the one that began it first.
func (m *improver) order() {
	out := m.outGroups
	kind := m.rng.IntN(3)
	if m.firstIn {
		kind = 1
		m.firstIn = false
	}
	switch kind {
	case 0:
		slices.SortFunc(out, func(a, b int) int {
			if c := compare(m.wishOf(a), m.wishOf(b)); c != 0 {
				return c
			}
			return a - b
		})
	case 1:
		m.rng.Shuffle(len(out)-1, func(a, b int) { out[a+1], out[b+1] = out[b+1], out[a+1] })
	default:
		m.rng.Shuffle(len(out), func(a, b int) { out[a], out[b] = out[b], out[a] })
	}
}

// costOut is what the nodes that were taken out cost where they were, beside each other and what stayed.
func (m *improver) costOut() int64 {
	var sum int64
	for _, v := range m.out {
		if len(m.p.wants[v]) > 0 {
			sum += m.p.nodeCost(int(v), m.x[v])
		}
		for _, k := range m.p.softOf[v] {
			s := &m.p.soft[k]
			if s.to == v && !m.placed[s.from] {
				continue // counted with the other
			}
			if over := m.x[s.to] - m.x[s.from] - s.best; over > 0 {
				sum += over * s.weight
			}
		}
	}
	return sum
}

// rebuildPart puts single runs back: towards their join, or as early as they can
// where they lead to none.
func (m *improver) rebuildPart() bool {
	m.tried++
	m.spent = 0
	m.todo = m.p.leaders(m.todo, m.out)
	late := m.gs[m.homes[m.out[0]]].join >= 0
	for i := 0; i < len(m.todo); i++ { // joins first, at their wish or a little later
		v := int(m.todo[i])
		if v < m.p.tasks {
			continue
		}
		if m.est[v] > m.lst[v] {
			return false
		}
		m.place(v, min(max(m.p.wish(v)+m.rng.Int64N(m.lag+1), m.est[v]), m.lst[v]))
		m.spent += m.costHere(v)
		m.todo[i] = m.todo[len(m.todo)-1]
		m.todo = m.todo[:len(m.todo)-1]
		i--
	}
	block := []int64{0, 300, 900}[m.rng.IntN(3)]
	turn := m.rng.Int64N(1 << 20)
	for _, v := range m.todo {
		m.key[v] = 0
		if m.noise > 0 {
			m.key[v] = m.rng.Int64N(m.noise + 1)
		}
		if block > 0 {
			m.key[v] += m.byHeat(v, block, turn)
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
		if m.p.toldAt[v] >= 0 && m.rng.IntN(4) > 0 {
			// What has been told starts where it was told, if it can.
			t := m.p.toldAt[v]
			if aim := m.p.aimAt[v]; aim >= 0 && m.rng.IntN(2) > 0 {
				t = aim
			}
			if t = min(max(t, m.est[v]), m.lst[v]); m.serve(v, t, 0) {
				m.place(v, t)
				m.spent += m.costHere(v)
				continue
			}
		}
		at, ok := m.room(v, from, limit, d)
		if !ok {
			return false
		}
		m.place(v, at)
		if m.spent += m.costHere(v); m.spent > m.may {
			return false
		}
	}
	return true
}

// revert puts everything back where it was.
func (m *improver) revert() {
	m.round.back(m.state)
	m.round.end()
	for _, v := range m.out {
		copy(m.on[v], m.savedOn[v])
		m.stand(v, m.savedX[v])
	}
}

// wishOf is when a group would stand if nothing were in the way.
func (m *improver) wishOf(k int) int64 {
	if m.gs[k].join < 0 {
		return far
	}
	return m.p.wish(m.gs[k].join)
}

// byHeat is by how much a run goes before others: as much for all that ask for the same temperature, so that an oven does not go up and
// down between them.
func (m *improver) byHeat(v int32, most, turn int64) int64 {
	for k := range m.p.needs[v] {
		if nd := &m.p.needs[v][k]; nd.asks() {
			return (int64(nd.setpoint.Low)*7919 + turn) % 1009 * most / 1009
		}
	}
	return 0
}
