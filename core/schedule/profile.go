package schedule

import "sort"

// profile is the use of one resource over time as a step function: use[i] units
// from at[i] until at[i+1]. The first step starts before all times, the last one
// never ends. Changing it costs a binary search and a short copy; looking for
// room reads neighbouring memory, which is what the search does most.
type profile struct {
	capacity int64
	at       []int64
	use      []int64
}

func newProfile(r *resource) *profile {
	f := &profile{capacity: r.capacity, at: []int64{-2 * far}, use: []int64{0}}
	for _, b := range r.blocks {
		f.add(b.from, b.to, b.units)
	}
	return f
}

// step returns the index of the step that holds t.
func (f *profile) step(t int64) int {
	return sort.Search(len(f.at), func(i int) bool { return f.at[i] > t }) - 1
}

// split makes t a boundary and returns its index.
func (f *profile) split(t int64) int {
	i := f.step(t)
	if f.at[i] == t {
		return i
	}
	f.at = append(f.at, 0)
	f.use = append(f.use, 0)
	copy(f.at[i+2:], f.at[i+1:])
	copy(f.use[i+2:], f.use[i+1:])
	f.at[i+1], f.use[i+1] = t, f.use[i]
	return i + 1
}

func (f *profile) merge(i int) {
	if i > 0 && i < len(f.at) && f.use[i] == f.use[i-1] {
		f.at = append(f.at[:i], f.at[i+1:]...)
		f.use = append(f.use[:i], f.use[i+1:]...)
	}
}

// add takes units over [from, to); negative units give them back.
func (f *profile) add(from, to, units int64) {
	if from >= to {
		return
	}
	i := f.split(from)
	j := f.split(to)
	for k := i; k < j; k++ {
		f.use[k] += units
	}
	f.merge(j)
	f.merge(i)
}

// fits reports whether units are free over all of [from, to).
func (f *profile) fits(from, to, units int64) bool {
	if from >= to {
		return true
	}
	for i := f.step(from); i < len(f.at) && f.at[i] < to; i++ {
		if f.use[i]+units > f.capacity {
			return false
		}
	}
	return true
}

// earliest returns the first start s ≥ from at which units are free for length
// seconds; ok is false when there is none at or before limit.
func (f *profile) earliest(from, limit, length, units int64) (int64, bool) {
	if length == 0 {
		return from, from <= limit
	}
	s := from
	for i := f.step(from); i < len(f.at) && s <= limit; i++ {
		if f.at[i] >= s+length {
			return s, true
		}
		if f.use[i]+units > f.capacity {
			if i+1 == len(f.at) {
				return far, false
			}
			s = max(s, f.at[i+1])
		}
	}
	return s, s <= limit
}

// latest returns the last start s ≤ from at which units are free for length
// seconds; ok is false when there is none at or after limit.
func (f *profile) latest(from, limit, length, units int64) (int64, bool) {
	if length == 0 {
		return from, from >= limit
	}
	s := from
	for i := f.step(s + length - 1); i >= 0 && s >= limit; i-- {
		if f.use[i]+units > f.capacity {
			if i == 0 {
				return -far, false
			}
			s = min(s, f.at[i]-length)
		}
		if f.at[i] <= s {
			return s, s >= limit
		}
	}
	return s, s >= limit
}

// boundaryAfter and boundaryBefore are the next instants at which the use
// changes, strictly after or before t.
func (f *profile) boundaryAfter(t int64) int64 {
	if i := f.step(t) + 1; i < len(f.at) {
		return f.at[i]
	}
	return far
}

func (f *profile) boundaryBefore(t int64) int64 {
	if i := f.step(t - 1); i >= 0 {
		return f.at[i]
	}
	return -far
}

// A heat is one run on a thermostat resource with the temperature it asks for.
type heat struct {
	start, finish int64
	c             setpoint
	node          int32
}

// heats is what a thermostat resource is asked for, sorted by start.
type heats []heat

func (h heats) add(e heat) heats {
	i := sort.Search(len(h), func(i int) bool {
		return h[i].start > e.start || h[i].start == e.start && h[i].node >= e.node
	})
	h = append(h, heat{})
	copy(h[i+1:], h[i:])
	h[i] = e
	return h
}

func (h heats) remove(node int32) heats {
	for i := range h {
		if h[i].node == node {
			return append(h[:i], h[i+1:]...)
		}
	}
	return h
}

// blocked returns whether a run [s, s+length) at c clashes with one that is
// there, and then the nearest starts to try: after the clash and before it.
func (r *resource) blocked(h heats, s, length int64, c setpoint) (clash bool, after, before int64) {
	t := r.thermostat
	if s < r.slowest {
		if first := changeover(t, standby(t), c); s < first {
			return true, first, -far
		}
	}
	for i := range h {
		e := &h[i]
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
