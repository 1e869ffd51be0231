package planner_test

import (
	"context"
	"errors"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/planner"
)

// A fault in one computation is an error for all who asked for it, and of nobody else: the next one for the same key runs.
func TestAFaultEndsOneComputation(t *testing.T) {
	p := open(t, small(t), afternoon)
	ctx := context.Background()
	_, err := planner.Compute(ctx, p, "k", func() (int, error) { panic("the pan is on fire") })
	require.ErrorContains(t, err, "a fault while planning: the pan is on fire")
	require.ErrorContains(t, err, "guard_test.go", "where it was is said")
	v, err := planner.Compute(ctx, p, "k", func() (int, error) { return 7, nil })
	require.NoError(t, err)
	require.Equal(t, 7, v)
	boom := errors.New("no")
	_, err = planner.Compute(ctx, p, "k", func() (int, error) { return 0, boom })
	require.ErrorIs(t, err, boom)
}

// Many who ask at once get one computation; who leaves, leaves, and it goes on for the others.
func TestOneComputationForAllWhoAskAtOnce(t *testing.T) {
	p := open(t, small(t), afternoon)
	var ran atomic.Int32
	begun, go1 := make(chan struct{}), make(chan struct{})
	work := func() (int, error) {
		if ran.Add(1) == 1 {
			close(begun)
		}
		<-go1
		return 42, nil
	}
	var wg sync.WaitGroup
	answers := make([]int, 12)
	wg.Go(func() { answers[0], _ = planner.Compute(context.Background(), p, "k", work) })
	<-begun
	for i := 1; i < len(answers); i++ {
		wg.Go(func() { answers[i], _ = planner.Compute(context.Background(), p, "k", work) })
	}
	left, leave := context.WithTimeout(context.Background(), time.Millisecond)
	defer leave()
	_, err := planner.Compute(left, p, "k", work)
	require.ErrorIs(t, err, context.DeadlineExceeded)
	close(go1)
	wg.Wait()
	for i, v := range answers {
		require.Equal(t, 42, v, i)
	}
}

// A planner that is closed computes nothing more.
func TestAClosedPlannerComputesNothing(t *testing.T) {
	p := open(t, small(t), afternoon)
	p.Close()
	_, err := planner.Compute(context.Background(), p, "k", func() (int, error) { return 1, nil })
	require.ErrorIs(t, err, planner.ErrClosed)
}
