package expand_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// twoHeats is onions at 220° for one table and potatoes at 190° for another a minute later, in one oven, laid in and taken out
// by one cook.
func twoHeats() kitchen.Data {
	roast := func(id string, c float64) kitchen.Component {
		s := inOven(pick("roast", kitchen.None, 600), c)
		s.Ends = kitchen.Ends{InS: 20, OutS: 20}
		return kitchen.Component{ID: id, Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{s}}
	}
	d := house([]kitchen.Component{roast("onion", 220), roast("potato", 190)}, []kitchen.Element{{Component: "onion", Seconds: 10}})
	other := d.Dishes[0]
	other.ID, other.Name = "other", "Other"
	other.Specification.Elements = []kitchen.Element{{Component: "potato", Amount: 10, Form: kitchen.Form{Kind: "pool"}, Temp: "hot",
		Seconds: 10, Hands: 1}}
	d.Dishes = append(d.Dishes, other)
	a, b := table("a", 1, 19*60), table("b", 1, 19*60+1)
	a.Orders, b.Orders = []kitchen.TableOrder{{Dish: "dish", Count: 1}}, []kitchen.TableOrder{{Dish: "other", Count: 1}}
	d.Services = served(nil, nil, a, b).Services
	d.Services[0].Menu = append(d.Services[0].Menu, kitchen.MenuLine{Dish: "other", Share: 0})
	return d
}

// lateness is that of all joins of a service together, and what its first late table is said to wait for.
func lateness(t *testing.T, d kitchen.Data) (sum int64, cause *expand.Cause, status workload.Status) {
	_, s, p := evening(t, d, true)
	for _, j := range p.Joins {
		sum += max(0, j.LateS)
	}
	for _, x := range p.Trouble {
		if x.Kind == "late" {
			return sum, x.Cause, s.Status
		}
	}
	return sum, nil, s.Status
}

// One oven at two heats: the cook who lays in is busy beside it, and is not the cause. A second oven takes the lateness away,
// a second cook does not.
func TestTheHeatGoesBeforeTheHandsBesideIt(t *testing.T) {
	sum, cause, _ := lateness(t, twoHeats())
	require.Positive(t, sum)
	require.NotNil(t, cause)
	require.Equal(t, "oven", cause.Resource.ID)
	oven, cook := twoHeats(), twoHeats()
	oven.Equipment = append(oven.Equipment, oven.Equipment[0])
	oven.Equipment[1].ID = "second"
	less, _, _ := lateness(t, oven)
	require.Zero(t, less)
	more := cook.People[0]
	more.ID, more.Name = "more", "More"
	cook.People = append(cook.People, more)
	same, _, _ := lateness(t, cook)
	require.Equal(t, sum, same)
	// Both at one heat, and nobody waits for the oven.
	at := 205.0
	one := twoHeats()
	one.Services[0].Ways = []kitchen.Way{{Component: "onion", Step: "roast", HeatC: &at}, {Component: "potato", Step: "roast", HeatC: &at}}
	shared, _, _ := lateness(t, one)
	require.Zero(t, shared)
}

// A table's own plates may want one oven at two heats, while the cook is at potatoes for somebody else: the heat is the cause.
func TestATablesOwnTwoHeats(t *testing.T) {
	d := twoHeats()
	d.Services[0].Tables[0].Orders = append(d.Services[0].Tables[0].Orders, kitchen.TableOrder{Dish: "other", Count: 1})
	d.Services[0].Tables[0].Covers = 2
	d.Services[0].Tables = d.Services[0].Tables[:1]
	b := table("b", 1, 19*60)
	b.Name, b.Orders = "B", []kitchen.TableOrder{{Dish: "third", Count: 1}}
	d.Services[0].Tables = append(d.Services[0].Tables, b)
	// Somebody else's potatoes are mashed by the same cook, right before.
	mash := kitchen.Component{ID: "mash", Name: "mash", Section: "one", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
		Hold: kitchen.Wait{Longest: seconds(900)}, Steps: []kitchen.Step{pick("mash", kitchen.Both, 300)}}
	mash.Steps[0].Name = "mash"
	d.Components = append(d.Components, mash)
	third := d.Dishes[1]
	third.ID, third.Name = "third", "Third"
	third.Specification.Elements = []kitchen.Element{third.Specification.Elements[0]}
	third.Specification.Elements[0].Component = "mash"
	d.Dishes = append(d.Dishes, third)
	d.Services[0].Menu = append(d.Services[0].Menu, kitchen.MenuLine{Dish: "third", Share: 0})
	_, _, p := evening(t, d, true)
	require.NotEmpty(t, p.Trouble)
	for _, x := range p.Trouble {
		require.NotNil(t, x.Cause, x.Said.Text)
		require.Equal(t, "oven", x.Cause.Resource.ID, x.Why.Text)
	}
	more := d.Equipment[0]
	more.ID = "second"
	d.Equipment = append(d.Equipment, more)
	_, _, p = evening(t, d, true)
	require.Empty(t, p.Trouble)
}

// What is named is what binds: with one more of it, evenings drawn at random and solved to proof are less late. Now and then
// another thing binds at the same second, and one more of either alone does not help: more of both does.
func TestWithMoreOfTheNamedCauseItIsLessLate(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 19))
	checked, helped := 0, 0
	for range 80 {
		cs, es := drawnCauses(rng, true)
		draw := func() kitchen.Data {
			return served(cs, es, table("a", 1, 19*60), table("b", 1, 19*60+2))
		}
		sum, cause, status := lateness(t, draw())
		if sum == 0 || cause == nil || status != workload.Optimal {
			continue
		}
		d := draw()
		if cause.Resource.IsPerson() {
			for _, p := range d.People {
				if p.ID == cause.Resource.ID {
					p.ID += "-more"
					d.People = append(d.People, p)
					break
				}
			}
		} else {
			more := d.Equipment[0]
			more.ID = "more"
			d.Equipment = append(d.Equipment, more)
		}
		checked++
		if less, _, _ := lateness(t, d); less < sum {
			helped++
		}
	}
	require.Greater(t, checked, 15)
	require.Greater(t, float64(helped), 0.8*float64(checked), "%d of %d", helped, checked)
}
