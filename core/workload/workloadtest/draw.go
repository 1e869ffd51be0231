// Package workloadtest draws random workloads for property tests.
package workloadtest

import (
	"fmt"

	"pgregory.net/rapid"

	"jointime/core/workload"
)

// Draw returns a well-formed workload with up to maxTasks tasks that uses every
// rule of the format; it may be contradictory.
func Draw(t *rapid.T, maxTasks int) *workload.Workload {
	small := func(name string, lo, hi int) int64 { return int64(rapid.IntRange(lo, hi).Draw(t, name)) }
	maybe := func(name string, oneIn int) bool { return rapid.IntRange(1, oneIn).Draw(t, name) == 1 }
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T12:00:00+02:00", Horizon: small("horizon", 200, 2000)}
	if maybe("makespan", 3) {
		w.Objective = workload.Makespan
	}
	var ids []string
	for i := range int(small("resources", 1, 4)) {
		r := workload.Resource{ID: fmt.Sprintf("r%d", i), Capacity: small("capacity", 1, 4)}
		if maybe("windows", 5) {
			r.HasWindows = true
			a := small("from", 0, 100)
			b := a + small("length", 50, 900)
			r.Windows = []workload.Window{{From: a, To: b, Capacity: r.Capacity}, {From: b + 30, To: 2000,
				Capacity: small("reduced", 0, int(r.Capacity))}}
		}
		if maybe("thermostat", 3) {
			r.Thermostat = &workload.Thermostat{StartC: 20, HeatCPerMin: 60, CoolCPerMin: 30, ToleranceC: 5}
		}
		w.Resources = append(w.Resources, r)
		ids = append(ids, r.ID)
	}
	n := int(small("tasks", 0, maxTasks))
	for i := range n {
		task := workload.Task{ID: fmt.Sprintf("t%d", i), Seconds: small("seconds", 0, 60)}
		for range int(small("needs", 0, 2)) {
			nd := workload.Need{Units: small("units", 1, 2)}
			first := rapid.IntRange(0, len(ids)-1).Draw(t, "resource")
			nd.AnyOf = []string{ids[first]}
			if len(ids) > 1 && maybe("alternative", 3) {
				nd.AnyOf = append(nd.AnyOf, ids[(first+1)%len(ids)])
			}
			if maybe("setpoint", 2) {
				c := float64(small("c", 2, 5) * 20)
				nd.SetpointC = &c
			}
			task.Needs = append(task.Needs, nd)
		}
		if maybe("earliest", 6) {
			task.Earliest = small("earliest", 0, 200)
		}
		if maybe("latest", 8) {
			l := small("latest", 100, 1500)
			task.Latest = &l
		}
		w.Tasks = append(w.Tasks, task)
	}
	for i := range int(small("joins", 0, 3)) {
		at := small("at", 0, 800)
		j := workload.Join{ID: fmt.Sprintf("j%d", i), At: &at, Weight: small("weight", 0, 5), EarlyWeight: small("early", 0, 5)}
		w.Joins = append(w.Joins, j)
		for k := range n {
			if maybe("linked", 3) {
				w.Links = append(w.Links, link(small, maybe, w.Tasks[k].ID, j.ID))
			}
		}
	}
	kinds := []workload.Kind{workload.FinishStart, workload.StartStart, workload.FinishFinish, workload.StartFinish}
	for i := 1; i < n; i++ {
		if !maybe("chain", 2) {
			continue
		}
		l := link(small, maybe, w.Tasks[rapid.IntRange(0, i-1).Draw(t, "before")].ID, w.Tasks[i].ID)
		l.Kind = rapid.SampledFrom(kinds).Draw(t, "kind")
		w.Links = append(w.Links, l)
	}
	more(t, w, small, maybe)
	if n > 0 && maybe("now", 6) {
		now := small("now", 0, 100)
		w.Now = &now
		f := workload.Fixed{Task: "t0", Start: now - small("ago", 0, 40), Resources: []string{}}
		for _, nd := range w.Tasks[0].Needs {
			f.Resources = append(f.Resources, nd.AnyOf[0])
		}
		w.Fixed = []workload.Fixed{f}
	}
	return w
}

// more draws the four keys that came later: runs of variable length, ranges of setpoints, needs that are taken as others,
// and starts that were told.
func more(t *rapid.T, w *workload.Workload, small func(string, int, int) int64, maybe func(string, int) bool) {
	var before []workload.As
	for i := range w.Tasks {
		x := &w.Tasks[i]
		if maybe("longest", 6) {
			v := x.Seconds + small("longer", 0, 60)
			x.Longest = &v
			if maybe("priced", 2) {
				l := link(small, maybe, x.ID, x.ID)
				l.Kind, l.Min = workload.StartFinish, small("least", 0, int(x.Seconds)+10)
				w.Links = append(w.Links, l)
			}
		}
		for k := range x.Needs {
			n := &x.Needs[k]
			if n.SetpointC != nil && maybe("range", 4) {
				c := *n.SetpointC + float64(small("wide", 0, 2)*20)
				n.SetpointToC = &c
			}
			if len(before) > 0 && maybe("as", 6) {
				as := rapid.SampledFrom(before).Draw(t, "as")
				for m := range w.Tasks {
					if w.Tasks[m].ID == as.Task && len(w.Tasks[m].Needs[as.Need].AnyOf) == len(n.AnyOf) {
						n.As = &as
					}
				}
			}
			before = append(before, workload.As{Task: x.ID, Need: k})
		}
		if maybe("told", 8) {
			w.Told = append(w.Told, workload.Told{Task: x.ID, Start: small("told at", -20, 400), Weight: small("told weight", 0, 4)})
		}
	}
}

func link(small func(string, int, int) int64, maybe func(string, int) bool, from, to string) workload.Link {
	l := workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: small("min", -20, 60), Weight: small("link weight", 0, 4)}
	if maybe("best", 2) {
		b := l.Min + small("best", 0, 60)
		l.Best = &b
	}
	if maybe("max", 3) {
		m := l.Min + small("max", 0, 300)
		if maybe("exact", 3) {
			m = l.Min
		}
		l.Max = &m
	}
	return l
}
