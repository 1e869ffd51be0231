package kitchen

import (
	"slices"
	"strings"

	"jointime/core/message"
)

// Contact is a way by which what a guest must not have gets to their plate although nothing on it has it: oil, water, a hot surface or
// a board that something else in the same service goes over. Common practice, no source.
type Contact struct {
	Kind      string          `json:"kind" enum:"oil,water,surface,board"`
	Component string          `json:"component" doc:"On the guest's plate; its id"`
	Section   string          `json:"section" doc:"Where that is done"`
	Phase     Phase           `json:"phase" enum:"ahead,pick-up" doc:"When it is done over that"`
	With      []string        `json:"with" nullable:"false" doc:"Names of what goes over it as well"`
	Said      message.Message `json:"said"`
}

// How a step touches what others touch.
var (
	waterVerbs = spaced([]string{"blanch", "boil", "poach", "cook in water", "simmer in water", "refresh", "cook in salted water"})
	boardVerbs = spaced([]string{"cut", "slice", "chop", "dice", "carve", "shave", "portion", "trim", "fillet", "julienne", "halve",
		"quarter", "bone"})
)

// touch is one thing that a step shares with others.
type touch struct {
	kind    string
	on      EquipmentKind
	section string
	phase   Phase
	raw     bool // nothing was done with it before: what is put in later is not on the board
}

// meets reports whether two go over the same thing: oil stays for the whole day and is everybody's, as a hot surface is while it is
// done ahead or to order; water and a board are a section's.
func (t touch) meets(o touch) bool {
	switch {
	case t.kind != o.kind || t.on != o.on:
		return false
	case t.kind == "oil":
		return true
	default:
		return t.phase == o.phase && (t.kind == "surface" || t.section == o.section)
	}
}

func (c *Component) touches() (out []touch) {
	for i := range c.Steps {
		s := &c.Steps[i]
		var kind EquipmentKind
		if s.Equipment != nil {
			kind = s.Equipment.Kind
		}
		t := touch{on: kind, section: c.SectionOf(s), phase: s.Phase, raw: len(s.After) == 0}
		switch name := spacedWords(s.Name); {
		case kind == Fryer:
			t.kind = "oil"
		case kind == Plancha || kind == Grill:
			t.kind = "surface"
		case kind == Burner && slices.ContainsFunc(waterVerbs, func(w string) bool { return strings.Contains(name, w) }):
			t.kind = "water"
		case (kind == "" || kind == Bench) && slices.ContainsFunc(boardVerbs, func(w string) bool { return strings.Contains(name, w) }):
			t.kind, t.on = "board", ""
		default:
			continue
		}
		if !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	return out
}

// Contacts lists how something that a guest must not have can get to a plate from what is served beside it: once for each component and
// way. What has it itself is no question of contact, and is not listed.
func (b *Book) Contacts(plate []Element, n Needs, beside []Element) []Contact {
	out := []Contact{}
	if !n.OwnPan() {
		return out
	}
	others := b.withMade(beside)
	for _, id := range b.withMade(plate) {
		c := b.components[id]
		if len(b.Against([]Element{{Component: id}}, n)) > 0 {
			continue
		}
		for _, t := range c.touches() {
			var with, what []string
			for _, o := range others {
				against := b.carries(b.components[o], t, n)
				if o == id || len(against) == 0 {
					continue
				}
				with = append(with, b.components[o].Name)
				for _, a := range against {
					if name := a.Named(b.data.Kitchen.SafetyCode); !slices.Contains(what, name) {
						what = append(what, name)
					}
				}
			}
			if len(with) > 0 {
				out = append(out, Contact{t.kind, id, t.section, t.phase, with, b.contactSaid(t, c.Name, with, what)})
			}
		}
	}
	return out
}

// carries is what a component leaves on something that it goes over and a guest must not have; a cut of what is raw leaves only what
// the thing itself has.
func (b *Book) carries(c *Component, over touch, n Needs) (out []Against) {
	for _, t := range c.touches() {
		if !over.meets(t) {
			continue
		}
		for _, a := range b.Against([]Element{{Component: c.ID}}, n) {
			itself := a.From == c.Name || len(c.Ingredients) > 0 && a.From == c.Ingredients[0].Name
			if (!t.raw || t.kind != "board" || itself) && !slices.Contains(out, a) {
				out = append(out, a)
			}
		}
	}
	return out
}

func (b *Book) contactSaid(t touch, component string, with, what []string) message.Message {
	section := b.sectionName(t.section)
	switch t.kind {
	case "oil":
		return message.Of("contact.oil", "component", component, "with", with, "what", what)
	case "water":
		return message.Of("contact.water", "component", component, "with", with, "what", what, "section", section)
	case "surface":
		return message.Of("contact.surface", "component", component, "with", with, "what", what, "on", string(t.on))
	default:
		return message.Of("contact.board", "component", component, "with", with, "what", what, "section", section)
	}
}

func (b *Book) sectionName(id string) string {
	if s := b.sections[id]; s != nil {
		return s.Name
	}
	return id
}

// withMade lists the components of some elements and what goes into them, each once.
func (b *Book) withMade(elements []Element) (out []string) {
	var add func(id string)
	add = func(id string) {
		if b.components[id] == nil || slices.Contains(out, id) {
			return
		}
		out = append(out, id)
		for _, u := range b.components[id].Uses {
			add(u.Component)
		}
	}
	for _, e := range elements {
		add(e.Component)
	}
	return out
}

// GuestPlate is a plate for a guest who must not have something: whether it suits by its recipes, and what could still get to it.
type GuestPlate struct {
	Dish    string            `json:"dish" doc:"Its name"`
	Variant string            `json:"variant,omitempty"`
	Count   int               `json:"count"`
	Needs   []string          `json:"needs" nullable:"false"`
	State   string            `json:"state" enum:"suits,not-known,contains,not-defined" doc:"By its recipes"`
	Said    []message.Message `json:"said" nullable:"false" doc:"What it has, or what is not known"`
	Contact []Contact         `json:"contact" nullable:"false"`
}

// PlateFor says of a plate that was ordered by guests with needs whether it suits them, and what could get to it from what is served
// beside it.
func (b *Book) PlateFor(dish *Dish, plate []Element, o *TableOrder, beside []Element) GuestPlate {
	n := o.Needs()
	g := GuestPlate{Dish: dish.Name, Variant: o.Variant, Count: o.Count, Needs: n.Words(), State: "suits", Said: []message.Message{},
		Contact: b.Contacts(plate, n, beside)}
	say := func(state string, m message.Message) {
		if g.State == "suits" {
			g.State = state
		}
		g.Said = addOnce(g.Said, m)
	}
	for _, d := range b.Undefined(n) {
		say("not-defined", message.Of("diet.not-defined", "diet", string(d)))
	}
	against := b.Against(plate, n)
	for _, a := range against {
		g.State = "contains"
		g.Said = addOnce(g.Said, message.Of("diet.has", "what", a.Named(b.data.Kitchen.SafetyCode), "component", a.Component, "from", a.From))
	}
	if unknown := b.UnknownRecipes(plate); len(unknown) > 0 {
		say("not-known", message.Of("diet.not-known", "unknown", unknown))
	}
	for _, s := range b.suggestedAgainst(plate, n) {
		say("not-known", message.Of("diet.suggests", "word", s.Word, "what", s.What(), "in", s.In))
	}
	return g
}

// GoesInto reports whether a component is another, or goes into it.
func (b *Book) GoesInto(component, into string) bool {
	return slices.Contains(b.withMade([]Element{{Component: into}}), component)
}

// ContactsAhead lists, by component, what could get to what is made ahead for the guests with needs of a service.
func (b *Book) ContactsAhead(s *Service) map[string][]message.Message {
	out := map[string][]message.Message{}
	orders, _ := b.TableOrders(s)
	var served []Element
	type plate struct {
		of    []Element
		needs Needs
	}
	var plates []plate
	for _, table := range orders {
		for i := range table {
			d := b.dishes[table[i].Dish]
			if d == nil {
				continue
			}
			es, err := d.Plate(table[i].Variant)
			if err != nil {
				continue
			}
			served = append(served, es...)
			if n := table[i].Needs(); n.OwnPan() {
				plates = append(plates, plate{es, n})
			}
		}
	}
	for _, p := range plates {
		for _, c := range b.Contacts(p.of, p.needs, served) {
			if c.Phase == Ahead {
				out[c.Component] = addOnce(out[c.Component], c.Said)
			}
		}
	}
	return out
}
