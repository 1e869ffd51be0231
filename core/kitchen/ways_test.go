package kitchen_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

func deg(c float64) *float64 { return &c }

// otherwise is a kitchen whose first component is done to order in the oven at 200°, with a service.
func otherwise(ways ...kitchen.Way) kitchen.Data {
	d := twoOnAPlate()
	s := &d.Components[0].Steps[1]
	s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: deg(200), SetpointToC: deg(210)}
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Menu: []kitchen.MenuLine{{Dish: "dish", Share: 100}}, Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 2, SeatedAt: 19 * 60}},
		Ways: ways}}
	return d
}

func TestWhatMayBeSaidOfAStepInAService(t *testing.T) {
	person := otherwise().People[0].ID
	for name, x := range map[string]struct {
		ways []kitchen.Way
		want string
	}{
		"its heat":   {[]kitchen.Way{{Component: "x", Step: "fry", HeatC: deg(190)}}, ""},
		"who":        {[]kitchen.Way{{Component: "x", Step: "turn", Person: person}}, ""},
		"ahead":      {[]kitchen.Way{{Component: "x", Step: "fry", Ahead: true}}, ""},
		"nothing":    {[]kitchen.Way{{Component: "x", Step: "fry"}}, "services[0].ways[0]: say one thing of the step"},
		"two things": {[]kitchen.Way{{Component: "x", Step: "fry", Ahead: true, Person: person}}, "services[0].ways[0]: say one thing"},
		"of no step": {[]kitchen.Way{{Component: "x", Ahead: true}}, "services[0].ways[0]: say one thing"},
		"twice": {[]kitchen.Way{{Component: "x", Step: "fry", Ahead: true}, {Component: "x", Step: "fry", Ahead: true}},
			"services[0].ways[1]: “x” has this said twice"},
		"a step made ahead": {[]kitchen.Way{{Component: "x", Step: "cut", Person: person}},
			"services[0].ways[0].step: “x” has no step “cut” to order"},
		"nobody":            {[]kitchen.Way{{Component: "x", Step: "fry", Person: "nobody"}}, "services[0].ways[0].person"},
		"no such component": {[]kitchen.Way{{Component: "z", Step: "fry", Ahead: true}}, "services[0].ways[0].component"},
		"what has no heat": {[]kitchen.Way{{Component: "x", Step: "turn", HeatC: deg(190)}},
			"services[0].ways[0].heat_c: “turn” is not done at a heat"},
		"hotter than the oven": {[]kitchen.Way{{Component: "x", Step: "fry", HeatC: deg(599)}}, "services[0].ways[0].setpoint_c"},
		"longer than allowed": {[]kitchen.Way{{Component: "x", Stretch: true}},
			"services[0].ways[0].stretch: nobody said that “x” may wait longer"},
	} {
		_, err := kitchen.NewBook(otherwise(x.ways...))
		if x.want == "" {
			require.NoError(t, err, name)
		} else {
			require.ErrorContains(t, err, x.want, name)
		}
	}
}

// The book as a service does it has what the service says, and the dish book stays as it is.
func TestTheBookAsAServiceDoesIt(t *testing.T) {
	d := otherwise(kitchen.Way{Component: "x", Step: "fry", HeatC: deg(190)}, kitchen.Way{Component: "x", Step: "turn", Person: "who"},
		kitchen.Way{Component: "x", Stretch: true}, kitchen.Way{Component: "y", Step: "turn", Ahead: true})
	who := d.People[0]
	who.ID, who.Name = "who", "Who"
	d.People = append(d.People, who)
	longest := 600
	d.Components[0].Hold = kitchen.Wait{Longest: &longest, Stretch: &kitchen.Stretched{LongestS: 1500}}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	as := b.As(&b.Services()[0])
	x, _ := as.Component("x")
	require.Equal(t, 190.0, *x.Steps[1].Equipment.SetpointC)
	require.Nil(t, x.Steps[1].Equipment.SetpointToC)
	require.Equal(t, []string{"who"}, x.Steps[2].Also)
	require.Equal(t, 1500, *x.PlannedHold().Longest)
	y, _ := as.Component("y")
	require.Empty(t, y.InPhase(kitchen.PickUp), "what comes before it is made ahead too")
	for _, of := range []*kitchen.Book{b, b.As(&kitchen.Service{})} {
		x, _ = of.Component("x")
		require.Equal(t, 200.0, *x.Steps[1].Equipment.SetpointC)
		require.Equal(t, 600, *x.PlannedHold().Longest)
		require.Empty(t, x.Steps[2].Also)
		y, _ = of.Component("y")
		require.Len(t, y.InPhase(kitchen.PickUp), 2)
	}
}

// What nobody said may be stretched goes by its kind: a steak waits 25 min in the hot cupboard, where there is one, and where
// that is longer than it may wait anyway. What stands in a pot, or nobody knows, may not.
func TestTheUsualStretch(t *testing.T) {
	of := func(change func(*kitchen.Data, *kitchen.Component)) *kitchen.Stretched {
		d := twoOnAPlate()
		d.Components[0].Thing = "steak"
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "cupboard", Name: "Cupboard", Kind: kitchen.Holding, Capacity: 4, Unit: "shelf"})
		if change != nil {
			change(&d, &d.Components[0])
		}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		c, _ := b.Component("x")
		return b.StretchOf(c, "")
	}
	require.Equal(t, &kitchen.Stretched{LongestS: 1500, In: &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 1}}, of(nil))
	for _, s := range []int{1499, 1500} {
		got := of(func(_ *kitchen.Data, c *kitchen.Component) { c.Hold.Longest = &s })
		require.Equal(t, s < 1500, got != nil, s)
	}
	require.Nil(t, of(func(d *kitchen.Data, _ *kitchen.Component) { d.Equipment = d.Equipment[:len(d.Equipment)-1] }))
	require.Nil(t, of(func(_ *kitchen.Data, c *kitchen.Component) { c.Thing = "fish" }))
	require.Nil(t, of(func(_ *kitchen.Data, c *kitchen.Component) { c.Pot = &kitchen.Pot{HoldsS: 600} }))
}

// Named people are named, and only then.
func TestWhoMayDoAStepIsNamed(t *testing.T) {
	d := twoOnAPlate()
	s := &d.Components[0].Steps[1]
	for _, x := range []struct {
		may    kitchen.May
		people []string
		ok     bool
	}{{kitchen.MayUnsaid, nil, true}, {kitchen.MayAnybody, nil, true}, {kitchen.MaySection, nil, true}, {kitchen.MayNamed,
		[]string{d.People[0].ID}, true},
		{kitchen.MayNamed, nil, false}, {kitchen.MayAnybody, []string{d.People[0].ID}, false}, {"friends", nil, false},
		{kitchen.MayNamed, []string{"nobody"}, false}} {
		s.May, s.People = x.may, x.people
		_, err := kitchen.NewBook(d)
		require.Equal(t, x.ok, err == nil, "%v: %v", x, err)
	}
}
