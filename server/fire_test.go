package server_test

import (
	"bytes"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/verify"
	"jointime/core/workload"
)

func TestFirePlanMendsAndFiles(t *testing.T) {
	c := start(t, true)
	v := c.call("GET", "/api/fire/tonight", nil, 200)
	require.Len(t, v["joins"], 60, "15 tables with four courses")
	require.Contains(t, []any{"feasible", "optimal"}, v["status"])
	for _, j := range v["joins"].([]any) {
		chance := j.(map[string]any)["chance"].(float64)
		require.True(t, chance >= 0 && chance <= 1)
	}
	for _, l := range v["loads"].([]any) {
		m := l.(map[string]any)
		require.LessOrEqual(t, m["peak"], m["capacity"], m["name"])
	}
	require.NotEmpty(t, v["trouble"], "the demo is tight")

	// The files of one moment: the judge accepts them, and finds the same cost.
	_, raw := c.raw("GET", "/api/fire/tonight/files/workload.json", nil)
	w, err := workload.Read(bytes.NewReader(raw))
	require.NoError(t, err)
	for range 5 {
		_, raw = c.raw("GET", "/api/fire/tonight/files/schedule.json", nil)
		s, err := workload.ReadSchedule(bytes.NewReader(raw))
		require.NoError(t, err)
		broken, err := verify.Check(w, s)
		require.NoError(t, err)
		require.Empty(t, broken)
	}

	join := v["joins"].([]any)[0].(map[string]any)["id"].(string)
	require.NotEmpty(t, c.call("GET", "/api/fire/tonight/join?join="+join, nil, 200)["strands"])

	// Three large tables want guinea fowl at once, and one cook browns it: seated apart it
	// goes. A mend that is offered helps; kept, the service is changed.
	busy, _ := service(c, "tonight")
	busy["menu"] = []any{map[string]any{"dish": "guinea-fowl-barley", "share_percent": 100}}
	three := busy["tables"].([]any)[:3]
	for _, x := range three {
		x.(map[string]any)["covers"], x.(map[string]any)["seated_at"], x.(map[string]any)["needs"] = 8, 1140, []any{}
	}
	busy["tables"] = three
	c.call("PUT", "/api/services/tonight", map[string]any{"version": 1, "value": busy}, 200)
	mends := c.call("POST", "/api/fire/tonight/mends", nil, 200)["mends"].([]any)
	require.NotEmpty(t, mends)
	base := c.call("GET", "/api/fire/tonight", nil, 200)
	last := 1e18
	for _, x := range mends {
		m := x.(map[string]any)
		require.Greater(t, m["saves_s"], float64(0))
		worth := m["saves_s"].(float64) - m["price_s"].(float64)
		require.LessOrEqual(t, worth, last)
		last = worth
		tried := c.call("GET", "/api/fire/tonight?mend="+fmt.Sprint(m["id"]), nil, 200)
		require.Equal(t, m["id"], tried["trying"])
		require.NotEmpty(t, tried["joins"])
		now := c.call("GET", "/api/fire/tonight", nil, 200)
		require.Equal(t, now["cost"].(float64)-tried["cost"].(float64), m["saves_s"], "the saving promised is the difference of the two plans")
	}
	best := mends[0].(map[string]any)["id"]
	promised := c.call("GET", "/api/fire/tonight?mend="+fmt.Sprint(best), nil, 200)["cost"]
	c.call("POST", "/api/fire/tonight/keep", map[string]any{"mend": best, "version": base["version"]}, 200)
	s, version := service(c, "tonight")
	require.Equal(t, float64(3), version)
	require.NotEmpty(t, s)
	kept := c.call("GET", "/api/fire/tonight", nil, 200)
	require.LessOrEqual(t, kept["cost"], promised, "what was tried is what is kept, or better")
	require.NotEmpty(t, sentence(kept["said"]))
	c.call("POST", "/api/fire/tonight/keep", map[string]any{"mend": best, "version": 3}, 422)
	c.call("GET", "/api/fire/nothing", nil, 404)
}

func TestBanquetGoesInRounds(t *testing.T) {
	c := start(t, true)
	v := c.call("GET", "/api/fire/tomorrow", nil, 200)
	rounds := 0
	for _, j := range v["joins"].([]any) {
		m := j.(map[string]any)
		require.LessOrEqual(t, m["plates"], float64(8), "the pass takes eight plates")
		if m["table"] == "hall" && m["course"] == "main" {
			rounds++
		}
	}
	require.Equal(t, 7, rounds)
}
