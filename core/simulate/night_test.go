package simulate

import (
	"encoding/json"
	"math"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/service"
	"jointime/core/workload"
	"jointime/demo/demotest"
)

// evening is the demo's evening with a plan, few its first three tables.
var (
	evening = sync.OnceValues(func() (*expand.Evening, *workload.Schedule) { return demotest.Planned(demotest.Tables, 1500) })
	few     = sync.OnceValues(func() (*expand.Evening, *workload.Schedule) { return demotest.Planned(3, 1500) })
)

func demoKitchen() *Kitchen {
	e, told := evening()
	return New(e, told, 1)
}

// kitchenFor is the kitchen that a policy's tests play: a small one where each night is planned over and over.
func kitchenFor(p Policy) *Kitchen {
	if p != Again {
		return demoKitchen()
	}
	e, told := few()
	return New(e, told, 1)
}

// With nothing that differs and no mishaps the plan as printed is played to the second.
func TestNothingDiffers(t *testing.T) {
	e, told := evening()
	k := New(e, told, 1)
	require.Equal(t, service.PlanOf(1, e.Read(told)), k.plan, "it is the plan that the kitchen reads")
	p := k.Play(7, Settings{}, AsPrinted, true)
	at := map[string]int64{}
	for _, j := range told.Joins {
		at[j.ID] = j.At
	}
	require.Len(t, p.Joins, len(k.meetings))
	for i, j := range p.Joins {
		require.InDelta(t, float64(at[k.meetings[i].id]), j.At, 0.001, k.meetings[i].id)
	}
	planned := map[string]time.Time{}
	for _, r := range k.plan.Runs {
		planned[r.Task] = r.From
	}
	fired := 0
	for _, x := range p.Events {
		if x.Kind == service.Fired {
			require.Equal(t, planned[x.Task].UTC(), x.At.UTC(), x.Task)
			fired++
		}
	}
	require.Equal(t, len(k.plan.Runs), fired)
	require.Zero(t, p.Again)
}

// The same seed plays the same night, another seed another; two policies see the same guests.
func TestTheSameSeedIsTheSameNight(t *testing.T) {
	k := demoKitchen()
	text := func(p *Played) string {
		raw, err := json.Marshal(p.Events)
		require.NoError(t, err)
		return string(raw)
	}
	for _, policy := range Policies() {
		require.Equal(t, text(kitchenFor(policy).Play(3, Usual(), policy, true)), text(kitchenFor(policy).Play(3, Usual(), policy, true)), policy)
	}
	require.NotEqual(t, text(k.Play(3, Usual(), AsPrinted, true)), text(k.Play(4, Usual(), AsPrinted, true)))
	wishes := func(p *Played) (out []float64) {
		for _, j := range p.Joins {
			out = append(out, j.Wish)
		}
		return out
	}
	require.Equal(t, wishes(k.Play(3, Usual(), AsPrinted, false)), wishes(k.Play(3, Usual(), NoPlan, false)))
}

// Whatever happens in a night, the rules of a live service accept it: nothing is to be settled, and at its end every course has left or was
// left out.
func TestTheRulesAcceptEveryNight(t *testing.T) {
	for _, policy := range Policies() {
		k := kitchenFor(policy)
		seeds := uint64(3)
		if policy == Again {
			seeds = 1
		}
		for seed := range seeds {
			p := k.Play(seed+1, Usual(), policy, true)
			for i := range p.Events[1:] {
				require.False(t, p.Events[i+1].At.Before(p.Events[i].At), "%s %d: %v after %v", policy, seed, p.Events[i+1], p.Events[i])
			}
			for i := range p.Events {
				require.NoError(t, p.Events[i].Check())
			}
			s := service.Fold(p.Events)
			require.Empty(t, s.Settle, "%s %d", policy, seed)
			for _, j := range p.Joins {
				require.False(t, math.IsInf(j.Late, 1), "%s %d: %s never came together", policy, seed, j.Name)
				c := s.Course(j.TableCourse)
				require.NotNil(t, c)
				require.Equal(t, j.Skipped, c.Skipped != nil)
				require.Equal(t, !j.Skipped, c.Sent != nil)
			}
		}
	}
}

// More that differs makes nights worse, and what was learnt of a night is told of the right section.
func TestWhatDiffersCosts(t *testing.T) {
	k := demoKitchen()
	late := func(set Settings) (sum float64) {
		for seed := range uint64(10) {
			for _, j := range k.Play(seed+1, set, AsPrinted, false).Joins {
				if !j.Skipped {
					sum += math.Max(0, j.Late)
				}
			}
		}
		return sum
	}
	none := late(Settings{})
	require.Less(t, none, late(Settings{Times: true}))
	require.Less(t, none, late(Settings{Forgets: 0.05}))
	require.Less(t, none, late(Settings{NotYet: 0.3}))
	require.Less(t, none, late(Settings{Mishaps: 0.02}))
	require.Less(t, none, late(Settings{Slow: 1}))
	require.Less(t, none, late(Settings{Away: 1}))
	held := func(set Settings) (sum float64) {
		for seed := range uint64(10) {
			sum += k.Play(seed+1, set, AsPrinted, false).Held
		}
		return sum
	}
	require.Less(t, held(Settings{}), held(Settings{ArrivalsMin: 5}), "what is made for a table that is not there waits")
}

// Who is called away says so, does nothing for five minutes, and is back; nobody is called away where that is set to nothing.
func TestACookIsCalledAway(t *testing.T) {
	k := demoKitchen()
	p := k.Play(3, Settings{Away: 1}, AsPrinted, true)
	out := map[string]time.Time{}
	back := 0
	for _, e := range p.Events {
		switch e.Kind {
		case service.Out:
			require.NotContains(t, out, e.Who, "once in an evening")
			out[e.Who] = e.At
			require.InDelta(t, awayS, e.Until.Sub(e.At).Seconds(), 1)
		case service.In:
			require.InDelta(t, awayS, e.At.Sub(out[e.Who]).Seconds(), 0.01)
			back++
		}
	}
	require.Len(t, out, len(k.cooks))
	require.Equal(t, len(out), back)
	for _, e := range k.Play(3, Settings{}, AsPrinted, true).Events {
		require.NotEqual(t, service.Out, e.Kind)
	}
}

func BenchmarkNight(b *testing.B) {
	k := demoKitchen()
	for _, policy := range Policies() {
		b.Run(string(policy), func(b *testing.B) {
			seed := uint64(0)
			for b.Loop() {
				seed++
				k.Play(seed, Usual(), policy, false)
			}
		})
	}
}
