// Package schedule finds when everything is fired: resource-constrained
// scheduling with shortest and longest waits, cumulative resources,
// alternatives, windows, thermostats, and a cost of late and early joins and of
// waiting beyond best (the RCPSP/max family with earliness–tardiness costs).
//
// The parts, under their textbook names: problem.go (the compiled instance),
// windows.go (propagation of time windows), profile.go (resource profiles),
// state.go (a schedule under construction), groups.go and serial.go (serial
// schedule generation), check.go (broken rules).
//
// A schedule that the package returns keeps every rule, or says which it breaks;
// package verify, which shares no code with the search, checks that. The search
// has no clock: it ends by itself, or when its context does.
package schedule

import (
	"context"

	"jointime/core/workload"
)

// Options steer the search. The zero value is a good default.
type Options struct {
	// Seed of every random choice; the same seed gives the same schedule when the
	// search ends by itself.
	Seed int64
	// Rounds bounds how many times a schedule is improved; 0 stands for 200.
	Rounds int
}

// Solve returns a schedule for a workload that passed workload.Check. It always
// returns one: broken rules and proofs of impossibility are outcomes, not errors.
func Solve(ctx context.Context, w *workload.Workload, o Options) *workload.Schedule {
	p := compile(w)
	c := p.propagate()
	if c == nil {
		c = p.hopeless()
	}
	if c != nil {
		return &workload.Schedule{Status: workload.Impossible, Broken: c.rules, Search: workload.Search{Seed: o.Seed}}
	}
	b := newBuilder(p, o.Seed)
	b.construct(ctx, p.groups())
	return b.result(o.Seed)
}

// construct places every group; one that finds no place makes those around it
// move, and is forced in at the end if that does not help.
func (b *builder) construct(ctx context.Context, gs []group) {
	queue := make([]int, len(gs))
	for i := range gs {
		queue[i] = i
	}
	home := make([]int, b.p.n)
	for i := range gs {
		for _, v := range gs[i].nodes {
			home[v] = i
		}
		if gs[i].join >= 0 {
			home[gs[i].join] = i
		}
	}
	failures := make([]int, len(gs))
	var forced []int
	for len(queue) > 0 {
		i := queue[0]
		queue = queue[1:]
		g := &gs[i]
		if ctx.Err() != nil {
			forced = append(forced, i)
			continue
		}
		if b.insert(g) {
			continue
		}
		if failures[i]++; failures[i] > 6 {
			forced = append(forced, i)
			continue
		}
		out := b.neighbours(gs, i, home, failures[i])
		for _, k := range out {
			b.remove(b.members(&gs[k]))
		}
		queue = append(append([]int{i}, queue...), out...)
	}
	for _, i := range forced {
		b.force(&gs[i])
	}
}

// neighbours are the groups linked with group i, and for repeated failures those
// nearest in time, that are placed now.
func (b *builder) neighbours(gs []group, i int, home []int, failures int) []int {
	seen := map[int]bool{i: true}
	var out []int
	take := func(k int) {
		if !seen[k] && len(gs[k].nodes) > 0 && b.placed[gs[k].nodes[0]] {
			seen[k] = true
			out = append(out, k)
		}
	}
	for _, v := range b.members(&gs[i]) {
		for _, a := range b.p.out[v] {
			if !b.p.fixed[a.other] {
				take(home[a.other])
			}
		}
		for _, a := range b.p.in[v] {
			if !b.p.fixed[a.other] {
				take(home[a.other])
			}
		}
	}
	for d := 1; d < failures; d++ {
		if i-d >= 0 {
			take(i - d)
		}
		if i+d < len(gs) {
			take(i + d)
		}
	}
	return out
}

// result turns the state into the schedule file's terms.
func (b *builder) result(seed int64) *workload.Schedule {
	p := b.p
	out := &workload.Schedule{Status: workload.Feasible, Broken: b.broken(), Search: workload.Search{Seed: seed, Schedules: b.tried}}
	cost := p.cost(b.x)
	out.Cost = &cost
	if len(out.Broken) > 0 {
		out.Status = workload.BestEffort
	} else {
		bound := p.bound()
		out.LowerBound = &bound
		if bound == cost {
			out.Status = workload.Optimal
		}
	}
	for v := range p.tasks {
		run := workload.Run{ID: p.id(v), Start: b.x[v], Finish: b.x[v] + p.dur[v], Resources: []string{}}
		for _, r := range b.on[v] {
			run.Resources = append(run.Resources, p.w.Resources[r].ID)
		}
		out.Tasks = append(out.Tasks, run)
	}
	for v := p.tasks; v < p.n; v++ {
		out.Joins = append(out.Joins, workload.Instant{ID: p.id(v), At: b.x[v]})
	}
	return out
}

// bound is a true lower bound of the cost: what the windows alone force.
func (p *problem) bound() int64 {
	if p.makespan {
		var m int64
		for v := range p.tasks {
			m = max(m, p.lo[v]+p.dur[v])
		}
		return m
	}
	sum := p.base
	for v := p.tasks; v < p.n; v++ {
		sum += p.nodeCost(v, p.wish(v))
	}
	for i := range p.soft {
		s := &p.soft[i]
		if over := p.lo[s.to] - p.hi[s.from] - s.best; over > 0 {
			sum += over * s.weight
		}
	}
	return sum
}
