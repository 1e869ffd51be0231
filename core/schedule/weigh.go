package schedule

import "slices"

// What a group costs where it is put, and where it would cost less.

// steps are by how much a join is tried later and earlier than where its tasks found room, in seconds.
var steps = []int64{20, 60, 150, 360, 900, 2100, 4800}

// weigh compares the place that a group has found, with its join at t, with others later and earlier, and leaves it at the cheapest: a
// join that is a little late is cheaper than tasks that wait long beyond their best, where the rush leaves them no room. It returns false,
// with nothing placed, when even that costs more than may.
func (b *builder) weigh(g *group, all []int32, t, lo, hi int64) bool {
	best := b.spent
	kept, stands := false, true
	least := b.p.nodeCost(g.join, b.p.wish(g.join))
	for _, d := range steps {
		if best <= least {
			break
		}
		d = d/2 + b.rng.Int64N(d)
		for _, at := range [2]int64{t + d, t - d} {
			if at < lo || at > hi || b.p.nodeCost(g.join, at) >= min(best, b.may+1) {
				continue
			}
			if !kept {
				b.remember(all)
			}
			kept = true
			b.tryAgain(all)
			most := b.may
			b.may, b.weighing = min(b.may, best-1), true
			v, _ := b.attempt(g, at)
			b.may, b.weighing = most, false
			if stands = v == found && b.spent < best; stands {
				best = b.spent
				b.remember(all)
			}
		}
	}
	if best > b.may {
		b.tryAgain(all)
		return false
	}
	if !stands {
		b.tryAgain(all)
		b.recall(all)
	}
	b.spent = best
	return true
}

// remember and recall keep where some nodes are, and put them back there.
func (b *builder) remember(nodes []int32) {
	for _, v := range nodes {
		b.keptX[v] = b.x[v]
		copy(b.keptOn[v], b.on[v])
	}
}

func (b *builder) recall(nodes []int32) {
	for _, v := range nodes {
		copy(b.on[v], b.keptOn[v])
		b.put(int(v), b.keptX[v])
	}
	for _, v := range nodes {
		if b.p.leads(v) {
			b.push(v)
		}
	}
	b.settle()
}

// costHere is what the body of v adds to the cost where it stands, beside what is placed.
func (b *builder) costHere(v int) int64 {
	var sum int64
	for _, m := range b.p.body[v] {
		if len(b.p.wants[m]) > 0 {
			sum += b.p.nodeCost(int(m), b.x[m])
		}
		for _, k := range b.p.softOf[m] {
			s := &b.p.soft[k]
			other := s.from
			if other == m {
				other = s.to
			}
			if !b.placed[other] || b.p.lead[other] == b.p.lead[m] && m != s.from {
				continue
			}
			if over := b.x[s.to] - b.x[s.from] - s.best; over > 0 {
				sum += over * s.weight
			}
		}
	}
	return sum
}

// spendAll leaves in spent what some nodes cost where they stand, beside what is placed.
func (b *builder) spendAll(nodes []int32) {
	b.spent = 0
	for _, v := range nodes {
		if len(b.p.wants[v]) > 0 {
			b.spent += b.p.nodeCost(int(v), b.x[v])
		}
		for _, k := range b.p.softOf[v] {
			s := &b.p.soft[k]
			if !b.placed[s.from] || !b.placed[s.to] || s.to == v && slices.Contains(nodes, s.from) {
				continue
			}
			if over := b.x[s.to] - b.x[s.from] - s.best; over > 0 {
				b.spent += over * s.weight
			}
		}
	}
}
