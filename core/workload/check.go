package workload

import "strconv"

// Check reports the first way in which a workload is not well formed, as a
// *PathError. Contradictions (more units than there are, min over max) are not
// faults of the input.
func Check(w *Workload) error {
	at := func(expected string, path ...string) error {
		p := "$"
		for _, s := range path {
			p += s
		}
		return &PathError{Path: oneLine(p), Expected: oneLine(expected)}
	}
	idx := func(key string, i int) string { return "." + key + "[" + strconv.Itoa(i) + "]" }

	resources := make(map[string]*Resource, len(w.Resources))
	for i := range w.Resources {
		s := &w.Resources[i]
		p := idx("resources", i)
		if resources[s.ID] != nil {
			return at("the id "+strconv.Quote(s.ID)+" is taken", p, ".id")
		}
		resources[s.ID] = s
		for k, v := range s.Windows {
			q := idx("windows", k)
			switch {
			case v.From >= v.To:
				return at("expected a window that ends after it starts", p, q)
			case v.Capacity > s.Capacity:
				return at("expected at most the resource's capacity, "+strconv.FormatInt(s.Capacity, 10), p, q, ".capacity")
			}
			for m, u := range s.Windows[:k] {
				if v.From < u.To && u.From < v.To {
					return at("overlaps "+idx("windows", m)[1:], p, q)
				}
			}
		}
	}
	paired := pairs(w)
	// One namespace for tasks and joins; the value tells where it stands.
	events := make(map[string]int, len(w.Tasks)+len(w.Joins))
	for i := range w.Tasks {
		t := &w.Tasks[i]
		p := idx("tasks", i)
		if _, taken := events[t.ID]; taken {
			return at("the id "+strconv.Quote(t.ID)+" is taken", p, ".id")
		}
		events[t.ID] = i
		if t.Longest != nil && *t.Longest < t.Seconds {
			return at("expected at least the seconds, "+strconv.FormatInt(t.Seconds, 10)+", got "+strconv.FormatInt(*t.Longest, 10), p, ".longest")
		}
		for k, n := range t.Needs {
			q := idx("needs", k)
			switch {
			case n.SetpointToC != nil && n.SetpointC == nil:
				return at("expected a setpoint_c beside it", p, q, ".setpoint_to_c")
			case n.SetpointToC != nil && *n.SetpointToC < *n.SetpointC:
				return at("expected at least the setpoint_c", p, q, ".setpoint_to_c")
			}
			if len(n.AnyOf) == 0 {
				return at("expected at least one resource", p, q, ".any_of")
			}
			for m, id := range n.AnyOf {
				if resources[id] == nil {
					return at("no resource has the id "+strconv.Quote(id), p, q, idx("any_of", m))
				}
				for _, other := range n.AnyOf[:m] {
					if other == id && !paired[place{t.ID, k}] {
						return at("the resource "+strconv.Quote(id)+" is named twice", p, q, idx("any_of", m))
					}
				}
			}
		}
	}
	if err := checkAs(w, events, at, idx); err != nil {
		return err
	}
	for i := range w.Joins {
		if _, taken := events[w.Joins[i].ID]; taken {
			return at("the id "+strconv.Quote(w.Joins[i].ID)+" is taken", idx("joins", i), ".id")
		}
		events[w.Joins[i].ID] = len(w.Tasks) + i
	}
	var weight int64
	for i, l := range w.Links {
		for _, end := range []struct{ key, id string }{{".from", l.From}, {".to", l.To}} {
			if _, known := events[end.id]; !known {
				return at("no task or join has the id "+strconv.Quote(end.id), idx("links", i), end.key)
			}
		}
		if l.From == l.To {
			if e := events[l.From]; e >= len(w.Tasks) || w.Tasks[e].Longest == nil || l.Kind != StartFinish {
				return at("a link from a task to itself is start-finish, and the task has a longest", idx("links", i))
			}
		}
		if l.Best != nil {
			weight += l.Weight
		}
	}
	for i, t := range w.Told {
		if e, known := events[t.Task]; !known || e >= len(w.Tasks) {
			return at("no task has the id "+strconv.Quote(t.Task), idx("told", i), ".task")
		}
		weight += t.Weight
	}
	for _, j := range w.Joins {
		weight += max(j.Weight, j.EarlyWeight)
	}
	if weight > MaxCost/(8*MaxSeconds) {
		return at("the weights add up to "+strconv.FormatInt(weight, 10)+", more than can be counted exactly", "")
	}
	return checkFixed(w, resources, events, at, idx)
}

func checkFixed(w *Workload, resources map[string]*Resource, events map[string]int,
	at func(string, ...string) error, idx func(string, int) string) error {
	seen := map[string]bool{}
	for i, f := range w.Fixed {
		p := idx("fixed", i)
		id, key := f.Task, ".task"
		if id == "" {
			id, key = f.Join, ".join"
		}
		e, known := events[id]
		if !known || (e < len(w.Tasks)) != (f.Task != "") {
			return at("no such "+key[1:]+": "+strconv.Quote(id), p, key)
		}
		if seen[id] {
			return at(strconv.Quote(id)+" is fixed twice", p, key)
		}
		seen[id] = true
		if f.Task == "" {
			continue
		}
		if f.Finish != nil && *f.Finish < f.Start {
			return at("expected a finish at or after the start", p, ".finish")
		}
		t := &w.Tasks[e]
		if len(f.Resources) != len(t.Needs) {
			return at("expected one resource for each of the "+strconv.Itoa(len(t.Needs))+" needs, got "+strconv.Itoa(len(f.Resources)), p,
				".resources")
		}
		for k, rid := range f.Resources {
			ok := false
			for _, a := range t.Needs[k].AnyOf {
				ok = ok || a == rid
			}
			if !ok {
				return at(strconv.Quote(rid)+" is not among the need's any_of", p, idx("resources", k))
			}
		}
	}
	return nil
}

// place is a need of a task.
type place struct {
	task string
	need int
}

// pairs are the needs that take their resource as another does, and those that they name.
func pairs(w *Workload) map[place]bool {
	out := map[place]bool{}
	for i := range w.Tasks {
		for k, n := range w.Tasks[i].Needs {
			if n.As != nil {
				out[place{w.Tasks[i].ID, k}], out[place{n.As.Task, n.As.Need}] = true, true
			}
		}
	}
	return out
}

// checkAs checks that every need that is taken as another names one, with a list as long as its own, and that no chain
// of them comes back to itself.
func checkAs(w *Workload, events map[string]int, at func(string, ...string) error, idx func(string, int) string) error {
	next := map[place]place{}
	for i := range w.Tasks {
		for k, n := range w.Tasks[i].Needs {
			if n.As == nil {
				continue
			}
			p := []string{idx("tasks", i), idx("needs", k), ".as"}
			e, known := events[n.As.Task]
			if !known || e >= len(w.Tasks) {
				return at("no task has the id "+strconv.Quote(n.As.Task), append(p, ".task")...)
			}
			if n.As.Need >= len(w.Tasks[e].Needs) {
				return at("the task has "+strconv.Itoa(len(w.Tasks[e].Needs))+" needs, counted from 0", append(p, ".need")...)
			}
			if other := len(w.Tasks[e].Needs[n.As.Need].AnyOf); other != len(n.AnyOf) {
				return at("expected lists of one length, and they have "+strconv.Itoa(len(n.AnyOf))+" and "+strconv.Itoa(other), p...)
			}
			next[place{w.Tasks[i].ID, k}] = place{n.As.Task, n.As.Need}
		}
	}
	for i := range w.Tasks {
		for k, n := range w.Tasks[i].Needs {
			own := place{w.Tasks[i].ID, k}
			for x, steps := own, 0; n.As != nil; steps++ {
				y, more := next[x]
				if !more {
					break
				}
				if y == own || steps > len(next) {
					return at("the chain comes back to itself", idx("tasks", i), idx("needs", k), ".as")
				}
				x = y
			}
		}
	}
	return nil
}
