package kitchen

// Entered reports whether a component's recipe was entered: what is bought for it, or what
// goes into it. Of one whose recipe was not, the allergens are not known, whatever it says
// of them.
func (c *Component) Entered() bool { return len(c.Ingredients) > 0 || len(c.Uses) > 0 }

// UnknownIn names the components whose recipe was not entered among a component and
// everything that goes into it.
func (b *Book) UnknownIn(component string) []string {
	out := []string{}
	b.unknownIn(component, map[string]bool{}, &out)
	return out
}

// UnknownRecipes names the components of a plate whose recipe was not entered, and those that
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
	if !c.Entered() {
		*out = append(*out, c.Name)
	}
	for _, u := range c.Uses {
		b.unknownIn(u.Component, seen, out)
	}
}
