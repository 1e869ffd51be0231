// Package workload holds the two files by which the scheduler is driven from
// outside: the workload (what has to be done, with whom, and when it must come
// together) and the schedule (the answer). It has the types, a reader that
// names the JSON path of every fault, and a writer with a fixed byte order. The
// search (package schedule) and the checker (package verify) share these types
// and nothing else.
//
// All times are whole seconds from Workload.Origin; runs are half-open
// [start, finish).
package workload

import (
	"math"
	"slices"
)

// Limits of what the reader accepts. They keep every sum of costs inside an
// int64, so that no later code has to think of overflow.
const (
	// MaxSeconds bounds every time, length and wait (about 31 years).
	MaxSeconds = 1_000_000_000
	// MaxWeight bounds every weight.
	MaxWeight = 1_000_000
	// MaxUnits bounds capacities and needs.
	MaxUnits = 1_000_000
	// MaxCost bounds the dearest cost a workload could have.
	MaxCost = math.MaxInt64 / 8
)

// Formats and the version of both files.
const (
	Format         = "jointime-workload"
	ScheduleFormat = "jointime-schedule"
	Version        = 1
)

// Objective says what is minimised.
type Objective string

const (
	// Joins is the least sum of all join and link costs.
	Joins Objective = "joins"
	// Makespan is the earliest possible finish of the last task.
	Makespan Objective = "makespan"
)

// Workload is everything the scheduler knows.
type Workload struct {
	Objective Objective
	// Origin is the instant of second 0, RFC 3339.
	Origin string
	// Horizon is the last second at which a task may finish or a join may stand.
	Horizon   int64
	Resources []Resource
	Tasks     []Task
	Links     []Link
	Joins     []Join
	Fixed     []Fixed
	// Now, if given, forbids any start or join before it that is not fixed.
	Now *int64
	// Told are starts that were told before, and what leaving them costs.
	Told []Told
}

// Told makes each second between a task's start and Start cost Weight. Several for one task add up.
type Told struct {
	Task          string
	Start, Weight int64
}

// Resource is a part of a person (their hands, their eyes) or a piece of equipment.
type Resource struct {
	ID, Name   string
	Capacity   int64
	Windows    []Window // nil: there all the time at full capacity
	HasWindows bool     // an empty list of windows means never there
	Thermostat *Thermostat
}

// Window is a half-open interval in which a resource has Capacity units.
type Window struct{ From, To, Capacity int64 }

// Thermostat gives a resource one temperature at a time.
type Thermostat struct {
	StartC, HeatCPerMin, CoolCPerMin, ToleranceC float64
}

// Differ reports whether two setpoints are too far apart to stand together.
func (t *Thermostat) Differ(a, b float64) bool { return math.Abs(a-b) > t.ToleranceC }

// Apart are the setpoints by which two ranges are nearest to each other, a of the first and b of the second; the same
// where they meet.
func Apart(first, second Range) (a, b float64) {
	switch {
	case first.High < second.Low:
		return first.High, second.Low
	case second.High < first.Low:
		return first.Low, second.High
	}
	v := max(first.Low, second.Low)
	return v, v
}

// Changeover is the time in seconds to go from one setpoint to another: 0 within
// the tolerance, else the whole difference divided by the rate, rounded up.
func (t *Thermostat) Changeover(from, to float64) int64 {
	if !t.Differ(from, to) {
		return 0
	}
	rate := t.HeatCPerMin
	if to < from {
		rate = t.CoolCPerMin
	}
	s := math.Abs(to-from) * 60 / rate
	// 20/4*60 must be 300, not 301 by the last bit of a division.
	if r := math.Round(s); math.Abs(s-r) < 1e-6 {
		s = r
	}
	return int64(math.Ceil(min(s, MaxSeconds)))
}

// Task runs without interruption for Seconds, or for as long as the scheduler chooses up to Longest.
type Task struct {
	ID, Name string
	Seconds  int64
	// Longest is at least Seconds; nil is Seconds. With it a fixed task that has not ended chooses its finish.
	Longest  *int64
	Needs    []Need
	Earliest int64  // start not before
	Latest   *int64 // finish not after
}

// Need takes Units of one resource out of AnyOf for the whole run.
type Need struct {
	AnyOf     []string
	Units     int64
	SetpointC *float64
	// SetpointToC is the other end of a range of setpoints that will do; nil is a range of one.
	SetpointToC *float64
	// As takes the resource that stands where another need's does in its own AnyOf.
	As *As
}

// As names a need of a task, from 0.
type As struct {
	Task string
	Need int
}

// Range is setpoints that will do, from the lowest to the highest, °C.
type Range struct{ Low, High float64 }

// Setpoints is the range that a need asks for; ok is false when it asks for no temperature.
func (n *Need) Setpoints() (r Range, ok bool) {
	if n.SetpointC == nil {
		return Range{}, false
	}
	r = Range{*n.SetpointC, *n.SetpointC}
	if n.SetpointToC != nil {
		r.High = *n.SetpointToC
	}
	return r, true
}

// MostSeconds is how long a task may run.
func (t *Task) MostSeconds() int64 {
	if t.Longest != nil {
		return *t.Longest
	}
	return t.Seconds
}

// Kind says which events of the two ends a link speaks of.
type Kind string

// The four kinds of link.
const (
	FinishStart  Kind = "finish-start"
	StartStart   Kind = "start-start"
	FinishFinish Kind = "finish-finish"
	StartFinish  Kind = "start-finish"
)

// Link bounds the wait from one event to another: Min ≤ wait ≤ Max, and each
// second beyond Best costs Weight. Best nil means free of cost.
type Link struct {
	From, To string
	Kind     Kind
	Min      int64
	Best     *int64
	Max      *int64
	Weight   int64
}

// Join is the instant at which a plate, a table or a course comes together.
type Join struct {
	ID, Name            string
	At                  *int64 // wish; nil costs nothing
	Weight, EarlyWeight int64
	Earliest            int64
	Latest              *int64
}

// Cost of a join standing at t.
func (j *Join) Cost(t int64) int64 {
	switch {
	case j.At == nil:
		return 0
	case t > *j.At:
		return (t - *j.At) * j.Weight
	default:
		return (*j.At - t) * j.EarlyWeight
	}
}

// Fixed is something that has already happened: a task that was started (and
// perhaps finished), or a join that was served.
type Fixed struct {
	Task      string
	Start     int64
	Finish    *int64
	Resources []string
	Join      string
	At        int64
}

// Status of a schedule.
type Status string

// The four statuses.
const (
	Optimal    Status = "optimal"
	Feasible   Status = "feasible"
	BestEffort Status = "best-effort"
	Impossible Status = "impossible"
)

// Schedule is the answer to a workload.
type Schedule struct {
	Status     Status
	Cost       *int64
	LowerBound *int64
	Tasks      []Run
	Joins      []Instant
	Broken     []Broken
	Search     Search
}

// Run is where a task was put; Resources has one entry for each of its needs.
type Run struct {
	ID            string
	Start, Finish int64
	Resources     []string
}

// Instant is when a join stands.
type Instant struct {
	ID string
	At int64
}

// Rule names a kind of rule that a schedule can break.
type Rule string

// The rules, as they are named in `broken`.
const (
	RuleHorizon    Rule = "horizon"
	RuleEarliest   Rule = "earliest"
	RuleLatest     Rule = "latest"
	RuleNow        Rule = "now"
	RuleMin        Rule = "min"
	RuleMax        Rule = "max"
	RuleCapacity   Rule = "capacity"
	RuleWindow     Rule = "window"
	RuleSetpoint   Rule = "setpoint"
	RuleChangeover Rule = "changeover"
	RuleFixed      Rule = "fixed"
	RuleSearch     Rule = "exhausted"
)

// Broken is one rule that is not kept (or, in an impossible workload, one of
// the rules that cannot hold together). By is in seconds or units.
type Broken struct {
	Rule Rule     `json:"rule"`
	IDs  []string `json:"ids" nullable:"false"`
	By   int64    `json:"by"`
	Unit string   `json:"unit"`
}

// Search tells how the answer was found.
type Search struct {
	Seconds   float64
	Seed      int64
	Schedules int64
}

// FixedTasks maps the id of every fixed task to its entry.
func (w *Workload) FixedTasks() map[string]*Fixed {
	m := make(map[string]*Fixed)
	for i := range w.Fixed {
		if f := &w.Fixed[i]; f.Task != "" {
			m[f.Task] = f
		}
	}
	return m
}

// FixedFinish is the finish of a fixed task: as stated, or the longer of its
// seconds and what has passed.
func (w *Workload) FixedFinish(f *Fixed, seconds int64) int64 {
	if f.Finish != nil {
		return *f.Finish
	}
	end := f.Start + seconds
	if w.Now != nil && *w.Now > end {
		return *w.Now
	}
	return end
}

// EndsOpen reports whether the scheduler chooses when a fixed task ends: it has the key longest and no finish. It ends
// at the earliest after its seconds, and not before now.
func (f *Fixed) EndsOpen(t *Task) bool { return f.Finish == nil && t.Longest != nil }

// Clone returns a copy that shares no slices with w.
func (w *Workload) Clone() *Workload {
	c := *w
	c.Resources = slices.Clone(w.Resources)
	for i := range c.Resources {
		c.Resources[i].Windows = slices.Clone(c.Resources[i].Windows)
	}
	c.Tasks = slices.Clone(w.Tasks)
	for i := range c.Tasks {
		c.Tasks[i].Needs = slices.Clone(c.Tasks[i].Needs)
	}
	c.Links = slices.Clone(w.Links)
	c.Joins = slices.Clone(w.Joins)
	c.Fixed = slices.Clone(w.Fixed)
	c.Told = slices.Clone(w.Told)
	return &c
}
