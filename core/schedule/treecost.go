package schedule

import "slices"

// What a tree costs at the least at given prices (see trees.go): from the leaves to the root, each spot is told by when its parent is what
// all below costs then.

// lay lays a grid of so many seconds over the trees, and returns how many instants are looked at then. On one of a second all is as it is;
// on a coarser one windows are a little wider, and waits rounded.
func (j *joint) lay(step int64) (many int) {
	j.step = step
	for i := range j.spots {
		s := &j.spots[i]
		s.first = floorDiv(s.lo, step)
		s.many = int(-floorDiv(-s.hi, step) - s.first + 1)
		many += s.many
	}
	j.many = many
	j.rememberWishes(many)
	for i := range j.spots {
		s := &j.spots[i]
		if s.parent < 0 {
			continue
		}
		parent, e := &j.spots[s.parent], &j.pairs[s.pair]
		turned := e.a != int32(i)
		least, most := e.least, e.most
		if turned {
			least, most = -e.most, -e.least
		}
		from, to := parent.first-s.first-int64(s.many)+1, parent.first+int64(parent.many)-1-s.first
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

// rememberWishes keeps what each spot costs by its instant alone, unless these are too many: on a coarse grid all is looked at often.
func (j *joint) rememberWishes(many int) {
	for i := range j.spots {
		j.spots[i].wished = nil
	}
	if many > mostCoarse {
		return
	}
	all := make([]float64, many)
	for i := range j.spots {
		s := &j.spots[i]
		s.wished, all = all[:s.many], all[s.many:]
		j.wishes(s, s.wished)
	}
}

// makeRoom gives the spots of a tree the room in which they are looked at; another tree takes it over.
func (j *joint) makeRoom(tree []int32) {
	values, places := 0, 0
	for _, v := range tree {
		s := &j.spots[v]
		values += s.many
		if s.parent >= 0 {
			values += j.spots[s.parent].many
			places += j.spots[s.parent].many
		}
	}
	if cap(j.values) < values || cap(j.places) < places {
		j.values, j.places = make([]float64, values), make([]int32, places)
	}
	free, where := j.values[:values], j.places[:places]
	for _, v := range tree {
		s := &j.spots[v]
		s.cost, free = free[:s.many], free[s.many:]
		if s.parent >= 0 {
			n := j.spots[s.parent].many
			s.message, free = free[:n], free[n:]
			s.arg, where = where[:n], where[n:]
		}
	}
}

// least finds what a tree costs at the least with the present prices, and where its spots are then.
func (j *joint) least(tree []int32) (sum float64) {
	j.makeRoom(tree)
	for _, v := range tree {
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
	for _, v := range slices.Backward(tree) {
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
		sum = s.cost[k]
	}
	return sum
}

// own leaves in cost what a spot costs by itself, with what it takes at the present prices.
func (j *joint) own(s *spot) {
	n := len(s.cost)
	if s.wished != nil {
		copy(s.cost, s.wished)
	} else {
		j.wishes(s, s.cost)
	}
	if s.tilt != 0 {
		for i := range s.cost {
			s.cost[i] += s.tilt * float64(j.instant(s, s.first+int64(i)))
		}
	}
	if cap(j.sum) < n {
		j.sum, j.fewest = make([]float64, n), make([]float64, n)
	}
	sum, fewest := j.sum[:n], j.fewest[:n]
	for _, baskets := range s.asks {
		if slices.ContainsFunc(baskets, func(b basket) bool { return j.free(b, s) }) {
			continue
		}
		if len(baskets) == 1 && len(baskets[0]) == 1 {
			j.addPrice(s.cost, &baskets[0][0], s)
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

// wishes leaves in out what a spot costs by its instant alone, at each step.
func (j *joint) wishes(s *spot, out []float64) {
	for i := range out {
		out[i] = float64(s.price.cost(j.instant(s, s.first+int64(i))))
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
	if j.step%slotLength == 0 {
		prices.each(sum[1:last], t.units, x, t.dur, j.step/slotLength)
		return
	}
	for i := 1; i < last; i++ {
		sum[i] += t.units * (prices.at(x+t.dur) - prices.at(x))
		x += j.step
	}
}

// tighten narrows the windows of the spots to where all together costs no more than known, with value what it costs at the least at the
// present prices; on a grid of a second.
//
// Source of the method: reduced-cost fixing by min-marginals, which are what all costs at the least with one spot at an instant.
func (j *joint) tighten(value float64) {
	lo, hi := make([]int64, len(j.spots)), make([]int64, len(j.spots))
	room := float64(j.known)*(1+1e-9) + 1 - value // by how much the least may be more with a spot at an instant
	for _, tree := range j.trees {
		if j.over() {
			return
		}
		least := j.least(tree)
		j.marginals(tree)
		for _, v := range tree {
			s := &j.spots[v]
			from, to := 0, len(s.cost)-1
			for from < to && s.cost[from] > least+room {
				from++
			}
			for from < to && s.cost[to] > least+room {
				to--
			}
			lo[v], hi[v] = s.first+int64(from), s.first+int64(to)
		}
	}
	for i := range j.spots {
		j.spots[i].lo, j.spots[i].hi = lo[i], hi[i]
	}
}

// marginals leaves in cost, for each spot of a tree of which the least has been found, what the whole tree costs at the least by when it
// is.
func (j *joint) marginals(tree []int32) {
	var others, down []float64
	var arg []int32
	for _, v := range slices.Backward(tree) {
		s := &j.spots[v]
		if s.parent < 0 {
			continue
		}
		parent := &j.spots[s.parent]
		others = append(others[:0], parent.cost...)
		for i := range others {
			if others[i] < impossibly/2 {
				others[i] -= s.message[i]
			}
		}
		down, arg = slices.Grow(down[:0], s.many)[:s.many], slices.Grow(arg[:0], s.many)[:s.many]
		j.spread(down, arg, s.first, others, parent.first, mirrored(s.pieces))
		for i, d := range down {
			s.cost[i] += d
		}
	}
}
