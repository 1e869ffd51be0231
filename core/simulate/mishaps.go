package simulate

import (
	"maps"
	"math"
	"slices"
	"time"

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
