package service

import (
	"slices"
	"time"

	"jointime/core/kitchen"
)

// What stands in for something that is off: for each table that was to have it, another plate of its dish, or another dish of its course,
// that suits its guests.

// StandIn is something that can be served in the place of what is off.
type StandIn struct {
	Dish      string         `json:"dish"`
	Variant   string         `json:"variant,omitempty" doc:"Of the dish, where it is served without what is off"`
	Name      string         `json:"name"`
	Allergens []string       `json:"allergens" nullable:"false" doc:"What it has, as the kitchen's code names it"`
	Brings    []string       `json:"brings" nullable:"false" doc:"Of those what the plate that is off did not have"`
	Unknown   []string       `json:"unknown" nullable:"false" doc:"Components of which nobody has said that the recipe is complete"`
	Tables    []StandInTable `json:"tables" nullable:"false" doc:"Those for whose guests it suits"`
	Not       []string       `json:"not" nullable:"false" doc:"Names of tables for some of whose guests it does not suit"`
}

// StandInTable is a table's course with the stand-in: all of its plates, as they are to be ordered.
type StandInTable struct {
	TableCourse
	Name   string       `json:"name"`
	Count  int          `json:"count" doc:"Plates that are replaced"`
	Plates []PlateOrder `json:"plates" nullable:"false"`
}

// StandIns lists what can stand in for what is off, first what is nearest to it. svc is the service as it is served (AsSaid). Courses that
// are on the plates, sent or left out have had theirs.
func StandIns(b *kitchen.Book, svc *kitchen.Service, s *State, l *Lack) []StandIn {
	out := []StandIn{}
	orders, _ := b.TableOrders(svc)
	has := func(dish, variant string) bool {
		d, ok := b.Dish(dish)
		if !ok || l.Dish != "" && l.Dish != dish || l.Variant != "" && l.Variant != variant {
			return false
		}
		es, err := d.Plate(variant)
		return err == nil && (l.Component == "" || lies(es, l.Component))
	}
	for _, course := range b.CoursesOf(svc) {
		var dishes []*kitchen.Dish // that have what is off
		for i := range svc.Tables {
			for _, o := range orders[i] {
				d, ok := b.Dish(o.Dish)
				if ok && d.Course == course && has(o.Dish, o.Variant) && !slices.Contains(dishes, d) &&
					s.open(TableCourse{Table: svc.Tables[i].ID, Course: course}) {
					dishes = append(dishes, d)
				}
			}
		}
		for _, was := range dishes {
			for _, v := range was.Specification.Variants {
				if !has(was.ID, v.Name) && s.OffOn(b, was, v.Name) == "" {
					out = append(out, standIn(b, svc, s, orders, was, was, v.Name, has))
				}
			}
			for _, m := range svc.Menu {
				d, ok := b.Dish(m.Dish)
				if ok && d.Course == course && d.ID != was.ID && !has(d.ID, "") && s.OffOn(b, d, "") == "" {
					out = append(out, standIn(b, svc, s, orders, was, d, "", has))
				}
			}
		}
	}
	return slices.DeleteFunc(out, func(x StandIn) bool { return len(x.Tables) == 0 })
}

// open reports whether a table's course is still to be plated.
func (s *State) open(j TableCourse) bool {
	c := s.Course(j)
	return c == nil || c.Plated == nil && c.Sent == nil && c.Skipped == nil
}

// standIn is a dish in the place of another, for all tables that were to have that.
func standIn(b *kitchen.Book, svc *kitchen.Service, s *State, orders [][]kitchen.TableOrder, was, d *kitchen.Dish, variant string,
	has func(dish, variant string) bool) StandIn {
	es, _ := d.Plate(variant) // it has the variant
	x := StandIn{Dish: d.ID, Variant: variant, Name: Briefly(d.Name), Allergens: allergensOf(b, es), Brings: []string{},
		Unknown: b.UnknownRecipes(es), Tables: []StandInTable{}, Not: []string{}}
	had := allergensOf(b, was.Specification.Elements)
	for _, a := range x.Allergens {
		if !slices.Contains(had, a) {
			x.Brings = append(x.Brings, a)
		}
	}
	for i := range svc.Tables {
		t := StandInTable{TableCourse: TableCourse{Table: svc.Tables[i].ID, Course: d.Course}, Name: svc.Tables[i].Name}
		if !s.open(t.TableCourse) {
			continue
		}
		suits := true
		for _, o := range orders[i] {
			if is, ok := b.Dish(o.Dish); !ok || is.Course != d.Course {
				continue
			}
			p := PlateOrder{Dish: o.Dish, Variant: o.Variant, Doneness: o.Doneness, Count: o.Count, Without: o.Without, Diets: o.Diets}
			if o.Dish == was.ID && has(o.Dish, o.Variant) {
				t.Count += o.Count
				p.Dish, p.Variant = d.ID, variant
				if o.Needs().Any() && (variant == "" || len(b.Against(es, o.Needs())) > 0) {
					var ok bool
					p.Variant, ok = b.VariantFor(d, o.Needs())
					suits = suits && ok && !has(d.ID, p.Variant)
				}
				if plate, err := d.Plate(p.Variant); err == nil && !b.KnowsWish(plate, p.Doneness) {
					p.Doneness = ""
				}
			}
			t.Plates = append(t.Plates, p)
		}
		switch {
		case t.Count == 0:
		case suits:
			x.Tables = append(x.Tables, t)
		default:
			x.Not = append(x.Not, t.Name)
		}
	}
	return x
}

// allergensOf are the allergens of a plate as the kitchen's code names them, each once.
func allergensOf(b *kitchen.Book, es []kitchen.Element) []string {
	out := []string{}
	for _, a := range b.DishAllergens(es) {
		if n := kitchen.AllergenTitle(a.Allergen, b.Kitchen().SafetyCode); !slices.Contains(out, n) {
			out = append(out, n)
		}
	}
	return out
}

// With is the state as it would be if some tables ordered stand-ins now.
func (s *State) With(tables []StandInTable, now time.Time) *State {
	out := *s
	out.Tables = slices.Clone(s.Tables)
	for i := range out.Tables {
		out.Tables[i].Courses = slices.Clone(out.Tables[i].Courses)
	}
	for _, t := range tables {
		e := &Event{Kind: Ordered, At: now, Facts: Facts{Table: t.Table, Course: t.Course, Plates: t.Plates}}
		out.apply(e)
	}
	return &out
}
