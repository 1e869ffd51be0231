package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/workload"
)

// naiveProfile is the simple twin of profile: units second by second.
type naiveProfile struct {
	capacity int64
	use      [400]int64
}

func (n *naiveProfile) add(from, to, units int64) {
	for t := from; t < to; t++ {
		n.use[t] += units
	}
}

func (n *naiveProfile) fits(s, length, units int64) bool {
	for t := s; t < s+length; t++ {
		if t < 0 || t >= 400 {
			continue // nothing is used there
		}
		if n.use[t]+units > n.capacity {
			return false
		}
	}
	return true
}

// The profile is driven against the naive one: the same answers after every edit.
func TestProfileAgainstSecondBySecond(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		capacity := int64(rapid.IntRange(1, 4).Draw(t, "capacity"))
		f, n := newProfile(&resource{capacity: capacity}), &naiveProfile{capacity: capacity}
		type run struct{ from, to, units int64 }
		var runs []run
		for range rapid.IntRange(1, 25).Draw(t, "edits") {
			if len(runs) > 0 && rapid.Bool().Draw(t, "take out") {
				k := rapid.IntRange(0, len(runs)-1).Draw(t, "which")
				r := runs[k]
				f.add(r.from, r.to, -r.units)
				n.add(r.from, r.to, -r.units)
				runs = append(runs[:k], runs[k+1:]...)
				continue
			}
			from := int64(rapid.IntRange(0, 300).Draw(t, "from"))
			r := run{from, from + int64(rapid.IntRange(0, 60).Draw(t, "length")), int64(rapid.IntRange(1, 3).Draw(t, "units"))}
			f.add(r.from, r.to, r.units)
			n.add(r.from, r.to, r.units)
			runs = append(runs, r)
		}
		from, length, units := int64(rapid.IntRange(0, 350).Draw(t, "at")), int64(rapid.IntRange(1, 40).Draw(t, "for")),
			int64(rapid.IntRange(1, 3).Draw(t, "of"))
		require.Equal(t, n.fits(from, length, units), f.fits(from, from+length, units))
		if units > capacity {
			return
		}
		s, ok := f.earliest(from, 1000, length, units)
		require.True(t, ok)
		require.True(t, n.fits(s, length, units))
		for e := from; e < s; e++ {
			require.False(t, n.fits(e, length, units), "room at %d, before %d", e, s)
		}
		s, ok = f.latest(from, -1000, length, units)
		require.True(t, ok)
		require.True(t, n.fits(s, length, units))
		for e := s + 1; e <= from; e++ {
			require.False(t, n.fits(e, length, units), "room at %d, after %d", e, s)
		}
		for i := 1; i < len(f.steps); i++ {
			require.Less(t, f.steps[i-1].at, f.steps[i].at, "steps are in order")
			require.NotEqual(t, f.steps[i-1].units, f.steps[i].units, "equal neighbours are merged")
		}
	})
}

// The network's value is the least cost of all times, found by trying them all; and it
// finds no times exactly when there are none.
func TestNetworkAgainstAllTimes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		const n, top = 3, 7
		type term struct {
			u, v int32
			w, c int64
		}
		var terms []term
		for v := int32(1); v < n; v++ { // between 0 and top
			terms = append(terms, term{0, v, 0, endless}, term{v, 0, -top, endless})
		}
		for range rapid.IntRange(1, 7).Draw(t, "terms") {
			x := term{int32(rapid.IntRange(0, n-1).Draw(t, "u")), int32(rapid.IntRange(0, n-1).Draw(t, "v")),
				int64(rapid.IntRange(-6, 6).Draw(t, "w")), endless}
			if rapid.Bool().Draw(t, "soft") {
				x.c = int64(rapid.IntRange(1, 4).Draw(t, "c"))
			}
			terms = append(terms, x)
		}
		best := int64(-1)
		for a := int64(0); a <= top; a++ {
			for b := int64(0); b <= top; b++ {
				x := [n]int64{0, a, b}
				sum := int64(0)
				for _, m := range terms {
					short := max(0, x[m.u]+m.w-x[m.v])
					if short > 0 && m.c == endless {
						sum = -1
						break
					}
					sum += short * m.c
				}
				if sum >= 0 && (best < 0 || sum < best) {
					best = sum
				}
			}
		}
		g := newNetwork(n)
		ok := true
		var m mark
		for i, x := range terms {
			if i == len(terms)/2 {
				g.save(&m)
			}
			if ok = ok && g.add(x.u, x.v, x.w, x.c); !ok {
				break
			}
		}
		require.Equal(t, best >= 0, ok)
		if !ok {
			return
		}
		require.Equal(t, best, g.value)
		sum := int64(0)
		for _, x := range terms {
			sum += max(0, g.x[x.u]+x.w-g.x[x.v]) * min(x.c, 1<<30)
		}
		require.Equal(t, best, sum, "the times cost what the value says")
		// Coming back and going on gives the same.
		g.restore(&m)
		for _, x := range terms[len(terms)/2:] {
			require.True(t, g.add(x.u, x.v, x.w, x.c))
		}
		require.Equal(t, best, g.value)
	})
}

// Edge-finding never cuts off a schedule: whatever order of the jobs is possible, no
// start in it lies before the tightened window; and a refusal means that none is.
func TestEdgeFindingIsSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, 5).Draw(t, "jobs")
		jobs := make([]job, n)
		for i := range jobs {
			est := int64(rapid.IntRange(0, 12).Draw(t, "est"))
			dur := int64(rapid.IntRange(1, 5).Draw(t, "dur"))
			jobs[i] = job{int32(i), est, est + dur + int64(rapid.IntRange(0, 14).Draw(t, "slack")), dur}
		}
		earliest := make([]int64, n) // earliest start of each job in any possible order
		for i := range earliest {
			earliest[i] = far
		}
		possible := false
		var order func(done int, at int64, starts []int64)
		order = func(done int, at int64, starts []int64) {
			if done == 1<<n-1 {
				possible = true
				for i, s := range starts {
					earliest[i] = min(earliest[i], s)
				}
				return
			}
			for i, j := range jobs {
				if done>>i&1 == 1 {
					continue
				}
				s := max(at, j.est)
				if s+j.dur <= j.lct {
					next := append([]int64(nil), starts...)
					next[i] = s
					order(done|1<<i, s+j.dur, next)
				}
			}
		}
		order(0, 0, make([]int64, n))
		tight := append([]job(nil), jobs...)
		ok := edgeFind(tight, make([]int, n), make([]int64, 2*n))
		if possible {
			require.True(t, ok)
			for i := range tight {
				require.GreaterOrEqual(t, earliest[i], tight[i].est, "job %d of %v", i, jobs)
			}
		}
		for i := range tight {
			require.GreaterOrEqual(t, tight[i].est, jobs[i].est)
		}
	})
}

// The classic set that no pair reveals: three jobs of 4 in [0, 10] cannot be.
func TestEdgeFindingRefusesAnOverfullSet(t *testing.T) {
	jobs := []job{{0, 0, 10, 4}, {1, 0, 10, 4}, {2, 0, 10, 4}}
	require.False(t, edgeFind(jobs, make([]int, 3), make([]int64, 6)))
	// And one that must come last: c starts after a and b, at 8.
	jobs = []job{{0, 0, 9, 4}, {1, 0, 9, 4}, {2, 0, 30, 4}}
	require.True(t, edgeFind(jobs, make([]int, 3), make([]int64, 6)))
	require.Equal(t, int64(8), jobs[2].est)
}

func small() *workload.Workload {
	p := func(v int64) *int64 { return &v }
	return &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T12:00:00Z", Horizon: 1000,
		Resources: []workload.Resource{{ID: "cook", Capacity: 4}, {ID: "oven", Capacity: 1,
			Thermostat: &workload.Thermostat{StartC: 100, HeatCPerMin: 60, CoolCPerMin: 30}}},
		Tasks: []workload.Task{{ID: "a", Seconds: 100, Needs: []workload.Need{{AnyOf: []string{"cook"}, Units: 4}}},
			{ID: "b", Seconds: 50, Needs: []workload.Need{{AnyOf: []string{"oven"}, Units: 1,
				SetpointC: func() *float64 { c := 160.0; return &c }()}}}},
		Links: []workload.Link{{From: "a", To: "b", Kind: workload.FinishStart, Min: 10, Max: p(60), Weight: 1},
			{From: "b", To: "j", Kind: workload.FinishStart, Weight: 1}},
		Joins: []workload.Join{{ID: "j", At: p(500), Weight: 3, EarlyWeight: 1}}}
}

// Windows by hand: b may finish at 1000 at the latest, so it starts by 950 and a by
// 840; a starts at 0 at the earliest, so b at 110 and the join at 160.
func TestPropagationByHand(t *testing.T) {
	p := compile(small())
	require.Nil(t, p.propagate())
	require.Equal(t, []int64{0, 110, 160}, p.lo)
	require.Equal(t, []int64{840, 950, 1000}, p.hi)
}

// All four kinds of link become the same arc when their ends are put in: the wait is
// 5 s from the named event of a (100 s) to that of b (50 s).
func TestKindsOfLinksByHand(t *testing.T) {
	for kind, start := range map[workload.Kind]int64{workload.FinishStart: 105, workload.StartStart: 5, workload.FinishFinish: 55,
		workload.StartFinish: 0} {
		w := small()
		w.Links = []workload.Link{{From: "a", To: "b", Kind: kind, Min: 5, Weight: 1}}
		p := compile(w)
		require.Nil(t, p.propagate())
		require.Equal(t, start, p.lo[1], string(kind))
	}
}

func TestGroupsFollowTheLinksToTheJoin(t *testing.T) {
	w := small()
	w.Tasks = append(w.Tasks, workload.Task{ID: "loose", Seconds: 5})
	p := compile(w)
	require.Nil(t, p.propagate())
	gs := p.groups()
	require.Len(t, gs, 2)
	require.Equal(t, []int32{0, 1}, gs[0].nodes)
	require.Equal(t, -1, gs[1].join)
	require.Equal(t, []int32{2}, gs[1].nodes)
}

// The oven stands at 100° and needs a minute to 160°; the schedule by hand: join at
// 500, b at 450–500, a at 340–440.
func TestSerialGenerationByHand(t *testing.T) {
	p := compile(small())
	require.Nil(t, p.propagate())
	b := newBuilder(context.Background(), p, 1)
	require.True(t, b.construct(context.Background(), p.groups()))
	require.Equal(t, []int64{340, 450, 500}, b.x)
	require.Empty(t, b.broken())
}

// Taking out and putting back leaves the state as it was.
func TestTakeAndPutAreInverse(t *testing.T) {
	p := compile(small())
	require.Nil(t, p.propagate())
	b := newBuilder(context.Background(), p, 1)
	require.True(t, b.construct(context.Background(), p.groups()))
	before := append([]use(nil), b.prof[0].steps...)
	heat := len(b.heat[1].list)
	for v := range p.n {
		b.take(v)
	}
	require.Len(t, b.prof[0].steps, 1)
	require.Empty(t, b.heat[1].list)
	for v := range p.n {
		b.put(v, b.x[v])
	}
	require.Equal(t, before, b.prof[0].steps)
	require.Len(t, b.heat[1].list, heat)
}

// The bound never passes the proved optimum, at any stage of the search.
func TestBoundsStayBelow(t *testing.T) {
	for _, seconds := range []int64{10, 60, 300} {
		w := small()
		w.Tasks[0].Seconds = seconds
		w.Joins[0].At = &seconds // wanted too early: it will be late
		p := compile(w)
		require.Nil(t, p.propagate())
		s := Solve(context.Background(), w, Options{Seed: 1})
		require.Equal(t, workload.Optimal, s.Status)
		require.LessOrEqual(t, p.windowBound(), *s.Cost)
		require.LessOrEqual(t, rootBound(context.Background(), p, p.windowBound(), *s.Cost+100), *s.Cost)
		// a, then at least 10 s, then b with the oven hot by then, then the join.
		require.Equal(t, 3*(max(seconds+10, 60)+50-seconds), *s.Cost)
	}
}

func TestWindowsAndThermostatsOfAResource(t *testing.T) {
	r := &resource{capacity: 2, blocks: blocksOf(&workload.Resource{Capacity: 2, HasWindows: true,
		Windows: []workload.Window{{From: 10, To: 20, Capacity: 2}, {From: 20, To: 30, Capacity: 1}}})}
	f := newProfile(r)
	require.True(t, f.fits(10, 30, 1), "a run may cross the seam")
	require.False(t, f.fits(10, 30, 2))
	require.False(t, f.fits(9, 12, 1))
	require.False(t, f.fits(25, 31, 1))
	th := &workload.Thermostat{StartC: 20, HeatCPerMin: 60, CoolCPerMin: 30, ToleranceC: 5}
	hot := &resource{capacity: 2, thermostat: th, slowest: 100}
	var h heats
	h.add(heat{200, 300, setpoint{180, 180}, 1})
	clash, after, before := hot.blocked(&h, 250, 40, setpoint{220, 220})
	require.True(t, clash)
	require.Equal(t, int64(340), after, "40° up take 40 s")
	require.Equal(t, int64(200-80-40), before, "40° down take 80 s, and it runs 40")
	clash, _, _ = hot.blocked(&h, 250, 40, setpoint{184, 184})
	require.False(t, clash, "within the tolerance")
	clash, after, _ = hot.blocked(&heats{}, 10, 40, setpoint{120, 120})
	require.True(t, clash)
	require.Equal(t, int64(100), after, "from 20° to 120° at the start")
}
