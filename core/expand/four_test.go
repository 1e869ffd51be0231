package expand_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
)

// fourMains is a table of four with four mains: a bird at 220°, a joint at 180° that rests in an oven at 50°, fish finished at
// 190° and pork at 200°; two ovens, a sauce cook and a fish cook. Times and limits are common practice, no source.
func fourMains() (kitchen.Data, expand.Table) {
	roast := func(id, section string, c float64, minutes int, hold kitchen.Wait) kitchen.Component {
		s := inOven(pick("roast", kitchen.None, 60*minutes), c)
		s.Ends = kitchen.Ends{InS: 20, OutS: 20}
		return kitchen.Component{ID: id, Section: section, Hold: hold, Steps: []kitchen.Step{s}}
	}
	rest := func(shortest, best, longest int) kitchen.Wait {
		return kitchen.Wait{Shortest: 60 * shortest, Best: seconds(60 * best), Longest: seconds(60 * longest), Place: kitchen.OnBench}
	}
	low := 50.0
	joint := roast("joint", "one", 180, 50, rest(20, 30, 60))
	joint.Hold.In, joint.Hold.Place = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &low}, kitchen.Hot
	fish := roast("fish", "two", 190, 4, kitchen.Wait{Shortest: 60, Best: seconds(90), Longest: seconds(240)})
	pan := pick("pan", kitchen.Tend, 210)
	pan.Ends = kitchen.Ends{InS: 25, OutS: 15}
	fish.Steps[0].After = []kitchen.Predecessor{{Step: "pan", Wait: kitchen.Wait{Longest: seconds(20)}}}
	fish.Steps = append([]kitchen.Step{pan}, fish.Steps...)
	cs := []kitchen.Component{roast("bird", "one", 220, 14, rest(6, 10, 20)), joint, fish, roast("pork", "one", 200, 10, rest(4, 6, 12))}
	d := house(cs, []kitchen.Element{{Component: "bird", Seconds: 30}})
	d.Kitchen.PlatingHands = 2
	second := d.Equipment[0]
	second.ID, second.Name = "second", "Second oven"
	d.Equipment = append(d.Equipment, second)
	t := expand.Table{Name: "Table", At: at(14, 20, 0)}
	plain := d.Dishes[0]
	d.Dishes = nil
	for _, c := range cs {
		x := plain
		x.ID, x.Name = c.ID, c.ID
		x.Specification.Elements = []kitchen.Element{plain.Specification.Elements[0]}
		x.Specification.Elements[0].Component = c.ID
		d.Dishes = append(d.Dishes, x)
		t.Orders = append(t.Orders, expand.Order{Dish: c.ID, Count: 1})
	}
	return d, t
}

// What a chef would do: the joint goes first, at 180°; it rests at 50° in one oven, and all the rest is done in the other, the
// hottest first and the fish last, so that it only cools down from one to the next, each within its rest. Nothing is late, nothing rests
// too long.
func TestATableOfFourMains(t *testing.T) {
	d, table := fourMains()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, table)
	require.NoError(t, err)
	s := schedule.Solve(context.Background(), f.Workload, schedule.Options{Seed: 1, Rounds: 4000, Anyway: true})
	require.NotEqual(t, workload.BestEffort, s.Status, s.Broken)
	broken, err := verify.Check(f.Workload, s)
	require.NoError(t, err)
	require.Empty(t, broken)
	p := f.Read(s)
	require.Zero(t, p.LateS)
	require.Empty(t, p.Overdue())
	fire := fires(p)
	on := map[string]string{}
	for _, x := range p.Strands {
		t.Logf("%-6s fired %6s on %v", x.Component, time.Duration(x.FireS)*time.Second, x.Bars[len(x.Bars)-1].On)
		on[x.Component] = x.Bars[len(x.Bars)-1].On[0]
		for _, w := range x.Waits {
			require.NotEqual(t, "over", w.State, x.Component)
		}
	}
	require.Less(t, fire["joint"], fire["bird"])
	require.Less(t, fire["bird"], fire["fish"])
	require.Less(t, fire["pork"], fire["fish"])
	low := ""
	for _, r := range s.Tasks {
		if f.Tasks[r.ID].Act == expand.ActPlace {
			low = map[string]string{"equipment/oven": "Oven", "equipment/second": "Second oven"}[r.Resources[0]]
		}
	}
	require.NotEmpty(t, low)
	require.NotEqual(t, low, on["bird"], "it rests in the other oven")
	require.Equal(t, on["bird"], on["fish"])
	require.Equal(t, on["bird"], on["pork"])
	// With one oven it cannot be, and it is said what waits how much too long.
	d.Equipment = d.Equipment[:1]
	b, err = kitchen.NewBook(d)
	require.NoError(t, err)
	f, err = expand.NewSoftFiring(b, table)
	require.NoError(t, err)
	one := f.Read(schedule.Solve(context.Background(), f.Workload, schedule.Options{Seed: 1, Rounds: 4000, Anyway: true}))
	require.NotEmpty(t, one.Overdue())
}
