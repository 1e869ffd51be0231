package kitchen_test

import (
	"fmt"
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/demo"
)

func served(t require.TestingT) kitchen.Data {
	d := data(t)
	d.Services = demo.Services(time.Date(2026, 5, 14, 0, 0, 0, 0, time.UTC))
	return d
}

// Every rule of a service and of what is on hand, broken one at a time: the fault names the
// place.
func TestEveryFaultOfAService(t *testing.T) {
	for path, change := range map[string]func(*kitchen.Service){
		"date":                      func(s *kitchen.Service) { s.Date = "tomorrow" },
		"name":                      func(s *kitchen.Service) { s.Name = " " },
		"kind":                      func(s *kitchen.Service) { s.Kind = "picnic" },
		"pacing":                    func(s *kitchen.Service) { s.Pacing = "brisk" },
		"course_min":                func(s *kitchen.Service) { s.CourseMin = 0 },
		"first_after_min":           func(s *kitchen.Service) { s.FirstAfterMin = -5 },
		"reserve_percent":           func(s *kitchen.Service) { s.ReservePercent = -1 },
		"margin":                    func(s *kitchen.Service) { s.Margin = 101 },
		"plating_hands":             func(s *kitchen.Service) { s.PlatingHands = 9 },
		"menu[0].share_percent":     func(s *kitchen.Service) { s.Menu[0].Share = 150 },
		"menu[1].share_percent":     func(s *kitchen.Service) { s.Menu[0].Share, s.Menu[1].Share = 60, 50 },
		"menu[0].dish":              func(s *kitchen.Service) { s.Menu[0].Dish = "soup" },
		"menu[1].dish":              func(s *kitchen.Service) { s.Menu[1].Dish = s.Menu[0].Dish },
		"tables[0].covers":          func(s *kitchen.Service) { s.Tables[0].Covers = 0 },
		"tables[0].seated_at":       func(s *kitchen.Service) { s.Tables[0].SeatedAt = 48 * 60 },
		"tables[1].id":              func(s *kitchen.Service) { s.Tables[1].ID = s.Tables[0].ID },
		"tables[0].needs":           func(s *kitchen.Service) { s.Tables[0].Needs = []kitchen.GuestNeed{{Guests: 9, Doneness: "rare"}} },
		"tables[0].needs[0].guests": func(s *kitchen.Service) { s.Tables[0].Needs = []kitchen.GuestNeed{{Guests: 0}} },
		"tables[0].needs[0].without[0]": func(s *kitchen.Service) {
			s.Tables[0].Needs = []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"love"}}}
		},
		"tables[0].orders[0].count": func(s *kitchen.Service) { s.Tables[0].Orders = []kitchen.TableOrder{{Dish: s.Menu[0].Dish}} },
		"tables[0].orders[0].dish":  func(s *kitchen.Service) { s.Tables[0].Orders = []kitchen.TableOrder{{Dish: "soup", Count: 1}} },
		"tables[0].orders[0].variant": func(s *kitchen.Service) {
			s.Tables[0].Orders = []kitchen.TableOrder{{Dish: s.Menu[0].Dish, Count: 1, Variant: "purple"}}
		},
		"tables[0].orders[0].without[0]": func(s *kitchen.Service) {
			s.Tables[0].Orders = []kitchen.TableOrder{{Dish: s.Menu[0].Dish, Count: 1, Without: []kitchen.Allergen{"love"}}}
		},
		"shared[0].tables": func(s *kitchen.Service) {
			s.Shared = []kitchen.SharedBatch{{Component: "hake", Course: "main", Tables: []string{"table-1"}}}
		},
		"shared[0].tables[1]": func(s *kitchen.Service) {
			s.Shared = []kitchen.SharedBatch{{Component: "hake", Course: "main", Tables: []string{"table-1", "table-99"}}}
		},
		"shared[0].component": func(s *kitchen.Service) {
			s.Shared = []kitchen.SharedBatch{{Component: "soup", Course: "main", Tables: []string{"table-1", "table-2"}}}
		},
		"shared[0].course": func(s *kitchen.Service) {
			s.Shared = []kitchen.SharedBatch{{Component: "hake", Course: "tea", Tables: []string{"table-1", "table-2"}}}
		},
		"helpers[0].person":  func(s *kitchen.Service) { s.Helpers = []kitchen.Helper{{Person: "nobody", Section: "roast"}} },
		"helpers[0].section": func(s *kitchen.Service) { s.Helpers = []kitchen.Helper{{Person: "pim", Section: "attic"}} },
	} {
		d := served(t)
		change(&d.Services[0])
		_, err := kitchen.NewBook(d)
		require.Contains(t, paths(err), "services[0]."+path)
	}
	for path, stock := range map[string]kitchen.Stock{
		"amount":    {ID: "x", Component: "hake", UseBy: time.Now()},
		"use_by":    {ID: "x", Component: "hake", Amount: 1},
		"component": {ID: "x", Component: "soup", Amount: 1, UseBy: time.Now()},
	} {
		d := served(t)
		d.Stock = []kitchen.Stock{stock}
		_, err := kitchen.NewBook(d)
		require.Contains(t, paths(err), "stock[0]."+path)
	}
}

// A component that needs itself through three others is refused, and the circle is said;
// hours that end before they begin are.
func TestCirclesAndHours(t *testing.T) {
	d := served(t)
	ids := []string{"hake", "lentils", "barley", "sorrel"}
	for k, id := range ids {
		i := slices.IndexFunc(d.Components, func(c kitchen.Component) bool { return c.ID == id })
		d.Components[i].Uses = []kitchen.Use{{Component: ids[(k+1)%4], Amount: 1}}
	}
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err, "→")
	for _, id := range ids {
		require.ErrorContains(t, err, id)
	}
	d = served(t)
	d.People[2].Hours[1] = kitchen.Hours{Day: 1, From: 900, To: 600}
	_, err = kitchen.NewBook(d)
	require.Contains(t, paths(err), "people[2].hours[1].to")
}

// The shares are spread over the guests so that after every guest each dish of a course is
// less than one plate from its share; everybody who can have a course gets one, and each
// plate suits its guest.
func TestOrdersFollowTheShares(t *testing.T) {
	d := served(t)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	mains := []string{"hake-cider-butter", "guinea-fowl-barley", "salt-baked-celeriac"}
	rapid.Check(t, func(r *rapid.T) {
		s := d.Services[0]
		s.Menu, s.Tables = nil, nil
		left := 100
		for i, id := range mains {
			share := left
			if i < len(mains)-1 {
				share = rapid.IntRange(0, left).Draw(r, "share")
			}
			left -= share
			s.Menu = append(s.Menu, kitchen.MenuLine{Dish: id, Share: float64(share)})
		}
		for i := range rapid.IntRange(1, 20).Draw(r, "tables") {
			s.Tables = append(s.Tables, kitchen.ServiceTable{ID: fmt.Sprint("t", i), Name: "T", Covers: rapid.IntRange(1, 8).Draw(r, "covers"),
				SeatedAt: 1140})
		}
		orders, problems := b.TableOrders(&s)
		require.Empty(r, problems)
		sum, guests := map[string]int{}, 0
		for i, list := range orders {
			n := 0
			for _, o := range list {
				n += o.Count
				sum[o.Dish] += o.Count
			}
			require.Equal(r, s.Tables[i].Covers, n, "everybody has a main")
			guests += n
			for _, m := range s.Menu {
				require.Less(r, math.Abs(float64(sum[m.Dish])-m.Share/100*float64(guests)), 1.0+1e-6, "%s after %d guests", m.Dish, guests)
			}
		}
	})
}

// A guest who must not have something gets a plate without it, by itself in the order; one
// for whom nothing is without it is named.
func TestOrdersSuitTheGuests(t *testing.T) {
	d := served(t)
	s := &d.Services[0]
	s.Tables = s.Tables[:1]
	s.Tables[0].Covers, s.Tables[0].Needs = 4, []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"milk"}},
		{Guests: 2, Doneness: "well done"}}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	orders, problems := b.TableOrders(s)
	require.Empty(t, problems)
	apart := 0
	for _, o := range orders[0] {
		dish, _ := b.Dish(o.Dish)
		if len(o.Without) > 0 {
			apart += o.Count
			elements, err := dish.Plate(o.Variant)
			require.NoError(t, err)
			for _, a := range b.DishAllergens(elements) {
				require.NotEqual(t, kitchen.Allergen("milk"), a.Allergen, dish.Name)
			}
		}
	}
	require.Equal(t, 4, apart, "a plate of every course")
	s.Tables[0].Needs = []kitchen.GuestNeed{{Guests: 1, Without: kitchen.EUAllergens()}}
	b, err = kitchen.NewBook(d)
	require.NoError(t, err)
	_, problems = b.TableOrders(s)
	require.NotEmpty(t, problems)
	require.Contains(t, problems[0].Text, "Table 1: no ")
}

// The minutes of a service go by the clock on the wall, past midnight too, and in the night
// in which clocks change (Europe/Copenhagen, 25 October 2026: 02:30 comes twice, 03:30 once,
// four and a half hours after 00:00).
func TestMinutesOfAServiceAreOfTheWall(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Copenhagen")
	require.NoError(t, err)
	s := kitchen.Service{Date: "2026-10-24"}
	require.Equal(t, "2026-10-25T03:30:00+01:00", s.At(24*60+210, zone).Format(time.RFC3339))
	require.Equal(t, "2026-10-24T19:00:00+02:00", s.At(19*60, zone).Format(time.RFC3339))
	s.Date = "2026-10-25"
	require.Equal(t, 4*time.Hour+30*time.Minute, s.At(210, zone).Sub(s.Day(zone)))
	p := kitchen.Person{Absent: []string{"2026-10-25"}}
	require.True(t, p.Away(s.Day(zone)))
	require.False(t, p.Away(s.Day(zone).AddDate(0, 0, 1)))
}
