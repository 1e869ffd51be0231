package kitchen

import (
	"encoding/json"
	"slices"
)

// Needed is the part of the kitchen on which the plans of some services depend: the
// services, the dishes that their menus and orders name, every component that goes into
// those, with everybody and everything that works. Drafts are left out, since nothing is
// planned by them; stock is that of the components. It keeps the book's order, and is a
// book by itself.
func (b *Book) Needed(services []Service) Data {
	dishes, components, vessels := map[string]bool{}, map[string]bool{}, map[string]bool{}
	var into func(id string)
	into = func(id string) {
		c := b.components[id]
		if c == nil || components[id] {
			return
		}
		components[id] = true
		for _, u := range c.Uses {
			into(u.Component)
		}
		for _, u := range c.ByProducts {
			into(u.Component)
		}
		for i := range c.Steps { // what a step comes after must be there for the book to hold together
			for _, a := range c.Steps[i].Beside {
				into(a.Component)
			}
		}
	}
	for i := range services {
		s := &services[i]
		for _, m := range s.Menu {
			dishes[m.Dish] = true
		}
		for _, t := range s.Tables {
			for _, o := range t.Orders {
				dishes[o.Dish] = true
			}
		}
		for _, x := range s.Shared {
			into(x.Component)
		}
	}
	d := Data{Kitchen: b.data.Kitchen, Sections: b.data.Sections, People: b.data.People, Equipment: b.data.Equipment,
		Services: slices.Clone(services)}
	for _, x := range b.data.Dishes {
		if !dishes[x.ID] {
			continue
		}
		x.Draft = nil
		d.Dishes = append(d.Dishes, x)
		vessels[x.Specification.Vessel] = true
		for _, e := range x.Specification.Elements {
			into(e.Component)
		}
		for _, v := range x.Specification.Variants {
			for _, c := range v.Changes {
				if c.With != nil {
					into(c.With.Component)
				}
			}
		}
	}
	for _, x := range b.data.Vessels {
		if vessels[x.ID] {
			d.Vessels = append(d.Vessels, x)
		}
	}
	for _, x := range b.data.Components {
		if components[x.ID] {
			d.Components = append(d.Components, x)
		}
	}
	for _, x := range b.data.Stock {
		if components[x.Component] {
			d.Stock = append(d.Stock, x)
		}
	}
	return d
}

// Clone is a copy whose records can be changed without touching d's.
func (d Data) Clone() Data {
	raw, err := json.Marshal(d)
	if err != nil {
		panic("kitchen: data that cannot be written: " + err.Error())
	}
	var out Data
	if err := json.Unmarshal(raw, &out); err != nil {
		panic("kitchen: data that cannot be read back: " + err.Error())
	}
	return out
}
