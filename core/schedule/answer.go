package schedule

import "jointime/core/workload"

// What is found, in the schedule file's terms.

// result is the best schedule; proved says that none is better.
func (s *solver) result(proved bool) *workload.Schedule {
	s.m.adopt(s.m.bestX, s.m.bestOn)
	if s.nearly.rather(s.m.x) {
		return s.answer(s.nearly.state, s.tried+s.m.tried, false)
	}
	return s.answer(s.m.state, s.tried+s.m.tried, proved || s.bound >= s.m.best)
}

// answer turns a state into the schedule file's terms.
func (s *solver) answer(st *state, tried int64, proved bool) *workload.Schedule {
	p := s.p
	out := &workload.Schedule{Status: workload.Feasible, Broken: st.broken(), Search: workload.Search{Seed: s.o.Seed, Schedules: tried}}
	cost := p.stated(st.x)
	out.Cost = &cost
	if len(out.Broken) > 0 {
		out.Status = workload.BestEffort
	} else {
		// The bound of a search that also pays for moves is no bound of the stated cost.
		bound := int64(0)
		if s.o.Previous == nil || s.o.MovePrice == 0 {
			bound = min(s.bound, cost)
			if proved {
				bound = cost
			}
		}
		out.LowerBound = &bound
		if bound == cost {
			out.Status = workload.Optimal
		}
	}
	for v := range p.real {
		run := workload.Run{ID: p.id(v), Start: st.x[v], Finish: st.ends(v), Resources: []string{}}
		for _, r := range st.on[v] {
			run.Resources = append(run.Resources, p.w.Resources[r].ID)
		}
		out.Tasks = append(out.Tasks, run)
	}
	for v := p.tasks; v < p.n; v++ {
		out.Joins = append(out.Joins, workload.Instant{ID: p.id(v), At: st.x[v]})
	}
	return out
}

func impossible(c *conflict, seed, tried int64) *workload.Schedule {
	return &workload.Schedule{Status: workload.Impossible, Broken: c.rules, Search: workload.Search{Seed: seed, Schedules: tried}}
}
