package simulate

import (
	"cmp"
	"math"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// The guests of a played night.

// guests draws when tables come, how long they stay over each course, and what they leave out.
func (p *play) guests() {
	late := map[string]float64{}
	last := map[string]int{}
	order := make([]int, len(p.k.meetings))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(p.k.meetings[a].wish, p.k.meetings[b].wish) })
	for _, i := range order {
		m := &p.k.meetings[i]
		t := m.key.Table
		drift, came := late[t]
		if !came { // who comes early is served as booked
			drift = max(0, p.night.drift(t))
		} else if before, ok := last[t]; ok && m.key.Round < 2 { // who eats fast is served at the pace of the house
			drift += max(0, p.night.lingers(t, string(m.key.Course))*(m.wish-p.k.meetings[before].wish))
		}
		late[t], last[t] = drift, i
		p.wish[i] = m.wish + drift
	}
	for t, i := range last {
		m := &p.k.meetings[i]
		if m.key.Course == kitchen.Dessert && p.night.skips(t, string(m.key.Course)) {
			p.skip(i)
		}
	}
}

// skip leaves a course out: what is for it alone is not made.
func (p *play) skip(m int) {
	p.sent[m] = math.Inf(1)
	for _, i := range p.k.meetings[m].leadingWork {
		p.out[i] = !slices.ContainsFunc(p.k.pieces[i].joins, func(j int) bool { return !math.IsInf(p.sent[j], 1) })
	}
}

// readyForNext has the floor say some minutes before when a table will be ready for its next course.
func (p *play) readyForNext() {
	for m := range p.k.meetings {
		x := &p.k.meetings[m]
		if x.follows < 0 || x.key.Round > 1 || math.IsInf(p.sent[m], 1) {
			continue
		}
		p.sim.at(p.wish[m]-saidBefore, begins, func() {
			if p.sent[m] < 0 {
				at := p.at(p.wish[m])
				p.say(p.sim.now, service.Event{Kind: service.Next, Device: "floor",
					Facts: service.Facts{Table: x.key.Table, Course: x.key.Course, Round: x.key.Round, Until: &at}})
			}
		})
	}
}

// saidBefore is how long before a table is ready for its next course the floor says so, seconds. Common practice, no source.
const saidBefore = 240.0
