package server_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/require"
	"github.com/tealeg/xlsx/v3"
)

func jobs(v map[string]any, component string) (out []map[string]any) {
	for _, j := range v["jobs"].([]any) {
		if m := j.(map[string]any); m["component"] == component {
			out = append(out, m)
		}
	}
	return out
}

func service(c client, id string) (map[string]any, float64) {
	_, raw := c.raw("GET", "/api/services", nil)
	var list []map[string]any
	require.NoError(c.t, unmarshal(raw, &list))
	for _, l := range list {
		if s := l["service"].(map[string]any); s["id"] == id {
			return s, l["version"].(float64)
		}
	}
	c.t.Fatalf("no service %s", id)
	return nil, 0
}

func TestPrepPlanOfTheDemo(t *testing.T) {
	c := start(t, true)
	v := c.call("GET", "/api/prep", nil, 200)
	require.Greater(t, len(v["jobs"].([]any)), 40)
	kinds := fmt.Sprint(v["trouble"])
	require.Contains(t, kinds, "kind:forgotten")
	require.Contains(t, kinds, "Cured egg yolk should have been begun by")
	require.NotEmpty(t, v["gates"])
	require.NotEmpty(t, v["ticks"], "the morning's work is ticked")
	// Twice the covers at a table, more batches; the sentence says which.
	s, version := service(c, "tonight")
	was := len(jobs(v, "charred-leek"))
	for _, x := range s["tables"].([]any) {
		x.(map[string]any)["covers"] = 12
	}
	c.call("PUT", "/api/services/tonight", map[string]any{"version": version, "value": s}, 200)
	v = c.call("GET", "/api/prep", nil, 200)
	require.Greater(t, len(jobs(v, "charred-leek")), was)
	require.Contains(t, sentence(v["said"]), "batches, was")
}

func TestTicksAreKept(t *testing.T) {
	c := start(t, true)
	v := c.call("GET", "/api/prep", nil, 200)
	var task string
	for _, j := range v["jobs"].([]any) {
		m := j.(map[string]any)
		if st := m["steps"].([]any); task == "" && m["state"] == "to-do" && len(st) == 1 {
			task = st[0].(map[string]any)["task"].(string)
		}
	}
	require.NotEmpty(t, task)
	status, raw := c.raw("POST", "/api/prep/ticks",
		[]byte(fmt.Sprintf(`{"task": %q, "done": true, "tasted": true, "amount": 777, "note": "more salt"}`, task)))
	require.Equal(t, 204, status, string(raw))
	_, raw = c.raw("GET", "/api/prep", nil)
	require.Contains(t, string(raw), `"person":"Ines"`)
	require.Contains(t, string(raw), "more salt")
	v = c.call("GET", "/api/prep", nil, 200)
	for _, j := range v["jobs"].([]any) {
		if m := j.(map[string]any); strings.HasPrefix(task, m["id"].(string)+"#") {
			require.Equal(t, "done", m["state"])
			require.Equal(t, float64(777), m["amount"])
		}
	}
	c.call("POST", "/api/prep/ticks", map[string]any{"task": "nothing#at", "done": true}, 422)
	c.call("POST", "/api/prep/ticks", map[string]any{"task": task, "done": false}, 204)
}

// A person who is away takes no job; their work moves to others.
func TestAnAbsentPersonMovesThePlan(t *testing.T) {
	c := start(t, true)
	c.call("GET", "/api/prep", nil, 200)
	house := c.call("GET", "/api/kitchen", nil, 200)
	for _, x := range house["people"].([]any) {
		p := x.(map[string]any)
		if p["id"] == "oluwa" {
			p["absent"] = []any{"2026-05-14", "2026-05-15"}
			c.call("PUT", "/api/people/oluwa", map[string]any{"version": 1, "value": p}, 200)
		}
	}
	v := c.call("GET", "/api/prep", nil, 200)
	for _, j := range v["jobs"].([]any) {
		for _, s := range j.(map[string]any)["steps"].([]any) {
			st := s.(map[string]any)
			if st["done"] == false && st["begun"] == false {
				require.NotContains(t, st["people"], "Oluwa")
			}
		}
	}
	require.NotEqual(t, "The plan is as it was.", sentence(v["said"]))
}

// Exports are read back with other libraries than those that wrote them; what looks like
// a formula stays text.
func TestExportsReadBack(t *testing.T) {
	c := start(t, true)
	leek := c.call("GET", "/api/components/charred-leek", nil, 200)["component"].(map[string]any)
	leek["ingredients"].([]any)[0].(map[string]any)["name"] = `=HYPERLINK("x")`
	c.call("PUT", "/api/components/charred-leek", map[string]any{"version": 1, "component": leek}, 200)

	_, raw := c.raw("GET", "/api/prep/ingredients.csv", nil)
	rows, err := csv.NewReader(bytes.NewReader(raw)).ReadAll()
	require.NoError(t, err)
	require.Equal(t, "Ingredient", rows[0][1])
	require.Greater(t, len(rows), 40)
	require.Contains(t, string(raw), `'=HYPERLINK`)

	_, raw = c.raw("GET", "/api/prep/ingredients.xlsx", nil)
	book, err := xlsx.OpenBinary(raw)
	require.NoError(t, err)
	found := false
	require.NoError(t, book.Sheets[0].ForEachRow(func(r *xlsx.Row) error {
		cell := r.GetCell(1)
		if cell.Value == `=HYPERLINK("x")` {
			found = true
			require.Empty(t, cell.Formula())
		}
		return nil
	}))
	require.True(t, found)
	require.Equal(t, len(rows), book.Sheets[0].MaxRow)

	_, raw = c.raw("GET", "/api/prep/calendar.ics", nil)
	cal, err := ical.NewDecoder(bytes.NewReader(raw)).Decode()
	require.NoError(t, err)
	v := c.call("GET", "/api/prep", nil, 200)
	require.Len(t, cal.Events(), len(v["jobs"].([]any)))
	for _, e := range cal.Events() {
		from, err := e.DateTimeStart(time.UTC)
		require.NoError(t, err)
		to, err := e.DateTimeEnd(time.UTC)
		require.NoError(t, err)
		require.False(t, to.Before(from))
		summary, err := e.Props.Text(ical.PropSummary)
		require.NoError(t, err)
		require.Contains(t, summary, "start by ")
	}
}

func TestBadServices(t *testing.T) {
	c := start(t, true)
	s, version := service(c, "tonight")
	put := func(change func(map[string]any), say string) {
		copied, _ := service(c, "tonight")
		change(copied)
		require.Contains(t, fmt.Sprint(c.call("PUT", "/api/services/tonight", map[string]any{"version": version, "value": copied}, 422)), say)
	}
	first := func(m map[string]any, key string) map[string]any { return m[key].([]any)[0].(map[string]any) }
	put(func(m map[string]any) { first(m, "tables")["covers"] = 0 }, "expected 1 to 1000, got 0")
	put(func(m map[string]any) { first(m, "menu")["share_percent"] = 80 }, "add up to 125 %; expected at most 100")
	put(func(m map[string]any) { first(m, "menu")["dish"] = "nothing" }, "no dish has the id")
	put(func(m map[string]any) { m["date"] = "tomorrow" }, "expected a date like")
	put(func(m map[string]any) {
		first(m, "tables")["needs"] = []any{map[string]any{"guests": 9, "doneness": "well done"}}
	}, "9 guests have needs, and 2 are seated")
	// Copied to another day as a new one, and removed again.
	s["date"], s["name"] = "2026-05-21", "Next week"
	v := c.call("PUT", "/api/services/new", map[string]any{"version": 0, "value": s}, 200)
	require.Equal(t, float64(1), v["versions"].(map[string]any)["service/next-week"])
	c.call("DELETE", "/api/services/next-week?version=1", nil, 200)
}

// What is on hand is written by the clock on the kitchen's wall, also on the day on which
// that changes; a fault names its field.
func TestPutOnHand(t *testing.T) {
	c := start(t, true)
	has := func(id string) map[string]any {
		for _, x := range c.list("GET", "/api/stock", nil, 200) {
			if s := x.(map[string]any); s["stock"].(map[string]any)["id"] == id {
				return s
			}
		}
		return nil
	}
	c.list("POST", "/api/stock", map[string]any{"component": "dill-oil", "amount": 250, "use_by": "2026-10-26 18:00", "note": "second shelf"},
		200)
	line := has("dill-oil")
	require.NotNil(t, line)
	// In winter time, a day after the clocks went back: an hour from UTC, not two.
	require.Equal(t, "2026-10-26T18:00:00+01:00", line["stock"].(map[string]any)["use_by"])
	c.list("POST", "/api/stock", map[string]any{"id": "dill-oil", "version": 1, "component": "dill-oil", "amount": 100,
		"use_by": "2026-10-20 18:00"}, 200)
	require.Equal(t, "2026-10-20T18:00:00+02:00", has("dill-oil")["stock"].(map[string]any)["use_by"])
	require.Equal(t, float64(2), has("dill-oil")["version"])
	c.list("POST", "/api/stock", map[string]any{"component": "dill-oil", "amount": 5, "use_by": "2026-10-20 18:00"}, 200)
	require.NotNil(t, has("dill-oil-2"), "a second lot has an id of its own")
	for field, bad := range map[string]map[string]any{
		"use_by":    {"component": "dill-oil", "amount": 5, "use_by": "soon"},
		"component": {"component": "nothing", "amount": 5, "use_by": "2026-10-20 18:00"},
		"amount":    {"component": "dill-oil", "amount": 0, "use_by": "2026-10-20 18:00"},
	} {
		v := c.call("POST", "/api/stock", bad, 422)
		require.Equal(t, field, v["errors"].([]any)[0].(map[string]any)["location"])
	}
	c.call("POST", "/api/stock", map[string]any{"id": "dill-oil", "version": 1, "component": "dill-oil", "amount": 5,
		"use_by": "2026-10-20 18:00"}, 409)
}

func TestSumsByTheScales(t *testing.T) {
	c := start(t, false)
	v := c.call("POST", "/api/work-out", map[string]any{"kind": "begin-with", "amount": 1, "unit": "l", "percent": 80}, 200)
	require.Equal(t, "For 1 l after a reduction by 80 % begin with 5 l.", sentence(v["said"]))
	require.Equal(t, float64(5), v["amount"])
	v = c.call("POST", "/api/work-out", map[string]any{"kind": "convert", "amount": 1, "unit": "stone", "to": "g"}, 422)
	require.Equal(t, "unit", v["errors"].([]any)[0].(map[string]any)["location"])
	c.call("POST", "/api/work-out", map[string]any{"kind": "guess", "amount": 1, "unit": "g"}, 422)
	v = c.call("POST", "/api/work-out", map[string]any{"kind": "carry", "amount": 2, "unit": "l", "steps": "by half, to 500 ml"}, 200)
	require.Equal(t, "2 l → 1 l → 0.5 l.", sentence(v["said"]))
	v = c.call("POST", "/api/work-out", map[string]any{"kind": "convert", "amount": 350, "unit": "°F", "to": "°C"}, 200)
	require.Equal(t, "350 °F = 176.7 °C.", sentence(v["said"]))
}

func TestWhatGoesIntoSoMuch(t *testing.T) {
	c := start(t, true)
	v := c.call("POST", "/api/work-out", map[string]any{"kind": "for", "amount": 3.6, "unit": "kg", "component": "guinea-fowl-breast"}, 200)
	require.Equal(t, "For 3.6 kg of Guinea fowl breast, before trim:", sentence(v["said"]))
	require.Equal(t, "Guinea fowl: 12 piece", sentence(v["parts"].([]any)[0]))
	c.call("POST", "/api/work-out", map[string]any{"kind": "for", "amount": 1, "unit": "kg", "component": "nothing"}, 422)
}

// What helps is planned again, less late than the plan, and asked for once.
func TestWhatCanStillBeDone(t *testing.T) {
	c := start(t, true)
	require.NotEmpty(t, c.call("GET", "/api/prep", nil, 200)["trouble"], "the demo forgot something")
	list := c.list("POST", "/api/prep/mends", nil, 200)
	require.NotEmpty(t, list)
	last := float64(0)
	for _, x := range list {
		m := x.(map[string]any)
		require.Less(t, m["late_s"], m["was_s"])
		require.GreaterOrEqual(t, m["late_s"].(float64), last)
		last = m["late_s"].(float64)
		require.NotEmpty(t, m["costs"])
	}
	require.Equal(t, list, c.list("POST", "/api/prep/mends", nil, 200))
}

// The line of the day has what was planned, and plans nothing itself.
func TestTheLineOfTheDay(t *testing.T) {
	c := start(t, true)
	v := c.call("GET", "/api/day", nil, 200)
	require.Empty(t, v["joins"])
	require.Empty(t, v["prep"])
	c.call("GET", "/api/prep", nil, 200)
	c.call("GET", "/api/fire/tonight", nil, 200)
	v = c.call("GET", "/api/day", nil, 200)
	require.Len(t, v["joins"], 60)
	require.NotEmpty(t, v["prep"])
	trouble := 0
	for _, j := range v["joins"].([]any) {
		if j.(map[string]any)["trouble"].(bool) {
			trouble++
		}
	}
	require.Positive(t, trouble)
	empty := start(t, false)
	require.Empty(t, empty.call("GET", "/api/day", nil, 200)["joins"])
}
