package lines_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/lines"
)

func TestClocksOnTheWall(t *testing.T) {
	for typed, minutes := range map[string]int{"19:30": 1170, " 19.30 ": 1170, "7": 420, "00:00": 0, "24:59": 1499, "47:59": 2879,
		"48:00": 2880} {
		got, ok := lines.Clock(typed)
		require.True(t, ok, typed)
		require.Equal(t, minutes, got, typed)
		again, ok := lines.Clock(lines.SayClock(minutes))
		require.True(t, ok)
		require.Equal(t, minutes, again)
	}
	for _, typed := range []string{"", "19:60", "19:3", "48:01", "-1:00", "noon", "19:30:00", "1930"} {
		_, ok := lines.Clock(typed)
		require.False(t, ok, typed)
	}
}

func TestHoursOfADay(t *testing.T) {
	for typed, want := range map[string][]lines.Stretch{
		"":                 nil,
		"10:00–15:00":      {{From: 600, To: 900}},
		"10-15, 17 to 23":  {{From: 600, To: 900}, {From: 1020, To: 1380}},
		"17:00–01:30":      {{From: 1020, To: 1530}}, // into the night
		"10:00–10:00":      {{From: 600, To: 2040}},  // round the clock
		"9.30 – 14,18-18:": nil,
	} {
		got, ok := lines.Hours(typed)
		if typed == "9.30 – 14,18-18:" {
			require.False(t, ok, typed)
			continue
		}
		require.True(t, ok, typed)
		require.Equal(t, want, got, typed)
		again, ok := lines.Hours(lines.SayHours(got))
		require.True(t, ok)
		require.Equal(t, want, again, typed)
	}
	for _, typed := range []string{"10", "10-", "10-12-14", "x", "10–25:61", ","} {
		_, ok := lines.Hours(typed)
		require.False(t, ok, typed)
	}
}

// A bare number is minutes in a field for times, seconds in one for short times; with a unit both are the same.
func TestBareNumbers(t *testing.T) {
	for typed, want := range map[string][2]int{"4": {240, 4}, "1½": {90, 2}, "90 s": {90, 90}, "4:30": {270, 270}, "1 h 20": {4800, 4800}} {
		m, ok := lines.Typed(typed)
		require.True(t, ok, typed)
		s, ok := lines.TypedSeconds(typed)
		require.True(t, ok, typed)
		require.Equal(t, want, [2]int{m, s}, typed)
	}
	for _, typed := range []string{"", "soon", "4 apples", "-3"} {
		_, ok := lines.Typed(typed)
		require.False(t, ok, typed)
		_, ok = lines.TypedSeconds(typed)
		require.False(t, ok, typed)
	}
}
