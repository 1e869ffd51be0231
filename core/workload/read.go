package workload

import (
	"io"
	"time"
)

// Read reads a workload. Any error is a *PathError: the JSON path and what was
// expected there. What it accepts is well formed: ids are unique and known,
// numbers are in range. It may still be contradictory, which is for the
// scheduler to prove.
func Read(src io.Reader) (w *Workload, err error) {
	defer recoverPath(&err)
	r := newReader(src)
	w = &Workload{Objective: Joins}
	r.object(map[string]func(){
		"format":  func() { r.exactly(Format) },
		"version": r.version,
		"objective": func() {
			switch o := Objective(r.text()); o {
			case Joins, Makespan:
				w.Objective = o
			default:
				r.fail("expected \"joins\" or \"makespan\", got %q", o)
			}
		},
		"origin": func() {
			w.Origin = r.text()
			if _, perr := time.Parse(time.RFC3339, w.Origin); perr != nil {
				r.fail("expected a time like 2026-05-15T12:00:00+02:00, got %q", w.Origin)
			}
		},
		"horizon":   func() { w.Horizon = r.whole(0, MaxSeconds) },
		"now":       func() { n := r.whole(-MaxSeconds, MaxSeconds); w.Now = &n },
		"resources": func() { r.list(func(int) { w.Resources = append(w.Resources, r.resource()) }) },
		"tasks":     func() { r.list(func(int) { w.Tasks = append(w.Tasks, r.task()) }) },
		"links":     func() { r.list(func(int) { w.Links = append(w.Links, r.link()) }) },
		"joins":     func() { r.list(func(int) { w.Joins = append(w.Joins, r.join()) }) },
		"fixed":     func() { r.list(func(int) { w.Fixed = append(w.Fixed, r.fixed()) }) },
		"told":      func() { r.list(func(int) { w.Told = append(w.Told, r.told()) }) },
	}, "format", "version", "origin", "horizon", "resources", "tasks")
	r.end()
	if err := Check(w); err != nil {
		return nil, err
	}
	return w, nil
}

func (r *reader) resource() (s Resource) {
	s.Capacity = 0
	r.object(map[string]func(){
		"id":       func() { s.ID = r.id() },
		"name":     func() { s.Name = r.text() },
		"capacity": func() { s.Capacity = r.whole(1, MaxUnits) },
		"windows": func() {
			s.HasWindows = true
			r.list(func(int) {
				v := Window{Capacity: -1}
				r.object(map[string]func(){
					"from":     func() { v.From = r.whole(-MaxSeconds, MaxSeconds) },
					"to":       func() { v.To = r.whole(-MaxSeconds, MaxSeconds) },
					"capacity": func() { v.Capacity = r.whole(0, MaxUnits) },
				}, "from", "to")
				s.Windows = append(s.Windows, v)
			})
		},
		"thermostat": func() {
			t := &Thermostat{}
			rate := func(into *float64) func() {
				return func() {
					if *into = r.number(); !(*into > 0 && *into <= 1e6) {
						r.fail("expected a rate over 0, got %v", *into)
					}
				}
			}
			r.object(map[string]func(){
				"start_c":        func() { t.StartC = r.temperature() },
				"heat_c_per_min": rate(&t.HeatCPerMin),
				"cool_c_per_min": rate(&t.CoolCPerMin),
				"tolerance_c": func() {
					if t.ToleranceC = r.number(); t.ToleranceC < 0 || t.ToleranceC > 1e4 {
						r.fail("expected a tolerance of 0 or more, got %v", t.ToleranceC)
					}
				},
			}, "start_c", "heat_c_per_min", "cool_c_per_min")
			s.Thermostat = t
		},
	}, "id", "capacity")
	for i := range s.Windows {
		if s.Windows[i].Capacity < 0 {
			s.Windows[i].Capacity = s.Capacity
		}
	}
	return s
}

func (r *reader) temperature() float64 {
	c := r.number()
	if c < -273.15 || c > 2000 {
		r.fail("expected a temperature in °C from -273.15 to 2000, got %v", c)
	}
	return c
}

func (r *reader) time() int64 { return r.whole(-MaxSeconds, MaxSeconds) }

func (r *reader) timePtr() *int64 { v := r.time(); return &v }

func (r *reader) task() (t Task) {
	r.object(map[string]func(){
		"id":       func() { t.ID = r.id() },
		"name":     func() { t.Name = r.text() },
		"seconds":  func() { t.Seconds = r.whole(0, MaxSeconds) },
		"longest":  func() { v := r.whole(0, MaxSeconds); t.Longest = &v },
		"earliest": func() { t.Earliest = r.time() },
		"latest":   func() { t.Latest = r.timePtr() },
		"needs": func() {
			r.list(func(int) {
				var n Need
				r.object(map[string]func(){
					"any_of":        func() { r.list(func(int) { n.AnyOf = append(n.AnyOf, r.id()) }) },
					"units":         func() { n.Units = r.whole(1, MaxUnits) },
					"setpoint_c":    func() { c := r.temperature(); n.SetpointC = &c },
					"setpoint_to_c": func() { c := r.temperature(); n.SetpointToC = &c },
					"as":            func() { n.As = r.as() },
				}, "any_of", "units")
				t.Needs = append(t.Needs, n)
			})
		},
	}, "id", "seconds")
	return t
}

func (r *reader) as() *As {
	var a As
	r.object(map[string]func(){
		"task": func() { a.Task = r.id() },
		"need": func() { a.Need = int(r.whole(0, MaxUnits)) },
	}, "task", "need")
	return &a
}

func (r *reader) told() (t Told) {
	r.object(map[string]func(){
		"task":   func() { t.Task = r.id() },
		"start":  func() { t.Start = r.time() },
		"weight": func() { t.Weight = r.whole(0, MaxWeight) },
	}, "task", "start", "weight")
	return t
}

func (r *reader) link() Link {
	l := Link{Kind: FinishStart, Weight: 1}
	r.object(map[string]func(){
		"from": func() { l.From = r.id() },
		"to":   func() { l.To = r.id() },
		"kind": func() {
			switch k := Kind(r.text()); k {
			case FinishStart, StartStart, FinishFinish, StartFinish:
				l.Kind = k
			default:
				r.fail("expected \"finish-start\", \"start-start\", \"finish-finish\" or \"start-finish\", got %q", k)
			}
		},
		"min":    func() { l.Min = r.time() },
		"best":   func() { l.Best = r.timePtr() },
		"max":    func() { l.Max = r.timePtr() },
		"weight": func() { l.Weight = r.whole(0, MaxWeight) },
	}, "from", "to")
	return l
}

func (r *reader) join() Join {
	j := Join{Weight: 1}
	r.object(map[string]func(){
		"id":           func() { j.ID = r.id() },
		"name":         func() { j.Name = r.text() },
		"at":           func() { j.At = r.timePtr() },
		"weight":       func() { j.Weight = r.whole(0, MaxWeight) },
		"early_weight": func() { j.EarlyWeight = r.whole(0, MaxWeight) },
		"earliest":     func() { j.Earliest = r.time() },
		"latest":       func() { j.Latest = r.timePtr() },
	}, "id")
	return j
}

func (r *reader) fixed() (f Fixed) {
	var start, at, resources bool
	r.object(map[string]func(){
		"task":      func() { f.Task = r.id() },
		"start":     func() { f.Start = r.time(); start = true },
		"finish":    func() { f.Finish = r.timePtr() },
		"resources": func() { resources = true; r.list(func(int) { f.Resources = append(f.Resources, r.id()) }) },
		"join":      func() { f.Join = r.id() },
		"at":        func() { f.At = r.time(); at = true },
	})
	switch {
	case f.Task == "" && f.Join == "":
		r.fail("expected \"task\" or \"join\"")
	case f.Task != "" && (f.Join != "" || at):
		r.fail("expected either a task or a join, got both")
	case f.Task != "" && !start:
		r.in(".start", func() { r.fail("is required") })
	case f.Task != "" && !resources:
		r.in(".resources", func() { r.fail("is required") })
	case f.Join != "" && !at:
		r.in(".at", func() { r.fail("is required") })
	case f.Join != "" && (start || resources || f.Finish != nil):
		r.fail("a join has only \"at\"")
	}
	return f
}

// ReadSchedule reads a schedule file; errors are as for Read.
func ReadSchedule(src io.Reader) (s *Schedule, err error) {
	defer recoverPath(&err)
	r := newReader(src)
	s = &Schedule{}
	r.object(map[string]func(){
		"format":  func() { r.exactly(ScheduleFormat) },
		"version": r.version,
		"status": func() {
			switch v := Status(r.text()); v {
			case Optimal, Feasible, BestEffort, Impossible:
				s.Status = v
			default:
				r.fail("expected \"optimal\", \"feasible\", \"best-effort\" or \"impossible\", got %q", v)
			}
		},
		"cost":        func() { v := r.whole(-MaxCost, MaxCost); s.Cost = &v },
		"lower_bound": func() { v := r.whole(-MaxCost, MaxCost); s.LowerBound = &v },
		"tasks": func() {
			r.list(func(int) {
				var v Run
				r.object(map[string]func(){
					"id": func() { v.ID = r.id() }, "start": func() { v.Start = r.time() }, "finish": func() { v.Finish = r.time() },
					"resources": func() { r.list(func(int) { v.Resources = append(v.Resources, r.id()) }) },
				}, "id", "start", "finish")
				s.Tasks = append(s.Tasks, v)
			})
		},
		"joins": func() {
			r.list(func(int) {
				var v Instant
				r.object(map[string]func(){"id": func() { v.ID = r.id() }, "at": func() { v.At = r.time() }}, "id", "at")
				s.Joins = append(s.Joins, v)
			})
		},
		"broken": func() {
			r.list(func(int) {
				var b Broken
				r.object(map[string]func(){
					"rule": func() { b.Rule = Rule(r.text()) },
					"ids":  func() { r.list(func(int) { b.IDs = append(b.IDs, r.id()) }) },
					"by":   func() { b.By = r.whole(-MaxCost, MaxCost) },
					"unit": func() { b.Unit = r.text() },
				}, "rule")
				s.Broken = append(s.Broken, b)
			})
		},
		"search": func() {
			r.object(map[string]func(){
				"seconds": func() { s.Search.Seconds = r.number() },
				"seed":    func() { s.Search.Seed = r.whole(-1<<53, 1<<53) }, "schedules": func() { s.Search.Schedules = r.whole(0, MaxCost) },
			})
		},
	}, "format", "version", "status", "tasks", "joins")
	r.end()
	return s, nil
}
