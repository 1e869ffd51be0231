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
		lines := b.linesOf(s, course)
		owed := expecting(lines)
		for i := range s.Tables {
			t := &s.Tables[i]
			// What a table has ordered changes nothing of what others are expected to: theirs goes by what was booked.
			wishes, ordered := t.wishes(), b.platesOf(t, course)
			for g := range cmp.Or(t.Booked, t.Covers) {
				meant := owed.next()
				if meant == len(lines) {
					owed.took(meant)
					continue
				}
				order, at := b.suited(lines, meant, wishes[g])
				if at < 0 {
					owed.took(meant)
					if len(t.Orders) > 0 && ordered >= t.Covers {
						continue // they have ordered
					}
					for _, x := range b.Undefined(wishes[g].Needs()) {
						problems = addOnce(problems, message.Of("diet.not-defined", "diet", string(x)))
					}
					problems = append(problems, message.Of("orders.nothing-suits", "table", t.Name, "course", course, "without",
						wishes[g].Needs().Words()))
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
				owed.took(at)
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

// linesOf are the lines of a service's menu for a course.
func (b *Book) linesOf(s *Service, course Course) (lines []MenuLine) {
	for _, m := range s.Menu {
		if b.dishes[m.Dish].Course == course {
			lines = append(lines, m)
		}
	}
	return lines
}

// owing spreads the shares of a course's dishes over guests. The last of owed is owed to nobody: what the shares leave of a hundred takes
// no such course.
type owing struct {
	lines []MenuLine
	owed  []float64
	rest  float64
}

func expecting(lines []MenuLine) *owing {
	o := &owing{lines: lines, owed: make([]float64, len(lines)+1), rest: 100}
	for _, m := range lines {
		o.rest -= m.Share
	}
	return o
}

// next is the dish of the next guest; the number of the lines for none.
func (o *owing) next() int {
	best := len(o.lines)
	o.owed[best] += max(0, o.rest) / 100
	for k, m := range o.lines {
		if o.owed[k] += m.Share / 100; o.owed[k] > o.owed[best]+1e-9 || best == len(o.lines) && o.owed[k] > o.owed[best]-1e-9 {
			best = k
		}
	}
	return best
}

// took says what the guest took in the end.
func (o *owing) took(k int) { o.owed[k]-- }

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
