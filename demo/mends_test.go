package demo_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/demo"
)

// Whatever is proposed for the demo's evenings is a service that can be saved; the service
// itself is left as it was; no proposal comes twice. The demo is tight, and one of its
// proposals is about what keeps the others: hands for their section or their step, or one heat.
func TestEveryProposalIsAServiceThatCanBe(t *testing.T) {
	house := book(t)
	for _, id := range []string{demo.Tonight, demo.Tomorrow} {
		s, _ := house.Service(id)
		before := *s
		e, err := expand.NewEvening(house, s, true)
		require.NoError(t, err)
		p := troubled(t, e)
		seen, kinds := map[string]bool{}, map[string]bool{}
		for _, c := range advise.Candidates(house, e, p) {
			require.False(t, seen[c.Mend.ID], c.Mend.ID)
			seen[c.Mend.ID] = true
			kind, _, _ := strings.Cut(c.Mend.ID, ":")
			kinds[kind] = true
			require.NotEmpty(t, c.Mend.Costs)
			require.Positive(t, c.Mend.PriceS)
			require.NotEqual(t, before, c.Service)
			d := house.Data()
			for i := range d.Services {
				if d.Services[i].ID == id {
					d.Services[i] = c.Service
				}
			}
			_, err := kitchen.NewBook(d)
			require.NoError(t, err, c.Mend.What.Text)
		}
		require.Equal(t, before, *s)
		if id == demo.Tonight {
			require.True(t, (kinds["helper"] || kinds["hands-for"] || kinds["heat"]) && kinds["share"] && kinds["seat"] && kinds["pace"] &&
				kinds["hands"], kinds)
		}
	}
}

// troubled is a plan of an evening that leaves something to mend: the first of some searches that does.
func troubled(t *testing.T, e *expand.Evening) *expand.EveningPlan {
	t.Helper()
	for seed := range int64(8) {
		p := e.Read(schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: seed + 1, Rounds: 3000, Anyway: true}))
		if len(p.Trouble) > 0 {
			return p
		}
	}
	t.Fatal("every one of eight searches makes all of it fit: the evening is no longer tight")
	return nil
}

// What is fired for a table is what is on its plates: every component of every plate is
// cooked once, alone or in a batch that others share, whatever tables share.
func TestEveryPortionIsCookedOnce(t *testing.T) {
	house := book(t)
	for round, shared := range [][]kitchen.SharedBatch{nil,
		{{Component: "cider-butter-sauce", Course: kitchen.Main, Tables: []string{"table-1", "table-2", "table-3"}}},
		{{Component: "guinea-fowl-breast", Course: kitchen.Main, Tables: []string{"table-4", "table-7"}},
			{Component: "barley", Course: kitchen.Main, Tables: []string{"table-7", "table-10"}}},
	} {
		for _, id := range []string{demo.Tonight, demo.Tomorrow} {
			s, _ := house.Service(id)
			with := *s
			if id == demo.Tonight {
				with.Shared = shared
			}
			e, err := expand.NewEvening(house, &with, true)
			require.NoError(t, err)
			orders, _ := house.TableOrders(&with)
			want := map[string]int{}
			for i := range with.Tables {
				for _, o := range orders[i] {
					d, _ := house.Dish(o.Dish)
					elements, err := d.Plate(o.Variant)
					require.NoError(t, err)
					once := map[string]bool{}
					for _, x := range elements {
						c, _ := house.Component(x.Component)
						for _, st := range c.InPhase(kitchen.PickUp) {
							if key := c.ID + " " + st.ID; !once[key] {
								once[key] = true
								want[key] += o.Count
							}
						}
					}
				}
			}
			got := map[string]int{}
			counted := map[string]bool{}
			for i := range e.Courses {
				for task, ref := range e.Courses[i].Firing.Tasks {
					if !ref.Plating && !ref.Preheat && ref.Act == "" && !counted[task] {
						counted[task] = true
						got[ref.Component+" "+ref.Step] += ref.Portions
					}
				}
			}
			require.Equal(t, want, got, "%s, sharing %d", id, round)
		}
	}
}
