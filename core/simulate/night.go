package simulate

import (
	"maps"
	"math"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/core/workload"
)

// PlayedJoin is how a table's course went.
type PlayedJoin struct {
	service.TableCourse
	Name    string
	Plates  int
	Booked  float64 // when it was wanted by the plan, seconds from the origin
	Wish    float64 // as the guests came
	At      float64
	Skipped bool
	// Late is by how many seconds it left after that; less than 0 before it. WaitedFor is the section or the piece of equipment that kept it.
	Late      float64
	WaitedFor Cause
}

// Cause is what kept a course: a section that was late or slow, or hands or a place that were taken.
type Cause struct {
	Section  string
	Resource string // its id
}

// Played is a night.
type Played struct {
	Joins  []PlayedJoin
	Held   float64 // seconds by which something stayed longer than it may, in the sum
	Again  int     // batches that were made again
	Told   int     // plans that were told
	Vain   int     // batches that were on before it was known that nobody orders them
	Off    int     // dishes of which the last portion went
	Back   int     // plates that came back
	Helped int     // batches that somebody of the next section began
	Events []service.Event
}

// play is a night as it goes on.
type play struct {
	k      *Kitchen
	night  night
	policy Policy
	sim    sim

	planned []float64
	takes   [][]take
	ins     [][]take // the hands that lay it in
	left    []int    // what has still to happen before a piece
	ready   []float64
	started []float64
	done    []float64
	cause   []int    // the piece that kept a piece; −1 for none
	lacked  []string // the resource that it waited for
	out     []bool   // nobody wants it any more
	asked   []bool   // it waits for hands and places, or has them

	wish   []float64
	sent   []float64
	plates []int // what has still to happen before a join
	seated map[string]bool
	seats  map[string]float64 // when each table comes
	usual  map[kitchen.Course]float64

	told     *workload.Schedule
	plan     *service.Plan
	again    float64 // when it was last planned again
	result   Played
	counts   map[string]int64
	record   bool
	cook     cook
	going    map[string]int                 // how many things each section has on
	coming   int                            // plates that have yet to come back, or to leave again
	repaired map[float64]*workload.Schedule // how the plan was repaired when this night was played before, by second
	repairs  map[float64]*workload.Schedule // how it was repaired in this one
}

// Play plays one night. record says whether what happens is written down as a service's log.
func (k *Kitchen) Play(seed uint64, set Settings, policy Policy, record bool) *Played {
	p := k.night(seed, set, policy, record)
	p.guests()
	p.begin()
	p.sim.run(math.Inf(1))
	p.judge()
	if !record {
		p.result.Events = nil
	}
	return &p.result
}

// night is one that has not begun.
func (k *Kitchen) night(seed uint64, set Settings, policy Policy, record bool) *play {
	n := len(k.pieces)
	joins := len(k.meetings)
	return &play{k: k, night: night{seed, set}, policy: policy, sim: sim{free: maps.Clone(k.capacity)},
		planned: make([]float64, n), takes: make([][]take, n), ins: make([][]take, n), left: make([]int, n), ready: make([]float64, n),
		started: filled(n, -1),
		done:    filled(n, -1), cause: make([]int, n), lacked: make([]string, n), out: make([]bool, n), asked: make([]bool, n),
		wish: make([]float64, joins), sent: filled(joins, -1), plates: make([]int, joins),
		seated: map[string]bool{}, seats: map[string]float64{}, going: map[string]int{}, usual: k.usual(), told: k.told, plan: k.plan,
		again: math.Inf(-1), counts: map[string]int64{}, record: record || policy == Again}
}

func filled(n int, x float64) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = x
	}
	return out
}

// usual is how long before its wish a course is called where nobody plans: as long as its work takes in the median of the tables.
func (k *Kitchen) usual() map[kitchen.Course]float64 {
	by := map[kitchen.Course][]float64{}
	for i := range k.meetings {
		m := &k.meetings[i]
		by[m.key.Course] = append(by[m.key.Course], m.planned-m.first)
	}
	out := map[kitchen.Course]float64{}
	for c, list := range by {
		slices.Sort(list)
		out[c] = list[len(list)/2]
	}
	return out
}

// When a service is opened before the first thing happens, and when a table says before a course that it leaves it out, seconds. Common
// practice, no source.
const (
	openedBefore  = 600.0
	skippedBefore = 1800.0
)

// first is when the first thing is to begin by the plan.
func (p *play) first() float64 {
	first := math.Inf(1)
	for i := range p.k.pieces {
		first = min(first, p.k.pieces[i].planned)
	}
	return first
}

// begin puts everything that is to happen onto the clock.
func (p *play) begin() {
	first := p.first()
	seats := map[string]float64{}
	before := float64(p.k.evening.Service.FirstAfterMin) * 60
	for i := range p.k.meetings {
		m := &p.k.meetings[i]
		if at, there := seats[m.key.Table]; !there || p.wish[i] < at {
			seats[m.key.Table] = p.wish[i]
		}
		p.plates[i] = len(m.after)
		if m.follows >= 0 {
			p.plates[i]++
		}
	}
	for table, at := range seats {
		p.seats[table] = at - before
		first = min(first, at-before)
	}
	p.say(first-openedBefore, service.Event{Kind: service.Opened, Device: "pass"})
	for i := range p.k.meetings {
		m := &p.k.meetings[i]
		at, wanted := seats[m.key.Table]
		if !wanted {
			continue
		}
		delete(seats, m.key.Table)
		p.sim.at(at-before, begins, func() {
			p.seated[m.key.Table] = true
			p.say(p.sim.now, service.Event{Kind: service.Seated, Device: "floor",
				Facts: service.Facts{Table: m.key.Table, Name: m.name, Covers: max(1, m.plates)}})
			p.matters()
		})
	}
	p.readyForNext()
	p.calledAway(first, slices.Max(p.wish))
	for m := range p.sent {
		if !math.IsInf(p.sent[m], 1) {
			continue
		}
		p.sim.at(p.wish[m]-skippedBefore, begins, func() {
			p.course(m, service.Skipped)
		})
	}
	for i := range p.k.pieces {
		x := &p.k.pieces[i]
		p.planned[i], p.takes[i], p.cause[i] = x.planned, x.takes, -1
		for _, a := range x.after {
			if !p.out[a.piece] {
				p.left[i]++
			}
		}
	}
	for i := range p.k.pieces {
		if p.left[i] == 0 && !p.out[i] {
			p.await(i)
		}
	}
}

// await begins a piece when it may.
func (p *play) await(i int) {
	if p.mine(i) {
		p.cook.can[i] = max(p.ready[i], p.sim.now)
		return // it begins when they say so
	}
	at := max(p.ready[i], p.release(i))
	p.sim.at(at, begins, func() {
		if p.asked[i] {
			return
		}
		if later := p.release(i); later > p.sim.now+1e-6 {
			p.await(i) // it was told to begin later meanwhile
			return
		}
		if at > p.ready[i]+1e-6 {
			p.cause[i] = -1
		}
		p.sim.at(p.sim.now+p.night.reaction(&p.k.pieces[i]), begins, func() { p.ask(i) })
	})
}

// ask wants the hands and places of a piece.
func (p *play) ask(i int) {
	if p.asked[i] {
		return
	}
	p.asked[i] = true
	x := &p.k.pieces[i]
	takes := p.takes[i]
	if x.in != nil {
		takes = slices.Concat(takes, x.in.takes)
	}
	if !p.sim.can(takes) {
		for _, t := range takes {
			if p.sim.free[t.of] < t.units {
				p.lacked[i] = t.of
			}
		}
	}
	if x.plating { // whoever is free plates
		p.sim.queue(slices.Concat([][]take{p.takes[i]}, x.others), p.order(i), true, func(got []take) {
			p.takes[i] = got
			p.start(i)
		})
		return
	}
	own := len(p.takes[i])
	w := p.sim.queue([][]take{takes}, p.order(i), false, func(got []take) {
		p.takes[i], p.ins[i] = got[:own:own], got[own:]
		p.start(i)
	})
	if p.started[i] < 0 {
		p.lookForHelp(i, w)
	}
}

// start is the beginning of a piece, with all that it takes.
func (p *play) start(i int) {
	x := &p.k.pieces[i]
	p.started[i] = p.sim.now
	long := p.night.long(x) * p.slowed(i) * p.watched(x)
	p.goesOn(x, 1)
	more := p.night.notYet(x)
	if x.in != nil {
		p.sim.at(p.sim.now+x.in.long, ends, func() { p.sim.release(p.ins[i]) })
	}
	for _, h := range x.touches {
		if h.from >= 0 && len(h.takes) > 0 {
			p.sim.at(p.sim.now+h.from*long/max(1, x.long), begins, func() {
				p.sim.seize(h.takes, atOnce, func() { p.sim.at(p.sim.now+h.long, ends, func() { p.sim.release(h.takes) }) })
			})
		}
	}
	if p.mine(i) {
		if !p.cook.again[i] { // what is made again has begun before
			p.passOn(i, true)
		}
		p.startMine(i, long, more)
		return
	}
	p.fired(x, service.Fired)
	p.passOn(i, true)
	end := p.sim.now + long
	if more > 0 {
		p.sim.at(end, ends, func() {
			p.tell(x, service.Event{Kind: service.More, Facts: service.Facts{Minutes: max(1, int(math.Round(more/60))), Why: "not yet"}})
			p.matters()
		})
	}
	end += more
	if p.night.again(x) {
		p.sim.at(end, ends, func() {
			p.result.Again++
			p.tell(x, service.Event{Kind: service.Again, Facts: service.Facts{Why: "dropped"}})
			p.matters()
			p.sim.at(p.sim.now+againPause, begins, func() { p.fired(x, service.Fired) })
		})
		end += againPause + long
	}
	p.foresee(i, end)
	if x.out == nil {
		p.sim.at(end, ends, func() { p.finish(i, p.takes[i]) })
		return
	}
	p.sim.at(end-x.out.long, begins, func() {
		p.sim.seize(x.out.takes, atOnce, func() {
			p.sim.at(p.sim.now+x.out.long, ends, func() { p.finish(i, slices.Concat(p.takes[i], x.out.takes)) })
		})
	})
}

// atOnce is before all others: what is on the heat is looked after first.
var atOnce = math.Inf(-1)

// finish is the end of a piece.
func (p *play) finish(i int, takes []take) {
	x := &p.k.pieces[i]
	p.done[i] = p.sim.now
	p.goesOn(x, -1)
	p.sim.release(takes)
	if !p.mine(i) || !x.run.Asks { // else whoever looked says so
		p.fired(x, service.Ready)
	}
	p.passOn(i, false)
	if p.sim.now > p.planned[i]+x.long+overdue {
		p.matters()
	}
}

// overdue is from how many seconds after its plan something that ends matters to the rest.
const overdue = 30.0

// passOn says that a piece has begun, or has ended, to whatever waits for that.
func (p *play) passOn(i int, begun bool) {
	for _, to := range p.k.next[i] {
		for _, a := range p.k.pieces[to].after {
			if a.piece == i && a.atStart == begun && (begun || a.wait >= 0) {
				p.less(to, i, p.sim.now+a.wait)
			}
		}
	}
	if begun {
		return
	}
	for _, m := range p.k.pieces[i].joins {
		for _, a := range p.k.meetings[m].after {
			if a.piece == i {
				p.plate(m, a.wait)
			}
		}
	}
}

// less says that a piece waits for one thing less: another one, which lets it begin from a time on.
func (p *play) less(to, from int, at float64) {
	if p.out[to] {
		return
	}
	if at >= p.ready[to] {
		p.ready[to], p.cause[to] = at, from
	}
	if p.left[to]--; p.left[to] == 0 {
		p.await(to)
	}
}

// foresee lets begin what begins before the end of a piece: a plate is begun while the last thing for it is still in the pan.
func (p *play) foresee(i int, end float64) {
	for _, to := range p.k.next[i] {
		for _, a := range p.k.pieces[to].after {
			if a.piece == i && !a.atStart && a.wait < 0 {
				p.sim.at(end+a.wait, begins, func() { p.less(to, i, max(p.sim.now, end+a.wait)) })
			}
		}
	}
}

// plate says that one thing less is wanted for a join; the last sends it.
func (p *play) plate(m int, wait float64) {
	if p.plates[m]--; p.plates[m] > 0 || p.sent[m] >= 0 {
		return
	}
	p.sim.at(p.sim.now+wait, ends, func() {
		p.sent[m] = p.sim.now
		p.course(m, service.Sent)
		p.sendBack(m)
		for n := range p.k.meetings {
			if p.k.meetings[n].follows == m {
				p.plate(n, p.k.meetings[n].pace)
			}
		}
	})
}
