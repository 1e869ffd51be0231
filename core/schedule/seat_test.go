package schedule

import (
	"context"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// packed is an evening on one pan that has a schedule: tasks stand one after another with little room between them, each may be a while
// sooner and later than there, and its table would like to have it some other time.
func packed(seed uint64, tasks int) *workload.Workload {
	r := rand.New(rand.NewPCG(seed, 1))
	w := &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 40_000,
		Resources: []workload.Resource{{ID: "pan", Capacity: 1}}}
	at := int64(3000)
	for k := range tasks {
		id, lasts := fmt.Sprintf("t%d", k), 60+r.Int64N(600)
		at += r.Int64N(90)
		wish := at + lasts + r.Int64N(2401) - 1200
		w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: lasts, Earliest: at - r.Int64N(900),
			Latest: ptrOf(at + lasts + r.Int64N(900)), Needs: []workload.Need{{AnyOf: []string{"pan"}, Units: 1}}})
		w.Joins = append(w.Joins, workload.Join{ID: id + "!", At: ptrOf(wish), Latest: ptrOf(at + lasts + 1500), Weight: 1, EarlyWeight: 1})
		w.Links = append(w.Links, workload.Link{From: id, To: id + "!", Kind: workload.FinishStart, Max: ptrOf(1200), Weight: 1})
		at += lasts
	}
	return w
}

// What finds no place as groups are put down one after another finds one where others make way; then every rule is kept, and all of it
// stands.
func TestOthersMakeWayForWhatHasNoPlace(t *testing.T) {
	without, still := 0, 0
	for seed := range uint64(40) {
		p := compile(packed(seed, 30))
		require.Nil(t, p.propagate())
		gs := p.groups()
		b := newBuilder(context.Background(), p, 1)
		if b.construct(context.Background(), gs) {
			continue
		}
		without++
		if !b.seat(context.Background(), gs) {
			still++
			continue
		}
		for v := range p.n {
			require.True(t, b.placed[v])
		}
		require.Empty(t, b.broken())
		require.Equal(t, maxAttempts, b.attempts)
	}
	require.GreaterOrEqual(t, without, 10)
	require.LessOrEqual(t, still, without/4)
}

// A large evening on which nothing finds its place in the order of the wishes has a schedule all the same. With two more pans wanted at one
// instant there is none: then they, or what they push, are late, and all else is kept.
func TestALargeEveningWithHardlyAnyRoom(t *testing.T) {
	for _, seed := range []uint64{1, 2, 3} {
		w := packed(seed, 80)
		s := Solve(context.Background(), w, Options{Seed: 1, Rounds: 20, Anyway: true})
		require.Equal(t, workload.Feasible, s.Status)
		require.Empty(t, s.Broken)
		at := w.Tasks[40].Earliest
		for _, id := range []string{"x", "y"} {
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: 200, Earliest: at, Latest: ptrOf(at + 300),
				Needs: []workload.Need{{AnyOf: []string{"pan"}, Units: 1}}})
		}
		s = Solve(context.Background(), w, Options{Seed: 1, Rounds: 20, Anyway: true})
		require.Equal(t, workload.BestEffort, s.Status)
		require.NotEmpty(t, s.Broken)
		for _, b := range s.Broken {
			require.Contains(t, []workload.Rule{workload.RuleLatest, workload.RuleMax}, b.Rule, "%+v", b)
		}
	}
}

// Put down by the clock, every shortest wait is kept, every resource, and whatever else has no end. Where a resource is never there, what
// needs it is forced in, and nothing else is broken but what takes its place.
func TestByTheClock(t *testing.T) {
	for _, n := range instances.Nights() {
		for _, gone := range []bool{false, true} {
			w := n.Evening(11)
			if gone {
				w.Tasks = append(w.Tasks, workload.Task{ID: "ice", Seconds: 60, Needs: []workload.Need{{AnyOf: []string{"churn"}, Units: 1}}})
				w.Resources = append(w.Resources, workload.Resource{ID: "churn", Capacity: 1, HasWindows: true,
					Windows: []workload.Window{{From: 0, To: 59, Capacity: 1}}})
				w.Links = append(w.Links, workload.Link{From: "ice", To: w.Tasks[0].ID, Kind: workload.FinishStart, Weight: 1})
			}
			p := compile(relax(w, true))
			require.Nil(t, p.propagate())
			b := newBuilder(context.Background(), p, 1)
			b.byTheClock(p.groups())
			broken := b.broken()
			if !gone {
				require.Empty(t, broken, n.Name)
				continue
			}
			require.NotEmpty(t, broken, n.Name)
			for _, x := range broken {
				require.Contains(t, []workload.Rule{workload.RuleWindow, workload.RuleCapacity}, x.Rule, "%+v", x)
				require.Contains(t, x.IDs, "churn")
			}
		}
	}
}

// What is away has nobody to make way on it: on a pan that is away then, or of which too little is there, nobody has to.
func TestNobodyMakesWayOnWhatIsAway(t *testing.T) {
	r := &resource{capacity: 3, blocks: []block{{from: 100, to: 200, units: 2}}}
	for _, c := range []struct {
		units, from, to int64
		there           bool
	}{{1, 100, 200, true}, {2, 100, 200, false}, {2, 0, 100, true}, {2, 0, 101, false}, {2, 200, 300, true}, {2, 199, 300, false},
		{3, 200, 300, true}} {
		require.Equal(t, c.there, r.there(c.units, c.from, c.to), "%+v", c)
	}
	for _, away := range []bool{true, false} {
		w := packed(1, 2)
		w.Resources = append(w.Resources, workload.Resource{ID: "other", Capacity: 1})
		if away {
			w.Resources[1].HasWindows, w.Resources[1].Windows = true, []workload.Window{{From: 0, To: 1000, Capacity: 1}}
		}
		w.Tasks[1].Needs[0].AnyOf = []string{"other", "pan"}
		m := searching(t, w, 1)
		m.outGroups = append(m.outGroups[:0], m.homes[1])
		m.eject(m.homes[1], 1, m.p.ties[1][0], m.x[0])
		if away {
			require.Equal(t, []int{m.homes[1], m.homes[0]}, m.outGroups, "what has the pan makes way")
		} else {
			require.Equal(t, []int{m.homes[1]}, m.outGroups, "the other pan is free")
		}
	}
}
