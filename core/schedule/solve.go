// Package schedule finds when everything is fired: resource-constrained
// scheduling with shortest and longest waits, cumulative resources,
// alternatives, windows, thermostats, and a cost of late and early joins and of
// waiting beyond best (the RCPSP/max family with earliness–tardiness costs).
//
// The parts, under their textbook names:
//
//	problem.go      the compiled instance
//	windows.go      propagation of time windows, proofs of contradiction
//	profile.go      resource profiles
//	heats.go        what thermostats are asked for, and when
//	state.go        a schedule under construction
//	bodies.go       tasks that exact links tie, placed as one
//	groups.go       which tasks belong to which join
//	serial.go       serial schedule generation, backwards from the joins
//	weigh.go        what a group costs where it is put, and where it costs less
//	fit.go          a group put where it costs least, of all that leads up to its join at once
//	fitlook.go      what it costs at the least by when its join is
//	waittree.go     the waits of a group as a tree
//	intervals.go    when a body may begin beside what is placed
//	improve.go      large neighbourhood search by insertion
//	choose.go       what a round takes out, and how often each way is tried
//	groupcost.go    what the groups cost, by which they are picked
//	follow.go       joins that go where another goes
//	gains.go        what each of these ways has won
//	makeway.go      ejection: what keeps a join from its wish makes way
//	seat.go         a place for what finds none: others make way, those first that find one anywhere
//	squeeze.go      a busy stretch is packed anew, the last first
//	ontime.go       the last cycle of a search, made to end with its time
//	together.go     two searches side by side
//	starts.go       several first schedules, of which the best are gone on from
//	side.go         the part of the time that one of them searches
//	cool.go         how hot a search begins, and how it cools
//	neighbourhood.go  large neighbourhood search by branch and bound
//	undo.go         what a round changes is put back at once
//	lists.go        priority lists and justification, for the makespan
//	retime.go       the best times for the order that stands, and a head start at the end
//	putoff.go       what may wait for nothing is put off, past others too
//	timing.go       optimal timing of a given order (dual of a network flow)
//	slide.go        how its flow is made to go on: blocks slide
//	keptflow.go     what of its flow the next one begins with
//	order.go        the order in which a schedule uses its resources
//	network.go      the same dual, an arc at a time, for the branch and bound
//	disjunctive.go  edge-finding
//	branch.go       branch and bound to a proved optimum
//	descend.go      its tree
//	decide.go       which pair or resource is decided next
//	propagate.go    what a decision means for everything else
//	bounds.go       lower bounds of small work
//	jointbound.go   a lower bound of large work: all capacities at a price
//	climb.go        how the prices of it are moved
//	boundtime.go    what of it there is time for
//	goods.go        what has a price in it
//	trees.go        what waits tie together
//	treecost.go     where that costs least at the prices
//	ovenpath.go     what the time of an oven is worth at them
//	convex.go       convex functions of waits and instants, and their sums
//	relax.go        the least broken schedule, when not all rules can be kept
//	nearly.go       near what was told with the rules as prices, where there is no room for it as it is
//	beside.go       and anew meanwhile
//	anyhow.go       a told plan taken over then: what finds no room pushes on what hangs on it
//	check.go        broken rules
//	answer.go       what is found, in the schedule file's terms
//	conflict.go     which rules cannot hold together
//
// A schedule that the package returns keeps every rule, or says which it breaks;
// package verify, which shares no code with the search, checks that. The search
// has no clock: it ends by itself, or when its context does, and is told how long that is (Options.Left).
package schedule

import (
	"context"
	"time"

	"jointime/core/workload"
)

// Options steer the search. The zero value is a good default.
type Options struct {
	// Seed of every random choice; the same seed gives the same schedule when the
	// search ends by itself.
	Seed int64
	// Rounds bounds how many times a schedule is changed in search of a better one;
	// 0 leaves that to the context.
	Rounds int
	// Starts is from how many first schedules a search of two thousand rounds and more begins, where moving costs nothing; 0 is from one. With
	// several, what ovens do one after another hangs less on the luck of the first. What was told is the first of them, where it has room.
	Starts int
	// Previous is the schedule that has been told; MovePrice is what moving the start
	// of one of its tasks costs for each second, 0 for nothing. With few rounds the search
	// mends it, with many and moves for nothing it begins anew as well.
	Previous  *workload.Schedule
	MovePrice int64
	// Loose names the tasks of Previous that may move for nothing: those whose wish has
	// changed. They find their place after the others have taken theirs.
	Loose map[string]bool
	// Aim is when tasks of Previous were to start before they were put off, where they were: on the way back there a move costs nothing, and
	// each second after it costs one. What was put off for something that is over by then comes sooner again.
	Aim map[string]int64
	// Anyway asks for the least broken schedule where it is proved that none keeps every
	// rule; its status is best-effort then.
	Anyway bool
	// Stay has, in the middle of a service, a few things wait longer than they may rather than all move: where what was told finds no room as
	// it is, such a schedule near it is told if the one that keeps every rule is dearer for what it moves, each second that breaks a rule
	// paid for (nearly.go). And an answer is wanted at once: where none that keeps every rule is found with little effort, what is near what
	// was told is the answer with what it breaks, or what is made anew where that is so much less. Without it such a schedule is looked for
	// for seconds, and told wherever one is found.
	Stay bool
	// Left, if given, says how much time a search has before its context ends: it is made to be over by then, and what comes out hangs on the
	// speed of the machine if that is before its rounds are used up. Without it a search that is cut short is good as far as it came.
	Left func() time.Duration
	// Progress, if given, is called when a better schedule or bound is found, and now and
	// then while rounds are used up. It must return at once.
	Progress func(Progress)
}

// Progress is how far a search has come.
type Progress struct {
	Cost, Bound int64
	Schedules   int64
	// Rounds is how many of the rounds that were asked for are used up.
	Rounds int64
	// Gains is what each neighbourhood has won so far, where a large search is told of. It holds during the call only.
	Gains []Gain
}

// Sizes up to which the branch and bound is tried, and its share of nodes before
// the search goes on without a proof.
const (
	proofNodes = 130    // open tasks and joins
	firstNodes = 60_000 // nodes of the first trial
	// hardProof is from how many open tasks and joins on a proof is seldom found.
	hardProof = 24
	// fewTold is up to how many open tasks and joins what has been told gets its best times again after a repair: of more they move too much
	// by a little.
	fewTold = 700
	// unhurried stands for the rounds of a search that only its context ends.
	unhurried = 1 << 40
)

// Solve returns a schedule for a workload that passed workload.Check. It always
// returns one: broken rules and proofs of impossibility are outcomes, not errors.
func Solve(ctx context.Context, w *workload.Workload, o Options) *workload.Schedule {
	x := plainOf(w)
	if x == nil {
		return solvePlain(ctx, w, o)
	}
	s := solvePlain(ctx, x.Workload, o)
	if s.Status == workload.Impossible && x.narrowed {
		// It may be that only the choices made before the search are impossible.
		o.Anyway = true
		s = solvePlain(ctx, x.Workload, o)
	}
	return x.restore(s)
}

func solvePlain(ctx context.Context, w *workload.Workload, o Options) *workload.Schedule {
	p := compile(w)
	c := p.propagate()
	if c == nil {
		c = p.hopeless()
	}
	if c != nil {
		if o.Anyway {
			return (&solver{p: p, o: o, ctx: ctx}).leastBroken()
		}
		return impossible(c, o.Seed, 0)
	}
	if o.Previous != nil && o.MovePrice > 0 {
		p.priceMoves(&o)
	}
	s := &solver{p: p, o: o, ctx: ctx, bound: p.windowBound()}
	if x := s.solve(); x != nil {
		return x
	}
	if o.Previous != nil {
		// Around what was told there is no room, not even for a start: rather another plan than a broken one.
		anew := o
		anew.Previous, anew.MovePrice, anew.Loose, anew.Aim = nil, 0, nil, nil
		t := &solver{p: compile(w), o: anew, ctx: ctx}
		t.p.propagate()
		t.bound = t.p.windowBound()
		if x := t.solve(); x != nil {
			return x
		}
	}
	return s.leastBroken()
}

// priceMoves makes every told start cost for each second that it moves, but for the way back to where it was to be before it was put off.
func (p *problem) priceMoves(o *Options) {
	told := map[string]int64{}
	for _, r := range o.Previous.Tasks {
		if !o.Loose[r.ID] {
			told[r.ID] = r.Start
		}
	}
	price := o.MovePrice
	for v := range p.tasks {
		t, ok := told[p.id(v)]
		if !ok || v >= p.real || p.fixed[v] || !p.leads(int32(v)) {
			continue
		}
		p.toldAt[v] = t
		if aim, off := o.Aim[p.id(v)]; off && aim < t {
			p.aimAt[v] = aim
			p.wants[v] = append(p.wants[v], want{at: t, late: price}, want{at: aim, late: 1, early: price})
			continue
		}
		p.wants[v] = append(p.wants[v], want{at: t, late: price, early: price})
	}
}

// solver carries one search from the first schedule to the proof.
type solver struct {
	p     *problem
	o     Options
	ctx   context.Context
	bound int64
	m     *improver
	tried int64
	// relaxes is whether the rules of the workload have become prices.
	relaxes bool
	// torn is whether what was told finds no room as it is, but at the most with groups built anew around the others, and nearly what is
	// near it then, where that breaks a rule.
	torn   bool
	nearly *nearly
}

func (s *solver) told() {
	if s.o.Progress != nil && s.m != nil {
		s.o.Progress(Progress{Cost: s.m.best, Bound: s.bound, Schedules: s.m.tried, Rounds: s.m.rounds, Gains: s.m.won()})
	}
}

// solve is nil where no schedule was found that keeps every rule, and no proof that there is none.
func (s *solver) solve() *workload.Schedule {
	p := s.p
	gs := p.groups()
	b := newBuilder(s.ctx, p, s.o.Seed)
	ok := s.startFromPrevious(b, gs)
	open := 0
	for v := range p.n {
		if !p.fixed[v] {
			open++
		}
	}
	small := open <= proofNodes
	n, a := s.besideTold(gs, ok, small)
	switch {
	case n == nil:
	case len(n.breaks) > 0:
		if n.few() {
			s.nearly = n
		}
	case !ok || p.cost(n.x) < p.cost(b.x):
		b, ok = n.builder, true
	}
	if !ok {
		b, ok = s.fromNothing(gs, n, a)
	}
	if !ok {
		var r *workload.Schedule
		if b, r = s.seek(b, gs, n, a, small); b == nil {
			return r
		}
	}
	if s.m == nil {
		s.m = newImprover(b, gs)
	}
	m := s.m
	m.near = s.near()
	s.told()
	rounds := s.o.Rounds
	if rounds == 0 {
		rounds = unhurried
	}
	if small {
		s.improve(min(rounds, 150+10*open))
		m.polish()
		// Rounds that are counted are few where a proof is far: there the trials are short.
		far := rounds != unhurried && open > hardProof
		nodes := firstNodes / int64(1+open/4)
		if far {
			nodes = min(nodes, int64(rounds/6))
		}
		if s.branch(nodes) {
			return s.result(true)
		}
		if far {
			s.exactNeighbourhoods(min(rounds/600, 60))
		} else if rounds != unhurried {
			s.exactNeighbourhoods(min(rounds, 60))
			if s.branch(min(firstNodes, int64(2000+4*rounds))) {
				return s.result(true)
			}
		}
		for step := int64(1); rounds == unhurried && s.ctx.Err() == nil && m.best > s.bound; step++ {
			s.exactNeighbourhoods(100)
			s.improve(100)
			m.polish()
			// A longer trial for the proof, ever more rarely.
			if step > 1 && step&(step-1) == 0 && s.branch(firstNodes*step/64) {
				return s.result(true)
			}
		}
	}
	if s.p.makespan || rounds < shared {
		s.improve(rounds)
	} else {
		s.improveTogether(gs, rounds)
	}
	switch {
	case !s.near() && !p.makespan:
		m.soonest()
		m.keep()
	case open <= fewTold:
		m.polish()
	}
	s.putBack(gs)
	return s.result(false)
}

func (s *solver) improve(rounds int) {
	if s.p.makespan {
		s.m.lists(s.ctx, rounds, s.bound, s.told)
	} else {
		s.m.heatUp(s.heat(), rounds)
		s.m.run(s.ctx, rounds, s.bound, s.told)
	}
	s.m.adopt(s.m.bestX, s.m.bestOn)
}

// polish gives the best order its best times.
func (m *improver) polish() {
	if !m.p.makespan && m.retime() {
		m.keep()
	}
}

// proveOrFind searches for any schedule at all, so many nodes far. It returns the proof that there is
// none, or nil; when it finds one, s.m holds it.
func (s *solver) proveOrFind(b *builder, nodes int64) *workload.Schedule {
	br, ok := newBrancher(s.ctx, s.p, far, nodes)
	if ok {
		br.limit = nodes
		br.first = true
		br.search()
	}
	if ok && br.found {
		b.adoptInto(br.bestX, br.bestOn)
		s.m = newImprover(b, s.p.groups())
		return nil
	}
	s.tried += br.nodes
	if ok && br.stopped {
		return nil
	}
	if s.o.Anyway {
		return s.leastBroken()
	}
	return impossible(s.conflict(), s.o.Seed, s.tried+b.tried)
}

// branch runs the branch and bound against the best schedule; true is a proof.
func (s *solver) branch(limit int64) bool {
	m := s.m
	if s.bound < m.best {
		s.bound = max(s.bound, rootBound(s.ctx, s.p, s.bound, m.best))
	}
	if s.bound >= m.best {
		return true
	}
	br, ok := newBrancher(s.ctx, s.p, m.best, limit)
	if ok {
		br.search()
	}
	s.tried += br.nodes
	if br.found {
		m.adopt(br.bestX, br.bestOn)
		if m.current < m.best {
			m.keep()
			s.told()
		}
	}
	if !ok || !br.stopped {
		s.bound = m.best
		return true
	}
	return false
}
