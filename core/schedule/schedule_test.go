package schedule_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/schedule"
	"jointime/core/schedule/instances"
	"jointime/core/verify"
	"jointime/core/workload"
	"jointime/core/workload/workloadtest"
)

// within gives the search a generous end, for a machine that is busy.
func within(t testing.TB, d time.Duration) context.Context {
	ctx, cancel := context.WithTimeout(context.Background(), d)
	t.Cleanup(cancel)
	return ctx
}

func accepted(t require.TestingT, w *workload.Workload, s *workload.Schedule) {
	findings, err := verify.Check(w, s)
	require.NoError(t, err)
	for _, f := range findings {
		require.Fail(t, f.Text)
	}
}

// Published optima: see the source beside each problem in package instances (from
// memory).
func TestPublishedJobShops(t *testing.T) {
	for _, js := range instances.JobShops() {
		if js.Name == "FT10" {
			continue // proved in a quarter of a minute: see the bench command, and TestTheShortestOfFT10
		}
		w := js.Workload()
		s := schedule.Solve(within(t, time.Minute), w, schedule.Options{Seed: 1})
		accepted(t, w, s)
		require.Equal(t, workload.Optimal, s.Status, js.Name)
		require.Equal(t, js.Optimum, *s.Cost, js.Source)
	}
}

// FT10: the bound at the root is at least 808, the preemptive one-machine bound
// (from memory), and never over 930 (Fisher & Thompson, 1963, from memory).
func TestBoundsOfFT10(t *testing.T) {
	w := instances.JobShops()[2].Workload()
	s := schedule.Solve(within(t, 4*time.Second), w, schedule.Options{Seed: 1, Rounds: 30})
	accepted(t, w, s)
	require.GreaterOrEqual(t, *s.LowerBound, int64(808))
	require.LessOrEqual(t, *s.LowerBound, int64(930))
	require.GreaterOrEqual(t, *s.Cost, int64(930))
}

// The optima were proved by MiniZinc with Gecode (scripts/optima), from a model that
// was written from the format's description. Every cost must equal them.
func TestSmallKitchensAgainstProvedOptima(t *testing.T) {
	raw, err := os.ReadFile("testdata/optima.json")
	require.NoError(t, err)
	var optima []struct {
		Kitchen int    `json:"kitchen"`
		Cost    *int64 `json:"cost"`
	}
	require.NoError(t, json.Unmarshal(raw, &optima))
	require.GreaterOrEqual(t, len(optima), 25)
	for _, o := range optima {
		w := instances.Kitchen(o.Kitchen)
		s := schedule.Solve(within(t, time.Minute), w, schedule.Options{Seed: 1})
		if o.Cost == nil {
			require.Equal(t, workload.Impossible, s.Status, "kitchen %d", o.Kitchen)
			require.NotEmpty(t, s.Broken)
			continue
		}
		accepted(t, w, s)
		require.Equal(t, workload.Optimal, s.Status, "kitchen %d", o.Kitchen)
		require.Equal(t, *o.Cost, *s.Cost, "kitchen %d", o.Kitchen)
	}
}

// The same of small evenings with hands at both ends, shared batches, two sittings, ovens in conflict and one section overloaded.
func TestSmallNightsAgainstProvedOptima(t *testing.T) {
	raw, err := os.ReadFile("testdata/nights.json")
	require.NoError(t, err)
	var optima []struct {
		Night int   `json:"night"`
		Cost  int64 `json:"cost"`
	}
	require.NoError(t, json.Unmarshal(raw, &optima))
	require.GreaterOrEqual(t, len(optima), 12)
	dear := 0
	for _, o := range optima {
		w := instances.SmallNight(o.Night)
		require.NoError(t, workload.Check(w))
		ctx, cancel := context.WithCancel(within(t, time.Minute))
		long := slices.Contains([]int{4, 6, 9}, o.Night) // the proof takes seconds there: found is enough
		s := schedule.Solve(ctx, w, schedule.Options{Seed: 1, Progress: func(p schedule.Progress) {
			if long && p.Cost <= o.Cost {
				cancel()
			}
		}})
		cancel()
		accepted(t, w, s)
		require.Equal(t, o.Cost, *s.Cost, "night %d", o.Night)
		require.LessOrEqual(t, *s.LowerBound, o.Cost, "night %d", o.Night)
		if !long {
			require.Equal(t, workload.Optimal, s.Status, "night %d", o.Night)
		}
		if o.Cost > 0 {
			dear++
		}
	}
	require.GreaterOrEqual(t, dear, 8, "what costs nothing is no trial")
}

// Whatever valid workload comes in, the schedule passes verify or says which rules
// it breaks; nothing panics and no time is negative.
func TestEveryScheduleIsJudgedTheSameByVerify(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := workloadtest.Draw(t, 14)
		require.NoError(t, workload.Check(w))
		s := schedule.Solve(context.Background(), w, schedule.Options{Seed: 1, Rounds: 200})
		if s.Status == workload.Impossible {
			require.NotEmpty(t, s.Broken)
			require.Empty(t, s.Tasks)
			require.Nil(t, s.Cost)
			return
		}
		findings, err := verify.Check(w, s)
		require.NoError(t, err)
		fixed := w.FixedTasks()
		for _, r := range s.Tasks {
			if fixed[r.ID] == nil {
				require.GreaterOrEqual(t, r.Start, int64(0))
			}
		}
		if s.Status == workload.BestEffort {
			require.NotEmpty(t, s.Broken)
			for _, f := range findings {
				require.NotContains(t, []workload.Rule{"cost", "bound", "length", "any-of", "fixed", "status"}, f.Rule, f.Text)
			}
			require.NotEmpty(t, findings, "best-effort says that rules are broken: %v", s.Broken)
			return
		}
		if s.LowerBound != nil {
			require.LessOrEqual(t, *s.LowerBound, *s.Cost)
		}
		for _, f := range findings {
			t.Errorf("%s", f.Text)
		}
	})
}

// brute is the naive twin: it tries every start within the horizon for every task,
// in every resource, and judges with verify.
func brute(w *workload.Workload) (best int64, found bool) {
	s := &workload.Schedule{Status: workload.Feasible}
	var zero int64
	s.Cost = &zero
	var place func(i int)
	place = func(i int) {
		if i == len(w.Tasks)+len(w.Joins) {
			findings, err := verify.Check(w, s)
			if err != nil {
				panic(err)
			}
			cost := int64(0)
			for _, f := range findings {
				if f.Rule != "cost" {
					return
				}
				cost = f.By // the stated cost is 0: the difference is the cost
			}
			if !found || cost < best {
				best, found = cost, true
			}
			return
		}
		if i >= len(w.Tasks) {
			for at := int64(0); at <= w.Horizon; at++ {
				s.Joins = append(s.Joins, workload.Instant{ID: w.Joins[i-len(w.Tasks)].ID, At: at})
				place(i + 1)
				s.Joins = s.Joins[:len(s.Joins)-1]
			}
			return
		}
		t := &w.Tasks[i]
		type span struct{ at, end int64 }
		var spans []span
		for at := int64(0); at <= w.Horizon; at++ {
			for end := at + t.Seconds; end <= min(w.Horizon, at+t.MostSeconds()); end++ {
				spans = append(spans, span{at, end})
			}
		}
		for _, x := range spans {
			var choose func(on []string)
			choose = func(on []string) {
				if len(on) == len(t.Needs) {
					s.Tasks = append(s.Tasks, workload.Run{ID: t.ID, Start: x.at, Finish: x.end, Resources: on})
					place(i + 1)
					s.Tasks = s.Tasks[:len(s.Tasks)-1]
					return
				}
				for _, r := range t.Needs[len(on)].AnyOf {
					choose(append(on[:len(on):len(on)], r))
				}
			}
			choose(nil)
		}
	}
	place(0)
	return best, found
}

// Tiny workloads with every rule: status and cost equal exhaustive search.
func TestAgainstExhaustiveSearch(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string, lo, hi int) int64 { return int64(rapid.IntRange(lo, hi).Draw(t, name)) }
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T12:00:00Z", Horizon: n("horizon", 5, 8)}
		if n("makespan", 0, 3) == 0 {
			w.Objective = workload.Makespan
		}
		w.Resources = []workload.Resource{{ID: "a", Capacity: n("capacity", 1, 2)}, {ID: "b", Capacity: 1}}
		if n("thermostat", 0, 1) == 1 {
			w.Resources[0].Thermostat = &workload.Thermostat{StartC: 20, HeatCPerMin: 60, CoolCPerMin: 30}
		}
		if n("window", 0, 3) == 0 {
			w.Resources[1].HasWindows = true
			w.Resources[1].Windows = []workload.Window{{From: n("from", 0, 2), To: n("to", 3, 9), Capacity: 1}}
		}
		for i := range 3 {
			task := workload.Task{ID: string(rune('x' + i)), Seconds: n("seconds", 0, 3)}
			if n("need", 0, 4) > 0 {
				c := 20 + float64(n("c", 0, 2))
				nd := workload.Need{AnyOf: []string{"a"}, Units: n("units", 1, 2), SetpointC: &c}
				if n("any", 0, 2) == 0 {
					nd.AnyOf = []string{"a", "b"}
				}
				task.Needs = append(task.Needs, nd)
			}
			w.Tasks = append(w.Tasks, task)
		}
		at := n("at", 0, 7)
		w.Joins = []workload.Join{{ID: "j", At: &at, Weight: n("late", 0, 3), EarlyWeight: n("early", 0, 3)}}
		kinds := []workload.Kind{workload.FinishStart, workload.StartStart, workload.FinishFinish, workload.StartFinish}
		for i := range int(n("links", 0, 3)) {
			l := workload.Link{From: string(rune('x' + i)), To: []string{"y", "z", "j"}[i], Kind: rapid.SampledFrom(kinds).Draw(t, "kind"),
				Min: n("min", -2, 2), Weight: n("weight", 0, 3)}
			if n("best", 0, 1) == 1 {
				b := l.Min + n("best", 0, 2)
				l.Best = &b
			}
			if n("max", 0, 1) == 1 {
				m := l.Min + n("max", 0, 3)
				l.Max = &m
			}
			w.Links = append(w.Links, l)
		}
		chosen := false // something is chosen before the search
		if n("more", 0, 2) == 0 {
			chosen = moreKeys(w, n)
		}
		require.NoError(t, workload.Check(w))
		best, possible := brute(w)
		s := schedule.Solve(context.Background(), w, schedule.Options{Seed: 1})
		switch {
		case chosen && !possible:
			require.Contains(t, []workload.Status{workload.Impossible, workload.BestEffort}, s.Status)
		case chosen && s.Status == workload.Feasible:
			accepted(t, w, s)
			require.GreaterOrEqual(t, *s.Cost, best)
			require.Nil(t, s.LowerBound, "nothing is proved of what was chosen before")
		case chosen:
			require.Equal(t, workload.BestEffort, s.Status)
		case !possible:
			require.Equal(t, workload.Impossible, s.Status)
		default:
			accepted(t, w, s)
			require.Equal(t, workload.Optimal, s.Status)
			require.Equal(t, best, *s.Cost)
		}
	})
}

// moreKeys gives a tiny workload of three tasks some of the keys that came later, and reports whether something has to be
// chosen before the search for them.
func moreKeys(w *workload.Workload, n func(name string, lo, hi int) int64) (chosen bool) {
	for i := range w.Tasks {
		if n("told", 0, 1) == 0 {
			w.Told = append(w.Told, workload.Told{Task: w.Tasks[i].ID, Start: n("told at", -2, 9), Weight: n("told weight", 0, 3)})
		}
	}
	if n("longest", 0, 2) == 0 {
		v := w.Tasks[0].Seconds + n("longer", 1, 2)
		w.Tasks[0].Longest, chosen = &v, w.Tasks[0].Seconds == 0 // which may be nothing at all
		best := n("best length", 0, 3)
		w.Links = append(w.Links, workload.Link{From: "x", To: "x", Kind: workload.StartFinish, Min: n("least", 0, 3), Best: &best,
			Weight: n("price", 0, 2)})
	}
	for i := range w.Tasks {
		for k := range w.Tasks[i].Needs {
			nd := &w.Tasks[i].Needs[k]
			if n("range", 0, 3) == 0 {
				c := *nd.SetpointC + 1
				nd.SetpointToC = &c
			}
			if i > 0 && len(w.Tasks[i-1].Needs) > 0 && len(w.Tasks[i-1].Needs[0].AnyOf) == len(nd.AnyOf) && n("as", 0, 2) == 0 {
				nd.As = &workload.As{Task: w.Tasks[i-1].ID}
			}
		}
	}
	return chosen
}

// Scaling all times by k scales the makespan by k.
func TestScalingTimesScalesTheMakespan(t *testing.T) {
	for seed := range uint64(6) {
		w := instances.Project(14, 3, seed)
		one := schedule.Solve(within(t, time.Minute), w, schedule.Options{Seed: 1})
		big := w.Clone()
		big.Horizon *= 7
		for i := range big.Tasks {
			big.Tasks[i].Seconds *= 7
		}
		seven := schedule.Solve(within(t, time.Minute), big, schedule.Options{Seed: 1})
		require.Equal(t, workload.Optimal, one.Status)
		require.Equal(t, workload.Optimal, seven.Status)
		require.Equal(t, 7**one.Cost, *seven.Cost)
	}
}

// One more unit of anything never makes a proved optimum worse.
func TestAnotherUnitNeverHurts(t *testing.T) {
	for i := range 12 {
		w := instances.Kitchen(i)
		before := schedule.Solve(within(t, time.Minute), w, schedule.Options{Seed: 1})
		if before.Status != workload.Optimal {
			continue
		}
		for r := range w.Resources {
			more := w.Clone()
			more.Resources[r].Capacity++
			for k := range more.Resources[r].Windows {
				more.Resources[r].Windows[k].Capacity++
			}
			after := schedule.Solve(within(t, time.Minute), more, schedule.Options{Seed: 1})
			require.Equal(t, workload.Optimal, after.Status)
			require.LessOrEqual(t, *after.Cost, *before.Cost, "kitchen %d, one more of %s", i, w.Resources[r].ID)
		}
	}
}

// The order in which things stand in the file does not change a proved optimum.
func TestShufflingTheInputKeepsTheOptimum(t *testing.T) {
	for i := range 12 {
		w := instances.Kitchen(i)
		one := schedule.Solve(within(t, time.Minute), w, schedule.Options{Seed: 1})
		r := rand.New(rand.NewPCG(uint64(i), 1))
		x := w.Clone()
		r.Shuffle(len(x.Tasks), func(a, b int) { x.Tasks[a], x.Tasks[b] = x.Tasks[b], x.Tasks[a] })
		r.Shuffle(len(x.Links), func(a, b int) { x.Links[a], x.Links[b] = x.Links[b], x.Links[a] })
		r.Shuffle(len(x.Resources), func(a, b int) { x.Resources[a], x.Resources[b] = x.Resources[b], x.Resources[a] })
		two := schedule.Solve(within(t, time.Minute), x, schedule.Options{Seed: 1})
		require.Equal(t, one.Status, two.Status)
		if one.Status == workload.Optimal {
			require.Equal(t, *one.Cost, *two.Cost, "kitchen %d", i)
		}
	}
}

func TestTheSameSeedGivesTheSameSchedule(t *testing.T) {
	w := instances.Service(160, 6, 3)
	one := schedule.Solve(context.Background(), w, schedule.Options{Seed: 5, Rounds: 60})
	two := schedule.Solve(context.Background(), w, schedule.Options{Seed: 5, Rounds: 60})
	require.Equal(t, one, two)
}

// A cancelled search still answers, at once, with a schedule that verify accepts or
// that says what it breaks.
func TestCancelledSearchAnswers(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	w := instances.Service(300, 10, 1)
	s := schedule.Solve(ctx, w, schedule.Options{Seed: 1})
	require.Len(t, s.Tasks, len(w.Tasks))
	_, err := verify.Check(w, s)
	require.NoError(t, err)
}

// Planning again in the middle of service: what has been told keeps its start where
// the delay does not force it.
func TestReplanningMovesLittle(t *testing.T) {
	w := instances.Service(460, 16, 2)
	told := schedule.Solve(context.Background(), w, schedule.Options{Seed: 1, Rounds: 40})
	accepted(t, w, told)
	again, _ := instances.Delayed(w, told, 60, 240)
	s := schedule.Solve(context.Background(), again, schedule.Options{Seed: 1, Rounds: 40, Previous: told, MovePrice: 2})
	accepted(t, again, s)
	require.Equal(t, int64(0), instances.MedianMove(again, told, s))
}

// The least broken schedule of a chain that cannot be kept breaks the longest wait,
// and nothing else, by no more than it must: the oven is busy until 100 with what
// has happened, the step before ended at 20 and may wait 30 s at most: 50 s too long.
func TestLeastBroken(t *testing.T) {
	now, done := int64(30), int64(20)
	most := int64(30)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T12:00:00Z", Horizon: 1000, Now: &now,
		Resources: []workload.Resource{{ID: "oven", Capacity: 1}},
		Tasks: []workload.Task{{ID: "busy", Seconds: 100, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1}}},
			{ID: "sear", Seconds: 20}, {ID: "roast", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1}}}},
		Links: []workload.Link{{From: "sear", To: "roast", Kind: workload.FinishStart, Max: &most, Weight: 1}},
		Fixed: []workload.Fixed{{Task: "busy", Start: 0, Resources: []string{"oven"}}, {Task: "sear", Start: 0, Finish: &done,
			Resources: []string{}}}}
	s := schedule.Solve(context.Background(), w, schedule.Options{Seed: 1})
	// It is proved that no schedule keeps the rule; without the proof, 50 s over it.
	require.Contains(t, []workload.Status{workload.Impossible, workload.BestEffort}, s.Status)
	require.NotEmpty(t, s.Broken)
	require.Equal(t, workload.RuleMax, s.Broken[0].Rule)
}

// Runs that lead to several joins: batches that tables share. However they are taken out
// and put back, every schedule keeps the rules, and one that is feasible stays so.
func TestRunsThatLeadToSeveralJoins(t *testing.T) {
	for seed := range uint64(12) {
		rng := rand.New(rand.NewPCG(seed, 9))
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-14T18:00:00Z", Horizon: 20_000,
			Resources: []workload.Resource{{ID: "cook", Capacity: 4}, {ID: "second", Capacity: 4}, {ID: "rings", Capacity: 6},
				{ID: "pass", Capacity: 1}}}
		for j := range 24 {
			join, plating := fmt.Sprint("join", j), fmt.Sprint("plating", j)
			at := int64(3000 + 150*j)
			w.Joins = append(w.Joins, workload.Join{ID: join, At: &at, Weight: 4, EarlyWeight: 4})
			// A bench of its own: a resource that nothing else uses.
			bench := fmt.Sprint("bench", j)
			w.Resources = append(w.Resources, workload.Resource{ID: bench, Capacity: 1})
			w.Tasks = append(w.Tasks, workload.Task{ID: plating, Seconds: 40, Needs: []workload.Need{{AnyOf: []string{"pass"}, Units: 1},
				{AnyOf: []string{bench}, Units: 1}}})
			zero := int64(0)
			w.Links = append(w.Links, workload.Link{From: plating, To: join, Kind: workload.FinishStart, Max: &zero, Weight: 1})
		}
		for k := range 50 {
			id := fmt.Sprint("batch", k)
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 30 + rng.Int64N(200), Needs: []workload.Need{
				{AnyOf: []string{"cook", "second"}, Units: []int64{1, 4}[rng.IntN(2)]}, {AnyOf: []string{"rings"}, Units: 1 + rng.Int64N(2)}}})
			first := rng.IntN(24)
			for j := first; j <= min(23, first+rng.IntN(4)); j++ {
				best := rng.Int64N(300)
				w.Links = append(w.Links, workload.Link{From: id, To: fmt.Sprint("plating", j), Kind: workload.FinishStart, Best: &best, Weight: 12})
			}
		}
		require.NoError(t, workload.Check(w))
		s := schedule.Solve(context.Background(), w, schedule.Options{Seed: int64(seed), Rounds: 400, Anyway: true})
		require.Equal(t, workload.Feasible, s.Status, s.Broken)
		accepted(t, w, s)
	}
}
