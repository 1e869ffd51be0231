package schedule

import "math"

// How much worse a schedule may be to be gone on from: much at first, so that the order of a whole evening comes about, and less and less,
// so that it settles.
//
// Source of the method: simulated annealing, Kirkpatrick, Gelatt & Vecchi, Science 220 (1983), with geometric cooling; the temperature is
// a share of the best cost found, so that it needs no tuning to what an evening costs.

// Temperatures: of a search from nothing, of one that goes on from the best, of one from what has been told, and the last of all.
const (
	hottest  = 1.0
	reheated = 0.3
	gentle   = 0.05
	coldest  = 0.0004
)

// hotFor is up to how many tasks a search begins as hot as that.
const hotFor = 1500

// heat is how hot a search begins: near what has been told it stays, and where something was told and there are few rounds, it mends that
// rather than begin anew.
func (s *solver) heat() float64 {
	few := s.o.Rounds > 0 && s.o.Rounds < manyRounds
	if s.near() || s.o.Previous != nil && few {
		return gentle
	}
	return s.hot(hottest)
}

// hot is a temperature by how many tasks there are: the share of the cost that is right for an evening lets so much come apart in one of
// several thousand tasks, where each is a smaller part of the cost, that a cycle does not put it together again.
func (s *solver) hot(as float64) float64 {
	part := hotFor / max(float64(s.p.tasks), hotFor)
	return as * part * part
}

// near reports whether a search stays near what has been told.
func (s *solver) near() bool { return s.o.Previous != nil && s.o.MovePrice > 0 }

// heatUp begins a cycle of so many rounds.
func (m *improver) heatUp(hot float64, rounds int) {
	m.hot, m.cycle, m.cooled, m.idle = hot, rounds, 0, 0
	m.stray = oftenAny
	if hot <= gentle {
		m.stray = seldomAny
	}
}

// temperature is by how much worse a schedule is taken in the mean, as a share of the best.
func (m *improver) temperature() float64 {
	if m.cooled >= m.cycle {
		return coldest
	}
	return m.hot * math.Pow(coldest/m.hot, float64(m.cooled)/float64(m.cycle))
}

// solution is a complete schedule and its cost.
type solution struct {
	cost int64
	x    []int64
	on   [][]int32
}

// take keeps a schedule if it is better.
func (b *solution) take(m *improver) bool {
	if b.x != nil && m.best >= b.cost {
		return false
	}
	b.cost, b.x = m.best, append(b.x[:0], m.bestX...)
	if b.on == nil {
		b.on = make([][]int32, len(m.bestOn))
	}
	for v := range m.bestOn {
		b.on[v] = append(b.on[v][:0], m.bestOn[v]...)
	}
	return true
}

// goOnFrom puts a schedule into the search as the best that it has.
func (m *improver) goOnFrom(x []int64, on [][]int32) {
	m.adopt(x, on)
	m.keep()
}
