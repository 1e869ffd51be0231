package expand_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// By hand. Ten minutes of both hands, an hour of a look now and then, ten more minutes: twenty minutes are hands-on work,
// and since the pause between is longer than ten minutes, no stretch is longer than ten.
func TestHandsOnWorkOfADay(t *testing.T) {
	_, plan := prepOf(t, at(14, 10, 0), nil, 48, st("cut", 10, kitchen.Both, 0), st("simmer", 60, kitchen.Tend, 0),
		st("strain", 10, kitchen.Both, 0))
	require.Len(t, plan.Load, 1)
	l := plan.Load[0]
	require.Equal(t, "Chef", l.Person)
	require.Equal(t, "stove", l.Section)
	require.Equal(t, "2026-05-14", l.Date)
	require.Equal(t, int64(1200), l.HandsS)
	require.Equal(t, int64(600), l.LongestS)
	// A pause of ten minutes or less is none: the stretch goes on over it.
	_, plan = prepOf(t, at(14, 10, 0), nil, 48, st("cut", 10, kitchen.Both, 0), st("drain", 5, kitchen.None, 0),
		st("dry", 10, kitchen.Both, 0))
	require.Equal(t, int64(1200), plan.Load[0].HandsS)
	require.LessOrEqual(t, plan.Load[0].LongestS, int64(1500))
}

// A step that is done in one run is not numbered; one in several says which of how many.
func TestRunsOfAStepAreNumbered(t *testing.T) {
	cut := st("cut", 10, kitchen.Both, 0)
	_, plan := prepOf(t, at(14, 10, 0), nil, 48, cut)
	require.Equal(t, "cut", plan.Jobs[0].Steps[0].Name)
	cut.Batch = &kitchen.BatchLimit{Portions: 5, Run: kitchen.SideBySide}
	_, plan = prepOf(t, at(14, 10, 0), nil, 48, cut)
	require.Equal(t, []string{"cut (1 of 2)", "cut (2 of 2)"}, []string{plan.Jobs[0].Steps[0].Name, plan.Jobs[0].Steps[1].Name})
}

// Rounds are numbered from one, in their order; a table in one round has no number.
func TestRoundsAreNumbered(t *testing.T) {
	c, es := one()
	c.Hold.Longest = seconds(3600)
	d := served([]kitchen.Component{c}, es, table("hall", 10, 19*60), table("side", 3, 19*60+30))
	d.Services[0].Kind, d.Services[0].PlatingHands = kitchen.Banquet, 1
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "pass", Name: "Pass", Kind: kitchen.Pass, Capacity: 4, Unit: "plate"})
	e, _, p := evening(t, d, true)
	var got []string
	for _, x := range e.Courses {
		got = append(got, fmt.Sprintf("%s %d", x.ID, x.Round))
	}
	require.Equal(t, []string{"hall/main 1", "hall/main~2 2", "hall/main~3 3", "side/main 0"}, got)
	plates := 0
	for _, j := range p.Joins {
		plates += j.Plates
		require.LessOrEqual(t, j.Plates, 4, "no more than the pass takes")
	}
	require.Equal(t, 13, plates)
}

// By hand, after PERT: low 200, likely 240, high 360: the mean is 253.3, the deviation 26.7, and nine cases of ten are
// done in 253.3 + 1.2816 · 26.7 = 287.5. The margin goes so much of the way there.
func TestMarginOfAStep(t *testing.T) {
	c, es := one()
	c.Steps[0].Time.Fixed = kitchen.Estimate{Low: 200, Likely: 240, High: 360}
	length := func(margin int) int64 {
		d := served([]kitchen.Component{c}, es, table("a", 1, 19*60))
		d.Services[0].Margin = margin
		e, _, _ := evening(t, d, true)
		for _, x := range e.Workload.Tasks {
			if x.Name != "Plating" {
				return x.Seconds
			}
		}
		return 0
	}
	require.Equal(t, int64(240), length(0))
	require.Equal(t, int64(287), length(100))
	require.Equal(t, int64(263), length(50))
}

// What is asked of something that is not there is answered with what was asked.
func TestNamesOfWhatIsNotThere(t *testing.T) {
	c, es := one()
	d := served([]kitchen.Component{c}, es, table("a", 1, 19*60), table("b", 1, 19*60+30))
	e, _, _ := evening(t, d, true)
	require.Equal(t, "nothing", e.Says("nothing", "a/main"))
	require.Empty(t, e.SectionOf("nothing"))
	require.Equal(t, "fish", e.Says("a/main/fish/sear", "a/main"))
	require.Equal(t, "fish (A, main)", e.Says("a/main/fish/sear", "b/main"))
	require.Equal(t, "one", e.SectionOf("a/main/fish/sear"))
	require.Equal(t, "pass", e.SectionOf("a/main/plating"))
	_, known := e.CourseByID("c/main")
	require.False(t, known)
}

// A pan that is heated before goes on the heat that much sooner, and what may wait is told without the heating.
func TestFiresSayTheHeating(t *testing.T) {
	c, es := one()
	c.Steps[0].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1, PreheatS: 180}
	d := served([]kitchen.Component{c}, es, table("a", 1, 19*60))
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "burner", Name: "Burner", Kind: kitchen.Burner, Capacity: 1, Unit: "burner"})
	_, _, p := evening(t, d, true)
	require.Len(t, p.Fires, 1)
	require.Equal(t, int64(180), p.Fires[0].Preheat)
	require.Equal(t, []string{"A"}, p.Fires[0].People)
	require.Len(t, p.Runs, 2, "the heating and the pan")
	var names []string
	for _, r := range p.Runs {
		names = append(names, r.Step+" "+string(r.Hands))
	}
	require.ElementsMatch(t, []string{"Heat the pan none", "sear both"}, names)
}

func TestShelfLifeAndHoldInSeconds(t *testing.T) {
	require.Equal(t, 240, expand.Spare(&kitchen.Component{Hold: kitchen.Wait{Shortest: 60, Longest: seconds(300)}}))
	require.Greater(t, expand.Spare(&kitchen.Component{}), 1<<40, "nothing bounds it")
}
