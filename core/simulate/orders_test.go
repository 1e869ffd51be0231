package simulate

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/service"
)

// orderingNight is a night of three tables of the demo in which they order by themselves.
func orderingNight(t *testing.T, seed uint64, set Settings) (base, tonight *Kitchen) {
	e, told := few()
	base = New(e, told, 1)
	tonight, err := base.ordered(seed, set)
	require.NoError(t, err)
	return base, tonight
}

func plates(k *Kitchen) map[string]int {
	out := map[string]int{}
	for _, t := range k.evening.Service.Tables {
		for _, o := range t.Orders {
			out[o.Dish] += o.Count
		}
	}
	return out
}

// What guests order differs from night to night and is the same for a seed. What was planned and is wanted keeps its time within what the
// rest lets it; what is new is not planned, nor begun by any policy, before it was ordered.
func TestANightHasItsOwnOrders(t *testing.T) {
	base, tonight := orderingNight(t, 3, Settings{Orders: true})
	_, same := orderingNight(t, 3, Settings{Orders: true})
	_, other := orderingNight(t, 4, Settings{Orders: true})
	require.Equal(t, plates(tonight), plates(same))
	require.Equal(t, tonight.told.Tasks, same.told.Tasks)
	require.NotEqual(t, plates(tonight), plates(other))
	unchanged, err := base.ordered(3, Settings{})
	require.NoError(t, err)
	require.Same(t, base, unchanged, "nothing differs")

	planned := map[string]bool{}
	for i := range base.pieces {
		planned[base.pieces[i].task] = true
	}
	for i := range tonight.evening.Workload.Tasks {
		if task := &tonight.evening.Workload.Tasks[i]; tonight.pieces[tonight.index[task.ID]].surprise {
			require.GreaterOrEqual(t, float64(task.Earliest), orderedAt(tonight.evening, base.evening.Service, task.ID)-1, task.ID)
		}
	}
	surprises, played := 0, map[Policy]*play{}
	for _, policy := range []Policy{AsPrinted, Dispatch, NoPlan} {
		p := tonight.night(3, Settings{Orders: true}, policy, false)
		p.guests()
		p.begin()
		p.sim.run(1e9)
		played[policy] = p
	}
	for i := range tonight.pieces {
		x := &tonight.pieces[i]
		require.Equal(t, !planned[x.task], x.surprise, x.task)
		if !x.surprise || x.base || len(x.joins) == 0 {
			continue
		}
		surprises++
		ordered := orderedAt(tonight.evening, base.evening.Service, x.task)
		require.Positive(t, ordered)
		require.GreaterOrEqual(t, x.planned, ordered, x.task)
		for policy, p := range played {
			require.GreaterOrEqual(t, p.started[i], ordered-1e-6, "%s %s", policy, x.task)
		}
	}
	require.Positive(t, surprises, "the seed has to have some")
	for policy, p := range played {
		require.NotContains(t, p.sent, -1.0, policy)
	}
}

// A dish of which there is less than expected runs out: no more is ordered of it than there is, what there is is ordered to the last, and
// somebody wanted it.
func TestTheLastPortionIsGone(t *testing.T) {
	runs := 0
	for seed := range uint64(12) {
		base, tonight := orderingNight(t, seed, Settings{Orders: true, Gone: 1})
		n := night{seed, Settings{Orders: true, Gone: 1}}
		expected := map[string]int{}
		orders, _ := base.evening.Book().TableOrders(base.evening.Service)
		for _, list := range orders {
			for _, o := range list {
				expected[o.Dish] += o.Count
			}
		}
		is := plates(tonight)
		for dish, count := range expected {
			share, runsOut := n.left(dish)
			require.True(t, runsOut)
			require.LessOrEqual(t, is[dish], int(share*float64(count)), dish)
		}
		for _, dish := range tonight.off {
			share, _ := n.left(dish)
			require.Equal(t, int(share*float64(expected[dish])), is[dish], dish)
			runs++
		}
	}
	require.Positive(t, runs)
	_, enough := orderingNight(t, 1, Settings{Orders: true})
	require.Empty(t, enough.off)
}

// A banquet, and tables that have ordered, order nothing else.
func TestWhatWasOrderedStays(t *testing.T) {
	e, told := few()
	svc := *e.Service
	svc.Kind = kitchen.Banquet
	x := *e
	x.Service = &svc
	k := New(e, told, 1)
	k.evening = &x
	same, err := k.ordered(1, Usual())
	require.NoError(t, err)
	require.Same(t, k, same)
}

// By hand: one cook at the garnish has two steps to do at once, the one of the roast nothing: whoever helps begins the second after having
// looked around, and gives their hands back. Nobody helps where the section's people alone may do it, who is due soon, or who does not.
func TestTheNextSectionHelps(t *testing.T) {
	e := &expand.Evening{}
	scene := func(change func(k *Kitchen, p *play)) *play {
		run := func(task string) *service.PlanRun { return &service.PlanRun{Task: task, Section: "garnish"} }
		k := &Kitchen{evening: e, capacity: map[string]int64{"a": 1, "b": 1}, cooks: map[string][]take{"B": {{"b", 1}}},
			helpers: map[string][]string{"garnish": {"B"}}, theirs: map[string][]int{"b": {2}}, needs: nil,
			pieces: []piece{{task: "x", run: run("x"), long: 100, takes: []take{{"a", 1}}, helped: true},
				{task: "y", run: run("y"), long: 100, takes: []take{{"a", 1}}, helped: true},
				{task: "z", run: &service.PlanRun{Task: "z", Section: "roast"}, long: 50, planned: 400, takes: []take{{"b", 1}}}},
			next: make([][]int, 3), hands: func(t take) bool { return true }}
		p := k.night(1, Settings{Helps: 1}, AsPrinted, false)
		for i := range k.pieces {
			p.planned[i], p.takes[i], p.cause[i] = k.pieces[i].planned, k.pieces[i].takes, -1
		}
		change(k, p)
		for i := range k.pieces {
			p.await(i)
		}
		p.sim.run(1e6)
		require.Equal(t, map[string]int64{"a": 1, "b": 1}, p.sim.free, "all hands are free in the end")
		return p
	}
	helped := scene(func(*Kitchen, *play) {})
	require.InDelta(t, helpLook, helped.started[1], 1e-9)
	require.Equal(t, 1, helped.result.Helped)
	require.InDelta(t, 400, helped.started[2], 1e-9)
	for name, change := range map[string]func(k *Kitchen, p *play){
		"only the section may": func(k *Kitchen, _ *play) { k.pieces[1].helped = false },
		"nobody helps":         func(_ *Kitchen, p *play) { p.night.set.Helps = 0 },
		"due soon":             func(k *Kitchen, p *play) { k.pieces[2].planned, p.planned[2] = 110, 110 },
		"nobody is beside":     func(k *Kitchen, _ *play) { k.helpers = nil },
	} {
		p := scene(change)
		require.InDelta(t, 100, p.started[1], 1e-9, name)
		require.Zero(t, p.result.Helped, name)
	}
	later := scene(func(k *Kitchen, p *play) { k.pieces[2].planned, p.planned[2] = 20, 20 })
	require.InDelta(t, 75, later.started[1], 1e-9, "as soon as what is theirs is done, and they have looked around")
}

// Every table adds a plate, and every guest must not have something: one plate more each, and nobody has what they must not.
func TestTablesAddAndNeed(t *testing.T) {
	count := func(k *Kitchen) (n int) {
		for _, c := range plates(k) {
			n += c
		}
		return n
	}
	base, plain := orderingNight(t, 5, Settings{Orders: true})
	_, adding := orderingNight(t, 5, Settings{Orders: true, Adds: 1})
	require.Equal(t, count(plain)+len(base.evening.Service.Tables), count(adding))
	_, needing := orderingNight(t, 5, Settings{Orders: true, Needs: 1})
	n := night{5, Settings{Needs: 1}}
	with := 0
	for _, x := range needing.evening.Service.Tables {
		require.Len(t, n.needs(x.ID, x.Covers), x.Covers)
		for _, o := range x.Orders {
			require.NotEmpty(t, o.Without, "%s eats %s", x.Name, o.Dish)
			with += o.Count
		}
	}
	require.Positive(t, with)
}
