package expand_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// By hand. What was finished at 10:30 must be taken on within an hour, and it is 11:31: a minute over is not said, a minute and a second
// is.
func TestAnOverdueWaitIsSaid(t *testing.T) {
	said := func(minute, second int) []expand.PrepTrouble {
		done := map[string]expand.Done{"c/s/1#soak": {Batch: "c/s/1", At: at(14, 10, 30)}}
		now := at(14, 11, minute).Add(time.Duration(second) * time.Second)
		_, plan := prepOf(t, now, done, 48, st("soak", 30, kitchen.Both, 0), st("boil", 20, kitchen.Both, 1))
		var out []expand.PrepTrouble
		for _, x := range plan.Trouble {
			if x.Said.Key == "prep.waits-long" {
				out = append(out, x)
			}
		}
		return out
	}
	require.Empty(t, said(30, 0), "an hour is what it may wait")
	require.Empty(t, said(31, 0), "a minute is let pass")
	over := said(31, 1)
	require.Len(t, over, 1)
	require.Equal(t, int64(61), over[0].LateS)
	require.Equal(t, "C waits 61 s longer than it should between “soak” and “boil”.", over[0].Said.Text)
	require.Len(t, said(50, 0), 1)
}
