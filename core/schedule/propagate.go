package schedule

// What a decision in the branch and bound means for everything else: windows, precedences and resources.

// gap is what must pass between the end of i and the start of j on resource r, and
// whether they may not overlap there at all.
func (b *brancher) gap(r int, i, j *user) (int64, bool) {
	res := &b.p.res[r]
	if t := res.thermostat; t != nil && !i.setpoint.none() && !j.setpoint.none() && differ(t, i.setpoint, j.setpoint) {
		return changeover(t, i.setpoint, j.setpoint), true
	}
	return 0, i.units+j.units > res.capacity && b.dur[i.node] > 0 && b.dur[j.node] > 0
}

func (b *brancher) still(u *user) bool { return u.block || b.p.fixed[u.node] }

// propagate carries windows along the arcs and through the resources until nothing
// changes; false means that this branch holds no schedule worth finding.
func (b *brancher) propagate() bool {
	for {
		if !b.carry() {
			return b.clear()
		}
		changed := false
		for r := range b.users {
			if !b.dirty[r] {
				continue
			}
			b.dirty[r] = false
			ok, some := b.tighten(r)
			if !ok {
				return b.clear()
			}
			changed = changed || some
		}
		if !changed && len(b.queue) == 0 {
			return b.net.value+b.p.base < b.best
		}
	}
}

func (b *brancher) clear() bool {
	for _, v := range b.queue {
		b.queued[v] = false
	}
	b.queue = b.queue[:0]
	clear(b.dirty)
	return false
}

// carry is the propagation of windows along the arcs.
func (b *brancher) carry() bool {
	for len(b.queue) > 0 {
		v := b.queue[len(b.queue)-1]
		b.queue = b.queue[:len(b.queue)-1]
		b.queued[v] = false
		if b.est[v] > b.lst[v] {
			return false
		}
		for _, a := range b.out[v] {
			if t := b.est[v] + a.w; t > b.est[a.other] {
				b.est[a.other] = t
				if t > b.lst[a.other] {
					return false
				}
				b.push(a.other)
			}
		}
		for _, a := range b.in[v] {
			if t := b.lst[v] - a.w; t < b.lst[a.other] {
				b.lst[a.other] = t
				if t < b.est[a.other] {
					return false
				}
				b.push(a.other)
			}
		}
	}
	return true
}

// tighten applies the rules of one resource: pairs of which only one order is left,
// and edge-finding over the runs that take more than half of it.
func (b *brancher) tighten(r int) (ok, changed bool) {
	us := b.users[r]
	for i := range us {
		for j := range i {
			x, y := &us[i], &us[j]
			if x.node == y.node || b.still(x) && b.still(y) {
				continue
			}
			there, back := b.order[int(x.node)*b.n+int(y.node)], b.order[int(y.node)*b.n+int(x.node)]
			if there == before || back == before {
				continue
			}
			gapXY, apart := b.gap(r, x, y)
			if !apart {
				continue
			}
			gapYX, _ := b.gap(r, y, x)
			canXY := there == openPair && b.endEst(x.node)+gapXY <= b.lst[y.node]
			canYX := back == openPair && b.endEst(y.node)+gapYX <= b.lst[x.node]
			switch {
			case !canXY && !canYX:
				return false, changed
			case !canXY:
				if !b.precede(y.node, x.node, gapYX) {
					return false, changed
				}
				changed = true
			case !canYX:
				if !b.precede(x.node, y.node, gapXY) {
					return false, changed
				}
				changed = true
			}
		}
	}
	if !b.carry() {
		return false, changed
	}
	b.jobs = b.jobs[:0]
	for i := range us {
		u := &us[i]
		if 2*u.units > b.p.res[r].capacity && b.dur[u.node] > 0 && !b.still(u) {
			b.jobs = append(b.jobs, job{u.node, b.est[u.node], b.endLst(u.node), b.dur[u.node]})
		}
	}
	if len(b.jobs) < 3 {
		return true, changed
	}
	if !edgeFind(b.jobs, b.idx, b.scratch) {
		return false, changed
	}
	for i := range b.jobs {
		if j := &b.jobs[i]; j.est > b.est[j.node] {
			b.est[j.node] = j.est
			b.push(j.node)
			changed = true
			if !b.net.add(b.zero, j.node, j.est, endless) {
				return false, changed
			}
		}
	}
	mirror(b.jobs)
	if !edgeFind(b.jobs, b.idx, b.scratch) {
		return false, changed
	}
	for i := range b.jobs {
		if j := &b.jobs[i]; -j.est < b.endLst(j.node) {
			n, d := b.finish(j.node)
			b.lst[n] = -j.est - d
			b.push(n)
			changed = true
		}
	}
	return true, changed
}
