package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// staged is a plate of a cream (20 s), fruit (30 s) and ice (10 s), of which the first so many are put on ahead. The fruit is
// warmed for 100 s by the pastry, and waits for nobody.
func staged(ahead, rack int) kitchen.Data {
	fruit := kitchen.Component{ID: "fruit", Section: "two", Hold: kitchen.Wait{Longest: seconds(0)},
		Steps: []kitchen.Step{pick("warm", kitchen.Both, 100)}}
	cs := []kitchen.Component{{ID: "cream", Section: "two"}, fruit, {ID: "ice", Section: "two"}}
	d := house(cs, []kitchen.Element{{Component: "cream", Seconds: 20}, {Component: "fruit", Seconds: 30}, {Component: "ice", Seconds: 10}})
	d.Dishes[0].Specification.PlatedAhead, d.Dishes[0].Specification.RackS = ahead, rack
	return d
}

// By hand, two plates and one at the pass. All at the pass: 120 s, the fruit wanted when its turn comes at −80, fired at −180.
// Cream and fruit ahead (100 s), ice at the pass (20 s): the pass works from −20. The plates are racked from −120 at the
// soonest, since waiting on the rack costs nothing and fruit is not kept; the fruit is on them 40 s after that began.
func TestFirstElementsArePutOnAhead(t *testing.T) {
	whole := plan(t, staged(0, 0), 2, 1)
	require.Equal(t, 120, whole.PlatingS)
	require.Nil(t, whole.Racked)
	p := plan(t, staged(2, 0), 2, 1)
	require.Equal(t, 20, p.PlatingS)
	require.NotNil(t, p.Racked)
	require.Equal(t, int64(100), p.Racked.ToS-p.Racked.FromS)
	require.LessOrEqual(t, p.Racked.ToS, int64(-20))
	require.Len(t, p.Racked.People, 1)
	for _, s := range p.Strands {
		if s.Component == "fruit" {
			require.Equal(t, s.NeededS, s.FireS+100, "it is fired for the plates that are begun, not for the pass")
			require.Equal(t, p.Racked.FromS+40, s.NeededS)
		}
	}
	require.Zero(t, p.LateS)
}

// How long the rack keeps a plate is kept, and what is cold altogether is plated ahead whole: the pass has nothing to do.
func TestTheRackKeepsAPlateSoLong(t *testing.T) {
	d := staged(3, 300)
	// Nobody is free in the last ten minutes before the join but for plating: the cook of the fruit goes home.
	p := plan(t, d, 2, 1)
	require.Equal(t, 0, p.PlatingS)
	require.LessOrEqual(t, -p.Racked.ToS, int64(300))
	require.Equal(t, int64(120), p.Racked.ToS-p.Racked.FromS)
	require.Equal(t, 1800, (&kitchen.Specification{}).Racked(), "half an hour where nobody said")
	require.Equal(t, 300, (&kitchen.Specification{RackS: 300}).Racked())
}

// By hand: ice must have been on the plate for 60 s. It is the last thing on, so the plates stand for 60 s; were it followed
// by 40 s of work, they would stand for 20.
func TestWhatMustThawOnThePlate(t *testing.T) {
	d := staged(0, 0)
	d.Dishes[0].Specification.Elements[2].OnPlateS = 60
	p := plan(t, d, 1, 1)
	require.Equal(t, 60, p.StandS)
	require.Equal(t, int64(-60-10-30), p.Strands[1].NeededS)
	es := d.Dishes[0].Specification.Elements
	es[0], es[2] = es[2], es[0] // ice, fruit, cream: 50 s of work after the ice
	require.Equal(t, 10, plan(t, d, 1, 1).StandS)
	es[0].OnPlateS = 50
	require.Zero(t, plan(t, d, 1, 1).StandS)
	// Put on ahead it is put on so much sooner.
	es[0].OnPlateS = 400
	d.Dishes[0].Specification.PlatedAhead, d.Dishes[0].Specification.RackS = 1, 900
	p = plan(t, d, 1, 1)
	require.Zero(t, p.StandS)
	require.LessOrEqual(t, p.Racked.ToS, int64(-400))
}

// What a variant leaves out is not counted among what is put on ahead.
func TestAVariantIsBegunAheadToo(t *testing.T) {
	d := staged(2, 0)
	d.Dishes[0].Specification.Variants = []kitchen.Variant{{Name: "no fruit", Changes: []kitchen.Change{{Element: 2, Kind: "leave-out"}}},
		{Name: "no ice", Changes: []kitchen.Change{{Element: 3, Kind: "leave-out"}}}}
	dish := &d.Dishes[0]
	require.Equal(t, 2, dish.AheadOf(""))
	require.Equal(t, 1, dish.AheadOf("No Fruit"))
	require.Equal(t, 2, dish.AheadOf("no ice"))
	dish.Specification.PlatedAhead = 4
	require.ErrorContains(t, kitchen.CheckDish(*dish).Or(), "specification.plated_ahead: expected 0 to 3, got 4")
}
