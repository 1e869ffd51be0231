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
		share(s.Component, e.prefix+sharedPlace(&s), group)
	}
	if e.Service.Kind != kitchen.Banquet {
		e.pots()
		return
	}
	for _, c := range kitchen.Courses() {
		bySeating := map[int][]Course{}
		var seatings []int
		for _, x := range e.Courses {
			if x.Course != c {
				continue
			}
			at := e.Service.Tables[slices.IndexFunc(e.Service.Tables, func(t kitchen.ServiceTable) bool { return t.ID == x.Table })].SeatedAt
			if bySeating[at] == nil {
				seatings = append(seatings, at)
			}
			bySeating[at] = append(bySeating[at], x)
		}
		for _, at := range seatings {
			e.shareRounds(bySeating[at])
		}
	}
}

// shareRounds lets every component of a course be cooked for as many rounds at once as
// its hold allows, in parts as even as can be.
func (e *Evening) shareRounds(rounds []Course) {
	if len(rounds) < 2 {
		return
	}
	seen := map[string]bool{}
	for n, x := range rounds {
		for _, w := range slices.Clone(x.Firing.wants) {
			if seen[w.component.ID] || w.apart {
				continue
			}
			seen[w.component.ID] = true
			var with []*Firing // the rounds that have it
			gap := 1           // the longest time between two of them, seconds
			for _, y := range rounds[n:] {
				if Cooks(&y, w.component) {
					if len(with) > 0 {
						gap = max(gap, int(y.Firing.Table.At.Sub(with[len(with)-1].Table.At).Seconds()))
					}
					with = append(with, y.Firing)
				}
			}
			most := len(with)
			if spare := Spare(w.component); spare < math.MaxInt {
				most = min(most, 1+spare/gap)
			}
			parts := (len(with) + most - 1) / most
			for k := range parts {
				place := x.ID
				if k > 0 {
					place += "~part-" + strconv.Itoa(k+1)
				}
				share(w.component.ID, place, with[k*len(with)/parts:(k+1)*len(with)/parts])
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
		lead.plates = append(lead.plates, w.plates...)
		for _, id := range w.into {
			if !slices.Contains(lead.into, id) {
				lead.into = append(lead.into, id)
			}
		}
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
