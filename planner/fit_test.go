package planner_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/planner"
)

// Where one change does not make everything fit, changes that do together stand first; where one does, none are put together. What is
// promised is what is tried, and what is kept.
func TestChangesTogetherMakeItFit(t *testing.T) {
	// Evenings in which the fish cook has several tables' hake at once, twice: how tight they are hangs on minutes.
	for _, by := range [][3]int{{12, 0, 0}, {13, 1, -2}, {13, 2, 1}, {12, 2, -2}, {13, 0, 1}, {13, 3, -2}, {12, -1, -1},
		{12, 1, -1}, {12, 3, 1}, {10, 2, 0}, {13, 0, -1}, {13, 1, 0}, {12, 2, 0}} {
		m := kitchenOf(t)
		m.change(t, key("service/tonight"), func(d *kitchen.Data) {
			s := tonight(d)
			s.Tables[8].SeatedAt = 19*60 + 59 + by[1]
			s.Tables[5].SeatedAt += by[2]
			s.Tables = append(append([]kitchen.ServiceTable{}, s.Tables[2:6]...), s.Tables[8:by[0]]...)
		})
		if fitTogether(t, m) {
			return
		}
	}
	t.Fatal("in none of the evenings do changes together what none does alone")
}

// fitTogether tries what is promised for the evening; false where nothing is put together.
func fitTogether(t *testing.T, m *memory) bool {
	t.Helper()
	p := open(t, m, afternoon)
	defer p.Close()
	ctx := t.Context()
	settled(t, p, "tonight")
	list, err := p.Mends(ctx, "tonight")
	require.NoError(t, err)
	shown, err := p.Service(ctx, "tonight")
	require.NoError(t, err)
	alone, together := 0, 0
	for _, x := range list {
		if strings.HasPrefix(x.ID, "fit:") {
			together++
		} else if x.Fits && !x.Guests {
			alone++
		}
	}
	require.LessOrEqual(t, together, 1)
	require.False(t, alone > 0 && together > 0, "one alone would do")
	if together == 0 {
		return false
	}
	require.NotEmpty(t, shown.Plan.View.Trouble, "the evening is tight")
	first := list[0]
	require.True(t, first.Fits, first.What.Text)
	require.True(t, strings.HasPrefix(first.ID, "fit:"), first.ID)
	require.GreaterOrEqual(t, len(first.Parts), 2)
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
	return true
}
