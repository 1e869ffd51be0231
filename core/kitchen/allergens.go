package kitchen

// Allergen is one that law wants named.
type Allergen string

// EUAllergens are the fourteen of Regulation (EU) 1169/2011, Annex II, in its
// order.
func EUAllergens() []Allergen {
	return []Allergen{"gluten", "crustaceans", "eggs", "fish", "peanuts", "soybeans", "milk", "nuts", "celery",
		"mustard", "sesame", "sulphites", "lupin", "molluscs"}
}

// usName gives the name under which the United States (FALCPA and FASTER acts)
// know an allergen of Annex II; those not in the map are not among their nine.
var usName = map[Allergen]string{
	"milk": "milk", "eggs": "eggs", "fish": "fish", "crustaceans": "crustacean shellfish", "nuts": "tree nuts",
	"peanuts": "peanuts", "gluten": "wheat", "soybeans": "soybeans", "sesame": "sesame",
}

func checkAllergens(f finder, list []Allergen) {
	for i, a := range list {
		oneOf(f.at("[%d]", i), a, EUAllergens())
	}
}

// Source says where an allergen comes from: the component, and the ingredient or
// component inside it.
type Source struct {
	Allergen  Allergen `json:"allergen"`
	Component string   `json:"component"`
	From      string   `json:"from" doc:"The ingredient or component that brings it in"`
}

// Allergens returns every allergen of a component with its sources, following
// what goes into it; in the order of Annex II.
func (b *Book) Allergens(component string) []Source {
	found := b.sources(component)
	var out []Source
	for _, a := range EUAllergens() {
		for _, s := range found {
			if s.Allergen == a {
				out = append(out, s)
			}
		}
	}
	return out
}

func (b *Book) sources(id string) []Source {
	c := b.components[id]
	var out []Source
	named := map[Source]bool{}
	add := func(a Allergen, from string) {
		s := Source{a, c.Name, from}
		if !named[s] {
			named[s] = true
			out = append(out, s)
		}
	}
	for _, a := range c.Allergens {
		add(a, c.Name)
	}
	for _, g := range c.Ingredients {
		for _, a := range g.Allergens {
			add(a, g.Name)
		}
	}
	for _, u := range c.Uses {
		for _, s := range b.sources(u.Component) {
			add(s.Allergen, s.From+" in "+s.Component)
		}
	}
	return out
}

// DishAllergens returns the allergens of a list of elements with their sources.
func (b *Book) DishAllergens(elements []Element) []Source {
	var out []Source
	for _, a := range EUAllergens() {
		seen := map[string]bool{}
		for _, e := range elements {
			if seen[e.Component] {
				continue
			}
			seen[e.Component] = true
			for _, s := range b.Allergens(e.Component) {
				if s.Allergen == a {
					out = append(out, s)
				}
			}
		}
	}
	return out
}

// AllergenName is how an allergen is called under a code: the names of Annex II,
// or the nine of the United States ("" for one that is not among them).
func AllergenName(a Allergen, code SafetyCode) string {
	if code == CodeFDA {
		return usName[a]
	}
	return string(a)
}

// AllergenTitle is what stands on the page: the code's name, or that of Annex II for one
// that the code does not know. The US acts name wheat, not gluten: the other cereals with
// gluten are said with it, so that nothing is hidden.
func AllergenTitle(a Allergen, code SafetyCode) string {
	switch name := AllergenName(a, code); {
	case name == "":
		return string(a)
	case code == CodeFDA && a == "gluten":
		return "wheat or another cereal with gluten"
	default:
		return name
	}
}

// AllergenLine is one allergen of a plate under the kitchen's code, with everything that
// brings it in.
type AllergenLine struct {
	Allergen Allergen `json:"allergen"`
	Name     string   `json:"name" doc:"As the kitchen's code calls it"`
	Named    bool     `json:"named" doc:"The kitchen's code wants it named; false for one that only the other code knows"`
	From     []string `json:"from" nullable:"false" doc:"Where it comes from: component, and what brings it into it"`
}

// AllergenLines gathers the allergens of a plate: first those that the code wants named,
// in the order of Annex II.
func (b *Book) AllergenLines(elements []Element, code SafetyCode) []AllergenLine {
	out := []AllergenLine{}
	for _, named := range []bool{true, false} {
		for _, s := range b.DishAllergens(elements) {
			if (AllergenName(s.Allergen, code) != "") != named {
				continue
			}
			from := s.Component
			if s.From != s.Component {
				from += ": " + s.From
			}
			if n := len(out); n > 0 && out[n-1].Allergen == s.Allergen {
				out[n-1].From = append(out[n-1].From, from)
				continue
			}
			out = append(out, AllergenLine{s.Allergen, AllergenTitle(s.Allergen, code), named, []string{from}})
		}
	}
	return out
}
