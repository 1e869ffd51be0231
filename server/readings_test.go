package server_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	core "jointime/core/service"
	"jointime/store/storetest"
)

// A thermometer in a piece that goes slower than the plan: its readings are kept apart from the log, a forecast that moves by twenty
// seconds stands in it, and the run is ready when the thermometer says so.
func TestAThermometerIsHeard(t *testing.T) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", 1)
	c.settled("tonight")
	begun := clock.now()
	run := map[string]any{"task": "bath-1", "component": "guinea-fowl-breast", "step": "bath"}
	put := func(list ...map[string]any) map[string]any {
		return c.call("POST", tonight+"/readings", map[string]any{"task": "bath-1", "component": "guinea-fowl-breast", "step": "bath",
			"device": "probe-1", "readings": list}, 200)
	}
	reading := func(r heat.Reading) map[string]any {
		return map[string]any{"at": begun.Add(time.Duration(r.S * float64(time.Second))), "celsius": r.C}
	}
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "opened"}))
	fired := map[string]any{"kind": "fired", "section": "roast", "portions": 6}
	for k, v := range run {
		fired[k] = v
	}
	require.Equal(t, []string{"taken"}, c.said(fired))
	piece := heat.Piece{Shape: heat.Cylinder, Mm: 46, Food: heat.MeatFood, StartC: 5, TargetC: 63, Medium: heat.Bath, MediumC: 64}
	course, err := piece.Course(1.2, 60)
	require.NoError(t, err)
	end := begun.Add(time.Duration(course[len(course)-1].S * float64(time.Second)))

	v := put(reading(course[0]))
	require.Equal(t, true, v["problem"], "one reading says nothing")
	var state core.State
	stands := func() *core.RunState {
		state = core.State{}
		require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/state")), &state))
		return state.Run("bath-1")
	}
	require.Nil(t, stands().ProbeUntil)
	events := 0
	for i := 1; i < 40; i++ {
		clock.set(begun.Add(time.Duration(course[i].S * float64(time.Second))))
		before := state.Events
		put(reading(course[i]))
		if stands(); state.Events > before {
			events++
		}
	}
	r := stands()
	require.NotNil(t, r.ProbeUntil)
	require.InDelta(t, 0, r.ProbeUntil.Sub(end).Seconds(), 120, "within two minutes of one and a half hours, at half-way")
	require.InDelta(t, course[39].C, *r.Celsius, 5)
	require.Less(t, events, 25, "what has not moved is not said again")
	require.Len(t, c.call("GET", tonight+"/readings?task=bath-1", nil, 200)["readings"], 40)
	put(reading(course[39]))
	require.Len(t, c.call("GET", tonight+"/readings?task=bath-1", nil, 200)["readings"], 40, "sent twice, it counts once")

	ready := map[string]any{"kind": "ready", "id": "ready-bath-1"}
	for k, v := range run {
		ready[k] = v
	}
	require.Equal(t, []string{"taken"}, c.said(ready))
	require.Nil(t, stands().ProbeUntil)
	require.InDelta(t, course[39].C, *state.Run("bath-1").Celsius, 5, "the core that was last measured stays with it")
	c.call("POST", "/api/services/none/readings", map[string]any{"task": "x", "component": "", "step": "",
		"readings": []any{reading(course[0])}}, 404)
}
