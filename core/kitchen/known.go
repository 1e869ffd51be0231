package kitchen

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"time"
)

// Unknown is not none: what a component's allergens are is known when its recipe was entered, and somebody said that it is
// complete as it stands. A recipe that was changed since has to be read again.

// Signature says that a recipe is complete.
type Signature struct {
	By string    `json:"by" maxLength:"120" doc:"Who said so"`
	At time.Time `json:"at"`
	Of string    `json:"of" maxLength:"80" doc:"The recipe that was read; another one is not signed"`
}

// RecipeMark stands for a component's recipe as it is now: what is bought for it, what goes into it, and what it says of its
// allergens and of what diets ask after. Amounts do not count: more butter brings in no other allergen.
func (c *Component) RecipeMark() string {
	type bought struct {
		Name      string
		Allergens []Allergen
		Matters   []Matter
		Certified []Diet
	}
	var recipe struct {
		Allergens []Allergen
		Bought    []bought
		Uses      []string
	}
	recipe.Allergens = append([]Allergen{}, c.Allergens...)
	for _, g := range c.Ingredients {
		recipe.Bought = append(recipe.Bought, bought{g.Name, append([]Allergen{}, g.Allergens...),
			append([]Matter{}, g.Matters...), append([]Diet{}, g.Certified...)})
	}
	for _, u := range c.Uses {
		recipe.Uses = append(recipe.Uses, u.Component)
	}
	raw, err := json.Marshal(recipe)
	if err != nil {
		panic("kitchen: a recipe that cannot be written: " + err.Error())
	}
	h := sha256.Sum256(raw)
	return hex.EncodeToString(h[:12])
}

// Sign says that a component's recipe is complete as it is.
func (c *Component) Sign(by string, at time.Time) { c.Signed = &Signature{by, at, c.RecipeMark()} }

// Entered reports whether a component's recipe was entered: what is bought for it, or what
// goes into it. Of one whose recipe was not, the allergens are not known, whatever it says
// of them.
func (c *Component) Entered() bool { return len(c.Ingredients) > 0 || len(c.Uses) > 0 }

// Complete reports whether somebody said that the recipe is complete, as it is now.
func (c *Component) Complete() bool { return c.Signed != nil && c.Signed.Of == c.RecipeMark() }

// Known reports whether what a component brings in is known: its recipe was entered, and somebody said that it is complete.
func (c *Component) Known() bool { return c.Entered() && c.Complete() }

// UnknownIn names the components that are not known among a component and
// everything that goes into it.
func (b *Book) UnknownIn(component string) []string {
	out := []string{}
	b.unknownIn(component, map[string]bool{}, &out)
	return out
}

// UnknownRecipes names the components of a plate that are not known, and those that
// go into them: what the plate's allergens are not known for.
func (b *Book) UnknownRecipes(elements []Element) []string {
	out, seen := []string{}, map[string]bool{}
	for _, e := range elements {
		b.unknownIn(e.Component, seen, &out)
	}
	return out
}

func (b *Book) unknownIn(id string, seen map[string]bool, out *[]string) {
	c := b.components[id]
	if c == nil || seen[id] {
		return
	}
	seen[id] = true
	if !c.Known() {
		*out = append(*out, c.Name)
	}
	for _, u := range c.Uses {
		b.unknownIn(u.Component, seen, out)
	}
}
