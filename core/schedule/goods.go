package schedule

import (
	"cmp"
	"slices"

	"jointime/core/workload"
)

// What has a price in the bound: the time of resources. Those that stand in the same lists of alternatives are one good, since nothing
// tells them apart; of those with a thermostat each temperature is a good of its own.

// slotLength is how long a price holds, in seconds.
const slotLength = 32

// goods are what has a price, by slots.
type goods struct {
	slots int
	room  [][]float64 // unit seconds that there are; nil for what a thermostat gives
	price [][]float64 // of a unit second
	upTo  []ladder    // what a unit costs from the beginning on
	used  [][]float64 // unit seconds that are taken with the present prices, less those that there are
	ovens []ovens
}

// take is what a basket takes of a good: so many units for so long, from so long after its spot.
type take struct {
	good       int32
	after, dur int64
	units      float64
}

// basket is all that one alternative takes.
type basket []take

// priceOf is what a basket costs at an instant.
func (g *goods) priceOf(c basket, at int64) (sum float64) {
	for i := range c {
		t := &c[i]
		prices := g.upTo[t.good]
		sum += t.units * (prices.at(at+t.after+t.dur) - prices.at(at+t.after))
	}
	return sum
}

// ladder is what a unit of a good costs from the beginning to an instant: of each slot, up to its beginning, and a second of it.
type ladder []rung

type rung struct{ sum, price float64 }

// at is for an instant between 0 and the end of the slots.
func (l ladder) at(t int64) float64 {
	r := &l[uint64(t)/slotLength]
	return r.sum + r.price*float64(uint64(t)%slotLength)
}

// each adds to sum what units cost that are taken for dur seconds, from an instant on and from each so many slots later.
func (l ladder) each(sum []float64, units float64, from, dur, slots int64) {
	a, b := uint64(from), uint64(from+dur)
	i, k := a/slotLength, b/slotLength
	first, second := float64(a%slotLength), float64(b%slotLength)
	for n := range sum {
		x, y := &l[i], &l[k]
		sum[n] += units * ((y.sum + y.price*second) - (x.sum + x.price*first))
		i, k = i+uint64(slots), k+uint64(slots)
	}
}

// fill puts prices into it.
func (l ladder) fill(prices []float64) {
	sum := 0.0
	for i, p := range prices {
		l[i] = rung{sum, p}
		sum += p * slotLength
	}
	l[len(prices)] = rung{sum, 0}
}

// use notes that units of a good are taken from one instant to another.
func (g *goods) use(good int32, from, to int64, units float64) {
	from, to = max(from, 0), min(to, int64(g.slots)*slotLength)
	for from < to {
		k := from / slotLength
		end := min(to, (k+1)*slotLength)
		g.used[good][k] += units * float64(end-from)
		from = end
	}
}

// ask takes what a basket takes, so many times.
func (g *goods) ask(c basket, at int64, times float64) {
	for _, t := range c {
		g.use(t.good, at+t.after, at+t.after+t.dur, times*t.units)
	}
}

// catalogue tells which good each need is of.
type catalogue struct {
	p      *problem
	class  []int     // of each resource
	of     [][]int32 // the resources of each class
	number map[wanted]int32
	ovens  map[int]int // of a class with a thermostat, its place among those
	goods  *goods
}

type wanted struct {
	class    int
	setpoint setpoint
}

// newCatalogue divides the resources into classes, of which the time is priced up to an instant.
func newCatalogue(p *problem, end int64) *catalogue {
	c := &catalogue{p: p, number: map[wanted]int32{}, ovens: map[int]int{}, goods: &goods{slots: int(end/slotLength) + 1}}
	lists := make([][]int32, len(p.res))
	kinds := map[string]int32{}
	for v := range p.tasks {
		for k := range p.needs[v] {
			list := p.needs[v][k].anyOf
			key := make([]byte, 0, 4*len(list))
			for _, r := range list {
				key = append(key, byte(r), byte(r>>8), byte(r>>16), byte(r>>24))
			}
			if _, there := kinds[string(key)]; there {
				continue
			}
			kind := int32(len(kinds))
			kinds[string(key)] = kind
			for _, r := range list {
				if !slices.Contains(lists[r], kind) {
					lists[r] = append(lists[r], kind)
				}
			}
		}
	}
	same := func(a, b int32) bool {
		return slices.Equal(lists[a], lists[b]) && sameThermostat(p.res[a].thermostat, p.res[b].thermostat)
	}
	for r := range int32(len(p.res)) {
		k := slices.IndexFunc(c.of, func(of []int32) bool { return same(of[0], r) })
		if k < 0 {
			k = len(c.of)
			c.of = append(c.of, nil)
		}
		c.of[k] = append(c.of[k], r)
		c.class = append(c.class, k)
	}
	return c
}

func sameThermostat(a, b *workload.Thermostat) bool {
	return a == nil && b == nil || a != nil && b != nil && *a == *b
}

// good is what a need takes where it has a resource; false where that has no price: a place in an oven at no temperature.
func (c *catalogue) good(r int32, nd *need) (int32, bool) {
	w := wanted{class: c.class[r]}
	hot := c.p.res[r].thermostat
	if hot != nil {
		if !nd.asks() {
			return 0, false
		}
		w.setpoint = nd.setpoint
	}
	k, there := c.number[w]
	if there {
		return k, true
	}
	g := c.goods
	k = int32(len(g.room))
	c.number[w] = k
	room := c.room(w.class)
	if hot == nil {
		g.room = append(g.room, room)
		return k, true
	}
	g.room = append(g.room, nil)
	o, there := c.ovens[w.class]
	if !there {
		o = len(g.ovens)
		c.ovens[w.class] = o
		for i := range room {
			room[i] /= float64(len(c.of[w.class])) * slotLength
		}
		g.ovens = append(g.ovens, ovens{thermostat: hot, many: float64(len(c.of[w.class])), room: room})
	}
	g.ovens[o].setpoints = append(g.ovens[o].setpoints, w.setpoint)
	g.ovens[o].goods = append(g.ovens[o].goods, k)
	return k, true
}

// room is how many unit seconds a class has in each slot.
func (c *catalogue) room(class int) []float64 {
	out := make([]float64, c.goods.slots)
	for _, r := range c.of[class] {
		res := &c.p.res[r]
		for i := range out {
			from, to := int64(i)*slotLength, int64(i+1)*slotLength
			out[i] += float64(res.capacity) * slotLength
			for _, b := range res.blocks {
				if over := min(b.to, to) - max(b.from, from); over > 0 {
					out[i] -= float64(over * b.units)
				}
			}
		}
	}
	return out
}

// baskets lists what the spots take, each tie of needs (bodies.go) with its alternatives, and makes room for the prices. What has happened
// takes room, and has had it where it took more than there was; in an oven it is left out, as are runs whose length is chosen.
func (c *catalogue) baskets(spots []spot, g *timing) *goods {
	p := c.p
	for v := range int32(p.tasks) {
		if p.fixed[v] || !p.leads(v) {
			continue
		}
		for _, tie := range p.ties[v] {
			if list := c.alternatives(v, tie, g.off[v]); len(list) > 0 {
				s := &spots[g.point[v]]
				s.asks = append(s.asks, list)
			}
		}
	}
	out := c.goods
	for range out.room {
		out.price = append(out.price, make([]float64, out.slots))
		out.upTo = append(out.upTo, make(ladder, out.slots+1))
		out.used = append(out.used, make([]float64, out.slots))
	}
	for v := range p.tasks {
		if !p.fixed[v] {
			continue
		}
		for k := range p.needs[v] {
			w := wanted{class: c.class[p.fixOn[v][k]]}
			if good, there := c.number[w]; there {
				out.use(good, p.fixAt[v], p.fixAt[v]+p.dur[v], float64(p.needs[v][k].units))
			}
		}
	}
	for k := range out.room {
		for i := range out.room[k] {
			out.room[k][i] = max(0, out.room[k][i]-out.used[k][i])
		}
	}
	for i := range out.ovens {
		out.ovens[i].prepare(out)
	}
	return out
}

// alternatives are what a tie of needs takes by which of its resources it has; nil where one of them takes nothing that has a price.
func (c *catalogue) alternatives(v int32, tie []int32, off int64) (list []basket) {
	p := c.p
	many := len(p.needs[p.segs[v][tie[0]].node][p.segs[v][tie[0]].need].anyOf)
	for i := range many {
		var one basket
		for _, k := range tie {
			sg := &p.segs[v][k]
			nd := &p.needs[sg.node][sg.need]
			if sg.stop >= 0 || sg.dur == 0 || i >= len(nd.anyOf) {
				continue
			}
			if good, priced := c.good(nd.anyOf[i], nd); priced {
				one = append(one, take{good, off + sg.off, sg.dur, float64(nd.units)})
			}
		}
		if len(one) == 0 {
			return nil
		}
		slices.SortFunc(one, func(a, b take) int { return cmp.Or(cmp.Compare(a.good, b.good), cmp.Compare(a.after, b.after)) })
		if !slices.ContainsFunc(list, func(o basket) bool { return slices.Equal(o, one) }) {
			list = append(list, one)
		}
	}
	return list
}
