package kitchen_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// Every number has bounds, and both are meant: the lowest and the highest are taken, what is a step beyond is refused at
// its place, with the bounds and what was sent.
func TestBothSidesOfEveryBound(t *testing.T) {
	const day = 60 * 24 * 3600
	i := func(v float64) int { return int(v) }
	p := func(v float64) *int { n := int(v); return &n }
	f := func(v float64) *float64 { return &v }
	sound := kitchen.Component{ID: "c", Name: "C", Section: "s", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1, Colour: "#aabbcc",
		Ingredients: []kitchen.Ingredient{{Name: "x", Amount: 1, Unit: "g"}}, Uses: []kitchen.Use{{Component: "u", Amount: 1}},
		ByProducts: []kitchen.ByProduct{{Component: "u", Grams: 1}},
		Steps: []kitchen.Step{{ID: "a", Name: "A", Phase: kitchen.PickUp, Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)},
			Equipment: &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: f(100)},
			Batch:     &kitchen.BatchLimit{Portions: 1, Run: kitchen.InTurn},
			Checks:    []kitchen.DoneCheck{{Kind: "core", TargetC: f(60)}}, Doneness: []kitchen.Doneness{{Name: "rare", Seconds: 0}}}}}
	type bound struct {
		path      string
		low, high float64
		step      float64
		set       func(*kitchen.Component, float64)
	}
	for _, b := range []bound{
		{"steps[0].time.fixed.high", 60, day, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Time.Fixed.High = i(v) }},
		{"steps[0].time.fixed.low", 0, 60, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Time.Fixed.Low = i(v) }},
		{"hold.shortest", 0, day, 1, func(c *kitchen.Component, v float64) { c.Hold.Shortest = i(v) }},
		{"hold.best", 0, day, 1, func(c *kitchen.Component, v float64) { c.Hold.Best = p(v) }},
		{"hold.longest", 0, day, 1, func(c *kitchen.Component, v float64) { c.Hold.Longest = p(v) }},
		{"grams_per_unit", 0.001, 20000, 0.0005, func(c *kitchen.Component, v float64) { c.GramsPerUnit = v }},
		{"density_g_per_ml", 0.02, 3, 0.01, func(c *kitchen.Component, v float64) { c.DensityGPerMl = v }},
		{"batch_yield", 0, 1e6, 1, func(c *kitchen.Component, v float64) { c.BatchYield = v }},
		{"shelf_life_h", 0, 24 * 365, 1, func(c *kitchen.Component, v float64) { c.ShelfLifeH = v }},
		{"ingredients[0].amount", 0.0001, 1e6, 0.0001, func(c *kitchen.Component, v float64) { c.Ingredients[0].Amount = v }},
		{"ingredients[0].trim_percent", 0, 95, 1, func(c *kitchen.Component, v float64) { c.Ingredients[0].TrimPercent = v }},
		{"uses[0].amount", 0.0001, 1e6, 0.0001, func(c *kitchen.Component, v float64) { c.Uses[0].Amount = v }},
		{"by_products[0].grams", 0.0001, 1e6, 0.0001, func(c *kitchen.Component, v float64) { c.ByProducts[0].Grams = v }},
		{"steps[0].equipment.units", 1, 10000, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Equipment.Units = i(v) }},
		{"steps[0].equipment.preheat_s", 0, 4 * 3600, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Equipment.PreheatS = i(v) }},
		{"steps[0].equipment.setpoint_c", -60, 600, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Equipment.SetpointC = f(v) }},
		{"steps[0].equipment.setpoint_to_c", 100, 600, 1, func(c *kitchen.Component, v float64) {
			c.Steps[0].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: f(100), SetpointToC: f(v)}
		}},
		{"steps[0].batch.portions", 1, 10000, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Batch.Portions = i(v) }},
		{"steps[0].checks[0].target_c", -60, 300, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Checks[0].TargetC = f(v) }},
		{"steps[0].ends.in_s", 0, 3600, 1, func(c *kitchen.Component, v float64) { loose(c).Ends.InS = i(v) }},
		{"steps[0].ends.out_s", 0, 3600, 1, func(c *kitchen.Component, v float64) { loose(c).Ends.OutS = i(v) }},
		{"steps[0].ends.in_each_s", 0, 3600, 1, func(c *kitchen.Component, v float64) { loose(c).Ends.InEachS = i(v) }},
		{"steps[0].ends.out_each_s", 0, 3600, 1, func(c *kitchen.Component, v float64) { loose(c).Ends.OutEachS = i(v) }},
		{"steps[0].touches[0].seconds", 1, 1800, 1, func(c *kitchen.Component, v float64) {
			loose(c).Touches = []kitchen.Touch{{Say: "turn", Seconds: i(v), When: kitchen.HalfWay}}
		}},
		{"steps[0].touches[0].at_s", 90, day, 1, func(c *kitchen.Component, v float64) {
			loose(c).Touches = []kitchen.Touch{{Say: "skim", Seconds: 90, When: kitchen.Every, AtS: i(v)}}
		}},
		{"hold.in.units", 1, 10000, 1, func(c *kitchen.Component, v float64) {
			c.Hold = kitchen.Wait{Longest: p(60), In: &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: i(v)}}
		}},
		{"hold.care.seconds", 1, 1800, 1, func(c *kitchen.Component, v float64) {
			c.Hold.Care = &kitchen.Care{Say: "stir", Seconds: i(v), EveryS: 1801}
		}},
		{"hold.care.every_s", 60, day, 1, func(c *kitchen.Component, v float64) {
			c.Hold.Care = &kitchen.Care{Say: "stir", Seconds: 10, EveryS: i(v)}
		}},
		{"pot.holds_s", 60, 86400, 1, func(c *kitchen.Component, v float64) { c.Pot = &kitchen.Pot{HoldsS: i(v)} }},
		{"steps[0].doneness[0].seconds", -60, day, 1, func(c *kitchen.Component, v float64) { c.Steps[0].Doneness[0].Seconds = i(v) }},
	} {
		try(t, b.path, b.low, b.high, b.step, func(v float64) kitchen.Faults {
			c := sound.Clone()
			b.set(&c, v)
			return kitchen.CheckComponent(c)
		})
	}
}

// loose is the first step with an eye on it, whose hands may be told apart.
func loose(c *kitchen.Component) *kitchen.Step {
	c.Steps[0].Hands = kitchen.Tend
	return &c.Steps[0]
}

// What contradicts itself is said where it stands.
func TestHandsAndWaitsThatContradictThemselves(t *testing.T) {
	v := 60
	paths := func(change func(*kitchen.Component)) (out []string) {
		c := kitchen.Component{ID: "c", Name: "C", Section: "s", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1, Colour: "#aabbcc",
			Steps: []kitchen.Step{{ID: "a", Name: "A", Phase: kitchen.PickUp, Hands: kitchen.Both,
				Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)}}}}
		change(&c)
		for _, f := range kitchen.CheckComponent(c) {
			out = append(out, f.Path)
		}
		return out
	}
	require.Empty(t, paths(func(*kitchen.Component) {}))
	for want, change := range map[string]func(*kitchen.Component){
		"hold.no_limit":      func(c *kitchen.Component) { c.Hold = kitchen.Wait{Longest: &v, NoLimit: true} },
		"hold.longest":       func(c *kitchen.Component) { c.Hold.In = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1} },
		"steps[0].ends.in_s": func(c *kitchen.Component) { c.Steps[0].Ends.InS = 5 },
		"steps[0].touches[0]": func(c *kitchen.Component) {
			c.Steps[0].Touches = []kitchen.Touch{{Say: "turn", Seconds: 5, When: kitchen.HalfWay}}
		},
		"steps[0].touches[0].when": func(c *kitchen.Component) {
			loose(c).Touches = []kitchen.Touch{{Say: "turn", Seconds: 5, When: "soon"}}
		},
		"steps[0].away": func(c *kitchen.Component) { loose(c).Away = true },
		"steps[0].call": func(c *kitchen.Component) { c.Steps[0].Call = "perhaps" },
		"thing":         func(c *kitchen.Component) { c.Thing = "moon" },
	} {
		require.Equal(t, []string{want}, paths(change))
	}
	require.Empty(t, paths(func(c *kitchen.Component) { c.Thing = "broth" }))
}

// try sends the bounds, which are taken, and a step beyond each, which is refused.
func try(t *testing.T, path string, low, high, step float64, check func(float64) kitchen.Faults) {
	t.Helper()
	at := func(v float64) bool {
		return slices.ContainsFunc(check(v), func(f kitchen.Fault) bool { return f.Path == path })
	}
	require.False(t, at(low), "%s may be %v: %v", path, low, check(low))
	require.False(t, at(high), "%s may be %v: %v", path, high, check(high))
	require.True(t, at(low-step), "%s may not be %v", path, low-step)
	require.True(t, at(high+step), "%s may not be %v", path, high+step)
}

func TestBoundsOfAPlate(t *testing.T) {
	i := func(v float64) int { return int(v) }
	element := func(set func(*kitchen.Element, float64)) func(float64) kitchen.Faults {
		return func(v float64) kitchen.Faults {
			e := kitchen.NewElement(&kitchen.Component{ID: "c", Unit: kitchen.Grams})
			set(&e, v)
			return kitchen.CheckDish(kitchen.Dish{ID: "d", Name: "D", Course: kitchen.Main, State: kitchen.CurrentDish,
				Specification: kitchen.Specification{Vessel: "v", VesselTemp: "hot", Elements: []kitchen.Element{e}}})
		}
	}
	const on = "specification.elements[0]."
	try(t, on+"amount", 0.01, 100000, 0.01, element(func(e *kitchen.Element, v float64) { e.Amount = v }))
	try(t, on+"turn_deg", -360, 360, 1, element(func(e *kitchen.Element, v float64) { e.TurnDeg = v }))
	try(t, on+"seconds", 1, 1800, 1, element(func(e *kitchen.Element, v float64) { e.Seconds = i(v) }))
	try(t, on+"hands", 1, 2, 1, element(func(e *kitchen.Element, v float64) { e.Hands = i(v) }))
	try(t, on+"at.hour", 0, 12, 0.5, element(func(e *kitchen.Element, v float64) { e.At.Hour = v }))
	try(t, on+"at.from_centre_mm", 0, 500, 1, element(func(e *kitchen.Element, v float64) { e.At.FromCentreMm = v }))
	try(t, on+"at.x_mm", -500, 500, 1, element(func(e *kitchen.Element, v float64) { e.At.XMm = v }))
	try(t, on+"at.y_mm", -500, 500, 1, element(func(e *kitchen.Element, v float64) { e.At.YMm = v }))
	try(t, on+"form.count", 0, 200, 1, element(func(e *kitchen.Element, v float64) { e.Form.Count = i(v) }))
	for name, set := range map[string]func(*kitchen.Element, float64){
		"length_mm": func(e *kitchen.Element, v float64) { e.Form.LengthMm = v }, "width_mm": func(e *kitchen.Element,
			v float64) {
			e.Form.WidthMm = v
		},
		"height_mm": func(e *kitchen.Element, v float64) { e.Form.HeightMm = v }, "radius_mm": func(e *kitchen.Element,
			v float64) {
			e.Form.RadiusMm = v
		},
	} {
		try(t, on+"form."+name, 0, 500, 1, element(set))
	}
	try(t, "specification.rack_s", 0, 24*3600, 1, func(v float64) kitchen.Faults {
		return kitchen.CheckDish(kitchen.Dish{ID: "d", Name: "D", Course: kitchen.Main, State: kitchen.CurrentDish,
			Specification: kitchen.Specification{Vessel: "v", VesselTemp: "hot", RackS: i(v)}})
	})
	try(t, "specification.stand_limit_s", 0, 3600, 1, func(v float64) kitchen.Faults {
		return kitchen.CheckDish(kitchen.Dish{ID: "d", Name: "D", Course: kitchen.Main, State: kitchen.CurrentDish,
			Specification: kitchen.Specification{Vessel: "v", VesselTemp: "hot", StandLimitS: i(v)}})
	})
	elements := func(n int) kitchen.Faults {
		return kitchen.CheckDish(kitchen.Dish{ID: "d", Name: "D", Course: kitchen.Main, State: kitchen.CurrentDish,
			Specification: kitchen.Specification{Vessel: "v", VesselTemp: "hot",
				Elements: slices.Repeat([]kitchen.Element{kitchen.NewElement(&kitchen.Component{ID: "c"})}, n)}})
	}
	require.Empty(t, elements(60))
	require.Len(t, elements(61), 1)
}

func TestBoundsOfTheHouse(t *testing.T) {
	i := func(v float64) int { return int(v) }
	settings := func(set func(*kitchen.Kitchen, float64)) func(float64) kitchen.Faults {
		return func(v float64) kitchen.Faults {
			k := kitchen.Starter("K", "UTC", kitchen.CodeUKEU).Kitchen
			set(&k, v)
			return kitchen.CheckKitchen(k)
		}
	}
	try(t, "day_from", 0, 1440, 1, settings(func(k *kitchen.Kitchen, v float64) { k.DayFrom = i(v) }))
	try(t, "service_from", 0, 1440, 1, settings(func(k *kitchen.Kitchen, v float64) { k.ServiceFrom, k.ServiceTo = i(v), 2880 }))
	try(t, "service_to", 601, 2880, 1, settings(func(k *kitchen.Kitchen, v float64) { k.ServiceFrom, k.ServiceTo = 600, i(v) }))
	try(t, "plating_hands", 1, 8, 1, settings(func(k *kitchen.Kitchen, v float64) { k.PlatingHands = i(v) }))

	person := func(set func(*kitchen.Hours, float64)) func(float64) kitchen.Faults {
		return func(v float64) kitchen.Faults {
			h := kitchen.Hours{Day: 1, From: 0, To: 2880}
			set(&h, v)
			return kitchen.CheckPerson(kitchen.Person{ID: "p", Name: "P", Sections: []string{"s"}, Hours: []kitchen.Hours{h}})
		}
	}
	try(t, "hours[0].day", 0, 6, 1, person(func(h *kitchen.Hours, v float64) { h.Day = i(v) }))
	try(t, "hours[0].from", 0, 1440, 1, person(func(h *kitchen.Hours, v float64) { h.From = i(v) }))
	try(t, "hours[0].to", 1, 2880, 1, person(func(h *kitchen.Hours, v float64) { h.To = i(v) }))

	try(t, "eyes", 0, 12, 1, func(v float64) kitchen.Faults {
		return kitchen.CheckPerson(kitchen.Person{ID: "p", Name: "P", Sections: []string{"s"}, Eyes: i(v)})
	})

	oven := func(set func(*kitchen.Equipment, float64)) func(float64) kitchen.Faults {
		return func(v float64) kitchen.Faults {
			hot := kitchen.NewThermostat()
			e := kitchen.Equipment{ID: "o", Name: "O", Kind: kitchen.Oven, Capacity: 1, Unit: "shelf", Thermostat: &hot}
			set(&e, v)
			return kitchen.CheckEquipment(e)
		}
	}
	try(t, "capacity", 1, 10000, 1, oven(func(e *kitchen.Equipment, v float64) { e.Capacity = i(v) }))
	try(t, "thermostat.low_c", -60, 600, 1, oven(func(e *kitchen.Equipment, v float64) { e.Thermostat.LowC, e.Thermostat.HighC = v, 600 }))
	try(t, "thermostat.high_c", 50, 600, 1, oven(func(e *kitchen.Equipment, v float64) { e.Thermostat.HighC = v }))
	try(t, "thermostat.standby_c", -60, 600, 1, oven(func(e *kitchen.Equipment, v float64) { e.Thermostat.StandbyC = v }))
	try(t, "thermostat.heat_c_per_min", 0.1, 500, 0.05, oven(func(e *kitchen.Equipment, v float64) { e.Thermostat.HeatCPerMin = v }))
	try(t, "thermostat.cool_c_per_min", 0.1, 500, 0.05, oven(func(e *kitchen.Equipment, v float64) { e.Thermostat.CoolCPerMin = v }))
	try(t, "thermostat.tolerance_c", 0, 100, 1, oven(func(e *kitchen.Equipment, v float64) { e.Thermostat.ToleranceC = v }))

	vessel := func(set func(*kitchen.Vessel, float64)) func(float64) kitchen.Faults {
		return func(v float64) kitchen.Faults {
			x := kitchen.Vessel{ID: "v", Name: "V", Kind: "slate", WidthMm: 300, DepthMm: 200, HeightMm: 10}
			set(&x, v)
			return kitchen.CheckVessel(x)
		}
	}
	try(t, "width_mm", 30, 1000, 1, vessel(func(x *kitchen.Vessel, v float64) { x.WidthMm = v }))
	try(t, "depth_mm", 30, 1000, 1, vessel(func(x *kitchen.Vessel, v float64) { x.DepthMm = v }))
	try(t, "rim_mm", 0, 140, 1, vessel(func(x *kitchen.Vessel, v float64) { x.RimMm = v }))
	try(t, "height_mm", 0, 300, 1, vessel(func(x *kitchen.Vessel, v float64) { x.HeightMm = v }))
	try(t, "amount", 0.0001, 1e6, 0.0001, func(v float64) kitchen.Faults {
		return kitchen.CheckStock(kitchen.Stock{ID: "s", Component: "c", Amount: v, UseBy: time.Now()})
	})
}

func TestBoundsOfAService(t *testing.T) {
	i := func(v float64) int { return int(v) }
	service := func(set func(*kitchen.Service, float64)) func(float64) kitchen.Faults {
		return func(v float64) kitchen.Faults {
			s := kitchen.Service{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
				Menu: []kitchen.MenuLine{{Dish: "d", Share: 50}}, Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 2, SeatedAt: 1140}}}
			set(&s, v)
			return kitchen.CheckService(s)
		}
	}
	try(t, "first_after_min", 0, 240, 1, service(func(s *kitchen.Service, v float64) { s.FirstAfterMin = i(v) }))
	try(t, "course_min", 1, 240, 1, service(func(s *kitchen.Service, v float64) { s.CourseMin = i(v) }))
	try(t, "reserve_percent", 0, 200, 1, service(func(s *kitchen.Service, v float64) { s.ReservePercent = v }))
	try(t, "margin", 0, 100, 1, service(func(s *kitchen.Service, v float64) { s.Margin = i(v) }))
	try(t, "plating_hands", 0, 8, 1, service(func(s *kitchen.Service, v float64) { s.PlatingHands = i(v) }))
	try(t, "menu[0].share_percent", 0, 100, 1, service(func(s *kitchen.Service, v float64) { s.Menu[0].Share = v }))
	try(t, "tables[0].covers", 1, kitchen.MaxCovers, 1, service(func(s *kitchen.Service, v float64) { s.Tables[0].Covers = i(v) }))
	try(t, "tables[0].seated_at", 0, 28*60, 1, service(func(s *kitchen.Service, v float64) { s.Tables[0].SeatedAt = i(v) }))
	try(t, "tables[0].needs[0].guests", 1, kitchen.MaxCovers, 1, service(func(s *kitchen.Service, v float64) {
		s.Tables[0].Covers, s.Tables[0].Needs = kitchen.MaxCovers, []kitchen.GuestNeed{{Guests: i(v)}}
	}))
	try(t, "tables[0].orders[0].count", 1, kitchen.MaxCovers, 1, service(func(s *kitchen.Service, v float64) {
		s.Tables[0].Covers, s.Tables[0].Orders = kitchen.MaxCovers, []kitchen.TableOrder{{Dish: "d", Count: i(v)}}
	}))
	needs := func(guests int) kitchen.Faults {
		return service(func(s *kitchen.Service, _ float64) { s.Tables[0].Needs = []kitchen.GuestNeed{{Guests: guests}} })(0)
	}
	require.Empty(t, needs(2))
	require.Equal(t, "3 guests have needs, and 2 are seated", needs(3)[0].Message.Text)
	shared := func(tables ...string) kitchen.Faults {
		return service(func(s *kitchen.Service, _ float64) {
			s.Tables = append(s.Tables, kitchen.ServiceTable{ID: "u", Name: "U", Covers: 1})
			s.Shared = []kitchen.SharedBatch{{ID: "x", Component: "c", Course: kitchen.Main, Tables: tables}}
		})(0)
	}
	require.Empty(t, shared("t", "u"))
	require.Equal(t, "expected two tables or more", shared("t")[0].Message.Text)
	require.Contains(t, fmt.Sprint(shared("t", "w")), "no table has the id “w”")
}

// What a plate is said to be is said the same wherever it is: form, place, what changed.
func TestPlacesAndFormsInWords(t *testing.T) {
	place := func(change func(*kitchen.Element)) string {
		e := kitchen.Element{Form: kitchen.Form{Kind: "leaf-heap"}}
		change(&e)
		return kitchen.FormWords(&e) + " | " + kitchen.PlaceWords(&e)
	}
	for want, change := range map[string]func(*kitchen.Element){
		"leaf heap | the centre":               func(*kitchen.Element) {},
		"leaf heap | 30 mm right":              func(e *kitchen.Element) { e.At.XMm = 30 },
		"leaf heap | 30 mm left, 5 mm up":      func(e *kitchen.Element) { e.At.XMm, e.At.YMm = -30, -5 },
		"leaf heap | 5.5 mm down":              func(e *kitchen.Element) { e.At.YMm = 5.5 },
		"leaf heap | 10.5 o’clock at 60 mm":    func(e *kitchen.Element) { e.At.Hour, e.At.FromCentreMm = 10.5, 60 },
		"leaf heap | the centre, on 2":         func(e *kitchen.Element) { e.On = 2 },
		"5 dots 40 mm out | around, 40 mm out": func(e *kitchen.Element) { e.Form = kitchen.Form{Kind: "dots", Count: 5, RadiusMm: 40} },
		"ring 40 mm out | the centre":          func(e *kitchen.Element) { e.Form = kitchen.Form{Kind: "ring", Count: 1, RadiusMm: 40} },
		"5 dots 40 mm out | 10 mm right": func(e *kitchen.Element) {
			e.Form, e.At.XMm = kitchen.Form{Kind: "dots", Count: 5, RadiusMm: 40},
				10
		},
		"swipe 90 mm long 20 mm wide 2 mm high | the centre": func(e *kitchen.Element) {
			e.Form = kitchen.Form{Kind: "swipe", LengthMm: 90, WidthMm: 20, HeightMm: 2}
		},
		"5 dots | the centre": func(e *kitchen.Element) { e.Form = kitchen.Form{Kind: "dots", Count: 5} },
	} {
		require.Equal(t, want, place(change))
	}
}

// One thing changed at a time, and what is said of it.
func TestEveryDifferenceIsSaid(t *testing.T) {
	name := func(id string) string { return "the " + id }
	was := kitchen.Specification{Vessel: "plate", VesselTemp: "hot", Facing: "bone", StandLimitS: 60, FinalChecks: []string{"wipe"},
		Elements: []kitchen.Element{
			{Component: "a", Amount: 20, Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Tool: "spoon", Seconds: 5, Hands: 1},
			{Component: "b", Amount: 10, Form: kitchen.Form{Kind: "pool"}, Temp: "warm", Seconds: 4, Hands: 1},
			{Component: "a", Amount: 5, Form: kitchen.Form{Kind: "dots", Count: 3}, Temp: "hot", Seconds: 3, Hands: 1}}}
	for want, change := range map[string]func(*kitchen.Specification){
		"Vessel: the bowl, was the plate.":                  func(s *kitchen.Specification) { s.Vessel = "bowl" },
		"Vessel temperature: chilled, was hot.":             func(s *kitchen.Specification) { s.VesselTemp = "chilled" },
		"Facing the guest: no longer said (was bone).":      func(s *kitchen.Specification) { s.Facing = "" },
		"At the table: sauce.":                              func(s *kitchen.Specification) { s.TableSide = "sauce" },
		"May stand: no longer said (was 60 s).":             func(s *kitchen.Specification) { s.StandLimitS = 0 },
		"May stand: 90 s, was 60 s.":                        func(s *kitchen.Specification) { s.StandLimitS = 90 },
		"Last check: wipe, spin, was wipe.":                 func(s *kitchen.Specification) { s.FinalChecks = []string{"wipe", "spin"} },
		"Variants: vegan.":                                  func(s *kitchen.Specification) { s.Variants = []kitchen.Variant{{Name: "vegan"}} },
		"the a: amount 25, was 20.":                         func(s *kitchen.Specification) { s.Elements[0].Amount = 25 },
		"the a: form heap 30 mm high, was heap.":            func(s *kitchen.Specification) { s.Elements[0].Form.HeightMm = 30 },
		"the a: place 5 mm right, was the centre.":          func(s *kitchen.Specification) { s.Elements[0].At.XMm = 5 },
		"the a: turned 90°, was 0°.":                        func(s *kitchen.Specification) { s.Elements[0].TurnDeg = 90 },
		"the b: put on another element, was on the vessel.": func(s *kitchen.Specification) { s.Elements[1].On = 1 },
		"the a: temperature warm, was hot.":                 func(s *kitchen.Specification) { s.Elements[0].Temp = "warm" },
		"the a: tool none, was spoon.":                      func(s *kitchen.Specification) { s.Elements[0].Tool = "" },
		"the b: time 9 s, was 4 s.":                         func(s *kitchen.Specification) { s.Elements[1].Seconds = 9 },
		"the b: hands 2, was 1.":                            func(s *kitchen.Specification) { s.Elements[1].Hands = 2 },
		"the b: now at the last moment.":                    func(s *kitchen.Specification) { s.Elements[1].LastMoment = true },
		"the a: amount 6, was 5; time 2 s, was 3 s.": func(s *kitchen.Specification) {
			s.Elements[2].Amount, s.Elements[2].Seconds = 6,
				2
		},
		"the b is gone (was number 2).": func(s *kitchen.Specification) { s.Elements = slices.Delete(s.Elements, 1, 2) },
		"the a is gone (was number 3).": func(s *kitchen.Specification) { s.Elements = s.Elements[:2] },
		"the c is new: foam, number 4.": func(s *kitchen.Specification) {
			s.Elements = append(s.Elements, kitchen.Element{Component: "c", Form: kitchen.Form{Kind: "foam"}})
		},
	} {
		is := was
		is.Elements = slices.Clone(was.Elements)
		change(&is)
		said := kitchen.Compare(&was, &is, name)
		require.Len(t, said, 1, want)
		require.Equal(t, want, said[0].Text)
	}
	is := was
	is.Elements = slices.Clone(was.Elements)
	is.Elements[1].LastMoment = true
	require.Equal(t, "the b: no longer at the last moment.", kitchen.Compare(&is, &was, name)[0].Text)
}
