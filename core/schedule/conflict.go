package schedule

import "jointime/core/workload"

// conflict names the rules that cannot hold together: of all rules, those without
// any one of which there would be a schedule, as far as that can be told quickly.
func (s *solver) conflict() *conflict {
	w := s.p.w.Clone()
	c := &conflict{}
	feasible := func(w *workload.Workload) bool {
		p := compile(w)
		if p.propagate() != nil || p.hopeless() != nil {
			return false
		}
		br, ok := newBrancher(s.ctx, p, far, 4000)
		if !ok {
			return false
		}
		br.first = true
		br.search()
		return br.found || br.stopped
	}
	try := func(change, undo func(), b workload.Broken) {
		change()
		if s.ctx.Err() == nil && !feasible(w) {
			return // not needed for the contradiction: it stays out
		}
		undo()
		c.rules = append(c.rules, b)
	}
	for i := range w.Links {
		if l := w.Links[i]; l.Max != nil {
			try(func() { w.Links[i].Max = nil }, func() { w.Links[i].Max = l.Max }, workload.Broken{Rule: workload.RuleMax,
				IDs: []string{l.From, l.To}, Unit: "s"})
		}
	}
	for i := range w.Tasks {
		if l := w.Tasks[i].Latest; l != nil {
			try(func() { w.Tasks[i].Latest = nil }, func() { w.Tasks[i].Latest = l }, workload.Broken{Rule: workload.RuleLatest,
				IDs: []string{w.Tasks[i].ID}, Unit: "s"})
		}
	}
	for i := range w.Joins {
		if l := w.Joins[i].Latest; l != nil {
			try(func() { w.Joins[i].Latest = nil }, func() { w.Joins[i].Latest = l }, workload.Broken{Rule: workload.RuleLatest,
				IDs: []string{w.Joins[i].ID}, Unit: "s"})
		}
	}
	for i := range w.Resources {
		r := w.Resources[i]
		name := []string{r.ID}
		if r.HasWindows {
			try(func() { w.Resources[i].HasWindows, w.Resources[i].Windows = false, nil }, func() { w.Resources[i] = r },
				workload.Broken{Rule: workload.RuleWindow, IDs: name, Unit: "s"})
			r = w.Resources[i]
		}
		if r.Thermostat != nil {
			try(func() { w.Resources[i].Thermostat = nil }, func() { w.Resources[i] = r }, workload.Broken{Rule: workload.RuleChangeover, IDs: name,
				Unit: "s"})
			r = w.Resources[i]
		}
		try(func() { w.Resources[i].Capacity = workload.MaxUnits; w.Resources[i].HasWindows = false }, func() { w.Resources[i] = r },
			workload.Broken{Rule: workload.RuleCapacity, IDs: name, Unit: "unit"})
	}
	if len(c.rules) == 0 {
		c.rules = append(c.rules, workload.Broken{Rule: workload.RuleHorizon, IDs: []string{}, By: 0, Unit: "s"})
	}
	return c
}
