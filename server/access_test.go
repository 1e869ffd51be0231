package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/access"
	core "jointime/core/service"
	"jointime/server"
	"jointime/store/storetest"
)

const passphrase = "kale before cabbage"

// locked is the demo in which Ada signs in as the chef, Ines at the pass by 2718 and Tobias at his section by 3141; and
// clients: of the chef, and of nobody.
func locked(t *testing.T, o server.Options) (chef, nobody client, clock *clockOf) {
	t.Helper()
	clock = &clockOf{at: storetest.Clock()}
	o.Clock, o.Log, o.Patience = clock.now, slog.New(slog.NewTextHandler(io.Discard, nil)), 20
	s := storetest.OpenAt(t, clock.now)
	require.NoError(t, server.LoadDemo(t.Context(), s, clock.now()))
	app := server.New(s, o)
	srv := httptest.NewServer(app)
	t.Cleanup(func() { app.Close(); srv.Close() })
	nobody = client{t: t, url: srv.URL}
	chef = nobody.fresh()
	v := chef.call("PUT", "/api/access/people/ada", map[string]any{"role": "chef", "secret": passphrase}, 200)
	require.Contains(t, fmt.Sprint(v["people"]), "chef")
	chef.call("PUT", "/api/access/people/ines", map[string]any{"role": "pass", "secret": "2718"}, 200)
	chef.call("PUT", "/api/access/people/tobias", map[string]any{"role": "section", "secret": "3142"}, 200)
	return chef, nobody, clock
}

// paired is a new screen with a place.
func (c client) paired(role, section string) client {
	c.t.Helper()
	code := c.call("POST", "/api/access/pairings", map[string]any{"name": "Screen of " + role, "role": role, "section": section}, 200)
	screen := c.fresh()
	v := screen.call("POST", "/api/session/pair", map[string]any{"code": code["code"]}, 200)
	require.Equal(c.t, role, v["role"])
	return screen
}

func (c client) signIn(who, secret string, status int) client {
	c.t.Helper()
	c = c.fresh()
	c.call("POST", "/api/session/sign-in", map[string]any{"who": who, "secret": secret}, status)
	return c
}

// Every operation of the contract by every role, as a screen asks it: who may not is told so, who may gets some other answer.
func TestEveryOperationByEveryRole(t *testing.T) {
	chef, nobody, _ := locked(t, server.Options{})
	screens := map[access.Role]client{access.Chef: chef, access.Nobody: nobody.fresh()}
	for _, r := range []access.Role{access.Pass, access.Section, access.Floor, access.Board} {
		section := ""
		if r == access.Section {
			section = "fish"
		}
		screens[r] = chef.paired(string(r), section)
	}
	var contract struct {
		Paths map[string]map[string]struct {
			OperationID string `json:"operationId"`
		} `json:"paths"`
	}
	require.NoError(t, json.Unmarshal([]byte(nobody.text("/openapi.json")), &contract))
	asked := 0
	for path, methods := range contract.Paths {
		for method, o := range methods {
			if access.May(access.Nobody, o.OperationID) {
				continue // signing in and out are tried below
			}
			for role, c := range screens {
				asked++
				status, body := c.raw(strings.ToUpper(method), strings.NewReplacer("{", "", "}", "").Replace(path), []byte("{}"))
				switch {
				case access.May(role, o.OperationID):
					require.NotContains(t, []int{401, 403, 500}, status, "%s by %q: %s", o.OperationID, role, body)
				case role == access.Nobody:
					require.Equal(t, 401, status, "%s by nobody: %s", o.OperationID, body)
				default:
					require.Equal(t, 403, status, "%s by %s: %s", o.OperationID, role, body)
					require.Contains(t, string(body), "not for the role of the "+string(role))
				}
			}
		}
	}
	require.Greater(t, asked, 500)
}

// At this machine, while nobody has a passphrase, whoever is there is the chef, by whatever name they say; no longer than that.
func TestAtThisMachineNobodySignsInUntilSomebodyHasTo(t *testing.T) {
	c := start(t, true)
	v := c.as("ines").call("GET", "/api/session", nil, 200)
	require.Equal(t, []any{"chef", true, false, "Ines"}, []any{v["role"], v["open"], v["signed_in"], v["name"]})
	c.fresh().call("POST", "/api/session/person", map[string]any{"person": "stranger"}, 403)

	setter := c.fresh()
	setter.call("PUT", "/api/access/people/ada", map[string]any{"role": "chef", "secret": "too short"}, 422)
	setter.call("PUT", "/api/access/people/nobody", map[string]any{"role": "chef", "secret": passphrase}, 404)
	setter.call("PUT", "/api/access/people/ada", map[string]any{"role": "chef", "secret": passphrase}, 200)
	v = setter.call("GET", "/api/session", nil, 200)
	require.Equal(t, []any{"chef", false, true}, []any{v["role"], v["open"], v["signed_in"]}, "whoever set it is signed in with it")
	v = c.call("GET", "/api/session", nil, 200)
	require.Equal(t, []any{"", false, []any{}}, []any{v["role"], v["open"], v["people"]}, "and nobody else is, who learns no names")
	c.call("GET", "/api/dishes", nil, 401)

	setter.call("DELETE", "/api/access/people/ada", nil, 200)
	require.Equal(t, true, c.call("GET", "/api/session", nil, 200)["open"])
}

func TestSigningInAndOut(t *testing.T) {
	chef, nobody, clock := locked(t, server.Options{})
	nobody.signIn("ada", "2718", 401)
	nobody.signIn("stranger", passphrase, 401)
	nobody.signIn("tobias", "2718", 401)
	nobody.signIn("hanne", "", 401) // she has no PIN
	ines := nobody.signIn(" INES ", "2718", 200)
	v := ines.call("GET", "/api/session", nil, 200)
	require.Equal(t, []any{"pass", "Ines", true}, []any{v["role"], v["name"], v["signed_in"]})
	require.NotContains(t, v["may"], "set-access")
	require.Contains(t, v["may"], "add-events")

	// What they change is written down as theirs, whatever a screen says.
	other := nobody.signIn("ines", "2718", 200)
	prep := other.call("GET", "/api/prep", nil, 200)
	task := prep["jobs"].([]any)[0].(map[string]any)["steps"].([]any)[0].(map[string]any)["task"]
	req, err := http.NewRequest("POST", other.url+"/api/prep/ticks", strings.NewReader(fmt.Sprintf(`{"task": %q, "done": true}`, task)))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("X-Person", "tobias")
	require.Equal(t, 204, other.do(req).StatusCode)
	for _, tick := range other.call("GET", "/api/prep", nil, 200)["ticks"].([]any) {
		if m := tick.(map[string]any); m["task"] == task {
			require.Equal(t, "Ines", m["person"])
		}
	}

	// A new PIN ends what was signed in with the old one, on every screen; the one who sets their own stays.
	chef.call("PUT", "/api/access/people/ines", map[string]any{"role": "pass", "secret": "1618"}, 200)
	ines.call("GET", "/api/dishes", nil, 401)
	nobody.signIn("ines", "2718", 401)
	nobody.signIn("ines", "1618", 200)
	chef.call("PUT", "/api/access/people/ada", map[string]any{"role": "chef", "secret": passphrase + "!"}, 200)
	chef.call("GET", "/api/access", nil, 200)

	// Another role with the same PIN; but a PIN is no passphrase.
	chef.call("PUT", "/api/access/people/ines", map[string]any{"role": "floor"}, 200)
	ines = nobody.signIn("ines", "1618", 200)
	require.Equal(t, "floor", ines.call("GET", "/api/session", nil, 200)["role"])
	chef.call("PUT", "/api/access/people/ines", map[string]any{"role": "chef"}, 422)
	chef.call("PUT", "/api/access/people/hanne", map[string]any{"role": "floor"}, 422)

	out := ines.call("POST", "/api/session/sign-out", nil, 200)
	require.Equal(t, "", out["role"])
	ines.call("GET", "/api/dishes", nil, 401)

	// After a working day it is over.
	ines = nobody.signIn("ines", "1618", 200)
	clock.set(storetest.Clock().Add(16*time.Hour - time.Second))
	ines.call("GET", "/api/dishes", nil, 200)
	clock.set(storetest.Clock().Add(16 * time.Hour))
	ines.call("GET", "/api/dishes", nil, 401)
	nobody.signIn("ada", passphrase+"!", 200).call("DELETE", "/api/access/people/ines", nil, 200)
	nobody.signIn("ines", "1618", 401)
}

// Five wrong PINs of one person are free; then each has to wait, twice as long every time, and even the right one does.
func TestPINsAreNotGuessed(t *testing.T) {
	_, nobody, clock := locked(t, server.Options{})
	for i := range 5 {
		nobody.signIn("ines", fmt.Sprintf("%04d", 9000+i), 401)
	}
	now := clock.now()
	said := nobody.fresh().call("POST", "/api/session/sign-in", map[string]any{"who": "ines", "secret": "2718"}, 429)
	require.Contains(t, said["detail"], "another 30 seconds")
	nobody.signIn("tobias", "3142", 200) // others are not kept out
	clock.set(now.Add(29 * time.Second))
	nobody.signIn("ines", "2718", 429)
	clock.set(now.Add(31 * time.Second))
	nobody.signIn("ines", "9999", 401)
	clock.set(now.Add(31*time.Second + 59*time.Second))
	nobody.signIn("ines", "2718", 429)
	clock.set(now.Add(31*time.Second + 61*time.Second))
	nobody.signIn("ines", "2718", 200)
	nobody.signIn("ines", "9999", 401) // and all is forgotten

	// Whoever nobody knows is guessed no more often, so that names cannot be told from it.
	for range 5 {
		nobody.signIn("stranger", "1111", 401)
	}
	nobody.signIn("another stranger", "1111", 429)
}

// Many guesses at once are no more than one after another.
func TestGuessesTogetherAreCounted(t *testing.T) {
	_, nobody, _ := locked(t, server.Options{})
	const many = 12
	got := make(chan int, many)
	for i := range many {
		c := nobody.fresh()
		go func() {
			status, _ := c.raw("POST", "/api/session/sign-in", fmt.Appendf(nil, `{"who":"ines","secret":"%04d"}`, 8000+i))
			got <- status
		}()
	}
	counts := map[int]int{}
	for range many {
		counts[<-got]++
	}
	require.Equal(t, map[int]int{401: 5, 429: many - 5}, counts)
}

func TestAScreenIsPairedOnce(t *testing.T) {
	chef, nobody, clock := locked(t, server.Options{})
	code := func(role, section string) string {
		return chef.call("POST", "/api/access/pairings", map[string]any{"name": "Fish", "role": role, "section": section}, 200)["code"].(string)
	}
	chef.call("POST", "/api/access/pairings", map[string]any{"name": "Fish", "role": "section", "section": "moon"}, 422)
	chef.call("POST", "/api/access/pairings", map[string]any{"name": "  ", "role": "pass"}, 422)
	chef.call("POST", "/api/access/pairings", map[string]any{"name": "Fish", "role": "chef"}, 422)
	p := chef.call("POST", "/api/access/pairings", map[string]any{"name": "Fish", "role": "section", "section": "fish"}, 200)
	require.Regexp(t, "^[A-HJ-NP-Z2-9]{8}$", p["code"])
	require.Contains(t, p["link"], "/pair#"+p["code"].(string))
	require.True(t, strings.HasPrefix(p["qr"].(string), "data:image/png;base64,"))

	nobody.fresh().call("POST", "/api/session/pair", map[string]any{"code": "AAAAAAAA"}, 401)
	screen := nobody.fresh()
	typed := strings.ToLower(p["code"].(string)[:4]) + " " + p["code"].(string)[4:]
	v := screen.call("POST", "/api/session/pair", map[string]any{"code": typed}, 200)
	require.Equal(t, []any{"section", []any{"fish"}, false}, []any{v["role"], v["sections"], v["signed_in"]})
	nobody.fresh().call("POST", "/api/session/pair", map[string]any{"code": p["code"]}, 401)
	old := code("pass", "")
	clock.set(storetest.Clock().Add(10*time.Minute + time.Second))
	nobody.fresh().call("POST", "/api/session/pair", map[string]any{"code": old}, 401)

	// Who is at a section's screen is one of its cooks, without a PIN; with one, anybody is who they are.
	v = screen.call("GET", "/api/session", nil, 200)
	var names []string
	for _, q := range v["people"].([]any) {
		names = append(names, q.(map[string]any)["id"].(string))
	}
	require.NotContains(t, names, "hanne")
	require.NotEmpty(t, names)
	screen.call("POST", "/api/session/person", map[string]any{"person": "hanne"}, 403)
	require.Equal(t, names[0], screen.call("POST", "/api/session/person", map[string]any{"person": names[0]}, 200)["person"])
	screen.call("POST", "/api/session/sign-in", map[string]any{"who": "ada", "secret": passphrase}, 200)
	screen.call("GET", "/api/access", nil, 200)
	require.Equal(t, "section", screen.call("POST", "/api/session/sign-out", nil, 200)["role"], "the screen stays what it is")

	// Unpaired, what it kept is worth nothing: not to whoever has a copy of it either.
	devices := chef.call("GET", "/api/access", nil, 200)["devices"].([]any)
	require.Len(t, devices, 1)
	chef.call("DELETE", "/api/access/devices/"+devices[0].(map[string]any)["id"].(string), nil, 200)
	screen.call("GET", "/api/dishes", nil, 401)
	require.Equal(t, "", screen.call("GET", "/api/session", nil, 200)["role"])

	gone := chef.paired("board", "")
	require.Equal(t, "", gone.call("POST", "/api/session/unpair", nil, 200)["role"])
	require.Empty(t, chef.call("GET", "/api/access", nil, 200)["devices"])
}

// A stream that a screen has open ends when the screen is unpaired.
func TestALineEndsWithItsScreen(t *testing.T) {
	chef, _, _ := locked(t, server.Options{Beat: 50 * time.Millisecond})
	screen := chef.paired("board", "")
	ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
	defer cancel()
	got := make(chan string, 1000)
	go screen.frames(ctx, tonight+"/live", "", got)
	<-got
	devices := chef.call("GET", "/api/access", nil, 200)["devices"].([]any)
	chef.call("DELETE", "/api/access/devices/"+devices[0].(map[string]any)["id"].(string), nil, 200)
	for range got { // until it ends
	}
	require.NoError(t, ctx.Err())
}

// A section taps its own runs alone, a floor seats, a board looks; who said it is who is signed in.
func TestWhoMaySayWhatHappened(t *testing.T) {
	chef, nobody, clock := locked(t, server.Options{})
	var due core.DueView
	require.NoError(t, json.Unmarshal([]byte(chef.text(tonight+"/due")), &due))
	clock.set(due.Joins[0].At.Add(-40 * time.Minute))
	require.Equal(t, []string{"refused"}, chef.paired("section", "fish").said(map[string]any{"kind": "opened"}))
	require.Equal(t, []string{"taken"}, chef.said(map[string]any{"kind": "opened"}))
	clock.set(due.Joins[0].At.Add(-2 * time.Minute))
	require.NoError(t, json.Unmarshal([]byte(chef.text(tonight+"/due")), &due))
	mine, others := "", core.DueLine{}
	for _, s := range due.Sections {
		for _, l := range append(append(s.Now, s.Next...), s.On...) {
			if s.Section == "fish" {
				mine = l.Task
			} else {
				others = l
			}
		}
	}
	require.NotEmpty(t, mine)
	require.NotEmpty(t, others.Task)
	fish := chef.paired("section", "fish")
	fish.call("POST", "/api/session/person", map[string]any{"person": fish.call("GET", "/api/session", nil,
		200)["people"].([]any)[0].(map[string]any)["id"]}, 200)
	name := fish.call("GET", "/api/session", nil, 200)["name"]
	answer := fish.call("POST", tonight+"/events", map[string]any{"events": []any{
		map[string]any{"id": "own-run-1", "kind": "fired", "task": mine},
		map[string]any{"id": "others-run-1", "kind": "fired", "task": others.Task, "section": "fish"},
		map[string]any{"id": "others-run-2", "kind": "fired", "task": others.Task, "kept": true, "at": clock.now()},
		map[string]any{"id": "gone-run-1", "kind": "fired", "task": "gone", "component": others.Component, "step": others.Step},
		map[string]any{"id": "gone-run-2", "kind": "fired", "task": "gone"},
		map[string]any{"id": "called-1", "kind": "called", "table": "table-1", "course": "main"},
	}}, 200)["taken"].([]any)
	for i, as := range []string{"taken", "refused", "refused", "refused", "refused", "refused"} {
		require.Equal(t, as, answer[i].(map[string]any)["as"], "%d: %v", i, answer[i])
	}
	require.Contains(t, fmt.Sprint(answer[1]), "of another section")
	require.Contains(t, fmt.Sprint(answer[5]), "not for the role of the section")

	floor := chef.paired("floor", "")
	require.Equal(t, []string{"taken", "refused"}, floor.said(map[string]any{"kind": "seated", "table": "table-99", "covers": 2},
		map[string]any{"kind": "sent", "table": "table-99", "course": "main"}))
	outside := floor.text(tonight+"/due") + floor.text(tonight+"/state")
	require.NotContains(t, outside, mine)
	require.Contains(t, outside, "table-99")
	require.Contains(t, outside, "forecast")
	require.Contains(t, chef.text(tonight+"/due"), mine)

	log := nobody.signIn("ines", "2718", 200).text(tonight + "/log.jsonl")
	require.Contains(t, log, fmt.Sprintf(`"person":"%s"`, name))
	require.NotContains(t, log, "others-run")
	require.Contains(t, log, `"device":"device-`)
}

// Where others can reach the server everybody signs in, at this machine too, and somebody has to stay who can.
func TestAnOpenDoorNeedsAChef(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	s := storetest.OpenAt(t, clock.now)
	require.NoError(t, server.LoadDemo(t.Context(), s, clock.now()))
	o := server.Options{Clock: clock.now, Log: slog.New(slog.NewTextHandler(io.Discard, nil))}
	inside := server.New(s, o)
	o.Hosts, o.Origin, o.Authority = []string{"kitchen.example"}, "https://kitchen.example:8743", []byte("a certificate")
	outside := server.New(s, o)
	one, two := httptest.NewServer(inside), httptest.NewTLSServer(outside)
	t.Cleanup(func() { inside.Close(); outside.Close(); one.Close(); two.Close() })

	c := client{t: t, url: two.URL, browser: two.Client()}
	require.Equal(t, false, c.call("GET", "/api/session", nil, 200)["open"])
	c.call("GET", "/api/kitchen", nil, 401)
	require.Equal(t, "a certificate", c.call("GET", "/house.crt", nil, 200)["list"])
	client{t: t, url: one.URL}.call("GET", "/house.crt", nil, 404)
	client{t: t, url: one.URL}.fresh().call("PUT", "/api/access/people/ada", map[string]any{"role": "chef", "secret": passphrase}, 200)
	chef := c.signIn("ada", passphrase, 200)
	require.Equal(t, true, chef.call("GET", "/api/access", nil, 200)["closed"])
	chef.call("DELETE", "/api/access/people/ada", nil, 409)
	chef.call("PUT", "/api/access/people/ada", map[string]any{"role": "pass", "secret": "2718"}, 409)
	chef.call("GET", "/api/access", nil, 200)
	chef.call("DELETE", "/api/people/ada?version=1", nil, 409)
	link := chef.call("POST", "/api/access/pairings", map[string]any{"name": "Board", "role": "board"}, 200)["link"].(string)
	require.True(t, strings.HasPrefix(link, "https://kitchen.example:8743/pair#"), link)
	chef.call("PUT", "/api/access/people/ines", map[string]any{"role": "chef", "secret": "two are better than one"}, 200)
	chef.call("DELETE", "/api/access/people/ada", nil, 200)
	chef.call("GET", "/api/access", nil, 401)
}
