package verify_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/verify"
	"jointime/core/workload"
)

func p(v int64) *int64     { return &v }
func c(v float64) *float64 { return &v }

// table is a workload with every rule, and a schedule that keeps them all: worked by
// hand. The oven stands at 20° and heats 60° a minute: 160° after 140 s. a runs
// 140–200 at 160°, b at 100° may start 60° / 30° a minute = 120 s later, at 320.
func table() (*workload.Workload, *workload.Schedule) {
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T12:00:00Z", Horizon: 600,
		Resources: []workload.Resource{
			{ID: "oven", Capacity: 2, Thermostat: &workload.Thermostat{StartC: 20, HeatCPerMin: 60, CoolCPerMin: 30, ToleranceC: 5}},
			{ID: "cook", Capacity: 4, HasWindows: true, Windows: []workload.Window{{From: 100, To: 250, Capacity: 4},
				{From: 250, To: 500, Capacity: 2}}},
		},
		Tasks: []workload.Task{
			{ID: "a", Seconds: 60, Earliest: 50, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1, SetpointC: c(160)},
				{AnyOf: []string{"cook"}, Units: 1}}},
			{ID: "b", Seconds: 40, Latest: p(450), Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1, SetpointC: c(100)}}},
			{ID: "k", Seconds: 50, Needs: []workload.Need{{AnyOf: []string{"cook"}, Units: 2}}},
		},
		Links: []workload.Link{
			{From: "a", To: "b", Kind: workload.FinishStart, Min: 100, Best: p(110), Max: p(200), Weight: 2},
			{From: "b", To: "j", Kind: workload.FinishStart, Max: p(30), Weight: 1},
		},
		Joins: []workload.Join{{ID: "j", At: p(350), Weight: 3, EarlyWeight: 1, Latest: p(400)}},
	}
	// b waits 120 s, 10 beyond its best: 20; the join is 10 s late: 30.
	s := &workload.Schedule{Status: workload.Feasible, Cost: p(50), LowerBound: p(0),
		Tasks: []workload.Run{{ID: "a", Start: 140, Finish: 200, Resources: []string{"oven", "cook"}},
			{ID: "b", Start: 320, Finish: 360, Resources: []string{"oven"}}, {ID: "k", Start: 260, Finish: 310, Resources: []string{"cook"}}},
		Joins: []workload.Instant{{ID: "j", At: 360}}}
	return w, s
}

func TestAScheduleThatKeepsEveryRule(t *testing.T) {
	w, s := table()
	require.NoError(t, workload.Check(w))
	findings, err := verify.Check(w, s)
	require.NoError(t, err)
	require.Empty(t, findings)
}

// Each rule is broken by one change, and named with the ids and the amount.
func TestEveryRuleIsJudged(t *testing.T) {
	for name, x := range map[string]struct {
		change func(w *workload.Workload, s *workload.Schedule)
		rule   workload.Rule
		by     int64
	}{
		"length":         {func(_ *workload.Workload, s *workload.Schedule) { s.Tasks[2].Finish = 320 }, "length", 10},
		"earliest":       {func(w *workload.Workload, _ *workload.Schedule) { w.Tasks[0].Earliest = 150 }, workload.RuleEarliest, 10},
		"latest":         {func(w *workload.Workload, _ *workload.Schedule) { w.Tasks[1].Latest = p(355) }, workload.RuleLatest, 5},
		"latest of join": {func(w *workload.Workload, _ *workload.Schedule) { w.Joins[0].Latest = p(352) }, workload.RuleLatest, 8},
		"horizon":        {func(w *workload.Workload, _ *workload.Schedule) { w.Horizon = 355 }, workload.RuleHorizon, 5},
		"now":            {func(w *workload.Workload, _ *workload.Schedule) { w.Now = p(145) }, workload.RuleNow, 5},
		"min":            {func(w *workload.Workload, _ *workload.Schedule) { w.Links[0].Min = 125 }, workload.RuleMin, 5},
		"max":            {func(w *workload.Workload, _ *workload.Schedule) { w.Links[0].Max = p(115) }, workload.RuleMax, 5},
		"start-start": {func(w *workload.Workload, _ *workload.Schedule) {
			w.Links[0].Kind = workload.StartStart
			w.Links[0].Min = 181
		}, workload.RuleMin, 1},
		"finish-finish": {func(w *workload.Workload, _ *workload.Schedule) {
			w.Links[0].Kind = workload.FinishFinish
			w.Links[0].Max = p(159)
		}, workload.RuleMax, 1},
		"start-finish": {func(w *workload.Workload, _ *workload.Schedule) {
			w.Links[0].Kind = workload.StartFinish
			w.Links[0].Min = 221
		}, workload.RuleMin, 1},
		"capacity": {func(w *workload.Workload, s *workload.Schedule) {
			w.Resources[1].HasWindows, w.Resources[1].Windows = false, nil
			w.Tasks[2].Needs[0].Units = 4
			s.Tasks[2].Start, s.Tasks[2].Finish = 150, 200
		}, workload.RuleCapacity, 1},
		"reduced window": {func(w *workload.Workload, _ *workload.Schedule) { w.Tasks[2].Needs[0].Units = 3 }, workload.RuleWindow, 1},
		"outside windows": {func(_ *workload.Workload, s *workload.Schedule) { s.Tasks[2].Start, s.Tasks[2].Finish = 480, 530 },
			workload.RuleWindow, 2},
		"changeover": {func(_ *workload.Workload, s *workload.Schedule) { s.Tasks[1].Start, s.Tasks[1].Finish = 319, 359 },
			workload.RuleChangeover, 1},
		"setpoint": {func(_ *workload.Workload, s *workload.Schedule) { s.Tasks[1].Start, s.Tasks[1].Finish = 190, 230 },
			workload.RuleSetpoint, 10},
		"cold oven": {func(_ *workload.Workload, s *workload.Schedule) { s.Tasks[0].Start, s.Tasks[0].Finish = 130, 190 },
			workload.RuleChangeover, 10},
		"any-of":       {func(_ *workload.Workload, s *workload.Schedule) { s.Tasks[2].Resources = []string{"oven"} }, "any-of", 1},
		"cost":         {func(_ *workload.Workload, s *workload.Schedule) { s.Cost = p(49) }, "cost", 1},
		"cost missing": {func(_ *workload.Workload, s *workload.Schedule) { s.Cost = nil }, "cost", 0},
		"bound":        {func(_ *workload.Workload, s *workload.Schedule) { s.LowerBound = p(51) }, "bound", 1},
		"optimal":      {func(_ *workload.Workload, s *workload.Schedule) { s.Status = workload.Optimal }, "bound", 0},
		"best effort":  {func(_ *workload.Workload, s *workload.Schedule) { s.Status = workload.BestEffort }, "status", 0},
		"impossible":   {func(_ *workload.Workload, s *workload.Schedule) { s.Status = workload.Impossible }, "impossible", 0},
		"fixed moved": {func(w *workload.Workload, _ *workload.Schedule) {
			w.Fixed = []workload.Fixed{{Task: "k", Start: 250, Resources: []string{"cook"}}}
		}, workload.RuleFixed, 20},
		"join moved": {func(w *workload.Workload, _ *workload.Schedule) { w.Fixed = []workload.Fixed{{Join: "j", At: 350}} }, workload.RuleFixed,
			10},
	} {
		t.Run(name, func(t *testing.T) {
			w, s := table()
			x.change(w, s)
			findings, err := verify.Check(w, s)
			require.NoError(t, err)
			for _, f := range findings {
				if f.Rule == x.rule && f.By == x.by {
					return
				}
			}
			t.Fatalf("expected %s by %d, got %+v", x.rule, x.by, findings)
		})
	}
}

// What has happened has happened: a rule that speaks only of fixed things is not
// checked, one that also speaks of open things is.
func TestFixedThings(t *testing.T) {
	w, s := table()
	w.Fixed = []workload.Fixed{{Task: "a", Start: 10, Finish: p(300), Resources: []string{"oven", "cook"}},
		{Task: "k", Start: -20, Finish: p(400), Resources: []string{"cook"}}}
	s.Tasks[0].Start, s.Tasks[0].Finish = 10, 300
	s.Tasks[2].Start, s.Tasks[2].Finish = -20, 400
	findings, err := verify.Check(w, s)
	require.NoError(t, err)
	var rules []string
	for _, f := range findings {
		rules = append(rules, string(f.Rule))
	}
	// The cook's windows, the cold oven and the earliest of a are not held against
	// what is fixed; the wait and the changeover to b are.
	require.ElementsMatch(t, []string{"min", "changeover", "cost"}, rules)
}

func TestTwoNeedsOfOneTaskAddUpAndZeroLengthTakesNothing(t *testing.T) {
	w := &workload.Workload{Objective: workload.Makespan, Origin: "2026-05-15T12:00:00Z", Horizon: 100,
		Resources: []workload.Resource{{ID: "r", Capacity: 1}},
		Tasks: []workload.Task{{ID: "x", Seconds: 10, Needs: []workload.Need{{AnyOf: []string{"r"}, Units: 1},
			{AnyOf: []string{"r"}, Units: 1}}}, {ID: "z", Seconds: 0, Needs: []workload.Need{{AnyOf: []string{"r"}, Units: 1}}}}}
	s := &workload.Schedule{Status: workload.Feasible, Cost: p(10),
		Tasks: []workload.Run{{ID: "x", Start: 0, Finish: 10, Resources: []string{"r", "r"}},
			{ID: "z", Start: 5, Finish: 5, Resources: []string{"r"}}}}
	findings, err := verify.Check(w, s)
	require.NoError(t, err)
	require.Len(t, findings, 1)
	require.Equal(t, workload.RuleCapacity, findings[0].Rule)
	w.Tasks[0].Needs = w.Tasks[0].Needs[:1]
	s.Tasks[0].Resources = []string{"r"}
	findings, err = verify.Check(w, s)
	require.NoError(t, err)
	require.Empty(t, findings)
}

// A schedule of another workload is an input fault with a path.
func TestSchedulesOfSomethingElse(t *testing.T) {
	for path, change := range map[string]func(s *workload.Schedule){
		"$.tasks[0].id":           func(s *workload.Schedule) { s.Tasks[0].ID = "other" },
		"$.tasks[1].id":           func(s *workload.Schedule) { s.Tasks[1] = s.Tasks[0] },
		"$.tasks[0].resources":    func(s *workload.Schedule) { s.Tasks[0].Resources = nil },
		"$.tasks[1].resources[0]": func(s *workload.Schedule) { s.Tasks[1].Resources = []string{"grill"} },
		"$.tasks":                 func(s *workload.Schedule) { s.Tasks = s.Tasks[:2] },
		"$.joins":                 func(s *workload.Schedule) { s.Joins = nil },
		"$.joins[0].id":           func(s *workload.Schedule) { s.Joins[0].ID = "other" },
	} {
		w, s := table()
		change(s)
		_, err := verify.Check(w, s)
		var pe *workload.PathError
		require.ErrorAs(t, err, &pe, path)
		require.Equal(t, path, pe.Path)
	}
}

// Both files are written and read back unchanged.
func TestFilesRoundTrip(t *testing.T) {
	w, s := table()
	w.Now = p(3)
	w.Fixed = []workload.Fixed{{Task: "k", Start: 260, Finish: p(310), Resources: []string{"cook"}}, {Join: "j", At: 360}}
	var b bytes.Buffer
	require.NoError(t, workload.Write(&b, w))
	again, err := workload.Read(strings.NewReader(b.String()))
	require.NoError(t, err)
	require.Equal(t, w, again)
	b.Reset()
	s.Broken = []workload.Broken{{Rule: workload.RuleMax, IDs: []string{"a", "b"}, By: 3, Unit: "s"}}
	require.NoError(t, workload.WriteSchedule(&b, s))
	back, err := workload.ReadSchedule(strings.NewReader(b.String()))
	require.NoError(t, err)
	require.Equal(t, s, back)
}

// Changeovers by hand: 12° a minute up, 4° down; whole differences, rounded up.
func TestChangeoverByHand(t *testing.T) {
	th := &workload.Thermostat{HeatCPerMin: 12, CoolCPerMin: 4, ToleranceC: 5}
	require.Equal(t, int64(200), th.Changeover(180, 220))
	require.Equal(t, int64(600), th.Changeover(220, 180))
	require.Equal(t, int64(0), th.Changeover(180, 185))
	require.Equal(t, int64(28), th.Changeover(180, 185.5), "27.5 s, rounded up; the whole difference counts")
}
