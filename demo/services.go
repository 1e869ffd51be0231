package demo

import (
	"fmt"
	"time"

	"jointime/core/kitchen"
)

// Tonight is the id of the demo's evening, Tomorrow of its banquet.
const (
	Tonight  = "tonight"
	Tomorrow = "tomorrow"
)

// MadeBefore lists what the demo's kitchen made on the days before for all its services:
// what is braised, reduced, frozen or clotted.
var MadeBefore = []string{"guinea-fowl-leg", "mushroom-jus", "frozen-buttermilk", "clotted-cream"}

// Services are the demo's services for a day: an evening of 46 covers at 15 tables in
// four waves, and the banquet of the day after. Only the day moves.
func Services(day time.Time) []kitchen.Service {
	evening := kitchen.Service{ID: Tonight, Name: "Tonight", Date: day.Format(time.DateOnly), Kind: kitchen.ALaCarte, Pacing: kitchen.Timed,
		FirstAfterMin: 20, CourseMin: 30, ReservePercent: 8, Margin: 0,
		Menu: []kitchen.MenuLine{{Dish: "charred-leek", Share: 55}, {Dish: "mussel-custard", Share: 45}, {Dish: "beetroot-dumplings", Share: 60},
			{Dish: "hake-cider-butter", Share: 40}, {Dish: "guinea-fowl-barley", Share: 38}, {Dish: "salt-baked-celeriac", Share: 22},
			{Dish: "rhubarb-custard", Share: 55}, {Dish: "treacle-sponge", Share: 45}}}
	// Tables come in waves, and not evenly: two pairs at once, one late, two who walked in together.
	for i, t := range []struct{ hour, minute, covers int }{{18, 30, 2}, {18, 37, 4}, {18, 44, 2}, {18, 51, 4},
		{19, 15, 4}, {19, 15, 2}, {19, 24, 3}, {19, 30, 4}, {20, 1, 2}, {20, 0, 4}, {20, 10, 4}, {20, 10, 2}, {20, 45, 2}, {20, 52, 4},
		{20, 59, 3}} {
		evening.Tables = append(evening.Tables, kitchen.ServiceTable{ID: fmt.Sprintf("table-%d", i+1), Name: fmt.Sprintf("Table %d", i+1),
			Covers: t.covers, SeatedAt: 60*t.hour + t.minute, Needs: []kitchen.GuestNeed{}, Orders: []kitchen.TableOrder{}})
	}
	evening.Tables[1].Needs = []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"milk"}}}
	evening.Tables[6].Needs = []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"nuts"}}}
	evening.Tables[9].Needs = []kitchen.GuestNeed{{Guests: 2, Doneness: "well done"}}
	// She has the commis from a quarter past eight, when the larder is through with the first courses.
	evening.Helpers = []kitchen.Helper{{Person: "pim", Section: "roast", From: 20*60 + 15}}
	banquet := kitchen.Service{ID: Tomorrow, Name: "Tomorrow, banquet", Date: day.AddDate(0, 0, 1).Format(time.DateOnly),
		Kind: kitchen.Banquet, Pacing: kitchen.Timed,
		FirstAfterMin: 15, CourseMin: 45, ReservePercent: 5, Margin: 50,
		Menu: []kitchen.MenuLine{{Dish: "mussel-custard", Share: 88}, {Dish: "charred-leek", Share: 12}, {Dish: "guinea-fowl-barley", Share: 88},
			{Dish: "salt-baked-celeriac", Share: 12}, {Dish: "rhubarb-custard", Share: 100}},
		Tables: []kitchen.ServiceTable{
			{ID: "hall", Name: "Hall", Covers: 53, SeatedAt: 19 * 60, TablesOf: 8, Needs: []kitchen.GuestNeed{},
				Orders: []kitchen.TableOrder{{Dish: "mussel-custard", Count: 53}, {Dish: "guinea-fowl-barley", Count: 53},
					{Dish: "rhubarb-custard", Count: 53}}},
			{ID: "vegetarian", Name: "Vegetarian", Covers: 7, SeatedAt: 19 * 60, Needs: []kitchen.GuestNeed{},
				Orders: []kitchen.TableOrder{{Dish: "charred-leek", Count: 7}, {Dish: "salt-baked-celeriac", Count: 7},
					{Dish: "rhubarb-custard", Count: 7}}},
		}}
	// Nobody browns fifty-three breasts to the minute: they wait in the hot cupboard, and the legs in their liquor.
	banquet.Ways = []kitchen.Way{{Component: "guinea-fowl-breast", Stretch: true}, {Component: "guinea-fowl-leg", Stretch: true}}
	// One cook cannot brown 53 breasts for one course: two others, whose sections have little to
	// do then, stand beside her.
	banquet.Helpers = []kitchen.Helper{{Person: "tobias", Section: "roast"}, {Person: "hanne", Section: "roast"}}
	return []kitchen.Service{evening, banquet}
}
