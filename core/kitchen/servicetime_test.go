package kitchen_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

func seated(id, date string, at ...int) kitchen.Service {
	s := kitchen.Service{ID: id, Date: date}
	for _, m := range at {
		s.Tables = append(s.Tables, kitchen.ServiceTable{SeatedAt: m})
	}
	return s
}

// A service is over two hours after its last table was seated, to the second; past midnight the day goes on; one without tables never
// began.
func TestWhenAServiceIsOver(t *testing.T) {
	s := seated("a", "2026-05-14", 19*60, 25*60)
	end := time.Date(2026, 5, 15, 3, 0, 0, 0, time.UTC)
	require.False(t, s.Over(end.Add(-time.Second), time.UTC))
	require.True(t, s.Over(end, time.UTC))
	empty := seated("b", "2026-05-14")
	require.True(t, empty.Over(end.AddDate(-1, 0, 0), time.UTC))
	require.Panics(t, func() { bad := seated("c", "soon"); bad.Day(time.UTC) })
}

// A minute of the day goes by the clock on the wall, in the night in which the clocks change too.
func TestMinutesGoByTheClockOnTheWall(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	s := seated("a", "2026-03-29", 19*60)
	require.Equal(t, "2026-03-29 19:00", s.At(19*60, zone).Format("2006-01-02 15:04"))
	require.Equal(t, 18*time.Hour, s.At(19*60, zone).Sub(s.Day(zone)), "an hour is missing in that night")
}

// Two services overlap where one is still served while the other is cooked: two hours after the last table of the one, and two and a half
// before the first of the other. Those beside are found through one another.
func TestServicesThatOverlap(t *testing.T) {
	lunch := seated("lunch", "2026-05-14", 12*60, 13*60)
	for at, want := range map[int]bool{17*60 + 29: true, 17*60 + 30: false, 9 * 60: true} {
		dinner := seated("dinner", "2026-05-14", at)
		require.Equal(t, want, lunch.Overlaps(&dinner, time.UTC), at)
		require.Equal(t, want, dinner.Overlaps(&lunch, time.UTC), at)
	}
	require.False(t, lunch.Overlaps(&lunch, time.UTC), "with itself it does not")
	none := seated("none", "2026-05-14")
	require.False(t, lunch.Overlaps(&none, time.UTC))
	other := seated("other", "2026-05-15", 12*60)
	require.False(t, lunch.Overlaps(&other, time.UTC))
	// Past midnight one reaches into the next day.
	late := seated("late", "2026-05-14", 26*60)
	early := seated("early", "2026-05-15", 6*60)
	require.True(t, late.Overlaps(&early, time.UTC))
}

// What a service says of its school, where it says none: rather late than held.
func TestTheSchoolOfAService(t *testing.T) {
	require.Equal(t, kitchen.RatherLate, (&kitchen.Service{}).Taught())
	require.Equal(t, kitchen.InTime, (&kitchen.Service{School: kitchen.InTime}).Taught())
}
