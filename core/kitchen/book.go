package kitchen

import (
	"jointime/core/message"
	"maps"
	"strings"
	"time"
)

// Data is a whole kitchen as plain data: what files hold and the store keeps.
type Data struct {
	Kitchen    Kitchen     `json:"kitchen"`
	Sections   []Section   `json:"sections"`
	People     []Person    `json:"people"`
	Equipment  []Equipment `json:"equipment"`
	Vessels    []Vessel    `json:"vessels"`
	Components []Component `json:"components"`
	Dishes     []Dish      `json:"dishes"`
	Services   []Service   `json:"services"`
	Stock      []Stock     `json:"stock"`
	Meals      []Meal      `json:"meals,omitempty"`
}

// Book is a kitchen whose every reference leads somewhere. It is read-only.
type Book struct {
	data       Data
	sections   map[string]*Section
	people     map[string]*Person
	vessels    map[string]*Vessel
	components map[string]*Component
	dishes     map[string]*Dish
	services   map[string]*Service
	has        map[Key]bool
}

// NewBook checks everything in d, by itself and against each other, and returns
// the book, or Faults with a path for each.
func NewBook(d Data) (*Book, error) { return newBook(d, nil) }

// NewBookWith is NewBook for data that was a book but for one record: the others are not
// checked by themselves again, only against each other.
func NewBookWith(d Data, changed Key) (*Book, error) { return newBook(d, &changed) }

func newBook(d Data, only *Key) (*Book, error) {
	b := &Book{data: d, has: map[Key]bool{}}
	b.sections = byID(d.Sections, func(s *Section) string { return s.ID })
	b.people = byID(d.People, func(p *Person) string { return p.ID })
	b.vessels = byID(d.Vessels, func(v *Vessel) string { return v.ID })
	b.components = byID(d.Components, func(c *Component) string { return c.ID })
	b.dishes = byID(d.Dishes, func(x *Dish) string { return x.ID })
	b.services = byID(d.Services, func(x *Service) string { return x.ID })
	f := newFinder()
	for _, x := range descriptions {
		x.look(f, b, only)
	}
	for _, x := range descriptions {
		x.follow(f, b)
	}
	for i := range d.Components {
		b.needsThere(f.field("components").item(i), &d.Components[i])
	}
	for i := range d.Services {
		b.ordersThere(f.field("services").item(i), &d.Services[i])
		b.waysThere(f.field("services").item(i), &d.Services[i])
	}
	b.mealsThere(f)
	b.archivedInUse(f)
	b.besideThere(f)
	if len(*f.faults) == 0 {
		if loop := b.useCycle(); loop != "" {
			f.at("components").say("fault.component-circle", "components", loop)
		}
	}
	if err := f.faults.Or(); err != nil {
		return nil, err
	}
	return b, nil
}

func byID[T any](list []T, id func(*T) string) map[string]*T {
	out := make(map[string]*T, len(list))
	for i := range list {
		out[id(&list[i])] = &list[i]
	}
	return out
}

func (f finder) add(faults Faults) {
	for _, x := range faults {
		g := f.at("%s", x.Path)
		*f.faults = append(*f.faults, Fault{g.path, x.Message})
	}
}

// needsThere reports equipment that a component's steps need and the kitchen has not.
func (b *Book) needsThere(f finder, c *Component) {
	for i, s := range c.Steps {
		for k, w := range s.Wares {
			if e := b.piece(w.Equipment); e != nil && e.Kind != SmallWare {
				f.at("steps[%d].wares[%d].equipment", i, k).say("fault.no-ware", "id", e.Name)
			}
		}
		if s.Equipment != nil {
			b.fitsEquipment(f.at("steps[%d].equipment", i), s.Equipment)
		}
		for k := range s.After {
			if x := s.After[k].Stretch; x != nil && x.In != nil {
				b.fitsEquipment(f.at("steps[%d].after[%d].stretch.in", i, k), x.In)
			}
		}
		for k := range s.After {
			if in := s.After[k].In; in != nil {
				b.fitsEquipment(f.at("steps[%d].after[%d].in", i, k), in)
			}
		}
	}
	if x := c.Hold.Stretch; x != nil && x.In != nil {
		b.fitsEquipment(f.at("hold.stretch.in"), x.In)
	}
	if c.Hold.In != nil {
		b.fitsEquipment(f.at("hold.in"), c.Hold.In)
	}
	if c.Pot != nil && c.Pot.In != nil {
		b.fitsEquipment(f.at("pot.in"), c.Pot.In)
	}
}

// piece is a piece of equipment, nil when there is none.
func (b *Book) piece(id string) *Equipment {
	for i := range b.data.Equipment {
		if b.data.Equipment[i].ID == id {
			return &b.data.Equipment[i]
		}
	}
	return nil
}

// Piece looks a piece of equipment up.
func (b *Book) Piece(id string) (*Equipment, bool) { e := b.piece(id); return e, e != nil }

// fitsEquipment reports a need that no piece of the kitchen's equipment can serve.
func (b *Book) fitsEquipment(f finder, n *EquipmentNeed) {
	most, any, heat := 0, false, false
	for _, e := range b.data.Equipment {
		if e.Kind != n.Kind {
			continue
		}
		any = true
		most = max(most, e.Capacity)
		if n.Reached(e.Thermostat) {
			heat = true
		}
	}
	switch {
	case !any:
		f.at("kind").say("fault.no-equipment", "kind", n.Kind)
	case n.Units > most:
		f.at("units").say("fault.too-much-room", "kind", n.Kind, "most", most, "got", n.Units)
	case !heat:
		f.at("setpoint_c").say("fault.no-heat", "kind", n.Kind, "celsius", *n.SetpointC)
	}
}

// archivedInUse reports archived components that a dish on the menu or another
// component still needs.
func (b *Book) archivedInUse(f finder) {
	gone := func(g finder, id, user string) {
		if c := b.components[id]; c != nil && c.Archived {
			g.say("fault.archived-in-use", "user", user, "component", c.Name)
		}
	}
	for i, c := range b.data.Components {
		if !c.Archived {
			for k, u := range c.Uses {
				gone(f.at("components[%d].uses[%d].component", i, k), u.Component, c.Name)
			}
		}
	}
	for i, d := range b.data.Dishes {
		if d.State == RetiredDish {
			continue
		}
		for k, e := range d.Specification.Elements {
			gone(f.at("dishes[%d].specification.elements[%d].component", i, k), e.Component, d.Name)
		}
	}
}

// WithDraft returns the book as it would be if a dish's draft were its specification;
// ok is false when there is no such dish or it has no draft.
func (b *Book) WithDraft(dish string) (_ *Book, ok bool) {
	d := b.dishes[dish]
	if d == nil || d.Draft == nil {
		return b, false
	}
	out := *b
	changed := *d
	changed.Specification, changed.Draft = *d.Draft, nil
	out.dishes = maps.Clone(b.dishes)
	out.dishes[dish] = &changed
	return &out, true
}

func (b *Book) useCycle() string {
	next := map[string][]string{}
	var ids []string
	for _, c := range b.data.Components {
		ids = append(ids, c.ID)
		for _, u := range c.Uses {
			next[c.ID] = append(next[c.ID], u.Component)
		}
	}
	return cycle(ids, next)
}

// CheckDish returns what is wrong with a dish that is not in the book: by itself and
// in what it refers to.
func (b *Book) CheckDish(d Dish) error {
	f := newFinder()
	f.add(CheckDish(d))
	d.refers(func(to Kind, id, path string, args ...any) {
		if !b.has[Key{to, id}] {
			f.at(path, args...).say("fault.no-record", "kind", to, "id", short(id))
		}
	})
	return f.faults.Or()
}

// Zone is that of the clock on the kitchen's wall.
func (b *Book) Zone() *time.Location { return b.data.Kitchen.Zone() }

// Kitchen returns the house's settings.
func (b *Book) Kitchen() Kitchen { return b.data.Kitchen }

// Sections returns the sections in their order.
func (b *Book) Sections() []Section { return b.data.Sections }

// People returns the people in their order.
func (b *Book) People() []Person { return b.data.People }

// Equipment returns the equipment in its order.
func (b *Book) Equipment() []Equipment { return b.data.Equipment }

// Vessels returns the vessels in their order.
func (b *Book) Vessels() []Vessel { return b.data.Vessels }

// Components returns the components in their order.
func (b *Book) Components() []Component { return b.data.Components }

// Dishes returns the dishes in their order.
func (b *Book) Dishes() []Dish { return b.data.Dishes }

// Services returns the services in their order.
func (b *Book) Services() []Service { return b.data.Services }

// Stock returns the products on hand in their order.
func (b *Book) Stock() []Stock { return b.data.Stock }

// Service looks a service up.
func (b *Book) Service(id string) (*Service, bool) { s, ok := b.services[id]; return s, ok }

// Component looks a component up.
func (b *Book) Component(id string) (*Component, bool) { c, ok := b.components[id]; return c, ok }

// Dish looks a dish up.
func (b *Book) Dish(id string) (*Dish, bool) { d, ok := b.dishes[id]; return d, ok }

// Data is a copy of what the book was made of, to be changed and made a book again. What
// its lists hold is shared with the book.
func (b *Book) Data() Data {
	return b.data.Copy()
}

// Person returns a person by id.
func (b *Book) Person(id string) (*Person, bool) {
	for i := range b.data.People {
		if b.data.People[i].ID == id {
			return &b.data.People[i], true
		}
	}
	return nil, false
}

// Section looks a section up.
func (b *Book) Section(id string) (*Section, bool) { s, ok := b.sections[id]; return s, ok }

// Vessel looks a vessel up.
func (b *Book) Vessel(id string) (*Vessel, bool) { v, ok := b.vessels[id]; return v, ok }

// MayPlate lists the people who may plate: those with a section that is a pass.
func (b *Book) MayPlate() []*Person {
	var out []*Person
	for i := range b.data.People {
		for _, s := range b.data.People[i].Sections {
			if b.sections[s].Pass {
				out = append(out, &b.data.People[i])
				break
			}
		}
	}
	return out
}

// Plate returns the elements of a dish as its variant has them; "" is the plate
// as written. The error names a variant that is not there.
func (d *Dish) Plate(variant string) ([]Element, error) {
	if variant == "" {
		return d.Specification.Elements, nil
	}
	for _, v := range d.Specification.Variants {
		if strings.EqualFold(v.Name, variant) {
			return v.apply(d.Specification.Elements), nil
		}
	}
	return nil, message.Fail("fault.no-variant", "dish", d.Name, "variant", short(variant))
}

// apply makes the changes and renumbers what stands on what; an element whose
// support is left out stands on the vessel.
func (v *Variant) apply(es []Element) []Element {
	out := make([]Element, 0, len(es))
	number := make([]int, len(es)+1) // old number → new number, 0 when gone
	for i, e := range es {
		gone := false
		for _, c := range v.Changes {
			if c.Element != i+1 {
				continue
			}
			if c.Kind == "leave-out" {
				gone = true
			} else {
				on := e.On
				if e = *c.With; e.On == 0 {
					e.On = on
				}
			}
		}
		if gone {
			continue
		}
		e.On = number[e.On]
		out = append(out, e)
		number[i+1] = len(out)
	}
	return out
}

func checkZone(f finder, name string) {
	if name == "" || name == "Local" {
		f.say("fault.zone-needed")
		return
	}
	if _, err := time.LoadLocation(name); err != nil {
		f.say("fault.zone", "got", short(name))
	}
}

func checkColour(f finder, c string) {
	if c == "" {
		return
	}
	ok := len(c) == 7 && c[0] == '#'
	for _, r := range strings.TrimPrefix(c, "#") {
		ok = ok && (r >= '0' && r <= '9' || r >= 'a' && r <= 'f' || r >= 'A' && r <= 'F')
	}
	if !ok {
		f.say("fault.colour", "got", short(c))
	}
}

// NameOf is the name of a component or a vessel, its id when there is none.
func (b *Book) NameOf(id string) string {
	if c := b.components[id]; c != nil {
		return c.Name
	}
	if v := b.vessels[id]; v != nil {
		return v.Name
	}
	return id
}
