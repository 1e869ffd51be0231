package schedule

import (
	"cmp"
	"context"
	"math"
	"slices"
)

// A lower bound for large work: what the runs of one pool of like resources must cost at the least, since not all of them can be when they
// would like to be.
//
// Of each run, a convex function says what its join costs at the least when the run starts at an instant: nothing in a stretch of time, the
// price of a late join after it, the price of waiting beyond best, or of an early join, before it. Where a join has several runs in the pool
// each answers for its share. The capacity of the pool is priced by the time (a Lagrangian relaxation of the time-indexed model: Fisher,
// Operations Research 21, 1973; Möhring, Schulz, Stork & Uetz, Management Science 49, 2003), and the prices are moved by subgradients with
// Polyak's step. Every set of prices gives a valid bound; the best is kept.

// boundSlot is how long a price of capacity holds, in seconds; boundSteps is how often the prices are moved.
const (
	boundSlot  = 60
	boundSteps = 150
)

// mostSteps is how far ways are looked for in one pool.
const mostSteps = 400_000

// mostLooked is how many starts are looked at in one pool in all; with fewer than fewestMoves of the prices nothing comes of it.
const (
	mostLooked  = 20_000_000
	fewestMoves = 20
)

// bend is a piece of a convex function: over so many seconds it rises by slope a second. The last goes on for ever.
type bend struct{ long, slope float64 }

// poolRun is a run of a pool: it costs nothing from free[0] to free[1], and more the further it starts from there.
type poolRun struct {
	free    [2]float64
	late    []bend // after it
	early   []bend // before it, the nearest first
	dur     float64
	units   float64
	lo, hi  float64
	share   float64
	starts  []float64 // instants at which the cost with prices can be least
	looked  []look    // what is looked at for each of them
	chosen  float64
	homeOf  int32
	already bool // it has happened: it only takes room
}

// place is an instant, by its slot and how far it lies in it.
type place struct {
	slot int32
	into float64
}

// look is a start with what does not change with the prices: what it costs, and from when to when the run lasts.
type look struct {
	cost     float64
	from, to place
}

// poolBound is the best bound that one of the pools gives; known is the cost of a schedule.
func poolBound(ctx context.Context, p *problem, gs []group, known int64) int64 {
	if p.makespan || known <= 0 {
		return 0
	}
	home := make([]int32, p.n)
	for v := range home {
		home[v] = -1
	}
	for i := range gs {
		for _, v := range gs[i].nodes {
			home[v] = int32(i)
		}
	}
	best := int64(0)
	for _, pool := range p.pools() {
		runs := p.runsOf(pool, gs, &ways{p: p, home: home, left: mostSteps})
		if b := pricedBound(ctx, p, pool, runs, float64(known)); b > best {
			best = b
		}
	}
	return min(best, known)
}

// pools are the sets of resources that needs ask for as alternatives, where they hang together as one.
func (p *problem) pools() (out [][]int32) {
	of := make([]int, len(p.res))
	for r := range of {
		of[r] = r
	}
	var find func(r int) int
	find = func(r int) int {
		if of[r] != r {
			of[r] = find(of[r])
		}
		return of[r]
	}
	asked := make([]bool, len(p.res))
	for v := range p.tasks {
		for k := range p.needs[v] {
			for _, r := range p.needs[v][k].anyOf {
				asked[r] = true
				of[find(int(r))] = find(int(p.needs[v][k].anyOf[0]))
			}
		}
	}
	at := map[int]int{}
	for r := range p.res {
		if !asked[r] {
			continue
		}
		root := find(r)
		if _, ok := at[root]; !ok {
			at[root] = len(out)
			out = append(out, nil)
		}
		out[at[root]] = append(out[at[root]], int32(r))
	}
	return out
}

// runsOf lists the runs that take from a pool, with what each costs by its start.
func (p *problem) runsOf(pool []int32, gs []group, y *ways) (out []poolRun) {
	count, home := map[int32]int{}, y.home
	for v := range p.tasks {
		units := int64(0)
		for k := range p.needs[v] {
			if slices.Contains(pool, p.needs[v][k].anyOf[0]) {
				units += p.needs[v][k].units
			}
		}
		if units == 0 || p.dur[v] == 0 || p.stop[v] >= 0 {
			continue // of one whose length is chosen it is not known how much it takes
		}
		r := poolRun{dur: float64(p.dur[v]), units: float64(units), lo: float64(p.lo[v]), hi: float64(p.hi[v]), homeOf: -1}
		if p.fixed[v] {
			r.already, r.lo, r.hi = true, float64(p.fixAt[v]), float64(p.fixAt[v])
		}
		r.free = [2]float64{r.lo, r.hi}
		if g := home[v]; g >= 0 && gs[g].join >= 0 && !r.already && y.costOfStart(&r, int32(v), gs[g].join) {
			r.homeOf = g
			count[g]++
		}
		out = append(out, r)
	}
	for i := range out {
		if g := out[i].homeOf; g >= 0 {
			out[i].share = 1 / float64(count[g])
		}
	}
	return out
}

// costOfStart fills in what a join costs by when a run starts that leads up to it; false where nothing is known.
func (y *ways) costOfStart(r *poolRun, v int32, join int) bool {
	if len(y.p.wants[join]) == 0 {
		return false
	}
	w := y.p.wants[join][0]
	least, path, ok := y.wayTo(v, int32(join), 0)
	if !ok {
		return false
	}
	// What may be waited on the way for nothing, and at a price: the pieces of all its waits, the cheapest first.
	var free float64
	var priced []bend
	for _, hop := range path {
		for _, b := range hop {
			if b.slope == 0 {
				free += b.long
			} else {
				priced = append(priced, b)
			}
		}
	}
	last := float64(w.at) - float64(least)
	r.free = [2]float64{last - free, last}
	r.late = y.p.prices(join, +1)
	// A join that comes early is another way to make room before it: its pieces and those of the waits, the cheapest first.
	r.early = append(priced, y.p.prices(join, -1)...)
	slices.SortStableFunc(r.early, func(a, b bend) int { return cmp.Compare(a.slope, b.slope) })
	return true
}

// prices is what a join costs after its wish (side +1) or before it (−1), piece by piece; what begins to cost only on the other side is left
// out, so that it is no more than the truth.
func (p *problem) prices(join int, side int64) (out []bend) {
	at := p.wants[join][0].at
	type step struct{ beyond, more int64 }
	var steps []step
	for i, w := range p.wants[join] {
		beyond, more := (w.at-at)*side, w.late
		if side < 0 {
			more = w.early
		}
		if more > 0 && (i == 0 || beyond >= 0) {
			steps = append(steps, step{beyond, more})
		}
	}
	slices.SortFunc(steps, func(a, b step) int { return compare(a.beyond, b.beyond) })
	from, slope := int64(0), int64(0)
	for _, x := range steps {
		if x.beyond > from {
			out = append(out, bend{float64(x.beyond - from), float64(slope)})
			from = x.beyond
		}
		slope += x.more
	}
	return append(out, bend{math.Inf(1), float64(slope)})
}

// ways finds ways to joins, and gives up after so many steps.
type ways struct {
	p    *problem
	home []int32
	left int
}

// wayTo is a way from a node to its join: the least time from the one start to the other, and, hop by hop, how that may be stretched. Of
// several ways it takes the one on which the least can be waited for nothing. It stays among the nodes of one join, so that no wait is
// counted for two.
func (y *ways) wayTo(v, join int32, depth int) (least int64, path [][]bend, ok bool) {
	p := y.p
	bestFree := math.Inf(1)
	for _, m := range p.body[p.lead[v]] {
		for _, a := range p.out[m] {
			u := a.other
			if y.left--; y.left < 0 || depth > 20 {
				return 0, nil, false
			}
			if a.w < 0 || p.fixed[u] || p.lead[u] == p.lead[v] || u != join && y.home[u] != y.home[v] {
				continue
			}
			rest, more, reached := int64(0), [][]bend(nil), u == join
			if !reached {
				rest, more, reached = y.wayTo(u, join, depth+1)
			}
			if !reached {
				continue
			}
			hops := append([][]bend{p.stretch(m, u, a.w)}, more...)
			free := 0.0
			for _, hop := range hops {
				for _, b := range hop {
					if b.slope == 0 {
						free += b.long
					}
				}
			}
			if !ok || free < bestFree {
				least, path, ok, bestFree = p.off[m]-p.off[v]+a.w+rest, hops, true, free
			}
		}
	}
	return least, path, ok
}

// stretch says how the time between two starts may grow beyond its least: for nothing up to the best of the waits between them, then at their
// prices, and no more than a longest wait allows.
func (p *problem) stretch(u, v int32, least int64) []bend {
	var soft []*softLink
	for _, k := range p.softOf[u] {
		if s := &p.soft[k]; s.from == u && s.to == v {
			soft = append(soft, s)
		}
	}
	slices.SortStableFunc(soft, func(a, b *softLink) int { return compare(a.best, b.best) })
	most := math.Inf(1)
	for _, a := range p.in[u] { // a longest wait runs backwards: x[u] ≥ x[v] + w
		if a.other == v && a.w <= 0 {
			most = min(most, float64(-a.w-least))
		}
	}
	var out []bend
	at, slope := 0.0, 0.0
	for _, s := range soft {
		if next := float64(s.best - least); next > at {
			out = append(out, bend{min(next, most) - at, slope})
			at = min(next, most)
		}
		slope += float64(s.weight)
	}
	if at < most {
		out = append(out, bend{most - at, slope})
	}
	return out
}

// cost is the run's share of what its join costs when it starts at s.
func (r *poolRun) cost(s float64) float64 {
	if r.share == 0 {
		return 0
	}
	sum, left, list := 0.0, r.free[0]-s, r.early
	if s > r.free[1] {
		left, list = s-r.free[1], r.late
	}
	for _, b := range list {
		if left <= 0 {
			break
		}
		sum += b.slope * min(left, b.long)
		left -= b.long
	}
	return r.share * sum
}

// pricedBound moves the prices of a pool's capacity, and returns the best bound that they gave.
func pricedBound(ctx context.Context, p *problem, pool []int32, runs []poolRun, known float64) int64 {
	if !slices.ContainsFunc(runs, func(r poolRun) bool { return r.share > 0 }) {
		return 0
	}
	slots := int(p.horizon/boundSlot) + 1
	room, taken := make([]float64, slots), make([]float64, slots)
	for i := range room {
		from, to := int64(i)*boundSlot, int64(i+1)*boundSlot
		for _, r := range pool {
			room[i] += float64(p.res[r].capacity) * boundSlot
			for _, b := range p.res[r].blocks {
				if over := min(b.to, to) - max(b.from, from); over > 0 {
					room[i] -= float64(over * b.units)
				}
			}
		}
	}
	for i := range runs {
		r := &runs[i]
		if r.already { // what has happened may have taken more than there is
			for k := max(0, int(r.lo/boundSlot)); k < slots && float64(k*boundSlot) < r.lo+r.dur; k++ {
				taken[k] += r.units * (min(r.lo+r.dur, float64((k+1)*boundSlot)) - max(r.lo, float64(k*boundSlot)))
				room[k] = max(room[k], taken[k])
			}
		}
		r.starts = append(r.starts, r.lo, r.hi)
		for _, t := range []float64{r.free[0], r.free[1]} {
			r.starts = append(r.starts, min(max(t, r.lo), r.hi))
		}
		at := r.free[0]
		for _, b := range r.early {
			if at -= b.long; at > r.lo && at < r.hi {
				r.starts = append(r.starts, at)
			}
		}
		at = r.free[1]
		for _, b := range r.late {
			if at += b.long; at > r.lo && at < r.hi {
				r.starts = append(r.starts, at)
			}
		}
		for t := math.Ceil(r.lo/boundSlot) * boundSlot; t <= r.hi+r.dur; t += boundSlot {
			for _, s := range []float64{t, t - r.dur} {
				if s > r.lo && s < r.hi && r.cost(s) <= known {
					r.starts = append(r.starts, s)
				}
			}
		}
	}
	many := 0
	for i := range runs {
		many += len(runs[i].starts)
	}
	moves := min(boundSteps, mostLooked/max(1, many))
	if moves < fewestMoves {
		return 0 // days of work: it would take longer than it is worth
	}
	at := func(t float64) place {
		t = min(max(t, 0), float64(slots*boundSlot))
		i := min(int(t/boundSlot), slots-1)
		return place{int32(i), t - float64(i)*boundSlot}
	}
	for i := range runs {
		r := &runs[i]
		r.looked = make([]look, len(r.starts))
		for k, s := range r.starts {
			r.looked[k] = look{r.cost(s), at(s), at(s + r.dur)}
		}
	}
	price := make([]float64, slots)
	sum := make([]float64, slots+1) // of the prices up to a slot
	used := make([]float64, slots)
	upTo := func(p place) float64 { return sum[p.slot] + price[p.slot]*p.into }
	best, step := 0.0, 1.0
	idle := 0
	for range moves {
		if ctx.Err() != nil {
			break
		}
		for i := range price {
			sum[i+1] = sum[i] + price[i]*boundSlot
		}
		value := 0.0
		clear(used)
		for i := range price {
			value -= price[i] * room[i]
		}
		for i := range runs {
			r := &runs[i]
			least := math.Inf(1)
			for k := range r.looked {
				l := &r.looked[k]
				if c := l.cost + r.units*(upTo(l.to)-upTo(l.from)); c < least {
					least, r.chosen = c, r.starts[k]
				}
			}
			value += least
			for k := max(0, int(r.chosen/boundSlot)); k < slots && float64(k*boundSlot) < r.chosen+r.dur; k++ {
				used[k] += r.units * (min(r.chosen+r.dur, float64((k+1)*boundSlot)) - max(r.chosen, float64(k*boundSlot)))
			}
		}
		if value > best {
			best, idle = value, 0
		} else if idle++; idle > 8 {
			step, idle = step/2, 0
		}
		norm := 0.0
		for i := range used {
			used[i] -= room[i]
			if used[i] < 0 && price[i] == 0 {
				used[i] = 0
			}
			norm += used[i] * used[i]
		}
		if norm == 0 {
			break
		}
		for i := range price {
			price[i] = max(0, price[i]+step*(known-value)/norm*used[i])
		}
	}
	// A second is lost to the rounding of floating point, so that the bound is one for certain.
	return max(0, int64(math.Floor(best*(1-1e-9)))-1)
}
