package kitchen_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	"jointime/core/kitchen"
)

func n(v int) *int { return &v }

func toOrder(name string, hold kitchen.Wait, steps ...kitchen.Step) kitchen.Component {
	for i := range steps {
		steps[i].Phase = kitchen.PickUp
	}
	return kitchen.Component{ID: "c", Name: name, Section: "s", Hold: hold, Steps: steps}
}

func stepOn(id string, kind kitchen.EquipmentKind, after ...kitchen.Predecessor) kitchen.Step {
	s := kitchen.Step{ID: id, Name: id, Hands: kitchen.Tend, After: after}
	if kind != "" {
		s.Equipment = &kitchen.EquipmentNeed{Kind: kind, Units: 1}
	}
	return s
}

// What is usual goes by the kind of thing first: as somebody said, else by the longest word of its name that is known, and only
// whole words. Limits: common practice, no source.
func TestTheKindOfThing(t *testing.T) {
	for name, kind := range map[string]string{"Hake, roasted": "fish", "Pressed potato": "pressed-potato", "Potato": "pressed-potato",
		"Cider butter sauce": "butter-sauce", "Treacle sauce": "sauce", "Horseradish broth": "broth", "Roast onion": "roast-vegetable",
		"Frozen buttermilk": "frozen", "Celeriac PURÉE": "purée", "Guinea fowl breast": "steak", "Braised leg, glazed": "glazed"} {
		u := (&kitchen.Component{Name: name}).UsualOf()
		require.NotNil(t, u, name)
		require.Equal(t, kind, u.Kind, name)
	}
	for _, name := range []string{"", "Something", "Legendary", "Justice", "42"} {
		require.Nil(t, (&kitchen.Component{Name: name}).UsualOf(), name)
	}
	require.Equal(t, "broth", (&kitchen.Component{Name: "Hake", Thing: "broth"}).UsualOf().Kind, "said is said")
	require.Nil(t, (&kitchen.Component{Name: "Hake", Thing: "moon"}).UsualOf())
}

// A hold without limits: by the kind of thing, then by its place, the bench where none is said. By hand: a seared fish portion
// waits 90 s at best and 4 min at most.
func TestWhatNobodyLimitedIsNotFree(t *testing.T) {
	warm := stepOn("warm", kitchen.Burner)
	for _, x := range []struct {
		name          string
		hold          kitchen.Wait
		best, longest int
		by            string
	}{
		{"Hake", kitchen.Wait{}, 90, 240, "kind"},
		{"Hake", kitchen.Wait{Shortest: 60}, 90, 240, "kind"},
		{"Hake", kitchen.Wait{Shortest: 150}, 150, 270, "kind"},
		{"Hake", kitchen.Wait{Best: n(300)}, 300, 300, "kind"},
		{"Thing", kitchen.Wait{}, 60, 240, "place"},
		{"Thing", kitchen.Wait{Place: kitchen.Hot}, 600, 2700, "place"},
		{"Thing", kitchen.Wait{Place: kitchen.Chilled}, 0, 4 * 3600, "place"},
		{"Hake", kitchen.Wait{Place: kitchen.Hot}, 600, 2700, "place"}, // a seared portion is not usual there
		{"Thing", kitchen.Wait{Shortest: 1800}, 1800, 1920, "place"},   // a rest of half an hour, and half the bench's four minutes
	} {
		c := toOrder(x.name, x.hold, warm)
		p := c.PlannedHold()
		require.True(t, p.Assumed)
		require.Equal(t, x.by, p.By, "%s %v", x.name, x.hold)
		require.Equal(t, [2]int{x.best, x.longest}, [2]int{*p.Best, *p.Longest}, "%s %v", x.name, x.hold)
		require.Equal(t, x.hold, c.Hold, "what was said is as it was")
	}
	for _, said := range []kitchen.Wait{{Longest: n(10)}, {NoLimit: true}} {
		c := toOrder("Hake", said, warm)
		require.Equal(t, kitchen.Planned{Wait: said}, c.PlannedHold())
	}
	ahead := toOrder("Hake", kitchen.Wait{}, warm)
	ahead.Steps[0].Phase = kitchen.Ahead
	require.False(t, ahead.PlannedHold().Assumed, "nothing of it is made to order")
}

// Between steps on the same kind of thing, without a word between: at once, 30 s. Said otherwise, or with a wait, or on
// something else, by the place.
func TestStepsInOnePanFollowAtOnce(t *testing.T) {
	two := func(a, b kitchen.EquipmentKind, w kitchen.Wait, same *bool) kitchen.Planned {
		c := toOrder("Thing", kitchen.Wait{}, stepOn("fry", a), stepOn("reduce", b, kitchen.Predecessor{Step: "fry", Wait: w}))
		c.Steps[1].Same = same
		return c.PlannedWait(&c.Steps[1], c.Steps[1].After[0])
	}
	yes, no := true, false
	once := two(kitchen.Burner, kitchen.Burner, kitchen.Wait{}, nil)
	require.True(t, once.AtOnce())
	require.Equal(t, "pan", once.By)
	require.Equal(t, "place", two(kitchen.Burner, kitchen.Oven, kitchen.Wait{}, nil).By)
	require.Equal(t, "place", two(kitchen.Burner, kitchen.Burner, kitchen.Wait{}, &no).By)
	require.Equal(t, "place", two(kitchen.Burner, kitchen.Burner, kitchen.Wait{Shortest: 60}, nil).By)
	require.Equal(t, "pan", two(kitchen.Burner, kitchen.Oven, kitchen.Wait{}, &yes).By, "somebody said so: the pan goes into the oven")
	require.Equal(t, "place", two("", "", kitchen.Wait{}, nil).By)
	require.False(t, two(kitchen.Burner, kitchen.Burner, kitchen.Wait{Longest: n(90)}, nil).Assumed)
	hot := two(kitchen.Oven, kitchen.Oven, kitchen.Wait{}, nil)
	require.True(t, hot.AtOnce())
	c := toOrder("Thing", kitchen.Wait{}, stepOn("a", kitchen.Oven), stepOn("b", kitchen.Oven, kitchen.Predecessor{Step: "a"}))
	at := 180.0
	c.Steps[1].Equipment.SetpointC = &at
	require.False(t, c.GoesOn(&c.Steps[1], "a"), "at another heat")
	c.Steps[1].Section = "other"
	c.Steps[1].Equipment.SetpointC = nil
	require.False(t, c.GoesOn(&c.Steps[1], "a"), "somebody else's")
}

// A pot has its own limit, whatever is usual for its kind.
func TestAPotIsHeldAsItSays(t *testing.T) {
	c := toOrder("Broth", kitchen.Wait{Kept: "lid on"}, stepOn("heat", kitchen.Burner))
	c.Pot = &kitchen.Pot{HoldsS: 2400}
	p := c.PlannedHold()
	require.False(t, p.Assumed)
	require.Equal(t, 2400, *p.Longest)
	require.Equal(t, "lid on", p.Kept)
}

// Fish waits for the call; a broth does not; what may wait a quarter of an hour longer may begin on the forecast; a breast may
// be coloured, and not finished. A word of somebody's goes before. Common practice, no source.
func TestWhatMayBeginBeforeTheCall(t *testing.T) {
	one := func(name string, hold kitchen.Wait, call kitchen.Call) bool {
		c := toOrder(name, hold, stepOn("cook", kitchen.Burner))
		c.Steps[0].Call = call
		return c.MayBegin(&c.Steps[0])
	}
	require.False(t, one("Hake", kitchen.Wait{}, ""))
	require.True(t, one("Hake", kitchen.Wait{}, kitchen.CallAny))
	require.True(t, one("Broth", kitchen.Wait{}, ""))
	require.False(t, one("Broth", kitchen.Wait{}, kitchen.CallOnly))
	require.True(t, one("Thing", kitchen.Wait{Longest: n(900)}, ""))
	require.False(t, one("Thing", kitchen.Wait{Longest: n(899)}, ""))
	require.False(t, one("Thing", kitchen.Wait{Shortest: 1, Longest: n(900)}, ""))
	c := toOrder("Guinea fowl breast", kitchen.Wait{}, stepOn("colour", kitchen.Burner),
		stepOn("baste", kitchen.Burner, kitchen.Predecessor{Step: "colour"}))
	require.True(t, c.MayBegin(&c.Steps[0]), "up to its stopping point")
	require.False(t, c.MayBegin(&c.Steps[1]))
	c.Name = "Hake"
	c.Steps[1].Call = kitchen.CallAny
	require.True(t, c.MayBegin(&c.Steps[0]), "what comes before a step that may begin may")
}

// Hands inside a step of 600 s, by hand: half-way for 10 s from 295; 60 s before the end for 12 from 540; every 200 s for 5 at
// 200 and 400, a sixth of 200 sooner or later; nothing at the end itself, and nothing that would lie outside.
func TestHandsInsideAStep(t *testing.T) {
	s := kitchen.Step{Touches: []kitchen.Touch{{Say: "baste", Seconds: 12, When: kitchen.BeforeEnd, AtS: 60},
		{Say: "turn", Seconds: 10, When: kitchen.HalfWay},
		{Say: "skim", Seconds: 5, When: kitchen.Every, AtS: 200}, {Say: "bay out", Seconds: 8, When: kitchen.After, AtS: 30}}}
	at := map[string][]int{}
	for _, x := range s.TouchesIn(600) {
		at[x.Say] = append(at[x.Say], x.AtS)
		require.Equal(t, map[bool]int{true: 33}[x.Say == "skim"], x.SpareS)
	}
	require.Equal(t, map[string][]int{"turn": {295}, "baste": {540}, "skim": {200, 400}, "bay out": {30}}, at)
	require.Len(t, (&kitchen.Step{Touches: s.Touches[:1]}).TouchesIn(60), 1)
	require.Empty(t, (&kitchen.Step{Touches: s.Touches[:1]}).TouchesIn(59), "it would begin before the step")
	require.Empty(t, (&kitchen.Step{Touches: s.Touches[3:]}).TouchesIn(37), "it would end after the step")
	require.Len(t, (&kitchen.Step{Touches: s.Touches[3:]}).TouchesIn(38), 1)
	e := kitchen.Ends{InS: 10, OutS: 20, InEachS: 4}
	require.Equal(t, [2]int{34, 20}, [2]int{e.In(6), e.Out(6)})
}

// The hands at the ends of a new step, and how many eyes it takes. Common practice, no source.
func TestUsualHandsAndEyes(t *testing.T) {
	at := func(name string, h kitchen.Hands, kind kitchen.EquipmentKind) *kitchen.Step {
		s := stepOn("x", kind)
		s.Name, s.Hands = name, h
		return &s
	}
	require.Equal(t, kitchen.Ends{InS: 15, OutS: 15}, at("Roast", kitchen.None, kitchen.Oven).UsualEnds())
	require.Equal(t, kitchen.Ends{InS: 10, OutS: 10}, at("Cook", kitchen.None, kitchen.WaterBath).UsualEnds())
	require.Equal(t, kitchen.Ends{InS: 20, OutS: 20}, at("Set", kitchen.None, kitchen.Fridge).UsualEnds())
	require.Equal(t, kitchen.Ends{InS: 45, OutS: 45}, at("Simmer", kitchen.None, kitchen.Burner).UsualEnds())
	require.Equal(t, kitchen.Ends{InS: 120, OutS: 120}, at("Soak overnight", kitchen.None, "").UsualEnds())
	require.Equal(t, kitchen.Ends{}, at("Rest", kitchen.None, "").UsualEnds())
	require.Equal(t, kitchen.Ends{}, at("Simmer", kitchen.Tend, kitchen.Burner).UsualEnds())
	require.Equal(t, kitchen.Ends{}, at("Sear", kitchen.Both, kitchen.Burner).UsualEnds())
	require.Equal(t, kitchen.Ends{InS: 10, OutS: 15}, at("Sear", kitchen.Tend, kitchen.Burner).UsualEnds())
	for name, eyes := range map[string]int{"Sear": 2, "Fry": 2, "Simmer": 1, "Reduce": 1} {
		require.Equal(t, eyes, at(name, kitchen.Tend, kitchen.Burner).Watch(), name)
		require.Zero(t, at(name, kitchen.None, kitchen.Burner).Watch())
		require.Zero(t, at(name, kitchen.Both, kitchen.Burner).Watch())
	}
	require.Equal(t, 2, at("Char", kitchen.Tend, kitchen.Plancha).Watch())
}

// Stirred every 20 min for 15 s while it rests for an hour at the least: at 20 and at 40 min; a third time would end after it.
func TestCareWhileItWaits(t *testing.T) {
	w := kitchen.Wait{Shortest: 3600, Kept: "film on", Until: "set", Care: &kitchen.Care{Say: "stir", Seconds: 15, EveryS: 1200}}
	require.Equal(t, []int{1200, 2400}, w.TimesCertain())
	w.Shortest = 3615
	require.Equal(t, []int{1200, 2400, 3600}, w.TimesCertain())
	require.Equal(t, "film on, until set, stir 15 s every 20 min", w.How())
	require.Empty(t, (&kitchen.Wait{Shortest: 9999}).TimesCertain())
	require.Empty(t, (&kitchen.Wait{}).How())
}

// What is assumed is listed for whoever shows it.
func TestWhatIsAssumedIsListed(t *testing.T) {
	c := toOrder("Hake", kitchen.Wait{}, stepOn("pan", kitchen.Burner), stepOn("sauce", kitchen.Burner, kitchen.Predecessor{Step: "pan"}))
	a := c.Assumed()
	require.Equal(t, "seared fish portion", a.Thing)
	require.Len(t, a.Waits, 2)
	require.Equal(t, [2]string{"pan", "sauce"}, [2]string{a.Waits[0].After, a.Waits[0].To})
	require.Equal(t, "pan", a.Waits[0].Plan.By)
	require.Equal(t, 240, *a.Waits[1].Plan.Longest)
	fish := kitchen.Piece{Shape: heat.Slab, Mm: 25, Food: heat.FishFood, StartC: 5, TargetC: 50}
	require.Equal(t, []kitchen.AssumedStep{{Step: "pan", Eyes: 1, Piece: fish}, {Step: "sauce", Eyes: 1, GoesOn: true, Piece: fish}}, a.Steps)
	c.Steps[0].Phase, c.Steps[1].Phase = kitchen.Ahead, kitchen.Ahead
	require.Equal(t, "cooked", c.Assumed().Waits[0].Plan.By, "what was cooked ahead goes on, or is chilled, at once")
	require.Len(t, c.Assumed().Waits, 1)
	c.Steps[0].Equipment = nil
	require.Empty(t, c.Assumed().Waits)
}
