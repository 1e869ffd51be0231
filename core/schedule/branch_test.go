package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
)

// FT10 has a makespan of 930 (Fisher & Thompson, 1963; proved by Carlier & Pinson, 1989; both from memory): nothing shorter is refuted by
// the tree alone, and 930 is found by it.
func TestTheShortestOfFT10(t *testing.T) {
	p := compile(instances.JobShops()[2].Workload())
	require.Nil(t, p.propagate())
	b, ok := newBrancher(context.Background(), p, 930, 30_000)
	require.True(t, ok)
	b.search()
	require.False(t, b.found)
	require.False(t, b.stopped, "the tree is searched to its end")
	t.Log(b.nodes, "nodes")
	b, ok = newBrancher(context.Background(), p, 931, 60_000)
	require.True(t, ok)
	b.search()
	require.True(t, b.found)
	require.Equal(t, int64(930), b.best)
	require.Equal(t, int64(930), p.cost(b.bestX))
	t.Log(b.nodes, "nodes")
}
