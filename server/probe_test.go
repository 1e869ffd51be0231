package server_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	"jointime/core/kitchen"
)

const breastPath = "/api/components/guinea-fowl-breast"

// bathReadings are what a probe would say in the demo's breast, so much slower than computed.
func bathReadings(t *testing.T, factor float64) string {
	t.Helper()
	p := heat.Piece{Shape: heat.Cylinder, Mm: 46, Food: heat.MeatFood, StartC: 5, TargetC: 63, Medium: heat.Bath, MediumC: 64}
	course, err := p.Course(factor, 60)
	require.NoError(t, err)
	var out []string
	for _, r := range course[:20] {
		out = append(out, fmt.Sprintf("%d:%02d %.1f", int(r.S)/60, int(r.S)%60, r.C))
	}
	return strings.Join(out, "\n")
}

func bath(c client) map[string]any {
	view := c.call("GET", breastPath, nil, 200)
	for _, s := range view["component"].(map[string]any)["steps"].([]any) {
		if m := s.(map[string]any); m["id"] == "bath" {
			return m
		}
	}
	return nil
}

func likely(step map[string]any) float64 {
	return step["time"].(map[string]any)["fixed"].(map[string]any)["likely"].(float64)
}

// Readings are answered with when it is there; kept, they correct the step's time, with how many there were; nonsense is named.
func TestAProbeCorrectsAStep(t *testing.T) {
	c := start(t, true)
	path := breastPath + "/steps/bath/probe"
	text := bathReadings(t, 1.2)
	said := c.call("POST", path, map[string]any{"text": text}, 200)
	require.Equal(t, false, said["problem"])
	require.InDelta(t, 1.2, said["factor"], 0.02)
	before := likely(bath(c))
	require.Nil(t, bath(c)["piece"].(map[string]any)["observed"], "reading keeps nothing")
	c.call("PUT", path, map[string]any{"version": 1, "text": text}, 200)
	step := bath(c)
	require.EqualValues(t, 1, step["piece"].(map[string]any)["observed"])
	require.InDelta(t, 1.2*before, likely(step), 0.03*before)
	c.call("PUT", path, map[string]any{"version": 1, "text": text}, 409)
	c.call("PUT", path, map[string]any{"version": 2, "text": bathReadings(t, 1/1.2)}, 200)
	require.InDelta(t, before, likely(bath(c)), 0.03*before, "the mean of both")

	bad := c.call("POST", path, map[string]any{"text": "2:00 18, soon 21"}, 422)
	require.Contains(t, fmt.Sprint(bad), "“soon 21” is not a time with degrees")
	few := c.call("POST", path, map[string]any{"text": "2:00 18"}, 200)
	require.Equal(t, true, few["problem"])
	bad = c.call("PUT", path, map[string]any{"version": 3, "text": "2:00 18"}, 422)
	require.Contains(t, fmt.Sprint(bad), "four readings")
	c.call("POST", breastPath+"/steps/nowhere/probe", map[string]any{"text": text}, 404)
	c.call("POST", "/api/components/nothing/steps/bath/probe", map[string]any{"text": text}, 404)
	none := c.call("POST", breastPath+"/steps/skin/probe", map[string]any{"text": text}, 200)
	require.Equal(t, true, none["problem"], "nothing says how large it is")
}

// Another size is another time, on the step and in lines; a typed time stays.
func TestASizeChangesTheTime(t *testing.T) {
	c := start(t, true)
	view := c.call("GET", breastPath, nil, 200)
	before := likely(bath(c))
	comp := view["component"].(map[string]any)
	for _, s := range comp["steps"].([]any) {
		if m := s.(map[string]any); m["id"] == "bath" {
			m["piece"].(map[string]any)["mm"] = 55
		}
	}
	saved := c.call("PUT", breastPath, map[string]any{"version": 1, "component": comp}, 200)
	require.Greater(t, likely(bath(c)), 1.2*before)
	require.Len(t, saved["heating"], 1)
	text := c.call("GET", breastPath+"/lines", nil, 200)["text"].(string)
	require.Contains(t, text, "55 mm thick cylinder of meat, core from 5 to 63")
	c.call("PUT", breastPath+"/lines", map[string]any{"version": 2, "text": strings.Replace(text, "55 mm thick", "46 mm thick", 1)}, 200)
	view = c.call("GET", breastPath, nil, 200)
	var step map[string]any
	for _, s := range view["component"].(map[string]any)["steps"].([]any) {
		if m := s.(map[string]any); m["piece"] != nil {
			step = m
		}
	}
	require.Equal(t, before, likely(step))
	c.call("PATCH", breastPath+"/steps/"+step["id"].(string), map[string]any{"version": 3, "likely_s": 4000}, 200)
	var after kitchen.Component
	raw, body := c.raw("GET", breastPath, nil)
	require.Equal(t, 200, raw)
	require.NoError(t, unmarshal([]byte(string(body[strings.Index(string(body), `"component":`)+12:strings.Index(string(body),
		`,"version"`)])), &after))
	for i := range after.Steps {
		if p := after.Steps[i].Piece; p != nil {
			require.True(t, p.Typed)
			require.Equal(t, 4000, after.Steps[i].Time.Fixed.Likely)
		}
	}
}
