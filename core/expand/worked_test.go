package expand_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
)

var join = time.Date(2026, 5, 14, 19, 42, 0, 0, time.UTC)

func seconds(n int) *int { return &n }

func always() []kitchen.Hours {
	var out []kitchen.Hours
	for d := range 7 {
		out = append(out, kitchen.Hours{Day: d, From: 0, To: 1440})
	}
	return out
}

// house is a kitchen of two sections, a cook in each, a head chef at the pass, one
// oven of two shelves, and what a test adds.
func house(components []kitchen.Component, elements []kitchen.Element) kitchen.Data {
	for i := range components {
		c := &components[i]
		c.Section, c.Unit, c.GramsPerUnit, c.DensityGPerMl, c.Name = orElse(c.Section, "one"), kitchen.Grams, 1, 1, c.ID
		for k := range c.Steps {
			c.Steps[k].Name = c.Steps[k].ID
		}
	}
	for i := range elements {
		e := &elements[i]
		e.Amount, e.Temp, e.Hands, e.Form.Kind = 10, "hot", 1, "pool"
	}
	return kitchen.Data{
		Kitchen: kitchen.Kitchen{Name: "Test", TimeZone: "UTC", SafetyCode: kitchen.CodeUKEU, ServiceFrom: 1080, ServiceTo: 1320,
			PlatingHands: 1},
		Sections: []kitchen.Section{{ID: "one", Name: "One", Hue: "blue", Pattern: "plain"},
			{ID: "two", Name: "Two", Hue: "rust", Pattern: "dots"}, {ID: "pass", Name: "Pass", Hue: "slate", Pattern: "bars", Pass: true}},
		People: []kitchen.Person{{ID: "a", Name: "A", Sections: []string{"one"}, Hours: always()},
			{ID: "b", Name: "B", Sections: []string{"two"}, Hours: always()},
			{ID: "head", Name: "Head", Sections: []string{"pass"}, Hours: always()}, {ID: "sous", Name: "Sous", Sections: []string{"pass"},
				Hours: always()}},
		Equipment: []kitchen.Equipment{{ID: "oven", Name: "Oven", Kind: kitchen.Oven, Capacity: 2, Unit: "shelf",
			Thermostat: &kitchen.Thermostat{LowC: 30, HighC: 280, StandbyC: 180, HeatCPerMin: 20, CoolCPerMin: 10, ToleranceC: 5}}},
		Vessels:    []kitchen.Vessel{{ID: "plate", Name: "Plate", Kind: "round", WidthMm: 270, RimMm: 30, HeightMm: 18}},
		Components: components,
		Dishes: []kitchen.Dish{{ID: "dish", Name: "Dish", Course: kitchen.Main, State: kitchen.CurrentDish,
			Specification: kitchen.Specification{Vessel: "plate", VesselTemp: "hot", Elements: elements}}},
	}
}

func orElse(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

func pick(id string, hands kitchen.Hands, s int, after ...kitchen.Predecessor) kitchen.Step {
	return kitchen.Step{ID: id, Phase: kitchen.PickUp, Hands: hands, Time: kitchen.StepTime{Fixed: kitchen.Exactly(s)}, After: after}
}

func inOven(s kitchen.Step, c float64) kitchen.Step {
	s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &c}
	return s
}

func plan(t *testing.T, d kitchen.Data, count, hands int) *expand.Plan {
	t.Helper()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: count}}, At: join, Hands: hands})
	require.NoError(t, err)
	return solved(t, f)
}

// solved is the best plan of a table, which the judge has nothing against.
func solved(t *testing.T, f *expand.Firing) *expand.Plan {
	t.Helper()
	require.NoError(t, workload.Check(f.Workload))
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	s := schedule.Solve(ctx, f.Workload, schedule.Options{Seed: 1})
	findings, err := verify.Check(f.Workload, s)
	require.NoError(t, err)
	if s.Status == workload.Feasible || s.Status == workload.Optimal {
		require.Empty(t, findings)
	}
	return f.Read(s)
}

func fires(p *expand.Plan) map[string]int64 {
	out := map[string]int64{}
	for _, s := range p.Strands {
		out[s.Component] = s.FireS
	}
	return out
}

// By hand. One plate, one pair of hands: meat (10 s) then sauce (5 s), so plating
// takes 15 s; the meat is needed at −15, the sauce at −5.
// Meat: roast 600 s in the oven, then a rest of at least 120, best 180, at most
// 300 s. It is taken out as late as the shortest rest allows, −15 − 120 = −135, so
// it goes in at −735. Sauce: 60 s of both hands, no wait: fired at −65.
func TestARestWithShortestAndLongest(t *testing.T) {
	meat := kitchen.Component{ID: "meat", Hold: kitchen.Wait{Shortest: 120, Best: seconds(180), Longest: seconds(300)},
		Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 600), 180)}}
	sauce := kitchen.Component{ID: "sauce", Section: "two", Hold: kitchen.Wait{Longest: seconds(60)},
		Steps: []kitchen.Step{pick("warm", kitchen.Both, 60)}}
	p := plan(t, house([]kitchen.Component{meat, sauce}, []kitchen.Element{{Component: "meat", Seconds: 10},
		{Component: "sauce", Seconds: 5}}), 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, 15, p.PlatingS)
	require.Equal(t, map[string]int64{"meat": -735, "sauce": -65}, fires(p))
}

// By hand. Onions want 220°, fish 180° in the same oven; it cools 10° a minute, so
// 240 s lie between them. Plating: onion 10 s, fish 10 s: needed at −20 and −10.
// The fish may not wait: out at −10, in at −250 (240 s). The onions must be out 240
// s before that, at −490, and roast 300 s: in at −790. They wait 470 s, within
// their longest of 600; the oven comes from 180° in time (2 min of heating).
func TestTwoThingsInOneOven(t *testing.T) {
	onion := kitchen.Component{ID: "onion", Hold: kitchen.Wait{Best: seconds(600), Longest: seconds(600)},
		Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 300), 220)}}
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(0)},
		Steps: []kitchen.Step{inOven(pick("bake", kitchen.None, 240), 180)}}
	p := plan(t, house([]kitchen.Component{onion, fish}, []kitchen.Element{{Component: "onion", Seconds: 10},
		{Component: "fish", Seconds: 10}}), 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"onion": -790, "fish": -250}, fires(p))
}

// By hand. Two plates, two people, four elements of 8, 9, 10 and 7 s: each person
// takes a plate, 34 s, so a is needed at −34, b at −26, c at −17, d at −7. a has a
// step of 60 s and a wait of at least 30: fired at −124. b has two steps of 30 s,
// the second at most 10 s after the first: −86. c is made ahead. d takes 20 s for
// each portion: 40 s, fired at −47.
func TestAPlatingClockWithFourElementsAndTwoHands(t *testing.T) {
	d20 := pick("dress", kitchen.Both, 0)
	d20.Time.PerPortion = kitchen.Exactly(20)
	cs := []kitchen.Component{
		{ID: "a", Hold: kitchen.Wait{Shortest: 30}, Steps: []kitchen.Step{pick("heat", kitchen.Tend, 60)}},
		{ID: "b", Section: "two", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("first", kitchen.Both, 30),
			pick("second", kitchen.Both, 30, kitchen.Predecessor{Step: "first", Wait: kitchen.Wait{Longest: seconds(10)}})}},
		{ID: "c", Steps: []kitchen.Step{{ID: "make", Phase: kitchen.Ahead, Hands: kitchen.Both,
			Time: kitchen.StepTime{Fixed: kitchen.Exactly(3600)}}}},
		{ID: "d", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{d20}},
	}
	p := plan(t, house(cs, []kitchen.Element{{Component: "a", Seconds: 8}, {Component: "b", Seconds: 9}, {Component: "c", Seconds: 10},
		{Component: "d", Seconds: 7}}), 2, 2)
	require.Equal(t, 34, p.PlatingS)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"a": -124, "b": -86, "c": 0, "d": -47}, fires(p))
	require.Equal(t, 3600, p.Strands[2].AheadS)
	require.False(t, p.Strands[2].Fired)
}

// A pan takes four: nine portions are three batches of three, each through its own
// oven step, and in turn where the pan is the same.
func TestBatchesByWhatAPanTakes(t *testing.T) {
	sear := pick("sear", kitchen.None, 60)
	sear.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.InTurn}
	c := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Best: seconds(300), Longest: seconds(600)}, Steps: []kitchen.Step{sear}}
	p := plan(t, house([]kitchen.Component{c}, []kitchen.Element{{Component: "fish", Seconds: 5}}), 9, 1)
	require.Len(t, p.Strands[0].Bars, 3)
	for i, b := range p.Strands[0].Bars {
		require.Equal(t, 3, b.Portions)
		if i > 0 {
			require.GreaterOrEqual(t, b.StartS, p.Strands[0].Bars[i-1].FinishS, "one pan, one after another")
		}
	}
}

func TestTheSameComponentOfTwoDishesIsOneBatch(t *testing.T) {
	d := house([]kitchen.Component{{ID: "sauce", Steps: []kitchen.Step{pick("warm", kitchen.Both, 60)}}},
		[]kitchen.Element{{Component: "sauce", Seconds: 5}})
	other := d.Dishes[0]
	other.ID, other.Name = "other", "Other"
	d.Dishes = append(d.Dishes, other)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: 2}, {Dish: "other", Count: 3}}, At: join})
	require.NoError(t, err)
	require.Len(t, f.Workload.Tasks, 2, "plating, and one batch")
	require.Equal(t, 5, f.Moments[0].Portions)
}

func TestDonenessMakesABatchLonger(t *testing.T) {
	s := pick("sear", kitchen.None, 100)
	s.Doneness = []kitchen.Doneness{{Name: "well done", Seconds: 50}}
	d := house([]kitchen.Component{{ID: "meat", Steps: []kitchen.Step{s}}}, []kitchen.Element{{Component: "meat", Seconds: 5}})
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: 1, Doneness: "Well Done"}}, At: join})
	require.NoError(t, err)
	require.Equal(t, int64(150), f.Workload.Tasks[1].Seconds)
}

func TestFaultsOfATable(t *testing.T) {
	b, err := kitchen.NewBook(house([]kitchen.Component{{ID: "x", Steps: []kitchen.Step{pick("s", kitchen.Both, 60)}}},
		[]kitchen.Element{{Component: "x", Seconds: 5}}))
	require.NoError(t, err)
	for path, table := range map[string]expand.Table{
		"orders":            {At: join},
		"orders[0].dish":    {At: join, Orders: []expand.Order{{Dish: "nope", Count: 1}}},
		"orders[0].count":   {At: join, Orders: []expand.Order{{Dish: "dish", Count: 0}}},
		"orders[1].count":   {At: join, Orders: []expand.Order{{Dish: "dish", Count: 50}, {Dish: "dish", Count: 50}}},
		"orders[0].variant": {At: join, Orders: []expand.Order{{Dish: "dish", Count: 1, Variant: "none"}}},
		"hands":             {At: join, Hands: 99, Orders: []expand.Order{{Dish: "dish", Count: 1}}},
	} {
		_, err := expand.NewFiring(b, table)
		var faults kitchen.Faults
		require.ErrorAs(t, err, &faults, path)
		require.Equal(t, path, faults[0].Path)
	}
}

// On the night on which clocks go back, 01:00 to 05:00 on the wall is five hours
// long (Europe/Copenhagen, 25 October 2026).
func TestHoursInTheNightOfTheClockChange(t *testing.T) {
	d := house([]kitchen.Component{{ID: "x", Steps: []kitchen.Step{pick("s", kitchen.Both, 60)}}},
		[]kitchen.Element{{Component: "x", Seconds: 5}})
	d.Kitchen.TimeZone = "Europe/Copenhagen"
	d.People[0].Hours = []kitchen.Hours{{Day: 0, From: 60, To: 300}}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{At: time.Date(2026, 10, 25, 3, 0, 0, 0, time.UTC),
		Orders: []expand.Order{{Dish: "dish", Count: 1}}})
	require.NoError(t, err)
	w := f.Workload.Resources[0].Windows
	require.NotEmpty(t, w)
	require.Equal(t, int64(5*3600), w[0].To-w[0].From)
}

// A table that cannot be: three batches in one pan, each to rest no longer than a
// minute. The plan says so in sentences with the kitchen's own numbers.
func TestTroubleIsSaidInSentences(t *testing.T) {
	sear := pick("sear", kitchen.Both, 300)
	sear.Batch = &kitchen.BatchLimit{Portions: 2, Run: kitchen.InTurn}
	d := house([]kitchen.Component{{ID: "fish", Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{sear}}},
		[]kitchen.Element{{Component: "fish", Seconds: 5}})
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: 6}}, At: join})
	require.NoError(t, err)
	s := schedule.Solve(context.Background(), f.Workload, schedule.Options{Seed: 1, Anyway: true})
	require.Equal(t, workload.BestEffort, s.Status)
	said := strings.Join(message.Texts(advise.Explain(f, s.Broken)), " ")
	require.Contains(t, said, "fish: sear (batch 1 of 3) may wait at most 1 min,")
	p := f.Read(s)
	require.Len(t, p.Strands[0].Bars, 3)
	require.Equal(t, "over", p.Strands[0].Waits[0].State)
}
