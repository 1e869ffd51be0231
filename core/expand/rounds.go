package expand

import (
	"cmp"
	"fmt"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// The joins of a service: every course of every table. At a banquet many tables want the same course at the same time: they
// are plated in rounds, one after another, and a round is whole tables.

// secondLayer is how many times the plates that the pass takes may be plated in one go: some stand on a second layer, or on
// the bench beside. Common practice, no source.
const secondLayer = 2

// pass is how many people plate, and how many plates the pass takes at once.
func (e *Evening) pass() (hands, room int) {
	b, s := e.book, e.Service
	if s.Kind != kitchen.Banquet {
		return cmp.Or(s.PlatingHands, b.Kitchen().PlatingHands), MaxPlates
	}
	hands = cmp.Or(s.PlatingHands, min(banquetHands, max(1, len(b.MayPlate()))))
	if _, room = equipment(b, &kitchen.EquipmentNeed{Kind: kitchen.Pass}); room == 0 {
		room = MaxPlates
	}
	return hands, room
}

// courses makes the joins of every table, in the order of the tables.
func (e *Evening) courses(orders [][]kitchen.TableOrder, in *evening, hands, room int) error {
	b, s, zone := e.book, e.Service, e.book.Zone()
	type sitting struct {
		course kitchen.Course
		seated int
	}
	clear := map[sitting]time.Time{} // of a banquet: when the last round of a course is complete
	for i, t := range s.Tables {
		before := ""
		at := s.At(t.SeatedAt, zone).Add(time.Duration(s.FirstAfterMin) * time.Minute)
		for _, c := range b.CoursesOf(s) {
			rounds, wave := e.rounds(orders[i], c, room, t.TablesOf), at
			for r, round := range rounds {
				x := Course{ID: fmt.Sprintf("%s%s/%s", e.prefix, t.ID, c), Table: t.ID, school: s.Taught(), Name: t.Name, Course: c, before: before,
					pace: int64(float64(s.CourseMin) * 60 * paceLeast)}
				if len(rounds) > 1 {
					x.Round = r + 1
				}
				if r > 0 { // the first keeps its id when a second is added
					x.ID = fmt.Sprintf("%s~%d", x.ID, r+1)
					x.pace = 0
				}
				f, err := newFiring(b, Table{ID: x.ID, Name: message.Of("course.of", "table", t.Name, "course", c).Text, Orders: round, At: at,
					Hands: hands}, in)
				if err != nil {
					return err
				}
				if in.banquet && t.SecondWaveMin > 0 && r > 0 && r == (len(rounds)+1)/2 {
					at = later(at, wave.Add(time.Duration(t.SecondWaveMin)*time.Minute))
					f.wish(at)
				}
				if in.banquet {
					// The next round is plated when the one before is complete.
					if last, ok := clear[sitting{c, t.SeatedAt}]; ok {
						at = later(at, last.Add(time.Duration(f.Clock.Seconds)*time.Second))
						f.wish(at)
					}
					clear[sitting{c, t.SeatedAt}] = at
				}
				if r == 0 {
					wave = at
				}
				x.Firing = f
				e.Courses = append(e.Courses, x)
				before = x.ID
			}
			if len(rounds) > 0 {
				at = at.Add(time.Duration(s.CourseMin) * time.Minute)
			}
		}
	}
	return nil
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// wish moves a table-course to another time.
func (f *Firing) wish(at time.Time) {
	f.Table.At = at
	s := int64(at.Sub(f.Origin) / time.Second)
	f.Workload.Joins[0].At = &s
}

// rounds divides a table's orders of a course into as many plates as go at once. A table is not divided where the pass takes
// it on a second layer. A group whose tables are known goes by whole tables; of one that is larger than any table and whose
// tables nobody said, a round is what the pass takes.
func (e *Evening) rounds(orders []kitchen.TableOrder, c kitchen.Course, room, tablesOf int) [][]Order {
	total := 0
	for _, o := range orders {
		if d, _ := e.book.Dish(o.Dish); d.Course == c {
			total += o.Count
		}
	}
	size := room
	switch {
	case tablesOf > room:
		size = tablesOf
	case tablesOf > 0:
		size = room / tablesOf * tablesOf
	case total <= secondLayer*room:
		size = total
	}
	size = min(size, MaxPlates)
	var out [][]Order
	left := 0
	for _, o := range orders {
		d, _ := e.book.Dish(o.Dish)
		if d.Course != c {
			continue
		}
		for n := o.Count; n > 0; {
			if left == 0 {
				out = append(out, nil)
				left = size
			}
			k := min(n, left)
			last := &out[len(out)-1]
			*last = append(*last, Order{Dish: o.Dish, Count: k, Variant: o.Variant, Doneness: o.Doneness, Without: o.Without, Diets: o.Diets})
			n -= k
			left -= k
		}
	}
	return out
}

// layers says which tables do not fit the pass at once.
func (e *Evening) layers() (out []message.Message) {
	if e.Service.Kind != kitchen.Banquet {
		return nil
	}
	_, room := e.pass()
	said := map[string]bool{}
	for i := range e.Courses {
		x := &e.Courses[i]
		plates := 0
		for _, o := range x.Firing.Table.Orders {
			plates += o.Count
		}
		if x.own && plates > room && !said[x.Table] {
			said[x.Table] = true
			out = append(out, message.Of("fire.second-layer", "table", x.Name, "plates", plates, "room", room))
		}
	}
	return out
}
