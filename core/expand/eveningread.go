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

// Read makes the plan of a schedule.
func (e *Evening) Read(s *workload.Schedule) *EveningPlan { return e.read(s, true) }

// ReadRuns is Read without what is said of the plan: its courses and its lines alone, for who plays many nights of it.
func (e *Evening) ReadRuns(s *workload.Schedule) *EveningPlan { return e.read(s, false) }

func (e *Evening) read(s *workload.Schedule, says bool) *EveningPlan {
	out := &EveningPlan{Service: e.Service.ID, Name: e.Service.Name, Status: s.Status, Tasks: len(s.Tasks), Joins: []EveningJoin{},
		Loads: []Load{}, Hands: []SectionHands{}, Trouble: []FireTrouble{}, Fires: []Fire{}, Runs: []FireRun{}, Sets: []HeatSetting{},
		Tables: []TableStanding{}, Said: append(append([]message.Message{}, e.Problems...), e.layers()...)}
	if s.Cost != nil {
		out.Cost = *s.Cost
	}
	if len(s.Tasks) == 0 {
		return out
	}
	out.Left = leftToSave(s)
	why := e.newCauses(s)
	for i := range e.Courses {
		x := &e.Courses[i]
		if !x.own {
			continue
		}
		p := x.Firing.read(s, why.runs, why.joins, why.names)
		j := EveningJoin{ID: x.ID, Table: x.Table, Name: x.Name, Course: x.Course, Round: x.Round, Plates: p.Plates, At: p.JoinAt,
			PlateAt: p.JoinAt.Add(-time.Duration(p.PlatingS+p.StandS) * time.Second), WantedAt: p.WantedAt, LateS: p.LateS, FireAt: p.FirstFireAt,
			Dishes: []string{}, Served: []ServedDish{}, platers: p.Platers, Chance: -1, Holds: -1, Blame: []Blame{}, Guests: []kitchen.GuestPlate{},
			Forecast: e.Service.Pacing == kitchen.Called && x.before != "" && x.Round < 2}
		for _, o := range x.Firing.Table.Orders {
			d, _ := e.book.Dish(o.Dish)
			j.Dishes = append(j.Dishes, ordered(&o, d.Name))
			j.Served = append(j.Served, ServedDish{d.ID, d.Name, o.Variant, o.Count})
			if es, err := d.Plate(o.Variant); err == nil && o.Needs().Any() {
				j.Guests = append(j.Guests, e.book.PlateFor(d, es, &kitchen.TableOrder{Dish: o.Dish, Count: o.Count, Variant: o.Variant,
					Without: o.Without, Diets: o.Diets}, e.served()))
			}
		}
		if !says {
			out.Joins = append(out.Joins, j)
			continue
		}
		e.holds(out, &j, p, why)
		out.Joins = append(out.Joins, j)
		if j.Late() {
			cause := why.late(x)
			out.Trouble = append(out.Trouble, FireTrouble{j.ID, "late", message.Of("fire.late", "table", x.title(), "by", message.Rough(j.LateS)),
				cause.Said, j.LateS, cause.named()})
		}
		if -j.LateS > TooEarlyS {
			out.Trouble = append(out.Trouble, FireTrouble{j.ID, "early", message.Of("fire.early", "table", x.title(), "by", message.Rough(-j.LateS)),
				message.Of("cause.no-room-later"), -j.LateS, nil})
		}
		if out.From.IsZero() || p.FirstFireAt.Before(out.From) {
			out.From = p.FirstFireAt
		}
		if p.JoinAt.After(out.To) {
			out.To = p.JoinAt
		}
	}
	slices.SortStableFunc(out.Joins, func(a, b EveningJoin) int { return a.At.Compare(b.At) })
	byClock := func(a, b Fire) int { return a.At.Compare(b.At) }
	if !says {
		e.fires(out, s)
		slices.SortStableFunc(out.Lines, byClock)
		return out
	}
	slices.SortStableFunc(out.Trouble, func(a, b FireTrouble) int { return cmp.Compare(b.ByS, a.ByS) })
	e.unlimited(out, why)
	e.fires(out, s)
	slices.SortStableFunc(out.Fires, byClock)
	slices.SortStableFunc(out.Lines, byClock)
	e.loads(out, s)
	out.Hands = e.hands(out.Loads)
	e.settings(out, s)
	out.Stand()
	return out
}

// leftToSave says how much another order of the same work could still save at the most, as lateness: where the bound of the search is at
// least half of the cost, so that it says something; nil otherwise.
func leftToSave(s *workload.Schedule) *message.Message {
	if s.Cost == nil || s.LowerBound == nil || *s.Cost == 0 || 2**s.LowerBound < *s.Cost {
		return nil
	}
	out := message.Of("fire.none-better")
	if left := (*s.Cost - *s.LowerBound) / lateWeight; left > 0 {
		out = message.Of("fire.left", "by", message.Rough(left))
	}
	return &out
}

// unlimited says where the plan lets something wait hot for long because somebody said that it may: once for each
// component, the longest of them.
func (e *Evening) unlimited(out *EveningPlan, why *causes) {
	type found struct {
		long  int64
		table string
	}
	most := map[string]found{}
	for i := range e.Workload.Links {
		l := &e.Workload.Links[i]
		from, to := why.runs[l.From], why.runs[l.To]
		a, b := e.ref(l.From), e.ref(l.To)
		c, ok := e.book.Component(a.Component)
		if !ok || from == nil || to == nil || !b.Plating || a.Act != "" || l.Kind != workload.FinishStart {
			continue
		}
		x, _ := e.CourseByID(b.Joins[0])
		if !x.own {
			continue
		}
		w := c.PlannedHold().Wait
		if long := to.Start + x.Firing.Wanted(b, c.ID) - from.Finish; w.NoLimit && w.Place == kitchen.Hot &&
			long > saidFrom && long > most[c.Name].long {
			most[c.Name] = found{long, x.title()}
		}
	}
	for _, c := range e.book.Components() {
		if f, ok := most[c.Name]; ok {
			out.Said = append(out.Said, message.Of("fire.unlimited", "what", c.Name, "long", message.Rough(f.long), "table", f.table))
		}
	}
}

// saidFrom is from how many seconds on a hot wait without limit is said: what is usual at the most. Common practice, no
// source.
const saidFrom = 45 * 60

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
	for _, d := range o.Diets {
		how = append(how, message.Of("order.how", "how", string(d)))
	}
	return strings.Join(message.Texts(how), "")
}

// holds names the waits of a course that get longer than they should.
func (e *Evening) holds(out *EveningPlan, j *EveningJoin, p *Plan, why *causes) {
	if x, _ := e.CourseByID(j.ID); x.Firing.overRack(why.runs) > HoldGraceS {
		over := x.Firing.overRack(why.runs)
		j.OverS = over
		cause := why.early(x, x.Firing.rackedID())
		out.Trouble = append(out.Trouble, FireTrouble{j.ID, "hold", message.Of("fire.hold", "table", x.title(), "what",
			message.Of("task.racked").Text, "by", message.Rough(over)), cause.Said, over, cause.named()})
	}
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

// overRack is by how much plates that were begun ahead wait longer than they may, seconds; 0 where they do not.
func (f *Firing) overRack(runs map[string]*workload.Run) int64 {
	r, p := runs[f.rackedID()], runs[f.platingID()]
	if r == nil || p == nil {
		return 0
	}
	return max(0, p.Start-r.Finish-int64(f.rackMost()))
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

// tables names the tables of some joins, or the rounds of one table.
// JoinsOf are the table-courses that a task is for, by id.
func (e *Evening) JoinsOf(task string) []string {
	ids, _ := e.joinsOf(task)
	return ids
}

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
	out := together(names)
	switch {
	case low > 0 && low == high:
		return message.Of("course.round", "tables", out, "round", low).Text
	case low > 0:
		return message.Of("course.rounds", "tables", out, "from", low, "to", high).Text
	}
	return out
}

// together lists names; what they begin with alike is said once: Table 1, 2, 4.
func together(names []string) string {
	out := make([]string, len(names))
	first, _, _ := strings.Cut(names[0], " ")
	for i, n := range names {
		word, rest, two := strings.Cut(n, " ")
		if !two || word != first || strings.Contains(rest, " ") {
			return strings.Join(names, " + ")
		}
		if out[i] = rest; i == 0 {
			out[i] = n
		}
	}
	return strings.Join(out, ", ")
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
