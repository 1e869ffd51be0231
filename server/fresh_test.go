package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// What is new is made by the server: a service of the day with the menu, a copy a week later, tables, parts of the
// kitchen, an element on a plate.
func TestWhatIsNewIsMadeHere(t *testing.T) {
	c := start(t, true)
	made := c.call("POST", "/api/services", map[string]any{"name": "Lunch"}, 200)
	lunch := made["service"].(map[string]any)
	require.Equal(t, "lunch", lunch["id"])
	require.Equal(t, "2026-05-14", lunch["date"])
	require.NotEmpty(t, lunch["menu"])
	require.Len(t, lunch["tables"], 1)
	require.InDelta(t, 1, made["version"], 0)

	again := c.call("POST", "/api/services", map[string]any{"name": "Lunch", "copy": "lunch"}, 200)["service"].(map[string]any)
	require.Equal(t, "lunch-2", again["id"], "an id is never used twice")
	require.Equal(t, "2026-05-21", again["date"])
	c.call("POST", "/api/services", map[string]any{"name": "X", "copy": "nothing"}, 404)
	c.call("POST", "/api/services", map[string]any{"name": " "}, 422)

	more := c.call("POST", "/api/services/lunch/tables", map[string]any{"version": 1, "edit": "add"}, 200)
	require.Len(t, more["service"].(map[string]any)["tables"], 2)
	c.call("POST", "/api/services/lunch/tables", map[string]any{"version": 1, "edit": "add"}, 409)
	c.call("POST", "/api/services/lunch/tables", map[string]any{"version": 2, "edit": "remove", "table": "table-9"}, 422)
	less := c.call("POST", "/api/services/lunch/tables", map[string]any{"version": 2, "edit": "remove", "table": "table-1"}, 200)
	require.Len(t, less["service"].(map[string]any)["tables"], 1)
	c.call("POST", "/api/services/nothing/tables", map[string]any{"version": 2, "edit": "add"}, 404)

	for path, list := range map[string]string{"sections": "sections", "people": "people", "equipment": "equipment", "vessels": "vessels"} {
		was := len(c.call("GET", "/api/kitchen", nil, 200)[list].([]any))
		house := c.call("POST", "/api/"+path, map[string]any{"name": "Brand new"}, 200)
		all := house[list].([]any)
		require.Len(t, all, was+1, path)
		require.Equal(t, "Brand new", all[was].(map[string]any)["name"])
	}
}

func TestAnElementIsPutOn(t *testing.T) {
	c := start(t, true)
	d := c.call("GET", hakePath, nil, 200)
	was := d["dish"].(map[string]any)["specification"].(map[string]any)["elements"].([]any)
	put := c.call("POST", hakePath+"/sequence", map[string]any{"version": d["version"], "edit": "add", "component": "dill-oil"}, 200)
	is := put["dish"].(map[string]any)["specification"].(map[string]any)["elements"].([]any)
	require.Len(t, is, len(was)+1)
	require.Equal(t, "dill-oil", is[len(was)].(map[string]any)["component"])
	refused := c.call("POST", hakePath+"/sequence", map[string]any{"version": put["version"], "edit": "add", "component": "nothing"}, 422)
	// A fault is a sentence, and a message with its facts for those who want it.
	fault := refused["faults"].([]any)[0].(map[string]any)
	require.Equal(t, "component", fault["path"])
	said := fault["message"].(map[string]any)
	require.Equal(t, "fault.no-record", said["key"])
	require.Equal(t, "nothing", said["facts"].(map[string]any)["id"].(map[string]any)["text"])
	require.Equal(t, said["text"], refused["errors"].([]any)[0].(map[string]any)["message"])
}

// What is typed into fields is understood here, and here only.
func TestTypedIsUnderstood(t *testing.T) {
	c := start(t, true)
	ask := func(as, typed string) map[string]any {
		return c.call("POST", "/api/understand", map[string]any{"as": as, "text": typed}, 200)
	}
	require.InDelta(t, 5400, ask("time", "1½ h")["value"], 0)
	require.InDelta(t, 240, ask("time", "4")["value"], 0)
	require.InDelta(t, 4, ask("seconds", "4")["value"], 0)
	require.InDelta(t, 1170, ask("clock", "19.30")["value"], 0)
	require.Equal(t, "19:30", ask("clock", "19.30")["said"])
	require.InDelta(t, 180, ask("degrees", "gas 4")["value"], 4)
	hours := ask("hours", "10-15, 17–1")
	require.Equal(t, []any{map[string]any{"from": 600.0, "to": 900.0}, map[string]any{"from": 1020.0, "to": 1500.0}}, hours["stretches"])
	require.Equal(t, "10:00–15:00, 17:00–01:00", hours["said"])
	for _, as := range []string{"time", "seconds", "degrees", "clock", "hours"} {
		u := ask(as, "soon")
		require.Equal(t, false, u["ok"], as)
		require.Empty(t, u["said"], as)
	}
	c.call("POST", "/api/understand", map[string]any{"as": "taste", "text": "x"}, 422)
}
