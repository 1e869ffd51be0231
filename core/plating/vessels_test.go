package plating

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// The vessel's edge and its well: a slate has corners, everything else is round, and the rim lies between them.
func TestOutlinesOfVessels(t *testing.T) {
	span := func(ps []Point) (w, h float64) {
		x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
		for _, p := range ps {
			x0, x1, y0, y1 = math.Min(x0, p.X), math.Max(x1, p.X), math.Min(y0, p.Y), math.Max(y1, p.Y)
		}
		return x1 - x0, y1 - y0
	}
	for kind, depth := range map[string]float64{"round": 0, "coupe": 0, "bowl": 0, "oval": 200, "slate": 200, "cup": 0} {
		p := drawn(t, func(d *kitchen.Data) {
			d.Vessels[0] = kitchen.Vessel{ID: "slate", Name: kind, Kind: kitchen.VesselKind(kind), WidthMm: 280, DepthMm: depth, RimMm: 25,
				HeightMm: 20}
		}, disc("a", 10, 0, 0))
		high := depth
		if high == 0 {
			high = 280
		}
		w, h := span(p.Outer)
		require.InDelta(t, 280, w, 0.5, kind)
		require.InDelta(t, high, h, 0.5, kind)
		w, h = span(p.Well)
		require.InDelta(t, 230, w, 0.5, kind)
		require.InDelta(t, high-50, h, 0.5, kind)
		full := 280 * high
		if kind != "slate" {
			full *= math.Pi / 4
		}
		require.InEpsilon(t, full, area(p.Outer), 0.01, kind)
	}
}

// A point lies outside by how far it is from the edge: of a circle along the ray, of a slate along the nearer side.
func TestHowFarOutside(t *testing.T) {
	round := &kitchen.Vessel{Kind: "round", WidthMm: 200}
	slate := &kitchen.Vessel{Kind: "slate", WidthMm: 200, DepthMm: 100}
	for _, c := range []struct {
		v    *kitchen.Vessel
		q    Point
		rim  float64
		want float64
	}{
		{round, Point{0, 0}, 0, 0}, {round, Point{100, 0}, 0, 0}, {round, Point{101, 0}, 0, 1}, {round, Point{0, -90}, 20, 10},
		{round, Point{60, 80}, 0, 0}, {round, Point{63, 84}, 0, 5},
		{slate, Point{100, 50}, 0, 0}, {slate, Point{103, 50}, 0, 3}, {slate, Point{0, 54}, 0, 4}, {slate, Point{103, 54}, 0, 4},
		{slate, Point{95, 0}, 10, 5},
	} {
		require.InDelta(t, c.want, outside(c.q, c.v, c.rim), 1e-9, "%+v", c)
	}
}

func TestBoxes(t *testing.T) {
	b := boxOf([]Point{{0, 0}, {10, 10}})
	for q, want := range map[Point]bool{{0, 0}: true, {10, 10}: true, {5, 5}: true, {-0.1, 5}: false, {10.1, 5}: false, {5, -0.1}: false,
		{5, 10.1}: false} {
		require.Equal(t, want, b.holds(q), q)
	}
	require.InDelta(t, 0, b.gap(boxOf([]Point{{5, 5}, {20, 20}})), 0)
	require.InDelta(t, 5, b.gap(boxOf([]Point{{15, 0}, {20, 10}})), 1e-9)
	require.InDelta(t, 5, b.gap(boxOf([]Point{{13, 14}, {20, 20}})), 1e-9)
}

// The sectors in which nothing lies are named by the clock; a plate that is covered all round names none.
func TestEmptyHours(t *testing.T) {
	p := drawn(t, nil, disc("a", 30, 60, 0), disc("b", 30, -60, 0))
	said := finding(p, "coverage")
	require.Contains(t, said, "nothing at ")
	for _, hour := range []string{"12", "6"} {
		require.Contains(t, said, hour)
	}
	require.NotContains(t, strings.Split(said, "nothing at ")[1], " 3,")
	all := drawn(t, nil, put("a", 280*180*10/1000, kitchen.Form{Kind: "block", LengthMm: 280, WidthMm: 180}, 0, 0))
	require.NotContains(t, finding(all, "coverage"), "nothing at")
	for hour := 1; hour <= 12; hour++ {
		a := float64(hour) * math.Pi / 6
		p := drawn(t, nil, disc("a", 8, 60*math.Sin(a), -60*math.Cos(a)))
		listed := strings.Split(strings.TrimSuffix(strings.Split(finding(p, "coverage"), "nothing at ")[1], " o’clock."), ", ")
		require.NotContains(t, listed, fmt.Sprint(hour), "there is something")
		require.GreaterOrEqual(t, len(listed), 10)
	}
}
