package service

import (
	"cmp"
	"slices"
	"strconv"
	"time"

	"jointime/core/kitchen"
)

// A service as it is served: as it was booked, with what was said since. The booking itself is not written to: what was said stands in the
// log alone, so that taking it back brings the booking back.

// drifts is by how many minutes a table may be seated earlier or later than booked before its courses move with it: less than that is made
// up between two courses. Common practice, no source.
const drifts = 3

// AsSaid is a service as it was booked with what was said of it since: who came and when, how many they are, what they ordered, who sits
// together. A table that was not booked is there once it has ordered. What a course was expected to be stands until it is ordered. Dishes
// that are not on the menu, and variants that a dish has not, are passed over. The booking is returned as it is where nothing said changes
// it.
func AsSaid(b *kitchen.Book, booked *kitchen.Service, s *State) *kitchen.Service {
	if s == nil || len(s.Tables) == 0 {
		return booked
	}
	var expected [][]kitchen.TableOrder
	out, changed := *booked, false
	out.Tables = slices.Clone(booked.Tables)
	for i := range s.Tables {
		t := &s.Tables[i]
		k := slices.IndexFunc(out.Tables, func(x kitchen.ServiceTable) bool { return x.ID == t.ID })
		if k < 0 {
			if x, ok := walkIn(b, booked, t); ok {
				out.Tables, changed = append(out.Tables, x), true
			}
			continue
		}
		x := &out.Tables[k]
		if minute, drifted := seatedAt(b, booked, t); drifted && abs(minute-x.SeatedAt) >= drifts {
			x.SeatedAt, changed = minute, true
		}
		ordered := t.ordered(b, booked)
		if len(ordered) == 0 && (t.Covers == 0 || t.Covers == x.Covers) {
			continue
		}
		if expected == nil {
			expected, _ = b.TableOrders(booked)
		}
		changed = true
		orders := []kitchen.TableOrder{}
		for _, c := range b.CoursesOf(booked) {
			if of, said := ordered[c]; said {
				orders = append(orders, of...)
			} else {
				orders = append(orders, fewer(ofCourse(b, expected[k], c), x.Covers, t.Covers)...)
			}
		}
		x.Orders = orders
		if t.Covers > 0 && t.Covers != x.Covers {
			x.Booked, x.Covers = x.Covers, t.Covers
			x.Needs = within(x.Needs, x.Covers)
		}
	}
	// Tables that sit together are seated when the one is that they sit with: their courses are wanted at the same times.
	for i := range s.Tables {
		from, to := indexOf(out.Tables, s.Tables[i].ID), indexOf(out.Tables, s.Tables[i].With)
		if s.Tables[i].With != "" && from >= 0 && to >= 0 && out.Tables[from].SeatedAt != out.Tables[to].SeatedAt {
			out.Tables[from].SeatedAt, changed = out.Tables[to].SeatedAt, true
		}
	}
	if !changed {
		return booked
	}
	return &out
}

// serves reports whether a dish is on the menu of a service.
func serves(s *kitchen.Service, dish string) bool {
	return slices.ContainsFunc(s.Menu, func(m kitchen.MenuLine) bool { return m.Dish == dish })
}

func indexOf(tables []kitchen.ServiceTable, id string) int {
	return slices.IndexFunc(tables, func(x kitchen.ServiceTable) bool { return x.ID == id })
}

// seatedAt is the minute of a service's day at which a table was seated; false where nobody said so.
func seatedAt(b *kitchen.Book, booked *kitchen.Service, t *TableState) (minute int, said bool) {
	if t.SeatedAt == nil || t.Came {
		return 0, false
	}
	minute = minuteOf(b, booked, *t.SeatedAt)
	return minute, minute >= 0 && minute <= kitchen.LastMinute
}

// minuteOf is an instant as a minute of a service's day, by the clock on the wall.
func minuteOf(b *kitchen.Book, booked *kitchen.Service, at time.Time) int {
	at = at.In(b.Zone())
	day := booked.Day(b.Zone())
	days := int(time.Date(at.Year(), at.Month(), at.Day(), 12, 0, 0, 0, time.UTC).
		Sub(time.Date(day.Year(), day.Month(), day.Day(), 12, 0, 0, 0, time.UTC)).Hours() / 24)
	return days*24*60 + at.Hour()*60 + at.Minute()
}

// walkIn is a table that was not booked, once something of it was ordered.
func walkIn(b *kitchen.Book, booked *kitchen.Service, t *TableState) (kitchen.ServiceTable, bool) {
	x := kitchen.ServiceTable{ID: t.ID, Name: t.Name, Covers: t.Covers, Needs: []kitchen.GuestNeed{}, Orders: []kitchen.TableOrder{}}
	ordered := t.ordered(b, booked)
	most := 0
	for _, c := range b.CoursesOf(booked) {
		plates := 0
		for _, o := range ordered[c] {
			plates += o.Count
		}
		most = max(most, plates)
		x.Orders = append(x.Orders, ordered[c]...)
	}
	x.Covers = max(x.Covers, most)
	at := t.SeatedAt
	if at == nil {
		at = t.OrderedAt
	}
	if len(x.Orders) == 0 || at == nil {
		return x, false
	}
	x.SeatedAt = minuteOf(b, booked, *at)
	return x, x.SeatedAt >= 0 && x.SeatedAt <= kitchen.LastMinute
}

// ordered is what a table ordered, by course: of what the service serves.
func (t *TableState) ordered(b *kitchen.Book, booked *kitchen.Service) map[kitchen.Course][]kitchen.TableOrder {
	out := map[kitchen.Course][]kitchen.TableOrder{}
	for i := range t.Courses {
		c := &t.Courses[i]
		for _, p := range c.Plates {
			d, ok := b.Dish(p.Dish)
			if !ok || p.Count < 1 || d.Course != c.Course || !serves(booked, p.Dish) {
				continue
			}
			if _, err := d.Plate(p.Variant); err != nil {
				p.Variant = ""
			}
			out[c.Course] = append(out[c.Course], kitchen.TableOrder{Dish: p.Dish, Count: p.Count, Variant: p.Variant, Doneness: p.Doneness,
				Without: p.Without, Diets: p.Diets})
		}
	}
	return out
}

func ofCourse(b *kitchen.Book, orders []kitchen.TableOrder, c kitchen.Course) (out []kitchen.TableOrder) {
	for _, o := range orders {
		if d, ok := b.Dish(o.Dish); ok && d.Course == c {
			out = append(out, o)
		}
	}
	return out
}

// fewer is what a table is expected to eat of a course when it has fewer guests than were booked: plates of guests without needs go first,
// of the dish that has most. For more guests nothing is guessed: nobody knows what they eat.
func fewer(orders []kitchen.TableOrder, were, are int) []kitchen.TableOrder {
	if are == 0 || are >= were {
		return orders
	}
	out, plates := slices.Clone(orders), 0
	for _, o := range out {
		plates += o.Count
	}
	for drop := min(were-are, plates); drop > 0; drop-- {
		most := -1
		for i, o := range out {
			if most < 0 || needy(&out[most]) && !needy(&o) || needy(&out[most]) == needy(&o) && o.Count > out[most].Count {
				most = i
			}
		}
		if out[most].Count--; out[most].Count == 0 {
			out = slices.Delete(out, most, most+1)
		}
	}
	return out
}

func needy(o *kitchen.TableOrder) bool { return o.Needs().Any() || o.Doneness != "" }

// within are the needs of a table's guests as long as there are so many.
func within(needs []kitchen.GuestNeed, covers int) []kitchen.GuestNeed {
	out := []kitchen.GuestNeed{}
	for _, n := range needs {
		if n.Guests = min(n.Guests, covers); n.Guests > 0 {
			out = append(out, n)
			covers -= n.Guests
		}
	}
	return out
}

func abs(n int) int { return max(n, -n) }

// CheckSaid says what an event says of a service that this service does not have: a dish that is not served, a variant that the dish has
// not, a table to sit with that is not there. It returns kitchen.Faults, with paths into the event.
func CheckSaid(b *kitchen.Book, booked *kitchen.Service, s *State, e *Event) error {
	var faults kitchen.Faults
	there := func(id string) bool { return indexOf(booked.Tables, id) >= 0 || s.Table(id) != nil }
	if e.Table != "" && !kitchen.ValidID(e.Table) {
		faults = append(faults, kitchen.FaultAt("table", "live.table-id", "table", e.Table))
	}
	if e.Kind == Joined {
		for path, id := range map[string]string{"table": e.Table, "with": e.With} {
			if !there(id) {
				faults = append(faults, kitchen.FaultAt(path, "live.no-table", "table", id))
			}
		}
	}
	if _, known := b.Person(e.Who); (e.Kind == Out || e.Kind == In) && e.Who != "" && !known {
		faults = append(faults, kitchen.FaultAt("who", "live.no-such", "id", e.Who))
	}
	if _, known := b.Piece(e.Equipment); e.Equipment != "" && !known {
		faults = append(faults, kitchen.FaultAt("equipment", "live.no-such", "id", e.Equipment))
	}
	for i, p := range e.Plates {
		path := func(of string) string { return "plates[" + strconv.Itoa(i) + "]." + of }
		d, ok := b.Dish(p.Dish)
		switch {
		case !ok || !serves(booked, p.Dish):
			faults = append(faults, kitchen.FaultAt(path("dish"), "live.not-served", "dish", p.Dish))
			continue
		case d.Course != e.Course:
			faults = append(faults, kitchen.FaultAt(path("dish"), "live.other-course", "dish", d.Name, "course", string(d.Course)))
		}
		if _, err := d.Plate(p.Variant); err != nil {
			faults = append(faults, kitchen.FaultOf(path("variant"), err))
		}
		if p.Count < 1 {
			faults = append(faults, kitchen.FaultAt(path("count"), "live.missing"))
		}
	}
	if e.Kind == Ordered {
		faults = append(faults, onAlready(b, booked, s, e)...)
	}
	slices.SortFunc(faults, func(a, b kitchen.Fault) int { return cmp.Compare(a.Path, b.Path) })
	return faults.Or()
}

// onAlready says of which dishes more are ordered than something was fired for: what is on keeps its portions, and what comes on top is a
// table's order of its own.
func onAlready(b *kitchen.Book, booked *kitchen.Service, s *State, e *Event) (faults kitchen.Faults) {
	is := AsSaid(b, booked, s)
	k := indexOf(is.Tables, e.Table)
	if k < 0 {
		return nil
	}
	orders, _ := b.TableOrders(is)
	had := map[string]int{}
	for _, o := range orders[k] {
		had[o.Dish] += o.Count
	}
	wanted := map[string]int{}
	for i, p := range e.Plates {
		d, ok := b.Dish(p.Dish)
		if wanted[p.Dish] += p.Count; !ok || wanted[p.Dish] <= had[p.Dish] {
			continue
		}
		for _, r := range s.Runs {
			if r.Fired == nil || !slices.Contains(r.Joins, e.join()) || !lies(d.Specification.Elements, r.Component) {
				continue
			}
			name := r.Component
			if c, ok := b.Component(r.Component); ok {
				name = Briefly(c.Name)
			}
			faults = append(faults, kitchen.FaultAt("plates["+strconv.Itoa(i)+"].count", "live.on-for", "what", name, "table", is.Tables[k].Name))
			break
		}
	}
	return faults
}
