package expand

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Course is one join of a service: a course of a table, or one round of it at the pass.
type Course struct {
	ID     string
	Table  string // id
	Name   string
	Course kitchen.Course
	Round  int // from 1; 0 when the course goes in one
	Firing *Firing
}

// Evening is a whole service as one workload: every course of every table is a join, and
// all share the people and the equipment.
type Evening struct {
	Workload *workload.Workload
	Service  *kitchen.Service
	Courses  []Course
	Origin   time.Time
	Problems []string
	book     *kitchen.Book
}

// paceLeast is the least share of the pace that lies between two courses of a table, so
// that a late first does not run into the second.
const paceLeast = 0.5

// banquetHands is how many people plate a banquet, where so many may. Common practice, no
// source.
const banquetHands = 4

// NewEvening expands a service. In a called service the pace stands in as the forecast.
// soft makes longest waits dear instead of forbidding them, for a service in which not all
// can be kept. The error is kitchen.Faults.
func NewEvening(b *kitchen.Book, s *kitchen.Service, soft bool) (*Evening, error) {
	zone, err := time.LoadLocation(b.Kitchen().TimeZone)
	if err != nil {
		zone = time.UTC // a Book has a zone that loads
	}
	orders, problems := b.TableOrders(s)
	e := &Evening{Service: s, Problems: problems, book: b}
	e.Origin = s.At(s.Starts(), zone).Add(-4 * time.Hour)
	in := &evening{origin: e.Origin, horizon: 14 * 3600, margin: float64(s.Margin) / 100, soft: soft}
	e.Workload = &workload.Workload{Objective: workload.Joins, Origin: e.Origin.Format(time.RFC3339), Horizon: in.horizon, Resources: resources(b, e.Origin, in.horizon)}
	hands := b.Kitchen().PlatingHands
	room := MaxPlates
	if s.Kind == kitchen.Banquet {
		hands = min(banquetHands, max(1, len(b.MayPlate())))
		if _, r := equipment(b, kitchen.Pass, nil); r > 0 {
			room = r
		}
	}
	for i, t := range s.Tables {
		before := ""
		at := s.At(t.SeatedAt, zone).Add(time.Duration(s.FirstAfterMin) * time.Minute)
		for _, c := range b.CoursesOf(s) {
			rounds := e.rounds(orders[i], c, room)
			for r, round := range rounds {
				x := Course{ID: fmt.Sprintf("%s/%s", t.ID, c), Table: t.ID, Name: t.Name, Course: c}
				if len(rounds) > 1 {
					x.ID, x.Round = fmt.Sprintf("%s/%d", x.ID, r+1), r+1
				}
				f, err := newFiring(b, Table{ID: x.ID, Name: fmt.Sprintf("%s, %s", t.Name, c), Orders: round, At: at, Hands: hands}, in, 0)
				if err != nil {
					return nil, err
				}
				x.Firing = f
				e.add(&x, before, r, int64(s.CourseMin)*60)
				before = x.ID
				at = at.Add(time.Duration(f.Clock.Seconds) * time.Second * time.Duration(min(1, len(rounds)-1)))
			}
			if len(rounds) > 0 {
				at = at.Add(time.Duration(s.CourseMin) * time.Minute)
			}
		}
	}
	e.shareWorkload()
	return e, nil
}

// add puts a course's tasks into the common workload, after the join before it.
func (e *Evening) add(x *Course, before string, round int, pace int64) {
	w, f := e.Workload, x.Firing
	w.Tasks = append(w.Tasks, f.Workload.Tasks...)
	w.Links = append(w.Links, f.Workload.Links...)
	w.Joins = append(w.Joins, f.Workload.Joins...)
	if before != "" {
		least := int64(float64(pace) * paceLeast)
		if round > 0 {
			least = 0
		}
		w.Links = append(w.Links, workload.Link{From: before, To: x.ID, Kind: workload.FinishStart, Min: least, Weight: 1})
	}
	f.Workload = w
	e.Courses = append(e.Courses, *x)
}

// shareWorkload gives every firing the common workload, which grew after it was made.
func (e *Evening) shareWorkload() {
	for i := range e.Courses {
		e.Courses[i].Firing.Workload = e.Workload
	}
}

// rounds divides a table's orders of a course into as many plates as go at once.
func (e *Evening) rounds(orders []kitchen.TableOrder, c kitchen.Course, room int) [][]Order {
	var out [][]Order
	left := 0
	for _, o := range orders {
		d, _ := e.book.Dish(o.Dish)
		if d.Course != c {
			continue
		}
		for n := o.Count; n > 0; {
			if left == 0 {
				out = append(out, nil)
				left = room
			}
			k := min(n, left)
			last := &out[len(out)-1]
			*last = append(*last, Order{Dish: o.Dish, Count: k, Variant: o.Variant, Doneness: o.Doneness})
			n -= k
			left -= k
		}
	}
	return out
}

// EveningPlan is a service as it is read.
type EveningPlan struct {
	Service string          `json:"service"`
	Name    string          `json:"name"`
	From    time.Time       `json:"from" doc:"First fire"`
	To      time.Time       `json:"to" doc:"Last join"`
	Joins   []EveningJoin   `json:"joins" nullable:"false" doc:"In order of time"`
	Loads   []Load          `json:"loads" nullable:"false"`
	Status  workload.Status `json:"status" enum:"optimal,feasible,best-effort,impossible"`
	Cost    int64           `json:"cost"`
	Tasks   int             `json:"tasks"`
	Trouble []FireTrouble   `json:"trouble" nullable:"false" doc:"What doesn't fit, the worst first"`
	Said    []string        `json:"problems" nullable:"false"`
	Fires   []Fire          `json:"fires" nullable:"false" doc:"Every firing by the clock"`
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
	WantedAt time.Time      `json:"wanted_at"`
	LateS    int64          `json:"late_s"`
	FireAt   time.Time      `json:"fire_at"`
	OverS    int64          `json:"over_s" doc:"Seconds by which its longest hold is passed"`
	Dishes   []string       `json:"dishes" nullable:"false"`
	// Chance is that of being on time, 0 to 1; −1 until it was worked out.
	Chance float64 `json:"chance"`
}

// Load is the use of one piece of equipment, or of a person's hands, over the evening.
type Load struct {
	ID       string     `json:"id"`
	Name     string     `json:"name"`
	Unit     string     `json:"unit"`
	Capacity int64      `json:"capacity"`
	Person   bool       `json:"person"`
	Steps    []LoadStep `json:"steps" nullable:"false" doc:"Where the use changes"`
	Heats    []HeatStep `json:"heats" nullable:"false" doc:"Setpoints, where it has a thermostat"`
	Peak     int64      `json:"peak"`
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
	Join string `json:"join"`
	Kind string `json:"kind" enum:"late,hold"`
	Text string `json:"text"`
	ByS  int64  `json:"by_s"`
}

// Fire is one thing to fire: the clock, the table, what, how many, with the wait allowed.
type Fire struct {
	At      time.Time `json:"at"`
	Join    string    `json:"join"`
	Table   string    `json:"table"`
	Course  string    `json:"course"`
	Section string    `json:"section"`
	What    string    `json:"what"`
	Count   int       `json:"count"`
	People  []string  `json:"people" nullable:"false"`
	MayS    int64     `json:"may_s" doc:"Seconds that it may be fired later without the join moving"`
}

// onTime is how late a join may be and still count as on time: about a minute. Common
// practice, no source.
const onTime = 60

// Read makes the plan of a schedule.
func (e *Evening) Read(s *workload.Schedule) *EveningPlan {
	out := &EveningPlan{Service: e.Service.ID, Name: e.Service.Name, Status: s.Status, Tasks: len(s.Tasks), Joins: []EveningJoin{}, Loads: []Load{}, Trouble: []FireTrouble{}, Fires: []Fire{}, Said: append([]string{}, e.Problems...)}
	if s.Cost != nil {
		out.Cost = *s.Cost
	}
	if len(s.Tasks) == 0 {
		return out
	}
	for i := range e.Courses {
		x := &e.Courses[i]
		p := x.Firing.Read(s)
		j := EveningJoin{ID: x.ID, Table: x.Table, Name: x.Name, Course: x.Course, Round: x.Round, Plates: p.Plates, At: p.JoinAt, WantedAt: p.WantedAt, LateS: p.LateS, FireAt: p.FirstFireAt, Dishes: []string{}, Chance: -1}
		for _, o := range x.Firing.Table.Orders {
			d, _ := e.book.Dish(o.Dish)
			name := fmt.Sprintf("%d %s", o.Count, d.Name)
			if o.Variant != "" {
				name += ", " + o.Variant
			}
			if o.Doneness != "" {
				name += ", " + o.Doneness
			}
			j.Dishes = append(j.Dishes, name)
		}
		e.strands(out, &j, p)
		out.Joins = append(out.Joins, j)
		if j.LateS > onTime {
			out.Trouble = append(out.Trouble, FireTrouble{j.ID, "late", fmt.Sprintf("%s, %s, is %s late. %s", x.Name, x.Course, roughly(time.Duration(j.LateS)*time.Second), e.why(s, x)), j.LateS})
		}
		if out.From.IsZero() || p.FirstFireAt.Before(out.From) {
			out.From = p.FirstFireAt
		}
		if p.JoinAt.After(out.To) {
			out.To = p.JoinAt
		}
	}
	slices.SortStableFunc(out.Joins, func(a, b EveningJoin) int { return a.At.Compare(b.At) })
	slices.SortStableFunc(out.Fires, func(a, b Fire) int { return a.At.Compare(b.At) })
	slices.SortStableFunc(out.Trouble, func(a, b FireTrouble) int { return cmp.Compare(b.ByS, a.ByS) })
	e.loads(out, s)
	return out
}

// strands gathers a course's firings, and the holds that it passes.
func (e *Evening) strands(out *EveningPlan, j *EveningJoin, p *Plan) {
	for _, st := range p.Strands {
		if st.FireAt == nil {
			continue
		}
		f := Fire{At: *st.FireAt, Join: j.ID, Table: j.Name, Course: string(j.Course), Section: st.Section, What: st.Name, Count: st.Portions, People: []string{}}
		for _, b := range st.Bars {
			for _, on := range b.On {
				if b.StartS == st.FireS && !slices.Contains(f.People, on) {
					f.People = append(f.People, on)
				}
			}
		}
		slack := int64(1 << 40)
		for _, w := range st.Waits {
			slack = min(slack, w.ToS-w.FromS-int64(w.Shortest))
			if w.Longest != nil {
				over := w.ToS - w.FromS - int64(*w.Longest)
				if over > j.OverS && over > 5 {
					j.OverS = over
					out.Trouble = append(out.Trouble, FireTrouble{j.ID, "hold", fmt.Sprintf("%s, %s: %s waits %s longer than it should.", j.Name, j.Course, st.Name, roughly(time.Duration(over)*time.Second)), over})
				}
			}
		}
		if slack < 1<<40 {
			f.MayS = max(0, slack)
		}
		out.Fires = append(out.Fires, f)
	}
}

// why follows the chain that holds a join back to the first thing that another table
// keeps: the resource, what holds it, and until when.
func (e *Evening) why(s *workload.Schedule, x *Course) string {
	runs := map[string]*workload.Run{}
	for i := range s.Tasks {
		runs[s.Tasks[i].ID] = &s.Tasks[i]
	}
	names := map[string]string{}
	for _, r := range e.Workload.Resources {
		names[r.ID] = r.Name
	}
	task := map[string]*workload.Task{}
	for i := range e.Workload.Tasks {
		task[e.Workload.Tasks[i].ID] = &e.Workload.Tasks[i]
	}
	at := x.Firing.platingID()
	for range 50 {
		r := runs[at]
		// Something that ended on one of its resources just when it began.
		for i := range s.Tasks {
			o := &s.Tasks[i]
			if o.Finish != r.Start || o.ID == at {
				continue
			}
			for _, res := range o.Resources {
				if slices.Contains(r.Resources, res) {
					if _, mine := x.Firing.Tasks[o.ID]; !mine {
						return fmt.Sprintf("%s is taken by %s (%s) until %s.", names[res], task[o.ID].Name, e.tableOf(o.ID), e.Origin.Add(time.Duration(o.Finish)*time.Second).Format("15:04:05"))
					}
				}
			}
		}
		next := ""
		for _, l := range e.Workload.Links {
			if l.To == at && runs[l.From] != nil && runs[l.From].Finish+l.Min == r.Start {
				next = l.From
			}
		}
		if next == "" {
			break
		}
		at = next
	}
	return "Its steps and the course before it take that long."
}

func (e *Evening) tableOf(task string) string {
	for i := range e.Courses {
		if strings.HasPrefix(task, e.Courses[i].ID+"/") {
			return e.Courses[i].Firing.Table.Name
		}
	}
	return ""
}

// loads makes the profile of every resource that is used.
func (e *Evening) loads(out *EveningPlan, s *workload.Schedule) {
	type edge struct {
		at    int64
		units int64
	}
	edges := map[string][]edge{}
	heats := map[string][]HeatStep{}
	runs := map[string]*workload.Run{}
	for i := range s.Tasks {
		runs[s.Tasks[i].ID] = &s.Tasks[i]
	}
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
		units["equipment/"+q.ID] = q.Unit
	}
	for _, r := range e.Workload.Resources {
		es := edges[r.ID]
		if len(es) == 0 {
			continue
		}
		slices.SortFunc(es, func(a, b edge) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.units, b.units)) })
		l := Load{ID: r.ID, Name: r.Name, Unit: units[r.ID], Capacity: r.Capacity, Person: strings.HasPrefix(r.ID, "person/"), Steps: []LoadStep{}, Heats: []HeatStep{}}
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

// Spread is the three-point time of a task, seconds.
func (e *Evening) Spread(task string) (low, likely, high float64) {
	for i := range e.Courses {
		f := e.Courses[i].Firing
		ref, mine := f.Tasks[task]
		if !mine {
			continue
		}
		if ref.Plating {
			return float64(f.Clock.Seconds), float64(f.Clock.Seconds), float64(f.Clock.Seconds)
		}
		c, _ := e.book.Component(ref.Component)
		s := &c.Steps[c.StepIndex(ref.Step)]
		t := s.Time.For(ref.Portions)
		for _, x := range e.Workload.Tasks {
			if x.ID == task {
				more := float64(int(x.Seconds) - f.length(t)) // a guest's wish
				return float64(t.Low) + more, float64(t.Likely) + more, float64(t.High) + more
			}
		}
	}
	return 0, 0, 0
}

// CourseByID looks a course up.
func (e *Evening) CourseByID(id string) (*Course, bool) {
	for i := range e.Courses {
		if e.Courses[i].ID == id {
			return &e.Courses[i], true
		}
	}
	return nil, false
}
