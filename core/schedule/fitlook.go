package schedule

import "slices"

// What a group costs at the least by when its join is, beside what is placed: from the leaves to the join, at instants that matter. These
// are the ends of the stretches in which there is room, those from which on a wait costs something, and where it stood.
//
// Source of the method: dynamic programming over a tree, with convex waits, so that the best child moves one way with its parent (totally
// monotone matrices, Aggarwal, Klawe, Moran, Shor & Wilber, Algorithmica 2, 1987; here by halves).

// mostTimes is how many instants of a body are looked at at the most.
const mostTimes = 20

// look finds what the group costs at the least by when its join is; false where there is no place for it.
func (f *fitter) look(spots []wspot) bool {
	m := f.m
	for i := range spots {
		m.standing(&spots[i])
		if i == 0 && !f.joinAt(&spots[0], len(spots) == 1) || i > 0 && !f.lookAt(&spots[i], spots[spots[i].parent].at) {
			return false
		}
	}
	for i := range spots {
		spots[i].begin()
	}
	for i := len(spots) - 1; i > 0; i-- {
		f.sumUp(&spots[i], &spots[spots[i].parent])
	}
	return true
}

// nearestJoin is how far away from where it stood the nearest instants of a join lie, seconds.
const nearestJoin = int64(16)

// joinAt finds the instants at which a join is looked at: where it stood and where it would like to be, and around these, and of one that
// is alone the first and the last of all; false where there are none.
func (f *fitter) joinAt(s *wspot, alone bool) bool {
	m, j := f.m, int(s.v)
	s.at = s.at[:0]
	add := func(t int64) {
		if t >= m.est[j] && t <= m.lst[j] && s.own.cost(t) <= m.may {
			s.at = append(s.at, t)
		}
	}
	for _, h := range s.own {
		add(h.at)
	}
	if alone {
		add(m.est[j])
		add(m.lst[j])
	}
	for _, t := range [2]int64{f.old[j], m.p.wish(j)} {
		add(t)
		for d := nearestJoin; d < longestWait; d *= 3 { // from half of it to one and a half, and so on: any instant may be drawn
			add(t + d/2 + m.rng.Int64N(d))
			add(t - d/2 - m.rng.Int64N(d))
		}
	}
	slices.Sort(s.at)
	s.at = slices.Compact(s.at)
	return len(s.at) > 0
}

// lookAt finds the instants at which a spot is looked at, by those of what it leads up to; false where there are none.
func (f *fitter) lookAt(s *wspot, parents []int64) bool {
	m := f.m
	lo, hi := m.est[s.v], m.lst[s.v]
	if long := s.longest(m.may); long < far {
		lo = max(lo, parents[0]-long)
	}
	if s.least > -far {
		hi = min(hi, parents[len(parents)-1]-s.least)
	}
	if lo > hi {
		return false
	}
	if s.free = f.finder.starts(m.state, int(s.v), lo, hi, s.free); len(s.free) == 0 {
		return false
	}
	f.instants(s, parents)
	return len(s.at) > 0
}

// instants are, for each instant of the parent, the last at which a spot may begin so that it waits as short as may be, and so that it
// begins to cost something; the end of the stretch before; and the next, where there is none between. And where it stood.
func (f *fitter) instants(s *wspot, parents []int64) {
	for i := range f.streams {
		f.streams[i] = f.streams[i][:0]
	}
	short, long := s.least, s.best
	if short <= -far && long >= far {
		s.at = append(s.at[:0], s.free[0].from, s.free[len(s.free)-1].to)
		return
	}
	if short <= -far {
		short = long
	}
	a, b := -1, -1
	for _, p := range parents {
		t := p - short
		for a+1 < len(s.free) && s.free[a+1].from <= t {
			a++
		}
		if a >= 0 {
			f.add(0, min(t, s.free[a].to))
		}
		if a > 0 {
			f.add(1, s.free[a-1].to)
		}
		if long <= short || long >= far {
			continue
		}
		u := p - long
		for b+1 < len(s.free) && s.free[b+1].from <= u {
			b++
		}
		if b >= 0 {
			f.add(2, min(u, s.free[b].to))
		}
		if (b < 0 || u > s.free[b].to) && b+1 < len(s.free) && s.free[b+1].from <= t {
			f.add(3, s.free[b+1].from)
		}
	}
	f.merged[0] = merge(f.merged[0][:0], f.streams[0], f.streams[1])
	f.merged[1] = merge(f.merged[1][:0], f.streams[2], f.streams[3])
	f.streams[0] = merge(f.streams[0][:0], f.merged[0], f.merged[1])
	f.streams[1] = f.streams[1][:0]
	old := f.old[s.v]
	for _, i := range s.free {
		if i.from <= old && old <= i.to {
			f.streams[1] = append(f.streams[1], old)
		}
	}
	s.at = merge(s.at[:0], f.streams[0], f.streams[1])
	if n := len(s.at); n > mostTimes {
		keep := s.at[:0]
		for i, t := range s.at {
			if t == old || i*mostTimes/n != (i+1)*mostTimes/n {
				keep = append(keep, t)
			}
		}
		s.at = keep
	}
}

func (f *fitter) add(stream int, t int64) {
	if l := f.streams[stream]; len(l) == 0 || l[len(l)-1] != t {
		f.streams[stream] = append(l, t)
	}
}

// merge appends to out, which is empty, two lists in order, each instant once.
func merge(out, a, b []int64) []int64 {
	for len(a) > 0 || len(b) > 0 {
		var t int64
		if len(b) == 0 || len(a) > 0 && a[0] <= b[0] {
			t, a = a[0], a[1:]
		} else {
			t, b = b[0], b[1:]
		}
		if n := len(out); n == 0 || out[n-1] != t {
			out = append(out, t)
		}
	}
	return out
}

// begin leaves in cost what a spot costs by itself.
func (s *wspot) begin() {
	s.cost = slices.Grow(s.cost[:0], len(s.at))[:len(s.at)]
	for k, t := range s.at {
		s.cost[k] = float64(s.own.cost(t))
	}
}

// sumUp adds to what a parent costs what a spot and all below it cost at the least then.
func (f *fitter) sumUp(s, parent *wspot) {
	f.row = slices.Grow(f.row[:0], len(parent.at))[:len(parent.at)]
	s.halve(f.row, parent.at, 0, len(s.at)-1)
	for k, c := range f.row {
		parent.cost[k] += c
	}
}

// halve leaves in row, for each instant of the parent, the least that a spot costs with its wait, where that is one of its instants from
// one to another: the best of the middle one parts those of the others.
func (s *wspot) halve(row []float64, parents []int64, from, to int) {
	if len(row) == 0 {
		return
	}
	mid := len(row) / 2
	best, at := impossibly, -1
	for i := from; i <= to; i++ {
		wait := parents[mid] - s.at[i]
		if wait < s.least {
			break
		}
		if wait > s.most || s.cost[i] >= best {
			continue
		}
		if c := s.cost[i] + float64(s.wait.cost(wait)); c < best {
			best, at = c, i
		}
	}
	row[mid] = best
	left, right := to, from
	if at >= 0 {
		left, right = at, at
	}
	s.halve(row[:mid], parents[:mid], from, left)
	s.halve(row[mid+1:], parents[mid+1:], right, to)
}
