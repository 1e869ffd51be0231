package expand

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// One meal from zero is one workload: everything from raw, every course a join at its deadline, nobody before second 0.

// zeroDay is the day on which a meal's clock counts from midnight: it has no date of its own.
var zeroDay = time.Date(2001, 1, 1, 0, 0, 0, 0, time.UTC)

// afterMeal is how many seconds after the last deadline a meal may still go on, in a plan that is late.
const afterMeal = 6 * 3600

// Meal is a meal as a workload, with what is needed to read the schedule.
type Meal struct {
	*Evening
	Meal *kitchen.Meal
}

// NewMeal expands a meal. delay is for how many seconds from zero nobody does anything; it tells what slack there is. The error
// is kitchen.Faults: something is missing.
func NewMeal(b *kitchen.Book, m *kitchen.Meal, delay int64) (*Meal, error) {
	zero, err := b.FromZero(m)
	if err != nil {
		return nil, err
	}
	last := m.Courses[len(m.Courses)-1].DueMin
	s := &kitchen.Service{ID: m.ID, Name: m.Name, Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, School: kitchen.InTime,
		Date: zeroDay.Format(time.DateOnly)}
	e := &Evening{Service: s, book: zero, roster: roster(zero), Origin: zeroDay}
	in := &evening{origin: zeroDay, horizon: int64(last)*60 + afterMeal, soft: true, alone: true, zero: true, dear: map[[2]string]int64{},
		school: byDeadline}
	e.dear = in.dear
	e.Workload = &workload.Workload{Objective: workload.Joins, Origin: e.Origin.Format(time.RFC3339), Horizon: in.horizon,
		Resources: resources(zero, e.Origin, in.horizon)}
	for i := range e.Workload.Resources {
		if r := &e.Workload.Resources[i]; r.HasWindows {
			r.Windows = []workload.Window{{From: delay, To: in.horizon, Capacity: r.Capacity}}
		}
	}
	e.Workload.Joins = []workload.Join{{ID: clockJoin}}
	e.Workload.Fixed = []workload.Fixed{{Join: clockJoin}}
	for i, c := range m.Courses {
		x := Course{ID: fmt.Sprintf("course-%d", i+1), Table: fmt.Sprintf("course-%d", i+1), Name: c.Name, Course: kitchen.Main, own: true,
			school: byDeadline}
		var orders []Order
		for _, o := range c.Orders {
			orders = append(orders, Order{Dish: o.Dish, Count: o.Count, Variant: o.Variant, Doneness: o.Doneness, Without: o.Without,
				Diets: o.Diets})
			if d, ok := zero.Dish(o.Dish); ok {
				x.Course = d.Course
			}
		}
		x.Firing, err = newFiring(zero, Table{ID: x.ID, Name: c.Name, Orders: orders, At: zeroDay.Add(time.Duration(c.DueMin) * time.Minute),
			Hands: cmp.Or(m.PlatingHands, 1)}, in)
		if err != nil {
			return nil, err
		}
		e.Courses = append(e.Courses, x)
	}
	if err := e.finish(); err != nil {
		return nil, err
	}
	if delay > 0 {
		for i := range e.Workload.Tasks {
			e.Workload.Tasks[i].Earliest = max(e.Workload.Tasks[i].Earliest, delay)
		}
	}
	return &Meal{e, m}, nil
}

// MealPlan is the plan of a meal, its times in seconds from zero.
type MealPlan struct {
	Status  workload.Status   `json:"status" enum:"optimal,feasible,best-effort,impossible"`
	Courses []MealJoin        `json:"courses" nullable:"false"`
	Strands []MealStrand      `json:"strands" nullable:"false" doc:"What is made for each course"`
	Sheets  []MealSheet       `json:"sheets" nullable:"false" doc:"One for each pair of hands"`
	Must    []MealMust        `json:"must" nullable:"false" doc:"What is compulsory"`
	Trouble []FireTrouble     `json:"trouble" nullable:"false"`
	Broken  []workload.Broken `json:"broken" nullable:"false"`
	FirstS  int64             `json:"first_s" doc:"When the first thing begins"`
}

// MealJoin is a course: when it is due, when it comes together, and what slack there is.
type MealJoin struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	DueS   int64    `json:"due_s"`
	AtS    int64    `json:"at_s"`
	PlateS int64    `json:"plate_s" doc:"When plating begins"`
	LateS  int64    `json:"late_s"`
	SlackS int64    `json:"slack_s" doc:"By how much everything may begin later with this course still in time, as far as that was tried; −1 until it was"`
	Dishes []string `json:"dishes" nullable:"false"`
}

// MealStrand is one component's way to its course.
type MealStrand struct {
	Course    string    `json:"course" doc:"The id of the course"`
	Component string    `json:"component"`
	Name      string    `json:"name"`
	Section   string    `json:"section"`
	Bars      []MealBar `json:"bars" nullable:"false"`
}

// MealBar is one batch of a step.
type MealBar struct {
	Step  string        `json:"step"`
	FromS int64         `json:"from_s"`
	ToS   int64         `json:"to_s"`
	Count int           `json:"count"`
	Hands kitchen.Hands `json:"hands" enum:"both,tend,none"`
	C     *float64      `json:"c,omitempty"`
}

// MealSheet is what one person does, by the clock from zero.
type MealSheet struct {
	Person string     `json:"person"`
	HandsS int64      `json:"hands_s" doc:"Seconds of hands"`
	Lines  []MealLine `json:"lines" nullable:"false"`
}

// MealLine is one thing to do.
type MealLine struct {
	AtS    int64               `json:"at_s"`
	ToS    int64               `json:"to_s"`
	Act    string              `json:"act"`
	What   string              `json:"what"`
	Course string              `json:"course"`
	Count  int                 `json:"count"`
	On     []string            `json:"on" nullable:"false"`
	C      *float64            `json:"c,omitempty"`
	Hands  kitchen.Hands       `json:"hands" enum:"both,tend,none"`
	Kind   LineKind            `json:"kind" enum:"fire,next,touch,out"`
	Checks []kitchen.DoneCheck `json:"checks" nullable:"false"`
}

// MealMust is something compulsory, and whether the meal has it.
type MealMust struct {
	Say   string `json:"say"`
	There bool   `json:"there"`
	Known bool   `json:"known" doc:"Somebody said which component it is"`
}

// Read makes the plan of a schedule.
func (m *Meal) Read(s *workload.Schedule) *MealPlan {
	p := m.Evening.Read(s)
	out := &MealPlan{Status: s.Status, Courses: []MealJoin{}, Strands: []MealStrand{}, Sheets: []MealSheet{}, Must: m.must(),
		Trouble: p.Trouble, Broken: s.Broken, FirstS: -1}
	if out.Broken == nil {
		out.Broken = []workload.Broken{}
	}
	from := func(t time.Time) int64 { return int64(t.Sub(zeroDay) / time.Second) }
	for _, x := range m.Courses {
		k := slices.IndexFunc(p.Joins, func(j EveningJoin) bool { return j.ID == x.ID })
		if k < 0 {
			continue
		}
		j := &p.Joins[k]
		out.Courses = append(out.Courses, MealJoin{ID: j.ID, Name: j.Name, DueS: from(j.WantedAt), AtS: from(j.At), PlateS: from(j.PlateAt),
			LateS: max(0, j.LateS), SlackS: -1, Dishes: j.Dishes})
	}
	for _, r := range p.Runs {
		first := from(r.From)
		if out.FirstS < 0 || first < out.FirstS {
			out.FirstS = first
		}
		k := slices.IndexFunc(out.Strands, func(x MealStrand) bool { return x.Course == r.Joins[0] && x.Name == r.What })
		if k < 0 {
			k = len(out.Strands)
			out.Strands = append(out.Strands, MealStrand{Course: r.Joins[0], Name: r.What, Section: r.Section, Bars: []MealBar{}})
		}
		out.Strands[k].Bars = append(out.Strands[k].Bars, MealBar{r.Step, first, from(r.To), r.Count, r.Hands, r.C})
	}
	for i := range out.Strands {
		slices.SortStableFunc(out.Strands[i].Bars, func(a, b MealBar) int { return cmp.Compare(a.FromS, b.FromS) })
	}
	slices.SortStableFunc(out.Strands, func(a, b MealStrand) int {
		return cmp.Or(cmp.Compare(a.Course, b.Course), cmp.Compare(a.Bars[0].FromS, b.Bars[0].FromS))
	})
	m.sheets(out, p, from)
	return out
}

// sheets gives every pair of hands what they do.
func (m *Meal) sheets(out *MealPlan, p *EveningPlan, from func(time.Time) int64) {
	course := map[string]string{}
	for _, x := range m.Courses {
		course[x.ID] = x.Name
	}
	for _, who := range m.book.People() {
		sheet := MealSheet{Person: who.Name, Lines: []MealLine{}}
		for _, l := range p.Lines {
			if slices.Contains(l.People, who.Name) {
				sheet.Lines = append(sheet.Lines, MealLine{from(l.At), from(l.OffAt), l.Act, l.What, course[l.Join], l.Count, l.On, l.C, l.Hands,
					l.Kind, l.Checks})
			}
		}
		for _, x := range m.Courses {
			for _, id := range []string{x.Firing.platingID()} {
				r, t := m.run(p, id, who.Name)
				if r {
					sheet.Lines = append(sheet.Lines, MealLine{from(t[0]), from(t[1]), message.Of("task.plating").Text, x.Name, x.Name,
						m.refs[id].Portions, []string{}, nil, kitchen.Both, LineNext, []kitchen.DoneCheck{}})
				}
			}
		}
		for _, l := range p.Loads {
			if l.Of.Part == Hands && l.Of.ID == who.ID {
				for i, s := range l.Steps {
					if i+1 < len(l.Steps) {
						sheet.HandsS += s.Units * int64(l.Steps[i+1].At.Sub(s.At)/time.Second)
					}
				}
			}
		}
		slices.SortStableFunc(sheet.Lines, func(a, b MealLine) int { return cmp.Compare(a.AtS, b.AtS) })
		out.Sheets = append(out.Sheets, sheet)
	}
}

// run tells when somebody plates a course.
func (m *Meal) run(p *EveningPlan, task, who string) (plates bool, at [2]time.Time) {
	for _, j := range p.Joins {
		if x, ok := m.CourseByID(j.ID); ok && x.Firing.platingID() == task {
			return slices.Contains(j.platers, who), [2]time.Time{j.PlateAt, j.At}
		}
	}
	return false, at
}

// must tells which of what is compulsory the meal has.
func (m *Meal) must() []MealMust {
	out := []MealMust{}
	for _, c := range m.Meal.Compulsory {
		x := MealMust{Say: c.Say, Known: c.Component != ""}
		for i := range m.Courses {
			x.There = x.There || slices.ContainsFunc(m.Courses[i].Firing.Moments, func(y Moment) bool { return y.Component == c.Component })
		}
		out = append(out, x)
	}
	return out
}

// Delays are by how much later everything is begun to find out what slack there is, seconds.
var Delays = []int64{300, 600, 900, 1200, 1800, 2700, 3600, 5400}

// InTime reports for each course of a plan whether it comes together no later than is on time.
func (p *MealPlan) InTime() []bool {
	out := make([]bool, len(p.Courses))
	for i, c := range p.Courses {
		out[i] = c.LateS <= OnTimeS
	}
	return out
}
