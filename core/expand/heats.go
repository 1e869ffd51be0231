package expand

import (
	"cmp"
	"slices"

	"jointime/core/workload"
)

// What is set where: a need of heat may be a range, of which the plan keeps the rules for any; what a cook sets is worked out
// here.

// settingsOf is the temperature at which each task that asks for heat runs, °C: what its thermostat has already where that will
// do, and else the nearest that does, for it and for all that is in there with it.
func settingsOf(w *workload.Workload, runs map[string]*workload.Run) map[string]float64 {
	type use struct {
		task string
		run  *workload.Run
		heat workload.Range
	}
	uses := map[string][]use{}
	for i := range w.Tasks {
		t := &w.Tasks[i]
		r := runs[t.ID]
		for k := range t.Needs {
			if heat, ok := t.Needs[k].Setpoints(); ok && r != nil && k < len(r.Resources) {
				uses[r.Resources[k]] = append(uses[r.Resources[k]], use{t.ID, r, heat})
			}
		}
	}
	out := map[string]float64{}
	for i := range w.Resources {
		res := &w.Resources[i]
		list := uses[res.ID]
		slices.SortStableFunc(list, func(a, b use) int { return cmp.Compare(a.run.Start, b.run.Start) })
		now, set := 0.0, false
		if res.Thermostat != nil {
			now, set = res.Thermostat.StartC, true
		}
		for _, u := range list {
			heat := u.heat
			for _, o := range list {
				low, high := max(heat.Low, o.heat.Low), min(heat.High, o.heat.High)
				if o.run.Start < u.run.Finish && u.run.Start < o.run.Finish && low <= high {
					heat = workload.Range{Low: low, High: high}
				}
			}
			if !set {
				now, set = heat.Low, true
			}
			now = min(max(now, heat.Low), heat.High)
			out[u.task] = now
		}
	}
	return out
}
