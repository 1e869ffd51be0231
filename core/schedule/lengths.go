package schedule

import "jointime/core/workload"

// A task whose length is chosen has two nodes: its start, and its end, which takes nothing and lies between its seconds
// and its longest after. What the task needs it holds from the one to the other. Where the length is not chosen the end
// is so many seconds after the start, and needs no node.

// findEnds gives every task whose length is chosen its end.
func (p *problem) findEnds() {
	p.stop, p.run = make([]int32, p.n), make([]int32, p.n)
	for v := range p.n {
		p.stop[v], p.run[v] = -1, -1
	}
	e := p.real
	for v := range p.real {
		t := &p.w.Tasks[v]
		if t.Longest == nil {
			continue
		}
		p.stop[v], p.run[e] = int32(e), int32(v)
		p.lo[e], p.hi[e] = p.lo[v]+t.Seconds, p.horizon
		if t.Latest != nil {
			p.hi[e] = min(p.hi[e], *t.Latest)
		}
		p.arc(int32(v), int32(e), t.Seconds, ofLength)
		p.arc(int32(e), int32(v), -*t.Longest, ofLength)
		e++
	}
}

// ofLength is the rule of the arcs between a start and its end, which no link says.
const ofLength = int32(-1)

// task is the task of a node that is one, or its end.
func (p *problem) task(v int) *workload.Task {
	if v >= p.real {
		v = int(p.run[v])
	}
	return &p.w.Tasks[v]
}

// finish is the node by which a node ends, and how long after that.
func (p *problem) finish(v int32) (node int32, after int64) {
	if e := p.stop[v]; e >= 0 {
		return e, 0
	}
	return v, p.dur[v]
}

// ends is when a placed node ends.
func (s *state) ends(v int) int64 { return ends(s.p, s.x, v) }

func ends(p *problem, x []int64, v int) int64 {
	if e := p.stop[v]; e >= 0 {
		return x[e]
	}
	return x[v] + p.dur[v]
}

// use takes what v needs (sign 1) from its start to its end, or gives it back (sign −1).
func (s *state) use(v int, from, to, sign int64) {
	for k := range s.p.needs[v] {
		nd, r := &s.p.needs[v][k], s.on[v][k]
		if s.round.on {
			s.round.touch(s, r)
		}
		if s.group.on {
			s.group.touch(s, r)
		}
		s.prof[r].add(from, to, sign*nd.units)
		if !nd.asks() || s.p.res[r].thermostat == nil {
			continue
		}
		if sign > 0 {
			s.heat[r].add(heat{from, to, nd.setpoint, int32(v)})
		} else {
			s.heat[r].remove(from, int32(v))
		}
	}
}

// changed takes or gives back what hangs on node v being placed: what it needs itself, or what the run that ends there
// needs. Of a run whose length is chosen both its nodes have to be placed.
func (s *state) changed(v int, sign int64) {
	switch e, run := s.p.stop[v], s.p.run[v]; {
	case e >= 0 && s.placed[e]:
		s.use(v, s.x[v], s.x[e], sign)
	case e >= 0:
	case run >= 0 && s.placed[run]:
		s.use(int(run), s.x[run], s.x[v], sign)
	case run < 0:
		s.use(v, s.x[v], s.x[v]+s.p.dur[v], sign)
	}
}

// length is how long segment sg takes with its leader at t: to its end, where that is placed; as short as may be where it
// is not.
func (s *state) length(sg *seg, t int64) int64 {
	if sg.stop >= 0 && s.placed[sg.stop] {
		return s.x[sg.stop] - t - sg.off
	}
	return sg.dur
}

// lasts reports whether the runs that end with the body of v, and have begun, have what they need until then.
func (s *state) lasts(v int, t int64) bool {
	for _, m := range s.p.body[v] {
		run := s.p.run[m]
		if run < 0 || !s.placed[run] || s.p.lead[run] == int32(v) {
			continue
		}
		from, to := s.x[run], t+s.p.off[m]
		for k := range s.p.needs[run] {
			nd, r := &s.p.needs[run][k], s.on[run][k]
			if !s.prof[r].fits(from, to, nd.units+s.alongside(v, m, r)) {
				return false
			}
			if s.p.res[r].thermostat != nil && nd.asks() {
				if clash, _, _ := s.p.res[r].blocked(&s.heat[r], from, to-from, nd.setpoint); clash {
					return false
				}
			}
		}
	}
	return true
}

// alongside is how much of a resource the body of v takes itself before member m, with what ends
// in it before that.
// more than is taken at once, and is never less.
func (s *state) alongside(v int, m, r int32) (units int64) {
	for _, sg := range s.p.segs[v] {
		if s.on[sg.node][sg.need] == r && sg.off < s.p.off[m] {
			units += s.p.needs[sg.node][sg.need].units
		}
	}
	for _, o := range s.p.body[v] {
		if run := s.p.run[o]; o < m && run >= 0 && s.placed[run] && s.p.lead[run] != int32(v) {
			for k := range s.p.needs[run] {
				if s.on[run][k] == r {
					units += s.p.needs[run][k].units
				}
			}
		}
	}
	return units
}

// keepLengths moves the ends among some placed nodes to where their runs may end: how long a run takes is no rule that
// gives way.
func (s *state) keepLengths(nodes []int32) {
	for _, v := range nodes {
		if e := s.p.stop[v]; e >= 0 && s.placed[e] {
			v = e
		}
		run := s.p.run[v]
		if run < 0 || !s.placed[run] {
			continue
		}
		t := s.p.task(int(v))
		if at := min(max(s.x[v], s.x[run]+t.Seconds), s.x[run]+*t.Longest); at != s.x[v] {
			s.take(int(v))
			s.put(int(v), at)
		}
	}
}

// until is the first instant from t in direction d at which one need has room on one resource until an end that is
// placed already: going on, the run gets shorter; going back, longer.
func (s *state) until(r int, nd *need, t, limit, end int64, d direction) int64 {
	res := &s.p.res[r]
	for d == forward && t <= limit || d == backward && t >= limit {
		clash, after := false, int64(0)
		if res.thermostat != nil && nd.asks() {
			clash, after, _ = res.blocked(&s.heat[r], t, end-t, nd.setpoint)
		}
		if !clash && s.prof[r].fits(t, end, nd.units) {
			return t
		}
		if d == backward {
			break // what does not fit does not fit when it is longer
		}
		if !clash {
			after = s.prof[r].boundaryAfter(t)
		}
		t = max(after, t+1)
	}
	return int64(d) * 2 * far
}

// Of the branch and bound, where blocks are nodes too.

// finish is the node by which a run ends, and how long after that.
func (b *brancher) finish(v int32) (int32, int64) {
	if int(v) < b.p.n {
		return b.p.finish(v)
	}
	return v, b.dur[v]
}

// precede decides that one run ends, and gap seconds pass, before another starts.
func (b *brancher) precede(u, v int32, gap int64) bool {
	b.decide(u, v, before)
	n, d := b.finish(u)
	return b.post(n, v, d+gap, openPair)
}

func (b *brancher) endEst(v int32) int64 { n, d := b.finish(v); return b.est[n] + d }

func (b *brancher) endLst(v int32) int64 { n, d := b.finish(v); return b.lst[n] + d }

// endsAt is when a run ends at the present times, from its start.
func (b *brancher) endsAt(u *user, start, base int64) int64 {
	if n, d := b.finish(u.node); n != u.node {
		return b.net.x[n] - base + d
	}
	return start + b.dur[u.node]
}

// middle is twice the middle of a run at the present times.
func (b *brancher) middle(u *user) int64 {
	n, d := b.finish(u.node)
	return b.net.x[u.node] + b.net.x[n] + d
}
