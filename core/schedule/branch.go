package schedule

import (
	"context"
	"math/rand/v2"
)

// brancher is a branch and bound over the order of work. At every node of the
// search the times are optimal for the precedences posted so far (package type
// network), which gives a true lower bound; if they overload a resource, two of the
// runs that overlap there are put in order, in the one branch, and kept from being
// in that order, in the other. Windows are propagated with edge-finding. For the
// shortest makespan the pair is one that failed often and has little freedom.
//
// Sources of the method: branching on minimal forbidden sets, Bartusch, Möhring &
// Radermacher, Annals of Operations Research 16 (1988); relaxation of the resources
// with optimal timing, De Reyck & Herroelen, EJOR 111 (1998); weights of what
// failed, Boussemart, Hemery, Lecoutre & Sais, ECAI (2004).
type brancher struct {
	p      *problem
	n      int // nodes: the problem's, the blocks of its windows, the end, the origin
	end    int // node of the makespan, −1 for joins
	zero   int32
	dur    []int64
	est    []int64
	lst    []int64
	out    [][]arc
	in     [][]arc
	net    *network
	on     [][]int32 // resource of each need, −1 while open
	users  [][]user  // what is assigned to each resource
	order  []int8    // order[i*n+j]: what is decided of i before j
	blocks []int32   // resource of each block node
	failed []int64   // how many decisions about each node failed at once, and one

	rng      *rand.Rand // now and then tries the unlikely order first; nil never
	best     int64      // cost to beat
	bestX    []int64
	bestOn   [][]int32
	found    bool
	first    bool // the first schedule found ends the search
	nodes    int64
	limit    int64
	ctx      context.Context
	stopped  bool
	posted   []posting
	assigned []choice
	decided  []int32
	marks    []*level
	jobs     []job
	idx      []int
	scratch  []int64
	queue    []int32
	queued   []bool
	dirty    []bool // resources whose runs' windows changed
}

// What is decided of a pair.
const (
	openPair  int8 = iota
	before         // i ends (and the changeover passes) before j starts
	notBefore      // i does not end before j starts
)

type user struct {
	node     int32
	units    int64
	setpoint setpoint
	block    bool
}

type posting struct{ from, to int32 }

type choice struct{ node, need, res int32 }

// level is what is restored when a branch is left.
type level struct {
	net      mark
	est, lst []int64
	posted   int
	assigned int
	decided  int
}

// newBrancher prepares the search for a schedule cheaper than best; ok is false
// when none exists already by the rules themselves.
func newBrancher(ctx context.Context, p *problem, best, limit int64) (b *brancher, ok bool) {
	b = &brancher{p: p, best: best, limit: limit, ctx: ctx, end: -1}
	b.n = p.n
	for r := range p.res {
		for range p.res[r].blocks {
			b.blocks = append(b.blocks, int32(r))
			b.n++
		}
	}
	if p.makespan {
		b.end = b.n
		b.n++
	}
	b.zero = int32(b.n)
	b.net = newNetwork(b.n + 1)
	b.dur, b.est, b.lst = make([]int64, b.n), make([]int64, b.n), make([]int64, b.n)
	b.out, b.in = make([][]arc, b.n), make([][]arc, b.n)
	b.order = make([]int8, b.n*b.n)
	b.failed = make([]int64, b.n)
	for v := range b.failed {
		b.failed[v] = 1
	}
	b.queued = make([]bool, b.n)
	b.users = make([][]user, len(p.res))
	b.dirty = make([]bool, len(p.res))
	b.on = make([][]int32, b.n)
	b.idx, b.scratch = make([]int, b.n), make([]int64, 2*b.n)
	for v := range p.n {
		b.dur[v], b.est[v], b.lst[v] = p.dur[v], p.lo[v], p.hi[v]
	}
	k := p.n
	for r := range p.res {
		for _, bl := range p.res[r].blocks {
			from, to := max(bl.from, -p.horizon-1), min(bl.to, 2*p.horizon+2)
			if to < from {
				to = from
			}
			b.dur[k], b.est[k], b.lst[k] = to-from, from, from
			b.users[r] = append(b.users[r], user{int32(k), bl.units, noSetpoint, true})
			b.push(int32(k))
			k++
		}
	}
	if b.end >= 0 {
		b.lst[b.end] = best - 1
		if !b.net.add(int32(b.end), b.zero, 0, 1) {
			return b, false
		}
		for v := range p.tasks {
			if !b.post(int32(v), int32(b.end), p.dur[v], openPair) {
				return b, false
			}
		}
	}
	return b, b.root()
}

// root puts in all that holds from the start.
func (b *brancher) root() bool {
	p := b.p
	for u := range p.n {
		for _, a := range p.out[u] {
			if !b.post(int32(u), a.other, a.w, openPair) {
				return false
			}
		}
	}
	for v := p.n; v < p.n+len(b.blocks); v++ {
		// Windows stand where they stand.
		if !b.net.add(b.zero, int32(v), b.est[v], endless) || !b.net.add(int32(v), b.zero, -b.est[v], endless) {
			return false
		}
	}
	room := b.best - 1 - p.base // what a schedule worth finding may cost at most
	for v := range p.n {
		b.push(int32(v))
		if !b.net.add(b.zero, int32(v), b.est[v], endless) || !b.net.add(int32(v), b.zero, -b.lst[v], endless) {
			return false
		}
		for _, u := range p.wants[v] {
			if u.late > 0 {
				b.lst[v] = min(b.lst[v], u.at+room/u.late)
			}
			if u.early > 0 {
				b.est[v] = max(b.est[v], u.at-room/u.early)
			}
			if !b.net.add(int32(v), b.zero, -u.at, u.late) || !b.net.add(b.zero, int32(v), u.at, u.early) {
				return false
			}
		}
	}
	if b.end < 0 {
		for i := range p.soft {
			s := &p.soft[i]
			if s.from == s.to {
				continue
			}
			if !b.net.add(s.to, s.from, -s.best, s.weight) {
				return false
			}
			if room < far && !b.post(s.to, s.from, -s.best-room/s.weight, openPair) {
				return false
			}
		}
	}
	for v := range p.tasks {
		b.on[v] = make([]int32, len(p.needs[v]))
		for k := range b.on[v] {
			b.on[v][k] = -1
		}
	}
	for v := range p.tasks {
		for k := range p.needs[v] {
			nd := &p.needs[v][k]
			switch {
			case b.on[v][k] >= 0: // another of its chain has chosen
			case p.fixed[v]:
				if !b.assign(int32(v), k, p.fixOn[v][k]) {
					return false
				}
			case len(nd.anyOf) == 1:
				if !b.assign(int32(v), k, nd.anyOf[0]) {
					return false
				}
			}
		}
	}
	return b.propagate()
}

// push notes that a node's window changed: its arcs and its resources are to be
// looked at again.
func (b *brancher) push(v int32) {
	for _, r := range b.on[v] {
		if r >= 0 {
			b.dirty[r] = true
		}
	}
	if int(v) < b.p.n && b.p.run[v] >= 0 { // what ends here has another window
		for _, r := range b.on[b.p.run[v]] {
			if r >= 0 {
				b.dirty[r] = true
			}
		}
	}
	if !b.queued[v] {
		b.queued[v] = true
		b.queue = append(b.queue, v)
	}
}

// post adds the rule x[to] ≥ x[from] + w and notes the pair as decided.
func (b *brancher) post(from, to int32, w int64, d int8) bool {
	if d != openPair {
		b.decide(from, to, d)
	}
	b.out[from] = append(b.out[from], arc{other: to, w: w})
	b.in[to] = append(b.in[to], arc{other: from, w: w})
	b.posted = append(b.posted, posting{from, to})
	b.push(from)
	b.push(to)
	return b.net.add(from, to, w, endless)
}

func (b *brancher) decide(i, j int32, d int8) {
	k := i*int32(b.n) + j
	b.order[k] = d
	b.decided = append(b.decided, k)
}

// assign gives a need its resource.
func (b *brancher) assign(v int32, k int, r int32) bool {
	nd := &b.p.needs[v][k]
	res := &b.p.res[r]
	if nd.units > res.capacity && b.dur[v] > 0 && !b.p.fixed[v] {
		return false
	}
	b.on[v][k] = r
	b.assigned = append(b.assigned, choice{v, int32(k), r})
	b.users[r] = append(b.users[r], user{v, nd.units, nd.setpoint, false})
	b.dirty[r] = true
	// Two needs of the same task on one resource add up, and want one temperature.
	sum := int64(0)
	for i := range b.users[r] {
		u := &b.users[r][i]
		if u.node != v {
			continue
		}
		sum += u.units
		if res.thermostat != nil && !u.setpoint.none() && !nd.setpoint.none() && differ(res.thermostat, u.setpoint, nd.setpoint) &&
			!b.p.fixed[v] {
			return false
		}
	}
	if sum > res.capacity && b.dur[v] > 0 && !b.p.fixed[v] {
		return false
	}
	if res.thermostat != nil && !nd.setpoint.none() && !b.p.fixed[v] {
		if first := changeover(res.thermostat, standby(res.thermostat), nd.setpoint); first > b.est[v] {
			b.est[v] = first
			b.push(v)
			if !b.net.add(b.zero, v, first, endless) {
				return false
			}
		}
	}
	return b.follow(v, k, r)
}

func (b *brancher) enter() *level {
	d := len(b.marks)
	if cap(b.marks) > d {
		b.marks = b.marks[:d+1]
	} else {
		b.marks = append(b.marks, nil)
	}
	if b.marks[d] == nil {
		b.marks[d] = &level{}
	}
	l := b.marks[d]
	b.net.save(&l.net)
	l.est = append(l.est[:0], b.est...)
	l.lst = append(l.lst[:0], b.lst...)
	l.posted, l.assigned, l.decided = len(b.posted), len(b.assigned), len(b.decided)
	return l
}

// back restores the state of a level without leaving it.
func (b *brancher) back(l *level) {
	b.net.restore(&l.net)
	copy(b.est, l.est)
	copy(b.lst, l.lst)
	for i := len(b.posted) - 1; i >= l.posted; i-- {
		p := b.posted[i]
		b.out[p.from] = b.out[p.from][:len(b.out[p.from])-1]
		b.in[p.to] = b.in[p.to][:len(b.in[p.to])-1]
	}
	b.posted = b.posted[:l.posted]
	for i := len(b.assigned) - 1; i >= l.assigned; i-- {
		c := b.assigned[i]
		b.on[c.node][c.need] = -1
		b.users[c.res] = b.users[c.res][:len(b.users[c.res])-1]
	}
	b.assigned = b.assigned[:l.assigned]
	for i := len(b.decided) - 1; i >= l.decided; i-- {
		b.order[b.decided[i]] = openPair
	}
	b.decided = b.decided[:l.decided]
	b.clear()
}
