package main

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule"
)

// The table of a family, by hand: two seeds, of which the one comes to 100 after two seconds and the other to 120.
func TestAFamilyOfCurves(t *testing.T) {
	f := family{name: "loose", curves: []curve{
		{points: []point{{0.1, 200}, {2, 100}}, asked: []point{{1, 180}, {2, 100}}, bound: 60,
			gains: []schedule.Gain{{Neighbourhood: "alone", Rounds: 30, Taken: 3, Won: 70}, {Neighbourhood: "rivals", Rounds: 10, Won: 30}}},
		{points: []point{{0.1, 180}, {1, 120}}, asked: []point{{1, 140}, {2, 120}}, bound: 50,
			gains: []schedule.Gain{{Neighbourhood: "alone", Rounds: 50, Taken: 4, Won: 60}, {Neighbourhood: "rivals", Rounds: 10}}},
	}}
	require.Equal(t, int64(100), f.best())
	require.InDelta(t, 0.6, f.proved(), 1e-9)
	require.InDelta(t, 0.6, f.over(1), 1e-9, "(180 + 140) / 2 over 100, whatever the long ones had then")
	require.InDelta(t, 0.1, f.over(2), 1e-9)
	require.InDelta(t, 180.0/140-1, f.spread(1), 1e-9)
	require.InDelta(t, 0.2, f.spread(2), 1e-9)
	require.Equal(t, []schedule.Gain{{Neighbourhood: "alone", Rounds: 80, Taken: 7, Won: 130}, {Neighbourhood: "rivals", Rounds: 20, Won: 30}},
		f.gains())
	var out strings.Builder
	showGains(&out, []family{f})
	require.Regexp(t, `alone +80 %, 81 %\nrivals +20 %, 19 %\n`, out.String())
	require.Equal(t, int64(0), f.curves[0].at(0.5), "none was given so little")
	require.Equal(t, int64(100), f.curves[0].at(5), "none was given more than two")
	require.Equal(t, 2, strings.Count(drawCurves([]family{f}, 20), "<path"))
	require.Equal(t, 4, strings.Count(drawCurves([]family{f}, 20), "<circle"))
}
