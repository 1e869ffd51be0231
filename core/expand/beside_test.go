package expand_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// burners is a kitchen with so many single burners beside the oven.
func burners(d kitchen.Data, n int) kitchen.Data {
	for _, id := range []string{"left", "right", "back", "front"}[:n] {
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: id, Name: id, Kind: kitchen.Burner, Capacity: 1, Unit: "burner"})
	}
	return d
}

func onBurner(s kitchen.Step) kitchen.Step {
	s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1}
	return s
}

func beside(s kitchen.Step, component, step string, pan bool) kitchen.Step {
	s.Beside = append(s.Beside, kitchen.OtherStep{Component: component, Step: step, Pan: pan})
	return s
}

// meatAndSauce is meat fried for 240 s and its sauce made for 60 s, in the pan of the meat where pan says so.
func meatAndSauce(pan bool) kitchen.Data {
	meat := kitchen.Component{ID: "meat", Hold: kitchen.Wait{Longest: seconds(400)},
		Steps: []kitchen.Step{onBurner(pick("fry", kitchen.Tend, 240))}}
	make := onBurner(pick("make", kitchen.Both, 60))
	if pan {
		make = beside(make, "meat", "fry", true)
	}
	sauce := kitchen.Component{ID: "sauce", Section: "two", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{make}}
	return burners(house([]kitchen.Component{meat, sauce}, []kitchen.Element{{Component: "meat", Seconds: 10},
		{Component: "sauce", Seconds: 10}}), 2)
}

// By hand. Meat is needed at −20, its sauce at −10 and waits for nothing: made from −70. Apart, the meat is off at −20. In its
// pan the sauce is begun when the meat is out, so the meat is off at −70, on at −310, on the same burner.
func TestTheSauceIsMadeInThePanOfTheMeat(t *testing.T) {
	require.Equal(t, map[string]int64{"meat": -260, "sauce": -70}, fires(plan(t, meatAndSauce(false), 1, 1)))
	p := plan(t, meatAndSauce(true), 1, 1)
	require.Equal(t, map[string]int64{"meat": -310, "sauce": -70}, fires(p))
	on := map[string]string{}
	for _, s := range p.Strands {
		on[s.Component] = s.Bars[0].On[len(s.Bars[0].On)-1]
		if s.Component == "meat" {
			require.Len(t, s.Waits, 1, "its wait for the plate; none for the sauce, which begins at once")
		}
	}
	require.Equal(t, on["meat"], on["sauce"])
}

// By hand. The sauce is begun (100 s), the fish poaches in it (200 s), comes out, and the sauce is bound (40 s) and waits for
// nothing: needed at −10, bound from −50, the fish in from −250, the sauce begun at −350. All on one burner.
func TestFishPoachesInItsSauceAndThatIsBoundThen(t *testing.T) {
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(240)},
		Steps: []kitchen.Step{beside(onBurner(pick("poach", kitchen.Tend, 200)), "sauce", "begin", true)}}
	bind := beside(onBurner(pick("bind", kitchen.Both, 40, kitchen.Predecessor{Step: "begin", Wait: kitchen.Wait{NoLimit: true}})), "fish",
		"poach", true)
	sauce := kitchen.Component{ID: "sauce", Hold: kitchen.Wait{Longest: seconds(0)},
		Steps: []kitchen.Step{onBurner(pick("begin", kitchen.Tend, 100)), bind}}
	p := plan(t, burners(house([]kitchen.Component{fish, sauce}, []kitchen.Element{{Component: "fish", Seconds: 10},
		{Component: "sauce", Seconds: 10}}),
		1), 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"fish": -250, "sauce": -350}, fires(p))
	for _, s := range p.Strands {
		if s.Component == "sauce" {
			require.Equal(t, int64(-50), s.Bars[1].StartS)
		}
	}
}

// crossLinks lists the links between tasks of two components, in their order.
func crossLinks(w *workload.Workload, f *expand.Firing, from, to string) (out [][2]string) {
	for _, l := range w.Links {
		if f.Tasks[l.From].Component == from && f.Tasks[l.To].Component == to && !slices.Contains(out, [2]string{l.From, l.To}) {
			out = append(out, [2]string{l.From, l.To})
		}
	}
	return out
}

// Portions are numbered by plate: the first plate has meat without sauce, so the sauce's first portion is the meat's second.
func TestABatchWaitsForTheBatchesOfItsPlates(t *testing.T) {
	d := meatAndSauce(true)
	plain := d.Dishes[0]
	plain.ID, plain.Name = "plain", "Plain"
	plain.Specification.Elements = plain.Specification.Elements[:1]
	d.Dishes = append(d.Dishes, plain)
	links := func(meat, sauce int) [][2]string {
		d.Components[0].Steps[0].Batch = &kitchen.BatchLimit{Portions: meat, Run: kitchen.SideBySide}
		d.Components[1].Steps[0].Batch = &kitchen.BatchLimit{Portions: sauce, Run: kitchen.SideBySide}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "plain", Count: 1}, {Dish: "dish", Count: 3}},
			At: time.Date(2026, 5, 14, 19, 0, 0, 0, time.UTC)})
		require.NoError(t, err)
		return crossLinks(f.Workload, f, "meat", "sauce")
	}
	// Meat one by one: the second, third and fourth pan are for the plates with sauce.
	require.Equal(t, [][2]string{{"table/meat/fry/2", "table/sauce/make"}, {"table/meat/fry/3", "table/sauce/make/2"},
		{"table/meat/fry/4", "table/sauce/make/3"}}, links(1, 1))
	// Meat two by two (0 1, 2 3), sauce two by two (1 2, 3): the first sauce waits for both pans, the second for the second alone.
	require.Equal(t, [][2]string{{"table/meat/fry", "table/sauce/make"}, {"table/meat/fry/2", "table/sauce/make"},
		{"table/meat/fry/2", "table/sauce/make/2"}}, links(2, 2))
}

// By hand. Gravy (30 s, holds 100 at the most) is made to order and goes into the mash, which is stirred with it for 50 s and
// needed at −10 without waiting: the mash from −60, the gravy fired with it at −90. Nobody puts gravy on the plate by itself.
func TestWhatIsUsedToOrderIsFiredWithItsUser(t *testing.T) {
	gravy := kitchen.Component{ID: "gravy", Section: "two", Hold: kitchen.Wait{Best: seconds(0), Longest: seconds(100)},
		Steps: []kitchen.Step{pick("boil", kitchen.Tend, 30)}}
	mash := kitchen.Component{ID: "mash", Hold: kitchen.Wait{Longest: seconds(0)}, Uses: []kitchen.Use{{Component: "gravy", Amount: 20}},
		Steps: []kitchen.Step{pick("stir", kitchen.Both, 50)}}
	d := house([]kitchen.Component{gravy, mash}, []kitchen.Element{{Component: "mash", Seconds: 10}})
	p := plan(t, d, 3, 1)
	for _, s := range p.Strands {
		require.Equal(t, 3, s.Portions, s.Component)
	}
	d.Components[0].Hold.Best = seconds(0)
	p = plan(t, d, 1, 1)
	require.Equal(t, map[string]int64{"mash": -60, "gravy": -90}, fires(p))
	require.Empty(t, p.Strands[1].Elements)
	// The same in a service, where it is also on sheets and lanes.
	d.Services = []kitchen.Service{served(d.Components, d.Dishes[0].Specification.Elements, table("t", 2, 1140)).Services[0]}
	e, _, read := evening(t, d, false)
	var what []string
	for _, r := range read.Runs {
		what = append(what, r.What)
	}
	require.Contains(t, what, "gravy")
	require.Len(t, crossLinks(e.Workload, e.Courses[0].Firing, "gravy", "mash"), 1)
}

// On a plate that does not have the other component a step waits for nothing.
func TestWhatIsNotOnThePlateIsNotWaitedFor(t *testing.T) {
	d := meatAndSauce(true)
	d.Dishes[0].Specification.Variants = []kitchen.Variant{{Name: "no meat", Changes: []kitchen.Change{{Element: 1, Kind: "leave-out"}}}}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: 1, Variant: "no meat"}},
		At: time.Date(2026, 5, 14, 19, 0, 0, 0, time.UTC)})
	require.NoError(t, err)
	require.Empty(t, crossLinks(f.Workload, f, "meat", "sauce"))
	require.NotContains(t, f.Tasks, "table/meat/fry")
}

// In a service two tables may share the meat and make their sauces by themselves: each waits for the pan of its own plates.
func TestAcrossASharedBatch(t *testing.T) {
	d := meatAndSauce(true)
	d.Components[0].Hold.Longest = seconds(3000)
	d.Components[0].Steps[0].Batch = &kitchen.BatchLimit{Portions: 2, Run: kitchen.SideBySide}
	d.Services = []kitchen.Service{served(d.Components, d.Dishes[0].Specification.Elements, table("t1", 2, 1140),
		table("t2", 2, 1142)).Services[0]}
	d.Services[0].Shared = []kitchen.SharedBatch{{ID: "both", Component: "meat", Course: kitchen.Main, Tables: []string{"t1", "t2"}}}
	e, _, _ := evening(t, d, true)
	require.Equal(t, [][2]string{{"~both/meat/fry", "t1/main/sauce/make"}}, crossLinks(e.Workload, e.Courses[0].Firing, "meat", "sauce"))
	require.Equal(t, [][2]string{{"~both/meat/fry/2", "t2/main/sauce/make"}}, crossLinks(e.Workload, e.Courses[1].Firing, "meat", "sauce"))
}
