package schedule

import "slices"

// When a body may begin beside what is placed: stretches of time, of all its needs.

// An interval is the instants from one to another, both included. Lists of them are in order and do not touch.
type interval struct{ from, to int64 }

// both appends to out what is in two lists.
func both(out, a, b []interval) []interval {
	for i, k := 0, 0; i < len(a) && k < len(b); {
		if lo, hi := max(a[i].from, b[k].from), min(a[i].to, b[k].to); lo <= hi {
			out = append(out, interval{lo, hi})
		}
		if a[i].to < b[k].to {
			i++
		} else {
			k++
		}
	}
	return out
}

// either appends to out, which is empty, what is in one of two lists.
func either(out, a, b []interval) []interval {
	for len(a) > 0 || len(b) > 0 {
		var x interval
		if len(b) == 0 || len(a) > 0 && a[0].from <= b[0].from {
			x, a = a[0], a[1:]
		} else {
			x, b = b[0], b[1:]
		}
		if n := len(out); n > 0 && x.from <= out[n-1].to+1 {
			out[n-1].to = max(out[n-1].to, x.to)
		} else {
			out = append(out, x)
		}
	}
	return out
}

// without takes the instants strictly between two out of a list.
func without(list []interval, after, before int64) []interval {
	i := 0
	for i < len(list) && list[i].to <= after {
		i++
	}
	k := i
	for k < len(list) && list[k].from < before {
		k++
	}
	if i == k || after >= before {
		return list
	}
	var left [2]interval
	n := 0
	if list[i].from <= after {
		left[n] = interval{list[i].from, after}
		n++
	}
	if list[k-1].to >= before {
		left[n] = interval{before, list[k-1].to}
		n++
	}
	return slices.Replace(list, i, k, left[:n]...)
}

// finder finds intervals; it keeps what it needs for that.
type finder struct{ some, more, one, spare []interval }

// starts leaves in into when a body may begin from lo to hi, each of its needs by itself; none where there is no such instant. A run of
// which the length is chosen is taken to be as short as it may.
func (f *finder) starts(s *state, v int, lo, hi int64, into []interval) []interval {
	into = append(into[:0], interval{lo, hi})
	segs := s.p.segs[v]
	for _, tie := range s.p.ties[v] {
		lo, hi := into[0].from, into[len(into)-1].to
		open := s.lists[:0]
		for _, k := range tie {
			open = append(open, s.open(int(segs[k].node), int(segs[k].need), 0))
		}
		s.lists, f.some = open, f.some[:0]
		for i := range open[0] {
			f.more = append(f.more[:0], interval{lo, hi})
			for n, k := range tie {
				f.one = s.startsOn(f.one[:0], int(open[n][i]), &segs[k], lo, hi)
				f.spare = both(f.spare[:0], f.more, f.one)
				if f.more, f.spare = f.spare, f.more; len(f.more) == 0 {
					break
				}
			}
			f.spare = either(f.spare[:0], f.some, f.more)
			f.some, f.spare = f.spare, f.some
		}
		f.spare = both(f.spare[:0], into, f.some)
		if into, f.spare = f.spare, into; len(into) == 0 {
			break
		}
	}
	return into
}

// startsOn appends to out, which is empty, when the body of a segment may begin from lo to hi so that the segment has room on a resource.
func (s *state) startsOn(out []interval, r int, sg *seg, lo, hi int64) []interval {
	nd := &s.p.needs[sg.node][sg.need]
	out = s.prof[r].starts(out, lo+sg.off, hi+sg.off, sg.dur, nd.units)
	if th := s.p.res[r].thermostat; th != nil && nd.asks() {
		slowest := s.p.res[r].slowest
		out = without(out, -far, changeover(th, standby(th), nd.setpoint))
		list := s.heat[r].from(lo + sg.off - slowest)
		for i := range list {
			e := &list[i]
			if e.finish+slowest <= lo+sg.off {
				continue
			}
			if len(out) == 0 || e.start-slowest >= out[len(out)-1].to+sg.dur {
				break
			}
			if differ(th, e.c, nd.setpoint) {
				out = without(out, e.start-changeover(th, nd.setpoint, e.c)-sg.dur, e.finish+changeover(th, e.c, nd.setpoint))
			}
		}
	}
	for i := range out {
		out[i].from, out[i].to = out[i].from-sg.off, out[i].to-sg.off
	}
	return out
}

// starts appends to out, which is empty, at which instants from lo to hi units are free for length seconds.
func (f *profile) starts(out []interval, lo, hi, length, units int64) []interval {
	if length == 0 {
		return append(out, interval{lo, hi})
	}
	open, from := false, int64(0)
	for _, st := range f.steps[f.step(lo):] {
		if st.at >= hi+length {
			break
		}
		switch at := max(st.at, lo); {
		case st.units+units <= f.capacity:
			if !open {
				open, from = true, at
			}
		case open:
			open = false
			if at-length >= from {
				out = append(out, interval{from, at - length})
			}
		}
	}
	if open && from <= hi {
		out = append(out, interval{from, hi})
	}
	return out
}
