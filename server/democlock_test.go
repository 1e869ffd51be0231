package server_test

import (
	"encoding/json"
	"io"
	"log/slog"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	core "jointime/core/service"
	"jointime/demo"
	"jointime/server"
	"jointime/store"
	"jointime/store/storetest"
)

// demoAt is a server with a clock that can be put, by a wall clock that tests set.
func demoAt(t *testing.T, s *store.Store, wall *clockOf) (client, func()) {
	t.Helper()
	c := demo.NewClock(wall.now)
	app := server.New(s, server.Options{Clock: c.Now, Demo: c, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Patience: 20,
		Rounds: quick})
	srv := httptest.NewServer(app)
	stop := func() { app.Close(); srv.Close() }
	t.Cleanup(stop)
	return client{t: t, url: srv.URL}, stop
}

// The demo opens on the afternoon of its day whatever the hour is, stands still while nobody serves it, and can be put at another hour; a
// kitchen of somebody's own goes with the clock on the wall.
func TestTheDemoHasAClockOfItsOwn(t *testing.T) {
	wall := &clockOf{at: time.Date(2026, 5, 14, 22, 10, 0, 0, time.UTC)} // ten past midnight in the demo's kitchen
	s := storetest.OpenAt(t, wall.now)
	c, stop := demoAt(t, s, wall)
	at := func(c client) time.Time {
		x, err := time.Parse(time.RFC3339, c.call("GET", "/api/demo/clock", nil, 200)["at"].(string))
		require.NoError(t, err)
		return x
	}
	require.Equal(t, false, c.call("GET", "/api/demo/clock", nil, 200)["demo"])
	require.True(t, at(c).Equal(wall.now()))
	c.call("POST", "/api/demo", nil, 200)
	zone := time.FixedZone("", 2*3600)
	afternoon := time.Date(2026, 5, 15, 14, 20, 0, 0, zone)
	require.True(t, at(c).Equal(afternoon), "%s", at(c))
	services := c.text("/api/services")
	require.Contains(t, services, `"over":false`)
	require.NotContains(t, services, `"over":true`)

	wall.set(wall.now().Add(time.Minute))
	require.True(t, at(c).Equal(afternoon.Add(time.Minute)))
	// Just before opening the work of the afternoon is done: what is ticked is what the plan would have finished.
	before := len(c.call("GET", "/api/prep", nil, 200)["ticks"].([]any))
	c.call("PUT", "/api/demo/clock", map[string]any{"hour": "opening"}, 200)
	opening := time.Date(2026, 5, 15, 18, 25, 0, 0, zone)
	require.True(t, at(c).Equal(opening))
	require.Greater(t, len(c.call("GET", "/api/prep", nil, 200)["ticks"].([]any)), before)
	unready := c.call("GET", "/api/services/tonight/gate", nil, 200)["unready"].([]any)
	require.NotEmpty(t, unready, "one thing was forgotten")
	require.Less(t, len(unready), 15)
	c.call("PUT", "/api/demo/clock", map[string]any{"hour": "midnight"}, 422)

	// Whoever stops it finds it where it was, however long that is ago; another server on the same database shows the same.
	require.Eventually(t, func() bool { // it is written down how far it has come
		d, err := s.DemoClock(t.Context())
		return err == nil && d.Reached.Equal(opening)
	}, 10*time.Second, 50*time.Millisecond)
	stop()
	wall.set(wall.now().Add(50 * time.Hour))
	c, _ = demoAt(t, s, wall)
	require.True(t, at(c).Equal(opening), "%s", at(c))
	d, _ := demoAt(t, s, wall)
	d.call("PUT", "/api/demo/clock", map[string]any{"hour": "before-prep"}, 200)
	require.Eventually(t, func() bool { return at(c).Equal(time.Date(2026, 5, 15, 8, 5, 0, 0, zone)) }, 20*time.Second, 50*time.Millisecond)
	d.call("PUT", "/api/demo/clock", map[string]any{"hour": "real-time"}, 200)
	require.True(t, at(d).Equal(wall.now()))
	require.Eventually(t, func() bool { return at(c).Equal(wall.now()) }, 20*time.Second, 50*time.Millisecond)

	own, _ := demoAt(t, storetest.OpenAt(t, wall.now), wall)
	own.call("POST", "/api/kitchen", map[string]any{"name": "Ours", "time_zone": "UTC", "safety_code": "uk-eu"}, 200)
	own.call("PUT", "/api/demo/clock", map[string]any{"hour": "opening"}, 409)
	require.True(t, at(own).Equal(wall.now()))
}

// In the middle of a played service there is a log by the rules, which goes on as the clock does, until the clock is put again.
func TestTheDemoPlaysAService(t *testing.T) {
	wall := &clockOf{at: time.Date(2026, 5, 14, 22, 10, 0, 0, time.UTC)}
	c, _ := demoAt(t, storetest.OpenAt(t, wall.now), wall)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 6)
	c.call("PUT", "/api/demo/clock", map[string]any{"hour": "serving"}, 200)
	stands := func() (s core.State) {
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/state")), &s))
		return s
	}
	s := stands()
	require.Equal(t, core.Open, s.Phase)
	require.Empty(t, s.Settle)
	sent := 0
	for _, x := range s.Tables {
		for _, course := range x.Courses {
			if course.Sent != nil {
				sent++
			}
		}
	}
	require.Greater(t, sent, 3)
	require.NotEmpty(t, s.Runs)
	d := c.dueNow()
	require.NotEmpty(t, d.Joins)
	before := s.Events
	// In small steps: a clock that leaps was put by another server.
	require.Eventually(t, func() bool {
		wall.set(wall.now().Add(500 * time.Millisecond))
		s = stands()
		return s.Events > before+2
	}, time.Minute, 100*time.Millisecond, "it goes on")
	require.Empty(t, s.Settle)
	c.call("PUT", "/api/demo/clock", map[string]any{"hour": "opening"}, 200)
}
