// Package service is what happens between the first guest and the last plate: a log of events that is only added to, the state that is a
// fold over it, which event may follow which state, and what is due at each section. It is pure: the instant comes in.
//
//	event.go  what an event is, and what each kind has to say
//	fold.go   the state after some events, whatever the order in which they came
//	rules.go  what may follow what
//	due.go    what each section does next, and when each join comes together
//	happened.go  what has happened as the beginning of the rest of the plan
//	gate.go   what is not ready before it opens
package service

import (
	"cmp"
	"reflect"
	"slices"
	"time"

	"jointime/core/kitchen"
)

// Kind is what an event says.
type Kind string

// The kinds of event.
const (
	Opened   Kind = "opened"    // the service begins
	Closed   Kind = "closed"    // it ends
	Seated   Kind = "seated"    // a table with its covers is there
	Guests   Kind = "guests"    // a table has more guests, or fewer
	Ordered  Kind = "ordered"   // a table's plates of a course
	Called   Kind = "called"    // its course is away
	Held     Kind = "held"      // its course waits, until it is called again
	Next     Kind = "next"      // the floor says: ready for the course
	Joined   Kind = "joined"    // a table sits with another: their courses go together
	Skipped  Kind = "skipped"   // the table leaves a course out
	Fired    Kind = "fired"     // a run has begun
	Ready    Kind = "ready"     // it is done, with its checks
	More     Kind = "more"      // it needs more minutes
	Probe    Kind = "probe"     // by a thermometer it is ready at another time than was expected
	Again    Kind = "again"     // it must be made again
	Taken    Kind = "taken"     // a cook has it in hand
	Plated   Kind = "plated"    // a table's course is on the plates
	Sent     Kind = "sent"      // it has left
	SentBack Kind = "sent-back" // some plates came back
	Off      Kind = "off"       // a dish, a component or a variant is off, or so many are left
	On       Kind = "on"        // it is on again
	Out      Kind = "out"       // a person or a piece of equipment is not there
	In       Kind = "in"        // it is back
	Trouble  Kind = "trouble"   // in words
	Told     Kind = "told"      // a plan, by number, is what the screens show now
	Undone   Kind = "undone"    // an event did not happen
)

// Kinds are all kinds.
func Kinds() []Kind {
	return []Kind{Opened, Closed, Seated, Guests, Ordered, Called, Held, Next, Joined, Skipped, Fired, Ready, More, Probe, Again, Taken,
		Plated, Sent, SentBack, Off, On, Out, In, Trouble, Told, Undone}
}

// Matters reports whether the rest may have to move after an event of a kind.
func (k Kind) Matters() bool {
	switch k {
	case Opened, Closed, Called, Held, Skipped, Ordered, Guests, Seated, Joined, Probe, Fired, Ready, More, Again, Sent, SentBack, Out, In,
		Undone:
		return true
	}
	return false
}

// Facts are what an event says beside its kind. Which of them it needs stands in needs.
type Facts struct {
	Table     string         `json:"table,omitempty" maxLength:"80"`
	Name      string         `json:"name,omitempty" maxLength:"60" doc:"What a table that is seated is called"`
	Course    kitchen.Course `json:"course,omitempty" enum:"first,second,main,dessert"`
	Round     int            `json:"round,omitempty" minimum:"0" maximum:"500" doc:"Of a banquet, from 1"`
	Covers    int            `json:"covers,omitempty" minimum:"0" maximum:"1000"`
	Plates    []PlateOrder   `json:"plates,omitempty" nullable:"false" maxItems:"200"`
	Task      string         `json:"task,omitempty" maxLength:"300" doc:"The run of the told plan"`
	Component string         `json:"component,omitempty" maxLength:"80" doc:"What it is of, which does not depend on the plan"`
	Step      string         `json:"step,omitempty" maxLength:"80"`
	Section   string         `json:"section,omitempty" maxLength:"80"`
	Portions  int            `json:"portions,omitempty" minimum:"0" maximum:"5000"`
	Joins     []TableCourse  `json:"joins,omitempty" nullable:"false" maxItems:"200" doc:"The tables' courses that a run is for"`
	Minutes   int            `json:"minutes,omitempty" minimum:"0" maximum:"600"`
	Why       string         `json:"why,omitempty" maxLength:"500"`
	Celsius   *float64       `json:"celsius,omitempty" doc:"Of the core, where it was measured"`
	Checks    []string       `json:"checks,omitempty" nullable:"false" maxItems:"20" doc:"What was looked at, touched or tasted"`
	Dish      string         `json:"dish,omitempty" maxLength:"80"`
	Variant   string         `json:"variant,omitempty" maxLength:"60"`
	Left      *int           `json:"left,omitempty" doc:"How many are left; none when missing"`
	Who       string         `json:"who,omitempty" maxLength:"80" doc:"The person that is out or in, or has it in hand, by id"`
	Equipment string         `json:"equipment,omitempty" maxLength:"80"`
	Until     *time.Time     `json:"until,omitempty"`
	Plan      int64          `json:"plan,omitempty" doc:"The number of a told plan"`
	With      string         `json:"with,omitempty" maxLength:"80" doc:"The table that another sits with"`
	Anyway    bool           `json:"anyway,omitempty" doc:"Ordered though something of the course is being cooked: the pass has spoken with the sections"`
	Undoes    string         `json:"undoes,omitempty" maxLength:"80" doc:"The id of the event that did not happen"`
}

// join is the table's course that an event is about.
func (e *Event) join() TableCourse { return TableCourse{e.Table, e.Course, e.Round} }

// TableCourse is a table's course.
type TableCourse struct {
	Table  string         `json:"table"`
	Course kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	Round  int            `json:"round,omitempty" doc:"Of a banquet, from 1"`
}

// PlateOrder is so many plates of a dish.
type PlateOrder struct {
	Dish     string             `json:"dish" maxLength:"80"`
	Variant  string             `json:"variant,omitempty" maxLength:"60"`
	Doneness string             `json:"doneness,omitempty" maxLength:"60"`
	Count    int                `json:"count" minimum:"1" maximum:"1000"`
	Without  []kitchen.Allergen `json:"without,omitempty" nullable:"false"`
	Diets    []kitchen.Diet     `json:"diets,omitempty" nullable:"false"`
}

// Event is one thing that happened.
type Event struct {
	Seq        int64     `json:"seq" doc:"1, 2, 3 … in the order in which they were written; 0 before"`
	ID         string    `json:"id" minLength:"8" maxLength:"80" doc:"Made by the screen: the same tap sent twice counts once"`
	Kind       Kind      `json:"kind"`
	At         time.Time `json:"at" doc:"When it happened, by the server's clock, never later than it came and never before what its device said before"`
	ReceivedAt time.Time `json:"received_at"`
	Device     string    `json:"device,omitempty" maxLength:"80"`
	Count      int64     `json:"count,omitempty" doc:"The device's own counter"`
	Person     string    `json:"person,omitempty"`
	Kept       bool      `json:"kept,omitempty" doc:"It was made while the connection was lost: it is written whatever it says"`
	Facts
}

// needs are what each kind has to say.
var needs = map[Kind][]string{
	Seated: {"table", "covers"}, Guests: {"table", "covers"}, Ordered: {"table", "course", "plates"}, Called: {"table", "course"},
	Joined: {"table", "with"},
	Held:   {"table", "course"}, Next: {"table", "course"}, Skipped: {"table", "course"}, Fired: {"task"}, Ready: {"task"},
	More: {"task", "minutes"}, Probe: {"task", "celsius", "until"},
	Again: {"task", "portions"}, Taken: {"task", "who"}, Plated: {"table", "course"}, Sent: {"table", "course"},
	SentBack: {"table", "course", "why"},
	Off:      {"what"}, On: {"what"}, Out: {"whom"}, In: {"whom"}, Trouble: {"why"}, Told: {"plan"}, Undone: {"undoes"}, Opened: {}, Closed: {},
}

// Check says what is missing from an event, or too much. It returns kitchen.Faults.
func (e *Event) Check() error {
	var faults kitchen.Faults
	if e.ID == "" {
		faults = append(faults, kitchen.FaultAt("id", "live.missing"))
	}
	if e.At.IsZero() {
		faults = append(faults, kitchen.FaultAt("at", "live.missing"))
	}
	list, known := needs[e.Kind]
	if !known {
		return append(faults, kitchen.FaultAt("kind", "live.kind", "kind", string(e.Kind)))
	}
	said := map[string]bool{"table": e.Table != "", "course": e.Course != "", "covers": e.Covers > 0, "plates": len(e.Plates) > 0,
		"task": e.Task != "", "minutes": e.Minutes > 0, "portions": e.Portions > 0, "who": e.Who != "", "why": e.Why != "",
		"with": e.With != "" && e.With != e.Table, "celsius": e.Celsius != nil, "until": e.Until != nil, "plan": e.Plan > 0,
		"undoes": e.Undoes != "", "what": e.Dish != "" || e.Component != "", "whom": e.Who != "" || e.Equipment != ""}
	for _, n := range list {
		if !said[n] {
			faults = append(faults, kitchen.FaultAt(n, "live.missing"))
		}
	}
	if e.Course != "" && !slices.Contains(kitchen.Courses(), e.Course) {
		faults = append(faults, kitchen.FaultAt("course", "live.course", "course", string(e.Course)))
	}
	return faults.Or()
}

// Same reports whether two events with one id say the same: then it is one tap that was sent twice.
func (e *Event) Same(o *Event) bool {
	a, b := e.Facts, o.Facts
	if e.Kind == Opened {
		a.Why, b.Why = "", "" // what was not ready is said beside it
	}
	return e.Kind == o.Kind && e.Device == o.Device && e.Count == o.Count && reflect.DeepEqual(a, b)
}

// before is the order of the fold: by time, then by device, then by the device's own counter, then by id. It does not depend on when they
// came.
func before(a, b *Event) int {
	return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Device, b.Device), cmp.Compare(a.Count, b.Count), cmp.Compare(a.ID, b.ID))
}

// Place gives an event the time that it counts by: what it says, but not later than it came, and not before anything that its device said
// before it.
func Place(e *Event, log []Event) {
	if e.At.After(e.ReceivedAt) {
		e.At = e.ReceivedAt
	}
	if e.Device == "" {
		return
	}
	for i := range log {
		if o := &log[i]; o.Device == e.Device && o.Count < e.Count && o.At.After(e.At) {
			e.At = o.At
		}
	}
}
