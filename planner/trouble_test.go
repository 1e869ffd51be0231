package planner_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	live "jointime/core/service"
	"jointime/planner"
)

// inTrouble is a night in which, an hour and a quarter after the first fire, some people go, nobody knows until when, and nothing holds a
// pot warm for three quarters of an hour; and the plan that follows.
func inTrouble(t *testing.T, people ...string) (*night, *planner.Plan) {
	n := newNight(t, kitchenOf(t), 1)
	plan := settled(t, n.p, service).Plan
	n.now = plan.View.From.Add(75 * time.Minute)
	n.say(live.Event{Kind: live.Opened})
	until := n.now.Add(45 * time.Minute)
	for _, id := range []string{"bain-marie", "holding"} {
		n.say(live.Event{Kind: live.Out, Facts: live.Facts{Equipment: id, Until: &until}})
	}
	for _, id := range people {
		n.say(live.Event{Kind: live.Out, Facts: live.Facts{Who: id}})
	}
	follows, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
	require.NoError(t, err)
	return n, follows
}

// With two cooks away a plan that keeps every rule follows: of the ways in which what was told is taken over, the cheapest is gone on from
// as it was found, whatever has been tried after it.
func TestDeepTroubleIsFollowed(t *testing.T) {
	_, follows := inTrouble(t, "ines", "tobias")
	require.Empty(t, follows.Schedule.Broken)
}

// Where the answer at once breaks rules, the next tries take another chance, until one keeps them all.
func TestWhatBreaksRulesIsTriedAgain(t *testing.T) {
	n, told := inTrouble(t, "marguerite", "ada")
	require.NotEmpty(t, told.Schedule.Broken)
	for tries := 0; len(told.Schedule.Broken) > 0; tries++ {
		require.Less(t, tries, 6)
		n.now = n.now.Add(10 * time.Second)
		next, err := n.p.Happened(t.Context(), service, live.Fold(n.log))
		require.NoError(t, err)
		if next != nil {
			told = next
		}
	}
}

// Behind an answer that breaks rules a plan is looked for that keeps them all, without regard for what was told.
func TestBehindWhatBreaksRules(t *testing.T) {
	n, told := inTrouble(t, "marguerite", "ada")
	require.NotEmpty(t, told.Schedule.Broken)
	require.True(t, n.p.LooksAgain(service))
	found := n.improves(live.Fold(n.log))
	require.NotNil(t, found)
	require.Empty(t, found.Schedule.Broken)
	require.False(t, n.p.LooksAgain(service))
	require.False(t, n.p.LooksAgain("nowhere"))
}
