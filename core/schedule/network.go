package schedule

// network finds the best times for a given order of work: the least sum of costs
// that are convex and piecewise linear in differences of times. Its dual is a
// circulation of most profit, kept optimal while arcs are added one by one, so
// that each new precedence in the branch and bound costs a few shortest paths.
//
// An arc u→v with length w and capacity c stands for the term
// c·max(0, x[u] + w − x[v]); without end of capacity it is the rule x[v] ≥ x[u] + w.
// A flow f and times x are optimal together when an arc that could take more flow
// is kept (x[v] ≥ x[u] + w) and one that carries flow is tight from above
// (x[v] ≤ x[u] + w).
//
// Source of the method: successive shortest paths with potentials, Ahuja, Magnanti
// & Orlin, Network Flows (1993), chapter 9; the dual of the project scheduling
// problem with convex costs, ibid. section 1.3 and 14.
type network struct {
	x     []int64
	arcs  []flowArc
	at    [][]int32 // arcs that touch a node
	value int64     // cost of the times: a true lower bound of what is asked so far

	dist    []int64
	via     []int32 // arc by which the shortest path reaches a node
	seen    []int32
	stamp   int32
	heap    []heapItem
	reached []int32
}

type flowArc struct {
	u, v   int32
	w      int64
	cap, f int64
}

type heapItem struct {
	d int64
	v int32
}

// endless is the capacity of a hard rule.
const endless = int64(1) << 60

func newNetwork(n int) *network {
	return &network{x: make([]int64, n), at: make([][]int32, n), dist: make([]int64, n), via: make([]int32, n), seen: make([]int32, n)}
}

// add puts an arc in and makes flow and times optimal again. It returns false when
// hard rules contradict each other.
func (g *network) add(u, v int32, w, capacity int64) bool {
	if capacity == 0 {
		return true
	}
	if u == v {
		if w <= 0 {
			return true
		}
		if capacity == endless {
			return false
		}
		g.value += capacity * w
		return true
	}
	id := int32(len(g.arcs))
	g.arcs = append(g.arcs, flowArc{u, v, w, capacity, 0})
	g.at[u] = append(g.at[u], id)
	g.at[v] = append(g.at[v], id)
	return g.repair(id)
}

// repair raises times and pushes flow until arc id is kept or full.
func (g *network) repair(id int32) bool {
	a := &g.arcs[id]
	for a.f < a.cap {
		short := g.x[a.u] + a.w - g.x[a.v]
		if short <= 0 {
			return true
		}
		met := g.paths(a.v, a.u, short)
		raise := short
		if met {
			raise = g.dist[a.u]
		}
		for _, y := range g.reached {
			if d := g.dist[y]; d < raise {
				g.x[y] += raise - d
			}
		}
		if !met {
			return true
		}
		// The path back to u is tight now: more profit only by more flow.
		push := a.cap - a.f
		for y := a.u; y != a.v; {
			b := &g.arcs[g.via[y]]
			if b.v == y {
				push = min(push, b.cap-b.f)
				y = b.u
			} else {
				push = min(push, b.f)
				y = b.v
			}
		}
		if push > endless/2 {
			return false
		}
		for y := a.u; y != a.v; {
			b := &g.arcs[g.via[y]]
			if b.v == y {
				b.f += push
				y = b.u
			} else {
				b.f -= push
				y = b.v
			}
		}
		a.f += push
		g.value += push * (short - raise)
	}
	return true
}

// paths finds, from `from`, by how much each node would have to follow when it is
// raised (Dijkstra's shortest paths over the slack of the residual arcs), as far as
// limit; it stops at `to` and reports whether that lies nearer than limit.
func (g *network) paths(from, to int32, limit int64) bool {
	g.stamp++
	g.heap = append(g.heap[:0], heapItem{0, from})
	g.dist[from], g.seen[from], g.via[from] = 0, g.stamp, -1
	g.reached = g.reached[:0]
	for len(g.heap) > 0 {
		top := popHeap(&g.heap)
		if top.d > g.dist[top.v] {
			continue
		}
		if top.d >= limit {
			return false
		}
		g.reached = append(g.reached, top.v)
		if top.v == to {
			return true
		}
		y := top.v
		for _, id := range g.at[y] {
			a := &g.arcs[id]
			var next int32
			var slack int64
			if a.u == y {
				if a.f == a.cap {
					continue
				}
				next, slack = a.v, g.x[a.v]-g.x[y]-a.w
			} else {
				if a.f == 0 {
					continue
				}
				next, slack = a.u, g.x[a.u]+a.w-g.x[y]
			}
			d := top.d + slack
			if d < limit && (g.seen[next] != g.stamp || d < g.dist[next]) {
				g.seen[next], g.dist[next], g.via[next] = g.stamp, d, id
				pushHeap(&g.heap, heapItem{d, next})
			}
		}
	}
	return false
}

func pushHeap(heap *[]heapItem, it heapItem) {
	h := append(*heap, it)
	i := len(h) - 1
	for i > 0 {
		up := (i - 1) / 2
		if h[up].d <= h[i].d {
			break
		}
		h[up], h[i] = h[i], h[up]
		i = up
	}
	*heap = h
}

func popHeap(heap *[]heapItem) heapItem {
	h := *heap
	top := h[0]
	last := len(h) - 1
	h[0] = h[last]
	h = h[:last]
	i := 0
	for {
		c := 2*i + 1
		if c >= last {
			break
		}
		if c+1 < last && h[c+1].d < h[c].d {
			c++
		}
		if h[i].d <= h[c].d {
			break
		}
		h[i], h[c] = h[c], h[i]
		i = c
	}
	*heap = h
	return top
}

// mark is a state of the network to come back to.
type mark struct {
	arcs  int
	x     []int64
	flow  []int64
	value int64
}

func (g *network) save(m *mark) {
	m.arcs, m.value = len(g.arcs), g.value
	m.x = append(m.x[:0], g.x...)
	m.flow = m.flow[:0]
	for i := range g.arcs {
		m.flow = append(m.flow, g.arcs[i].f)
	}
}

func (g *network) restore(m *mark) {
	for i := len(g.arcs) - 1; i >= m.arcs; i-- {
		a := &g.arcs[i]
		g.at[a.u] = g.at[a.u][:len(g.at[a.u])-1]
		g.at[a.v] = g.at[a.v][:len(g.at[a.v])-1]
	}
	g.arcs = g.arcs[:m.arcs]
	for i := range g.arcs {
		g.arcs[i].f = m.flow[i]
	}
	copy(g.x, m.x)
	g.value = m.value
}
