package expand

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// What could still be saved is said from half of the cost on, in seconds of lateness, at 4 a second; not where nothing is lost.
func TestWhatCouldStillBeSaved(t *testing.T) {
	said := func(cost, bound int64) string {
		m := leftToSave(&workload.Schedule{Cost: &cost, LowerBound: &bound})
		if m == nil {
			return ""
		}
		return m.Text
	}
	require.Empty(t, said(2400, 1199))
	require.Equal(t, "Another order of the same work could save 5 min of lateness at the most.", said(2400, 1200))
	require.Equal(t, "No other order of the same work is better.", said(2400, 2400))
	require.Equal(t, "No other order of the same work is better.", said(2400, 2397), "less than a second")
	require.Empty(t, said(0, 0))
	require.Nil(t, leftToSave(&workload.Schedule{}))
	cost := int64(100)
	require.Nil(t, leftToSave(&workload.Schedule{Cost: &cost}), "nothing is known of the bound")
}
