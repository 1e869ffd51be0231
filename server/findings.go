package server

import (
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/lookback"
)

// All that the record of some services says against what the book has.

// findings is all that the record says and does not say. Where the two parts of a time are told apart, the step as a whole is not said once
// more.
func findings(b *kitchen.Book, of []lookback.Night, now time.Time) []lookback.Evidence {
	written := writtenIn(b)
	ordered, days := orderedIn(b, of)
	parts := lookback.PortionTimes(of, written)
	steps := lookback.Learn(of, written)
	for i := range steps {
		f := &steps[i]
		f.Said = f.Said && !slices.ContainsFunc(parts, func(p lookback.Evidence) bool {
			return p.Said && f.Kind == "step" && p.Component == f.Component && p.Step == f.Step
		})
	}
	return slices.Concat(steps, parts, lookback.Equipment(of, written), lookback.Seasons(of, written, lookback.SeasonOf(now)),
		lookback.Shares(ordered), lookback.DayShares(ordered, days))
}

// writtenIn are the times of a book.
func writtenIn(b *kitchen.Book) lookback.Written {
	return func(component, step string, portions int) (low, likely, high float64, ok bool) {
		c, there := b.Component(component)
		if !there {
			return 0, 0, 0, false
		}
		k := c.StepIndex(step)
		if k < 0 {
			return 0, 0, 0, false
		}
		t := c.Steps[k].Time.For(portions)
		return float64(t.Low), float64(t.Likely), float64(t.High), true
	}
}

// orderedIn is what was ordered in some services, by what their menus let expect; what has no orders of its own says nothing.
func orderedIn(b *kitchen.Book, of []lookback.Night) (out [][]lookback.Ordered, days []time.Weekday) {
	for i := range of {
		svc, ok := b.Service(of[i].Service)
		if !ok {
			continue
		}
		counts, courses := map[string]int{}, map[kitchen.Course]int{}
		for _, t := range svc.Tables {
			for _, o := range t.Orders {
				if d, there := b.Dish(o.Dish); there {
					counts[o.Dish] += o.Count
					courses[d.Course] += o.Count
				}
			}
		}
		shares := map[kitchen.Course]float64{}
		for _, m := range svc.Menu {
			if d, there := b.Dish(m.Dish); there {
				shares[d.Course] += m.Share
			}
		}
		var list []lookback.Ordered
		for _, m := range svc.Menu {
			if d, there := b.Dish(m.Dish); there && courses[d.Course] > 0 && shares[d.Course] > m.Share {
				list = append(list, lookback.Ordered{Dish: m.Dish, What: d.Name, Share: m.Share / shares[d.Course], Count: counts[m.Dish],
					Of: courses[d.Course]})
			}
		}
		day, err := time.Parse(time.DateOnly, svc.Date)
		if err != nil {
			continue // a service has a date
		}
		out, days = append(out, list), append(days, day.Weekday())
	}
	return out, days
}
