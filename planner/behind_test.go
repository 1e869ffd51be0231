package planner_test

import (
	"io"
	"log/slog"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/planner"
)

// looking is a planner that looks for a better plan for so many rounds.
func looking(t *testing.T, m *memory, rounds int) *planner.Planner {
	p := planner.New(m, planner.Options{Clock: func() time.Time { return afternoon }, Rounds: rounds, Patience: 100,
		Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	t.Cleanup(p.Close)
	return p
}

// How long a better plan is looked for behind one can be said; what is told then says it, and is found again by that.
func TestHowLongABetterPlanIsLookedFor(t *testing.T) {
	const rounds = 700
	p := looking(t, kitchenOf(t), rounds)
	plan := settled(t, p, service).Plan
	require.Equal(t, planner.Better, plan.Kind, "the first answer, of %d rounds, is far from the best", planner.FirstRounds())
	require.Equal(t, []int{planner.FirstRounds(), rounds, 4 * rounds}, plan.Rounds)
	require.Equal(t, int64(3), plan.Number, "each of the two searches has found one")

	require.Zero(t, planner.HowFar(p, plan, 0, 0))
	require.InDelta(t, 0.1, planner.HowFar(p, plan, 0, rounds/2), 1e-9)
	require.InDelta(t, 0.2, planner.HowFar(p, plan, 1, 0), 1e-9)
	require.InDelta(t, 0.6, planner.HowFar(p, plan, 1, 2*rounds), 1e-9)
	require.InDelta(t, 1, planner.HowFar(p, plan, 2, 0), 1e-9)
}

// What was made from nothing nobody has seen for long: it may move for nothing. What was changed moves at a price, and anew only for a
// tenth.
func TestWhatMovingCostsBehindAPlan(t *testing.T) {
	p := looking(t, kitchenOf(t), 1)
	for _, kind := range []planner.Kind{planner.First, planner.Again} {
		moving, saves := planner.Prices(p, kind)
		require.Equal(t, []int64{0, 0}, moving, kind)
		require.Equal(t, []int64{0, 0}, saves, kind)
	}
	for _, kind := range []planner.Kind{planner.Change, planner.Mended, planner.Used, planner.Better} {
		moving, saves := planner.Prices(p, kind)
		require.Equal(t, []int64{1, 0}, moving, kind)
		require.Equal(t, []int64{0, 10}, saves, kind)
	}
}

// grown leaves the evening with so many tables that come one by one, each planned before the next, and returns the last plan.
func grown(t *testing.T, p *planner.Planner, m *memory, tables int) (last *planner.Plan) {
	t.Helper()
	all := slices.Clone(tonight(&m.data).Tables)
	require.GreaterOrEqual(t, len(all), tables)
	come := make([]bool, len(all))
	for n := range tables {
		come[(n*7+3)%len(all)] = true // not in the order of the evening
		m.change(t, key("service/"+service), func(d *kitchen.Data) {
			s := tonight(d)
			s.Tables = nil
			for i, x := range all {
				if come[i] {
					s.Tables = append(s.Tables, x)
				}
			}
		})
		last = settled(t, p, service).Plan
	}
	return last
}

// An evening costs hardly more when its tables come one by one: a plan that only ever follows the one before it stays in the order of work
// of the first few.
func TestAnEveningThatGrowsTableByTable(t *testing.T) {
	const rounds = 400
	m := kitchenOf(t)
	p := looking(t, m, rounds)
	oneByOne := grown(t, p, m, 12)
	require.Empty(t, oneByOne.Rounds, "it hangs on the plans before it")
	atOnce, err := looking(t, &memory{data: m.data, book: m.book, records: map[string][]*planner.Record{},
		marks: map[string]map[int64]map[planner.Mark]time.Time{}}, rounds).Settled(t.Context(), service)
	require.NoError(t, err)
	require.Less(t, oneByOne.View.Cost, 2*atOnce.Plan.View.Cost)

	// Made again it stays until something better is found: what is found first from nothing costs more.
	again, err := p.Again(t.Context(), service)
	require.NoError(t, err)
	require.LessOrEqual(t, again.Plan.View.Cost, oneByOne.View.Cost)
	require.Positive(t, atOnce.Plan.Number-1, "the first answer was not the last")
	last := settled(t, p, service)
	require.LessOrEqual(t, last.Plan.View.Cost, again.Plan.View.Cost)
	for n := oneByOne.Number + 1; n <= last.Plan.Number; n++ {
		require.Equal(t, planner.Better, m.records["service/"+service][n-1].Kind)
	}
}

// A plan that is printed stays, whatever could be made without regard for it.
func TestNoPlanIsMadeAnewInPlaceOfAPrintedOne(t *testing.T) {
	m := kitchenOf(t)
	p := looking(t, m, 400)
	first, err := p.Service(t.Context(), service)
	require.NoError(t, err)
	require.NoError(t, p.Print(t.Context(), service, first.Plan.Number))
	last := settled(t, p, service)
	require.True(t, last.Held)
	require.LessOrEqual(t, last.Plan.View.Cost+planner.Moved(first.Plan, last.Plan), first.Plan.View.Cost)
}

// Looked on after a new start of the program, near what it has told, a plan no longer says by how many rounds it is found.
func TestHowAPlanIsFoundAfterANewStart(t *testing.T) {
	const rounds = 700
	m := kitchenOf(t)
	p := looking(t, m, rounds)
	for {
		s, err := p.Service(t.Context(), service)
		require.NoError(t, err)
		if s.Plan.Kind == planner.Better {
			break
		}
		time.Sleep(time.Millisecond)
	}
	p.Close()
	plan := settled(t, looking(t, m, rounds), service).Plan
	whole := []int{planner.FirstRounds(), rounds, 4 * rounds}
	if n := len(plan.Rounds); n > 0 {
		require.Equal(t, whole[:n], plan.Rounds)
	}
}
