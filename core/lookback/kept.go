package lookback

import (
	"cmp"
	"math"
	"slices"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/core/workload"
)

// What was kept of an evening: how long things waited after they were done, what was off, what was looked at and was not yet done.

// RealHold is something that waited after it was done, for longer than it may.
type RealHold struct {
	Task    string                `json:"task"`
	What    string                `json:"what"`
	Act     string                `json:"act"`
	Joins   []service.TableCourse `json:"joins" nullable:"false"`
	MayS    float64               `json:"may_s" doc:"How long it may wait, seconds"`
	WaitedS float64               `json:"waited_s" doc:"How long it waited"`
}

// overS is by how much something waited longer than it may.
func (h *RealHold) overS() float64 { return h.WaitedS - h.MayS }

// heldS is from how many seconds too long a wait counts: taps are not more exact. Common practice, no source.
const heldS = 15.0

// OffSpell is for how long something was off.
type OffSpell struct {
	Kind  string     `json:"kind" enum:"dish,component,variant"`
	About string     `json:"about" doc:"Its id"`
	Name  string     `json:"name"`
	At    time.Time  `json:"at"`
	Until *time.Time `json:"until,omitempty" doc:"None where it stayed off"`
	Left  int        `json:"left" doc:"How many were left then"`
}

// keeps reads how long things waited: from when they were said to be done until what they were for was begun, or left without its plating.
func (n *Night) keeps(e *expand.Evening) {
	by := map[string]*RealStep{}
	for i := range n.Steps {
		by[n.Steps[i].Task] = &n.Steps[i]
	}
	long := map[string]float64{}
	for i := range e.Workload.Tasks {
		long[e.Workload.Tasks[i].ID] = float64(e.Workload.Tasks[i].Seconds)
	}
	worst := map[string]*RealHold{}
	for i := range e.Workload.Links {
		l := &e.Workload.Links[i]
		most := e.Hold(l)
		if l.Max != nil {
			most = *l.Max
		}
		if l.Kind != workload.FinishStart && l.Kind != "" || most < 0 {
			continue
		}
		from := l.From
		if ref, ok := e.RefOf(from); ok && ref.Main != "" {
			from = ref.Main
		}
		s := by[from]
		if s == nil || s.Again > 0 {
			continue
		}
		done, said := s.EndsAt()
		used, known := n.usedAt(e, l.To, by, long)
		if !said || !known || used.Before(done) {
			continue
		}
		h := &RealHold{Task: s.Task, What: s.What, Act: s.Act, Joins: s.Joins, MayS: float64(most), WaitedS: used.Sub(done).Seconds()}
		if o := worst[s.Task]; o == nil || h.overS() > o.overS() {
			worst[s.Task] = h
		}
	}
	n.Holds = []RealHold{}
	for _, task := range sorted(worst) {
		if h := worst[task]; h.overS() > heldS {
			n.Holds = append(n.Holds, *h)
		} else {
			n.Kept++
		}
	}
	slices.SortStableFunc(n.Holds, func(a, b RealHold) int { return cmp.Compare(b.overS(), a.overS()) })
}

// usedAt is when what waits for something was begun: a run as it was said; a plating its own length before its course left, a course when
// it left. False where nobody said so.
func (n *Night) usedAt(e *expand.Evening, to string, by map[string]*RealStep, long map[string]float64) (time.Time, bool) {
	if s := by[to]; s != nil {
		if s.At == nil {
			return time.Time{}, false
		}
		return *s.At, true
	}
	ref, plating := e.RefOf(to)
	if _, course := e.CourseByID(to); !course && !(plating && ref.Plating) {
		return time.Time{}, false
	}
	joins := []string{to}
	if plating && ref.Plating {
		joins = e.JoinsOf(to)
	}
	first, known := time.Time{}, false
	for _, id := range joins {
		x, ok := e.CourseByID(id)
		if !ok {
			continue
		}
		at, left := n.left[service.TableCourse{Table: x.Table, Course: x.Course, Round: x.Round}]
		if left && (!known || at.Before(first)) {
			first, known = at, true
		}
	}
	return first.Add(-time.Duration(long[to] * float64(time.Second))), known
}

// offs reads what was off, and for how long. name says what a dish or a component is called.
func (n *Night) offs(log []service.Event, undone map[string]bool, zone *time.Location, name func(kind, id string) string) {
	n.Off = []OffSpell{}
	open := map[string]int{}
	for i := range log {
		e := &log[i]
		if e.Kind != service.Off && e.Kind != service.On || undone[e.ID] {
			continue
		}
		kind, about := "dish", e.Dish
		switch {
		case e.Component != "":
			kind, about = "component", e.Component
		case e.Variant != "":
			kind, about = "variant", e.Dish+"/"+e.Variant
		}
		at := e.At.In(zone)
		k, is := open[kind+about]
		if is && (e.Kind == service.On || e.Left == nil || *e.Left == 0) {
			if e.Kind == service.On {
				n.Off[k].Until = &at
				delete(open, kind+about)
			} else {
				n.Off[k].Left = 0 // fewer were left, then none
			}
			continue
		}
		if e.Kind == service.On {
			continue
		}
		left := 0
		if e.Left != nil {
			left = *e.Left
		}
		if !is {
			open[kind+about] = len(n.Off)
			n.Off = append(n.Off, OffSpell{Kind: kind, About: about, Name: name(kind, cmp.Or(e.Component, e.Dish)), At: at, Left: left})
		}
	}
}

// looks counts how often something was looked at and was not yet done.
func (n *Night) looks(log []service.Event, undone map[string]bool) {
	by := map[string]int{}
	for i := range log {
		if log[i].Kind == service.More && !undone[log[i].ID] {
			by[log[i].Task]++
		}
	}
	for i := range n.Steps {
		n.Steps[i].NotYet = by[n.Steps[i].Task]
		n.NotYet += n.Steps[i].NotYet
	}
	n.HeldS = 0
	for i := range n.Holds {
		n.HeldS += math.Max(0, n.Holds[i].overS())
	}
}

// cuts marks what takes hands and was interrupted: whoever did it was called away meanwhile. name says what a person is called.
func (n *Night) cuts(log []service.Event, undone map[string]bool, name func(id string) string) {
	type spell struct {
		who      string
		from, to time.Time
	}
	var away []spell
	open := map[string]int{}
	for i := range log {
		e := &log[i]
		if e.Who == "" || undone[e.ID] {
			continue
		}
		switch e.Kind {
		case service.Out:
			open[e.Who] = len(away)
			away = append(away, spell{who: name(e.Who), from: e.At, to: log[len(log)-1].At})
		case service.In:
			if k, is := open[e.Who]; is {
				away[k].to = e.At
				delete(open, e.Who)
			}
		}
	}
	for i := range n.Steps {
		s := &n.Steps[i]
		end, done := s.EndsAt()
		if !done || s.hands == kitchen.None {
			continue
		}
		s.Cut = slices.ContainsFunc(away, func(a spell) bool {
			return slices.Contains(s.People, a.who) && a.from.Before(end) && s.At.Before(a.to)
		})
	}
}
