package schedule

import "slices"

// orderer tells the order in which a schedule uses its resources as rules: units are handed on from run to run, windows are kept on their
// side, and runs at different temperatures keep their changeover.
type orderer struct {
	list   []turn
	lastOn []int32
	// setpoints are those that are asked for; class is that of each need, −1 for none; change is how long each resource with a thermostat
	// takes from one to another, −1 where they can stand together.
	setpoints []setpoint
	class     [][]int32
	change    [][]int64
	least     []int64 // see changeovers
	base      []int64
	taken     []bool     // of each point between two temperatures, whether it is put in
	sorted    [][]member // of each resource, the needs that may have it, by when they began the last time
}

func newOrderer(p *problem) orderer {
	o := orderer{class: make([][]int32, p.tasks), change: make([][]int64, len(p.res))}
	for v := range p.tasks {
		o.class[v] = make([]int32, len(p.needs[v]))
		for k := range p.needs[v] {
			c := p.needs[v][k].setpoint
			if o.class[v][k] = -1; c.none() {
				continue
			}
			i := slices.Index(o.setpoints, c)
			if i < 0 {
				i = len(o.setpoints)
				o.setpoints = append(o.setpoints, c)
			}
			o.class[v][k] = int32(i)
		}
	}
	for r := range p.res {
		t := p.res[r].thermostat
		if t == nil {
			continue
		}
		for _, a := range o.setpoints {
			for _, b := range o.setpoints {
				by := int64(-1)
				if differ(t, a, b) {
					by = changeover(t, a, b)
				}
				o.change[r] = append(o.change[r], by)
			}
		}
	}
	return o
}

// turn is a run on a resource, by when it begins.
type turn struct {
	at    int64
	v     int32
	class int32
	units int64
}

// mostHandedOn is up to how many units of a resource are told apart.
const mostHandedOn = 4096

// rules adds those of a schedule to the timing; false where that cannot be told.
func (o *orderer) rules(g *timing, s *state, users [][]member) bool {
	o.taken = slices.Grow(o.taken[:0], g.size())[:g.size()]
	clear(o.taken)
	for r := range g.p.res {
		o.list = o.list[:0]
		for _, u := range o.sort(r, s.x, users) {
			if int(s.on[u.node][u.need]) == r {
				o.list = append(o.list, turn{s.x[u.node], u.node, o.class[u.node][u.need], g.p.needs[u.node][u.need].units})
			}
		}
		if g.p.res[r].capacity > mostHandedOn || !o.handOn(g, s, r) {
			return false
		}
		if g.p.res[r].thermostat != nil {
			o.changeovers(g, s, r)
		}
	}
	return true
}

// sort orders the needs that may have a resource by when they begin. Mostly little has changed since the last time: each goes past a few.
func (o *orderer) sort(r int, x []int64, users [][]member) []member {
	if o.sorted == nil {
		o.sorted = make([][]member, len(users))
	}
	if o.sorted[r] == nil {
		o.sorted[r] = slices.Clone(users[r])
	}
	list := o.sorted[r]
	for i, left := 1, 8*len(list); i < len(list); i++ {
		u := list[i]
		k := i - 1
		for ; k >= 0 && sooner(x, u, list[k]) < 0; k-- {
			list[k+1] = list[k]
		}
		list[k+1] = u
		if left -= i - 1 - k; left < 0 {
			slices.SortFunc(list, func(a, b member) int { return sooner(x, a, b) })
			break
		}
	}
	return list
}

// sooner compares two needs by when they begin.
func sooner(x []int64, a, b member) int {
	if c := compare(x[a.node], x[b.node]); c != 0 {
		return c
	}
	return int(a.node - b.node)
}

// add puts in a rule between nodes.
func (g *timing) add(u, v int32, w int64) {
	if a := g.rule(u, v, w, endless); a.u != a.v {
		g.arcs = append(g.arcs, a)
	}
}

// handOn adds the rules by which units of a resource go from run to run, and those of its windows; false where an open run takes more than
// is left by what has happened.
func (o *orderer) handOn(g *timing, s *state, r int) bool {
	p, zero := g.p, int32(g.n-1)
	res := &p.res[r]
	o.lastOn = o.lastOn[:0]
	for range res.capacity {
		o.lastOn = append(o.lastOn, -1)
	}
	for _, u := range o.list {
		if p.dur[u.v] == 0 && p.stop[u.v] < 0 {
			continue
		}
		taken, giver := int64(0), int32(-1)
		for i, q := range o.lastOn {
			if taken == u.units {
				break
			}
			if q >= 0 && s.ends(int(q)) > u.at {
				continue
			}
			if q >= 0 && q != giver && !(p.fixed[q] && p.fixed[u.v]) {
				end, after := p.finish(q)
				g.add(end, u.v, after)
				giver = q
			}
			o.lastOn[i] = u.v
			taken++
		}
		if p.fixed[u.v] {
			continue
		}
		if taken < u.units {
			return false
		}
		from, to := -far, far
		for _, b := range res.blocks {
			if b.to <= u.at {
				from = max(from, b.to)
			} else if b.from >= s.ends(int(u.v)) {
				to = min(to, b.from)
			}
		}
		if from > -far {
			g.arcs = append(g.arcs, flowArc{zero, g.point[u.v], from - g.off[u.v], endless, 0})
		}
		if to < far {
			end, after := p.finish(u.v)
			g.arcs = append(g.arcs, flowArc{g.point[end], zero, g.off[end] + after - to, endless, 0})
		}
	}
	return true
}

// changeovers adds the rules between runs at different temperatures: of each with those before it, but for what follows from rules that are
// there already. least holds, for each pair, how long after the end of the one the other begins at the least by those.
func (o *orderer) changeovers(g *timing, s *state, r int) {
	p, change, many := g.p, o.change[r], len(o.setpoints)
	th := p.res[r].thermostat
	o.list = slices.DeleteFunc(o.list, func(t turn) bool { return t.class < 0 })
	n := len(o.list)
	o.least = slices.Grow(o.least[:0], n*n)[:n*n]
	o.base = slices.Grow(o.base[:0], n)[:n]
	before, from, at := 0, 0, int32(-1) // where the last stretch at one temperature begins, and this one; the point between them
	for i := range o.list {
		b := &o.list[i]
		if i > 0 && b.class != o.list[i-1].class {
			before, from = from, i
			at = o.between(g, s, change, before, from)
		}
		mine := o.least[i*n : i*n+i]
		for k := range mine {
			if mine[k] = -1; at >= 0 && k < from {
				mine[k] = o.base[k]
			}
		}
		if !p.fixed[b.v] {
			g.arcs = append(g.arcs, flowArc{int32(g.n - 1), g.point[b.v], changeover(th, standby(th), o.setpoints[b.class]) - g.off[b.v], endless,
				0})
		}
		if at >= 0 {
			gap := change[int(o.list[before].class)*many+int(b.class)]
			g.arcs = append(g.arcs, flowArc{at, g.point[b.v], gap - g.off[b.v], endless, 0})
		}
		for k := i - 1; k >= 0; k-- {
			a := &o.list[k]
			gap := change[int(a.class)*many+int(b.class)]
			if gap < 0 || a.v == b.v || mine[k] >= gap || p.fixed[a.v] && p.fixed[b.v] {
				continue
			}
			end, after := p.finish(a.v)
			g.add(end, b.v, after+gap)
			mine[k] = gap
			o.follow(g, mine, k, gap)
		}
	}
}

// follow notes that a run begins no sooner than gap after the end of another, and so after all that this one comes after.
func (o *orderer) follow(g *timing, mine []int64, k int, gap int64) {
	n := len(o.list)
	for m, by := range o.least[k*n : k*n+k] {
		if by >= 0 {
			mine[m] = max(mine[m], by+g.p.dur[o.list[k].v]+gap)
		}
	}
}

// between puts a point in where an oven goes over from one temperature to the next: when the last of the one is over. A rule from each of
// these to it and one from it to each of the others stand for one of each with each. It leaves in base what these rules say of a run of
// the next stretch. It is −1, with nothing put in, where that would be no fewer, or where what has happened may not have kept them.
func (o *orderer) between(g *timing, s *state, change []int64, before, from int) int32 {
	gap := change[int(o.list[before].class)*len(o.setpoints)+int(o.list[from].class)]
	to, fixed := from, [2]bool{}
	for ; to < len(o.list) && o.list[to].class == o.list[from].class; to++ {
		fixed[1] = fixed[1] || g.p.fixed[o.list[to].v]
	}
	for _, a := range o.list[before:from] {
		fixed[0] = fixed[0] || g.p.fixed[a.v]
	}
	at := int32(g.n) + g.point[o.list[from].v]
	if gap < 0 || (from-before)*(to-from) <= to-before || fixed[0] && fixed[1] || o.taken[at] {
		return -1
	}
	o.taken[at] = true
	g.x[at] = -far
	for k := range o.base[:from] {
		o.base[k] = -1
	}
	for k := before; k < from; k++ {
		a := &o.list[k]
		end, after := g.p.finish(a.v)
		g.arcs = append(g.arcs, flowArc{g.point[end], at, g.off[end] + after, endless, 0})
		g.x[at] = max(g.x[at], s.ends(int(a.v)))
		o.base[k] = gap
		o.follow(g, o.base, k, gap)
	}
	return at
}
