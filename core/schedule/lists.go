package schedule

import (
	"context"
	"slices"
)

// lists searches for a short makespan over priority lists: serial generation
// forwards, then the justification of every run to the right and back to the left.
//
// Source of the method: serial generation, Kelley (1963); forward–backward
// improvement, Li & Willis, EJOR 56 (1992), Valls, Ballestín & Quintanilla, EJOR
// 165 (2005).
func (m *improver) lists(ctx context.Context, rounds int, bound int64, told func()) {
	var open []int32
	for v := range m.p.n {
		if !m.p.fixed[v] {
			open = append(open, int32(v))
		}
	}
	if len(open) == 0 {
		return
	}
	order := make([]int64, m.p.n)
	for i := 0; i < rounds && m.best > bound; i++ {
		if i&7 == 0 && ctx.Err() != nil {
			return
		}
		// Disturb the order of the present schedule in a stretch of it.
		strength := []int64{4, 12, 30, 100}[m.rng.IntN(4)]
		length := max(1, m.p.length(m.bestX))
		from := m.rng.Int64N(length)
		to := from + length/[]int64{2, 4, 8}[m.rng.IntN(3)]
		for _, v := range open {
			order[v] = 16 * m.x[v]
			if m.x[v] >= from && m.x[v] <= to {
				order[v] += m.rng.Int64N(2*strength*length/100*16+1) - strength*length/100*16
			}
		}
		m.pick = m.rng.Uint32()
		if !m.serial(open, order, forward) {
			m.adopt(m.bestX, m.bestOn)
			continue
		}
		m.justify(open, order)
		m.current = m.p.cost(m.x)
		if m.current < m.best {
			m.keep()
			if told != nil {
				told()
			}
		} else if m.current > m.best+m.best/int64(20+m.rng.IntN(200)) {
			m.adopt(m.bestX, m.bestOn)
		}
	}
	m.adopt(m.bestX, m.bestOn)
}

// serial builds the schedule anew in the order of keys, small ones first going
// forward, large ones first going backward.
func (m *builder) serial(open []int32, order []int64, d direction) bool {
	m.tried++
	end := m.p.horizon
	if d == backward {
		end = m.p.length(m.x)
	}
	for _, v := range open {
		if m.placed[v] {
			m.take(int(v))
		}
	}
	m.refresh(open)
	// waiting counts the predecessors (successors, going backwards) not placed.
	waiting := make([]int32, m.p.n)
	arcsIn, arcsOut := m.p.in, m.p.out
	if d == backward {
		arcsIn, arcsOut = m.p.out, m.p.in
	}
	// precedes is asked of an arc as it runs, whichever way the schedule is built.
	precedes := func(v int32, a arc) bool {
		if d == backward {
			return m.p.precedes(v, a.other, a.w)
		}
		return m.p.precedes(a.other, v, a.w)
	}
	bodies := 0
	for _, v := range open {
		for _, a := range arcsIn[v] {
			if !m.placed[a.other] && precedes(v, a) {
				waiting[m.p.lead[v]]++
			}
		}
		if m.p.leads(v) {
			bodies++
		}
	}
	h := readyHeap{order: order, sign: int64(d)}
	steps := 0
	for _, v := range open {
		if m.p.leads(v) && waiting[v] == 0 {
			h.push(v)
		}
	}
	done := 0
	for len(h.list) > 0 {
		v := h.pop()
		if steps++; steps&1023 == 0 && m.ctx.Err() != nil {
			return false
		}
		var at int64
		var ok bool
		if d == forward {
			at, ok = m.room(int(v), m.est[v], m.lst[v], forward)
		} else {
			at, ok = m.room(int(v), min(m.lst[v], end-m.p.tail[v]), m.est[v], backward)
		}
		switch {
		case ok && m.est[v] <= m.lst[v]:
			m.place(int(v), at)
		case !m.forcing:
			return false
		default:
			m.force(&group{join: -1, nodes: m.p.body[v]})
			m.push(v)
			m.settle()
		}
		done++
		for _, b := range m.p.body[v] {
			for _, a := range arcsOut[b] {
				next := m.p.lead[a.other]
				if m.placed[a.other] || d == forward && !m.p.precedes(b, a.other, a.w) || d == backward && !m.p.precedes(a.other, b, a.w) {
					continue
				}
				if waiting[next]--; waiting[next] == 0 {
					h.push(next)
				}
			}
		}
	}
	return done == bodies
}

// justify moves every run as late as the makespan allows, then back as early as it
// can; what fails leaves the schedule as it was.
func (m *improver) justify(open []int32, order []int64) {
	for {
		length := m.p.length(m.x)
		x := slices.Clone(m.x)
		on := make([][]int32, m.p.n)
		for v := range on {
			on[v] = slices.Clone(m.on[v])
		}
		for _, v := range open {
			order[v] = m.x[v] + m.p.dur[v]
		}
		ok := m.serial(open, order, backward)
		if ok {
			for _, v := range open {
				order[v] = m.x[v]
			}
			ok = m.serial(open, order, forward)
		}
		if !ok || m.p.length(m.x) > length {
			m.adopt(x, on)
			return
		}
		if m.p.length(m.x) == length {
			return
		}
	}
}

// readyHeap holds the nodes that may be placed, by key and then by index.
type readyHeap struct {
	order []int64
	sign  int64
	list  []int32
}

func (h *readyHeap) less(a, b int32) bool {
	x, y := h.sign*h.order[a], h.sign*h.order[b]
	return x < y || x == y && a < b
}

func (h *readyHeap) push(v int32) {
	h.list = append(h.list, v)
	for i := len(h.list) - 1; i > 0; {
		up := (i - 1) / 2
		if !h.less(h.list[i], h.list[up]) {
			return
		}
		h.list[i], h.list[up] = h.list[up], h.list[i]
		i = up
	}
}

func (h *readyHeap) pop() int32 {
	top := h.list[0]
	last := len(h.list) - 1
	h.list[0] = h.list[last]
	h.list = h.list[:last]
	for i := 0; ; {
		c := 2*i + 1
		if c >= last {
			return top
		}
		if c+1 < last && h.less(h.list[c+1], h.list[c]) {
			c++
		}
		if !h.less(h.list[c], h.list[i]) {
			return top
		}
		h.list[i], h.list[c] = h.list[c], h.list[i]
		i = c
	}
}
