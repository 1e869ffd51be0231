package service

import (
	"cmp"
	"slices"
	"time"
)

// How a join stands component by component, and how many of each thing a section has all evening.

// needs are what guests of a join must not have, each once.
func (p *PlanJoin) needs() []string {
	out := []string{}
	for _, g := range p.Guests {
		for _, n := range g.Needs {
			if !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	}
	return out
}

// parts are the components of a join, in the order in which they are first begun. The join says what it waits for.
func parts(j *JoinDue, plan *Plan, lines []DueLine, now time.Time) []PartDue {
	out := []PartDue{}
	done := map[string]time.Duration{}
	for i := range plan.Runs {
		r := &plan.Runs[i]
		if !slices.Contains(r.Joins, j.TableCourse) {
			continue
		}
		k := slices.IndexFunc(out, func(p PartDue) bool { return p.Component == r.Component })
		if k < 0 {
			k = len(out)
			out = append(out, PartDue{Component: r.Component, What: r.What, Section: r.Section, State: "ready"})
		}
		long := r.To.Sub(r.From)
		out[k].ShareS += int64(long / time.Second)
		switch l := &lines[i]; {
		case j.Standing == "sent" || l.Standing == IsDone:
			done[r.Component] += long
		case l.Standing == IsOn || l.Standing == Asks:
			if whole := l.DoneAt.Sub(l.FireAt); whole > 0 {
				done[r.Component] += time.Duration(float64(long) * max(0, min(1, float64(now.Sub(l.FireAt))/float64(whole))))
			}
			out[k].State = worse(out[k].State, "firing")
		default:
			out[k].State = worse(out[k].State, "waiting")
		}
	}
	for i := range out {
		p := &out[i]
		if p.Done = float64(done[p.Component]/time.Second) / float64(max(1, p.ShareS)); p.State == "waiting" && p.Done > 0 {
			p.State = "firing"
		}
		if slices.ContainsFunc(j.WaitsFor, func(l DueLine) bool { return l.Component == p.Component }) {
			p.State = "over"
		}
	}
	return out
}

// worse is the state of a component of which two runs stand in two ways.
func worse(a, b string) string {
	order := []string{"ready", "firing", "waiting"}
	return order[max(slices.Index(order, a), slices.Index(order, b))]
}

// counts is how many portions of each component a section has, and has still to begin: by the first step of each that it does.
func counts(section string, p *Plan, lines []DueLine) []Count {
	type first struct {
		step string
		from time.Time
	}
	firsts := map[string]first{}
	for i := range p.Runs {
		r := &p.Runs[i]
		if f, there := firsts[r.Component]; r.Section == section && (!there || r.From.Before(f.from)) {
			firsts[r.Component] = first{r.Step, r.From}
		}
	}
	out := []Count{}
	for i := range p.Runs {
		r := &p.Runs[i]
		if r.Section != section || r.Step != firsts[r.Component].step {
			continue
		}
		k := slices.IndexFunc(out, func(c Count) bool { return c.Component == r.Component })
		if k < 0 {
			k = len(out)
			out = append(out, Count{Component: r.Component, What: r.What})
		}
		out[k].All += r.Portions
		if s := lines[i].Standing; s != IsOn && s != Asks && s != IsDone {
			out[k].Left += r.Portions
		}
	}
	slices.SortFunc(out, func(a, b Count) int {
		return cmp.Or(cmp.Compare(b.Left, a.Left), cmp.Compare(b.All, a.All), cmp.Compare(a.What, b.What))
	})
	return out
}
