package lookback

import (
	"cmp"
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/stat/distuv"
)

// What the same steps take elsewhere, and at another time of the year: a piece of equipment beside the others, a season beside the rest.
// Only steps that are done on both sides say anything: a step that is always in one oven says nothing of the oven.

// rest is by how much a step took longer than written, as a logarithm, without what there was to watch, and what is whoever's did it.
type rest struct {
	night int
	y     float64
}

// own is what is left of every run of a step for itself.
func own(nights []Night, now Written) (steps map[stepKey]*seen, less func(night int, who string) float64) {
	steps = map[stepKey]*seen{}
	watching := Watching(nights, now)
	for i := range nights {
		for k := range nights[i].Steps {
			s := &nights[i].Steps[k]
			y, ok := s.ratio(now)
			if !ok {
				continue
			}
			key := stepKey{s.Component, s.Step}
			if steps[key] == nil {
				steps[key] = &seen{what: s, by: map[int][]ratio{}}
			}
			who := ""
			if len(s.People) > 0 {
				who = s.People[0]
			}
			steps[key].add(i, ratio{y: y - watching*s.over(), who: who, on: s.On, portions: s.Portions})
		}
	}
	people := peopleOf(len(nights), steps)
	return steps, func(night int, who string) float64 {
		if p := people[who]; p != nil && len(p.by[night]) > 0 {
			return p.by[night][0].y
		}
		return 0
	}
}

// Equipment says which pieces of equipment take longer, or less long, for the same steps than the others on which those are done; the
// surest first. Of each service the median over its steps counts.
func Equipment(nights []Night, now Written) []Evidence {
	steps, less := own(nights, now)
	names := map[string]bool{}
	for _, s := range steps {
		for _, list := range s.by {
			for _, r := range list {
				for _, on := range r.on {
					names[on] = true
				}
			}
		}
	}
	type found struct {
		medians []float64
		seen    *seen
	}
	all := map[string]found{}
	for _, name := range sorted(names) {
		by, x := map[int][]float64{}, &seen{}
		for _, key := range keysOf(steps) {
			s := steps[key]
			var here []rest
			var elsewhere []float64
			for night, list := range s.by {
				for _, r := range list {
					y := r.y - less(night, r.who)
					switch {
					case slices.Contains(r.on, name):
						here = append(here, rest{night, y})
					case len(r.on) > 0:
						elsewhere = append(elsewhere, y)
					}
				}
			}
			if len(here) < leastNights || len(elsewhere) < leastNights {
				continue
			}
			other := median(elsewhere)
			x.count += len(here)
			x.what = s.what
			for _, r := range here {
				by[r.night] = append(by[r.night], r.y-other)
			}
		}
		var medians []float64
		for _, list := range by {
			medians = append(medians, median(list))
		}
		slices.Sort(medians)
		all[name] = found{medians, x}
	}
	var spreads [][]float64
	for _, name := range sorted(all) {
		spreads = append(spreads, all[name].medians)
	}
	out := []Evidence{}
	for _, name := range sorted(all) {
		if f, ok := all[name].seen.evidence(all[name].medians, usual(spreads)); ok {
			f.Kind, f.What = "equipment", name
			out = append(out, f)
		}
	}
	decideAt(out, equipmentRate)
	for i := range out { // of two that stand against each other the slower one is said
		out[i].Said = out[i].Said && out[i].Factor > 1
	}
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}

// equipmentRate is how many of the findings about equipment may be wrong: fewer than else, since a piece is slow for an evening now and
// then, and what is found is not a time that is written but something to be looked at.
const equipmentRate = 0.01

func keysOf(steps map[stepKey]*seen) []stepKey {
	keys := make([]stepKey, 0, len(steps))
	for k := range steps {
		keys = append(keys, k)
	}
	slices.SortFunc(keys, func(a, b stepKey) int {
		return cmp.Or(cmp.Compare(a.component, b.component), cmp.Compare(a.step, b.step))
	})
	return keys
}

// Season is a quarter of the year.
type Season string

// The seasons, as meteorologists have them in the north: winter is December to February. In the south they are the other way round, and are
// told by their months.
const (
	Winter Season = "winter"
	Spring Season = "spring"
	Summer Season = "summer"
	Autumn Season = "autumn"
)

// SeasonOf is that of a day.
func SeasonOf(day time.Time) Season {
	return []Season{Winter, Spring, Summer, Autumn}[int(day.Month())%12/3]
}

// Seasons says which steps take longer, or less long, in a season than in the rest of the year; the surest first. The difference of the
// means of services is tested by Student's t with the spread of both; it is drawn towards none.
func Seasons(nights []Night, now Written, season Season) []Evidence {
	in := make([]bool, len(nights))
	for i := range nights {
		day, err := time.Parse(time.DateOnly, nights[i].Date)
		in[i] = err == nil && SeasonOf(day) == season
	}
	steps, less := own(nights, now)
	var spreads [][]float64
	keys := keysOf(steps)
	type halves struct{ here, there []float64 }
	all := make([]halves, len(keys))
	for k, key := range keys {
		for night, list := range steps[key].by {
			var ys []float64
			for _, r := range list {
				ys = append(ys, r.y-less(night, r.who))
			}
			if in[night] {
				all[k].here = append(all[k].here, median(ys))
			} else {
				all[k].there = append(all[k].there, median(ys))
			}
		}
		slices.Sort(all[k].here)
		slices.Sort(all[k].there)
		spreads = append(spreads, all[k].here, all[k].there)
	}
	spread := usual(spreads)
	out := []Evidence{}
	for k, key := range keys {
		h := &all[k]
		if len(h.here) < leastNights || len(h.there) < leastNights {
			continue
		}
		s := steps[key]
		m1, ss1 := spreadOf(h.here)
		m2, ss2 := spreadOf(h.there)
		n1, n2 := float64(len(h.here)), float64(len(h.there))
		df := n1 + n2 - 2 + spreadWeight
		variance := (ss1 + ss2 + spreadWeight*spread*spread) / df
		se2 := variance * (1/n1 + 1/n2)
		prior := writtenSD * writtenSD
		student := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}
		mean, sd := (m1-m2)*prior/(prior+se2), math.Sqrt(prior*se2/(prior+se2))
		q := student.Quantile(0.95)
		out = append(out, Evidence{Kind: "season", Component: key.component, Step: key.step, What: s.what.What, Act: s.what.Act,
			Section: s.what.Section, Season: season, Factor: math.Exp(mean), Low: math.Exp(mean - q*sd), High: math.Exp(mean + q*sd), Seen: s.count,
			Nights: len(h.here),
			P:      2 * student.CDF(-math.Abs((m1-m2)/math.Sqrt(se2)))})
	}
	decide(out)
	slices.SortStableFunc(out, func(a, b Evidence) int { return cmp.Compare(a.P, b.P) })
	return out
}
