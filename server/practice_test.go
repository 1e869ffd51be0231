package server_test

import (
	"encoding/json"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	core "jointime/core/service"
	"jointime/store"
	"jointime/store/storetest"
)

// training is what is asked about what is practised.
type training struct {
	client
	wall *clockOf
}

type practiceView struct {
	ID, Section, Person   string
	Pace                  float64
	Running, Judging, Cut bool
	Mark                  *int
	Exercise              *struct{ ID string }
	Result                *struct {
		Mark    int
		Ended   bool
		Runs    int
		Parts   []struct{ Points, Of float64 }
		Remarks []struct{ What string }
	}
}

func train(t *testing.T) (training, func(), *store.Store) {
	wall := &clockOf{at: time.Date(2026, 5, 15, 9, 0, 0, 0, time.UTC)}
	s := storetest.OpenAt(t, wall.now)
	c, stop := demoAt(t, s, wall)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	return training{c, wall}, stop, s
}

func (c training) begin(in map[string]any) (v practiceView) {
	c.read(c.call("POST", "/api/practices", in, 200), &v)
	return v
}

func (c training) read(answer map[string]any, v any) {
	b, err := json.Marshal(answer)
	require.NoError(c.t, err)
	require.NoError(c.t, json.Unmarshal(b, v))
}

func (c training) practice(id string) (v practiceView) {
	require.NoError(c.t, json.Unmarshal([]byte(c.text("/api/practices/"+id)), &v))
	return v
}

func (c training) due(id string) (d core.DueView) {
	require.NoError(c.t, json.Unmarshal([]byte(c.text("/api/services/"+id+"/due")), &d))
	return d
}

func (c training) section(id, section string) core.SectionDue {
	for _, s := range c.due(id).Sections {
		if s.Section == section {
			return s
		}
	}
	return core.SectionDue{}
}

// says taps something of a run, and is what became of it.
func (c training) says(id, kind string, l core.DueLine) (as, said string) {
	var out struct {
		Taken []struct {
			As   string
			Said struct{ Text string }
		}
	}
	c.read(c.call("POST", "/api/services/"+id+"/events", map[string]any{"events": []any{map[string]any{"id": "tap-" + kind + "-" +
		url.QueryEscape(l.Task) + c.wall.now().Format("150405.000"), "kind": kind, "task": l.Task, "component": l.Component, "step": l.Step,
		"section":  l.Section,
		"portions": l.Portions, "minutes": 1, "joins": l.Joins}}}, 200), &out)
	return out.Taken[0].As, out.Taken[0].Said.Text
}

// taps is says with the id of what was said.
func (c training) taps(id, kind string, l core.DueLine) (as, event string) {
	event = "mistake-" + kind + "-" + c.wall.now().Format("150405.000")
	return c.event(id, map[string]any{"id": event, "kind": kind, "task": l.Task, "component": l.Component, "step": l.Step,
		"section": l.Section, "portions": l.Portions, "joins": l.Joins}), event
}

// undo takes an event back; it answers what became of that.
func (c training) undo(id, event, again string) string {
	return c.event(id, map[string]any{"id": "undo-" + again + event, "kind": "undone", "undoes": event})
}

func (c training) event(id string, e map[string]any) string {
	var out struct{ Taken []struct{ As string } }
	c.read(c.call("POST", "/api/services/"+id+"/events", map[string]any{"events": []any{e}}, 200), &out)
	return out.Taken[0].As
}

// tasks are what a section has to begin.
func (c training) tasks(id, section string) (out []string) {
	for _, l := range append(c.section(id, section).Now, c.section(id, section).Next...) {
		out = append(out, l.Task)
	}
	return out
}

// A cook trains at a section through the same operations as in service: at the pace of what is played, by its own clock, in a log of its
// own. Whoever does what the screen says has a good mark, with its parts; the service itself knows nothing of it.
func TestSomebodyTrainsAtASection(t *testing.T) {
	c, _, _ := train(t)
	v := c.begin(map[string]any{"service": "tonight", "section": "roast", "person": "Ada", "exercise": "one"})
	require.True(t, v.Running)
	require.Equal(t, 2.0, v.Pace)
	d := c.due(v.ID)
	require.Equal(t, core.Open, d.Phase)
	require.Equal(t, 2.0, *d.Pace)
	require.Len(t, d.Joins, 1, "one table's course")
	c.wall.set(c.wall.now().Add(10 * time.Second))
	require.InDelta(t, 20, c.due(v.ID).At.Sub(d.At).Seconds(), 0.1, "twice as fast as on the wall")
	c.call("PUT", "/api/practices/"+v.ID+"/pace", map[string]any{"pace": 0}, 200)
	still := c.due(v.ID).At
	c.wall.set(c.wall.now().Add(10 * time.Second))
	require.Equal(t, still, c.due(v.ID).At, "it stands still")
	c.call("PUT", "/api/practices/"+v.ID+"/pace", map[string]any{"pace": 10}, 200)

	early, back := false, false
	for range 3000 {
		s := c.section(v.ID, "roast")
		if len(s.Now) > 0 && !back { // tapped by mistake, and taken back
			if as, id := c.taps(v.ID, "fired", s.Now[0]); as == "taken" {
				back = true
				require.NotContains(t, c.tasks(v.ID, "roast"), s.Now[0].Task, "it is on")
				require.Equal(t, "taken", c.undo(v.ID, id, ""))
				require.Contains(t, c.tasks(v.ID, "roast"), s.Now[0].Task, "it is still to do")
				require.Equal(t, "refused", c.undo(v.ID, id, "twice-"), "once")
				s = c.section(v.ID, "roast")
			}
		}
		for _, l := range s.On {
			if l.Standing == core.IsOn && l.How.Apart && !early {
				early = true
				as, said := c.says(v.ID, "ready", l)
				require.Equal(t, "refused", as)
				require.Contains(t, said, "Not yet")
			}
			if l.Standing == core.Asks {
				c.says(v.ID, "ready", l)
			}
		}
		for _, l := range s.Now {
			if l.FireAt.After(c.due(v.ID).At.Add(2 * time.Second)) {
				continue
			}
			as, said := c.says(v.ID, "fired", l)
			if as != "taken" {
				require.Contains(t, said, "has to be done first")
			}
		}
		if c.due(v.ID).Phase == core.Over {
			break
		}
		c.wall.set(c.wall.now().Add(200 * time.Millisecond))
	}
	require.Eventually(t, func() bool { return c.practice(v.ID).Result != nil }, time.Minute, 50*time.Millisecond)
	v = c.practice(v.ID)
	require.False(t, v.Running)
	require.True(t, back)
	require.GreaterOrEqual(t, *v.Mark, 95, "%+v", v.Result)
	require.Positive(t, v.Result.Runs)
	require.Len(t, v.Result.Parts, 3)
	require.False(t, v.Result.Ended)
	require.Contains(t, c.text("/api/services/"+v.ID+"/log.jsonl"), `"kind":"sent"`)
	require.Empty(t, c.text(tonight+"/log.jsonl"), "the service itself has not begun")
	list := c.call("GET", "/api/practices?person=Ada", nil, 200)
	require.Len(t, list["results"], 1)
	require.GreaterOrEqual(t, len(list["exercises"].([]any)), 5)
	require.Empty(t, c.call("GET", "/api/practices?person=Tobias", nil, 200)["results"])
	// Known at ninety: the next one is today's, the same night for whoever begins it again.
	today := c.begin(map[string]any{"service": "tonight", "section": "roast", "person": "Ada", "today": true})
	require.Equal(t, "two", today.Exercise.ID)
	c.call("DELETE", "/api/practices/"+today.ID, nil, 200)
}

// Whoever ends before the end is judged by what was due until then; a section that is played says so; what nobody fired is told.
func TestSomebodyForgets(t *testing.T) {
	c, stop, s := train(t)
	v := c.begin(map[string]any{"service": "tonight", "section": "garnish", "exercise": "two", "pace": 60, "trouble": "none", "seed": 4})
	c.wall.set(c.wall.now().Add(40 * time.Second)) // forty minutes
	d := c.due(v.ID)
	for _, s := range d.Sections {
		for _, l := range s.Now {
			if s.Section != "garnish" {
				as, said := c.says(v.ID, "fired", l)
				require.Equal(t, "refused", as)
				require.Contains(t, said, "played")
			} else {
				require.Equal(t, core.Overdue, l.Standing, "silence is not taken for work")
			}
		}
	}
	require.NotEmpty(t, c.section(v.ID, "garnish").Now)
	c.call("DELETE", "/api/practices/"+v.ID, nil, 200)
	require.Eventually(t, func() bool { return c.practice(v.ID).Result != nil }, time.Minute, 50*time.Millisecond)
	v = c.practice(v.ID)
	require.True(t, v.Result.Ended)
	require.Less(t, *v.Mark, 60)
	require.Equal(t, "forgotten", v.Result.Remarks[0].What)
	c.call("PUT", "/api/practices/"+v.ID+"/pace", map[string]any{"pace": 4}, 200)
	require.Zero(t, c.practice(v.ID).Pace, "it has ended")

	// Watched: everything is played, nobody taps.
	w := c.begin(map[string]any{"service": "tonight", "pace": 60})
	c.wall.set(c.wall.now().Add(30 * time.Second))
	for _, s := range c.due(w.ID).Sections {
		for _, l := range append(s.Now, s.Next...) {
			as, _ := c.says(w.ID, "fired", l)
			require.Equal(t, "refused", as)
		}
	}
	c.call("POST", "/api/practices", map[string]any{"service": "tonight", "section": "nowhere"}, 422)
	c.call("POST", "/api/practices", map[string]any{"service": "never"}, 404)
	c.call("POST", "/api/practices", map[string]any{"service": w.ID}, 404)
	c.call("POST", "/api/practices", map[string]any{"service": "tonight", "exercise": "none"}, 404)
	c.call("GET", "/api/practices/practice-none", nil, 404)
	c.call("GET", "/api/services/practice-none/due", nil, 404)
	// A server that ends cuts short what goes on; what was is still there.
	stop()
	after, _ := demoAt(t, s, c.wall)
	c = training{after, c.wall}
	require.True(t, c.practice(w.ID).Cut)
	require.False(t, c.practice(v.ID).Cut)
	require.NotNil(t, c.practice(v.ID).Mark)
	c.call("POST", "/api/services/"+w.ID+"/events", map[string]any{"events": []any{map[string]any{"id": "tap-after-end", "kind": "trouble",
		"why": "x"}}}, 409)
	c.call("PUT", "/api/practices/"+w.ID+"/pace", map[string]any{"pace": 4}, 409)
}
