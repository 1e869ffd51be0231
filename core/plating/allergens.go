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

// allergens finds what a variant promised to be without, and names what brings it in.
// It says only that the recipes have none of it, and only where all of them were entered:
// never that the plate is free of it.
func (p *Plate) allergens(b *kitchen.Book, ls []laid, without []kitchen.Allergen) {
	if len(without) == 0 {
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
	for _, a := range without {
		clean, seen := len(unknown) == 0, map[string]bool{}
		for i := range ls {
			if c := ls[i].comp; !seen[c.ID] {
				seen[c.ID] = true
				for _, s := range b.Allergens(c.ID) {
					if s.Allergen == a {
						clean = false
						p.say("allergen", "fault", i+1, float64(i+1), "plate.brings-in", "what", c.Name, "allergen",
							kitchen.AllergenTitle(a, b.Kitchen().SafetyCode), "from", s.From)
					}
				}
			}
		}
		if clean {
			p.say("allergen", "good", 0, 0, "plate.none-of-it", "allergen", kitchen.AllergenTitle(a, b.Kitchen().SafetyCode))
		}
	}
}
