package kitchen

import (
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
		checkAllergens(h.at("allergens"), g.Allergens)
	}
	for i, u := range c.Uses {
		within(f.at("uses[%d].amount", i), u.Amount, 0.0001, 1e6)
	}
	for i, b := range c.ByProducts {
		within(f.at("by_products[%d].grams", i), b.Grams, 0.0001, 1e6)
	}
	checkWait(f.at("hold"), c.Hold)
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
	checkEstimate(g.at("time.fixed"), s.Time.Fixed)
	checkEstimate(g.at("time.per_portion"), s.Time.PerPortion)
	if e := s.Equipment; e != nil {
		oneOf(g.at("equipment.kind"), e.Kind, equipmentKinds)
		within(g.at("equipment.units"), e.Units, 1, 10000)
		within(g.at("equipment.preheat_s"), e.PreheatS, 0, 4*3600)
		if e.SetpointC != nil {
			within(g.at("equipment.setpoint_c"), *e.SetpointC, -60, 600)
		}
	}
	if b := s.Batch; b != nil {
		within(g.at("batch.portions"), b.Portions, 1, 10000)
		oneOf(g.at("batch.run"), b.Run, []BatchRun{SideBySide, InTurn})
	}
	for k, a := range s.After {
		checkWait(g.at("after[%d]", k), a.Wait)
	}
	for k, c := range s.Checks {
		oneOf(g.at("checks[%d].kind", k), c.Kind, checkKinds)
		if c.TargetC != nil {
			within(g.at("checks[%d].target_c", k), *c.TargetC, -60, 300)
		}
	}
	for k, d := range s.Dangers {
		oneOf(g.at("dangers[%d]", k), d, dangers)
	}
	for k, d := range s.Doneness {
		g.at("doneness[%d].name", k).name(d.Name)
		within(g.at("doneness[%d].seconds", k), d.Seconds, -s.Time.Fixed.Low, maxSeconds)
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
