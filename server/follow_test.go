package server_test

import (
	"context"
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	core "jointime/core/service"
	"jointime/server"
	"jointime/store/storetest"
)

// Of many calls while a plan follows one more follows, each service by itself.
func TestOneMoreFollows(t *testing.T) {
	f := server.NewFollowers()
	require.True(t, f.Begins("tonight"))
	require.False(t, f.More("tonight"))
	require.False(t, f.Begins("tonight"), "somebody sees to it")
	require.False(t, f.Begins("tonight"))
	require.True(t, f.More("tonight"))
	require.True(t, f.Begins("tomorrow"))
	require.False(t, f.Ends("tonight"), "once more")
	require.False(t, f.More("tonight"))
	require.True(t, f.Ends("tonight"))
	require.True(t, f.Begins("tonight"))
}

// nearlyOpen is the demo's evening with so many of its tables, ten minutes before its first course, not open yet; and its clock.
func nearlyOpen(t *testing.T, tables int) (client, *clockOf) {
	clock := &clockOf{at: storetest.Clock()}
	c, _ := serveAt(t, storetest.OpenAt(t, clock.now), clock.now)
	c.call("POST", "/api/demo", nil, 200)
	c.few("tonight", tables)
	c.settled("tonight")
	var due core.DueView
	require.NoError(t, json.Unmarshal([]byte(c.text(tonight+"/due")), &due))
	clock.set(due.Joins[0].At.Add(-10 * time.Minute))
	return c, clock
}

// What is tapped does not end the search for a better plan, nor does the clock; that a cook goes does. And another search is begun once
// something has been said, or where the rest of the service is dear, but not by the clock alone.
func TestWhatEndsASearchBehind(t *testing.T) {
	c, clock := nearlyOpen(t, 3)
	rests := func() {
		t.Helper()
		require.Eventually(t, func() bool { return !c.app.Follows("tonight") }, time.Minute, 10*time.Millisecond)
	}
	require.Nil(t, c.app.Searched("tonight"))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "opened"}))
	rests()
	last := c.app.Searched("tonight")
	require.NotNil(t, last)
	c.app.Follow("tonight")
	rests()
	require.Same(t, last, c.app.Searched("tonight"), "the clock alone")
	over, end := context.WithCancel(t.Context())
	end()
	c.app.Look(over, "tonight", last)
	rests()
	require.NotSame(t, last, c.app.Searched("tonight"), "one that was ended begins anew")
	last = c.app.Searched("tonight")

	ended := make(chan bool, 100)
	c.app.Searches("tonight", func() { ended <- true })
	follows := func() {
		t.Helper()
		require.Eventually(t, func() bool { return !c.app.Following("tonight") }, time.Minute, 10*time.Millisecond)
	}
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "held", "table": "table-1", "course": "main"}))
	follows()
	c.app.Follow("tonight")
	follows()
	require.Empty(t, ended)
	require.Same(t, last, c.app.Searched("tonight"))
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "out", "who": "pim"}))
	follows()
	require.NotEmpty(t, ended)

	c.app.Searches("tonight", nil)
	require.NoError(t, c.app.Improve(t.Context(), "tonight", true))
	require.Same(t, last, c.app.Searched("tonight"), "nothing is looked for behind a plan that does not follow yet")
	c.app.Follow("tonight")
	rests()
	require.NotSame(t, last, c.app.Searched("tonight"), "what was said meanwhile is looked at")

	until := clock.now().Add(2 * time.Hour)
	for _, who := range []string{"ines", "tobias", "ada", "oluwa", "marguerite"} {
		require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "out", "who": who, "until": until, "id": "is-out-" + who}))
	}
	rests()
	last = c.app.Searched("tonight")
	clock.set(clock.now().Add(21 * time.Second))
	c.app.Follow("tonight")
	rests()
	require.NotSame(t, last, c.app.Searched("tonight"), "the rest is dear, and another chance is due")
}

// What the search finds is told, and the log says so.
func TestWhatASearchFindsIsTold(t *testing.T) {
	c, _ := nearlyOpen(t, 10)
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "opened"}))
	require.Eventually(t, func() bool { return !c.app.Follows("tonight") }, time.Minute, 10*time.Millisecond)
	c.app.Searches("tonight", func() {})
	require.Equal(t, []string{"taken"}, c.said(map[string]any{"kind": "out", "equipment": "combi"}))
	require.Eventually(t, func() bool { return !c.app.Following("tonight") }, time.Minute, 10*time.Millisecond)
	repair := c.call("GET", "/api/fire/tonight", nil, 200)
	c.app.Searches("tonight", nil)
	c.app.Follow("tonight")
	require.Eventually(t, func() bool { return !c.app.Follows("tonight") }, time.Minute, 10*time.Millisecond)
	better := c.call("GET", "/api/fire/tonight", nil, 200)
	require.Less(t, 4*better["cost"].(float64), 3*repair["cost"].(float64), "repairs alone come nowhere near that")
	require.Greater(t, better["number"], repair["number"])
	_, _, state := c.stateWithLog()
	require.EqualValues(t, better["number"], state.Plan)
}
