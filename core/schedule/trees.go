package schedule

import "slices"

// What hangs together by waits, as trees: on a tree the least cost with prices can be found exactly, from its leaves to its root.

// spot is what exact waits tie (a point of the timing), with what it costs by when it is.
type spot struct {
	lo, hi   int64
	price    convex
	tilt     float64    // what each second later costs beside it, for the pairs that are in no tree
	asks     [][]basket // what it takes: of each entry one basket
	parent   int32      // in its tree, −1 for a root
	pair     int32      // to its parent
	children []int32
	// On the grid: its first step, what it and all below it cost at the least by when it is; and by when its parent is, what that is
	// and where it is best then.
	first    int64
	cost     []float64
	message  []float64
	arg      []int32
	pieces   []piece // of x(parent) − x
	at       int64   // its best step with the present prices
	marginal []float64
}

// pair is how two spots hang together: by what is between them, x(b) − x(a).
type pair struct {
	a, b        int32
	least, most int64
	price       convex
	inTree      bool
	slope       float64 // where it is in none: what stands for it is slope·(x(b) − x(a)) less the most by which that is above its price
}

// steepest is the most that a second between two spots is taken to cost.
const steepest = 10_000

// slopes are the least and the most that a pair may have: what it costs is convex, and what lies below it on one side for ever has no other.
func (e *pair) slopes() (least, most float64) {
	least, most = -steepest, steepest
	if e.least <= -far {
		least = 0
		for _, h := range e.price {
			least -= float64(h.before)
		}
	}
	if e.most >= far {
		most = 0
		for _, h := range e.price {
			most += float64(h.after)
		}
	}
	return least, most
}

// above is the most by which its slope is above its price (the conjugate), and where that is.
func (e *pair) above() (most float64, at int64) {
	first := true
	try := func(d int64) {
		if v := e.slope*float64(d) - float64(e.price.cost(d)); first || v > most {
			most, at, first = v, d, false
		}
	}
	for _, h := range e.price {
		if h.at > e.least && h.at < e.most {
			try(h.at)
		}
	}
	if e.least > -far {
		try(e.least)
	}
	if e.most < far {
		try(e.most)
	}
	return most, at
}

// spotsOf makes the spots and pairs of a problem; what costs more than known is left out.
func spotsOf(p *problem, g *timing, known int64) (spots []spot, pairs []pair) {
	zero := int32(g.n - 1)
	spots = make([]spot, g.n-1)
	for i := range spots {
		spots[i] = spot{lo: -far, hi: far, parent: -1, pair: -1}
	}
	for v := range p.n {
		if !p.fixed[v] {
			s := &spots[g.point[v]]
			s.lo, s.hi = max(s.lo, p.lo[v]-g.off[v]), min(s.hi, p.hi[v]-g.off[v])
		}
	}
	known2 := map[[2]int32]int{}
	between := func(a, b int32) *pair {
		k, there := known2[[2]int32{a, b}]
		if !there {
			k = len(pairs)
			known2[[2]int32{a, b}] = k
			pairs = append(pairs, pair{a: a, b: b, least: -far, most: far})
		}
		return &pairs[k]
	}
	for _, r := range g.hard { // x(v) ≥ x(u) + w
		switch {
		case r.u == zero || r.v == zero:
		case r.u < r.v:
			e := between(r.u, r.v)
			e.least = max(e.least, r.w)
		default:
			e := between(r.v, r.u)
			e.most = min(e.most, -r.w)
		}
	}
	for _, r := range g.soft { // cap for each second of x(u) + w − x(v)
		switch {
		case r.u == zero:
			spots[r.v].price = append(spots[r.v].price, hinge{r.w, r.cap, 0})
		case r.v == zero:
			spots[r.u].price = append(spots[r.u].price, hinge{-r.w, 0, r.cap})
		case r.u < r.v:
			e := between(r.u, r.v)
			e.price = append(e.price, hinge{r.w, r.cap, 0})
		default:
			e := between(r.v, r.u)
			e.price = append(e.price, hinge{-r.w, 0, r.cap})
		}
	}
	narrow(spots, pairs, known)
	return spots, pairs
}

// narrow leaves of the instants and waits those that cost no more than known, and carries that on from spot to spot.
func narrow(spots []spot, pairs []pair, known int64) {
	touch := make([][]int32, len(spots))
	for i := range pairs {
		e := &pairs[i]
		e.least, e.most = e.price.within(e.least, e.most, known)
		touch[e.a] = append(touch[e.a], int32(i))
		touch[e.b] = append(touch[e.b], int32(i))
	}
	queued := make([]bool, len(spots))
	var queue []int32
	for i := range spots {
		s := &spots[i]
		s.lo, s.hi = s.price.within(s.lo, s.hi, known)
		queue, queued[i] = append(queue, int32(i)), true
	}
	set := func(v int32, lo, hi int64) {
		s := &spots[v]
		if lo <= s.lo && hi >= s.hi {
			return
		}
		s.lo, s.hi = max(s.lo, lo), min(s.hi, hi)
		if !queued[v] && s.lo <= s.hi {
			queue, queued[v] = append(queue, v), true
		}
	}
	for i := 0; i < len(queue); i++ {
		v := queue[i]
		queued[v] = false
		s := &spots[v]
		for _, k := range touch[v] {
			if e := &pairs[k]; e.a == v {
				set(e.b, s.lo+e.least, s.hi+e.most)
			} else {
				set(e.a, s.lo-e.most, s.hi-e.least)
			}
		}
	}
}

// plant picks the pairs that make trees of the spots, those with a price first, and returns the spots from the leaves to the roots. For the
// waits of the other pairs a line stands, which is nowhere above what they cost.
func plant(spots []spot, pairs []pair) (upwards []int32) {
	of := make([]int32, len(spots))
	for i := range of {
		of[i] = int32(i)
	}
	root := func(i int32) int32 {
		for of[i] != i {
			of[i] = of[of[i]]
			i = of[i]
		}
		return i
	}
	touch := make([][]int32, len(spots))
	for _, priced := range []bool{true, false} {
		for i := range pairs {
			e := &pairs[i]
			if a, b := root(e.a), root(e.b); a != b && (len(e.price) > 0) == priced {
				of[a], e.inTree = b, true
				touch[e.a] = append(touch[e.a], int32(i))
				touch[e.b] = append(touch[e.b], int32(i))
			}
		}
	}
	seen := make([]bool, len(spots))
	for r := range spots {
		if seen[r] {
			continue
		}
		seen[r] = true
		from := len(upwards)
		upwards = append(upwards, int32(r))
		for i := from; i < len(upwards); i++ {
			v := upwards[i]
			for _, k := range touch[v] {
				if o := pairs[k].a + pairs[k].b - v; !seen[o] {
					seen[o] = true
					spots[o].parent, spots[o].pair = v, k
					spots[v].children = append(spots[v].children, o)
					upwards = append(upwards, o)
				}
			}
		}
	}
	slices.Reverse(upwards)
	return upwards
}

// lay lays a grid of so many seconds over the trees, and returns how many instants are looked at then. On one of a second all is as it is; on
// a coarser one windows are a little wider, and waits rounded.
func (j *joint) lay(step int64) (many int) {
	j.step = step
	size := func(s *spot) int { return int(-floorDiv(-s.hi, step) - s.first + 1) }
	for i := range j.spots {
		s := &j.spots[i]
		s.first = floorDiv(s.lo, step)
		n := size(s)
		many += n
		s.cost = slices.Grow(s.cost[:0], n)[:n]
	}
	for i := range j.spots {
		s := &j.spots[i]
		if s.parent < 0 {
			continue
		}
		parent, e := &j.spots[s.parent], &j.pairs[s.pair]
		n := len(parent.cost)
		s.message = slices.Grow(s.message[:0], n)[:n]
		s.arg = slices.Grow(s.arg[:0], n)[:n]
		turned := e.a != int32(i)
		least, most := e.least, e.most
		if turned {
			least, most = -e.most, -e.least
		}
		from, to := parent.first-s.first-int64(len(s.cost))+1, parent.first+int64(n)-1-s.first
		if least > -far {
			from = max(from, floorDiv(least+step/2, step))
		}
		if most < far {
			to = min(to, floorDiv(most+step/2, step))
		}
		s.pieces = e.price.pieces(step, from, max(from, to), e.least, e.most, turned)
	}
	return many
}

// least finds what all trees cost at the least with the present prices, and where the spots are then.
func (j *joint) least() (sum float64) {
	for _, v := range j.upwards {
		s := &j.spots[v]
		j.own(s)
		for _, c := range s.children {
			child := &j.spots[c]
			j.spread(child.message, child.arg, s.first, child.cost, child.first, child.pieces)
			for i, m := range child.message {
				s.cost[i] += m
			}
		}
	}
	for _, v := range slices.Backward(j.upwards) {
		s := &j.spots[v]
		if s.parent >= 0 {
			parent := &j.spots[s.parent]
			s.at = s.first + int64(max(0, s.arg[parent.at-parent.first]))
			continue
		}
		k := 0
		for i, c := range s.cost {
			if c < s.cost[k] {
				k = i
			}
		}
		s.at = s.first + int64(k)
		sum += s.cost[k]
	}
	return sum
}

// own leaves in cost what a spot costs by itself, with what it takes at the present prices.
func (j *joint) own(s *spot) {
	n := len(s.cost)
	for i := range s.cost {
		x := j.instant(s, s.first+int64(i))
		s.cost[i] = float64(s.price.cost(x)) + s.tilt*float64(x)
	}
	if cap(j.sum) < n {
		j.sum, j.fewest = make([]float64, n), make([]float64, n)
	}
	sum, fewest := j.sum[:n], j.fewest[:n]
	for _, baskets := range s.asks {
		if slices.ContainsFunc(baskets, func(b basket) bool { return j.free(b, s) }) {
			continue
		}
		for k, b := range baskets {
			clear(sum)
			for _, t := range b {
				j.addPrice(sum, &t, s)
			}
			if k == 0 {
				copy(fewest, sum)
				continue
			}
			for i, v := range sum {
				fewest[i] = min(fewest[i], v)
			}
		}
		for i, v := range fewest {
			s.cost[i] += v
		}
	}
}

// free reports whether a basket costs nothing, whenever a spot may be.
func (j *joint) free(b basket, s *spot) bool {
	for i := range b {
		prices := j.upTo[b[i].good]
		if prices.at(s.hi+b[i].after+b[i].dur) > prices.at(s.lo+b[i].after) {
			return false
		}
	}
	return true
}

// instant is that of a step, within the window of a spot.
func (j *joint) instant(s *spot, step int64) int64 { return min(max(step*j.step, s.lo), s.hi) }

// addPrice adds what is to be paid for a good, for each step of a spot.
func (j *joint) addPrice(sum []float64, t *take, s *spot) {
	prices := j.upTo[t.good]
	last := len(sum) - 1
	for _, i := range [2]int{0, last} { // those that may lie outside of the window
		x := j.instant(s, s.first+int64(i)) + t.after
		sum[i] += t.units * (prices.at(x+t.dur) - prices.at(x))
		if last == 0 {
			return
		}
	}
	x := (s.first+1)*j.step + t.after
	for i := 1; i < last; i++ {
		sum[i] += t.units * (prices.at(x+t.dur) - prices.at(x))
		x += j.step
	}
}

// tighten narrows the windows of the spots to where all together costs no more than known, with value the least of all; on a grid of a second.
//
// Source of the method: reduced-cost fixing by min-marginals, which are what all costs at the least with one spot at an instant.
func (j *joint) tighten(value float64) {
	var other []float64
	var arg []int32
	for _, v := range slices.Backward(j.upwards) {
		s := &j.spots[v]
		s.marginal = append(s.marginal[:0], s.cost...)
		if s.parent >= 0 {
			parent := &j.spots[s.parent]
			other = append(other[:0], parent.marginal...)
			for i := range other {
				if other[i] < impossibly/2 {
					other[i] -= s.message[i]
				}
			}
			down := make([]float64, len(s.cost))
			arg = slices.Grow(arg[:0], len(down))[:len(down)]
			j.spread(down, arg, s.first, other, parent.first, mirrored(s.pieces))
			for i, d := range down {
				s.marginal[i] += d
			}
		}
	}
	lo, hi := make([]int64, len(j.spots)), make([]int64, len(j.spots))
	for i := range j.spots {
		s := &j.spots[i]
		least := slices.Min(s.marginal)
		fits := func(m float64) bool { return value-least+m <= float64(j.known)*(1+1e-9)+1 }
		from, to := 0, len(s.marginal)-1
		for from < to && !fits(s.marginal[from]) {
			from++
		}
		for from < to && !fits(s.marginal[to]) {
			to--
		}
		lo[i], hi[i] = s.first+int64(from), s.first+int64(to)
	}
	for i := range j.spots {
		j.spots[i].lo, j.spots[i].hi = lo[i], hi[i]
	}
}
