package schedule

import (
	"fmt"
	"slices"

	"jointime/core/workload"
)

// far is further away than any time of a workload, and small enough that adding
// two of them does not overflow.
const far = int64(1) << 50

// An arc says x[to] ≥ x[from] + w, where x is the start of a task or the instant
// of a join. Shortest waits, longest waits and all four kinds of link become
// arcs, so that one propagation serves them all.
type arc struct {
	other int32 // the far end: `to` in problem.out, `from` in problem.in
	rule  int32 // index of the link it came from; for naming conflicts
	w     int64
}

// A softLink costs weight for each second that x[to] − x[from] exceeds best.
type softLink struct {
	from, to int32
	best     int64
	weight   int64
}

// A want is a cost of one node by itself: late and early are the prices of a second
// after and before at.
type want struct{ at, late, early int64 }

type need struct {
	anyOf    []int32
	units    int64
	setpoint setpoint
	chain    int32 // of needs that are taken as each other; −1 for none
	seg      int32 // its place among the segments of its leader
}

// asks reports whether a need asks for a temperature.
func (n *need) asks() bool { return !n.setpoint.none() }

// A block is time in which units of a resource are not there (the complement of
// its windows).
type block struct{ from, to, units int64 }

type resource struct {
	capacity   int64
	blocks     []block
	thermostat *workload.Thermostat
	// slowest is the longest that a thermostat takes between two of the temperatures that it is asked for, or from its standby.
	slowest int64
}

// problem is a workload compiled for the search: nodes 0…tasks−1 are tasks,
// the rest are joins; ids have become indices, events have become offsets.
type problem struct {
	w     *workload.Workload
	tasks int // number of tasks, with the ends of those whose length is chosen
	real  int // number of tasks of the workload; the ends come after them
	n     int // number of nodes
	dur   []int64
	lo    []int64 // window of x from earliest, now and propagation
	hi    []int64
	fixed []bool
	fixAt []int64
	fixOn [][]int32
	needs [][]need
	out   [][]arc
	in    [][]arc
	res   []resource
	soft  []softLink
	// wants are the prices of a node's own instant: a join's wish first, then waits of which the other end stands, and the price of moving
	// what has been told. toldAt is when that was, −1 for what was not; aimAt is when it was to be before it was put off, −1 where it was not.
	wants         [][]want
	toldAt, aimAt []int64
	// chains are the needs that are taken as each other.
	chains [][]member
	// Of the bodies (bodies.go): each node's leader and its start from the leader's; and of each leader its members, what
	// they take, which of that is taken as each other, and how long after its start the last of them ends.
	// stop is the node at which a task ends whose length is chosen, −1 for others; run is the task that ends at a node.
	stop []int32
	run  []int32
	lead []int32
	// inTo and outOf are, of each leader, the arcs between its body and others, from start to start of their leaders; of several between
	// the same two the longest.
	inTo, outOf [][]arc
	off         []int64
	body        [][]int32
	segs        [][]seg
	ties        [][][]int32
	// alike is, for the first segment of a tie, that of an earlier tie of its leader that asks for the same; −1 for none.
	alike [][]int32
	// rank is how many such earlier ties there are, where no two of them can have the same resource.
	rank [][]int32
	tail []int64
	head []int64 // when its first begins
	// closes are bodies in which a run ends, open those with a run that ends elsewhere.
	closes, open []bool
	// twins gives resources that differ in nothing the same number.
	twins []int
	// softOf lists, for each node, the soft links that touch it.
	softOf [][]int32
	// base is the part of the cost that no decision changes.
	base int64
	// fileBase and fileSoft are the costs that the workload states itself.
	fileBase int64
	fileSoft []softLink
	makespan bool
	horizon  int64
}

// compile builds the problem. The workload must have passed workload.Check.
func compile(w *workload.Workload) *problem {
	nT, nJ, nE := len(w.Tasks), len(w.Joins), 0
	for i := range w.Tasks {
		if w.Tasks[i].Longest != nil {
			nE++
		}
	}
	nT += nE
	n := nT + nJ
	p := &problem{
		w: w, tasks: nT, real: len(w.Tasks), n: n, dur: make([]int64, n), lo: make([]int64, n), hi: make([]int64, n),
		fixed: make([]bool, n), fixAt: make([]int64, n), fixOn: make([][]int32, n),
		needs: make([][]need, n), out: make([][]arc, n), in: make([][]arc, n), softOf: make([][]int32, n), wants: make([][]want, n),
		makespan: w.Objective == workload.Makespan, horizon: w.Horizon,
	}
	p.toldAt, p.aimAt = make([]int64, n), make([]int64, n)
	for v := range p.toldAt {
		p.toldAt[v], p.aimAt[v] = -1, -1
	}
	index := make(map[string]int32, n)
	resIndex := make(map[string]int32, len(w.Resources))
	for i := range w.Resources {
		r := &w.Resources[i]
		resIndex[r.ID] = int32(i)
		p.res = append(p.res, resource{capacity: r.Capacity, blocks: blocksOf(r), thermostat: r.Thermostat})
	}
	for i := range w.Tasks {
		t := &w.Tasks[i]
		index[t.ID] = int32(i)
		p.dur[i] = t.Seconds
		p.lo[i] = max(0, t.Earliest)
		p.hi[i] = w.Horizon - t.Seconds
		if t.Latest != nil {
			p.hi[i] = min(p.hi[i], *t.Latest-t.Seconds)
		}
		for _, nd := range t.Needs {
			c := need{units: nd.Units, setpoint: noSetpoint}
			if r, ok := nd.Setpoints(); ok {
				c.setpoint = setpoint(r)
			}
			for _, id := range nd.AnyOf {
				c.anyOf = append(c.anyOf, resIndex[id])
			}
			p.needs[i] = append(p.needs[i], c)
		}
	}
	p.findEnds()
	for i := range w.Joins {
		j := &w.Joins[i]
		v := nT + i
		index[j.ID] = int32(v)
		p.lo[v], p.hi[v] = max(0, j.Earliest), w.Horizon
		if j.Latest != nil {
			p.hi[v] = min(p.hi[v], *j.Latest)
		}
	}
	if w.Now != nil {
		for v := range n {
			p.lo[v] = max(p.lo[v], *w.Now)
		}
	}
	for i := range w.Fixed {
		f := &w.Fixed[i]
		if f.Task != "" {
			v := index[f.Task]
			p.fixed[v], p.fixAt[v] = true, f.Start
			p.dur[v] = w.FixedFinish(f, p.dur[v]) - f.Start
			for _, id := range f.Resources {
				p.fixOn[v] = append(p.fixOn[v], resIndex[id])
			}
		} else {
			v := index[f.Join]
			p.fixed[v], p.fixAt[v] = true, f.At
		}
	}
	for v := range n {
		if p.fixed[v] {
			p.lo[v], p.hi[v] = p.fixAt[v], p.fixAt[v]
		}
	}
	if !p.makespan {
		for i := range w.Joins {
			if j := &w.Joins[i]; j.At != nil && (j.Weight > 0 || j.EarlyWeight > 0) {
				p.wants[nT+i] = append(p.wants[nT+i], want{*j.At, j.Weight, j.EarlyWeight})
			}
		}
	}
	for i := range w.Links {
		p.link(int32(i), &w.Links[i], index)
	}
	p.findSlowest()
	p.findChains(w, index)
	p.findBodies()
	p.findTwins()
	return p
}

// findSlowest finds, for each thermostat, its longest changeover.
func (p *problem) findSlowest() {
	asked := make([][]setpoint, len(p.res))
	for v := range p.tasks {
		for k := range p.needs[v] {
			nd := &p.needs[v][k]
			for _, r := range nd.anyOf {
				if nd.asks() && p.res[r].thermostat != nil && !slices.Contains(asked[r], nd.setpoint) {
					asked[r] = append(asked[r], nd.setpoint)
				}
			}
		}
	}
	for r, list := range asked {
		t := p.res[r].thermostat
		for _, a := range list {
			p.res[r].slowest = max(p.res[r].slowest, changeover(t, standby(t), a))
			for _, b := range list {
				p.res[r].slowest = max(p.res[r].slowest, changeover(t, a, b))
			}
		}
	}
}

// findTwins numbers the resources by everything that the search knows of them, so
// that it need not try two that are alike.
func (p *problem) findTwins() {
	type key struct {
		capacity int64
		blocks   string
		thermo   workload.Thermostat
		needs    string
	}
	where := make([][]byte, len(p.res))
	for v := range p.tasks {
		for k := range p.needs[v] {
			for i, r := range p.needs[v][k].anyOf {
				where[r] = fmt.Appendf(where[r], "%d.%d ", v, k)
				if p.needs[v][k].chain >= 0 {
					where[r] = fmt.Appendf(where[r], "at %d ", i) // what else comes with it differs
				}
			}
		}
	}
	number := map[key]int{}
	for i := range p.res {
		r := &p.res[i]
		k := key{capacity: r.capacity, blocks: fmt.Sprint(r.blocks), needs: string(where[i])}
		if r.thermostat != nil {
			k.thermo = *r.thermostat
		}
		if _, ok := number[k]; !ok {
			number[k] = len(number)
		}
		p.twins = append(p.twins, number[k])
	}
}

func (p *problem) link(rule int32, l *workload.Link, index map[string]int32) {
	u, v := index[l.From], index[l.To]
	// wait = x[v] + offV − x[u] − offU
	var offU, offV int64
	if l.Kind == workload.FinishStart || l.Kind == workload.FinishFinish {
		u, offU = p.finish(u)
	}
	if l.Kind == workload.StartFinish || l.Kind == workload.FinishFinish {
		v, offV = p.finish(v)
	}
	if l.Best != nil && !p.makespan && l.Weight > 0 {
		s := softLink{from: u, to: v, best: *l.Best + offU - offV, weight: l.Weight}
		if u == v {
			p.base += s.weight * max(0, -s.best)
			p.fileBase = p.base
		} else if p.fixed[u] || p.fixed[v] {
			// One end stands: it is a price of the other's instant alone.
			switch {
			case p.fixed[u] && p.fixed[v]:
				p.base += s.weight * max(0, p.fixAt[v]-p.fixAt[u]-s.best)
			case p.fixed[u]:
				p.wants[v] = append(p.wants[v], want{at: p.fixAt[u] + s.best, late: s.weight})
			default:
				p.wants[u] = append(p.wants[u], want{at: p.fixAt[v] - s.best, early: s.weight})
			}
			p.fileSoft = append(p.fileSoft, s)
		} else {
			p.softOf[u] = append(p.softOf[u], int32(len(p.soft)))
			p.softOf[v] = append(p.softOf[v], int32(len(p.soft)))
			p.soft = append(p.soft, s)
			p.fileSoft = append(p.fileSoft, s)
		}
	}
	if p.fixed[u] && p.fixed[v] {
		return // what has happened has happened
	}
	p.arc(u, v, l.Min+offU-offV, rule)
	if l.Max != nil {
		p.arc(v, u, -*l.Max-offU+offV, rule)
	}
}

func (p *problem) arc(from, to int32, w int64, rule int32) {
	p.out[from] = append(p.out[from], arc{to, rule, w})
	p.in[to] = append(p.in[to], arc{from, rule, w})
}

// blocksOf turns windows into their complement: capacity that is missing.
func blocksOf(r *workload.Resource) []block {
	if !r.HasWindows {
		return nil
	}
	ws := slices.Clone(r.Windows)
	slices.SortFunc(ws, func(a, b workload.Window) int { return int(a.From - b.From) })
	var bs []block
	at := -far
	for _, v := range ws {
		if v.From > at {
			bs = append(bs, block{at, v.From, r.Capacity})
		}
		if v.Capacity < r.Capacity {
			bs = append(bs, block{v.From, v.To, r.Capacity - v.Capacity})
		}
		at = v.To
	}
	return append(bs, block{at, far, r.Capacity})
}

// join returns the join of a node that is not a task.
func (p *problem) join(v int) *workload.Join { return &p.w.Joins[v-p.tasks] }

// nodeCost is what node v costs by itself at time x.
func (p *problem) nodeCost(v int, x int64) int64 {
	var sum int64
	for _, u := range p.wants[v] {
		if x > u.at {
			sum += (x - u.at) * u.late
		} else {
			sum += (u.at - x) * u.early
		}
	}
	return sum
}

// cost of a complete assignment of times: what the search minimises.
func (p *problem) cost(x []int64) int64 {
	sum := p.base
	if p.makespan {
		sum += p.length(x)
	}
	for v := range p.n {
		if len(p.wants[v]) > 0 {
			sum += p.nodeCost(v, x[v])
		}
	}
	for i := range p.soft {
		s := &p.soft[i]
		if over := x[s.to] - x[s.from] - s.best; over > 0 {
			sum += over * s.weight
		}
	}
	return sum
}

// length is the makespan.
func (p *problem) length(x []int64) int64 {
	var m int64
	for v := range p.tasks {
		m = max(m, x[v]+p.dur[v])
	}
	return m
}

// stated is the cost as the schedule file states it: without the price of moving
// what has been told.
func (p *problem) stated(x []int64) int64 {
	if p.makespan {
		return p.length(x)
	}
	sum := p.fileBase
	for i := range p.w.Joins {
		sum += p.w.Joins[i].Cost(x[p.tasks+i])
	}
	for i := range p.fileSoft {
		s := &p.fileSoft[i]
		if over := x[s.to] - x[s.from] - s.best; over > 0 {
			sum += over * s.weight
		}
	}
	return sum
}

// id of a node, as in the files.
func (p *problem) id(v int) string {
	if v < p.tasks {
		return p.task(v).ID
	}
	return p.w.Joins[v-p.tasks].ID
}
