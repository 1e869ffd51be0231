package schedule

import (
	"cmp"
	"math"
	"slices"
)

// The runs of a pool of like resources, with what each costs its join by when it starts.

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
