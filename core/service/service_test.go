package service_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/core/service"
)

var six = time.Date(2026, 5, 15, 18, 0, 0, 0, time.UTC)

func at(minute float64) time.Time { return six.Add(time.Duration(minute * float64(time.Minute))) }

// tap is an event so many minutes after six.
func tap(minute float64, kind service.Kind, change func(e *service.Event)) service.Event {
	e := service.Event{ID: fmt.Sprintf("%s-%g", kind, minute), Kind: kind, At: at(minute), ReceivedAt: at(minute), Device: "tablet"}
	if change != nil {
		change(&e)
	}
	return e
}

func course(table string, c kitchen.Course) func(e *service.Event) {
	return func(e *service.Event) { e.Table, e.Course = table, c }
}

func task(id string, joins ...service.TableCourse) func(e *service.Event) {
	return func(e *service.Event) { e.Task, e.Component, e.Section, e.Joins = id, "hake", "fish", joins }
}

var main7 = service.TableCourse{Table: "t7", Course: kitchen.Main}

// An hour of a service by hand: what stands at its end.
func TestAPlayedTable(t *testing.T) {
	log := []service.Event{
		tap(0, service.Opened, nil),
		tap(10, service.Seated, func(e *service.Event) { e.Table, e.Name, e.Covers = "t7", "Table 7", 2 }),
		tap(12, service.Ordered, func(e *service.Event) {
			course("t7", kitchen.Main)(e)
			e.Plates = []service.PlateOrder{{Dish: "hake", Count: 2}}
		}),
		tap(30, service.Called, course("t7", kitchen.Main)),
		tap(31, service.Fired, task("hake-1", main7)),
		tap(34, service.More, func(e *service.Event) { task("hake-1")(e); e.Minutes = 2 }),
		tap(37, service.Ready, func(e *service.Event) { task("hake-1")(e); c := 48.0; e.Celsius = &c }),
		tap(39, service.Sent, course("t7", kitchen.Main)),
	}
	s := service.Fold(log)
	require.Empty(t, s.Settle)
	require.Equal(t, service.Open, s.Phase)
	require.Equal(t, "Table 7", s.Table("t7").Name)
	c := s.Course(main7)
	require.Equal(t, at(39), c.Sent.At)
	require.True(t, c.Plated.Implied, "nobody said that it was on the plates")
	r := s.Run("hake-1")
	require.Equal(t, at(31), r.Fired.At)
	require.False(t, r.Ready.Implied)
	require.Nil(t, r.NotBefore, "it was ready")
	require.InDelta(t, 48, *r.Celsius, 0)
	require.Equal(t, "hake", r.Component)
}

// What nobody tapped follows from what came later; what was tapped stays as it was.
func TestALaterTapImpliesTheEarlier(t *testing.T) {
	log := []service.Event{tap(0, service.Opened, nil),
		tap(1, service.More, func(e *service.Event) { task("a", main7)(e); e.Minutes = 3 }),
		tap(2, service.Ready, task("b", main7)),
		tap(3, service.Sent, course("t7", kitchen.Main))}
	s := service.Fold(log)
	require.Empty(t, s.Settle)
	a, b := s.Run("a"), s.Run("b")
	require.True(t, a.Fired.Implied)
	require.True(t, a.Ready.Implied)
	require.Equal(t, at(3), a.Ready.At)
	require.True(t, b.Fired.Implied)
	require.False(t, b.Ready.Implied)
}

// The rules, both sides: each event after the same beginning, and the sentence with which it is refused.
func TestRules(t *testing.T) {
	begin := []service.Event{tap(0, service.Opened, nil),
		tap(1, service.Seated, func(e *service.Event) { e.Table, e.Name, e.Covers = "t7", "Table 7", 2 }),
		tap(2, service.Called, course("t7", kitchen.First)), tap(3, service.Sent, course("t7", kitchen.First)),
		tap(4, service.Called, course("t7", kitchen.Main)), tap(5, service.Fired, task("a", main7)), tap(6, service.Ready, task("b", main7)),
		tap(7, service.Held, course("t8", kitchen.Main)), tap(8, service.Off, func(e *service.Event) { e.Dish = "hake" }),
		tap(9, service.Out, func(e *service.Event) { e.Who = "ines" })}
	for _, x := range []struct {
		name, want string
		e          service.Event
	}{
		{"open twice", "live.open-already", tap(20, service.Opened, nil)},
		{"closed", "", tap(20, service.Closed, nil)},
		{"seated twice", "live.seated-already", tap(20, service.Seated, func(e *service.Event) { e.Table, e.Covers = "t7", 2 })},
		{"another table", "", tap(20, service.Seated, func(e *service.Event) { e.Table, e.Covers = "t9", 2 })},
		{"sent twice", "live.sent-already", tap(20, service.Sent, course("t7", kitchen.First))},
		{"called after it left", "live.sent-already", tap(20, service.Called, course("t7", kitchen.First))},
		{"called twice", "live.called-already", tap(20, service.Called, course("t7", kitchen.Main))},
		{"called for when", "", tap(20, service.Called, func(e *service.Event) { course("t7", kitchen.Main)(e); u := at(40); e.Until = &u })},
		{"called after it was held", "", tap(20, service.Called, course("t8", kitchen.Main))},
		{"held twice", "live.held-already", tap(20, service.Held, course("t8", kitchen.Main))},
		{"fired twice", "live.on-already", tap(20, service.Fired, task("a", main7))},
		{"made again first", "", tap(20, service.Again, func(e *service.Event) { task("a", main7)(e); e.Portions = 1 })},
		{"ready twice", "live.ready-already", tap(20, service.Ready, task("b", main7))},
		{"more of what is ready", "live.ready-already", tap(20, service.More, func(e *service.Event) { task("b", main7)(e); e.Minutes = 1 })},
		{"fired for what has left", "live.sent-already", tap(20, service.Fired,
			task("c", service.TableCourse{Table: "t7", Course: kitchen.First}))},
		{"fired for one that has left and one that has not", "",
			tap(20, service.Fired, task("c", service.TableCourse{Table: "t7", Course: kitchen.First}, main7))},
		{"ordered anew while it cooks", "live.cooked-already", tap(20, service.Ordered, func(e *service.Event) {
			course("t7", kitchen.Main)(e)
			e.Plates = []service.PlateOrder{{Dish: "hake", Count: 1}}
		})},
		{"back before it left", "live.not-sent",
			tap(20, service.SentBack, func(e *service.Event) { course("t7", kitchen.Main)(e); e.Why = "cold" })},
		{"back", "", tap(20, service.SentBack, func(e *service.Event) { course("t7", kitchen.First)(e); e.Why = "cold" })},
		{"on that is not off", "live.on-anyway", tap(20, service.On, func(e *service.Event) { e.Dish = "fowl" })},
		{"on again", "", tap(20, service.On, func(e *service.Event) { e.Dish = "hake" })},
		{"in that is not out", "live.in-anyway", tap(20, service.In, func(e *service.Event) { e.Who = "pim" })},
		{"in again", "", tap(20, service.In, func(e *service.Event) { e.Who = "ines" })},
		{"before it opened", "live.not-open", tap(-1, service.Called, course("t7", kitchen.Main))},
		{"off before it opened", "", tap(-1, service.Off, func(e *service.Event) { e.Dish = "fowl" })},
		{"plan", "", tap(20, service.Told, func(e *service.Event) { e.Plan = 1 })},
		{"plan 0", "live.plan-behind", tap(20, service.Told, nil)},
	} {
		got := ""
		if no := service.Refuses(begin, &x.e, "section"); no != nil {
			got = no.Said.Key
			require.NotEmpty(t, no.Said.Text)
		}
		require.Equal(t, x.want, got, x.name)
		// A tap that was kept is written whatever it says: then it stands to be settled, and changes nothing.
		s := service.Fold(append(append([]service.Event{}, begin...), x.e))
		require.Len(t, s.Settle, map[bool]int{true: 0, false: 1}[x.want == ""], x.name)
	}
	over := append(append([]service.Event{}, begin...), tap(19, service.Closed, nil))
	e := tap(20, service.Called, course("t8", kitchen.Main))
	require.Equal(t, "live.over", service.Refuses(over, &e, "pass").Said.Key)
}

// Whoever made an event takes it back for a minute, the pass always; what later events lean on stays; what was undone did not happen.
func TestUndoing(t *testing.T) {
	log := []service.Event{tap(0, service.Opened, nil), tap(1, service.Fired, task("a", main7)), tap(2, service.Ready, task("a", main7)),
		tap(3, service.Fired, task("b", main7))}
	undo := func(minute float64, what string, device string) service.Event {
		return tap(minute, service.Undone, func(e *service.Event) { e.Undoes, e.Device = what, device })
	}
	for _, x := range []struct {
		e          service.Event
		role, want string
	}{
		{undo(4, "fired-3", "tablet"), "section", ""},
		{undo(4.1, "fired-3", "tablet"), "section", "live.undo-too-late"},
		{undo(3.5, "fired-3", "other"), "section", "live.undo-too-late"},
		{undo(60, "fired-3", "other"), "pass", ""},
		{undo(60, "fired-1", "other"), "chef", "live.undo-leaned-on"},
		{undo(4, "fired-9", "tablet"), "pass", "live.undo-nothing"},
	} {
		got := ""
		if no := service.Refuses(log, &x.e, x.role); no != nil {
			got = no.Said.Key
		}
		require.Equal(t, x.want, got, "%s by %s", x.e.Undoes, x.role)
	}
	back := undo(4, "fired-3", "tablet")
	log = append(log, back)
	require.Nil(t, service.Fold(log).Run("b"))
	again := undo(4.5, "fired-3", "tablet")
	require.Equal(t, "live.undone-already", service.Refuses(log, &again, "pass").Said.Key)
	log = append(log, tap(5, service.Undone, func(e *service.Event) { e.Undoes = back.ID }))
	require.NotNil(t, service.Fold(log).Run("b"), "the undoing was undone")
}

// The time of a tap is never later than it came, and never before what its device said before.
func TestTheTimeOfATap(t *testing.T) {
	log := []service.Event{tap(10, service.Opened, func(e *service.Event) { e.Count = 1 }),
		tap(12, service.Called, func(e *service.Event) { e.Device = "other" })}
	e := tap(9, service.Called, func(e *service.Event) { e.Count = 2 })
	service.Place(&e, log)
	require.Equal(t, at(10), e.At)
	e = tap(20, service.Called, func(e *service.Event) { e.Count, e.ReceivedAt = 2, at(15) })
	service.Place(&e, log)
	require.Equal(t, at(15), e.At)
	e = tap(11, service.Called, func(e *service.Event) { e.Count = 2 })
	service.Place(&e, log)
	require.Equal(t, at(11), e.At, "what another device said does not matter")
}

func TestWhatAnEventMustSay(t *testing.T) {
	for _, k := range service.Kinds() {
		e := service.Event{ID: "12345678", Kind: k, At: six}
		if k == service.Opened || k == service.Closed {
			require.NoError(t, e.Check(), k)
			continue
		}
		require.Error(t, e.Check(), k)
	}
	e := service.Event{ID: "12345678", Kind: service.Called, At: six, Facts: service.Facts{Table: "t7", Course: "pudding"}}
	require.ErrorContains(t, e.Check(), "course")
	e.Course = kitchen.Dessert
	require.NoError(t, e.Check())
	e.At = time.Time{}
	require.ErrorContains(t, e.Check(), "at")
	e = service.Event{ID: "12345678", Kind: "sung", At: six}
	require.ErrorContains(t, e.Check(), "sung")
}

// anyLog draws taps of a short service, as they come, fitting or not.
func anyLog(t *rapid.T) []service.Event {
	kinds := service.Kinds()
	log := []service.Event{tap(0, service.Opened, nil)}
	for i := range rapid.IntRange(0, 40).Draw(t, "taps") {
		e := service.Event{ID: fmt.Sprint("event-", i), Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), ReceivedAt: at(200), Count: int64(i),
			At: at(float64(rapid.IntRange(0, 60).Draw(t, "minute"))), Device: rapid.SampledFrom([]string{"a", "b"}).Draw(t, "device")}
		e.Table, e.Course = rapid.SampledFrom([]string{"t1", "t2"}).Draw(t, "table"), rapid.SampledFrom(kitchen.Courses()[:2]).Draw(t, "course")
		switch e.Kind {
		case service.Fired, service.Ready, service.More, service.Again, service.Taken:
			e.Task, e.Joins = rapid.SampledFrom([]string{"x", "y", "z"}).Draw(t, "task"), []service.TableCourse{{Table: e.Table, Course: e.Course}}
			e.Minutes, e.Portions, e.Who, e.Table, e.Course = 2, 1, "ines", "", ""
		case service.Off, service.On:
			e.Dish, e.Table, e.Course = "hake", "", ""
		case service.Out, service.In:
			e.Who, e.Table, e.Course = "ines", "", ""
		case service.Told:
			e.Plan = int64(rapid.IntRange(1, 5).Draw(t, "plan"))
		case service.Undone:
			e.Undoes = fmt.Sprint("event-", rapid.IntRange(0, 40).Draw(t, "undoes"))
		}
		service.Place(&e, log)
		log = append(log, e)
	}
	return log
}

func stateOf(t require.TestingT, log []service.Event) string {
	b, err := json.Marshal(service.Fold(log))
	require.NoError(t, err)
	return string(b)
}

// The state does not depend on the order in which taps came; any beginning of a log has one; and folding changes nothing of the log.
func TestTheStateIsTheSameInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		log := anyLog(t)
		want := stateOf(t, log)
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		mixed := append([]service.Event{}, log...)
		rng.Shuffle(len(mixed), func(i, k int) { mixed[i], mixed[k] = mixed[k], mixed[i] })
		require.Equal(t, want, stateOf(t, mixed))
		require.Equal(t, want, stateOf(t, log), "again the same")
		for n := range log {
			s := service.Fold(log[:n])
			require.Equal(t, n, s.Events)
			for _, r := range s.Runs {
				require.False(t, r.Ready != nil && r.Fired == nil, "what is ready was on")
			}
			for _, table := range s.Tables {
				for _, c := range table.Courses {
					require.False(t, c.Sent != nil && c.Plated == nil, "what has left was on the plates")
					require.False(t, c.Sent != nil && c.Held != nil)
				}
			}
		}
	})
}

// A tap that is not refused when it is made does not stand to be settled.
func TestWhatIsTakenFits(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var taken []service.Event
		for i, e := range anyLog(t) {
			e.At = at(float64(i)) // connected: each after the other
			if service.Refuses(taken, &e, "pass") == nil {
				taken = append(taken, e)
			}
		}
		require.Empty(t, service.Fold(taken).Settle)
	})
}
