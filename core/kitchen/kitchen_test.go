package kitchen_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/demo"
)

func data(t require.TestingT) kitchen.Data {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	return d
}

func paths(err error) []string {
	var out []string
	faults, _ := err.(kitchen.Faults)
	for _, f := range faults {
		out = append(out, f.Path)
	}
	return out
}

// Every fault is found at once, each with its path.
func TestAllFaultsAreReturnedWithTheirPaths(t *testing.T) {
	d := data(t)
	d.Kitchen.TimeZone = "Middle/Nowhere"
	d.People[0].Sections = []string{"attic"}
	d.People[1].Hours[0].To = 0
	d.Equipment[0].Capacity = -1
	d.Vessels[0].WidthMm = 1e9
	d.Components[0].Section = "attic"
	d.Components[0].Colour = `red"/><script>`
	d.Dishes[0].Specification.Elements[0].Component = "nothing"
	d.Dishes[0].Specification.Elements[1].On = 2
	d.Dishes[0].Specification.Elements[2].Amount = -4
	_, err := kitchen.NewBook(d)
	got := paths(err)
	for _, want := range []string{"kitchen.time_zone", "people[0].sections[0]", "people[1].hours[0].to", "equipment[0].capacity",
		"vessels[0].width_mm",
		"components[0].section", "components[0].colour", "dishes[0].specification.elements[0].component",
		"dishes[0].specification.elements[1].on", "dishes[0].specification.elements[2].amount"} {
		require.Contains(t, got, want)
	}
}

func TestCyclesAreNamed(t *testing.T) {
	d := data(t)
	c := d.Components[0]
	c.Steps[0].After = []kitchen.Predecessor{{Step: c.Steps[1].ID}}
	c.Steps[1].Phase, c.Steps[0].Phase = kitchen.Ahead, kitchen.Ahead
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err, "in a circle")
	d = data(t)
	d.Components[0].Uses = []kitchen.Use{{Component: d.Components[1].ID, Amount: 1}}
	d.Components[1].Uses = []kitchen.Use{{Component: d.Components[2].ID, Amount: 1}}
	d.Components[2].Uses = []kitchen.Use{{Component: d.Components[0].ID, Amount: 1}}
	_, err = kitchen.NewBook(d)
	require.ErrorContains(t, err, "components need each other in a circle")
}

func TestAheadCannotWaitForPickUp(t *testing.T) {
	d := data(t)
	for i := range d.Components {
		if d.Components[i].ID == "hake" {
			d.Components[i].Steps[0].After = []kitchen.Predecessor{{Step: "oven"}}
		}
	}
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err, "made ahead and cannot wait for")
}

// Batches hold all portions, are as few as can be, and no larger than the limit.
func TestSplit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, limit := rapid.IntRange(1, 200).Draw(t, "n"), rapid.IntRange(1, 50).Draw(t, "limit")
		parts := (&kitchen.BatchLimit{Portions: limit}).Split(n)
		sum := 0
		for _, p := range parts {
			require.LessOrEqual(t, p, limit)
			require.LessOrEqual(t, parts[0]-p, 1)
			sum += p
		}
		require.Equal(t, n, sum)
		require.Len(t, parts, (n+limit-1)/limit)
	})
}

func TestWithLikelyKeepsTheProportion(t *testing.T) {
	st := kitchen.StepTime{Fixed: kitchen.Estimate{Low: 50, Likely: 100, High: 200}, PerPortion: kitchen.Exactly(10)}
	got, err := st.WithLikely(240, 4)
	require.NoError(t, err)
	require.Equal(t, kitchen.Estimate{Low: 100, Likely: 200, High: 400}, got.Fixed)
	_, err = st.WithLikely(30, 4)
	require.ErrorContains(t, err, "4 portions take 40 s by themselves")
}

func TestAllergensFollowWhatGoesIn(t *testing.T) {
	b, err := kitchen.NewBook(data(t))
	require.NoError(t, err)
	d, _ := b.Dish("hake-cider-butter")
	var names []string
	for _, s := range b.DishAllergens(d.Specification.Elements) {
		names = append(names, fmt.Sprintf("%s from %s in %s", s.Allergen, s.From, s.Component))
	}
	require.Contains(t, names, "milk from Butter in Pressed potato")
	require.Contains(t, names, "sulphites from Dry cider in Cider butter sauce")
	require.NotContains(t, fmt.Sprint(names), "eggs")
}

// Regulation (EU) 1169/2011, Annex II (fourteen), FALCPA and FASTER acts (nine),
// from memory.
func TestAllergenLists(t *testing.T) {
	require.Len(t, kitchen.EUAllergens(), 14)
	us := 0
	for _, a := range kitchen.EUAllergens() {
		if kitchen.AllergenName(a, kitchen.CodeFDA) != "" {
			us++
		}
	}
	require.Equal(t, 9, us)
}

func TestVariantsRenumberWhatStandsOnWhat(t *testing.T) {
	d := kitchen.Dish{Name: "D", Specification: kitchen.Specification{
		Elements: []kitchen.Element{{Component: "a"}, {Component: "b", On: 1}, {Component: "c", On: 2}},
		Variants: []kitchen.Variant{{Name: "no a", Changes: []kitchen.Change{{Element: 1, Kind: "leave-out"}}}},
	}}
	es, err := d.Plate("No A")
	require.NoError(t, err)
	require.Equal(t, []kitchen.Element{{Component: "b", On: 0}, {Component: "c", On: 1}}, es)
	_, err = d.Plate("vegan")
	require.ErrorContains(t, err, "no variant “vegan”")
}

// Whatever JSON comes in, a kitchen is refused or a book; nothing panics.
func FuzzBook(f *testing.F) {
	d := data(f)
	d.Components, d.Dishes = d.Components[:2], d.Dishes[:1]
	raw, err := json.Marshal(d)
	require.NoError(f, err)
	f.Add(raw)
	f.Add([]byte(`{"components":[{"steps":[{"after":[{}]}]}]}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		var d kitchen.Data
		if json.Unmarshal(raw, &d) != nil {
			return
		}
		b, err := kitchen.NewBook(d)
		if (b == nil) == (err == nil) {
			t.Fatal("either a book or an error")
		}
	})
}
