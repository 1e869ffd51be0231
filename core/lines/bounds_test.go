package lines_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/lines"
)

// Reading a line takes time that grows with its length, whatever it repeats: four times the
// line, about four times the work (counted in allocations, which do not depend on the
// machine).
func TestReadingIsLinear(t *testing.T) {
	for _, phrase := range []string{"until a, ", "mind hot ", "after x ", "rare 2 min less ", "puts in clip ", "2 min ",
		"from 1 min to 2 min "} {
		work := func(n int) float64 {
			line := strings.Repeat(phrase, n)
			return testing.AllocsPerRun(3, func() { lines.Parse(kitchen.Component{}, line) })
		}
		once, four := work(200), work(800)
		require.Less(t, four, 6*once+1000, phrase)
	}
}

func TestBoundsOfLines(t *testing.T) {
	require.NoError(t, lines.Check(strings.Repeat("й", lines.MaxLine)))
	require.ErrorContains(t, lines.Check("sear\n"+strings.Repeat("й", lines.MaxLine+1)),
		"text, line 2: expected at most 500 characters, got 501")
	require.NoError(t, lines.Check(strings.Repeat("a\n", lines.MaxLines-1)))
	require.ErrorContains(t, lines.Check(strings.Repeat("a\n", lines.MaxLines)), "expected at most 400 lines, got 401")
}

// What was read has its lists, empty where nothing was said: the pages count on them.
func TestNoListIsMissing(t *testing.T) {
	for _, text := range []string{"", "sear 3 min",
		"to order\nsear 3 min, until golden, rare 1 min less, mind hot, puts in clip, takes out clip, after sear", "rest 2 min"} {
		c, readings := lines.Parse(kitchen.Component{}, text)
		for _, v := range []any{c.Steps, readings} {
			raw, err := json.Marshal(v)
			require.NoError(t, err)
			require.NotContains(t, string(raw), "null", text)
		}
	}
}
