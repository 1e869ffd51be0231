package planner_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/planner"
)

// Where one change does not make everything fit, changes that do together stand first. What is promised is what is tried, and
// what is kept.
func TestChangesTogetherMakeItFit(t *testing.T) {
	m := kitchenOf(t)
	// An evening in which the fish cook has several tables' hake at once, twice.
	m.change(t, key("service/tonight"), func(d *kitchen.Data) {
		s := tonight(d)
		s.Tables[8].SeatedAt = 19*60 + 59
		s.Tables[5].SeatedAt -= 2
		s.Tables = append(append([]kitchen.ServiceTable{}, s.Tables[2:6]...), s.Tables[8:11]...)
	})
	p := open(t, m, afternoon)
	ctx := t.Context()
	settled(t, p, "tonight")
	list, err := p.Mends(ctx, "tonight")
	require.NoError(t, err)
	shown, err := p.Service(ctx, "tonight")
	require.NoError(t, err)
	require.NotEmpty(t, shown.Plan.View.Trouble, "the evening is tight")
	first := list[0]
	require.True(t, first.Fits, first.What.Text)
	require.True(t, strings.HasPrefix(first.ID, "fit:"), first.ID)
	require.GreaterOrEqual(t, len(first.Parts), 2)
	for _, x := range list[1:] {
		require.False(t, x.Fits && !x.Guests, "%s alone would do", x.ID)
	}
	tried, service, err := p.Tried(ctx, "tonight", first.ID)
	require.NoError(t, err)
	require.Empty(t, tried.Plan.View.Trouble)
	require.Equal(t, shown.Plan.View.Cost-tried.Plan.View.Cost, first.SavesS)
	m.change(t, key("service/tonight"), func(d *kitchen.Data) { *tonight(d) = service })
	kept, err := p.Service(ctx, "tonight")
	require.NoError(t, err)
	require.Equal(t, planner.Mended, kept.Plan.Kind)
	require.Equal(t, tried.Plan.View.Cost, kept.Plan.View.Cost)
	require.Empty(t, kept.Plan.View.Trouble)
}
