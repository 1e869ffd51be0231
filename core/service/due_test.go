package service_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// In a called service a section sees minutes from the call until it comes, and the clock after it; the pass sees when to call.
func TestMinutesFromTheCall(t *testing.T) {
	p := mainAtSeven(func(p *service.Plan) { p.Runs[0].OnCall, p.Runs[1].OnCall = true, true })
	line := func(d *service.DueView, task string) service.DueLine {
		for _, s := range d.Sections {
			for _, list := range [][]service.DueLine{s.Now, s.On, s.Next, s.Then} {
				for _, l := range list {
					if l.Task == task {
						return l
					}
				}
			}
		}
		t.Fatalf("no line %s", task)
		return service.DueLine{}
	}
	for _, minute := range []float64{30, 45} {
		d := dueAt(minute, p)
		require.Equal(t, at(50), *d.Joins[0].CallAt)
		require.Equal(t, int64(0), *line(d, "hake").AwayS)
		require.Equal(t, int64(120), *line(d, "leek").AwayS)
	}
	d := dueAt(45, p, tap(44, service.Called, course("t7", kitchen.Main)))
	require.Nil(t, d.Joins[0].CallAt)
	require.Nil(t, line(d, "leek").AwayS)
	timed := dueAt(45, mainAtSeven(nil))
	require.Nil(t, timed.Joins[0].CallAt)
	require.Nil(t, line(timed, "leek").AwayS)
}

// Where a section says nothing at all, what asks for its check is taken as planned after ten minutes; where it taps, it goes on asking.
func TestWhatAsksIsNotAskedForEver(t *testing.T) {
	p := mainAtSeven(nil)
	require.Equal(t, service.Asks, standings(dueAt(66, p))["hake"])
	require.NotContains(t, standings(dueAt(66.1, p)), "hake")
	fired := tap(50, service.Fired, task("hake", main7))
	require.Equal(t, service.Asks, standings(dueAt(75, p, fired))["hake"])
}

// A thermometer says when something is ready, sooner than planned or later; asked for more minutes it is ready no sooner than those.
func TestAThermometerKnowsBetter(t *testing.T) {
	p := mainAtSeven(nil)
	fired := tap(50, service.Fired, task("hake", main7))
	probe := func(minute, until, core float64) service.Event {
		return tap(minute, service.Probe, func(e *service.Event) {
			task("hake", main7)(e)
			u := at(until)
			e.Celsius, e.Until = &core, &u
		})
	}
	on := func(d *service.DueView) service.DueLine {
		require.NotEmpty(t, d.Sections[0].On)
		return d.Sections[0].On[0]
	}
	require.Equal(t, at(54), on(dueAt(52, p, fired, probe(51, 54, 30))).DoneAt)
	late := dueAt(52, p, fired, probe(51, 54, 30), probe(51.5, 59, 31))
	require.Equal(t, at(59), on(late).DoneAt, "the last word counts")
	require.InDelta(t, 31, *on(late).CoreC, 0)
	require.Equal(t, at(62), late.Joins[0].Forecast, "two minutes over what the plan has, behind a minute of slack")
	more := tap(52, service.More, func(e *service.Event) { task("hake")(e); e.Minutes = 9 })
	require.Equal(t, at(61), on(dueAt(53, p, fired, probe(51, 59, 31), more)).DoneAt)
	require.Equal(t, service.Asks, standings(dueAt(60, p, fired, probe(51, 59, 31)))["hake"], "somebody has to look")
	ready := tap(58, service.Ready, task("hake", main7))
	s := service.Fold([]service.Event{tap(0, service.Opened, nil), fired, probe(51, 59, 31), ready, probe(58.5, 59, 52)})
	require.Len(t, s.Settle, 1, "what is off the heat is not measured any more")
	require.Error(t, new(tap(1, service.Probe, task("hake"))).Check())
}

// One table's main at 19:00: hake from 18:50 to 18:56 at fish with a minute's slack, its core measured; leeks from 18:52 to 18:57 at
// garnish.
func mainAtSeven(change func(p *service.Plan)) *service.Plan {
	p := &service.Plan{Number: 3, Joins: []service.PlanJoin{{TableCourse: main7, Name: "Table 7", Plates: 2, At: at(60), WantedAt: at(60)}},
		Runs: []service.PlanRun{
			{Task: "hake", Component: "hake", Section: "fish", Joins: []service.TableCourse{main7}, From: at(50), To: at(56), Slack: time.Minute,
				Asks: true},
			{Task: "leek", Component: "leek", Section: "garnish", Joins: []service.TableCourse{main7}, From: at(52), To: at(57)}}}
	if change != nil {
		change(p)
	}
	return p
}

func standings(d *service.DueView) map[string]service.Standing {
	out := map[string]service.Standing{}
	for _, s := range d.Sections {
		for _, list := range [][]service.DueLine{s.Now, s.On, s.Next} {
			for _, l := range list {
				out[l.Task] = l.Standing
			}
		}
	}
	return out
}

func dueAt(minute float64, p *service.Plan, events ...service.Event) *service.DueView {
	return service.DueAt(service.Fold(append([]service.Event{tap(0, service.Opened, nil)}, events...)), p, at(minute))
}

// Nobody taps: all goes by the clock, but for what has a check that matters.
func TestSilenceMeansAsPlanned(t *testing.T) {
	p := mainAtSeven(nil)
	require.Empty(t, standings(dueAt(39.9, p)), "more than ten minutes ahead")
	require.Equal(t, map[string]service.Standing{"hake": service.Coming}, standings(dueAt(40, p)))
	require.Equal(t, service.Coming, standings(dueAt(48.9, p))["hake"])
	require.Equal(t, service.DueNow, standings(dueAt(49, p))["hake"])
	d := dueAt(53, p)
	require.Equal(t, map[string]service.Standing{"hake": service.IsOn, "leek": service.IsOn}, standings(d))
	require.True(t, d.Sections[0].On[0].Assumed)
	require.Equal(t, at(60), d.Joins[0].Forecast)
	d = dueAt(58, p)
	require.Equal(t, map[string]service.Standing{"hake": service.Asks}, standings(d),
		"the leek is taken as done; of the hake somebody has to know")
	require.Equal(t, 1, d.Joins[0].Done)
	require.Equal(t, 2, d.Joins[0].Of)
	// At 18:58 it is two minutes over its time, of which one is slack.
	require.Equal(t, at(61), d.Joins[0].Forecast)
	require.Equal(t, "hake", d.Joins[0].WaitsFor[0].Task)
}

// A section that taps is not taken to have done what it did not say: after twenty seconds it is overdue, and the join waits for it.
func TestWhereASectionTaps(t *testing.T) {
	p := mainAtSeven(func(p *service.Plan) {
		p.Runs = append(p.Runs, service.PlanRun{Task: "before", Component: "leek", Section: "garnish", From: at(30), To: at(31)})
	})
	before := tap(30, service.Fired, task("before"))
	require.Equal(t, service.DueNow, standings(dueAt(52.33, p, before))["leek"])
	d := dueAt(52.5, p, before)
	require.Equal(t, service.Overdue, standings(d)["leek"])
	require.Equal(t, at(60.5), d.Joins[0].Forecast)
	require.Equal(t, service.IsOn, standings(d)["hake"], "fish has not tapped")
	require.NotContains(t, standings(dueAt(60.01, p, before)), "leek", "half an hour without a word: the clock stands in, and it is done")
	fired := tap(53, service.Fired, task("leek", main7))
	d = dueAt(54, p, before, fired)
	require.Equal(t, service.IsOn, standings(d)["leek"])
	require.Equal(t, at(61), d.Joins[0].Forecast, "it began a minute late")
}

// More minutes, made again, sent: each moves the forecast as it should.
func TestForecasts(t *testing.T) {
	p := mainAtSeven(nil)
	fired := tap(50, service.Fired, task("hake", main7))
	more := tap(55, service.More, func(e *service.Event) { task("hake")(e); e.Minutes = 4 })
	d := dueAt(55, p, fired, more)
	require.Equal(t, at(62), d.Joins[0].Forecast, "59 instead of 56, with a minute's slack")
	require.Equal(t, service.Asks, standings(dueAt(59, p, fired, more))["hake"])
	ready := tap(58, service.Ready, task("hake"))
	d = dueAt(58, p, fired, more, ready)
	require.Equal(t, at(60), d.Joins[0].Forecast)
	require.Equal(t, 2, d.Joins[0].Done)
	again := tap(58.5, service.Again, func(e *service.Event) { task("hake", main7)(e); e.Portions, e.Why = 2, "dropped" })
	d = dueAt(59, p, fired, more, ready, again)
	require.Equal(t, service.Overdue, standings(d)["hake"])
	require.Equal(t, at(68), d.Joins[0].Forecast, "six minutes from 59, nine after 56, one of them slack")
	sent := tap(70, service.Sent, course("t7", kitchen.Main))
	d = dueAt(71, p, fired, more, ready, again, sent)
	require.Equal(t, "sent", d.Joins[0].Standing)
	require.Equal(t, at(70), d.Joins[0].Forecast)
	require.Equal(t, 2, d.Joins[0].Done)
	require.Empty(t, standings(d))
}

// What is not to begin before the call waits for it; a course that is held, or left out, fires nothing.
func TestBeforeTheCall(t *testing.T) {
	p := mainAtSeven(func(p *service.Plan) { p.Runs[0].OnCall = true })
	d := dueAt(51, p)
	require.Equal(t, map[string]service.Standing{"leek": service.DueNow}, standings(d))
	require.Equal(t, 1, d.Sections[0].Later)
	require.Equal(t, at(60), d.Joins[0].Forecast, "51 is within its slack")
	require.Equal(t, at(61), dueAt(52, p).Joins[0].Forecast)
	called := tap(52, service.Called, course("t7", kitchen.Main))
	require.Equal(t, service.IsOn, standings(dueAt(52, p, called))["hake"])
	held := tap(52.5, service.Held, course("t7", kitchen.Main))
	require.NotContains(t, standings(dueAt(53, p, called, held)), "hake")
	require.Equal(t, "held", dueAt(53, p, called, held).Joins[0].Standing)
	skipped := tap(40, service.Skipped, course("t7", kitchen.Main))
	d = dueAt(53, p, skipped)
	require.Equal(t, "skipped", d.Joins[0].Standing)
	require.Empty(t, standings(d))
}

// A service that is not open has nothing due.
func TestNothingIsDueBeforeItOpens(t *testing.T) {
	d := service.DueAt(service.Fold(nil), mainAtSeven(nil), at(53))
	require.Empty(t, standings(d))
	require.Equal(t, 1, d.Sections[0].Later)
}

// Where the pass says nothing, what is done has left as planned; once it says what leaves, what comes later waits for its word.
func TestWhatLeavesUnsaid(t *testing.T) {
	p := mainAtSeven(func(p *service.Plan) { p.Runs[0].Asks = false })
	require.Equal(t, "planned", dueAt(59.9, p).Joins[0].Standing)
	d := dueAt(60, p)
	require.Equal(t, "sent", d.Joins[0].Standing)
	require.True(t, d.Joins[0].Assumed)
	other := func(minute float64) service.Event { return tap(minute, service.Sent, course("t8", kitchen.First)) }
	require.Equal(t, "planned", dueAt(60, p, other(50)).Joins[0].Standing, "it says so of others")
	require.Equal(t, "sent", dueAt(63, p, other(61)).Joins[0].Standing, "it began to say so later")
	require.Equal(t, "sent", dueAt(80.1, p, other(50)).Joins[0].Standing, "it has long said nothing")
	require.Equal(t, "planned", dueAt(58, mainAtSeven(nil)).Joins[0].Standing)
	require.Equal(t, "planned", dueAt(62, mainAtSeven(nil)).Joins[0].Standing, "of the hake nobody knows")
}
