package expand_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
	"jointime/demo"
)

var copenhagen, _ = time.LoadLocation("Europe/Copenhagen")

func at(day, hour, minute int) time.Time {
	return time.Date(2026, 5, day, hour, minute, 0, 0, copenhagen)
}

// st is a step made ahead: name, minutes, hands, and the longest wait before it in hours
// (0 for none).
func st(name string, minutes int, hands kitchen.Hands, longest int) kitchen.Step {
	s := kitchen.Step{ID: name, Name: name, Phase: kitchen.Ahead, Hands: hands, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60 * minutes)}}
	if longest > 0 {
		v := longest * 3600
		s.After = []kitchen.Predecessor{{Wait: kitchen.Wait{Longest: &v}}}
	}
	return s
}

// prepOf plans one component for one table of ten at 19:00 on Thursday the 14th. The one
// cook is there from 10:00 to 23:00, and in service from 19:00 to 20:45 of that day.
func prepOf(t require.TestingT, now time.Time, done map[string]expand.Done, shelfH float64, steps ...kitchen.Step) (*expand.Prep,
	*expand.PrepPlan) {
	for i := range steps {
		if i > 0 {
			if len(steps[i].After) == 0 {
				steps[i].After = []kitchen.Predecessor{{}}
			}
			steps[i].After[0].Step = steps[i-1].ID
		}
	}
	d := expand.OneDish("Europe/Copenhagen", shelfH, steps)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	p, err := expand.NewPrep(b, b.Services(), now, done, nil)
	require.NoError(t, err)
	s := schedule.Solve(context.Background(), p.Workload, schedule.Options{Seed: 1, Rounds: 2000, Anyway: true})
	if s.Status == workload.BestEffort {
		return p, p.Read(s) // what has happened may break a rule
	}
	broken, err := verify.Check(p.Workload, s)
	require.NoError(t, err)
	require.Empty(t, broken)
	return p, p.Read(s)
}

// inHours reports whether a step that takes hands lies in the cook's hours.
func inHours(t require.TestingT, plan *expand.PrepPlan) {
	for _, j := range plan.Jobs {
		for _, s := range j.Steps {
			if s.Hands == kitchen.None || s.Done {
				continue
			}
			from, to := s.StartAt, s.FinishAt
			day := time.Date(from.Year(), from.Month(), from.Day(), 0, 0, 0, 0, copenhagen)
			require.False(t, from.Before(day.Add(10*time.Hour)), "%s at %s", s.Name, from)
			require.False(t, to.After(day.Add(23*time.Hour)), "%s until %s", s.Name, to)
			if day.Day() == 14 {
				require.False(t, from.Before(at(14, 20, 45)) && to.After(at(14, 19, 0)), "%s in service, %s", s.Name, from)
			}
		}
	}
}

// A cure with a turn, by hand. Needed at 19:00 on Thursday. Rinsing (15 min) begins by
// 18:45; the second side (18 h) by 00:45 of that day; at that hour nobody is there, so the
// turn (12 min) is done by 23:00 on Wednesday, begun 22:48; the first side (18 h) by 04:48
// on Wednesday; burying (20 min) ends by 23:00 on Tuesday, begun 22:40.
func TestACureWithATurn(t *testing.T) {
	steps := []kitchen.Step{st("bury", 20, kitchen.Both, 0), st("first", 18*60, kitchen.None, 1), st("turn", 12, kitchen.Both, 6),
		st("second", 18*60, kitchen.None, 1), st("rinse", 15, kitchen.Both, 22)}
	p, plan := prepOf(t, at(11, 10, 0), nil, 120, steps...)
	require.Equal(t, at(12, 22, 40), p.StartBy[0])
	require.Empty(t, plan.Trouble)
	inHours(t, plan)
	require.False(t, plan.Jobs[0].ReadyAt.After(at(14, 18, 30)), "half an hour before the service")
	// On Wednesday at ten it is too late: 36 h and two nights. Bury 10:00–10:20, first side
	// to 04:20, the turn at 10:00 of Thursday, second side 10:12 to 04:12 of Friday, rinsed at
	// 10:00–10:15.
	p, plan = prepOf(t, at(13, 10, 0), nil, 120, steps...)
	require.Equal(t, at(15, 10, 15), p.EarliestReady[0])
	require.Equal(t, "forgotten", plan.Trouble[0].Kind)
	require.Contains(t, plan.Trouble[0].Said.Text,
		"should have been begun by Tue 22:40; begun now it is ready on Fri 10:15, 15 h 15 after it is needed")
	require.Equal(t, "forgotten", plan.Jobs[0].State)
	inHours(t, plan)
}

// A soaked pulse, by hand: dressed (6 min) from 18:54, simmered (30 min) from 18:24, soaked
// (9 h) from 09:24: the night before is not needed, but nobody has to be awake for it.
func TestASoakedPulse(t *testing.T) {
	p, plan := prepOf(t, at(13, 12, 0), nil, 48, st("soak", 540, kitchen.None, 0), st("simmer", 30, kitchen.Tend, 8),
		st("dress", 6, kitchen.Both, 1))
	require.Equal(t, at(14, 9, 24), p.StartBy[0])
	require.Empty(t, plan.Trouble)
	inHours(t, plan)
}

// A two-day braise: browned, braised 110 min, pressed within 4 h while somebody is there,
// set for 8 h. By hand: set from 11:00 on Thursday; pressed (35 min) from 10:25; the braise
// would end in the night and wait too long, so the plan presses on Wednesday.
func TestATwoDayBraise(t *testing.T) {
	p, plan := prepOf(t, at(13, 11, 0), nil, 72, st("brown", 20, kitchen.Both, 0), st("braise", 110, kitchen.None, 1),
		st("press", 35, kitchen.Both, 4), st("set", 480, kitchen.None, 1))
	require.Equal(t, at(13, 22, 40), p.StartBy[0], "by the calendar alone")
	require.Empty(t, plan.Trouble)
	inHours(t, plan)
	press := plan.Jobs[0].Steps[2]
	require.Equal(t, 13, press.StartAt.Day())
	require.LessOrEqual(t, press.StartAt.Sub(plan.Jobs[0].Steps[1].FinishAt), 4*time.Hour)
}

// A frozen base, by hand: hardened (3 h) from 16:00, churned (25 min, tended) from 15:35,
// rested (8 h) from 07:35, mixed (12 min) by 23:00 of the day before, begun 22:48.
func TestAFrozenBase(t *testing.T) {
	p, plan := prepOf(t, at(13, 11, 0), nil, 72, st("mix", 12, kitchen.Both, 0), st("rest", 480, kitchen.None, 1),
		st("churn", 25, kitchen.Tend, 24), st("harden", 180, kitchen.None, 1))
	require.Equal(t, at(13, 22, 48), p.StartBy[0])
	require.Empty(t, plan.Trouble)
	inHours(t, plan)
}

// What is ticked stays where it was; what nobody stands at goes on by itself from there.
// By hand. A braise of 8 h by itself in the oven that the service wants to order: needed at
// 19:00, ready by 18:30; it cannot stand in the oven between 19:00 and 20:45, so it goes in
// by 10:30 of that day, or before the night; the cook who sets it in is there from 10:00.
// One that was begun before goes on through the service: what has happened has happened.
func TestTheOvenIsKeptForTheService(t *testing.T) {
	braise := st("braise", 8*60, kitchen.None, 0)
	braise.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1}
	crisp := kitchen.Step{ID: "crisp", Name: "crisp", Phase: kitchen.PickUp, Hands: kitchen.None,
		Equipment: &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1}, Time: kitchen.StepTime{Fixed: kitchen.Exactly(300)}}
	overlaps := func(plan *expand.PrepPlan) bool {
		for _, s := range plan.Jobs[0].Steps {
			if len(s.On) > 0 && s.StartAt.Before(at(14, 20, 45)) && s.FinishAt.After(at(14, 19, 0)) {
				return true
			}
		}
		return false
	}
	for hour := range 16 {
		_, plan := prepOf(t, at(14, 4+hour, 0), nil, 48, st("brown", 15, kitchen.Both, 0), braise, crisp)
		require.False(t, overlaps(plan), "now is %d:00", 4+hour)
	}
	_, plan := prepOf(t, at(14, 12, 0), map[string]expand.Done{expand.TaskID("c/s/1", "brown", 1): {At: at(14, 11, 30)}}, 48,
		st("brown", 15, kitchen.Both, 0), braise, crisp)
	require.True(t, plan.Jobs[0].Steps[1].Begun)
	require.True(t, overlaps(plan))
}

func TestTickedStepsAreFixed(t *testing.T) {
	steps := []kitchen.Step{st("bury", 20, kitchen.Both, 0), st("first", 18*60, kitchen.None, 1), st("turn", 12, kitchen.Both, 6)}
	done := map[string]expand.Done{"c/s/1#bury": {At: at(13, 12, 0)}}
	_, plan := prepOf(t, at(13, 18, 0), done, 120, steps...)
	j := plan.Jobs[0]
	require.Equal(t, "begun", j.State)
	require.True(t, j.Steps[0].Done)
	require.True(t, j.Steps[0].FinishAt.Equal(at(13, 12, 0)))
	require.True(t, j.Steps[1].Begun)
	require.True(t, j.Steps[1].StartAt.Equal(at(13, 12, 0)))
	require.True(t, j.Steps[2].StartAt.After(at(14, 10, 0).Add(-time.Second)))
	gave := 400.0
	done["c/s/1#turn"] = expand.Done{Batch: "c/s/1", At: at(14, 10, 30), Amount: &gave}
	_, plan = prepOf(t, at(14, 11, 0), done, 120, steps...)
	require.Equal(t, "done", plan.Jobs[0].State)
	require.Equal(t, 400.0, plan.Jobs[0].Amount)
	require.Equal(t, []expand.Gate{{Service: "S", Section: "stove", Ready: 1, Of: 1}}, plan.Gates)
}

// In the night of the 25th of October 2026 clocks go back from 3:00 to 2:00: hours by the
// clock on the wall stay where they are, and the night is an hour longer.
func TestTheNightOfChangingClocks(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = demo.Services(time.Date(2026, 10, 24, 0, 0, 0, 0, copenhagen))
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	p, err := expand.NewPrep(b, b.Services()[1:], time.Date(2026, 10, 23, 10, 0, 0, 0, copenhagen), nil, nil)
	require.NoError(t, err)
	// Midnight to ten by the clock on the wall of the 25th lasts eleven hours.
	midnight := int64(time.Date(2026, 10, 25, 0, 0, 0, 0, copenhagen).Sub(p.Origin) / time.Second)
	found := false
	for _, r := range p.Workload.Resources {
		for _, w := range r.Windows {
			found = found || r.ID == "person/ada" && w.From == midnight+11*3600
			require.NotEqual(t, midnight+10*3600, w.From, "nobody begins an hour early")
		}
	}
	require.True(t, found)
}

// Whatever is asked for: hands-on steps lie in working hours, waits are kept or named, and
// the judge accepts the schedule.
func TestPrepPlansKeepTheHours(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var steps []kitchen.Step
		for i := range rapid.IntRange(1, 5).Draw(t, "steps") {
			hands := rapid.SampledFrom([]kitchen.Hands{kitchen.Both, kitchen.Tend, kitchen.None}).Draw(t, "hands")
			most := 120
			if hands == kitchen.None {
				most = 20 * 60
			}
			steps = append(steps, st(fmt.Sprint("s", i), rapid.IntRange(1, most).Draw(t, "minutes"), hands,
				rapid.IntRange(0, 20).Draw(t, "longest")))
		}
		steps[0].After = nil
		p, plan := prepOf(t, at(rapid.IntRange(9, 14).Draw(t, "day"), rapid.IntRange(0, 18).Draw(t, "hour"), 0), nil,
			float64(rapid.IntRange(3, 100).Draw(t, "shelf")), steps...)
		inHours(t, plan)
		require.Len(t, plan.Jobs, 1)
		if j := plan.Jobs[0]; j.ReadyAt.After(j.NeedBy) {
			require.NotEmpty(t, plan.Trouble)
		} else {
			require.False(t, p.EarliestReady[0].After(j.NeedBy))
		}
		require.False(t, plan.Jobs[0].ReadyAt.Before(p.EarliestReady[0]), "nothing is quicker than its steps")
	})
}

// A weekend of three services and 120 covers over the demo's 39 components.
func BenchmarkPrepWeekend(b *testing.B) {
	d, err := demo.Kitchen()
	require.NoError(b, err)
	d.Services = demo.Services(at(14, 0, 0))
	third := d.Services[0]
	third.ID, third.Name, third.Date, third.Tables = "third", "Third", "2026-05-16", third.Tables[:5]
	d.Services = append(d.Services, third)
	book, err := kitchen.NewBook(d)
	require.NoError(b, err)
	for b.Loop() {
		p, err := expand.NewPrep(book, book.Services(), at(12, 8, 0), nil, nil)
		require.NoError(b, err)
		s := schedule.Solve(context.Background(), p.Workload, schedule.Options{Seed: 1, Rounds: 3000, Anyway: true})
		b.ReportMetric(float64(*s.Cost), "cost")
		b.ReportMetric(float64(len(p.Workload.Tasks)), "tasks")
	}
}

// Worked by hand: two tables of two, a main of one component that roasts 10 min in an oven
// with room for one tray and then rests 2 to 5 min, then a dessert of another that warms
// 4 min in the same oven. One cook plates, 5 s a plate: plating takes 10 s for a table.
// Both are seated at 18:30 and eat their main at 18:50, their dessert at 19:10. The oven
// can serve only one table at a time: the roast for 18:50 goes in at 18:50 − 10 s − rest
// (2 min at least) − 10 min; the other table's roast comes right before or after it, so
// that a wait of at most 5 min keeps one of them off its time, sooner or later.
// With the second table seated 12 min later everything stands: fired at 18:37:50 and
// 18:49:50, and the desserts at 19:05:50 and 19:17:50.
func TestTwoTablesTwoCoursesOneOven(t *testing.T) {
	best, most := 120, 300
	cook := func(id string, minutes int, rest kitchen.Wait) kitchen.Component {
		return kitchen.Component{ID: id, Name: id, Section: "stove", Unit: kitchen.Pieces, GramsPerUnit: 100, DensityGPerMl: 1, Hold: rest,
			Steps: []kitchen.Step{{ID: "oven", Name: "Oven", Phase: kitchen.PickUp, Hands: kitchen.None,
				Equipment: &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1}, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60 * minutes)}}}}
	}
	dish := func(id, component string, c kitchen.Course) kitchen.Dish {
		return kitchen.Dish{ID: id, Name: id, Course: c, State: kitchen.CurrentDish, Specification: kitchen.Specification{Vessel: "plate-270",
			VesselTemp: "hot",
			Elements:   []kitchen.Element{{Component: component, Amount: 1, Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Seconds: 5, Hands: 1}}}}
	}
	zero, minute := 0, 60
	plan := func(second int) *expand.EveningPlan {
		d := kitchen.Starter("K", "Europe/Copenhagen", kitchen.CodeUKEU)
		d.Equipment[0].Capacity, d.Equipment[0].Thermostat = 1, nil
		d.Components = []kitchen.Component{cook("roast", 10, kitchen.Wait{Shortest: 120, Best: &best, Longest: &most}),
			cook("pie", 4, kitchen.Wait{Best: &zero, Longest: &minute})}
		d.Dishes = []kitchen.Dish{dish("main", "roast", kitchen.Main), dish("sweet", "pie", kitchen.Dessert)}
		table := func(id string, seated int) kitchen.ServiceTable {
			return kitchen.ServiceTable{ID: id, Name: id, Covers: 2, SeatedAt: seated}
		}
		d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, FirstAfterMin: 20,
			CourseMin: 20,
			Menu:      []kitchen.MenuLine{{Dish: "main", Share: 100}, {Dish: "sweet", Share: 100}},
			Tables:    []kitchen.ServiceTable{table("a", 18*60+30), table("b", second)}}}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		e, err := expand.NewEvening(b, &b.Services()[0], false)
		require.NoError(t, err)
		s := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: 3000})
		broken, err := verify.Check(e.Workload, s)
		require.NoError(t, err)
		require.Empty(t, broken)
		return e.Read(s)
	}
	apart := plan(18*60 + 42)
	fired := map[string]string{}
	for _, f := range apart.Fires {
		fired[f.Join] = f.At.Format("15:04:05")
	}
	require.Equal(t, map[string]string{"a/main": "18:37:50", "b/main": "18:49:50", "a/dessert": "19:05:50", "b/dessert": "19:17:50"}, fired)
	require.Empty(t, apart.Trouble)
	for _, l := range apart.Loads {
		require.LessOrEqual(t, l.Peak, l.Capacity)
	}
	together := plan(18*60 + 30)
	late := int64(0)
	for _, j := range together.Joins {
		late += max(j.LateS, -j.LateS)
	}
	require.Greater(t, late, int64(60), "one oven cannot serve both in one minute")
}
