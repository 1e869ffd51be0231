package expand

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

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
	Said    []message.Message `json:"problems" nullable:"false"`
	Fires   []Fire            `json:"fires" nullable:"false" doc:"Every firing by the clock"`
	Runs    []FireRun         `json:"runs" nullable:"false" doc:"Every batch of every step, by section"`
	Sets    []HeatSetting     `json:"sets" nullable:"false" doc:"When each thermostat is turned, and to what"`
	Tables  []TableStanding   `json:"tables" nullable:"false" doc:"How sure each table is"`
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
	// Chance is that of being on time, 0 to 1; −1 until it was worked out.
	Chance   float64 `json:"chance"`
	Holds    float64 `json:"holds" doc:"The chance that every hold is within its limit, 0 to 1; −1 until it was worked out"`
	Forecast bool    `json:"forecast" doc:"It is called by the pass; until then this is the forecast"`
	Blame    []Blame `json:"blame" nullable:"false" doc:"What makes it late when it is, the most often first"`
	// Standing and IsLate are filled in by EveningPlan.Stand.
	Standing Standing `json:"standing" enum:"in-time,doubtful,late" doc:"Late: it is late, or one of its holds is passed"`
	IsLate   bool     `json:"late" doc:"It comes together later than counts as on time"`
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

// Load is the use of one piece of equipment, or of a person's hands, over the evening.
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
	Kind string          `json:"kind" enum:"late,hold"`
	Said message.Message `json:"said" doc:"What, and by how much"`
	Why  message.Message `json:"why" doc:"What keeps it"`
	ByS  int64           `json:"by_s"`
	// Cause is what keeps it, where that is something of another table-course.
	Cause *Cause `json:"cause,omitempty"`
}

// Fire is one batch to fire: the clock, the table, what, how many, with the wait allowed.
type Fire struct {
	At      time.Time `json:"at"`
	Join    string    `json:"join"`
	Joins   []string  `json:"joins" nullable:"false" doc:"All the joins that it is for"`
	Table   string    `json:"table"`
	Course  string    `json:"course"`
	Section string    `json:"section"`
	What    string    `json:"what"`
	Count   int       `json:"count"`
	Batch   int       `json:"batch"`
	Of      int       `json:"of"`
	People  []string  `json:"people" nullable:"false"`
	MayS    int64     `json:"may_s" doc:"Seconds that it may be fired later without the join moving"`
	Preheat int64     `json:"preheat_s" doc:"Seconds for which the pan is heated before: it goes on the heat that much sooner"`
	Apart   bool      `json:"apart" doc:"For a guest who must not have an allergen: own pan, before the others"`
}

// Read makes the plan of a schedule.
func (e *Evening) Read(s *workload.Schedule) *EveningPlan {
	out := &EveningPlan{Service: e.Service.ID, Name: e.Service.Name, Status: s.Status, Tasks: len(s.Tasks), Joins: []EveningJoin{},
		Loads: []Load{}, Hands: []SectionHands{}, Trouble: []FireTrouble{}, Fires: []Fire{}, Runs: []FireRun{}, Sets: []HeatSetting{},
		Tables: []TableStanding{}, Said: append([]message.Message{}, e.Problems...)}
	if s.Cost != nil {
		out.Cost = *s.Cost
	}
	if len(s.Tasks) == 0 {
		return out
	}
	why := e.newCauses(s)
	for i := range e.Courses {
		x := &e.Courses[i]
		p := x.Firing.read(s, why.runs, why.joins, why.names)
		j := EveningJoin{ID: x.ID, Table: x.Table, Name: x.Name, Course: x.Course, Round: x.Round, Plates: p.Plates, At: p.JoinAt,
			PlateAt: p.JoinAt.Add(-time.Duration(p.PlatingS) * time.Second), WantedAt: p.WantedAt, LateS: p.LateS, FireAt: p.FirstFireAt,
			Dishes: []string{}, Chance: -1, Holds: -1, Blame: []Blame{},
			Forecast: e.Service.Pacing == kitchen.Called && x.before != "" && x.Round < 2}
		for _, o := range x.Firing.Table.Orders {
			d, _ := e.book.Dish(o.Dish)
			j.Dishes = append(j.Dishes, ordered(&o, d.Name))
		}
		e.holds(out, &j, p, why)
		out.Joins = append(out.Joins, j)
		if j.Late() {
			cause := why.late(x)
			out.Trouble = append(out.Trouble, FireTrouble{j.ID, "late", message.Of("fire.late", "table", x.title(), "by", message.Rough(j.LateS)),
				cause.Said, j.LateS, cause.named()})
		}
		if out.From.IsZero() || p.FirstFireAt.Before(out.From) {
			out.From = p.FirstFireAt
		}
		if p.JoinAt.After(out.To) {
			out.To = p.JoinAt
		}
	}
	slices.SortStableFunc(out.Joins, func(a, b EveningJoin) int { return a.At.Compare(b.At) })
	slices.SortStableFunc(out.Trouble, func(a, b FireTrouble) int { return cmp.Compare(b.ByS, a.ByS) })
	e.fires(out, s)
	slices.SortStableFunc(out.Fires, func(a, b Fire) int { return a.At.Compare(b.At) })
	e.loads(out, s)
	out.Hands = e.hands(out.Loads)
	e.settings(out, s)
	out.Stand()
	return out
}

// title names a course, and its round where it goes in several.
func (x *Course) title() string {
	if x.Round > 0 {
		return message.Of("course.round-of", "table", x.Name, "course", x.Course, "round", x.Round).Text
	}
	return message.Of("course.of", "table", x.Name, "course", x.Course).Text
}

// ordered is an order in words: how many of a dish, and how.
func ordered(o *Order, dish string) string {
	how := []message.Message{message.Of("order.of", "number", o.Count, "dish", dish)}
	for _, x := range []string{o.Variant, o.Doneness} {
		if x != "" {
			how = append(how, message.Of("order.how", "how", x))
		}
	}
	for _, a := range o.Without {
		how = append(how, message.Of("order.without", "allergen", a))
	}
	return strings.Join(message.Texts(how), "")
}

// holds names the waits of a course that get longer than they should.
func (e *Evening) holds(out *EveningPlan, j *EveningJoin, p *Plan, why *causes) {
	for _, st := range p.Strands {
		worst, after := int64(HoldGraceS), ""
		for _, w := range st.Waits {
			if w.Longest == nil {
				continue
			}
			if over := w.ToS - w.FromS - int64(*w.Longest); over > worst {
				worst, after = over, w.AfterTask
			}
		}
		if after == "" {
			continue
		}
		j.OverS = max(j.OverS, worst)
		x, _ := e.CourseByID(j.ID)
		cause := why.early(x, after)
		out.Trouble = append(out.Trouble, FireTrouble{j.ID, "hold", message.Of("fire.hold", "table", x.title(), "what", st.Name, "by",
			message.Rough(worst)), cause.Said, worst, cause.named()})
	}
}

// joinsOf lists the joins that a task is for, in the order of the courses.
func (e *Evening) joinsOf(task string) (ids []string, first *Course) {
	for _, i := range e.serves[task] {
		if first == nil {
			first = &e.Courses[i]
		}
		ids = append(ids, e.Courses[i].ID)
	}
	return ids, first
}

// fires gathers every batch of every step, and of them what is fired: the batches that
// follow nothing made to order.
func (e *Evening) fires(out *EveningPlan, s *workload.Schedule) {
	runs, names := runsOf(s), e.names()
	at := func(s int64) time.Time { return e.Origin.Add(time.Duration(s) * time.Second) }
	before, slack := map[string]bool{}, map[string]int64{}
	for _, l := range e.Workload.Links {
		from, to := runs[l.From], runs[l.To]
		if from == nil || to == nil || l.Kind != workload.FinishStart {
			continue
		}
		if ref := e.ref(l.From); !ref.Preheat && ref.Step != e.ref(l.To).Step {
			before[l.To] = true
		}
		free := to.Start - from.Finish - l.Min
		if was, known := slack[l.From]; !known || free < was {
			slack[l.From] = free
		}
	}
	heated := map[string]*workload.Run{}
	for _, l := range e.Workload.Links {
		if e.ref(l.From).Preheat {
			heated[l.To] = runs[l.From]
		}
	}
	for _, t := range e.Workload.Tasks {
		r, ref := runs[t.ID], e.ref(t.ID)
		if r == nil || ref.Plating {
			continue
		}
		joins, x := e.joinsOf(t.ID)
		c, _ := e.book.Component(ref.Component)
		step := &c.Steps[c.StepIndex(ref.Step)]
		run := FireRun{Joins: joins, Section: c.SectionOf(step), What: c.Name, Step: step.Name, Count: ref.Portions, From: at(r.Start),
			To: at(r.Finish), Hands: step.Hands, Apart: ref.Apart}
		if ref.Preheat {
			run.Step, run.Hands = message.Of("task.heat-pan").Text, kitchen.None
		}
		if step.Equipment != nil {
			run.C = step.Equipment.SetpointC
		}
		out.Runs = append(out.Runs, run)
		if before[t.ID] || ref.Preheat {
			continue
		}
		f := Fire{At: at(r.Start), Join: x.ID, Joins: joins, Table: e.tables(joins), Course: string(x.Course), Section: run.Section,
			What: c.Name, Count: ref.Portions, Batch: ref.Batch, Of: ref.Of, People: []string{}, MayS: max(0, slack[t.ID]), Apart: ref.Apart}
		if h := heated[t.ID]; h != nil {
			f.Preheat = r.Start - h.Start
		}
		for _, id := range r.Resources {
			if e.roster[id].IsPerson() {
				f.People = append(f.People, names[id])
			}
		}
		out.Fires = append(out.Fires, f)
	}
}

// tables names the tables of some joins, or the rounds of one table.
func (e *Evening) tables(joins []string) string {
	var names []string
	low, high := 0, 0
	for _, id := range joins {
		x, _ := e.CourseByID(id)
		if !slices.Contains(names, x.Name) {
			names = append(names, x.Name)
		}
		if x.Round > 0 {
			if low == 0 {
				low = x.Round
			}
			high = x.Round
		}
	}
	out := strings.Join(names, " + ")
	switch {
	case low > 0 && low == high:
		return message.Of("course.round", "tables", out, "round", low).Text
	case low > 0:
		return message.Of("course.rounds", "tables", out, "from", low, "to", high).Text
	}
	return out
}

func runsOf(s *workload.Schedule) map[string]*workload.Run {
	runs := make(map[string]*workload.Run, len(s.Tasks))
	for i := range s.Tasks {
		runs[s.Tasks[i].ID] = &s.Tasks[i]
	}
	return runs
}

func (e *Evening) names() map[string]string {
	names := map[string]string{}
	for _, r := range e.Workload.Resources {
		names[r.ID] = r.Name
	}
	return names
}

// ref is what a task of the evening is; the zero value for one that it does not have.
func (e *Evening) ref(task string) TaskRef { return e.refs[task] }

// loads makes the profile of every resource that is used.
func (e *Evening) loads(out *EveningPlan, s *workload.Schedule) {
	type edge struct {
		at    int64
		units int64
	}
	edges := map[string][]edge{}
	heats := map[string][]HeatStep{}
	runs := runsOf(s)
	at := func(s int64) time.Time { return e.Origin.Add(time.Duration(s) * time.Second) }
	for _, t := range e.Workload.Tasks {
		r := runs[t.ID]
		for k, n := range t.Needs {
			id := r.Resources[k]
			edges[id] = append(edges[id], edge{r.Start, n.Units}, edge{r.Finish, -n.Units})
			if n.SetpointC != nil {
				heats[id] = append(heats[id], HeatStep{at(r.Start), at(r.Finish), *n.SetpointC})
			}
		}
	}
	units := map[string]string{}
	for _, q := range e.book.Equipment() {
		units[piece(q.ID).name()] = q.Unit
	}
	for _, r := range e.Workload.Resources {
		es := edges[r.ID]
		if len(es) == 0 {
			continue
		}
		slices.SortFunc(es, func(a, b edge) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.units, b.units)) })
		l := Load{Of: e.roster[r.ID], Name: r.Name, Unit: units[r.ID], Capacity: r.Capacity, Steps: []LoadStep{}, Heats: []HeatStep{}}
		if r.Thermostat != nil {
			hs := heats[r.ID]
			slices.SortFunc(hs, func(a, b HeatStep) int { return a.From.Compare(b.From) })
			for _, h := range hs {
				if n := len(l.Heats); n > 0 && l.Heats[n-1].C == h.C {
					if h.To.After(l.Heats[n-1].To) {
						l.Heats[n-1].To = h.To
					}
					continue
				}
				l.Heats = append(l.Heats, h)
			}
		}
		now := int64(0)
		for i, x := range es {
			now += x.units
			if i+1 < len(es) && es[i+1].at == x.at {
				continue
			}
			l.Steps = append(l.Steps, LoadStep{at(x.at), now})
			l.Peak = max(l.Peak, now)
		}
		out.Loads = append(out.Loads, l)
	}
}

// settings tells when each thermostat has to be turned: before the first thing that wants
// another heat than it has, by as long as it takes to get there.
func (e *Evening) settings(out *EveningPlan, s *workload.Schedule) {
	runs := runsOf(s)
	type use struct {
		run  *workload.Run
		c    float64
		task string
	}
	uses := map[string][]use{}
	for _, t := range e.Workload.Tasks {
		for k, n := range t.Needs {
			if r := runs[t.ID]; r != nil && n.SetpointC != nil {
				uses[r.Resources[k]] = append(uses[r.Resources[k]], use{r, *n.SetpointC, t.ID})
			}
		}
	}
	for _, r := range e.Workload.Resources {
		if r.Thermostat == nil {
			continue
		}
		list := uses[r.ID]
		slices.SortStableFunc(list, func(a, b use) int { return cmp.Compare(a.run.Start, b.run.Start) })
		now := r.Thermostat.StartC
		for _, u := range list {
			if took := r.Thermostat.Changeover(now, u.c); took > 0 {
				ref := e.ref(u.task)
				c, _ := e.book.Component(ref.Component)
				by := e.Origin.Add(time.Duration(u.run.Start) * time.Second)
				out.Sets = append(out.Sets, HeatSetting{At: by.Add(-time.Duration(took) * time.Second), By: by, Name: r.Name, FromC: now, C: u.c,
					What: c.Name, Section: c.SectionOf(&c.Steps[c.StepIndex(ref.Step)])})
				now = u.c
			}
		}
	}
	slices.SortStableFunc(out.Sets, func(a, b HeatSetting) int { return a.At.Compare(b.At) })
}
