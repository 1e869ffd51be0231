package schedule

import (
	"context"
	"slices"
)

// The first schedule: groups placed one after another, the hardest first.

// adoptInto places a complete schedule into an empty builder.
func (b *builder) adoptInto(x []int64, on [][]int32) {
	for v := range b.p.n {
		if b.p.fixed[v] {
			continue
		}
		if b.placed[v] {
			b.take(v)
		}
		copy(b.on[v], on[v])
		b.put(v, x[v])
	}
}

// construct places every group; one that finds no place makes those around it
// move. It returns false when some group found no place; that group and what it
// displaced are not placed then.
func (b *builder) construct(ctx context.Context, gs []group) bool {
	return len(b.both(ctx, gs)) == 0
}

// constructAll is construct, with what found no place forced in.
func (b *builder) constructAll(ctx context.Context, gs []group) {
	for _, i := range b.both(ctx, gs) {
		b.force(&gs[i])
	}
}

// byTheClock puts everything down anew, going forward, one after another as soon as what it waits for is there and has room; what would
// sooner be at its table goes first. What finds no room is forced in.
func (b *builder) byTheClock(gs []group) {
	order := make([]int64, b.p.n)
	var open []int32
	for i := range gs {
		g := &gs[i]
		for _, v := range b.members(g) {
			open = append(open, v)
			if order[v] = b.p.lo[v]; g.join >= 0 {
				order[v] = b.p.wish(g.join)
			}
		}
	}
	b.forcing = true
	b.serial(open, order, forward)
	b.forcing = false
	// What comes after itself, or for what there was no time.
	b.force(&group{join: -1, nodes: slices.DeleteFunc(open, func(v int32) bool { return b.placed[v] })})
}

// Other orders that are tried: as often as that pays at once, and at the most; and how often each body is put down in one that is not given
// up. Of the demo's evening with people and equipment away, an order that leads to a schedule puts each down three to four times, one that
// leads to none twenty to fifty.
const (
	fewOrders  = 6
	mostOrders = 12
	quickWork  = 8
)

// givenUp reports whether a construction is more work than most.
func (b *builder) givenUp() bool {
	b.gaveUp = b.gaveUp || b.quick && b.work > b.mostWork
	return b.quick && b.work > b.mostWork
}

// otherOrder constructs with other orders, from one of them to another, each with more chance in it, until every rule is kept or time is
// up; nil where that is so with none. It returns how many schedules it tried beside the one that it found.
func (s *solver) otherOrder(ctx context.Context, gs []group, from, to int64, quick bool) (found *builder, tried int64) {
	for i := from; i <= to && ctx.Err() == nil; i++ {
		b := newBuilder(ctx, s.p, s.o.Seed+i)
		b.noise, b.quick = 40*i, quick
		if b.construct(ctx, gs) && len(b.broken()) == 0 {
			return b, tried
		}
		tried += b.tried
	}
	return nil, tried
}

// retry constructs with other orders, those first that lead somewhere soon, and then lets others make way for what the first order left
// without a place.
func (s *solver) retry(first *builder, gs []group, a *anew) *builder {
	from := int64(1)
	if a != nil { // the first few have been tried beside
		if s.tried += a.tried; a.other != nil {
			return a.other
		}
		from += fewOrders
	}
	for _, quick := range []bool{true, false} {
		b, tried := s.otherOrder(s.ctx, gs, from, mostOrders, quick)
		if s.tried += tried; b != nil {
			return b
		}
		from = 1
	}
	if first.seat(s.ctx, gs) && len(first.broken()) == 0 {
		return first
	}
	s.tried += first.tried
	return nil
}

// hasPlace reports whether a group is placed.
func (b *builder) hasPlace(g *group) bool {
	return g.join >= 0 && b.placed[g.join] || g.join < 0 && b.placed[g.nodes[0]]
}

// both builds by what groups cost; where that leaves one without a place, since what was weighed has taken what is tied to it too far away,
// once more from nothing with every group where it first finds room. It returns the groups that have no place even then.
func (b *builder) both(ctx context.Context, gs []group) []int {
	b.mostWork = b.work + quickWork*int64(b.p.n)
	left := b.build(ctx, gs, every(gs))
	if len(left) == 0 || ctx.Err() != nil {
		return left
	}
	for i := range gs {
		b.remove(slices.Clone(b.members(&gs[i])))
	}
	clear(b.bias)
	clear(b.delay)
	b.plain, b.mostWork = true, b.work+quickWork*int64(b.p.n)
	defer func() { b.plain = false }()
	return b.build(ctx, gs, every(gs))
}

func every(gs []group) []int {
	queue := make([]int, len(gs))
	for i := range gs {
		queue[i] = i
	}
	return queue
}

// build places the groups of a queue, and again those that had to make way for them; it returns those for which there was
// no place.
func (b *builder) build(ctx context.Context, gs []group, queue []int) (left []int) {
	home := make([]int, b.p.n)
	for i := range gs {
		for _, v := range gs[i].nodes {
			home[v] = i
		}
		if gs[i].join >= 0 {
			home[gs[i].join] = i
		}
	}
	failures := make([]int, len(gs))
	for len(queue) > 0 {
		i := queue[0]
		queue = queue[1:]
		g := &gs[i]
		if ctx.Err() != nil || b.givenUp() {
			left = append(left, i)
			continue
		}
		if b.insert(g) {
			continue
		}
		if failures[i]++; failures[i] > 6 {
			left = append(left, i)
			continue
		}
		out := b.neighbours(gs, i, home, failures[i])
		for _, k := range out {
			b.remove(slices.Clone(b.members(&gs[k])))
		}
		queue = append(append([]int{i}, queue...), out...)
	}
	return left
}

// neighbours are the groups linked with group i, and for repeated failures those
// nearest in time, that are placed now.
func (b *builder) neighbours(gs []group, i int, home []int, failures int) []int {
	seen := map[int]bool{i: true}
	var out []int
	take := func(k int) {
		if seen[k] {
			return
		}
		g := &gs[k]
		if b.hasPlace(g) {
			seen[k] = true
			out = append(out, k)
		}
	}
	for _, v := range b.members(&gs[i]) {
		for _, a := range b.p.out[v] {
			if !b.p.fixed[a.other] {
				take(home[a.other])
			}
		}
		for _, a := range b.p.in[v] {
			if !b.p.fixed[a.other] {
				take(home[a.other])
			}
		}
	}
	for d := 1; d < failures; d++ {
		if i-d >= 0 {
			take(i - d)
		}
		if i+d < len(gs) {
			take(i + d)
		}
	}
	return out
}
