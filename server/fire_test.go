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
	last, asked := 1e18, false
	for _, x := range mends {
		m := x.(map[string]any)
		require.Greater(t, m["saves_s"], float64(0))
		worth := m["saves_s"].(float64) - m["price_s"].(float64)
		if guests := m["guests"].(bool); guests && !asked { // what asks something of the guests comes last
			asked, last = true, 1e18
		} else {
			require.Equal(t, asked, guests)
		}
		if !m["fits"].(bool) {
			require.LessOrEqual(t, worth, last)
			last = worth
		}
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

// A meal is planned as one problem from zero; changed, it is planned again; what it cannot do is said, and a circle of nothing
// that is not there is not found.
func TestOneMealFromZero(t *testing.T) {
	c := start(t, true)
	require.Len(t, c.list("GET", "/api/meals", nil, 200), 1, "the demo's")
	c.call("POST", "/api/meals", map[string]any{"name": "Supper for four"}, 200)
	line := c.list("GET", "/api/meals", nil, 200)[1].(map[string]any)
	m := line["meal"].(map[string]any)
	require.Equal(t, "supper-for-four", m["id"])
	require.Len(t, m["courses"], 4)
	// Two of them by two cooks, in ten hours.
	m["courses"] = m["courses"].([]any)[2:]
	for i, x := range m["courses"].([]any) {
		x.(map[string]any)["due_min"] = 1200 + 30*i
	}
	m["people"] = []any{"marguerite", "hanne"}
	m["compulsory"] = []any{map[string]any{"say": "a sauce", "component": "cider-butter-sauce"}}
	c.call("PUT", "/api/meals/supper-for-four", map[string]any{"version": line["version"], "value": m}, 200)
	p := c.call("GET", "/api/meals/supper-for-four/plan", nil, 200)
	require.Len(t, p["courses"], 2)
	require.Len(t, p["sheets"], 2)
	require.NotEmpty(t, p["strands"])
	require.Equal(t, true, p["must"].([]any)[0].(map[string]any)["there"])
	require.GreaterOrEqual(t, p["first_s"], float64(0))
	require.Equal(t, p, c.call("GET", "/api/meals/supper-for-four/plan", nil, 200), "the same meal has the same plan")
	for i, due := range []float64{72000, 73800} {
		require.Equal(t, due, p["courses"].([]any)[i].(map[string]any)["due_s"])
	}
	m["without"] = []any{"combi", "deck"}
	c.call("PUT", "/api/meals/supper-for-four", map[string]any{"version": 2, "value": m}, 200)
	answer := c.call("GET", "/api/meals/supper-for-four/plan", nil, 422)
	require.Contains(t, fmt.Sprint(answer["errors"]), "the kitchen has no oven")
	c.call("GET", "/api/meals/nothing/plan", nil, 404)
	c.raw("DELETE", "/api/meals/supper-for-four?version=3", nil)
	require.Len(t, c.list("GET", "/api/meals", nil, 200), 1)
}

// A section's recipes are signed in one go, by name and as they were read; what was changed meanwhile is refused, and what was not
// entered cannot be signed.
func TestRecipesAreSigned(t *testing.T) {
	c := start(t, true)
	recipe := func(id string) map[string]any {
		for _, x := range c.list("GET", "/api/recipes", nil, 200) {
			if m := x.(map[string]any); m["id"] == id {
				return m
			}
		}
		return nil
	}
	rye := recipe("rye-crisp")
	require.Equal(t, false, rye["known"])
	require.Equal(t, []any{"Rye crisp"}, c.call("GET", "/api/dishes/mussel-custard", nil, 200)["unknown_recipes"])
	sign := func(by string, version any, want int) {
		c.call("POST", "/api/recipes/sign", map[string]any{"by": by, "recipes": []any{map[string]any{"id": "rye-crisp", "version": version}}},
			want)
	}
	sign("  ", rye["version"], 422)
	sign("Hanne", 7, 409)
	sign("Hanne", rye["version"], 200)
	rye = recipe("rye-crisp")
	require.Equal(t, true, rye["known"])
	require.Equal(t, "Hanne", rye["signed"].(map[string]any)["by"])
	require.Empty(t, c.call("GET", "/api/dishes/mussel-custard", nil, 200)["unknown_recipes"])
	history := c.list("GET", "/api/components/rye-crisp/history", nil, 200)
	require.Contains(t, fmt.Sprint(history[0]), "Hanne says that the recipe is complete")
	c.call("POST", "/api/recipes/sign", map[string]any{"by": "Hanne", "recipes": []any{map[string]any{"id": "nothing", "version": 1}}}, 404)
	require.Contains(t, fmt.Sprint(recipe("fennel-broth")["suggestions"]), "mussel")
}
