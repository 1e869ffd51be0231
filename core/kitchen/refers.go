package kitchen

// What the records of each kind refer to. A record that something refers to cannot be deleted.

func (p *Person) refers(to refer) {
	for i, s := range p.Sections {
		to(SectionRecord, s, "sections[%d]", i)
	}
}

func (c *Component) refers(to refer) {
	to(SectionRecord, c.Section, "section")
	for i, u := range c.Uses {
		to(ComponentRecord, u.Component, "uses[%d].component", i)
	}
	for i, u := range c.ByProducts {
		to(ComponentRecord, u.Component, "by_products[%d].component", i)
	}
	for i, s := range c.Steps {
		if s.Section != "" {
			to(SectionRecord, s.Section, "steps[%d].section", i)
		}
		for k, w := range s.Wares {
			to(EquipmentRecord, w.Equipment, "steps[%d].wares[%d].equipment", i, k)
		}
		for k, p := range s.People {
			to(PersonRecord, p, "steps[%d].people[%d]", i, k)
		}
		for k, a := range s.Beside {
			to(ComponentRecord, a.Component, "steps[%d].beside[%d].component", i, k)
		}
	}
}

func (d *Dish) refers(to refer) {
	d.Specification.refers("specification", to)
	if d.Draft != nil {
		d.Draft.refers("draft", to)
	}
}

func (s *Specification) refers(path string, to refer) {
	to(VesselRecord, s.Vessel, path+".vessel")
	for i, e := range s.Elements {
		to(ComponentRecord, e.Component, path+".elements[%d].component", i)
	}
	for i, v := range s.Variants {
		for k, c := range v.Changes {
			if c.With != nil {
				to(ComponentRecord, c.With.Component, path+".variants[%d].changes[%d].with.component", i, k)
			}
		}
	}
}

func (s *Service) refers(to refer) {
	for i, m := range s.Menu {
		to(DishRecord, m.Dish, "menu[%d].dish", i)
	}
	for i, x := range s.Shared {
		to(ComponentRecord, x.Component, "shared[%d].component", i)
	}
	for i, w := range s.Ways {
		to(ComponentRecord, w.Component, "ways[%d].component", i)
		if w.Person != "" {
			to(PersonRecord, w.Person, "ways[%d].person", i)
		}
	}
	for i, h := range s.Helpers {
		to(PersonRecord, h.Person, "helpers[%d].person", i)
		to(SectionRecord, h.Section, "helpers[%d].section", i)
	}
	for i, t := range s.Tables {
		for k, o := range t.Orders {
			to(DishRecord, o.Dish, "tables[%d].orders[%d].dish", i, k)
		}
	}
}

func (s *Stock) refers(to refer) { to(ComponentRecord, s.Component, "component") }
