package schedule

import (
	"cmp"
	"context"
	"slices"
)

// Optimal timing: the best times for an order of work that stands, from times that keep it.
//
// What exact waits tie is one point, so that there are about half as many as nodes; what is fixed is the point of time zero. A rule u → v
// of length w says x[v] ≥ x[u] + w; a price of c a second is a rule of capacity c, which may be broken at that price. The dual is a flow
// that fills the prices that are broken; where it does not go on, points have too much or too little of it, and slide until it does, the
// one with the largest surplus first (slide.go). It begins with the flow of the last times that were gone over to, as far as that fits:
// little has to be carried where little has moved since.
//
// Source of the method: the dual of timing with convex costs, Ahuja, Magnanti & Orlin, Network Flows (1993), section 14; a pseudoflow that
// begins with what is there, ibid. chapter 9.7.
type timing struct {
	p     *problem
	point []int32   // of each node; the last of all is zero
	off   []int64   // its time from that of its point
	n     int       // how many they are
	hard  []flowArc // what holds in any order
	soft  []flowArc
	arcs  []flowArc // with those of the order
	first []int32   // of each point, its place in touch
	touch []int32   // the arcs that touch a point
	kept  keptFlow

	x, surplus []int64
	unmet      []int32 // points with a surplus
	dist       []int64
	via, seen  []int32
	sliding    sliding
	stamp      int32
	heap       []heapItem
	reached    []int32
	times      []int64
	order      orderer
	work       int64 // how many points were looked at the last time, and what stands for the rules
}

func newTiming(p *problem) *timing {
	g := &timing{p: p, point: make([]int32, p.n), off: make([]int64, p.n), times: make([]int64, p.n), order: newOrderer(p)}
	g.findPoints()
	g.makeRoom()
	g.findRules()
	return g
}

// makeRoom makes room for as many points as there may be.
func (g *timing) makeRoom() {
	n := g.size()
	g.x, g.surplus, g.dist = make([]int64, n), make([]int64, n), make([]int64, n)
	g.via, g.seen, g.first = make([]int32, n), make([]int32, n), make([]int32, n+1)
	g.sliding.queued = make([]bool, n)
	g.kept.begin(n)
}

// size is how many points there are at the most: for each of what exact waits tie one more, for when an oven goes over to the temperature
// that it is the first to ask for (order.go).
func (g *timing) size() int { return 2 * g.n }

// findPoints gathers what exact waits tie.
func (g *timing) findPoints() {
	p := g.p
	for v := range g.point {
		g.point[v] = -1
	}
	var queue []int32
	for v := range p.n {
		if p.fixed[v] || g.point[v] >= 0 {
			continue
		}
		at := int32(g.n)
		g.n++
		g.point[v] = at
		queue = append(queue[:0], int32(v))
		for i := 0; i < len(queue); i++ {
			u := queue[i]
			for _, a := range p.out[u] {
				if o := a.other; !p.fixed[o] && g.point[o] < 0 && p.exact(u, o, a.w) {
					g.point[o], g.off[o] = at, g.off[u]+a.w
					queue = append(queue, o)
				}
			}
		}
	}
	zero := int32(g.n)
	g.n++
	for v := range p.n {
		if p.fixed[v] {
			g.point[v], g.off[v] = zero, p.fixAt[v]
		}
	}
}

// rule is one between nodes as one between points.
func (g *timing) rule(u, v int32, w, capacity int64) flowArc {
	return flowArc{g.point[u], g.point[v], w + g.off[u] - g.off[v], capacity, 0}
}

// findRules lists the rules and prices that hold in any order, but for when what may begin; of several rules between the same points the
// longest.
func (g *timing) findRules() {
	p, zero := g.p, int32(g.n-1)
	longest := map[[2]int32]int{}
	add := func(a flowArc) {
		if a.u == a.v {
			return
		}
		key := [2]int32{a.u, a.v}
		if k, there := longest[key]; there {
			g.hard[k].w = max(g.hard[k].w, a.w)
			return
		}
		longest[key] = len(g.hard)
		g.hard = append(g.hard, a)
	}
	price := func(a flowArc) {
		if a.u != a.v && a.cap > 0 {
			g.soft = append(g.soft, a)
		}
	}
	for v := range int32(p.n) {
		for _, a := range p.out[v] {
			add(g.rule(v, a.other, a.w, endless))
		}
		for _, w := range p.wants[v] {
			price(flowArc{g.point[v], zero, g.off[v] - w.at, w.late, 0})
			price(flowArc{zero, g.point[v], w.at - g.off[v], w.early, 0})
		}
	}
	for i := range p.soft {
		s := &p.soft[i]
		price(g.rule(s.to, s.from, -s.best, s.weight))
	}
}

// farAway is how far from where a point stands its window has to end to be left out, seconds: it is looked at only where that was wrong.
const farAway = 2 * 3600

// solve finds the best times for the order of a schedule, from its own; they are in times then. It is false where something does not hold
// together, or there is no time.
func (g *timing) solve(ctx context.Context, s *state, users [][]member) bool {
	if !g.solveNear(ctx, s, users, farAway) {
		return false
	}
	for v, lead := range g.p.lead {
		if int(lead) == v && !g.p.fixed[v] && (g.times[v] < s.lo[v] || g.times[v] > s.hi[v]) {
			return g.solveNear(ctx, s, users, far)
		}
	}
	return true
}

// solveNear is solve without the windows that end further away.
func (g *timing) solveNear(ctx context.Context, s *state, users [][]member, near int64) bool {
	zero := g.n - 1
	for v := range g.p.n {
		g.x[g.point[v]] = s.x[v] - g.off[v]
	}
	g.x[zero] = 0
	g.arcs, g.work = append(g.arcs[:0], g.hard...), 0
	g.windows(s, near)
	if !g.order.rules(g, s, users) || !g.begin() {
		return false
	}
	g.index()
	g.work = int64(len(g.arcs)) / 4
	if !g.balance(ctx) {
		return false
	}
	g.tell()
	return true
}

// windows adds the rules of when each body may begin.
func (g *timing) windows(s *state, near int64) {
	zero := int32(g.n - 1)
	for v := range int32(g.p.n) {
		if g.p.lead[v] != v || g.p.fixed[v] {
			continue
		}
		if lo := s.lo[v]; s.x[v]-lo <= near {
			g.arcs = append(g.arcs, flowArc{zero, g.point[v], lo - g.off[v], endless, 0})
		}
		if hi := s.hi[v]; hi-s.x[v] <= near {
			g.arcs = append(g.arcs, flowArc{g.point[v], zero, g.off[v] - hi, endless, 0})
		}
	}
}

// begin gives the rules and prices the flow that they had, as far as that fits the times as they stand: where a rule is kept with time to
// spare none, where a price is broken all. It lists the points that this leaves with a surplus, the largest first; it is false where a
// rule is broken.
func (g *timing) begin() bool {
	clear(g.surplus)
	for i := range g.arcs {
		a := &g.arcs[i]
		switch short := g.x[a.u] + a.w - g.x[a.v]; {
		case short > 0:
			return false
		case short < 0:
			a.f = 0
		case i >= len(g.hard):
			a.f = g.kept.take(a.u, a.v)
		}
		g.surplus[a.v] += a.f
		g.surplus[a.u] -= a.f
	}
	g.kept.list()
	for _, a := range g.soft {
		switch short := g.x[a.u] + a.w - g.x[a.v]; {
		case short > 0:
			a.f = a.cap
		case short < 0:
			a.f = 0
		}
		g.surplus[a.v] += a.f
		g.surplus[a.u] -= a.f
		g.arcs = append(g.arcs, a)
	}
	g.unmet = g.unmet[:0]
	for v := range int32(g.size()) {
		if g.surplus[v] != 0 && v != int32(g.n-1) {
			g.unmet = append(g.unmet, v)
		}
	}
	slices.SortFunc(g.unmet, func(a, b int32) int {
		x, y := g.surplus[a], g.surplus[b]
		return cmp.Or(cmp.Compare(max(y, -y), max(x, -x)), cmp.Compare(a, b))
	})
	return true
}

// tell puts the times of the points into those of the nodes.
func (g *timing) tell() {
	for v := range g.p.n {
		g.times[v] = g.x[g.point[v]] - g.x[g.n-1] + g.off[v]
	}
}

// headStart is by how much what may wait for nothing is done sooner at the most, seconds: a hand that is late is late for nobody then, and
// hardly anything is on before its table has ordered. Common practice, no source; tried on 200 played nights of the demo, two plans: never
// sooner 6.2 and 6.7 % of the courses are late, by up to five minutes 5.7 and 5.9 %, by up to an hour 5.8 and 6.3 %.
const headStart = 300

// latest makes of the best times that were found the last that are as good. Those found need not be: what may wait for nothing stands
// where it stood before, as far as that is as good. It asks for times that were found with all windows, however far away.
func (g *timing) latest() {
	g.fromZero(-1)
	for _, y := range g.reached {
		g.x[y] += g.dist[y]
	}
	g.tell()
}

// sooner makes of the best times that were found some that are as good and up to headStart sooner. Each point comes sooner by its
// shortest way from zero, or by all of headStart where that is longer: what one rule ties to another then has no further to come.
func (g *timing) sooner() {
	g.fromZero(1)
	for _, y := range g.reached {
		g.x[y] -= min(g.dist[y], headStart)
	}
	g.tell()
}

// index lists for each point the arcs that touch it.
func (g *timing) index() {
	clear(g.first)
	for i := range g.arcs {
		g.first[g.arcs[i].u]++
		g.first[g.arcs[i].v]++
	}
	sum := int32(0)
	for v, many := range g.first {
		sum += many
		g.first[v] = sum
	}
	g.touch = slices.Grow(g.touch[:0], int(sum))[:sum]
	for i := range g.arcs {
		a := &g.arcs[i]
		g.first[a.u]--
		g.touch[g.first[a.u]] = int32(i)
		g.first[a.v]--
		g.touch[g.first[a.v]] = int32(i)
	}
}

// touching are the arcs that touch a point.
func (g *timing) touching(y int32) []int32 { return g.touch[g.first[y]:g.first[y+1]] }

// fromZero finds, for each point, how much sooner it may come, or how much later where sign is −1: its shortest way from zero along what
// the flow may still change.
//
// Source of the method: Dijkstra, Numerische Mathematik 1 (1959).
func (g *timing) fromZero(sign int64) {
	zero := int32(g.n - 1)
	g.stamp++
	g.heap, g.reached = append(g.heap[:0], heapItem{0, zero}), g.reached[:0]
	g.dist[zero], g.seen[zero] = 0, g.stamp
	for len(g.heap) > 0 {
		top := popHeap(&g.heap)
		y := top.v
		if top.d > g.dist[y] {
			continue
		}
		g.reached = append(g.reached, y)
		for _, id := range g.touching(y) {
			a := &g.arcs[id]
			if a.most(y, sign) == 0 {
				continue
			}
			slack, next := g.x[a.v]-g.x[a.u]-a.w, a.u+a.v-y
			if d := top.d + max(slack, -slack); g.seen[next] != g.stamp || d < g.dist[next] {
				g.seen[next], g.dist[next] = g.stamp, d
				pushHeap(&g.heap, heapItem{d, next})
			}
		}
	}
}
