package kitchen_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// braise is made ahead, chilled, and warmed to order: fixed seconds, so many each, and what comes between.
func braise() kitchen.Component {
	longest := 3600
	return kitchen.Component{ID: "c", Name: "Thing", Section: "s", Steps: []kitchen.Step{
		{ID: "cut", Name: "cut", Phase: kitchen.Ahead, Hands: kitchen.Both},
		{ID: "cook", Name: "cook", Phase: kitchen.Ahead, Equipment: &kitchen.EquipmentNeed{Kind: kitchen.Oven},
			After: []kitchen.Predecessor{{Step: "cut"}}},
		{ID: "press", Name: "press", Phase: kitchen.Ahead, After: []kitchen.Predecessor{{Step: "cook"}}},
		{ID: "warm", Name: "warm", Phase: kitchen.PickUp, Hands: kitchen.Tend,
			Time:  kitchen.StepTime{Fixed: kitchen.Exactly(240), PerPortion: kitchen.Exactly(10)},
			After: []kitchen.Predecessor{{Step: "press", Wait: kitchen.Wait{Longest: &longest, Place: kitchen.Chilled, Kept: "in its liquor"}}}},
		{ID: "glaze", Name: "glaze", Phase: kitchen.PickUp, Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)},
			After: []kitchen.Predecessor{{Step: "warm", Wait: kitchen.Wait{Shortest: 30}}}}},
		Hold: kitchen.Wait{Shortest: 90, Longest: &longest}}
}

// By hand: 240 s and ten a portion, 30 s of rest, 60 s, 90 s of hold. A pan that holds three lasts as long as three take, where several
// pans go side by side; in turn it lasts as long as all.
func TestHowLongBeforeThePlateItIsBegun(t *testing.T) {
	c := braise()
	require.Equal(t, 240+20+30+60+90, c.OrderSpan(2))
	c.Steps[3].Batch = &kitchen.BatchLimit{Portions: 3, Run: kitchen.SideBySide}
	require.Equal(t, c.OrderSpan(3), c.OrderSpan(8))
	require.Equal(t, c.OrderSpan(3)-10, c.OrderSpan(2))
	c.Steps[3].Batch.Run = kitchen.InTurn
	require.Equal(t, c.OrderSpan(3)+50, c.OrderSpan(8))
	none := kitchen.Component{Steps: c.Steps[:3]}
	require.Zero(t, none.OrderSpan(4))
}

// What is said across the cut is the wait of the first step to order, or the hold of what has none; what was cooked ahead last is what its
// use-by counts from.
func TestWhatLiesAcrossTheCut(t *testing.T) {
	c := braise()
	require.Equal(t, kitchen.Chilled, c.AcrossTheCut().Place)
	require.Contains(t, c.KeptAhead(), "in its liquor")
	require.Equal(t, "cook", c.Cooked().ID)
	c.Steps[2].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Fridge}
	require.Equal(t, "cook", c.Cooked().ID, "cold is not cooked")
	c.Steps[2].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner}
	require.Equal(t, "press", c.Cooked().ID)
	ahead := kitchen.Component{Steps: c.Steps[:1], Hold: kitchen.Wait{Place: kitchen.Dry, Kept: "airtight"}}
	require.Equal(t, kitchen.Dry, ahead.AcrossTheCut().Place)
	require.Contains(t, ahead.KeptAhead(), "airtight")
	require.Nil(t, ahead.Cooked())
	order := kitchen.Component{Steps: []kitchen.Step{{ID: "sear", Phase: kitchen.PickUp}}, Hold: kitchen.Wait{Place: kitchen.Hot}}
	require.Equal(t, kitchen.Wait{}, order.AcrossTheCut(), "nothing is made ahead")
}

// A limit for each piece: with 10 s between two, five get through in 40 s; what is left for a batch is the limit less those before the
// last.
func TestALimitForEachPiece(t *testing.T) {
	longest, best := 40, 35
	w := kitchen.Wait{Each: true, Longest: &longest, Best: &best}
	for n, want := range map[int]int{1: 40, 2: 30, 4: 10, 5: 0, 9: 0} {
		got := w.ForPieces(n, 10)
		require.Equal(t, want, *got.Longest, n)
		require.LessOrEqual(t, *got.Best, *got.Longest)
	}
	require.Equal(t, 40, *w.Longest, "it is left alone itself")
	require.Equal(t, w, w.ForPieces(4, 0), "all at once")
	w.Each = false
	require.Equal(t, w, w.ForPieces(4, 10))
	w = kitchen.Wait{Each: true, Longest: &longest, Shortest: 25}
	require.Equal(t, 25, *w.ForPieces(4, 10).Longest, "never less than its shortest")
	a, b := kitchen.Step{Time: kitchen.StepTime{PerPortion: kitchen.Exactly(8)}},
		kitchen.Step{Time: kitchen.StepTime{PerPortion: kitchen.Exactly(12)}}
	require.Equal(t, 12, kitchen.Rate(&a, &b))
	require.Equal(t, 8, kitchen.Rate(&a, nil))
}

// A mould for each portion, or one for eight: a ninth wants a second.
func TestHowManyWaresAreFilled(t *testing.T) {
	each, some := kitchen.Ware{Each: 2}, kitchen.Ware{For: 8}
	require.Equal(t, 6, each.Count(3))
	for n, want := range map[int]int{1: 1, 8: 1, 9: 2, 16: 2, 17: 3} {
		require.Equal(t, want, some.Count(n), n)
	}
}

// Goods that come in are there when the last of them is thawed; what is in the house is not waited for.
func TestWhenGoodsAreThere(t *testing.T) {
	now := time.Date(2026, 5, 14, 7, 0, 0, 0, time.UTC)
	c := kitchen.Component{Ingredients: []kitchen.Ingredient{{Name: "salt"}, {Name: "prawns", InAt: 9 * 60, ThawH: 1.5},
		{Name: "dill", InAt: 10 * 60}}}
	at, ok := c.GoodsIn(now)
	require.True(t, ok)
	require.Equal(t, time.Date(2026, 5, 14, 10, 30, 0, 0, time.UTC), at)
	c.Ingredients = c.Ingredients[:1]
	_, ok = c.GoodsIn(now)
	require.False(t, ok)
}

// Wishes of one guest add up; the ends of a joint go to those who ask first, and one had off an end takes no longer.
func TestWishesAddUpAndEndsAreFew(t *testing.T) {
	s := kitchen.Step{Doneness: []kitchen.Doneness{{Name: "well done", Seconds: 120, Ends: 1}, {Name: "large", Seconds: 60},
		{Name: "rare", Seconds: -40}}}
	require.Equal(t, []int{0, 0, 120, 20, 0}, s.Longer([]string{"", "well done", "Well Done", "large and rare", "burnt"}))
	require.Equal(t, []string{"large", "rare"}, kitchen.Wishes(" large, rare ,"))
	require.Empty(t, kitchen.Wishes(""))
}

// A plate that is begun ahead may wait the usual half hour where nobody said; a variant that leaves a first element out has fewer ahead.
func TestPlatesBegunAhead(t *testing.T) {
	d := kitchen.Dish{Specification: kitchen.Specification{PlatedAhead: 2, Variants: []kitchen.Variant{{Name: "no nuts",
		Changes: []kitchen.Change{{Kind: "leave-out", Element: 2}, {Kind: "leave-out", Element: 3}}}}}}
	require.Equal(t, 1800, d.Specification.Racked())
	d.Specification.RackS = 600
	require.Equal(t, 600, d.Specification.Racked())
	require.Equal(t, 2, d.AheadOf(""))
	require.Equal(t, 1, d.AheadOf("No nuts"))
}

// A record's key is written with its kind, and only a kind that there is comes back.
func TestKeysAsText(t *testing.T) {
	k := kitchen.Key{Kind: kitchen.ComponentRecord, ID: "hake"}
	text, err := k.MarshalText()
	require.NoError(t, err)
	require.Equal(t, "component/hake", string(text))
	var back kitchen.Key
	require.NoError(t, back.UnmarshalText(text))
	require.Equal(t, k, back)
	for _, bad := range []string{"component", "spaceship/one", ""} {
		require.ErrorContains(t, back.UnmarshalText([]byte(bad)), "expected a kind and an id", bad)
	}
}
