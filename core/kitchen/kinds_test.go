package kitchen_test

import (
	"encoding/json"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/demo"
)

// wholeKitchen has a record of every kind.
func wholeKitchen(t *testing.T) kitchen.Data {
	t.Helper()
	d, err := demo.Kitchen()
	require.NoError(t, err)
	day := time.Date(2026, 5, 14, 0, 0, 0, 0, time.UTC)
	d.Services = demo.Services(day)
	d.Meals = []kitchen.Meal{{ID: "m", Name: "M", Courses: []kitchen.MealCourse{{Name: "One", DueMin: 60,
		Orders: []kitchen.TableOrder{{Dish: d.Dishes[0].ID, Count: 2}}}}, Without: []string{d.Equipment[0].ID}}}
	d.Stock = []kitchen.Stock{{ID: "s", Component: d.Components[0].ID, Amount: 1, UseBy: day}}
	return d
}

// Every kind can be listed, put, found and dropped, and every list of Data belongs to a kind.
func TestKindsCoverTheData(t *testing.T) {
	whole := wholeKitchen(t)
	var again kitchen.Data
	for _, k := range kitchen.Kinds() {
		require.NotEmpty(t, whole.Records(k), k)
		for _, r := range whole.Records(k) {
			raw, err := json.Marshal(r.Body)
			require.NoError(t, err)
			require.NoError(t, again.Put(k, raw))
		}
	}
	require.Equal(t, whole, again)

	for _, k := range kitchen.Kinds() {
		first := whole.Records(k)[0]
		raw, err := json.Marshal(first.Body)
		require.NoError(t, err)
		require.NoError(t, again.Put(k, raw), "the same again replaces")
		require.Len(t, again.Records(k), len(whole.Records(k)))
	}
	require.Error(t, again.Put("spoon", []byte(`{}`)))
	require.Error(t, again.Put(kitchen.DishRecord, []byte(`[]`)))
	require.Nil(t, whole.Records("spoon"))
}

func TestDroppingTouchesNoCopy(t *testing.T) {
	whole := wholeKitchen(t)
	second := whole.Components[1].ID
	less := whole.Copy()
	key := kitchen.Key{Kind: kitchen.ComponentRecord, ID: whole.Components[0].ID}
	require.Equal(t, "components[0]", less.Path(key))
	less.Drop(key)
	require.Equal(t, "components", less.Path(key), "it has gone")
	require.Equal(t, second, less.Components[0].ID)
	require.Equal(t, key.ID, whole.Components[0].ID)
	require.Equal(t, second, whole.Components[1].ID)
	less.Drop(key)
	require.Len(t, less.Components, len(whole.Components)-1)
	house := kitchen.Key{Kind: kitchen.KitchenRecord, ID: kitchen.HouseID}
	less.Drop(house)
	require.Equal(t, whole.Kitchen, less.Kitchen, "the house is never dropped")
	require.Equal(t, "kitchen", less.Path(house))
}

// Whatever one record says of another is told once by its kind: each of these places leads nowhere in a changed
// kitchen, and the fault names it.
func TestEveryReferenceIsFollowed(t *testing.T) {
	cases := []struct {
		path   string
		change func(*kitchen.Data)
	}{
		{"people[0].sections[0]", func(d *kitchen.Data) { d.People[0].Sections = []string{"x"} }},
		{"components[0].section", func(d *kitchen.Data) { d.Components[0].Section = "x" }},
		{"components[0].steps[0].section", func(d *kitchen.Data) { d.Components[0].Steps[0].Section = "x" }},
		{"components[0].uses[0].component", func(d *kitchen.Data) { d.Components[0].Uses = []kitchen.Use{{Component: "x", Amount: 1}} }},
		{"components[0].by_products[0].component", func(d *kitchen.Data) { d.Components[0].ByProducts = []kitchen.ByProduct{{Component: "x"}} }},
		{"dishes[0].specification.vessel", func(d *kitchen.Data) { d.Dishes[0].Specification.Vessel = "x" }},
		{"dishes[0].specification.elements[0].component", func(d *kitchen.Data) { d.Dishes[0].Specification.Elements[0].Component = "x" }},
		{"dishes[0].draft.vessel", func(d *kitchen.Data) {
			draft := d.Dishes[0].Specification
			draft.Vessel = "x"
			d.Dishes[0].Draft = &draft
		}},
		{"dishes[0].specification.variants[0].changes[0].with.component", func(d *kitchen.Data) {
			with := d.Dishes[0].Specification.Elements[0]
			with.Component = "x"
			d.Dishes[0].Specification.Variants = []kitchen.Variant{{Name: "v",
				Changes: []kitchen.Change{{Element: 1, Kind: "replace", With: &with}}}}
		}},
		{"services[0].menu[0].dish", func(d *kitchen.Data) { d.Services[0].Menu = []kitchen.MenuLine{{Dish: "x", Share: 1}} }},
		{"services[0].tables[0].orders[0].dish", func(d *kitchen.Data) {
			d.Services[0].Tables[0].Orders = []kitchen.TableOrder{{Dish: "x",
				Count: 1}}
		}},
		{"services[0].helpers[0].person", func(d *kitchen.Data) {
			d.Services[0].Helpers = []kitchen.Helper{{Person: "x", Section: d.Sections[0].ID}}
		}},
		{"services[0].helpers[0].section", func(d *kitchen.Data) {
			d.Services[0].Helpers = []kitchen.Helper{{Person: d.People[0].ID, Section: "x"}}
		}},
		{"stock[0].component", func(d *kitchen.Data) { d.Stock[0].Component = "x" }},
	}
	for _, c := range cases {
		d := wholeKitchen(t).Clone()
		c.change(&d)
		_, err := kitchen.NewBook(d)
		var faults kitchen.Faults
		require.ErrorAs(t, err, &faults, c.path)
		i := slices.IndexFunc(faults, func(f kitchen.Fault) bool { return f.Path == c.path })
		require.GreaterOrEqual(t, i, 0, "%s: %v", c.path, faults)
		require.Contains(t, faults[i].Message.Text, "the id “x”")
	}
}

func TestReferencesAreToldOnce(t *testing.T) {
	raw := []byte(`{"id":"s","menu":[{"dish":"a"},{"dish":"b"}],"tables":[{"orders":[{"dish":"a"}]}],"helpers":[{"person":"p","section":"q"}]}`)
	refs, err := kitchen.References(kitchen.ServiceRecord, raw)
	require.NoError(t, err)
	require.Equal(t, []kitchen.Key{{Kind: kitchen.DishRecord, ID: "a"}, {Kind: kitchen.DishRecord, ID: "b"},
		{Kind: kitchen.PersonRecord, ID: "p"},
		{Kind: kitchen.SectionRecord, ID: "q"}}, refs)
	refs, err = kitchen.References(kitchen.VesselRecord, []byte(`{"id":"v"}`))
	require.NoError(t, err)
	require.Empty(t, refs)
	_, err = kitchen.References(kitchen.DishRecord, []byte(`{`))
	require.Error(t, err)
	_, err = kitchen.References("spoon", nil)
	require.Error(t, err)
}
