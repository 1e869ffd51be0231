package planner_test

import (
	"io"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/planner"
)

// How long a better plan is looked for behind one can be said; what is told then says it, and is found again by that.
func TestHowLongABetterPlanIsLookedFor(t *testing.T) {
	const rounds = 700
	p := planner.New(kitchenOf(t), planner.Options{Clock: func() time.Time { return afternoon }, Rounds: rounds, Patience: 100,
		Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	t.Cleanup(p.Close)
	plan := settled(t, p, service).Plan
	require.Equal(t, planner.Better, plan.Kind, "the first answer, of %d rounds, is far from the best", planner.FirstRounds())
	require.Equal(t, []int{planner.FirstRounds(), rounds}, plan.Rounds)
}
