package lookback

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// A pan that was ended just after the hands of its cook came free may have been ready since they were taken; one that was ended half a
// minute later, one in somebody else's hands, and one that takes both hands itself, was ended when it was ready.
func TestWhatWaitedForHands(t *testing.T) {
	at := noon()
	night := func(ended time.Duration, who string, hands kitchen.Hands) *Night {
		pan, whisk := ended.Seconds(), 240.0
		later := at.Add(400 * time.Second)
		return &Night{Steps: []RealStep{
			{At: &at, RealS: &pan, PlannedS: 420, Low: 360, Likely: 420, High: 480, People: []string{"Ana", "Bo"}, hands: hands},
			{At: &later, RealS: &whisk, People: []string{who}, hands: kitchen.Both}}}
	}
	for _, c := range []struct {
		ended time.Duration
		who   string
		hands kitchen.Hands
		from  float64
	}{
		{640 * time.Second, "Ana", kitchen.Tend, 400},
		{669 * time.Second, "Bo", kitchen.None, 400},
		{670 * time.Second, "Ana", kitchen.Tend, 0},
		{639 * time.Second, "Ana", kitchen.Tend, 0},
		{650 * time.Second, "Cy", kitchen.Tend, 0},
		{650 * time.Second, "Ana", kitchen.Both, 0},
	} {
		n := night(c.ended, c.who, c.hands)
		n.waits()
		require.Equal(t, c.from, n.Steps[0].readyFrom, "%+v", c)
		y, ok := n.Steps[0].ratio(nil)
		require.True(t, ok)
		if all := math.Log(c.ended.Seconds() / 420); c.from == 0 {
			require.InDelta(t, all, y, 1e-9)
		} else {
			require.Greater(t, y, math.Log(c.from/420), "no sooner than the hands were taken")
			require.Less(t, y, all/3, "most of it was waiting")
		}
	}
}

// The mean of a normal distribution that is cut off: above its middle it is √(2/π) deviations (the half-normal distribution), on both sides
// alike it is the middle, and far out the nearer bound.
func TestBetweenTwoBounds(t *testing.T) {
	require.InDelta(t, 0.2*math.Sqrt(2/math.Pi), between(0, 9, 0.2), 1e-9)
	require.InDelta(t, 0, between(-0.3, 0.3, 0.1), 1e-12)
	require.InDelta(t, 2, between(2, 3, 0.1), 1e-12)
	require.InDelta(t, -2, between(-3, -2, 0.1), 1e-12)
}
