package schedule

import (
	"context"
	"math"
	"time"
)

// A lower bound for large work: what all joins must cost together at the least, since not all that they need can be had when they would
// like it.
//
// The time of every resource is priced, and each tree of spots that waits tie together (trees.go) is put where it costs least with those
// prices, by itself and exactly; what the resources are worth at the prices is taken off. Every set of prices gives a valid bound: this is
// the Lagrangian relaxation of the capacities. For waits that close a circle a line stands, of which the slope is a price too. What it
// leaves out makes it no more than the truth: runs whose length is chosen, and that a resource's time is counted by slots (goods.go).
//
// Source of the method: Fisher, Operations Research 21 (1973); Möhring, Schulz, Stork & Uetz, Management Science 49 (2003), for the
// time-indexed model; the way through an oven's temperatures is ours (ovenpath.go).
type joint struct {
	*goods
	known  int64
	base   float64
	points *timing // what exact waits tie
	spots  []spot
	pairs  []pair
	trees  [][]int32 // their spots, from the leaves to the root
	step   int64     // of the grid, seconds
	many   int       // instants on it
	spreader
	values, sum, fewest []float64 // see makeRoom and own
	places              []int32
	over                func() bool // there is no more time
	long                bool        // there is time for longer
	time                boundTime
}

// climbing is how prices are moved: on a grid of so many seconds, so many times, by steps that shrink to a part of the first. That is a
// share of what a unit second would cost if all that is asked for were to pay for the known cost.
type climbing struct {
	grid, moves int
	share, part float64
}

// shares are tried first, the largest first: how large a step leads up, and does not only jump about, hangs on how much of the known cost
// prices can prove. One that says less than a larger one ends that.
var shares = [...]float64{4, 1.3, 0.4, 0.13, 0.04}

// The prices are found on a coarse grid, then on a finer one; what counts is the grid of a second. The shares are parts of the best one.
var (
	probe  = climbing{32, 20, 1, 0.1}
	grids  = [...]climbing{{32, 80, 1, 0.03}, {8, 60, 0.5, 0.03}}
	lastly = climbing{1, 30, 0.125, 0.2}
)

// longer is how many times as many moves a coarse grid gets where there is long to search: of seven evenings what is proved grows by up to
// nine tenths for it, and by hardly anything more with eight times.
const longer = 4

// Where the coarse grid says less than a third of the known cost the finer one is left out: half of it is never proved then. Where a
// second's says less than a quarter it is not moved on it.
const (
	hopeless = 1.0 / 3
	weak     = 1.0 / 4
)

// mostInstants is how many instants are looked at in all, but for the last moves where those gain something; with more than mostFine
// seconds to look at there is no bound.
const (
	mostInstants = 30_000_000
	mostFine     = 24_000_000
	mostCoarse   = 300_000 // with more of them a grid is made coarser
	mostProbed   = 60_000
	widestGrid   = 512 // seconds
)

// jointBound is a lower bound of what any schedule costs, no higher than known, which one does. Where left is given it says how much time
// there is, and what could not be found by then is not looked for. A long search is worth a longer look.
func jointBound(ctx context.Context, p *problem, known int64, left func() time.Duration, long bool) int64 {
	if p.makespan || known <= 0 {
		return 0
	}
	bound := int64(0)
	if j := newJoint(p, known); j != nil {
		bound = min(known, p.roomy(ctx, j.points))
		if ctx.Err() == nil {
			j.over = func() bool { return ctx.Err() != nil }
			j.time.begin(left)
			j.long = long
			bound = max(bound, j.bound(ctx))
		}
	}
	return bound
}

// roomy is what all costs if nothing has to share anything; 0 where there is no time to find it.
func (p *problem) roomy(ctx context.Context, g *timing) int64 {
	net, zero := newNetwork(g.n), int32(g.n-1)
	for v := range p.n {
		if !p.fixed[v] && !(net.add(zero, g.point[v], p.lo[v]-g.off[v], endless) && net.add(g.point[v], zero, g.off[v]-p.hi[v], endless)) {
			return 0 // what contradicts itself has no schedule, and no bound
		}
	}
	for _, list := range [][]flowArc{g.hard, g.soft} {
		for _, a := range list {
			if ctx.Err() != nil || !net.add(a.u, a.v, a.w, a.cap) {
				return 0
			}
		}
	}
	return net.value + p.standing()
}

// standing is the cost of what stands, whatever is decided.
func (p *problem) standing() int64 {
	sum := p.base
	for v := range p.n {
		if p.fixed[v] {
			sum += p.nodeCost(v, p.fixAt[v])
		}
	}
	return sum
}

// newJoint is the relaxation of a problem of which a schedule is known; nil where there is too much to look at.
func newJoint(p *problem, known int64) *joint {
	g := newTiming(p)
	j := &joint{known: known, base: float64(p.standing()), points: g, over: func() bool { return false }}
	j.spots, j.pairs = spotsOf(p, g, known)
	if many := j.instants(1); many <= 0 || many > mostFine {
		return nil
	}
	end := int64(0)
	for v := range p.tasks {
		if !p.fixed[v] {
			end = max(end, j.spots[g.point[v]].hi+g.off[v]+p.dur[v])
		}
	}
	j.trees = plant(j.spots, j.pairs)
	j.goods = newCatalogue(p, end).baskets(j.spots, g)
	return j
}

// instants is about how many a grid of so many seconds has; −1 where a spot has none.
func (j *joint) instants(step int64) (many int64) {
	for i := range j.spots {
		s := &j.spots[i]
		if s.lo > s.hi {
			return -1
		}
		many += (s.hi-s.lo)/step + 2
	}
	return many
}

// bound finds prices, and says what they prove.
func (j *joint) bound(ctx context.Context) int64 {
	left, known := max(mostInstants-int(j.instants(1)), mostInstants/4), float64(j.known)
	share, ok := j.bestShare(ctx, &left)
	if !ok {
		return 0
	}
	if j.long = j.long && j.timeForLonger(left+mostInstants); j.long {
		left += mostInstants
	}
	for _, c := range grids {
		if !j.inTime(&left, 0) {
			break
		}
		if j.long {
			c.moves *= longer
		}
		if j.climbOn(ctx, c, share, mostCoarse, &left) < hopeless*known {
			break
		}
	}
	if ctx.Err() != nil {
		return 0
	}
	j.lay(1)
	best := j.value()
	if math.IsInf(best, -1) {
		return 0
	}
	if left = max(left, mostInstants/4); best > weak*known && j.inTime(&left, 0) {
		j.tighten(best)
		best = max(best, j.climbOn(ctx, lastly, share, mostFine, &left))
	}
	// A second is lost to the rounding of floating point, so that the bound is one for certain.
	return min(j.known, max(0, int64(math.Floor(best*(1-1e-9)))-1))
}

// climbOn climbs with a part of the best share, on a grid that has no more than so many instants, and no longer than there are some left.
func (j *joint) climbOn(ctx context.Context, c climbing, share float64, most int64, left *int) float64 {
	many := j.lay(j.coarser(c.grid, most))
	c.moves = movesFor(c.moves, many, *left)
	*left -= c.moves * many
	c.share *= share
	return j.climb(ctx, c)
}

// movesFor is how many of the moves that are wanted there are, with so many instants each and so many left: no more than half of these.
func movesFor(wanted, many, left int) int { return min(wanted, max(1, left/2/many)) }

// coarser is a grid of so many seconds, or a wider one that has no more than so many instants.
func (j *joint) coarser(grid int, most int64) int64 {
	for grid < widestGrid && j.instants(int64(grid)) > most {
		grid *= 2
	}
	return int64(grid)
}

// bestShare is the share that leads up fastest; false where there is too little time to go on.
func (j *joint) bestShare(ctx context.Context, left *int) (share float64, ok bool) {
	best, before := 0.0, 0.0
	share = shares[0]
	for k, s := range shares {
		all := *left
		j.forget()
		v := j.climbOn(ctx, probe, s, mostProbed, left)
		if k == 0 || v > best {
			best, share = v, s
		}
		if k == 0 && !j.inTime(left, probesInTime*(all-*left)) {
			return share, false
		}
		if k > 0 && (v < before || !j.inTime(left, 0)) {
			break
		}
		before = v
	}
	j.forget()
	return share, true
}

// forget makes all prices nothing.
func (j *joint) forget() {
	for k := range j.price {
		clear(j.price[k])
	}
	for i := range j.pairs {
		j.pairs[i].slope = 0
	}
}

// value is what the present prices prove on a grid of a second, and nothing, −∞, where the time is over before it is known; it leaves in
// used what is taken then beyond what there is.
func (j *joint) value() float64 {
	for k, prices := range j.price {
		j.upTo[k].fill(prices)
		clear(j.used[k])
	}
	value := j.base
	for i := range j.spots {
		j.spots[i].tilt = 0
	}
	for i := range j.pairs {
		e := &j.pairs[i]
		if e.inTree {
			continue
		}
		above, _ := e.above()
		value -= above
		j.spots[e.a].tilt -= e.slope
		j.spots[e.b].tilt += e.slope
	}
	for _, tree := range j.trees {
		if j.over() {
			return math.Inf(-1)
		}
		value += j.least(tree)
	}
	j.time.looked += j.many
	for i := range j.spots {
		s := &j.spots[i]
		x := j.instant(s, s.at)
		for _, baskets := range s.asks {
			best, least := 0, math.Inf(1)
			for k, c := range baskets {
				if p := j.priceOf(c, x); p < least {
					best, least = k, p
				}
			}
			j.ask(baskets[best], x)
		}
	}
	for k, room := range j.room {
		for i, there := range room {
			value -= j.price[k][i] * there
			j.used[k][i] -= there
		}
	}
	for i := range j.ovens {
		value -= j.ovens[i].worth(j.goods)
	}
	return value
}

// climb moves the prices, leaves those that gave the most, and returns that.
//
// Source of the method: subgradients with steps scaled by their own mean squares, Kingma & Ba, ICLR (2015).
func (j *joint) climb(ctx context.Context, c climbing) (best float64) {
	const fade, fadeSquare = 0.8, 0.98
	mean, square, kept := j.likePrices(), j.likePrices(), j.likePrices()
	for k := range kept {
		copy(kept[k], j.price[k])
	}
	lines := j.lines()
	part, partSquare := 1.0, 1.0
	step := 0.0
	for n := range c.moves {
		if ctx.Err() != nil {
			break
		}
		value := j.value()
		if n == 0 {
			step = c.share * float64(j.known) / max(1, j.asked())
		}
		if value > best || n == 0 {
			best = value
			for k := range kept {
				copy(kept[k], j.price[k])
			}
			for i := range lines {
				lines[i].kept = lines[i].pair.slope
			}
		}
		part, partSquare = part*fade, partSquare*fadeSquare
		shrunk := math.Pow(c.part, float64(n)/float64(c.moves))
		move := func(m, q *float64, over, by float64) float64 {
			*m = fade**m + (1-fade)*over
			*q = fadeSquare**q + (1-fadeSquare)*over*over
			return by * shrunk / (1 - part) * *m / (math.Sqrt(*q/(1-partSquare)) + 1)
		}
		for k, prices := range j.price {
			for i, over := range j.used[k] {
				if over < 0 && prices[i] == 0 {
					over = 0
				}
				prices[i] = max(0, prices[i]+move(&mean[k][i], &square[k][i], over, step))
			}
		}
		for i := range lines {
			l := &lines[i]
			_, at := l.pair.above()
			between := j.instant(&j.spots[l.pair.b], j.spots[l.pair.b].at) - j.instant(&j.spots[l.pair.a], j.spots[l.pair.a].at)
			by := move(&l.mean, &l.square, float64(between-at), lineStep*c.share)
			l.pair.slope = min(max(l.pair.slope+by, l.least), l.most)
		}
	}
	for k := range kept {
		copy(j.price[k], kept[k])
	}
	for i := range lines {
		lines[i].pair.slope = lines[i].kept
	}
	return best
}

// lineStep is by how much a line's slope is moved at first where a climbing's share is 1: a part of what a second of a wait costs.
const lineStep = 0.02

// line is a pair that is in no tree, with the slopes that it may have, and what is known of how to move it.
type line struct {
	pair              *pair
	least, most, kept float64
	mean, square      float64
}

func (j *joint) lines() (out []line) {
	for i := range j.pairs {
		if e := &j.pairs[i]; !e.inTree {
			least, most := e.slopes()
			out = append(out, line{pair: e, least: least, most: most, kept: e.slope})
		}
	}
	return out
}

func (j *joint) likePrices() [][]float64 {
	out := make([][]float64, len(j.price))
	for k := range out {
		out[k] = make([]float64, j.slots)
	}
	return out
}

// asked is how many unit seconds are taken with the present prices, but for those in ovens.
func (j *joint) asked() (sum float64) {
	for k, room := range j.room {
		for i, there := range room {
			sum += max(0, j.used[k][i]+there)
		}
	}
	return sum
}
