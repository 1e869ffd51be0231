package lookback

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"
)

// Amounts that learn: what is ordered of the menu, and how much to have in reserve.

// Ordered is how many plates of a course were of a dish, in one service.
type Ordered struct {
	Dish  string
	What  string  // its name
	Share float64 // as the menu had it, 0 to 1
	Count int
	Of    int // plates of its course
}

// writtenPlates is with how many plates a written share weighs. Common practice, no source.
const writtenPlates = 60

// Shares says which shares of the menu are not as written; the surest first. Whether there is anything to say is tested exactly (binomial),
// the estimate is drawn towards what is written (beta–binomial), and of all dishes so many are said that at most one in twenty is wrong.
// nights are what was ordered, by service.
func Shares(nights [][]Ordered) []Evidence {
	type sum struct {
		what      string
		count, of int
		expected  float64
		nights    int
	}
	by := map[string]*sum{}
	for _, list := range nights {
		for _, o := range list {
			if o.Of == 0 || o.Share <= 0 || o.Share >= 1 {
				continue
			}
			if by[o.Dish] == nil {
				by[o.Dish] = &sum{what: o.What}
			}
			s := by[o.Dish]
			s.count, s.of, s.expected, s.nights = s.count+o.Count, s.of+o.Of, s.expected+o.Share*float64(o.Of), s.nights+1
		}
	}
	out := []Evidence{}
	for _, dish := range sorted(by) {
		s := by[dish]
		if s.nights < leastNights {
			continue
		}
		p := s.expected / float64(s.of)
		beta := distuv.Beta{Alpha: writtenPlates*p + float64(s.count), Beta: writtenPlates*(1-p) + float64(s.of-s.count)}
		out = append(out, Evidence{Kind: "share", Component: dish, What: s.what, Factor: beta.Mean() / p, Low: beta.Quantile(0.05) / p,
			High: beta.Quantile(0.95) / p, Share: beta.Mean(), Seen: s.count, Nights: s.nights, P: exactly(s.count, s.of, p)})
	}
	decide(out)
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}

// exactly is how likely a count as far from what is expected as this is by chance, on both sides.
func exactly(count, of int, p float64) float64 {
	b := distuv.Binomial{N: float64(of), P: p}
	below := b.CDF(float64(count))
	above := 1 - b.CDF(float64(count-1))
	return math.Min(1, 2*math.Min(below, above))
}

// Reserve is how many portions of a dish to have, where so many guests of a course come and each takes it with a chance: as many that one
// more would cost more thrown away than it saves (newsvendor: Arrow, Harris & Marschak, Econometrica 19, 1951, from memory). short is what
// a plate that is missing costs, waste one that is thrown away, in the same money.
func Reserve(guests int, share, short, waste float64) int {
	if guests <= 0 || share <= 0 || short <= 0 {
		return 0
	}
	if share >= 1 {
		return guests
	}
	ratio := short / (short + waste)
	b := distuv.Binomial{N: float64(guests), P: share}
	for n := range guests {
		if b.CDF(float64(n)) >= ratio {
			return n
		}
	}
	return guests
}
