package server_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestLinesAreReadSavedAndGivenBack(t *testing.T) {
	c := start(t, true)
	said := c.call("GET", "/api/components/hake/lines", nil, 200)["text"].(string)
	require.Contains(t, said, "to order\nSkin down in the pan: 3:30")
	require.True(t, strings.HasSuffix(said, "rest 1 min, best 90 s, at most 3 min, kept on a rack to 54°, on the bench\n"))

	read := c.call("POST", "/api/components/hake/lines", map[string]any{"text": "sear 3 min both hands on the plancha\ncoax it along"}, 200)
	require.Len(t, read["steps"], 2)
	require.Empty(t, read["faults"])
	require.Equal(t, "no time was found in this line", sentence(read["readings"].([]any)[1].(map[string]any)["unsure"]))
	require.Equal(t, float64(1), c.call("GET", "/api/components/hake", nil, 200)["version"], "reading saves nothing")

	saved := c.call("PUT", "/api/components/hake/lines", map[string]any{"version": 1,
		"text": "to order\nsear 3 min both hands on the plancha", "table": table(nil)}, 200)
	require.Contains(t, sentence(saved["said"]), "Hake, roasted fires")
	require.Len(t, saved["component"].(map[string]any)["steps"], 1)
	c.call("PUT", "/api/components/hake/lines", map[string]any{"version": 1, "text": "x"}, 409)
	// A step that no equipment can serve is refused with its path.
	answer := c.call("PUT", "/api/components/hake/lines", map[string]any{"version": 2, "text": "bake 3 min in the oven at 700"}, 422)
	require.Equal(t, "steps[0].equipment.setpoint_c", answer["errors"].([]any)[0].(map[string]any)["location"])
	c.call("GET", "/api/components/none/lines", nil, 404)
	c.call("POST", "/api/components/none/lines", map[string]any{"text": ""}, 404)
}

func TestNewComponentsAndDishes(t *testing.T) {
	c := start(t, true)
	one := c.call("POST", "/api/components", map[string]any{"name": "Turnip", "section": "garnish", "unit": "g",
		"text": "peel 5 min\nto order\nglaze 4 min on the burner"}, 200)
	two := c.call("POST", "/api/components", map[string]any{"name": "Turnip", "section": "garnish", "unit": "g"}, 200)
	require.Equal(t, "turnip", one["component"].(map[string]any)["id"])
	require.Equal(t, "turnip-2", two["component"].(map[string]any)["id"], "the same name twice is two things")
	other := c.call("POST", "/api/components", map[string]any{"name": "かぶ", "section": "garnish", "unit": "g"}, 200)
	require.Equal(t, "item", other["component"].(map[string]any)["id"])
	for _, bad := range []map[string]any{
		{"name": " ", "section": "garnish", "unit": "g"},
		{"name": "X", "section": "attic", "unit": "g"},
		{"name": "X", "section": "garnish", "unit": "bucket"},
		{"name": "X", "section": "garnish", "unit": "g", "colour": "red;background:url(x)"},
		{"name": strings.Repeat("x", 500), "section": "garnish", "unit": "g"},
	} {
		c.call("POST", "/api/components", bad, 422)
	}
	d := c.call("POST", "/api/dishes", map[string]any{"name": "Turnip of the day", "course": "main"}, 200)
	require.Equal(t, "turnip-of-the-day", d["dish"].(map[string]any)["id"])
	c.call("POST", "/api/dishes", map[string]any{"name": "X", "course": "elevenses"}, 422)
	// An empty plate is drawn, and cannot be fired: said with its path.
	plate := c.call("GET", "/api/dishes/turnip-of-the-day/plate", nil, 200)
	require.Equal(t, "Nothing is on this plate yet.", sentence(plate["findings"].([]any)[0].(map[string]any)["said"]))
	answer := c.call("POST", "/api/plan", map[string]any{"orders": []any{map[string]any{"dish": "turnip-of-the-day", "count": 2}},
		"clock": "19:42"}, 422)
	require.Equal(t, "orders[0].dish", answer["errors"].([]any)[0].(map[string]any)["location"])
}

// A plate can be drawn before it is saved; what refers to nothing is refused.
func TestDrawingWithoutSaving(t *testing.T) {
	c := start(t, true)
	dish := c.call("GET", "/api/dishes/treacle-sponge", nil, 200)["dish"].(map[string]any)
	require.Len(t, c.call("POST", "/api/plate", dish, 200)["elements"], 5)
	dish["specification"].(map[string]any)["vessel"] = "bathtub"
	c.call("POST", "/api/plate", dish, 422)
}

// A table that cannot be kept within the rules still gets a plan, with what it breaks
// in sentences; at an hour when nobody works, that is what is said.
func TestTroubleIsTold(t *testing.T) {
	c := start(t, true)
	p := c.call("POST", "/api/plan", map[string]any{"orders": []any{map[string]any{"dish": "guinea-fowl-barley", "count": 24}},
		"clock": "19:42", "hands": 3}, 200)
	require.Equal(t, "feasible", p["status"], "as in a service, what waits too long is dear and not forbidden")
	require.Regexp(t, `^.+ may wait .+, and waits .+ longer\.$`, sentence(p["trouble"].([]any)[0]))
	require.Len(t, p["strands"], 6)
	night := c.call("POST", "/api/plan", table(map[string]any{"clock": "03:30"}), 200)
	require.Equal(t, "best-effort", night["status"])
	require.NotEmpty(t, night["trouble"])
}

// The service day turns at four in the morning: until then a clock time is tonight's.
func TestTheServiceDay(t *testing.T) {
	c := start(t, true)
	// The tests' clock: Thursday 14 May 2026, 13:30 UTC, 15:30 in the kitchen.
	late := c.call("POST", "/api/plan", table(map[string]any{"clock": "00:30"}), 200)
	require.Equal(t, "2026-05-15T00:30:00+02:00", late["wanted_at"])
	early := c.call("POST", "/api/plan", table(map[string]any{"clock": "9:05"}), 200)
	require.Equal(t, "2026-05-14T09:05:00+02:00", early["wanted_at"])
	house := c.call("GET", "/api/kitchen", nil, 200)["day"].(map[string]any)
	require.Equal(t, "2026-05-14T08:00:00+02:00", house["from"])
	require.Equal(t, "2026-05-14T15:30:00+02:00", house["now"])
}
