package main

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule"
)

// The table of a family, by hand: two searches of which the one ends at 100 and the other at 120.
func TestAFamilyOfCurves(t *testing.T) {
	f := family{name: "loose", curves: []curve{
		{points: []point{{0.1, 200}, {2, 100}}, bound: 60,
			gains: []schedule.Gain{{Neighbourhood: "alone", Rounds: 30, Taken: 3, Won: 70}, {Neighbourhood: "rivals", Rounds: 10, Won: 30}}},
		{points: []point{{0.1, 180}, {1, 120}}, bound: 50,
			gains: []schedule.Gain{{Neighbourhood: "alone", Rounds: 50, Taken: 4, Won: 60}, {Neighbourhood: "rivals", Rounds: 10}}},
	}}
	require.Equal(t, int64(100), f.best())
	require.InDelta(t, 0.6, f.proved(), 1e-9)
	require.InDelta(t, 0.9, f.over(0.5), 1e-9, "(200 + 180) / 2 over 100")
	require.InDelta(t, 0.6, f.over(1), 1e-9, "at one second the other has 120")
	require.InDelta(t, 0.1, f.over(2), 1e-9)
	require.InDelta(t, 200.0/180-1, f.spread(0.5), 1e-9)
	require.InDelta(t, 0.2, f.spread(2), 1e-9)
	require.Equal(t, []schedule.Gain{{Neighbourhood: "alone", Rounds: 80, Taken: 7, Won: 130}, {Neighbourhood: "rivals", Rounds: 20, Won: 30}}, f.gains())
	var out strings.Builder
	showGains(&out, []family{f})
	require.Regexp(t, `alone +80 %, 81 %\nrivals +20 %, 19 %\n`, out.String())
	require.Equal(t, int64(0), f.curves[0].at(0.05), "before there is a schedule")
	require.Equal(t, 2, strings.Count(drawCurves([]family{f}, 20), "<path"))
}
