// Package simulate plays services before they happen: a kitchen's evening as discrete events, from a seed and a policy by which its cooks
// decide when to begin something. It is pure: no clock but its own, and the same seed plays the same night.
//
//	kernel.go   events in the order of time; who waits for hands and places
//	kitchen.go  an evening and its plan as pieces of work
//	chance.go   what differs from night to night, the same for every policy
//	night.go    one night by one policy
//	policy.go   the policies
//	rehearse.go many nights, and what they say
package simulate

import (
	"cmp"
	"container/heap"
	"slices"
)

// sim is a clock with what is still to happen, and with what is taken and waited for.
type sim struct {
	now     float64
	next    agenda
	count   int
	free    map[string]int64 // units of each resource
	waiting []*waiter        // in the order in which they are served
}

// moment is something that happens.
type moment struct {
	at    float64
	turn  int // at one instant: what ends comes before what begins
	count int
	do    func()
}

type agenda []moment

func (a agenda) Len() int { return len(a) }
func (a agenda) Less(i, j int) bool {
	return cmp.Or(cmp.Compare(a[i].at, a[j].at), cmp.Compare(a[i].turn, a[j].turn), cmp.Compare(a[i].count, a[j].count)) < 0
}
func (a agenda) Swap(i, j int) { a[i], a[j] = a[j], a[i] }

// Push and Pop are what container/heap wants.
func (a *agenda) Push(x any) { *a = append(*a, x.(moment)) }

// Pop takes the last.
func (a *agenda) Pop() any {
	old := *a
	x := old[len(old)-1]
	*a = old[:len(old)-1]
	return x
}

// The turns at one instant.
const (
	ends = iota
	begins
)

// at has something happen, at once where its time has passed.
func (s *sim) at(t float64, turn int, do func()) {
	s.count++
	heap.Push(&s.next, moment{max(t, s.now), turn, s.count, do})
}

// run goes on until nothing is left to happen, or until a time.
func (s *sim) run(until float64) {
	for len(s.next) > 0 && s.next[0].at <= until {
		m := heap.Pop(&s.next).(moment)
		s.now = m.at
		m.do()
	}
}

// take is so many units of a resource.
type take struct {
	of    string
	units int64
}

// waiter waits for all that it takes at once. Of those who can be served, the one with the least order goes first.
type waiter struct {
	takes [][]take // any of these will do, the first that is free
	order float64
	since float64
	count int
	keeps bool // what it waits for is kept free for it: nobody later in the order takes of that
	do    func(got []take)
}

// seize gives somebody all that they take as soon as it is all free, and tells them.
func (s *sim) seize(takes []take, order float64, do func()) {
	s.queue([][]take{takes}, order, false, func([]take) { do() })
}

// queue is seize where others will do as well: the first of what is asked for that is free is given. For somebody who keeps it the others
// make room for the first of it: a table's plates, for which two have to stand there with free hands.
func (s *sim) queue(takes [][]take, order float64, keeps bool, do func(got []take)) *waiter {
	s.count++
	w := &waiter{takes, order, s.now, s.count, keeps, do}
	at, _ := slices.BinarySearchFunc(s.waiting, w, func(a, b *waiter) int {
		return cmp.Or(cmp.Compare(a.order, b.order), cmp.Compare(a.count, b.count))
	})
	s.waiting = slices.Insert(s.waiting, at, w)
	s.serve()
	return w
}

// serveWith gives somebody who waits something else at once, which is free; false where they do not wait any more.
func (s *sim) serveWith(w *waiter, takes []take) bool {
	at := slices.Index(s.waiting, w)
	if at < 0 {
		return false
	}
	for _, t := range takes {
		s.free[t.of] -= t.units
	}
	s.waiting = slices.Delete(s.waiting, at, at+1)
	w.do(takes)
	return true
}

// release gives back what was taken.
func (s *sim) release(takes []take) {
	for _, t := range takes {
		s.free[t.of] += t.units
	}
	s.at(s.now, begins, s.serve)
}

func (s *sim) can(takes []take) bool {
	for _, t := range takes {
		if s.free[t.of] < t.units {
			return false
		}
	}
	return true
}

// serve gives to whoever can be served, in their order.
func (s *sim) serve() {
	kept := map[string]bool{}
	for i := 0; i < len(s.waiting); {
		w := s.waiting[i]
		k := slices.IndexFunc(w.takes, func(takes []take) bool {
			return s.can(takes) && !slices.ContainsFunc(takes, func(t take) bool { return kept[t.of] })
		})
		if k < 0 {
			for _, t := range w.takes[0] {
				kept[t.of] = kept[t.of] || w.keeps
			}
			i++
			continue
		}
		for _, t := range w.takes[k] {
			s.free[t.of] -= t.units
		}
		s.waiting = slices.Delete(s.waiting, i, i+1)
		w.do(w.takes[k])
	}
}
