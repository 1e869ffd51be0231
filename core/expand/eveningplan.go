package expand

import (
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// An evening as it is read.

// EveningPlan is a service as it is read.
type EveningPlan struct {
	Service string            `json:"service"`
	Name    string            `json:"name"`
	From    time.Time         `json:"from" doc:"First fire"`
	To      time.Time         `json:"to" doc:"Last join"`
	Joins   []EveningJoin     `json:"joins" nullable:"false" doc:"In order of time"`
	Loads   []Load            `json:"loads" nullable:"false"`
	Hands   []SectionHands    `json:"hands" nullable:"false" doc:"Of each section that has people, in the sections' order"`
	Status  workload.Status   `json:"status" enum:"optimal,feasible,best-effort,impossible"`
	Cost    int64             `json:"cost"`
	Tasks   int               `json:"tasks"`
	Trouble []FireTrouble     `json:"trouble" nullable:"false" doc:"What doesn't fit, the worst first"`
	Left    *message.Message  `json:"left,omitempty" doc:"How much another order of work could still save, where enough is known of that"`
	Said    []message.Message `json:"problems" nullable:"false"`
	Fires   []Fire            `json:"fires" nullable:"false" doc:"Every firing by the clock"`
	// Lines are everything that is to be done, by the clock, for the sheets: firings, later steps, and the hands inside
	// and at the end of each.
	Lines  []Fire          `json:"-"`
	Runs   []FireRun       `json:"runs" nullable:"false" doc:"Every batch of every step, by section"`
	Sets   []HeatSetting   `json:"sets" nullable:"false" doc:"When each thermostat is turned, and to what"`
	Tables []TableStanding `json:"tables" nullable:"false" doc:"How sure each table is"`
}

// EveningJoin is one course of a table.
type EveningJoin struct {
	ID       string         `json:"id"`
	Table    string         `json:"table"`
	Name     string         `json:"name"`
	Course   kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	Round    int            `json:"round"`
	Plates   int            `json:"plates"`
	At       time.Time      `json:"at"`
	PlateAt  time.Time      `json:"plate_at" doc:"When the first thing is put down"`
	WantedAt time.Time      `json:"wanted_at"`
	LateS    int64          `json:"late_s"`
	FireAt   time.Time      `json:"fire_at"`
	OverS    int64          `json:"over_s" doc:"Seconds by which its longest hold is passed"`
	Dishes   []string       `json:"dishes" nullable:"false"`
	Served   []ServedDish   `json:"served" nullable:"false" doc:"The dishes of its plates, by id"`
	// Chance is that of being on time, 0 to 1; −1 until it was worked out.
	Chance   float64 `json:"chance"`
	Holds    float64 `json:"holds" doc:"The chance that every hold is within its limit, 0 to 1; −1 until it was worked out"`
	Forecast bool    `json:"forecast" doc:"It is called by the pass; until then this is the forecast"`
	// Guests are the plates of guests who must not have something.
	Guests []kitchen.GuestPlate `json:"guests" nullable:"false" doc:"Plates of guests who must not have something: whether they suit, and what could get to them"`
	Blame  []Blame              `json:"blame" nullable:"false" doc:"What makes it late when it is, the most often first"`
	// Standing and IsLate are filled in by EveningPlan.Stand.
	Standing Standing `json:"standing" enum:"in-time,doubtful,late" doc:"Late: it is late, or one of its holds is passed"`
	platers  []string
	IsLate   bool `json:"late" doc:"It comes together later than counts as on time"`
}

// ServedDish is plates of a dish, as a variant.
type ServedDish struct {
	Dish    string `json:"dish"`
	Name    string `json:"name"`
	Variant string `json:"variant,omitempty"`
	Count   int    `json:"count"`
}

// Blame is how often something is what a late join waited for.
type Blame struct {
	What  string  `json:"what"`
	Share float64 `json:"share" doc:"Of the evenings on which the join is late"`
}

// FireRun is one batch of a step, as it is drawn in a section's lane.
type FireRun struct {
	Joins   []string      `json:"joins" nullable:"false" doc:"The joins that it is for"`
	Section string        `json:"section"`
	What    string        `json:"what" doc:"The component"`
	Step    string        `json:"step"`
	Count   int           `json:"count"`
	From    time.Time     `json:"from"`
	To      time.Time     `json:"to"`
	Hands   kitchen.Hands `json:"hands" enum:"both,tend,none"`
	C       *float64      `json:"c,omitempty" doc:"Setpoint, °C"`
	Apart   bool          `json:"apart"`
	// InS and OutS are the hands at the ends of a run that does not take them throughout.
	InS  int64 `json:"in_s,omitempty"`
	OutS int64 `json:"out_s,omitempty"`
}

// HeatSetting is one turn of a thermostat.
type HeatSetting struct {
	At      time.Time `json:"at" doc:"Turned no later than this"`
	By      time.Time `json:"by" doc:"When it has to be there"`
	Name    string    `json:"name"`
	FromC   float64   `json:"from_c"`
	C       float64   `json:"c"`
	What    string    `json:"what" doc:"What goes in"`
	Section string    `json:"section" doc:"The section that needs it"`
}

// Load is the use of one piece of equipment, or of a person's hands or eyes, over the evening.
type Load struct {
	Of       ResourceRef `json:"of"`
	Name     string      `json:"name"`
	Unit     string      `json:"unit"`
	Capacity int64       `json:"capacity"`
	Steps    []LoadStep  `json:"steps" nullable:"false" doc:"Where the use changes"`
	Heats    []HeatStep  `json:"heats" nullable:"false" doc:"Setpoints, where it has a thermostat"`
	Peak     int64       `json:"peak"`
}

// LoadStep says how much is used from an instant on.
type LoadStep struct {
	At    time.Time `json:"at"`
	Units int64     `json:"units"`
}

// HeatStep is a stretch at one setpoint.
type HeatStep struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
	C    float64   `json:"c"`
}

// FireTrouble is something that does not fit.
type FireTrouble struct {
	Join string          `json:"join"`
	Kind string          `json:"kind" enum:"late,early,hold"`
	Said message.Message `json:"said" doc:"What, and by how much"`
	Why  message.Message `json:"why" doc:"What keeps it"`
	ByS  int64           `json:"by_s"`
	// Cause is what keeps it, where that is something of another table-course.
	Cause *Cause `json:"cause,omitempty"`
}

// LineKind is what a line of a sheet is.
type LineKind string

// The kinds of line.
const (
	LineFire  LineKind = "fire"
	LineNext  LineKind = "next"
	LineTouch LineKind = "touch"
	LineOut   LineKind = "out"
)

// Fire is one batch to fire: the clock, the table, what, how many, with the wait allowed.
type Fire struct {
	At time.Time `json:"at"`
	// Task, Component and StepID name the run in the plan, and what it is of, which does not depend on the plan.
	Task      string `json:"task" doc:"The run, in the plan's workload"`
	Component string `json:"component" doc:"By id; none where plates are dressed"`
	StepID    string `json:"step_id,omitempty"`

	Join    string   `json:"join"`
	Joins   []string `json:"joins" nullable:"false" doc:"All the joins that it is for"`
	Table   string   `json:"table"`
	Course  string   `json:"course"`
	Section string   `json:"section"`
	What    string   `json:"what"`
	Count   int      `json:"count"`
	Batch   int      `json:"batch"`
	Of      int      `json:"of"`
	People  []string `json:"people" nullable:"false"`
	MayS    int64    `json:"may_s" doc:"Seconds that it may be fired later without the join moving"`
	Preheat int64    `json:"preheat_s" doc:"Seconds for which the pan is heated before: it goes on the heat that much sooner"`
	Act     string   `json:"act" doc:"The step that it begins with"`
	Kind    LineKind `json:"kind" enum:"fire,next,touch,out" doc:"A firing, a later step, or the hands inside or at the end of one"`
	HandsS  int64    `json:"hands_s,omitempty" doc:"Seconds of hands at its start, where it does not take them throughout"`
	// The wait after the step: when what comes after may begin at the soonest and at the latest.
	RestUntil *time.Time `json:"rest_until,omitempty"`
	MayUntil  *time.Time `json:"may_until,omitempty" doc:"How long it may wait at the most"`
	ReadyBy   *time.Time `json:"ready_by,omitempty" doc:"When the plate wants it"`
	Kept      string     `json:"kept,omitempty" doc:"How it is kept while it waits"`
	OnCall    bool       `json:"on_call" doc:"Not before the table is called"`
	OffAt     time.Time  `json:"off_at" doc:"When that step is over"`
	// Hands, On and C are what the step takes.
	Hands  kitchen.Hands       `json:"hands" enum:"both,tend,none"`
	On     []string            `json:"on" nullable:"false" doc:"Equipment"`
	C      *float64            `json:"c,omitempty" doc:"Setpoint, °C"`
	Checks []kitchen.DoneCheck `json:"checks" nullable:"false" doc:"How one sees that the step is done"`
	Apart  bool                `json:"apart" doc:"For a guest who must not have an allergen: own pan, before the others"`
	// Contains is what its guest must not have and it has itself: no pan keeps that away.
	Needs    []string `json:"needs" nullable:"false" doc:"What its guests must not have or live by, where it is cooked apart"`
	Contact  []string `json:"contact" nullable:"false" doc:"What could get to it from what else is done, in words"`
	Contains []string `json:"contains" nullable:"false" doc:"Allergens that it has itself and its guest must not have: no pan of its own helps"`
}
