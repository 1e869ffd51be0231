package verify_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/verify"
	"jointime/core/workload"
)

// judged lists the rules that a schedule breaks, and what it costs.
func judged(t *testing.T, w *workload.Workload, runs []workload.Run, joins ...workload.Instant) (rules []workload.Rule, cost int64) {
	t.Helper()
	require.NoError(t, workload.Check(w))
	s := &workload.Schedule{Status: workload.Feasible, Cost: p(0), Tasks: runs, Joins: joins}
	findings, err := verify.Check(w, s)
	require.NoError(t, err)
	for _, f := range findings {
		if f.Rule == "cost" {
			cost = f.By
			continue
		}
		rules = append(rules, f.Rule)
	}
	return rules, cost
}

func bare(tasks ...workload.Task) *workload.Workload {
	return &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T12:00:00Z", Horizon: 10_000, Tasks: tasks,
		Resources: []workload.Resource{{ID: "hands-a", Capacity: 1}, {ID: "hands-b", Capacity: 1}, {ID: "eyes-a", Capacity: 3},
			{ID: "eyes-b", Capacity: 3},
			{ID: "oven", Capacity: 4, Thermostat: &workload.Thermostat{StartC: 180, HeatCPerMin: 20, CoolCPerMin: 10}}}}
}

func ran(id string, start, finish int64, on ...string) workload.Run {
	if on == nil {
		on = []string{}
	}
	return workload.Run{ID: id, Start: start, Finish: finish, Resources: on}
}

// By hand. A rest in a low oven of half an hour to an hour, best 40 min, 2 a second beyond: both ends of the length, and
// the price of fifty minutes.
func TestRunsOfVariableLength(t *testing.T) {
	w := bare(workload.Task{ID: "rest", Seconds: 1800, Longest: p(3600)})
	w.Links = []workload.Link{{From: "rest", To: "rest", Kind: workload.StartFinish, Best: p(2400), Weight: 2}}
	for length, want := range map[int64][]workload.Rule{1799: {"length"}, 1800: nil, 3600: nil, 3601: {"length"}} {
		rules, _ := judged(t, w, []workload.Run{ran("rest", 100, 100+length)})
		require.Equal(t, want, rules, length)
	}
	for length, want := range map[int64]int64{1800: 0, 2400: 0, 2401: 2, 3000: 1200} {
		_, cost := judged(t, w, []workload.Run{ran("rest", 100, 100+length)})
		require.Equal(t, want, cost, length)
	}
	w.Links[0].Max = p(3000)
	rules, _ := judged(t, w, []workload.Run{ran("rest", 0, 3001)})
	require.Equal(t, []workload.Rule{workload.RuleMax}, rules, "its own link bounds it too")
}

// A pan that was begun and that nobody has tapped ready: it ends when the plan says, not before its seconds are over and
// not before now; past its longest only the price counts.
func TestAPanThatGoesOn(t *testing.T) {
	w := bare(workload.Task{ID: "pan", Seconds: 100, Longest: p(200), Latest: p(150)}, workload.Task{ID: "plate", Seconds: 10})
	w.Links = []workload.Link{{From: "pan", To: "pan", Kind: workload.StartFinish, Max: p(120), Best: p(110), Weight: 3},
		{From: "pan", To: "plate", Kind: workload.FinishStart}}
	w.Fixed = []workload.Fixed{{Task: "pan", Start: 0, Resources: []string{}}}
	judge := func(now *int64, end, plate int64) ([]workload.Rule, int64) {
		w.Now = now
		return judged(t, w, []workload.Run{ran("pan", 0, end), ran("plate", plate, plate+10)})
	}
	rules, _ := judge(nil, 99, 500)
	require.Equal(t, []workload.Rule{"length"}, rules)
	rules, cost := judge(nil, 100, 100)
	require.Empty(t, rules)
	require.Zero(t, cost)
	rules, _ = judge(p(300), 299, 300)
	require.Equal(t, []workload.Rule{"length"}, rules, "now it is still in the pan")
	rules, cost = judge(p(300), 300, 300)
	require.Empty(t, rules, "its latest, its longest and its own link bind no more")
	require.Equal(t, int64(3*190), cost)
	rules, _ = judge(p(300), 400, 390)
	require.Equal(t, []workload.Rule{workload.RuleMin}, rules, "what comes after it waits for it")
	rules, _ = judge(nil, 10_001, 10_001-1)
	require.Contains(t, rules, workload.RuleHorizon)
	w.Fixed[0].Finish = p(90)
	rules, _ = judge(nil, 90, 90)
	require.Empty(t, rules, "it has ended")
}

// Same cook: what stands at the same place of two lists. A resource that stands twice stands at both places.
func TestTakenAsAnother(t *testing.T) {
	need := func(ids ...string) workload.Need { return workload.Need{AnyOf: ids, Units: 1} }
	watch := need("eyes-a", "eyes-b")
	watch.As = &workload.As{Task: "lay", Need: 0}
	w := bare(workload.Task{ID: "lay", Seconds: 25, Needs: []workload.Need{need("hands-a", "hands-b")}},
		workload.Task{ID: "pan", Seconds: 240, Needs: []workload.Need{watch}})
	judge := func(hands, eyes string) []workload.Rule {
		rules, _ := judged(t, w, []workload.Run{ran("lay", 0, 25, hands), ran("pan", 0, 240, eyes)})
		return rules
	}
	require.Empty(t, judge("hands-a", "eyes-a"))
	require.Empty(t, judge("hands-b", "eyes-b"))
	require.Equal(t, []workload.Rule{"as"}, judge("hands-a", "eyes-b"))
	w.Tasks[1].Needs[0].AnyOf = []string{"eyes-a", "eyes-a"}
	require.Empty(t, judge("hands-a", "eyes-a"))
	require.Empty(t, judge("hands-b", "eyes-a"))
	w.Tasks[1].Needs[0].AnyOf = []string{"eyes-a", "eyes-b"}
	w.Fixed = []workload.Fixed{{Task: "lay", Start: 0, Finish: p(25), Resources: []string{"hands-a"}},
		{Task: "pan", Start: 0, Finish: p(240), Resources: []string{"eyes-b"}}}
	require.Empty(t, judge("hands-a", "eyes-b"), "what has happened has happened")
	w.Fixed = w.Fixed[:1]
	require.Equal(t, []workload.Rule{"as"}, judge("hands-a", "eyes-b"), "who began goes on")
}

// By hand. The oven stands at 180°, heats 20° and cools 10° a minute. What may have 190 to 220° is reached from 180 in half a minute;
// from it to 100–120° it is 70° from the nearer ends, seven minutes. Ranges that meet share the oven.
func TestRangesOfSetpoints(t *testing.T) {
	hot := func(id string, low, high float64) workload.Task {
		return workload.Task{ID: id, Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1, SetpointC: &low,
			SetpointToC: &high}}}
	}
	one := func(at int64) []workload.Rule {
		rules, _ := judged(t, bare(hot("a", 190, 220)), []workload.Run{ran("a", at, at+60, "oven")})
		return rules
	}
	require.Equal(t, []workload.Rule{workload.RuleChangeover}, one(29))
	require.Empty(t, one(30))
	two := func(b workload.Task, at int64) []workload.Rule {
		rules, _ := judged(t, bare(hot("a", 190, 220), b), []workload.Run{ran("a", 1000, 1060, "oven"), ran("b", at, at+60, "oven")})
		return rules
	}
	low := hot("b", 100, 120)
	require.Equal(t, []workload.Rule{workload.RuleChangeover}, two(low, 1060+419))
	require.Empty(t, two(low, 1060+420))
	require.Equal(t, []workload.Rule{workload.RuleSetpoint}, two(low, 1030))
	require.Equal(t, []workload.Rule{workload.RuleChangeover}, two(low, 1000-60-209), "70° up at 20° a minute are 210 s")
	require.Empty(t, two(hot("b", 220, 250), 1030), "220° will do for both")
	require.Empty(t, two(hot("b", 150, 190), 1030))
	require.Equal(t, []workload.Rule{workload.RuleSetpoint}, two(hot("b", 150, 189), 1030))
}

// Leaving a told start costs to either side; two entries for one task add up, and what is fixed pays too.
func TestToldStarts(t *testing.T) {
	w := bare(workload.Task{ID: "a", Seconds: 10}, workload.Task{ID: "b", Seconds: 10})
	w.Told = []workload.Told{{Task: "a", Start: 100, Weight: 2}, {Task: "a", Start: 110, Weight: 1}, {Task: "b", Start: 50, Weight: 5}}
	w.Fixed = []workload.Fixed{{Task: "b", Start: 53, Finish: p(60), Resources: []string{}}}
	for at, want := range map[int64]int64{100: 10 + 15, 110: 20 + 15, 90: 20 + 20 + 15, 105: 10 + 5 + 15} {
		rules, cost := judged(t, w, []workload.Run{ran("a", at, at+10), ran("b", 53, 60)})
		require.Empty(t, rules)
		require.Equal(t, want, cost, at)
	}
	w.Objective = workload.Makespan
	_, cost := judged(t, w, []workload.Run{ran("a", 100, 110), ran("b", 53, 60)})
	require.Equal(t, int64(110), cost, "the makespan knows of no such cost")
}
