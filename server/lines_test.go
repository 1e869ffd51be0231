package server_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
)

// Lines of a component that is not there yet are read as they are typed: what is understood, what is taken for granted, what is not
// understood.
func TestLinesOfANewComponentAreRead(t *testing.T) {
	c := start(t, true)
	v := c.call("POST", "/api/lines", map[string]any{"name": "Salmon",
		"text": "cure 20 min\nsear 2 min each side\nslice by half, 2 min by fish\ncut into 4"}, 200)
	readings := v["readings"].([]any)
	require.Len(t, readings, 4)
	sear := readings[1].(map[string]any)
	require.Contains(t, fmt.Sprint(sear["assumed"]), "burner, by “sear”")
	require.Contains(t, fmt.Sprint(sear["understood"]), "turned once")
	steps := v["steps"].([]any)
	require.Equal(t, "fish", steps[2].(map[string]any)["section"], "a section that the house has; half is none")
	require.Contains(t, sentence(readings[3].(map[string]any)["unsure"]), "was not understood")
	require.Empty(t, v["faults"])
	c.call("POST", "/api/lines", map[string]any{"name": "x", "text": fmt.Sprintf("%0600d", 1)}, 422)
}
