package schedule

import "slices"

// Fitting a group in: it is put where it costs least beside what is placed, of all that leads up to its join at once.
//
// Each body has the stretches in which its needs have room, each by itself (intervals.go), and the waits of a group are nearly a tree
// (waittree.go). So what it costs at the least is found from the leaves to the join, at instants that matter: the ends of stretches, where a wait
// begins to cost, where it stood. Two bodies of one group may want the same room: what finds none then is looked at again beside the others, or goes
// first; and the next best join is tried for as long as it may be cheaper than what has come out.
//
// Source of the method: dynamic programming over a tree, with convex waits, so that the best child moves one way with its parent (totally monotone
// matrices, Aggarwal, Klawe, Moran, Shor & Wilber, Algorithmica 2, 1987; here by halves).
type fitter struct {
	m       *improver
	finder  finder
	trees   [][]wspot // of each group, once it has been asked for
	mine    []bool    // of each leader, whether it is of the group at hand
	old     []int64   // where its nodes stood, and on what
	oldOn   [][]int32
	row     []float64
	order   []int
	roots   []float64
	streams [4][]int64
	merged  [2][]int64
	parent  [1]int64
	// Of what was looked at again beside others of the group: the spots, and which of them are in use.
	again []wspot
	anew  []bool
	below []bool
}

// Of a group that is fitted in: how many instants of a body are looked at at the most, how often it is placed, and how often a body is served
// elsewhere when it was looked at again.
const (
	mostTimes  = 20
	mostPlaced = 4
	mostServed = 6
)

func newFitter(m *improver) *fitter {
	return &fitter{m: m, trees: make([][]wspot, len(m.gs)), mine: make([]bool, m.p.n)}
}

// insert puts group k where it costs least, of which the nodes stood at old on oldOn. It is false, with nothing placed, where it found no place
// for what it may cost.
func (f *fitter) insert(k int, old []int64, oldOn [][]int32) bool {
	m, g := f.m, &f.m.gs[k]
	f.old, f.oldOn = old, oldOn
	if f.trees[k] == nil {
		f.trees[k] = m.p.waitTree(g)
	}
	spots := f.trees[k]
	all := m.members(g)
	m.refresh(all)
	for i := range spots {
		f.mine[spots[i].v] = true
	}
	found := f.look(spots)
	for i := range spots {
		f.mine[spots[i].v] = false
	}
	return found && f.place(g, all, spots)
}

// look finds what the group costs at the least by when its join is; false where there is no place for it.
func (f *fitter) look(spots []wspot) bool {
	m := f.m
	for i := range spots {
		m.standing(&spots[i], func(v int32) bool { return f.mine[m.p.lead[v]] })
		if i == 0 {
			f.joinAt(&spots[0])
		} else if !f.lookAt(&spots[i], spots[spots[i].parent].at) {
			return false
		}
		if len(spots[i].at) == 0 {
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

// joinAt are the instants at which a join is looked at: where it stood and where it would like to be, and around these.
func (f *fitter) joinAt(s *wspot) {
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
	for _, t := range [2]int64{f.old[j], m.p.wish(j)} {
		add(t)
		for d := nearestJoin; d < longestWait; d *= 3 { // from half of it to one and a half, and so on: any instant may be drawn
			add(t + d/2 + m.rng.Int64N(d))
			add(t - d/2 - m.rng.Int64N(d))
		}
	}
	slices.Sort(s.at)
	s.at = slices.Compact(s.at)
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

// instants are, for each instant of the parent, the last at which a spot may begin so that it waits as short as may be, and so that it begins to
// cost something; the end of the stretch before; and the next, where there is none between. And where it stood.
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

// halve leaves in row, for each instant of the parent, the least that a spot costs with its wait, where that is one of its instants from one to
// another: the best of the middle one parts those of the others.
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

// place puts the group down by the join at which it may cost least, and by others while these may cost less than what has come out.
func (f *fitter) place(g *group, all []int32, spots []wspot) bool {
	m := f.m
	f.roots = append(f.roots[:0], spots[0].cost...)
	may, found := m.may, false
	best := min(may, far) + 1
	for tries := 0; tries < mostPlaced; {
		k := cheapest(f.roots)
		if f.roots[k] >= float64(best) {
			break
		}
		f.roots[k] = impossibly
		for first := 0; first >= 0 && tries < mostPlaced; {
			tries++
			m.may = best - 1
			stuck, ok := f.realise(g, spots, k, first)
			m.may = may
			if ok && m.spent < best {
				best, found = m.spent, true
				m.remember(all)
			}
			m.remove(all)
			if first > 0 {
				break
			}
			first = stuck
		}
	}
	if found {
		m.recall(all)
		m.spent = best
	}
	return found
}

// realise places a group with its join at the k-th of its instants, the tree of one spot before the others. It returns the first that found no room
// where it would cost least, −1 for none; ok where all were placed for no more than may.
func (f *fitter) realise(g *group, spots []wspot, k, first int) (stuck int, ok bool) {
	m := f.m
	m.tried++
	m.state.place(g.join, spots[0].at[k])
	m.spent = m.costHere(g.join)
	f.anew = slices.Grow(f.anew[:0], len(spots))[:len(spots)]
	clear(f.anew)
	if n := len(spots) - len(f.again); n > 0 {
		f.again = append(f.again, make([]wspot, n)...)
	}
	stuck = -1
	f.inOrder(spots, first)
	for _, i := range f.order {
		s := &spots[i]
		if f.anew[i] {
			s = &f.again[i]
		}
		v, parent := int(s.v), m.x[spots[s.parent].v]
		placed := f.serve(s, parent, 1)
		if !placed {
			if stuck < 0 {
				stuck = i
			}
			placed = f.lookAgain(spots, i, parent) && f.serve(&f.again[i], parent, mostServed)
		}
		if !placed {
			return stuck, false
		}
		if m.spent += m.costHere(v); m.spent > m.may {
			return stuck, false
		}
	}
	return stuck, true
}

// inOrder leaves in order the spots but the join, parents first; that of first with what it leads up to and what leads up to it before the others.
func (f *fitter) inOrder(spots []wspot, first int) {
	f.order = f.order[:0]
	f.below = slices.Grow(f.below[:0], len(spots))[:len(spots)]
	clear(f.below)
	if first > 0 {
		for i := first; i > 0; i = spots[i].parent {
			f.order = append(f.order, i)
			f.below[i] = true
		}
		slices.Reverse(f.order)
		for i := first + 1; i < len(spots); i++ {
			if p := spots[i].parent; p >= first && f.below[p] && !f.below[i] {
				f.below[i] = true
				f.order = append(f.order, i)
			}
		}
	}
	for i := 1; i < len(spots); i++ {
		if !f.below[i] {
			f.order = append(f.order, i)
		}
	}
}

// lookAgain looks at a spot and all below it beside what is placed by now, with what it leads up to at an instant.
func (f *fitter) lookAgain(spots []wspot, i int, parent int64) bool {
	clear(f.below)
	f.below[i] = true
	f.parent[0] = parent
	for k := i; k < len(spots); k++ {
		from := &spots[k]
		parents := f.parent[:]
		if k > i {
			if !f.below[from.parent] {
				continue
			}
			parents = f.again[from.parent].at
		}
		f.below[k] = true
		s := &f.again[k]
		free, at, cost := s.free, s.at, s.cost
		*s = *from
		s.free, s.at, s.cost = free, at, cost
		if !f.lookAt(s, parents) {
			return false
		}
		s.begin()
	}
	for k := len(spots) - 1; k >= i; k-- {
		if f.below[k] {
			f.anew[k] = true
			if k > i {
				f.sumUp(&f.again[k], &f.again[spots[k].parent])
			}
		}
	}
	return true
}

// serve places a body where it and all below it cost least, with what it leads up to at an instant; so many instants are tried. What it had it has
// again, where that has room: that of others may hang on it.
func (f *fitter) serve(s *wspot, parent int64, tries int) bool {
	m, v := f.m, int(s.v)
	f.row = slices.Grow(f.row[:0], len(s.at))[:len(s.at)]
	for k, t := range s.at {
		if f.row[k] = s.cost[k] + s.costs(parent-t); t < m.est[v] || t > m.lst[v] {
			f.row[k] = impossibly
		}
	}
	for range tries {
		k := cheapest(f.row)
		if f.row[k] >= impossibly {
			return false
		}
		if f.asBefore(v, s.at[k]) || m.serve(v, s.at[k], 0) {
			m.place(v, s.at[k])
			return true
		}
		f.row[k] = impossibly
	}
	return false
}

// asBefore gives a body at an instant what it had; false where that has no room.
func (f *fitter) asBefore(v int, t int64) bool {
	m := f.m
	for k := range m.p.segs[v] {
		sg := &m.p.segs[v][k]
		r := f.oldOn[sg.node][sg.need]
		if !slices.Contains(m.open(int(sg.node), int(sg.need), k), r) || !m.free(v, int(r), t, k) {
			return false
		}
		m.on[sg.node][sg.need] = r
	}
	return !m.p.closes[v] || m.lasts(v, t)
}

// cheapest is the place of the least.
func cheapest(row []float64) (at int) {
	for k, c := range row {
		if c < row[at] {
			at = k
		}
	}
	return at
}
