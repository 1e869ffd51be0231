package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
)

// The times are as good as those of another method, which adds the rules one by one and keeps the flow best (network.go), and keep every rule.
func TestTimingIsOptimal(t *testing.T) {
	for _, n := range instances.Nights() {
		n.Tables /= 2
		m := searching(t, n.Evening(11), 1)
		m.heatUp(hottest, 600)
		better := 0
		for range 12 {
			m.run(context.Background(), retimeEvery-1, 0, nil)
			g := newTiming(m.p)
			require.True(t, g.solve(context.Background(), m.state, m.users))
			was := m.current
			net := newNetwork(g.n)
			for _, a := range g.arcs {
				require.True(t, net.add(a.u, a.v, a.w, a.cap))
			}
			require.Equal(t, net.value+m.p.base, m.p.cost(g.times), n.Name)
			if m.retime() {
				better++
			}
			require.LessOrEqual(t, m.current, was)
			require.Equal(t, m.p.cost(m.x), m.current)
			require.Empty(t, m.broken(), n.Name)
			m.rounds++ // past the one that would have done it
		}
		require.Positive(t, better, n.Name)
	}
}
