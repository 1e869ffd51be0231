package expand

import (
	"slices"

	"jointime/core/kitchen"
)

// What could get to the plate of a guest who must not have something, from what is served beside it.

// served is what goes onto any plate of the evening and of those beside it, each element of a component once.
func (e *Evening) served() (out []kitchen.Element) {
	seen := map[string]bool{}
	for i := range e.Courses {
		for _, o := range e.Courses[i].Firing.Table.Orders {
			d, ok := e.book.Dish(o.Dish)
			if !ok {
				continue
			}
			es, err := d.Plate(o.Variant)
			if err != nil {
				continue
			}
			for _, x := range es {
				if !seen[x.Component] {
					seen[x.Component] = true
					out = append(out, x)
				}
			}
		}
	}
	return out
}

// apartFor is what the guests must not have for whom a course's component is cooked apart at a section, and what could get to it there.
func (e *Evening) apartFor(x *Course, component, section string, apart bool) (needs, contact []string) {
	needs, contact = []string{}, []string{}
	if !apart {
		return needs, contact
	}
	var beside []kitchen.Element
	for i := range x.Firing.Table.Orders {
		o := &x.Firing.Table.Orders[i]
		d, _ := e.book.Dish(o.Dish)
		es, err := d.Plate(o.Variant)
		if err != nil || !o.Needs().OwnPan() ||
			!slices.ContainsFunc(es, func(el kitchen.Element) bool { return e.book.GoesInto(component, el.Component) }) {
			continue
		}
		if beside == nil {
			beside = e.served()
		}
		for _, w := range o.Needs().Words() {
			if !slices.Contains(needs, w) {
				needs = append(needs, w)
			}
		}
		for _, c := range e.book.Contacts(es, o.Needs(), beside) {
			if c.Component == component && c.Section == section && (c.Phase == kitchen.PickUp || c.Kind == "oil") &&
				!slices.Contains(contact, c.Said.Text) {
				contact = append(contact, c.Said.Text)
			}
		}
	}
	return needs, contact
}
