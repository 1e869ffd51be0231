package expand

import (
	"slices"
	"strings"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// joined sorts windows and merges those that overlap or touch.
func joined(ws []workload.Window) []workload.Window {
	slices.SortFunc(ws, func(a, b workload.Window) int { return int(a.From - b.From) })
	var out []workload.Window
	for _, w := range ws {
		if n := len(out); n > 0 && w.From <= out[n-1].To {
			out[n-1].To = max(out[n-1].To, w.To)
			continue
		}
		out = append(out, w)
	}
	return out
}

// Plan is a table's schedule as a cook reads it. Times are seconds relative to
// the join: negative is before.
type Plan struct {
	Status      workload.Status   `json:"status" enum:"optimal,feasible,best-effort,impossible"`
	JoinAt      time.Time         `json:"join_at" doc:"When the plates come together"`
	WantedAt    time.Time         `json:"wanted_at"`
	LateS       int64             `json:"late_s" doc:"Seconds after the wish; negative is early"`
	PlatingS    int               `json:"plating_s" doc:"At the pass, from the first thing put down to the last, seconds"`
	StandS      int               `json:"stand_s" doc:"How long the plates stand then, for what must set or thaw on them, seconds"`
	Racked      *Racked           `json:"racked,omitempty" doc:"What is put on ahead"`
	ClockExact  bool              `json:"clock_exact" doc:"No order of plating is quicker"`
	OnePlateS   int               `json:"one_plate_s" doc:"One plate, one pair of hands, seconds"`
	Hands       int               `json:"hands"`
	Plates      int               `json:"plates"`
	Strands     []Strand          `json:"strands" nullable:"false"`
	Platers     []string          `json:"platers" nullable:"false" doc:"Who plates"`
	Broken      []workload.Broken `json:"broken" nullable:"false"`
	Trouble     []message.Message `json:"trouble" nullable:"false" doc:"The broken rules"`
	Cost        int64             `json:"cost"`
	LowerBound  int64             `json:"lower_bound"`
	FirstFireS  int64             `json:"first_fire_s" doc:"When the first thing is fired, seconds from the join"`
	FirstFireAt time.Time         `json:"first_fire_at"`
}

// Racked is the plating of what is put on ahead, in seconds from the join.
type Racked struct {
	FromS  int64     `json:"from_s"`
	ToS    int64     `json:"to_s"`
	At     time.Time `json:"at"`
	Until  time.Time `json:"until"`
	People []string  `json:"people" nullable:"false"`
}

// Strand is one component's way to the plate.
type Strand struct {
	Component string     `json:"component"`
	Name      string     `json:"name"`
	Section   string     `json:"section"`
	Elements  []int      `json:"elements" nullable:"false" doc:"Numbers in the plating sequence"`
	Portions  int        `json:"portions"`
	Apart     bool       `json:"apart" doc:"For guests who must not have an allergen: in a pan of its own, before the others"`
	Contains  []string   `json:"contains" nullable:"false" doc:"Allergens that it has itself and its guest must not have: no pan of its own helps"`
	NeededS   int64      `json:"needed_s" doc:"Its moment of the plating clock"`
	Fired     bool       `json:"fired" doc:"It has steps done to order"`
	FireS     int64      `json:"fire_s" doc:"When its first pick-up step starts"`
	FireAt    *time.Time `json:"fire_at,omitempty"`
	Bars      []Bar      `json:"bars" nullable:"false"`
	Waits     []WaitBar  `json:"waits" nullable:"false"`
	// AheadS is how long its make-ahead takes from first to last, best waits
	// included; 0 when nothing is made ahead.
	AheadS     int     `json:"ahead_s"`
	AheadSteps int     `json:"ahead_steps"`
	KeepsH     float64 `json:"keeps_h"`
}

// Bar is one batch of one step.
type Bar struct {
	Task      string              `json:"task"`
	Step      string              `json:"step"`
	Name      string              `json:"name"`
	Batch     int                 `json:"batch"`
	Of        int                 `json:"of"`
	Portions  int                 `json:"portions"`
	StartS    int64               `json:"start_s"`
	FinishS   int64               `json:"finish_s"`
	StartAt   time.Time           `json:"start_at"`
	Hands     kitchen.Hands       `json:"hands" enum:"both,tend,none"`
	SetpointC *float64            `json:"setpoint_c,omitempty"`
	On        []string            `json:"on" nullable:"false" doc:"Who and what it takes"`
	Checks    []kitchen.DoneCheck `json:"checks" nullable:"false"`
	Dangers   []kitchen.Danger    `json:"dangers" nullable:"false"`
	LowS      int                 `json:"low_s" doc:"The time of this batch when it goes quickly"`
	HighS     int                 `json:"high_s" doc:"… and when it goes slowly"`
	Preheat   bool                `json:"preheat" doc:"The empty pan is heated"`
	Courses   int                 `json:"courses" doc:"Table-courses that this batch is for; 1 when it is its table's own"`
	Touches   []BarTouch          `json:"touches" nullable:"false" doc:"Hands at its ends and inside it, where it does not take them throughout"`
}

// BarTouch is a stretch of hands within a batch.
type BarTouch struct {
	Kind  Act    `json:"kind" enum:"in,touch,out"`
	Say   string `json:"say"`
	FromS int64  `json:"from_s"`
	ToS   int64  `json:"to_s"`
	Who   string `json:"who"`
}

// WaitBar is the wait after a batch: from its end to the next step or to the
// component's moment.
type WaitBar struct {
	AfterTask string        `json:"after_task"`
	FromS     int64         `json:"from_s"`
	ToS       int64         `json:"to_s"`
	Shortest  int           `json:"shortest"`
	Best      *int          `json:"best,omitempty"`
	Longest   *int          `json:"longest,omitempty"`
	Place     kitchen.Place `json:"place,omitempty"`
	Assumed   bool          `json:"assumed" doc:"Nobody said its longest: it is the trade's usual"`
	Kept      string        `json:"kept,omitempty" doc:"How it is kept"`
	State     string        `json:"state" enum:"in-time,waiting,over" doc:"Within its best, beyond its best, over its longest (or under its shortest)"`
}

// Read turns a schedule of the firing's workload into the plan.
func (f *Firing) Read(s *workload.Schedule) *Plan {
	at := map[string]int64{}
	for _, j := range s.Joins {
		at[j.ID] = j.At
	}
	names := map[string]string{}
	for _, r := range f.Workload.Resources {
		names[r.ID] = r.Name
	}
	return f.read(s, runsOf(s), at, names)
}

// read is Read with what several tables of one schedule share: its runs, its joins and the
// names of the resources.
func (f *Firing) read(s *workload.Schedule, runs map[string]*workload.Run, at map[string]int64, names map[string]string) *Plan {
	p := &Plan{Status: s.Status, WantedAt: f.Table.At, JoinAt: f.Table.At, PlatingS: f.Clock.Seconds, ClockExact: f.Clock.Exact,
		Hands: f.Table.Hands, Broken: s.Broken, Strands: []Strand{}, Platers: []string{}, Trouble: []message.Message{}}
	if p.Broken == nil {
		p.Broken = []workload.Broken{}
	}
	if s.Cost != nil {
		p.Cost = *s.Cost
	}
	if s.LowerBound != nil {
		p.LowerBound = *s.LowerBound
	}
	for _, o := range f.Table.Orders {
		p.Plates += o.Count
	}
	p.OnePlateS = f.onePlate()
	if s.Status == workload.Impossible {
		return p
	}
	join := at[f.Table.ID]
	p.JoinAt = f.Origin.Add(time.Duration(join) * time.Second)
	p.LateS = int64(p.JoinAt.Sub(p.WantedAt) / time.Second)
	on := runs[f.platingID()].Resources
	for k := range f.Table.Hands {
		p.Platers = append(p.Platers, names[on[2*k]]) // hands, and that they are not at the stove (leave)
	}
	p.StandS = f.StandS
	if r := runs[f.rackedID()]; r != nil {
		p.Racked = &Racked{r.Start - join, r.Finish - join, f.Origin.Add(time.Duration(r.Start) * time.Second),
			f.Origin.Add(time.Duration(r.Finish) * time.Second), []string{}}
		for k := range f.rackHands() {
			p.Racked.People = append(p.Racked.People, names[r.Resources[2*k]])
		}
	}
	set := settingsOf(f.Workload, runs)
	for _, m := range f.Moments {
		p.Strands = append(p.Strands, f.strand(m, runs, names, set, join))
	}
	for _, x := range p.Strands {
		p.FirstFireS = min(p.FirstFireS, x.FireS)
	}
	p.FirstFireAt = p.JoinAt.Add(time.Duration(p.FirstFireS) * time.Second)
	return p
}

// contains lists what a component that is cooked apart has itself of what its guests must not have, as the kitchen's code calls it.
func (f *Firing) contains(component string, apart bool) []string {
	out := []string{}
	if !apart {
		return out
	}
	for i := range f.Table.Orders {
		o := &f.Table.Orders[i]
		d, _ := f.book.Dish(o.Dish)
		es, err := d.Plate(o.Variant)
		if err != nil || !o.Needs().OwnPan() || !slices.ContainsFunc(es, func(e kitchen.Element) bool { return e.Component == component }) {
			continue
		}
		for _, s := range f.book.Against([]kitchen.Element{{Component: component}}, o.Needs()) {
			if name := s.Named(f.book.Kitchen().SafetyCode); !slices.Contains(out, name) {
				out = append(out, name)
			}
		}
	}
	return out
}

// neededAt is when a component is first put on a plate, or what it goes into is.
func (f *Firing) neededAt(m Moment, runs map[string]*workload.Run) int64 {
	for m.Into != "" {
		m = f.Moments[slices.IndexFunc(f.Moments, func(x Moment) bool { return x.Component == m.Into && x.Apart == m.Apart })]
	}
	at := f.momentsOf(m.Component)[0]
	return runs[at.task].Start + int64(at.offset)
}

func (f *Firing) onePlate() int {
	d, _ := f.book.Dish(f.Table.Orders[0].Dish)
	es, _ := d.Plate(f.Table.Orders[0].Variant)
	sum := 0
	for _, e := range es {
		sum += e.Seconds
	}
	return sum
}

func (f *Firing) strand(m Moment, runs map[string]*workload.Run, names map[string]string, set map[string]float64, join int64) Strand {
	c, _ := f.book.Component(m.Component)
	x := Strand{Component: c.ID, Name: c.Name, Section: c.Section, Elements: m.Elements, Portions: m.Portions, Apart: m.Apart,
		Contains: f.contains(c.ID, m.Apart),
		NeededS:  f.neededAt(m, runs) - join, KeepsH: c.ShelfLifeH, Bars: []Bar{}, Waits: []WaitBar{}}
	x.AheadS, x.AheadSteps = AheadSpan(c)
	touches := map[string][]BarTouch{}
	steps := map[string]*kitchen.Step{}
	for i := range c.Steps {
		steps[c.Steps[i].ID] = &c.Steps[i]
	}
	for _, t := range f.tasks {
		ref := f.Tasks[t.ID]
		if ref.Component != c.ID || ref.Apart != m.Apart {
			continue
		}
		if ref.Act != "" {
			if run := runs[t.ID]; len(run.Resources) > 0 && ref.Act != ActPlace {
				touches[ref.Main] = append(touches[ref.Main], BarTouch{ref.Act, ref.Say, run.Start - join, run.Finish - join, names[run.Resources[0]]})
			}
			continue
		}
		s, run := steps[ref.Step], runs[t.ID]
		e := s.Time.For(ref.Portions)
		delta := int(t.Seconds) - e.Likely
		if ref.Preheat {
			e, delta = kitchen.Exactly(int(t.Seconds)), 0
		}
		bar := Bar{Task: t.ID, Step: s.ID, Name: s.Name, Batch: ref.Batch, Of: ref.Of, Portions: ref.Portions,
			StartS: run.Start - join, FinishS: run.Finish - join, StartAt: f.Origin.Add(time.Duration(run.Start) * time.Second),
			Hands: s.Hands, On: []string{}, Checks: s.Checks, Dangers: s.Dangers, LowS: e.Low + delta, HighS: e.High + delta, Preheat: ref.Preheat,
			Courses: max(1, len(ref.Joins)), Touches: []BarTouch{}}
		if ref.Preheat {
			bar.Name, bar.Hands, bar.Checks, bar.Dangers = "Heat for "+strings.ToLower(s.Name), kitchen.None, []kitchen.DoneCheck{},
				[]kitchen.Danger{}
		}
		if s.Equipment != nil {
			bar.SetpointC = heatAt(set, t.ID)
		}
		for _, id := range run.Resources {
			if !slices.Contains(bar.On, names[id]) {
				bar.On = append(bar.On, names[id])
			}
		}
		x.Bars = append(x.Bars, bar)
		if !x.Fired || bar.StartS < x.FireS {
			at := bar.StartAt
			x.Fired, x.FireS, x.FireAt = true, bar.StartS, &at
		}
	}
	for i := range x.Bars {
		if list := touches[x.Bars[i].Task]; len(list) > 0 {
			slices.SortStableFunc(list, func(a, b BarTouch) int { return int(a.FromS - b.FromS) })
			// What is done while it waits does not belong to the step.
			x.Bars[i].Touches = slices.DeleteFunc(list, func(t BarTouch) bool { return t.FromS >= x.Bars[i].FinishS })
		}
	}
	slices.SortStableFunc(x.Bars, func(a, b Bar) int { return int(a.StartS - b.StartS) })
	f.waits(&x, c, m.Apart, runs, join)
	return x
}

// waits adds the wait after each batch: to the next step's batch or to the plate.
func (f *Firing) waits(x *Strand, c *kitchen.Component, apart bool, runs map[string]*workload.Run, join int64) {
	type pair struct{ from, to string }
	seen := map[pair]bool{} // a longest wait that is dear has a link of its own
	for _, l := range f.links {
		from, to := f.Tasks[l.From], f.Tasks[l.To]
		if from.Component != c.ID || from.Apart != apart || to.Act != "" || l.Kind != workload.FinishStart || seen[pair{l.From, l.To}] {
			continue
		}
		seen[pair{l.From, l.To}] = true
		end := runs[l.From].Finish
		planned, ok := planned(f.book, from, to)
		if !ok {
			continue // batches in turn, or the pan that is heated
		}
		until := runs[l.To].Start
		if to.Plating {
			until += f.Wanted(to, c.ID)
		}
		if until <= end {
			continue
		}
		w := planned.Wait
		bar := WaitBar{AfterTask: l.From, FromS: end - join, ToS: until - join, Shortest: w.Shortest, Best: w.Best, Longest: w.Longest,
			Place: w.Place, Assumed: planned.Assumed, Kept: w.Kept, State: "in-time"}
		wait := until - end
		switch {
		case wait < int64(w.Shortest) || w.Longest != nil && wait > int64(*w.Longest):
			bar.State = "over"
		case w.Best != nil && wait > int64(*w.Best):
			bar.State = "waiting"
		}
		x.Waits = append(x.Waits, bar)
	}
}

// AheadSpan is how long a component's make-ahead takes from its first step to the
// last, with the best of every wait (the shortest where no best is said), and how
// many steps it has: the longest path through the steps.
func AheadSpan(c *kitchen.Component) (seconds, steps int) {
	finish := map[string]int{}
	for _, s := range c.InPhase(kitchen.Ahead) {
		steps++
		start := 0
		for _, a := range s.After {
			w := a.Shortest
			if a.Best != nil {
				w = *a.Best
			}
			start = max(start, finish[a.Step]+w)
		}
		finish[s.ID] = start + s.Time.For(1).Likely
		seconds = max(seconds, finish[s.ID])
	}
	return seconds, steps
}
