package kitchen

import (
	"slices"

	"jointime/core/message"
)

// Diet is what a guest lives by.
type Diet string

// The diets that a kitchen is asked for.
const (
	Vegan      Diet = "vegan"
	Vegetarian Diet = "vegetarian"
	NoPork     Diet = "no pork"
	NoAlcohol  Diet = "no alcohol"
	NoRaw      Diet = "nothing raw"
	Halal      Diet = "halal"
	Kosher     Diet = "kosher"
)

// Diets lists them in the order in which they are offered.
func Diets() []Diet { return []Diet{Vegan, Vegetarian, NoPork, NoAlcohol, NoRaw, Halal, Kosher} }

// DietRule is what a diet keeps out of a plate. Those that the words themselves define are built in; halal and kosher are what the
// house says they are, and until it has said so nothing suits them.
type DietRule struct {
	Diet      Diet       `json:"diet"`
	Matters   []Matter   `json:"matters" nullable:"false" doc:"Matters that it keeps out"`
	Allergens []Allergen `json:"allergens" nullable:"false" doc:"Things with an allergen's name that it keeps out"`
	Certified bool       `json:"certified,omitempty" doc:"Meat is kept out unless its supplier certifies it for this diet"`
	Apart     bool       `json:"apart,omitempty" doc:"Meat and milk never on one plate"`
	By        string     `json:"by,omitempty" maxLength:"120" doc:"Who said so for the house"`
}

var animals = []Allergen{"fish", "crustaceans", "molluscs"}

// builtIn are the diets that their words define.
var builtIn = []DietRule{
	{Diet: Vegan, Matters: []Matter{Meat, Pork, Blood, Gelatine, Honey}, Allergens: append([]Allergen{"eggs", "milk"}, animals...)},
	{Diet: Vegetarian, Matters: []Matter{Meat, Pork, Blood, Gelatine}, Allergens: animals},
	{Diet: NoPork, Matters: []Matter{Pork, Gelatine}},
	{Diet: NoAlcohol, Matters: []Matter{Alcohol}},
	{Diet: NoRaw, Matters: []Matter{Raw}},
}

// HouseDiets are those that a house defines for itself.
func HouseDiets() []Diet { return []Diet{Halal, Kosher} }

// ownPan reports whether what is cooked for a diet is cooked apart from what the diet keeps out.
func (d Diet) ownPan() bool { return d != NoAlcohol && d != NoRaw }

// DietRule is what a diet is in this house; ok is false when the house has not said it.
func (b *Book) DietRule(d Diet) (DietRule, bool) {
	for _, list := range [][]DietRule{b.data.Kitchen.Diets, builtIn} {
		if i := slices.IndexFunc(list, func(r DietRule) bool { return r.Diet == d }); i >= 0 {
			return list[i], true
		}
	}
	return DietRule{}, false
}

// Needs are what a guest must not have: allergens, and what their diets keep out.
type Needs struct {
	Without []Allergen
	Diets   []Diet
}

// Any reports whether there are any.
func (n Needs) Any() bool { return len(n.Without) > 0 || len(n.Diets) > 0 }

// OwnPan reports whether what such a guest eats is cooked apart.
func (n Needs) OwnPan() bool { return len(n.Without) > 0 || slices.ContainsFunc(n.Diets, Diet.ownPan) }

// Words are the needs in words.
func (n Needs) Words() []string {
	out := []string{}
	for _, a := range n.Without {
		out = append(out, message.Of("needs.no", "allergen", string(a)).Text)
	}
	for _, d := range n.Diets {
		out = append(out, string(d))
	}
	return out
}

// Needs of a guest.
func (n *GuestNeed) Needs() Needs { return Needs{n.Without, n.Diets} }

// Needs of the guests of some plates.
func (o *TableOrder) Needs() Needs { return Needs{o.Without, o.Diets} }

// Promises is what a variant promises; nothing for the plate as written.
func (s *Specification) Promises(variant string) Needs {
	for _, v := range s.Variants {
		if v.Name == variant && variant != "" {
			return Needs{v.Without, v.Diets}
		}
	}
	return Needs{}
}

// Against is something on a plate that a guest must not have.
type Against struct {
	Allergen  Allergen `json:"allergen,omitempty"`
	Matter    Matter   `json:"matter,omitempty"`
	Diet      Diet     `json:"diet,omitempty" doc:"The diet that keeps it out; empty for an allergen that the guest must not have"`
	Component string   `json:"component"`
	From      string   `json:"from" doc:"The ingredient or component that brings it in"`
}

// Named is what it is called under a code.
func (a *Against) Named(code SafetyCode) string {
	switch {
	case a.Matter != "":
		return string(a.Matter)
	case a.Diet != "": // a diet asks after the thing, not after what law calls it
		return string(a.Allergen)
	default:
		return AllergenTitle(a.Allergen, code)
	}
}

// Against lists what brings onto a plate what its guest must not have, by the recipes: an allergen first, then diet by diet.
func (b *Book) Against(elements []Element, n Needs) (out []Against) {
	allergens := b.DishAllergens(elements)
	for _, s := range allergens {
		if slices.Contains(n.Without, s.Allergen) {
			out = append(out, Against{Allergen: s.Allergen, Component: s.Component, From: s.From})
		}
	}
	for _, d := range n.Diets {
		if rule, ok := b.DietRule(d); ok {
			out = append(out, b.againstDiet(elements, allergens, &rule)...)
		}
	}
	return out
}

func (b *Book) againstDiet(elements []Element, allergens []Source, rule *DietRule) (out []Against) {
	matters := b.dishMatters(elements)
	for _, m := range matters {
		certified := rule.Certified && slices.Contains(m.certified, rule.Diet)
		if slices.Contains(rule.Matters, m.what) && !(certified && m.what != Pork) || rule.Certified && m.what == Meat && !certified {
			out = append(out, Against{Matter: m.what, Diet: rule.Diet, Component: m.component, From: m.from})
		}
	}
	for _, s := range allergens {
		if slices.Contains(rule.Allergens, s.Allergen) {
			out = append(out, Against{Allergen: s.Allergen, Diet: rule.Diet, Component: s.Component, From: s.From})
		}
	}
	if meat := slices.ContainsFunc(matters, func(m broughtIn) bool { return m.what == Meat }); rule.Apart && meat {
		for _, s := range allergens {
			if s.Allergen == "milk" {
				out = append(out, Against{Allergen: s.Allergen, Diet: rule.Diet, Component: s.Component, From: s.From})
			}
		}
	}
	return out
}

// Undefined lists the diets among a guest's needs of which the house has not said what they are.
func (b *Book) Undefined(n Needs) (out []Diet) {
	for _, d := range n.Diets {
		if _, ok := b.DietRule(d); !ok {
			out = append(out, d)
		}
	}
	return out
}

// broughtIn is a matter with where it comes from.
type broughtIn struct {
	what            Matter
	certified       []Diet
	component, from string
}

func (b *Book) dishMatters(elements []Element) (out []broughtIn) {
	seen := map[string]bool{}
	for _, e := range elements {
		if !seen[e.Component] {
			seen[e.Component] = true
			out = append(out, b.matters(e.Component)...)
		}
	}
	return out
}

// matters are those of a component, with what goes into it.
func (b *Book) matters(id string) (out []broughtIn) {
	c := b.components[id]
	if c == nil {
		return nil
	}
	for i := range c.Ingredients {
		g := &c.Ingredients[i]
		for _, m := range g.MattersOf() {
			out = append(out, broughtIn{m, g.Certified, c.Name, g.Name})
		}
	}
	for _, u := range c.Uses {
		for _, m := range b.matters(u.Component) {
			out = append(out, broughtIn{m.what, m.certified, c.Name, m.from + " in " + m.component})
		}
	}
	return out
}

// MattersIn lists the matters of a component with what goes into it, each once.
func (b *Book) MattersIn(component string) []Matter {
	out := []Matter{}
	for _, m := range b.matters(component) {
		if !slices.Contains(out, m.what) {
			out = append(out, m.what)
		}
	}
	return out
}

// DietLine is whether a plate suits a diet, by its recipes.
type DietLine struct {
	Diet  Diet              `json:"diet"`
	State string            `json:"state" enum:"yes,no,not-known,not-defined" doc:"not-known: a recipe is not known, or its words suggest otherwise"`
	Said  []message.Message `json:"said" nullable:"false" doc:"What speaks against it, or is not known"`
}

// DietLines says of every diet whether a plate suits it. What is not known is not yes.
func (b *Book) DietLines(elements []Element) []DietLine {
	out := []DietLine{}
	for _, d := range Diets() {
		n := Needs{Diets: []Diet{d}}
		l := DietLine{Diet: d, State: "yes", Said: []message.Message{}}
		if len(b.Undefined(n)) > 0 {
			l.State = "not-defined"
			l.Said = append(l.Said, message.Of("diet.not-defined", "diet", string(d)))
			out = append(out, l)
			continue
		}
		for _, a := range b.Against(elements, n) {
			l.State = "no"
			l.Said = addOnce(l.Said, message.Of("diet.has", "what", a.Named(b.data.Kitchen.SafetyCode), "component", a.Component, "from", a.From))
		}
		if l.State == "yes" {
			if unknown := b.UnknownRecipes(elements); len(unknown) > 0 {
				l.State = "not-known"
				l.Said = append(l.Said, message.Of("diet.not-known", "unknown", unknown))
			}
			for _, s := range b.suggestedAgainst(elements, n) {
				l.State = "not-known"
				l.Said = addOnce(l.Said, message.Of("diet.suggests", "word", s.Word, "what", s.What(), "in", s.In))
			}
		}
		out = append(out, l)
	}
	return out
}

func checkDiets(f finder, list []Diet) {
	for i, d := range list {
		oneOf(f.at("[%d]", i), d, Diets())
	}
}

// checkHouseDiets checks what a house says of its diets.
func checkHouseDiets(f finder, list []DietRule) {
	seen := map[Diet]bool{}
	for i := range list {
		r, g := &list[i], f.at("[%d]", i)
		oneOf(g.at("diet"), r.Diet, HouseDiets())
		if seen[r.Diet] {
			g.at("diet").say("fault.diet-twice", "diet", string(r.Diet))
		}
		seen[r.Diet] = true
		checkMatters(g.at("matters"), r.Matters)
		checkAllergens(g.at("allergens"), r.Allergens)
	}
}
