package advise_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/workload"
)

// firing is a table of one main whose fish may wait five minutes, and what its first things are called.
func firing(t *testing.T) (f *expand.Firing, fish string) {
	t.Helper()
	b, err := kitchen.NewBook(pans())
	require.NoError(t, err)
	f, err = expand.NewFiring(b, expand.Table{ID: "table", Orders: []expand.Order{{Dish: "main", Count: 1}}, At: clock(14, 19, 0), Hands: 1})
	require.NoError(t, err)
	for _, x := range f.Workload.Tasks {
		if x.Name != "Plating" {
			fish = x.ID
		}
	}
	return f, fish
}

// Every rule that can be broken has a sentence: of what, with what, and by how much.
func TestEveryBrokenRuleIsSaid(t *testing.T) {
	f, fish := firing(t)
	name := f.Workload.Tasks[0].Name
	if f.Workload.Tasks[0].ID != fish {
		name = f.Workload.Tasks[1].Name
	}
	cases := []struct {
		broken workload.Broken
		want   string
	}{
		{workload.Broken{Rule: workload.RuleMax, IDs: []string{fish, "table/plating"}, By: 90, Unit: "s"},
			name + " may wait at most 5 min, 1:30 min over."},
		{workload.Broken{Rule: workload.RuleMax, IDs: []string{fish, "table"}, By: 90, Unit: "s"},
			name + " may not wait so long for the join, 1:30 min over."},
		{workload.Broken{Rule: workload.RuleMin, IDs: []string{fish, "table/plating"}}, name + " must wait longer before Plating."},
		{workload.Broken{Rule: workload.RuleCapacity, IDs: []string{"person/ana"}}, "Ana: there is not enough of it."},
		{workload.Broken{Rule: workload.RuleCapacity, IDs: []string{"person/ana", fish, "table/plating"}, By: 2, Unit: "unit"},
			"Ana is wanted more than once at a time: " + name + ", Plating."},
		{workload.Broken{Rule: workload.RuleWindow, IDs: []string{"person/ana"}}, "Ana is not there long enough."},
		{workload.Broken{Rule: workload.RuleWindow, IDs: []string{"person/ana", fish}}, "Ana is not there when it is wanted: " + name + "."},
		{workload.Broken{Rule: workload.RuleSetpoint, IDs: []string{"equipment/oven"}},
			"Oven has one temperature at a time, and changing takes minutes."},
		{workload.Broken{Rule: workload.RuleChangeover, IDs: []string{"equipment/oven", fish, "table/plating"}, By: 60, Unit: "s"},
			"Oven cannot change its temperature in time between " + name + " and Plating, 1 min over."},
		{workload.Broken{Rule: workload.RuleHorizon, IDs: []string{fish}, By: 3600, Unit: "s"}, name + " ends too late, 1 h over."},
		{workload.Broken{Rule: workload.RuleLatest, IDs: []string{fish}}, name + " ends too late."},
		{workload.Broken{Rule: workload.RuleEarliest, IDs: []string{fish}, By: 30, Unit: "s"},
			name + " would have to start before it can, 30 s over."},
		{workload.Broken{Rule: workload.RuleNow, IDs: []string{fish}}, name + " would have to start before it can."},
		{workload.Broken{Rule: workload.RuleFixed, IDs: []string{"elsewhere"}}, "fixed: elsewhere."},
	}
	for _, c := range cases {
		said := advise.Explain(f, []workload.Broken{c.broken, c.broken})
		require.Len(t, said, 1, "the same is said once")
		require.Equal(t, c.want, said[0].Text)
	}
	require.Empty(t, advise.Explain(f, nil))
}

// A join that moves by half a minute or less stays; lateness and holds are said from more than a minute on.
func TestWhatIsTooSmallToSay(t *testing.T) {
	join := func(at, late int) *expand.EveningPlan {
		return &expand.EveningPlan{Joins: []expand.EveningJoin{{ID: "1", Name: "Table 1", At: time.Unix(int64(at), 0), LateS: int64(late)}}}
	}
	for by, want := range map[int]string{0: "Every join stays.", 30: "Every join stays.", -30: "Every join stays.",
		31:  "Table 1 goes 30 s later.",
		-31: "Table 1 goes 30 s sooner.", 44: "Table 1 goes 30 s later.", 45: "Table 1 goes 1 min later."} {
		require.Equal(t, want, advise.EveningDifference(join(1000, 0), join(1000+by, 0)).Text, by)
	}
	for by, want := range map[int]string{60: "Every join stays.", 61: "Every join stays. 1 min more lateness in all.",
		119: "Every join stays. 1 min more lateness in all.",
		120: "Every join stays. 2 min more lateness in all."} {
		require.Equal(t, want, advise.EveningDifference(join(0, 100), join(0, 100+by)).Text, by)
	}
	require.Equal(t, "Every join stays. 1 min less lateness in all.", advise.EveningDifference(join(0, 161), join(0, 100)).Text)
	hold := func(by int64) *expand.EveningPlan {
		p := join(0, 0)
		p.Trouble = []expand.FireTrouble{{Kind: "hold", ByS: by}}
		return p
	}
	for by, want := range map[int64]string{60: "Every join stays.", 61: "Every join stays. Holds are passed by 1 min more."} {
		require.Equal(t, want, advise.EveningDifference(hold(10), hold(10+by)).Text)
	}
	require.Equal(t, "Every join stays. Holds are passed by 1 min less.", advise.EveningDifference(hold(71), hold(10)).Text)
}

// What changed in the make-ahead work, one thing at a time.
func TestEveryDifferenceOfPrepIsSaid(t *testing.T) {
	job := func(id, component string, hour int) expand.Job {
		return expand.Job{ID: id, Component: component, Name: "The " + component, StartAt: clock(14, hour, 0)}
	}
	plan := func(trouble int, jobs ...expand.Job) *expand.PrepPlan {
		return &expand.PrepPlan{Jobs: jobs, Trouble: make([]expand.PrepTrouble, trouble)}
	}
	one, two, three := job("a/1", "a", 10), job("a/2", "a", 11), job("b/1", "b", 12)
	later := func(j expand.Job) expand.Job {
		j.StartAt = j.StartAt.Add(time.Minute)
		return j
	}
	for want, c := range map[string][2]*expand.PrepPlan{
		"The plan is as it was.":                                          {plan(0, one), plan(0, one)},
		"The a: 2 batches, was 1.":                                        {plan(0, one), plan(0, one, two)},
		"The a: 1 batch, was 2.":                                          {plan(0, one, two), plan(0, one)},
		"The b: no batch, was 1.":                                         {plan(0, one, three), plan(0, one)},
		"The b: 1 batch, was 0.":                                          {plan(0, one), plan(0, one, three)},
		"One job starts at another time.":                                 {plan(0, one, two), plan(0, later(one), two)},
		"2 jobs start at another time.":                                   {plan(0, one, two), plan(0, later(one), later(two))},
		"1 more batch would not be ready.":                                {plan(0, one), plan(1, one)},
		"2 more batches would not be ready.":                              {plan(1, one), plan(3, one)},
		"1 batch is ready in time again.":                                 {plan(1, one), plan(0, one)},
		"2 batches are ready in time again.":                              {plan(2, one), plan(0, one)},
		"One job starts at another time. 1 batch is ready in time again.": {plan(1, one), plan(0, later(one))},
	} {
		require.Equal(t, want, advise.PrepDifference(c[0], c[1]).Text)
	}
	var many []expand.Job
	for _, id := range []string{"c", "d", "e", "f", "g", "h", "i"} {
		many = append(many, job(id+"/1", id, 10))
	}
	require.Equal(t, "The c: no batch, was 1. The d: no batch, was 1. The e: no batch, was 1. The f: no batch, was 1. The g: no batch, was 1. And 2 more changes.",
		advise.PrepDifference(plan(0, many...), plan(0)).Text)
	six := advise.PrepDifference(plan(0, many[:6]...), plan(0)).Text
	require.NotContains(t, six, "more changes", "six are all said")
}
