package kitchen_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// suggested is what the words of one ingredient suggest.
func suggested(name string) (out []kitchen.Allergen) {
	d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
	c := kitchen.Component{ID: "c", Name: "C", Section: d.Sections[0].ID, Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
		Ingredients: []kitchen.Ingredient{{Name: name, Amount: 1, Unit: "g"}}}
	d.Components = []kitchen.Component{c}
	b, err := kitchen.NewBook(d)
	if err != nil {
		panic(err)
	}
	for _, s := range b.Suggestions(&c) {
		if s.Allergen != "" { // what diets ask after is for diets_test.go
			out = append(out, s.Allergen)
		}
	}
	return out
}

// What is bought and what it suggests: the things named in Annex II of Regulation (EU) 1169/2011, with the trade's usual words
// (common practice, no source). A word within another word suggests nothing, and some words only sound like what they are not.
func TestWordsSuggestAllergens(t *testing.T) {
	for name, want := range map[string][]kitchen.Allergen{
		"unsalted butter": {"milk"}, "Double cream": {"milk"}, "plain flour": {"gluten"}, "rye bread": {"gluten"}, "egg yolks": {"eggs"},
		"anchovy fillets": {"fish"}, "langoustines, live": {"crustaceans"}, "groundnut oil": {"peanuts"}, "tofu": {"soybeans"},
		"soy sauce": {"gluten", "soybeans"}, "roasted hazelnuts": {"nuts"}, "celeriac": {"celery"}, "Dijon mustard": {"mustard"},
		"tahini": {"sesame"}, "white wine": {"sulphites"}, "lupin flour": {"gluten", "lupin"}, "mussels": {"molluscs"},
		"brown butter": {"milk"}, "worcester sauce": {"fish"},
		"coconut milk": nil, "oat milk": {"gluten"}, "almond milk": {"nuts"}, "cocoa butter": nil, "peanut butter": {"peanuts"},
		"butternut squash": nil, "butter beans": nil, "cream of tartar": nil, "buckwheat flour": nil, "nutmeg": nil, "oyster mushrooms": nil,
		"aubergine (eggplant)": nil, "water": nil, "salt": nil, "creamy potatoes": nil, "rice flour": nil, "lemon curd": {"eggs"},
		"coconut milk and butter": {"milk"},
	} {
		require.Equal(t, want, suggested(name), name)
	}
}

// Words never decide: what is marked is not pointed out again, in an ingredient or of the component; a step or a name that suggests
// what nothing in the recipe brings in is pointed out, once; what goes into it counts.
func TestWhatWordsPointOut(t *testing.T) {
	d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
	base := kitchen.Component{ID: "base", Name: "Base", Section: d.Sections[0].ID, Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1}
	c := base
	c.ID, c.Name = "puree", "Celeriac purée"
	c.Steps = []kitchen.Step{{ID: "blend", Name: "Blend with the milk", Phase: kitchen.Ahead, Hands: kitchen.Both},
		{ID: "pass", Name: "Pass, more milk", Phase: kitchen.Ahead, Hands: kitchen.Both}}
	said := func() []kitchen.Suggestion {
		d.Components = []kitchen.Component{base, c}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		return b.Suggestions(&c)
	}
	require.Equal(t, []kitchen.Suggestion{{Allergen: "celery", Word: "celeriac", In: "Celeriac purée", Where: "name"},
		{Allergen: "milk", Word: "milk", In: "Blend with the milk", Where: "step"}}, said())
	c.Ingredients = []kitchen.Ingredient{{Name: "Celeriac", Amount: 1, Unit: "g", Allergens: []kitchen.Allergen{"celery"}}}
	require.Equal(t, []kitchen.Suggestion{{Allergen: "milk", Word: "milk", In: "Blend with the milk", Where: "step"}}, said())
	c.Uses = []kitchen.Use{{Component: "base", Amount: 1}}
	base.Allergens = []kitchen.Allergen{"milk"}
	require.Empty(t, said())
	c.Ingredients = append(c.Ingredients, kitchen.Ingredient{Name: "cream", Amount: 1, Unit: "g"})
	require.Len(t, said(), 1, "an ingredient is marked for itself")
	c.Allergens = []kitchen.Allergen{"milk"}
	require.Empty(t, said())
}
