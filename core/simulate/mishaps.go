package simulate

import (
	"maps"
	"math"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// What goes wrong with people and equipment in a played night.

// calledAway lets cooks be called away for some minutes: what they have in hand they finish, what waits for them waits.
func (p *play) calledAway(from, to float64) {
	for _, who := range slices.Sorted(maps.Keys(p.k.cooks)) {
		share, ok := p.night.away(who)
		if !ok {
			continue
		}
		hands := p.k.cooks[who]
		p.sim.at(from+share*(to-from), begins, func() {
			p.sim.seize(hands, atOnce, func() {
				back := p.sim.now + awayS
				until := p.k.evening.Origin.Add(time.Duration(math.Round(back)) * time.Second)
				p.say(p.sim.now, service.Event{Kind: service.Out, Device: "pass", Facts: service.Facts{Who: who, Until: &until}})
				p.matters()
				p.sim.at(back, ends, func() {
					p.say(p.sim.now, service.Event{Kind: service.In, Device: "pass", Facts: service.Facts{Who: who}})
					p.sim.release(hands)
					p.matters()
				})
			})
		})
	}
}

// slowed is how many times as long as usual a piece takes where it is.
func (p *play) slowed(i int) float64 {
	most := 1.0
	if p.k.pieces[i].run == nil {
		return most
	}
	for _, t := range p.takes[i] {
		if p.k.heats[t.of] {
			most = max(most, p.night.slow(t.of))
		}
	}
	return most
}

// goesOn counts what a section has on.
func (p *play) goesOn(x *piece, by int) {
	if x.run != nil {
		p.going[x.run.Section] += by
	}
}

// watched is how many times as long as usual somebody's hands take where their section has much on.
func (p *play) watched(x *piece) float64 {
	if x.run == nil || x.run.How.Hands == kitchen.None {
		return 1
	}
	return 1 + p.night.set.Watching*float64(max(0, p.going[x.run.Section]-watchedFree))
}

// sendBack has a plate of a course that has left come back, where it does: what was done for it last is done again, plated, and leaves
// again. The section that somebody cooks by hand is spared.
func (p *play) sendBack(m int) {
	key := p.k.meetings[m].key
	after, why, ok := p.night.back(key.Table, string(key.Course), key.Round)
	if !ok {
		return
	}
	last := -1
	for _, i := range p.k.meetings[m].leadingWork {
		x := &p.k.pieces[i]
		if x.run != nil && len(x.joins) == 1 && p.done[i] >= 0 && !p.mine(i) && (last < 0 || p.done[i] > p.done[last]) {
			last = i
		}
	}
	if last < 0 {
		return
	}
	p.coming++
	x := &p.k.pieces[last]
	p.sim.at(p.sim.now+after, begins, func() {
		p.result.Back++
		p.say(p.sim.now, service.Event{Kind: service.SentBack, Device: "pass",
			Facts: service.Facts{Table: key.Table, Course: key.Course, Round: key.Round, Portions: 1, Why: why}})
		p.tell(x, service.Event{Kind: service.Again, Facts: service.Facts{Why: why}})
		p.matters()
		p.sim.at(p.sim.now+againPause, begins, func() {
			takes := p.takes[last]
			p.sim.seize(takes, p.sim.now, func() {
				p.fired(x, service.Fired)
				p.sim.at(p.sim.now+p.night.long(x)*p.slowed(last), ends, func() {
					p.sim.release(takes)
					p.fired(x, service.Ready)
					p.sim.at(p.sim.now+platedAgainS, ends, func() {
						p.coming--
						p.course(m, service.Sent)
					})
				})
			})
		})
	})
}
