package schedule

import (
	"cmp"
	"math"
	"slices"
)

// A convex function of whole seconds, piece by piece linear: what an instant or a wait costs.

// hinge costs so much for each second before an instant, and so much for each after it.
type hinge struct{ at, before, after int64 }

type convex []hinge

// cost is its value.
func (c convex) cost(x int64) (sum int64) {
	for _, h := range c {
		if x < h.at {
			sum += (h.at - x) * h.before
		} else {
			sum += (x - h.at) * h.after
		}
	}
	return sum
}

// widest is how far away from where it is least a function is looked at, seconds: some seven weeks.
const widest = int64(1) << 22

// within narrows a range to where it costs no more than most. Where it costs more everywhere the range is that of its least alone.
func (c convex) within(lo, hi, most int64) (int64, int64) {
	if len(c) == 0 {
		return lo, hi
	}
	best := c[0].at
	for _, h := range c {
		if c.cost(h.at) < c.cost(best) {
			best = h.at
		}
	}
	best = min(max(best, lo), hi)
	if first := max(lo, best-widest); first > lo || c.cost(first) > most {
		lo = halve(first, best, func(x int64) bool { return c.cost(x) <= most })
	}
	if last := min(hi, best+widest); last < hi || c.cost(last) > most {
		hi = -halve(-last, -best, func(x int64) bool { return c.cost(-x) <= most })
	}
	return lo, hi
}

// halve is the first of a range for which something holds that holds from there on to its end.
func halve(lo, hi int64, holds func(int64) bool) int64 {
	for lo < hi {
		if m := lo + (hi-lo)/2; holds(m) {
			hi = m
		} else {
			lo = m + 1
		}
	}
	return lo
}

// piece is a part of such a function on a grid: from one step to another, the last included, it begins with a value and rises by slope a
// step.
type piece struct {
	from, to     int64
	value, slope float64
}

// pieces are those on a grid of step seconds from one of its steps to another; outside of its range the function costs what it does at the
// nearer end. Turned, it is the function of −x.
func (c convex) pieces(step, from, to, least, most int64, turned bool) (out []piece) {
	sign := int64(1)
	if turned {
		sign = -1
	}
	at := func(k int64) float64 { return float64(c.cost(min(max(sign*k*step, least), most))) }
	bends := []int64{from, min(from+1, to), max(from, to-1), to} // the ends of the range may lie within the first and the last step
	for _, h := range c {
		k := floorDiv(sign*h.at, step)
		for _, k := range []int64{k, k + 1} {
			if k > from && k < to {
				bends = append(bends, k)
			}
		}
	}
	slices.Sort(bends)
	bends = slices.Compact(bends)
	if len(bends) == 1 {
		return []piece{{from, to, at(from), 0}}
	}
	for i := 1; i < len(bends); i++ {
		a, b := bends[i-1], bends[i]
		slope := (at(b) - at(a)) / float64(b-a)
		if n := len(out); n > 0 && out[n-1].slope == slope {
			out[n-1].to = b
			continue
		}
		out = append(out, piece{a, b, at(a), slope})
	}
	return out
}

// mirrored are the pieces of the same function of −x.
func mirrored(pieces []piece) (out []piece) {
	for _, p := range slices.Backward(pieces) {
		out = append(out, piece{-p.to, -p.from, p.value + p.slope*float64(p.to-p.from), -p.slope})
	}
	return out
}

func floorDiv(a, b int64) int64 {
	q := a / b
	if a%b != 0 && a < 0 {
		q--
	}
	return q
}

// impossibly is what cannot be costs, in the sums below.
const impossibly = 1e18

// spreader adds up two functions, with what it needs for that.
type spreader struct {
	queue []waiting // what may still be the best in a window, the best first
	turns []ranked
}

// waiting is a step of src, and what it is there but for what rises alike for all.
type waiting struct {
	value float64
	at    int32
}

// ranked is a piece by its least.
type ranked struct {
	piece
	least float64
}

// spread leaves in best, for each x, the least of src(y) + f(x − y) over all y, and in arg the y, by its place in src; best begins at the
// step lo and src at srcLo. Each piece of f is a window that slides over src, in which the least is kept; where nothing of it can be
// better than what is there already, it does not.
//
// Source of the method: the sliding minimum, Lemire, Nordic Journal of Computing 13 (2006); the sum, piece by piece, Felzenszwalb &
// Huttenlocher, Theory of Computing 8 (2012).
func (s *spreader) spread(best []float64, arg []int32, lo int64, src []float64, srcLo int64, f []piece) {
	for i := range best {
		best[i], arg[i] = impossibly, -1
	}
	least := leastOf(src)
	s.turns = s.turns[:0]
	for _, p := range f {
		s.turns = append(s.turns, ranked{p, p.least()})
	}
	slices.SortStableFunc(s.turns, func(a, b ranked) int { return cmp.Compare(a.least, b.least) })
	if n := len(src); cap(s.queue) < n {
		s.queue = make([]waiting, n)
	}
	for i := range s.turns {
		p := &s.turns[i]
		from, to, worth := 0, len(best), least+p.least
		for from < to && best[from] <= worth {
			from++
		}
		for from < to && best[to-1] <= worth {
			to--
		}
		if from < to {
			s.slide(best, arg, src, int(lo-srcLo), &p.piece, from, to)
		}
	}
}

// leastOf is the least of some values; slices.Min, which looks out for NaN, takes several times as long.
func leastOf(values []float64) float64 {
	least := math.Inf(1)
	for _, v := range values {
		if v < least {
			least = v
		}
	}
	return least
}

// least is the least of a piece.
func (p *piece) least() float64 { return min(p.value, p.value+p.slope*float64(p.to-p.from)) }

// slide lets the window of one piece slide along a stretch of best, of which the first lies base steps after that of src. Of several that
// are the least the last counts.
func (s *spreader) slide(best []float64, arg []int32, src []float64, base int, p *piece, from, to int) {
	queue := s.queue[:len(src)]
	head, tail := 0, 0
	value, slope, up, down := p.value, p.slope, base-int(p.from), base-int(p.to) // a wait longer, a wait shorter
	best, arg = best[:to], arg[:to]
	for i, next := from, max(0, from+down); i < len(best); i++ {
		for last := min(i+up, len(src)-1); next <= last; next++ {
			v := src[next] - slope*float64(next)
			for tail > head && queue[tail-1].value >= v {
				tail--
			}
			queue[tail] = waiting{v, int32(next)}
			tail++
		}
		for head < tail && int(queue[head].at) < i+down {
			head++
		}
		if head == tail {
			continue
		}
		if v := queue[head].value + value + slope*float64(i+up); v < best[i] {
			best[i], arg[i] = v, queue[head].at
		}
	}
}
