package kitchen_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// beside is a kitchen of a chip and a crumbed escalope, with what they are done on, and a guest's plate of the chip alone.
func beside(t *testing.T, change func(chip, escalope *kitchen.Component)) []kitchen.Contact {
	t.Helper()
	d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
	make := func(id string) kitchen.Component {
		return kitchen.Component{ID: id, Name: strings.ToUpper(id[:1]) + id[1:], Section: d.Sections[0].ID, Unit: kitchen.Grams,
			GramsPerUnit: 1, DensityGPerMl: 1,
			Steps: []kitchen.Step{{ID: "s", Name: "Fry", Phase: kitchen.PickUp, Hands: kitchen.Both,
				Time:      kitchen.StepTime{Fixed: kitchen.Exactly(60)},
				Equipment: &kitchen.EquipmentNeed{Kind: kitchen.Fryer, Units: 1}}}}
	}
	chip, escalope := make("chip"), make("escalope")
	escalope.Ingredients = []kitchen.Ingredient{{Name: "crumbed loin", Amount: 1, Unit: "g", Allergens: []kitchen.Allergen{"gluten"},
		Matters: []kitchen.Matter{kitchen.Pork}}}
	change(&chip, &escalope)
	for _, k := range kitchen.EquipmentKinds() {
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "one-" + string(k), Name: string(k), Kind: k, Capacity: 4, Unit: "place"})
	}
	d.Components = []kitchen.Component{chip, escalope}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	both := []kitchen.Element{{Component: "chip"}, {Component: "escalope"}}
	no := kitchen.Needs{Without: []kitchen.Allergen{"gluten"}}
	require.Empty(t, b.Contacts(both[:1], kitchen.Needs{}, both), "who eats everything has no such risk")
	require.Empty(t, b.Contacts(both[:1], kitchen.Needs{Without: []kitchen.Allergen{"milk"}}, both), "nothing beside it has milk")
	require.Empty(t, b.Contacts(both[:1], no, both[:1]), "the escalope is not served")
	require.Empty(t, b.Contacts(both[1:], no, both), "what has it itself is no question of contact")
	diet := b.Contacts(both[:1], kitchen.Needs{Diets: []kitchen.Diet{kitchen.Vegetarian}}, both)
	got := b.Contacts(both[:1], no, both)
	require.Len(t, diet, len(got), "a diet's own pan has the same risks")
	return got
}

// Oil is everybody's for the whole day, a hot surface everybody's in its phase, water and a board the section's. Common practice, no
// source.
func TestHowSomethingGetsToAPlate(t *testing.T) {
	said := func(change func(chip, escalope *kitchen.Component)) string {
		var out []string
		for _, c := range beside(t, change) {
			out = append(out, c.Said.Text)
		}
		return strings.Join(out, "\n")
	}
	oil := "Chip: the same oil also fries Escalope (gluten). Fresh oil, or a pan of its own."
	require.Equal(t, oil, said(func(_, _ *kitchen.Component) {}))
	require.Equal(t, oil, said(func(_, e *kitchen.Component) {
		e.Steps = append(e.Steps, kitchen.Step{ID: "x", Name: "Serve", Phase: kitchen.PickUp, Hands: kitchen.Both, Time: e.Steps[0].Time})
		e.Steps[0].Phase = kitchen.Ahead
	}), "the oil stays in the fryer")
	on := func(kind kitchen.EquipmentKind, name string) func(chip, escalope *kitchen.Component) {
		return func(c, e *kitchen.Component) {
			for _, x := range []*kitchen.Component{c, e} {
				x.Steps[0].Name = name
				x.Steps[0].Equipment.Kind = kind
				if kind == "" {
					x.Steps[0].Equipment = nil
				}
			}
		}
	}
	require.Contains(t, said(on(kitchen.Plancha, "Sear")), "is cooked on the plancha too")
	require.Contains(t, said(on(kitchen.Burner, "Blanch")), "water also cooks Escalope (gluten). Fresh water in a clean pot.")
	require.Empty(t, said(on(kitchen.Burner, "Sear")), "each has its own pan")
	require.Empty(t, said(on(kitchen.Oven, "Roast")))
	require.Contains(t, said(on("", "Slice thinly")), "A clean board and knife, before the others.")
	require.Empty(t, said(on("", "Dress")))
	require.Empty(t, said(func(c, e *kitchen.Component) {
		on("", "Slice thinly")(c, e)
		e.Ingredients = append([]kitchen.Ingredient{{Name: "veal", Amount: 1, Unit: "g"}}, e.Ingredients[0])
	}), "what is crumbed later leaves no crumb on the board on which it is cut")
	require.Empty(t, said(func(c, e *kitchen.Component) {
		on(kitchen.Burner, "Blanch")(c, e)
		e.Section = kitchen.Starter("K", "UTC", kitchen.CodeUKEU).Sections[1].ID
	}), "another section has its own water")
	require.Empty(t, said(func(c, e *kitchen.Component) {
		on(kitchen.Grill, "Grill")(c, e)
		e.Steps[0].Phase = kitchen.Ahead
	}), "the grill is cleaned before service")
}

// A plate for a guest says by its recipes whether it suits, what it has, or what is not known.
func TestAPlateForAGuest(t *testing.T) {
	state := func(n kitchen.Needs, change func(fish, puree *kitchen.Component)) kitchen.GuestPlate {
		b, d := pureeDish(change)
		es := d.Specification.Elements
		return b.PlateFor(d, es, &kitchen.TableOrder{Count: 1, Without: n.Without, Diets: n.Diets}, es)
	}
	milk := kitchen.Needs{Without: []kitchen.Allergen{"milk"}}
	g := state(milk, func(_, _ *kitchen.Component) {})
	require.Equal(t, "suits", g.State)
	require.Equal(t, []string{"no milk"}, g.Needs)
	g = state(milk, func(_, p *kitchen.Component) { p.Allergens = milk.Without })
	require.Equal(t, "contains", g.State)
	require.Equal(t, "milk in Purée (Purée)", g.Said[0].Text)
	require.Equal(t, "not-known", state(milk, func(_, p *kitchen.Component) { p.Signed = &kitchen.Signature{By: "A", Of: "x"} }).State)
	require.Equal(t, "not-known", state(milk, func(_, p *kitchen.Component) { p.Steps[0].Name = "Blend with butter" }).State)
	require.Equal(t, "contains", state(milk, func(f, p *kitchen.Component) {
		f.Signed, p.Allergens = &kitchen.Signature{By: "A", Of: "x"}, milk.Without
	}).State, "what it has weighs more than what is not known")
	require.Equal(t, "not-defined", state(kitchen.Needs{Diets: []kitchen.Diet{kitchen.Kosher}}, func(_, _ *kitchen.Component) {}).State)
}

// What is made ahead for a guest is cut before what they must not have; what is made to order is told at the stove.
func TestContactsOfWhatIsMadeAhead(t *testing.T) {
	ahead := func(change func(fish, puree *kitchen.Component)) []string {
		b, _ := pureeDish(func(f, p *kitchen.Component) {
			for _, c := range []*kitchen.Component{f, p} {
				c.Store, c.BatchYield, c.ShelfLifeH = kitchen.Chilled, 100, 24
			}
			f.Section = p.Section
			p.Allergens = []kitchen.Allergen{"milk"}
			change(f, p)
		})
		data := b.Data()
		data.Services[0].Tables[0].Orders[0].Variant = "no purée"
		data.Services[0].Tables[0].Orders = append(data.Services[0].Tables[0].Orders, kitchen.TableOrder{Dish: "dish", Count: 1})
		data.Services[0].Tables[0].Covers = 2
		b, err := kitchen.NewBook(data)
		require.NoError(t, err)
		var out []string
		for id, list := range b.ContactsAhead(&b.Services()[0]) {
			for _, m := range list {
				out = append(out, id+": "+m.Text)
			}
		}
		return out
	}
	got := ahead(func(_, _ *kitchen.Component) {})
	require.Len(t, got, 1)
	require.Contains(t, got[0], "Fish: Purée (milk) is cut at")
	require.Empty(t, ahead(func(_, p *kitchen.Component) { p.Allergens = nil }))
	require.Empty(t, ahead(func(f, p *kitchen.Component) { f.Steps[0].Name, p.Steps[0].Name = "Season", "Season" }))
	require.Empty(t, ahead(func(f, p *kitchen.Component) { f.Steps[0].Phase, p.Steps[0].Phase = kitchen.PickUp, kitchen.PickUp }))
}
