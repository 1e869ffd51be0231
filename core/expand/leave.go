package expand

import (
	"slices"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Who and what is not there for a while in the middle of an evening.

// ResourceOf is what a resource of the workload is, by its name there.
func (e *Evening) ResourceOf(name string) ResourceRef { return e.roster[name] }

// Leave takes a person or a piece of equipment out of a workload of the evening from one second to another: nothing new is given to them. What
// has begun with them goes on where it is.
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

// Needed reports whether something of a workload that has not begun can be done by nobody but a person, or on nothing but a piece of equipment.
func (e *Evening) Needed(w *workload.Workload, kind kitchen.Kind, id string) bool {
	fixed := w.FixedTasks()
	theirs := func(resource string) bool { ref := e.roster[resource]; return ref.Kind == kind && ref.ID == id }
	for i := range w.Tasks {
		if fixed[w.Tasks[i].ID] != nil {
			continue
		}
		for _, n := range w.Tasks[i].Needs {
			if len(n.AnyOf) > 0 && !slices.ContainsFunc(n.AnyOf, func(r string) bool { return !theirs(r) }) {
				return true
			}
		}
	}
	return false
}
