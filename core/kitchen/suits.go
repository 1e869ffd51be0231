package kitchen

import (
	"slices"

	"jointime/core/message"
)

// Which plate of a dish suits a guest who must not have something, and what is wrong with one that was ordered all the same.

// VariantFor chooses the plate of a dish for a guest with needs: of those that by their recipes have nothing that the guest must not
// have the one about which least is in doubt, as written before a variant. In doubt is a component that is not known, and one whose
// words suggest such a thing. ok is false when no plate suits by its recipes, or the house has not said what a diet is.
func (b *Book) VariantFor(d *Dish, n Needs) (variant string, ok bool) {
	if !n.Any() {
		return "", true
	}
	if len(b.Undefined(n)) > 0 {
		return "", false
	}
	least := 0
	try := func(name string, es []Element) {
		if len(b.Against(es, n)) > 0 {
			return
		}
		doubt := len(b.UnknownRecipes(es)) + len(b.suggestedAgainst(es, n))
		if !ok || doubt < least {
			variant, ok, least = name, true, doubt
		}
	}
	try("", d.Specification.Elements)
	for i := range d.Specification.Variants {
		v := &d.Specification.Variants[i]
		try(v.Name, v.apply(d.Specification.Elements))
	}
	return variant, ok
}

// suggestedAgainst lists the words on a plate that suggest something that a guest must not have, and nobody said.
func (b *Book) suggestedAgainst(elements []Element, n Needs) (out []Suggestion) {
	kept := func(s *Suggestion) bool {
		if s.Allergen != "" && slices.Contains(n.Without, s.Allergen) {
			return true
		}
		return slices.ContainsFunc(n.Diets, func(d Diet) bool {
			rule, _ := b.DietRule(d)
			return s.Matter != "" && slices.Contains(rule.Matters, s.Matter) || s.Allergen != "" && slices.Contains(rule.Allergens, s.Allergen) ||
				rule.Certified && s.Matter == Meat
		})
	}
	seen := map[string]bool{}
	for _, e := range elements {
		c := b.components[e.Component]
		if c == nil || seen[c.ID] {
			continue
		}
		seen[c.ID] = true
		for _, s := range b.Suggestions(c) {
			if kept(&s) {
				out = append(out, s)
			}
		}
	}
	return out
}

// orderedAgainst says what was ordered for guests who must not have it: once for each plate, with the variant that would suit.
func (b *Book) orderedAgainst(t *ServiceTable) (problems []message.Message) {
	for i := range t.Orders {
		o := &t.Orders[i]
		d := b.dishes[o.Dish]
		if d == nil || !o.Needs().Any() {
			continue
		}
		for _, x := range b.Undefined(o.Needs()) {
			problems = addOnce(problems, message.Of("diet.not-defined", "diet", string(x)))
		}
		es, err := d.Plate(o.Variant)
		if err != nil {
			continue
		}
		brings := b.Against(es, o.Needs())
		if len(brings) == 0 {
			continue
		}
		what, from := brings[0].Named(b.data.Kitchen.SafetyCode), brings[0].Component
		if v, ok := b.VariantFor(d, o.Needs()); ok && v != "" {
			problems = addOnce(problems, message.Of("orders.has-but", "table", t.Name, "dish", d.Name, "allergen", what, "from", from, "variant", v))
			continue
		}
		problems = addOnce(problems, message.Of("orders.has", "table", t.Name, "dish", d.Name, "allergen", what, "from", from))
	}
	return problems
}
