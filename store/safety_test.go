package store_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/safety"
	"jointime/store"
	"jointime/store/storetest"
)

func reading(c float64) safety.Entry {
	return safety.Entry{Kind: safety.CoolingLog, What: "Barley", Ref: "barley", C: &c, Person: "Ada", At: storetest.Clock()}
}

// The log of temperatures is only added to, its numbers have no gaps whoever writes at once, and what is sent twice is kept once.
func TestTheLogOfTemperaturesIsOnlyAddedTo(t *testing.T) {
	url, ctx := storetest.URL(t), context.Background()
	s, err := store.Open(ctx, url, storetest.Clock)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(ctx))
	var writers sync.WaitGroup
	failed := make(chan error, 40)
	for i := range 20 {
		for range 2 { // each is sent twice
			writers.Go(func() {
				if _, err := s.AddSafety(ctx, fmt.Sprintf("11111111-1111-4111-8111-%012d", i), reading(float64(i))); err != nil {
					failed <- err
				}
			})
		}
	}
	writers.Wait()
	close(failed)
	for err := range failed {
		require.NoError(t, err)
	}
	list, err := s.SafetyLog(ctx, storetest.Clock(), storetest.Clock().Add(time.Second))
	require.NoError(t, err)
	require.Len(t, list, 20)
	for i, e := range list {
		require.EqualValues(t, i+1, e.Number)
		require.Equal(t, storetest.Clock(), e.Written)
	}
	db, err := sqlx.Open("pgx", url)
	require.NoError(t, err)
	defer db.Close()
	for _, change := range []string{"UPDATE safety_log SET celsius = 4", "DELETE FROM safety_log"} {
		_, err := db.Exec(change)
		require.ErrorContains(t, err, "only added to")
	}
}

// A day's log has every reading of a cooling of which one falls into the day, and what corrects its lines.
func TestACoolingOverMidnightIsWhole(t *testing.T) {
	s, ctx := storetest.Open(t), context.Background()
	add := func(n int, after time.Duration, run, corrects int64) error {
		e := reading(80)
		e.At, e.Run, e.Corrects = storetest.Clock().Add(after), run, corrects
		_, err := s.AddSafety(ctx, fmt.Sprintf("11111111-1111-4111-8111-%012d", n), e)
		return err
	}
	require.NoError(t, add(1, 0, 0, 0))
	require.NoError(t, add(2, time.Hour, 1, 0))
	require.NoError(t, add(3, 2*time.Hour, 0, 2))
	list, err := s.SafetyLog(ctx, storetest.Clock().Add(30*time.Minute), storetest.Clock().Add(90*time.Minute))
	require.NoError(t, err)
	require.Len(t, list, 3)
	list, err = s.SafetyLog(ctx, storetest.Clock().Add(3*time.Hour), storetest.Clock().Add(4*time.Hour))
	require.NoError(t, err)
	require.Empty(t, list)
	var faults kitchen.Faults
	require.True(t, errors.As(add(4, 0, 99, 0), &faults))
	require.ErrorContains(t, add(5, 0, 0, 99), "there is no line 99")
}
