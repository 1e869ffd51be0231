package schedule

// profile is the use of one resource over time as a step function: each step holds until the next. The first step starts before all times,
// the last one never ends. Changing it costs a short walk or a binary search, and a short copy; looking for
// room reads neighbouring memory, which is what the search does most.
type profile struct {
	capacity int64
	steps    []use
	last     int // the step that was asked for last
}

// use is how many units are taken from an instant on.
type use struct{ at, units int64 }

func newProfile(r *resource) *profile {
	f := &profile{capacity: r.capacity, steps: []use{{-2 * far, 0}}}
	for _, b := range r.blocks {
		f.add(b.from, b.to, b.units)
	}
	return f
}

// nearStep is how many steps away from the last one that was asked for the next is looked for one by one.
const nearStep = 6

// step returns the index of the step that holds t. What is asked for lies mostly beside what was asked for last.
func (f *profile) step(t int64) int {
	at, i := f.steps, f.last
	if i >= len(at) {
		i = len(at) - 1
	}
	lo, hi := 0, len(at)
	if at[i].at <= t {
		for k := 0; ; k++ {
			if i+1 == len(at) || at[i+1].at > t {
				f.last = i
				return i
			}
			if i++; k == nearStep {
				lo = i
				break
			}
		}
	} else {
		for k := 0; ; k++ {
			if i--; at[i].at <= t {
				f.last = i
				return i
			}
			if k == nearStep {
				hi = i
				break
			}
		}
	}
	for hi-lo > 1 { // at[lo] ≤ t, and t < at[hi] where there is one
		if m := int(uint(lo+hi) >> 1); at[m].at <= t {
			lo = m
		} else {
			hi = m
		}
	}
	f.last = lo
	return lo
}

// add takes units over [from, to); negative units give them back. Boundaries come and go at both ends, and what lies behind them is moved
// once.
func (f *profile) add(from, to, units int64) {
	if from >= to || units == 0 {
		return
	}
	i := f.step(from)
	st := f.steps
	j := i
	for j+1 < len(st) && st[j+1].at <= to {
		j++
	}
	first, next := i, j // the steps that are changed: from first up to next
	var pre, post, noStart, noEnd int
	before, atEnd := st[i].units, st[j].units
	if st[i].at < from {
		first, pre = i+1, 1
	} else if i > 0 && before+units == st[i-1].units {
		noStart = 1
	}
	if st[j].at < to {
		next, post = j+1, 1
	} else if st[j-1].units+units == atEnd {
		noEnd = 1
	}
	for k := first; k < next; k++ {
		st[k].units += units
	}
	n := len(st)
	by := pre + post - noStart - noEnd
	shift := pre - noStart
	if by > 0 {
		for range by {
			st = append(st, use{})
		}
		copy(st[next+noEnd+by:], st[next+noEnd:n])
	}
	if shift != 0 && first+noStart < next {
		copy(st[first+pre:], st[first+noStart:next])
	}
	if by < 0 {
		copy(st[next+noEnd+by:], st[next+noEnd:])
		st = st[:n+by]
	}
	if pre > 0 {
		st[first] = use{from, before + units}
	}
	if post > 0 {
		st[next+shift] = use{to, atEnd}
	}
	f.steps = st
}

// fits reports whether units are free over all of [from, to).
func (f *profile) fits(from, to, units int64) bool {
	if from >= to {
		return true
	}
	most := f.capacity - units
	for _, s := range f.steps[f.step(from):] {
		if s.at >= to {
			break
		}
		if s.units > most {
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
	for i := f.step(from); i < len(f.steps) && s <= limit; i++ {
		if f.steps[i].at >= s+length {
			return s, true
		}
		if f.steps[i].units+units > f.capacity {
			if i+1 == len(f.steps) {
				return far, false
			}
			s = max(s, f.steps[i+1].at)
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
		if f.steps[i].units+units > f.capacity {
			if i == 0 {
				return -far, false
			}
			s = min(s, f.steps[i].at-length)
		}
		if f.steps[i].at <= s {
			return s, s >= limit
		}
	}
	return s, s >= limit
}

// boundaryAfter and boundaryBefore are the next instants at which the use
// changes, strictly after or before t.
func (f *profile) boundaryAfter(t int64) int64 {
	if i := f.step(t) + 1; i < len(f.steps) {
		return f.steps[i].at
	}
	return far
}

func (f *profile) boundaryBefore(t int64) int64 {
	if i := f.step(t - 1); i >= 0 {
		return f.steps[i].at
	}
	return -far
}
