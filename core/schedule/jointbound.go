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
	trees  [][]int32   // their spots, from the leaves to the root
	step   int64       // of the grid, seconds
	many   int         // instants on it
	parts  [][]int32   // of the trees, looked at in turn while the prices move
	taken  [][]float64 // unit seconds of each good that the spots take
	spreader
	values, sum, fewest []float64 // see makeRoom and own
	places              []int32
	over                func() bool // there is no more time
	long                bool        // there is time for longer
	time                boundTime
}

// longer is how many times as many moves a coarse grid gets where there is long to search: of seven evenings what is proved grows by up to
// nine tenths for it, and by hardly anything more with eight times.
const longer = 3

// Where the coarse grid says less than a third of the known cost the finer one is left out: half of it is never proved then. Where a
// second's says less than a quarter it is not moved on it.
const (
	hopeless = 1.0 / 3
	weak     = 1.0 / 4
)

// mostInstants is how many instants are looked at in all, but for the last moves where those gain something; with more than mostFine
// seconds to look at there is no bound.
const (
	mostInstants = 20_000_000
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
	j.divide()
	j.goods = newCatalogue(p, end).baskets(j.spots, g)
	j.taken = j.likePrices()
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
	c.moves = movesFor(c.moves, j.looks(many), *left)
	*left -= c.moves * j.looks(many)
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
	value := j.base - j.tilt()
	for k := range j.used {
		clear(j.used[k])
	}
	for _, tree := range j.trees {
		if j.over() {
			return math.Inf(-1)
		}
		value += j.least(tree)
	}
	j.time.looked += j.many
	for i := range j.spots {
		j.take(&j.spots[i])
	}
	return value - j.balance()
}

// glance leaves in used what is taken beyond what there is with the present prices in one part of the trees, and with those with which they
// were looked at last in the others. It proves nothing.
func (j *joint) glance(part []int32) {
	j.tilt()
	for k, taken := range j.taken {
		copy(j.used[k], taken)
	}
	for _, t := range part {
		if j.over() {
			return
		}
		tree := j.trees[t]
		for _, v := range tree {
			j.giveBack(&j.spots[v])
		}
		j.least(tree)
		for _, v := range tree {
			j.take(&j.spots[v])
			j.time.looked += j.spots[v].many
		}
	}
	j.balance()
}

// tilt makes the prices those with which all is looked at, and returns by how much the lines are above what waits cost at the most.
func (j *joint) tilt() (sum float64) {
	for k, prices := range j.price {
		j.upTo[k].fill(prices)
	}
	for i := range j.spots {
		j.spots[i].tilt = 0
	}
	for i := range j.pairs {
		e := &j.pairs[i]
		if e.inTree {
			continue
		}
		above, _ := e.above()
		sum += above
		j.spots[e.a].tilt -= e.slope
		j.spots[e.b].tilt += e.slope
	}
	return sum
}

// take notes what a spot takes where it is, of each that it asks for the cheapest basket; giveBack is the other way round.
func (j *joint) take(s *spot) {
	x := j.instant(s, s.at)
	s.took = s.took[:0]
	for _, baskets := range s.asks {
		best, least := 0, math.Inf(1)
		for k, c := range baskets {
			if p := j.priceOf(c, x); p < least {
				best, least = k, p
			}
		}
		j.ask(baskets[best], x, 1)
		s.took = append(s.took, int32(best))
	}
}

func (j *joint) giveBack(s *spot) {
	for i, k := range s.took {
		j.ask(s.asks[i][k], j.instant(s, s.at), -1)
	}
}

// balance takes what there is off what is used, of ovens what they give at best, and returns what that is worth; it remembers in taken what
// was used.
func (j *joint) balance() (worth float64) {
	for k, used := range j.used {
		copy(j.taken[k], used)
	}
	for k, room := range j.room {
		for i, there := range room {
			worth += j.price[k][i] * there
			j.used[k][i] -= there
		}
	}
	for i := range j.ovens {
		worth += j.ovens[i].worth(j.goods)
	}
	return worth
}
