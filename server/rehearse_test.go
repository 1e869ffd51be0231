package server_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/simulate"
)

// A service is played in the background: what is played so far is told, the same nights by every policy, and what would help on the same;
// it can be ended, and is out of date when another plan is shown. The log of the service knows nothing of it.
func TestARehearsal(t *testing.T) {
	c := start(t, true)
	c.few("tonight", 3)
	c.settled("tonight")
	path := tonight + "/rehearsal"
	type view struct {
		Running, Stale bool
		Done, Of       int
		Plan           int64
		Policies       []simulate.Rehearsal
		Changes        []struct{ Goes simulate.Rehearsal }
	}
	var v view
	get := func() view {
		v = view{}
		require.NoError(t, json.Unmarshal([]byte(c.text(path)), &v))
		return v
	}
	require.Zero(t, get().Plan, "nobody has asked for one")
	c.call("DELETE", path, nil, 404)
	c.call("POST", path, map[string]any{"nights": 5}, 422)
	c.call("POST", path, map[string]any{"nights": 10}, 200)
	require.Eventually(t, func() bool { return !get().Running }, 2*time.Minute, 50*time.Millisecond)
	require.Equal(t, v.Of, v.Done)
	policies := []simulate.Policy{}
	for _, p := range v.Policies {
		policies = append(policies, p.Policy)
		require.Equal(t, 10, p.Nights)
		require.NotEmpty(t, p.Joins)
		require.GreaterOrEqual(t, p.Later[0], p.Later[20])
	}
	require.Equal(t, []simulate.Policy{simulate.AsPrinted, simulate.Dispatch, simulate.NoPlan, simulate.Again}, policies)
	require.False(t, v.Stale)
	first := v.Policies[0]
	c.call("POST", path, map[string]any{"nights": 10}, 200)
	require.Eventually(t, func() bool { return len(get().Policies) > 0 }, 2*time.Minute, 20*time.Millisecond)
	require.Equal(t, first, v.Policies[0], "the same seed plays the same nights")
	c.call("POST", path, map[string]any{"nights": 1000}, 200)
	c.call("DELETE", path, nil, 200)
	require.Eventually(t, func() bool { return !get().Running }, time.Minute, 50*time.Millisecond)
	require.Less(t, v.Done, v.Of)
	require.Empty(t, c.text(tonight+"/log.jsonl"))
}
