package expand_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/demo"
)

// The demo's dinner can keep its deadlines, with some things waiting a little beyond their best: then it does, whatever the seed, though by
// what is dear in a service its main would rather be three minutes late.
func TestADinnerKeepsItsDeadlines(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Meals = demo.Meals()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	m, err := expand.NewMeal(b, &d.Meals[0], 0)
	require.NoError(t, err)
	for seed := int64(1); seed <= 2; seed++ {
		p := m.Read(schedule.Solve(context.Background(), m.Workload, schedule.Options{Seed: seed, Anyway: true, Rounds: 6000}))
		require.Equal(t, []bool{true, true, true}, p.InTime())
		require.Empty(t, p.Trouble, "nor does anything wait too long")
	}
}
