package kitchen_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
)

// Drawn orders are a multinomial: over many guests each dish is taken by its share, within what chance allows (Pearson's χ² with two
// degrees of freedom, 99.9 %: 13.82, NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.4), and guests take by themselves.
func TestGuestsDrawTheirDishes(t *testing.T) {
	d := served(t)
	s := d.Services[0]
	s.Menu = []kitchen.MenuLine{{Dish: "hake-cider-butter", Share: 50}, {Dish: "guinea-fowl-barley", Share: 30},
		{Dish: "salt-baked-celeriac", Share: 20}}
	s.Tables = nil
	for i := range 100 {
		s.Tables = append(s.Tables, kitchen.ServiceTable{ID: fmt.Sprint("t", i), Name: "T", Covers: 2, SeatedAt: 1140})
	}
	d.Services[0] = s
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	rng := rand.New(rand.NewPCG(1, 2))
	count, alike := map[string]int{}, 0
	for range 4 {
		orders, off := b.DrawnOrders(&s, kitchen.Draw{Guest: func(string, kitchen.Course, int) float64 { return rng.Float64() }})
		require.Empty(t, off)
		for _, list := range orders {
			for _, o := range list {
				count[o.Dish] += o.Count
			}
			if len(list) == 1 {
				alike++
			}
		}
	}
	chi := 0.0
	for _, m := range s.Menu {
		expected := 800 * m.Share / 100
		chi += math.Pow(float64(count[m.Dish])-expected, 2) / expected
	}
	require.Less(t, chi, 13.82)
	require.InDelta(t, 0.38, float64(alike)/400, 0.08, "two guests take the same by chance alone: .5² + .3² + .2²")
}

// Whatever there is of each dish: nobody gets one of which nothing is left, everybody eats while anything is, who wanted what is gone is
// told, and what was ordered before stays and is counted.
func TestWhatIsGoneIsNotOrdered(t *testing.T) {
	d := served(t)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	mains := []string{"hake-cider-butter", "guinea-fowl-barley", "salt-baked-celeriac"}
	rapid.Check(t, func(r *rapid.T) {
		s := d.Services[0]
		s.Menu, s.Tables = []kitchen.MenuLine{{Dish: mains[0], Share: 50}, {Dish: mains[1], Share: 30}, {Dish: mains[2], Share: 20}}, nil
		guests, left := 0, map[string]int{}
		for _, dish := range mains {
			if rapid.Bool().Draw(r, "counted") {
				left[dish] = rapid.IntRange(1, 12).Draw(r, "left")
			}
		}
		for i := range rapid.IntRange(1, 8).Draw(r, "tables") {
			x := kitchen.ServiceTable{ID: string(rune('a' + i)), Name: "T", Covers: rapid.IntRange(1, 4).Draw(r, "covers"), SeatedAt: 1140 - 10*i}
			guests += x.Covers
			s.Tables = append(s.Tables, x)
		}
		s.Tables[0].Orders = []kitchen.TableOrder{{Dish: mains[0], Count: 1}}
		guests -= s.Tables[0].Covers - 1
		orders, off := b.DrawnOrders(&s, kitchen.Draw{Left: left, Guest: func(string, kitchen.Course, int) float64 {
			return rapid.Float64Range(0, 0.999999).Draw(r, "guest")
		}})
		require.Equal(r, s.Tables[0].Orders, orders[0])
		is, all := map[string]int{}, 0
		for _, list := range orders {
			for _, o := range list {
				is[o.Dish] += o.Count
				all += o.Count
			}
		}
		there, unlimited := 0, len(left) < len(mains)
		for dish, n := range left {
			require.LessOrEqual(r, is[dish], n, dish)
			there += n
		}
		if unlimited || there >= guests {
			require.Equal(r, guests, all, "everybody eats")
		} else {
			require.Equal(r, there, all, "all that there was")
		}
		for _, dish := range off {
			require.Equal(r, left[dish], is[dish], "to the last portion")
		}
	})
}
