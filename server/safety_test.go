package server_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// A reading is written down by somebody with a name, once however often it is sent; what was missing goes; a wrong line is corrected by
// another and stays; and the files hold the day and the month.
func TestTheLogOfTemperatures(t *testing.T) {
	c := start(t, true)
	const id, other = "11111111-1111-4111-8111-111111111111", "22222222-2222-4222-8222-222222222222"
	log := c.call("GET", "/api/safety/log", nil, 200)
	before := len(log["due"].([]any))
	require.Greater(t, before, 2, "the fridge, the freezer and the probe at least")
	reading := map[string]any{"id": id, "kind": "cold", "what": "Fridge", "ref": "fridge", "c": 40}
	body := c.call("POST", "/api/safety/log", reading, 422)
	require.Contains(t, words(body), "say who you are")
	c = c.as("ada")
	log = c.call("POST", "/api/safety/log", reading, 200)
	require.Len(t, log["lines"], 1)
	require.Len(t, log["due"], before-1)
	log = c.call("POST", "/api/safety/log", reading, 200)
	require.Len(t, log["lines"], 1, "sent twice, it is kept once")
	line := log["lines"].([]any)[0].(map[string]any)
	require.Equal(t, "past", line["state"])
	require.Equal(t, "Ada Brandt", line["person"])
	reading["id"], reading["c"], reading["corrects"] = other, 4, line["number"]
	log = c.call("POST", "/api/safety/log", reading, 200)
	require.Len(t, log["lines"], 2)
	require.EqualValues(t, line["number"].(float64)+1, log["lines"].([]any)[0].(map[string]any)["corrected"])
	reading["id"], reading["corrects"] = "33333333-3333-4333-8333-333333333333", 99
	body = c.call("POST", "/api/safety/log", reading, 422)
	require.Contains(t, words(body), "there is no line 99")
	day := log["day"].(string)
	for _, query := range []string{"day=" + day, "month=" + day[:7]} {
		_, raw := c.raw("GET", "/api/safety/log.csv?"+query, nil)
		require.Equal(t, 3, strings.Count(string(raw), "\r\n"), query)
		_, raw = c.raw("GET", "/api/safety/log.pdf?"+query, nil)
		require.True(t, strings.HasPrefix(string(raw), "%PDF"), query)
	}
	c.call("GET", "/api/safety/log?day=yesterday", nil, 422)
}

// words is everything that an answer says.
func words(body map[string]any) string {
	raw, err := json.Marshal(body)
	if err != nil {
		panic(err)
	}
	return string(raw)
}
