package expand

import (
	"slices"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// When the hands and the equipment of the make-ahead work belong to a service.

// busy is when the cooks are in service.
func (p *Prep) busy() []workload.Window {
	var out []workload.Window
	for i := range p.services {
		if len(p.services[i].Tables) > 0 {
			out = append(out, p.during(&p.services[i]))
		}
	}
	return joined(out)
}

// during is how long a service lasts: from its first seating until it is cleared.
func (p *Prep) during(s *kitchen.Service) workload.Window {
	last := 0
	for _, t := range s.Tables {
		last = max(last, t.SeatedAt)
	}
	return workload.Window{From: p.second(s.At(s.Starts(), p.zone)), To: p.second(s.At(last, p.zone).Add(cleared))}
}

// inService is when a piece of equipment is kept for the services whose dishes need it to
// order: what is braised by itself does not stand in the oven that the evening wants.
func (p *Prep) inService(id string) []workload.Window {
	var out []workload.Window
	for i := range p.services {
		s := &p.services[i]
		if len(s.Tables) > 0 && slices.ContainsFunc(s.Menu, func(m kitchen.MenuLine) bool { return p.ordersOn(m.Dish, id) }) {
			out = append(out, p.during(s))
		}
	}
	return joined(out)
}

// ordersOn reports whether something of a dish is made to order on a piece of equipment.
func (p *Prep) ordersOn(dish, id string) bool {
	d, _ := p.book.Dish(dish)
	for _, e := range d.Specification.Elements {
		c, _ := p.book.Component(e.Component)
		for _, s := range c.InPhase(kitchen.PickUp) {
			if s.Equipment == nil {
				continue
			}
			if ids, _ := equipment(p.book, s.Equipment); slices.Contains(ids, id) {
				return true
			}
		}
	}
	return false
}

// without cuts busy times out of windows; both are sorted and do not overlap.
func without(ws, busy []workload.Window) []workload.Window {
	out := []workload.Window{}
	for _, w := range ws {
		for _, b := range busy {
			if b.To <= w.From || b.From >= w.To {
				continue
			}
			if b.From > w.From {
				out = append(out, workload.Window{From: w.From, To: b.From, Capacity: w.Capacity})
			}
			w.From = b.To
		}
		if w.From < w.To {
			out = append(out, w)
		}
	}
	return out
}
