package schedule

import (
	"context"
	"math"
	"slices"
)

// How the prices of the bound are moved to where it is high (jointbound.go).

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
	grids  = [...]climbing{{32, 120, 1, 0.03}, {8, 90, 0.5, 0.03}}
	lastly = climbing{1, 30, 0.125, 0.2}
)

// While the prices move only one of so many parts of the trees is looked at for each move, in turn, and all of them once in so many moves:
// what the prices prove is known then. On twelve evenings as much is proved so as with all of them each time, in half of the time.
const (
	treeParts = 4
	allEvery  = 8
)

// divide divides the trees into parts of about as many spots.
func (j *joint) divide() {
	j.parts = make([][]int32, min(treeParts, len(j.trees)))
	spots := make([]int, len(j.parts))
	for t, tree := range j.trees {
		k := slices.Index(spots, slices.Min(spots))
		j.parts[k], spots[k] = append(j.parts[k], int32(t)), spots[k]+len(tree)
	}
}

// looksAtAll reports whether all trees are looked at for the n-th move of so many.
func (j *joint) looksAtAll(n, moves int) bool {
	return len(j.parts) < 2 || n%allEvery == 0 || n == moves-1
}

// looks is how many instants are looked at for a move in the mean, of so many.
func (j *joint) looks(many int) int {
	if len(j.parts) < 2 {
		return many
	}
	return (many + (allEvery-1)*many/len(j.parts)) / allEvery
}

// climb moves the prices, leaves those that gave the most, and returns that.
//
// Source of the method: subgradients of a part of the problem at a time, Zhao, Luh & Wang, Journal of Optimization Theory and Applications
// 100 (1999); subgradients with steps scaled by their own mean squares, Kingma & Ba, ICLR (2015).
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
		if ctx.Err() != nil || j.over() {
			break
		}
		value := math.Inf(-1)
		if j.looksAtAll(n, c.moves) {
			value = j.value()
		} else {
			j.glance(j.parts[n%len(j.parts)])
		}
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
