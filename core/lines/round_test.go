package lines

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// What Say writes Seconds reads, from a second to sixty days, on both sides of where the way of writing changes.
func TestLengthsSaidAndRead(t *testing.T) {
	for _, s := range []int{0, 1, 59, 60, 61, 119, 120, 121, 180, 3599, 3600, 3601, 3660, 7200, 10799, 10800, 10860, 86400, 90000, 999*60 - 1,
		999 * 60, 999*60 + 1,
		60 * 86400} {
		got, ok := Seconds(Say(s))
		require.True(t, ok, "%d is said %q", s, Say(s))
		require.Equal(t, s, got, Say(s))
	}
	for s, want := range map[int]string{0: "0 s", 119: "119 s", 120: "2 min", 121: "2:01", 3600: "1 h", 5400: "90 min", 10800: "3 h",
		10860: "3 h 1 min",
		7201:  "120:01", 999*60 + 1: "59941 s"} {
		require.Equal(t, want, Say(s), s)
	}
	for _, bad := range []string{"", "1:60", "-1:30", "a:10", "5 parsecs", ":"} {
		_, ok := Seconds(bad)
		require.False(t, ok, bad)
	}
	got, ok := Seconds("0:30")
	require.True(t, ok)
	require.Equal(t, 30, got)
}

// British gas marks from ¼ to 10, in °C; above and below there is none. Common practice, no source.
func TestGasMarks(t *testing.T) {
	for mark, want := range map[string]float64{"gas ½": 120, "gas 1": 140, "gas 4": 180, "gas mark 9": 240, "gas 10": 260} {
		c, ok := Degrees(mark)
		require.True(t, ok, mark)
		require.InDelta(t, want, c, 0.05, mark)
	}
	for _, bad := range []string{"gas 0", "gas 11", "hot", "", "180 K"} {
		_, ok := Degrees(bad)
		require.False(t, ok, bad)
	}
	c, ok := Degrees("212 F")
	require.True(t, ok)
	require.InDelta(t, 100, c, 0)
}

// Steps of one name have ids of their own, whatever the others are called.
func TestIDsOfStepsAreTheirOwn(t *testing.T) {
	ids := func(text string) string {
		c, _ := Parse(kitchen.Component{}, text)
		var out []string
		for _, s := range c.Steps {
			out = append(out, s.ID)
		}
		return strings.Join(out, " ")
	}
	require.Equal(t, "fry fry-2 fry-3", ids("fry 1 min\nfry 2 min\nfry 3 min"))
	require.Equal(t, "fry-2 fry fry-3", ids("fry 2: 1 min\nfry 2 min\nfry 3 min"))
	require.Equal(t, "step step-2", ids("烤 4 min\n烤 5 min"), "what has no letters of ours is a step")
	long := strings.Repeat("very ", 20) + "slow"
	require.LessOrEqual(t, len(ids(long+" 4 min")), 40)
}

// Every phrase that is written is read back the same.
func TestEveryPhraseIsReadBack(t *testing.T) {
	at := func(v float64) *float64 { return &v }
	n := func(v int) *int { return &v }
	base := func() kitchen.Step {
		return kitchen.Step{ID: "sear", Name: "sear", Phase: kitchen.PickUp, Hands: kitchen.Both,
			Time:  kitchen.StepTime{Fixed: kitchen.Exactly(90)},
			After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{}, Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{},
			PutsIn: []string{}, TakesOut: []string{}}
	}
	for phrase, change := range map[string]func(*kitchen.Step){
		"from 80 s to 100 s":     func(s *kitchen.Step) { s.Time.Fixed = kitchen.Estimate{Low: 80, Likely: 90, High: 100} },
		"and 20 s a portion":     func(s *kitchen.Step) { s.Time.PerPortion = kitchen.Exactly(20) },
		"each from 10 s to 30 s": func(s *kitchen.Step) { s.Time.PerPortion = kitchen.Estimate{Low: 10, Likely: 20, High: 30} },
		"a look now and then":    func(s *kitchen.Step) { s.Hands = kitchen.Tend },
		"nobody":                 func(s *kitchen.Step) { s.Hands = kitchen.None },
		"in the oven taking 2":   func(s *kitchen.Step) { s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 2} },
		"in the oven at 62.5": func(s *kitchen.Step) {
			s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: at(62.5)}
		},
		"in the oven at 200 to 220": func(s *kitchen.Step) {
			s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: at(200), SetpointToC: at(220)}
		},
		"heated 4 min before": func(s *kitchen.Step) {
			s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1, PreheatS: 240}
		},
		"batches of 4":         func(s *kitchen.Step) { s.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.SideBySide} },
		"batches of 4 in turn": func(s *kitchen.Step) { s.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.InTurn} },
		"rare 1 min less":      func(s *kitchen.Step) { s.Doneness = []kitchen.Doneness{{Name: "rare", Seconds: -60}} },
		"well done 2 min more": func(s *kitchen.Step) { s.Doneness = []kitchen.Doneness{{Name: "well done", Seconds: 120}} },
		"until core 58":        func(s *kitchen.Step) { s.Checks = []kitchen.DoneCheck{{Kind: "core", TargetC: at(58)}} },
		"until look golden":    func(s *kitchen.Step) { s.Checks = []kitchen.DoneCheck{{Kind: "look", Say: "golden"}} },
		"puts in twine":        func(s *kitchen.Step) { s.PutsIn = []string{"twine"} },
		"takes out twine":      func(s *kitchen.Step) { s.TakesOut = []string{"twine"} },
		"mind steam":           func(s *kitchen.Step) { s.Dangers = []kitchen.Danger{"steam"} },
		"by stove":             func(s *kitchen.Step) { s.Section = "stove" },
		"hands 25 s to lay in and 30 s to take out": func(s *kitchen.Step) {
			s.Hands, s.Ends = kitchen.Tend, kitchen.Ends{InS: 25, OutS: 30}
		},
		"hands 10 s plus 4 s each to lay in and 0 s to take out": func(s *kitchen.Step) {
			s.Hands, s.Ends = kitchen.Tend, kitchen.Ends{InS: 10, InEachS: 4}
		},
		"no hands to lay in or take out": func(s *kitchen.Step) {
			s.Hands, s.Equipment = kitchen.None, &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1}
		},
		"turn half-way for 20 s":                     touched(kitchen.Touch{Say: "turn", Seconds: 20, When: kitchen.HalfWay}),
		"skim every 30 min for 1 min":                touched(kitchen.Touch{Say: "skim", Seconds: 60, When: kitchen.Every, AtS: 1800}),
		"baste 80 s before the end for 8 s":          touched(kitchen.Touch{Say: "baste", Seconds: 8, When: kitchen.BeforeEnd, AtS: 80}),
		"add the butter 5 s after the start for 9 s": touched(kitchen.Touch{Say: "add the butter", Seconds: 9, When: kitchen.After, AtS: 5}),
		"away from the stove":                        func(s *kitchen.Step) { s.Away = true },
		"in the same pan":                            func(s *kitchen.Step) { yes := true; s.Same = &yes },
		"in another pan":                             func(s *kitchen.Step) { no := false; s.Same = &no },
		"may begin before the call":                  func(s *kitchen.Step) { s.Call = kitchen.CallAny },
		"not before the call":                        func(s *kitchen.Step) { s.Call = kitchen.CallOnly },
	} {
		s := base()
		change(&s)
		c := kitchen.Component{Steps: []kitchen.Step{s}}
		said := Format(&c)
		back, readings := Parse(kitchen.Component{}, said)
		require.Contains(t, said, phrase)
		require.Len(t, back.Steps, 1, said)
		require.Equal(t, s, back.Steps[0], "%s: %s", phrase, said)
		require.Nil(t, readings[len(readings)-1].Unsure, said)
	}
	for _, w := range []kitchen.Wait{{Shortest: 90}, {Best: n(60)}, {Longest: n(600)}, {Place: kitchen.Hot},
		{Place: kitchen.OnBench, Longest: n(60)},
		{Shortest: 30, Best: n(60), Longest: n(90), Place: kitchen.Chilled}, {Longest: n(30)}, {Longest: n(29)}, {NoLimit: true},
		{Longest: n(30), Best: n(10)}, {Shortest: 60, Until: "cold"}, {Longest: n(600), Kept: "covered and on a rack"},
		{Longest: n(7200), Place: kitchen.Hot, Care: &kitchen.Care{Say: "stir", Seconds: 15, EveryS: 1200}},
		{Shortest: 1800, Longest: n(3600), In: &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: at(50)}},
		{Longest: n(3600), In: &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 2}}} {
		c := kitchen.Component{Steps: []kitchen.Step{base()}, Hold: w}
		back, _ := Parse(kitchen.Component{}, Format(&c))
		require.Equal(t, w, back.Hold, Format(&c))
		second := base()
		second.ID, second.Name, second.After = "rest", "plate", []kitchen.Predecessor{{Step: "sear", Wait: w}}
		c = kitchen.Component{Steps: []kitchen.Step{base(), second}}
		back, _ = Parse(kitchen.Component{}, Format(&c))
		require.Equal(t, w, back.Steps[1].After[0].Wait, Format(&c))
	}
}

// A standing pot is a line of its own, and is gone when the line is.
func TestAStandingPotInLines(t *testing.T) {
	at := 70.0
	for _, p := range []*kitchen.Pot{nil, {HoldsS: 2400}, {HoldsS: 7200, In: &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 1}},
		{HoldsS: 7200, In: &kitchen.EquipmentNeed{Kind: kitchen.WaterBath, Units: 2, SetpointC: &at},
			TopUp: &kitchen.Care{Say: "stir and top up", Seconds: 40, EveryS: 1800}}} {
		c, readings := Parse(kitchen.Component{}, "to order\nwarm 5 min in the burner, a look now and then\nrest 1 min, kept lid on")
		c.Pot = p
		said := Format(&c)
		back, again := Parse(kitchen.Component{Pot: &kitchen.Pot{HoldsS: 60}}, said)
		require.Equal(t, p, back.Pot, said)
		require.Equal(t, c.Steps, back.Steps)
		require.Equal(t, c.Hold, back.Hold)
		for _, r := range append(readings, again...) {
			require.Nil(t, r.Unsure, r.Line)
		}
	}
	c, readings := Parse(kitchen.Component{}, "standing pot, and something else")
	require.Equal(t, usualPot, c.Pot.HoldsS)
	require.NotNil(t, readings[0].Unsure)
}

func touched(x kitchen.Touch) func(*kitchen.Step) {
	return func(s *kitchen.Step) { s.Hands, s.Touches = kitchen.Tend, []kitchen.Touch{x} }
}

// As a cook says it: the hands at both ends, what is between, the place of a wait, at once.
func TestHandsAndWaitsAsACookSaysThem(t *testing.T) {
	c, readings := Parse(kitchen.Component{}, "to order\n"+
		"skin down in the burner pan 4 min, hands 25 s to lay in and 30 s to take out, turn half-way for 10 s\n"+
		"at once\nfinish in the oven at 180, 4 min\nrest 30 min, at most 1 h, in the oven at 50, kept loosely covered\n")
	for _, r := range readings {
		require.Nil(t, r.Unsure, r.Line)
	}
	pan := c.Steps[0]
	require.Equal(t, "skin down", pan.Name)
	require.Equal(t, kitchen.Tend, pan.Hands, "an eye between")
	require.Equal(t, kitchen.Ends{InS: 25, OutS: 30}, pan.Ends)
	require.Equal(t, 240, pan.Time.Fixed.Likely)
	require.Equal(t, []kitchen.Touch{{Say: "turn", Seconds: 10, When: kitchen.HalfWay}}, pan.Touches)
	require.True(t, c.Steps[1].After[0].AtOnce())
	require.Equal(t, kitchen.None, c.Steps[1].Hands, "it goes by itself")
	require.Equal(t, 1800, c.Hold.Shortest)
	require.Equal(t, 3600, *c.Hold.Longest)
	require.Equal(t, kitchen.Oven, c.Hold.In.Kind)
	require.InDelta(t, 50, *c.Hold.In.SetpointC, 0)
	require.Equal(t, "loosely covered", c.Hold.Kept)
	// Something that goes by itself has nobody between; the usual hands at its ends are said to be there.
	c, _ = Parse(kitchen.Component{},
		"roast in the oven at 200 20 min, hands 60 s to put in and 60 s to take out\nchill 1 h, nobody, in the fridge")
	require.Equal(t, kitchen.None, c.Steps[0].Hands)
	require.Equal(t, kitchen.Ends{InS: 60, OutS: 60}, c.Steps[0].Ends)
	require.Equal(t, kitchen.Ends{InS: 20, OutS: 20}, c.Steps[1].Ends, "into the fridge and out of it")
	// Both hands throughout have no ends: what is said of them is not understood, and stays.
	c, _ = Parse(kitchen.Component{}, "carve 2 min, both hands, hands 5 s to lay in and 5 s to take out")
	require.Equal(t, kitchen.Ends{}, c.Steps[0].Ends)
	require.Contains(t, c.Steps[0].Name, "to lay in")
}

// So many lines of so many characters are the most.
func TestBoundsOfLines(t *testing.T) {
	require.NoError(t, Check(strings.Repeat("x\n", MaxLines-1)))
	require.Error(t, Check(strings.Repeat("x\n", MaxLines)+"x"))
	require.NoError(t, Check(strings.Repeat("é", MaxLine)))
	err := Check("x\n" + strings.Repeat("é", MaxLine+1))
	require.EqualError(t, err, fmt.Sprintf("text, line 2: expected at most %d characters, got %d", MaxLine, MaxLine+1))
}

// What comes after a step of another component is read back as it was written, with every wait that may lie between.
func TestAfterAStepOfAnotherComponentComesBack(t *testing.T) {
	n := func(v int) *int { return &v }
	for _, a := range []kitchen.OtherStep{{}, {Pan: true}, {Wait: kitchen.Wait{Shortest: 60}},
		{Wait: kitchen.Wait{Longest: n(600)}, Pan: true}, {Wait: kitchen.Wait{Shortest: 60, Best: n(90), Longest: n(150),
			Place: kitchen.OnBench}},
		{Wait: kitchen.Wait{NoLimit: true, Place: kitchen.Hot}}, {Any: true}, {Any: true, Wait: kitchen.Wait{Longest: n(300)}}} {
		a.Component, a.Step = "leg-of-lamb", "roast-2"
		s := kitchen.Step{ID: "make", Name: "make", Phase: kitchen.PickUp, Hands: kitchen.Both,
			Time: kitchen.StepTime{Fixed: kitchen.Exactly(180)}, After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{},
			Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{},
			PutsIn: []string{}, TakesOut: []string{}, Beside: []kitchen.OtherStep{a}}
		text := Format(&kitchen.Component{Steps: []kitchen.Step{s}})
		c, readings := Parse(kitchen.Component{}, text)
		require.Equal(t, []kitchen.Step{s}, c.Steps, text)
		for _, r := range readings {
			require.Nil(t, r.Unsure, r.Line)
		}
	}
	// As a cook would type it.
	c, _ := Parse(kitchen.Component{}, "to order\nmake the gravy, 3 min, both hands, after roast of leg in its tray\n")
	require.Equal(t, []kitchen.OtherStep{{Component: "leg", Step: "roast", Pan: true}}, c.Steps[0].Beside)
	require.Equal(t, "make the gravy", c.Steps[0].Name)
}

// Who may do a step, and how long something may wait when it must, come back as they were written.
func TestWhoMayAndHowLongItMayStretchComesBack(t *testing.T) {
	n := func(v int) *int { return &v }
	for _, x := range []struct {
		may    kitchen.May
		people []string
		hold   kitchen.Wait
	}{{kitchen.MayAnybody, nil, kitchen.Wait{}}, {kitchen.MaySection, nil, kitchen.Wait{Longest: n(600),
		Stretch: &kitchen.Stretched{LongestS: 1500}}},
		{kitchen.MayNamed, []string{"ana", "ben-2"}, kitchen.Wait{Shortest: 180, Best: n(300), Longest: n(600),
			Stretch: &kitchen.Stretched{LongestS: 1500, In: &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 1}}}},
		{kitchen.MayUnsaid, nil, kitchen.Wait{Stretch: &kitchen.Stretched{LongestS: 7200,
			In: &kitchen.EquipmentNeed{Kind: kitchen.WaterBath, Units: 1}}}}} {
		s := kitchen.Step{ID: "carve", Name: "carve", Phase: kitchen.PickUp, Hands: kitchen.Both,
			Time: kitchen.StepTime{Fixed: kitchen.Exactly(180)}, After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{},
			Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{},
			PutsIn: []string{}, TakesOut: []string{}, May: x.may, People: x.people}
		text := Format(&kitchen.Component{Steps: []kitchen.Step{s}, Hold: x.hold})
		c, readings := Parse(kitchen.Component{}, text)
		require.Equal(t, []kitchen.Step{s}, c.Steps, text)
		require.Equal(t, x.hold, c.Hold, text)
		for _, r := range readings {
			require.Nil(t, r.Unsure, r.Line)
		}
	}
}

// The ends of a joint come back as they were written.
func TestTheEndsOfAJointComeBack(t *testing.T) {
	c, _ := Parse(kitchen.Component{},
		"to order\nroast, 20 min, nobody, in the oven at 180, well done 10 min more but for 2 at the ends, rare 5 min less\n")
	require.Equal(t, []kitchen.Doneness{{Name: "well done", Seconds: 600, Ends: 2}, {Name: "rare", Seconds: -300}}, c.Steps[0].Doneness)
	again, _ := Parse(kitchen.Component{}, Format(&c))
	require.Equal(t, c.Steps, again.Steps)
}

// A limit for each piece, and the small ware that a step fills, come back as they were written.
func TestPiecesAndWaresComeBack(t *testing.T) {
	text := "ahead\nfill, 5 min, both hands, fills 1 of moulds until turn-out, fills 1 for 8 of trays\nwait, at most 25 s for each piece\n" +
		"turn out, 20 s, both hands\n"
	c, readings := Parse(kitchen.Component{}, text)
	for _, r := range readings {
		require.Nil(t, r.Unsure, r.Line)
	}
	require.Equal(t, []kitchen.Ware{{Equipment: "moulds", Each: 1, Until: "turn-out"}, {Equipment: "trays", For: 8}}, c.Steps[0].Wares)
	require.True(t, c.Steps[1].After[0].Each)
	again, _ := Parse(kitchen.Component{}, Format(&c))
	require.Equal(t, c.Steps, again.Steps, Format(&c))
}
