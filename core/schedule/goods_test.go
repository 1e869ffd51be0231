package schedule

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// crew is two cooks of a section, one who helps there and elsewhere, and two ovens; more makes more of it.
func crew(more func(w *workload.Workload)) *workload.Workload {
	at := int64(7200)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 14_400,
		Joins: []workload.Join{{ID: "table", At: &at, Weight: 4, EarlyWeight: 4}}}
	for _, id := range []string{"ada", "ben", "helper"} {
		w.Resources = append(w.Resources, workload.Resource{ID: id, Capacity: 1})
	}
	for _, id := range []string{"oven/a", "oven/b"} {
		w.Resources = append(w.Resources, workload.Resource{ID: id, Capacity: 4, Thermostat: &workload.Thermostat{StartC: 100, HeatCPerMin: 20,
			CoolCPerMin: 10}})
	}
	hot := 180.0
	for _, t := range []workload.Task{
		{ID: "sear", Seconds: 100, Needs: []workload.Need{{AnyOf: []string{"ada", "ben", "helper"}, Units: 1}}},
		{ID: "plate", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"helper"}, Units: 1}}},
		{ID: "bake", Seconds: 600, Needs: []workload.Need{{AnyOf: []string{"oven/a", "oven/b"}, Units: 1, SetpointC: &hot}}},
	} {
		w.Tasks = append(w.Tasks, t)
		w.Links = append(w.Links, workload.Link{From: t.ID, To: "table", Kind: workload.FinishStart, Weight: 1})
	}
	if more != nil {
		more(w)
	}
	return w
}

func goodsOf(t *testing.T, w *workload.Workload) (*catalogue, *goods, []spot) {
	t.Helper()
	p := compiled(t, w)
	g := newTiming(p)
	spots, _ := spotsOf(p, g, 100_000)
	c := newCatalogue(p, 9600)
	return c, c.baskets(spots, g), spots
}

// What nothing tells apart is one good: cooks who stand in the same lists, ovens that heat alike; each temperature is one.
func TestGoods(t *testing.T) {
	c, g, spots := goodsOf(t, crew(nil))
	require.Equal(t, [][]int32{{0, 1}, {2}, {3, 4}}, c.of)
	require.Len(t, g.room, 3, "the section, the helper, and 180 °C")
	require.Len(t, g.ovens, 1)
	require.Equal(t, 2.0, g.ovens[0].many)
	require.Equal(t, 4.0, g.ovens[0].room[0])
	asks := map[int]int{}
	for i := range spots {
		for _, baskets := range spots[i].asks {
			asks[len(baskets)]++
		}
	}
	require.Equal(t, map[int]int{2: 1, 1: 2}, asks, "who sears is of the section or helps; the others have one good")

	c, g, _ = goodsOf(t, crew(func(w *workload.Workload) { w.Resources[4].Thermostat.HeatCPerMin = 12 }))
	require.Equal(t, [][]int32{{0, 1}, {2}, {3}, {4}}, c.of, "ovens that heat otherwise are two")
	require.Len(t, g.ovens, 2)

	_, _, spots = goodsOf(t, crew(func(w *workload.Workload) {
		w.Tasks = append(w.Tasks, workload.Task{ID: "rest", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"helper", "oven/a"}, Units: 1}}})
	}))
	require.Empty(t, spots[len(spots)-2].asks, "a place in an oven at no temperature costs nothing, whatever else would do as well")

	other := 140.0
	_, g, _ = goodsOf(t, crew(func(w *workload.Workload) {
		w.Tasks = append(w.Tasks, workload.Task{ID: "dry", Seconds: 600, Needs: []workload.Need{{AnyOf: []string{"oven/a", "oven/b"}, Units: 1,
			SetpointC: &other}}})
	}))
	require.Len(t, g.ovens, 1)
	require.Len(t, g.ovens[0].goods, 2)
}

// There is as much of a good as its resources have, less when they are away and what has happened took; and nothing where that was too
// much.
func TestRoomOfGoods(t *testing.T) {
	_, g, _ := goodsOf(t, crew(func(w *workload.Workload) {
		w.Resources[0].HasWindows = true
		w.Resources[0].Windows = []workload.Window{{From: 0, To: 1000, Capacity: 1}, {From: 1920, To: 14_400, Capacity: 1}}
		for i, at := range []int64{320, 336, 4000} {
			id := string(rune('x' + i))
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 96, Needs: []workload.Need{{AnyOf: []string{"helper"}, Units: 1}}})
			w.Fixed = append(w.Fixed, workload.Fixed{Task: id, Start: at, Finish: ptrOf(at + 96), Resources: []string{"helper"}})
		}
	}))
	section, helper := g.room[0], g.room[1]
	require.Equal(t, 64.0, section[0])
	require.Equal(t, 32.0+8, section[31], "from 992 on: one of the two goes at 1,000")
	require.Equal(t, 32.0, section[32])
	require.Equal(t, 64.0, section[60], "from 1,920 on")
	require.Equal(t, 32.0, helper[9])
	require.Equal(t, 0.0, helper[10], "taken once, and then twice")
	require.Equal(t, 0.0, helper[12])
	require.Equal(t, 16.0, helper[13], "from 416 on, until 432")
	require.Equal(t, 0.0, helper[126])
}

// What a basket costs is what its goods cost while they are taken.
func TestPriceOfABasket(t *testing.T) {
	g := &goods{slots: 4, price: [][]float64{{1, 2, 0, 4}}, upTo: []ladder{make(ladder, 5)}, used: [][]float64{make([]float64, 4)}}
	g.upTo[0].fill(g.price[0])
	b := basket{{0, 10, 60, 2}}
	require.InDelta(t, 2*(22*1.0+32*2+6*0), g.priceOf(b, 0), 1e-9, "from 10 to 70")
	require.InDelta(t, 2*(10*2.0+32*0+18*4), g.priceOf(b, 44), 1e-9, "from 54 to 114")
	g.ask(b, 44, 1)
	require.Equal(t, []float64{0, 20, 64, 36}, g.used[0])
}

// What is paid for a good, looked up for many steps at once, is what it is for each: on grids of whole slots and others.
func TestPricesOfManySteps(t *testing.T) {
	j := newJoint(compiled(t, crew(nil)), 100_000)
	g := j.goods
	for k := range g.price {
		for i := range g.price[k] {
			g.price[k][i] = float64((i*7 + k*3) % 11)
		}
		g.upTo[k].fill(g.price[k])
	}
	for _, step := range []int64{1, 8, 32, 64, 96} {
		j.lay(step)
		for i := range j.spots {
			s := &j.spots[i]
			for _, baskets := range s.asks {
				for _, b := range baskets {
					for n := range b {
						sum := make([]float64, s.many)
						j.addPrice(sum, &b[n], s)
						for m, paid := range sum {
							at := j.instant(s, s.first+int64(m))
							require.InDelta(t, g.priceOf(b[n:n+1], at), paid, 1e-9, "%d s, step %d of %d", step, m, s.many)
						}
					}
				}
			}
			require.Equal(t, j.many > mostCoarse, s.wished == nil)
			for m, cost := range s.wished {
				require.Equal(t, float64(s.price.cost(j.instant(s, s.first+int64(m)))), cost)
			}
		}
	}
}
