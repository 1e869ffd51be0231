package planner_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	live "jointime/core/service"
)

// trouble says that some people went, nobody knows until when, and that some equipment does not work for three quarters of an hour.
func (n *night) trouble(people, equipment []string) {
	until := n.now.Add(45 * time.Minute)
	for _, id := range equipment {
		n.say(live.Event{Kind: live.Out, Facts: live.Facts{Equipment: id, Until: &until}})
	}
	for _, id := range people {
		n.say(live.Event{Kind: live.Out, Facts: live.Facts{Who: id}})
	}
}

// With two cooks away and nothing that holds a pot warm, a plan that keeps every rule follows: of the ways in which what was told is taken
// over, the cheapest is gone on from as it was found, whatever has been tried after it.
func TestDeepTroubleIsFollowed(t *testing.T) {
	n := newNight(t, kitchenOf(t), 1)
	plan := settled(t, n.p, service).Plan
	n.now = plan.View.From.Add(75 * time.Minute)
	n.say(live.Event{Kind: live.Opened})
	n.trouble([]string{"ines", "tobias"}, []string{"bain-marie", "holding"})
	follows, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	require.Empty(t, follows.Schedule.Broken)
}

// Where the answer at once breaks rules, the next tries take another chance, until one keeps them all.
func TestWhatBreaksRulesIsTriedAgain(t *testing.T) {
	n := newNight(t, kitchenOf(t), 1)
	plan := settled(t, n.p, service).Plan
	n.now = plan.View.From.Add(75 * time.Minute)
	n.say(live.Event{Kind: live.Opened})
	n.trouble([]string{"marguerite", "ada"}, []string{"bain-marie", "holding"})
	state := live.Fold(n.log)
	told, err := n.p.Happened(t.Context(), service, state)
	require.NoError(t, err)
	require.NotEmpty(t, told.Schedule.Broken)
	for tries := 0; len(told.Schedule.Broken) > 0; tries++ {
		require.Less(t, tries, 6)
		n.now = n.now.Add(10 * time.Second)
		next, err := n.p.Happened(t.Context(), service, state)
		require.NoError(t, err)
		if next != nil {
			told = next
		}
	}
}
