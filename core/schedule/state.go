package schedule

import "slices"

// state is a schedule under construction: which nodes are placed, where, and
// what room that leaves. The windows est/lst of the nodes not yet placed follow
// every placement, so that the longest waits of a chain are known before its
// next step is put down.
type state struct {
	p      *problem
	x      []int64
	placed []bool
	on     [][]int32 // chosen resource for each need
	est    []int64   // windows of the leaders of bodies: of a placed one, its own instant
	lst    []int64
	lo, hi []int64 // those windows where nothing is placed
	prof   []*profile
	heat   []heats

	queue   []int32
	queued  []bool
	marked  []bool // by whole alone
	scratch []int32
	lists   [][]int32
	times   []int64
	chosen  []int // which alternative each segment has in the search for room
	// pick rotates the order in which equal resources are tried.
	pick uint32
	// round and group remember what resources were used for: before what a round changes, and before a group is tried again.
	round, group undo
	// work counts what has been placed: the clock of the search, the same on every machine.
	work int64
}

func newState(p *problem) *state {
	s := &state{
		p: p, x: make([]int64, p.n), placed: make([]bool, p.n), on: make([][]int32, p.n),
		lo: append([]int64(nil), p.lo...), hi: append([]int64(nil), p.hi...),
		heat: make([]heats, len(p.res)), round: newUndo(len(p.res)), group: newUndo(len(p.res)), queued: make([]bool, p.n),
		marked: make([]bool, p.n),
	}
	for v := range p.n {
		l := p.lead[v]
		s.lo[l], s.hi[l] = max(s.lo[l], p.lo[v]-p.off[v]), min(s.hi[l], p.hi[v]-p.off[v])
	}
	s.est, s.lst = append([]int64(nil), s.lo...), append([]int64(nil), s.hi...)
	for i := range p.res {
		s.prof = append(s.prof, newProfile(&p.res[i]))
	}
	most := 0
	for v := range p.n {
		s.on[v] = make([]int32, len(p.needs[v]))
		most = max(most, len(p.segs[v]))
	}
	s.chosen = make([]int, most)
	for v := range p.n {
		if p.fixed[v] {
			copy(s.on[v], p.fixOn[v])
			s.put(v, p.fixAt[v])
		}
	}
	return s
}

// put places node v at t on the resources in on[v] without asking whether it fits.
func (s *state) put(v int, t int64) {
	s.stand(int32(v), t)
	s.changed(v, 1)
}

// stand notes that node v is at t; what it needs is taken already.
func (s *state) stand(v int32, t int64) {
	s.x[v], s.placed[v] = t, true
	s.est[v], s.lst[v] = t, t
}

// take removes node v; its window is stale until refresh is called.
func (s *state) take(v int) {
	s.changed(v, -1)
	s.placed[v] = false
}

// refresh recomputes the windows of the bodies of the nodes given, none of which is placed,
// from the root windows and everything that is placed.
func (s *state) refresh(nodes []int32) {
	for _, v := range nodes {
		if s.p.lead[v] == v {
			s.est[v], s.lst[v] = s.lo[v], s.hi[v]
		}
	}
	for _, v := range nodes {
		if s.p.lead[v] != v {
			continue
		}
		est, lst := s.est[v], s.lst[v]
		for _, a := range s.p.inTo[v] {
			if s.placed[a.other] {
				est = max(est, s.x[a.other]+a.w)
			}
		}
		for _, a := range s.p.outOf[v] {
			if s.placed[a.other] {
				lst = min(lst, s.x[a.other]-a.w)
			}
		}
		s.est[v], s.lst[v] = est, lst
		s.push(v)
	}
	s.settle()
}

func (s *state) push(v int32) {
	if !s.queued[v] {
		s.queued[v] = true
		s.queue = append(s.queue, v)
	}
}

// settle carries changed windows on to the bodies not placed.
func (s *state) settle() {
	for i := 0; i < len(s.queue); i++ {
		v := s.queue[i]
		s.queued[v] = false
		est, lst := s.est[v], s.lst[v]
		for _, a := range s.p.outOf[v] {
			if t := est + a.w; !s.placed[a.other] && t > s.est[a.other] {
				s.est[a.other] = t
				if t <= s.lst[a.other] {
					s.push(a.other)
				}
			}
		}
		for _, a := range s.p.inTo[v] {
			if t := lst - a.w; !s.placed[a.other] && t < s.lst[a.other] {
				s.lst[a.other] = t
				if t >= s.est[a.other] {
					s.push(a.other)
				}
			}
		}
	}
	s.queue = s.queue[:0]
}

// place puts v, and what it leads, at t and narrows the windows of what they touch.
func (s *state) place(v int, t int64) {
	s.work++
	for _, m := range s.p.body[v] {
		s.put(int(m), t+s.p.off[m])
	}
	s.push(int32(v))
	s.settle()
}

// direction of a placement: as early or as late as the window allows.
type direction int8

const (
	forward  direction = 1
	backward direction = -1
)

// room finds the first instant from `from` towards `limit`, going in direction d,
// at which v fits, and writes the chosen resources to on[v].
func (s *state) room(v int, from, limit int64, d direction) (int64, bool) {
	t := from
	for d == forward && t <= limit || d == backward && t >= limit {
		next, ok := s.assign(v, t, limit, d)
		if ok {
			return next, true
		}
		if d == forward && next <= t || d == backward && next >= t {
			return next, false
		}
		t = next
	}
	return t, false
}

// assign tries to serve all segments of v at instant t. If it cannot, it returns the
// next instant, in direction d, at which it could be otherwise.
func (s *state) assign(v int, t, limit int64, d direction) (int64, bool) {
	segs := s.p.segs[v]
	if s.serve(v, t, 0) {
		return t, true
	}
	// What is taken as each other bounds the next instant from below (forward): before there is room for all of it
	// at one position of its lists nothing can change for it.
	next := t
	for _, tie := range s.p.ties[v] {
		best := int64(d) * 2 * far
		open := s.lists[:0]
		for _, k := range tie {
			open = append(open, s.open(int(segs[k].node), int(segs[k].need), 0))
		}
		s.lists = open
		rank := s.p.rank[v][tie[0]]
		s.times = s.times[:0]
		for i := range open[0] {
			u := t
			for n, k := range tie {
				sg := &segs[k]
				nd := &s.p.needs[sg.node][sg.need]
				a := s.alone(int(open[n][i]), nd, t+sg.off, limit+sg.off, sg, d) - sg.off
				if d == forward {
					u = max(u, a)
				} else {
					u = min(u, a)
				}
			}
			if d == forward {
				best = min(best, u)
			} else {
				best = max(best, u)
			}
			s.times = append(s.times, u)
		}
		if rank > 0 && int(rank) < len(s.times) && len(s.times) > 1 {
			// So many others that ask for the same have one each before it.
			slices.Sort(s.times)
			if best = s.times[rank]; d == backward {
				best = s.times[len(s.times)-1-int(rank)]
			}
		}
		if d == forward {
			next = max(next, best)
		} else {
			next = min(next, best)
		}
	}
	if next != t {
		return next, false
	}
	// Everything has room by itself and not together: on to the next change.
	next = int64(d) * 2 * far
	for k := range segs {
		sg := &segs[k]
		long := s.length(sg, t)
		for _, r := range s.open(int(sg.node), int(sg.need), 0) {
			if d == forward {
				next = min(next, s.prof[r].boundaryAfter(t+sg.off)-sg.off)
			} else if b := s.prof[r].boundaryBefore(t + sg.off + long); true {
				next = max(next, b-long-sg.off)
			}
			if s.p.res[r].thermostat != nil {
				next = s.nextHeat(int(r), t+sg.off, next+sg.off, long, s.p.needs[sg.node][sg.need].setpoint, d) - sg.off
			}
		}
	}
	if d == backward {
		for _, m := range s.p.body[v] { // a run that ends here gets shorter
			if run := s.p.run[m]; run >= 0 && s.placed[run] {
				for _, r := range s.on[run] {
					next = max(next, s.prof[r].boundaryBefore(t+s.p.off[m])-s.p.off[m])
				}
			}
		}
	}
	return next, false
}

// nextHeat is like next, narrowed by the instants at which a thermostat's answer
// may change.
func (s *state) nextHeat(r int, t, next, dur int64, c setpoint, d direction) int64 {
	if c.none() {
		return next
	}
	th := s.p.res[r].thermostat
	for i := range s.heat[r].list {
		e := &s.heat[r].list[i]
		after, before := e.finish+changeover(th, e.c, c), e.start-changeover(th, c, e.c)-dur
		if d == forward && after > t {
			next = min(next, after)
		}
		if d == backward && before < t {
			next = max(next, before)
		}
	}
	return next
}

// alone is the first instant from t in direction d at which one need has room on
// one resource.
func (s *state) alone(r int, nd *need, t, limit int64, sg *seg, d direction) int64 {
	res, dur := &s.p.res[r], sg.dur
	if sg.stop >= 0 && s.placed[sg.stop] {
		return s.until(r, nd, t, limit, s.x[sg.stop], d)
	}
	for {
		var ok bool
		if d == forward {
			t, ok = s.prof[r].earliest(t, limit, dur, nd.units)
		} else {
			t, ok = s.prof[r].latest(t, limit, dur, nd.units)
		}
		if !ok {
			return int64(d) * 2 * far
		}
		if res.thermostat == nil || nd.setpoint.none() {
			return t
		}
		clash, after, before := res.blocked(&s.heat[r], t, dur, nd.setpoint)
		if !clash {
			return t
		}
		if d == forward {
			t = after
		} else {
			t = before
		}
		if d == forward && t > limit || d == backward && t < limit {
			return int64(d) * 2 * far
		}
	}
}

// serve assigns segments k… of v at t by depth-first search over the alternatives.
// There are few segments and few alternatives, so it stays small.
func (s *state) serve(v int, t int64, k int) bool {
	segs := s.p.segs[v]
	if k == len(segs) {
		return !s.p.closes[v] || s.lasts(v, t)
	}
	sg := &segs[k]
	open := s.open(int(sg.node), int(sg.need), k)
	n, first := len(open), 0
	if a := s.p.alike[v][k]; a >= 0 && n > 1 {
		first = s.chosen[a] // the other way round has been tried
	}
	for i := first; i < n; i++ {
		r := open[(i+int(s.pick))%n]
		if s.free(v, int(r), t, k) {
			s.on[sg.node][sg.need] = r
			s.chosen[k] = i
			if s.serve(v, t, k+1) {
				return true
			}
		}
	}
	return false
}

// free reports whether segment k of v has room on r, with v at t, beside v's segments before it.
func (s *state) free(v, r int, t int64, k int) bool {
	if !s.beside(v, r, t, k) {
		return false
	}
	sg := &s.p.segs[v][k]
	nd := &s.p.needs[sg.node][sg.need]
	res := &s.p.res[r]
	if res.thermostat == nil || !nd.asks() {
		return true
	}
	clash, _, _ := res.blocked(&s.heat[r], t+sg.off, s.length(sg, t), nd.setpoint)
	return !clash
}
