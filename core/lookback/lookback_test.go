package lookback

import (
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/demo"
	"jointime/demo/demotest"
)

// played is the demo's evening, ready to be played, with its plan.
type played struct {
	kitchen *simulate.Kitchen
	evening *expand.Evening
	plan    *service.Plan
}

var evening = sync.OnceValue(func() played {
	e, told := demotest.Planned(demotest.Tables, 300)
	return played{simulate.New(e, told, 1), e, service.PlanOf(1, e.Read(told))}
})

// truth are nights in which a step is slower than written, and somebody quicker.
func truth() simulate.Settings {
	set := simulate.Usual().AsOrdered()
	set.Steps, set.People = demo.Truth()
	return set
}

// record are some nights as the log of each says it, the first with the seed.
func record(seed uint64, nights int, set simulate.Settings) []Night {
	p := evening()
	out := make([]Night, nights)
	var work sync.WaitGroup
	for i := range out {
		work.Go(func() {
			out[i] = *At(p.evening, p.plan, p.plan, p.kitchen.Play(seed+uint64(i), set, simulate.AsPrinted, true).Events)
		})
	}
	work.Wait()
	return out
}

func said(list []Evidence) (out []Evidence) {
	for _, f := range list {
		if f.Said {
			out = append(out, f)
		}
	}
	return out
}

// With nothing that differs every step took as long as written, every course left when the plan had it, and there is nothing to say.
func TestANightAsPlanned(t *testing.T) {
	n := record(1, 1, simulate.Settings{})[0]
	require.NotEmpty(t, n.Steps)
	require.Zero(t, n.Unsaid)
	for _, s := range n.Steps {
		require.InDelta(t, s.PlannedS, *s.RealS, 0.01, s.Task)
		require.WithinDuration(t, s.PlannedAt, *s.At, time.Second)
		require.NotEmpty(t, s.People)
	}
	for _, j := range n.Joins {
		require.WithinDuration(t, j.PlanAt, *j.SentAt, time.Second)
	}
	for _, j := range n.Joins {
		if j.LateS > graceS { // the plan had it so
			require.Equal(t, Planned, j.Why[0].Kind)
		}
	}
	require.Empty(t, said(Learn(record(1, 8, simulate.Settings{}), nil)))
}

// The lateness of a course is led back whole, to the second; where one step takes twice as long, and nothing else differs, most of it began
// there.
func TestWhatLatenessBeganWith(t *testing.T) {
	n := record(1, 1, simulate.Settings{Steps: map[string]float64{"baked-celeriac/heat": 2}})[0]
	require.Positive(t, n.Late)
	by := map[string]float64{}
	sum := 0.0
	for _, c := range n.Causes {
		by[c.Component] += c.Share
		sum += c.Share
	}
	require.InDelta(t, 1, sum, 1e-9)
	require.Greater(t, by["baked-celeriac"], 0.5, "%+v", n.Causes)
	require.Equal(t, "baked-celeriac", n.Causes[0].Component)
	longer, other := 0.0, 0.0 // of the slow step, and of what was ended late for it
	for _, c := range n.Causes {
		require.NotEqual(t, NotKnown, c.Kind, "all was said, and each step that kept another is followed")
		if c.Kind == Longer && c.Act == "Heat through" {
			longer += c.Share
		} else if c.Kind == Longer {
			other += c.Share
		}
	}
	require.Greater(t, longer, 0.25)
	require.Less(t, other, longer/4)
	for _, set := range []simulate.Settings{simulate.Usual().AsOrdered(), truth()} {
		late := 0
		for _, n := range record(20, 10, set) {
			for _, j := range n.Joins {
				total := 0.0
				for _, c := range j.Why {
					require.Positive(t, c.S)
					total += c.S
				}
				if j.LateS <= graceS {
					require.Empty(t, j.Why)
					continue
				}
				late++
				require.LessOrEqual(t, total, j.LateS+1e-6)
				require.Greater(t, total, 0.9*j.LateS, "what is dropped is next to nothing")
			}
		}
		require.Positive(t, late)
	}
}

// Of a step of which nobody said that it ended nothing is learnt; nor of one that was made again.
func TestWhatNobodySaid(t *testing.T) {
	p := evening()
	log := p.kitchen.Play(3, simulate.Usual().AsOrdered(), simulate.AsPrinted, true).Events
	whole := At(p.evening, p.plan, p.plan, log)
	silent := log[:0:0]
	for _, e := range log {
		if e.Kind != service.Ready || e.Section != "fish" {
			silent = append(silent, e)
		}
	}
	n := At(p.evening, p.plan, p.plan, silent)
	require.Greater(t, n.Unsaid, whole.Unsaid)
	for i := range n.Steps {
		s := &n.Steps[i]
		if _, learnt := s.ratio(nil); s.Section == "fish" {
			require.False(t, learnt && s.RealS == nil)
			require.Nil(t, s.RealS)
		}
	}
	again := whole.Steps[0]
	again.Again = 1
	_, learnt := again.ratio(nil)
	require.False(t, learnt)
	empty := At(p.evening, p.plan, p.plan, nil)
	require.Equal(t, len(empty.Steps), empty.Unsaid)
	require.Empty(t, Learn([]Night{*empty}, nil))
}
