package schedule

import (
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
