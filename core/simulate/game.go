package simulate

import (
	"math"
	"slices"
	"time"

	"jointime/core/service"
	"jointime/core/workload"
)

// A night that goes on while somebody looks, and in which somebody may cook a section: what is theirs begins when they say so, and is done
// when it is done, or, where it has a check, when they have looked. Everybody else is played, and the plan follows.

// Game is a night as it goes on. It is not safe for use by several goroutines.
type Game struct {
	p     *play
	did   []deed
	told  int // events that were handed out
	ended bool
}

// cook is what is known of the section that somebody cooks, by piece.
type cook struct {
	section string
	can     []float64 // when the piece could have begun, as far as what comes before it is concerned; −1 while it could not
	due     []float64 // when it was due, as it was told when it was fired
	tapped  []float64
	instead []int     // the piece that was due before it, −1 for none
	end     []float64 // when it is done in truth; −1 before it has begun
	looked  []float64 // when they took it off
	early   []int     // how often they looked too soon
	again   []bool
}

// Begin begins a night in which somebody cooks a section; "" is nobody, everything is played.
func (k *Kitchen) Begin(seed uint64, set Settings, section string) *Game {
	return k.begin(seed, set, section, nil)
}

// begin begins one in which the plan was repaired before as known says, by second.
func (k *Kitchen) begin(seed uint64, set Settings, section string, known map[float64]*workload.Schedule) *Game {
	p := k.night(seed, set, Again, true)
	p.repaired = known
	p.cook.section = section
	n := len(k.pieces)
	p.cook.can, p.cook.due, p.cook.tapped, p.cook.end, p.cook.looked = filled(n, -1), filled(n, -1), filled(n, -1), filled(n, -1),
		filled(n, -1)
	p.cook.instead, p.cook.early, p.cook.again = make([]int, n), make([]int, n), make([]bool, n)
	for i := range p.cook.instead {
		p.cook.instead[i] = -1
	}
	p.guests()
	p.begin()
	p.markTaps()
	return &Game{p: p}
}

// mine reports whether somebody cooks a piece themselves.
func (p *play) mine(i int) bool {
	x := &p.k.pieces[i]
	return p.cook.section != "" && x.run != nil && x.run.Section == p.cook.section
}

// markTaps lets the plan know who says what they do: silence of the section that is cooked is never taken for work.
func (p *play) markTaps() {
	if p.cook.section != "" {
		p.plan.Taps = map[string]time.Time{p.cook.section: p.k.evening.Origin.Add(-24 * time.Hour)}
	}
}

// Plan is the plan that is shown now.
func (g *Game) Plan() *service.Plan { return g.p.plan }

// From is shortly before the first thing happens that concerns whoever looks.
func (g *Game) From() time.Time {
	first := math.Inf(1)
	for i := range g.p.k.pieces {
		if x := &g.p.k.pieces[i]; !x.base && (g.p.cook.section == "" || g.p.mine(i)) {
			first = math.Min(first, x.planned)
		}
	}
	if math.IsInf(first, 1) {
		first = g.p.first()
	}
	return g.at(first - leadIn)
}

// leadIn is how long before the first thing to do a night is begun with, seconds.
const leadIn = 60.0

func (g *Game) at(s float64) time.Time { return g.p.at(s) }

func (g *Game) second(t time.Time) float64 { return t.Sub(g.p.k.evening.Origin).Seconds() }

// Until lets everything happen up to an instant.
func (g *Game) Until(t time.Time) {
	s := g.second(t)
	g.p.sim.run(s)
	g.p.sim.now = max(g.p.sim.now, s)
	if !g.ended && g.Over() {
		g.ended = true
		g.p.say(g.p.sim.now, service.Event{Kind: service.Closed, Device: "pass"})
	}
}

// Over reports whether every course has left, or was left out, and nothing is to come back.
func (g *Game) Over() bool {
	return g.p.coming == 0 && !slices.ContainsFunc(g.p.sent, func(at float64) bool { return at < 0 })
}

// Events are what has been said since they were last asked for, in order.
func (g *Game) Events() []service.Event {
	list := g.p.result.Events[g.told:]
	g.told = len(g.p.result.Events)
	return slices.Clone(list)
}

// Log is all that was said so far, in order; what was taken back is not in it.
func (g *Game) Log() []service.Event { return slices.Clone(g.p.result.Events) }

// Fate is what becomes of something that the cook wants to do.
type Fate string

// The fates.
const (
	Done        Fate = "done"
	NotMine     Fate = "not-mine"     // another section's, or none's
	NotReady    Fate = "not-ready"    // something before it is not done
	NotYet      Fate = "not-yet"      // it needs longer
	NotBegun    Fate = "not-begun"    // it is not on
	BegunBefore Fate = "begun-before" // it is on already
	GoneOn      Fate = "gone-on"      // others have gone on from it
)

// Fire begins a run at the instant up to which the night has gone on. Beside what becomes of it it names what it waits for, where it does.
func (g *Game) Fire(task string) (Fate, string) {
	p := g.p
	i, ok := p.k.index[task]
	switch {
	case !ok || !p.mine(i) || p.out[i] || p.k.pieces[i].task != task:
		return NotMine, ""
	case p.asked[i]:
		return BegunBefore, ""
	case p.left[i] > 0:
		return NotReady, p.before(i)
	}
	now := p.sim.now
	p.cook.tapped[i], p.cook.due[i], p.cook.instead[i] = now, max(p.planned[i], p.cook.can[i]), p.dueBefore(i)
	g.did = append(g.did, deed{at: now, kind: service.Fired, task: task})
	p.sim.at(now, begins, func() { p.ask(i) })
	p.sim.run(now)
	return Done, ""
}

// before is what a piece waits for.
func (p *play) before(i int) string {
	for _, a := range p.k.pieces[i].after {
		if x := &p.k.pieces[a.piece]; p.done[a.piece] < 0 && x.run != nil {
			return x.run.What
		}
	}
	return ""
}

// sooner is by how much something else has to be due before a piece to be told of, seconds. Common practice, no source.
const sooner = 20.0

// dueBefore is the piece of the cook that could begin now and was due clearly before another; −1 for none.
func (p *play) dueBefore(i int) int {
	best := -1
	for k := range p.k.pieces {
		if k == i || !p.mine(k) || p.asked[k] || p.out[k] || p.left[k] > 0 {
			continue
		}
		if at := max(p.planned[k], p.cook.can[k]); at < p.cook.due[i]-sooner && at <= p.sim.now &&
			(best < 0 || at < max(p.planned[best], p.cook.can[best])) {
			best = k
		}
	}
	return best
}

// Ready takes a run off. Whoever looks too soon is told how long it still needs, in minutes.
func (g *Game) Ready(task string) (fate Fate, minutes int) {
	p := g.p
	i, ok := p.k.index[task]
	switch {
	case !ok || !p.mine(i) || p.k.pieces[i].task != task:
		return NotMine, 0
	case p.cook.tapped[i] < 0:
		return NotBegun, 0
	case p.cook.looked[i] >= 0 || p.done[i] >= 0:
		return BegunBefore, 0
	case p.started[i] < 0 || p.sim.now < p.cook.end[i]:
		p.cook.early[i]++
		g.did = append(g.did, deed{at: p.sim.now, kind: service.Ready, task: task})
		left := 60.0
		if p.started[i] >= 0 {
			left = p.cook.end[i] - p.sim.now
		}
		return NotYet, max(1, int(math.Ceil(left/60)))
	}
	g.did = append(g.did, deed{at: p.sim.now, kind: service.Ready, task: task})
	p.cook.looked[i] = p.sim.now
	p.foresee(i, p.sim.now)
	p.finish(i, p.takes[i])
	p.sim.run(p.sim.now)
	return Done, 0
}

// Say puts what the cook said into the log of the night, as it was written.
func (g *Game) Say(e service.Event) {
	g.did = append(g.did, deed{at: g.p.sim.now, said: &e})
	g.told++ // who said it knows it
	g.p.result.Events = append(g.p.result.Events, e)
	if e.Kind.Matters() {
		g.p.matters()
	}
}

// startMine is the beginning of what the cook has fired.
func (p *play) startMine(i int, long, more float64) {
	x := &p.k.pieces[i]
	end := p.sim.now + long + more
	p.cook.end[i] = end
	if p.night.again(x) && !p.cook.again[i] {
		p.cook.again[i] = true
		p.sim.at(end, ends, func() {
			p.result.Again++
			p.tell(x, service.Event{Kind: service.Again, Facts: service.Facts{Why: "dropped"}})
			p.sim.release(p.takes[i])
			p.goesOn(x, -1)
			p.asked[i], p.started[i], p.cook.tapped[i], p.cook.end[i] = false, -1, -1, -1
			p.cook.can[i] = p.sim.now
			p.matters()
		})
		return
	}
	if x.run.Asks {
		return // until somebody has looked
	}
	p.foresee(i, end)
	p.sim.at(end, ends, func() { p.finish(i, p.takes[i]) })
}

// CookedRun is how somebody cooked a run.
type CookedRun struct {
	Task     string                `json:"task"`
	What     string                `json:"what"`
	Act      string                `json:"act"`
	Portions int                   `json:"portions"`
	Joins    []service.TableCourse `json:"joins" nullable:"false"`
	DueAt    time.Time             `json:"due_at" doc:"When it was to begin, as it was told at that moment, and could"`
	FiredAt  *time.Time            `json:"fired_at,omitempty" doc:"None for never"`
	LateS    float64               `json:"late_s" doc:"By how much it was begun later than it was due, seconds; less than 0 for early"`
	Instead  string                `json:"instead,omitempty" doc:"What was due before it and could begin, by what it is"`
	Asks     bool                  `json:"asks"`
	Early    int                   `json:"early" doc:"How often it was looked at too soon"`
	OverS    float64               `json:"over_s" doc:"How much longer than it needed it stayed on, seconds"`
	HeldS    float64               `json:"held_s" doc:"By how much it waited longer than it may after it was done, seconds"`
	Again    bool                  `json:"again" doc:"It was dropped and made again: bad luck"`
}

// Cooked is how somebody has cooked so far, in the order of what was due.
func (g *Game) Cooked() []CookedRun {
	p, out := g.p, []CookedRun{}
	held := map[int]float64{}
	for _, w := range p.k.waits {
		if p.done[w.from] >= 0 && p.started[w.to] >= 0 && p.mine(w.from) {
			held[w.from] = max(held[w.from], p.started[w.to]-p.done[w.from]-w.most)
		}
	}
	for i := range p.k.pieces {
		x := &p.k.pieces[i]
		if !p.mine(i) || p.out[i] {
			continue
		}
		r := CookedRun{Task: x.task, What: x.run.What, Act: x.run.Act, Portions: x.run.Portions, Joins: x.run.Joins, Asks: x.run.Asks,
			Early: p.cook.early[i], HeldS: max(0, held[i]), Again: p.cook.again[i]}
		if r.Joins == nil {
			r.Joins = []service.TableCourse{}
		}
		due := p.cook.due[i]
		if p.cook.tapped[i] < 0 {
			if due = max(p.planned[i], p.cook.can[i]); p.left[i] > 0 || due > p.sim.now {
				continue // it was not yet to be begun
			}
			r.LateS = p.sim.now - due
		} else {
			at := g.at(p.cook.tapped[i])
			r.FiredAt, r.LateS = &at, p.cook.tapped[i]-due
		}
		r.DueAt = g.at(due)
		if k := p.cook.instead[i]; k >= 0 {
			r.Instead = p.k.pieces[k].run.What
		}
		switch end := p.cook.end[i]; {
		case !x.run.Asks || end < 0:
		case p.cook.looked[i] >= 0:
			r.OverS = p.cook.looked[i] - end
		default:
			r.OverS = max(0, p.sim.now-end)
		}
		out = append(out, r)
	}
	slices.SortStableFunc(out, func(a, b CookedRun) int { return a.DueAt.Compare(b.DueAt) })
	return out
}

// Result is how the night went so far.
func (g *Game) Result() *Played {
	g.p.result.Joins, g.p.result.Held = nil, 0
	g.p.judge()
	out := g.p.result
	return &out
}
