package schedule

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// twoTimes is a stock that must be there at 1:00, and would better be ready at 0:10: it may stand for a minute, and every second more is
// dear. Another needs the same cook and has one time.
func twoTimes() *workload.Workload {
	need, ease, best := int64(3600), int64(600), int64(60)
	cook := []workload.Need{{AnyOf: []string{"cook"}, Units: 1}}
	return &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000,
		Resources: []workload.Resource{{ID: "cook", Capacity: 1}},
		Joins: []workload.Join{{ID: "ease", At: &ease, Weight: 1, EarlyWeight: 1}, {ID: "need", At: &need, Weight: 40, EarlyWeight: 1},
			{ID: "other", At: &need, Weight: 40, EarlyWeight: 1}, {ID: "nothing", At: &need, Weight: 1, EarlyWeight: 1}},
		Tasks: []workload.Task{{ID: "stock", Seconds: 300, Needs: cook}, {ID: "herbs", Seconds: 300, Needs: cook}},
		Links: []workload.Link{{From: "stock", To: "ease", Kind: workload.FinishStart}, {From: "herbs", To: "other", Kind: workload.FinishStart},
			{From: "stock", To: "need", Kind: workload.FinishStart, Best: &best, Weight: 12}}}
}

// A join without tasks follows the group that has those it hangs on; one that hangs on nothing follows none, and no group with tasks does.
func TestWhatFollows(t *testing.T) {
	m := searching(t, twoTimes(), 1)
	of := func(id string) int {
		return slices.IndexFunc(m.gs, func(g group) bool { return g.join >= 0 && m.p.id(g.join) == id })
	}
	stock := m.homes[slices.IndexFunc(m.p.w.Tasks, func(x workload.Task) bool { return x.ID == "stock" })]
	follows := of("need") + of("ease") - stock // the one of the two that has no task
	require.Contains(t, []int{of("need"), of("ease")}, stock)
	for k := range m.gs {
		want, behind := -1, []int(nil)
		if k == follows {
			want = stock
		}
		if k == stock {
			behind = []int{follows}
		}
		require.Equal(t, want, m.leader[k], m.p.id(m.gs[k].join))
		require.Equal(t, behind, m.followers[k], m.p.id(m.gs[k].join))
	}
	require.Equal(t, stock, m.led(follows))
	require.Equal(t, of("other"), m.led(of("other")))
	require.Equal(t, of("nothing"), m.led(of("nothing")))
	m.outGroups = append(m.outGroups[:0], follows, of("other"), stock, of("nothing"))
	m.followersLast()
	require.Equal(t, []int{of("other"), stock, of("nothing"), follows}, m.outGroups, "the others as they were")
	// In no round is one of the two taken out without the other.
	whole := 0
	for range 400 {
		require.True(t, m.choose())
		if len(m.outGroups) > 0 {
			a, b := slices.Contains(m.outGroups, stock), slices.Contains(m.outGroups, follows)
			require.Equal(t, a, b)
			if a {
				whole++
				for _, k := range []int{stock, follows} {
					require.Subset(t, m.out, append([]int32{int32(m.gs[k].join)}, m.gs[k].nodes...))
				}
			}
		}
	}
	require.Positive(t, whole)
}

// What is ready by the time that would be better waits for fifty minutes at a dear price. Made later it is dear by the better time and in
// time for the other: one round finds that, since both of its joins are put down anew.
func TestWhatFollowsComesLaterWithIt(t *testing.T) {
	m := searching(t, twoTimes(), 1)
	x := slices.Clone(m.x)
	for v := range m.p.n {
		switch m.p.id(v) {
		case "stock":
			x[v] = 300
		case "ease":
			x[v] = 600
		case "need", "other", "nothing":
			x[v] = 3600
		case "herbs":
			x[v] = 3000
		}
	}
	m.adopt(x, m.on)
	require.Equal(t, int64((3600-600-60)*12), m.current)
	m.keep()
	m.heatUp(coldest, 100)
	stock := m.homes[slices.IndexFunc(m.p.w.Tasks, func(x workload.Task) bool { return x.ID == "stock" })]
	for range 60 {
		m.out, m.outGroups = m.out[:0], append(m.outGroups[:0], stock)
		m.takeGroups()
		m.out = m.whole(m.out)
		m.save()
		m.settles = true
		cost, ok := m.rebuild(m.current)
		require.Len(t, m.outGroups, 2)
		require.Equal(t, stock, m.outGroups[0], "what it follows is put down before it")
		if ok {
			require.Equal(t, m.p.cost(m.x), cost)
			m.current = cost
			m.haveMoved(m.out)
		} else {
			m.revert()
		}
	}
	// A minute before the hour at the latest: 2,940 s behind the better time.
	require.GreaterOrEqual(t, m.current, int64(2940))
	require.Less(t, m.current, int64(3000))
	require.Empty(t, m.broken())
	m.run(context.Background(), 200, 2940, nil)
	m.adopt(m.bestX, m.bestOn)
	require.Equal(t, int64(2940), m.current)
}

// What follows, and cannot be in time, comes as soon as what it follows lets it.
func TestWhatFollowsIsAsSoonAsItCan(t *testing.T) {
	m := searching(t, twoTimes(), 1)
	x := slices.Clone(m.x)
	for v := range m.p.n {
		if at, moved := map[string]int64{"stock": 5000, "ease": 5300, "need": 6000, "herbs": 3000}[m.p.id(v)]; moved {
			x[v] = at
		}
	}
	m.adopt(x, m.on)
	follows := slices.IndexFunc(m.leader, func(l int) bool { return l >= 0 })
	j := m.gs[follows].join
	require.Equal(t, "need", m.p.id(j))
	m.remove([]int32{int32(j)})
	require.True(t, m.fit.insert(follows, x, m.on))
	require.Equal(t, int64(5300), m.x[j])
}
