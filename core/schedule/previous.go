package schedule

import (
	"slices"

	"jointime/core/workload"
)

// A search that starts from a schedule that was told before.

// startFromPrevious takes the told schedule over, as far as it still holds, in some ways, and goes on from the cheapest, moves being paid
// for: everything that can be where it was told stays, and the runs that cannot find the nearest room; or their whole groups are planned
// around it as if for the first time; or all follow each other by the clock, each as near to its told time as those before it let it. Where
// something had been put off, the first and the last are tried as well with where it was to be before that. Where the rules have become
// prices, and there is no room for all in any of these ways, what finds none is put where it was told all the same.
func (s *solver) startFromPrevious(b *builder, gs []group) bool {
	if s.o.Previous == nil {
		return false
	}
	t := s.readTold()
	best, kept := int64(far), []stood(nil)
	ways := []func() bool{
		func() bool { return s.takeOver(b, t, staying) },
		func() bool { return s.takeOver(b, t, byClock) },
	}
	if sooner := s.aimed(t); sooner != nil {
		ways = append(ways, func() bool { return s.takeOver(b, sooner, staying) }, func() bool { return s.takeOver(b, sooner, byClock) })
	}
	try := func(way func() bool) {
		if !way() {
			return // nothing is placed then
		}
		if cost := s.p.cost(b.x); cost < best {
			best, kept = cost, b.note(kept[:0], t.open) // what the builder remembers the next way writes over
		}
		b.remove(t.open)
	}
	for _, way := range ways {
		try(way)
	}
	s.torn = best == far
	try(func() bool { return s.keepTold(b, gs, t) })
	if best == far {
		if !s.relaxes || !s.takeOver(b, t, anyhow) {
			return false
		}
		b.unforce(s.ctx, gs, t.forced)
		return true
	}
	b.putNoted(kept)
	return true
}

// aimed is what was told with what was put off where it was to be before that; nil where nothing was.
func (s *solver) aimed(t *told) *told {
	out := *t
	out.wish, out.open = slices.Clone(t.wish), slices.Clone(t.open)
	off := false
	for _, v := range t.open {
		if int(v) >= s.p.tasks {
			continue
		}
		if aim, there := s.o.Aim[s.p.id(int(v))]; there && t.run[s.p.id(int(v))] != nil && aim < t.wish[v] && int(v) < s.p.real {
			out.wish[v], off = max(aim, s.p.lo[v]), true
		}
	}
	if !off {
		return nil
	}
	slices.SortStableFunc(out.open, func(x, y int32) int { return compare(out.wish[x], out.wish[y]) })
	return &out
}

// told is a schedule that has been told, by the problem's nodes.
type told struct {
	run   map[string]*workload.Run
	res   map[string]int32
	wish  []int64 // where each node was; where it may be at the soonest, for what is new
	known []bool
	open  []int32
	// forced are the bodies that were put down without room.
	forced []int32
}

func (s *solver) readTold() *told {
	t := &told{run: map[string]*workload.Run{}, res: map[string]int32{}, wish: make([]int64, s.p.n), known: make([]bool, s.p.n)}
	for i := range s.o.Previous.Tasks {
		t.run[s.o.Previous.Tasks[i].ID] = &s.o.Previous.Tasks[i]
	}
	at := map[string]int64{}
	for _, j := range s.o.Previous.Joins {
		at[j.ID] = j.At
	}
	for i := range s.p.w.Resources {
		t.res[s.p.w.Resources[i].ID] = int32(i)
	}
	for v := range s.p.n {
		if s.p.fixed[v] {
			continue
		}
		t.open = append(t.open, int32(v))
		t.wish[v] = s.p.lo[v]
		if v < s.p.tasks {
			if r := t.run[s.p.id(v)]; r != nil {
				t.wish[v] = r.Start
				if v >= s.p.real {
					t.wish[v] = r.Finish
				}
			}
		} else if x, ok := at[s.p.id(v)]; ok {
			t.wish[v], t.known[v] = x, true
		}
	}
	slices.SortStableFunc(t.open, func(x, y int32) int { return compare(t.wish[x], t.wish[y]) })
	return t
}

// keepTold puts what is not loose where it was told, and builds the groups of everything else around it; false, with
// nothing placed, when one of them finds no place.
func (s *solver) keepTold(b *builder, gs []group, t *told) bool {
	home := make([]int, s.p.n)
	for i := range gs {
		for _, v := range b.members(&gs[i]) {
			home[v] = i
		}
	}
	again := map[int]bool{}
	b.refresh(t.open)
	for _, v := range s.p.leaders(nil, t.open) {
		if join := int(v) >= s.p.tasks; s.o.Loose[s.p.id(int(v))] || !join && t.run[s.p.id(int(v))] == nil ||
			!b.stays(int(v), t) {
			again[home[v]] = true
		}
	}
	var queue []int
	for i := range gs {
		if again[i] {
			queue = append(queue, i)
			b.remove(slices.Clone(b.members(&gs[i])))
		}
	}
	b.wishes = make([]int64, s.p.n)
	for v := range s.p.n {
		b.wishes[v] = -1
		if v >= s.p.tasks && t.known[v] && !s.o.Loose[s.p.id(v)] {
			b.wishes[v] = t.wish[v]
		}
	}
	left := b.build(s.ctx, gs, queue)
	b.wishes = nil
	if len(left) > 0 {
		b.remove(t.open)
		return false
	}
	b.tried++
	return true
}

// stays puts a body where it was told; false when it cannot be there.
func (b *builder) stays(v int, t *told) bool {
	at := t.wish[v]
	if at < b.est[v] || at > b.lst[v] || v < b.p.tasks && !b.asTold(v, at, t) {
		return false
	}
	b.place(v, at)
	return true
}

// needless is the share of the cost for which what was told stands again: a hundredth. What moves for less than that was moved for nothing.
const needless = 100

// putBack puts groups back to where they were told, the least moved first, as long as all of that together costs less than is worth a move.
func (s *solver) putBack(gs []group) {
	if s.o.Previous == nil || s.m == nil {
		return
	}
	m, t := s.m, s.readTold()
	most := m.current + m.current/needless
	type moved struct {
		group int
		by    int64
	}
	var list []moved
	for i := range gs {
		by := int64(0)
		for _, v := range m.members(&gs[i]) {
			if known := t.known[v] || int(v) < s.p.real && t.run[s.p.id(int(v))] != nil; known && !s.o.Loose[s.p.id(int(v))] {
				if aim, off := s.o.Aim[s.p.id(int(v))]; off && m.x[v] < t.wish[v] && m.x[v] >= aim {
					by = 0 // it comes sooner again, on the way to where it was to be
					break
				}
				by += max(m.x[v]-t.wish[v], t.wish[v]-m.x[v])
			} else if int(v) < s.p.real || int(v) >= s.p.tasks {
				by = 0 // some of it is new, or may move
				break
			}
		}
		if by > 0 {
			list = append(list, moved{i, by})
		}
	}
	slices.SortStableFunc(list, func(a, b moved) int { return compare(a.by, b.by) })
	for again := true; again; {
		again = false
		for k, x := range list {
			if x.by == 0 || s.ctx.Err() != nil {
				continue
			}
			all := slices.Clone(m.members(&gs[x.group]))
			m.remember(all)
			m.remove(all)
			ok := true
			for _, v := range s.p.leaders(nil, all) {
				if ok = m.stays(int(v), t); !ok {
					break
				}
			}
			if ok {
				if cost := s.p.cost(m.x); cost <= most {
					m.current = cost
					m.anyMoved()
					list[k].by, again = 0, true
					continue
				}
			}
			m.remove(all)
			m.recall(all)
		}
	}
	m.keep()
}

// A taking is how a told plan is taken over.
type taking int8

const (
	byClock taking = iota // each as near to its told time as those before it let it
	staying               // those that can stay first
	anyhow                // staying, and what finds no room is put down without any
)

// takeOver puts every task at its told time or as near to it as can be. It returns false, with nothing placed, when one finds no room.
func (s *solver) takeOver(b *builder, t *told, how taking) bool {
	b.refresh(t.open)
	left := s.p.leaders(nil, t.open)
	if how != byClock {
		all := left
		left = left[:0]
		for _, v := range all {
			if !b.stays(int(v), t) {
				left = append(left, v)
			}
		}
	}
	freed := map[int32]int{}
	for i := 0; i < len(left); i++ {
		v := left[i]
		if b.stays(int(v), t) {
			continue
		}
		if got, ok := b.nearest(v, t.wish[v], b.est[v], b.lst[v]); ok {
			b.place(int(v), got)
			continue
		}
		if how == anyhow {
			more := b.pushOn(v, t, freed)
			slices.SortStableFunc(more, func(x, y int32) int { return compare(t.wish[x], t.wish[y]) })
			left = slices.Insert(left, i+1, more...)
			continue
		}
		more := b.widen(v, freed)
		if how == byClock || len(more) == 0 {
			b.remove(t.open)
			return false
		}
		slices.SortStableFunc(more, func(x, y int32) int { return compare(t.wish[x], t.wish[y]) })
		left = slices.Insert(left, i+1, append([]int32{v}, more...)...)
	}
	b.tried++
	return true
}

// nearest is where a body has room from one instant to another: the first from where it is wanted on, or else the last before that; false
// where it has none.
func (b *builder) nearest(v int32, wish, from, to int64) (int64, bool) {
	if from > to {
		return 0, false
	}
	at := min(max(wish, from), to)
	if got, ok := b.room(int(v), at, to, forward); ok {
		return got, true
	}
	return b.room(int(v), at, from, backward)
}

// widen takes out what stands around a body that found no room, each once: what waits tie it to. It returns what leads the bodies that it
// took.
func (b *builder) widen(v int32, freed map[int32]int) (more []int32) {
	var out []int32
	for _, m := range b.p.body[v] {
		for _, arcs := range [2][]arc{b.p.out[m], b.p.in[m]} {
			for _, a := range arcs {
				l := b.p.lead[a.other]
				if l == v || freed[l] > 0 || !b.placed[l] || b.p.fixed[l] {
					continue
				}
				freed[l]++
				more = append(more, l)
				out = append(out, b.p.body[l]...)
			}
		}
	}
	for _, u := range out {
		b.take(int(u))
	}
	b.refresh(append(out, b.p.body[v]...))
	return more
}

// asTold gives a body the resources that it was told to have; false when one of them is not free, or not there.
func (b *builder) asTold(v int, at int64, t *told) bool {
	for k, sg := range b.p.segs[v] {
		q, ok := t.had(b.p, sg)
		if !ok || !slices.Contains(b.open(int(sg.node), int(sg.need), k), q) {
			return false
		}
		b.on[sg.node][sg.need] = q
		if !b.free(v, int(q), at, k) {
			return false
		}
	}
	return !b.p.closes[v] || b.lasts(v, at)
}

// had is the resource that a segment was told to have; false where it was told none.
func (t *told) had(p *problem, sg seg) (int32, bool) {
	r := t.run[p.id(int(sg.node))]
	if r == nil || len(r.Resources) != len(p.needs[sg.node]) {
		return -1, false
	}
	q, ok := t.res[r.Resources[sg.need]]
	return q, ok
}
