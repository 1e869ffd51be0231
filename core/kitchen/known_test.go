package kitchen_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/demo"
)

func demoData(t testing.TB) kitchen.Data {
	t.Helper()
	d, err := demo.Kitchen()
	require.NoError(t, err)
	return d
}

func find(t testing.TB, d *kitchen.Data, id string) *kitchen.Component {
	t.Helper()
	for i := range d.Components {
		if d.Components[i].ID == id {
			return &d.Components[i]
		}
	}
	t.Fatalf("no component %s", id)
	return nil
}

// A recipe that nobody entered is not known, also deep inside what uses it; the promise of a
// variant is pointed out where a guest counts on it.
func TestARecipeThatWasNotEntered(t *testing.T) {
	d := demoData(t)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	var unread []string
	for _, c := range b.Components() {
		unread = append(unread, b.UnknownIn(c.ID)...)
	}
	require.Equal(t, []string{"Rye crisp"}, unread, "all but one were read through")
	user, used := find(t, &d, "hake"), find(t, &d, "dill-oil")
	user.Uses = []kitchen.Use{{Component: "dill-oil", Amount: 5}}
	used.Ingredients, used.Uses = nil, nil
	user.Sign("Ada", time.Now())
	b, err = kitchen.NewBook(d)
	require.NoError(t, err)
	require.Equal(t, []string{used.Name}, b.UnknownIn(user.ID))
	require.Equal(t, []string{used.Name}, b.UnknownRecipes([]kitchen.Element{{Component: user.ID}, {Component: used.ID}}),
		"each is named once")
	require.Empty(t, b.UnknownIn("nothing"))

	beet := find(t, &d, "sea-beet")
	beet.Ingredients, beet.Uses = nil, nil
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Menu: []kitchen.MenuLine{{Dish: "hake-cider-butter", Share: 100}},
		Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 2, SeatedAt: 1140,
			Needs: []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"peanuts"}}}, Orders: []kitchen.TableOrder{}}}}}
	b, err = kitchen.NewBook(d)
	require.NoError(t, err)
	orders, problems := b.TableOrders(&b.Services()[0])
	require.Equal(t, []string{"T: whether Hake, cider butter sauce, pressed potato, sea beet " +
		"suits (no peanuts) is not known: nobody has said that these recipes are complete: Dill oil."}, message.Texts(problems))
	require.NotEmpty(t, orders[0], "the plate is planned all the same: the variant without the beet, of which less is not known")
}

// What is needed for a service is a kitchen by itself, without the rest and without drafts.
func TestWhatAServiceNeeds(t *testing.T) {
	d := demoData(t)
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Menu: []kitchen.MenuLine{{Dish: "hake-cider-butter", Share: 100}}, Tables: []kitchen.ServiceTable{}}}
	for i := range d.Dishes {
		draft := d.Dishes[i].Specification
		d.Dishes[i].Draft = &draft
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	n := b.Needed(b.Services())
	_, err = kitchen.NewBook(n)
	require.NoError(t, err)
	require.Len(t, n.Dishes, 1)
	require.Nil(t, n.Dishes[0].Draft)
	require.NotNil(t, b.Dishes()[0].Draft, "the book keeps its own")
	require.Less(t, len(n.Components), len(d.Components))
	require.Equal(t, d.People, n.People)
	none := b.Needed(nil)
	require.Empty(t, none.Components)
}

// Every text of every record is bounded, whatever its field is called; what is in it can be
// shown. Both sides of the limits.
func TestTexts(t *testing.T) {
	try := func(change func(*kitchen.Data)) string {
		d := demoData(t).Clone()
		change(&d)
		if _, err := kitchen.NewBook(d); err != nil {
			return err.Error()
		}
		return ""
	}
	long := func(n int) string { return strings.Repeat("й", n) }
	for name, x := range map[string]struct {
		change func(*kitchen.Data)
		say    string
	}{
		"at the limit": {func(d *kitchen.Data) { find(t, d, "hake").Steps[0].PutsIn = []string{long(500)} }, ""},
		"over it": {func(d *kitchen.Data) { find(t, d, "hake").Steps[0].PutsIn = []string{long(501)} },
			"expected at most 500 characters, got 501"},
		"a limit of its own": {func(d *kitchen.Data) { find(t, d, "hake").Ingredients[0].Unit = long(20) }, ""},
		"over its own": {func(d *kitchen.Data) { find(t, d, "hake").Ingredients[0].Unit = long(21) },
			"expected at most 20 characters, got 21"},
		"new lines are typed": {func(d *kitchen.Data) { d.Dishes[0].Specification.TableSide = "a\n\tb" }, ""},
		"nothing": {func(d *kitchen.Data) { d.Dishes[0].Specification.TableSide = "a\x00b" },
			"specification.table_side: holds a character that cannot be shown (U+0000)"},
		"a bell":                  {func(d *kitchen.Data) { d.Dishes[0].Specification.Facing = "\a" }, "(U+0007)"},
		"a control of the second": {func(d *kitchen.Data) { d.Dishes[0].Specification.Facing = "\u0085" }, "(U+0085)"},
		"a broken encoding": {func(d *kitchen.Data) { d.Dishes[0].Specification.FinalChecks = []string{"\ufffd"} },
			"final_checks[0]: holds"},
		"a list at the limit": {func(d *kitchen.Data) { d.Dishes[0].Specification.FinalChecks = make([]string, 400) }, ""},
		"a list over it": {func(d *kitchen.Data) { d.Dishes[0].Specification.FinalChecks = make([]string, 401) },
			"expected at most 400 entries, got 401"},
	} {
		got := try(x.change)
		if x.say == "" {
			require.Empty(t, got, name)
		} else {
			require.Contains(t, got, x.say, name)
		}
	}
}

// A book that is checked from one changed record finds the same as one that is checked whole.
func TestABookWithOneChange(t *testing.T) {
	d := demoData(t)
	hake := find(t, &d, "hake")
	hake.Name = ""
	whole := kitchen.Key{Kind: kitchen.ComponentRecord, ID: "hake"}
	_, one := kitchen.NewBookWith(d, whole)
	_, all := kitchen.NewBook(d)
	require.Equal(t, all, one)
	hake.Name, hake.Section = "Hake", "nowhere"
	_, one = kitchen.NewBookWith(d, whole)
	_, all = kitchen.NewBook(d)
	require.Equal(t, all, one)
	// What others say of it is checked too: a section that is gone.
	d = demoData(t)
	d.Sections = d.Sections[1:]
	_, one = kitchen.NewBookWith(d, kitchen.Key{Kind: kitchen.SectionRecord, ID: d.Sections[0].ID})
	require.ErrorContains(t, one, "no section has the id")
	d = demoData(t)
	d.Components = append(d.Components, *find(t, &d, "hake"))
	_, one = kitchen.NewBookWith(d, whole)
	require.ErrorContains(t, one, "the id “hake” is taken")
}

// A recipe is known as it was read. What brings in something else has to be read again; more of the same, another step or another
// name has not. Nobody can sign what was not entered.
func TestARecipeIsKnownAsItWasRead(t *testing.T) {
	at := time.Date(2026, 5, 14, 15, 0, 0, 0, time.UTC)
	for name, x := range map[string]struct {
		change func(*kitchen.Component)
		known  bool
	}{
		"as read":             {func(*kitchen.Component) {}, true},
		"more butter":         {func(c *kitchen.Component) { c.Ingredients[0].Amount *= 2 }, true},
		"another step":        {func(c *kitchen.Component) { c.Steps = nil }, true},
		"another name":        {func(c *kitchen.Component) { c.Name = "Other" }, true},
		"one thing more":      {func(c *kitchen.Component) { c.Ingredients = append(c.Ingredients, kitchen.Ingredient{Name: "nuts"}) }, false},
		"one thing less":      {func(c *kitchen.Component) { c.Ingredients = c.Ingredients[:1] }, false},
		"bought otherwise":    {func(c *kitchen.Component) { c.Ingredients[0].Name = "margarine" }, false},
		"marked otherwise":    {func(c *kitchen.Component) { c.Ingredients[0].Allergens = nil }, false},
		"said of itself":      {func(c *kitchen.Component) { c.Allergens = []kitchen.Allergen{"nuts"} }, false},
		"uses something more": {func(c *kitchen.Component) { c.Uses = []kitchen.Use{{Component: "x", Amount: 1}} }, false},
	} {
		c := kitchen.Component{Name: "Butter sauce", Ingredients: []kitchen.Ingredient{{Name: "butter", Amount: 1, Unit: "g",
			Allergens: []kitchen.Allergen{"milk"}}, {Name: "salt", Amount: 1, Unit: "g"}}, Steps: []kitchen.Step{{ID: "s"}}}
		require.False(t, c.Known(), "nobody read it")
		c.Sign("Ada", at)
		require.Equal(t, "Ada", c.Signed.By)
		x.change(&c)
		require.Equal(t, x.known, c.Known(), name)
	}
	empty := kitchen.Component{}
	empty.Sign("Ada", at)
	require.True(t, empty.Complete())
	require.False(t, empty.Known(), "there is nothing to be complete")
}
