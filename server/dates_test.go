package server_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/store/storetest"
)

// The demo is loaded, planned, ticked and planned again at any hour of any day: before
// midnight, in both nights in which clocks change, on the day that comes every four years.
func TestAnyHourOfAnyDay(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Copenhagen")
	require.NoError(t, err)
	for _, at := range []time.Time{
		time.Date(2026, 5, 14, 23, 55, 0, 0, zone),
		time.Date(2026, 5, 15, 0, 5, 0, 0, zone),
		time.Date(2026, 3, 29, 1, 55, 0, 0, zone),  // at 2:00 it is 3:00
		time.Date(2026, 3, 29, 15, 30, 0, 0, zone), // the service of that day
		time.Date(2026, 3, 28, 23, 55, 0, 0, zone), // the night before
		time.Date(2026, 10, 25, 2, 30, 0, 0, zone), // that hour comes twice
		time.Date(2026, 10, 25, 18, 0, 0, 0, zone),
		time.Date(2028, 2, 29, 12, 0, 0, 0, zone),
		time.Date(2028, 2, 28, 23, 59, 59, 0, zone),
		time.Date(2026, 12, 31, 23, 58, 0, 0, zone),
	} {
		t.Run(at.Format("2006-01-02 15:04"), func(t *testing.T) {
			clock := func() time.Time { return at }
			c, stop := serveAt(t, storetest.OpenAt(t, clock), clock)
			c.call("POST", "/api/demo", nil, 200)
			c.few("tonight", 2)
			// After four in the morning it is the day's own; until then still the evening before.
			day := at.Add(-4 * time.Hour).Format(time.DateOnly)
			s, _ := service(c, "tonight")
			require.Equal(t, day, s["date"])
			prep := c.call("GET", "/api/prep", nil, 200)
			require.NotEmpty(t, prep["jobs"])
			fire := c.call("GET", "/api/fire/tonight", nil, 200)
			require.Len(t, fire["joins"], 8)
			for _, j := range fire["joins"].([]any) {
				// By the clock on the wall, in whatever night.
				require.Contains(t, fmt.Sprint(j.(map[string]any)["wanted_at"]), day)
			}
			require.Len(t, c.call("GET", "/api/day", nil, 200)["joins"], 8)
			for _, j := range prep["jobs"].([]any) {
				steps := j.(map[string]any)["steps"].([]any)
				if st := steps[0].(map[string]any); st["done"] == false {
					c.call("POST", "/api/prep/ticks", map[string]any{"task": st["task"], "done": true}, 204)
					break
				}
			}
			require.Eventually(t, func() bool { return c.call("GET", "/api/prep", nil, 200)["following"] == false }, time.Minute,
				20*time.Millisecond)
			stop()
		})
	}
}
