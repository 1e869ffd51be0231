package schedule

import (
	"slices"

	"jointime/core/workload"
)

// A search that starts from a schedule that was told before.

// startFromPrevious takes the told schedule over, as far as it still holds: first what
// nothing has changed about, then what is loose or new, each in the order in which it was
// told; and where that finds no room, all by the clock.
func (s *solver) startFromPrevious(b *builder) bool {
	if s.o.Previous == nil {
		return false
	}
	return len(s.o.Loose) > 0 && s.takeOver(b, true) || s.takeOver(b, false)
}

// takeOver puts every task at its told time or as near to it as can be; false, with
// nothing placed, when one finds no room.
func (s *solver) takeOver(b *builder, looseLast bool) bool {
	start := map[string]*workload.Run{}
	for i := range s.o.Previous.Tasks {
		start[s.o.Previous.Tasks[i].ID] = &s.o.Previous.Tasks[i]
	}
	at := map[string]int64{}
	for _, j := range s.o.Previous.Joins {
		at[j.ID] = j.At
	}
	res := map[string]int32{}
	for i := range s.p.w.Resources {
		res[s.p.w.Resources[i].ID] = int32(i)
	}
	var open []int32
	wish := make([]int64, s.p.n)
	for v := range s.p.n {
		if s.p.fixed[v] {
			continue
		}
		open = append(open, int32(v))
		wish[v] = s.p.lo[v]
		if v < s.p.tasks {
			if r := start[s.p.id(v)]; r != nil {
				wish[v] = r.Start
				if v >= s.p.real {
					wish[v] = r.Finish
				}
			}
		} else if t, ok := at[s.p.id(v)]; ok {
			wish[v] = t
		}
	}
	last := func(v int32) bool {
		id := s.p.id(int(v))
		_, join := at[id]
		return looseLast && (s.o.Loose[id] || start[id] == nil && !join)
	}
	slices.SortStableFunc(open, func(x, y int32) int {
		if a, b := last(x), last(y); a != b {
			if a {
				return 1
			}
			return -1
		}
		return compare(wish[x], wish[y])
	})
	b.refresh(open)
	for _, v := range s.p.leaders(nil, open) {
		t := min(max(wish[v], b.est[v]), b.lst[v])
		if r := start[s.p.id(int(v))]; r != nil && (t == r.Start || int(v) >= s.p.real) && b.asTold(int(v), t, start, res) {
			b.place(int(v), t)
			continue
		}
		got, ok := b.room(int(v), t, b.lst[v], forward)
		if !ok {
			if got, ok = b.room(int(v), t, b.est[v], backward); !ok {
				b.remove(open)
				return false
			}
		}
		b.place(int(v), got)
	}
	b.tried++
	return true
}

// asTold gives a body the resources that it was told to have; false when one of them is not free, or not there.
func (b *builder) asTold(v int, t int64, told map[string]*workload.Run, res map[string]int32) bool {
	for k, sg := range b.p.segs[v] {
		r := told[b.p.id(int(sg.node))]
		if r == nil || len(r.Resources) != len(b.p.needs[sg.node]) {
			return false
		}
		q, ok := res[r.Resources[sg.need]]
		if !ok || !slices.Contains(b.open(int(sg.node), int(sg.need), k), q) {
			return false
		}
		b.on[sg.node][sg.need] = q
		if !b.free(v, int(q), t, k) {
			return false
		}
	}
	return true
}

// retry constructs with other orders until every rule is kept or time is up.
func (s *solver) retry(gs []group) *builder {
	for i := int64(1); i <= 12 && s.ctx.Err() == nil; i++ {
		b := newBuilder(s.ctx, s.p, s.o.Seed+i)
		b.noise = 40 * i
		if b.construct(s.ctx, gs) {
			return b
		}
		s.tried += b.tried
	}
	return nil
}
