package schedule

// What is kept of the flow of an optimal timing (timing.go) for the next.

// goneOver says that the times that were found are gone over to: the next begin with their flow.
func (g *timing) goneOver() {
	copy(g.hard, g.arcs)
	rest := g.arcs[len(g.hard):]
	prices := rest[len(rest)-len(g.soft):]
	copy(g.soft, prices)
	g.kept.arcs = g.kept.arcs[:0]
	for _, a := range rest[:len(rest)-len(prices)] {
		if a.f > 0 {
			g.kept.arcs = append(g.kept.arcs, a)
		}
	}
	g.kept.list()
}

// keptFlow is the flow of the last times that were gone over to on rules that hang on the order, by the points between which it runs.
type keptFlow struct {
	arcs []flowArc
	at   []int32 // of each point, the first that leaves it; −1 for none
	next []int32 // of each, the next that leaves the same point
}

func (k *keptFlow) begin(points int) {
	k.at = make([]int32, points)
	k.list()
}

// list makes all of it there to be taken.
func (k *keptFlow) list() {
	for v := range k.at {
		k.at[v] = -1
	}
	k.next = k.next[:0]
	for i, a := range k.arcs {
		k.next = append(k.next, k.at[a.u])
		k.at[a.u] = int32(i)
	}
}

// take takes what runs from one point to another, once.
func (k *keptFlow) take(u, v int32) int64 {
	for last, i := int32(-1), k.at[u]; i >= 0; last, i = i, k.next[i] {
		if k.arcs[i].v != v {
			continue
		}
		if last < 0 {
			k.at[u] = k.next[i]
		} else {
			k.next[last] = k.next[i]
		}
		return k.arcs[i].f
	}
	return 0
}
