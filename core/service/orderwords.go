package service

import (
	"slices"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// The words of an order: allergens as guests name them, dishes by words of their names.

// saidAs are words by which guests name an allergen, beside its name in the law.
var saidAs = map[string]kitchen.Allergen{"dairy": "milk", "lactose": "milk", "cream": "milk", "butter": "milk", "wheat": "gluten",
	"egg": "eggs", "nut": "nuts", "peanut": "peanuts", "soy": "soybeans", "soya": "soybeans", "shellfish": "crustaceans",
	"sulphite": "sulphites", "sulfites": "sulphites", "mollusc": "molluscs", "crustacean": "crustaceans"}

func allergenOf(word string) (kitchen.Allergen, bool) {
	if a, ok := saidAs[word]; ok {
		return a, true
	}
	a := kitchen.Allergen(word)
	return a, slices.Contains(kitchen.EUAllergens(), a)
}

// dish finds a dish of the menu, and its variant, by words of their names; nil, and said, where none has them or several have.
func (r *reading) dish(words []string) (*kitchen.Dish, string) {
	var found []*kitchen.Dish
	for _, whole := range []bool{false, true} { // first what a dish is called by, then the rest of its name
		for _, d := range r.dishes {
			name := d.Name + " " + strings.ReplaceAll(d.ID, "-", " ")
			if !whole {
				name = Briefly(d.Name)
			}
			if named(words, name) {
				found = append(found, d)
			}
		}
		if len(found) > 0 {
			break
		}
	}
	if len(found) == 0 { // a variant by its name: celeriac vegan
		for _, d := range r.dishes {
			for _, v := range d.Specification.Variants {
				if rest, ok := cutWords(words, v.Name); ok && named(rest, d.Name) {
					return d, v.Name
				}
			}
		}
	}
	switch len(found) {
	case 1:
		return found[0], ""
	case 0:
		r.out.Wrong = append(r.out.Wrong, message.Of("order.no-dish", "said", strings.Join(words, " ")))
	default:
		var names []string
		for _, d := range found {
			names = append(names, Briefly(d.Name))
		}
		r.out.Wrong = append(r.out.Wrong, message.Of("order.several", "said", strings.Join(words, " "), "dishes", names))
	}
	return nil, ""
}

// Briefly is a dish by what stands before the first comma of its name: the rest says what lies beside it.
func Briefly(name string) string {
	brief, _, _ := strings.Cut(name, ",")
	return brief
}

// named reports whether each of some words begins a word of a name, in the singular or as it stands.
func named(words []string, name string) bool {
	have := strings.FieldsFunc(strings.ToLower(name), func(c rune) bool { return c == ' ' || c == ',' || c == '-' })
	for _, w := range words {
		if !slices.ContainsFunc(have, func(h string) bool {
			return strings.HasPrefix(h, w) || len(w) > 3 && strings.HasSuffix(w, "s") && strings.HasPrefix(h, strings.TrimSuffix(w, "s"))
		}) {
			return false
		}
	}
	return len(words) > 0
}

// cutWords takes the words of a name away from some words, where they stand there in a row.
func cutWords(words []string, name string) (rest []string, ok bool) {
	n := strings.Fields(strings.ToLower(name))
	for i := 0; i+len(n) <= len(words); i++ {
		if slices.Equal(words[i:i+len(n)], n) {
			return slices.Concat(words[:i], words[i+len(n):]), true
		}
	}
	return nil, false
}
