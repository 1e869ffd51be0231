package schedule

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// busyPass is a kitchen of two cooks and a pan of its own for each of eight tables: what is fried by a cook is taken out by the same one.
// By hand: each cook has four tables, a quarter of an hour apart, so that all is as it is wanted. The second run of a table is exactly
// after the first.
func busyPass() *workload.Workload {
	zero, long := int64(0), int64(120)
	w := &workload.Workload{Objective: workload.Joins, Horizon: 20_000,
		Resources: []workload.Resource{{ID: "ada", Capacity: 1}, {ID: "pim", Capacity: 1}}}
	for i := range 8 {
		at, cook := int64(2000+450*i), []string{"ada", "pim"}
		fry, out, table := fmt.Sprintf("fry-%d", i), fmt.Sprintf("out-%d", i), fmt.Sprintf("table-%d", i)
		w.Tasks = append(w.Tasks, workload.Task{ID: fry, Seconds: 600, Needs: []workload.Need{{AnyOf: cook, Units: 1}}},
			workload.Task{ID: out, Seconds: 30, Needs: []workload.Need{{AnyOf: cook, Units: 1, As: &workload.As{Task: fry, Need: 0}}}})
		w.Links = append(w.Links, workload.Link{From: fry, To: out, Kind: workload.FinishStart, Max: &zero},
			workload.Link{From: out, To: table, Kind: workload.FinishStart, Max: &long, Weight: 1, Best: &zero})
		w.Joins = append(w.Joins, workload.Join{ID: table, At: &at, Weight: 4, EarlyWeight: 4})
	}
	return w
}

// What cannot be kept in one place moves nothing that has nothing to do with it: pim has fried for the first table, and was called away
// before it comes out. Nobody else may take it out, so that rule is broken; a plan that began anew would move all tables.
func TestARuleThatCannotBeKeptMovesNothingElse(t *testing.T) {
	w := busyPass()
	told := Solve(t.Context(), w, Options{Seed: 1, Rounds: 400})
	require.Empty(t, told.Broken)
	was := map[string]workload.Run{}
	for _, r := range told.Tasks {
		was[r.ID] = r
	}
	fry := was["fry-0"]
	now := fry.Start + 300
	again := *w
	again.Now = &now
	again.Fixed = []workload.Fixed{{Task: "fry-0", Start: fry.Start, Resources: fry.Resources}}
	again.Resources = append([]workload.Resource(nil), w.Resources...)
	for i := range again.Resources {
		if r := &again.Resources[i]; r.ID == fry.Resources[0] {
			r.HasWindows, r.Windows = true, []workload.Window{{From: 0, To: fry.Finish, Capacity: 1},
				{From: fry.Finish + 30, To: 20_000, Capacity: 1}}
		}
	}
	require.NoError(t, workload.Check(&again))
	s := Solve(t.Context(), &again, Options{Seed: 1, Rounds: 60, Anyway: true, Previous: told, MovePrice: 4})
	require.Len(t, s.Broken, 1, "%+v", s.Broken)
	require.Equal(t, workload.RuleWindow, s.Broken[0].Rule)
	require.Contains(t, s.Broken[0].IDs, "out-0")
	for _, r := range s.Tasks {
		require.Equal(t, was[r.ID].Start, r.Start, r.ID)
		require.Equal(t, was[r.ID].Resources, r.Resources, r.ID)
	}
}

// A schedule that keeps every rule costs the same where the rules have become prices, also where the length of a run is chosen: a link to
// its start means that, and not its end, which has the same name.
func TestRulesAsPricesCostNothingWhereTheyAreKept(t *testing.T) {
	w := resting(0)
	s := Solve(t.Context(), w, Options{})
	require.Equal(t, workload.Optimal, s.Status)
	p := compile(relax(w, true))
	require.Nil(t, p.propagate())
	p.priceRules(w)
	b := newBuilder(t.Context(), p, 1)
	for v := range p.n {
		at := start(s, p.id(v))
		switch {
		case v >= p.tasks:
			at = s.Joins[v-p.tasks].At
		case v >= p.real:
			at = s.Tasks[0].Finish
			require.Equal(t, "rest", s.Tasks[0].ID)
		}
		b.put(v, at)
	}
	require.Equal(t, *s.Cost, p.cost(b.x))
}

// Beside what has begun: who has it in hand is who has it to the end, so that what nobody else may do is known at once.
func TestWhatNobodyElseMayDoIsHopeless(t *testing.T) {
	w := busyPass()
	now := int64(1500)
	w.Now = &now
	w.Fixed = []workload.Fixed{{Task: "fry-0", Start: 1300, Resources: []string{"pim"}}}
	for from, hopeless := range map[int64]bool{1900: true, 1929: true, 1930: false} {
		w.Resources[1].HasWindows, w.Resources[1].Windows = true, []workload.Window{{From: 0, To: from, Capacity: 1}}
		p := compile(w)
		require.Nil(t, p.propagate())
		c := p.hopeless()
		require.Equal(t, hopeless, c != nil, "until %d", from)
	}
}

// What was put down without room finds some where there is some: all of a table is put elsewhere for it.
func TestWhatWasForcedInFindsRoom(t *testing.T) {
	p := compile(busyPass())
	require.Nil(t, p.propagate())
	b, gs := newBuilder(t.Context(), p, 1), p.groups()
	require.True(t, b.construct(t.Context(), gs))
	require.Empty(t, b.broken())
	first, second := gs[0].nodes[0], gs[2].nodes[0]
	v := p.lead[second]
	all := b.members(&gs[2])
	b.remove(all)
	for _, sg := range p.segs[v] {
		b.on[sg.node][sg.need] = b.on[first][0]
	}
	b.place(gs[2].join, b.p.wish(gs[2].join))
	b.place(int(v), b.x[p.lead[first]])
	require.NotEmpty(t, b.broken())
	b.unforce(t.Context(), gs, nil)
	require.NotEmpty(t, b.broken(), "nothing was said to be forced")
	b.unforce(t.Context(), gs, []int32{v})
	require.Empty(t, b.broken())
}

// twoPans are two tasks put down on one pan at one time, of which the other could have it from an instant on; by then its table is late,
// each second as dear as said.
func twoPans(t *testing.T, weight, from int64) (b *builder, gs []group, forced int32) {
	pan := []workload.Need{{AnyOf: []string{"pan"}, Units: 1}}
	w := &workload.Workload{Objective: workload.Joins, Horizon: 100_000,
		Resources: []workload.Resource{{ID: "pan", Capacity: 1, HasWindows: true,
			Windows: []workload.Window{{From: 0, To: 300, Capacity: 1}, {From: from, To: 100_000, Capacity: 1}}}},
		Tasks: []workload.Task{{ID: "a", Seconds: 200, Needs: pan}, {ID: "b", Seconds: 200, Needs: pan}}}
	for _, id := range []string{"a", "b"} {
		w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: ptrOf(int64(250)), Weight: weight, EarlyWeight: 1})
		w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Weight: 1})
	}
	require.NoError(t, workload.Check(w))
	p := compile(w)
	require.Nil(t, p.propagate())
	b, gs = newBuilder(t.Context(), p, 1), p.groups()
	for _, g := range gs {
		for _, v := range g.nodes {
			b.place(int(v), 50)
		}
		b.place(g.join, 250)
	}
	require.Len(t, b.broken(), 1)
	return b, gs, gs[1].nodes[0]
}

// What was put down without room is put elsewhere, unless that puts something off by so much that it is the greater evil.
func TestWhatWasForcedInStaysWhereElsewhereIsWorse(t *testing.T) {
	b, gs, v := twoPans(t, 10, 5000)
	b.unforce(t.Context(), gs, []int32{v})
	require.Empty(t, b.broken())
	require.EqualValues(t, 5000, b.x[v])
	b, gs, v = twoPans(t, 10_000, 5000)
	b.unforce(t.Context(), gs, []int32{v})
	require.Len(t, b.broken(), 1)
	require.EqualValues(t, 50, b.x[v])
}

// Where what was put down without room finds none beside the others, one of these makes way for it.
func TestOthersMakeWayForWhatWasForcedIn(t *testing.T) {
	made := 0
	for seed := range uint64(40) {
		p := compile(packed(seed, 30))
		require.Nil(t, p.propagate())
		gs := p.groups()
		b := newBuilder(t.Context(), p, 1)
		if b.construct(t.Context(), gs) {
			continue
		}
		var forced []int32
		for i := range gs {
			if !b.hasPlace(&gs[i]) {
				b.force(&gs[i])
				forced = append(forced, gs[i].nodes...)
			}
		}
		require.NotEmpty(t, b.broken())
		if b.unforce(t.Context(), gs, forced); len(b.broken()) == 0 {
			made++
		}
		for v := range p.n {
			require.True(t, b.placed[v])
		}
	}
	require.GreaterOrEqual(t, made, 10)
}

// What there is no time for tonight is not put off until whoever does it is there again tomorrow.
func TestTomorrowIsOfNoUse(t *testing.T) {
	cook := []workload.Need{{AnyOf: []string{"ada"}, Units: 1}}
	w := &workload.Workload{Objective: workload.Joins, Horizon: 2000, Resources: []workload.Resource{{ID: "ada", Capacity: 1, HasWindows: true,
		Windows: []workload.Window{{From: 0, To: 1000, Capacity: 1}, {From: 100_000, To: 110_000, Capacity: 1}}}}}
	for _, id := range []string{"a", "b"} {
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 600, Needs: cook})
		w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: ptrOf(int64(800)), Weight: 1})
		w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Weight: 1})
	}
	require.NoError(t, workload.Check(w))
	s := Solve(t.Context(), w, Options{Seed: 1, Rounds: 50, Anyway: true})
	require.Equal(t, workload.BestEffort, s.Status)
	for _, r := range s.Tasks {
		require.LessOrEqual(t, r.Finish, w.Horizon, r.ID)
	}
	w.Resources[0].Windows[0].To = 1200
	s = Solve(t.Context(), w, Options{Seed: 1, Rounds: 50, Anyway: true})
	require.Empty(t, s.Broken, "there is time for both")
	require.Len(t, w.Resources[0].Windows, 2, "and the workload is as it was")
}

// What nobody can do is as dear as an hour's wait, whatever it is.
func TestWhatBrokenRulesCost(t *testing.T) {
	late, absent := workload.Broken{By: 3, Unit: "s"}, workload.Broken{By: 2, Unit: "unit"}
	require.Zero(t, broke(nil))
	require.EqualValues(t, 3*relaxedWeight, broke([]workload.Broken{late}))
	require.EqualValues(t, 3603*relaxedWeight, broke([]workload.Broken{late, absent}))
}

// Nobody is there for a quarter of an hour, and every table has a latest time that cannot be kept then: who has it late has it late, and
// nothing is told to be done by somebody who is not there. What was over before stands.
func TestWhatCannotBeInTimeIsPushedOn(t *testing.T) {
	w := busyPass()
	told := Solve(t.Context(), w, Options{Seed: 1, Rounds: 400})
	require.EqualValues(t, 0, *told.Cost)
	from, to := int64(2950), int64(3850) // table 2 is ready at 2900, table 3 would be begun at 2720
	for i := range w.Joins {
		w.Joins[i].Earliest, w.Joins[i].Latest = *w.Joins[i].At, ptrOf(*w.Joins[i].At+60)
	}
	now := int64(1)
	w.Now = &now
	for i := range w.Resources {
		w.Resources[i].HasWindows, w.Resources[i].Windows = true, []workload.Window{{From: 0, To: from, Capacity: 1},
			{From: to, To: 20_000, Capacity: 1}}
	}
	require.NoError(t, workload.Check(w))
	s := Solve(t.Context(), w, Options{Seed: 1, Rounds: 60, Anyway: true, Previous: told, MovePrice: 4})
	require.NotEmpty(t, s.Broken)
	for _, b := range s.Broken {
		require.NotContains(t, []workload.Rule{workload.RuleWindow, workload.RuleCapacity}, b.Rule, "%+v", b)
	}
	for k := range 3 {
		require.Equal(t, told.Joins[k].At, s.Joins[k].At, k)
	}
	near := &solver{p: compile(w), ctx: t.Context(), o: Options{Seed: 1, Rounds: 60, Previous: told, MovePrice: 4}}
	p := compile(relax(w, true))
	require.Nil(t, p.propagate())
	p.priceRules(w)
	require.Empty(t, near.relaxedNear(p).broken(), "so it is without a plan made anew")
	for _, r := range s.Tasks {
		require.True(t, r.Finish <= from || r.Start >= to, "%+v", r)
	}
}
