package demo

import "jointime/core/kitchen"

// Supper is the id of the demo's meal from zero.
const Supper = "dinner-for-six"

// Meals are the demo's meals from zero: a dinner for six by two cooks, from raw, beginning at nine.
func Meals() []kitchen.Meal {
	six := func(dish string) []kitchen.TableOrder { return []kitchen.TableOrder{{Dish: dish, Count: 6}} }
	return []kitchen.Meal{{ID: Supper, Name: "Dinner for six", StartsAt: 9 * 60, PlatingHands: 2, People: []string{"marguerite", "oluwa"},
		Without: []string{"bath-1", "bath-2"},
		Courses: []kitchen.MealCourse{{Name: "First", DueMin: 620, Orders: six("mussel-custard")},
			{Name: "Second", DueMin: 645, Orders: six("beetroot-dumplings")}, {Name: "Main", DueMin: 675, Orders: six("salt-baked-celeriac")}},
		Compulsory: []kitchen.Compulsory{{Say: "a dumpling, folded by hand", Component: "beetroot-dumpling"},
			{Say: "something baked in a crust", Component: "baked-celeriac"}, {Say: "a sauce finished in front of the guests"}}}}
}
