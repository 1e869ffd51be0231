package expand_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
)

// one is a component of one step of four minutes of both hands that may not wait at all.
func one() (kitchen.Component, []kitchen.Element) {
	c := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("sear", kitchen.Both, 240)}}
	return c, []kitchen.Element{{Component: "fish", Seconds: 10}}
}

// Who is away on the day has no hours and does not count among the hands of a section; who is lent to a section counts
// there as well as at home.
func TestAbsentAndLent(t *testing.T) {
	c, es := one()
	d := served([]kitchen.Component{c}, es, table("a", 2, 19*60))
	hands := func() map[string][]string {
		_, _, p := evening(t, d, true)
		out := map[string][]string{}
		for _, h := range p.Hands {
			require.Equal(t, int64(len(h.People)), h.Capacity)
			require.LessOrEqual(t, h.Peak, h.Capacity)
			out[h.Section] = h.People
		}
		return out
	}
	require.Equal(t, map[string][]string{"one": {"A"}, "two": {"B"}, "pass": {"Head", "Sous"}}, hands())
	d.Services[0].Helpers = []kitchen.Helper{{Person: "b", Section: "one"}}
	require.Equal(t, map[string][]string{"one": {"A", "B"}, "two": {"B"}, "pass": {"Head", "Sous"}}, hands())
	d.People[3].Absent = []string{"2026-05-14"}
	require.Equal(t, []string{"Head"}, hands()["pass"])
	d.People[3].Absent = []string{"2026-05-15"}
	require.Equal(t, []string{"Head", "Sous"}, hands()["pass"], "another day is another day")
	d.People[1].Absent, d.Services[0].Helpers = []string{"2026-05-14"}, nil
	require.NotContains(t, hands(), "two", "a section with nobody there is not drawn")
}

// Two tables at once and one cook: one is 240 s late. With the other cook lent there is no lateness; with that cook
// away all day lending changes nothing.
func TestAHelperWhoIsAwayDoesNotHelp(t *testing.T) {
	c, es := one()
	d := served([]kitchen.Component{c}, es, table("a", 1, 19*60), table("b", 1, 19*60))
	late := func() (sum int64) {
		_, _, p := evening(t, d, true)
		for _, j := range p.Joins {
			sum += max(0, j.LateS)
		}
		return sum
	}
	require.Equal(t, int64(240), late())
	d.Services[0].Helpers = []kitchen.Helper{{Person: "b", Section: "one"}}
	require.Zero(t, late())
	d.People[1].Absent = []string{"2026-05-14"}
	require.Equal(t, int64(240), late())
}

// A step of a section goes to its own people first on the list, then to who is lent, each once.
func TestWhoMayDoAStep(t *testing.T) {
	c, es := one()
	d := served([]kitchen.Component{c}, es, table("a", 1, 19*60))
	who := func() []string {
		e, _, _ := evening(t, d, true)
		for _, x := range e.Workload.Tasks {
			if x.Name != "Plating" {
				return x.Needs[0].AnyOf
			}
		}
		return nil
	}
	require.Equal(t, []string{"person/a"}, who())
	d.Services[0].Helpers = []kitchen.Helper{{Person: "head", Section: "one"}, {Person: "a", Section: "one"}, {Person: "b", Section: "two"}}
	require.Equal(t, []string{"person/a", "person/head"}, who())
}

// By hand. The pace is 20 minutes and the first course comes 40 minutes late: its table's main may follow after half a
// pace, ten minutes after the first, and not sooner. Without the late first it would come at its own time.
func TestPaceBetweenCourses(t *testing.T) {
	slow := kitchen.Component{ID: "slow", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("braise", kitchen.Both, 3600)}}
	quick := kitchen.Component{ID: "quick", Section: "two", Hold: kitchen.Wait{Longest: seconds(0)},
		Steps: []kitchen.Step{pick("fry", kitchen.Both, 60)}}
	gaps := func(pace int, slowHours []kitchen.Hours) float64 {
		d := served([]kitchen.Component{slow, quick}, []kitchen.Element{{Component: "quick", Seconds: 10}}, table("a", 1, 19*60))
		first := d.Dishes[0]
		first.ID, first.Name, first.Course = "first", "First", kitchen.First
		first.Specification.Elements = []kitchen.Element{{Component: "slow", Amount: 10, Temp: "hot", Hands: 1, Seconds: 10,
			Form: kitchen.Form{Kind: "pool"}}}
		d.Dishes = append(d.Dishes, first)
		d.Services[0].CourseMin = pace
		d.Services[0].Menu = append(d.Services[0].Menu, kitchen.MenuLine{Dish: "first", Share: 100})
		d.People[0].Hours = slowHours
		_, _, p := evening(t, d, true)
		require.Len(t, p.Joins, 2)
		return p.Joins[1].At.Sub(p.Joins[0].At).Minutes()
	}
	var late []kitchen.Hours
	for day := range 7 {
		late = append(late, kitchen.Hours{Day: day, From: 18*60 + 40, To: 1440}) // the braise is ready at 19:40
	}
	require.InDelta(t, 20, gaps(20, always()), 0.01, "in time the pace is kept whole")
	require.InDelta(t, 10, gaps(20, late), 0.2, "a late first is followed after half a pace")
	require.InDelta(t, 15, gaps(30, late), 0.2)
}

// A hold is passed when it is more than its grace over: at the grace it is not said.
func TestTheGraceOfAHold(t *testing.T) {
	p := &expand.EveningPlan{Joins: []expand.EveningJoin{{ID: "a", Table: "a", OverS: expand.HoldGraceS},
		{ID: "b", Table: "b", OverS: expand.HoldGraceS + 1}}}
	p.Stand()
	require.NotEqual(t, expand.Late, p.Joins[0].Standing)
	require.Equal(t, expand.Late, p.Joins[1].Standing)
}

// The equipment of a kind that reaches a heat, with the room of the largest; a colder one is left out.
func TestWhichOven(t *testing.T) {
	c, es := one()
	c.Steps[0] = inOven(c.Steps[0], 200)
	d := served([]kitchen.Component{c}, es, table("a", 1, 19*60))
	small := d.Equipment[0]
	small.ID, small.Name, small.Thermostat = "low", "Low oven",
		&kitchen.Thermostat{LowC: 30, HighC: 199, StandbyC: 80, HeatCPerMin: 10, CoolCPerMin: 5, ToleranceC: 5}
	d.Equipment = append(d.Equipment, small)
	on := func() []string {
		e, _, _ := evening(t, d, true)
		for _, x := range e.Workload.Tasks {
			if len(x.Needs) == 2 && x.Needs[1].SetpointC != nil {
				return x.Needs[1].AnyOf
			}
		}
		return nil
	}
	require.Equal(t, []string{"equipment/oven"}, on())
	d.Equipment[1].Thermostat.HighC = 200
	require.Equal(t, []string{"equipment/oven", "equipment/low"}, on())
	d.Equipment[1].Thermostat.LowC, d.Equipment[1].Thermostat.HighC = 200.5, 250
	require.Equal(t, []string{"equipment/oven"}, on())
}

// A search that starts from a told schedule is never worse than that, however short it is; with nothing looked for it
// is that schedule.
func TestAToldScheduleIsNotIgnored(t *testing.T) {
	c, es := one()
	c.Hold.Longest = seconds(300)
	var tables []kitchen.ServiceTable
	for i := range 12 {
		tables = append(tables, table(string(rune('a'+i)), 2, 19*60+i))
	}
	d := served([]kitchen.Component{c}, es, tables...)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	e, err := expand.NewEvening(b, &b.Services()[0], true)
	require.NoError(t, err)
	first := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: 1})
	best := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 1, Rounds: 20_000})
	require.Less(t, *best.Cost, *first.Cost, "the search has something to find")
	again := schedule.Solve(context.Background(), e.Workload, schedule.Options{Seed: 7, Rounds: 1, Previous: best})
	require.LessOrEqual(t, *again.Cost, *best.Cost)
	starts := func(s *workload.Schedule) map[string]int64 {
		out := map[string]int64{}
		for _, r := range s.Tasks {
			out[r.ID] = r.Start
		}
		return out
	}
	if *again.Cost == *best.Cost {
		require.Equal(t, starts(best), starts(again), "what costs the same is left as it was told")
	}
}
