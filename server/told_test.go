package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/store/storetest"
)

// settled is the plan of a service once nothing better is looked for.
func (c client) settled(id string) map[string]any {
	c.t.Helper()
	for {
		if v := c.call("GET", "/api/fire/"+id, nil, 200); v["better"] == false {
			return v
		}
		time.Sleep(20 * time.Millisecond)
	}
}

// few leaves a service its first tables, so that its plans are made quickly.
func (c client) few(id string, tables int) (s map[string]any, version float64) {
	c.t.Helper()
	s, version = service(c, id)
	s["tables"] = s["tables"].([]any)[:tables]
	c.call("PUT", "/api/services/"+id, map[string]any{"version": version, "value": s}, 200)
	return s, version + 1
}

// After a restart, and from a second server on the same database, the plan is the same to the
// second; the line of the day has it before anybody asks for it.
func TestToldPlansOutliveTheServer(t *testing.T) {
	s := storetest.Open(t)
	c, stop := serve(t, s)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 4)
	was := c.settled("tonight")
	prep := c.call("GET", "/api/prep", nil, 200)
	day := c.call("GET", "/api/day", nil, 200)
	second, _ := serve(t, s)
	require.Equal(t, day["joins"], second.call("GET", "/api/day", nil, 200)["joins"])
	require.Equal(t, day["prep"], second.call("GET", "/api/day", nil, 200)["prep"])
	stop()
	again, _ := serve(t, s)
	for _, x := range []client{second, again} {
		require.Equal(t, was, x.call("GET", "/api/fire/tonight", nil, 200))
		require.Equal(t, prep, x.call("GET", "/api/prep", nil, 200))
	}
	require.NotEmpty(t, was["made_from"])
	// What one server tells, the other shows at once.
	second.call("POST", "/api/fire/tonight/again", nil, 200)
	a, b := second.settled("tonight"), again.settled("tonight")
	require.Equal(t, a, b)
	require.Greater(t, b["number"], was["number"])
}

// Printed, the plan stays when a dish is changed, and asks; taken, it follows.
func TestAPrintedPlanAsks(t *testing.T) {
	c := start(t, true)
	c.few("tonight", 3)
	v := c.settled("tonight")
	require.Equal(t, false, v["held"])
	c.call("POST", "/api/fire/tonight/printed", map[string]any{"number": v["number"].(float64) + 1}, 422)
	c.call("POST", "/api/fire/tonight/printed", map[string]any{"number": v["number"]}, 204)
	c.call("PATCH", "/api/components/hake/steps/oven", map[string]any{"version": 1, "likely_s": 400}, 200)
	var offer map[string]any
	require.Eventually(t, func() bool {
		offer, _ = c.call("GET", "/api/fire/tonight", nil, 200)["offer"].(map[string]any)
		return offer != nil && sentence(offer["said"]) != ""
	}, time.Minute, 20*time.Millisecond)
	held := c.call("GET", "/api/fire/tonight", nil, 200)
	require.Equal(t, v["joins"], held["joins"])
	require.Equal(t, v["number"], held["on_paper"])
	require.Equal(t, []any{"Hake, roasted"}, offer["changed"])
	require.Contains(t, fmt.Sprint(c.call("GET", "/api/day", nil, 200)["offers"]), sentence(offer["said"]))
	used := c.call("POST", "/api/fire/tonight/use", nil, 200)
	require.Equal(t, "used", used["kind"])
	require.Equal(t, offer["said"], used["said"])
	require.Nil(t, used["offer"])
	c.call("POST", "/api/fire/tonight/use", nil, 422)
}

// A service that is deleted leaves no ghost on the line of the day.
func TestADeletedServiceLeavesNoGhost(t *testing.T) {
	c := start(t, true)
	_, version := c.few("tonight", 2)
	c.call("GET", "/api/fire/tonight", nil, 200)
	require.Len(t, c.call("GET", "/api/day", nil, 200)["joins"], 8)
	c.call("DELETE", fmt.Sprintf("/api/services/tonight?version=%.0f", version), nil, 200)
	require.Empty(t, c.call("GET", "/api/day", nil, 200)["joins"])
	c.call("GET", "/api/fire/tonight", nil, 404)
}

// Reads that overlap with edits of the same service: nothing ends the server, and every
// answer is a whole plan of some version of it.
func TestReadsOverlapWithEdits(t *testing.T) {
	c := start(t, true)
	s, version := c.few("tonight", 3)
	c.call("GET", "/api/fire/tonight", nil, 200)
	for i := range 6 {
		s["tables"].([]any)[0].(map[string]any)["seated_at"] = 1111 + i
		c.call("PUT", "/api/services/tonight", map[string]any{"version": version, "value": s}, 200)
		version++
		v := c.call("GET", "/api/fire/tonight", nil, 200)
		require.Equal(t, version, v["version"])
		require.Len(t, v["joins"], 12)
	}
	require.Equal(t, version, c.settled("tonight")["version"])
}

// Twenty clients fire, try, keep, tick, edit, print and leave at once. Nobody hears that
// something went wrong on the server; in the end a second server shows the same.
func TestTwentyClientsAtOnce(t *testing.T) {
	st := storetest.Open(t)
	c, _ := serve(t, st)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	task := c.call("GET", "/api/prep", nil, 200)["jobs"].([]any)[0].(map[string]any)["steps"].([]any)[0].(map[string]any)["task"]
	ask := func(ctx context.Context, method, path string, body any) (int, string) {
		raw, _ := json.Marshal(body)
		text := ""
		if body != nil {
			text = string(raw)
		}
		req, err := http.NewRequestWithContext(ctx, method, c.url+path, strings.NewReader(text))
		if err != nil {
			return 0, err.Error()
		}
		req.Header.Set("Content-Type", "application/json")
		res, err := http.DefaultClient.Do(req)
		if err != nil {
			return 0, "left"
		}
		defer res.Body.Close()
		var said struct{ Detail string }
		_ = json.NewDecoder(res.Body).Decode(&said)
		return res.StatusCode, said.Detail
	}
	var wg sync.WaitGroup
	for i := range 20 {
		wg.Go(func() {
			for k := range 3 {
				ctx, cancel := context.WithTimeout(t.Context(), time.Duration(1+(i*7+k*13)%30)*100*time.Millisecond)
				var status int
				var said string
				switch i % 7 {
				case 0:
					snap, err := st.Snapshot(ctx)
					if err != nil {
						break
					}
					svc, _ := snap.Book.Service("tonight")
					changed := *svc
					changed.Margin = (changed.Margin + 10) % 100
					status, said = ask(ctx, "PUT", "/api/services/tonight",
						map[string]any{"version": snap.Versions[kitchen.Key{Kind: kitchen.ServiceRecord, ID: "tonight"}], "value": changed})
				case 1:
					status, said = ask(ctx, "POST", "/api/fire/tonight/mends", nil)
				case 2:
					status, said = ask(ctx, "POST", "/api/fire/tonight/keep", map[string]any{"mend": "hands:3", "version": 2 + k})
				case 3:
					status, said = ask(ctx, "POST", "/api/prep/ticks", map[string]any{"task": task, "done": k%2 == 0})
				case 4:
					status, said = ask(ctx, "GET", "/api/prep", nil)
				case 5:
					status, said = ask(ctx, "POST", "/api/fire/tonight/again", nil)
				default:
					status, said = ask(ctx, "GET", "/api/fire/tonight", nil)
				}
				cancel()
				if status >= 500 {
					t.Errorf("%d: %d %s", i, status, said)
				}
			}
		})
	}
	wg.Wait()
	// What a client that left had asked for may still be told: until then one of the two may be a plan behind.
	other, _ := serve(t, st)
	var one, two map[string]any
	for until := time.Now().Add(2 * time.Minute); time.Now().Before(until); time.Sleep(200 * time.Millisecond) {
		if one, two = c.settled("tonight"), other.settled("tonight"); one["number"] == two["number"] {
			break
		}
	}
	require.Equal(t, one, two)
}
