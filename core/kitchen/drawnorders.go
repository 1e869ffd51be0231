package kitchen

import (
	"cmp"
	"slices"
)

// Draw is one night's chance in what guests order.
type Draw struct {
	// Guest is a number from 0 up to 1 for a guest of a table at a course, the first guest 0: the same whenever it is asked for.
	Guest func(table string, course Course, guest int) float64
	// Left is how many plates of a dish there are; a dish that it does not know does not run out.
	Left map[string]int
}

// DrawnOrders is what every table of a service orders on one night, in the order of the tables: what is ordered already stays; of the
// others each guest takes a dish by the menu's shares, by themselves (a multinomial), as far as it suits them. Who comes first is served
// first: a dish of which the last portion is gone is no longer taken, and its guests take the others of the course, by their shares. off
// are the dishes that somebody wanted and did not get, in the order in which they ran out.
func (b *Book) DrawnOrders(s *Service, d Draw) (orders [][]TableOrder, off []string) {
	orders = make([][]TableOrder, len(s.Tables))
	left := map[string]int{}
	for dish, n := range d.Left {
		left[dish] = n
	}
	byTime := make([]int, len(s.Tables))
	for i := range s.Tables {
		byTime[i] = i
		orders[i] = slices.Clone(s.Tables[i].Orders)
		for _, o := range orders[i] { // it is kept for them
			left[o.Dish] -= o.Count
		}
	}
	slices.SortStableFunc(byTime, func(x, y int) int { return cmp.Compare(s.Tables[x].SeatedAt, s.Tables[y].SeatedAt) })
	for _, i := range byTime {
		t := &s.Tables[i]
		if len(t.Orders) > 0 {
			continue
		}
		wishes := t.wishes()
		for _, course := range b.CoursesOf(s) {
			lines := b.linesOf(s, course)
			for g := range cmp.Or(t.Booked, t.Covers) {
				meant, x := taken(lines, d.Guest(t.ID, course, g))
				if meant == len(lines) {
					continue
				}
				there := slices.DeleteFunc(slices.Clone(lines), func(m MenuLine) bool {
					_, counted := d.Left[m.Dish]
					return counted && left[m.Dish] <= 0
				})
				if gone := lines[meant].Dish; !slices.ContainsFunc(there, func(m MenuLine) bool { return m.Dish == gone }) {
					if !slices.Contains(off, gone) {
						off = append(off, gone)
					}
					if meant, _ = taken(whole(there), x); meant == len(there) {
						continue // nothing of the course is left
					}
				} else {
					meant = slices.IndexFunc(there, func(m MenuLine) bool { return m.Dish == gone })
				}
				if order, at := b.suited(there, meant, wishes[g]); at >= 0 {
					left[order.Dish]--
					orders[i] = addOrder(orders[i], order)
				}
			}
		}
	}
	return orders, off
}

// taken is the line that a number from 0 up to 1 falls on, how many there are where it falls on none; within is where in it, from 0 up to 1
// again, which is a chance of its own.
func taken(lines []MenuLine, x float64) (at int, within float64) {
	for k, m := range lines {
		share := m.Share / 100
		if x < share {
			return k, x / share
		}
		x -= share
	}
	return len(lines), 0
}

// whole are lines whose shares are a hundred together.
func whole(lines []MenuLine) []MenuLine {
	sum := 0.0
	for _, m := range lines {
		sum += m.Share
	}
	out := slices.Clone(lines)
	for k := range out {
		if out[k].Share = 100 * out[k].Share / sum; sum <= 0 {
			out[k].Share = 100 / float64(len(out))
		}
	}
	return out
}
