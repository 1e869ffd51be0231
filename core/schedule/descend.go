package schedule

// The tree of the branch and bound: what is decided at a node, in which order, and what is kept of a leaf.

// search explores the branch of the current state.
func (b *brancher) search() {
	b.nodes++
	if b.nodes >= b.limit || b.nodes&63 == 0 && b.ctx.Err() != nil {
		b.stopped = true
		return
	}
	if b.end >= 0 {
		// A better schedule was found meanwhile: the end must beat it.
		if b.lst[b.end] > b.best-1 {
			b.lst[b.end] = b.best - 1
			b.push(int32(b.end))
		}
		if !b.propagate() {
			return
		}
	}
	if b.net.value+b.p.base >= b.best {
		return
	}
	i, j, r := b.conflict()
	if i == nil {
		b.alternatives()
		return
	}
	if j == nil {
		return // runs that must overlap and may not
	}
	if b.end >= 0 {
		i, j, r = b.hardest(i, j, r)
	}
	gapIJ, apart := b.gap(r, i, j)
	gapJI, _ := b.gap(r, j, i)
	u, v := *i, *j
	// First the order that the times suggest.
	if swap := b.middle(&u) > b.middle(&v); swap != (b.rng != nil && b.rng.IntN(12) == 0) {
		u, v, gapIJ, gapJI = v, u, gapJI, gapIJ
	}
	n := int32(b.n)
	first := b.order[u.node*n+v.node] == openPair
	second := b.order[v.node*n+u.node] == openPair
	l := b.enter()
	switch {
	case apart:
		if first {
			b.put(u.node, v.node, gapIJ)
		}
		b.back(l)
		if !b.stopped && second {
			b.put(v.node, u.node, gapJI)
		}
	default:
		if !first {
			u, v = v, u
		}
		if b.precede(u.node, v.node, 0) && b.propagate() {
			b.search()
		}
		b.back(l)
		// The other branch: v starts before u has ended.
		if n, d := b.finish(u.node); !b.stopped && b.post(v.node, n, 1-d, openPair) {
			b.decide(u.node, v.node, notBefore)
			if b.propagate() {
				b.search()
			}
		}
	}
	b.back(l)
	b.marks = b.marks[:len(b.marks)-1]
}

// put searches the branch in which u comes before v.
func (b *brancher) put(u, v int32, gap int64) {
	if b.precede(u, v, gap) && b.propagate() {
		b.search()
		return
	}
	b.failed[u]++
	b.failed[v]++
}

// record keeps the present times and choices as the best schedule.
func (b *brancher) record() {
	cost := b.net.value + b.p.base
	if cost >= b.best {
		return
	}
	b.best, b.found = cost, true
	b.stopped = b.stopped || b.first
	base := b.net.x[b.zero]
	b.bestX = b.bestX[:0]
	for v := range b.p.n {
		b.bestX = append(b.bestX, b.net.x[v]-base)
	}
	b.bestOn = make([][]int32, b.p.n)
	for v := range b.p.tasks {
		b.bestOn[v] = append([]int32(nil), b.on[v]...)
	}
}
