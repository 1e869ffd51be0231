package service_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/demo"
)

// booking is the demo's evening as it was booked.
func booking(t *testing.T) (*kitchen.Book, *kitchen.Service) {
	t.Helper()
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = demo.Services(time.Date(2026, 5, 15, 0, 0, 0, 0, time.UTC))
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	s, ok := b.Service(demo.Tonight)
	require.True(t, ok)
	return b, s
}

// asSaid is the booking after some events; whatever comes of them, the kitchen accepts it.
func asSaid(t *testing.T, b *kitchen.Book, s *kitchen.Service, log ...service.Event) *kitchen.Service {
	t.Helper()
	is := service.AsSaid(b, s, service.Fold(append([]service.Event{tap(-300, service.Opened, nil)}, log...)))
	require.Empty(t, kitchen.CheckService(*is))
	return is
}

func ordered(minute float64, table string, c kitchen.Course, plates ...service.PlateOrder) service.Event {
	return tap(minute, service.Ordered, func(e *service.Event) { course(table, c)(e); e.Plates = plates })
}

// plates is what each table eats of a course, by dish.
func plates(b *kitchen.Book, s *kitchen.Service, c kitchen.Course) map[string]map[string]int {
	out := map[string]map[string]int{}
	orders, _ := b.TableOrders(s)
	for i, t := range s.Tables {
		out[t.ID] = map[string]int{}
		for _, o := range orders[i] {
			if d, _ := b.Dish(o.Dish); d.Course == c {
				out[t.ID][o.Dish] += o.Count
			}
		}
	}
	return out
}

func TestWhatIsOrderedStandsForWhatWasExpected(t *testing.T) {
	b, s := booking(t)
	require.Same(t, s, asSaid(t, b, s), "where nothing was said it is the booking")
	before, dessert := plates(b, s, kitchen.Main), plates(b, s, kitchen.Dessert)
	is := asSaid(t, b, s, ordered(40, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 3},
		service.PlateOrder{Dish: "guinea-fowl-barley", Count: 1, Without: []kitchen.Allergen{"milk"}}))
	after := plates(b, is, kitchen.Main)
	require.Equal(t, map[string]int{"hake-cider-butter": 3, "guinea-fowl-barley": 1}, after["table-4"])
	require.Equal(t, dessert, plates(b, is, kitchen.Dessert), "what was not ordered yet is expected as before")
	for id := range before {
		if id != "table-4" {
			require.Equal(t, before[id], after[id], "what one table orders changes nothing of what another is expected to: %s", id)
		}
	}
	require.Empty(t, s.Tables[3].Orders, "the booking is not written to")

	// The last word counts, and taking it back brings back the one before.
	first := ordered(40, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 4})
	second := ordered(41, "table-4", kitchen.Main, service.PlateOrder{Dish: "salt-baked-celeriac", Count: 4})
	back := tap(42, service.Undone, func(e *service.Event) { e.Undoes = second.ID })
	require.Equal(t, map[string]int{"salt-baked-celeriac": 4}, plates(b, asSaid(t, b, s, first, second), kitchen.Main)["table-4"])
	require.Equal(t, map[string]int{"hake-cider-butter": 4}, plates(b, asSaid(t, b, s, first, second, back), kitchen.Main)["table-4"])
	all := tap(43, service.Undone, func(e *service.Event) { e.Undoes = first.ID })
	require.Same(t, s, asSaid(t, b, s, first, second, back, all))
}

func TestATableThatWasNotBooked(t *testing.T) {
	b, s := booking(t)
	came := tap(130, service.Seated, func(e *service.Event) { e.Table, e.Name, e.Covers = "walk-in-bar", "Bar", 3 })
	require.Same(t, s, asSaid(t, b, s, came), "nobody knows yet what they eat")
	main := ordered(135, "walk-in-bar", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 3})
	is := asSaid(t, b, s, came, main)
	require.Len(t, is.Tables, len(s.Tables)+1)
	bar := is.Tables[len(s.Tables)]
	require.Equal(t, "Bar", bar.Name)
	require.Equal(t, 3, bar.Covers)
	require.Equal(t, 22*60+10, bar.SeatedAt, "by the kitchen's clock, which is two hours ahead")
	require.Equal(t, map[string]int{"hake-cider-butter": 3}, plates(b, is, kitchen.Main)["walk-in-bar"])
	require.Empty(t, plates(b, is, kitchen.First)["walk-in-bar"], "only what was ordered")
	require.Equal(t, plates(b, s, kitchen.Main)["table-15"], plates(b, is, kitchen.Main)["table-15"])
	alone := asSaid(t, b, s, main)
	require.Equal(t, 22*60+15, alone.Tables[len(s.Tables)].SeatedAt, "nobody said that they came: they are there since they ordered")
}

func TestMoreGuestsOrFewer(t *testing.T) {
	b, s := booking(t)
	before := plates(b, s, kitchen.Main)
	guests := func(table string, n int) service.Event {
		return tap(30, service.Guests, func(e *service.Event) { e.Table, e.Covers = table, n })
	}
	sum := func(m map[string]int) (n int) {
		for _, x := range m {
			n += x
		}
		return n
	}
	is := asSaid(t, b, s, guests("table-2", 3))
	require.Equal(t, 3, is.Tables[1].Covers)
	require.Equal(t, 3, sum(plates(b, is, kitchen.Main)["table-2"]))
	orders, _ := b.TableOrders(is)
	needs := 0
	for _, o := range orders[1] {
		if d, _ := b.Dish(o.Dish); d.Course == kitchen.Main && o.Needs().Any() {
			needs += o.Count
		}
	}
	require.Equal(t, 1, needs, "the guest with a need is still expected")
	is = asSaid(t, b, s, guests("table-2", 6))
	require.Equal(t, 6, is.Tables[1].Covers)
	require.Equal(t, before["table-2"], plates(b, is, kitchen.Main)["table-2"], "nobody knows what the others eat")
	for id := range before {
		if id != "table-2" {
			require.Equal(t, before[id], plates(b, is, kitchen.Main)[id])
		}
	}
	same := asSaid(t, b, s, tap(30.1, service.Seated, func(e *service.Event) { e.Table, e.Covers = "table-2", 4 }))
	require.Equal(t, 4, same.Tables[1].Covers)
	one := asSaid(t, b, s, guests("table-2", 1))
	require.Equal(t, 1, sum(plates(b, one, kitchen.Main)["table-2"]))
}

// A table's courses move with it from three minutes on; what follows only from what it was sent moves nothing.
func TestATableThatComesLater(t *testing.T) {
	b, s := booking(t)
	booked := s.Tables[0].SeatedAt
	seated := func(minute int) service.Event {
		at := s.At(minute, b.Zone())
		return service.Event{ID: "seated-1", Kind: service.Seated, At: at, ReceivedAt: at, Facts: service.Facts{Table: "table-1", Covers: 2}}
	}
	require.Same(t, s, asSaid(t, b, s, seated(booked+2)))
	require.Equal(t, booked+3, asSaid(t, b, s, seated(booked+3)).Tables[0].SeatedAt)
	require.Equal(t, booked-5, asSaid(t, b, s, seated(booked-5)).Tables[0].SeatedAt)
	sent := service.Event{ID: "sent-first", Kind: service.Sent, At: s.At(booked+25, b.Zone()), ReceivedAt: s.At(booked+25, b.Zone()),
		Facts: service.Facts{Table: "table-1", Course: kitchen.First}}
	require.Same(t, s, asSaid(t, b, s, sent))
}

func TestTablesThatSitTogether(t *testing.T) {
	b, s := booking(t)
	joined := tap(20, service.Joined, func(e *service.Event) { e.Table, e.With = "table-2", "table-1" })
	is := asSaid(t, b, s, joined)
	require.Equal(t, s.Tables[0].SeatedAt, is.Tables[1].SeatedAt)
	require.NotEqual(t, s.Tables[1].SeatedAt, is.Tables[1].SeatedAt)
	back := tap(21, service.Undone, func(e *service.Event) { e.Undoes = joined.ID })
	require.Same(t, s, asSaid(t, b, s, joined, back))
	nobody := tap(20, service.Joined, func(e *service.Event) { e.Table, e.With = "table-2", "table-99" })
	require.Same(t, s, asSaid(t, b, s, nobody))
}

// What a service has not is refused where it is said, with its place; where it was kept, it is passed over, and the rest counts.
func TestWhatAServiceHasNot(t *testing.T) {
	b, s := booking(t)
	state := service.Fold(nil)
	check := func(e service.Event) string {
		if err := service.CheckSaid(b, s, state, &e); err != nil {
			return err.Error()
		}
		return ""
	}
	good := ordered(40, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 1})
	require.Empty(t, check(good))
	bad := ordered(40, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 1},
		service.PlateOrder{Dish: "roast-swan", Count: 1}, service.PlateOrder{Dish: "charred-leek", Count: 1},
		service.PlateOrder{Dish: "hake-cider-butter", Variant: "without water", Count: 2})
	for _, want := range []string{"plates[1].dish", "roast-swan", "plates[2].dish", "plates[3].variant"} {
		require.Contains(t, check(bad), want)
	}
	require.NotContains(t, check(bad), "plates[0]")
	is := asSaid(t, b, s, bad)
	require.Equal(t, map[string]int{"hake-cider-butter": 3}, plates(b, is, kitchen.Main)["table-4"])
	named := ordered(40, "Table 4!", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 1})
	require.Contains(t, check(named), "table")
	require.Contains(t, check(tap(1, service.Joined, func(e *service.Event) { e.Table, e.With = "table-4", "table-40" })), "with")
	require.Empty(t, check(tap(1, service.Joined, func(e *service.Event) { e.Table, e.With = "table-4", "table-5" })))
	require.Error(t, new(tap(1, service.Joined, func(e *service.Event) { e.Table, e.With = "table-4", "table-4" })).Check(), "with itself")
}
