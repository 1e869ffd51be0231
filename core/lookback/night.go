// Package lookback reads the record of services that are over: what was planned and what happened, what was late and what began it, and
// which time on paper is not the time at the stove. It is pure.
//
//	night.go  one service as it was: its steps and its joins, planned and real
//	kept.go   how long things waited, what was off, what was looked at too soon
//	why.go    what lateness began with
//	watch.go  how much a section had on, and what that costs
//	learn.go  times that learn: steps and people, over many services
//	shares.go shares of the menu that learn, and how much to have in reserve
package lookback

import (
	"cmp"
	"math"
	"slices"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/service"
)

// RealStep is a run as it was planned, and as it was.
type RealStep struct {
	Task      string                `json:"task"`
	Component string                `json:"component"`
	Step      string                `json:"step"`
	What      string                `json:"what"`
	Act       string                `json:"act"`
	Section   string                `json:"section"`
	People    []string              `json:"people" nullable:"false" doc:"By name, as the plan had it"`
	On        []string              `json:"on" nullable:"false" doc:"Equipment, by name"`
	Portions  int                   `json:"portions"`
	Joins     []service.TableCourse `json:"joins" nullable:"false"`
	PlannedAt time.Time             `json:"planned_at" doc:"When it was to begin, by the plan that was shown when the service was opened"`
	PlannedS  float64               `json:"planned_s" doc:"As written, seconds"`
	At        *time.Time            `json:"at,omitempty" doc:"When it was said to have begun; none where nobody said so"`
	RealS     *float64              `json:"real_s,omitempty" doc:"From begun to done, as both were said, seconds; none where one of them was not"`
	Again     int                   `json:"again,omitempty" doc:"How often it was made again"`
	Low       float64               `json:"low" doc:"Its quick, likely and slow time as written, seconds"`
	Likely    float64               `json:"likely"`
	High      float64               `json:"high"`
	NotYet    int                   `json:"not_yet,omitempty" doc:"How often it was looked at and needed longer"`
	By        string                `json:"by,omitempty" doc:"Who said that it was begun: a person, else a screen"`
	Cut       bool                  `json:"cut,omitempty" doc:"Whoever did it was called away meanwhile: nothing is learnt from it"`
	Celsius   *float64              `json:"celsius,omitempty" doc:"Its core when it was done, °C, where it was measured"`
	Checks    []string              `json:"checks,omitempty" nullable:"false" doc:"What was looked at before it was said to be done"`
	Watched   int                   `json:"watched" doc:"How many things its section had on when it was begun, beside it"`

	hands     kitchen.Hands
	after     []string // the runs that it had to wait for
	readyFrom float64  // from when on it may have been ready, seconds from its beginning, where it waited for hands to end it; else 0
}

// EndsAt is when it was said to be done.
func (s *RealStep) EndsAt() (time.Time, bool) {
	if s.At == nil || s.RealS == nil {
		return time.Time{}, false
	}
	return s.At.Add(time.Duration(*s.RealS * float64(time.Second))), true
}

// RealJoin is a table's course as it was wanted, and as it was.
type RealJoin struct {
	service.TableCourse
	Name     string     `json:"name"`
	Plates   int        `json:"plates"`
	PlanAt   time.Time  `json:"plan_at" doc:"When it was to come together by the plan at the opening"`
	WantedAt time.Time  `json:"wanted_at" doc:"As booked, so much later as its table was seated later, or the floor said that it was ready for it"`
	SentAt   *time.Time `json:"sent_at,omitempty" doc:"When it was said to have left; none where nobody said so"`
	Skipped  bool       `json:"skipped,omitempty"`
	Back     []string   `json:"back" nullable:"false" doc:"Why plates of it came back"`
	LateS    float64    `json:"late_s" doc:"How much later than wanted it left, seconds; less than 0 for sooner"`
	Why      []Reason   `json:"why" nullable:"false" doc:"What its lateness began with, the most first; none where it was not late"`
}

// Night is a service as it was.
type Night struct {
	Service string     `json:"service"`
	Name    string     `json:"name"`
	Date    string     `json:"date"`
	Origin  time.Time  `json:"origin"`
	Joins   []RealJoin `json:"joins" nullable:"false" doc:"In the order in which they were wanted"`
	Steps   []RealStep `json:"steps" nullable:"false" doc:"In the order of the plan"`
	Late    int        `json:"late" doc:"Courses that left later than the grace"`
	GraceS  float64    `json:"grace_s"`
	People  []Did      `json:"people" nullable:"false" doc:"How much everybody did, who did most first"`
	Paper   []StepSum  `json:"paper" nullable:"false" doc:"Each step of the evening over all its runs, what differs most in the sum first"`
	Again   int        `json:"again" doc:"Batches that were made again"`
	Back    int        `json:"back" doc:"Courses of which plates came back"`
	Unsaid  int        `json:"unsaid" doc:"Runs of which nobody said that they began and ended: nothing is learnt from them"`
	Holds   []RealHold `json:"holds" nullable:"false" doc:"What waited longer than it may, the worst first"`
	HeldS   float64    `json:"held_s" doc:"By how much, in the sum, seconds"`
	Kept    int        `json:"kept" doc:"Of how many it is known that they did not"`
	NotYet  int        `json:"not_yet" doc:"How often something was looked at and needed longer"`
	Off     []OffSpell `json:"off" nullable:"false" doc:"What was off, in the order in which it went"`
	Causes  []Reason   `json:"causes" nullable:"false" doc:"What all lateness of the night began with, the most first"`

	ready map[service.TableCourse]time.Time // when tables were ready for a course, as the floor said
	left  map[service.TableCourse]time.Time // when a course left first: what came back leaves once more
}

// graceS is how late a course may leave and still be in time for a guest, seconds. Common practice, no source.
const graceS = 180.0

// Written are the three written times of a batch of a step as they are now, seconds; false where there is no such step any more.
type Written func(component, step string, portions int) (low, likely, high float64, ok bool)

// At is a night from its log. opened is the plan that was shown when it was opened, last the one that was shown at its end, with the
// evening that both were made of.
func At(e *expand.Evening, opened, last *service.Plan, log []service.Event) *Night {
	state := service.Fold(log)
	n := &Night{Service: e.Service.ID, Name: e.Service.Name, Date: e.Service.Date, Origin: e.Origin, GraceS: graceS, Joins: []RealJoin{},
		Steps: []RealStep{}, Causes: []Reason{}, ready: map[service.TableCourse]time.Time{}, left: map[service.TableCourse]time.Time{}}
	undone := map[string]bool{}
	for i := range log {
		if log[i].Kind == service.Undone {
			undone[log[i].Undoes] = true
		}
	}
	for i := range log {
		if x := &log[i]; x.Kind == service.Sent && !undone[x.ID] {
			key := service.TableCourse{Table: x.Table, Course: x.Course, Round: x.Round}
			if at, before := n.left[key]; !before || x.At.Before(at) {
				n.left[key] = x.At
			}
		}
		if x := &log[i]; x.Kind == service.Next {
			n.ready[service.TableCourse{Table: x.Table, Course: x.Course, Round: x.Round}] = x.At
			if x.Until != nil {
				n.ready[service.TableCourse{Table: x.Table, Course: x.Course, Round: x.Round}] = *x.Until
			}
		}
	}
	first := map[string]*service.PlanRun{}
	for i := range opened.Runs {
		first[opened.Runs[i].Task] = &opened.Runs[i]
	}
	before := map[string][]string{}
	for i := range e.Workload.Links {
		if l := &e.Workload.Links[i]; l.From != l.To {
			before[l.To] = append(before[l.To], l.From)
		}
	}
	for i := range last.Runs {
		n.Steps = append(n.Steps, stepOf(e, &last.Runs[i], first[last.Runs[i].Task], state, before))
		s := &n.Steps[len(n.Steps)-1]
		n.Again += s.Again
		if s.RealS == nil {
			n.Unsaid++
		}
	}
	slices.SortStableFunc(n.Steps, func(a, b RealStep) int { return cmp.Or(a.PlannedAt.Compare(b.PlannedAt), cmp.Compare(a.Task, b.Task)) })
	n.watch()
	n.join(e, opened, last, state)
	n.keeps(e)
	n.offs(log, undone, e.Book().Zone(), func(kind, id string) string {
		if c, ok := e.Book().Component(id); ok && kind == "component" {
			return c.Name
		}
		if d, ok := e.Book().Dish(id); ok {
			return d.Name
		}
		return id
	})
	n.looks(log, undone)
	n.cuts(log, undone, func(id string) string {
		if p, ok := e.Book().Person(id); ok {
			return p.Name
		}
		return id
	})
	n.waits()
	n.load()
	n.paper()
	n.explain()
	return n
}

func stepOf(e *expand.Evening, r, was *service.PlanRun, state *service.State, before map[string][]string) RealStep {
	s := RealStep{Task: r.Task, Component: r.Component, Step: r.Step, What: r.What, Act: r.Act, Section: r.Section, People: r.How.People,
		On: r.How.On, Portions: r.Portions, Joins: r.Joins, PlannedAt: r.From, PlannedS: r.To.Sub(r.From).Seconds(), hands: r.How.Hands,
		after: before[r.Task]}
	if was != nil {
		s.PlannedAt = was.From
	}
	if s.Joins == nil {
		s.Joins = []service.TableCourse{}
	}
	s.Low, s.Likely, s.High = e.Spread(r.Task)
	known := state.Run(r.Task)
	if known == nil || known.Fired == nil || known.Fired.Implied {
		return s
	}
	at := known.Fired.At.In(r.From.Location())
	s.At, s.Again, s.By, s.Celsius, s.Checks = &at, len(known.Again), known.Fired.By, known.Celsius, known.Checks
	if known.Ready != nil && !known.Ready.Implied && known.Ready.At.After(at) {
		long := known.Ready.At.Sub(at).Seconds()
		s.RealS = &long
	}
	return s
}

// StepSum is a step over all its runs of an evening, as far as both ends were said and it was not made again.
type StepSum struct {
	Component string  `json:"component"`
	Step      string  `json:"step"`
	What      string  `json:"what"`
	Act       string  `json:"act"`
	Runs      int     `json:"runs"`
	PlannedS  float64 `json:"planned_s" doc:"As written, the mean of its runs, seconds"`
	RealS     float64 `json:"real_s" doc:"Taken, the mean of its runs"`
	MoreS     float64 `json:"more_s" doc:"By how much it took longer in the sum; less than 0 for shorter"`
}

// paper puts what is written over what was taken.
func (n *Night) paper() {
	by := map[string]*StepSum{}
	for i := range n.Steps {
		s := &n.Steps[i]
		if s.RealS == nil || s.Again > 0 {
			continue
		}
		key := s.Component + "/" + s.Step
		if by[key] == nil {
			by[key] = &StepSum{Component: s.Component, Step: s.Step, What: s.What, Act: s.Act}
		}
		x := by[key]
		x.Runs, x.PlannedS, x.RealS = x.Runs+1, x.PlannedS+s.PlannedS, x.RealS+*s.RealS
	}
	n.Paper = []StepSum{}
	for _, key := range sorted(by) {
		x := *by[key]
		x.MoreS = x.RealS - x.PlannedS
		x.PlannedS, x.RealS = x.PlannedS/float64(x.Runs), x.RealS/float64(x.Runs)
		n.Paper = append(n.Paper, x)
	}
	slices.SortStableFunc(n.Paper, func(a, b StepSum) int { return cmp.Compare(math.Abs(b.MoreS), math.Abs(a.MoreS)) })
}

// Did is how much somebody did in an evening.
type Did struct {
	Name     string  `json:"name"`
	Runs     int     `json:"runs" doc:"Runs that they did, as far as both ends were said"`
	PlannedS float64 `json:"planned_s" doc:"How long those were to take, seconds"`
	RealS    float64 `json:"real_s" doc:"How long they took"`
	LateS    float64 `json:"late_s" doc:"How much later than planned they began them, in the median, seconds; less than 0 for sooner"`
}

// load says how much everybody did.
func (n *Night) load() {
	by, late := map[string]*Did{}, map[string][]float64{}
	for i := range n.Steps {
		s := &n.Steps[i]
		if s.RealS == nil || len(s.People) == 0 {
			continue
		}
		who := s.People[0]
		if by[who] == nil {
			by[who] = &Did{Name: who}
		}
		l := by[who]
		l.Runs, l.PlannedS, l.RealS = l.Runs+1, l.PlannedS+s.PlannedS, l.RealS+*s.RealS
		late[who] = append(late[who], s.At.Sub(s.PlannedAt).Seconds())
	}
	n.People = []Did{}
	for _, who := range sorted(by) {
		by[who].LateS = median(late[who])
		n.People = append(n.People, *by[who])
	}
	slices.SortStableFunc(n.People, func(a, b Did) int { return cmp.Compare(b.RealS, a.RealS) })
}

// join makes the joins.
func (n *Night) join(e *expand.Evening, opened, last *service.Plan, state *service.State) {
	first := map[service.TableCourse]*service.PlanJoin{}
	for i := range opened.Joins {
		first[opened.Joins[i].TableCourse] = &opened.Joins[i]
	}
	booked := map[string]time.Time{}
	midnight := time.Time{}
	if len(last.Joins) > 0 {
		at := last.Joins[0].WantedAt
		midnight = time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, at.Location())
	}
	for _, t := range e.Service.Tables {
		booked[t.ID] = midnight.Add(time.Duration(t.SeatedAt) * time.Minute)
	}
	for i := range last.Joins {
		p := &last.Joins[i]
		j := RealJoin{TableCourse: p.TableCourse, Name: p.Name, Plates: p.Plates, PlanAt: p.At, WantedAt: p.WantedAt, Back: []string{},
			Why: []Reason{}}
		if was := first[p.TableCourse]; was != nil {
			j.PlanAt, j.WantedAt = was.At, was.WantedAt
		}
		if t := state.Table(p.Table); t != nil && t.SeatedAt != nil && !booked[p.Table].IsZero() {
			if drift := t.SeatedAt.Sub(booked[p.Table]); drift > 0 {
				j.WantedAt = j.WantedAt.Add(drift.Truncate(time.Second))
			}
		}
		if c := state.Course(p.TableCourse); c != nil {
			if at, said := n.ready[p.TableCourse]; said && c.Next != nil && at.After(j.WantedAt) {
				j.WantedAt = at.In(p.At.Location()) // they ate longer
			}
			j.Skipped = c.Skipped != nil && c.Sent == nil
			if at, said := n.left[p.TableCourse]; said && (c.Sent != nil || len(c.Back) > 0) {
				at = at.In(p.At.Location())
				j.SentAt, j.LateS = &at, at.Sub(j.WantedAt).Seconds()
			}
			for _, b := range c.Back {
				j.Back = append(j.Back, b.Why)
			}
		}
		if len(j.Back) > 0 {
			n.Back++
		}
		if j.LateS > graceS {
			n.Late++
		}
		n.Joins = append(n.Joins, j)
	}
	slices.SortStableFunc(n.Joins, func(a, b RealJoin) int { return cmp.Or(a.WantedAt.Compare(b.WantedAt), cmp.Compare(a.Name, b.Name)) })
}

// ratio is by how much a step took longer than the mean of its written times, as a logarithm; false where nothing is to be learnt from it:
// it was not said, was made again, was interrupted, or is over before a finger could have come down twice.
func (s *RealStep) ratio(now Written) (float64, bool) {
	if s.RealS == nil || s.Again > 0 || s.Cut || s.PlannedS < shortestS || s.Likely <= 0 {
		return 0, false
	}
	low, likely, high := s.Low, s.Likely, s.High
	if now != nil {
		var there bool
		if low, likely, high, there = now(s.Component, s.Step, s.Portions); !there {
			return 0, false
		}
	}
	// The mean of three points (PERT), and what a guest's wish added to it.
	mean := (low+4*likely+high)/6 + s.PlannedS - s.Likely
	if mean < shortestS {
		return 0, false
	}
	y := math.Log(*s.RealS / mean)
	if s.readyFrom > 0 && y > 0 { // what took no longer than written has hardly waited
		y = between(math.Log(s.readyFrom/mean), y, math.Hypot((high-low)/6/mean, eveningSD))
	}
	return y, true
}

// shortestS is from how long a step is learnt about, seconds: of shorter ones the taps say more about fingers. Common practice, no source.
const shortestS = 30.0
