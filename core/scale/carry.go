package scale

import (
	"math/big"
	"regexp"
	"strconv"
	"strings"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// An amount carried from one reduction to the next, temperatures, and a component's makings for so much of it.

var (
	byPercent = regexp.MustCompile(`^by (\d+(?:[.,]\d+)?) ?(?:%|percent)$`)
	byShare   = regexp.MustCompile(`^(?:by|to) (?:a |one |an )?(half|third|quarter|two[- ]thirds|three[- ]quarters)$`)
	toAmount  = regexp.MustCompile(`^to (\d+(?:[.,]\d+)?) ?([a-z ]+)$`)
	shares    = map[string]*big.Rat{"half": big.NewRat(1, 2), "third": big.NewRat(1, 3), "quarter": big.NewRat(1, 4),
		"two-thirds": big.NewRat(2, 3), "two thirds": big.NewRat(2, 3), "three-quarters": big.NewRat(3, 4), "three quarters": big.NewRat(3, 4)}
)

// Carry reduces an amount step by step, as a line says each: by half, by 80 %, to a third, to 500 ml; with commas between. It returns what
// is left after each. The error names the one that was not understood, or that would not leave less.
func Carry(amount *big.Rat, unit, steps string, gramsPerMl *big.Rat) ([]*big.Rat, error) {
	var out []*big.Rat
	left := amount
	for _, one := range strings.FieldsFunc(steps, func(c rune) bool { return c == ',' || c == ';' || c == '\n' }) {
		said := strings.Join(strings.Fields(strings.ToLower(one)), " ")
		if said == "" {
			continue
		}
		next := new(big.Rat)
		if m := byPercent.FindStringSubmatch(said); m != nil {
			next = Reduced(left, exactly(m[1]))
		} else if m := byShare.FindStringSubmatch(said); m != nil {
			next.Mul(left, shares[m[1]])
			if strings.HasPrefix(said, "by") {
				next.Sub(left, next)
			}
		} else if m := toAmount.FindStringSubmatch(said); m != nil {
			to, err := Convert(exactly(m[1]), m[2], unit, gramsPerMl)
			if err != nil {
				return nil, err
			}
			next = to
		} else {
			return nil, message.Fail("fault.carried", "got", strings.TrimSpace(one))
		}
		if next.Sign() < 0 || next.Cmp(left) >= 0 {
			return nil, message.Fail("fault.carried", "got", strings.TrimSpace(one))
		}
		left = next
		out = append(out, left)
	}
	if len(out) == 0 {
		return nil, message.Fail("fault.carried", "got", steps)
	}
	return out, nil
}

func exactly(s string) *big.Rat {
	r, ok := new(big.Rat).SetString(strings.Replace(s, ",", ".", 1))
	if !ok {
		return new(big.Rat)
	}
	return r
}

// warmth turns a temperature into another scale; ok is false where a unit is none of them.
func warmth(amount float64, from, to string) (out float64, ok bool, err error) {
	unit := func(s string) string { return strings.ToLower(strings.TrimPrefix(strings.TrimSpace(s), "°")) }
	a, b := unit(from), unit(to)
	if a != "c" && a != "f" && a != "gas" {
		return 0, false, nil
	}
	c := amount
	switch a {
	case "f":
		c = heat.FromF(amount)
	case "gas":
		known := false
		if c, known = heat.FromGas(amount); !known {
			return 0, true, message.Fail("fault.gas", "got", amount)
		}
	}
	switch b {
	case "c":
		return c, true, nil
	case "f":
		return heat.ToF(c), true, nil
	default:
		return 0, true, message.Fail("fault.degrees", "to", to)
	}
}

// For is what goes into so much of a component: each ingredient, and each component that it uses, in the units in which they stand. The
// error is about the unit, or that nobody said what one batch gives.
func For(b *kitchen.Book, c *kitchen.Component, amount float64, unit string) ([]message.Message, error) {
	own := string(c.Unit)
	given := Exact(amount)
	if kind, err := unitOf(unit); err != nil {
		return nil, err
	} else if c.Unit == kitchen.Pieces && kind.kind == "mass" { // so many grams of what is counted
		grams, err := Convert(given, unit, "g", nil)
		if err != nil {
			return nil, err
		}
		given, unit = new(big.Rat).Quo(grams, Exact(c.GramsPerUnit)), own
	}
	want, err := Convert(given, unit, own, Exact(c.DensityGPerMl))
	if err != nil {
		return nil, err
	}
	if c.BatchYield <= 0 {
		return nil, message.Fail("amount.no-yield", "what", c.Name)
	}
	factor := new(big.Rat).Quo(want, Exact(c.BatchYield))
	var out []message.Message
	for _, g := range c.Ingredients {
		out = append(out, message.Of("amount.part", "what", g.Name, "is", say(new(big.Rat).Mul(Exact(g.Amount), factor), g.Unit)))
	}
	for _, u := range c.Uses {
		if other, ok := b.Component(u.Component); ok {
			out = append(out, message.Of("amount.part", "what", other.Name, "is", say(new(big.Rat).Mul(Exact(u.Amount), factor),
				string(other.Unit))))
		}
	}
	return out, nil
}

// number is a value as a person writes it.
func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
