package kitchen_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// A step's need of equipment against what the kitchen has: the kind, the room of the largest, the heat of any.
func TestNeedsAgainstTheKitchen(t *testing.T) {
	celsius := func(v float64) *float64 { return &v }
	hot := func(low, high float64) *kitchen.Thermostat {
		t := kitchen.NewThermostat()
		t.LowC, t.HighC = low, high
		return &t
	}
	said := func(n kitchen.EquipmentNeed, ovens ...*kitchen.Thermostat) string {
		d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
		d.Equipment = nil
		for i, x := range ovens {
			d.Equipment = append(d.Equipment, kitchen.Equipment{ID: string(rune('a' + i)), Name: "Oven", Kind: kitchen.Oven,
				Capacity: 2 + i, Unit: "shelf", Thermostat: x})
		}
		d.Components = []kitchen.Component{{ID: "c", Name: "C", Section: "stove", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
			Steps: []kitchen.Step{{ID: "s", Name: "S", Phase: kitchen.PickUp, Hands: kitchen.Both,
				Time: kitchen.StepTime{Fixed: kitchen.Exactly(1)}, Equipment: &n}}}}
		_, err := kitchen.NewBook(d)
		if err == nil {
			return ""
		}
		return err.Error()
	}
	oven := func(units int, c *float64) kitchen.EquipmentNeed {
		return kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: units, SetpointC: c}
	}
	require.Contains(t, said(oven(1, nil)), "steps[0].equipment.kind: the kitchen has no oven")
	require.Empty(t, said(oven(2, nil), hot(50, 250)))
	require.Contains(t, said(oven(3, nil), hot(50, 250)), "steps[0].equipment.units: the largest oven takes 2, got 3")
	require.Empty(t, said(oven(3, nil), hot(50, 250), hot(50, 250)))
	for _, c := range []float64{50, 250, 100} {
		require.Empty(t, said(oven(1, celsius(c)), hot(50, 250)), c)
	}
	for _, c := range []float64{49.5, 250.5} {
		require.Contains(t, said(oven(1, celsius(c)), hot(50, 250)), "steps[0].equipment.setpoint_c: no oven reaches", c)
		require.Empty(t, said(oven(1, celsius(c)), hot(50, 250), hot(30, 300)), "another one does")
		require.Empty(t, said(oven(1, celsius(c)), hot(50, 250), nil), "one without a thermostat is set by hand")
	}
	require.Contains(t, said(kitchen.EquipmentNeed{Kind: kitchen.Grill, Units: 1}, hot(50, 250)), "the kitchen has no grill")
}

// By hand. Sixty and forty per cent of five covers: three and two; a third of three covers each: one of each. Half of
// the covers takes no such course where the shares end at fifty.
func TestSharesBecomePlates(t *testing.T) {
	orders := func(covers int, shares ...float64) map[string]int {
		d := wholeKitchen(t)
		var mains []string
		for _, x := range d.Dishes {
			if x.Course == kitchen.Main {
				mains = append(mains, x.ID)
			}
		}
		s := kitchen.Service{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
			Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: covers, SeatedAt: 1140}}}
		for i, x := range shares {
			s.Menu = append(s.Menu, kitchen.MenuLine{Dish: mains[i], Share: x})
		}
		d.Services = []kitchen.Service{s}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		list, problems := b.TableOrders(&b.Services()[0])
		require.Empty(t, problems)
		out := map[string]int{}
		for _, o := range list[0] {
			for i, id := range mains {
				if o.Dish == id {
					out[string(rune('a'+i))] += o.Count
				}
			}
		}
		return out
	}
	require.Equal(t, map[string]int{"a": 3, "b": 2}, orders(5, 60, 40))
	require.Equal(t, map[string]int{"a": 1, "b": 1, "c": 1}, orders(3, 33.4, 33.3, 33.3))
	require.Equal(t, map[string]int{"a": 2}, orders(4, 50))
	require.Equal(t, map[string]int{"a": 4}, orders(4, 100, 0))
	require.Empty(t, orders(4, 0))
}
