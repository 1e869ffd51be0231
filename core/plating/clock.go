package plating

import (
	"jointime/core/message"
	"slices"
)

// Job is one element in a plate's sequence, as the clock sees it.
type Job struct {
	Key     string // what is put on: the same key on several plates is needed once, at the first
	Seconds int    // time of a practised hand, at least 1
	Hands   int    // people at once, 1 or 2
}

// MaxHands bounds the people who plate one table.
const MaxHands = 8

// Clock is the plating clock: when every element of every plate is put down, in
// seconds from the start of plating. All plates are complete at Seconds.
type Clock struct {
	Seconds int
	// Starts[p][e] is when element e of plate p is begun.
	Starts [][]int
	// Exact tells that no order of work is quicker (proved).
	Exact bool
	// First maps each key to its earliest start over all plates: the moment the
	// component is needed.
	First map[string]int
}

// Lead is how long before the last plate is done a key is needed, in seconds.
func (c *Clock) Lead(key string) int { return c.Seconds - c.First[key] }

// exactNodes bounds the search for the quickest order; beyond it the best order
// found stands, and Exact is false. A table of four with five elements stays
// well inside.
const exactNodes = 60_000

// NewClock works out the plating clock for plates that are built side by side by
// a number of hands (people). Elements of a plate go on one after another; hands
// may work on different plates or elements at once. It first finds the shortest
// time, then starts everything as late as that allows, so that nothing waits on
// the plate that could wait in the pan.
//
// The problem is P|chains|Cmax with jobs of one or two machines. Method: list
// schedules by several priority rules against the bounds from the longest plate
// and from the total work; where they differ, depth-first branch and bound over
// the orders of start (every active schedule is such an order).
func NewClock(plates [][]Job, hands int) (Clock, error) {
	if hands < 1 || hands > MaxHands {
		return Clock{}, message.Fail("fault.pass-people", "low", 1, "high", MaxHands, "got", hands)
	}
	for p, plate := range plates {
		for e, j := range plate {
			if j.Seconds < 1 || j.Hands < 1 {
				return Clock{}, message.Fail("fault.element-time", "plate", p+1, "number", e+1, "seconds", j.Seconds, "hands", j.Hands)
			}
			if j.Hands > hands {
				return Clock{}, message.Fail("fault.takes-hands", "what", j.Key, "takes", j.Hands, "people", hands)
			}
		}
	}
	s := newSearch(plates, hands)
	best := s.list(byElement)
	for _, rule := range []rule{byTail, byPlate} {
		if c := s.list(rule); c.length < best.length {
			best = c
		}
	}
	exact := best.length == s.bound()
	if !exact {
		s.best = best
		s.deepen()
		best, exact = s.best, s.nodes < exactNodes
	}
	c := Clock{Seconds: best.length, Exact: exact, Starts: s.asLate(best), First: map[string]int{}}
	for p, plate := range plates {
		for e, j := range plate {
			if first, ok := c.First[j.Key]; !ok || c.Starts[p][e] < first {
				c.First[j.Key] = c.Starts[p][e]
			}
		}
	}
	return c, nil
}

// step is one job in the order of work.
type step struct{ plate, element int }

// order is a sequence of starts with the time it takes.
type order struct {
	steps  []step
	length int
}

// search holds the partial order of work.
type search struct {
	plates [][]Job
	tail   [][]int // tail[p][e]: seconds from the start of element e to the end of plate p
	next   []int   // next element of each plate
	ready  []int   // when each plate may go on
	free   []int   // when each hand is free, sorted
	left   int     // seconds of hands still to be worked
	steps  []step
	best   order
	nodes  int
}

func newSearch(plates [][]Job, hands int) *search {
	s := &search{plates: plates, next: make([]int, len(plates)), ready: make([]int, len(plates)), free: make([]int, hands)}
	for _, plate := range plates {
		t := make([]int, len(plate)+1)
		for e := len(plate) - 1; e >= 0; e-- {
			t[e] = t[e+1] + plate[e].Seconds
			s.left += plate[e].Seconds * plate[e].Hands
		}
		s.tail = append(s.tail, t)
	}
	return s
}

// bound is a lower bound of the time still to come: the longest plate, and the
// work shared by all hands.
func (s *search) bound() int {
	b, work := s.free[len(s.free)-1], s.left
	for _, f := range s.free {
		work += f
	}
	b = max(b, (work+len(s.free)-1)/len(s.free))
	for p := range s.plates {
		b = max(b, max(s.ready[p], s.free[0]*boolInt(s.next[p] < len(s.plates[p])))+s.tail[p][s.next[p]])
	}
	return b
}

func boolInt(b bool) int {
	if b {
		return 1
	}
	return 0
}

// start is when the next job of plate p could begin.
func (s *search) start(p int) int {
	j := &s.plates[p][s.next[p]]
	return max(s.ready[p], s.free[j.Hands-1])
}

// do begins the next job of plate p and returns what undo needs. It takes the
// hands that became free last: the others can still start something sooner.
func (s *search) do(p int) (ready int, free []int) {
	j := &s.plates[p][s.next[p]]
	at := s.start(p)
	ready, free = s.ready[p], slices.Clone(s.free)
	taken := 0
	for h := len(s.free) - 1; h >= 0 && taken < j.Hands; h-- {
		if s.free[h] <= at {
			s.free[h] = at + j.Seconds
			taken++
		}
	}
	slices.Sort(s.free)
	s.ready[p] = at + j.Seconds
	s.left -= j.Seconds * j.Hands
	s.steps = append(s.steps, step{p, s.next[p]})
	s.next[p]++
	return ready, free
}

func (s *search) undo(p, ready int, free []int) {
	s.next[p]--
	j := &s.plates[p][s.next[p]]
	s.left += j.Seconds * j.Hands
	s.ready[p], s.free = ready, free
	s.steps = s.steps[:len(s.steps)-1]
}

// rule compares two plates' next jobs that could start at the same time.
type rule func(s *search, a, b int) bool

// byElement does the same thing on all plates before the next: how a pass works.
func byElement(s *search, a, b int) bool { return s.next[a] < s.next[b] }

// byTail goes on with the plate that has most left.
func byTail(s *search, a, b int) bool {
	return s.tail[a][s.next[a]] > s.tail[b][s.next[b]]
}

// byPlate finishes a plate before the next.
func byPlate(s *search, a, b int) bool { return s.next[a] > s.next[b] }

// list builds an order by a priority rule; ties go to the earlier start, then the
// lower plate.
func (s *search) list(less rule) order {
	var undo []func()
	for {
		pick := -1
		for p := range s.plates {
			if s.next[p] == len(s.plates[p]) {
				continue
			}
			if pick < 0 {
				pick = p
				continue
			}
			a, b := s.start(p), s.start(pick)
			if a < b || a == b && less(s, p, pick) {
				pick = p
			}
		}
		if pick < 0 {
			break
		}
		p := pick
		ready, free := s.do(p)
		undo = append(undo, func() { s.undo(p, ready, free) })
	}
	o := order{slices.Clone(s.steps), s.length()}
	for i := len(undo) - 1; i >= 0; i-- {
		undo[i]()
	}
	return o
}

func (s *search) length() int {
	m := 0
	for _, r := range s.ready {
		m = max(m, r)
	}
	return m
}

// deepen searches all orders of start for a shorter one than best.
func (s *search) deepen() {
	if s.nodes++; s.nodes >= exactNodes {
		return
	}
	if s.bound() >= s.best.length {
		return
	}
	last := 0
	if n := len(s.steps); n > 0 {
		st := s.steps[n-1]
		last = s.ready[st.plate] - s.plates[st.plate][st.element].Seconds
	}
	done := true
	for p := range s.plates {
		if s.next[p] == len(s.plates[p]) {
			continue
		}
		done = false
		// Orders are in the order of start; and of two plates in the same state only
		// the first is tried.
		if s.start(p) < last || s.twin(p) {
			continue
		}
		ready, free := s.do(p)
		s.deepen()
		s.undo(p, ready, free)
	}
	if done && s.length() < s.best.length {
		s.best = order{slices.Clone(s.steps), s.length()}
	}
}

// twin reports whether an earlier plate is in the same state as p.
func (s *search) twin(p int) bool {
	for q := range p {
		if s.next[q] == s.next[p] && s.ready[q] == s.ready[p] && slices.Equal(s.plates[q], s.plates[p]) {
			return true
		}
	}
	return false
}

// asLate keeps the order of work and starts every job as late as the total time
// allows: the same order walked backwards with the hands of the forward pass.
func (s *search) asLate(o order) [][]int {
	// The backward pass is a list schedule in reverse order, on reversed time.
	ready, free := make([]int, len(s.plates)), make([]int, len(s.free))
	starts := make([][]int, len(s.plates))
	for p, plate := range s.plates {
		starts[p] = make([]int, len(plate))
	}
	end := 0
	for i := len(o.steps) - 1; i >= 0; i-- {
		st := o.steps[i]
		j := s.plates[st.plate][st.element]
		at := max(ready[st.plate], free[j.Hands-1])
		taken := 0
		for h := len(free) - 1; h >= 0 && taken < j.Hands; h-- {
			if free[h] <= at {
				free[h] = at + j.Seconds
				taken++
			}
		}
		slices.Sort(free)
		ready[st.plate] = at + j.Seconds
		starts[st.plate][st.element] = at + j.Seconds
		end = max(end, at+j.Seconds)
	}
	if end > o.length {
		return s.replay(o) // reversing may fit worse; then the forward times stand
	}
	for p := range starts {
		for e := range starts[p] {
			starts[p][e] = o.length - starts[p][e]
		}
	}
	return starts
}

// replay returns the forward times of an order.
func (s *search) replay(o order) [][]int {
	starts := make([][]int, len(s.plates))
	for p, plate := range s.plates {
		starts[p] = make([]int, len(plate))
	}
	for _, st := range o.steps {
		starts[st.plate][st.element] = s.start(st.plate)
		s.do(st.plate)
	}
	return starts
}
