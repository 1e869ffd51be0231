package schedule

import "sort"

// A heat is one run on a thermostat resource with the temperature it asks for.
type heat struct {
	start, finish int64
	c             setpoint
	node          int32
}

// heats is what a thermostat resource is asked for, sorted by start, and how long the longest is at the most: of all that there have been.
type heats struct {
	list    []heat
	longest int64
}

// place is where one that begins at an instant stands, or would stand.
func (h *heats) place(start int64, node int32) int {
	return sort.Search(len(h.list), func(i int) bool {
		return h.list[i].start > start || h.list[i].start == start && h.list[i].node >= node
	})
}

func (h *heats) add(e heat) {
	i := h.place(e.start, e.node)
	h.list = append(h.list, heat{})
	copy(h.list[i+1:], h.list[i:])
	h.list[i] = e
	h.longest = max(h.longest, e.finish-e.start)
}

// remove takes out one of a node that began at an instant.
func (h *heats) remove(start int64, node int32) {
	if i := h.place(start, node); i < len(h.list) && h.list[i].node == node {
		h.list = append(h.list[:i], h.list[i+1:]...)
	}
}

// from are those that may go on after an instant: all before them are over by then. Mostly few of an evening matter to one run.
func (h *heats) from(t int64) []heat {
	lo, hi := 0, len(h.list)
	for lo < hi {
		if m := int(uint(lo+hi) >> 1); h.list[m].start+h.longest <= t {
			lo = m + 1
		} else {
			hi = m
		}
	}
	return h.list[lo:]
}

// blocked returns whether a run [s, s+length) at c clashes with one that is
// there, and then the nearest starts to try: after the clash and before it.
func (r *resource) blocked(h *heats, s, length int64, c setpoint) (clash bool, after, before int64) {
	t := r.thermostat
	if s < r.slowest {
		if first := changeover(t, standby(t), c); s < first {
			return true, first, -far
		}
	}
	list := h.from(s - r.slowest)
	for i := range list {
		e := &list[i]
		if e.finish+r.slowest <= s {
			continue
		}
		if e.start >= s+length+r.slowest {
			break // sorted by start
		}
		if !differ(t, e.c, c) {
			continue
		}
		toHere, toThere := changeover(t, e.c, c), changeover(t, c, e.c)
		if e.finish+toHere <= s || s+length+toThere <= e.start {
			continue
		}
		return true, e.finish + toHere, e.start - toThere - length
	}
	return false, 0, 0
}
