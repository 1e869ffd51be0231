package service

import (
	"slices"
	"time"

	"jointime/core/message"
)

// What may follow what. A tap on a screen that is connected and does not fit is refused with a sentence; one that was kept while the
// connection was lost is written all the same, and stands to be settled.

// undoFor is for how long whoever made an event may take it back; whoever runs the service may always.
const undoFor = time.Minute

// Runs reports whether a role runs the service: it may take back what anybody said.
func Runs(role string) bool { return role == "pass" || role == "chef" }

// Refuses says why an event may not follow some others, nil where it may. role is that of who says it.
func Refuses(log []Event, e *Event, role string) *Unsettled {
	if e.Kind == Undone {
		return refusesUndoing(log, e, role)
	}
	earlier := make([]Event, 0, len(log))
	for i := range log {
		if before(&log[i], e) < 0 || log[i].Kind == Undone {
			earlier = append(earlier, log[i])
		}
	}
	return Fold(earlier).refuses(e)
}

// refuses says why an event does not fit the state, nil where it does.
func (s *State) refuses(e *Event) *Unsettled {
	no := func(against string, m message.Message) *Unsettled { return &Unsettled{e.ID, against, m} }
	switch {
	case e.Kind == Opened:
		if s.Phase == Open {
			return no("", message.Of("live.open-already"))
		}
		return nil
	case e.Kind == Closed:
		if s.Phase != Open {
			return no("", message.Of("live.not-open"))
		}
		return nil
	case e.Kind == Told:
		if e.Plan <= s.Plan {
			return no("", message.Of("live.plan-behind", "plan", e.Plan, "last", s.Plan))
		}
		return nil
	case anyTime[e.Kind]:
	case s.Phase == NotOpen:
		return no("", message.Of("live.not-open"))
	case s.Phase == Over:
		return no("", message.Of("live.over"))
	}
	if e.Task != "" {
		return s.refusesRun(e, no)
	}
	if e.Table != "" {
		return s.refusesCourse(e, no)
	}
	return s.refusesLack(e, no)
}

// anyTime may be said before a service is open and after it is over.
var anyTime = map[Kind]bool{Off: true, On: true, Out: true, In: true, Trouble: true}

func (s *State) refusesRun(e *Event, no func(string, message.Message) *Unsettled) *Unsettled {
	r := s.Run(e.Task)
	joins := e.Joins
	if r != nil && len(joins) == 0 {
		joins = r.Joins
	}
	if e.Kind != Again && len(joins) > 0 { // what is sent back is made again
		gone := ""
		for _, j := range joins {
			c := s.Course(j)
			if c == nil || c.Sent == nil {
				gone = ""
				break
			}
			gone = c.Sent.Event
		}
		if gone != "" {
			return no(gone, message.Of("live.sent-already", "join", s.says(joins[0])))
		}
	}
	if r == nil {
		return nil
	}
	switch {
	case e.Kind == Fired && r.Fired != nil && !r.Fired.Implied:
		return no(r.Fired.Event, message.Of("live.on-already", "at", message.Clock(r.Fired.At)))
	case (e.Kind == Ready || e.Kind == More || e.Kind == Probe || e.Kind == Taken) && r.Ready != nil && !r.Ready.Implied:
		return no(r.Ready.Event, message.Of("live.ready-already", "at", message.Clock(r.Ready.At)))
	}
	return nil
}

func (s *State) refusesCourse(e *Event, no func(string, message.Message) *Unsettled) *Unsettled {
	t := s.Table(e.Table)
	if e.Kind == Seated && t != nil && t.SeatedAt != nil {
		return no("", message.Of("live.seated-already", "table", t.Name))
	}
	if e.Course == "" {
		return nil
	}
	j := e.join()
	c := s.Course(j)
	if e.Kind == SentBack {
		if c == nil || c.Sent == nil {
			return no("", message.Of("live.not-sent", "join", s.says(j)))
		}
		return nil
	}
	if c == nil {
		return nil
	}
	switch {
	case c.Sent != nil:
		return no(c.Sent.Event, message.Of("live.sent-already", "join", s.says(j)))
	case e.Kind == Plated && c.Plated != nil:
		return no(c.Plated.Event, message.Of("live.plated-already", "join", s.says(j)))
	case e.Kind == Called && c.Called != nil && e.Until == nil:
		return no(c.Called.Event, message.Of("live.called-already", "join", s.says(j)))
	case e.Kind == Held && c.Held != nil:
		return no(c.Held.Event, message.Of("live.held-already", "join", s.says(j)))
	case e.Kind == Skipped && c.Skipped != nil:
		return no(c.Skipped.Event, message.Of("live.skipped-already", "join", s.says(j)))
	case e.Kind == Ordered && !e.Anyway:
		if r := s.firedFor(j); r != nil {
			return no(r.Fired.Event, message.Of("live.cooked-already", "join", s.says(j)))
		}
	}
	return nil
}

func (s *State) refusesLack(e *Event, no func(string, message.Message) *Unsettled) *Unsettled {
	switch e.Kind {
	case On:
		if !slices.ContainsFunc(s.Off, func(l Lack) bool { return l.Dish == e.Dish && l.Component == e.Component && l.Variant == e.Variant }) {
			return no("", message.Of("live.on-anyway"))
		}
	case In:
		if !slices.ContainsFunc(s.Out, func(a Absence) bool { return a.Who == e.Who && a.Equipment == e.Equipment }) {
			return no("", message.Of("live.in-anyway"))
		}
	}
	return nil
}

// firedFor is a run for a table's course that somebody has begun, nil for none.
func (s *State) firedFor(j TableCourse) *RunState {
	for i := range s.Runs {
		if r := &s.Runs[i]; r.Fired != nil && slices.Contains(r.Joins, j) {
			return r
		}
	}
	return nil
}

// says is a table's course in words.
func (s *State) says(j TableCourse) message.Message {
	name := j.Table
	if t := s.Table(j.Table); t != nil {
		name = t.Name
	}
	return message.Of("course.of", "table", name, "course", string(j.Course))
}

// refusesUndoing says why an event may not be taken back: there is none, it was taken back already, later ones lean on it, or it is neither
// one's own nor of the last minute.
func refusesUndoing(log []Event, e *Event, role string) *Unsettled {
	list := slices.Clone(log)
	slices.SortStableFunc(list, func(a, b Event) int { return before(&a, &b) })
	gone := undone(list)
	at := slices.IndexFunc(list, func(o Event) bool { return o.ID == e.Undoes })
	no := func(m message.Message) *Unsettled { return &Unsettled{e.ID, e.Undoes, m} }
	if at < 0 {
		return no(message.Of("live.undo-nothing"))
	}
	o := &list[at]
	if gone[o.ID] {
		return no(message.Of("live.undone-already"))
	}
	if !Runs(role) && (o.Device != e.Device || o.Person != e.Person || e.At.Sub(o.At) > undoFor) {
		return no(message.Of("live.undo-too-late"))
	}
	var leaning []string
	for i := range list {
		if l := &list[i]; before(o, l) < 0 && !gone[l.ID] && l.Kind != Undone && leans(l, o) {
			leaning = append(leaning, string(l.Kind))
		}
	}
	if len(leaning) > 0 {
		return no(message.Of("live.undo-leaned-on", "by", leaning))
	}
	if after := Fold(append(slices.Clone(log), *e)); len(after.Settle) > len(Fold(log).Settle) {
		return no(message.Of("live.undo-clashes", "with", after.Settle[len(after.Settle)-1].Said))
	}
	return nil
}

// leans reports whether a later event says something that is only true after an earlier one.
func leans(l, o *Event) bool {
	switch o.Kind {
	case Opened:
		return !anyTime[l.Kind] && l.Kind != Told
	case Fired, Ready:
		return l.Task == o.Task && l.Task != ""
	case Seated, Ordered, Called, Plated, Sent:
		return physical[l.Kind] && (l.Table == o.Table && (o.Course == "" || l.join() == o.join()) ||
			slices.ContainsFunc(l.Joins, func(j TableCourse) bool { return j.Table == o.Table && (o.Course == "" || j == o.join()) }))
	}
	return false
}

// physical is what was done with hands, and stands above what was meant.
var physical = map[Kind]bool{Fired: true, Ready: true, Plated: true, Sent: true, SentBack: true}
