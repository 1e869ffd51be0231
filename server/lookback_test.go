package server_test

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/lookback"
	core "jointime/core/service"
	"jointime/demo"
	"jointime/server"
	"jointime/store"
	"jointime/store/storetest"
)

func withPast(t *testing.T, s *store.Store, wall *clockOf) (client, func()) {
	t.Helper()
	c := demo.NewClock(wall.now)
	app := server.New(s, server.Options{Clock: c.Now, Demo: c, Past: true, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Patience: 20,
		Rounds: quick})
	srv := httptest.NewServer(app)
	stop := func() { app.Close(); srv.Close() }
	t.Cleanup(stop)
	return client{t: t, url: srv.URL}, stop
}

type lookBack struct {
	Nights []struct {
		Service, Name, Date   string
		Covers, Courses, Late int
	}
	Learnt []struct {
		lookback.Evidence
		Text    struct{ Text string }
		Version int64
		Service string
		Time    *struct{ Fixed struct{ Likely int } }
		Use     *struct{ Fixed struct{ Likely int } }
	}
	Weeks []struct {
		Nights        []struct{ Day int }
		Courses, Late int
	}
	Of      int
	Playing bool
}

func (v *lookBack) days(week int) (out []int) {
	for _, n := range v.Weeks[week].Nights {
		out = append(out, n.Day)
	}
	return out
}

func (c client) lookBack() (v lookBack) {
	v = lookBack{}
	require.NoError(c.t, json.Unmarshal([]byte(c.text("/api/lookback")), &v))
	return v
}

// The demo's past evenings are played in the background, each whole, by the rules of a live service; the three things that are true in them
// and are not as written are found by the record, and nothing else; the time that it says is written by one press, and stays in the
// history; then it says no more of it. A server that comes after plays nothing twice.
func TestTheRecordOfThePast(t *testing.T) {
	wall := &clockOf{at: time.Date(2026, 5, 14, 22, 10, 0, 0, time.UTC)}
	s := storetest.OpenAt(t, wall.now)
	c, stop := withPast(t, s, wall)
	c.call("GET", "/api/lookback", nil, 409)
	c.call("POST", "/api/demo", nil, 200)
	require.Eventually(t, func() bool { v := c.lookBack(); return !v.Playing && v.Of == demo.PastNights }, 2*time.Minute, 200*time.Millisecond)
	v := c.lookBack()
	require.Equal(t, "2026-05-14", v.Nights[0].Date, "the last first")
	found := map[string]float64{}
	for _, l := range v.Learnt {
		found[l.Kind+" "+l.Component+l.Step] = l.Factor
		if l.Kind == "person" {
			require.Equal(t, "Oluwa", l.What)
		}
	}
	require.Greater(t, found["step baked-celeriacheat"], 1.15)
	require.Less(t, found["person "], 0.95)
	require.Greater(t, found["share rhubarb-custard"], 1.1)
	require.Less(t, found["share treacle-sponge"], 0.9)
	require.Len(t, v.Learnt, 4, "three truths, one of them of two dishes")

	// Every event of a night fits the rules of a live service.
	night := v.Nights[0].Service
	var log []core.Event
	for _, line := range strings.Split(strings.TrimSpace(c.text("/api/services/"+night+"/log.jsonl")), "\n") {
		var e core.Event
		require.NoError(t, json.Unmarshal([]byte(line), &e))
		require.Nil(t, core.Refuses(log, &e, "chef"), "%+v", e)
		log = append(log, e)
	}
	state := core.Fold(log)
	require.Equal(t, core.Over, state.Phase)
	require.Empty(t, state.Settle)

	var n struct {
		lookback.Night
		Said   []struct{ Text string }
		Probes []struct {
			Target_c *float64 //nolint:revive,staticcheck // as it is sent
			Readings []store.ProbeReading
		}
	}
	require.NoError(t, json.Unmarshal([]byte(c.text("/api/lookback/"+night)), &n))
	require.Equal(t, v.Nights[0].Late, n.Late)
	require.Contains(t, n.Said[0].Text, "courses left more than three minutes late")
	rows, err := csv.NewReader(strings.NewReader(c.text("/api/lookback/" + night + "/steps.csv"))).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, len(n.Steps)+1)
	rows, err = csv.NewReader(strings.NewReader(c.text("/api/lookback/" + night + "/courses.csv"))).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, len(n.Joins)+1)
	require.True(t, strings.HasPrefix(c.text("/api/lookback/"+night+"/night.pdf"), "%PDF"))
	require.True(t, strings.HasPrefix(c.text("/api/lookback/"+night+"/night.xlsx"), "PK"))
	require.NotEmpty(t, n.Probes, "thermometers were in")
	for _, x := range n.Probes {
		require.Greater(t, len(x.Readings), 5)
		require.NotNil(t, x.Target_c)
		require.Greater(t, x.Readings[len(x.Readings)-1].Celsius, x.Readings[0].Celsius)
	}
	require.Equal(t, 2, len(v.Weeks), "eight evenings to a Thursday are in two weeks")
	require.Equal(t, []int{1, 2, 3, 4}, v.days(0))
	require.Equal(t, []int{4, 5, 6, 7}, v.days(1))
	c.call("GET", "/api/lookback/tonight", nil, 404)
	c.call("GET", "/api/lookback/none", nil, 404)

	for _, l := range v.Learnt {
		if l.Kind != "step" {
			continue
		}
		path := "/api/lookback/steps/" + l.Component + "/" + l.Step
		c.call("POST", path, map[string]any{"version": l.Version + 7}, 409)
		c.call("POST", "/api/lookback/steps/hake/pan", map[string]any{"version": 1}, 404)
		c.call("POST", path, map[string]any{"version": l.Version}, 200)
		require.Contains(t, c.text("/api/components/"+l.Component+"/history"), "the time that the record says")
		require.InDelta(t, float64(l.Time.Fixed.Likely)*l.Factor, float64(l.Use.Fixed.Likely), 1)
	}
	for _, l := range c.lookBack().Learnt {
		require.NotEqual(t, "step", l.Kind, "it is as the record says now")
	}
	c.amounts(v.Nights[0].Service)
	stop()
	c, _ = withPast(t, s, wall)
	require.Eventually(t, func() bool { v := c.lookBack(); return !v.Playing && v.Of == demo.PastNights }, time.Minute, 100*time.Millisecond)
	require.Equal(t, len(log), len(strings.Split(strings.TrimSpace(c.text("/api/services/"+night+"/log.jsonl")), "\n")))
}

type amounts struct {
	Dishes []struct {
		lookback.Amount
		Next *struct {
			Service               string
			Guests, Ready, Have   int
			Short, Over           float64
			Have_short, Have_over float64 //nolint:revive,staticcheck // as they are sent
			Said                  struct{ Text string }
		}
	}
	Of int
}

// amounts are what was ready, ordered and thrown away; what is proposed costs no more than what the menu has. A share is written into the
// menu of the next service by one press, and its course sums up to what it did.
func (c client) amounts(night string) {
	var v amounts
	require.NoError(c.t, json.Unmarshal([]byte(c.text("/api/amounts")), &v))
	require.Equal(c.t, demo.PastNights, v.Of)
	thrown := 0
	for _, d := range v.Dishes {
		require.Len(c.t, d.Nights, demo.PastNights, d.What)
		require.Positive(c.t, d.Ready)
		require.Positive(c.t, d.Ordered)
		thrown += d.Thrown
		if d.Next == nil {
			continue
		}
		require.Equal(c.t, "tonight", d.Next.Service)
		require.LessOrEqual(c.t, 9*d.Next.Have_short+d.Next.Have_over, 9*d.Next.Short+d.Next.Over+1, d.What)
		require.Contains(c.t, d.Next.Said.Text, "missing")
	}
	require.Positive(c.t, thrown)

	path := "/api/services/" + night + "/thrown"
	var list []struct {
		Number, Portions int
		Name, Why        string
		Undone           bool
	}
	read := func() {
		list = nil
		require.NoError(c.t, json.Unmarshal([]byte(c.text(path)), &list))
	}
	read()
	was := len(list)
	say := func(id, kind, about string, portions, status int) {
		c.call("POST", path, map[string]any{"id": id, "kind": kind, "about": about, "portions": portions, "why": "spoilt"}, status)
	}
	say("away-test-1", "component", "sorrel", 4, 200)
	say("away-test-1", "component", "sorrel", 4, 200)
	say("away-test-2", "dish", "nothing", 4, 422)
	say("away-test-3", "component", "sorrel", 0, 422)
	c.call("POST", "/api/services/never/thrown", map[string]any{"id": "away-test-4", "kind": "dish", "about": "hake-cider-butter",
		"portions": 1, "why": "spoilt"}, 404)
	c.call("GET", "/api/services/never/thrown", nil, 404)
	read()
	require.Len(c.t, list, was+1)
	require.Equal(c.t, "spoilt", list[0].Why)
	require.Equal(c.t, "Sorrel leaves", list[0].Name)
	c.call("DELETE", fmt.Sprint("/api/thrown/", list[0].Number), nil, 200)
	c.call("DELETE", "/api/thrown/99999", nil, 404)
	read()
	require.True(c.t, list[0].Undone)

	use := func(dish string, version, status int) {
		c.call("POST", "/api/lookback/shares/tonight/"+dish, map[string]any{"version": version}, status)
	}
	use("hake-cider-butter", 1, 404)
	use("rhubarb-custard", 7, 409)
	use("rhubarb-custard", 1, 200)
	var services []struct {
		Service struct {
			ID   string
			Menu []struct {
				Dish          string
				Share_percent float64 //nolint:revive,staticcheck // as it is sent
			}
		}
	}
	require.NoError(c.t, json.Unmarshal([]byte(c.text("/api/services")), &services))
	for _, x := range services {
		if x.Service.ID != "tonight" {
			continue
		}
		share := map[string]float64{}
		for _, m := range x.Service.Menu {
			share[m.Dish] = m.Share_percent
		}
		require.Greater(c.t, share["rhubarb-custard"], 60.0)
		require.InDelta(c.t, 100, share["rhubarb-custard"]+share["treacle-sponge"], 1e-6)
	}
	use("rhubarb-custard", 2, 404)
	for _, l := range c.lookBack().Learnt {
		if l.Kind == "share" {
			require.Empty(c.t, l.Service, "the menu has it now")
		}
	}
}

// A note comes up again where it belongs: on what it is about, and for a service to come that serves it or has the same group; put away it
// stays in the record of its night alone. The same note sent twice counts once.
func TestNotesOfTheNight(t *testing.T) {
	c := start(t, true)
	list := func(query string) (texts []string) {
		var notes []struct {
			Text, Name, Night string
			Done              bool
			Number            int64
		}
		require.NoError(t, json.Unmarshal([]byte(c.text("/api/notes?"+query)), &notes))
		for _, n := range notes {
			texts = append(texts, n.Text)
		}
		return texts
	}
	note := func(id, kind, about, text string, status int) {
		c.call("POST", "/api/notes", map[string]any{"id": "note-" + id, "service": "tomorrow", "kind": kind, "about": about, "text": text},
			status)
	}
	note("0001", "component", "hake", "Dry the skin longer", 200)
	note("0001", "component", "hake", "Dry the skin longer", 200)
	note("0002", "dish", "hake-cider-butter", "Sea beet was short", 200)
	note("0003", "group", "table 4", "They share everything", 200)
	note("0004", "night", "", "Loud", 200)
	note("0005", "component", "nothing", "x", 422)
	note("0009", "step", "hake/nothing", "x", 422)
	note("0010", "step", "hake/pan", "Press it flat", 200)
	note("0006", "group", "", "x", 422)
	note("0007", "night", "", "  ", 422)
	c.call("POST", "/api/notes", map[string]any{"id": "note-0008", "service": "never", "kind": "night", "text": "x"}, 404)
	require.Equal(t, []string{"Press it flat", "Loud", "They share everything", "Sea beet was short", "Dry the skin longer"},
		list("night=tomorrow"))
	require.Equal(t, []string{"Press it flat"}, list("step=hake/pan"))
	require.Empty(t, list("step=hake/oven"))
	require.Equal(t, []string{"Dry the skin longer"}, list("component=hake"))
	require.Equal(t, []string{"Sea beet was short"}, list("dish=hake-cider-butter"))
	require.Equal(t, []string{"Press it flat", "They share everything", "Sea beet was short", "Dry the skin longer"}, list("for=tonight"))
	require.Empty(t, list("for=tomorrow"), "not for its own night")
	c.call("GET", "/api/notes?for=never", nil, 404)
	c.call("DELETE", "/api/notes/1", nil, 200)
	c.call("DELETE", "/api/notes/1", nil, 200)
	c.call("DELETE", "/api/notes/99", nil, 404)
	require.Empty(t, list("component=hake"))
	require.Equal(t, []string{"Press it flat", "They share everything", "Sea beet was short"}, list("for=tonight"))
	require.Len(t, list("night=tomorrow"), 5)
}
