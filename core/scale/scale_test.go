package scale_test

import (
	"fmt"
	"math/big"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/scale"
)

func r(v float64) *big.Rat { return scale.Exact(v) }

// NIST Handbook 44, appendix C (units to the figures on the tables; from memory): US cup
// 236.588 ml, tablespoon 14.787 ml, teaspoon 4.929 ml, fluid ounce 29.574 ml, pound
// 453.592 g, ounce 28.3495 g. Metric spoons 15 and 5 ml.
func TestConversionsAgainstHandbook44(t *testing.T) {
	for _, x := range []struct {
		from, to string
		want     float64
		within   float64
	}{{"us cup", "ml", 236.588, 5e-4}, {"us tbsp", "ml", 14.787, 5e-4}, {"us tsp", "ml", 4.929, 5e-4}, {"us fl oz", "ml", 29.574, 5e-4},
		{"lb", "g", 453.592, 5e-4}, {"oz", "g", 28.3495, 5e-5}, {"tbsp", "ml", 15, 0}, {"tsp", "ml", 5, 0}, {"l", "ml", 1000, 0},
		{"kg", "g", 1000, 0}, {"dozen", "pieces", 12, 0}} {
		got, err := scale.Convert(r(1), x.from, x.to, nil)
		require.NoError(t, err)
		require.InDelta(t, x.want, scale.Float(got), x.within+1e-12, x.from)
	}
	// Sixteen ounces are a pound, sixteen tablespoons a cup, to the last digit.
	for _, x := range []struct {
		n        float64
		from, to string
	}{{16, "oz", "lb"}, {16, "us tbsp", "us cup"}, {3, "us tsp", "us tbsp"}, {8, "us fl oz", "us cup"}, {4, "us quart", "us gallon"}} {
		got, err := scale.Convert(r(x.n), x.from, x.to, nil)
		require.NoError(t, err)
		require.Equal(t, "1", got.RatString(), x.from)
	}
	got, err := scale.Convert(r(250), "ml", "g", r(1.2))
	require.NoError(t, err)
	require.Equal(t, "300", got.RatString())
	for _, x := range [][2]string{{"ml", "g"}, {"piece", "g"}, {"bucket", "g"}, {"g", "bucket"}} {
		_, err := scale.Convert(r(1), x[0], x[1], nil)
		require.Error(t, err)
	}
	_, err = scale.Convert(r(1), "ml", "g", r(0))
	require.Error(t, err, "a density of nothing")
}

func TestConversionsThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := scale.Units()
		a, b := rapid.SampledFrom(u).Draw(t, "a"), rapid.SampledFrom(u).Draw(t, "b")
		v := big.NewRat(rapid.Int64Range(0, 1e6).Draw(t, "n"), rapid.Int64Range(1, 1000).Draw(t, "d"))
		there, err := scale.Convert(v, a, b, r(1.05))
		if err != nil {
			return // a count and a mass
		}
		back, err := scale.Convert(there, b, a, r(1.05))
		require.NoError(t, err)
		require.Zero(t, back.Cmp(v))
	})
}

// Common practice, no source: 0.9 g agar to 100 ml, boiling brine 10 g to a litre, wine
// reduced by 80 %, sauce by half.
func TestRatiosAndReductions(t *testing.T) {
	require.Equal(t, "4.5", scale.PerHundred(r(500), r(0.9)).FloatString(1))
	require.Equal(t, "10", scale.PerHundred(r(1000), r(1)).RatString())
	require.Equal(t, "150", scale.Reduced(r(750), r(80)).RatString())
	before, err := scale.ToReduce(r(150), r(80))
	require.NoError(t, err)
	require.Equal(t, "750", before.RatString())
	percent, err := scale.ReductionTo(r(750), r(150))
	require.NoError(t, err)
	require.Equal(t, "80", percent.RatString())
	// A brine of 20 %: 250 g salt in 1000 g water are a fifth of 1250 g.
	salt, err := scale.Brine(r(1000), r(20))
	require.NoError(t, err)
	require.Equal(t, "250", salt.RatString())
	_, err = scale.Brine(r(1000), r(100))
	require.Error(t, err)
	_, err = scale.ToReduce(r(1), r(100))
	require.Error(t, err)
	_, err = scale.ReductionTo(r(1), r(2))
	require.Error(t, err)
	require.Equal(t, int64(3), scale.Whole(big.NewRat(7, 3)))
	require.Equal(t, int64(2), scale.Whole(r(2)))
	require.Equal(t, "1/10", r(0.1).RatString(), "a tenth is a tenth")
}

// EN 631-1, from memory: the sizes divide the 1/1 of 530 × 325 mm.
func TestGastronormSizes(t *testing.T) {
	want := map[string][2]int{"2/1": {650, 530}, "1/1": {530, 325}, "2/3": {354, 325}, "1/2": {325, 265}, "1/3": {325, 176},
		"1/4": {265, 162}, "1/6": {176, 162}, "1/9": {176, 108}}
	for _, g := range scale.Gastronorms() {
		require.Equal(t, want[g.Name], [2]int{g.Length, g.WidthMm}, g.Name)
	}
	require.Len(t, scale.Gastronorms(), len(want))
	require.Equal(t, "GN 1/9, 65 deep", scale.Container(500))
	require.Equal(t, "2 × GN 1/1, 200 deep", scale.Container(40_000))
}

const day = "2026-05-14"

// small is a book of one dish with the given components, each 10 g of it on a plate.
func small(t require.TestingT, stock []kitchen.Stock, covers int, services []string, cs ...kitchen.Component) *kitchen.Book {
	d := kitchen.Starter("K", "Europe/Copenhagen", kitchen.CodeUKEU)
	dish := kitchen.Dish{ID: "dish", Name: "Dish", Course: kitchen.Main, State: kitchen.CurrentDish,
		Specification: kitchen.Specification{Vessel: "plate-270", VesselTemp: "hot"}}
	for i, c := range cs {
		if c.Section == "" {
			c.Section, c.Unit, c.GramsPerUnit, c.DensityGPerMl = "stove", kitchen.Grams, 1, 1
		}
		if len(c.Steps) == 0 {
			c.Steps = []kitchen.Step{{ID: "make", Name: "Make", Phase: kitchen.Ahead, Hands: kitchen.Both,
				Time: kitchen.StepTime{Fixed: kitchen.Exactly(600)}}}
		}
		d.Components = append(d.Components, c)
		if i == 0 {
			dish.Specification.Elements = append(dish.Specification.Elements, kitchen.Element{Component: c.ID, Amount: 10,
				Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Seconds: 5, Hands: 1})
		}
	}
	d.Dishes = []kitchen.Dish{dish}
	for i, date := range services {
		d.Services = append(d.Services, kitchen.Service{ID: fmt.Sprint("s", i), Name: fmt.Sprint("S", i), Date: date, Kind: kitchen.ALaCarte,
			Pacing: kitchen.Timed, CourseMin: 20,
			Menu:   []kitchen.MenuLine{{Dish: "dish", Share: 100}},
			Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: covers, SeatedAt: 19 * 60}}})
	}
	d.Stock = stock
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	return b
}

func noSpan(*kitchen.Component) time.Duration { return time.Hour }

func reckon(b *kitchen.Book) *scale.Amounts { return scale.Reckon(b, b.Services(), noSpan, nil, nil) }

// Worked by hand: 25 covers of 10 g are 250 g; a batch gives 100 g: three batches, 50 g
// left over. With 8 % reserve 270 g: three batches, 30 g left.
func TestBatchesAreRoundedUpAndWhatIsLeftIsSaid(t *testing.T) {
	c := kitchen.Component{ID: "c", Name: "C", BatchYield: 100, ShelfLifeH: 24}
	b := small(t, nil, 25, []string{day}, c)
	a := reckon(b)
	require.Len(t, a.Batches, 3)
	require.Equal(t, "50", a.Batches[2].Left.RatString())
	require.Equal(t, []int{10, 10, 5}, []int{a.Batches[0].Portions, a.Batches[1].Portions, a.Batches[2].Portions})
	s := b.Services()
	s[0].ReservePercent = 8
	a = scale.Reckon(b, s, noSpan, nil, nil)
	require.Equal(t, "30", a.Batches[2].Left.RatString())
}

// One product for two services while it keeps; a new batch when it does not.
func TestOneBatchForSeveralServices(t *testing.T) {
	c := kitchen.Component{ID: "c", Name: "C", BatchYield: 1000, ShelfLifeH: 48}
	a := reckon(small(t, nil, 20, []string{day, "2026-05-15"}, c))
	require.Len(t, a.Batches, 1)
	require.Equal(t, "600", a.Batches[0].Left.RatString())
	require.Equal(t, 40, a.Batches[0].Portions)
	// Needed at 19:00 and drawn from until 21:00 of the next day: 26 h.
	c.ShelfLifeH = 26
	require.Len(t, reckon(small(t, nil, 20, []string{day, "2026-05-15"}, c)).Batches, 1)
	c.ShelfLifeH = 25
	require.Len(t, reckon(small(t, nil, 20, []string{day, "2026-05-15"}, c)).Batches, 2)
}

// What is on hand is used first, the one with the nearest use-by before the others, and
// never after it.
func TestStockIsUsedByItsUseBy(t *testing.T) {
	at := func(d, h int) time.Time { return time.Date(2026, 5, d, h, 0, 0, 0, time.UTC) }
	stock := []kitchen.Stock{{ID: "late", Component: "c", Amount: 100, UseBy: at(20, 0)},
		{ID: "soon", Component: "c", Amount: 60, UseBy: at(14, 22)}, {ID: "gone", Component: "c", Amount: 500, UseBy: at(14, 12)}}
	a := reckon(small(t, stock, 10, []string{day, "2026-05-15"}, kitchen.Component{ID: "c", Name: "C", BatchYield: 100, ShelfLifeH: 24}))
	require.Equal(t, []string{"gone", "soon", "late"}, []string{a.Stock[0].Stock.ID, a.Stock[1].Stock.ID, a.Stock[2].Stock.ID})
	require.True(t, a.Stock[0].Wasted)
	require.Equal(t, "0", a.Stock[1].Left.RatString())
	require.Equal(t, "0", a.Stock[2].Left.RatString())
	require.Len(t, a.Batches, 1, "100 + 100 wanted, 160 there")
	require.Equal(t, "60", a.Batches[0].Left.RatString())
}

// A component that goes into another is reckoned from its batches; ingredients before
// trim, by-products credited.
func TestWhatGoesIntoWhat(t *testing.T) {
	stockC := kitchen.Component{ID: "stock", Name: "Stock", BatchYield: 1000, ShelfLifeH: 72,
		Ingredients: []kitchen.Ingredient{{Name: "Bones", Amount: 1500, Unit: "g", TrimPercent: 10}}}
	sauce := kitchen.Component{ID: "sauce", Name: "Sauce", BatchYield: 100, ShelfLifeH: 24,
		Uses: []kitchen.Use{{Component: "stock", Amount: 400}}, ByProducts: []kitchen.ByProduct{{Component: "stock", Grams: 25}}}
	a := reckon(small(t, nil, 25, []string{day}, sauce, stockC))
	require.Len(t, a.Batches, 5, "three of sauce take 1200 ml: two of stock")
	require.Equal(t, "800", a.Batches[4].Left.RatString())
	require.Equal(t, "Bones", a.Ingredients[0].Name)
	require.Equal(t, "3000", a.Ingredients[0].Amount.RatString())
	require.Equal(t, "300", a.Ingredients[0].Trim.RatString())
	require.Equal(t, "75", a.Credits[0].Grams.RatString())
	// Finished batches count with what they really gave.
	b := small(t, nil, 25, []string{day}, sauce, stockC)
	a = scale.Reckon(b, b.Services(), noSpan, map[string]float64{"sauce/s0/1": 70}, nil)
	require.Equal(t, "20", a.Batches[2].Left.RatString())
	a = scale.Reckon(b, b.Services(), noSpan, map[string]float64{"sauce/s0/1": 20}, nil)
	require.Equal(t, "70", a.Batches[3].Left.RatString(), "a fourth batch is wanted")
}

func TestBatchWithoutAYieldIsSaid(t *testing.T) {
	a := reckon(small(t, nil, 5, []string{day}, kitchen.Component{ID: "c", Name: "Nameless sauce"}))
	require.Contains(t, strings.Join(message.Texts(a.Problems), " "), "Nameless sauce: how much one batch gives is not said")
}

func TestASlipOfThePenIsSaidAndEnds(t *testing.T) {
	c := kitchen.Component{ID: "c", Name: "C", BatchYield: 0.01, ShelfLifeH: 24}
	a := reckon(small(t, nil, 900, []string{day}, c))
	require.Len(t, a.Batches, 200)
	require.Contains(t, a.Problems[0].Text, "C: more than 200 batches would be needed")
}

// Mass balance: what is drawn and what is left over is what was on hand and what was
// made, for every component; every draw is served whole.
func TestMassIsConserved(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "components")
		var cs []kitchen.Component
		var stock []kitchen.Stock
		for i := range n {
			c := kitchen.Component{ID: fmt.Sprint("c", i), Name: fmt.Sprint("C", i),
				BatchYield: float64(rapid.IntRange(500, 4000).Draw(t, "yield")) / 10, ShelfLifeH: float64(rapid.IntRange(0, 100).Draw(t, "shelf"))}
			for k := i + 1; k < n; k++ {
				if rapid.Bool().Draw(t, "uses") {
					c.Uses = append(c.Uses, kitchen.Use{Component: fmt.Sprint("c", k), Amount: float64(rapid.IntRange(1, 600).Draw(t,
						"amount")) / 10})
				}
			}
			cs = append(cs, c)
			if rapid.Bool().Draw(t, "stock") {
				stock = append(stock, kitchen.Stock{ID: fmt.Sprint("k", i), Component: c.ID,
					Amount: float64(rapid.IntRange(1, 3000).Draw(t, "on hand")) / 10,
					UseBy:  time.Date(2026, 5, rapid.IntRange(13, 18).Draw(t, "day"), 12, 0, 0, 0, time.UTC)})
			}
		}
		a := reckon(small(t, stock, rapid.IntRange(1, 12).Draw(t, "covers"), []string{day, "2026-05-15",
			"2026-05-16"}[:rapid.IntRange(1, 3).Draw(t, "services")], cs...))
		in, out := map[string]*big.Rat{}, map[string]*big.Rat{}
		add := func(m map[string]*big.Rat, id string, v *big.Rat) {
			if m[id] == nil {
				m[id] = new(big.Rat)
			}
			m[id].Add(m[id], v)
		}
		served := make([]*big.Rat, len(a.Draws))
		for i := range served {
			served[i] = new(big.Rat)
		}
		for _, x := range a.Batches {
			add(in, x.Component, x.Yield)
			add(out, x.Component, x.Left)
			require.GreaterOrEqual(t, x.Left.Sign(), 0)
			for _, p := range x.For {
				served[p.Draw].Add(served[p.Draw], p.Amount)
				require.False(t, a.Draws[p.Draw].At.Before(x.NeedBy))
			}
		}
		for _, s := range a.Stock {
			add(in, s.Stock.Component, scale.Exact(s.Stock.Amount))
			add(out, s.Stock.Component, s.Left)
			for _, p := range s.For {
				served[p.Draw].Add(served[p.Draw], p.Amount)
				require.False(t, s.Stock.UseBy.Before(a.Draws[p.Draw].Until))
			}
		}
		require.Empty(t, a.Problems)
		for i, d := range a.Draws {
			require.Zero(t, served[i].Cmp(d.Amount), "every draw is served whole")
			add(out, d.Component, d.Amount)
		}
		for id, v := range in {
			require.Zero(t, v.Cmp(out[id]), id)
		}
	})
}

// A batch in grams: 1000 g of roots, a fifth trimmed, 100 g of butter; 700 g come out and
// 60 g are kept for another; the rest is lost.
func TestBalanceOfABatch(t *testing.T) {
	c := kitchen.Component{ID: "c", Name: "C", BatchYield: 700,
		Ingredients: []kitchen.Ingredient{{Name: "Roots", Amount: 1, Unit: "kg", TrimPercent: 20}, {Name: "Butter", Amount: 100, Unit: "g"}},
		ByProducts:  []kitchen.ByProduct{{Component: "d", Grams: 60}}}
	b := small(t, nil, 1, []string{day}, c, kitchen.Component{ID: "d", Name: "D", BatchYield: 1})
	x, _ := b.Component("c")
	m := scale.BalanceOf(b, x)
	require.True(t, m.Whole)
	require.Equal(t, []string{"1100", "200", "700", "60", "140"}, []string{m.In.RatString(), m.Trim.RatString(), m.Out.RatString(),
		m.Leavings.RatString(), m.Loss.RatString()})
}
