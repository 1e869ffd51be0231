package lines

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// A table of lines, each with the whole of what is understood of it.
func readsAs(t *testing.T, table map[string]string) {
	t.Helper()
	for said, want := range table {
		require.Equal(t, want, short(said), said)
	}
}

// A second time in a line belongs to the same step only where it goes on with it; anything else would be added up in silence.
func TestSecondTimeInALine(t *testing.T) {
	doubts(t, map[string]string{
		"infuse 30 min, cook 10 min":                              "line.own-line",
		"sauce: infuse 30 min, cook 10 min":                       "line.own-line",
		"brown 12 min, then into stock, 3 h at 150":               "line.own-line",
		"ribs: 20 s each to portion, then 6 min in the oven":      "line.own-line",
		"fry 4 min then 2 min":                                    "",
		"fry 4 min, flip, 1 min":                                  "",
		"fry 4 min, 1 min more":                                   "",
		"mix 2 min on slow, 6 min on fast in the mixer":           "",
		"sear 2 min, brown 1 min":                                 "",
		"sear 2 min, chop 1 min":                                  "line.own-line",
		"boil 12 min, proved 40 min":                              "line.own-line",
		"warm: 5 min, from 4:15 to 6:15, and 4 s a portion":       "",
		"simmer 20 min, from 15 min to 25 min":                    "",
		"rest in the fridge 1 h, then fry 4 min":                  "line.own-line",
		"salt the leaves overnight, simmer the sauce 8 min":       "line.own-line",
		"poach 10 min, ice bath 40 min":                           "line.own-line",
		"eggs 6 min in the oven, peel 30 s a piece":               "line.own-line",
		"shape while the dough is warm 5 s each, bake 7 min hot ": "line.own-line",
	})
}

// The bounds around a time are no second time, however they are written: they were added to it.
func TestBoundsAsTheClockShowsThem(t *testing.T) {
	for _, bounds := range []string{"from 4:15 to 6:15", "from 4 min 15 to 6:15", "from 4:15 to 6 min 15"} {
		c, r := readOne(t, &Known{}, "warm 5 min, "+bounds)
		require.Nil(t, r.Unsure, bounds)
		require.Equal(t, kitchen.Estimate{Low: 255, Likely: 300, High: 375}, c.Steps[0].Time.Fixed, bounds)
	}
}

// A number without a unit right behind a verb is minutes, and that is said; anywhere else it is marked.
func TestMinutesWithoutTheirUnit(t *testing.T) {
	for said, want := range map[string]int{"simmer 10": 600, "simmer 60": 3600, "bake 6 to 8 ": 420, "simmer the beans 10": 0, "simmer 61": 0,
		"cut 10": 0, "simmer 10 beans": 0} {
		c, r := readOne(t, &Known{}, said)
		require.Equal(t, want, c.Steps[0].Time.Fixed.Likely, said)
		told := false
		for _, a := range r.Assumed {
			told = told || a.Said.Key == "line.minutes"
		}
		require.Equal(t, want > 0, told, said)
		require.Equal(t, want == 0, r.Unsure != nil, said)
	}
}

// A round number of an oven beside a time, or behind a verb of the oven, is its heat.
func TestHeatWithoutItsUnit(t *testing.T) {
	readsAs(t, map[string]string{
		"bake 190 for 9 min":    "bake · 9 min · ~nobody · ~oven at 190",
		"bake 110 for 9 min":    "bake · 9 min · ~nobody · ~oven at 110",
		"bake 280 for 9 min":    "bake · 9 min · ~nobody · ~oven at 280",
		"bake 105 for 9 min":    "bake 105 · 9 min · ~nobody · ~oven · ? line.left-number",
		"bake 285 for 9 min":    "bake 285 · 9 min · ~nobody · ~oven · ? line.left-number",
		"bake 191 for 9 min":    "bake 191 · 9 min · ~nobody · ~oven · ? line.left-number",
		"bake 190 g for 9 min":  "bake 190 g · 9 min · ~nobody · ~oven · ? line.left-amount",
		"collar 62 in the bath": "collar · ~nobody · water-bath at 62 · ? line.no-time",
	})
}

// What is said never to be done stands behind a step as it stands in a line of its own.
func TestNeverBehindAStep(t *testing.T) {
	c, r := readOne(t, &Known{}, "simmer 8 min, never stir, because it clouds")
	require.Nil(t, r.Unsure)
	require.Equal(t, []kitchen.Never{{What: "stir", Because: "it clouds"}}, c.Steps[0].Never)
	_, r = readOne(t, &Known{}, "simmer 8 min, never stir")
	require.Equal(t, "line.why-never", doubted(&r))
	_, r = readOne(t, &Known{}, "simmer 8 min, keeps until the end of service")
	require.Equal(t, "line.left-wait", doubted(&r))
}

// A verb behind the time may be of something else, a verb of waiting of nothing that is done: the hands are a guess then, and marked.
func TestWhoseVerbItIs(t *testing.T) {
	doubts(t, map[string]string{
		"eggs 6 min, peel":            "line.where",
		"peel eggs 6 min":             "",
		"base 10 min, press it":       "line.where",
		"press it 10 min":             "",
		"blanch 3 min in oil at 130":  "",
		"simmer 3 min at 130":         "line.where",
		"sear 45 min at 54":           "line.where",
		"poach 45 min at 54":          "",
		"parmesan 6 min at 180":       "",
		"parmesan 5 min at 180":       "line.where",
		"beignets 5 min at 180":       "",
		"parmesan 5 min at 205":       "",
		"rolled tart 4 min":           "line.where",
		"tart rolled 4 min":           "",
		"ketchup cooked and cut 8":    "line.left-number",
		"hake cured in salt 3 h":      "",
		"hake cured 3 h, then 2 h on": "line.own-line",
	})
}
