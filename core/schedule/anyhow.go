package schedule

import (
	"context"
	"slices"
)

// A told plan taken over where not all rules can be kept (relax.go): what finds no room pushes on what its waits tie it to, and where that
// does not help either it is put down without room.

// forceAt puts a body down at an instant on what it was told to have, or on the first that it may have, though there is no room for it.
func (b *builder) forceAt(v int32, at int64, t *told) {
	for k, sg := range b.p.segs[v] {
		open := b.open(int(sg.node), int(sg.need), k)
		b.on[sg.node][sg.need] = open[0]
		if q, ok := t.had(b.p, sg); ok && slices.Contains(open, q) {
			b.on[sg.node][sg.need] = q
		}
	}
	b.place(int(v), at)
}

// mostPushed is how often a body makes way at the most for what is put down anyhow.
const mostPushed = 3

// pushOn places a body that found no room: what its waits tie it to makes way, and so on outwards, until it has room, as near to where it
// was told as may be; without room where it was told, where it has none whatever makes way. It returns what made way.
func (b *builder) pushOn(v int32, t *told, freed map[int32]int) (more []int32) {
	if _, ok := b.nearest(v, t.wish[v], b.lo[v], b.hi[v]); ok {
		seen := map[int32]bool{v: true}
		for edge := []int32{v}; len(edge) > 0; {
			edge = b.outwards(edge, seen, freed, &more)
			b.refresh(slices.DeleteFunc(slices.Clone(t.open), func(u int32) bool { return b.placed[u] }))
			if got, ok := b.nearest(v, t.wish[v], b.est[v], b.lst[v]); ok {
				b.place(int(v), got)
				return more
			}
		}
	}
	b.forceAt(v, max(min(t.wish[v], b.lst[v]), b.est[v]), t)
	t.forced = append(t.forced, v)
	return more
}

// outwards takes out what waits tie some bodies to, and returns that; more are those of it that stood.
func (b *builder) outwards(edge []int32, seen map[int32]bool, freed map[int32]int, more *[]int32) (next []int32) {
	for _, u := range edge {
		for _, arcs := range [2][]arc{b.p.outOf[u], b.p.inTo[u]} {
			for _, a := range arcs {
				l := a.other
				if seen[l] || b.p.fixed[l] || b.placed[l] && freed[l] >= mostPushed {
					continue
				}
				seen[l] = true
				next = append(next, l)
				if b.placed[l] {
					freed[l]++
					*more = append(*more, l)
					for _, m := range b.p.body[l] {
						b.take(int(m))
					}
				}
			}
		}
	}
	return next
}

// unforce finds places for the groups of bodies that were put down without room: where there is some, or where others make way (seat.go).
// Where that leaves one without a place, or is dearer for what it puts off, all stay as they were.
func (b *builder) unforce(ctx context.Context, gs []group, forced []int32) {
	var open []int32
	for i := range gs {
		open = append(open, b.members(&gs[i])...)
	}
	was, cost := b.note(nil, open), b.p.cost(b.x)+broke(b.broken())
	for i := range gs {
		if all := slices.Clone(b.members(&gs[i])); slices.ContainsFunc(all, func(v int32) bool { return slices.Contains(forced, v) }) {
			b.remove(all)
		}
	}
	if !b.seat(ctx, gs) || b.p.cost(b.x)+broke(b.broken()) > cost {
		b.remove(open)
		b.putNoted(was)
	}
}
