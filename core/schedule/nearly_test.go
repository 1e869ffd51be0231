package schedule

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// pressed is a cook alone with some tables, each fried, rested for a while and plated, the rest no longer and the table no later than it
// may; and the same once the plan is told and the cook is called away for a few minutes, so that little room is left.
func pressed(t *testing.T, seed uint64) (w *workload.Workload, told *workload.Schedule) {
	r := rand.New(rand.NewPCG(seed, 2))
	return pressedBy(t, r, 8+r.IntN(7), 1500, 0)
}

// pressedBy is pressed with so many tables, the cook called away at the latest so many seconds after the first is begun, and so many
// seconds more between one table and the next.
func pressedBy(t *testing.T, r *rand.Rand, tables int, away, slack int64) (w *workload.Workload, told *workload.Schedule) {
	zero := int64(0)
	cook := []workload.Need{{AnyOf: []string{"ada"}, Units: 1}}
	w = &workload.Workload{Objective: workload.Joins, Horizon: int64(10_000 + 1000*tables),
		Resources: []workload.Resource{{ID: "ada", Capacity: 1}}}
	at := int64(1000)
	for i := range tables {
		fry, plate, table := fmt.Sprintf("fry-%d", i), fmt.Sprintf("plate-%d", i), fmt.Sprintf("table-%d", i)
		seconds := int64(60 * (1 + r.IntN(5)))
		rest := int64(11 * r.IntN(30))
		longest := rest + int64(7*r.IntN(16))
		at += seconds + 60 + int64(30*r.IntN(3)) + slack
		wish := at + rest
		latest := wish + int64(13*r.IntN(56))
		w.Tasks = append(w.Tasks, workload.Task{ID: fry, Seconds: seconds, Needs: cook}, workload.Task{ID: plate, Seconds: 60, Needs: cook})
		w.Links = append(w.Links, workload.Link{From: fry, To: plate, Kind: workload.FinishStart, Min: rest, Max: &longest},
			workload.Link{From: plate, To: table, Kind: workload.FinishStart, Max: &zero})
		w.Joins = append(w.Joins, workload.Join{ID: table, At: &wish, Latest: &latest, Weight: 4, EarlyWeight: 1})
	}
	told = Solve(t.Context(), w, Options{Seed: 1, Rounds: 100})
	require.Empty(t, told.Broken)
	now, from := int64(1), 1000+r.Int64N(away)
	to := from + int64(17*(1+r.IntN(28)))
	w.Now = &now
	w.Resources[0].HasWindows = true
	w.Resources[0].Windows = []workload.Window{{From: 0, To: from, Capacity: 1}, {From: to, To: w.Horizon, Capacity: 1}}
	require.NoError(t, workload.Check(w))
	return w, told
}

// Where what was told finds no room as it is, what is near it with the rules as prices is gone on from or told: it moves less than a plan
// made anew. A rule is broken for that only where it is asked for, and that one moves so much more that it is the worse of the two.
func TestNearWhatWasToldRatherThanAnew(t *testing.T) {
	for _, c := range []struct {
		seed   uint64
		found  bool // whether what was told finds room in any way
		broken int  // how many rules what is near it breaks
		told   int  // and how many the plan that is told then
		most   int64
	}{ // the most that may move, seconds; beside it what a plan made anew, or around what was told, moves
		{230, false, 0, 0, 4000},  // 15,522
		{1910, false, 0, 0, 8000}, // 19,146
		{46, true, 0, 0, 2000},    // 4,474
		{34, true, 0, 0, 1000},    // 1,729
		{465, false, 1, 0, 5000},  // 12,983
		{1923, false, 1, 1, 4000}, // 12,761
		{33, false, 3, 0, 8000},
		{69, false, 2, 0, 20_000},
	} {
		w, told := pressed(t, c.seed)
		o := Options{Seed: 1, Rounds: 60, Anyway: true, Stay: true, Previous: told, MovePrice: 4}
		p := compile(w)
		require.Nil(t, p.propagate())
		p.priceMoves(&o)
		s := &solver{p: p, o: o, ctx: t.Context()}
		b := newBuilder(t.Context(), p, 1)
		require.Equal(t, c.found, s.startFromPrevious(b, p.groups()), c.seed)
		require.True(t, s.torn, c.seed)
		near := s.nearlyKept()
		require.Len(t, near.broken(), c.broken, c.seed)
		x := Solve(t.Context(), w, o)
		require.Len(t, x.Broken, c.told, c.seed)
		for _, k := range x.Broken {
			require.NotContains(t, []workload.Rule{workload.RuleWindow, workload.RuleCapacity}, k.Rule)
		}
		seconds, _ := x.Moved(told, nil)
		require.Less(t, seconds, c.most, c.seed)
		if !c.found { // not the dearer of the two
			require.LessOrEqual(t, near.prices.cost(startsOf(p, x)), near.prices.cost(near.x), c.seed)
		}
		o.Stay = false
		require.Empty(t, Solve(t.Context(), w, o).Broken, c.seed)
	}
}

// startsOf is when a schedule has each node.
func startsOf(p *problem, s *workload.Schedule) []int64 {
	x := make([]int64, p.n)
	for v := range p.real {
		x[v] = s.Tasks[v].Start
	}
	for k, j := range s.Joins {
		x[p.tasks+k] = j.At
	}
	return x
}

// A rule is not broken where that is not asked for, nor before anything has happened, nor where what is told is not paid for.
func TestNothingIsNearlyKept(t *testing.T) {
	near := func(w *workload.Workload, o Options) *nearly {
		p := compile(w)
		require.Nil(t, p.propagate())
		p.priceMoves(&o)
		n, _ := (&solver{p: p, o: o, ctx: t.Context(), torn: true}).besideTold(p.groups(), true, true)
		return n
	}
	w, told := pressed(t, 465)
	o := Options{Seed: 1, Rounds: 60, Stay: true, Previous: told, MovePrice: 4}
	require.True(t, near(w, o).few())
	o.Stay = false
	require.Nil(t, near(w, o))
	o.Stay = true
	now := w.Now
	w.Now = nil
	require.Nil(t, near(w, o))
	w.Now, o.MovePrice = now, 0
	require.Nil(t, near(w, o))
	w, o.Previous = pressed(t, 422)
	o.MovePrice = 4
	require.Len(t, near(w, o).breaks, fewBroken+1)
}

// A few things may wait longer though another schedule keeps every rule; more may not, and nothing has what is not there.
func TestFewRules(t *testing.T) {
	late := workload.Broken{Rule: workload.RuleMax, By: 900, Unit: "s"}
	absent := workload.Broken{Rule: workload.RuleCapacity, By: 1, Unit: "unit"}
	for _, c := range []struct {
		breaks []workload.Broken
		few    bool
	}{{nil, true}, {[]workload.Broken{late, late, late}, true}, {[]workload.Broken{late, late, late, late}, false},
		{[]workload.Broken{late, absent}, false}} {
		require.Equal(t, c.few, (&nearly{breaks: c.breaks}).few(), "%v", c.breaks)
	}
}

// Where an answer is wanted at once, what is near what was told is told with all that it breaks, once a few other orders have not done; one
// that keeps every rule is found where there is time.
func TestAnAnswerAtOnce(t *testing.T) {
	w, told := pressedBy(t, rand.New(rand.NewPCG(345, 3)), 46, 9000, 60)
	o := Options{Seed: 1, Rounds: 60, Anyway: true, Stay: true, Previous: told, MovePrice: 4}
	s := Solve(t.Context(), w, o)
	require.Equal(t, workload.BestEffort, s.Status)
	require.Greater(t, len(s.Broken), fewBroken)
	o.Stay = false
	found := Solve(t.Context(), w, o)
	require.Empty(t, found.Broken)
	require.Less(t, 3*s.Search.Schedules, found.Search.Schedules)
}
