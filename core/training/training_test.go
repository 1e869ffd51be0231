package training

import (
	"math"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/core/workload"
	"jointime/demo/demotest"
)

var noon = time.Date(2026, 5, 15, 12, 0, 0, 0, time.UTC)

var five = service.TableCourse{Table: "five", Course: "main"}

func fired(late float64) simulate.CookedRun {
	at := noon.Add(time.Duration(late * float64(time.Second)))
	return simulate.CookedRun{Task: "a", What: "Hake", Portions: 2, Joins: []service.TableCourse{five}, DueAt: noon, FiredAt: &at, LateS: late}
}

func night(late float64) *simulate.Played {
	return &simulate.Played{Joins: []simulate.PlayedJoin{{TableCourse: five, Name: "Table 5", Late: late}}}
}

func judged(cooked []simulate.CookedRun, went, good float64, ended bool) *Judgement {
	return Judge(cooked, night(went), night(good), ended, time.UTC)
}

func whats(j *Judgement) (out []string) {
	for _, r := range j.Remarks {
		out = append(out, r.What)
	}
	return out
}

// Both sides of every bound: half a minute late counts whole, five minutes not at all, in between by how far; a minute and a half early,
// ten minutes; what stays on; what a table is later than with a good cook.
func TestWhatAMarkIsMadeOf(t *testing.T) {
	for _, c := range []struct {
		late, points float64
	}{{0, 50}, {30, 50}, {31, 50 * 269.0 / 270}, {165, 25}, {299, 50 * 1.0 / 270}, {300, 0}, {900, 0}, {-90, 50}, {-91, 50 * 509.0 / 510},
		{-345, 25}, {-600, 0}} {
		j := judged([]simulate.CookedRun{fired(c.late)}, 0, 0, false)
		require.InDelta(t, c.points, j.Parts[0].Points, 1e-9, "%v s", c.late)
		require.Equal(t, int(math.Floor(c.points+50+1e-9)), j.Mark)
	}
	looked := func(over, held float64) float64 {
		r := fired(0)
		r.Asks, r.OverS, r.HeldS = true, over, held
		return judged([]simulate.CookedRun{r}, 0, 0, false).Parts[1].Points
	}
	require.InDelta(t, 25, looked(30, 30), 1e-9)
	require.InDelta(t, 12.5, looked(165, 0), 1e-9)
	require.InDelta(t, 12.5, looked(0, 165), 1e-9)
	require.InDelta(t, 0, looked(300, 0), 1e-9)
	table := func(went, good float64) float64 {
		return judged([]simulate.CookedRun{fired(0)}, went, good, false).Parts[2].Points
	}
	require.InDelta(t, 25, table(60, 0), 1e-9)
	require.InDelta(t, 12.5, table(330, 0), 1e-9)
	require.InDelta(t, 0, table(600, 0), 1e-9)
	require.InDelta(t, 25, table(900, 850), 1e-9, "it is as late with a good cook")
	require.InDelta(t, 25, table(-500, 0), 1e-9, "early is no later")
	require.Equal(t, 100, judged(nil, 0, 0, false).Mark, "there was nothing to do")
}

func TestWhatIsSaid(t *testing.T) {
	require.Empty(t, judged([]simulate.CookedRun{fired(30)}, 60, 0, false).Remarks)
	late := fired(200)
	late.Instead = "Beef"
	j := judged([]simulate.CookedRun{late}, 300, 20, false)
	require.Equal(t, []string{"table", "late"}, whats(j))
	require.Equal(t, "Table 5, main left 5 min late; on the same night with a cook who does what the screen says, it leaves in time.",
		j.Remarks[0].Said.Text)
	require.Contains(t, j.Remarks[1].Said.Text,
		"2 × Hake for Table 5 was fired 3:20 min late: it was due at 12:00:00; a good cook would have fired Beef before it")
	require.Equal(t, 12, j.Remarks[1].At.Hour())

	soon := fired(-200)
	soon.Early, soon.Again = 1, true
	require.Equal(t, []string{"early", "too-soon", "luck"}, whats(judged([]simulate.CookedRun{soon}, 0, 0, false)))

	never := fired(0)
	never.FiredAt, never.LateS = nil, 500
	j = judged([]simulate.CookedRun{never}, math.Inf(1), 0, true)
	require.Equal(t, []string{"forgotten"}, whats(j), "a table that has not left is not held against them")
	require.Zero(t, j.Parts[0].Points)
	require.True(t, j.Ended)
	never.LateS = 20
	j = judged([]simulate.CookedRun{never}, math.Inf(1), 0, true)
	require.Empty(t, j.Remarks)
	require.Equal(t, 100, j.Mark, "it was ended before it had to be begun")

	held := fired(0)
	held.HeldS, held.OverS, held.Asks = 100, 50, true
	require.Equal(t, []string{"held", "over"}, whats(judged([]simulate.CookedRun{held}, 0, 0, false)))
}

// evening is the demo's, with a plan.
var evening = sync.OnceValues(func() (*expand.Evening, *workload.Schedule) { return demotest.Planned(demotest.Tables, 60) })

// Each exercise is the part of a service that it says, at every section: so many courses for which the section works, from the beginning of
// the evening or close together, with all that the others cook for them.
func TestWhatAnExerciseIsAbout(t *testing.T) {
	e, told := evening()
	plan := service.PlanOf(1, e.Read(told))
	courses := func(svc *kitchen.Service) (n int) {
		for _, x := range svc.Tables {
			by := map[kitchen.Course]bool{}
			for _, o := range x.Orders {
				for i := range e.Courses {
					for _, p := range e.Courses[i].Firing.Table.Orders {
						if p.Dish == o.Dish {
							by[e.Courses[i].Course] = true
						}
					}
				}
			}
			n += len(by)
		}
		return n
	}
	for _, section := range []string{"roast", "fish", "garnish", "larder", ""} {
		works := map[service.TableCourse]bool{}
		for i := range plan.Runs {
			if section == "" || plan.Runs[i].Section == section {
				for _, j := range plan.Runs[i].Joins {
					works[j] = true
				}
			}
		}
		last := 0
		for _, x := range Exercises() {
			svc, ok := x.Of(e, plan, section)
			require.True(t, ok, "%s at %s", x.ID, section)
			switch {
			case x.Courses > 0:
				require.Equal(t, min(x.Courses, len(works)), courses(&svc), "%s at %s", x.ID, section)
			case x.Part < 1:
				require.Equal(t, int(float64(len(works))*x.Part), courses(&svc), "%s at %s", x.ID, section)
			default:
				require.Len(t, svc.Tables, len(e.Service.Tables))
			}
			require.GreaterOrEqual(t, len(svc.Tables), last, "each is larger than the one before")
			last = len(svc.Tables)
			for _, s := range svc.Shared {
				require.Greater(t, len(s.Tables), 1)
			}
		}
	}
	first := Exercises()[0]
	_, ok := first.Of(e, plan, "nowhere")
	require.False(t, ok)
	require.Len(t, e.Service.Tables, 15, "the service itself stays as it is")
}

func TestTheExercisesGetHarder(t *testing.T) {
	list := Exercises()
	require.GreaterOrEqual(t, len(list), 5)
	ids := map[string]bool{}
	for i, x := range list {
		require.False(t, ids[x.ID])
		ids[x.ID] = true
		require.NotEmpty(t, x.Name)
		require.True(t, strings.HasSuffix(x.About, "."))
		require.Contains(t, Troubles(), x.Trouble)
		require.GreaterOrEqual(t, x.Pace, 1.0)
		require.True(t, (x.Courses > 0) != (x.Part > 0), x.ID)
		if i > 0 {
			was, is := list[i-1].Trouble.Settings(), x.Trouble.Settings()
			require.LessOrEqual(t, was.NotYet, is.NotYet)
			require.LessOrEqual(t, was.Mishaps, is.Mishaps)
			require.LessOrEqual(t, was.ArrivalsMin, is.ArrivalsMin)
		}
	}
	require.Equal(t, simulate.Settings{}, None.Settings())
}

// Today's is the first that is not known at ninety, the same night all day for a person at a section, another tomorrow and for anybody
// else.
func TestTodaysExercise(t *testing.T) {
	list := Exercises()
	x, seed := Today(noon, "Ada", "roast", nil)
	require.Equal(t, list[0].ID, x.ID)
	_, evening := Today(noon.Add(8*time.Hour), "Ada", "roast", nil)
	require.Equal(t, seed, evening)
	for _, other := range []func() (Exercise, uint64){
		func() (Exercise, uint64) { return Today(noon.AddDate(0, 0, 1), "Ada", "roast", nil) },
		func() (Exercise, uint64) { return Today(noon, "Ines", "roast", nil) },
		func() (Exercise, uint64) { return Today(noon, "Ada", "fish", nil) },
	} {
		_, s := other()
		require.NotEqual(t, seed, s)
	}
	x, _ = Today(noon, "Ada", "roast", map[string]int{"one": 89})
	require.Equal(t, "one", x.ID)
	x, _ = Today(noon, "Ada", "roast", map[string]int{"one": 90})
	require.Equal(t, "two", x.ID)
	all := map[string]int{}
	for _, o := range list {
		all[o.ID] = 100
	}
	x, _ = Today(noon, "Ada", "roast", all)
	require.Equal(t, list[len(list)-1].ID, x.ID)
}
