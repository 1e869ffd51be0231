package advise

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// Mends that do a step otherwise than as written, for one service: by other hands, at a heat that two can share, ahead, with
// a longer wait; and a banquet's rounds in two waves.

// How much is proposed at the most of each.
const (
	mostHands   = 3
	mostHeats   = 3
	mostStretch = 4
	mostAhead   = 2
)

// What they cost, as at the head of mend.go. Common practice, no source.
const (
	priceOfOtherHands = 250 // a cook for one step, away from their own section
	priceOfHeat       = 150 // what is cooked hotter or cooler than written is looked at sooner
	priceOfStretch    = 200 // it is worse for what waits
	priceOfAhead      = 200 // it is done before, and waits
	priceOfWave       = 2   // of a guest's minute: half of them wait
)

// heatApart is by how many degrees at the most a step may be done hotter or cooler than written. Common practice, no source.
const heatApart = 20

// keeps is how long something that is made ahead of a service must be able to wait, seconds: as long as that lasts.
const keeps = 4 * 3600

// stepOf is the component and the step of a task of the evening; nil where it has none.
func (p *proposals) stepOf(task string) (*kitchen.Component, *kitchen.Step) {
	ref, ok := p.evening.RefOf(task)
	if !ok || ref.Plating {
		return nil, nil
	}
	c, ok := p.book.Component(ref.Component)
	if !ok {
		return nil, nil
	}
	k := c.StepIndex(ref.Step)
	if k < 0 {
		return nil, nil
	}
	return c, &c.Steps[k]
}

// mayBeHelped reports whether somebody who helps at its section may do a task.
func (p *proposals) mayBeHelped(task string) bool {
	_, s := p.stepOf(task)
	return s == nil || s.May == kitchen.MayUnsaid
}

func (p *proposals) said(w kitchen.Way) bool {
	return slices.ContainsFunc(p.service.Ways, func(x kitchen.Way) bool { return sameWay(x, w) })
}

// sameWay reports whether two ways change the same thing of the same step.
func sameWay(a, b kitchen.Way) bool {
	return a.Component == b.Component && a.Step == b.Step && a.Person == b.Person && (a.HeatC != nil) == (b.HeatC != nil) &&
		a.Ahead == b.Ahead && a.Stretch == b.Stretch
}

func (p *proposals) way(id string, what, costs message.Message, price int64, ways ...kitchen.Way) {
	p.add(id, what, costs, price, func(s *kitchen.Service) {
		for _, w := range ways {
			s.Ways = slices.DeleteFunc(s.Ways, func(x kitchen.Way) bool { return sameWay(x, w) })
			s.Ways = append(s.Ways, w)
		}
	})
}

// otherHands asks somebody else for the very step that keeps others, where it may be done by others.
func (p *proposals) otherHands() {
	var tried []kitchen.Way
	for cause := range p.keptByPeople() {
		c, s := p.stepOf(cause.Task)
		if c == nil || s.May != kitchen.MayUnsaid {
			continue
		}
		who, busy := p.leastBusy(c.SectionOf(s), cause.Until)
		w := kitchen.Way{Component: c.ID, Step: s.ID, Person: who}
		if who == "" || p.said(w) || slices.Contains(tried, w) {
			continue
		}
		if tried = append(tried, w); len(tried) > mostHands {
			return
		}
		person, _ := p.book.Person(who)
		p.way("hands-for:"+c.ID+":"+s.ID+":"+who, message.Of("mend.other-hands", "who", person.Name, "step", strings.ToLower(s.Name), "what",
			c.Name),
			message.Of("mend.helper-costs", "who", person.Name, "work", message.Minutes(busy)), priceOfOtherHands, w)
	}
}

// hot is a step of the service that wants a heat.
type hot struct {
	c         *kitchen.Component
	s         *kitchen.Step
	low, high float64
}

// heats lets steps that want nearly the same heat of one kind of equipment have one: where the plan turns a thermostat.
func (p *proposals) heats() {
	if len(p.plan.Sets) == 0 {
		return
	}
	byKind := map[kitchen.EquipmentKind][]hot{}
	seen := map[[2]string]bool{}
	for i := range p.evening.Workload.Tasks {
		c, s := p.stepOf(p.evening.Workload.Tasks[i].ID)
		if c == nil || s.Equipment == nil || seen[[2]string{c.ID, s.ID}] {
			continue
		}
		seen[[2]string{c.ID, s.ID}] = true
		if low, high, ok := s.Equipment.Range(); ok {
			byKind[s.Equipment.Kind] = append(byKind[s.Equipment.Kind], hot{c, s, low, high})
		}
	}
	var kinds []kitchen.EquipmentKind
	for k := range byKind {
		kinds = append(kinds, k)
	}
	slices.Sort(kinds)
	n := 0
	for _, kind := range kinds {
		list := byKind[kind]
		slices.SortStableFunc(list, func(a, b hot) int { return cmp.Compare(a.low, b.low) })
		for i := range list {
			for k := i + 1; k < len(list) && n < mostHeats; k++ {
				if p.oneHeat(kind, list[i], list[k]) {
					n++
				}
			}
		}
	}
}

// oneHeat proposes the heat half-way between two steps that want different ones, and that for all that lies between.
func (p *proposals) oneHeat(kind kitchen.EquipmentKind, a, b hot) bool {
	if a.high >= b.low || b.low-a.high > 2*heatApart {
		return false
	}
	at := math.Round((a.high+b.low)/2/5) * 5
	if at-a.high > heatApart || b.low-at > heatApart {
		return false
	}
	wa, wb := kitchen.Way{Component: a.c.ID, Step: a.s.ID, HeatC: &at}, kitchen.Way{Component: b.c.ID, Step: b.s.ID, HeatC: &at}
	if p.said(wa) && p.said(wb) {
		return false
	}
	p.way(fmt.Sprintf("heat:%s:%s:%s:%g", kind, a.c.ID, b.c.ID, at),
		message.Of("mend.heat", "one", a.c.Name, "other", b.c.Name, "celsius", at), message.Of("mend.heat-costs", "one", a.c.Name, "low", a.high,
			"other", b.c.Name, "high", b.low), priceOfHeat, wa, wb)
	return true
}

// stretches lets what is held too long, or what makes a table late, wait as long as it is allowed to when it must.
func (p *proposals) stretches() {
	n := 0
	var tried []string
	offer := func(c *kitchen.Component) {
		w := kitchen.Way{Component: c.ID, Stretch: true}
		x := p.book.StretchOf(c, "")
		if x == nil || n == mostStretch || p.said(w) || slices.Contains(tried, c.ID) {
			return
		}
		n++
		tried = append(tried, c.ID)
		how := message.Of("mend.stretch", "what", c.Name, "long", message.Length(x.LongestS))
		if x.In != nil {
			how = message.Of("mend.stretch-in", "what", c.Name, "long", message.Length(x.LongestS), "in", x.In.Kind)
		}
		p.way("stretch:"+c.ID, how, message.Of("mend.stretch-costs"), priceOfStretch, w)
	}
	for _, t := range p.plan.Trouble {
		x, ok := p.evening.CourseByID(t.Join)
		if !ok {
			continue
		}
		for _, m := range x.Firing.Moments {
			if c, known := p.book.Component(m.Component); known {
				offer(c)
			}
		}
	}
}

// aheads makes ahead what keeps others, where it keeps that long.
func (p *proposals) aheads() {
	var tried []kitchen.Way
	for _, t := range p.plan.Trouble {
		if t.Cause == nil || len(tried) == mostAhead {
			continue
		}
		c, s := p.stepOf(t.Cause.Task)
		w := kitchen.Way{Ahead: true}
		if c == nil || s.Phase != kitchen.PickUp || c.BatchYield <= 0 || !p.book.KeepsAfter(c, s.ID, keeps) {
			continue
		}
		if w.Component, w.Step = c.ID, s.ID; p.said(w) || slices.Contains(tried, w) {
			continue
		}
		tried = append(tried, w)
		p.way("ahead:"+c.ID+":"+s.ID, message.Of("mend.ahead", "what", c.Name, "step", strings.ToLower(s.Name)), message.Of("mend.ahead-costs"),
			priceOfAhead, w)
	}
}

// waves serves the rounds of a banquet's group in two waves.
func (p *proposals) waves() {
	rounds := map[string]int{}
	for i := range p.evening.Courses {
		x := &p.evening.Courses[i]
		rounds[x.Table] = max(rounds[x.Table], x.Round)
	}
	for k := range p.service.Tables {
		t := &p.service.Tables[k]
		troubled := slices.ContainsFunc(p.plan.Trouble, func(x expand.FireTrouble) bool { return strings.HasPrefix(x.Join, t.ID+"/") })
		if p.service.Kind != kitchen.Banquet || rounds[t.ID] < 4 || t.SecondWaveMin > 0 || !troubled {
			continue
		}
		for _, by := range []int{8, 15} {
			p.add(fmt.Sprintf("waves:%s:%d", t.ID, by), message.Of("mend.waves", "table", t.Name, "minutes", by), message.Of("mend.waves-costs"),
				int64(by*t.Covers/2*priceOfWave), func(s *kitchen.Service) { s.Tables[k].SecondWaveMin = by })
		}
	}
}
