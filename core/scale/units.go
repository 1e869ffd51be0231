// Package scale reckons amounts: from covers, shares and reserve to portions, from
// portions to whole batches, from batches to ingredients before trim; with what is on
// hand used first and what is left over said. Sums are exact (rational numbers): what is
// rounded up to a whole batch is rounded once, at the end, and said.
package scale

import (
	"jointime/core/message"
	"math/big"
	"slices"
	"strconv"
	"strings"
)

// Exact makes an exact number of one that was written in decimals: 0.1 is a tenth.
func Exact(v float64) *big.Rat {
	r, ok := new(big.Rat).SetString(strconv.FormatFloat(v, 'g', -1, 64))
	if !ok {
		return new(big.Rat) // not a number: nothing
	}
	return r
}

// Float is the nearest floating-point number, for showing.
func Float(r *big.Rat) float64 { f, _ := r.Float64(); return f }

// unit is a multiple of a gram, of a millilitre, or a count.
type unit struct {
	kind string
	size string // exact
}

// units by the words for them. US customary units from their definitions (the gallon is
// 231 cubic inches, the avoirdupois pound 0.45359237 kg), as NIST Handbook 44 has them;
// spoons without a country are metric.
var units = map[string]unit{
	"mg": {"mass", "0.001"}, "g": {"mass", "1"}, "kg": {"mass", "1000"}, "oz": {"mass", "28.349523125"}, "lb": {"mass", "453.59237"},
	"ml": {"volume", "1"}, "cl": {"volume", "10"}, "dl": {"volume", "100"}, "l": {"volume", "1000"},
	"tsp": {"volume", "5"}, "tbsp": {"volume", "15"}, "spoon": {"volume", "15"},
	"us tsp": {"volume", "4.92892159375"}, "us tbsp": {"volume", "14.78676478125"}, "us fl oz": {"volume", "29.5735295625"},
	"us cup": {"volume", "236.5882365"}, "us pint": {"volume", "473.176473"}, "us quart": {"volume", "946.352946"},
	"us gallon": {"volume", "3785.411784"},
	// A cup and spoons without a country are metric; a leaf of gelatine and a pinch as kitchens take them: common practice, no source.
	"cup": {"volume", "250"}, "leaf": {"mass", "2"}, "pinch": {"mass", "0.4"},
	"piece": {"count", "1"}, "dozen": {"count", "12"},
}

var plurals = map[string]string{"pieces": "piece", "leaves": "leaf", "sheets": "leaf", "sheet": "leaf", "cups": "cup", "pinches": "pinch",
	"spoons": "spoon", "gram": "g", "grams": "g", "litre": "l", "litres": "l",
	"pound": "lb", "pounds": "lb",
	"ounce": "oz", "ounces": "oz", "us cups": "us cup", "us pints": "us pint", "us quarts": "us quart", "us gallons": "us gallon"}

// Units lists the units that are understood, in alphabetical order.
func Units() []string {
	var out []string
	for u := range units {
		out = append(out, u)
	}
	slices.Sort(out)
	return out
}

func unitOf(word string) (unit, error) {
	w := strings.ToLower(strings.TrimSpace(word))
	if p, ok := plurals[w]; ok {
		w = p
	}
	u, ok := units[w]
	if !ok {
		return u, message.Fail("fault.unit", "got", word)
	}
	return u, nil
}

// Convert turns an amount into another unit. gramsPerMl is needed between mass and
// volume, and may be nil otherwise. The error says which unit is not known, or why the
// two do not go together.
func Convert(amount *big.Rat, from, to string, gramsPerMl *big.Rat) (*big.Rat, error) {
	a, err := unitOf(from)
	if err != nil {
		return nil, err
	}
	b, err := unitOf(to)
	if err != nil {
		return nil, err
	}
	out := new(big.Rat).Mul(amount, size(a))
	if a.kind != b.kind {
		if gramsPerMl == nil || gramsPerMl.Sign() <= 0 || a.kind == "count" || b.kind == "count" {
			return nil, message.Fail("fault.density", "from", from, "to", to)
		}
		if a.kind == "volume" {
			out.Mul(out, gramsPerMl)
		} else {
			out.Quo(out, gramsPerMl)
		}
	}
	return out.Quo(out, size(b)), nil
}

func size(u unit) *big.Rat {
	r, _ := new(big.Rat).SetString(u.size) // the table above holds numbers
	return r
}

var hundred = big.NewRat(100, 1)

// share is percent/100.
func share(percent *big.Rat) *big.Rat { return new(big.Rat).Quo(percent, hundred) }

// PerHundred is how much of something goes with an amount at a ratio to a hundred of it:
// agar for a gel (0.9 g to 100 ml), salt for a brine or a cure.
func PerHundred(amount, ratio *big.Rat) *big.Rat {
	return new(big.Rat).Mul(amount, share(ratio))
}

// Brine is the salt to dissolve in an amount of water so that the brine, water and salt
// together, holds the given percent of salt, below 100.
func Brine(water, percent *big.Rat) (*big.Rat, error) {
	if percent.Sign() < 0 || percent.Cmp(hundred) >= 0 {
		return nil, message.Fail("fault.percent", "got", Float(percent))
	}
	p := share(percent)
	return new(big.Rat).Quo(new(big.Rat).Mul(water, p), new(big.Rat).Sub(big.NewRat(1, 1), p)), nil
}

// Reduced is what is left of an amount that is reduced by a percent, 0 to 100.
func Reduced(amount, percent *big.Rat) *big.Rat {
	return new(big.Rat).Sub(amount, PerHundred(amount, percent))
}

// ToReduce is how much to begin with so that a reduction by percent leaves the amount
// wanted. The error refuses 100 % and more: nothing would be left.
func ToReduce(wanted, percent *big.Rat) (*big.Rat, error) {
	if percent.Sign() < 0 || percent.Cmp(hundred) >= 0 {
		return nil, message.Fail("fault.percent", "got", Float(percent))
	}
	return new(big.Rat).Quo(wanted, share(new(big.Rat).Sub(hundred, percent))), nil
}

// ReductionTo is by how many percent an amount is reduced when so much is left.
func ReductionTo(amount, left *big.Rat) (*big.Rat, error) {
	if amount.Sign() <= 0 || left.Sign() < 0 || left.Cmp(amount) > 0 {
		return nil, message.Fail("fault.reduction")
	}
	out := new(big.Rat).Quo(new(big.Rat).Sub(amount, left), amount)
	return out.Mul(out, hundred), nil
}

// Whole rounds up to whole ones.
func Whole(r *big.Rat) int64 {
	q, m := new(big.Int).QuoRem(r.Num(), r.Denom(), new(big.Int))
	if m.Sign() > 0 {
		q.Add(q, big.NewInt(1))
	}
	return q.Int64()
}
