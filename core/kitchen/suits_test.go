package kitchen_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// pureeDish is a dish of fish and a purée, with a variant that leaves the purée out; every recipe is read.
func pureeDish(change func(fish, puree *kitchen.Component)) (*kitchen.Book, *kitchen.Dish) {
	d := twoOnAPlate()
	d.Components[0].Name, d.Components[1].Name = "Fish", "Purée"
	for i := range d.Components {
		d.Components[i].Ingredients = []kitchen.Ingredient{{Name: "salt", Amount: 1, Unit: "g"}}
	}
	d.Dishes[0].Specification.Variants = []kitchen.Variant{{Name: "no purée", Changes: []kitchen.Change{{Element: 2, Kind: "leave-out"}}}}
	change(&d.Components[0], &d.Components[1])
	for i := range d.Components {
		if d.Components[i].Signed == nil {
			d.Components[i].Sign("Ada", time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC))
		}
	}
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Menu: []kitchen.MenuLine{{Dish: "dish", Share: 100}},
		Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 1, SeatedAt: 1140, Needs: []kitchen.GuestNeed{}, Orders: []kitchen.TableOrder{
			{Dish: "dish", Count: 1, Without: []kitchen.Allergen{"milk"}}}}}}}
	b, err := kitchen.NewBook(d)
	if err != nil {
		panic(err)
	}
	dish, _ := b.Dish("dish")
	return b, dish
}

// A guest without milk gets the plate as written where its recipes have none and nothing is in doubt; the variant where the purée
// has it, where a step of it says so and nobody marked it, or where it is not known; and nothing where the fish has it too.
func TestWhichPlateSuitsAGuest(t *testing.T) {
	milk := []kitchen.Allergen{"milk"}
	for name, x := range map[string]struct {
		change  func(fish, puree *kitchen.Component)
		variant string
		ok      bool
	}{
		"nothing of it":       {func(_, _ *kitchen.Component) {}, "", true},
		"the purée has it":    {func(_, p *kitchen.Component) { p.Allergens = milk }, "no purée", true},
		"its step says so":    {func(_, p *kitchen.Component) { p.Steps[0].Name = "Blend with the milk" }, "no purée", true},
		"a step says another": {func(_, p *kitchen.Component) { p.Steps[0].Name = "Blend with the celery" }, "", true},
		"it is not known": {func(_, p *kitchen.Component) { p.Signed = &kitchen.Signature{By: "Ada", Of: "something else"} }, "no purée",
			true},
		"neither is known": {func(f, p *kitchen.Component) {
			f.Signed, p.Signed = &kitchen.Signature{By: "Ada", Of: "x"}, &kitchen.Signature{By: "Ada", Of: "x"}
		}, "no purée", true},
		"the fish is in doubt": {func(f, _ *kitchen.Component) { f.Steps[0].Name = "Fry in butter" }, "", true},
		"the fish has it":      {func(f, _ *kitchen.Component) { f.Allergens = milk }, "", false},
	} {
		b, d := pureeDish(x.change)
		v, ok := b.VariantFor(d, kitchen.Needs{Without: milk})
		require.Equal(t, x.ok, ok, name)
		require.Equal(t, x.variant, v, name)
		v, ok = b.VariantFor(d, kitchen.Needs{})
		require.True(t, ok)
		require.Empty(t, v, "who eats everything has the plate as written: %s", name)
	}
}

// What was ordered for a guest who must not have it is said once for the plate, with the variant that would do.
func TestWhatWasOrderedAgainstANeedIsSaid(t *testing.T) {
	said := func(change func(fish, puree *kitchen.Component)) []string {
		b, _ := pureeDish(change)
		_, problems := b.TableOrders(&b.Services()[0])
		return message.Texts(problems)
	}
	milk := []kitchen.Allergen{"milk"}
	require.Empty(t, said(func(_, _ *kitchen.Component) {}))
	require.Equal(t, []string{"T: Dish has milk from Purée, and its guest must not have it. The variant “no purée” is without it by its recipes."},
		said(func(_, p *kitchen.Component) { p.Allergens = milk }))
	require.Equal(t, []string{"T: Dish has milk from Fish, and its guest must not have it. No variant is without it."},
		said(func(f, p *kitchen.Component) { f.Allergens, p.Allergens = milk, milk }))
}
