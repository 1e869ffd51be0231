package schedule

import (
	"math"
)

// What the branch and bound decides next: which two clash, and which resource somebody has.

// conflict looks for runs whose times do not go together on their resource. It
// returns two of them to put in order; the second is nil when a set must overlap
// and may not; the first is nil when there is no conflict. Of several conflicts the
// one with the least freedom is taken.
func (b *brancher) conflict() (*user, *user, int) {
	var bi, bj *user
	br := -1
	bestSlack := int64(math.MaxInt64)
	x := b.net.x
	base := x[b.zero]
	for r := range b.users {
		us := b.users[r]
		res := &b.p.res[r]
		for i := range us {
			a := &us[i]
			at := x[a.node] - base
			if a.block {
				at = b.est[a.node]
			}
			sum := int64(0)
			open := false
			for j := range us {
				c := &us[j]
				start := x[c.node] - base
				if c.block {
					start = b.est[c.node]
				}
				if res.thermostat != nil && j < i && a.node != c.node && !(b.still(a) && b.still(c)) {
					if gap, apart := b.gap(r, a, c); apart {
						back, _ := b.gap(r, c, a)
						if b.endsAt(a, at, base)+gap > start && b.endsAt(c, start, base)+back > at {
							if s := b.freedom(a, c); s < bestSlack {
								bestSlack, bi, bj, br = s, a, c, r
							}
							continue
						}
					}
				}
				if b.dur[c.node] > 0 && start <= at && at < b.endsAt(c, start, base) {
					sum += c.units
					open = open || !b.still(c)
				}
			}
			if sum <= res.capacity || !open || b.dur[a.node] == 0 {
				continue
			}
			u, v, s := b.forbidden(r, at, base)
			if v == nil {
				return u, nil, r
			}
			if s < bestSlack {
				bestSlack, bi, bj, br = s, u, v, r
			}
		}
	}
	return bi, bj, br
}

// freedom is how much room the orders of a pair still have; small is urgent.
func (b *brancher) freedom(i, j *user) int64 {
	ij := b.lst[j.node] - b.endEst(i.node)
	ji := b.lst[i.node] - b.endEst(j.node)
	return max(ij, ji) + min(ij, ji)/4
}

// hardest picks, of the pairs that may not overlap and of which both orders are open, the one with the least room for the two of them, for
// as often as decisions about either have failed; the pair that is given where there is none. It suits the shortest makespan, where a few
// orders decide all; with joins, what clashes at the best times proves quicker.
func (b *brancher) hardest(i, j *user, r int) (*user, *user, int) {
	best := math.Inf(1)
	for q := range b.users {
		us := b.users[q]
		for k := range us {
			for l := range k {
				u, v := &us[k], &us[l]
				if b.order[int(u.node)*b.n+int(v.node)] != openPair || b.order[int(v.node)*b.n+int(u.node)] != openPair ||
					u.node == v.node || b.still(u) && b.still(v) {
					continue
				}
				if _, apart := b.gap(q, u, v); !apart {
					continue
				}
				room := b.lst[v.node] - b.endEst(u.node) + b.lst[u.node] - b.endEst(v.node)
				if s := float64(room+1) / float64(b.failed[u.node]+b.failed[v.node]); s < best {
					best, i, j, r = s, u, v, q
				}
			}
		}
	}
	return i, j, r
}

// forbidden picks, among the runs that overlap at an instant, the pair to branch on
// with the least freedom whose order is still open. v is nil when there is none.
func (b *brancher) forbidden(r int, at, base int64) (u, v *user, slack int64) {
	us := b.users[r]
	slack = math.MaxInt64
	n := int32(b.n)
	for i := range us {
		a := &us[i]
		if !b.covers(a, at, base) {
			continue
		}
		if u == nil {
			u = a
		}
		for j := range i {
			c := &us[j]
			if !b.covers(c, at, base) || a.node == c.node || b.still(a) && b.still(c) {
				continue
			}
			if b.order[a.node*n+c.node] != openPair && b.order[c.node*n+a.node] != openPair {
				continue
			}
			s := b.freedom(a, c)
			if a.units+c.units > b.p.res[r].capacity {
				s -= 1 << 40 // a pair that excludes itself decides most
			}
			if v == nil || s < slack {
				u, v, slack = a, c, s
			}
		}
	}
	return u, v, slack
}

func (b *brancher) covers(u *user, at, base int64) bool {
	start := b.net.x[u.node] - base
	if u.block {
		start = b.est[u.node]
	}
	return b.dur[u.node] > 0 && start <= at && at < b.endsAt(u, start, base)
}

// alternatives serves the needs that may choose their resource, at the times that
// are best now. If that works, a schedule is found; if not, the search branches on
// the first need that found no room.
func (b *brancher) alternatives() {
	var todo []int32
	for v := range b.p.tasks {
		for k := range b.on[v] {
			if b.on[v][k] < 0 {
				todo = append(todo, int32(v))
				break
			}
		}
	}
	x := b.net.x
	for i := 1; i < len(todo); i++ {
		for k := i; k > 0 && x[todo[k-1]] > x[todo[k]]; k-- {
			todo[k-1], todo[k] = todo[k], todo[k-1]
		}
	}
	l := b.enter()
	steps := 400
	stuck, stuckNeed := -1, 0
	deepest := -1
	var serve func(i, k int) bool
	serve = func(i, k int) bool {
		if i == len(todo) {
			return true
		}
		v := todo[i]
		if k == len(b.on[v]) {
			return serve(i+1, 0)
		}
		if b.on[v][k] >= 0 {
			return serve(i, k+1)
		}
		for _, r := range b.open(v, k) {
			if steps--; steps < 0 {
				return false
			}
			if !b.fits(v, k, int(r)) {
				continue
			}
			was := len(b.assigned)
			b.on[v][k] = r
			b.assigned = append(b.assigned, choice{v, int32(k), r})
			nd := &b.p.needs[v][k]
			b.users[r] = append(b.users[r], user{v, nd.units, nd.setpoint, false})
			if serve(i, k+1) {
				return true
			}
			for m := len(b.assigned) - 1; m >= was; m-- {
				c := b.assigned[m]
				b.on[c.node][c.need] = -1
				b.users[c.res] = b.users[c.res][:len(b.users[c.res])-1]
			}
			b.assigned = b.assigned[:was]
		}
		if i > deepest {
			deepest, stuck, stuckNeed = i, int(v), k
		}
		return false
	}
	if serve(0, 0) {
		b.record()
		b.back(l)
		b.marks = b.marks[:len(b.marks)-1]
		return
	}
	b.back(l)
	if stuck < 0 { // the small search gave up: branch on the first open need
		stuck = int(todo[0])
		for stuckNeed = 0; b.on[stuck][stuckNeed] >= 0; stuckNeed++ {
		}
	}
	anyOf := b.open(int32(stuck), stuckNeed)
	for i, r := range anyOf {
		if b.stopped {
			break
		}
		twin := false
		for _, q := range anyOf[:i] {
			twin = twin || b.p.twins[q] == b.p.twins[r] && b.unused(q) && b.unused(r)
		}
		if twin {
			continue
		}
		if b.assign(int32(stuck), stuckNeed, r) && b.propagate() {
			b.search()
		}
		b.back(l)
	}
	b.marks = b.marks[:len(b.marks)-1]
}

func (b *brancher) unused(r int32) bool {
	for i := range b.users[r] {
		if !b.users[r][i].block {
			return false
		}
	}
	return true
}

// fits reports whether need k of v has room on r at the present times.
func (b *brancher) fits(v int32, k, r int) bool {
	nd := &b.p.needs[v][k]
	res := &b.p.res[r]
	x, base := b.net.x, b.net.x[b.zero]
	me := user{v, nd.units, nd.setpoint, false}
	at := x[v] - base
	end := b.endsAt(&me, at, base)
	if res.thermostat != nil && !nd.setpoint.none() && at < changeover(res.thermostat, standby(res.thermostat), nd.setpoint) {
		return false
	}
	load := func(t int64) int64 {
		sum := nd.units
		for i := range b.users[r] {
			if b.covers(&b.users[r][i], t, base) {
				sum += b.users[r][i].units
			}
		}
		return sum
	}
	if b.dur[v] > 0 && load(at) > res.capacity {
		return false
	}
	for i := range b.users[r] {
		u := &b.users[r][i]
		start := x[u.node] - base
		if u.block {
			start = b.est[u.node]
		}
		if res.thermostat != nil {
			differ := !me.setpoint.none() && !u.setpoint.none() && differ(res.thermostat, me.setpoint, u.setpoint)
			if gap, _ := b.gap(r, &me, u); differ {
				back, _ := b.gap(r, u, &me)
				if u.node == v || end+gap > start && b.endsAt(u, start, base)+back > at {
					return false
				}
			}
		}
		if b.dur[v] > 0 && start > at && start < end && load(start) > res.capacity {
			return false
		}
	}
	return true
}
