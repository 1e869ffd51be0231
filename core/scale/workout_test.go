package scale_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/scale"
)

// Ratios and reductions as the trade has them (common practice, no source): 0.9 g of agar
// to 100 ml for a firm gel, wine reduced by 80 %. The units = those of NIST Handbook 44,
// Appendix C: a US cup is 236.588 2 ml, a pound 453.592 37 g.
func TestWorkOut(t *testing.T) {
	for want, q := range map[string]scale.Question{
		"2 l = 2000 ml.":                     {Kind: "convert", Amount: 2, Unit: "l", To: "ml"},
		"1 lb = 453.59 g.":                   {Kind: "convert", Amount: 1, Unit: "lb", To: "g"},
		"1 us cup = 236.59 ml.":              {Kind: "convert", Amount: 1, Unit: "us cup", To: "ml"},
		"100 ml = 92 g.":                     {Kind: "convert", Amount: 100, Unit: "ml", To: "g", GramsPerMl: 0.92},
		"For 2 l at 0.9 to a hundred: 18 g.": {Kind: "ratio", Amount: 2, Unit: "l", Percent: 0.9},
		"For a brine of 10 % from 4.5 kg of water: 500 g of salt.": {Kind: "brine", Amount: 4.5, Unit: "kg", Percent: 10},
		"5 l reduced by 80 % leave 1 l.":                           {Kind: "reduce", Amount: 5, Unit: "l", Percent: 80},
		"For 1 l after a reduction by 80 % begin with 5 l.":        {Kind: "begin-with", Amount: 1, Unit: "l", Percent: 80},
		"5 l down to 0.5 l is a reduction by 90 %.":                {Kind: "reduced-by", Amount: 5, Unit: "l", Left: 0.5},
	} {
		a, err := scale.WorkOut(q)
		require.NoError(t, err)
		require.Equal(t, want, a.Said.Text)
	}
	for field, q := range map[string]scale.Question{
		"unit":    {Kind: "convert", Amount: 1, Unit: "stone", To: "g"},
		"to":      {Kind: "convert", Amount: 1, Unit: "ml", To: "g"},
		"percent": {Kind: "begin-with", Amount: 1, Unit: "l", Percent: 100},
		"left":    {Kind: "reduced-by", Amount: 1, Unit: "l", Left: 2},
		"kind":    {Kind: "guess", Amount: 1, Unit: "l"},
	} {
		_, err := scale.WorkOut(q)
		require.ErrorContains(t, err, field+": ")
	}
}
