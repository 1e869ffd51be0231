package server_test

import (
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// send asks with headers of its own and returns the status and what was said.
func (c client) send(method, path, body string, headers map[string]string) (int, string) {
	c.t.Helper()
	req, err := http.NewRequest(method, c.url+path, strings.NewReader(body))
	require.NoError(c.t, err)
	for k, v := range headers {
		if k == "Host" {
			req.Host = v
		} else {
			req.Header.Set(k, v)
		}
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(c.t, err)
	defer res.Body.Close()
	raw, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	return res.StatusCode, string(raw)
}

// Another site's page in the cook's browser, and a foreign name that leads to this machine,
// neither write nor read.
func TestOtherSitesAreKeptOut(t *testing.T) {
	c := start(t, true)
	tick := `{"task": "x", "done": true}`
	json := "application/json"
	for name, x := range map[string]struct {
		method, path, body string
		headers            map[string]string
		status             int
	}{
		"another origin": {"POST", "/api/prep/ticks", tick, map[string]string{"Content-Type": json,
			"Origin": "http://elsewhere.example"}, 403},
		"another site": {"POST", "/api/prep/ticks", tick, map[string]string{"Content-Type": json, "Sec-Fetch-Site": "cross-site"},
			403},
		"another site, no body":  {"POST", "/api/fire/tonight/again", "", map[string]string{"Sec-Fetch-Site": "cross-site"}, 403},
		"another site, delete":   {"DELETE", "/api/services/tonight?version=1", "", map[string]string{"Sec-Fetch-Site": "same-site"}, 403},
		"a foreign name reads":   {"GET", "/api/kitchen", "", map[string]string{"Host": "elsewhere.example:8740"}, 421},
		"a foreign name writes":  {"POST", "/api/prep/ticks", tick, map[string]string{"Content-Type": json, "Host": "elsewhere.example"}, 421},
		"a form":                 {"POST", "/api/prep/ticks", tick, map[string]string{"Content-Type": "text/plain"}, 415},
		"no type":                {"POST", "/api/prep/ticks", tick, nil, 415},
		"a picture that is text": {"PUT", hakePath + "/photograph", "x", map[string]string{"Content-Type": "text/plain"}, 415},
		"this origin": {"POST", "/api/prep/ticks", tick, map[string]string{"Content-Type": json + "; charset=utf-8",
			"Sec-Fetch-Site": "same-origin"}, 422},
		"this machine, by name":   {"GET", "/api/kitchen", "", map[string]string{"Host": "localhost:8740"}, 200},
		"this machine, version 6": {"GET", "/api/kitchen", "", map[string]string{"Host": "[::1]:8740"}, 200},
	} {
		status, said := c.send(x.method, x.path, x.body, x.headers)
		require.Equal(t, x.status, status, "%s: %s", name, said)
		if status >= 400 {
			require.Contains(t, said, `"detail"`, name)
		}
	}
}

// What no field can keep is refused with the place where it stands: never a 500.
func TestCharactersThatCannotBeShown(t *testing.T) {
	c := start(t, true)
	json := map[string]string{"Content-Type": "application/json"}
	for _, bad := range []string{`\u0000`, `\u0007`, `\u0085`, `\u007f`} {
		for path, body := range map[string]string{
			"name":              `{"name": "a%sb", "section": "larder", "unit": "g"}`,
			"section":           `{"name": "ab", "section": "lar%sder", "unit": "g"}`,
			"steps[1].checks":   `{"name": "ab", "section": "larder", "unit": "g", "steps": [{}, {"checks": "x%s"}]}`,
			"surprise.anything": `{"surprise": {"anything": "%s"}}`,
		} {
			status, said := c.send("POST", "/api/components", fmt.Sprintf(body, bad), json)
			require.Equal(t, 422, status, said)
			require.Contains(t, said, `"location":"`+path, said)
		}
	}
	for _, path := range []string{"/api/components/a%00b", "/api/components/a%00b/history", "/api/services/%07?version=1",
		"/api/fire/tonight?mend=%00",
		"/api/dishes/x%01y/photograph", "/api/fire/tonight/join?join=a%00", "/api/prep/calendar.ics?section=%1f"} {
		status, said := c.send("GET", path, "", nil)
		require.Equal(t, 400, status, "%s: %s", path, said)
	}
	// New lines and tabs are typed, and every script is.
	status, said := c.send("POST", "/api/components",
		`{"name": "焼き魚 🔥", "section": "larder", "unit": "g", "text": "sear 3 min\n\trest 2 min"}`, json)
	require.Equal(t, 200, status, said)
}

// Both sides of every bound: one more is refused with a sentence that names it.
func TestBounds(t *testing.T) {
	c := start(t, true)
	s, version := service(c, "tonight")
	tables := func(n, covers int) {
		list := []any{}
		for i := range n {
			list = append(list, map[string]any{"id": fmt.Sprintf("t-%d", i), "name": fmt.Sprintf("Table %d", i), "covers": covers,
				"seated_at": 1140, "needs": []any{}, "orders": []any{}})
		}
		s["tables"] = list
	}
	put := func(status int) string {
		v := c.call("PUT", "/api/services/tonight", map[string]any{"version": version, "value": s}, status)
		if status == 200 {
			version++
		}
		return fmt.Sprint(v)
	}
	tables(121, 1)
	require.Contains(t, put(422), "expected at most 120 tables in one service, got 121")
	tables(120, 9)
	require.Contains(t, put(422), "expected at most 1000 covers in one service, got 1080")
	tables(100, 10)
	put(200)
	tables(1, 1000)
	put(200)

	text := func(lines, length int) map[string]any {
		all := make([]string, lines)
		for i := range all {
			all[i] = "sear 3 min" + strings.Repeat(" a", (length-10)/2)
		}
		return map[string]any{"text": strings.Join(all, "\n")}
	}
	require.Contains(t, fmt.Sprint(c.call("POST", "/api/components/hake/lines", text(2, 502), 422)),
		"text, line 1: expected at most 500 characters, got 502")
	c.call("POST", "/api/components/hake/lines", text(2, 500), 200)
	require.Contains(t, fmt.Sprint(c.call("POST", "/api/components/hake/lines", text(401, 10), 422)), "expected at most 400 lines, got 401")
	c.call("POST", "/api/components/hake/lines", text(400, 10), 200)

	dish := c.call("GET", hakePath, nil, 200)["dish"].(map[string]any)
	spec := dish["specification"].(map[string]any)
	spec["final_checks"] = []any{strings.Repeat("й", 501)}
	require.Contains(t, fmt.Sprint(c.call("PUT", hakePath, map[string]any{"version": 1, "dish": dish}, 422)),
		"specification.final_checks[0]: expected at most 500 characters, got 501")
	spec["final_checks"] = []any{strings.Repeat("й", 500), "🔥 hot"}
	c.call("PUT", hakePath, map[string]any{"version": 1, "dish": dish}, 200)
	status, _ := c.raw("GET", hakePath+"/card.pdf?size=A5", nil)
	require.Equal(t, 200, status)
}

// A component whose recipe nobody entered is not one without allergens: not on the page, and
// not in a variant that promises something.
func TestWhatIsNotKnownIsNotNone(t *testing.T) {
	c := start(t, true)
	require.Empty(t, c.call("GET", hakePath, nil, 200)["unknown_recipes"])
	made := c.call("POST", "/api/components", map[string]any{"name": "Mystery crumb", "section": "larder", "unit": "g",
		"text": "toast 5 min"}, 200)
	dish := c.call("GET", hakePath, nil, 200)["dish"].(map[string]any)
	spec := dish["specification"].(map[string]any)
	elements := spec["elements"].([]any)
	element := elements[len(elements)-1].(map[string]any)
	element["component"] = made["component"].(map[string]any)["id"]
	c.call("PUT", hakePath, map[string]any{"version": 1, "dish": dish}, 200)
	require.Equal(t, []any{"Mystery crumb"}, c.call("GET", hakePath, nil, 200)["unknown_recipes"])
	said := fmt.Sprint(c.call("GET", hakePath+"/plate?variant=no+milk", nil, 200)["findings"])
	require.Contains(t, said, "Mystery crumb: not known what it brings in: nobody has said that its recipe is complete.")
	require.NotContains(t, said, "No recipe here has milk in it")
}

// An id that was used before can be used again: its history goes on.
func TestAnIDIsUsedAgain(t *testing.T) {
	c := start(t, true)
	s, _ := service(c, "tonight")
	s["name"] = "Next week"
	for range 2 {
		v := c.call("PUT", "/api/services/new", map[string]any{"version": 0, "value": s}, 200)
		version := v["versions"].(map[string]any)["service/next-week"].(float64)
		c.call("DELETE", fmt.Sprintf("/api/services/next-week?version=%.0f", version), nil, 200)
	}
}
