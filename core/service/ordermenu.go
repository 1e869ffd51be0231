package service

import (
	"slices"
	"strings"

	"jointime/core/kitchen"
)

// What can be ordered, as it is pressed: the dishes of each course, what is left of them, the needs that guests have.

// OrderMenu is what can be ordered in a service.
type OrderMenu struct {
	Courses []MenuCourse  `json:"courses" nullable:"false" doc:"In the order of a meal"`
	Tables  []TableChoice `json:"tables" nullable:"false" doc:"Those that are there, or are to come, in the order in which they are seated"`
	Wishes  []string      `json:"wishes" nullable:"false" doc:"How something on the menu can be done otherwise"`
	Needs   []string      `json:"needs" nullable:"false" doc:"What guests must not have, as an order says it: those of tonight's guests first, then the usual"`
}

// MenuCourse is a course of a menu.
type MenuCourse struct {
	Course kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	Dishes []MenuDish     `json:"dishes" nullable:"false"`
}

// MenuDish is a dish that can be ordered.
type MenuDish struct {
	Dish string `json:"dish"`
	Name string `json:"name" doc:"What it is called by"`
	Word string `json:"word" doc:"By which an order names it"`
	Off  string `json:"off,omitempty" doc:"What of it is off; nothing when missing"`
	Left *int   `json:"left,omitempty" doc:"How many are left; not known when missing"`
}

// TableChoice is a table that may order.
type TableChoice struct {
	ID      string           `json:"id"`
	Name    string           `json:"name"`
	Covers  int              `json:"covers" doc:"0 where it is not known"`
	Walked  bool             `json:"walked" doc:"It was not booked"`
	Ordered []kitchen.Course `json:"ordered" nullable:"false" doc:"Courses that it has ordered"`
	Sent    []kitchen.Course `json:"sent" nullable:"false" doc:"Courses that it has been sent, or leaves out"`
}

// usualNeeds are what guests say most, beside those that were booked. Common practice, no source.
var usualNeeds = []string{"no milk", "no gluten", "no nuts", "vegetarian", "vegan", "no crustaceans", "no fish", "no eggs"}

// Menu is what can be ordered. svc is the service as it is served (AsSaid).
func Menu(b *kitchen.Book, svc *kitchen.Service, s *State) *OrderMenu {
	out := &OrderMenu{Courses: []MenuCourse{}, Tables: []TableChoice{}, Needs: []string{}}
	var dishes []*kitchen.Dish
	for _, c := range b.CoursesOf(svc) {
		x := MenuCourse{Course: c, Dishes: []MenuDish{}}
		for _, m := range svc.Menu {
			d, ok := b.Dish(m.Dish)
			if !ok || d.Course != c {
				continue
			}
			dishes = append(dishes, d)
			x.Dishes = append(x.Dishes, MenuDish{Dish: d.ID, Name: Briefly(d.Name), Word: wordFor(b, svc, d), Off: s.OffOn(b, d, ""),
				Left: s.Left(b, d)})
		}
		out.Courses = append(out.Courses, x)
	}
	if out.Wishes = wishesOf(b, dishes); out.Wishes == nil {
		out.Wishes = []string{}
	}
	need := func(word string) {
		if !slices.Contains(out.Needs, word) {
			out.Needs = append(out.Needs, word)
		}
	}
	for i := range svc.Tables {
		t := &svc.Tables[i]
		for _, n := range t.Needs {
			for _, w := range n.Needs().Words() {
				need(w)
			}
		}
		out.Tables = append(out.Tables, s.choice(TableChoice{ID: t.ID, Name: t.Name, Covers: t.Covers}))
	}
	for i := range s.Tables {
		if t := &s.Tables[i]; indexOf(svc.Tables, t.ID) < 0 && t.SeatedAt != nil {
			out.Tables = append(out.Tables, s.choice(TableChoice{ID: t.ID, Name: t.Name, Covers: t.Covers, Walked: true}))
		}
	}
	for _, w := range usualNeeds {
		need(w)
	}
	return out
}

func (s *State) choice(t TableChoice) TableChoice {
	t.Ordered, t.Sent = []kitchen.Course{}, []kitchen.Course{}
	if x := s.Table(t.ID); x != nil {
		for _, c := range x.Courses {
			if len(c.Plates) > 0 {
				t.Ordered = append(t.Ordered, c.Course)
			}
			if c.Sent != nil || c.Skipped != nil {
				t.Sent = append(t.Sent, c.Course)
			}
		}
	}
	return t
}

// wordFor is the shortest beginning of a dish's name by which an order finds it, and it alone: in whole words.
func wordFor(b *kitchen.Book, svc *kitchen.Service, d *kitchen.Dish) string {
	words := strings.Fields(strings.ToLower(Briefly(d.Name)))
	try := func(w []string) bool {
		r := ReadOrder(b, svc, &State{}, "", "1 "+strings.Join(w, " "))
		return len(r.Wrong) == 0 && len(r.Courses) == 1 && r.Courses[0].Plates[0].Dish == d.ID && r.Courses[0].Plates[0].Said == Briefly(d.Name)
	}
	for _, w := range slices.Backward(words) { // what something is stands last: guinea fowl
		if try([]string{w}) {
			return w
		}
	}
	if try(words) {
		return strings.Join(words, " ")
	}
	return strings.ReplaceAll(d.ID, "-", " ")
}

// lies reports whether a component lies on a plate.
func lies(plate []kitchen.Element, component string) bool {
	return slices.ContainsFunc(plate, func(e kitchen.Element) bool { return e.Component == component })
}

// left is how many portions are left of what somebody counted: as many as then, less the plates that were ordered since.
func (s *State) left(b *kitchen.Book, l *Lack) int {
	n := l.Left
	for i := range s.Tables {
		for k := range s.Tables[i].Courses {
			c := &s.Tables[i].Courses[k]
			if c.Ordered == nil || c.Ordered.At.Before(l.Since) {
				continue
			}
			for _, p := range c.Plates {
				d, ok := b.Dish(p.Dish)
				if !ok {
					continue
				}
				es, err := d.Plate(p.Variant)
				if l.Dish == p.Dish && (l.Variant == "" || l.Variant == p.Variant) || err == nil && l.Component != "" && lies(es, l.Component) {
					n -= p.Count
				}
			}
		}
	}
	return max(0, n)
}

// Left is how many plates of a dish are left, nil where nobody counted: as many as there are of what there is least of.
func (s *State) Left(b *kitchen.Book, d *kitchen.Dish) *int {
	var least *int
	for i := range s.Off {
		l := &s.Off[i]
		if l.Dish != d.ID && (l.Component == "" || !lies(d.Specification.Elements, l.Component)) {
			continue
		}
		if n := s.left(b, l); least == nil || n < *least {
			least = &n
		}
	}
	return least
}
