package schedule

import "slices"

// Fitting a group in: it is put where it costs least beside what is placed, of all that leads up to its join at once.
//
// Each body has the stretches in which its needs have room, each by itself (intervals.go), and the waits of a group are nearly a tree
// (waittree.go). So what it costs at the least is found from the leaves to the join (fitlook.go). Two bodies of one group may want the
// same room: what finds none then is looked at again beside the others, or goes first; and the next best join is tried for as long as it
// may be cheaper than what has come out.
type fitter struct {
	m       *improver
	finder  finder
	trees   [][]wspot // of each group, once it has been asked for
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

// Of a group that is fitted in: how often it is placed at the most, and how often a body is served elsewhere when it was looked at again.
const (
	mostPlaced = 4
	mostServed = 6
)

func newFitter(m *improver) *fitter {
	return &fitter{m: m, trees: make([][]wspot, len(m.gs))}
}

// insert puts group k where it costs least, of which the nodes stood at old on oldOn. It is false, with nothing placed, where it found no
// place for what it may cost.
func (f *fitter) insert(k int, old []int64, oldOn [][]int32) bool {
	m, g := f.m, &f.m.gs[k]
	f.old, f.oldOn = old, oldOn
	if f.trees[k] == nil {
		f.trees[k] = m.p.waitTree(g)
	}
	spots := f.trees[k]
	all := m.members(g)
	m.refresh(all)
	return f.look(spots) && f.place(g, all, spots)
}

// place puts the group down by the join at which it may cost least, and by others while these may cost less than what has come out.
func (f *fitter) place(g *group, all []int32, spots []wspot) bool {
	m := f.m
	f.roots = append(f.roots[:0], spots[0].cost...)
	may, found, stands := m.may, false, false
	best := min(may, far) + 1
	defer m.group.end()
	tries := 0
	for tries < mostPlaced {
		k := cheapest(f.roots)
		if f.roots[k] >= float64(best) {
			break
		}
		f.roots[k] = impossibly
		for first := 0; first >= 0 && tries < mostPlaced; {
			if tries++; tries > 1 {
				m.tryAgain(all)
			}
			m.may = best - 1
			stuck, ok := f.realise(g, spots, k, first)
			m.may = may
			if stands = ok && m.spent < best; stands {
				best, found = m.spent, true
				m.remember(all)
			}
			if first > 0 {
				break
			}
			first = stuck
		}
	}
	if tries > 0 && !stands {
		m.tryAgain(all)
		if found {
			m.recall(all)
		}
	}
	m.spent = best
	return found
}

// realise places a group with its join at the k-th of its instants, the tree of one spot before the others. It returns the first that
// found no room where it would cost least, −1 for none; ok where all were placed for no more than may.
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

// inOrder leaves in order the spots but the join, parents first; that of first with what it leads up to and what leads up to it before
// the others.
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

// serve places a body where it and all below it cost least, with what it leads up to at an instant; so many instants are tried. What it
// had it has again, where that has room: that of others may hang on it.
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

// cheapest is the place of the least, of several the first. Tried: with the last, so that nothing waits for long though it costs nothing,
// the demo's evenings are a tenth dearer.
func cheapest(row []float64) (at int) {
	for k, c := range row {
		if c < row[at] {
			at = k
		}
	}
	return at
}
