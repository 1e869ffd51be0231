package schedule

import (
	"context"
	"reflect"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
)

// standing is all that a state says of what stands.
type standing struct {
	x, est, lst []int64
	on          [][]int32
	steps       [][]use
	heats       [][]heat
}

func standingOf(s *state) standing {
	out := standing{x: slices.Clone(s.x), est: slices.Clone(s.est), lst: slices.Clone(s.lst)}
	for v := range s.on {
		out.on = append(out.on, slices.Clone(s.on[v]))
	}
	for r := range s.prof {
		out.steps = append(out.steps, slices.Clone(s.prof[r].steps))
		out.heats = append(out.heats, append([]heat{}, s.heat[r].list...))
	}
	return out
}

// taken is what resources are used for, found from what stands alone.
func taken(s *state) (steps [][]use, heats [][]heat) {
	fresh := newState(s.p)
	for v := range s.p.n {
		if s.placed[v] && !s.p.fixed[v] {
			copy(fresh.on[v], s.on[v])
			fresh.put(v, s.x[v])
		}
	}
	all := standingOf(fresh)
	return all.steps, all.heats
}

// A round that is given up leaves all as it was, to the second and the last resource, and any other what its schedule takes: ovens with
// temperatures, and groups that were tried again and again.
func TestARoundThatIsGivenUpLeavesNothingBehind(t *testing.T) {
	for _, n := range []instances.Night{instances.Nights()[1], instances.Nights()[4]} {
		n.Tables /= 3
		m := searching(t, n.Evening(2), 1)
		m.heatUp(hottest, 600)
		given, on := 0, 0
		for range 600 {
			before := standingOf(m.state)
			m.run(context.Background(), 1, 0, nil)
			require.False(t, m.round.on || m.group.on, "outside of a round nothing is remembered")
			after := standingOf(m.state)
			if reflect.DeepEqual([]any{before.x, before.on}, []any{after.x, after.on}) {
				require.True(t, reflect.DeepEqual(before, after), "nothing moved, and something else is taken")
				given++
				continue
			}
			steps, heats := taken(m.state)
			require.True(t, reflect.DeepEqual([]any{steps, heats}, []any{after.steps, after.heats}), "what stands takes something else")
			on++
		}
		require.Greater(t, given, 60, n.Name)
		require.Greater(t, on, 60, n.Name)
	}
}

// What was touched goes back, as often as it is tried; what is touched after the end stays.
func TestBackToWhereItBegan(t *testing.T) {
	n := instances.Nights()[4]
	n.Tables /= 3
	m := searching(t, n.Evening(2), 1)
	g := &m.gs[slices.IndexFunc(m.gs, func(g group) bool { return g.join >= 0 && len(g.nodes) > 8 })]
	all := slices.Clone(m.members(g))
	m.remember(all)
	whole := standingOf(m.state)
	m.tryAgain(all)
	without := standingOf(m.state)
	require.False(t, reflect.DeepEqual(whole.steps, without.steps))
	for range 3 {
		m.recall(all[:len(all)/2])
		require.False(t, reflect.DeepEqual(without.steps, standingOf(m.state).steps))
		m.tryAgain(all)
		require.True(t, reflect.DeepEqual(without, standingOf(m.state)))
	}
	for _, v := range all {
		require.False(t, m.placed[v])
	}
	m.recall(all)
	m.group.end()
	require.True(t, reflect.DeepEqual(whole, standingOf(m.state)))
	m.group.begin()
	m.group.end()
	m.take(int(all[0]))
	m.group.back(m.state)
	require.False(t, reflect.DeepEqual(whole.steps, standingOf(m.state).steps), "it was over before that")
}
