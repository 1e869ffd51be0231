package schedule

import (
	"context"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/verify"
	"jointime/core/workload"
)

// searching is an improver with the first schedule of a workload.
func searching(t testing.TB, w *workload.Workload, seed int64) *improver {
	t.Helper()
	p := compiled(t, w)
	gs := p.groups()
	b := newBuilder(context.Background(), p, seed)
	require.True(t, b.construct(context.Background(), gs))
	return newImprover(b, gs)
}

func smallNight() instances.Night {
	n := instances.Nights()[4]
	n.Tables, n.Cooks = 5, [4]int{1, 1, 1, 1}
	return n
}

// What a round says that a schedule costs is what it costs, and what it puts back is as it was, whatever was taken out.
func TestEveryRoundKeepsTheBooks(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	first := m.best
	seen := map[string]bool{}
	m.heatUp(hottest, 1500)
	for range 1500 {
		m.run(context.Background(), 1, 0, nil)
		require.Equal(t, m.p.cost(m.x), m.current)
		require.LessOrEqual(t, m.best, m.current)
		m.price()
		kept := slices.Clone(m.costs.upTo)
		m.anyMoved()
		m.price()
		require.Equal(t, kept, m.costs.upTo, "what each group costs is known without looking at all")
		for v := range m.p.n {
			require.True(t, m.placed[v])
		}
		if m.op != nil {
			seen[m.op.Neighbourhood] = true
		}
	}
	require.Less(t, m.best, first)
	require.Len(t, seen, len(m.ops), "each way to choose is tried")
	require.Empty(t, m.broken())
	for r := range m.prof { // nothing is left behind in the profiles
		fresh := newProfile(&m.p.res[r])
		for v := range m.p.tasks {
			for k := range m.p.needs[v] {
				if int(m.on[v][k]) == r {
					fresh.add(m.x[v], m.ends(v), m.p.needs[v][k].units)
				}
			}
		}
		require.Equal(t, fresh.steps, m.prof[r].steps)
	}
}

// Once warm, a round allocates nothing.
func TestARoundAllocatesNothing(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	m.run(context.Background(), 4000, 0, nil)
	require.Less(t, testing.AllocsPerRun(200, func() {
		m.run(context.Background(), 1, 0, nil)
	}), 1.0)
}

// Two tables want one oven at 19:00, ten minutes each, and the food may wait at a dear price: one table a little late costs less than food
// that waits, and less than a table that is very late.
func TestALateJoinIsCheaperThanALongWait(t *testing.T) {
	at := int64(3600)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 8000,
		Resources: []workload.Resource{{ID: "oven", Capacity: 1}}}
	for _, id := range []string{"a", "b"} {
		w.Joins = append(w.Joins, workload.Join{ID: id, At: &at, Weight: 4, EarlyWeight: 4})
		w.Tasks = append(w.Tasks, workload.Task{ID: id + "/bake", Seconds: 600, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1}}})
		best := int64(60)
		w.Links = append(w.Links, workload.Link{From: id + "/bake", To: id, Kind: workload.FinishStart, Best: &best, Weight: 12})
	}
	m := searching(t, w, 1)
	g := &m.gs[1]
	all := append([]int32{}, m.members(g)...)
	m.remove(all)
	m.noise, m.lag = 0, 0
	require.True(t, m.insert(g))
	// Ten minutes in the oven before it costs (600 − 60) · 12 = 6,480; 540 s late, with the minute that is best, 2,160. What is drawn lies
	// between.
	require.GreaterOrEqual(t, m.spent, int64(2160))
	require.Less(t, m.spent, int64(6480))
	m.remove(all)
	m.may = 2159
	require.False(t, m.insert(g), "a second dearer than it may be")
	require.False(t, m.placed[g.join])
	m.may = far
	require.True(t, m.insert(g))
	m.current = m.p.cost(m.x) // the rounds below go on from here
	m.anyMoved()
	m.run(context.Background(), 400, 0, nil)
	m.adopt(m.bestX, m.bestOn)
	m.polish()
	require.Equal(t, int64(2160), m.best)
}

// What holds the oven where a join would like to be makes way; what is beside that, or within the tolerance of its heat, does not.
func TestWhatIsInTheWayMakesWay(t *testing.T) {
	at := int64(3600)
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 9000,
		Resources: []workload.Resource{{ID: "oven", Capacity: 2, Thermostat: &workload.Thermostat{StartC: 180, HeatCPerMin: 10, CoolCPerMin: 5,
			ToleranceC: 5}}}}
	table := func(id string, at *int64, set float64) {
		w.Joins = append(w.Joins, workload.Join{ID: id, At: at, Weight: 4, EarlyWeight: 4})
		w.Tasks = append(w.Tasks, workload.Task{ID: id + "/bake", Seconds: 600,
			Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1, SetpointC: &set}}})
		zero := int64(0)
		w.Links = append(w.Links, workload.Link{From: id + "/bake", To: id, Kind: workload.FinishStart, Max: &zero, Weight: 1})
	}
	later := int64(5400)
	table("cool", &at, 160)
	table("hot", &at, 180)
	table("as-hot", &at, 183)
	table("later", &later, 160)
	m := searching(t, w, 1)
	put := map[string]int64{"cool": 3600, "hot": 6600, "as-hot": 6600, "later": 5400}
	x, on := append([]int64{}, m.x...), m.bestOn
	for v := range m.p.n {
		for id, j := range put {
			switch m.p.id(v) {
			case id:
				x[v] = j
			case id + "/bake":
				x[v] = j - 600
			}
		}
	}
	m.adopt(x, on)
	of := func(id string) int {
		for k := range m.gs {
			if m.p.id(m.gs[k].join) == id {
				return k
			}
		}
		return -1
	}
	for range 20 { // drawn: now and then it would like to be only part of the way
		m.out, m.outGroups = m.out[:0], m.outGroups[:0]
		m.makeWay(of("hot"))
		require.NotContains(t, m.outGroups, of("as-hot"), "it may stand beside")
		require.Equal(t, of("hot"), m.outGroups[0])
		if len(m.outGroups) > 1 {
			require.Subset(t, []int{of("cool"), of("later")}, m.outGroups[1:])
		}
	}
	m.inWay, m.outGroups = m.inWay[:0], nil
	hot := &m.p.needs[0][0]
	hot = &need{anyOf: hot.anyOf, units: 1, setpoint: setpoint{180, 180}, chain: -1}
	m.holders(of("hot"), 0, hot, 3000, 3600)
	require.Equal(t, []int{of("cool")}, m.inWay)
	for from, want := range map[int64]int{3600 + 119: 1, 3600 + 120: 0} { // from 160 to 180 takes two minutes
		m.inWay = m.inWay[:0]
		m.holders(of("hot"), 0, hot, from, from+60)
		require.Len(t, m.inWay, want, from)
	}
}

// A run is taken out with all that leads up to it, and nothing else.
func TestWhatLeadsUpToItIsTakenOutToo(t *testing.T) {
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 9000,
		Resources: []workload.Resource{{ID: "cook", Capacity: 1}}}
	at := int64(3600)
	w.Joins = []workload.Join{{ID: "j", At: &at, Weight: 4, EarlyWeight: 4}}
	for _, id := range []string{"peel", "boil", "mash", "other"} {
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"cook"}, Units: 1}}})
	}
	for _, l := range [][2]string{{"peel", "boil"}, {"boil", "mash"}, {"mash", "j"}, {"other", "j"}} {
		w.Links = append(w.Links, workload.Link{From: l[0], To: l[1], Kind: workload.FinishStart, Weight: 1})
	}
	m := searching(t, w, 1)
	m.out = m.out[:0]
	m.withBefore(1)
	require.ElementsMatch(t, []int32{0, 1}, m.out)
	m.withBefore(2)
	require.ElementsMatch(t, []int32{0, 1, 2}, m.out, "each once")
}

// The more an operator gains for its work the oftener it is drawn, and none is forgotten.
func TestOperatorsAreDrawnByWhatTheyGain(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	for range 200 {
		m.ops[0].reward(0.01, 10)
		m.ops[1].reward(0.001, 10)
		for i := 2; i < len(m.ops); i++ {
			m.ops[i].reward(0, 10)
		}
	}
	drawn := map[string]int{}
	for range 4000 {
		drawn[m.operator().Neighbourhood]++
	}
	require.Greater(t, drawn[m.ops[0].Neighbourhood], 4*drawn[m.ops[1].Neighbourhood]/2)
	require.Greater(t, drawn[m.ops[0].Neighbourhood], 2000)
	for i := range m.ops {
		require.Greater(t, drawn[m.ops[i].Neighbourhood], 50, m.ops[i].Neighbourhood)
	}
}

// Once the search settles nothing wide is taken out any more, and all else still is.
func TestWhatIsWideIsDrawnOnlyWhileItIsHot(t *testing.T) {
	m := searching(t, smallNight().Evening(3), 1)
	narrow := map[string]bool{}
	for i := range m.ops {
		m.ops[i].reward(0.01, 10)
		if !m.ops[i].wide {
			narrow[m.ops[i].Neighbourhood] = true
		}
	}
	drawn := func() map[string]bool {
		m.settles = m.temperature() < settled
		seen := map[string]bool{}
		for range 2000 {
			seen[m.operator().Neighbourhood] = true
		}
		return seen
	}
	m.heatUp(hottest, 100)
	require.Len(t, drawn(), len(m.ops))
	m.heatUp(2*settled, 100)
	require.Len(t, drawn(), len(m.ops))
	m.heatUp(settled/2, 100)
	require.Equal(t, narrow, drawn())
	require.Greater(t, len(narrow), 2)
	require.Less(t, len(narrow), len(m.ops))
}

// Two searches side by side give the same bytes for a seed, keep every rule, and are no worse than the first schedule.
func TestTogetherIsTheSameEveryTime(t *testing.T) {
	for i, n := range instances.Nights()[3:5] {
		n.Tables = 6
		w := n.Evening(uint64(i) + 1)
		solve := func(seed int64) *workload.Schedule {
			s := Solve(context.Background(), w, Options{Seed: seed, Rounds: shared})
			broken, err := verify.Check(w, s)
			require.NoError(t, err)
			require.Empty(t, broken)
			require.LessOrEqual(t, *s.LowerBound, *s.Cost)
			return s
		}
		a, b := solve(5), solve(5)
		require.Equal(t, a, b)
		require.NotEqual(t, a.Tasks, solve(6).Tasks, "another seed is another search")
	}
}

// The families are what they say: the same for a seed, well formed, with exact links, hands and eyes apart.
func TestNightsAreEvenings(t *testing.T) {
	for _, n := range instances.Nights() {
		w := n.Evening(1)
		require.NoError(t, workload.Check(w), n.Name)
		require.Equal(t, w, n.Evening(1))
		require.NotEqual(t, w, n.Evening(2))
		require.GreaterOrEqual(t, len(w.Tasks), 400, n.Name)
		require.LessOrEqual(t, len(w.Tasks), 1000, n.Name)
		exact, as := 0, 0
		for _, l := range w.Links {
			if l.Max != nil && *l.Max == l.Min {
				exact++
			}
		}
		for _, x := range w.Tasks {
			for _, nd := range x.Needs {
				if nd.As != nil {
					as++
				}
			}
		}
		require.Greater(t, exact, 100, n.Name)
		require.Greater(t, as, 50, n.Name)
	}
}
