package lines

import (
	"slices"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// A step and a wait out of a line.

// saysHands tells a step that happens to begin with a word of waiting ("rest cold
// overnight, nobody") from a wait.
func saysHands(low string) bool {
	return both.MatchString(low) || tend.MatchString(low) || nobody.MatchString(low)
}

func unsure(m message.Message) *message.Message { return &m }

func (r *reader) unsureWait() *message.Message {
	if left := r.name(); left != "" && !waitLine.MatchString(strings.ToLower(left)) {
		return unsure(message.Of("line.not-understood", "text", left))
	}
	return nil
}

func readWait(r *reader) (w kitchen.Wait) {
	if r.take(eachPiece) != nil {
		w.Each = true
		r.saw(message.Of("line.each-piece"))
	}
	if m := r.take(ifItMust); m != nil {
		long, _ := Seconds(m[1])
		w.Stretch = &kitchen.Stretched{LongestS: long}
		if kind := kitchen.EquipmentKind(strings.ReplaceAll(m[2], " ", "-")); slices.Contains(kitchen.EquipmentKinds(), kind) {
			w.Stretch.In = &kitchen.EquipmentNeed{Kind: kind, Units: 1}
		}
		r.saw(message.Of("line.stretch", "long", message.Length(long)))
	}
	if m := r.take(care); m != nil {
		seconds, _ := Seconds(m[2])
		every, _ := Seconds(m[3])
		w.Care = &kitchen.Care{Say: strings.TrimSpace(m[1]), Seconds: seconds, EveryS: every}
		r.saw(message.Of("line.care", "what", w.Care.Say, "long", message.Length(seconds), "every", message.Length(every)))
	}
	if m := r.take(keptHow); m != nil {
		w.Kept = strings.TrimSpace(m[1])
		r.saw(message.Of("line.kept", "how", w.Kept))
	}
	if m := r.take(untilWhat); m != nil {
		w.Until = strings.TrimSpace(m[1])
		r.saw(message.Of("line.until", "what", w.Until))
	}
	if r.take(noLimit) != nil {
		w.NoLimit = true
		r.saw(message.Of("line.no-limit"))
	}
	if r.take(atOnce) != nil {
		once := kitchen.AtOnceS
		w.Longest = &once
		r.saw(message.Of("line.at-once"))
	}
	if m := r.take(places); m != nil {
		w.Place = kitchen.Place(strings.TrimPrefix(m[1], "on the "))
		r.saw(message.Of("line.place", "place", m[1]))
	}
	if m := r.take(equipmentWord); m != nil {
		w.In = &kitchen.EquipmentNeed{Kind: kitchen.EquipmentKind(strings.ReplaceAll(m[1], " ", "-")), Units: 1}
		if m[2] != "" {
			w.In.Units = int(number(m[2]))
		}
		r.saw(heatOf(w.In, m))
	}
	if m := r.take(atMost); m != nil {
		s, _ := Seconds(m[1])
		w.Longest = &s
		r.saw(message.Of("line.at-most", "long", message.Length(s)))
	}
	if m := r.take(bestTime); m != nil {
		s, _ := Seconds(m[1])
		w.Best = &s
		r.saw(message.Of("line.best", "long", message.Length(s)))
	}
	if m := r.take(oneTime); m != nil {
		w.Shortest, _ = Seconds(m[1])
		r.saw(message.Of("line.at-least", "long", message.Length(w.Shortest)))
	}
	r.rest = waitLine.ReplaceAllString(strings.ToLower(r.rest), "")
	return w
}

// usualPot is how long a pot is good when nobody says. Common practice, no source.
const usualPot = 7200

// readPot reads what stands on the stove: how long it is good, where it stands, what it wants now and then.
func readPot(r *reader) *kitchen.Pot {
	p := &kitchen.Pot{HoldsS: usualPot}
	if m := r.take(care); m != nil {
		seconds, _ := Seconds(m[2])
		every, _ := Seconds(m[3])
		p.TopUp = &kitchen.Care{Say: strings.TrimSpace(m[1]), Seconds: seconds, EveryS: every}
		r.saw(message.Of("line.care", "what", p.TopUp.Say, "long", message.Length(seconds), "every", message.Length(every)))
	}
	if m := r.take(goodFor); m != nil {
		p.HoldsS, _ = Seconds(m[1])
	}
	r.saw(message.Of("line.pot", "long", message.Length(p.HoldsS)))
	if m := r.take(equipmentWord); m != nil {
		p.In = &kitchen.EquipmentNeed{Kind: kitchen.EquipmentKind(strings.ReplaceAll(m[1], " ", "-")), Units: 1}
		if m[2] != "" {
			p.In.Units = int(number(m[2]))
		}
		r.saw(heatOf(p.In, m))
	}
	r.rest = potLine.ReplaceAllString(strings.ToLower(r.rest), "")
	return p
}

// readStep takes out what it knows, the longer phrases before the shorter ones that
// they contain.
func readStep(r *reader, of *kitchen.Component, phase kitchen.Phase) kitchen.Step {
	s := kitchen.Step{Phase: phase, Hands: kitchen.Both, After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{},
		Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{}, PutsIn: []string{}, TakesOut: []string{}}
	for _, m := range r.takeAll(fills) {
		w := kitchen.Ware{Equipment: m[3], Until: m[4]}
		if w.Each = int(number(m[1])); m[2] != "" {
			w.Each, w.For = 0, int(number(m[2]))
		}
		s.Wares = append(s.Wares, w)
		r.saw(message.Of("line.fills", "what", m[3]))
	}
	r.may(&s)
	if m := r.take(section); m != nil {
		s.Section = m[1]
		r.saw(message.Of("line.section", "section", m[1]))
	}
	if !both.MatchString(asciiLower(r.rest)) { // then they are throughout
		r.hands(&s)
	}
	r.words(&s)
	r.piece(of, &s)
	if m := r.take(core); m != nil {
		c := number(m[1])
		s.Checks = append(s.Checks, kitchen.DoneCheck{Kind: "core", TargetC: &c})
		r.saw(message.Of("line.core", "celsius", c))
	}
	checks := []kitchen.DoneCheck{}
	for _, m := range r.takeAll(until) {
		kind := kitchen.CheckKind(m[1])
		if kind == "" {
			kind = "look"
		}
		checks = append(checks, kitchen.DoneCheck{Kind: kind, Say: strings.TrimSpace(m[2])})
		r.saw(message.Of("line.done-by", "kind", kind, "until", strings.TrimSpace(m[2])))
	}
	s.Checks = append(checks, s.Checks...)
	for _, m := range r.takeAll(wish) {
		d, _ := Seconds(m[2])
		said := message.Of("line.longer", "wish", strings.TrimSpace(m[1]), "long", message.Length(d))
		if m[3] == "less" {
			said = message.Of("line.less-long", "wish", strings.TrimSpace(m[1]), "long", message.Length(d))
			d = -d
		}
		s.Doneness = append(s.Doneness, kitchen.Doneness{Name: strings.TrimSpace(m[1]), Seconds: d, Ends: int(number(m[4]))})
		r.saw(said)
	}
	r.equipment(&s)
	if m := r.take(batches); m != nil {
		s.Batch = &kitchen.BatchLimit{Portions: int(number(m[1])), Run: kitchen.SideBySide}
		if m[2] != "" {
			s.Batch.Run = kitchen.InTurn
			r.saw(message.Of("line.batches-in-turn", "portions", s.Batch.Portions))
		} else {
			r.saw(message.Of("line.batches", "portions", s.Batch.Portions))
		}
	}
	r.time(&s)
	if s.Piece != nil {
		s.Piece.Typed = s.Time != kitchen.StepTime{}
	}
	s.Name = r.name()
	if !r.saidEnds && s.Hands != kitchen.Both {
		s.Ends = s.UsualEnds()
	}
	return s
}

// may takes who may do a step.
func (r *reader) may(s *kitchen.Step) {
	switch {
	case r.take(anybody) != nil:
		s.May = kitchen.MayAnybody
		r.saw(message.Of("line.anybody"))
	case r.take(ownPeople) != nil:
		s.May = kitchen.MaySection
		r.saw(message.Of("line.section-alone"))
	default:
		for _, m := range r.takeAll(onlyBy) {
			s.May, s.People = kitchen.MayNamed, append(s.People, m[1])
			r.saw(message.Of("line.only-by", "who", m[1]))
		}
	}
}

// hands takes what a line says of the hands at the ends of a step and inside it. Who says that has an eye on it between,
// or nobody where it is put into something that goes by itself; the line may say otherwise.
func (r *reader) hands(s *kitchen.Step) {
	for _, m := range r.takeAll(touch) {
		t := kitchen.Touch{Say: strings.TrimSpace(m[1]), When: kitchen.HalfWay}
		t.Seconds, _ = Seconds(m[3])
		switch when := m[2]; {
		case strings.HasPrefix(when, "every "):
			t.When = kitchen.Every
			t.AtS, _ = Seconds(strings.TrimPrefix(when, "every "))
		case strings.HasSuffix(when, " before the end"):
			t.When = kitchen.BeforeEnd
			t.AtS, _ = Seconds(strings.TrimSuffix(when, " before the end"))
		case strings.HasSuffix(when, " after the start"):
			t.When = kitchen.After
			t.AtS, _ = Seconds(strings.TrimSuffix(when, " after the start"))
		}
		s.Touches = append(s.Touches, t)
		r.saw(message.Of("line.touch", "what", t.Say, "when", m[2], "long", message.Length(t.Seconds)))
	}
	said := func(fixed, each string) (int, int) {
		a, _ := Seconds(fixed)
		b, _ := Seconds(each)
		return a, b
	}
	if m := r.take(handsIn); m != nil {
		r.saidEnds = true
		s.Ends.InS, s.Ends.InEachS = said(m[1], m[2])
		s.Ends.OutS, s.Ends.OutEachS = said(m[3], m[4])
	} else if m := r.take(handsOut); m != nil {
		r.saidEnds = true
		s.Ends.OutS, s.Ends.OutEachS = said(m[1], m[2])
	} else if r.take(noEnds) != nil {
		r.saidEnds = true
	}
	if r.saidEnds {
		r.saw(message.Of("line.ends", "in", message.Length(s.Ends.InS), "out", message.Length(s.Ends.OutS)))
	}
	if r.saidEnds || len(s.Touches) > 0 {
		s.Hands = kitchen.Tend
		r.looseHands = true
	}
}

func (r *reader) words(s *kitchen.Step) {
	if r.take(away) != nil {
		s.Away = true
		r.saw(message.Of("line.away"))
	}
	if r.take(samePan) != nil {
		yes := true
		s.Same = &yes
		r.saw(message.Of("line.same-pan"))
	} else if r.take(otherPan) != nil {
		no := false
		s.Same = &no
		r.saw(message.Of("line.other-pan"))
	}
	if r.take(onCall) != nil {
		s.Call = kitchen.CallOnly
		r.saw(message.Of("line.on-call"))
	} else if r.take(anyTime) != nil {
		s.Call = kitchen.CallAny
		r.saw(message.Of("line.any-time"))
	}
	switch {
	case r.take(both) != nil:
		r.saw(message.Of("line.both-hands"))
	case r.take(tend) != nil:
		s.Hands, r.looseHands = kitchen.Tend, false
		r.saw(message.Of("line.tend"))
	case r.take(nobody) != nil:
		s.Hands, r.looseHands = kitchen.None, false
		r.saw(message.Of("line.nobody"))
	}
	for _, m := range r.takeAll(putsIn) {
		s.PutsIn = append(s.PutsIn, m[1])
		r.saw(message.Of("line.puts-in", "thing", m[1]))
	}
	for _, m := range r.takeAll(takesOut) {
		s.TakesOut = append(s.TakesOut, m[1])
		r.saw(message.Of("line.takes-out", "thing", m[1]))
	}
	for _, m := range r.takeAll(danger) {
		s.Dangers = append(s.Dangers, kitchen.Danger(m[1]))
		r.saw(message.Of("line.mind", "danger", m[1]))
	}
	for _, m := range r.takeAll(afterOf) {
		s.Beside = append(s.Beside, r.beside(m))
	}
	for _, m := range r.takeAll(after) {
		s.After = append(s.After, kitchen.Predecessor{Step: m[1]})
		r.saw(message.Of("line.after", "step", m[1]))
	}
}

// beside reads that a step comes after a step of another component, with the wait between.
func (r *reader) beside(m []string) kitchen.OtherStep {
	a := kitchen.OtherStep{Component: m[7], Step: m[6], Pan: m[8] != "", Any: strings.HasPrefix(m[0], "taken ") || strings.Contains(m[0], " taken after ")}
	a.Shortest, _ = Seconds(m[1])
	for i, to := range []**int{&a.Best, &a.Longest} {
		if v, ok := Seconds(m[i+2]); ok {
			*to = &v
		}
	}
	a.NoLimit = m[4] != ""
	a.Place = kitchen.Place(strings.TrimPrefix(m[5], "on the "))
	if a.Pan {
		r.saw(message.Of("line.after-pan", "step", a.Step, "component", a.Component))
	} else {
		r.saw(message.Of("line.after-of", "step", a.Step, "component", a.Component))
	}
	return a
}

// byItself is where something goes by itself.
var byItself = []kitchen.EquipmentKind{kitchen.Oven, kitchen.WaterBath, kitchen.Steamer, kitchen.Holding, kitchen.Fridge, kitchen.Freezer,
	kitchen.BlastChiller, kitchen.Dehydrator, kitchen.Churn}

// heatOf gives equipment the heat that a line says, one or a range, and says it back.
func heatOf(e *kitchen.EquipmentNeed, m []string) message.Message {
	c, ok := Degrees(m[3])
	if !ok {
		return message.Of("line.on", "equipment", m[1])
	}
	e.SetpointC = &c
	if to, ok := Degrees(m[4]); ok && to >= c {
		e.SetpointToC = &to
		return message.Of("line.on-between", "equipment", m[1], "low", c, "high", to)
	}
	return message.Of("line.on-at", "equipment", m[1], "celsius", c)
}

func (r *reader) equipment(s *kitchen.Step) {
	before := r.take(heated)
	m := r.take(equipmentWord)
	if m == nil {
		if before != nil {
			r.rest += ", " + before[0] // there is nothing to heat
		}
		return
	}
	e := &kitchen.EquipmentNeed{Kind: kitchen.EquipmentKind(strings.ReplaceAll(m[1], " ", "-")), Units: 1}
	if m[2] != "" {
		e.Units = int(number(m[2]))
	}
	said := heatOf(e, m)
	s.Equipment = e
	if r.looseHands && slices.Contains(byItself, e.Kind) {
		s.Hands = kitchen.None
	}
	r.saw(said)
	if before != nil {
		e.PreheatS, _ = Seconds(before[1])
		r.saw(message.Of("line.heated", "long", message.Length(e.PreheatS)))
	}
}

func (r *reader) time(s *kitchen.Step) {
	three := func(likely int, lo, hi string) kitchen.Estimate {
		a, _ := Seconds(lo)
		b, _ := Seconds(hi)
		return kitchen.Estimate{Low: min(a, likely), Likely: likely, High: max(b, likely)}
	}
	eachBounds := r.take(eachRange)
	if m := r.take(each); m != nil {
		v, _ := Seconds(m[1])
		s.Time.PerPortion = kitchen.Exactly(v)
		if eachBounds != nil {
			s.Time.PerPortion = three(v, eachBounds[1], eachBounds[2])
		}
		r.saw(message.Of("line.each", "long", message.Length(v)))
	}
	bounds := r.take(rangeTime)
	if m := r.take(loose); m != nil {
		// "3 to 5 min": the unit stands once, behind.
		hi, _ := Seconds(m[2])
		unit := part.FindStringSubmatch(m[2])
		lo := hi
		if unit != nil {
			lo, _ = Seconds(m[1] + " " + unit[2])
		}
		s.Time.Fixed = kitchen.Estimate{Low: min(lo, hi), Likely: (lo + hi) / 2, High: max(lo, hi)}
		r.saw(message.Of("line.between", "low", message.Length(s.Time.Fixed.Low), "high", message.Length(s.Time.Fixed.High)))
		return
	}
	if m := r.take(oneTime); m != nil {
		v, _ := Seconds(m[1])
		s.Time.Fixed = kitchen.Exactly(v)
		if bounds != nil {
			s.Time.Fixed = three(v, bounds[1], bounds[2])
		}
		r.saw(message.Of("line.time", "long", message.Length(v)))
	}
}
