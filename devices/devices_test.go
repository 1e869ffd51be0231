package devices_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/demo"
	"jointime/devices"
	"jointime/server"
	"jointime/store/storetest"
)

// kitchenAt is a server with the first tables of the demo's evening at an instant that can be put, and a device at it.
func kitchenAt(t *testing.T, tables int) (c *devices.Client, url string, put func(time.Time)) {
	t.Helper()
	var mu sync.Mutex
	now, began := storetest.Clock(), time.Now()
	clock := func() time.Time { mu.Lock(); defer mu.Unlock(); return now.Add(time.Since(began)) }
	s := storetest.OpenAt(t, clock)
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = demo.Services(now)
	for i := range d.Components {
		if x := &d.Components[i]; x.ID == "hake" { // with a size, so that its core can be computed
			x.Steps[x.StepIndex("oven")].Piece = &kitchen.Piece{Shape: heat.Slab, Mm: 30, Food: heat.FishFood, StartC: 20, TargetC: 52, Typed: true}
		}
	}
	for i := range d.Services {
		if d.Services[i].ID == demo.Tonight {
			d.Services[i].Tables = d.Services[i].Tables[:tables]
		}
	}
	require.NoError(t, s.Import(t.Context(), d, "the test's kitchen"))
	app := server.New(s, server.Options{Clock: clock, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Patience: 20,
		Rounds: 2000})
	srv := httptest.NewServer(app)
	t.Cleanup(func() { app.Close(); srv.Close() })
	c, err = devices.NewClient(t.Context(), srv.URL, "")
	require.NoError(t, err)
	return c, srv.URL, func(at time.Time) { mu.Lock(); defer mu.Unlock(); now, began = at, time.Now() }
}

func get(t *testing.T, url string, into any) {
	t.Helper()
	res, err := http.Get(url) //nolint:gosec,noctx // the test's own server
	require.NoError(t, err)
	defer res.Body.Close()
	require.Equal(t, 200, res.StatusCode, url)
	require.NoError(t, json.NewDecoder(res.Body).Decode(into))
}

func say(t *testing.T, url string, events ...map[string]any) {
	t.Helper()
	b, err := json.Marshal(map[string]any{"events": events})
	require.NoError(t, err)
	//nolint:gosec,noctx // the test's own server
	res, err := http.Post(url+"/api/services/tonight/events", "application/json", bytes.NewReader(b))
	require.NoError(t, err)
	defer res.Body.Close()
	require.Equal(t, 200, res.StatusCode)
}

// Tickets are read from lines; one that is none is named by its line.
func TestTicketsAreRead(t *testing.T) {
	list, err := devices.ReadTickets(strings.NewReader(`{"table": "7", "line": "2 hake"}

{"id": "a", "table": "8", "line": "1 fowl", "after_s": 2}
`))
	require.NoError(t, err)
	require.Equal(t, []devices.Ticket{{Table: "7", Line: "2 hake"}, {ID: "a", Table: "8", Line: "1 fowl", AfterS: 2}}, list)
	var again bytes.Buffer
	require.NoError(t, devices.WriteTickets(&again, list))
	back, err := devices.ReadTickets(&again)
	require.NoError(t, err)
	require.Equal(t, list, back)
	for said, line := range map[string]string{"{\"table\": \"7\"}": "line 1", "{\"table\": \"7\", \"line\": \"x\"}\n{": "line 2",
		"{\"table\": \"7\", \"line\": \"x\", \"tabel\": 1}": "line 1"} {
		_, err := devices.ReadTickets(strings.NewReader(said))
		require.ErrorContains(t, err, line, said)
	}
}

// What is drawn is the same for a seed, has a dish of each course for each guest, is ordered, and counts once however often it is sent;
// what is not understood is said.
func TestTicketsAreSent(t *testing.T) {
	c, url, _ := kitchenAt(t, 3)
	list, err := c.Draw(t.Context(), demo.Tonight, 4, 0)
	require.NoError(t, err)
	again, err := c.Draw(t.Context(), demo.Tonight, 4, 0)
	require.NoError(t, err)
	require.Equal(t, list, again)
	other, err := c.Draw(t.Context(), demo.Tonight, 5, 0)
	require.NoError(t, err)
	require.NotEqual(t, list, other)

	say(t, url, map[string]any{"id": "open-0001", "kind": "opened"})
	var out bytes.Buffer
	require.NoError(t, c.Send(t.Context(), demo.Tonight, append(list, devices.Ticket{ID: "odd", Table: "table-1", Line: "3 unicorns"}), &out))
	require.Equal(t, len(list), strings.Count(out.String(), `"as":"taken"`), out.String())
	require.Contains(t, out.String(), "not understood")
	var state service.State
	get(t, url+"/api/services/tonight/state", &state)
	for _, ticket := range list {
		table := state.Table(ticket.Table)
		require.NotNil(t, table, ticket.Table)
		for _, x := range table.Courses {
			plates := 0
			for _, p := range x.Plates {
				plates += p.Count
			}
			require.Positive(t, plates)
		}
	}
	events := state.Events
	out.Reset()
	require.NoError(t, c.Send(t.Context(), demo.Tonight, list, &out))
	require.Equal(t, len(list), strings.Count(out.String(), `"as":"repeated"`))
	get(t, url+"/api/services/tonight/state", &state)
	require.GreaterOrEqual(t, state.Events, events)
	left, err := c.Draw(t.Context(), demo.Tonight, 4, 0)
	require.NoError(t, err)
	require.Empty(t, left, "they have ordered")
}

// A thermometer waits until something is on, and its readings are the piece's computed core, up to its target.
func TestAProbeMeasures(t *testing.T) {
	c, url, put := kitchenAt(t, 3)
	var due service.DueView
	get(t, url+"/api/services/tonight/due", &due)
	say(t, url, map[string]any{"id": "open-0001", "kind": "opened"})
	component := ""
	for at := due.Joins[0].At.Add(-30 * time.Minute); component == "" && at.Before(due.Joins[len(due.Joins)-1].At); at = at.Add(time.Minute) {
		put(at)
		get(t, url+"/api/services/tonight/due", &due)
		for _, s := range due.Sections {
			for _, l := range s.On {
				if l.Component == "hake" && l.Step == "oven" {
					component = l.Component
				}
			}
		}
	}
	require.NotEmpty(t, component)
	var out bytes.Buffer
	ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
	defer cancel()
	require.NoError(t, c.Measure(ctx, devices.Probe{Service: demo.Tonight, Component: component, Factor: 1, Every: 20 * time.Millisecond,
		Faster: 1500}, &out))
	lines := strings.Split(strings.TrimSpace(out.String()), "\n")
	require.Greater(t, len(lines), 2)
	type reading struct {
		Task    string
		Celsius float64
	}
	var first, last reading
	require.NoError(t, json.Unmarshal([]byte(lines[0]), &first))
	require.NoError(t, json.Unmarshal([]byte(lines[len(lines)-1]), &last))
	require.Greater(t, last.Celsius, first.Celsius)
	var view struct{ Readings []struct{ Celsius float64 } }
	get(t, url+"/api/services/tonight/readings?task="+first.Task, &view)
	require.Len(t, view.Readings, len(lines))

	nowhere := devices.Probe{Service: "nowhere", Component: component, Factor: 1, Every: time.Millisecond, Faster: 1}
	require.ErrorContains(t, c.Measure(ctx, nowhere, io.Discard), "service")
}

// A printer keeps what it is sent, slip by slip, in its file and on its page, with nothing in it read as a page.
func TestAPrinterPrints(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	var file bytes.Buffer
	p := devices.NewPrinter(&file)
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() { done <- p.Serve(ctx, l) }()
	page := httptest.NewServer(p)
	defer page.Close()
	shown := func() string {
		res, err := http.Get(page.URL) //nolint:noctx // the test's own server
		require.NoError(t, err)
		defer res.Body.Close()
		b, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return string(b)
	}
	require.Contains(t, shown(), "Nothing was printed")
	require.NoError(t, devices.Print(t.Context(), l.Addr().String(), "Fish <b>19:42</b>\n2 x Hake\n"))
	require.NoError(t, devices.Print(t.Context(), l.Addr().String(), "Pass\n"))
	require.Eventually(t, func() bool { return strings.Count(shown(), "<pre>") == 2 }, 30*time.Second, 10*time.Millisecond)
	require.Contains(t, shown(), "Fish &lt;b&gt;19:42")
	stop()
	require.NoError(t, <-done)
	require.Error(t, devices.Print(t.Context(), l.Addr().String(), "Fish\n"))
	require.Contains(t, file.String(), "2 x Hake")
}

// An address that is none is refused; what the server refuses is said in its words.
func TestADeviceIsTold(t *testing.T) {
	for _, bad := range []string{"", "127.0.0.1:80", "ftp://x", "http://"} {
		_, err := devices.NewClient(t.Context(), bad, "")
		require.ErrorContains(t, err, "--server", bad)
	}
	_, url, _ := kitchenAt(t, 1)
	_, err := devices.NewClient(t.Context(), url, "AAAAAAAA")
	require.ErrorContains(t, err, "pairing")
}
