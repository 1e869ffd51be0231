package simulate

import (
	"math"
	"slices"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// Cooks who help the next section: who has nothing to do for long enough begins what waits for hands there, where whoever likes may do it.
// The sections stand beside each other in the order of the kitchen's.

// helpLook is how often a cook who waits for hands looks around for somebody, seconds. Common practice, no source.
const helpLook = 15.0

// isHands reports whether what is taken is somebody's hands.
func isHands(e *expand.Evening) func(take) bool {
	return func(t take) bool {
		ref := e.ResourceOf(t.of)
		return ref.IsPerson() && ref.Part == expand.Hands
	}
}

// beside are those who may help a piece's section: by person, with their hands. Whoever works in several stretches of the evening helps
// nobody, since their plan says where they help.
func (k *Kitchen) beside() {
	b := k.evening.Book().As(k.evening.Service)
	sections := b.Sections()
	day := k.evening.Origin.In(b.Zone())
	for at := range sections {
		for _, p := range b.People() {
			home := slices.IndexFunc(sections, func(s kitchen.Section) bool { return s.ID == p.Home() })
			if next := home - at; home >= 0 && (next == 1 || next == -1) && !p.Away(day) && len(k.cooks[p.ID]) == 1 {
				k.helpers[sections[at].ID] = append(k.helpers[sections[at].ID], p.ID)
			}
		}
	}
	for i := range k.pieces {
		x := &k.pieces[i]
		if x.run == nil || x.plating {
			continue
		}
		c, ok := b.Component(x.run.Component)
		if !ok {
			continue
		}
		step := &c.Steps[c.StepIndex(x.run.Step)]
		x.helped = step.May == kitchen.MayUnsaid
		for _, t := range k.handsOf(x) {
			k.theirs[t.of] = append(k.theirs[t.of], i)
		}
	}
}

// handsOf are the hands that begin a piece.
func (k *Kitchen) handsOf(x *piece) (out []take) {
	all := x.takes
	if x.in != nil {
		all = slices.Concat(all, x.in.takes)
	}
	for _, t := range all {
		if k.hands(t) {
			out = append(out, t)
		}
	}
	return out
}

// lookForHelp has somebody of the next section begin a piece that waits, as soon as one of them has nothing to do for so long.
func (p *play) lookForHelp(i int, w *waiter) {
	x := &p.k.pieces[i]
	if p.night.set.Helps == 0 || !x.helped || p.mine(i) {
		return
	}
	hands := p.k.handsOf(x)
	if len(hands) != 1 {
		return // nobody's hands, or those of two
	}
	p.sim.at(p.sim.now+helpLook, begins, func() {
		if p.started[i] >= 0 {
			return
		}
		for _, who := range p.k.helpers[x.run.Section] {
			theirs := p.k.cooks[who][0]
			if !p.night.helps(who) || p.mySection(who) || p.sim.free[theirs.of] < hands[0].units || p.dueSoon(theirs.of, x.long) {
				continue
			}
			instead := slices.Clone(w.takes[0])
			for k := range instead {
				if instead[k] == hands[0] {
					instead[k].of = theirs.of
				}
			}
			if p.sim.can(instead) && p.sim.serveWith(w, instead) {
				p.result.Helped++
				return
			}
		}
		p.lookForHelp(i, w)
	})
}

// mySection reports whether somebody works at the section that is cooked by hand.
func (p *play) mySection(who string) bool {
	if p.cook.section == "" {
		return false
	}
	person, ok := p.k.evening.Book().Person(who)
	return ok && person.Home() == p.cook.section
}

// dueSoon reports whether somebody's hands are wanted within so many seconds for what is their own.
func (p *play) dueSoon(hands string, within float64) bool {
	return slices.ContainsFunc(p.k.theirs[hands], func(i int) bool {
		return !p.asked[i] && !p.out[i] && math.Max(p.planned[i], p.ready[i]) < p.sim.now+within
	})
}
