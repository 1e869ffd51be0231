package kitchen

import (
	"cmp"
	"slices"
	"strings"

	"jointime/core/message"
)

// TableOrders is what every table of a service eats, in the order of the tables: what
// was ordered where that is known, else what the menu's shares let expect. Guests with
// needs get a variant, or another dish of the course, that suits them. problems says for
// whom nothing suits.
//
// The shares are spread over the guests in the order of the tables by error diffusion: at
// every guest each dish is as close to its share as whole plates allow.
func (b *Book) TableOrders(s *Service) (orders [][]TableOrder, problems []message.Message) {
	orders = make([][]TableOrder, len(s.Tables))
	for _, course := range b.CoursesOf(s) {
		var lines []MenuLine
		for _, m := range s.Menu {
			if b.dishes[m.Dish].Course == course {
				lines = append(lines, m)
			}
		}
		// The last is owed to nobody: what the shares leave of a hundred takes no such course.
		owed := make([]float64, len(lines)+1)
		rest := 100.0
		for _, m := range lines {
			rest -= m.Share
		}
		for i := range s.Tables {
			t := &s.Tables[i]
			// What a table has ordered changes nothing of what others are expected to: theirs goes by what was booked.
			wishes, ordered := t.wishes(), b.platesOf(t, course)
			for g := range cmp.Or(t.Booked, t.Covers) {
				best := len(lines)
				owed[best] += max(0, rest) / 100
				for k, m := range lines {
					if owed[k] += m.Share / 100; owed[k] > owed[best]+1e-9 || best == len(lines) && owed[k] > owed[best]-1e-9 {
						best = k
					}
				}
				if best == len(lines) {
					owed[best]--
					continue
				}
				order, at := b.suited(lines, best, wishes[g])
				if at < 0 {
					if len(t.Orders) > 0 && ordered >= t.Covers {
						owed[best]--
						continue // they have ordered
					}
					for _, x := range b.Undefined(wishes[g].Needs()) {
						problems = addOnce(problems, message.Of("diet.not-defined", "diet", string(x)))
					}
					problems = append(problems, message.Of("orders.nothing-suits", "table", t.Name, "course", course, "without",
						wishes[g].Needs().Words()))
					owed[best]--
					continue
				}
				if order.Needs().Any() && len(t.Orders) == 0 {
					d := b.dishes[order.Dish]
					if plate, err := d.Plate(order.Variant); err == nil {
						if unknown := b.UnknownRecipes(plate); len(unknown) > 0 {
							problems = addOnce(problems, message.Of("orders.not-known", "table", t.Name, "dish", d.Name,
								"without", order.Needs().Words(), "unknown", unknown))
						}
					}
				}
				owed[at]--
				orders[i] = addOrder(orders[i], order)
			}
		}
	}
	for i, t := range s.Tables {
		if len(t.Orders) > 0 {
			orders[i] = t.Orders
			problems = append(problems, b.orderedAgainst(&t)...)
		}
	}
	return orders, append(problems, b.unknownWishes(s)...)
}

// KnowsWish reports whether some step of what is on a plate has each of a guest's wishes, in large letters or small; nothing
// is always known.
func (b *Book) KnowsWish(plate []Element, wish string) bool {
	for _, w := range Wishes(wish) {
		if !slices.ContainsFunc(plate, func(e Element) bool {
			c := b.components[e.Component]
			return c != nil && slices.ContainsFunc(c.Steps, func(s Step) bool {
				return slices.ContainsFunc(s.Doneness, func(d Doneness) bool { return strings.EqualFold(d.Name, w) })
			})
		}) {
			return false
		}
	}
	return true
}

// unknownWishes says which wishes of a service's guests nothing that they may eat knows: they are cooked as written.
func (b *Book) unknownWishes(s *Service) (problems []message.Message) {
	known := func(dish, wish string) bool {
		d := b.dishes[dish]
		return d != nil && b.KnowsWish(d.Specification.Elements, wish)
	}
	for _, t := range s.Tables {
		for _, n := range t.Needs {
			if !slices.ContainsFunc(s.Menu, func(m MenuLine) bool { return known(m.Dish, n.Doneness) }) && n.Doneness != "" {
				problems = addOnce(problems, message.Of("orders.no-wish", "table", t.Name, "wish", n.Doneness))
			}
		}
		for _, o := range t.Orders {
			if !known(o.Dish, o.Doneness) {
				problems = addOnce(problems, message.Of("orders.no-wish", "table", t.Name, "wish", o.Doneness))
			}
		}
	}
	return problems
}

// wishes lists the need of every guest; those without one come last.
func (t *ServiceTable) wishes() []GuestNeed {
	out := make([]GuestNeed, 0, t.Covers)
	for _, n := range t.Needs {
		for range n.Guests {
			out = append(out, n)
		}
	}
	for len(out) < max(t.Covers, t.Booked) {
		out = append(out, GuestNeed{})
	}
	return out
}

// platesOf is how many plates of a course a table has ordered.
func (b *Book) platesOf(t *ServiceTable, course Course) (n int) {
	for _, o := range t.Orders {
		if d := b.dishes[o.Dish]; d != nil && d.Course == course {
			n += o.Count
		}
	}
	return n
}

// suited finds the plate for a guest: the dish meant, or the next of the course, as
// written or as a variant. at is −1 when there is none.
func (b *Book) suited(lines []MenuLine, meant int, n GuestNeed) (o TableOrder, at int) {
	for k := range lines {
		i := (meant + k) % len(lines)
		d := b.dishes[lines[i].Dish]
		if v, ok := b.VariantFor(d, n.Needs()); ok {
			return TableOrder{Dish: d.ID, Count: 1, Variant: v, Doneness: n.Doneness, Without: n.Without, Diets: n.Diets}, i
		}
	}
	return o, -1
}

func addOnce(list []message.Message, m message.Message) []message.Message {
	if slices.ContainsFunc(list, func(x message.Message) bool { return x.Text == m.Text }) {
		return list
	}
	return append(list, m)
}

func addOrder(list []TableOrder, o TableOrder) []TableOrder {
	for i, x := range list {
		if x.Dish == o.Dish && x.Variant == o.Variant && x.Doneness == o.Doneness && slices.Equal(x.Without, o.Without) &&
			slices.Equal(x.Diets, o.Diets) {
			list[i].Count += o.Count
			return list
		}
	}
	return append(list, o)
}
