package plating

import (
	"jointime/core/message"
	"math"
)

// MaxLinePeople bounds the people of a plating line.
const MaxLinePeople = 20

// Line is the plating line of a banquet: people stand side by side, plates go from one
// station to the next, and leave in rounds of as many as the pass takes. All plates are
// alike. Seconds count from the first touch.
type Line struct {
	Stations []Station `json:"stations" nullable:"false" doc:"From the first to the last along the line"`
	Plates   int       `json:"plates"`
	People   int       `json:"people"`
	// CycleS is the time between two finished plates when the line runs: that of the
	// slowest station.
	CycleS   float64 `json:"cycle_s"`
	ThroughS int     `json:"through_s" doc:"One plate, from its first element to its last"`
	LastS    int     `json:"last_s" doc:"When the last plate is done"`
	// PerMinute counts the plates from the first to the last one done; 0 for a single
	// plate.
	PerMinute float64 `json:"per_minute"`
	Rounds    []Round `json:"rounds" nullable:"false"`
}

// Station is a stretch of the sequence that one or several people do.
type Station struct {
	From    int     `json:"from" doc:"Number of its first element"`
	To      int     `json:"to" doc:"Number of its last element"`
	People  int     `json:"people"`
	Seconds int     `json:"seconds" doc:"One plate at this station"`
	Teams   int     `json:"teams" doc:"Plates that are worked on here at once"`
	CycleS  float64 `json:"cycle_s" doc:"Seconds between two plates that it lets through"`
}

// Round is a pass full of plates that leave together.
type Round struct {
	Plates int `json:"plates"`
	FirstS int `json:"first_s" doc:"When its first plate is done"`
	LeaveS int `json:"leave_s" doc:"When its last plate is done and all leave"`
}

// NewLine divides the elements of one plate between people so that the slowest station
// is as quick as it can be, and works out when every plate is done. A station is a run
// of neighbouring elements with its own people; where something takes two people at
// once they work in pairs, else everyone works on a plate of their own. room is how many
// plates the pass takes, 0 for all.
//
// The division is exact: the smallest bottleneck by dynamic programming over elements
// and people (the linear partition problem with parallel servers), the fewest stations
// among equals. The times follow from running the line: a plate starts at a station when
// it has left the one before and a team is free.
func NewLine(jobs []Job, plates, people, room int) (Line, error) {
	switch {
	case plates < 1 || plates > 2000:
		return Line{}, message.Fail("fault.line-plates", "low", 1, "high", 2000, "got", plates)
	case people < 1 || people > MaxLinePeople:
		return Line{}, message.Fail("fault.line-people", "low", 1, "high", MaxLinePeople, "got", people)
	case len(jobs) == 0:
		return Line{}, message.Fail("plate.empty")
	}
	for i, j := range jobs {
		if j.Hands > people {
			return Line{}, message.Fail("fault.element-hands", "number", i+1, "takes", j.Hands, "people", people)
		}
	}
	l := Line{Plates: plates, People: people, Stations: divide(jobs, people), Rounds: []Round{}}
	for _, s := range l.Stations {
		l.CycleS = math.Max(l.CycleS, s.CycleS)
		l.ThroughS += s.Seconds
	}
	done := l.run()
	l.LastS = done[plates-1]
	if span := l.LastS - done[0]; span > 0 {
		l.PerMinute = 60 * float64(plates-1) / float64(span)
	}
	if room <= 0 {
		room = plates
	}
	for from := 0; from < plates; from += room {
		to := min(from+room, plates)
		l.Rounds = append(l.Rounds, Round{to - from, done[from], done[to-1]})
	}
	return l, nil
}

// station makes one of the elements [from, to) with so many people; ok is false when
// they are too few.
func station(jobs []Job, from, to, people int) (s Station, ok bool) {
	s = Station{From: from + 1, To: to, People: people, Teams: people}
	for _, j := range jobs[from:to] {
		s.Seconds += j.Seconds
		if j.Hands > 1 {
			s.Teams = people / j.Hands
		}
	}
	if s.Teams == 0 {
		return s, false
	}
	s.CycleS = float64(s.Seconds) / float64(s.Teams)
	return s, true
}

// divide finds the stations with the smallest bottleneck.
func divide(jobs []Job, people int) []Station {
	type state struct {
		cycle    float64
		stations int
		last     Station
	}
	// best[e][p] is the best line of the first e elements with p people.
	best := make([][]state, len(jobs)+1)
	for e := range best {
		best[e] = make([]state, people+1)
		for p := range best[e] {
			best[e][p].cycle = math.Inf(1)
		}
	}
	best[0][0].cycle = 0
	for e := 1; e <= len(jobs); e++ {
		for p := 1; p <= people; p++ {
			for from := range e {
				for q := 1; q <= p; q++ {
					s, ok := station(jobs, from, e, q)
					before := best[from][p-q]
					if !ok || math.IsInf(before.cycle, 1) {
						continue
					}
					cycle := math.Max(before.cycle, s.CycleS)
					if b := best[e][p]; cycle < b.cycle || cycle == b.cycle && before.stations+1 < b.stations {
						best[e][p] = state{cycle, before.stations + 1, s}
					}
				}
			}
		}
	}
	var out []Station
	for e, p := len(jobs), people; e > 0; {
		s := best[e][p].last
		out = append([]Station{s}, out...)
		e, p = s.From-1, p-s.People
	}
	return out
}

// run returns when each plate is done. Plates stay in their order.
func (l *Line) run() []int {
	done := make([]int, l.Plates)
	free := make([][]int, len(l.Stations)) // when each of the last Teams plates left
	for i, s := range l.Stations {
		free[i] = make([]int, s.Teams)
	}
	for k := range done {
		at := 0
		for i, s := range l.Stations {
			at = max(at, free[i][k%s.Teams]) + s.Seconds
			free[i][k%s.Teams] = at
		}
		done[k] = at
	}
	return done
}
