package schedule

import (
	"context"
	"math/rand/v2"
	"slices"
)

// builder puts groups into a state by serial generation: backwards from a join,
// forwards for what leads to none.
//
// Source of the method: serial schedule generation with unscheduling for
// longest waits, Franck, Neumann & Schwindt, OR Spektrum 23 (2001); run
// backwards from the joins here, since lateness is decided there.
type builder struct {
	*state
	rng *rand.Rand
	ctx context.Context // ends long constructions
	// bias is added to a node's order key; raised when the node did not fit, so
	// that it is put down sooner the next time.
	bias []int64
	// delay is how much later than its window a node must start, learnt from
	// longest waits that could not be kept.
	delay []int64
	// noise is the largest random change of an order key, in seconds.
	noise int64
	// lag is how much later than its wish a join is tried at the most, in seconds: late is
	// dear, and long waits can be dearer.
	lag   int64
	tried int64 // schedules (of a group) tried
	// wishes are when joins were told to be, −1 for one that was not; nil where nothing was told.
	wishes []int64

	key  []int64
	todo []int32

	// may is what a group may cost where it is put, spent what the last one does.
	may, spent int64
	attempts   int // how many instants of a join are tried before a group is given up
	weighing   bool
	forcing    bool // by serial generation, what finds no room is forced in
	plain      bool // groups stand where they first find room, whatever that costs
	quick      bool // a construction that is more work than most is given up
	mostWork   int64
	gaveUp     bool // that has been
	keptX      []int64
	keptOn     [][]int32

	// own marks the group that is being put down, moved those of other groups that have to make way for it; where alone, none has to.
	own, moved []bool
	displaced  []int32
	alone      bool
}

func newBuilder(ctx context.Context, p *problem, seed int64) *builder {
	b := &builder{
		ctx:   ctx,
		state: newState(p), rng: rand.New(rand.NewPCG(uint64(seed), 0x9e3779b97f4a7c15)),
		bias: make([]int64, p.n), delay: make([]int64, p.n), key: make([]int64, p.n),
		may: far, attempts: maxAttempts, keptX: make([]int64, p.n), keptOn: make([][]int32, p.n),
		own: make([]bool, p.n), moved: make([]bool, p.n),
	}
	for v := range p.n {
		b.keptOn[v] = make([]int32, len(p.needs[v]))
	}
	return b
}

// maxAttempts is how many instants of a join are tried where a first schedule is built; fewAttempts where one is improved: there another
// round will do.
const (
	maxAttempts = 400
	fewAttempts = 24
)

// insert places all nodes of a group, none of which is placed, and reports
// whether that went without breaking a rule and without costing more than may. On failure nothing of the group is
// placed.
func (b *builder) insert(g *group) bool {
	if g.join < 0 {
		return b.insertLoose(g)
	}
	all := b.members(g)
	b.refresh(all)
	lo, hi := b.est[g.join], b.lst[g.join]
	if lo > hi {
		return false
	}
	wish := b.p.wish(g.join)
	told := b.wishes != nil && b.wishes[g.join] >= 0
	if told {
		wish = b.wishes[g.join]
	}
	wish = min(max(wish, lo), hi)
	if b.lag > 0 {
		wish = min(wish+b.rng.Int64N(b.lag+1), hi)
	}
	late, early := wish, wish-1
	stuck := 0
	defer b.group.end()
	for i := range b.attempts {
		if b.givenUp() {
			return false
		}
		t := late
		if told && i == 0 {
			// When it was told to be, though a second sooner may cost less.
		} else if late > hi || early >= lo && b.p.nodeCost(g.join, early) < b.p.nodeCost(g.join, late) {
			t = early
		}
		if t > hi || t < lo || b.p.nodeCost(g.join, t) > b.may {
			return false
		}
		v, gap := b.attempt(g, t)
		if v < 0 {
			return told || b.plain || b.weigh(g, all, t, lo, hi)
		}
		if gap == noRoom {
			gap = gaps{b.after(v), b.before(v)}
		}
		b.bias[v] += 30
		b.tryAgain(all)
		if stuck++; stuck == 1 && gap.after > 60 {
			continue // once more with the culprit first
		}
		stuck = 0
		if t == early {
			early -= gap.before
		} else {
			late += gap.after
		}
	}
	return false
}

func (b *builder) members(g *group) []int32 {
	b.scratch = append(b.scratch[:0], g.nodes...)
	if g.join >= 0 {
		b.scratch = append(b.scratch, int32(g.join))
	}
	return b.scratch
}

// remove takes the placed nodes among those given out again.
func (b *builder) remove(nodes []int32) {
	for _, v := range nodes {
		if b.placed[v] {
			b.take(int(v))
		}
	}
	b.refresh(nodes)
}

// tryAgain takes a group out that has been put down as far as it found room, and remembers what resources are used for without it, so that
// it is quicker the next time.
func (b *builder) tryAgain(all []int32) {
	if !b.group.on {
		b.remove(all)
		b.group.begin()
		return
	}
	b.group.back(b.state)
	for _, v := range all {
		b.placed[v] = false
	}
	b.refresh(all)
}

// What an attempt returns instead of a node that found no room.
const (
	found   = -1
	tooDear = -2
)

// gaps says how far the anchor would have to move for a node to find room.
type gaps struct{ after, before int64 }

// noRoom are those of a node that finds none in its window: how far away there is some is found by after and before.
var noRoom = gaps{-1, -1}

// attempt places the group with its join at t, latest tasks first. It returns the
// node that found no room and how far it was from finding it; or that all found room, or that it costs more than may. What
// it costs is left in spent.
func (b *builder) attempt(g *group, t int64) (int, gaps) {
	b.tried++
	b.place(g.join, t)
	b.spent = b.costHere(g.join)
	b.todo = b.p.leaders(b.todo, g.nodes)
	if b.noise > 0 {
		for _, v := range b.todo {
			b.key[v] = b.bias[v] + b.rng.Int64N(b.noise+1)
		}
	} else {
		for _, v := range b.todo {
			b.key[v] = b.bias[v]
		}
	}
	for len(b.todo) > 0 {
		if b.spent > b.may && b.weighing {
			return tooDear, gaps{}
		}
		i := b.last()
		v := int(b.todo[i])
		b.todo[i] = b.todo[len(b.todo)-1]
		b.todo = b.todo[:len(b.todo)-1]
		if len(b.todo)&127 == 0 && b.ctx.Err() != nil {
			return v, gaps{far, far}
		}
		if b.est[v] > b.lst[v] {
			d := b.est[v] - b.lst[v]
			return v, gaps{d, d}
		}
		at, ok := b.room(v, b.lst[v], b.est[v], backward)
		if !ok {
			return v, noRoom
		}
		b.place(v, at)
		b.spent += b.costHere(v)
	}
	return found, gaps{}
}

// last returns the index in todo of the node to place next, going backwards: the
// one that has to finish last; then the one with the least slack, then the lower
// index. What ends elsewhere comes after its end.
func (b *builder) last() int {
	best := -1
	var bv int32
	var bk, bs int64
	for i, v := range b.todo {
		if b.early(v) {
			continue
		}
		k, s := b.lst[v]+b.p.dur[v]+b.key[v], b.lst[v]-b.est[v]
		if best < 0 || k > bk || k == bk && (s < bs || s == bs && v < bv) {
			best, bv, bk, bs = i, v, k, s
		}
	}
	return max(best, 0)
}

// farthest is how far away from its window room is looked for, seconds.
const farthest = 24 * 3600

// after and before say how far outside of its window a node would find room, later and sooner; farthest where there is none.
func (b *builder) after(v int) int64 {
	if at, ok := b.room(v, b.lst[v]+1, b.lst[v]+farthest, forward); ok {
		return at - b.lst[v]
	}
	return farthest
}

func (b *builder) before(v int) int64 {
	if at, ok := b.room(v, b.est[v]-1, b.est[v]-farthest, backward); ok {
		return b.est[v] - at
	}
	return farthest
}

// insertLoose places tasks that lead to no join, as early as they can, in the
// order of their latest start. A longest wait that cannot be kept takes out what
// forced it, which then has to start later; what of that belongs to other groups stands where it stood if the group finds no place.
func (b *builder) insertLoose(g *group) bool {
	for _, v := range g.nodes {
		b.own[v] = true
	}
	ok := b.placeLoose(g)
	if !ok {
		b.remove(g.nodes)
		b.remove(b.displaced)
		b.recall(b.displaced)
		b.refresh(g.nodes)
	}
	for _, v := range g.nodes {
		b.own[v] = false
	}
	for _, v := range b.displaced {
		b.moved[v] = false
	}
	b.displaced = b.displaced[:0]
	return ok
}

func (b *builder) placeLoose(g *group) bool {
	b.refresh(g.nodes)
	b.todo = b.p.leaders(b.todo, g.nodes)
	for _, v := range b.todo {
		b.key[v] = b.p.hi[v] - b.bias[v]
		if b.noise > 0 {
			b.key[v] += b.rng.Int64N(b.noise + 1)
		}
	}
	// Most of the time nothing stands in the way, and one pass over a heap will do.
	if b.serial(g.nodes, b.key, forward) {
		b.spendAll(g.nodes)
		return true
	}
	b.remove(g.nodes)
	b.todo = b.p.leaders(b.todo, g.nodes)
	for budget := 20 + 4*len(g.nodes); len(b.todo) > 0; {
		if b.ctx.Err() != nil {
			return false
		}
		i := b.first()
		v := int(b.todo[i])
		b.todo[i] = b.todo[len(b.todo)-1]
		b.todo = b.todo[:len(b.todo)-1]
		from := max(b.est[v], b.p.lo[v]+b.delay[v])
		if from <= b.lst[v] {
			if at, ok := b.room(v, from, b.lst[v], forward); ok {
				b.place(v, at)
				continue
			}
		}
		budget--
		if budget < 0 || !b.unschedule(v) {
			return false
		}
	}
	b.spendAll(g.nodes)
	return true
}

// first returns the index in todo of the node to place next, going forwards: the
// one that must start first among those whose predecessors are placed.
func (b *builder) first() int {
	best := -1
	var bv int32
	for i, v := range b.todo {
		if best >= 0 && !(b.key[v] < b.key[bv] || b.key[v] == b.key[bv] && v < bv) {
			continue
		}
		if b.ready(v) {
			best, bv = i, v
		}
	}
	if best < 0 {
		return 0
	}
	return best
}

// ready reports whether nothing unplaced has to come before v.
func (b *builder) ready(v int32) bool {
	for _, m := range b.p.body[v] {
		for _, a := range b.p.in[m] {
			if !b.placed[a.other] && b.p.precedes(a.other, m, a.w) {
				return false
			}
		}
	}
	return true
}

// unschedule makes way for v, which found no room: the open nodes whose longest
// wait closes v's window, and everything placed at or after them, are taken out
// and may only start as much later as v needs.
func (b *builder) unschedule(v int) bool {
	from := max(b.est[v], b.p.lo[v]+b.delay[v])
	at, ok := b.room(v, from, b.p.hi[v], forward)
	if !ok {
		return false
	}
	shift := at - b.lst[v]
	if shift <= 0 {
		return false
	}
	bound, found := far, false
	for _, m := range b.p.body[v] {
		for _, a := range b.p.out[m] {
			u := a.other
			if b.placed[u] && !b.p.fixed[u] && b.x[u]-a.w == b.lst[v]+b.p.off[m] {
				found = true
				l := b.p.lead[u]
				b.delay[l] = max(b.delay[l], b.x[l]+shift-b.p.lo[l])
				bound = min(bound, b.x[u])
			}
		}
	}
	if !found {
		return false
	}
	var out []int32
	for u := range b.p.n {
		if b.placed[u] && !b.p.fixed[u] && b.x[u] >= bound {
			out = append(out, int32(u))
		}
	}
	out = b.whole(out)
	others := slices.DeleteFunc(slices.Clone(out), func(u int32) bool { return b.own[u] || b.moved[u] })
	if b.alone && len(others) > 0 {
		return false
	}
	b.remember(others)
	for _, u := range others {
		b.moved[u] = true
	}
	b.displaced = append(b.displaced, others...)
	b.todo = append(b.todo, int32(v))
	for _, u := range out {
		b.take(int(u))
		if b.p.leads(u) {
			b.todo = append(b.todo, u)
		}
	}
	b.refresh(b.whole(slices.Clone(b.todo)))
	return true
}
