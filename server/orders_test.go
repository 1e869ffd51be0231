package server_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	core "jointime/core/service"
	"jointime/store/storetest"
)

// What a table orders in the middle of service is planned, whether it was booked or not; what the service does not serve is refused with
// its place.
func TestOrdersAreFollowed(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	c.settled("tonight")
	var d core.DueView
	due := func() { d = core.DueView{}; require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/due")), &d)) }
	due()
	clock.set(d.Joins[0].At.Add(-30 * time.Minute))
	plates := func(dish string, n int) []map[string]any { return []map[string]any{{"dish": dish, "count": n}} }
	require.Equal(t, []string{"taken", "taken", "taken"}, c.said(map[string]any{"kind": "opened"},
		map[string]any{"kind": "seated", "table": "walk-in-bar", "name": "Bar", "covers": 2},
		map[string]any{"kind": "ordered", "table": "walk-in-bar", "course": "main", "plates": plates("hake-cider-butter", 2)}))
	plan := d.Plan
	var state core.State
	require.Eventually(t, func() bool {
		due()
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/state")), &state))
		return d.Plan > plan && state.Plan == d.Plan && slices.ContainsFunc(d.Joins, func(j core.JoinDue) bool {
			return j.Table == "walk-in-bar" && j.Course == "main" && j.Plates == 2 && j.Name == "Bar"
		})
	}, time.Minute, 50*time.Millisecond, "it is planned, and that stands in the log")
	body := c.call("POST", tonight+"/events", map[string]any{"events": []map[string]any{{"id": "order-swan", "kind": "ordered",
		"table": "table-1", "course": "main", "plates": plates("roast-swan", 1)}}}, 422)
	raw, err := json.Marshal(body)
	require.NoError(t, err)
	require.Contains(t, string(raw), "events[0].plates[0].dish")
	kept := map[string]any{"id": "order-kept", "kind": "ordered", "table": "table-1", "course": "main", "plates": plates("roast-swan", 1),
		"kept": true}
	require.Equal(t, []string{"taken"}, c.said(kept), "what was kept is written, and what is not served is passed over")
	due()
}

// What is off has stand-ins, each with what it brings and when its tables would have it; ordering one is refused where something is on
// already, unless the pass says that it knows.
func TestStandIns(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	c.settled("tonight")
	d := c.dueNow()
	clock.set(d.Joins[0].At.Add(-10 * time.Minute))
	plates := []map[string]any{{"dish": "hake-cider-butter", "count": 2}}
	require.Equal(t, []string{"taken", "taken", "taken"}, c.said(map[string]any{"kind": "opened"},
		map[string]any{"kind": "ordered", "table": "table-1", "course": "main", "plates": plates},
		map[string]any{"kind": "off", "component": "hake"}))
	c.call("GET", tonight+"/stand-ins", nil, 422)
	var view struct {
		StandIns []struct {
			core.StandIn
			Times []struct {
				Table  string
				LaterS int64 `json:"later_s"`
			}
		} `json:"stand_ins"`
	}
	require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/stand-ins?component=hake")), &view))
	require.NotEmpty(t, view.StandIns)
	fowl := slices.IndexFunc(view.StandIns, func(x struct {
		core.StandIn
		Times []struct {
			Table  string
			LaterS int64 `json:"later_s"`
		}
	}) bool {
		return x.Dish == "guinea-fowl-barley" && slices.ContainsFunc(x.Tables, func(t core.StandInTable) bool { return t.Table == "table-1" })
	})
	require.GreaterOrEqual(t, fowl, 0)
	of := view.StandIns[fowl]
	require.Len(t, of.Times, len(of.Tables), "when each of them would have it")
	require.NotContains(t, of.Allergens, "fish")
	for _, x := range view.StandIns {
		require.NotEqual(t, "hake-cider-butter", x.Dish+x.Variant)
	}

	one := of.Tables[slices.IndexFunc(of.Tables, func(t core.StandInTable) bool { return t.Table == "table-1" })]
	require.Equal(t, 2, one.Count)
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "fired", "task": "t1-potato", "component": "pressed-potato",
		"step": "heat", "portions": 2, "joins": []map[string]any{{"table": "table-1", "course": "main"}}}))
	order := map[string]any{"kind": "ordered", "table": "table-1", "course": "main", "plates": one.Plates}
	order["id"] = "stand-in-1"
	require.Equal(t, []string{"refused"}, c.said(order), "something for it is on")
	order["id"], order["anyway"] = "stand-in-2", true
	require.Equal(t, []string{"taken"}, c.said(order))
	require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/stand-ins?component=hake")), &view))
	for _, x := range view.StandIns {
		for _, t1 := range x.Tables {
			require.NotEqual(t, "table-1", t1.Table, "it has its stand-in")
		}
	}
	more := map[string]any{"id": "more-potato", "kind": "ordered", "table": "table-1", "course": "main", "anyway": true,
		"plates": []map[string]any{{"dish": "hake-cider-butter", "count": 3}}}
	c.call("POST", tonight+"/events", map[string]any{"events": []any{more}}, 422)
}

// An order is read as it is typed; nothing is ordered by that.
func TestAnOrderIsRead(t *testing.T) {
	c := start(t, true)
	o := c.call("POST", tonight+"/order", map[string]any{"line": "7: 2 hake 1 no milk"}, 200)
	require.Equal(t, "table-7", o["table"])
	require.Empty(t, o["wrong"])
	menu := c.call("GET", tonight+"/menu", nil, 200)
	require.Len(t, menu["courses"], 4)
	state := c.call("GET", tonight+"/state", nil, 200)
	require.Empty(t, state["tables"])
	c.call("POST", "/api/services/none/order", map[string]any{"line": "7: 2 hake"}, 404)
}

// Two sections are cut off for ten minutes and go on tapping; the pass sends meanwhile. When they are back, all is in the log, in the order
// in which it happened; what clashes stands to be settled, and changes nothing.
func TestTenMinutesAlone(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 3)
	c.settled("tonight")
	first := c.dueNow().Joins[0]
	from := first.At.Add(-12 * time.Minute)
	clock.set(from)
	c.said(map[string]any{"kind": "opened", "device": "pass", "count": 1})
	join := []map[string]any{{"table": first.Table, "course": string(first.Course)}}
	tap := func(device string, n int, minute float64, kind, task string) map[string]any {
		return map[string]any{"id": fmt.Sprintf("alone-%s-%02d", device, n), "kind": kind, "task": task, "component": task, "section": device,
			"portions": 2, "joins": join, "device": device, "count": n, "kept": true, "at": from.Add(time.Duration(minute * float64(time.Minute)))}
	}
	fish := []map[string]any{tap("fish", 1, 1, "fired", "a"), tap("fish", 2, 5, "ready", "a"), tap("fish", 3, 6, "fired", "b"),
		tap("fish", 4, 9.5, "ready", "b")}
	garnish := []map[string]any{tap("garnish", 1, 2, "fired", "c"), tap("garnish", 2, 7, "ready", "c"), tap("garnish", 3, 9.9, "fired", "d")}
	clock.set(from.Add(9 * time.Minute))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "sent", "table": first.Table, "course": string(first.Course),
		"device": "pass", "count": 2}))
	clock.set(from.Add(10*time.Minute + 5*time.Second))
	require.Equal(t, []string{"taken", "taken", "to-settle"}, c.said(garnish...), "what left cannot be fired")
	require.Equal(t, []string{"taken", "taken", "taken", "to-settle"}, c.said(fish...))
	require.Equal(t, []string{"repeated", "repeated", "repeated", "repeated"}, c.said(fish...), "sent again, since nobody was sure")
	var state core.State
	require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/state")), &state))
	require.Len(t, state.Settle, 2)
	for _, u := range state.Settle {
		require.NotEmpty(t, u.Against)
		require.NotEmpty(t, u.Said.Text)
	}
	require.Equal(t, from.Add(5*time.Minute).UTC(), state.Run("a").Ready.At.UTC(), "when it was, not when it came")
	require.Equal(t, from.Add(2*time.Minute).UTC(), state.Run("c").Fired.At.UTC())
	require.True(t, state.Run("b").Ready.Implied, "it left, so it was ready")
	require.Nil(t, state.Run("d"))
	log := c.text(tonight + "/log.jsonl")
	for _, e := range append(fish, garnish...) {
		require.Equal(t, 1, strings.Count(log, e["id"].(string)))
	}
}
