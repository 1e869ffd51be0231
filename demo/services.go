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
	// Covers of the tables in their waves: 18:30, 19:15, 20:00, 20:45.
	waves := []struct {
		at     int
		covers []int
	}{{18*60 + 30, []int{2, 4, 2, 4}}, {19*60 + 15, []int{4, 2, 3, 4}}, {20 * 60, []int{2, 4, 4, 2}}, {20*60 + 45, []int{2, 4, 3}}}
	number := 0
	for _, w := range waves {
		for k, covers := range w.covers {
			number++
			// A wave comes over twenty minutes, not in one moment.
			evening.Tables = append(evening.Tables, kitchen.ServiceTable{ID: fmt.Sprintf("table-%d", number), Name: fmt.Sprintf("Table %d", number),
				Covers: covers, SeatedAt: w.at + 7*k,
				Needs: []kitchen.GuestNeed{}, Orders: []kitchen.TableOrder{}})
		}
	}
	evening.Tables[3].Needs = []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"milk"}}}
	evening.Tables[6].Needs = []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"nuts"}}}
	evening.Tables[9].Needs = []kitchen.GuestNeed{{Guests: 2, Doneness: "well done"}}
	banquet := kitchen.Service{ID: Tomorrow, Name: "Tomorrow, banquet", Date: day.AddDate(0, 0, 1).Format(time.DateOnly),
		Kind: kitchen.Banquet, Pacing: kitchen.Timed,
		FirstAfterMin: 15, CourseMin: 45, ReservePercent: 5, Margin: 50,
		Menu: []kitchen.MenuLine{{Dish: "charred-leek", Share: 100}, {Dish: "guinea-fowl-barley", Share: 88},
			{Dish: "salt-baked-celeriac", Share: 12}, {Dish: "rhubarb-custard", Share: 100}},
		Tables: []kitchen.ServiceTable{
			{ID: "hall", Name: "Hall", Covers: 53, SeatedAt: 19 * 60, Needs: []kitchen.GuestNeed{},
				Orders: []kitchen.TableOrder{{Dish: "charred-leek", Count: 53}, {Dish: "guinea-fowl-barley", Count: 53},
					{Dish: "rhubarb-custard", Count: 53}}},
			{ID: "vegetarian", Name: "Vegetarian", Covers: 7, SeatedAt: 19 * 60, Needs: []kitchen.GuestNeed{},
				Orders: []kitchen.TableOrder{{Dish: "charred-leek", Count: 7}, {Dish: "salt-baked-celeriac", Count: 7},
					{Dish: "rhubarb-custard", Count: 7}}},
		}}
	// One cook cannot brown 53 breasts for one course: two others, whose sections have little to
	// do then, stand beside her.
	banquet.Helpers = []kitchen.Helper{{Person: "tobias", Section: "roast"}, {Person: "hanne", Section: "roast"}}
	return []kitchen.Service{evening, banquet}
}
