package expand

import (
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// The make-ahead plan as it is read.

// PrepPlan is the make-ahead work over days, as a cook reads it.
type PrepPlan struct {
	Days        []PrepDay         `json:"days" nullable:"false" doc:"From the earliest start to the last service"`
	Jobs        []Job             `json:"jobs" nullable:"false" doc:"One for each batch, in order of their start"`
	Trouble     []PrepTrouble     `json:"trouble" nullable:"false" doc:"Forgotten and too tight, the worst first"`
	Stock       []StockUse        `json:"stock" nullable:"false"`
	Gates       []Gate            `json:"gates" nullable:"false" doc:"Readiness before each service, by section"`
	Ingredients []IngredientRow   `json:"ingredients" nullable:"false"`
	Problems    []message.Message `json:"problems" nullable:"false" doc:"What could not be reckoned"`
	Now         time.Time         `json:"now"`
	Status      workload.Status   `json:"status" enum:"optimal,feasible,best-effort,impossible"`
	Cost        int64             `json:"cost"`
	Load        []PersonLoad      `json:"load" nullable:"false" doc:"Hands-on work of each person by day"`
}

// PrepDay is a column.
type PrepDay struct {
	Date     string   `json:"date"`
	Services []string `json:"services" nullable:"false" doc:"Names of the services on that day"`
}

// Job is one batch with its steps.
type Job struct {
	ID        string       `json:"id"`
	Component string       `json:"component"`
	Name      string       `json:"name"`
	Section   string       `json:"section"`
	Number    int          `json:"number"`
	Of        int          `json:"of"`
	Amount    float64      `json:"amount" doc:"What the batch gives"`
	Left      float64      `json:"left" doc:"Of it that nothing needs yet"`
	Unit      kitchen.Unit `json:"unit"`
	Portions  int          `json:"portions"`
	Container string       `json:"container" doc:"The smallest container that holds it"`
	Kept      string       `json:"kept,omitempty" doc:"How it is kept, in words"`
	For       []string     `json:"for" nullable:"false" doc:"Services, and components that it goes into"`
	NeedBy    time.Time    `json:"need_by"`
	StartBy   time.Time    `json:"start_by" doc:"Begun later it cannot be ready in time"`
	StartAt   time.Time    `json:"start_at"`
	ReadyAt   time.Time    `json:"ready_at"`
	UseBy     *time.Time   `json:"use_by,omitempty" doc:"From when it is ready and how long it keeps"`
	HandsS    int64        `json:"hands_s" doc:"Seconds that take a cook's hands"`
	WaitS     int64        `json:"wait_s" doc:"Seconds from start to ready that take nobody"`
	Steps     []JobStep    `json:"steps" nullable:"false"`
	State     string       `json:"state" enum:"to-do,begun,done,forgotten,tight"`
	Allergens []string     `json:"allergens" nullable:"false"`
	Unknown   []string     `json:"unknown_recipes" nullable:"false" doc:"Components whose recipe was not entered: their allergens are not known"`
	// Contact is for the guests with needs among those that it is made for.
	Contact []message.Message `json:"contact" nullable:"false" doc:"What could get to it and a guest must not have"`
}

// JobStep is one run of a step.
type JobStep struct {
	Task      string              `json:"task"`
	Step      string              `json:"step" doc:"Id of the component's step"`
	Name      string              `json:"name"`
	Section   string              `json:"section"`
	Hands     kitchen.Hands       `json:"hands" enum:"both,tend,none"`
	StartAt   time.Time           `json:"start_at"`
	FinishAt  time.Time           `json:"finish_at"`
	People    []string            `json:"people" nullable:"false"`
	On        []string            `json:"on" nullable:"false" doc:"Equipment"`
	SetpointC *float64            `json:"setpoint_c,omitempty"`
	Checks    []kitchen.DoneCheck `json:"checks" nullable:"false"`
	Dangers   []kitchen.Danger    `json:"dangers" nullable:"false"`
	Last      bool                `json:"last" doc:"The step that finishes the batch"`
	Done      bool                `json:"done"`
	Begun     bool                `json:"begun" doc:"It runs by itself since what came before is done"`
	Acts      []StepAct           `json:"acts" nullable:"false" doc:"Hands at its ends and inside it, where it does not take them throughout"`
	StaysS    int64               `json:"stays_s,omitempty" doc:"Seconds for which it stays where it is when it is done, until somebody comes"`
}

// StepAct is a stretch of hands that belongs to a step: putting in, something in between, taking out.
type StepAct struct {
	Kind  Act       `json:"kind" enum:"in,touch,out"`
	Say   string    `json:"say"`
	At    time.Time `json:"at"`
	Until time.Time `json:"until"`
	Who   string    `json:"who"`
}

// PrepTrouble is a batch that is not ready for its service.
type PrepTrouble struct {
	Job     string            `json:"job"`
	Kind    string            `json:"kind" enum:"forgotten,tight"`
	Said    message.Message   `json:"said"`
	ReadyAt time.Time         `json:"ready_at"`
	LateS   int64             `json:"late_s"`
	Helps   []message.Message `json:"helps" nullable:"false" doc:"What can still be done, as far as it can be told"`
}

// StockUse is a product on hand and what it goes into.
type StockUse struct {
	ID        string       `json:"id"`
	Component string       `json:"component"`
	Name      string       `json:"name"`
	Amount    float64      `json:"amount"`
	Used      float64      `json:"used"`
	Unit      kitchen.Unit `json:"unit"`
	UseBy     time.Time    `json:"use_by"`
	Past      bool         `json:"past" doc:"Its use-by comes before it is needed"`
}

// Gate is how far a section is with what a service needs.
type Gate struct {
	Service string `json:"service"`
	Section string `json:"section"`
	Ready   int    `json:"ready" doc:"Finished"`
	Of      int    `json:"of"`
}

// IngredientRow is one line of what is needed from the store.
type IngredientRow struct {
	Section   string   `json:"section"`
	Name      string   `json:"name"`
	Amount    float64  `json:"amount" doc:"Before trim"`
	Trim      float64  `json:"trim" doc:"Of it trimmed away"`
	Unit      string   `json:"unit"`
	For       []string `json:"for" nullable:"false"`
	Allergens []string `json:"allergens" nullable:"false"`
}

// PersonLoad is a person's day.
type PersonLoad struct {
	Person   string `json:"person"`
	Section  string `json:"section" doc:"Where they are at home"`
	Date     string `json:"date"`
	HandsS   int64  `json:"hands_s" doc:"Seconds of hands-on work"`
	LongestS int64  `json:"longest_s" doc:"The longest stretch without ten minutes' pause"`
}
