package kitchen_test

import (
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// Every rule of a component and a dish, broken one at a time: the path names the place.
func TestEveryFaultHasItsPath(t *testing.T) {
	n := func(v int) *int { return &v }
	f := func(v float64) *float64 { return &v }
	hake := func(change func(c *kitchen.Component)) func(d *kitchen.Data) string {
		return func(d *kitchen.Data) string {
			i := slices.IndexFunc(d.Components, func(c kitchen.Component) bool { return c.ID == "hake" })
			c := d.Components[i].Clone()
			change(&c)
			d.Components[i] = c
			return "components[" + strconv.Itoa(i) + "]."
		}
	}
	dish := func(change func(d *kitchen.Dish)) func(d *kitchen.Data) string {
		return func(d *kitchen.Data) string {
			x := d.Dishes[3]
			x.Specification.Elements = slices.Clone(x.Specification.Elements)
			change(&x)
			d.Dishes[3] = x
			return "dishes[3]."
		}
	}
	for path, change := range map[string]func(d *kitchen.Data) string{
		"id":                    hake(func(c *kitchen.Component) { c.ID = "Hake!" }),
		"name":                  hake(func(c *kitchen.Component) { c.Name = " " }),
		"unit":                  hake(func(c *kitchen.Component) { c.Unit = "bucket" }),
		"grams_per_unit":        hake(func(c *kitchen.Component) { c.GramsPerUnit = 0 }),
		"density_g_per_ml":      hake(func(c *kitchen.Component) { c.DensityGPerMl = 0 }),
		"shelf_life_h":          hake(func(c *kitchen.Component) { c.ShelfLifeH = -1 }),
		"store":                 hake(func(c *kitchen.Component) { c.Store = "pocket" }),
		"allergens[0]":          hake(func(c *kitchen.Component) { c.Allergens = []kitchen.Allergen{"love"} }),
		"ingredients[0].amount": hake(func(c *kitchen.Component) { c.Ingredients = []kitchen.Ingredient{{Name: "Hake", Amount: -4}} }),
		"ingredients[0].trim_percent": hake(func(c *kitchen.Component) {
			c.Ingredients = []kitchen.Ingredient{{Name: "Hake", Amount: 4, TrimPercent: 100}}
		}),
		"uses[0].component":    hake(func(c *kitchen.Component) { c.Uses = []kitchen.Use{{Component: "none", Amount: 1}} }),
		"by_products[0].grams": hake(func(c *kitchen.Component) { c.ByProducts = []kitchen.ByProduct{{Component: "skin-crisp"}} }),
		"hold.best":            hake(func(c *kitchen.Component) { c.Hold = kitchen.Wait{Shortest: 90, Best: n(60)} }),
		"hold.longest":         hake(func(c *kitchen.Component) { c.Hold = kitchen.Wait{Shortest: 90, Best: n(120), Longest: n(100)} }),
		"hold.shortest":        hake(func(c *kitchen.Component) { c.Hold = kitchen.Wait{Shortest: -5} }),
		"steps[1].id": hake(func(c *kitchen.Component) {
			c.Steps[1].ID = c.Steps[0].ID
			c.Steps[1].After, c.Steps[2].After = nil, nil
		}),
		"steps[1].phase":           hake(func(c *kitchen.Component) { c.Steps[1].Phase = "sometime" }),
		"steps[1].hands":           hake(func(c *kitchen.Component) { c.Steps[1].Hands = "three" }),
		"steps[1].section":         hake(func(c *kitchen.Component) { c.Steps[1].Section = "attic" }),
		"steps[1].time.fixed.high": hake(func(c *kitchen.Component) { c.Steps[1].Time.Fixed = kitchen.Estimate{Low: 1, Likely: 5, High: 3} }),
		"steps[1].batch.portions":  hake(func(c *kitchen.Component) { c.Steps[1].Batch = &kitchen.BatchLimit{Run: kitchen.InTurn} }),
		"steps[1].batch.run":       hake(func(c *kitchen.Component) { c.Steps[1].Batch = &kitchen.BatchLimit{Portions: 2, Run: "wild"} }),
		"steps[1].equipment.kind": hake(func(c *kitchen.Component) {
			c.Steps[1].Equipment = &kitchen.EquipmentNeed{Kind: "grill",
				Units: 1}
		}),
		"steps[2].checks[0].target_c": hake(func(c *kitchen.Component) {
			c.Steps[2].Checks = []kitchen.DoneCheck{{Kind: "core",
				TargetC: f(900)}}
		}),
		"steps[1].dangers[0]": hake(func(c *kitchen.Component) { c.Steps[1].Dangers = []kitchen.Danger{"boredom"} }),
		"steps[1].doneness[0].seconds": hake(func(c *kitchen.Component) {
			c.Steps[1].Doneness = []kitchen.Doneness{{Name: "rare", Seconds: -9999}}
		}),
		"course":                               dish(func(d *kitchen.Dish) { d.Course = "elevenses" }),
		"specification.vessel":                 dish(func(d *kitchen.Dish) { d.Specification.Vessel = "bathtub" }),
		"specification.vessel_temp":            dish(func(d *kitchen.Dish) { d.Specification.VesselTemp = "tepid" }),
		"specification.stand_limit_s":          dish(func(d *kitchen.Dish) { d.Specification.StandLimitS = -1 }),
		"specification.elements[0].seconds":    dish(func(d *kitchen.Dish) { d.Specification.Elements[0].Seconds = 0 }),
		"specification.elements[0].hands":      dish(func(d *kitchen.Dish) { d.Specification.Elements[0].Hands = 3 }),
		"specification.elements[0].at.hour":    dish(func(d *kitchen.Dish) { d.Specification.Elements[0].At.Hour = 13 }),
		"specification.elements[0].on":         dish(func(d *kitchen.Dish) { d.Specification.Elements[0].On = 9 }),
		"specification.elements[0].temp":       dish(func(d *kitchen.Dish) { d.Specification.Elements[0].Temp = "lukewarm" }),
		"specification.elements[0].tastes[0]":  dish(func(d *kitchen.Dish) { d.Specification.Elements[0].Tastes = []kitchen.Taste{"beige"} }),
		"specification.elements[0].form.kind":  dish(func(d *kitchen.Dish) { d.Specification.Elements[0].Form.Kind = "spiral" }),
		"specification.elements[0].form.count": dish(func(d *kitchen.Dish) { d.Specification.Elements[0].Form.Count = 100000 }),
		"specification.variants[0].changes[0].element": dish(func(d *kitchen.Dish) {
			d.Specification.Variants = []kitchen.Variant{{Name: "v", Changes: []kitchen.Change{{Element: 99, Kind: "leave-out"}}}}
		}),
		"specification.variants[0].changes[0].with": dish(func(d *kitchen.Dish) {
			d.Specification.Variants = []kitchen.Variant{{Name: "v", Changes: []kitchen.Change{{Element: 1, Kind: "replace"}}}}
		}),
	} {
		t.Run(path, func(t *testing.T) {
			d := data(t)
			prefix := change(&d)
			_, err := kitchen.NewBook(d)
			require.Contains(t, paths(err), prefix+path)
		})
	}
}

// The order of steps follows what waits for what, whatever their order in the list.
func TestStepsInTheirOrder(t *testing.T) {
	c := kitchen.Component{Steps: []kitchen.Step{
		{ID: "third", Phase: kitchen.PickUp, After: []kitchen.Predecessor{{Step: "second"}}},
		{ID: "first", Phase: kitchen.PickUp},
		{ID: "second", Phase: kitchen.PickUp, After: []kitchen.Predecessor{{Step: "first"}, {Step: "made"}}},
		{ID: "made", Phase: kitchen.Ahead},
	}}
	var ids []string
	for _, s := range c.InPhase(kitchen.PickUp) {
		ids = append(ids, s.ID)
	}
	require.Equal(t, []string{"first", "second", "third"}, ids)
	require.Len(t, c.InPhase(kitchen.Ahead), 1)
}
