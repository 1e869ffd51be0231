package expand

import (
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Who and what is not there for a while in the middle of an evening.

// ResourceOf is what a resource of the workload is, by its name there.
func (e *Evening) ResourceOf(name string) ResourceRef { return e.roster[name] }

// Leave takes a person or a piece of equipment out of a workload of the evening from one second to another: nothing new is given to them.
// What has begun with them goes on where it is.
func (e *Evening) Leave(w *workload.Workload, kind kitchen.Kind, id string, from, to int64) {
	needs := map[string][]workload.Need{}
	for i := range w.Tasks {
		needs[w.Tasks[i].ID] = w.Tasks[i].Needs
	}
	for i := range w.Resources {
		r := &w.Resources[i]
		if ref := e.roster[r.ID]; ref.Kind != kind || ref.ID != id || from >= to {
			continue
		}
		there := r.Windows
		if !r.HasWindows {
			r.HasWindows, there = true, []workload.Window{{From: 0, To: w.Horizon, Capacity: r.Capacity}}
		}
		r.Windows = append(without(there, []workload.Window{{From: from, To: to}}), inUse(w, needs, r, from, to)...)
		slices.SortFunc(r.Windows, func(a, b workload.Window) int { return int(a.From - b.From) })
	}
}

// inUse is what fixed runs take of a resource between two seconds.
func inUse(w *workload.Workload, needs map[string][]workload.Need, r *workload.Resource, from, to int64) (out []workload.Window) {
	cuts := []int64{from, to}
	var taken []workload.Window
	for _, f := range w.Fixed {
		if f.Finish == nil {
			continue
		}
		for k, id := range f.Resources {
			if a, b := max(f.Start, from), min(*f.Finish, to); id == r.ID && a < b && k < len(needs[f.Task]) {
				taken = append(taken, workload.Window{From: a, To: b, Capacity: needs[f.Task][k].Units})
				cuts = append(cuts, a, b)
			}
		}
	}
	slices.Sort(cuts)
	cuts = slices.Compact(cuts)
	for i := 0; i+1 < len(cuts); i++ {
		x := workload.Window{From: cuts[i], To: cuts[i+1]}
		for _, t := range taken {
			if t.From <= x.From && x.To <= t.To {
				x.Capacity += t.Capacity
			}
		}
		if x.Capacity = min(x.Capacity, r.Capacity); x.Capacity > 0 {
			out = append(out, x)
		}
	}
	return out
}

// Needed reports whether something of a workload that has not begun can be done by nobody but a person, or on nothing but a piece of
// equipment: others would do, but are gone, or not there any more by the second at which it begins.
func (e *Evening) Needed(w *workload.Workload, kind kitchen.Kind, id string, begins func(task string) int64,
	gone func(kitchen.Kind, string) bool) bool {
	fixed, until := w.FixedTasks(), map[string]int64{}
	theirs := func(r string) bool { ref := e.roster[r]; return ref.Kind == kind && ref.ID == id }
	for i := range w.Resources {
		r := &w.Resources[i]
		if ref := e.roster[r.ID]; gone(ref.Kind, ref.ID) || theirs(r.ID) {
			continue
		}
		if !r.HasWindows {
			until[r.ID] = w.Horizon
		}
		for _, x := range r.Windows {
			if x.Capacity > 0 && x.From < w.Horizon {
				until[r.ID] = max(until[r.ID], min(x.To, w.Horizon))
			}
		}
	}
	for i := range w.Tasks {
		t := &w.Tasks[i]
		if fixed[t.ID] != nil {
			continue
		}
		at := min(begins(t.ID), w.Horizon-1)
		for _, n := range t.Needs {
			if slices.ContainsFunc(n.AnyOf, theirs) && !slices.ContainsFunc(n.AnyOf, func(r string) bool { return until[r] > at }) {
				return true
			}
		}
	}
	return false
}

// TakenOver lets stand what somebody has done who may not by the book, since nobody else was there (HandOver): it has happened. What
// the same was to have goes on with them.
func (e *Evening) TakenOver(w *workload.Workload) {
	fixed := w.FixedTasks()
	for i := range w.Tasks {
		t := &w.Tasks[i]
		f := fixed[t.ID]
		if f == nil {
			continue
		}
		for k := range t.Needs {
			n := &t.Needs[k]
			if k >= len(f.Resources) || slices.Contains(n.AnyOf, f.Resources[k]) {
				continue
			}
			n.As, n.AnyOf = nil, []string{f.Resources[k]}
			sameAs(w, workload.As{Task: t.ID, Need: k}, n.AnyOf, fixed)
		}
	}
}

// HandOver lets others go on with what people have begun who are not there: whoever may do it, and where none of these is there whoever is.
// What they were tied to by having begun it ties nobody. Who only goes over to help another section goes on with it themselves.
func (e *Evening) HandOver(w *workload.Workload, away func(person string) bool) {
	fixed := w.FixedTasks()
	gone := func(r string) bool { ref := e.roster[r]; return ref.IsPerson() && away(ref.ID) }
	for i := range w.Tasks {
		t := &w.Tasks[i]
		if fixed[t.ID] != nil {
			continue
		}
		for k := range t.Needs {
			n := &t.Needs[k]
			if n.As == nil {
				continue
			}
			f := fixed[n.As.Task]
			if f == nil || n.As.Need >= len(f.Resources) {
				continue
			}
			if who := f.Resources[n.As.Need]; !gone(who) {
				others := func(r string) bool { return e.roster[who].ID != e.roster[r].ID }
				if theirs := e.parts(w, e.roster[n.AnyOf[0]].Part, others); e.roster[who].IsPerson() && len(theirs) > 1 { // each of their stretches
					n.As, n.AnyOf = nil, theirs
					sameAs(w, workload.As{Task: t.ID, Need: k}, theirs, fixed)
				}
				continue
			}
			n.As = nil
			if slices.ContainsFunc(n.AnyOf, func(r string) bool { return !gone(r) }) {
				continue
			}
			if there := e.parts(w, e.roster[n.AnyOf[0]].Part, gone); len(there) > 0 {
				n.AnyOf = there
				sameAs(w, workload.As{Task: t.ID, Need: k}, there, fixed)
			}
		}
	}
}

// sameAs lets all that are to have what a need has be had by the same; of what has happened it is known who had it.
func sameAs(w *workload.Workload, of workload.As, anyOf []string, fixed map[string]*workload.Fixed) {
	for i := range w.Tasks {
		for k := range w.Tasks[i].Needs {
			n := &w.Tasks[i].Needs[k]
			switch {
			case n.As == nil || *n.As != of:
			case fixed[w.Tasks[i].ID] != nil:
				n.As = nil
			default:
				n.AnyOf = anyOf
				sameAs(w, workload.As{Task: w.Tasks[i].ID, Need: k}, anyOf, fixed)
			}
		}
	}
}

// parts are that part of all people who are there, in all stretches of their evening (stretches.go).
func (e *Evening) parts(w *workload.Workload, part Part, gone func(resource string) bool) (out []string) {
	for i := range w.Resources {
		if ref := e.roster[w.Resources[i].ID]; ref.IsPerson() && ref.Part == part && !gone(w.Resources[i].ID) {
			out = append(out, w.Resources[i].ID)
		}
	}
	return out
}

// NextIn tells of a schedule of the evening when a person or a piece of equipment is first taken for something that begins after an
// instant; ok is false where they are for nothing.
func (e *Evening) NextIn(s *workload.Schedule) func(kind kitchen.Kind, id string, after time.Time) (at time.Time, ok bool) {
	return func(kind kitchen.Kind, id string, after time.Time) (at time.Time, ok bool) {
		for i := range s.Tasks {
			r := &s.Tasks[i]
			begins := e.Origin.Add(time.Duration(r.Start) * time.Second)
			if !begins.After(after) || ok && !begins.Before(at) {
				continue
			}
			if e.takes(r, kind, id) {
				at, ok = begins, true
			}
		}
		return at, ok
	}
}

// TakenIn tells of a schedule of the evening which tasks take a person or a piece of equipment, in the schedule's order.
func (e *Evening) TakenIn(s *workload.Schedule) func(kind kitchen.Kind, id string) []string {
	return func(kind kitchen.Kind, id string) (tasks []string) {
		for i := range s.Tasks {
			if e.takes(&s.Tasks[i], kind, id) {
				tasks = append(tasks, s.Tasks[i].ID)
			}
		}
		return tasks
	}
}

// takes reports whether a run takes a person or a piece of equipment.
func (e *Evening) takes(r *workload.Run, kind kitchen.Kind, id string) bool {
	return slices.ContainsFunc(r.Resources, func(name string) bool { ref := e.roster[name]; return ref.Kind == kind && ref.ID == id })
}
