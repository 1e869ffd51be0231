package kitchen_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// dietLine is how a dish of fish and purée with one more ingredient in the purée suits a diet.
func dietLine(t *testing.T, d kitchen.Diet, house []kitchen.DietRule, change func(fish, puree *kitchen.Component)) kitchen.DietLine {
	t.Helper()
	b, dish := pureeDish(func(f, p *kitchen.Component) {
		f.Name, f.Ingredients, f.Steps[0].Name = "Beet", []kitchen.Ingredient{{Name: "beet", Amount: 1, Unit: "g"}}, "Roast"
		p.Ingredients = []kitchen.Ingredient{{Name: "potatoes", Amount: 1, Unit: "g"}}
		change(f, p)
		for _, c := range []*kitchen.Component{f, p} {
			if c.Signed == nil {
				c.Sign("Ada", time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC))
			}
		}
	})
	data := b.Data()
	data.Kitchen.Diets = house
	b, err := kitchen.NewBook(data)
	require.NoError(t, err)
	lines := b.DietLines(dish.Specification.Elements)
	require.Len(t, lines, len(kitchen.Diets()))
	return lines[slices.Index(kitchen.Diets(), d)]
}

func with(g kitchen.Ingredient) func(_, p *kitchen.Component) {
	return func(_, p *kitchen.Component) {
		g.Amount, g.Unit = 1, "g"
		p.Ingredients = append(p.Ingredients, g)
	}
}

// What the words mean: vegan has nothing of an animal, vegetarian no flesh, no pork nothing of a pig; gelatine of which the supplier
// said nothing is usually of a pig. Common practice, no source.
func TestWhichDietsAPlateSuits(t *testing.T) {
	butter := kitchen.Ingredient{Name: "fat", Allergens: []kitchen.Allergen{"milk"}}
	made := func(name string, m ...kitchen.Matter) kitchen.Ingredient {
		return kitchen.Ingredient{Name: name, Matters: m}
	}
	suits := func(in kitchen.Ingredient) string {
		var yes []string
		for _, d := range kitchen.Diets() {
			if dietLine(t, d, nil, with(in)).State == "yes" {
				yes = append(yes, string(d))
			}
		}
		return strings.Join(yes, ", ")
	}
	require.Equal(t, "vegan, vegetarian, no pork, no alcohol, nothing raw", suits(made("salt")))
	require.Equal(t, "vegetarian, no pork, no alcohol, nothing raw", suits(butter))
	require.Equal(t, "vegetarian, no pork, no alcohol, nothing raw", suits(made("x", kitchen.Honey)))
	require.Equal(t, "no pork, no alcohol, nothing raw", suits(made("x", kitchen.Meat)))
	require.Equal(t, "no alcohol, nothing raw", suits(made("x", kitchen.Pork)))
	require.Equal(t, "no alcohol, nothing raw", suits(made("x", kitchen.Gelatine)))
	require.Equal(t, "vegan, vegetarian, no pork, nothing raw", suits(made("x", kitchen.Alcohol)))
	require.Equal(t, "vegan, vegetarian, no pork, no alcohol", suits(made("x", kitchen.Raw)))
	require.Equal(t, "no pork, no alcohol, nothing raw", suits(kitchen.Ingredient{Name: "x", Allergens: []kitchen.Allergen{"molluscs"}}))
}

// What is not known is not yes, and a word that suggests otherwise is in the way of a yes; what is against it is a plain no.
func TestADietThatIsNotKnownIsNotYes(t *testing.T) {
	unsigned := func(_, p *kitchen.Component) { p.Signed = &kitchen.Signature{By: "Ada", Of: "another"} }
	l := dietLine(t, kitchen.Vegan, nil, unsigned)
	require.Equal(t, "not-known", l.State)
	require.Equal(t, []string{"nobody has said that these recipes are complete: Purée"}, message.Texts(l.Said))
	l = dietLine(t, kitchen.Vegan, nil, with(kitchen.Ingredient{Name: "veal stock"}))
	require.Equal(t, "not-known", l.State)
	require.Equal(t, []string{"“veal” in “veal stock” suggests meat, and nobody said it"}, message.Texts(l.Said))
	require.Equal(t, "yes", dietLine(t, kitchen.NoPork, nil, with(kitchen.Ingredient{Name: "veal stock"})).State)
	l = dietLine(t, kitchen.NoPork, nil, with(kitchen.Ingredient{Name: "lardons", Matters: []kitchen.Matter{kitchen.Pork}}))
	require.Equal(t, "no", l.State)
	require.Equal(t, []string{"pork in Purée (lardons)"}, message.Texts(l.Said))
	raw := func(_, p *kitchen.Component) { p.Steps[0].Dangers = []kitchen.Danger{"raw-egg"} }
	require.Equal(t, "not-known", dietLine(t, kitchen.NoRaw, nil, raw).State)
	cooked := func(_, p *kitchen.Component) {
		p.Steps[0].Dangers = []kitchen.Danger{"raw-egg"}
		p.Steps[0].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1}
	}
	require.Equal(t, "yes", dietLine(t, kitchen.NoRaw, nil, cooked).State)
}

// Halal and kosher are what the house says; until it has, nothing suits them.
func TestADietOfTheHouse(t *testing.T) {
	meat := kitchen.Ingredient{Name: "shin", Matters: []kitchen.Matter{kitchen.Meat}}
	certified := meat
	certified.Certified = []kitchen.Diet{kitchen.Halal, kitchen.Kosher}
	house := []kitchen.DietRule{
		{Diet: kitchen.Halal, Matters: []kitchen.Matter{kitchen.Pork, kitchen.Blood, kitchen.Alcohol}, Certified: true, By: "Ada"},
		{Diet: kitchen.Kosher, Matters: []kitchen.Matter{kitchen.Pork}, Allergens: []kitchen.Allergen{"molluscs"}, Certified: true, Apart: true}}
	state := func(d kitchen.Diet, change func(f, p *kitchen.Component)) string {
		return dietLine(t, d, house, change).State
	}
	require.Equal(t, "not-defined", dietLine(t, kitchen.Halal, nil, with(certified)).State)
	require.Equal(t, "no", state(kitchen.Halal, with(meat)))
	require.Equal(t, "yes", state(kitchen.Halal, with(certified)))
	require.Equal(t, "no", state(kitchen.Halal, with(kitchen.Ingredient{Name: "x", Matters: []kitchen.Matter{kitchen.Alcohol}})))
	certified.Matters = []kitchen.Matter{kitchen.Pork}
	require.Equal(t, "no", state(kitchen.Halal, with(certified)), "nobody certifies pork")
	certified.Matters = []kitchen.Matter{kitchen.Meat}
	require.Equal(t, "yes", state(kitchen.Kosher, with(certified)))
	require.Equal(t, "no", state(kitchen.Kosher, func(f, p *kitchen.Component) {
		with(certified)(f, p)
		f.Ingredients = append(f.Ingredients, kitchen.Ingredient{Name: "fat", Amount: 1, Unit: "g", Allergens: []kitchen.Allergen{"milk"}})
	}), "meat and milk on one plate")
	require.Equal(t, "yes", state(kitchen.Kosher, with(kitchen.Ingredient{Name: "fat", Allergens: []kitchen.Allergen{"milk"}})))
}

// A guest's diet chooses the variant that keeps it, or says that none does.
func TestADietChoosesItsVariant(t *testing.T) {
	vegan := kitchen.Needs{Diets: []kitchen.Diet{kitchen.Vegan}}
	plant := func(f *kitchen.Component) {
		f.Name, f.Ingredients, f.Steps[0].Name = "Beet", []kitchen.Ingredient{{Name: "beet", Amount: 1, Unit: "g"}}, "Roast"
	}
	b, d := pureeDish(func(f, p *kitchen.Component) {
		plant(f)
		p.Ingredients = []kitchen.Ingredient{{Name: "milk", Amount: 1, Unit: "g", Allergens: []kitchen.Allergen{"milk"}}}
	})
	v, ok := b.VariantFor(d, vegan)
	require.True(t, ok)
	require.Equal(t, "no purée", v)
	_, ok = b.VariantFor(d, kitchen.Needs{Diets: []kitchen.Diet{kitchen.Halal}})
	require.False(t, ok, "the house has not said what it means")
	data := b.Data()
	s := &data.Services[0]
	s.Tables[0].Orders = []kitchen.TableOrder{}
	s.Tables[0].Needs = []kitchen.GuestNeed{{Guests: 1, Diets: []kitchen.Diet{kitchen.Halal}}}
	b, err := kitchen.NewBook(data)
	require.NoError(t, err)
	_, problems := b.TableOrders(&b.Services()[0])
	require.Equal(t, []string{"The house has not said what halal means here.", "T: no main course suits a guest with this need: halal."},
		message.Texts(problems))
	s.Tables[0].Needs[0].Diets = vegan.Diets
	b, err = kitchen.NewBook(data)
	require.NoError(t, err)
	orders, problems := b.TableOrders(&b.Services()[0])
	require.Empty(t, problems)
	require.Equal(t, "no purée", orders[0][0].Variant)
	require.Equal(t, vegan.Diets, orders[0][0].Diets)
	require.True(t, orders[0][0].Needs().OwnPan())
	require.False(t, kitchen.Needs{Diets: []kitchen.Diet{kitchen.NoAlcohol}}.OwnPan())
}

// Words for other things suggest nothing: wine vinegar has no wine in it that a diet asks after, a kidney bean is no kidney.
func TestWordsThatSuggestMatters(t *testing.T) {
	suggested := func(name string) string {
		b, _ := pureeDish(func(_, p *kitchen.Component) {
			p.Ingredients = []kitchen.Ingredient{{Name: name, Amount: 1, Unit: "g"}}
		})
		var out []string
		c := &b.Components()[1]
		for _, s := range b.Suggestions(c) {
			if s.Matter != "" {
				out = append(out, string(s.Matter))
			}
		}
		return strings.Join(out, ", ")
	}
	for name, want := range map[string]string{"veal jus": "meat", "smoked bacon": "pork", "white wine": "alcohol", "white wine vinegar": "",
		"kidney beans":    "",
		"gelatine leaves": "gelatine", "duck eggs": "", "duck fat": "meat", "heather honey": "honey", "black pudding": "pork, blood",
		"hamper": "", "ginger": "",
		"goat's cheese": "", "beef tomatoes": ""} {
		require.Equal(t, want, suggested(name), name)
	}
}
