package schedule

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawnTiming is one of a few points with any rules that their times keep, and any prices.
func drawnTiming(t *rapid.T) *timing {
	n := rapid.IntRange(2, 9).Draw(t, "points")
	g := &timing{n: n}
	g.makeRoom()
	for v := range n - 1 {
		g.x[v] = int64(rapid.IntRange(-40, 40).Draw(t, "x"))
	}
	ends := func() (u, v int32) {
		u = int32(rapid.IntRange(0, n-1).Draw(t, "from"))
		return u, (u + int32(rapid.IntRange(1, n-1).Draw(t, "to"))) % int32(n)
	}
	for range rapid.IntRange(0, 2*n).Draw(t, "rules") {
		u, v := ends()
		spare := int64(rapid.SampledFrom([]int{0, 0, 1, 3, 10, 30}).Draw(t, "spare"))
		a := flowArc{u, v, g.x[v] - g.x[u] - spare, endless, 0}
		if spare == 0 { // as the last times left it
			a.f = int64(rapid.IntRange(0, 3).Draw(t, "flow"))
		}
		g.hard = append(g.hard, a)
	}
	for range rapid.IntRange(1, 3*n).Draw(t, "prices") {
		u, v := ends()
		price := int64(rapid.SampledFrom([]int{1, 2, 4, 12, 36}).Draw(t, "price"))
		g.soft = append(g.soft, flowArc{u, v, g.x[v] - g.x[u] + int64(rapid.IntRange(-20, 20).Draw(t, "length")), price, 0})
	}
	for v := range n - 1 { // no point goes on for ever
		g.soft = append(g.soft, flowArc{int32(v), int32(n - 1), -50, 40, 0}, flowArc{int32(n - 1), int32(v), -50, 40, 0})
	}
	return g
}

// Of any rules and prices, begun with any flow, the times cost as little as those of another method (network.go), and keep every rule.
func TestSlidingFindsTheBestTimes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		g := drawnTiming(t)
		g.arcs = append(g.arcs, g.hard...)
		require.True(t, g.begin())
		g.index()
		require.True(t, g.balance(context.Background()))
		net := newNetwork(g.n)
		cost := int64(0)
		for _, a := range g.arcs {
			require.True(t, net.add(a.u, a.v, a.w, a.cap))
			short := g.x[a.u] + a.w - g.x[a.v]
			require.True(t, a.cap < endless || short <= 0, "a rule is kept")
			if a.cap < endless {
				cost += a.cap * max(0, short)
			}
		}
		for _, a := range g.arcs { // what flows there belongs to the times
			switch short := g.x[a.u] + a.w - g.x[a.v]; {
			case short > 0:
				require.Equal(t, a.cap, a.f, "a price that is broken is full")
			case short < 0:
				require.Zero(t, a.f, "a rule with time to spare")
			}
		}
		for v, s := range g.surplus {
			require.Zero(t, s, "point %d", v)
		}
		require.Equal(t, net.value, cost)
	})
}
