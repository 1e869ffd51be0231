package server

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/demo"
	"jointime/store/storetest"
)

// The plan of the demo's morning is searched for once a day, and not remembered where it was cut short; another day has one of its own.
func TestAMorningIsPlannedOnce(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	at := storetest.Clock().AddDate(3, 0, 0) // a day that no other test has
	morning := d.Kitchen.DayOf(at).From
	d.Services, d.Meals = demo.Services(morning), demo.Meals()
	book, err := kitchen.NewBook(d)
	require.NoError(t, err)
	p, err := expand.NewPrep(book, book.Coming(morning), morning, nil, nil)
	require.NoError(t, err)

	hurried, stop := context.WithCancel(t.Context())
	stop()
	require.NotNil(t, morningPlan(hurried, p.Workload, morning))
	_, known := mornings.Load(morning.String())
	require.False(t, known, "cut short")

	first := morningPlan(t.Context(), p.Workload, morning)
	before, err := json.Marshal(first)
	require.NoError(t, err)
	require.Same(t, first, morningPlan(hurried, p.Workload, morning))
	_, err = madeToday(t.Context(), book, morning, at)
	require.NoError(t, err)
	after, err := json.Marshal(first)
	require.NoError(t, err)
	require.JSONEq(t, string(before), string(after), "who reads it leaves it as it is")
	require.NotSame(t, first, morningPlan(hurried, p.Workload, morning.AddDate(0, 0, 1)))
}
