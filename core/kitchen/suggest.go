package kitchen

import (
	"slices"
	"strings"
)

// Words that suggest an allergen. They never decide: what a recipe has is what somebody said of it, and a word that points to
// something that nobody said is pointed out. From the lists of Regulation (EU) 1169/2011, Annex II, and the United States' FALCPA
// and FASTER acts, with the trade's usual words for what is on them (common practice, no source).

// suggesting are the words of each allergen, as they stand in names and steps; the longest that fits decides.
var suggesting = map[Allergen][]string{
	"gluten": {"wheat", "flour", "bread", "breadcrumb", "breadcrumbs", "crumb", "crumbs", "panko", "rye", "barley", "oat", "oats", "spelt",
		"semolina",
		"couscous", "bulgur", "pasta", "noodle", "noodles", "filo", "pastry", "biscuit", "brioche", "malt", "beer", "ale", "seitan",
		"kamut", "farro", "dough",
		"batter", "roux", "soy sauce"},
	"crustaceans": {"prawn", "prawns", "shrimp", "shrimps", "crab", "lobster", "langoustine", "langoustines", "crayfish", "krill"},
	"eggs":        {"egg", "eggs", "yolk", "yolks", "egg white", "mayonnaise", "meringue", "hollandaise", "aioli", "custard"},
	"fish": {"fish", "hake", "cod", "salmon", "trout", "tuna", "anchovy", "anchovies", "sardine", "sardines", "mackerel", "turbot", "bass",
		"bream", "haddock",
		"herring", "roe", "fish sauce", "worcester sauce", "dashi", "bonito"},
	"peanuts":  {"peanut", "peanuts", "groundnut", "groundnuts", "satay"},
	"soybeans": {"soy", "soya", "tofu", "miso", "tamari", "edamame", "tempeh", "soy sauce", "soya sauce", "lecithin"},
	"milk": {"milk", "butter", "cream", "cheese", "yoghurt", "yogurt", "buttermilk", "whey", "ghee", "curd", "crème fraîche", "mascarpone",
		"ricotta", "parmesan", "feta", "casein", "ice cream", "brown butter", "clotted cream", "fresh cheese"},
	"nuts": {"almond", "almonds", "hazelnut", "hazelnuts", "walnut", "walnuts", "cashew", "cashews", "pecan", "pecans", "pistachio",
		"pistachios", "macadamia",
		"brazil nut", "nut", "nuts", "praline", "marzipan", "frangipane"},
	"celery":  {"celery", "celeriac", "celery salt"},
	"mustard": {"mustard", "mustard seed", "mustard seeds", "dijon"},
	"sesame":  {"sesame", "tahini", "halva", "gomasio", "hummus"},
	"sulphites": {"sulphite", "sulphites", "sulfite", "sulfites", "wine", "vinegar", "cider", "vermouth", "dried apricot", "dried apricots",
		"raisin", "raisins",
		"sultana", "sultanas"},
	"lupin": {"lupin", "lupine", "lupin flour"},
	"molluscs": {"mussel", "mussels", "clam", "clams", "oyster", "oysters", "scallop", "scallops", "squid", "octopus", "cuttlefish",
		"snail", "snails", "whelk",
		"whelks", "oyster sauce"},
}

// innocent are words in which a suggesting one stands for something else, the longest first.
var innocent = longestFirst([]string{"coconut milk", "oat milk", "almond milk", "soya milk", "soy milk", "rice milk", "coconut cream",
	"cocoa butter", "peanut butter",
	"almond butter", "nut butter", "cream of tartar", "butternut", "butter bean", "butter beans", "butter lettuce", "rice flour",
	"rice noodle", "rice noodles",
	"corn flour", "cornflour", "chickpea flour", "gram flour", "potato flour", "buckwheat", "buckwheat flour", "nutmeg", "coconut",
	"doughnut", "eggplant",
	"oyster mushroom", "oyster mushrooms", "fish kettle", "fish slice", "chestnut", "chestnuts", "water chestnut", "lemon curd",
	"bean curd", "almond flour",
	"vegan butter", "crab apple", "crab apples", "sea bass plate", "ale glass"})

// innocentBut are innocent words that bring in something of their own.
var innocentBut = map[string]Allergen{"almond milk": "nuts", "soya milk": "soybeans", "soy milk": "soybeans", "oat milk": "gluten",
	"peanut butter": "peanuts",
	"almond butter": "nuts", "nut butter": "nuts", "bean curd": "soybeans", "almond flour": "nuts", "lemon curd": "eggs"}

// sought and innocentSought are the words as they are looked for: between spaces.
var (
	sought         = spacedOf(suggesting)
	innocentSought = spaced(innocent)
)

func spacedOf[K comparable](m map[K][]string) map[K][]string {
	out := map[K][]string{}
	for k, list := range m {
		out[k] = spaced(list)
	}
	return out
}

func spacedWords(text string) string { return " " + words(text) + " " }

// WordIn is the longest of some words or groups of words that stands whole in a text, in large letters or small; empty when none does.
func WordIn(text string, list []string) string {
	return longestIn(spacedWords(text), list, spaced(list))
}

// without is a text without a word.
func without(t, word string) string { return strings.ReplaceAll(t, word, " ") }

// longestIn is the longest of some words that stands in a text; empty when none does.
func longestIn(t string, list, sought []string) (best string) {
	for i, w := range list {
		if len(w) > len(best) && strings.Contains(t, sought[i]) {
			best = w
		}
	}
	return best
}

func spaced(list []string) []string {
	out := make([]string, len(list))
	for i, w := range list {
		out[i] = spacedWords(w)
	}
	return out
}

// Suggestion is a word that suggests an allergen, or another matter.
type Suggestion struct {
	Allergen Allergen `json:"allergen,omitempty"`
	Matter   Matter   `json:"matter,omitempty"`
	Word     string   `json:"word"`
	In       string   `json:"in" doc:"The name in which it stands"`
	Where    string   `json:"where" enum:"ingredient,step,name" doc:"What that is"`
}

// What is what the word suggests.
func (s *Suggestion) What() string {
	if s.Matter != "" {
		return string(s.Matter)
	}
	return string(s.Allergen)
}

func (s *Suggestion) same(o *Suggestion) bool {
	return s.Allergen == o.Allergen && s.Matter == o.Matter
}

// suggests lists the allergens that the words of a text suggest, in the order of Annex II, with the word of each.
func suggests(text string) (out []Suggestion) {
	t := spacedWords(text)
	own := map[Allergen]string{}
	for i, w := range innocent {
		if in := innocentSought[i]; strings.Contains(t, in) {
			if a, brings := innocentBut[w]; brings {
				own[a] = w
			}
			t = without(t, in)
		}
	}
	for _, a := range EUAllergens() {
		best := longestIn(t, suggesting[a], sought[a])
		if len(own[a]) >= len(best) {
			best = own[a]
		}
		if best != "" {
			out = append(out, Suggestion{Allergen: a, Word: best, In: text})
		}
	}
	return append(out, suggestsMatter(text)...)
}

// Suggestions points out what the words of a component suggest and nobody said: an ingredient whose name suggests what it is not
// marked with, and a step or the component's own name that suggests what nothing in it brings in. A step with raw fish or egg that
// no heat touches suggests that it is eaten raw.
func (b *Book) Suggestions(c *Component) []Suggestion {
	out := []Suggestion{}
	for i := range c.Ingredients {
		g := &c.Ingredients[i]
		for _, s := range suggests(g.Name) {
			said := slices.Contains(g.Allergens, s.Allergen) || slices.Contains(c.Allergens, s.Allergen)
			if s.Matter != "" {
				said = slices.Contains(g.MattersOf(), s.Matter)
			}
			if !said {
				s.Where = "ingredient"
				out = append(out, s)
			}
		}
	}
	brings := b.bringsIn(c)
	add := func(s Suggestion, where string) {
		if !brings[Suggestion{Allergen: s.Allergen, Matter: s.Matter}] && !slices.ContainsFunc(out,
			func(o Suggestion) bool { return o.same(&s) }) {
			s.Where = where
			out = append(out, s)
		}
	}
	for _, s := range suggests(c.Name) {
		add(s, "name")
	}
	for i := range c.Steps {
		for _, s := range suggests(c.Steps[i].Name) {
			add(s, "step")
		}
		if word := c.eatenRaw(i); word != "" {
			add(Raw.suggestion(word, c.Steps[i].Name), "step")
		}
	}
	return out
}

// Has reports whether a component as it is given, in the book or not, has an allergen by its words or its recipe.
func (b *Book) Has(c *Component, a Allergen) bool { return b.bringsIn(c)[Suggestion{Allergen: a}] }

// HasMatter reports the same of a matter.
func (b *Book) HasMatter(c *Component, m Matter) bool { return b.bringsIn(c)[Suggestion{Matter: m}] }

// bringsIn is what a component has by its own words and by its recipe, with what goes into it.
func (b *Book) bringsIn(c *Component) map[Suggestion]bool {
	brings := map[Suggestion]bool{}
	for _, a := range c.Allergens {
		brings[Suggestion{Allergen: a}] = true
	}
	for i := range c.Ingredients {
		for _, a := range c.Ingredients[i].Allergens {
			brings[Suggestion{Allergen: a}] = true
		}
		for _, m := range c.Ingredients[i].MattersOf() {
			brings[Suggestion{Matter: m}] = true
		}
	}
	for _, u := range c.Uses {
		if b.components[u.Component] != nil {
			for _, s := range b.sources(u.Component) {
				brings[Suggestion{Allergen: s.Allergen}] = true
			}
			for _, m := range b.matters(u.Component) {
				brings[Suggestion{Matter: m.what}] = true
			}
		}
	}
	return brings
}

// eatenRaw is the word of a danger with raw fish or raw egg in a step of a component that nothing heats from there on; empty when
// there is none.
func (c *Component) eatenRaw(step int) string {
	for _, d := range c.Steps[step].Dangers {
		if d != "raw-fish" && d != "raw-egg" {
			continue
		}
		if !slices.ContainsFunc(c.Steps, func(s Step) bool { return s.Equipment != nil && s.Equipment.Kind.Heats() }) {
			return strings.ReplaceAll(string(d), "-", " ")
		}
	}
	return ""
}

func longestFirst(list []string) []string {
	slices.SortStableFunc(list, func(a, b string) int { return len(b) - len(a) })
	return list
}
