package schedule

import "slices"

// A group is what is put down together: a join with the tasks whose next join
// it is. Tasks that lead to no join form groups of their own, without an anchor.
type group struct {
	join  int // node of the anchor, −1 without
	nodes []int32
}

// groups divides the open nodes. A task belongs to the join that it must precede
// most closely: the reachable one with the latest start for the task smallest.
func (p *problem) groups() []group {
	const none = int32(-1)
	home := make([]int32, p.n)
	dist := make([]int64, p.n)
	for v := range home {
		home[v] = none
	}
	if !p.makespan {
		p.homes(home, dist)
	}
	for v := range p.n { // what is tied goes together
		for _, m := range p.body[v] {
			if home[v] == none {
				home[v] = home[m]
			}
		}
		for _, m := range p.body[v] {
			home[m] = home[v]
		}
	}
	byJoin := map[int32]int{}
	var gs []group
	var joins []int
	for v := p.tasks; v < p.n; v++ {
		if !p.fixed[v] {
			joins = append(joins, v)
		}
	}
	slices.SortStableFunc(joins, func(a, b int) int {
		return compare(p.wish(a), p.wish(b))
	})
	for _, v := range joins {
		byJoin[int32(v)] = len(gs)
		gs = append(gs, group{join: v})
	}
	loose := group{join: -1}
	for v := range p.tasks {
		if p.fixed[v] {
			continue
		}
		if i, ok := byJoin[home[v]]; ok {
			gs[i].nodes = append(gs[i].nodes, int32(v))
		} else {
			loose.nodes = append(loose.nodes, int32(v))
		}
	}
	if len(loose.nodes) > 0 {
		gs = append(gs, loose)
	}
	return gs
}

// homes labels each node with the join it leads to, walking the arcs of positive
// direction back from every join at once.
func (p *problem) homes(home []int32, dist []int64) {
	var queue []int32
	in := make([]bool, p.n)
	for v := p.tasks; v < p.n; v++ {
		if !p.fixed[v] {
			home[v], dist[v] = int32(v), p.wish(v)
			queue, in[v] = append(queue, int32(v)), true
		}
	}
	for i := 0; i < len(queue) && i < 50*p.n; i++ {
		v := queue[i]
		in[v] = false
		for _, a := range p.in[v] {
			u := a.other
			// Arcs of longest waits run backwards and do not lead to a join.
			if int(u) >= p.tasks || p.isMax(a.rule, u) || p.fixed[u] {
				continue
			}
			if d := dist[v] - a.w; home[u] < 0 || d < dist[u] {
				home[u], dist[u] = home[v], d
				if !in[u] {
					in[u] = true
					queue = append(queue, u)
				}
			}
		}
	}
}

// isMax reports whether an arc leaving node u for this rule is the longest-wait
// arc, which runs against its link.
func (p *problem) isMax(rule, u int32) bool {
	if rule == ofLength {
		return int(u) >= p.real
	}
	l := &p.w.Links[rule]
	return l.To == p.id(int(u)) && l.From != l.To
}

// wish is when a join would stand if nothing were in the way.
func (p *problem) wish(v int) int64 {
	t := p.lo[v]
	if at := p.join(v).At; at != nil {
		t = max(t, *at)
	}
	return min(t, p.hi[v])
}

func compare(a, b int64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}
