package scale

import (
	"math/big"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/demo"
)

// An amount is carried from one reduction to the next, exactly; what would leave as much or more, or is none, is refused by its words.
func TestReductionsCarried(t *testing.T) {
	two := big.NewRat(2000, 1)
	left, err := Carry(two, "ml", "by half, by 80 %, to a third", nil)
	require.NoError(t, err)
	require.Equal(t, []string{"1000", "200", "66.67"}, []string{trim(left[0]), trim(left[1]), trim(left[2])})
	left, err = Carry(two, "ml", "to 0.5 l; by two thirds", nil)
	require.NoError(t, err)
	require.Equal(t, "500", trim(left[0]))
	require.Equal(t, 0, left[1].Cmp(big.NewRat(500, 3)))
	left, err = Carry(two, "g", "to 550 ml", big.NewRat(11, 10))
	require.NoError(t, err)
	require.Equal(t, "605", trim(left[0]))
	for _, bad := range []string{"", "to 2 l", "to 3 l", "by 0 %", "by a bit", "by half, to 1 l", "to 5 stone", "to 500 g"} {
		_, err := Carry(two, "ml", bad, nil)
		require.Error(t, err, bad)
	}
	a, err := WorkOut(Question{Kind: AskCarry, Amount: 2, Unit: "l", Steps: "by half, by half"})
	require.NoError(t, err)
	require.Equal(t, "2 l → 1 l → 0.5 l.", a.Said.Text)
}

// °F and °C by definition; gas marks, leaves of gelatine, cups and pinches as kitchens have them (common practice, no source).
func TestDegreesLeavesCupsAndPinches(t *testing.T) {
	for _, x := range []struct {
		amount   float64
		from, to string
		want     float64
	}{{350, "°F", "°C", 176.7}, {100, "°C", "°F", 212}, {-40, "°F", "°C", -40}, {4, "gas", "°C", 180}, {6, "leaves", "g", 12},
		{10, "g", "leaf", 5}, {2, "cups", "ml", 500}, {5, "pinches", "g", 2}} {
		a, err := WorkOut(Question{Kind: AskConvert, Amount: x.amount, Unit: x.from, To: x.to})
		require.NoError(t, err, x.from)
		require.InDelta(t, x.want, a.Amount, 0.05, x.from)
	}
	for _, x := range [][2]string{{"°F", "g"}, {"°C", "gas"}} {
		_, err := WorkOut(Question{Kind: AskConvert, Amount: 350, Unit: x[0], To: x[1]})
		require.ErrorContains(t, err, "to")
	}
	_, err := WorkOut(Question{Kind: AskConvert, Amount: 12, Unit: "gas", To: "°C"})
	require.ErrorContains(t, err, "no gas mark 12")
}

// For twice a batch everything is twice as much; for a weight of what is counted, by its weight.
func TestMakingsForSoMuch(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	c, _ := b.Component("guinea-fowl-breast")
	got, err := For(b, c, 24, "piece")
	require.NoError(t, err)
	require.Equal(t, "Guinea fowl: 12 piece", got[0].Text)
	require.Equal(t, "Butter: 300 g", got[1].Text)
	kilos, err := For(b, c, 3.6, "kg") // 24 of 150 g
	require.NoError(t, err)
	require.Equal(t, got, kilos)
	_, err = For(b, c, 1, "stone")
	require.Error(t, err)
	none := *c
	none.BatchYield = 0
	_, err = For(b, &none, 1, "piece")
	require.ErrorContains(t, err, "how much one batch gives is not said")
}
