package schedule

import (
	"math"
	"slices"

	"jointime/core/workload"
)

// ovens are some that are alike, with a thermostat each. What one gives at a temperature it can give only while it is there: the most that
// its time is worth at given prices is a longest path through temperatures and time, with nothing given on the way from one to the next.
//
// What is told of an oven here is no less than what it can do: runs at temperatures that can stand together count as one, and what is left
// and what is come to within a slot share that slot as they please.
type ovens struct {
	thermostat *workload.Thermostat
	many       float64
	room       []float64 // units of one of them, in the mean of each slot
	setpoints  []setpoint
	goods      []int32 // what each of these gives

	near   [][]int32 // of each temperature, those that can stand together with it, itself first
	spread [][]int32 // and with what these can stand together with, and so on
	change [][]int64 // seconds from one to another, 0 for those near
	start  []int64   // from standby

	stay, turn [][]float64 // what a second of a slot gives in it: all of it; on coming and leaving
	on, came   [][]float64 // the most up to the end of a slot, in a temperature then; if it came to it in that slot
	way        [][]move    // how it got there
	fresh      [][]move
}

// move is how an oven came to a temperature: from another, which it left in a slot; it stayed where the slot is that before. Where it had
// only come to that one in the slot in which it left it, late is set.
type move struct {
	from, left int32
	late, came bool
}

const fromStandby = int32(-1)

// prepare finds what lies between the temperatures.
func (o *ovens) prepare(g *goods) {
	n := len(o.setpoints)
	for a := range n {
		o.start = append(o.start, changeover(o.thermostat, standby(o.thermostat), o.setpoints[a]))
		o.near, o.change = append(o.near, []int32{int32(a)}), append(o.change, make([]int64, n))
		for b := range n {
			if !differ(o.thermostat, o.setpoints[a], o.setpoints[b]) {
				continue
			}
			o.change[a][b] = min(changeover(o.thermostat, o.setpoints[a], o.setpoints[b]), changeover(o.thermostat, o.setpoints[b], o.setpoints[a]))
			if o.change[a][b] >= slotLength { // others go by so fast that they count as together
				o.change[a][b] = changeover(o.thermostat, o.setpoints[a], o.setpoints[b])
			} else {
				o.change[a][b] = 0
			}
		}
		for b := range n {
			if b != a && o.change[a][b] == 0 {
				o.near[a] = append(o.near[a], int32(b))
			}
		}
	}
	for a := range n {
		all := slices.Clone(o.near[a])
		for i := 0; i < len(all); i++ {
			for _, b := range o.near[all[i]] {
				if !slices.Contains(all, b) {
					all = append(all, b)
				}
			}
		}
		o.spread = append(o.spread, all)
		for _, list := range []*[][]float64{&o.stay, &o.turn} {
			*list = append(*list, make([]float64, g.slots))
		}
		for _, list := range []*[][]float64{&o.on, &o.came} {
			*list = append(*list, make([]float64, g.slots+1))
		}
		for _, list := range []*[][]move{&o.way, &o.fresh} {
			*list = append(*list, make([]move, g.slots+1))
		}
	}
}

// best is the good among some that is the dearest in a slot.
func (o *ovens) best(g *goods, list []int32, slot int) int32 {
	best := o.goods[list[0]]
	for _, b := range list[1:] {
		if k := o.goods[b]; g.price[k][slot] > g.price[best][slot] {
			best = k
		}
	}
	return best
}

// worth is the most that the time of all of them is worth at the present prices; it takes what they give then off what is used.
func (o *ovens) worth(g *goods) float64 {
	n := len(o.setpoints)
	for a := range n {
		for i := range g.slots {
			o.stay[a][i] = g.price[o.best(g, o.near[a], i)][i] * o.room[i]
			o.turn[a][i] = g.price[o.best(g, o.spread[a], i)][i] * o.room[i]
		}
		o.on[a][0], o.came[a][0] = math.Inf(-1), math.Inf(-1)
		if o.start[a] == 0 {
			o.on[a][0] = 0
		}
	}
	for i := 1; i <= g.slots; i++ {
		for a := range int32(n) {
			o.arrive(a, i)
		}
		for a := range int32(n) {
			best, way := math.Inf(-1), move{}
			for _, b := range o.near[a] {
				if v := o.on[b][i-1] + slotLength*max(o.stay[a][i-1], o.stay[b][i-1]); v > best {
					best, way = v, move{from: b, left: int32(i - 1)}
				}
				if v := o.came[b][i]; v > best {
					best, way = v, move{from: b, came: true}
				}
			}
			o.on[a][i], o.way[a][i] = best, way
		}
	}
	top, at := 0.0, int32(-1)
	for a := range int32(n) {
		if v := o.on[a][g.slots]; v > top {
			top, at = v, a
		}
	}
	if at >= 0 {
		o.give(g, at)
	}
	return top * o.many
}

// arrive finds the best way to come to a temperature in the slot before boundary i.
func (o *ovens) arrive(a int32, i int) {
	s := i - 1
	best, way := math.Inf(-1), move{}
	if at := o.start[a]; at > 0 && at/slotLength == int64(s) {
		best, way = o.turn[a][s]*float64(int64(i)*slotLength-at), move{from: fromStandby}
	}
	for b := range int32(len(o.setpoints)) {
		change := o.change[b][a]
		if change == 0 {
			continue
		}
		full := int((change + slotLength - 1) / slotLength)
		for dead := max(0, full-2); dead <= full; dead++ {
			l := s - dead - 1
			room := float64(int64(dead+2)*slotLength - change)
			if l < 0 || room < 0 {
				continue
			}
			here, there := share(o.turn[a][s], o.turn[b][l], room)
			if v := o.on[b][l] + there*o.turn[b][l] + here*o.turn[a][s]; v > best {
				best, way = v, move{from: b, left: int32(l)}
			}
			if v := o.came[b][l+1] + min(slotLength, room)*o.turn[a][s]; v > best {
				best, way = v, move{from: b, left: int32(l), late: true}
			}
		}
	}
	o.came[a][i], o.fresh[a][i] = best, way
}

// share divides the seconds that are left of two slots between them, the dearer first.
func share(here, there, room float64) (float64, float64) {
	first := min(slotLength, room)
	second := min(slotLength, room-first)
	if here >= there {
		return first, second
	}
	return second, first
}

// give takes off what is used what is given on the best path.
func (o *ovens) give(g *goods, at int32) {
	gives := func(list []int32, slot int, seconds float64) {
		g.used[o.best(g, list, slot)][slot] -= o.many * o.room[slot] * seconds
	}
	came := false
	for i := g.slots; i > 0; {
		if !came {
			w := o.way[at][i]
			if came = w.came; came {
				at = w.from
				continue
			}
			list := o.near[at]
			if o.stay[w.from][i-1] > o.stay[at][i-1] {
				list = o.near[w.from]
			}
			gives(list, i-1, slotLength)
			at, i = w.from, i-1
			continue
		}
		w := o.fresh[at][i]
		if w.from == fromStandby {
			gives(o.spread[at], i-1, float64(int64(i)*slotLength-o.start[at]))
			return
		}
		l := int(w.left)
		room := float64(int64(i-l)*slotLength - o.change[w.from][at])
		if w.late {
			gives(o.spread[at], i-1, min(slotLength, room))
			at, i = w.from, l+1
			continue
		}
		here, there := share(o.turn[at][i-1], o.turn[w.from][l], room)
		gives(o.spread[at], i-1, here)
		gives(o.spread[w.from], l, there)
		at, i, came = w.from, l, false
	}
}
