package schedule

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/workload"
)

// The tree of a group has its join first and each of its bodies once, below what it leads up to.
func TestTheTreeOfAGroup(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	below := 0
	for k := range m.gs {
		g := &m.gs[k]
		spots := m.p.waitTree(g)
		var leaders []int32
		for i, s := range spots {
			leaders = append(leaders, s.v)
			require.Less(t, s.parent, i)
			if i > 0 {
				wait := m.x[spots[s.parent].v] - m.x[s.v]
				require.GreaterOrEqual(t, wait, s.least, "it is kept by a schedule that holds")
				require.LessOrEqual(t, wait, s.most)
				require.GreaterOrEqual(t, s.best, s.least)
			}
			if s.parent > 0 {
				below++
			}
		}
		want := append(m.p.leaders(nil, g.nodes), int32(g.join))
		require.ElementsMatch(t, want, leaders)
		require.Equal(t, int32(g.join), leaders[0])
	}
	require.Positive(t, below)
}

// How long a wait may be for what it may cost, by hand: nothing until 100, then 1 a second, from 200 on 3.
func TestTheLongestWait(t *testing.T) {
	s := wspot{least: 40, most: far, best: 100, wait: convex{{100, 0, 1}, {200, 0, 2}}}
	for may, long := range map[int64]int64{0: 100, 1: 101, 100: 200, 102: 200, 103: 201, 400: 300, -5: 100} {
		require.Equal(t, long, s.longest(may), "for %d", may)
		if may >= 0 {
			require.LessOrEqual(t, s.costs(long), float64(may))
			require.Greater(t, s.costs(long+1), float64(may))
		}
	}
	require.Equal(t, int64(100+longestWait), s.longest(far), "and no longer than that")
	s.most = 150
	require.Equal(t, int64(150), s.longest(400))
	require.Equal(t, impossibly, s.costs(39))
	require.Equal(t, 0.0, s.costs(40))
	require.Equal(t, impossibly, s.costs(151))
	s = wspot{least: 0, most: far, best: far}
	require.Equal(t, far, s.longest(0), "what costs nothing may be as long as may be")
}

// The least of a spot for each instant of its parent, found by halves, is that of all pairs.
func TestTheLeastByHalves(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		list := func(name string) (out []int64) {
			at := int64(0)
			for range rapid.IntRange(1, 25).Draw(t, name) {
				at += int64(rapid.IntRange(1, 30).Draw(t, name))
				out = append(out, at)
			}
			return out
		}
		parents := list("parents")
		s := wspot{at: list("at"), least: int64(rapid.IntRange(-40, 60).Draw(t, "least"))}
		s.most = s.least + int64(rapid.IntRange(0, 200).Draw(t, "most"))
		for range rapid.IntRange(0, 3).Draw(t, "prices") {
			s.wait = append(s.wait, hinge{int64(rapid.IntRange(-50, 100).Draw(t, "from")), int64(rapid.IntRange(0, 3).Draw(t, "before")),
				int64(rapid.IntRange(0, 9).Draw(t, "after"))})
		}
		for range s.at {
			s.cost = append(s.cost, float64(rapid.IntRange(0, 500).Draw(t, "cost")))
		}
		row := make([]float64, len(parents))
		s.halve(row, parents, 0, len(s.at)-1)
		for i, p := range parents {
			least := impossibly
			for k, at := range s.at {
				least = min(least, s.cost[k]+s.costs(p-at))
			}
			require.Equal(t, min(least, impossibly), row[i], "of the parent at %d", p)
		}
	})
}

// What is fitted in costs no more than where it stood, keeps every rule, and costs what it says; what may cost less than that stays out.
func TestAGroupFitsInWhereItStoodAtTheWorst(t *testing.T) {
	better, kept, whole := 0, 0, 0
	for seed := range uint64(6) {
		m := searching(t, smallNight().Evening(seed), 1)
		for k := range m.gs {
			g := &m.gs[k]
			m.out = m.whole(append(slices.Clone(g.nodes), int32(g.join)))
			m.save()
			m.remove(m.out)
			was := m.costOut()
			m.may = far
			require.True(t, m.fit.insert(k, m.savedX, m.savedOn))
			spent := m.spent
			spots := m.fit.trees[k]
			root := &spots[0]
			old, there := slices.BinarySearch(root.at, m.savedX[g.join])
			require.True(t, there, "where its join stood is looked at")
			require.LessOrEqual(t, root.cost[old], float64(was), "what stood there has been looked at")
			for _, spot := range spots[1:] {
				require.Contains(t, spot.at, m.savedX[spot.v], "and where each body stood")
			}
			promised := root.cost[cheapest(root.cost)]
			if float64(spent) == promised {
				kept++
			}
			require.Equal(t, m.current-was+spent, m.p.cost(m.x))
			require.Empty(t, m.broken())
			if whole++; spent <= was {
				better++
			}
			m.remove(m.out)
			m.may = spent - 1
			if m.fit.insert(k, m.savedX, m.savedOn) { // other instants are drawn: it may be better still
				require.Less(t, m.spent, spent)
				m.remove(m.out)
			}
			m.may = -1
			require.False(t, m.fit.insert(k, m.savedX, m.savedOn), "nothing costs less than nothing")
			for _, v := range m.out {
				require.False(t, m.placed[v])
			}
			m.may = far
			m.revert()
			require.Equal(t, m.current, m.p.cost(m.x))
		}
	}
	require.Greater(t, kept, whole*2/3, "it is mostly what is promised")
	require.Greater(t, better, whole*3/4, "two that want the same room may not both have what is best")
}

// Two steps that lead up to a plate, one after the other, with a cook who is taken now and then: the least of all instants, found by
// trying them all.
func TestFittingInAgainstAllInstants(t *testing.T) {
	exact, all := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, lo, hi int) int64 { return int64(rapid.IntRange(lo, hi).Draw(t, name)) }
		at, best, best2 := draw("at", 30, 50), draw("best", 0, 6), draw("best2", 0, 6)
		w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 64,
			Resources: []workload.Resource{{ID: "cook", Capacity: 1}, {ID: "oven", Capacity: 1}},
			Joins:     []workload.Join{{ID: "j", At: &at, Weight: 3, EarlyWeight: draw("early", 1, 5)}},
			Tasks: []workload.Task{
				{ID: "a", Seconds: draw("a", 2, 8), Needs: []workload.Need{{AnyOf: []string{"cook"}, Units: 1}}},
				{ID: "b", Seconds: draw("b", 2, 8), Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1}}}},
			Links: []workload.Link{{From: "a", To: "b", Kind: workload.FinishStart, Best: &best, Weight: draw("wait", 1, 6)},
				{From: "b", To: "j", Kind: workload.FinishStart, Best: &best2, Weight: draw("wait2", 1, 6)}}}
		for i, r := range []string{"cook", "cook", "oven", "oven"} {
			id := string(rune('p' + i))
			from := draw("busy", 0, 25) + int64(i%2)*28
			needs := []workload.Need{{AnyOf: []string{r}, Units: 1}}
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: draw("for", 1, 9), Needs: needs})
			w.Fixed = append(w.Fixed, workload.Fixed{Task: id, Start: from, Resources: []string{r}})
		}
		p := compile(w)
		if p.propagate() != nil {
			return
		}
		gs := p.groups()
		b := newBuilder(context.Background(), p, 1)
		if !b.construct(context.Background(), gs) {
			return
		}
		m := newImprover(b, gs)
		a, o, j := 0, 1, p.tasks
		m.out = append(m.out[:0], int32(a), int32(o), int32(j))
		m.save()
		m.remove(m.out)
		least := far
		for x := range int64(60) {
			if m.prof[0].fits(x, x+p.dur[a], 1) {
				least = min(least, m.leastFrom(x, a, o, j))
			}
		}
		was := m.costOut()
		m.may = far
		require.True(t, m.fit.insert(0, m.savedX, m.savedOn))
		require.GreaterOrEqual(t, m.spent, least)
		require.LessOrEqual(t, m.spent, was)
		if all++; m.spent == least {
			exact++
		}
	})
	require.Greater(t, exact, all*3/5, "it is mostly the least of all")
}

// leastFrom is the least that a join and its two steps cost, with the first of them at an instant, beside what is placed.
func (m *improver) leastFrom(x int64, a, b, j int) int64 {
	p, least := m.p, int64(far)
	at := make([]int64, p.n)
	for y := x + p.dur[a]; y < 64-p.dur[b]; y++ {
		if !m.prof[1].fits(y, y+p.dur[b], 1) {
			continue
		}
		for z := y + p.dur[b]; z <= 64; z++ {
			copy(at, m.x)
			at[a], at[b], at[j] = x, y, z
			least = min(least, p.cost(at))
		}
	}
	return least
}

// What a body had it has again, where that has room, whatever the turn of the others is.
func TestWhatABodyHadItHasAgain(t *testing.T) {
	at := int64(300)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 1000,
		Resources: []workload.Resource{{ID: "a", Capacity: 1}, {ID: "b", Capacity: 1}, {ID: "c", Capacity: 1}},
		Joins:     []workload.Join{{ID: "j", At: &at, Weight: 1, EarlyWeight: 1}},
		Tasks:     []workload.Task{{ID: "t", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"a", "b", "c"}, Units: 1}}}},
		Links:     []workload.Link{{From: "t", To: "j", Kind: workload.FinishStart, Weight: 1}}}
	for had := range int32(3) {
		for turn := range uint32(3) {
			m := searching(t, w, 1)
			m.out = append(m.out[:0], 0, 1)
			m.save()
			m.remove(m.out)
			m.savedOn[0][0] = had
			m.may, m.pick = far, turn
			require.True(t, m.fit.insert(0, m.savedX, m.savedOn))
			require.Equal(t, had, m.on[0][0])
			m.remove(m.out)
			m.prof[had].add(0, 1000, 1) // it is taken now
			require.True(t, m.fit.insert(0, m.savedX, m.savedOn))
			require.NotEqual(t, had, m.on[0][0])
		}
	}
}

// An oven that has to heat first may not be begun with before it is hot: from 100 to 160 degrees at one a second.
func TestAnOvenIsHotBeforeABodyStarts(t *testing.T) {
	p := compile(small())
	require.Nil(t, p.propagate())
	s := newState(p)
	var f finder
	require.Equal(t, []interval{{60, 400}}, f.starts(s, 1, 0, 400, nil))
	s.prof[1].add(200, 250, 1)
	require.Equal(t, []interval{{60, 150}, {250, 400}}, f.starts(s, 1, 0, 400, nil))
}

// What a tree says that a group costs where it stands is what it costs there: each spot by itself and its wait, wherever in a body they
// end.
func TestATreeCostsWhatItsGroupDoes(t *testing.T) {
	w := smallNight().Evening(3)
	tasks := map[string]bool{}
	for i := range w.Tasks {
		tasks[w.Tasks[i].ID] = true
	}
	for i := range w.Links { // from the hands that take out, not from the pan
		if out := w.Links[i].From + "-out"; w.Links[i].Best != nil && tasks[out] {
			w.Links[i].From = out
		}
	}
	m := searching(t, w, 1)
	whole, dear := 0, 0
	for k := range m.gs {
		g := &m.gs[k]
		m.out = m.whole(append(slices.Clone(g.nodes), int32(g.join)))
		m.save()
		m.remove(m.out)
		spots := m.p.waitTree(g)
		in := map[int32]bool{}
		links := 0
		for i := range spots {
			m.standing(&spots[i])
			in[spots[i].v] = true
		}
		var sum int64
		for i := range spots {
			s := &spots[i]
			sum += s.own.cost(m.savedX[s.v])
			if i > 0 {
				sum += s.wait.cost(m.savedX[spots[s.parent].v] - m.savedX[s.v])
				links += len(s.wait)
			}
		}
		for i := range m.p.soft {
			if s := &m.p.soft[i]; in[m.p.lead[s.from]] && in[m.p.lead[s.to]] {
				links--
			}
		}
		was := m.costOut()
		m.revert()
		if links < 0 {
			continue // one closes a circle, and is in no tree
		}
		whole++
		require.Equal(t, was, sum)
		if was > 0 {
			dear++
		}
	}
	require.Greater(t, whole, len(m.gs)/2)
	require.Greater(t, dear, 3)
}

// The instants of a body by hand. It waits 5 at the least and 25 for nothing; there is room until 10, from 20 to 30, and from 50 on.
func TestTheInstantsOfABody(t *testing.T) {
	f := &fitter{old: []int64{22}}
	s := &wspot{least: 5, most: far, best: 25, free: []interval{{0, 10}, {20, 30}, {50, 60}}}
	f.instants(s, []int64{58})
	require.Equal(t, []int64{22, 30, 50, 53}, s.at, "as short as may be, the next after 33, the end before, and where it stood")
	f.instants(s, []int64{33, 58})
	require.Equal(t, []int64{8, 10, 22, 28, 30, 50, 53}, s.at)
	f.old[0] = 40
	f.instants(s, []int64{33})
	require.Equal(t, []int64{8, 10, 28}, s.at, "where it stood there is no room")
}

// Two roasts of one table want the one oven at the end, ten minutes each. Who may hardly wait is put there, though the other came first.
func TestWhoFindsNoRoomGoesFirst(t *testing.T) {
	at := int64(3600)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000,
		Resources: []workload.Resource{{ID: "oven", Capacity: 1}},
		Joins:     []workload.Join{{ID: "j", At: &at, Earliest: at, Latest: &at, Weight: 4, EarlyWeight: 4}}}
	for id, price := range []int64{1, 12} {
		best, name := int64(60), string(rune('a'+id))
		w.Tasks = append(w.Tasks, workload.Task{ID: name, Seconds: 600, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1}}})
		w.Links = append(w.Links, workload.Link{From: name, To: "j", Kind: workload.FinishStart, Best: &best, Weight: price})
	}
	m := searching(t, w, 1)
	m.out = append(m.out[:0], 0, 1, 2)
	m.save()
	m.remove(m.out)
	m.savedX[0], m.savedX[1] = at-600, at-1200
	m.may = far
	require.True(t, m.fit.insert(0, m.savedX, m.savedOn))
	require.LessOrEqual(t, m.spent, int64(600), "the one waits a minute for nothing, and the other ten more")
	require.Less(t, m.x[0], m.x[1])
	m.remove(m.out)
	m.may = 600 - 61 // not even when the one waits for nothing at all
	require.False(t, m.fit.insert(0, m.savedX, m.savedOn), "a second dearer than it may be")
}
