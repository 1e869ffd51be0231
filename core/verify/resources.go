package verify

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"jointime/core/workload"
)

// The rules of people and equipment.

// same checks that needs that are taken as others have the resource at the same position of their list.
func (c *checker) same() {
	for _, r := range c.order {
		for k := range r.task.Needs {
			as := r.task.Needs[k].As
			if as == nil {
				continue
			}
			other := c.runs[as.Task]
			if r.fixed && other.fixed {
				continue
			}
			theirs, mine := other.task.Needs[as.Need].AnyOf, r.task.Needs[k].AnyOf
			ok := false
			for p := range mine {
				ok = ok || mine[p] == r.resources[k] && theirs[p] == other.resources[as.Need]
			}
			if !ok {
				c.broken("as", 1, "unit", fmt.Sprintf("%s is on %s for its need %d, and %s on %s: not at the same place of their lists", r.task.ID,
					r.resources[k], k, as.Task, other.resources[as.Need]), r.task.ID, as.Task)
			}
		}
	}
}

// capacities sweeps each resource over the instants at which anything changes.
func (c *checker) capacities() {
	type use struct {
		r     *run
		units int64
	}
	on := map[string][]use{}
	for _, r := range c.order {
		if r.start == r.finish {
			continue
		}
		for k, rid := range r.resources {
			on[rid] = append(on[rid], use{r, r.task.Needs[k].Units})
		}
	}
	for i := range c.w.Resources {
		res := &c.w.Resources[i]
		uses := on[res.ID]
		if len(uses) == 0 {
			continue
		}
		instants := map[int64]bool{}
		for _, u := range uses {
			instants[u.r.start] = true
		}
		for _, v := range res.Windows {
			instants[v.From], instants[v.To] = true, true
		}
		times := make([]int64, 0, len(instants))
		for t := range instants {
			times = append(times, t)
		}
		slices.Sort(times)
		sort.SliceStable(uses, func(a, b int) bool { return uses[a].r.start < uses[b].r.start })
		var running []use
		next := 0
		reported := map[string]bool{}
		for _, t := range times {
			for next < len(uses) && uses[next].r.start <= t {
				running = append(running, uses[next])
				next++
			}
			running = slices.DeleteFunc(running, func(u use) bool { return u.r.finish <= t })
			there, rule := res.Capacity, workload.RuleCapacity
			if res.HasWindows {
				there, rule = 0, workload.RuleWindow
				for _, v := range res.Windows {
					if v.From <= t && t < v.To {
						if there = v.Capacity; there == res.Capacity {
							rule = workload.RuleCapacity
						}
					}
				}
			}
			var units int64
			open := false
			var ids []string
			for _, u := range running {
				units += u.units
				open = open || !u.r.fixed
				if !slices.Contains(ids, u.r.task.ID) {
					ids = append(ids, u.r.task.ID)
				}
			}
			if units > there && open {
				slices.Sort(ids)
				key := strings.Join(ids, " ")
				if !reported[key] {
					reported[key] = true
					c.broken(rule, units-there, "unit", fmt.Sprintf("%s at %d: %d units wanted, %d there (%s)", res.ID, t, units, there,
						strings.Join(ids, ", ")), append([]string{res.ID}, ids...)...)
				}
			}
		}
	}
}

// thermostats compares every pair of runs that ask the same resource for a
// temperature, and every run with the temperature at time 0.
func (c *checker) thermostats() {
	type ask struct {
		r *run
		c workload.Range
	}
	for i := range c.w.Resources {
		res := &c.w.Resources[i]
		th := res.Thermostat
		if th == nil {
			continue
		}
		var asks []ask
		for _, r := range c.order {
			for k, rid := range r.resources {
				if sp, heat := r.task.Needs[k].Setpoints(); rid == res.ID && heat {
					asks = append(asks, ask{r, sp})
				}
			}
		}
		for k, a := range asks {
			from, to := workload.Apart(workload.Range{Low: th.StartC, High: th.StartC}, a.c)
			if need := th.Changeover(from, to); !a.r.fixed && a.r.start < need {
				c.broken(workload.RuleChangeover, need-a.r.start, "s", fmt.Sprintf("%s reaches %g° at %d at the earliest, %s starts at %d", res.ID,
					to, need, a.r.task.ID, a.r.start), res.ID, a.r.task.ID)
			}
			for _, b := range asks[:k] {
				first, later := b, a
				if first.r.start > later.r.start || first.r.start == later.r.start && first.r.finish > later.r.finish {
					first, later = a, b
				}
				was, is := workload.Apart(first.c, later.c)
				if first.r.fixed && later.r.fixed || !th.Differ(was, is) {
					continue
				}
				gap := later.r.start - first.r.finish
				need := th.Changeover(was, is)
				switch {
				case gap < 0 || first.r == later.r:
					c.broken(workload.RuleSetpoint, max(-gap, 1), "s", fmt.Sprintf("%s: %s wants %g° and %s wants %g° at the same time", res.ID,
						first.r.task.ID, was, later.r.task.ID, is), res.ID, first.r.task.ID, later.r.task.ID)
				case gap < need:
					c.broken(workload.RuleChangeover, need-gap, "s", fmt.Sprintf("%s: %d s from %s at %g° to %s at %g°, %d needed", res.ID, gap,
						first.r.task.ID, was, later.r.task.ID, is, need), res.ID, first.r.task.ID, later.r.task.ID)
				}
			}
		}
	}
}
