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
		Allergens: []string{}, Unknown: p.book.UnknownIn(c.ID), Contact: []message.Message{}}
	j.Kept = c.KeptAhead()
	j.Container = scale.Container(j.Amount * c.GramsPerUnit / c.DensityGPerMl)
	for _, part := range x.For {
		d := &p.Amounts.Draws[part.Draw]
		name := d.Service
		if s, ok := p.book.Service(d.Service); ok {
			name = s.Name
			if p.contacts == nil {
				p.contacts = map[string]map[string][]message.Message{}
			}
			if p.contacts[s.ID] == nil {
				p.contacts[s.ID] = p.book.ContactsAhead(s)
			}
			for _, m := range p.contacts[s.ID][c.ID] {
				if !slices.ContainsFunc(j.Contact, func(x message.Message) bool { return x.Text == m.Text }) {
					j.Contact = append(j.Contact, m)
				}
			}
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
	acts, set := p.actsOfRuns(runs), settingsOf(p.Workload, runs)
	done, begun := 0, 0
	var first, last int64
	attended := int64(0)
	of := map[string]int{} // runs of each step
	for _, s := range c.InPhase(kitchen.Ahead) {
		parts := s.Batch.Split(x.Portions)
		for k := range parts {
			id := TaskID(x.ID, s.ID, k+1)
			r := runs[id]
			if r == nil {
				continue
			}
			st := JobStep{Task: id, Step: s.ID, Name: s.Name, Section: c.SectionOf(&s), Hands: s.Hands, StartAt: p.instant(r.Start),
				FinishAt: p.instant(r.Finish), People: []string{}, On: []string{}, Acts: []StepAct{}, Checks: s.Checks, Dangers: s.Dangers}
			if s.Equipment != nil {
				st.SetpointC = heatAt(set, id)
			}
			of[s.ID] = len(parts)
			for _, res := range r.Resources {
				switch ref := p.roster[res]; {
				case !ref.IsPerson():
					st.On = append(st.On, names[res])
				case ref.Part != There:
					st.People = append(st.People, names[res])
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
			if s.Hands == kitchen.Both {
				j.HandsS += r.Finish - r.Start
			}
			if s.Hands != kitchen.None {
				attended += r.Finish - r.Start
			}
			for _, a := range acts[id] {
				x := runs[a.ID]
				j.HandsS += x.Finish - x.Start
				if s.Hands == kitchen.None {
					attended += x.Finish - x.Start
				}
				ref := p.Tasks[a.ID]
				st.Acts = append(st.Acts, StepAct{Kind: ref.Act, Say: ref.Say, At: p.instant(x.Start), Until: p.instant(x.Finish),
					Who: names[x.Resources[0]]})
				if stays := r.Finish - r.Start - a.done; ref.Act == ActOut && stays > 0 {
					st.StaysS = stays
				}
			}
			j.Steps = append(j.Steps, st)
		}
	}
	if len(j.Steps) == 0 {
		return nil // made to order: nothing ahead
	}
	slices.SortStableFunc(j.Steps, func(a, b JobStep) int { return a.StartAt.Compare(b.StartAt) })
	numbered(j.Steps, of)
	j.Steps[len(j.Steps)-1].Last = true
	j.StartAt, j.ReadyAt = p.instant(first), p.instant(last)
	j.WaitS = max(0, last-first-attended)
	if c.ShelfLifeH > 0 {
		from := j.ReadyAt
		if cooked := c.Cooked(); cooked != nil { // it keeps from when it was cooked
			from = time.Time{}
			for _, s := range j.Steps {
				if s.Step == cooked.ID {
					from = later(from, s.FinishAt)
				}
			}
		}
		u := from.Add(time.Duration(c.ShelfLifeH * float64(time.Hour)))
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

// actRun is an act of a step's run, which takes so many seconds when it does not stay.
type actRun struct {
	*workload.Task
	done int64
}

// actsOfRuns are the acts of every step's run, in the order of the clock.
func (p *Prep) actsOfRuns(runs map[string]*workload.Run) map[string][]actRun {
	long := map[string]int64{}
	out := map[string][]actRun{}
	for i := range p.Workload.Tasks {
		t := &p.Workload.Tasks[i]
		ref := p.Tasks[t.ID]
		if ref.Act == "" {
			long[t.ID] = t.Seconds
		} else if ref.Act != ActPlace && runs[t.ID] != nil {
			out[ref.Main] = append(out[ref.Main], actRun{t, long[ref.Main]})
		}
	}
	for _, list := range out {
		slices.SortStableFunc(list, func(a, b actRun) int { return cmp.Compare(runs[a.ID].Start, runs[b.ID].Start) })
	}
	return out
}

// numbered says of each run which of its step's it is, by the clock.
func numbered(steps []JobStep, of map[string]int) {
	seen := map[string]int{}
	for i := range steps {
		s := &steps[i]
		if seen[s.Step]++; of[s.Step] > 1 {
			s.Name = message.Of("task.part", "what", s.Name, "number", seen[s.Step], "of", of[s.Step]).Text
		}
	}
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
	work := map[string][]span{} // of every resource
	for _, t := range p.Workload.Tasks {
		r := runs[t.ID]
		if r == nil {
			continue
		}
		for k := range t.Needs {
			work[r.Resources[k]] = append(work[r.Resources[k]], span{r.Start, r.Finish})
		}
	}
	for _, who := range p.book.People() {
		spans := work[ResourceRef{kitchen.PersonRecord, who.ID, Hands}.name()]
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
