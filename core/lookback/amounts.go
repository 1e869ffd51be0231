package lookback

import (
	"cmp"
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/stat/distuv"
)

// Amounts of an evening: what was ready of a dish, what was ordered of it, and what was thrown away; what a number of portions to have
// ready costs; and dishes that are ordered more on one day of the week than on the others.

// DishNight is a dish in one service.
type DishNight struct {
	Service string `json:"service"`
	Date    string `json:"date"`
	Ready   int    `json:"ready" doc:"Portions that were to be ready by the plan, the reserve with them"`
	Ordered int    `json:"ordered"`
	Short   int    `json:"short" doc:"By how many more were ordered than were to be ready"`
	Over    int    `json:"over" doc:"How many of those that were to be ready nobody ordered"`
	Thrown  int    `json:"thrown" doc:"Portions that somebody said were thrown away"`
}

// Amount is a dish over some services.
type Amount struct {
	Dish     string         `json:"dish"`
	What     string         `json:"what"`
	Course   string         `json:"course" enum:"first,second,main,dessert"`
	Nights   []DishNight    `json:"nights" nullable:"false" doc:"The last first"`
	Ready    int            `json:"ready" doc:"The sums over them"`
	Ordered  int            `json:"ordered"`
	Short    int            `json:"short"`
	Over     int            `json:"over"`
	Thrown   int            `json:"thrown"`
	Why      map[string]int `json:"why" doc:"Portions that were thrown away, by why"`
	Expected float64        `json:"expected" doc:"The share of the menu, of its course, 0 to 1"`
	Share    float64        `json:"share" doc:"What was ordered of it, 0 to 1"`
}

// Sum adds up the services of a dish.
func (a *Amount) Sum() {
	a.Ready, a.Ordered, a.Short, a.Over, a.Thrown = 0, 0, 0, 0, 0
	for i := range a.Nights {
		n := &a.Nights[i]
		n.Short, n.Over = max(0, n.Ordered-n.Ready), max(0, n.Ready-n.Ordered)
		a.Ready, a.Ordered, a.Short, a.Over, a.Thrown = a.Ready+n.Ready, a.Ordered+n.Ordered, a.Short+n.Short, a.Over+n.Over, a.Thrown+n.Thrown
	}
}

// ReserveCost is what it costs to have a number of portions of a dish ready where so many guests of a course come and each takes it with a
// chance: how many plates are missing, and how many are thrown away, in the mean (exact, binomial).
func ReserveCost(guests int, share float64, ready int) (short, over float64) {
	if guests <= 0 {
		return 0, float64(max(0, ready))
	}
	b := distuv.Binomial{N: float64(guests), P: math.Max(0, math.Min(1, share))}
	for k := range guests + 1 {
		p := 0.0
		switch {
		case b.P <= 0:
			if k == 0 {
				p = 1
			}
		case b.P >= 1:
			if k == guests {
				p = 1
			}
		default:
			p = b.Prob(float64(k))
		}
		short += p * float64(max(0, k-ready))
		over += p * float64(max(0, ready-k))
	}
	return short, over
}

// DayShares says which dishes are ordered more often, or less, on one day of the week than on the others; the surest first. Each day is
// tested against the others exactly (Fisher's exact test, from memory: The Design of Experiments, 1935), the estimate is drawn towards the
// share on the others, and of all so many are said that at most one in twenty is wrong. days are those of the services.
func DayShares(nights [][]Ordered, days []time.Weekday) []Evidence {
	type sum struct{ count, of, nights int }
	by, what := map[string]map[time.Weekday]*sum{}, map[string]string{}
	for i, list := range nights {
		for _, o := range list {
			if o.Of == 0 {
				continue
			}
			if by[o.Dish] == nil {
				by[o.Dish], what[o.Dish] = map[time.Weekday]*sum{}, o.What
			}
			if by[o.Dish][days[i]] == nil {
				by[o.Dish][days[i]] = &sum{}
			}
			s := by[o.Dish][days[i]]
			s.count, s.of, s.nights = s.count+o.Count, s.of+o.Of, s.nights+1
		}
	}
	out := []Evidence{}
	for _, dish := range sorted(by) {
		for day := time.Sunday; day <= time.Saturday; day++ {
			here := by[dish][day]
			if here == nil || here.nights < leastNights {
				continue
			}
			there := sum{}
			for other, s := range by[dish] {
				if other != day {
					there.count, there.of, there.nights = there.count+s.count, there.of+s.of, there.nights+s.nights
				}
			}
			if there.nights < leastNights || there.count == 0 || there.count == there.of {
				continue
			}
			p := float64(there.count) / float64(there.of)
			beta := distuv.Beta{Alpha: writtenPlates*p + float64(here.count), Beta: writtenPlates*(1-p) + float64(here.of-here.count)}
			out = append(out, Evidence{Kind: "share-day", Component: dish, What: what[dish], Day: (int(day)+6)%7 + 1, Factor: beta.Mean() / p,
				Share: beta.Mean(), Low: beta.Quantile(0.05) / p, High: beta.Quantile(0.95) / p, Seen: here.count, Nights: here.nights,
				P: fisher(here.count, here.of, there.count, there.of)})
		}
	}
	decide(out)
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}

// fisher is how likely two counts differ as much as these by chance, with the margins as they are: the sum of all tables that are no
// likelier.
func fisher(a, of, b, ofB int) float64 {
	choose := func(n, k int) float64 {
		x, _ := math.Lgamma(float64(n + 1))
		y, _ := math.Lgamma(float64(k + 1))
		z, _ := math.Lgamma(float64(n - k + 1))
		return x - y - z
	}
	all := a + b
	at := func(k int) float64 { return math.Exp(choose(of, k) + choose(ofB, all-k) - choose(of+ofB, all)) }
	is, sum := at(a), 0.0
	for k := max(0, all-ofB); k <= min(of, all); k++ {
		if p := at(k); p <= is*(1+1e-7) {
			sum += p
		}
	}
	return math.Min(1, sum)
}
