package plating

import (
	"slices"

	"jointime/core/kitchen"
)

// What was put in and must not be there: things to take out, and what a guest must not have.

// takeOuts finds what was put in and is never said to come out.
func (p *Plate) takeOuts(b *kitchen.Book, ls []laid) {
	seen := map[string]bool{}
	for i := range ls {
		c := ls[i].comp
		if seen[c.ID] {
			continue
		}
		seen[c.ID] = true
		in := map[string]bool{}
		for _, s := range append(c.InPhase(kitchen.Ahead), c.InPhase(kitchen.PickUp)...) {
			for _, x := range s.PutsIn {
				in[x] = true
			}
			for _, x := range s.TakesOut {
				delete(in, x)
			}
		}
		for _, s := range c.Steps {
			for _, x := range s.PutsIn {
				if in[x] {
					delete(in, x)
					p.say("take-out", "fault", i+1, 0, "plate.never-out", "what", c.Name, "thing", x)
				}
			}
		}
	}
}

// promises finds what a variant promised to be without, and names what brings it in.
// It says only that the recipes have none of it, and only where all of them were entered:
// never that the plate is free of it.
func (p *Plate) promises(b *kitchen.Book, ls []laid, promised kitchen.Needs) {
	if !promised.Any() {
		return
	}
	var unknown []string
	for i := range ls {
		for _, name := range b.UnknownIn(ls[i].comp.ID) {
			if !slices.Contains(unknown, name) {
				unknown = append(unknown, name)
				p.say("allergen", "fault", i+1, float64(i+1), "plate.not-known", "what", name)
			}
		}
	}
	code := b.Kitchen().SafetyCode
	// brings says what is against some needs, and reports whether anything is.
	brings := func(n kitchen.Needs) bool {
		found, seen := false, map[string]bool{}
		for i := range ls {
			c := ls[i].comp
			if seen[c.ID] {
				continue
			}
			seen[c.ID] = true
			for _, s := range b.Against([]kitchen.Element{{Component: c.ID}}, n) {
				found = true
				p.say("allergen", "fault", i+1, float64(i+1), "plate.brings-in", "what", c.Name, "allergen", s.Named(code), "from", s.From)
			}
		}
		return found
	}
	for _, a := range promised.Without {
		if !brings(kitchen.Needs{Without: []kitchen.Allergen{a}}) && len(unknown) == 0 {
			p.say("allergen", "good", 0, 0, "plate.none-of-it", "allergen", kitchen.AllergenTitle(a, code))
		}
	}
	for _, d := range promised.Diets {
		n := kitchen.Needs{Diets: []kitchen.Diet{d}}
		switch {
		case len(b.Undefined(n)) > 0:
			p.say("allergen", "fault", 0, 0, "diet.not-defined", "diet", string(d))
		case !brings(n) && len(unknown) == 0:
			p.say("allergen", "good", 0, 0, "plate.suits", "diet", string(d))
		}
	}
}
