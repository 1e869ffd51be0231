package expand

import (
	"slices"
	"time"

	"jointime/core/message"
	"jointime/core/workload"
)

// Cause is what keeps a join, or makes a hold long: something that another table-course
// has at that time.
type Cause struct {
	Said     message.Message `json:"said"`
	Resource ResourceRef     `json:"resource" doc:"Who or what it has"`
	Task     string          `json:"task" doc:"What has it"`
	Join     string          `json:"join" doc:"Whose that is"`
	Until    time.Time       `json:"until"`
}

// named is the cause, nil where nothing of another table-course was found.
func (c Cause) named() *Cause {
	if c.Join == "" {
		return nil
	}
	return &c
}

// causes follows what binds a schedule. A run is bound at its start when it could not have
// begun a second sooner, at its end when it could not have ended a second later: by a link
// without slack, or because everyone and everything that would do is taken.
type causes struct {
	e      *Evening
	runs   map[string]*workload.Run
	joins  map[string]int64
	names  map[string]string
	byRes  map[string][]held
	res    map[string]*workload.Resource
	into   map[string][]*workload.Link
	single map[string]string // task → the first course that it is for
}

// held is a run on a resource.
type held struct {
	task  *workload.Task
	run   *workload.Run
	units int64
	c     *workload.Range
}

func (e *Evening) newCauses(s *workload.Schedule) *causes {
	w := &causes{e: e, runs: runsOf(s), joins: map[string]int64{}, names: e.names(), byRes: map[string][]held{},
		res: map[string]*workload.Resource{}, into: map[string][]*workload.Link{}, single: map[string]string{}}
	for _, j := range s.Joins {
		w.joins[j.ID] = j.At
	}
	for i := range e.Workload.Resources {
		w.res[e.Workload.Resources[i].ID] = &e.Workload.Resources[i]
	}
	for i := range e.Workload.Tasks {
		t := &e.Workload.Tasks[i]
		if r := w.runs[t.ID]; r != nil {
			for k, n := range t.Needs {
				h := held{task: t, run: r, units: n.Units}
				if heat, ok := n.Setpoints(); ok {
					h.c = &heat
				}
				w.byRes[r.Resources[k]] = append(w.byRes[r.Resources[k]], h)
			}
		}
	}
	for i := range e.Workload.Links {
		l := &e.Workload.Links[i]
		w.into[l.To] = append(w.into[l.To], l)
		if e.refs[l.To].Act != "" && l.Max != nil { // what belongs to a step keeps it as much as the other way round
			back := *l
			back.From, back.To, back.Min = l.To, l.From, -*l.Max
			if l.Kind == workload.FinishStart {
				back.Kind = workload.StartFinish
			}
			w.into[l.From] = append(w.into[l.From], &back)
		}
	}
	for i := len(e.Courses) - 1; i >= 0; i-- {
		for id := range e.Courses[i].Firing.Tasks {
			w.single[id] = e.Courses[i].ID
		}
	}
	return w
}

// around is for how many steps more what binds a join is followed when something that another has was found: the hands at the
// ends of a step and its oven lie a step or two apart, and where an oven has the wrong heat the cook who stands at it is no
// cause.
const around = 2

// late tells what keeps a join: breadth first along what binds it, to the nearest thing that another table-course has. A wrong
// heat goes before the hands that are busy beside it: with more hands it would stay wrong.
func (w *causes) late(x *Course) Cause {
	level, seen := []string{x.ID}, map[string]bool{x.ID: true}
	before := ""
	var found *blocker
	for further := 0; len(level) > 0 && further <= around; {
		var next []string
		add := func(id string) {
			if !seen[id] {
				seen[id] = true
				next = append(next, id)
			}
		}
		for _, at := range level {
			if r := w.runs[at]; r != nil {
				blocked := w.taken(w.e.tasks[at], r, r.Start-1)
				for k := range blocked {
					b := &blocked[k]
					if _, mine := x.Firing.Tasks[b.held.task.ID]; mine && b.change == 0 {
						continue // its own work, but for an oven that its own plates want at two heats
					}
					if found == nil || b.change > 0 && found.change == 0 {
						found = b
					}
				}
				for _, b := range blocked {
					add(b.held.task.ID)
				}
			}
			for _, l := range w.into[at] {
				if seen[l.From] || !w.tight(l) {
					continue
				}
				if l.From == x.before {
					seen[l.From] = true
					before = l.From
					continue
				}
				add(l.From)
			}
		}
		if level = next; found != nil {
			further++
		}
	}
	if found != nil {
		return found.cause(w)
	}
	if before != "" {
		b, _ := w.e.CourseByID(before)
		if b.Round > 0 {
			return Cause{Said: message.Of("cause.round-before")}
		}
		return Cause{Said: message.Of("cause.course-before", "course", b.Course, "at", w.clock(w.joins[before]))}
	}
	return Cause{Said: message.Of("cause.several")}
}

// early tells why a run ends so long before it is needed: what has its people or its
// equipment right after it. Where that is nothing, the wait is long because its end is
// late.
func (w *causes) early(x *Course, task string) Cause {
	r := w.runs[task]
	for _, b := range w.taken(w.e.tasks[task], r, r.Finish) {
		if _, mine := x.Firing.Tasks[b.held.task.ID]; mine && b.change == 0 {
			continue
		}
		c := b.cause(w)
		c.Said = w.goesOn(b)
		return c
	}
	if c := w.late(x); c.Join != "" {
		return c
	}
	return Cause{Said: message.Of("cause.finished-together")}
}

// goesOn says what somebody or something has to do right after.
func (w *causes) goesOn(b blocker) message.Message {
	task, at := b.held.task.ID, w.clock(b.held.run.Start)
	if w.e.roster[b.resource].IsPerson() {
		return message.Of("cause.goes-on", "who", w.names[b.resource], "what", w.what(task), "whose", w.of(task), "at", at)
	}
	return message.Of("cause.wanted-next", "on", w.names[b.resource], "what", w.what(task), "whose", w.of(task), "at", at)
}

// tight reports whether a link leaves no second.
func (w *causes) tight(l *workload.Link) bool {
	end := func(id string, finish bool) (int64, bool) {
		if r := w.runs[id]; r != nil {
			if finish {
				return r.Finish, true
			}
			return r.Start, true
		}
		at, ok := w.joins[id]
		return at, ok
	}
	from, ok := end(l.From, l.Kind == workload.FinishStart || l.Kind == workload.FinishFinish)
	to, known := end(l.To, l.Kind == workload.FinishFinish || l.Kind == workload.StartFinish)
	return ok && known && from+l.Min == to
}

// blocker is a run that has what another wants.
type blocker struct {
	resource string
	held     held
	free     int64
	want     workload.Need
	change   int64 // seconds until the heat is right after it
}

// taken lists what has the people or the equipment of a task at an instant, when that is
// why the task cannot run then; nothing when it could. Those that have it longest come
// first.
func (w *causes) taken(t *workload.Task, own *workload.Run, at int64) []blocker {
	if t == nil {
		return nil
	}
	var out []blocker
	for i, n := range t.Needs {
		if n.As != nil && n.As.Task == t.ID {
			continue // it is the same person: asked with the need that it goes with
		}
		list := n.AnyOf
		if n.As != nil {
			list = own.Resources[i : i+1] // it goes on from another
		}
		alike := 0 // needs that draw on the same people
		for _, m := range t.Needs[:i] {
			if slices.Equal(m.AnyOf, n.AnyOf) {
				alike++
			}
		}
		var busy []blocker
		free := 0
		for _, id := range list {
			place := slices.Index(n.AnyOf, id)
			bs, ok := w.takenOn(id, n, own, at)
			for _, m := range t.Needs[i+1:] {
				if m.As != nil && m.As.Task == t.ID && m.As.Need == i {
					more, both := w.takenOn(m.AnyOf[place], m, own, at)
					bs, ok = append(bs, more...), ok && both
				}
			}
			if ok {
				free++
			}
			busy = append(busy, bs...)
		}
		if free <= alike {
			out = append(out, busy...)
		}
	}
	slices.SortStableFunc(out, func(a, b blocker) int { return int(b.held.run.Finish - a.held.run.Finish) })
	return out
}

// takenOn lists what has one resource at an instant; ok when there is room for a need
// beside it.
func (w *causes) takenOn(id string, n workload.Need, own *workload.Run, at int64) (bs []blocker, ok bool) {
	r := w.res[id]
	used, hot := int64(0), false
	for _, h := range w.byRes[id] {
		if h.run == own {
			continue
		}
		change := int64(0)
		if r.Thermostat != nil && n.SetpointC != nil && h.c != nil {
			is, _ := n.Setpoints()
			change = r.Thermostat.Changeover(workload.Apart(*h.c, is))
		}
		// With another heat it is taken until the change is over, and before it begins.
		if h.run.Start-change <= at && at < h.run.Finish+change {
			used += h.units
			hot = hot || change > 0
			bs = append(bs, blocker{resource: id, held: h, want: n, change: change})
		}
	}
	there := r.Capacity
	if r.HasWindows {
		there = 0
		for _, x := range r.Windows {
			if x.From <= at && at < x.To {
				there = x.Capacity
			}
		}
	}
	for i := range bs {
		bs[i].free = max(0, there-used)
	}
	return bs, !hot && used+n.Units <= there
}

// what names what a task is for: its component, or the plating.
func (w *causes) what(task string) string {
	ref := w.e.ref(task)
	if c, ok := w.e.book.Component(ref.Component); ok {
		return c.Name
	}
	return w.e.tasks[task].Name
}

func (w *causes) of(task string) string {
	x, ok := w.e.CourseByID(w.single[task])
	if !ok {
		return task
	}
	return x.title()
}

func (w *causes) clock(s int64) message.Clock {
	return message.Clock(w.e.Origin.Add(time.Duration(s) * time.Second))
}

// nearest is the heat of a blocker that is nearest to what another wants.
func (w *causes) nearest(b blocker) float64 {
	want, _ := b.want.Setpoints()
	c, _ := workload.Apart(*b.held.c, want)
	return c
}

// cause says a blocker in a sentence with numbers.
func (b blocker) cause(w *causes) Cause {
	until := b.held.run.Finish
	c := Cause{Resource: w.e.roster[b.resource], Task: b.held.task.ID, Join: w.single[b.held.task.ID],
		Until: w.e.Origin.Add(time.Duration(until) * time.Second)}
	who, what, whose, till := w.names[b.resource], w.what(b.held.task.ID), w.of(b.held.task.ID), w.clock(until)
	switch {
	case c.Resource.IsPerson():
		c.Said = message.Of("cause.is-at", "who", who, "what", what, "whose", whose, "until", till)
	case b.change > 0:
		c.Said = message.Of("cause.heat", "on", who, "celsius", w.nearest(b), "what", what, "whose", whose, "until", till,
			"wanted", *b.want.SetpointC, "ready", w.clock(until+b.change))
	default:
		c.Said = message.Of("cause.room", "on", who, "wanted", b.want.Units, "free", b.free, "room", w.res[b.resource].Capacity, "what", what,
			"whose", whose, "taken", b.held.units, "until", till)
	}
	return c
}
