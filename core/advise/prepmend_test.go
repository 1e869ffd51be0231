package advise_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
)

var zone, _ = time.LoadLocation("Europe/Copenhagen")

func clock(day, hour, minute int) time.Time {
	return time.Date(2026, 5, day, hour, minute, 0, 0, zone)
}

// larder is a kitchen with one main of one component for ten at 19:00 on the 14th, and a
// second main without it. Its one cook is there from 10:00 to 23:00; another works at the
// stove.
func larder(steps ...kitchen.Step) kitchen.Data {
	d := kitchen.Starter("K", "Europe/Copenhagen", kitchen.CodeUKEU)
	d.Sections = append(d.Sections, kitchen.Section{ID: "larder", Name: "Larder", Hue: "teal", Pattern: "dots"})
	cook := d.People[0]
	cook.ID, cook.Name, cook.Sections = "ines", "Ines", []string{"larder"}
	d.People = append(d.People, cook)
	for i := range steps {
		steps[i].Phase = kitchen.Ahead
		if i > 0 && len(steps[i].After) == 0 {
			steps[i].After = []kitchen.Predecessor{{}}
		}
		if i > 0 {
			steps[i].After[0].Step = steps[i-1].ID
		}
		steps[i].Name = steps[i].ID
	}
	c := kitchen.Component{ID: "cure", Name: "Cured fish", Section: "larder", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
		BatchYield: 1000, ShelfLifeH: 72, Store: kitchen.Chilled, Steps: steps}
	other := kitchen.Component{ID: "leaf", Name: "Leaves", Section: "larder", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1}
	d.Components = []kitchen.Component{c, other}
	dish := func(id, name, component string) kitchen.Dish {
		return kitchen.Dish{ID: id, Name: name, Course: kitchen.Main, State: kitchen.CurrentDish,
			Specification: kitchen.Specification{Vessel: "plate-270", VesselTemp: "chilled",
				Elements: []kitchen.Element{{Component: component, Amount: 20, Form: kitchen.Form{Kind: "heap"}, Temp: "chilled", Seconds: 5,
					Hands: 1}}}}
	}
	d.Dishes = []kitchen.Dish{dish("fish", "Fish", "cure"), dish("salad", "Salad", "leaf")}
	d.Services = []kitchen.Service{{ID: "s", Name: "Thursday", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed,
		CourseMin: 20,
		Menu:      []kitchen.MenuLine{{Dish: "fish", Share: 60}, {Dish: "salad", Share: 40}},
		Tables:    []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 10, SeatedAt: 19 * 60}}}}
	return d
}

func prepared(t *testing.T, b *kitchen.Book, now time.Time) *expand.PrepPlan {
	p, err := expand.NewPrep(b, b.Services(), now, nil, nil)
	require.NoError(t, err)
	return p.Read(schedule.Solve(context.Background(), p.Workload, schedule.Options{Seed: 1, Rounds: 500, Anyway: true}))
}

// solved plans again with every candidate and returns what helps.
func solved(t *testing.T, d kitchen.Data, now time.Time) (*expand.PrepPlan, []advise.PrepMend) {
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	was := prepared(t, b, now)
	candidates := advise.PrepCandidates(b, was)
	var late []int64
	for _, c := range candidates {
		late = append(late, advise.PrepLateness(prepared(t, c.Book, now)))
	}
	return was, advise.RankPrep(candidates, late, advise.PrepLateness(was))
}

func helps(list []advise.PrepMend) string {
	var out []string
	for _, m := range list {
		out = append(out, m.What.Text)
	}
	return strings.Join(out, "; ")
}

// By hand. It is 14:00. Curing takes 3 h at the least and 6 h at best, salting and rinsing
// 15 min each: at best it is ready at 20:30, with the shortest at 17:30. For six of ten
// guests at 20 g it takes 120 g.
func TestAForgottenCureRestsLess(t *testing.T) {
	six := 6 * 3600
	minutes := func(id string, m int, hands kitchen.Hands) kitchen.Step {
		return kitchen.Step{ID: id, Hands: hands, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60 * m)}}
	}
	rinse := minutes("rinse", 15, kitchen.Both)
	rinse.After = []kitchen.Predecessor{{Wait: kitchen.Wait{Shortest: 3 * 3600, Best: &six}}}
	was, list := solved(t, larder(minutes("salt", 15, kitchen.Both), rinse), clock(14, 14, 0))
	require.Zero(t, advise.PrepLateness(was), "the plan keeps the service rather than the best wait")
	require.Empty(t, list)
	// With five hours at the least it cannot be ready: what is left is to buy it in, or to
	// take it off.
	rinse.After[0].Wait.Shortest = 5 * 3600
	_, list = solved(t, larder(minutes("salt", 15, kitchen.Both), rinse), clock(14, 14, 0))
	require.Equal(t, "Buy in 120 g of Cured fish; Take Fish off Thursday", helps(list))
	for _, m := range list {
		require.Equal(t, int64(0), m.LateS)
		require.Greater(t, m.WasS, int64(1000))
	}
}

// By hand. It is 15:00: six hours of work in runs of an hour for one cook, and three and a
// half hours until everything is in place. Two cooks do it in three.
func TestAnotherPairOfHandsForWhatIsTight(t *testing.T) {
	shell := kitchen.Step{ID: "shell", Hands: kitchen.Both, Time: kitchen.StepTime{PerPortion: kitchen.Exactly(3600)},
		Batch: &kitchen.BatchLimit{Portions: 1, Run: kitchen.SideBySide}}
	_, list := solved(t, larder(shell), clock(14, 15, 0))
	require.Contains(t, helps(list), " helps at Larder")
}

// Whoever helps at a section helps with all that is tight there: that is proposed once.
func TestWhatHelpsTwoIsProposedOnce(t *testing.T) {
	d := larder(kitchen.Step{ID: "shell", Hands: kitchen.Both, Time: kitchen.StepTime{PerPortion: kitchen.Exactly(3600)},
		Batch: &kitchen.BatchLimit{Portions: 1, Run: kitchen.SideBySide}})
	leaf := d.Components[0]
	leaf.ID, leaf.Name = "leaf", "Leaves"
	d.Components[1] = leaf
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	plan := prepared(t, b, clock(14, 16, 0))
	require.Greater(t, len(plan.Trouble), 1)
	said := map[string]int{}
	for _, c := range advise.PrepCandidates(b, plan) {
		said[c.Mend.What.Text]++
		require.Equal(t, 1, said[c.Mend.What.Text], c.Mend.What.Text)
	}
	require.Contains(t, said, "Take Fish off Thursday")
	require.Contains(t, said, "Take Salad off Thursday")
}

// A dish that is in another is taken off with it; a menu without a dish gives its share to
// the others of the course.
func TestAMenuWithoutADish(t *testing.T) {
	d := larder(kitchen.Step{ID: "salt", Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(8 * 3600)}})
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	plan := prepared(t, b, clock(14, 14, 0))
	for _, c := range advise.PrepCandidates(b, plan) {
		if strings.HasPrefix(c.Mend.What.Text, "Take") {
			s, _ := c.Book.Service("s")
			require.Len(t, s.Menu, 1)
			require.InDelta(t, 100, s.Menu[0].Share, 0.01)
			return
		}
	}
	require.Fail(t, "taking the dish off was not proposed")
}
