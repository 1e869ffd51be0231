package expand

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/workload"
)

// How much of everything is used over an evening, and when each thermostat is turned.

// loads makes the profile of every resource that is used.
func (e *Evening) loads(out *EveningPlan, s *workload.Schedule) {
	type edge struct {
		at    int64
		units int64
	}
	edges := map[string][]edge{}
	heats := map[string][]HeatStep{}
	runs := runsOf(s)
	set := settingsOf(e.Workload, runs)
	at := func(s int64) time.Time { return e.Origin.Add(time.Duration(s) * time.Second) }
	for _, t := range e.Workload.Tasks {
		r := runs[t.ID]
		for k, n := range t.Needs {
			id := r.Resources[k]
			if ref := e.roster[id]; ref.IsPerson() {
				id = ref.name() // all stretches of somebody's evening are theirs
			}
			edges[id] = append(edges[id], edge{r.Start, n.Units}, edge{r.Finish, -n.Units})
			if n.SetpointC != nil {
				heats[id] = append(heats[id], HeatStep{at(r.Start), at(r.Finish), set[t.ID]})
			}
		}
	}
	units := map[string]string{}
	for _, q := range e.book.Equipment() {
		units[piece(q.ID).name()] = q.Unit
	}
	for _, r := range e.Workload.Resources {
		es := edges[r.ID]
		if ref := e.roster[r.ID]; len(es) == 0 || ref.Part == There || ref.IsPerson() && ref.name() != r.ID {
			continue
		}
		slices.SortFunc(es, func(a, b edge) int { return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.units, b.units)) })
		l := Load{Of: e.roster[r.ID], Name: r.Name, Unit: units[r.ID], Capacity: r.Capacity, Steps: []LoadStep{}, Heats: []HeatStep{}}
		if r.Thermostat != nil {
			hs := heats[r.ID]
			slices.SortFunc(hs, func(a, b HeatStep) int { return a.From.Compare(b.From) })
			for _, h := range hs {
				if n := len(l.Heats); n > 0 && l.Heats[n-1].C == h.C {
					if h.To.After(l.Heats[n-1].To) {
						l.Heats[n-1].To = h.To
					}
					continue
				}
				l.Heats = append(l.Heats, h)
			}
		}
		now := int64(0)
		for i, x := range es {
			now += x.units
			if i+1 < len(es) && es[i+1].at == x.at {
				continue
			}
			l.Steps = append(l.Steps, LoadStep{at(x.at), now})
			l.Peak = max(l.Peak, now)
		}
		out.Loads = append(out.Loads, l)
	}
}

// settings tells when each thermostat has to be turned: before the first thing that wants
// another heat than it has, by as long as it takes to get there.
func (e *Evening) settings(out *EveningPlan, s *workload.Schedule) {
	runs := runsOf(s)
	set := settingsOf(e.Workload, runs)
	type use struct {
		run  *workload.Run
		c    float64
		task string
	}
	uses := map[string][]use{}
	for _, t := range e.Workload.Tasks {
		for k, n := range t.Needs {
			if r := runs[t.ID]; r != nil && n.SetpointC != nil {
				uses[r.Resources[k]] = append(uses[r.Resources[k]], use{r, set[t.ID], t.ID})
			}
		}
	}
	for _, r := range e.Workload.Resources {
		if r.Thermostat == nil {
			continue
		}
		list := uses[r.ID]
		slices.SortStableFunc(list, func(a, b use) int { return cmp.Compare(a.run.Start, b.run.Start) })
		now := r.Thermostat.StartC
		for _, u := range list {
			if took := r.Thermostat.Changeover(now, u.c); took > 0 {
				ref := e.ref(u.task)
				c, _ := e.book.Component(ref.Component)
				by := e.Origin.Add(time.Duration(u.run.Start) * time.Second)
				out.Sets = append(out.Sets, HeatSetting{At: by.Add(-time.Duration(took) * time.Second), By: by, Name: r.Name, FromC: now, C: u.c,
					What: c.Name, Section: c.SectionOf(&c.Steps[c.StepIndex(ref.Step)])})
				now = u.c
			}
		}
	}
	slices.SortStableFunc(out.Sets, func(a, b HeatSetting) int { return a.At.Compare(b.At) })
}
