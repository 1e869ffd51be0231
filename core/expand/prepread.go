package expand

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/scale"
	"jointime/core/workload"
)

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

// Read makes a plan of a schedule for the workload.
func (p *Prep) Read(s *workload.Schedule) *PrepPlan {
	out := &PrepPlan{Days: []PrepDay{}, Jobs: []Job{}, Trouble: []PrepTrouble{}, Stock: []StockUse{}, Gates: []Gate{},
		Ingredients: []IngredientRow{},
		Problems:    append([]message.Message{}, p.Amounts.Problems...), Now: p.Now, Status: s.Status, Load: []PersonLoad{}}
	if s.Cost != nil {
		out.Cost = *s.Cost
	}
	runs := map[string]*workload.Run{}
	for i := range s.Tasks {
		runs[s.Tasks[i].ID] = &s.Tasks[i]
	}
	for i := range p.Amounts.Batches {
		if j := p.job(i, runs); j != nil {
			out.Jobs = append(out.Jobs, *j)
			if t := p.trouble(i, j); t != nil {
				out.Trouble = append(out.Trouble, *t)
			}
		}
	}
	for i := range out.Trouble {
		for k := range out.Jobs {
			if out.Jobs[k].ID == out.Trouble[i].Job {
				out.Jobs[k].State = out.Trouble[i].Kind
			}
		}
	}
	out.Trouble = append(out.Trouble, p.overdue(out, runs)...)
	slices.SortStableFunc(out.Jobs, func(a, b Job) int { return a.StartAt.Compare(b.StartAt) })
	slices.SortStableFunc(out.Trouble, func(a, b PrepTrouble) int {
		return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(b.LateS, a.LateS))
	})
	out.Trouble = p.merged(out.Trouble)
	p.stock(out)
	p.days(out)
	p.gates(out)
	p.shopping(out)
	p.load(out, runs)
	return out
}

func (p *Prep) job(i int, runs map[string]*workload.Run) *Job {
	x := &p.Amounts.Batches[i]
	c, _ := p.book.Component(x.Component)
	j := &Job{ID: x.ID, Component: c.ID, Name: c.Name, Section: c.Section, Number: x.Number, Of: x.Of, Amount: scale.Float(x.Yield),
		Left: scale.Float(x.Left), Unit: c.Unit, Portions: x.Portions,
		NeedBy: x.NeedBy.In(p.zone), StartBy: p.StartBy[i].In(p.zone), Steps: []JobStep{}, For: []string{}, State: "to-do",
		Allergens: []string{}, Unknown: p.book.UnknownIn(c.ID)}
	j.Container = scale.Container(j.Amount * c.GramsPerUnit / c.DensityGPerMl)
	for _, part := range x.For {
		d := &p.Amounts.Draws[part.Draw]
		name := d.Service
		if s, ok := p.book.Service(d.Service); ok {
			name = s.Name
		}
		if d.ByBatch > 0 {
			name = p.book.NameOf(d.By)
		}
		if !slices.Contains(j.For, name) {
			j.For = append(j.For, name)
		}
	}
	for _, a := range p.book.Allergens(c.ID) {
		if name := kitchen.AllergenTitle(a.Allergen, p.book.Kitchen().SafetyCode); !slices.Contains(j.Allergens, name) {
			j.Allergens = append(j.Allergens, name)
		}
	}
	fixed := p.Workload.FixedTasks()
	names := map[string]string{}
	for _, r := range p.Workload.Resources {
		names[r.ID] = r.Name
	}
	done, begun := 0, 0
	var first, last int64
	for _, s := range c.InPhase(kitchen.Ahead) {
		parts := s.Batch.Split(x.Portions)
		for k := range parts {
			id := TaskID(x.ID, s.ID, k+1)
			r := runs[id]
			if r == nil {
				continue
			}
			st := JobStep{Task: id, Step: s.ID, Name: s.Name, Section: c.SectionOf(&s), Hands: s.Hands, StartAt: p.instant(r.Start),
				FinishAt: p.instant(r.Finish), People: []string{}, On: []string{}, Checks: s.Checks, Dangers: s.Dangers}
			if s.Equipment != nil {
				st.SetpointC = s.Equipment.SetpointC
			}
			if len(parts) > 1 {
				st.Name = message.Of("task.part", "what", st.Name, "number", k+1, "of", len(parts)).Text
			}
			for _, res := range r.Resources {
				if p.roster[res].IsPerson() {
					st.People = append(st.People, names[res])
				} else {
					st.On = append(st.On, names[res])
				}
			}
			_, st.Done = p.done[id]
			st.Begun = fixed[id] != nil && !st.Done
			if st.Done {
				done++
			}
			if st.Done || st.Begun {
				begun++
			}
			if len(j.Steps) == 0 || r.Start < first {
				first = r.Start
			}
			last = max(last, r.Finish)
			if s.Hands != kitchen.None {
				j.HandsS += r.Finish - r.Start
			}
			j.Steps = append(j.Steps, st)
		}
	}
	if len(j.Steps) == 0 {
		return nil // made to order: nothing ahead
	}
	slices.SortStableFunc(j.Steps, func(a, b JobStep) int { return a.StartAt.Compare(b.StartAt) })
	j.Steps[len(j.Steps)-1].Last = true
	j.StartAt, j.ReadyAt = p.instant(first), p.instant(last)
	j.WaitS = max(0, last-first-j.HandsS)
	if c.ShelfLifeH > 0 {
		u := j.ReadyAt.Add(time.Duration(c.ShelfLifeH * float64(time.Hour)))
		j.UseBy = &u
	}
	switch {
	case j.Steps[len(j.Steps)-1].Done || done == len(j.Steps):
		j.State = "done"
	case begun > 0:
		j.State = "begun"
	}
	return j
}

// moment is an instant to be said with its day, by the clock on the wall.
func (p *Prep) moment(t time.Time) message.Moment { return message.Moment(t.In(p.zone)) }

// lengthOf is a length of time to be said in minutes.
func lengthOf(d time.Duration) message.Rough { return message.Rough(d / time.Second) }

// trouble tells why a batch is not ready, and what can still be done.
func (p *Prep) trouble(i int, j *Job) *PrepTrouble {
	x := &p.Amounts.Batches[i]
	late := j.ReadyAt.Sub(x.NeedBy)
	if j.State == "done" || late <= 0 {
		return nil
	}
	t := &PrepTrouble{Job: j.ID, Kind: "tight", ReadyAt: j.ReadyAt, LateS: int64(late / time.Second), Helps: []message.Message{}}
	need := x.NeedBy.In(p.zone)
	if p.EarliestReady[i].After(x.NeedBy) {
		t.Kind = "forgotten"
		t.Said = message.Of("prep.forgotten", "what", j.Name, "by", p.moment(p.StartBy[i]), "ready", p.moment(p.EarliestReady[i]), "late",
			lengthOf(p.EarliestReady[i].Sub(x.NeedBy)))
		if !p.QuickReady[i].After(x.NeedBy) {
			t.Helps = append(t.Helps, message.Of("prep.quick", "ready", p.moment(p.QuickReady[i])))
		}
	} else {
		t.Said = message.Of("prep.tight", "what", j.Name, "ready", p.moment(j.ReadyAt), "late", lengthOf(late))
		if w, a := p.sectionLoad(j.Section, p.Now, need); a > 0 {
			t.Helps = append(t.Helps, message.Of("prep.hands-short", "section", p.sectionName(j.Section), "work", lengthOf(w), "there", lengthOf(a)))
		}
	}
	dishes := []string{}
	for _, part := range x.For {
		if d := p.Amounts.Draws[part.Draw]; d.ByBatch == 0 && !d.At.After(t.ReadyAt) {
			if dish, ok := p.book.Dish(d.By); ok && !slices.Contains(dishes, dish.Name) {
				dishes = append(dishes, dish.Name)
			}
		}
	}
	if len(dishes) > 0 {
		t.Helps = append(t.Helps, message.Of("prep.leave-off", "dishes", dishes))
	}
	return t
}

// overdue names the waits that go beyond their longest, and the products that would be
// past their shelf life.
func (p *Prep) overdue(out *PrepPlan, runs map[string]*workload.Run) []PrepTrouble {
	var list []PrepTrouble
	for _, j := range out.Jobs {
		if j.State != "to-do" && j.State != "begun" {
			continue
		}
		c, _ := p.book.Component(j.Component)
		for _, s := range c.InPhase(kitchen.Ahead) {
			for _, a := range s.After {
				if a.Longest == nil {
					continue
				}
				over := int64(0)
				for _, to := range j.Steps {
					for _, from := range j.Steps {
						if to.Step == s.ID && from.Step == a.Step && !to.Done {
							over = max(over, int64(to.StartAt.Sub(from.FinishAt)/time.Second)-int64(*a.Longest))
						}
					}
				}
				if over > 60 {
					before := c.Steps[c.StepIndex(a.Step)]
					list = append(list, PrepTrouble{Job: j.ID, Kind: "tight", ReadyAt: j.ReadyAt, LateS: over, Helps: []message.Message{},
						Said: message.Of("prep.waits-long", "what", j.Name, "by", message.Rough(over), "from", before.Name, "to", s.Name)})
				}
			}
		}
	}
	return list
}

func (p *Prep) sectionName(id string) string {
	if s, ok := p.book.Section(id); ok {
		return s.Name
	}
	return id
}

// sectionLoad is the open hands-on work of a section's batches that are needed until an
// instant, and the time of its people until then.
func (p *Prep) sectionLoad(section string, from, to time.Time) (work, there time.Duration) {
	for _, t := range p.Workload.Tasks {
		ref := p.Tasks[t.ID]
		x := &p.Amounts.Batches[ref.Batch]
		c, _ := p.book.Component(x.Component)
		s := &c.Steps[c.StepIndex(ref.Step)]
		if _, done := p.done[t.ID]; !done && c.SectionOf(s) == section && !x.NeedBy.After(to) {
			work += time.Duration(t.Seconds*int64(s.Hands.Attention())/4) * time.Second
		}
	}
	people := map[string]bool{}
	for _, id := range cooks(p.book, section) {
		people[id] = true
	}
	a, b := p.second(from), p.second(to)
	for _, r := range p.Workload.Resources {
		if people[r.ID] {
			for _, w := range r.Windows {
				if l := min(w.To, b) - max(w.From, a); l > 0 {
					there += time.Duration(l) * time.Second
				}
			}
		}
	}
	return work, there
}

// merged keeps the worst of what is said of several batches of a component, and says how
// many more there are.
func (p *Prep) merged(list []PrepTrouble) []PrepTrouble {
	component := map[string]string{}
	for _, x := range p.Amounts.Batches {
		component[x.ID] = x.Component
	}
	out, more := []PrepTrouble{}, map[int]int{}
	for _, t := range list {
		k := slices.IndexFunc(out, func(o PrepTrouble) bool { return o.Kind == t.Kind && component[o.Job] == component[t.Job] })
		if k < 0 {
			out = append(out, t)
		} else if out[k].Job != t.Job {
			more[k]++
		}
	}
	for k, n := range more {
		out[k].Said = message.All(out[k].Said, message.Of("prep.the-same", "count", n))
	}
	return out
}

func (p *Prep) stock(out *PrepPlan) {
	for _, f := range p.Amounts.Stock {
		c, _ := p.book.Component(f.Stock.Component)
		u := StockUse{ID: f.Stock.ID, Component: c.ID, Name: c.Name, Amount: f.Stock.Amount, Unit: c.Unit, UseBy: f.Stock.UseBy.In(p.zone),
			Past: f.Wasted}
		for _, part := range f.For {
			u.Used += scale.Float(part.Amount)
		}
		out.Stock = append(out.Stock, u)
	}
}

// days lists the columns: from the day of the first open or finished step to that of the
// last service.
func (p *Prep) days(out *PrepPlan) {
	first, last := p.Now, p.Now
	for _, j := range out.Jobs {
		if j.StartAt.Before(first) {
			first = j.StartAt
		}
		if j.ReadyAt.After(last) {
			last = j.ReadyAt
		}
	}
	names := map[string][]string{}
	for i := range p.services {
		s := &p.services[i]
		names[s.Date] = append(names[s.Date], s.Name)
		if d := s.Day(p.zone); d.After(last) {
			last = d
		}
	}
	first = first.In(p.zone)
	for n := 0; n < 60; n++ {
		d := time.Date(first.Year(), first.Month(), first.Day()+n, 0, 0, 0, 0, p.zone)
		if d.After(last) {
			break
		}
		day := PrepDay{Date: d.Format(time.DateOnly), Services: []string{}}
		out.Days = append(out.Days, PrepDay{day.Date, append(day.Services, names[day.Date]...)})
	}
}

// gates counts what each section has ready for each service.
func (p *Prep) gates(out *PrepPlan) {
	for i := range p.services {
		s := &p.services[i]
		for _, section := range p.book.Sections() {
			g := Gate{Service: s.Name, Section: section.ID}
			g.count(out.Jobs)
			if g.Of > 0 {
				out.Gates = append(out.Gates, g)
			}
		}
	}
}

func (p *Prep) shopping(out *PrepPlan) {
	for _, g := range p.Amounts.Ingredients {
		row := IngredientRow{Section: g.Section, Name: g.Name, Amount: scale.Float(g.Amount), Trim: scale.Float(g.Trim), Unit: g.Unit,
			For: []string{}, Allergens: []string{}}
		for _, id := range g.For {
			row.For = append(row.For, p.book.NameOf(id))
		}
		for _, a := range g.Allergen {
			row.Allergens = append(row.Allergens, string(a))
		}
		out.Ingredients = append(out.Ingredients, row)
	}
	order := map[string]int{}
	for i, s := range p.book.Sections() {
		order[s.ID] = i
	}
	slices.SortStableFunc(out.Ingredients, func(a, b IngredientRow) int {
		return cmp.Or(cmp.Compare(order[a.Section], order[b.Section]), cmp.Compare(a.Name, b.Name))
	})
}

// load adds up everybody's hands-on work by day.
func (p *Prep) load(out *PrepPlan, runs map[string]*workload.Run) {
	type span struct{ from, to int64 }
	work := map[string][]span{}
	for _, t := range p.Workload.Tasks {
		r := runs[t.ID]
		if r == nil {
			continue
		}
		for k, n := range t.Needs {
			if n.Units == wholePerson && p.roster[r.Resources[k]].IsPerson() {
				work[r.Resources[k]] = append(work[r.Resources[k]], span{r.Start, r.Finish})
			}
		}
	}
	for _, who := range p.book.People() {
		spans := work[person(who.ID).name()]
		slices.SortFunc(spans, func(a, b span) int { return cmp.Compare(a.from, b.from) })
		var day *PersonLoad
		var from, to int64
		for _, s := range spans {
			date := p.instant(s.from).In(p.zone).Format(time.DateOnly)
			if day == nil || day.Date != date {
				out.Load = append(out.Load, PersonLoad{Person: who.Name, Section: who.Home(), Date: date})
				day = &out.Load[len(out.Load)-1]
				from, to = s.from, s.from
			}
			if s.from-to > 600 {
				from = s.from
			}
			to = max(to, s.to)
			day.HandsS += s.to - s.from
			day.LongestS = max(day.LongestS, to-from)
		}
	}
}
