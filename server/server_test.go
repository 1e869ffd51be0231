package server_test

import (
	"bytes"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/server"
	"jointime/store"
	"jointime/store/storetest"
)

type client struct {
	t   testing.TB
	url string
	// browser keeps what the server gave it; nil keeps nothing.
	browser *http.Client
	app     *server.Server // nil where it is not the client's own
}

// as is the same client with a person at its screen.
func (c client) as(person string) client {
	c.t.Helper()
	c = c.fresh()
	c.call("POST", "/api/session/person", map[string]any{"person": person}, 200)
	return c
}

// fresh is a client with a browser of its own that nobody has used yet.
func (c client) fresh() client {
	jar, err := cookiejar.New(nil)
	require.NoError(c.t, err)
	through := http.DefaultTransport
	if c.browser != nil {
		through = c.browser.Transport
	}
	c.browser = &http.Client{Jar: jar, Transport: through}
	return c
}

func (c client) do(req *http.Request) *http.Response {
	c.t.Helper()
	browser := c.browser
	if browser == nil {
		browser = http.DefaultClient
	}
	res, err := browser.Do(req)
	require.NoError(c.t, err)
	return res
}

func start(t testing.TB, withDemo bool) client {
	t.Helper()
	c, _ := serve(t, storetest.Open(t))
	if withDemo {
		c.call("POST", "/api/demo", nil, 200)
	}
	return c
}

// serve starts a server on a store, and returns what stops it.
func serve(t testing.TB, s *store.Store) (c client, stop func()) {
	return serveAt(t, s, storetest.Clock)
}

// serveAt is serve with another clock.
func serveAt(t testing.TB, s *store.Store, clock func() time.Time) (c client, stop func()) {
	t.Helper()
	return serveWith(t, s, server.Options{Clock: clock})
}

// quick is how long a better plan is looked for behind one here, a small part of what the application does: what is asked is what becomes
// of it.
const quick = 600

// serveWith is serve with options of its own.
func serveWith(t testing.TB, s *store.Store, o server.Options) (c client, stop func()) {
	t.Helper()
	if o.Clock == nil {
		o.Clock = storetest.Clock
	}
	o.Log, o.Patience, o.Rounds = slog.New(slog.NewTextHandler(io.Discard, nil)), 20, quick
	app := server.New(s, o)
	srv := httptest.NewServer(app)
	stop = sync.OnceFunc(func() {
		app.Close()
		srv.Close()
	})
	t.Cleanup(stop)
	return client{t: t, url: srv.URL, app: app}, stop
}

// call sends a body and expects a status; it returns the answer decoded.
func (c client) call(method, path string, body any, status int) map[string]any {
	c.t.Helper()
	var raw []byte
	switch b := body.(type) {
	case nil:
	case string:
		raw = []byte(b)
	default:
		var err error
		raw, err = json.Marshal(b)
		require.NoError(c.t, err)
	}
	req, err := http.NewRequest(method, c.url+path, bytes.NewReader(raw))
	require.NoError(c.t, err)
	req.Header.Set("Content-Type", "application/json")
	res := c.do(req)
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	require.Equal(c.t, status, res.StatusCode, "%s %s: %s", method, path, text)
	var out map[string]any
	if json.Unmarshal(text, &out) != nil {
		return map[string]any{"list": string(text)}
	}
	return out
}

func table(extra map[string]any) map[string]any {
	m := map[string]any{"orders": []any{map[string]any{"dish": "hake-cider-butter", "count": 2}}, "clock": "19:42"}
	for k, v := range extra {
		m[k] = v
	}
	return m
}

func strand(t *testing.T, plan any, component string) map[string]any {
	t.Helper()
	for _, s := range plan.(map[string]any)["strands"].([]any) {
		if m := s.(map[string]any); m["component"] == component {
			return m
		}
	}
	t.Fatalf("no strand of %s", component)
	return nil
}

func TestHealthAndContract(t *testing.T) {
	c := start(t, false)
	require.Equal(t, "ok", c.call("GET", "/healthz", nil, 200)["status"])
	require.Equal(t, "3.1.0", c.call("GET", "/openapi.json", nil, 200)["openapi"])
	c.call("GET", "/api/nothing", nil, 404)
	c.call("DELETE", "/api/dishes", nil, 405)
}

// The types of the pages are made from this file; it must be what the server says.
func TestTheContractOfThePagesIsTheServers(t *testing.T) {
	says, err := server.OpenAPI()
	require.NoError(t, err)
	kept, err := os.ReadFile("../web/src/api/openapi.json")
	require.NoError(t, err)
	require.JSONEq(t, string(kept), string(says), "run scripts/contract")
}

func TestEmptyKitchenSaysSo(t *testing.T) {
	c := start(t, false)
	require.Equal(t, true, c.call("GET", "/api/kitchen", nil, 200)["empty"])
	c.call("POST", "/api/plan", table(nil), 409)
	c.call("POST", "/api/demo", nil, 200)
	c.call("POST", "/api/demo", nil, 409)
}

func TestChangingAStepMovesItsFiringAndUndoBringsItBack(t *testing.T) {
	c := start(t, true)
	before := c.call("POST", "/api/plan", table(nil), 200)
	require.Equal(t, "optimal", before["status"])
	was := strand(t, before, "hake")["fire_s"].(float64)

	// The oven takes 2 min longer: the hake is fired 2 min earlier, the join stays.
	changed := c.call("PATCH", "/api/components/hake/steps/oven", map[string]any{"version": 1, "likely_s": 360, "table": table(nil)}, 200)
	require.Equal(t, was-120, strand(t, changed["plan"], "hake")["fire_s"])
	require.Equal(t, "Join unchanged. Hake, roasted fires 2 min earlier.", sentence(changed["said"]))
	require.Equal(t, float64(2), changed["version"])

	c.call("PATCH", "/api/components/hake/steps/oven", map[string]any{"version": 1, "likely_s": 300}, 409)
	back := c.call("POST", "/api/components/hake/restore", map[string]any{"version": 2, "to": 1, "table": table(nil)}, 200)
	require.Equal(t, was, strand(t, back["plan"], "hake")["fire_s"])
	require.Contains(t, c.call("GET", "/api/components/hake/history", nil, 200)["list"], "Back to version 1.")
}

func TestFaultsNameThePath(t *testing.T) {
	c := start(t, true)
	for _, x := range []struct {
		body map[string]any
		path string
	}{
		{map[string]any{"version": 1, "time": map[string]any{"fixed": map[string]any{"low": 9, "likely": 5, "high": 7},
			"per_portion": map[string]any{"low": 0, "likely": 0, "high": 0}}}, "steps[2].time.fixed.low"},
		{map[string]any{"version": 1, "after": []any{map[string]any{"step": "oven", "shortest": 0}}}, "steps"},
		{map[string]any{"version": 1, "after": []any{map[string]any{"step": "nowhere", "shortest": 0}}}, "steps[2].after[0].step"},
		{map[string]any{"version": 1, "equipment": map[string]any{"kind": "oven", "units": 40}}, "steps[2].equipment.units"},
		{map[string]any{"version": 1, "equipment": map[string]any{"kind": "oven", "units": 1, "setpoint_c": 500}},
			"steps[2].equipment.setpoint_c"},
		{map[string]any{"version": 1, "likely_s": 1e12}, "steps[2].time.fixed.likely"},
		{map[string]any{"version": 1, "name": strings.Repeat("ю", 500)}, "steps[2].name"},
		{map[string]any{"version": 1, "name": "\u0007"}, "name"},
	} {
		answer := c.call("PATCH", "/api/components/hake/steps/oven", x.body, 422)
		errs, _ := answer["errors"].([]any)
		require.NotEmpty(t, errs, "%v", answer)
		var paths []string
		for _, e := range errs {
			paths = append(paths, e.(map[string]any)["location"].(string))
		}
		require.Contains(t, paths, x.path)
	}
	require.Equal(t, float64(1), c.call("GET", "/api/components/hake", nil, 200)["version"], "nothing was written")
}

func TestBadRequests(t *testing.T) {
	c := start(t, true)
	c.call("POST", "/api/plan", `{"orders": [`, 400)
	c.call("POST", "/api/plan", strings.Repeat("x", 1<<20), 413)
	c.call("POST", "/api/plan", strings.Repeat("x", 1<<19), 400)
	c.call("POST", "/api/plan", `{"orders":[],"clock":"19:42","surprise":1}`, 422)
	c.call("POST", "/api/plan", table(map[string]any{"clock": "25:99"}), 422)
	c.call("POST", "/api/plan", map[string]any{"orders": []any{map[string]any{"dish": "nope", "count": -3}}, "clock": "19:42"}, 422)
	c.call("POST", "/api/plan", map[string]any{"orders": []any{map[string]any{"dish": "hake-cider-butter", "count": 1 << 40}},
		"clock": "19:42"}, 422)
	c.call("GET", "/api/dishes/nope", nil, 404)
	c.call("GET", "/api/components/%00", nil, 400)
	c.call("PATCH", "/api/components/hake/steps/nope", map[string]any{"version": 1}, 404)
}

func TestNamesInEveryScriptAreKept(t *testing.T) {
	c := start(t, true)
	name := "Запечь 焼く לאפות <script>alert(1)</script> ☃"
	got := c.call("PATCH", "/api/components/hake/steps/oven", map[string]any{"version": 1, "name": name}, 200)
	require.Equal(t, name, got["component"].(map[string]any)["steps"].([]any)[2].(map[string]any)["name"])
}

func TestPlateIsDrawnChangedAndExported(t *testing.T) {
	c := start(t, true)
	plate := c.call("GET", "/api/dishes/hake-cider-butter/plate", nil, 200)
	require.Len(t, plate["elements"], 6)
	require.Equal(t, float64(270), plate["width_mm"])
	require.Len(t, c.call("GET", "/api/dishes/hake-cider-butter/plate?variant=no+milk", nil, 200)["elements"], 4)
	c.call("GET", "/api/dishes/hake-cider-butter/plate?variant=none", nil, 422)
	c.call("GET", "/api/dishes/none/plate", nil, 404)
	require.Contains(t, c.call("GET", "/api/dishes/hake-cider-butter/plate.svg", nil, 200)["list"], `width="294.00mm"`)
	c.call("GET", "/api/dishes/none/plate.svg", nil, 404)

	view := c.call("GET", "/api/dishes/hake-cider-butter", nil, 200)
	dish := view["dish"].(map[string]any)
	elements := dish["specification"].(map[string]any)["elements"].([]any)
	// Twice the sauce: twice the weight of it, and so much more on the plate.
	elements[0].(map[string]any)["amount"] = 90
	changed := c.call("PUT", "/api/dishes/hake-cider-butter", map[string]any{"version": 1, "dish": dish}, 200)
	require.InDelta(t, view["weight_g"].(float64)+45*1.02, changed["weight_g"].(float64), 1e-9)
	c.call("PUT", "/api/dishes/hake-cider-butter", map[string]any{"version": 1, "dish": dish}, 409)

	// Absurd amounts, something on top of itself: refused with a path, nothing written.
	for path, change := range map[string]func(e map[string]any){
		"specification.elements[1].amount":    func(e map[string]any) { e["amount"] = 0 },
		"specification.elements[1].on":        func(e map[string]any) { e["on"] = 2 },
		"specification.elements[1].component": func(e map[string]any) { e["component"] = "nothing" },
	} {
		e := elements[1].(map[string]any)
		was := map[string]any{"amount": e["amount"], "on": e["on"], "component": e["component"]}
		change(e)
		answer := c.call("PUT", "/api/dishes/hake-cider-butter", map[string]any{"version": 2, "dish": dish}, 422)
		require.Equal(t, path, answer["errors"].([]any)[0].(map[string]any)["location"])
		for k, v := range was {
			e[k] = v
		}
	}
	back := c.call("POST", "/api/dishes/hake-cider-butter/restore", map[string]any{"version": 2, "to": 1}, 200)
	require.InDelta(t, view["weight_g"].(float64), back["weight_g"].(float64), 1e-9)
}

func unmarshal(raw []byte, into any) error { return json.Unmarshal(raw, into) }

// list is call for what answers with a list.
func (c client) list(method, path string, body any, status int) []any {
	c.t.Helper()
	var out []any
	require.NoError(c.t, json.Unmarshal([]byte(c.call(method, path, body, status)["list"].(string)), &out))
	return out
}

// sentence is the sentence of a message; "" where nothing is said.
func sentence(message any) string {
	text, _ := message.(map[string]any)["text"].(string)
	return text
}
