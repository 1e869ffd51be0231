package server_test

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	core "jointime/core/service"
	"jointime/store/storetest"
)

const tonight = "/api/services/tonight"

// said posts events and returns what became of each.
func (c client) said(list ...map[string]any) (as []string) {
	c.t.Helper()
	for i, e := range list {
		if e["id"] == nil {
			e["id"] = fmt.Sprintf("%s-%d-%v-%v", e["kind"], i, e["table"], e["task"])
		}
	}
	for _, a := range c.call("POST", tonight+"/events", map[string]any{"events": list}, 200)["taken"].([]any) {
		as = append(as, a.(map[string]any)["as"].(string))
	}
	return as
}

func (c client) text(path string) string {
	c.t.Helper()
	req, err := http.NewRequest("GET", c.url+path, nil)
	require.NoError(c.t, err)
	res := c.do(req)
	defer res.Body.Close()
	b, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	require.Equal(c.t, 200, res.StatusCode, "%s: %s", path, b)
	return string(b)
}

// clockOf is a clock that tests set.
type clockOf struct {
	mu sync.Mutex
	at time.Time
}

func (c *clockOf) now() time.Time {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.at
}

func (c *clockOf) set(at time.Time) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.at = at
}

// A first hour of the demo's evening, played by a plain script that knows nothing but the five operations: with taps that were forgotten,
// one that was wrong and taken back, and some that are refused. What stands at its end is what the script expects, and what the log replays
// to.
func TestAPlayedHour(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	var plan core.DueView
	require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/due")), &plan))
	require.NotEmpty(t, plan.Joins)
	first := plan.Joins[0]
	join := map[string]any{"table": first.Table, "course": string(first.Course)}
	with := func(kind string, more map[string]any) map[string]any {
		e := map[string]any{"kind": kind}
		for k, v := range join {
			e[k] = v
		}
		for k, v := range more {
			e[k] = v
		}
		return e
	}
	require.Equal(t, []string{"refused"}, c.said(with("called", nil)), "the service is not open")

	clock.set(first.At.Add(-40 * time.Minute))
	require.Equal(t, []string{"taken", "taken"}, c.said(map[string]any{"kind": "opened", "device": "pass", "count": 1},
		with("seated", map[string]any{"name": first.Name, "covers": 2, "device": "pass", "count": 2})))

	// What is due at each section is fired as it comes; every third is forgotten, and none is tapped ready.
	fired, forgotten := map[string]bool{}, map[string]bool{}
	n := 2
	for at := first.At.Add(-30 * time.Minute); !at.After(first.At); at = at.Add(30 * time.Second) {
		clock.set(at)
		var d core.DueView
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/due")), &d))
		for _, s := range d.Sections {
			for _, l := range s.Now {
				if fired[l.Task] || forgotten[l.Task] || at.Before(l.FireAt.Add(-30*time.Second)) {
					continue
				}
				if n++; n%3 == 0 {
					forgotten[l.Task] = true
					continue
				}
				fired[l.Task] = true
				joins := []map[string]any{}
				for _, j := range l.Joins {
					joins = append(joins, map[string]any{"table": j.Table, "course": string(j.Course)})
				}
				require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "fired", "task": l.Task, "component": l.Component, "step": l.Step,
					"section": s.Section, "portions": l.Portions, "joins": joins, "device": s.Section, "count": n}))
			}
		}
	}
	require.NotEmpty(t, fired)
	require.NotEmpty(t, forgotten)

	// The wrong table is sent, and taken back within the minute; then the right one, twice from a tablet that is not sure.
	wrong := with("sent", map[string]any{"table": "table-9", "id": "wrong-tap-1", "device": "pass", "count": n + 1})
	require.Equal(t, []string{"taken"}, c.said(wrong))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "undone", "undoes": "wrong-tap-1", "device": "pass", "count": n + 2}))
	right := with("sent", map[string]any{"id": "right-tap-1", "device": "pass", "count": n + 3})
	require.Equal(t, []string{"taken", "repeated"}, c.said(right, right))
	require.Equal(t, []string{"refused"}, c.said(with("sent", map[string]any{"id": "right-tap-2", "device": "pass", "count": n + 4})))

	text, log, state := c.stateWithLog()
	require.Empty(t, state.Settle)
	require.GreaterOrEqual(t, state.Plan, plan.Plan, "the table came early: its courses move with it")
	done := 0
	for task := range fired {
		r := state.Run(task)
		require.NotNil(t, r, task)
		require.NotNil(t, r.Fired, task)
		for _, j := range r.Joins {
			if j == first.TableCourse {
				require.True(t, r.Ready.Implied, "it left, so it was ready")
				done++
			}
		}
	}
	require.Positive(t, done)
	for task := range forgotten {
		require.Nil(t, state.Run(task), "nothing is made up of what nobody said")
	}
	require.Equal(t, first.Name, state.Table(first.Table).Name)
	require.NotNil(t, state.Course(first.TableCourse).Sent)
	require.Nil(t, state.Table("table-9"))

	// The log says the same, byte for byte.
	var b bytes.Buffer
	w := json.NewEncoder(&b)
	w.SetEscapeHTML(false)
	require.NoError(t, w.Encode(core.Fold(log)))
	require.Equal(t, b.String(), text)
}

// stateWithLog is what stands, and the log that says so: a plan may be told between the two, then they are asked again.
func (c client) stateWithLog() (text string, log []core.Event, state core.State) {
	c.t.Helper()
	for range 100 {
		text, log, state = c.text(tonight+"/state"), nil, core.State{}
		require.NoError(c.t, json.Unmarshal([]byte(text), &state))
		lines := bufio.NewScanner(strings.NewReader(c.text(tonight + "/log.jsonl")))
		lines.Buffer(nil, 1<<20)
		for lines.Scan() {
			var e core.Event
			require.NoError(c.t, json.Unmarshal(lines.Bytes(), &e))
			log = append(log, e)
		}
		if len(log) == state.Events {
			return text, log, state
		}
	}
	c.t.Fatalf("the log has %d events, the state says %d", len(log), state.Events)
	return text, log, state
}

// frames reads a stream: the kinds of what it says, with their numbers.
func (c client) frames(ctx context.Context, path, last string, got chan<- string) {
	req, err := http.NewRequestWithContext(ctx, "GET", c.url+path, nil)
	if err != nil {
		return
	}
	if last != "" {
		req.Header.Set("Last-Event-ID", last)
	}
	browser := c.browser
	if browser == nil {
		browser = http.DefaultClient
	}
	res, err := browser.Do(req)
	if err != nil {
		return
	}
	defer res.Body.Close()
	kind, id := "", ""
	lines := bufio.NewScanner(res.Body)
	lines.Buffer(nil, 8<<20)
	for lines.Scan() {
		switch l := lines.Text(); {
		case strings.HasPrefix(l, "event: "):
			kind = l[7:]
		case strings.HasPrefix(l, "id: "):
			id = l[4:]
		case l == "" && kind != "":
			got <- kind + id
			kind, id = "", ""
		}
	}
	close(got)
}

// next waits for what a stream says next, beside what is due.
func next(t *testing.T, got <-chan string) string {
	t.Helper()
	for {
		select {
		case f, open := <-got:
			if open && (f == "due" || f == "change" || f == "plan") {
				continue
			}
			return f
		case <-time.After(30 * time.Second):
			t.Fatal("the stream says nothing")
		}
	}
}

// What is said at one server is heard at another on the same database; a stream goes on from where it stopped, and ends with its server.
func TestAStreamOfWhatHappens(t *testing.T) {
	s := storetest.Open(t)
	a, _ := serve(t, s)
	a.call("POST", "/api/demo", nil, 200)
	a.few("tonight", 3)
	a.settled("tonight") // else a better plan may be told while the service opens, which is written into its log too
	b, stopB := serve(t, s)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	got := make(chan string, 100)
	go b.frames(ctx, tonight+"/live", "", got)
	require.Equal(t, []string{"taken"}, a.said(map[string]any{"kind": "opened"}))
	require.Equal(t, "event1", next(t, got))
	require.Equal(t, "event2", next(t, got), "which plan is shown")
	require.Equal(t, []string{"taken"}, b.said(map[string]any{"kind": "called", "table": "table-1", "course": "first"}))
	require.Equal(t, "event3", next(t, got))
	resumed := make(chan string, 100)
	go a.frames(ctx, tonight+"/live?after=0", "2", resumed)
	require.Equal(t, "event3", next(t, resumed), "what the browser had last counts before what was asked for")
	stopB()
	for f := range got {
		require.Contains(t, []string{"due", "change", "plan"}, f, "and then it ends")
	}
}

func TestWhatTheLogRefuses(t *testing.T) {
	c := start(t, true)
	c.call("POST", "/api/services/nowhere/events", map[string]any{"events": []any{map[string]any{"id": "12345678", "kind": "opened"}}}, 404)
	c.call("GET", "/api/services/nowhere/state", nil, 404)
	c.call("GET", "/api/services/nowhere/log.jsonl", nil, 404)
	c.call("GET", tonight+"/live?after=x", nil, 422)
	bad := c.call("POST", tonight+"/events", map[string]any{"events": []any{map[string]any{"id": "12345678", "kind": "sent",
		"table": "table-1"}}}, 422)
	require.Contains(t, bad["detail"], "events[0].course")
	c.call("POST", tonight+"/events", map[string]any{"events": []any{map[string]any{"id": "12345678", "kind": "sung"}}}, 422)
	c.call("POST", tonight+"/events", map[string]any{"events": []any{map[string]any{"id": "12345678", "kind": "told", "plan": 9}}}, 422)
	c.call("POST", tonight+"/events", map[string]any{"events": []any{}}, 422)
	require.Empty(t, c.text(tonight+"/log.jsonl"))
}

// Where the plan does not follow any more, by a fault, what is due says since when, until it follows again: nobody works by times that are
// nothing but the last that were told.
func TestAPlanThatIsStuckSaysSo(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	c.settled("tonight")
	stuck := func() *time.Time {
		var d core.DueView
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/due")), &d))
		return d.Stuck
	}
	follows := func() bool { return !c.app.Follows("tonight") }
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "opened"}))
	require.Eventually(t, follows, time.Minute, 20*time.Millisecond)
	require.Nil(t, stuck())
	first := clock.now()
	for minute := range 2 {
		clock.set(first.Add(time.Duration(minute) * time.Minute))
		c.app.Followed("tonight", errors.New("a fault"), clock.now())
		require.NotNil(t, stuck())
		require.WithinDuration(t, first, *stuck(), 0, "since the first that failed")
	}
	clock.set(first.Add(2 * time.Minute))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "trouble", "why": "no more butter"}))
	require.Eventually(t, func() bool { return stuck() == nil }, time.Minute, 50*time.Millisecond)
}

// A pan that needs longer moves what comes after it, in a plan that is told and stands in the log; what has begun stays; and where nothing
// has to move, none is told.
func TestThePlanFollowsTheService(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	c.settled("tonight")
	var before, d core.DueView
	due := func(into *core.DueView) {
		*into = core.DueView{}
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/due")), into))
	}
	due(&before)
	main := before.Joins[len(before.Joins)-1]
	for _, j := range before.Joins {
		if j.Course == "main" && j.At.Before(main.At) {
			main = j
		}
	}
	clock.set(main.At.Add(-time.Hour))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "opened"}))
	// The longest run of that main, half-way.
	var run *core.DueLine
	for at := main.At.Add(-15 * time.Minute); run == nil && at.Before(main.At); at = at.Add(time.Minute) {
		clock.set(at)
		due(&d)
		for _, s := range d.Sections {
			for i, l := range s.On {
				if len(l.Joins) == 1 && l.Joins[0] == main.TableCourse && l.DoneAt.Sub(l.FireAt) > 3*time.Minute {
					run = &s.On[i]
				}
			}
		}
	}
	require.NotNil(t, run)
	plan := d.Plan
	said := func(kind string, more map[string]any) map[string]any {
		e := map[string]any{"kind": kind, "task": run.Task, "component": run.Component, "step": run.Step, "portions": run.Portions,
			"joins": []map[string]any{{"table": main.Table, "course": string(main.Course)}}}
		for k, v := range more {
			e[k] = v
		}
		return e
	}
	require.Equal(t, []string{"taken"}, c.said(said("fired", nil)))
	require.Equal(t, []string{"taken"}, c.said(said("more", map[string]any{"minutes": 20})))
	require.Eventually(t, func() bool {
		due(&d)
		for _, j := range d.Joins {
			if j.TableCourse == main.TableCourse && d.Plan > plan {
				return j.At.After(main.At.Add(time.Minute))
			}
		}
		return false
	}, time.Minute, 50*time.Millisecond, "a plan is told in which it comes later")
	var state core.State
	require.Eventually(t, func() bool {
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/state")), &state))
		return state.Plan == d.Plan
	}, time.Minute, 50*time.Millisecond, "and stands in the log")
	fire := c.call("GET", "/api/fire/tonight", nil, 200)
	require.Equal(t, "live", fire["kind"])
	require.NotEmpty(t, fire["said"].(map[string]any)["text"])
	// What moves nothing leaves every join where it stands, also where a better plan is found behind it.
	followed := func() map[core.TableCourse]time.Time {
		require.Eventually(t, func() bool { return !c.app.Follows("tonight") }, time.Minute, 20*time.Millisecond)
		due(&d)
		at := map[core.TableCourse]time.Time{}
		for _, j := range d.Joins {
			at[j.TableCourse] = j.At
		}
		return at
	}
	was := followed()
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "held", "table": "table-9", "course": "main"}))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "trouble", "why": "no salt"}))
	require.Equal(t, was, followed())
}
