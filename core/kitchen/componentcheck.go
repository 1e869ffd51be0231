package kitchen

import (
	"jointime/core/heat"
	"slices"
)

// What is wrong with a component by itself.

// maxSeconds bounds a single time: sixty days.
const maxSeconds = 60 * 24 * 3600

func checkEstimate(f finder, e Estimate) {
	within(f.at("low"), e.Low, 0, maxSeconds)
	within(f.at("likely"), e.Likely, 0, maxSeconds)
	within(f.at("high"), e.High, 0, maxSeconds)
	if e.Low > e.Likely {
		f.at("low").say("fault.over-likely", "likely", e.Likely, "got", e.Low)
	}
	if e.Likely > e.High {
		f.at("high").say("fault.under-likely", "likely", e.Likely, "got", e.High)
	}
}

func checkWait(f finder, w Wait) {
	within(f.at("shortest"), w.Shortest, 0, maxSeconds)
	if w.Best != nil {
		within(f.at("best"), *w.Best, 0, maxSeconds)
		if *w.Best < w.Shortest {
			f.at("best").say("fault.under-shortest", "shortest", w.Shortest, "got", *w.Best)
		}
	}
	if w.Longest != nil {
		within(f.at("longest"), *w.Longest, 0, maxSeconds)
		least := w.Shortest
		if w.Best != nil {
			least = max(least, *w.Best)
		}
		if *w.Longest < least {
			f.at("longest").say("fault.longest", "least", least, "got", *w.Longest)
		}
	}
	if w.Place != "" {
		oneOf(f.at("place"), w.Place, places)
	}
	if w.NoLimit && w.Longest != nil {
		f.at("no_limit").say("fault.no-limit")
	}
	if w.In != nil {
		checkEquipmentNeed(f.at("in"), w.In)
		if w.Longest == nil {
			f.at("longest").say("fault.place-limit")
		}
	}
	if w.Care != nil {
		checkCare(f.at("care"), w.Care)
	}
	if x := w.Stretch; x != nil {
		least := 1
		if w.Longest != nil {
			least = *w.Longest
		}
		within(f.at("stretch.longest_s"), x.LongestS, least, maxSeconds)
		if x.In != nil {
			checkEquipmentNeed(f.at("stretch.in"), x.In)
		}
	}
}

// mostCare bounds what is done now and then, and how often at the least: seconds.
const (
	mostCare   = 1800
	leastEvery = 60
)

func checkCare(f finder, c *Care) {
	f.at("say").name(c.Say)
	within(f.at("seconds"), c.Seconds, 1, mostCare)
	within(f.at("every_s"), c.EveryS, max(leastEvery, c.Seconds), maxSeconds)
}

func checkEquipmentNeed(f finder, e *EquipmentNeed) {
	oneOf(f.at("kind"), e.Kind, equipmentKinds)
	within(f.at("units"), e.Units, 1, 10000)
	within(f.at("preheat_s"), e.PreheatS, 0, 4*3600)
	if e.SetpointC != nil {
		within(f.at("setpoint_c"), *e.SetpointC, -60, 600)
	}
	if to := e.SetpointToC; to != nil {
		within(f.at("setpoint_to_c"), *to, -60, 600)
		if e.SetpointC == nil || *to < *e.SetpointC {
			f.at("setpoint_to_c").say("fault.heat-range")
		}
	}
}

// mostHands bounds the hands at one end of a step, seconds.
const mostHands = 3600

func checkHands(g finder, s *Step) {
	for _, x := range []struct {
		name string
		is   int
	}{{"in_s", s.Ends.InS}, {"out_s", s.Ends.OutS}, {"in_each_s", s.Ends.InEachS}, {"out_each_s", s.Ends.OutEachS}} {
		within(g.at("ends.%s", x.name), x.is, 0, mostHands)
		if s.Hands == Both && x.is > 0 {
			g.at("ends.%s", x.name).say("fault.both-throughout")
		}
	}
	if len(s.Touches) > 12 {
		g.at("touches").say("fault.touches", "most", 12, "got", len(s.Touches))
	}
	for k, t := range s.Touches {
		h := g.at("touches[%d]", k)
		h.at("say").name(t.Say)
		within(h.at("seconds"), t.Seconds, 1, mostCare)
		oneOf(h.at("when"), t.When, touchTimes)
		switch t.When {
		case After, BeforeEnd:
			within(h.at("at_s"), t.AtS, 0, maxSeconds)
		case Every:
			within(h.at("at_s"), t.AtS, max(leastEvery, t.Seconds), maxSeconds)
		}
		if s.Hands == Both {
			h.say("fault.both-throughout")
		}
	}
	if s.Away && s.Hands != Both {
		g.at("away").say("fault.away")
	}
	if s.Call != CallUnsaid {
		oneOf(g.at("call"), s.Call, []Call{CallAny, CallOnly})
	}
}

// CheckComponent returns what is wrong with one component by itself; what it
// refers to is checked by NewBook.
func CheckComponent(c Component) Faults {
	f := newFinder()
	f.at("id").id(c.ID)
	f.at("name").name(c.Name)
	oneOf(f.at("unit"), c.Unit, units)
	within(f.at("grams_per_unit"), c.GramsPerUnit, 0.001, 20000)
	within(f.at("density_g_per_ml"), c.DensityGPerMl, 0.02, 3)
	within(f.at("batch_yield"), c.BatchYield, 0, 1e6)
	within(f.at("shelf_life_h"), c.ShelfLifeH, 0, 24*365)
	if c.Store != "" {
		oneOf(f.at("store"), c.Store, places)
	}
	checkColour(f.at("colour"), c.Colour)
	checkAllergens(f.at("allergens"), c.Allergens)
	for i, g := range c.Ingredients {
		h := f.at("ingredients[%d]", i)
		h.at("name").name(g.Name)
		within(h.at("amount"), g.Amount, 0.0001, 1e6)
		within(h.at("trim_percent"), g.TrimPercent, 0, 95)
		within(h.at("in_at"), g.InAt, 0, 24*60)
		within(h.at("thaw_h"), g.ThawH, 0, 168)
		if g.ThawH > 0 && g.InAt == 0 {
			h.at("thaw_h").say("fault.thaw")
		}
		checkAllergens(h.at("allergens"), g.Allergens)
		checkMatters(h.at("matters"), g.Matters)
		checkDiets(h.at("certified"), g.Certified)
	}
	for i, u := range c.Uses {
		within(f.at("uses[%d].amount", i), u.Amount, 0.0001, 1e6)
	}
	for i, b := range c.ByProducts {
		within(f.at("by_products[%d].grams", i), b.Grams, 0.0001, 1e6)
	}
	checkWait(f.at("hold"), c.Hold)
	if c.Thing != "" && c.UsualOf() == nil {
		f.at("thing").say("fault.thing", "got", short(c.Thing))
	}
	if p := c.Pot; p != nil {
		within(f.at("pot.holds_s"), p.HoldsS, 60, 24*3600)
		if p.TopUp != nil {
			checkCare(f.at("pot.top_up"), p.TopUp)
		}
		if p.In != nil {
			checkEquipmentNeed(f.at("pot.in"), p.In)
		}
	}
	if len(c.Steps) > 200 {
		f.at("steps").say("fault.steps", "most", 200, "got", len(c.Steps))
		return *f.faults
	}
	byID := map[string]int{}
	for i, s := range c.Steps {
		g := f.at("steps[%d]", i)
		g.at("id").id(s.ID)
		if first, twice := byID[s.ID]; twice {
			g.at("id").say("fault.step-twice", "other", first)
		}
		byID[s.ID] = i
		checkStep(g, s)
	}
	for i, s := range c.Steps {
		for k, w := range s.Wares {
			if _, known := byID[w.Until]; w.Until != "" && !known {
				f.at("steps[%d].wares[%d].until", i, k).say("fault.no-step", "id", short(w.Until))
			}
		}
		for k, a := range s.After {
			g := f.at("steps[%d].after[%d]", i, k)
			j, known := byID[a.Step]
			switch {
			case !known:
				g.at("step").say("fault.no-step", "id", short(a.Step))
			case c.Steps[j].Phase == PickUp && s.Phase == Ahead:
				g.at("step").say("fault.ahead-after-order", "step", s.Name, "other", c.Steps[j].Name)
			}
		}
	}
	if len(*f.faults) == 0 {
		if loop := stepCycle(c.Steps); loop != "" {
			f.at("steps").say("fault.step-circle", "steps", loop)
		}
	}
	return *f.faults
}

func checkStep(g finder, s Step) {
	g.at("name").name(s.Name)
	oneOf(g.at("phase"), s.Phase, []Phase{Ahead, PickUp})
	oneOf(g.at("hands"), s.Hands, []Hands{Both, Tend, None})
	if len(s.Wares) > 6 {
		g.at("wares").say("fault.wares", "most", 6, "got", len(s.Wares))
	}
	for k, w := range s.Wares {
		within(g.at("wares[%d].each", k), w.Each, 0, 100)
		within(g.at("wares[%d].for", k), w.For, 0, 1000)
	}
	if s.May != MayUnsaid {
		oneOf(g.at("may"), s.May, []May{MaySection, MayAnybody, MayNamed})
	}
	if (s.May == MayNamed) != (len(s.People) > 0) {
		g.at("people").say("fault.named")
	}
	checkEstimate(g.at("time.fixed"), s.Time.Fixed)
	checkEstimate(g.at("time.per_portion"), s.Time.PerPortion)
	checkHands(g, &s)
	if e := s.Equipment; e != nil {
		checkEquipmentNeed(g.at("equipment"), e)
	}
	if b := s.Batch; b != nil {
		within(g.at("batch.portions"), b.Portions, 1, 10000)
		oneOf(g.at("batch.run"), b.Run, []BatchRun{SideBySide, InTurn})
	}
	for k, a := range s.After {
		checkWait(g.at("after[%d]", k), a.Wait)
	}
	if len(s.Beside) > 12 {
		g.at("beside").say("fault.beside-many", "most", 12, "got", len(s.Beside))
	}
	for k, a := range s.Beside {
		checkWait(g.at("beside[%d]", k), a.Wait)
		if a.In != nil || a.Care != nil || a.Until != "" || a.Kept != "" {
			g.at("beside[%d]", k).say("fault.beside-place")
		}
		if s.Phase != PickUp {
			g.at("beside[%d]", k).say("fault.beside-ahead", "step", s.Name)
		}
	}
	for k, c := range s.Checks {
		oneOf(g.at("checks[%d].kind", k), c.Kind, checkKinds)
		if c.TargetC != nil {
			within(g.at("checks[%d].target_c", k), *c.TargetC, -60, 300)
		}
	}
	checkPiece(g.at("piece"), s.Piece)
	for k, d := range s.Dangers {
		oneOf(g.at("dangers[%d]", k), d, dangers)
	}
	for k, d := range s.Doneness {
		g.at("doneness[%d].name", k).name(d.Name)
		within(g.at("doneness[%d].seconds", k), d.Seconds, -s.Time.Fixed.Low, maxSeconds)
		within(g.at("doneness[%d].ends", k), d.Ends, 0, 1000)
		if d.TargetC != nil {
			within(g.at("doneness[%d].target_c", k), *d.TargetC, heat.ColdestC, heat.HotestC)
		}
		if d.Mm != 0 {
			within(g.at("doneness[%d].mm", k), d.Mm, heat.LeastMm, heat.MostMm)
		}
		if len(Wishes(d.Name)) > 1 {
			g.at("doneness[%d].name", k).say("fault.one-wish", "wish", short(d.Name))
		}
	}
}

// stepCycle returns a circle of steps in words, or "" when there is none.
func stepCycle(steps []Step) string {
	after := map[string][]string{}
	for _, s := range steps {
		for _, a := range s.After {
			after[s.ID] = append(after[s.ID], a.Step)
		}
	}
	ids := make([]string, len(steps))
	for i, s := range steps {
		ids[i] = s.ID
	}
	return cycle(ids, after)
}

// cycle finds a circle in a graph given as successors, by depth-first search.
func cycle(ids []string, next map[string][]string) string {
	const open, done = 1, 2
	mark := map[string]int{}
	var trail []string
	var visit func(string) string
	visit = func(id string) string {
		mark[id] = open
		trail = append(trail, id)
		for _, n := range next[id] {
			if mark[n] == open {
				at := slices.Index(trail, n)
				out := ""
				for _, t := range trail[at:] {
					out += t + " → "
				}
				return out + n
			}
			if mark[n] == 0 {
				if c := visit(n); c != "" {
					return c
				}
			}
		}
		mark[id] = done
		trail = trail[:len(trail)-1]
		return ""
	}
	for _, id := range ids {
		if mark[id] == 0 {
			if c := visit(id); c != "" {
				return c
			}
		}
	}
	return ""
}
