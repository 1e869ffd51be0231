package lookback

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/simulate"
)

// By hand: three things are on when the fourth is begun; what is done by then, or is another section's, does not count.
func TestHowMuchIsOn(t *testing.T) {
	at := func(minute int) *time.Time { x := noon().Add(time.Duration(minute) * time.Minute); return &x }
	long := func(minutes float64) *float64 { s := 60 * minutes; return &s }
	n := Night{Steps: []RealStep{{Section: "roast", At: at(0), RealS: long(20)}, {Section: "roast", At: at(1), RealS: long(20)},
		{Section: "roast", At: at(2), RealS: long(3)}, {Section: "fish", At: at(2), RealS: long(30)},
		{Section: "roast", At: at(3), RealS: long(20)},
		{Section: "roast", At: at(6), RealS: long(1)}, {Section: "roast"}}}
	n.watch()
	var watched []int
	for _, s := range n.Steps {
		watched = append(watched, s.Watched)
	}
	require.Equal(t, []int{0, 1, 2, 0, 3, 3, 0}, watched)
	require.Zero(t, n.Steps[2].over())
	require.InDelta(t, 1, n.Steps[4].over(), 1e-9)
	n.Steps[4].hands = kitchen.None
	require.Zero(t, n.Steps[4].over())
}

func noon() time.Time { return time.Date(2026, 5, 15, 12, 0, 0, 0, time.UTC) }

// What much to watch costs is found on played nights in which it is known, and nothing where it costs nothing: of 0.06 (0.058 as a
// logarithm) 0.051 to 0.058 by six plans of the evening.
func TestWhatWatchingCosts(t *testing.T) {
	for _, truth := range []float64{0, 0.02, 0.06} {
		set := simulate.Usual().AsOrdered()
		set.Watching = truth
		var all []float64
		for seed := range uint64(4) {
			all = append(all, Watching(record(100*seed+3, 8, set), nil))
		}
		mean, _ := spreadOf(all)
		require.InDelta(t, math.Log1p(truth), mean, 0.009, "%v", all)
	}
	require.Zero(t, Watching(nil, nil))
}
