package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/server"
)

// What happens comes first: it ends the search for a better plan. The clock alone does not, and after two that were ended the third comes to
// its end, or in a rush none would.
func TestASearchBehindComesToItsEnd(t *testing.T) {
	f := server.NewFollowers()
	ended := 0
	searches := func() { f.Searches("tonight", func() { ended++ }) }
	require.True(t, f.Begins("tonight", false))
	require.False(t, f.Begins("tonight", false), "it is under way, and no search is to be ended yet")
	require.Zero(t, ended)
	for range 3 {
		searches()
		require.False(t, f.Begins("tonight", true))
		require.Zero(t, ended, "the clock ends none")
	}
	for _, want := range []int{1, 2, 2, 2} {
		searches()
		require.False(t, f.Begins("tonight", false))
		require.Equal(t, want, ended)
	}
	f.Searched("tonight")
	searches()
	require.False(t, f.Begins("tonight", false))
	require.Equal(t, 3, ended)
	require.True(t, f.Begins("tomorrow", true), "each service by itself")
}
