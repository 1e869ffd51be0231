// Package verify checks a schedule against its workload, rule by rule, from
// scratch. It shares no code with the search beyond the file types, and is kept
// simple and slow on purpose: it is the judge of what package schedule returns.
package verify

import (
	"fmt"
	"slices"
	"strings"

	"jointime/core/workload"
)

// Finding is one broken rule, with a sentence for a person.
type Finding struct {
	workload.Broken
	Text string
}

// run is a task as scheduled, with the task it belongs to.
type run struct {
	task          *workload.Task
	start, finish int64
	resources     []string
	fixed         bool
	open          bool // it is fixed, and its finish was chosen
}

type checker struct {
	w        *workload.Workload
	runs     map[string]*run
	order    []*run // in order of the workload's tasks
	joins    map[string]int64
	fixJoin  map[string]bool
	findings []Finding
}

func (c *checker) broken(rule workload.Rule, by int64, unit, text string, ids ...string) {
	c.findings = append(c.findings, Finding{workload.Broken{Rule: rule, IDs: ids, By: by, Unit: unit}, text})
}

// Check returns every rule that the schedule breaks, in a fixed order; none
// means that it keeps them all and states its cost right. The error is a
// *workload.PathError when the schedule speaks of things that the workload does
// not have.
func Check(w *workload.Workload, s *workload.Schedule) ([]Finding, error) {
	c := &checker{w: w, runs: map[string]*run{}, joins: map[string]int64{}, fixJoin: map[string]bool{}}
	if s.Status == workload.Impossible {
		c.broken("impossible", 0, "", "the schedule says that the workload is impossible; there is nothing to accept")
		return c.findings, nil
	}
	if err := c.collect(s); err != nil {
		return nil, err
	}
	c.tasks()
	c.joinTimes()
	c.links()
	c.same()
	c.capacities()
	c.thermostats()
	c.cost(s)
	if s.Status == workload.BestEffort && len(c.findings) == 0 {
		c.broken("status", 0, "", "the status is best-effort, and no rule is broken")
	}
	return c.findings, nil
}

func (c *checker) collect(s *workload.Schedule) error {
	tasks := map[string]*workload.Task{}
	for i := range c.w.Tasks {
		tasks[c.w.Tasks[i].ID] = &c.w.Tasks[i]
	}
	known := map[string]bool{}
	for _, r := range c.w.Resources {
		known[r.ID] = true
	}
	for i, r := range s.Tasks {
		t := tasks[r.ID]
		path := fmt.Sprintf("$.tasks[%d]", i)
		switch {
		case t == nil:
			return &workload.PathError{Path: path + ".id", Expected: fmt.Sprintf("the workload has no task %q", r.ID)}
		case c.runs[r.ID] != nil:
			return &workload.PathError{Path: path + ".id", Expected: fmt.Sprintf("%q stands here twice", r.ID)}
		case len(r.Resources) != len(t.Needs):
			return &workload.PathError{Path: path + ".resources", Expected: fmt.Sprintf("expected %d, one for each need, got %d", len(t.Needs),
				len(r.Resources))}
		}
		for k, id := range r.Resources {
			if !known[id] {
				return &workload.PathError{Path: fmt.Sprintf("%s.resources[%d]", path, k), Expected: fmt.Sprintf("the workload has no resource %q", id)}
			}
		}
		c.runs[r.ID] = &run{task: t, start: r.Start, finish: r.Finish, resources: r.Resources}
	}
	wanted := map[string]bool{}
	for _, j := range c.w.Joins {
		wanted[j.ID] = true
	}
	for i, j := range s.Joins {
		path := fmt.Sprintf("$.joins[%d].id", i)
		if !wanted[j.ID] {
			return &workload.PathError{Path: path, Expected: fmt.Sprintf("the workload has no join %q", j.ID)}
		}
		if _, twice := c.joins[j.ID]; twice {
			return &workload.PathError{Path: path, Expected: fmt.Sprintf("%q stands here twice", j.ID)}
		}
		c.joins[j.ID] = j.At
	}
	for i := range c.w.Tasks {
		t := &c.w.Tasks[i]
		r := c.runs[t.ID]
		if r == nil {
			return &workload.PathError{Path: "$.tasks", Expected: fmt.Sprintf("the task %q is missing", t.ID)}
		}
		c.order = append(c.order, r)
	}
	for _, j := range c.w.Joins {
		if _, there := c.joins[j.ID]; !there {
			return &workload.PathError{Path: "$.joins", Expected: fmt.Sprintf("the join %q is missing", j.ID)}
		}
	}
	return nil
}

func (c *checker) tasks() {
	fixed := c.w.FixedTasks()
	for _, r := range c.order {
		id := r.task.ID
		if f := fixed[id]; f != nil {
			r.fixed = true
			if r.open = f.EndsOpen(r.task); r.open {
				c.openEnd(r, f)
				continue
			}
			if end := c.w.FixedFinish(f, r.task.Seconds); r.start != f.Start || r.finish != end || !slices.Equal(r.resources, f.Resources) {
				c.broken(workload.RuleFixed, abs(r.start-f.Start)+abs(r.finish-end), "s",
					fmt.Sprintf("%s has happened: %d–%d on %v, not %d–%d on %v", id, f.Start, end, f.Resources, r.start, r.finish, r.resources), id)
			}
			continue
		}
		if ran := r.finish - r.start; ran < r.task.Seconds || ran > r.task.MostSeconds() {
			by := max(r.task.Seconds-ran, ran-r.task.MostSeconds())
			c.broken("length", by, "s", fmt.Sprintf("%s runs %d s, not %d to %d", id, ran, r.task.Seconds, r.task.MostSeconds()), id)
		}
		if r.start < r.task.Earliest {
			c.broken(workload.RuleEarliest, r.task.Earliest-r.start, "s", fmt.Sprintf("%s starts at %d, before its earliest, %d", id, r.start,
				r.task.Earliest), id)
		}
		if r.task.Latest != nil && r.finish > *r.task.Latest {
			c.broken(workload.RuleLatest, r.finish-*r.task.Latest, "s", fmt.Sprintf("%s finishes at %d, after its latest, %d", id, r.finish,
				*r.task.Latest), id)
		}
		if c.w.Now != nil && r.start < *c.w.Now {
			c.broken(workload.RuleNow, *c.w.Now-r.start, "s", fmt.Sprintf("%s starts at %d, before now, %d", id, r.start, *c.w.Now), id)
		}
		if r.finish > c.w.Horizon {
			c.broken(workload.RuleHorizon, r.finish-c.w.Horizon, "s", fmt.Sprintf("%s finishes at %d, after the horizon, %d", id, r.finish,
				c.w.Horizon), id)
		}
		for k, rid := range r.resources {
			if !slices.Contains(r.task.Needs[k].AnyOf, rid) {
				c.broken("any-of", 1, "unit", fmt.Sprintf("%s may not use %s for its need %d", id, rid, k), id, rid)
			}
		}
	}
}

// openEnd checks a fixed task whose finish was chosen: it is where it was, has run its seconds, and has not ended before
// now or after the horizon.
func (c *checker) openEnd(r *run, f *workload.Fixed) {
	id := r.task.ID
	if r.start != f.Start || !slices.Equal(r.resources, f.Resources) {
		c.broken(workload.RuleFixed, abs(r.start-f.Start), "s", fmt.Sprintf("%s has begun at %d on %v, not at %d on %v", id, f.Start, f.Resources,
			r.start, r.resources), id)
	}
	least := f.Start + r.task.Seconds
	if c.w.Now != nil {
		least = max(least, *c.w.Now)
	}
	if r.finish < least {
		c.broken("length", least-r.finish, "s", fmt.Sprintf("%s ends at %d, and at the earliest at %d", id, r.finish, least), id)
	}
	if r.finish > c.w.Horizon {
		c.broken(workload.RuleHorizon, r.finish-c.w.Horizon, "s", fmt.Sprintf("%s finishes at %d, after the horizon, %d", id, r.finish,
			c.w.Horizon), id)
	}
}

func (c *checker) joinTimes() {
	for _, f := range c.w.Fixed {
		if f.Join == "" {
			continue
		}
		c.fixJoin[f.Join] = true
		if at := c.joins[f.Join]; at != f.At {
			c.broken(workload.RuleFixed, abs(at-f.At), "s", fmt.Sprintf("%s was served at %d, not %d", f.Join, f.At, at), f.Join)
		}
	}
	for i := range c.w.Joins {
		j := &c.w.Joins[i]
		at := c.joins[j.ID]
		if c.fixJoin[j.ID] {
			continue
		}
		if lo := max(0, j.Earliest); at < lo {
			c.broken(workload.RuleEarliest, lo-at, "s", fmt.Sprintf("%s stands at %d, before its earliest, %d", j.ID, at, lo), j.ID)
		}
		if j.Latest != nil && at > *j.Latest {
			c.broken(workload.RuleLatest, at-*j.Latest, "s", fmt.Sprintf("%s stands at %d, after its latest, %d", j.ID, at, *j.Latest), j.ID)
		}
		if c.w.Now != nil && at < *c.w.Now {
			c.broken(workload.RuleNow, *c.w.Now-at, "s", fmt.Sprintf("%s stands at %d, before now, %d", j.ID, at, *c.w.Now), j.ID)
		}
		if at > c.w.Horizon {
			c.broken(workload.RuleHorizon, at-c.w.Horizon, "s", fmt.Sprintf("%s stands at %d, after the horizon, %d", j.ID, at, c.w.Horizon), j.ID)
		}
	}
}

// event gives the instant of one end of a link, and whether it is fixed.
func (c *checker) event(id string, start bool) (int64, bool) {
	if r := c.runs[id]; r != nil {
		if start {
			return r.start, r.fixed
		}
		return r.finish, r.fixed && !r.open
	}
	return c.joins[id], c.fixJoin[id]
}

func (c *checker) wait(l *workload.Link) (wait int64, bothFixed bool) {
	from, f1 := c.event(l.From, strings.HasPrefix(string(l.Kind), "start"))
	to, f2 := c.event(l.To, strings.HasSuffix(string(l.Kind), "start"))
	return to - from, f1 && f2
}

func (c *checker) links() {
	for i := range c.w.Links {
		l := &c.w.Links[i]
		wait, skip := c.wait(l)
		if r := c.runs[l.From]; skip || l.From == l.To && r.open {
			continue // an open end is past its limits only for the price of it
		}
		if wait < l.Min {
			c.broken(workload.RuleMin, l.Min-wait, "s", fmt.Sprintf("%s → %s (%s) waits %d s, at least %d wanted", l.From, l.To, l.Kind, wait,
				l.Min), l.From, l.To)
		}
		if l.Max != nil && wait > *l.Max {
			c.broken(workload.RuleMax, wait-*l.Max, "s", fmt.Sprintf("%s → %s (%s) waits %d s, at most %d allowed", l.From, l.To, l.Kind, wait,
				*l.Max), l.From, l.To)
		}
	}
}

// Cost recomputes what a schedule costs under the workload's objective.
func (c *checker) recompute() int64 {
	var sum int64
	if c.w.Objective == workload.Makespan {
		for _, r := range c.order {
			sum = max(sum, r.finish)
		}
		return sum
	}
	for i := range c.w.Joins {
		sum += c.w.Joins[i].Cost(c.joins[c.w.Joins[i].ID])
	}
	for i := range c.w.Links {
		l := &c.w.Links[i]
		if wait, _ := c.wait(l); l.Best != nil && wait > *l.Best {
			sum += (wait - *l.Best) * l.Weight
		}
	}
	for _, t := range c.w.Told {
		sum += abs(c.runs[t.Task].start-t.Start) * t.Weight
	}
	return sum
}

func (c *checker) cost(s *workload.Schedule) {
	is := c.recompute()
	switch {
	case s.Cost == nil:
		c.broken("cost", 0, "", fmt.Sprintf("the cost is not stated; it is %d", is))
	case *s.Cost != is:
		c.broken("cost", abs(*s.Cost-is), "", fmt.Sprintf("the cost is stated as %d and is %d", *s.Cost, is))
	}
	if s.LowerBound != nil && s.Status != workload.BestEffort && *s.LowerBound > is {
		c.broken("bound", *s.LowerBound-is, "", fmt.Sprintf("the lower bound %d is over the cost %d", *s.LowerBound, is))
	}
	if s.Status == workload.Optimal && (s.LowerBound == nil || *s.LowerBound != is) {
		c.broken("bound", 0, "", "the status is optimal, and the lower bound is not the cost")
	}
}

func abs(v int64) int64 {
	if v < 0 {
		return -v
	}
	return v
}
