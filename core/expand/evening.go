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

// Course is one join of a service: a course of a table, or one round of it at the pass.
type Course struct {
	ID     string
	Table  string // id
	Name   string
	Course kitchen.Course
	Round  int // from 1; 0 when the course goes in one
	Firing *Firing
	before string // the join that it follows
	pace   int64  // least seconds after that
}

// Evening is a whole service as one workload: every course of every table is a join, and
// all share the people and the equipment.
type Evening struct {
	Workload *workload.Workload
	Service  *kitchen.Service
	Courses  []Course
	Origin   time.Time
	Problems []message.Message
	book     *kitchen.Book
	roster   map[string]ResourceRef // what each resource of the workload is
	refs     map[string]TaskRef
	tasks    map[string]*workload.Task
	serves   map[string][]int    // the courses, by index, that a task is for
	dear     map[[2]string]int64 // the longest wait between two tasks, where it is dear and not forbidden
}

// paceLeast is the least share of the pace that lies between two courses of a table, so
// that a late first does not run into the second.
const paceLeast = 0.5

// clockJoin stands at second 0: what a join costs by the clock hangs on it.
const clockJoin = "clock"

// banquetHands is how many people plate a banquet, where so many may. Common practice, no
// source.
const banquetHands = 4

// NewEvening expands a service. In a called service the pace stands in as the forecast.
// soft makes longest waits dear instead of forbidding them, for a service in which not all
// can be kept. The error is kitchen.Faults.
func NewEvening(b *kitchen.Book, s *kitchen.Service, soft bool) (*Evening, error) {
	zone := b.Zone()
	orders, problems := b.TableOrders(s)
	e := &Evening{Service: s, Problems: problems, book: b, roster: roster(b)}
	e.Origin = s.At(s.Starts(), zone).Add(-4 * time.Hour)
	in := &evening{origin: e.Origin, horizon: 14 * 3600, margin: float64(s.Margin) / 100, soft: soft, helpers: s.Helpers,
		dear: map[[2]string]int64{}, school: s.Taught(), stretches: stretchesOf(e), second: e.second}
	e.dear = in.dear
	e.Workload = &workload.Workload{Objective: workload.Joins, Origin: e.Origin.Format(time.RFC3339), Horizon: in.horizon,
		Resources: resources(b, e.Origin, in.horizon)}
	e.divide(in.stretches)
	e.Workload.Joins = []workload.Join{{ID: clockJoin}}
	e.Workload.Fixed = []workload.Fixed{{Join: clockJoin}}
	hands := cmp.Or(s.PlatingHands, b.Kitchen().PlatingHands)
	room := MaxPlates
	if s.Kind == kitchen.Banquet {
		hands = cmp.Or(s.PlatingHands, min(banquetHands, max(1, len(b.MayPlate()))))
		if _, r := equipment(b, &kitchen.EquipmentNeed{Kind: kitchen.Pass}); r > 0 {
			room = r
		}
	}
	for i, t := range s.Tables {
		before := ""
		at := s.At(t.SeatedAt, zone).Add(time.Duration(s.FirstAfterMin) * time.Minute)
		for _, c := range b.CoursesOf(s) {
			rounds := e.rounds(orders[i], c, room)
			for r, round := range rounds {
				x := Course{ID: fmt.Sprintf("%s/%s", t.ID, c), Table: t.ID, Name: t.Name, Course: c, before: before,
					pace: int64(float64(s.CourseMin) * 60 * paceLeast)}
				if len(rounds) > 1 {
					x.Round = r + 1
				}
				if r > 0 { // the first keeps its id when a second is added
					x.ID = fmt.Sprintf("%s~%d", x.ID, r+1)
				}
				if r > 0 {
					x.pace = 0
				}
				f, err := newFiring(b, Table{ID: x.ID, Name: message.Of("course.of", "table", t.Name, "course", c).Text, Orders: round, At: at,
					Hands: hands}, in)
				if err != nil {
					return nil, err
				}
				x.Firing = f
				e.Courses = append(e.Courses, x)
				before = x.ID
				at = at.Add(time.Duration(f.Clock.Seconds) * time.Second * time.Duration(min(1, len(rounds)-1)))
			}
			if len(rounds) > 0 {
				at = at.Add(time.Duration(s.CourseMin) * time.Minute)
			}
		}
	}
	e.sharing()
	for i := range e.Courses {
		if err := e.cook(&e.Courses[i]); err != nil {
			return nil, err
		}
	}
	e.refs, e.tasks = map[string]TaskRef{}, map[string]*workload.Task{}
	for i := range e.Workload.Tasks {
		e.tasks[e.Workload.Tasks[i].ID] = &e.Workload.Tasks[i]
	}
	of := map[string][]*Firing{}
	e.serves = map[string][]int{}
	for i := range e.Courses {
		f := e.Courses[i].Firing
		f.Workload = e.Workload
		for id, ref := range f.Tasks {
			e.refs[id] = ref
			of[id] = append(of[id], f)
			e.serves[id] = append(e.serves[id], i)
		}
	}
	for i := range e.Workload.Tasks {
		t := &e.Workload.Tasks[i]
		for _, f := range of[t.ID] {
			f.tasks = append(f.tasks, t)
		}
	}
	for i := range e.Workload.Links {
		l := &e.Workload.Links[i]
		for _, f := range of[l.From] {
			if f.has(l.To) {
				f.links = append(f.links, l)
			}
		}
	}
	return e, nil
}

// cook adds what is cooked for a course to the common workload, after the join before it.
func (e *Evening) cook(x *Course) error {
	w, f := e.Workload, x.Firing
	for _, want := range f.wants {
		if err := f.pickUp(want); err != nil {
			return err
		}
	}
	f.apartFirst()
	w.Tasks = append(w.Tasks, f.Workload.Tasks...)
	w.Links = append(w.Links, f.Workload.Links...)
	w.Joins = append(w.Joins, f.Workload.Joins...)
	for _, p := range prices[e.Service.Taught()].late {
		best := *f.Workload.Joins[0].At + p.beyond
		w.Links = append(w.Links, workload.Link{From: clockJoin, To: x.ID, Kind: workload.FinishStart, Best: &best, Weight: p.more})
	}
	if x.before != "" {
		w.Links = append(w.Links, workload.Link{From: x.before, To: x.ID, Kind: workload.FinishStart, Min: x.pace, Weight: 1})
	}
	return nil
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
			*last = append(*last, Order{Dish: o.Dish, Count: k, Variant: o.Variant, Doneness: o.Doneness, Without: o.Without})
			n -= k
			left -= k
		}
	}
	return out
}

// Spread is the three-point time of a task, seconds.
func (e *Evening) Spread(task string) (low, likely, high float64) {
	ref, known := e.refs[task]
	t, here := e.tasks[task]
	if !known || !here {
		return 0, 0, 0
	}
	if ref.Plating || ref.Preheat || ref.Act != "" {
		return float64(t.Seconds), float64(t.Seconds), float64(t.Seconds)
	}
	c, _ := e.book.Component(ref.Component)
	x := c.Steps[c.StepIndex(ref.Step)].Time.For(ref.Portions)
	more := float64(int(t.Seconds) - e.Courses[0].Firing.length(x)) // a guest's wish
	return float64(x.Low) + more, float64(x.Likely) + more, float64(x.High) + more
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

// Hold is the longest wait that a link makes dear, −1 for a link that does not: in a
// service in which not all longest waits can be kept.
func (e *Evening) Hold(l *workload.Link) int64 {
	if longest, ok := e.dear[[2]string{l.From, l.To}]; ok && l.Best != nil && *l.Best == longest {
		return longest
	}
	return -1
}

// Says names what a task is for in words for a join: its component, with its table when
// it is another's.
func (e *Evening) Says(task, join string) string {
	t := e.tasks[task]
	if t == nil {
		return task
	}
	name := t.Name
	if c, ok := e.book.Component(e.refs[task].Component); ok {
		name = c.Name
	}
	joins, first := e.joinsOf(task)
	if slices.Contains(joins, join) || first == nil {
		return name
	}
	return message.Of("task.of", "what", name, "whose", first.title()).Text
}
