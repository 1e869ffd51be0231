package expand_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
)

// served is a kitchen of one main that two tables may order, at 19:00 and some minutes
// later, seated at once for it.
func served(components []kitchen.Component, elements []kitchen.Element, tables ...kitchen.ServiceTable) kitchen.Data {
	d := house(components, elements)
	for i := range tables {
		tables[i].Name = strings.ToUpper(tables[i].ID)
	}
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Menu: []kitchen.MenuLine{{Dish: "dish", Share: 100}}, Tables: tables}}
	return d
}

func table(id string, covers, seated int) kitchen.ServiceTable {
	return kitchen.ServiceTable{ID: id, Covers: covers, SeatedAt: seated, Needs: []kitchen.GuestNeed{}, Orders: []kitchen.TableOrder{}}
}

func evening(t testing.TB, d kitchen.Data, soft bool) (*expand.Evening, *workload.Schedule, *expand.EveningPlan) {
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	e, err := expand.NewEvening(b, &b.Services()[0], soft)
	require.NoError(t, err)
	require.NoError(t, workload.Check(e.Workload))
	s := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: 4000, Anyway: true})
	if soft {
		require.NotEqual(t, workload.BestEffort, s.Status, "%v: nothing but waits can keep a table from its place", s.Broken)
	}
	if s.Status == workload.Feasible || s.Status == workload.Optimal {
		broken, err := verify.Check(e.Workload, s)
		require.NoError(t, err)
		require.Empty(t, broken)
	}
	return e, s, e.Read(s)
}

func clocks(fires []expand.Fire) []string {
	out := []string{}
	for _, f := range fires {
		out = append(out, fmt.Sprintf("%s %s %d %s", f.At.Format("15:04:05"), f.Table, f.Count, f.What))
	}
	return out
}

// By hand. Fish takes 240 s of both hands of the one cook of its section for up to four
// portions, and may wait 0 to 240 s. Two tables of two go at 19:00:00 and 19:02:00, one
// element of 10 s a plate and one pair of hands: plating takes 20 s, so their fish is
// needed at 18:59:40 and 19:01:40. By itself each is fired 240 s before, at 18:55:40 and
// 18:57:40, and one cook cannot do both: the first has to be done by 18:57:40 and waits
// 120 s (fired 18:53:40). Shared it is one batch of four, fired at 18:55:40, and the
// second table's portions wait 120 s.
func TestTwoTablesShareABatch(t *testing.T) {
	sear := pick("sear", kitchen.Both, 240)
	sear.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.SideBySide}
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Best: seconds(0), Longest: seconds(240)}, Steps: []kitchen.Step{sear}}
	d := served([]kitchen.Component{fish}, []kitchen.Element{{Component: "fish", Seconds: 10}}, table("a", 2, 19*60), table("b", 2, 19*60+2))
	_, _, own := evening(t, d, true)
	require.Equal(t, []string{"18:53:40 A 2 fish", "18:57:40 B 2 fish"}, clocks(own.Fires))
	d.Services[0].Shared = []kitchen.SharedBatch{{Component: "fish", Course: kitchen.Main, Tables: []string{"a", "b"}}}
	e, s, both := evening(t, d, true)
	require.Equal(t, []string{"18:55:40 A + B 4 fish"}, clocks(both.Fires))
	require.Len(t, e.Workload.Tasks, 3, "two platings and one batch")
	for _, id := range []string{"a/main", "b/main"} {
		x, _ := e.CourseByID(id)
		p := x.Firing.Read(s)
		require.Len(t, p.Strands[0].Bars, 1, "both tables see the batch")
		require.Equal(t, 2, p.Strands[0].Bars[0].Courses)
		require.Equal(t, 2, p.Strands[0].Portions)
		require.Equal(t, int64(0), p.LateS)
		require.Len(t, p.Strands[0].Waits, map[string]int{"a/main": 0, "b/main": 1}[id])
	}
	require.Equal(t, []string{"a/main", "b/main"}, both.Runs[0].Joins)
}

// By hand. A banquet of 16 in rounds of four (the pass takes four), one element of 10 s
// and one plater: a round takes 40 s. A roast that may wait 80 s serves three rounds from
// one batch (their plates go up 0, 40 and 80 s later); four rounds are two batches of two
// rounds each, as even as can be. A crisp that may not wait at all is made for each round.
func TestARoundsBatchIsAsLargeAsItsHold(t *testing.T) {
	for hold, batches := range map[int]int{0: 4, 39: 4, 40: 2, 80: 2, 119: 2, 120: 1, 1000: 1} {
		roast := kitchen.Component{ID: "roast", Hold: kitchen.Wait{Longest: seconds(hold)},
			Steps: []kitchen.Step{pick("roast", kitchen.None, 600)}}
		d := served([]kitchen.Component{roast}, []kitchen.Element{{Component: "roast", Seconds: 10}}, table("hall", 16, 19*60))
		d.Services[0].Kind, d.Services[0].PlatingHands = kitchen.Banquet, 1
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "pass", Name: "Pass", Kind: kitchen.Pass, Capacity: 4, Unit: "plate"})
		_, _, p := evening(t, d, true)
		require.Len(t, p.Joins, 4)
		require.Len(t, p.Fires, batches, hold)
		portions := 0
		for _, f := range p.Fires {
			portions += f.Count
			require.Len(t, f.Joins, 4/batches)
		}
		require.Equal(t, 16, portions)
		require.Empty(t, p.Trouble)
	}
}

// A guest who must not have milk has the fish from a pan of its own, begun no later than
// the others'; nothing of it is shared with another table.
func TestAGuestWithAnAllergyHasAPanOfTheirOwn(t *testing.T) {
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(300)}, Steps: []kitchen.Step{pick("sear", kitchen.Both, 120)}}
	a, b := table("a", 3, 19*60), table("b", 2, 19*60)
	a.Needs = []kitchen.GuestNeed{{Guests: 1, Without: []kitchen.Allergen{"milk"}}}
	d := served([]kitchen.Component{fish}, []kitchen.Element{{Component: "fish", Seconds: 10}}, a, b)
	d.Services[0].Shared = []kitchen.SharedBatch{{Component: "fish", Course: kitchen.Main, Tables: []string{"a", "b"}}}
	e, s, p := evening(t, d, true)
	var own, others []expand.Fire
	for _, f := range p.Fires {
		if f.Apart {
			own = append(own, f)
		} else {
			others = append(others, f)
		}
	}
	require.Len(t, own, 1)
	require.Equal(t, 1, own[0].Count)
	require.Equal(t, []string{"a/main"}, own[0].Joins)
	require.Len(t, others, 1)
	require.Equal(t, 4, others[0].Count)
	x, _ := e.CourseByID("a/main")
	strands := x.Firing.Read(s).Strands
	require.Len(t, strands, 2)
	require.Contains(t, strings.Join(p.Joins[0].Dishes, "; "), "without milk")

	// At a table by itself the order is a rule.
	d.Services[0].Shared = nil
	_, _, p = evening(t, d, true)
	var first, rest expand.Fire
	for _, f := range p.Fires {
		if f.Join == "a/main" && f.Apart {
			first = f
		} else if f.Join == "a/main" {
			rest = f
		}
	}
	require.False(t, first.At.After(rest.At))
}

// What has itself what its guest must not have is not said to need a pan of its own: no pan keeps that away.
func TestWhatContainsItIsNotOwnPan(t *testing.T) {
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(300)}, Steps: []kitchen.Step{pick("sear", kitchen.Both, 120)}}
	sauce := kitchen.Component{ID: "sauce", Allergens: []kitchen.Allergen{"milk", "celery"}, Hold: kitchen.Wait{Longest: seconds(300)},
		Steps: []kitchen.Step{pick("warm", kitchen.Both, 60)}}
	a := table("a", 2, 19*60)
	a.Orders = []kitchen.TableOrder{{Dish: "dish", Count: 1, Without: []kitchen.Allergen{"milk"}}, {Dish: "dish", Count: 1}}
	d := served([]kitchen.Component{fish, sauce}, []kitchen.Element{{Component: "fish", Seconds: 10}, {Component: "sauce", Seconds: 10}}, a)
	_, _, p := evening(t, d, true)
	got := map[string][]string{}
	for _, f := range p.Fires {
		require.NotNil(t, f.Contains)
		if f.Apart {
			got[f.What] = f.Contains
		} else {
			require.Empty(t, f.Contains)
		}
	}
	require.Equal(t, map[string][]string{"fish": {}, "sauce": {"milk"}}, got)
	require.Len(t, p.Said, 1, "and it is said once for the plate")
	require.Contains(t, p.Said[0].Text, "has milk from sauce")
}

// By hand. Greens take 80 s on the heat and none may wait; plating 10 s. The pan is heated
// 45 s before: on the heat at −10 − 80 − 45 = −135, the greens in at −90.
func TestThePanIsHeatedBefore(t *testing.T) {
	s := pick("toss", kitchen.Both, 80)
	s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1, PreheatS: 45}
	d := house([]kitchen.Component{{ID: "greens", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{s}}},
		[]kitchen.Element{{Component: "greens", Seconds: 10}})
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "rings", Name: "Rings", Kind: kitchen.Burner, Capacity: 2, Unit: "ring"})
	p := plan(t, d, 1, 1)
	require.Len(t, p.Strands[0].Bars, 2)
	require.True(t, p.Strands[0].Bars[0].Preheat)
	require.Equal(t, int64(-135), p.Strands[0].Bars[0].StartS)
	require.Equal(t, int64(-90), p.Strands[0].Bars[1].StartS)
	d.Services = served(nil, nil, table("a", 1, 19*60)).Services
	_, _, e := evening(t, d, true)
	require.Len(t, e.Fires, 1, "the pan is not fired by itself")
	require.Equal(t, int64(45), e.Fires[0].Preheat)
}

// By hand. The oven stands at 180° and heats 20° a minute: for a roast at 220° it is
// turned up 2 min before. The roast takes 600 s and may not wait, plating 10 s: in at
// 18:49:50, turned at 18:47:50.
func TestWhenTheOvenIsTurned(t *testing.T) {
	roast := kitchen.Component{ID: "roast", Hold: kitchen.Wait{Longest: seconds(0)},
		Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 600), 220)}}
	_, _, p := evening(t, served([]kitchen.Component{roast}, []kitchen.Element{{Component: "roast", Seconds: 10}}, table("a", 1, 19*60)), true)
	require.Len(t, p.Sets, 1)
	x := p.Sets[0]
	require.Equal(t, "18:47:50 18:49:50 180 220 roast", fmt.Sprintf("%s %s %g %g %s", x.At.Format("15:04:05"), x.By.Format("15:04:05"),
		x.FromC, x.C, x.What))
}

// By hand. Two tables of one want 300 s of the only cook at the same minute, and nothing
// may wait: one is late by 300 s less what the other gives way. The cook is named, with
// the other table; a helper takes the lateness away.
func TestTheCauseIsNamedAndAHelperMends(t *testing.T) {
	c := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("sear", kitchen.Both, 300)}}
	d := served([]kitchen.Component{c}, []kitchen.Element{{Component: "fish", Seconds: 10}}, table("a", 1, 19*60), table("b", 1, 19*60))
	e, _, p := evening(t, d, true)
	require.NotEmpty(t, p.Trouble)
	late := p.Trouble[0]
	require.NotNil(t, late.Cause)
	require.Equal(t, expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "a", Part: expand.Hands}, late.Cause.Resource)
	require.NotEqual(t, late.Join, late.Cause.Join)
	require.Contains(t, late.Why.Text, "A is at fish (")

	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	list := advise.Candidates(b, e, p)
	i := slices.IndexFunc(list, func(c advise.Candidate) bool { return c.Mend.ID == "helper:b:one" })
	require.GreaterOrEqual(t, i, 0)
	require.Contains(t, list[i].Mend.What.Text, "B helps at One")
	d.Services[0] = list[i].Service
	_, _, helped := evening(t, d, true)
	require.Empty(t, helped.Trouble)
	require.True(t, list[i].Worth(p, helped))
	require.Equal(t, p.Cost-helped.Cost, list[i].Mend.SavesS)
	require.True(t, slices.ContainsFunc(list, func(c advise.Candidate) bool { return c.Mend.ID == "share:fish:a:b" }))
}

// The thermostat as a cause: onions hold the one oven at 220° while fish wants 180°.
func TestTheHeatOfTheOvenIsACause(t *testing.T) {
	d := house([]kitchen.Component{
		{ID: "onion", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 1800), 220)}},
		{ID: "fish", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{inOven(pick("bake", kitchen.None, 600), 180)}},
	}, []kitchen.Element{{Component: "onion", Seconds: 10}})
	other := d.Dishes[0]
	other.ID, other.Name = "other", "Other"
	other.Specification.Elements = []kitchen.Element{{Component: "fish", Amount: 10, Form: kitchen.Form{Kind: "pool"}, Temp: "hot",
		Seconds: 10, Hands: 1}}
	d.Dishes = append(d.Dishes, other)
	a, b := table("a", 1, 19*60), table("b", 1, 19*60+5)
	a.Orders, b.Orders = []kitchen.TableOrder{{Dish: "dish", Count: 1}}, []kitchen.TableOrder{{Dish: "other", Count: 1}}
	d.Services = served(nil, nil, a, b).Services
	d.Services[0].Menu = append(d.Services[0].Menu, kitchen.MenuLine{Dish: "other", Share: 0})
	_, _, p := evening(t, d, true)
	require.NotEmpty(t, p.Trouble)
	require.NotNil(t, p.Trouble[0].Cause)
	require.Equal(t, expand.ResourceRef{Kind: kitchen.EquipmentRecord, ID: "oven"}, p.Trouble[0].Cause.Resource)
	require.Regexp(t, `Oven is at (220|180)° for (onion|fish) \([AB], main\) until \d\d:\d\d:\d\d; at (180|220)° it is by`,
		p.Trouble[0].Why.Text)
}

// drawnCauses draws one or two components, each by hand or in an oven at one of two heats; with hands at its ends or not.
func drawnCauses(rng *rand.Rand, ends bool) (cs []kitchen.Component, es []kitchen.Element) {
	for k := range 1 + rng.IntN(2) {
		id := string(rune('x' + k))
		s := pick("s", kitchen.Both, 60+rng.IntN(300))
		if rng.IntN(2) == 0 {
			s = inOven(pick("s", kitchen.None, 60+rng.IntN(400)), []float64{180, 220}[rng.IntN(2)])
			if ends {
				s.Ends = kitchen.Ends{InS: 10 + rng.IntN(20), OutS: 10}
			}
			s.Equipment.Units = 2
		}
		cs = append(cs, kitchen.Component{ID: id, Section: []string{"one", "two"}[rng.IntN(2)],
			Hold: kitchen.Wait{Longest: seconds(rng.IntN(120))}, Steps: []kitchen.Step{s}})
		es = append(es, kitchen.Element{Component: id, Seconds: 5 + rng.IntN(20)})
	}
	return cs, es
}

// What is named as the cause is one: without the table that is named, the others are less
// late. Small evenings drawn at random, each solved to proof with and without it.
func TestWithoutTheNamedCauseItIsLessLate(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 3))
	checked := 0
	for range 60 {
		cs, es := drawnCauses(rng, false)
		d := served(cs, es, table("a", 1, 19*60), table("b", 1, 19*60+rng.IntN(4)), table("c", 1, 19*60+rng.IntN(6)))
		_, s, p := evening(t, d, false)
		if s.Status != workload.Optimal {
			continue
		}
		for _, x := range p.Trouble {
			if x.Kind != "late" || x.Cause == nil || x.Cause.Join == x.Join {
				continue
			}
			without := d
			without.Services = []kitchen.Service{d.Services[0]}
			named, _, _ := strings.Cut(x.Cause.Join, "/")
			without.Services[0].Tables = slices.DeleteFunc(slices.Clone(d.Services[0].Tables),
				func(t kitchen.ServiceTable) bool { return t.ID == named })
			_, _, freed := evening(t, without, false)
			late := func(p *expand.EveningPlan) (sum int64) {
				for _, j := range p.Joins {
					if j.Table != named {
						sum += max(0, j.LateS)
					}
				}
				return sum
			}
			require.Less(t, late(freed), late(p), "%s %s", x.Said, x.Why)
			checked++
			break
		}
	}
	require.Greater(t, checked, 20, "enough evenings were late")
}

// In a called service a course after the first stands as a forecast.
func TestACalledServiceIsAForecast(t *testing.T) {
	c := kitchen.Component{ID: "fish", Steps: []kitchen.Step{pick("sear", kitchen.Both, 60)}}
	d := served([]kitchen.Component{c}, []kitchen.Element{{Component: "fish", Seconds: 10}}, table("a", 1, 19*60))
	sweet := d.Dishes[0]
	sweet.ID, sweet.Name, sweet.Course = "sweet", "Sweet", kitchen.Dessert
	d.Dishes = append(d.Dishes, sweet)
	d.Services[0].Menu = append(d.Services[0].Menu, kitchen.MenuLine{Dish: "sweet", Share: 100})
	for pacing, forecast := range map[kitchen.Pacing]bool{kitchen.Timed: false, kitchen.Called: true} {
		d.Services[0].Pacing = pacing
		_, _, p := evening(t, d, true)
		require.Len(t, p.Joins, 2)
		require.False(t, p.Joins[0].Forecast)
		require.Equal(t, forecast, p.Joins[1].Forecast)
	}
}

// A course that comes much before it is wanted is trouble as a late one is: the guests still have what came before. Its price grows.
func TestACourseFarTooEarly(t *testing.T) {
	c, es := one()
	d := served([]kitchen.Component{c}, es, table("a", 1, 19*60))
	e, s, p := evening(t, d, true)
	require.Empty(t, p.Trouble)
	earlier := func(by int64) *expand.EveningPlan {
		x := *s
		x.Tasks, x.Joins = slices.Clone(s.Tasks), slices.Clone(s.Joins)
		for i := range x.Tasks {
			x.Tasks[i].Start -= by
			x.Tasks[i].Finish -= by
		}
		for i := range x.Joins {
			x.Joins[i].At -= by
		}
		return e.Read(&x)
	}
	require.Empty(t, earlier(expand.TooEarlyS).Trouble)
	far := earlier(expand.TooEarlyS + 1)
	require.Len(t, far.Trouble, 1)
	require.Equal(t, "early", far.Trouble[0].Kind)
	require.Contains(t, far.Trouble[0].Said.Text, "comes 3 min before it is wanted")
	at := int64(0)
	for i := range e.Workload.Joins {
		if j := &e.Workload.Joins[i]; j.At != nil {
			at = *j.At
		}
	}
	price := func(by int64) (sum int64) { // of a join so many seconds early, beside its own
		for _, l := range e.Workload.Links {
			if l.To == "clock" && l.Best != nil {
				sum += l.Weight * max(0, by-at-*l.Best)
			}
		}
		return sum
	}
	require.Zero(t, price(60))
	require.Equal(t, int64(6), price(61))
	require.Equal(t, int64(6*121+24), price(181))
}
