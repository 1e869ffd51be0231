package schedule

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/workload"
	"jointime/core/workload/workloadtest"
)

// A group stands whole or not at all, whoever had to make way for whom: those that are said to have found no place, and no others, have
// none.
func TestAGroupStandsWholeOrNotAtAll(t *testing.T) {
	left, all := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		w := workloadtest.Draw(t, 14)
		if x := plainOf(w); x != nil {
			w = x.Workload
		}
		p := compile(w)
		if p.propagate() != nil {
			return
		}
		gs := p.groups()
		b := newBuilder(context.Background(), p, 1)
		without := map[int]bool{}
		for _, i := range b.both(context.Background(), gs) {
			without[i], left = true, left+1
		}
		for i := range gs {
			all++
			for _, v := range b.members(&gs[i]) {
				require.Equal(t, !without[i], b.placed[v], "group %d, node %d", i, v)
			}
		}
	})
	require.Positive(t, left)
	require.Less(t, left, all)
}

// A task that can never be done (it wants a place twice that is there once) must not take with it what stood already: what is tied to
// that keeps its length, even where rules are broken.
func TestWhatFindsNoPlaceLeavesTheOthersWhereTheyStood(t *testing.T) {
	var w workload.Workload
	require.NoError(t, json.Unmarshal([]byte(`{"Objective":"makespan","Horizon":200,
		"Resources":[{"ID":"pan","Capacity":1,"HasWindows":true,"Windows":[{"From":0,"To":50,"Capacity":1}],
			"Thermostat":{"StartC":20,"HeatCPerMin":60,"CoolCPerMin":30,"ToleranceC":5}}],
		"Tasks":[{"ID":"first"},
			{"ID":"hot","Needs":[{"AnyOf":["pan"],"Units":1,"SetpointC":40,"SetpointToC":40}],"Latest":100},
			{"ID":"twice","Seconds":1,"Longest":2,"Needs":[{"AnyOf":["pan"],"Units":1,"SetpointC":40,"As":{"Task":"hot","Need":0}},
				{"AnyOf":["pan"],"Units":1,"SetpointC":40}],"Latest":100},
			{"ID":"beside","Needs":[{"AnyOf":["pan"],"Units":1,"SetpointC":40}],"Latest":100}],
		"Links":[{"From":"hot","To":"plate","Kind":"finish-start","Max":0},
			{"From":"first","To":"hot","Kind":"finish-start","Best":0},
			{"From":"first","To":"twice","Kind":"finish-finish","Max":0},
			{"From":"first","To":"beside","Kind":"finish-start","Best":0,"Max":0}],
		"Joins":[{"ID":"plate","At":0}],"Told":[{"Task":"first"}]}`), &w))
	s := Solve(context.Background(), &w, Options{Seed: 1, Rounds: 200, Anyway: true})
	require.Equal(t, workload.BestEffort, s.Status)
	for _, r := range s.Tasks {
		if r.ID == "twice" {
			require.LessOrEqual(t, r.Finish-r.Start, int64(2))
			require.GreaterOrEqual(t, r.Finish-r.Start, int64(1))
		}
	}
}
