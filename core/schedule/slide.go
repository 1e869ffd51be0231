package schedule

import "context"

// How the flow of an optimal timing is made to go on (timing.go).
//
// A point with too much of it pulls later, one with too little sooner. It takes with it what rules tie to it, and what a price ties to it
// that is more than what pulls; any other price is passed, and is broken or kept from then on. So a block slides for as long as that
// lowers the cost, and where it comes to a point that lacks what it has too much of, that is carried there.
//
// Source of the method: dual ascent and augmentation in turn, Bertsekas & Tseng, Operations Research 36 (1988); here the instants at which
// a rule begins to hold are found from a heap, as shortest paths are.

// sliding is what one slide keeps, and which points are still to come.
type sliding struct {
	queue  []int32 // points with a surplus
	queued []bool
	tight  []int32 // arcs that lead out of the block and hold already
	passed []int32 // those of them whose price is less than what pulls
}

// balance lets every point with a surplus slide until there is none. It is false where there is no way, or no time.
func (g *timing) balance(ctx context.Context) bool {
	q := &g.sliding
	clear(q.queued)
	q.queue = q.queue[:0]
	for _, v := range g.unmet {
		g.note(v)
	}
	zero := int32(g.n - 1)
	for i, slides := 0, 0; i < len(q.queue); i++ {
		v := q.queue[i]
		q.queued[v] = false
		for v != zero && g.surplus[v] != 0 { // that of zero goes as the others' do
			sign := int64(1)
			if g.surplus[v] < 0 {
				sign = -1
			}
			if !g.slide(v, sign) {
				return false
			}
			g.work += int64(len(g.reached))
			if slides++; slides&15 == 0 && ctx.Err() != nil {
				return false
			}
		}
	}
	return ctx.Err() == nil
}

// note lets a point slide later on.
func (g *timing) note(v int32) {
	if q := &g.sliding; !q.queued[v] {
		q.queued[v] = true
		q.queue = append(q.queue, v)
	}
}

// slide moves a point, with what goes with it, until some of its surplus is carried away: all of it, or as much as goes. It is false where
// the block could go on for ever, so that the rules contradict each other.
func (g *timing) slide(from int32, sign int64) bool {
	q := &g.sliding
	g.stamp++
	g.heap, g.reached, q.tight, q.passed = g.heap[:0], g.reached[:0], q.tight[:0], q.passed[:0]
	pull, against, by := sign*g.surplus[from], int64(0), int64(0)
	g.take(from, -1, 0, sign)
	for {
		var id int32
		if n := len(q.tight); n > 0 {
			id, q.tight = q.tight[n-1], q.tight[:n-1]
		} else if len(g.heap) == 0 {
			return false
		} else {
			top := popHeap(&g.heap)
			if top.d > by {
				if pull -= g.pass(sign); pull <= 0 {
					break // what lacks some by now pulls back as much
				}
				against = 0
			}
			id, by = top.v, top.d
		}
		a := &g.arcs[id]
		in, next := g.across(a)
		if g.seen[next] == g.stamp {
			continue
		}
		if was := sign * g.surplus[next]; was < 0 {
			g.via[next], g.dist[next] = id, by
			if g.carry(from, next, sign) < -was || g.surplus[from] == 0 {
				break
			}
			pull += was
			q.tight, q.passed, against = append(q.tight, q.passed...), q.passed[:0], 0 // it may be too much for what pulls now
		} else if most := a.most(in, sign); against+most < pull {
			q.passed = append(q.passed, id)
			against += most
			continue
		} else {
			pull += was
		}
		g.take(next, id, by, sign)
	}
	for _, y := range g.reached {
		g.x[y] += sign * (by - g.dist[y])
	}
	return true
}

// take makes a point one of those that slide, from where the block has come by so much; via is the arc that ties it.
func (g *timing) take(y, via int32, by, sign int64) {
	g.seen[y], g.dist[y], g.via[y] = g.stamp, by, via
	g.reached = append(g.reached, y)
	for _, id := range g.touching(y) {
		a := &g.arcs[id]
		if g.seen[a.u+a.v-y] == g.stamp || a.most(y, sign) == 0 {
			continue
		}
		slack := g.x[a.v] - g.x[a.u] - a.w
		if (a.u == y) != (sign > 0) {
			slack = -slack
		}
		if slack == 0 {
			g.sliding.tight = append(g.sliding.tight, id)
		} else {
			pushHeap(&g.heap, heapItem{by + slack, id})
		}
	}
}

// pass lets what is passed take all that it can, and returns how much that is.
func (g *timing) pass(sign int64) (all int64) {
	q := &g.sliding
	for _, id := range q.passed {
		a := &g.arcs[id]
		in, next := g.across(a)
		if g.seen[next] == g.stamp {
			continue // it has come along since
		}
		most := a.most(in, sign)
		a.push(in, sign, most)
		g.surplus[in] -= sign * most
		g.surplus[next] += sign * most
		g.note(in)
		g.note(next)
		all += most
	}
	q.passed = q.passed[:0]
	return all
}

// carry takes a surplus along the arcs by which a point was reached, as much as goes, and returns how much that is.
func (g *timing) carry(from, to int32, sign int64) int64 {
	most := min(sign*g.surplus[from], -sign*g.surplus[to])
	for y := to; y != from; {
		a := &g.arcs[g.via[y]]
		y = a.u + a.v - y
		most = min(most, a.most(y, sign))
	}
	if most <= 0 {
		return 0 // what was passed has taken all of it
	}
	for y := to; y != from; {
		a := &g.arcs[g.via[y]]
		y = a.u + a.v - y
		a.push(y, sign, most)
	}
	g.surplus[from] -= sign * most
	g.surplus[to] += sign * most
	return most
}

// across are the ends of an arc out of the block: that which is in it, and the other.
func (g *timing) across(a *flowArc) (in, out int32) {
	if g.seen[a.u] == g.stamp {
		return a.u, a.v
	}
	return a.v, a.u
}

// most is how much flow an arc may still take away from one of its ends; what comes there on it may go back (where sign is −1, how much it
// may bring).
func (a *flowArc) most(y int32, sign int64) int64 {
	if (a.u == y) == (sign > 0) {
		return a.cap - a.f
	}
	return a.f
}

// push takes so much away from one of its ends.
func (a *flowArc) push(y int32, sign, most int64) {
	if (a.u == y) == (sign > 0) {
		a.f += most
	} else {
		a.f -= most
	}
}
