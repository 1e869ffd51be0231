package plating

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

func hotSauce() kitchen.Element {
	e := put("a", 40, kitchen.Form{Kind: "pool"}, 0, 0)
	e.Temp = "hot"
	return e
}

// A sauce is cold sooner on a cold plate than on a warm one, and longer hot where more of it lies together; only what goes hot is judged.
func TestHowLongASauceIsHot(t *testing.T) {
	p := drawn(t, nil, hotSauce(), disc("b", 20, 60, 0))
	require.Len(t, p.Served, 1)
	s := p.Served[0]
	require.Equal(t, 1, s.Element)
	require.Greater(t, s.WarmS, s.ColdS)
	require.Greater(t, s.ColdS, 10)
	require.Less(t, s.WarmS, 20*60)
	require.Contains(t, s.Said.Text, "is below 55° after ")
	more := hotSauce()
	more.Amount *= 3
	more.Form = kitchen.Form{Kind: "quenelle"}
	require.Greater(t, drawn(t, nil, more).Served[0].ColdS, s.ColdS)
	warm := drawn(t, func(d *kitchen.Data) { d.Vessels[0].WarmC = 80 }, hotSauce()).Served[0]
	require.Greater(t, warm.WarmS, s.WarmS)
	require.Equal(t, s.ColdS, warm.ColdS)
	later := drawn(t, func(d *kitchen.Data) { d.Kitchen.ServeC = 45 }, hotSauce()).Served[0]
	require.Greater(t, later.ColdS, s.ColdS)
	require.Contains(t, later.Said.Text, "below 45°")
	slate := drawn(t, func(d *kitchen.Data) { d.Vessels[0].Material = "slate" }, hotSauce()).Served[0]
	require.Less(t, slate.ColdS, s.ColdS, "slate takes more")
	on := hotSauce()
	on.On = 1
	on.Component = "b"
	stood := drawn(t, nil, disc("a", 20, 0, 0), on).Served
	require.Len(t, stood, 1)
	require.Contains(t, stood[0].Said.Text, "on a cold plate or a warm one")
}

// A core near the serving temperature is not judged by it; a pot says how hot it is; a stand limit past the first that is cold is pointed
// out, on both sides of it.
func TestWhatIsServedHotAndHowLongItMayStand(t *testing.T) {
	cooked := func(target float64) []Served {
		return drawn(t, func(d *kitchen.Data) {
			for i := range d.Components {
				if d.Components[i].ID == "a" {
					longest := 600
					d.Components[i].Hold.Longest = &longest
					d.Components[i].Hold.In = &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 1, SetpointC: &target}
				}
			}
			d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "warm", Name: "Warm", Kind: kitchen.Holding, Capacity: 9, Unit: "pan"})
		}, hotSauce()).Served
	}
	require.Empty(t, cooked(59.9))
	require.Len(t, cooked(60), 1)
	require.Greater(t, cooked(90)[0].ColdS, cooked(70)[0].ColdS)
	s := drawn(t, nil, hotSauce()).Served[0]
	stand := func(limit int, temp kitchen.TempClass) string {
		p := drawn(t, func(d *kitchen.Data) {
			d.Dishes[0].Specification.StandLimitS, d.Dishes[0].Specification.VesselTemp = limit, temp
		}, hotSauce())
		return state(p, "served")
	}
	require.Empty(t, stand(s.ColdS, "ambient"))
	require.Equal(t, "mind", stand(s.ColdS+1, "ambient"))
	require.Empty(t, stand(s.WarmS, "warm"))
	require.Equal(t, "mind", stand(s.WarmS+1, "warm"))
	require.Empty(t, stand(0, "ambient"), "no limit was written")
}
