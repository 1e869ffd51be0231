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
	// On the grid: its first step, how many there are, and its best with the present prices. While its tree is looked at, what it and all
	// below it cost at the least by when it is; and by when its parent is, what that is and where it is best then.
	first   int64
	many    int
	at      int64
	pieces  []piece // of x(parent) − x
	cost    []float64
	wished  []float64 // what it costs by its instant alone, without the tilt; nil where that is not kept
	message []float64
	arg     []int32
	took    []int32 // the basket of each that it asks for
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

// slopes are the least and the most that a pair may have: what it costs is convex, and what lies below it on one side for ever has no
// other.
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
	index := map[[2]int32]int{}
	between := func(a, b int32) *pair {
		k, there := index[[2]int32{a, b}]
		if !there {
			k = len(pairs)
			index[[2]int32{a, b}] = k
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

// plant picks the pairs that make trees of the spots, those with a price first, and returns the spots of each from the leaves to the root.
// For the waits of the other pairs a line stands, which is nowhere above what they cost.
func plant(spots []spot, pairs []pair) (trees [][]int32) {
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
		tree := []int32{int32(r)}
		for i := 0; i < len(tree); i++ {
			v := tree[i]
			for _, k := range touch[v] {
				if o := pairs[k].a + pairs[k].b - v; !seen[o] {
					seen[o] = true
					spots[o].parent, spots[o].pair = v, k
					spots[v].children = append(spots[v].children, o)
					tree = append(tree, o)
				}
			}
		}
		slices.Reverse(tree)
		trees = append(trees, tree)
	}
	return trees
}
