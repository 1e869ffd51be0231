package expand

import (
	"math"
	"slices"
	"strconv"

	"jointime/core/kitchen"
)

// sharing joins what is cooked together: what the service says, and at a banquet the
// rounds that one batch serves within its hold.
func (e *Evening) sharing() {
	for _, s := range e.Service.Shared {
		var group []*Firing
		for i := range e.Courses {
			if x := &e.Courses[i]; x.Course == s.Course && slices.Contains(s.Tables, x.Table) {
				group = append(group, x.Firing)
			}
		}
		share(s.Component, sharedPlace(&s), group)
	}
	if e.Service.Kind != kitchen.Banquet {
		e.pots()
		return
	}
	for from := 0; from < len(e.Courses); {
		to := from + 1
		for to < len(e.Courses) && e.Courses[to].Table == e.Courses[from].Table && e.Courses[to].Course == e.Courses[from].Course {
			to++
		}
		e.shareRounds(e.Courses[from:to])
		from = to
	}
}

// shareRounds lets every component of a course be cooked for as many rounds at once as
// its hold allows, in parts as even as can be.
func (e *Evening) shareRounds(rounds []Course) {
	if len(rounds) < 2 {
		return
	}
	seen := map[string]bool{}
	for _, x := range rounds {
		for _, w := range slices.Clone(x.Firing.wants) {
			if seen[w.component.ID] {
				continue
			}
			seen[w.component.ID] = true
			most := len(rounds)
			if spare := Spare(w.component); spare < math.MaxInt {
				most = min(most, 1+spare/max(1, rounds[0].Firing.Clock.Seconds))
			}
			parts := (len(rounds) + most - 1) / most
			for k := range parts {
				var group []*Firing
				for i := k * len(rounds) / parts; i < (k+1)*len(rounds)/parts; i++ {
					group = append(group, rounds[i].Firing)
				}
				place := rounds[0].ID
				if k > 0 {
					place += "~part-" + strconv.Itoa(k+1)
				}
				share(w.component.ID, place, group)
			}
		}
	}
}

// Spare is for how many seconds a component may go on waiting once it could be put on a
// plate: what lies between two plates that one batch is for. It is math.MaxInt when
// nothing bounds it.
func Spare(c *kitchen.Component) int {
	w := c.PlannedHold()
	if w.Longest == nil {
		return math.MaxInt
	}
	return *w.Longest - w.Shortest
}

// sharedPlace is what the ids of the runs of a shared batch begin with: the batch's own id,
// so that they stay when its tables come in another order, come or go.
func sharedPlace(s *kitchen.SharedBatch) string {
	if s.ID != "" {
		return "~" + s.ID
	}
	return "~" + string(s.Course) + "-" + slices.Min(s.Tables) // of before batches had ids
}

// share lets the first of some table-courses that has a component cook it for all of
// them. Portions of guests with allergies stay by themselves.
func share(component, place string, group []*Firing) {
	var lead *wanted
	for _, f := range group {
		i := slices.IndexFunc(f.wants, func(w *wanted) bool { return w.component.ID == component && !w.apart })
		if i < 0 {
			continue
		}
		w := f.wants[i]
		if lead == nil {
			lead = w
			lead.place = place
			continue
		}
		base := lead.portions
		lead.portions += w.portions
		lead.doneness = append(lead.doneness, w.doneness...)
		lead.shares = append(lead.shares, portion{f, base, base + w.portions})
		f.wants = slices.Delete(f.wants, i, i+1)
	}
}

// Cooks reports whether a table-course has a component cooked to order, other than apart.
func Cooks(x *Course, c *kitchen.Component) bool {
	return slices.ContainsFunc(x.Firing.Moments, func(m Moment) bool { return m.Component == c.ID && !m.Apart })
}

// SectionOf is the section that does a task; the pass for plating, "" for a task that the
// evening does not have.
func (e *Evening) SectionOf(task string) string {
	ref, known := e.refs[task]
	if !known {
		return ""
	}
	if ref.Plating {
		for _, s := range e.book.Sections() {
			if s.Pass {
				return s.ID
			}
		}
		return ""
	}
	c, _ := e.book.Component(ref.Component)
	return c.SectionOf(&c.Steps[c.StepIndex(ref.Step)])
}
