package expand_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// biscuits are baked for 300 s on a tray and shaped by hand, 10 s each, while they are hot: 25 s for each, the last too.
func biscuits(limit int) kitchen.Data {
	bake := inOven(pick("bake", kitchen.None, 300), 150)
	shape := pick("shape", kitchen.Both, 0, kitchen.Predecessor{Step: "bake", Wait: kitchen.Wait{Longest: seconds(limit), Each: true}})
	shape.Time.PerPortion = kitchen.Exactly(10)
	c := kitchen.Component{ID: "biscuit", Hold: kitchen.Wait{Longest: seconds(3600)}, Steps: []kitchen.Step{bake, shape}}
	return house([]kitchen.Component{c}, []kitchen.Element{{Component: "biscuit", Seconds: 10}})
}

// By hand. In 25 s two more are shaped after the first, so three biscuits go in at a time: eight are 3 + 3 + 2. The first of a
// batch of three may wait 25 − 2 · 10 = 5 s. With 19 s two go in, with 9 s one; with 70 s all eight do.
func TestTheLastPieceCounts(t *testing.T) {
	for limit, want := range map[int][]int{25: {3, 3, 2}, 20: {3, 3, 2}, 19: {2, 2, 2, 2}, 9: {1, 1, 1, 1, 1, 1, 1, 1}, 70: {8}, 69: {4, 4}} {
		p := plan(t, biscuits(limit), 8, 1)
		require.Empty(t, p.Broken, limit)
		var got []int
		off := map[int]int64{}
		for _, b := range p.Strands[0].Bars {
			if b.Step == "bake" {
				got = append(got, b.Portions)
				off[b.Batch] = b.FinishS
			}
		}
		for _, b := range p.Strands[0].Bars {
			if b.Step == "shape" {
				require.LessOrEqual(t, b.FinishS-off[b.Batch]-10, int64(limit), "the last is begun in time")
			}
		}
		require.Equal(t, want, got, limit)
	}
	// What is said of the tray itself bounds it too.
	d := biscuits(70)
	d.Components[0].Steps[0].Batch = &kitchen.BatchLimit{Portions: 5, Run: kitchen.InTurn}
	p := plan(t, d, 8, 1)
	require.Empty(t, p.Broken)
	require.Len(t, p.Strands[0].Bars, 2+2, "trays of five and of three, shaped as they come")
}

// By hand. A limit to the plate for each piece: slices are carved 20 s each and may lie 60 s: four at a time, the first 0 s more
// than it takes to carve the others.
func TestEachSliceToThePlate(t *testing.T) {
	carve := pick("carve", kitchen.Both, 0)
	carve.Time.PerPortion = kitchen.Exactly(20)
	c := kitchen.Component{ID: "joint", Hold: kitchen.Wait{Longest: seconds(60), Each: true}, Steps: []kitchen.Step{carve}}
	steps := c.InPhase(kitchen.PickUp)
	require.Equal(t, &kitchen.BatchLimit{Portions: 4, Run: kitchen.InTurn}, steps[0].Batch)
	w := c.Hold.ForPieces(4, 20)
	require.Equal(t, 0, *w.Longest)
	w = c.Hold.ForPieces(1, 20)
	require.Equal(t, 60, *w.Longest)
	c.Hold.Each = false
	require.Nil(t, c.InPhase(kitchen.PickUp)[0].Batch)
}

// By hand. Custards are steamed for 100 s in moulds, and turned out in 20 s by hand. Twelve moulds: two tables of eight share
// them, so the second table's are filled when the first table's are empty; with sixteen both stand at once.
func TestMouldsAreBusyUntilTheyAreEmptied(t *testing.T) {
	of := func(moulds int) (*expand.EveningPlan, error) {
		steam := pick("steam", kitchen.None, 100)
		steam.Wares = []kitchen.Ware{{Equipment: "moulds", Each: 1, Until: "turn-out"}}
		out := pick("turn-out", kitchen.Both, 20, kitchen.Predecessor{Step: "steam", Wait: kitchen.Wait{Longest: seconds(600)}})
		c := kitchen.Component{ID: "custard", Hold: kitchen.Wait{Longest: seconds(600)}, Steps: []kitchen.Step{steam, out}}
		d := served([]kitchen.Component{c}, []kitchen.Element{{Component: "custard", Seconds: 5}}, table("a", 8, 19*60), table("b", 8, 19*60+1))
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "moulds", Name: "Moulds", Kind: kitchen.SmallWare, Capacity: moulds,
			Unit: "mould"})
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		if _, err := expand.NewEvening(b, &b.Services()[0], true); err != nil {
			return nil, err
		}
		_, _, p := evening(t, d, true)
		return p, nil
	}
	span := func(p *expand.EveningPlan) (first time.Time, second time.Time) {
		for _, r := range p.Runs {
			if r.Step == "steam" && r.Joins[0] == "b/main" {
				second = r.From
			}
			if r.Step == "turn-out" && r.Joins[0] == "a/main" {
				first = r.To
			}
		}
		return first, second
	}
	few, err := of(12)
	require.NoError(t, err)
	emptied, filled := span(few)
	require.False(t, filled.Before(emptied), "filled %s, emptied %s", filled, emptied)
	many, err := of(16)
	require.NoError(t, err)
	emptied, filled = span(many)
	require.True(t, filled.Before(emptied))
	_, err = of(7)
	require.ErrorContains(t, err, "8 portions of custard take 8 of Moulds, and there are 7")
	require.Equal(t, 3, (&kitchen.Ware{For: 4}).Count(9))
	require.Equal(t, 2, (&kitchen.Ware{For: 4}).Count(8))
	require.Equal(t, 18, (&kitchen.Ware{Each: 2}).Count(9))
}

// By hand. A blender that is rinsed for 30 s after each use takes two things in turn: needed at −20 and −10, the second is
// blended from −70 to −10, the first before that with its rinsing, until −70: blended from −160 to −100.
func TestABlenderIsRinsed(t *testing.T) {
	blend := func(id string) kitchen.Component {
		s := pick("blend", kitchen.Both, 60)
		s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Blender, Units: 1}
		return kitchen.Component{ID: id, Section: map[string]string{"x": "one", "y": "two"}[id], Hold: kitchen.Wait{Longest: seconds(400)},
			Steps: []kitchen.Step{s}}
	}
	d := house([]kitchen.Component{blend("x"), blend("y")}, []kitchen.Element{{Component: "x", Seconds: 10}, {Component: "y", Seconds: 10}})
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "blender", Name: "Blender", Kind: kitchen.Blender, Capacity: 1, Unit: "jug"})
	require.Equal(t, map[string]int64{"x": -130, "y": -70}, fires(plan(t, d, 1, 1)))
	d.Equipment[1].RinseS = 30
	require.Equal(t, map[string]int64{"x": -160, "y": -70}, fires(plan(t, d, 1, 1)))
}

// The same thing finished otherwise: beet in oil is taken from the pan of the table's beet before the butter goes in, whoever's
// plate that is for; where nobody at the table has it with butter, it waits for nobody.
func TestTakenFromThePotOfTheOthers(t *testing.T) {
	warm, butter := pick("warm", kitchen.Both, 60), pick("butter", kitchen.Both, 30, kitchen.Predecessor{Step: "warm"})
	beet := kitchen.Component{ID: "beet", Hold: kitchen.Wait{Longest: seconds(400)}, Steps: []kitchen.Step{warm, butter}}
	oil := pick("oil", kitchen.Both, 20)
	oil.Beside = []kitchen.OtherStep{{Component: "beet", Step: "warm", Any: true, Wait: kitchen.Wait{Longest: seconds(300)}}}
	plain := kitchen.Component{ID: "plain", Hold: kitchen.Wait{Longest: seconds(400)}, Steps: []kitchen.Step{oil}}
	d := house([]kitchen.Component{beet, plain}, []kitchen.Element{{Component: "beet", Seconds: 10}})
	other := d.Dishes[0].Specification.Elements[0]
	other.Component = "plain"
	d.Dishes[0].Specification.Variants = []kitchen.Variant{{Name: "no milk",
		Changes: []kitchen.Change{{Element: 1, Kind: "replace", With: &other}}}}
	links := func(orders ...expand.Order) [][2]string {
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		for i := range orders {
			orders[i].Dish = "dish"
		}
		f, err := expand.NewFiring(b, expand.Table{Orders: orders, At: at(14, 19, 0)})
		require.NoError(t, err)
		return crossLinks(f.Workload, f, "beet", "plain")
	}
	milk := expand.Order{Count: 1, Variant: "no milk", Without: []kitchen.Allergen{"milk"}}
	require.Equal(t, [][2]string{{"table/beet/warm", "table/plain~apart/oil"}}, links(expand.Order{Count: 2}, milk))
	require.Empty(t, links(milk))
}

// Nothing starts before its goods are in and thawed: fish that comes in at noon and thaws for two hours is cut from two on.
func TestNothingStartsBeforeItsGoodsAreIn(t *testing.T) {
	d := across(0)
	d.Components[0].Ingredients = []kitchen.Ingredient{{Name: "fish", Amount: 100, Unit: "g", InAt: 12 * 60},
		{Name: "salt", Amount: 1, Unit: "g"}}
	require.False(t, prepared(t, d, nil).Jobs[0].StartAt.Before(at(14, 12, 0)))
	d.Components[0].Ingredients[0].ThawH = 2
	require.False(t, prepared(t, d, nil).Jobs[0].StartAt.Before(at(14, 14, 0)))
	// Too late for the service, it is said.
	d.Components[0].Ingredients[0].ThawH = 8
	late := prepared(t, d, nil)
	require.NotEmpty(t, late.Trouble)
	require.Equal(t, "forgotten", late.Trouble[0].Kind)
	d.Components[0].Ingredients[0] = kitchen.Ingredient{Name: "fish", Amount: 100, Unit: "g", ThawH: 2}
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err, "components[0].ingredients[0].thaw_h: say when it comes in")
}
