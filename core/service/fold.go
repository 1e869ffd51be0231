package service

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Phase is how far a service is.
type Phase string

// The phases.
const (
	NotOpen Phase = "not-open"
	Open    Phase = "open"
	Over    Phase = "over"
)

// State is what the events of a service say. It holds nothing that is not in them, and is the same for the same events in whatever order
// they came.
type State struct {
	Phase    Phase         `json:"phase" enum:"not-open,open,over"`
	OpenedAt *time.Time    `json:"opened_at,omitempty"`
	ClosedAt *time.Time    `json:"closed_at,omitempty"`
	Events   int           `json:"events" doc:"How many events it is made of"`
	Plan     int64         `json:"plan" doc:"The plan that was told last; 0 for none"`
	Tables   []TableState  `json:"tables" nullable:"false" doc:"By id"`
	Runs     []RunState    `json:"runs" nullable:"false" doc:"Runs of which something was said, by task"`
	Off      []Lack        `json:"off" nullable:"false" doc:"What is off, or running out"`
	Out      []Absence     `json:"out" nullable:"false" doc:"Who and what is not there"`
	Troubles []SaidInWords `json:"troubles" nullable:"false"`
	Settle   []Unsettled   `json:"settle" nullable:"false" doc:"What clashes, to be settled at the pass"`

	matter int // how many events may move the rest
}

// Matters is how many of the events it is made of may move the rest.
func (s *State) Matters() int { return s.matter }

// TableState is a table as far as something was said of it.
type TableState struct {
	ID       string     `json:"id"`
	Name     string     `json:"name"`
	Covers   int        `json:"covers" doc:"0 where nobody said how many they are"`
	SeatedAt *time.Time `json:"seated_at,omitempty"`
	// Came says that nobody said when the table was seated: it follows from what it was sent.
	Came      bool          `json:"came,omitempty" doc:"When it was seated follows only from what it was sent"`
	OrderedAt *time.Time    `json:"ordered_at,omitempty" doc:"When it ordered first"`
	With      string        `json:"with,omitempty" doc:"The table that it sits with"`
	Courses   []CourseState `json:"courses" nullable:"false" doc:"In the order of a meal"`
}

// CourseState is a table's course as far as something was said of it.
type CourseState struct {
	Course  kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	Round   int            `json:"round,omitempty"`
	Plates  []PlateOrder   `json:"plates" nullable:"false"`
	Ordered *Said          `json:"ordered,omitempty"`
	Called  *Said          `json:"called,omitempty"`
	Held    *Said          `json:"held,omitempty" doc:"It waits, until it is called again"`
	Next    *Said          `json:"next,omitempty" doc:"The floor said that they are ready for it"`
	Skipped *Said          `json:"skipped,omitempty"`
	Plated  *Said          `json:"plated,omitempty"`
	Sent    *Said          `json:"sent,omitempty"`
	Back    []SaidInWords  `json:"back" nullable:"false" doc:"What came back, and why"`
}

// RunState is a run of the plan of which something was said.
type RunState struct {
	Task      string        `json:"task"`
	Component string        `json:"component,omitempty"`
	Step      string        `json:"step,omitempty"`
	Section   string        `json:"section,omitempty"`
	Portions  int           `json:"portions,omitempty"`
	Joins     []TableCourse `json:"joins" nullable:"false"`
	Fired     *Said         `json:"fired,omitempty"`
	Ready     *Said         `json:"ready,omitempty"`
	NotBefore *time.Time    `json:"not_before,omitempty" doc:"It is not ready before then: it needs longer"`
	// ProbeUntil is when it is ready by a thermometer, as it was last said; Celsius is the core then.
	ProbeUntil *time.Time    `json:"probe_until,omitempty" doc:"When it is ready by a thermometer"`
	TakenBy    string        `json:"taken_by,omitempty"`
	Again      []SaidInWords `json:"again" nullable:"false" doc:"Portions that must be made again, and why"`
	Celsius    *float64      `json:"celsius,omitempty"`
	Checks     []string      `json:"checks" nullable:"false"`
}

// Said is when something was said, by whom, and whether that follows only from something later.
type Said struct {
	At      time.Time  `json:"at"`
	By      string     `json:"by,omitempty"`
	Event   string     `json:"event" doc:"The id of the event that says so"`
	Implied bool       `json:"implied,omitempty" doc:"Nobody said so: it follows from a later event"`
	For     *time.Time `json:"for,omitempty" doc:"For when"`
}

// SaidInWords is something said in words.
type SaidInWords struct {
	At       time.Time `json:"at"`
	By       string    `json:"by,omitempty"`
	Section  string    `json:"section,omitempty"`
	Event    string    `json:"event"`
	Why      string    `json:"why,omitempty"`
	Portions int       `json:"portions,omitempty"`
}

// Lack is something that is off, or of which so many are left.
type Lack struct {
	Dish      string    `json:"dish,omitempty"`
	Component string    `json:"component,omitempty"`
	Variant   string    `json:"variant,omitempty"`
	Left      int       `json:"left"`
	Since     time.Time `json:"since"`
	Event     string    `json:"event"`
}

// Unsettled is an event that does not fit what was said before it: both are kept, and somebody has to say which holds.
type Unsettled struct {
	Event   string          `json:"event"`
	Against string          `json:"against,omitempty" doc:"The event that it clashes with"`
	Said    message.Message `json:"said"`
}

// Fold is the state after some events, whatever the order in which they came. What was undone did not happen.
func Fold(log []Event) *State {
	s := &State{Phase: NotOpen, Tables: []TableState{}, Runs: []RunState{}, Off: []Lack{}, Out: []Absence{},
		Troubles: []SaidInWords{}, Settle: []Unsettled{}}
	list := slices.Clone(log)
	slices.SortStableFunc(list, func(a, b Event) int { return before(&a, &b) })
	s.Events = len(list)
	for i := range list {
		if list[i].Kind.Matters() {
			s.matter++
		}
	}
	gone := undone(list)
	for i := range list {
		e := &list[i]
		if e.Kind == Undone || gone[e.ID] {
			continue
		}
		if no := s.refuses(e); no != nil {
			s.Settle = append(s.Settle, *no)
			continue
		}
		s.apply(e)
	}
	s.order()
	return s
}

// undone are the events that were taken back. An undoing may be undone itself: the last word counts.
func undone(list []Event) map[string]bool {
	gone := map[string]bool{}
	for i := len(list) - 1; i >= 0; i-- {
		if e := &list[i]; e.Kind == Undone && !gone[e.ID] {
			gone[e.Undoes] = true
		}
	}
	return gone
}

// order puts everything into an order that does not depend on when it was said.
func (s *State) order() {
	slices.SortFunc(s.Tables, func(a, b TableState) int { return cmp.Compare(a.ID, b.ID) })
	for i := range s.Tables {
		slices.SortFunc(s.Tables[i].Courses, func(a, b CourseState) int {
			return cmp.Or(cmp.Compare(slices.Index(kitchen.Courses(), a.Course), slices.Index(kitchen.Courses(), b.Course)),
				cmp.Compare(a.Round, b.Round))
		})
	}
	slices.SortFunc(s.Runs, func(a, b RunState) int { return cmp.Compare(a.Task, b.Task) })
	slices.SortFunc(s.Off, func(a, b Lack) int {
		return cmp.Or(cmp.Compare(a.Dish, b.Dish), cmp.Compare(a.Component, b.Component), cmp.Compare(a.Variant, b.Variant))
	})
	slices.SortFunc(s.Out, func(a, b Absence) int {
		return cmp.Or(cmp.Compare(a.Who, b.Who), cmp.Compare(a.Equipment, b.Equipment))
	})
}

// Table is a table by id, nil where nothing was said of it.
func (s *State) Table(id string) *TableState {
	for i := range s.Tables {
		if s.Tables[i].ID == id {
			return &s.Tables[i]
		}
	}
	return nil
}

// Course is a table's course, nil where nothing was said of it.
func (s *State) Course(j TableCourse) *CourseState {
	t := s.Table(j.Table)
	if t == nil {
		return nil
	}
	for i := range t.Courses {
		if t.Courses[i].Course == j.Course && t.Courses[i].Round == j.Round {
			return &t.Courses[i]
		}
	}
	return nil
}

// Run is a run by its task, nil where nothing was said of it.
func (s *State) Run(task string) *RunState {
	for i := range s.Runs {
		if s.Runs[i].Task == task {
			return &s.Runs[i]
		}
	}
	return nil
}

func (s *State) table(e *Event) *TableState {
	t := s.Table(e.Table)
	if t == nil {
		s.Tables = append(s.Tables, TableState{ID: e.Table, Name: e.Table, Courses: []CourseState{}})
		t = &s.Tables[len(s.Tables)-1]
	}
	if e.Name != "" {
		t.Name = e.Name
	}
	return t
}

func (s *State) course(e *Event) *CourseState {
	t := s.table(e)
	if c := s.Course(e.join()); c != nil {
		return c
	}
	t.Courses = append(t.Courses, CourseState{Course: e.Course, Round: e.Round, Plates: []PlateOrder{}, Back: []SaidInWords{}})
	return &t.Courses[len(t.Courses)-1]
}

func (s *State) run(e *Event) *RunState {
	r := s.Run(e.Task)
	if r == nil {
		s.Runs = append(s.Runs, RunState{Task: e.Task, Joins: []TableCourse{}, Again: []SaidInWords{}, Checks: []string{}})
		r = &s.Runs[len(s.Runs)-1]
	}
	if e.Component != "" {
		r.Component, r.Step, r.Section, r.Portions = e.Component, e.Step, e.Section, e.Portions
	}
	if len(e.Joins) > 0 {
		r.Joins = slices.Clone(e.Joins)
	}
	return r
}

// by is who says an event: the person, else the device.
func (e *Event) by() string { return cmp.Or(e.Person, e.Device) }

func (e *Event) said() *Said { return &Said{At: e.At, By: e.by(), Event: e.ID} }

func (e *Event) implies() *Said { return &Said{At: e.At, By: e.by(), Event: e.ID, Implied: true} }

func (e *Event) word() SaidInWords {
	return SaidInWords{At: e.At, By: e.by(), Section: e.Section, Event: e.ID, Why: e.Why, Portions: e.Portions}
}

// apply takes an event that fits.
func (s *State) apply(e *Event) {
	switch e.Kind {
	case Opened:
		s.Phase, s.OpenedAt, s.ClosedAt = Open, &e.At, nil
	case Closed:
		s.Phase, s.ClosedAt = Over, &e.At
	case Seated:
		t := s.table(e)
		t.SeatedAt, t.Covers, t.Came = &e.At, e.Covers, false
	case Guests:
		s.table(e).Covers = e.Covers
	case Ordered:
		c := s.course(e)
		c.Plates, c.Ordered = slices.Clone(e.Plates), e.said()
		if t := s.table(e); t.OrderedAt == nil {
			t.OrderedAt = &e.At
		}
	case Joined:
		s.table(e).With = e.With
	case Called:
		c := s.course(e)
		c.Called, c.Held = e.said(), nil
		c.Called.For = e.Until
	case Held:
		c := s.course(e)
		c.Held, c.Called = e.said(), nil
	case Next:
		s.course(e).Next = e.said()
	case Skipped:
		s.course(e).Skipped = e.said()
	case Fired:
		r := s.run(e)
		r.Fired, r.Ready, r.NotBefore, r.ProbeUntil = e.said(), nil, nil, nil
	case Ready:
		r := s.run(e)
		if r.Ready = e.said(); r.Fired == nil {
			r.Fired = e.implies()
		}
		r.NotBefore, r.ProbeUntil, r.Celsius, r.Checks = nil, nil, cmp.Or(e.Celsius, r.Celsius), append([]string{}, e.Checks...)
	case More:
		r := s.run(e)
		if r.Fired == nil {
			r.Fired = e.implies()
		}
		at := e.At.Add(time.Duration(e.Minutes) * time.Minute)
		r.NotBefore = &at
	case Probe:
		r := s.run(e)
		if r.Fired == nil {
			r.Fired = e.implies()
		}
		r.ProbeUntil, r.Celsius = e.Until, e.Celsius
	case Again:
		r := s.run(e)
		r.ProbeUntil = nil
		r.Again, r.Fired, r.Ready, r.NotBefore = append(r.Again, e.word()), nil, nil, nil
	case Taken:
		s.run(e).TakenBy = e.Who
	case Plated:
		s.course(e).Plated = e.said()
	case Sent:
		s.sent(e)
	case SentBack:
		c := s.course(e)
		c.Back, c.Sent, c.Plated = append(c.Back, e.word()), nil, nil
	default:
		s.lacks(e)
	}
}

// sent takes that a course has left: everything before that was done, whether somebody said so or not.
func (s *State) sent(e *Event) {
	c := s.course(e)
	c.Sent, c.Held = e.said(), nil
	if c.Plated == nil {
		c.Plated = e.implies()
	}
	if t := s.table(e); t.SeatedAt == nil {
		t.SeatedAt, t.Came = &e.At, true
	}
	for i := range s.Runs {
		r := &s.Runs[i]
		if !slices.Contains(r.Joins, e.join()) || r.Ready != nil {
			continue
		}
		if r.Fired == nil && len(r.Again) > 0 && len(r.Joins) > 1 {
			continue // made again for another table
		}
		r.Ready, r.NotBefore = e.implies(), nil
		if r.Fired == nil {
			r.Fired = e.implies()
		}
	}
}

// lacks takes what is off, out, told, or said in words.
func (s *State) lacks(e *Event) {
	switch e.Kind {
	case Off:
		left := 0
		if e.Left != nil {
			left = *e.Left
		}
		s.on(e)
		s.Off = append(s.Off, Lack{e.Dish, e.Component, e.Variant, left, e.At, e.ID})
	case On:
		s.on(e)
	case Out:
		s.in(e)
		s.Out = append(s.Out, Absence{Who: e.Who, Equipment: e.Equipment, Since: e.At, Until: e.Until, Event: e.ID})
	case In:
		s.in(e)
	case Trouble:
		s.Troubles = append(s.Troubles, e.word())
	case Told:
		s.Plan = e.Plan
	}
}

func (s *State) on(e *Event) {
	s.Off = slices.DeleteFunc(s.Off, func(l Lack) bool { return l.Dish == e.Dish && l.Component == e.Component && l.Variant == e.Variant })
}

func (s *State) in(e *Event) {
	s.Out = slices.DeleteFunc(s.Out, func(a Absence) bool { return a.Who == e.Who && a.Equipment == e.Equipment })
}
