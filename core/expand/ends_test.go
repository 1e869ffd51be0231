package expand_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// sear is four minutes in a pan that wants two eyes, with hands for 25 s to lay in and 30 s to take out.
func sear(id string, best int) kitchen.Component {
	s := pick("sear", kitchen.Tend, 240)
	s.Ends = kitchen.Ends{InS: 25, OutS: 30}
	return kitchen.Component{ID: id, Hold: kitchen.Wait{Best: seconds(best), Longest: seconds(400)}, Steps: []kitchen.Step{s}}
}

// By hand. One cook with four eyes, so two pans at a time; x, y, z and what is carved are plated in 10 s each and needed at
// −40, −30, −20 and −10. A third pan begins when one of the first two is off.
//
//	z  off at −20, on at −260; hands −260…−235 and −50…−20
//	y  off when z's taking out begins, at −50; on at −290; hands −290…−265 and −80…−50
//	x  its two eyes are y's from −290: off at −290, on at −530; hands −530…−505 and −320…−290
//	c  carved with both hands for 90 s before y is taken out: −170…−80
//
// x waits 250 s, of which 60 are for nothing, y 20, c 70: 280. Letting x off later, between y's laying in and z's, puts y at
// −315 and the carving before −105: 160 + 45 + 95 = 300.
func TestThreePansAndACarvingBetween(t *testing.T) {
	carve := kitchen.Component{ID: "c", Hold: kitchen.Wait{Best: seconds(0), Longest: seconds(400)},
		Steps: []kitchen.Step{pick("carve", kitchen.Both, 90)}}
	p := plan(t, house([]kitchen.Component{sear("x", 60), sear("y", 0), sear("z", 0), carve},
		[]kitchen.Element{{Component: "x", Seconds: 10}, {Component: "y", Seconds: 10}, {Component: "z", Seconds: 10},
			{Component: "c", Seconds: 10}}), 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, int64(280), p.Cost)
	require.Equal(t, map[string]int64{"x": -530, "y": -290, "z": -260, "c": -170}, fires(p))
	ends := map[string][][2]int64{}
	for _, s := range p.Strands {
		for _, x := range s.Bars[0].Touches {
			ends[s.Component] = append(ends[s.Component], [2]int64{x.FromS, x.ToS})
			require.Equal(t, "A", x.Who)
		}
	}
	require.Equal(t, map[string][][2]int64{"x": {{-530, -505}, {-320, -290}}, "y": {{-290, -265}, {-80, -50}},
		"z": {{-260, -235}, {-50, -20}}}, ends)
}

// By hand, as before with two pans: with three eyes the second pan would have to wait for the first, with four it does not.
func TestSearingTakesTwoEyes(t *testing.T) {
	two := func(eyes int) map[string]int64 {
		d := house([]kitchen.Component{sear("x", 0), sear("y", 0)}, []kitchen.Element{{Component: "x", Seconds: 40},
			{Component: "y", Seconds: 40}})
		d.People[0].Eyes = eyes
		return fires(plan(t, d, 1, 1))
	}
	require.Equal(t, map[string]int64{"x": -320, "y": -280}, two(4))
	// One after the other: y on at −280, x off then and on at −520.
	require.Equal(t, map[string]int64{"x": -520, "y": -280}, two(3))
	// Nobody has two eyes: who has one has it on the pan, rather than nobody.
	require.Equal(t, map[string]int64{"x": -520, "y": -280}, two(1))
}

// By hand. The roast is needed at −10 and rests for nothing: in the oven from −610 to −10. It is put in for 15 s and taken
// out for 20 s, turned for 10 s half-way, at (600 − 10) / 2 = 295 s, and basted 60 s before it is done for 12 s.
func TestPutInTurnedAndTakenOut(t *testing.T) {
	s := inOven(pick("roast", kitchen.None, 600), 180)
	s.Ends = kitchen.Ends{InS: 15, OutS: 20}
	s.Touches = []kitchen.Touch{{Say: "baste", Seconds: 12, When: kitchen.BeforeEnd, AtS: 60},
		{Say: "turn", Seconds: 10, When: kitchen.HalfWay}}
	c := kitchen.Component{ID: "fowl", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{s}}
	p := plan(t, house([]kitchen.Component{c}, []kitchen.Element{{Component: "fowl", Seconds: 10}}), 1, 1)
	require.Equal(t, map[string]int64{"fowl": -610}, fires(p))
	require.Equal(t, []expand.BarTouch{{Kind: expand.ActIn, Say: "put in", FromS: -610, ToS: -595, Who: "A"},
		{Kind: expand.ActTouch, Say: "turn", FromS: -315, ToS: -305, Who: "A"}, {Kind: expand.ActTouch, Say: "baste", FromS: -70, ToS: -58,
			Who: "A"},
		{Kind: expand.ActOut, Say: "take out", FromS: -30, ToS: -10, Who: "A"}}, p.Strands[0].Bars[0].Touches)
	// The hands that lay in for each of four: 15 + 4 × 6 = 39 s; two batches of two: 27 s each.
	s.Ends.InEachS = 6
	s.Touches = nil
	for batch, want := range map[int][]int64{4: {39}, 2: {27, 27}} {
		s.Batch = &kitchen.BatchLimit{Portions: batch, Run: kitchen.SideBySide}
		c.Steps, c.Hold.Longest = []kitchen.Step{s}, seconds(60)
		p = plan(t, house([]kitchen.Component{c}, []kitchen.Element{{Component: "fowl", Seconds: 10}}), 4, 1)
		var got []int64
		for _, b := range p.Strands[0].Bars {
			got = append(got, b.Touches[0].ToS-b.Touches[0].FromS)
		}
		require.Equal(t, want, got)
	}
}

// A step cannot be shorter than the hands at its ends.
func TestAStepIsAsLongAsItsHands(t *testing.T) {
	s := inOven(pick("warm", kitchen.None, 20), 180)
	s.Ends = kitchen.Ends{InS: 15, OutS: 15}
	c := kitchen.Component{ID: "dish", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{s}}
	p := plan(t, house([]kitchen.Component{c}, []kitchen.Element{{Component: "dish", Seconds: 10}}), 1, 1)
	require.Equal(t, map[string]int64{"dish": -40}, fires(p))
}

// By hand. Two burners and two cooks. The onions are fried for 120 s with an eye on them, and reduced for 100 s in the same
// pan: needed at −10, reduced from −110, fried from −230, by one cook on one burner.
func TestWhatGoesOnStaysWithTheSamePanAndCook(t *testing.T) {
	burner := func(s kitchen.Step) kitchen.Step {
		s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1}
		return s
	}
	onions := kitchen.Component{ID: "onions", Hold: kitchen.Wait{Longest: seconds(0)},
		Steps: []kitchen.Step{burner(pick("fry", kitchen.Tend, 120)),
			burner(pick("reduce", kitchen.Tend, 100, kitchen.Predecessor{Step: "fry"}))}}
	// Somebody else's pan takes A's eyes or the first burner now and then.
	other := kitchen.Component{ID: "other", Hold: kitchen.Wait{Longest: seconds(400)},
		Steps: []kitchen.Step{burner(pick("boil", kitchen.Both, 60))}}
	d := house([]kitchen.Component{onions, other}, []kitchen.Element{{Component: "other", Seconds: 10}, {Component: "onions", Seconds: 10}})
	d.People[1].Sections = []string{"one"}
	for i, name := range []string{"Left", "Right"} {
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: name[:1] + "x", Name: name, Kind: kitchen.Burner, Capacity: 1, Unit: "burner"})
		d.Equipment[len(d.Equipment)-1].ID = []string{"left", "right"}[i]
	}
	p := plan(t, d, 1, 1)
	for _, s := range p.Strands {
		if s.Component == "onions" {
			require.Len(t, s.Bars, 2)
			require.Equal(t, s.Bars[0].On, s.Bars[1].On)
			require.Equal(t, s.Bars[0].FinishS, s.Bars[1].StartS)
		}
	}
	// Told otherwise, nothing ties them.
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	c, _ := b.Component("onions")
	require.True(t, c.GoesOn(&c.Steps[1], "fry"))
	no := false
	c.Steps[1].Same = &no
	require.False(t, c.GoesOn(&c.Steps[1], "fry"))
	c.Steps[1].Same = nil
	c.Steps[1].After[0].Longest = seconds(300)
	require.False(t, c.GoesOn(&c.Steps[1], "fry"), "a wait was said between")
}

// By hand. The roast takes 300 s at 180° and rests for 600 to 1200 s in a hot cupboard at 60°. It is needed at −10: in the
// cupboard from −610, roasted from −910.
func TestAWaitTakesItsPlace(t *testing.T) {
	low := 60.0
	c := kitchen.Component{ID: "fowl", Hold: kitchen.Wait{Shortest: 600, Longest: seconds(1200),
		In: &kitchen.EquipmentNeed{Kind: kitchen.Holding, Units: 1, SetpointC: &low}},
		Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 300), 180)}}
	d := house([]kitchen.Component{c}, []kitchen.Element{{Component: "fowl", Seconds: 10}})
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err, "components[0].hold.in.kind: the kitchen has no holding")
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "cupboard", Name: "Cupboard", Kind: kitchen.Holding, Capacity: 1, Unit: "shelf",
		Thermostat: &kitchen.Thermostat{LowC: 30, HighC: 90, StandbyC: 60, HeatCPerMin: 5, CoolCPerMin: 1, ToleranceC: 5}})
	require.Equal(t, map[string]int64{"fowl": -910}, fires(plan(t, d, 1, 1)))
	// Two things want the one shelf until −20 and until −10, at least 600 s each: both cannot have it. With a second shelf
	// they do.
	two := c
	two.ID = "duck"
	d.Components = append(d.Components, house([]kitchen.Component{two}, nil).Components...)
	d.Dishes[0].Specification.Elements = house(nil, []kitchen.Element{{Component: "fowl", Seconds: 10},
		{Component: "duck", Seconds: 10}}).Dishes[0].Specification.Elements
	p := plan(t, d, 1, 1)
	require.NotEmpty(t, p.Broken, "one shelf for two that both leave it at the end")
	d.Equipment[1].Capacity = 2
	require.Equal(t, map[string]int64{"fowl": -920, "duck": -910}, fires(plan(t, d, 1, 1)))
}

// Two at the pass are two people, each said once.
func TestWhoPlatesIsSaidByName(t *testing.T) {
	c := kitchen.Component{ID: "x", Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{pick("heat", kitchen.Both, 60)}}
	p := plan(t, house([]kitchen.Component{c}, []kitchen.Element{{Component: "x", Seconds: 10}}), 2, 2)
	require.ElementsMatch(t, []string{"Head", "Sous"}, p.Platers)
}

// By hand. The broth is needed at −15 and simmers 300 s with an eye on it, from −315; the herbs take both hands for 200 s and are
// needed at −5, from −205. Fetched from the walk-in, where nobody watches a broth, they come before it: fetched from −515, or
// the broth sooner and waiting: either way they do not overlap.
func TestWhoIsAwayWatchesNothing(t *testing.T) {
	overlap := func(away bool) bool {
		herbs := kitchen.Component{ID: "herbs", Hold: kitchen.Wait{Longest: seconds(600)},
			Steps: []kitchen.Step{pick("fetch", kitchen.Both, 200)}}
		herbs.Steps[0].Away = away
		p := plan(t, house([]kitchen.Component{pot("broth", 300, 600), herbs}, []kitchen.Element{{Component: "broth", Seconds: 10},
			{Component: "herbs", Seconds: 5}}), 1, 1)
		a, b := p.Strands[0].Bars[0], p.Strands[1].Bars[0]
		return a.StartS < b.FinishS && b.StartS < a.FinishS
	}
	require.True(t, overlap(false))
	require.False(t, overlap(true))
}

// What is tied to what: the place of a wait to its run and to the last that has it, the same pan to the same pan, what is done
// every so often to its time, a sixth of its interval sooner or later.
func TestTiesOfAStep(t *testing.T) {
	d := potted(broth(), 19*60, 19*60+30)
	d.Components[0].Pot.TopUp, d.Components[0].Pot.In = nil, &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1}
	s := &d.Components[0].Steps[0]
	s.Touches = []kitchen.Touch{{Say: "stir", Seconds: 5, When: kitchen.Every, AtS: 120}}
	s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1}
	more := pick("finish", kitchen.Tend, 60, kitchen.Predecessor{Step: "heat"})
	more.Name, more.Equipment = "finish", s.Equipment
	d.Components[0].Steps = append(d.Components[0].Steps, more)
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "burners", Name: "Burners", Kind: kitchen.Burner, Capacity: 2, Unit: "ring"})
	e, _, _ := evening(t, d, true)
	bounds := map[string][2]int64{}
	for _, l := range e.Workload.Links {
		if l.Max != nil {
			bounds[l.From+" "+string(l.Kind)+" "+l.To] = [2]int64{l.Min, *l.Max}
		}
	}
	const run = "~pot-1/broth/heat"
	require.Equal(t, [2]int64{100, 140}, bounds[run+" start-start "+run+"-touch-1"])
	require.Equal(t, [2]int64{220, 260}, bounds[run+" start-start "+run+"-touch-2"])
	const end = "~pot-1/broth/finish"
	require.Contains(t, bounds, end+" finish-start "+end+"-place")
	require.Contains(t, bounds, "b/main/plating start-finish "+end+"-place", "with the last plate it leaves its place")
	require.Equal(t, bounds["b/main/plating start-finish "+end+"-place"][0], bounds["b/main/plating start-finish "+end+"-place"][1])
	require.NotContains(t, bounds, "a/main/plating start-finish "+end+"-place")
	for _, x := range e.Workload.Tasks {
		if x.ID == end {
			require.Len(t, x.Needs, 3)
			require.Equal(t, workload.As{Task: run, Need: 0}, *x.Needs[0].As, "the same cook")
			require.Equal(t, workload.As{Task: run, Need: 2}, *x.Needs[2].As, "the same ring")
		}
	}
}

// In a called service what may not begin before the call says so, from the second course on: of the first the guests are there.
func TestWhatWaitsForTheCall(t *testing.T) {
	for name, waits := range map[string]bool{"hake": true, "broth": false} {
		c := kitchen.Component{ID: "x", Hold: kitchen.Wait{Longest: seconds(1200)}, Steps: []kitchen.Step{pick("cook", kitchen.Both, 60)}}
		d := served([]kitchen.Component{c}, []kitchen.Element{{Component: "x", Seconds: 10}}, table("a", 1, 19*60))
		d.Components[0].Name = name
		first := d.Dishes[0]
		first.ID, first.Course = "first", kitchen.First
		d.Dishes = append(d.Dishes, first)
		d.Services[0].Menu = append(d.Services[0].Menu, kitchen.MenuLine{Dish: "first", Share: 100})
		for _, pacing := range []kitchen.Pacing{kitchen.Called, kitchen.Timed} {
			d.Services[0].Pacing = pacing
			_, _, p := evening(t, d, true)
			require.Len(t, p.Fires, 2)
			require.False(t, p.Fires[0].OnCall, "%s %s", name, pacing)
			require.Equal(t, waits && pacing == kitchen.Called, p.Fires[1].OnCall, "%s %s", name, pacing)
		}
	}
}

// The line at which something comes off says how it waits then; that at which it is begun only when it is wanted.
func TestWhereASheetSaysHowItWaits(t *testing.T) {
	c := kitchen.Component{ID: "fowl", Hold: kitchen.Wait{Shortest: 60, Longest: seconds(600), Kept: "loosely covered"},
		Steps: []kitchen.Step{pick("sear", kitchen.Tend, 240)}}
	lines := func(ends kitchen.Ends) []expand.Fire {
		c.Steps[0].Ends = ends
		_, _, p := evening(t, served([]kitchen.Component{c}, []kitchen.Element{{Component: "fowl", Seconds: 10}}, table("a", 1, 19*60)), true)
		return p.Lines
	}
	at := func(v *time.Time) string {
		if v == nil {
			return ""
		}
		return v.Format("15:04:05")
	}
	one := lines(kitchen.Ends{})
	require.Len(t, one, 1)
	require.Equal(t, [4]string{"18:59:50", "18:59:50", "19:08:50", "loosely covered"},
		[4]string{at(one[0].ReadyBy), at(one[0].RestUntil), at(one[0].MayUntil), one[0].Kept})
	two := lines(kitchen.Ends{InS: 20, OutS: 30})
	require.Len(t, two, 2)
	require.Equal(t, [4]string{"18:59:50", "", "", ""}, [4]string{at(two[0].ReadyBy), at(two[0].RestUntil), at(two[0].MayUntil), two[0].Kept})
	require.Equal(t, expand.LineOut, two[1].Kind)
	require.Equal(t, [4]string{"18:59:50", "18:59:50", "19:08:50", "loosely covered"},
		[4]string{at(two[1].ReadyBy), at(two[1].RestUntil), at(two[1].MayUntil), two[1].Kept})
	require.Equal(t, int64(30), two[1].HandsS)
}

// By hand. One cook takes two pans out, 120 s each, for two tables at 19:00: the later is 120 s late, and what keeps it is the
// cook at the other, though the pan itself wants only an eye.
func TestTheHandsAtAnEndAreNamedAsTheCause(t *testing.T) {
	s := pick("warm", kitchen.Tend, 240)
	s.Ends = kitchen.Ends{OutS: 120}
	c := kitchen.Component{ID: "pan", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{s}}
	stew := kitchen.Component{ID: "stew", Hold: kitchen.Wait{Best: seconds(3600), Longest: seconds(3600)},
		Steps: []kitchen.Step{pick("simmer", kitchen.None, 4*3600-20)}} // nobody goes sooner
	_, _, p := evening(t, served([]kitchen.Component{c, stew}, []kitchen.Element{{Component: "stew", Seconds: 10},
		{Component: "pan", Seconds: 10}},
		table("a", 1, 19*60), table("b", 1, 19*60)), true)
	require.Len(t, p.Trouble, 1)
	require.EqualValues(t, 120, p.Trouble[0].ByS)
	require.NotNil(t, p.Trouble[0].Cause)
	require.Equal(t, expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "a", Part: expand.Hands}, p.Trouble[0].Cause.Resource)
}

// By hand. Onions at 200 to 220°, potatoes at 180 to 200°, one oven of two shelves that stands at 180°: both are done at 200° side by
// side, as if nobody had to wait for the other. Onions at 205 would have to be out before the potatoes go in, or the other way.
func TestAnyHeatOfARangeWillDo(t *testing.T) {
	tray := func(id string, s int, low, high float64) kitchen.Component {
		step := inOven(pick(id, kitchen.None, s), low)
		step.Equipment.SetpointToC = &high
		return kitchen.Component{ID: id, Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{step}}
	}
	elements := []kitchen.Element{{Component: "onion", Seconds: 10}, {Component: "potato", Seconds: 10}}
	p := plan(t, house([]kitchen.Component{tray("onion", 1200, 200, 220), tray("potato", 600, 180, 200)}, elements), 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Empty(t, p.Broken)
	for _, s := range p.Strands {
		require.InDelta(t, 200, *s.Bars[0].SetpointC, 0, s.Component)
	}
	p = plan(t, house([]kitchen.Component{tray("onion", 1200, 206, 220), tray("potato", 600, 180, 200)}, elements), 1, 1)
	require.NotEmpty(t, p.Broken, "6° apart, and 5 are within the tolerance")
	// Alone it goes in at what the oven has, or at the nearest that will do.
	p = plan(t, house([]kitchen.Component{tray("potato", 600, 170, 200)}, elements[1:]), 1, 1)
	require.InDelta(t, 180, *p.Strands[0].Bars[0].SetpointC, 0)
	p = plan(t, house([]kitchen.Component{tray("potato", 600, 190, 200)}, elements[1:]), 1, 1)
	require.InDelta(t, 190, *p.Strands[0].Bars[0].SetpointC, 0)
}
