package expand

import (
	"cmp"
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
	own    bool   // of the service that was asked for, and not of one that is cooked beside it
	school kitchen.School
	pace   int64 // least seconds after that
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
	asked    asked
	prefix   string                 // what ids of its tables begin with, where several services are one workload
	roster   map[string]ResourceRef // what each resource of the workload is
	refs     map[string]TaskRef
	tasks    map[string]*workload.Task
	serves   map[string][]int    // the courses, by index, that a task is for
	dear     map[[2]string]int64 // the longest wait between two tasks, where it is dear and not forbidden
}

// asked is what an evening was made of.
type asked struct {
	book   *kitchen.Book
	soft   bool
	beside []kitchen.Service
}

// Book is the book that the evening was made of.
func (e *Evening) Book() *kitchen.Book { return e.asked.book }

// Instead is the evening with its service otherwise: the same book, and the same services beside it. Errors: those of NewEvening.
func (e *Evening) Instead(s *kitchen.Service) (*Evening, error) {
	return NewEvening(e.asked.book, s, e.asked.soft, e.asked.beside...)
}

// paceLeast is the least share of the pace that lies between two courses of a table, so
// that a late first does not run into the second.
const paceLeast = 0.5

// clockJoin stands at second 0: what a join costs by the clock hangs on it.
const clockJoin = "clock"

// banquetHands is how many people plate a banquet, where so many may. Common practice, no
// source.
const banquetHands = 6

// NewEvening expands a service. In a called service the pace stands in as the forecast.
// soft makes longest waits dear instead of forbidding them, for a service in which not all
// can be kept. beside are services that are cooked at the same time: they are one workload, the same whichever of them is
// asked for, and the evening reads what is its own service's. The error is kitchen.Faults.
func NewEvening(b *kitchen.Book, s *kitchen.Service, soft bool, beside ...kitchen.Service) (*Evening, error) {
	zone := b.Zone()
	all := append([]kitchen.Service{*s}, beside...)
	slices.SortStableFunc(all, func(x, y kitchen.Service) int {
		return cmp.Or(x.At(x.Starts(), zone).Compare(y.At(y.Starts(), zone)), cmp.Compare(x.ID, y.ID))
	})
	first := &all[0]
	origin := first.At(first.Starts(), zone).Add(-4 * time.Hour)
	horizon := int64(14 * 3600)
	for i := range all {
		horizon = max(horizon, int64(all[i].At(all[i].Starts(), zone).Sub(origin)/time.Second)+10*3600)
	}
	out := &Evening{Service: s, book: b.As(s), asked: asked{b, soft, beside}, roster: roster(b), Origin: origin,
		dear: map[[2]string]int64{}}
	out.Workload = &workload.Workload{Objective: workload.Joins, Origin: origin.Format(time.RFC3339), Horizon: horizon,
		Resources: resources(b, origin, horizon)}
	stretches := stretchesOf(out, all)
	out.divide(stretches)
	out.Workload.Joins = []workload.Join{{ID: clockJoin}}
	out.Workload.Fixed = []workload.Fixed{{Join: clockJoin}}
	for i := range all {
		x := &all[i]
		one := &Evening{Service: x, book: b.As(x), roster: out.roster, Origin: origin, Workload: out.Workload}
		if len(all) > 1 {
			one.prefix = x.ID + ":"
		}
		orders, problems := one.book.TableOrders(x)
		in := &evening{origin: origin, horizon: horizon, margin: float64(x.Margin) / 100, soft: soft, helpers: x.Helpers, dear: out.dear,
			school: x.Taught(), stretches: stretches, second: one.second, banquet: x.Kind == kitchen.Banquet}
		hands, room := one.pass()
		if err := one.courses(orders, in, hands, room); err != nil {
			return nil, err
		}
		one.sharing()
		for k := range one.Courses {
			if one.Courses[k].own = x.ID == s.ID; !one.Courses[k].own {
				one.Courses[k].Name = message.Of("course.elsewhere", "service", x.Name, "table", one.Courses[k].Name).Text
			}
		}
		if x.ID == s.ID {
			out.Problems = problems
		}
		out.Courses = append(out.Courses, one.Courses...)
	}
	if err := out.finish(); err != nil {
		return nil, err
	}
	return out, nil
}

// finish cooks for every course, ties what waits for what across components and courses, and keeps what each task is.
func (e *Evening) finish() error {
	for i := range e.Courses {
		for _, want := range e.Courses[i].Firing.wants {
			if err := e.Courses[i].Firing.pickUp(want); err != nil {
				return err
			}
		}
	}
	firings := make([]*Firing, len(e.Courses))
	for i := range e.Courses {
		firings[i] = e.Courses[i].Firing
	}
	across(firings)
	for i := range e.Courses {
		e.cook(&e.Courses[i])
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
	return nil
}

// cook adds what is cooked for a course to the common workload, after the join before it.
func (e *Evening) cook(x *Course) {
	w, f := e.Workload, x.Firing
	f.apartFirst()
	w.Tasks = append(w.Tasks, f.Workload.Tasks...)
	w.Links = append(w.Links, f.Workload.Links...)
	w.Joins = append(w.Joins, f.Workload.Joins...)
	lateness(w, &f.Workload.Joins[0], x.school)
	if x.before != "" {
		w.Links = append(w.Links, workload.Link{From: x.before, To: x.ID, Kind: workload.FinishStart, Min: x.pace, Weight: 1})
	}
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

// RefOf is what a task of the evening is; ok is false for one that it does not have.
func (e *Evening) RefOf(task string) (ref TaskRef, ok bool) { ref, ok = e.refs[task]; return ref, ok }

// owns reports whether a task is for the service that was asked for.
func (e *Evening) owns(task string) bool {
	return slices.ContainsFunc(e.serves[task], func(i int) bool { return e.Courses[i].own })
}
