package scale

import (
	"cmp"
	"math/big"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// What a service draws of every component, and when: the first step to order that wants it, and the last.

// gate is how long before it is first wanted something is complete. Common practice, no source.
const gate = 30 * time.Minute

// spare is how far apart the wants may lie that one batch is for, where what it waits for across the cut has a longest; 0
// where nothing bounds it. Some of that is needed to have it ready before the first.
func spare(c *kitchen.Component) time.Duration {
	w := c.AcrossTheCut()
	if w.Longest == nil || w.NoLimit {
		return 0
	}
	longest := time.Duration(*w.Longest) * time.Second
	return max(longest-Before(c), time.Second)
}

// Before is how long before it is first wanted a batch of a component is complete: half an hour, or a quarter of what it may
// wait where that is less.
func Before(c *kitchen.Component) time.Duration {
	w := c.AcrossTheCut()
	if w.Longest == nil || w.NoLimit {
		return gate
	}
	return min(gate, time.Duration(*w.Longest)*time.Second/4)
}

// want is the portions of a component that one table-course takes, and when.
type want struct {
	at       time.Time
	portions int
	amount   *big.Rat
}

// ofService adds up a service's plates by component, dish and, where what was made ahead waits for only so long, by the part
// of the service that one batch can be for.
func (a *Amounts) ofService(b *kitchen.Book, s *kitchen.Service, zone *time.Location) []Draw {
	orders, problems := b.TableOrders(s)
	for _, p := range problems {
		a.Problems = append(a.Problems, message.Of("service.problem", "service", s.Name, "problem", p))
	}
	if len(s.Tables) == 0 {
		return nil
	}
	last := 0
	for _, t := range s.Tables {
		last = max(last, t.SeatedAt)
	}
	start, until := s.At(s.Starts(), zone), s.At(last, zone).Add(serviceLasts)
	reserve := new(big.Rat).Add(big.NewRat(1, 1), share(Exact(s.ReservePercent)))
	type key struct{ component, dish string }
	wants := map[key][]want{}
	var order []key
	for t := range s.Tables {
		at := s.At(s.Tables[t].SeatedAt, zone).Add(time.Duration(s.FirstAfterMin) * time.Minute)
		for _, course := range b.CoursesOf(s) {
			any := false
			for _, o := range orders[t] {
				d, _ := b.Dish(o.Dish)
				elements, err := d.Plate(o.Variant)
				if err != nil || d.Course != course {
					continue // a Book's services name variants that are there
				}
				any = true
				counted := map[string]bool{}
				for _, e := range elements {
					k := key{e.Component, d.ID}
					if wants[k] == nil {
						order = append(order, k)
					}
					c, _ := b.Component(e.Component)
					w := want{at: at.Add(-time.Duration(c.OrderSpan(o.Count)) * time.Second)}
					w.amount = new(big.Rat).Mul(Exact(e.Amount), big.NewRat(int64(o.Count), 1))
					w.amount.Mul(w.amount, reserve)
					if !counted[e.Component] {
						counted[e.Component] = true
						w.portions = o.Count
					}
					wants[k] = append(wants[k], w)
				}
			}
			if any {
				at = at.Add(time.Duration(s.CourseMin) * time.Minute)
			}
		}
	}
	var out []Draw
	for _, k := range order {
		c, _ := b.Component(k.component)
		list := wants[k]
		slices.SortStableFunc(list, func(x, y want) int { return x.at.Compare(y.at) })
		most := spare(c)
		across := time.Duration(c.AcrossTheCut().Shortest) * time.Second
		var first time.Time
		for i, w := range list {
			n := len(out) - 1
			if i == 0 || most > 0 && w.at.Sub(first) > most {
				first = w.at
				d := Draw{Component: k.component, Service: s.ID, By: k.dish, At: w.at.Add(-across), Until: until, Amount: new(big.Rat)}
				if told, ok := a.firstFire(s.ID, k.component); ok && i == 0 {
					d.At = told.Add(-across)
				}
				out = append(out, d)
				n++
			}
			out[n].Portions += w.portions
			out[n].Amount.Add(out[n].Amount, w.amount)
			out[n].Last = w.at
		}
	}
	for i := range out {
		c, _ := b.Component(out[i].Component)
		if most := spare(c); most == 0 || out[i].Last.Sub(start) <= most {
			out[i].At = earlier(out[i].At, start) // it is there when the service begins, where it keeps that long
		}
	}
	return out
}

func (a *Amounts) firstFire(service, component string) (time.Time, bool) {
	if a.fired == nil {
		return time.Time{}, false
	}
	return a.fired(service, component)
}

func earlier(a, b time.Time) time.Time {
	if b.Before(a) {
		return b
	}
	return a
}

// byTime orders draws by when they are wanted; what one dish and another want at once keeps its order.
func byTime(x, y Draw) int { return cmp.Or(x.At.Compare(y.At), x.Last.Compare(y.Last)) }
