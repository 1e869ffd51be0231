package schedule

import (
	"context"
	"slices"
)

// A place for what has none: a group is put where what has to make way for it is worth the least, and that looks for another place then.
// What a group is worth is how often it has found none itself: so those that are hard to place come to stand, and those that find one
// anywhere make way.
//
// Source of the method: the ejection pool with counters of failures, Nagata & Bräysy, Operations Research Letters 37 (2009).

// How long places are looked for. Of 627 evenings of the demo of which a piece of equipment breaks 26 had a group without a place; where
// one was found, that took 4 to 130 groups put where others had to make way.
const (
	mostSeated    = 150 // groups that are put where others have to make way
	seatsTried    = 4   // of each, the places of which the cheapest is taken
	seatAttempts  = 12  // of each of these, how often something makes way, or the join goes later
	instantsTried = 16  // of a run without room, the instants at which others could make way for it
	cleared       = 5   // of these, those that are tried
)

// seating looks for places.
type seating struct {
	*improver
	worth []int64 // of each group, one more than how often it found no place
	pool  []int   // groups without a place, the last to be put down first
}

// stood is where a node stood, and on what.
type stood struct {
	v  int32
	at int64
	on []int32
}

// seat is where a group can be put.
type seat struct {
	where []stood
	out   []int   // the groups that make way
	was   []stood // where these stood
}

// seat finds places for the groups that have none; false where it does not, or there is no time. Rules are kept, costs are not looked at.
func (b *builder) seat(ctx context.Context, gs []group) bool {
	st := &seating{improver: newImprover(b, gs), worth: make([]int64, len(gs))}
	for i := range gs {
		st.worth[i] = 1
		if !b.hasPlace(&gs[i]) {
			st.pool = append(st.pool, i)
		}
	}
	b.attempts = fewAttempts
	defer func() { b.attempts = maxAttempts }()
	for range mostSeated {
		if len(st.pool) == 0 || ctx.Err() != nil {
			break
		}
		i := st.pool[len(st.pool)-1]
		st.pool = st.pool[:len(st.pool)-1]
		if b.insert(&gs[i]) {
			continue
		}
		st.worth[i]++
		if !st.makeRoom(i) {
			st.pool = slices.Insert(st.pool, 0, i)
		}
	}
	return len(st.pool) == 0
}

// makeRoom puts a group where what makes way is worth the least; that goes where there is room, or into the pool.
func (st *seating) makeRoom(i int) bool {
	best, least := seat{}, int64(far)
	for range seatsTried {
		at, ok := st.look(i)
		if worth := st.sum(at.out); ok && worth < least {
			best, least = at, worth
		}
		st.remove(slices.Clone(st.members(&st.gs[i])))
		st.putNoted(at.was)
	}
	if least == far {
		return false
	}
	for _, k := range best.out {
		st.remove(slices.Clone(st.members(&st.gs[k])))
	}
	st.putNoted(best.where)
	st.rng.Shuffle(len(best.out), func(a, b int) { best.out[a], best.out[b] = best.out[b], best.out[a] })
	slices.SortStableFunc(best.out, func(a, b int) int { return compare(st.worth[b], st.worth[a]) })
	for _, k := range best.out {
		if !st.insert(&st.gs[k]) {
			st.worth[k]++
			st.pool = append(st.pool, k)
		}
	}
	return true
}

func (st *seating) sum(groups []int) (sum int64) {
	for _, k := range groups {
		sum += st.worth[k]
	}
	return sum
}

// look puts a group somewhere near its wish, and takes out what is in the way; false where that does not do. What it took out is told in
// either case.
func (st *seating) look(i int) (at seat, ok bool) {
	g := &st.gs[i]
	all := slices.Clone(st.members(g))
	st.outGroups = append(st.outGroups[:0], i)
	t := int64(0)
	if g.join >= 0 {
		if t = st.p.wish(g.join); st.rng.IntN(2) > 0 {
			t += st.rng.Int64N(2401) - 900
		}
	}
	for range seatAttempts {
		st.refresh(all)
		if g.join < 0 {
			if st.insert(g) {
				at.where = st.note(nil, all)
				return at, true
			}
		} else if lo, hi := st.est[g.join], st.lst[g.join]; lo <= hi {
			t = min(max(t, lo), hi)
			v, gap := st.attempt(g, t)
			if v == found {
				at.where = st.note(nil, all)
				return at, true
			}
			way := st.est[v] <= st.lst[v] && st.rng.IntN(3) > 0 && st.clear(i, v, &at)
			if !way && gap == noRoom {
				gap.after = st.after(v)
			}
			st.remove(all)
			if way {
				continue
			}
			if t += gap.after; t <= hi {
				continue
			}
		}
		if k := st.tied(all); k >= 0 {
			st.takeOut(k, &at)
		}
	}
	return at, false
}

// note adds where some nodes stand to a list.
func (s *state) note(list []stood, nodes []int32) []stood {
	for _, v := range nodes {
		list = append(list, stood{v, s.x[v], slices.Clone(s.on[v])})
	}
	return list
}

// putNoted puts nodes where they stood.
func (s *state) putNoted(list []stood) {
	for _, n := range list {
		copy(s.on[n.v], n.on)
		s.put(int(n.v), n.at)
	}
	for _, n := range list {
		if s.p.leads(n.v) {
			s.push(n.v)
		}
	}
	s.settle()
}

// takeOut lets a group make way.
func (st *seating) takeOut(k int, at *seat) {
	nodes := slices.Clone(st.members(&st.gs[k]))
	at.was = st.note(at.was, nodes)
	st.remove(nodes)
	at.out = append(at.out, k)
	st.outGroups = append(st.outGroups, k)
}

// tied picks a group with a place that a link ties to some nodes, −1 where there is none.
func (st *seating) tied(nodes []int32) int {
	seen, pick := 0, -1
	for _, v := range nodes {
		for _, list := range [2][]arc{st.p.out[v], st.p.in[v]} {
			for _, a := range list {
				if st.placed[a.other] && !st.p.fixed[a.other] {
					if seen++; st.rng.IntN(seen) == 0 {
						pick = st.homes[a.other]
					}
				}
			}
		}
	}
	return pick
}

// clear takes out the groups that hold what the body of v needs at an instant of its window, where these are worth the least; false, with
// nothing taken out, where it has no room even so.
func (st *seating) clear(i, v int, at *seat) bool {
	type choice struct {
		t     int64
		out   []int
		worth int64
	}
	var list []choice
	before, est, lst := len(st.outGroups), st.est[v], st.lst[v]
	st.held.forget()
	for k := range instantsTried {
		t := lst
		if k > 0 {
			t = est + st.rng.Int64N(lst-est+1)
		}
		for _, tie := range st.p.ties[v] {
			st.eject(i, int32(v), tie, t)
		}
		more := slices.DeleteFunc(slices.Clone(st.outGroups[before:]), func(k int) bool { return !st.hasPlace(&st.gs[k]) })
		if st.outGroups = st.outGroups[:before]; len(more) > 0 {
			list = append(list, choice{t, more, st.sum(more)})
		}
	}
	slices.SortStableFunc(list, func(a, b choice) int { return compare(a.worth, b.worth) })
	for _, c := range list[:min(len(list), cleared)] {
		was, out := len(at.was), len(at.out)
		for _, k := range c.out {
			st.takeOut(k, at)
		}
		if _, ok := st.room(v, min(lst, c.t+60), max(est, c.t-60), backward); ok {
			return true
		}
		st.putNoted(at.was[was:])
		at.was, at.out, st.outGroups = at.was[:was], at.out[:out], st.outGroups[:before]
	}
	return false
}
