package service_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// standIns are what can stand in, by dish and variant, with the names of the tables that would have it and of those whom it does not suit.
func standIns(b *kitchen.Book, s *kitchen.Service, state *service.State, l service.Lack) map[string][2][]string {
	out := map[string][2][]string{}
	for _, x := range service.StandIns(b, service.AsSaid(b, s, state), state, &l) {
		names := []string{}
		for _, t := range x.Tables {
			names = append(names, t.Name)
		}
		out[x.Dish+"/"+x.Variant] = [2][]string{names, x.Not}
	}
	return out
}

// onlyMains lets every table but a few leave its main out.
func onlyMains(tables ...string) (log []service.Event) {
	keep := map[string]bool{}
	for _, t := range tables {
		keep[t] = true
	}
	log = append(log, tap(0, service.Opened, nil))
	for n := range 15 {
		id := "table-" + string(rune('1'+n))
		if n >= 9 {
			id = "table-1" + string(rune('0'+n-9))
		}
		if !keep[id] {
			e := tap(1, service.Skipped, course(id, kitchen.Main))
			e.ID += id
			log = append(log, e)
		}
	}
	return log
}

// Something is off: every other dish of the course can stand in, and each variant of its dish that is without it; what is off itself
// cannot, nor what has it. Tables whose course is plated, sent or left out have had theirs.
func TestWhatStandsIn(t *testing.T) {
	b, s := booking(t)
	order := ordered(2, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 3},
		service.PlateOrder{Dish: "guinea-fowl-barley", Count: 1})
	log := append(onlyMains("table-4"), order)
	hake := service.Lack{Component: "hake"}
	require.Equal(t, map[string][2][]string{"guinea-fowl-barley/": {{"Table 4"}, {}}, "salt-baked-celeriac/": {{"Table 4"}, {}}},
		standIns(b, s, service.Fold(log), hake))
	list := service.StandIns(b, service.AsSaid(b, s, service.Fold(log)), service.Fold(log), &hake)
	require.Equal(t, 3, list[0].Tables[0].Count)
	plates := 0
	for _, p := range list[0].Tables[0].Plates {
		plates += p.Count
	}
	require.Equal(t, 4, plates, "all plates of the course, as they are to be ordered")
	require.NotContains(t, list[0].Allergens, "fish")
	require.Contains(t, list[0].Brings, "gluten")

	// The sauce is off: the hake without milk is without it.
	sauce := standIns(b, s, service.Fold(log), service.Lack{Component: "cider-butter-sauce"})
	require.Contains(t, sauce, "hake-cider-butter/no milk")

	fowlOff := tap(3, service.Off, func(e *service.Event) { e.Dish = "guinea-fowl-barley" })
	require.NotContains(t, standIns(b, s, service.Fold(append(log, fowlOff)), hake), "guinea-fowl-barley/")
	plated := tap(4, service.Plated, course("table-4", kitchen.Main))
	require.Empty(t, standIns(b, s, service.Fold(append(log, plated)), hake))
	require.Empty(t, standIns(b, s, service.Fold(log), service.Lack{Component: "no-such-thing"}))
}

// A guest with a need has a plate that suits of the stand-in, or the table is named as one whom it does not suit.
func TestAStandInSuitsItsGuests(t *testing.T) {
	b, s := booking(t)
	milk := ordered(2, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 1, Variant: "no milk",
		Without: []kitchen.Allergen{"milk"}})
	got := standIns(b, s, service.Fold(append(onlyMains("table-4"), milk)), service.Lack{Component: "hake"})
	require.Equal(t, map[string][2][]string{"salt-baked-celeriac/": {{"Table 4"}, {}}}, got, "of the fowl no plate is without milk")
	two := ordered(3, "table-5", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 2})
	state := service.Fold(append(onlyMains("table-4", "table-5"), milk, two))
	got = standIns(b, s, state, service.Lack{Component: "hake"})
	require.Equal(t, [2][]string{{"Table 5"}, {"Table 4"}}, got["guinea-fowl-barley/"])
	for _, x := range service.StandIns(b, service.AsSaid(b, s, state), state, &service.Lack{Component: "hake"}) {
		if x.Dish == "salt-baked-celeriac" {
			require.Equal(t, "vegan", x.Tables[0].Plates[0].Variant, "the guest without milk")
			require.Empty(t, x.Tables[1].Plates[0].Variant)
		}
	}
}

// What would be if a stand-in were ordered does not touch what stands.
func TestAStandInIsTriedBesideWhatStands(t *testing.T) {
	b, s := booking(t)
	state := service.Fold(append(onlyMains("table-4"), ordered(2, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter",
		Count: 3})))
	x := service.StandIns(b, service.AsSaid(b, s, state), state, &service.Lack{Component: "hake"})[0]
	tried := state.With(append(x.Tables, service.StandInTable{TableCourse: service.TableCourse{Table: "bar", Course: kitchen.Main},
		Plates: []service.PlateOrder{{Dish: x.Dish, Count: 1}}}), at(5))
	require.Equal(t, x.Dish, tried.Course(x.Tables[0].TableCourse).Plates[0].Dish)
	require.NotNil(t, tried.Table("bar"))
	require.Equal(t, "hake-cider-butter", state.Course(x.Tables[0].TableCourse).Plates[0].Dish)
	require.Nil(t, state.Table("bar"))
	require.Equal(t, at(5), *tried.Table("bar").OrderedAt)
	require.WithinDuration(t, at(2), *state.Table("table-4").OrderedAt, time.Second)
}
