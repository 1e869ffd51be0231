package service

import (
	"time"

	"jointime/core/expand"
)

// What is due, as the screens are told.

// Standing is how a line stands.
type Standing string

// The standings of a run.
const (
	Later   Standing = "later"
	Coming  Standing = "coming"  // within the next minutes
	DueNow  Standing = "due"     // to be fired now
	Overdue Standing = "overdue" // it should be on, and its section taps
	Waits   Standing = "waits"   // its table has not been called, or is held
	IsOn    Standing = "on"      // it is on the heat, or in hand
	Asks    Standing = "asks"    // its time is over; somebody has to look
	IsDone  Standing = "done"
)

// DueLine is a run as a section sees it.
type DueLine struct {
	Task      string        `json:"task"`
	Component string        `json:"component"`
	Step      string        `json:"step"`
	What      string        `json:"what"`
	Act       string        `json:"act"`
	Portions  int           `json:"portions"`
	Joins     []TableCourse `json:"joins" nullable:"false"`
	Standing  Standing      `json:"standing" enum:"later,coming,due,overdue,waits,on,asks,done"`
	Assumed   bool          `json:"assumed" doc:"Nobody said so: it is taken as planned"`
	FireAt    time.Time     `json:"fire_at"`
	DoneAt    time.Time     `json:"done_at" doc:"When it is done, by what is known now"`
	MayUntil  *time.Time    `json:"may_until,omitempty"`
	TakenBy   string        `json:"taken_by,omitempty"`
	Section   string        `json:"section"`
	How       RunHow        `json:"how"`
	CoreC     *float64      `json:"core_c,omitempty" doc:"Of the core, as a thermometer last said it"`
	AwayS     *int64        `json:"away_s,omitempty" doc:"Of what waits for its table to be called: when it is fired, seconds from the call"`

	delay time.Duration // by how much it is later than its join can bear
}

// SectionDue is what a section has to do.
type SectionDue struct {
	Section string    `json:"section"`
	Taps    bool      `json:"taps" doc:"It said something of late: what it does not say is not taken as done"`
	Now     []DueLine `json:"now" nullable:"false"`
	On      []DueLine `json:"on" nullable:"false"`
	Next    []DueLine `json:"next" nullable:"false"`
	Then    []DueLine `json:"then" nullable:"false" doc:"What comes later, the first few"`
	Later   int       `json:"later"`
	Done    int       `json:"done"`
	Counts  []Count   `json:"counts" nullable:"false" doc:"How many of each thing there are all evening, the most first"`
}

// Count is how many portions of something a service has, and how many are still to be begun.
type Count struct {
	Component string `json:"component"`
	What      string `json:"what"`
	All       int    `json:"all"`
	Left      int    `json:"left"`
}

// thenLines is how many lines of what comes later are told.
const thenLines = 8

// PartDue is how one component of a join stands, in the order of its plates.
type PartDue struct {
	Component string  `json:"component"`
	What      string  `json:"what"`
	Section   string  `json:"section"`
	ShareS    int64   `json:"share_s" doc:"Its share of the work, seconds"`
	State     string  `json:"state" enum:"waiting,firing,ready,over" doc:"Over: the join waits for it"`
	Done      float64 `json:"done" doc:"How much of it is done, 0 to 1"`
}

// JoinDue is how a join comes together.
type JoinDue struct {
	TableCourse
	Name     string              `json:"name"`
	Plates   int                 `json:"plates"`
	Standing string              `json:"standing" enum:"planned,called,held,skipped,plated,sent"`
	WantedAt time.Time           `json:"wanted_at"`
	At       time.Time           `json:"at" doc:"When it comes together by the plan"`
	Forecast time.Time           `json:"forecast" doc:"When it comes together, by what is known now"`
	CallAt   *time.Time          `json:"call_at,omitempty" doc:"When it has to be called to come by the plan, where it is to be called"`
	Assumed  bool                `json:"assumed,omitempty" doc:"Nobody said that it left: it is taken as planned"`
	Done     int                 `json:"done" doc:"Runs that are done, as said or as planned"`
	Of       int                 `json:"of"`
	Dishes   []string            `json:"dishes" nullable:"false"`
	Served   []expand.ServedDish `json:"served" nullable:"false" doc:"Its dishes, by id"`
	Parts    []PartDue           `json:"parts" nullable:"false" doc:"Its components, in the order in which they are first needed"`
	Needs    []string            `json:"needs" nullable:"false" doc:"What guests of it must not have"`
	WaitsFor []DueLine           `json:"waits_for" nullable:"false" doc:"What keeps it from the forecast that the plan has, the worst first"`
}

// DueView is what is due at an instant.
type DueView struct {
	At       time.Time     `json:"at"`
	Plan     int64         `json:"plan"`
	Pace     *float64      `json:"pace,omitempty" doc:"How many times as fast as on the wall its clock goes, where it is played; 0 stands still"`
	Phase    Phase         `json:"phase" enum:"not-open,open,over"`
	Stuck    *time.Time    `json:"stuck,omitempty" doc:"Since when the plan has not followed what happens, by a fault of the server"`
	Settle   []Unsettled   `json:"settle" nullable:"false" doc:"What clashes, to be settled at the pass"`
	Off      []Lack        `json:"off" nullable:"false" doc:"What is off, or running out"`
	Out      []Absence     `json:"out" nullable:"false" doc:"Who and what is not there"`
	Troubles []SaidInWords `json:"troubles" nullable:"false" doc:"What was said in words in the last quarter of an hour"`
	Sections []SectionDue  `json:"sections" nullable:"false" doc:"By id"`
	Joins    []JoinDue     `json:"joins" nullable:"false" doc:"In the order in which they come together"`
}
