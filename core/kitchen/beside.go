package kitchen

import (
	"fmt"
	"slices"
)

// What of one component waits for what of another, on the same plate: the sauce is made in the pan of the meat, the fish comes
// out of its sauce before that is bound, cooking water thins the dressing.

// PlannedBeside is the wait after a step of another component, as it is planned: at once in its pan, and by its place
// otherwise.
func PlannedBeside(a OtherStep) Planned {
	if !a.unlimited() {
		return Planned{Wait: a.Wait}
	}
	if a.Pan {
		return atOnce(a.Wait)
	}
	return placed(a.Wait)
}

// UsedToOrder reports whether a component goes into others only as it is made to order: it is cooked with its user, and not
// taken from what was made ahead.
func (c *Component) UsedToOrder() bool {
	return len(c.InPhase(PickUp)) > 0 && len(c.InPhase(Ahead)) == 0
}

// besideThere reports steps of other components that are not there, or are made ahead, and plates on which steps wait for
// each other in a circle.
func (b *Book) besideThere(f finder) {
	any := false
	for i := range b.data.Components {
		c := &b.data.Components[i]
		for k, s := range c.Steps {
			for n, a := range s.Beside {
				any = true
				other := b.components[a.Component]
				g := f.at("components[%d].steps[%d].beside[%d]", i, k, n)
				switch {
				case other == nil: // said already
				case other.ID == c.ID:
					g.at("component").say("fault.beside-itself", "component", c.Name)
				case other.StepIndex(a.Step) < 0:
					g.at("step").say("fault.beside-no-step", "component", other.Name, "id", short(a.Step))
				case other.Steps[other.StepIndex(a.Step)].Phase != PickUp:
					g.at("step").say("fault.beside-made-ahead", "component", other.Name, "step", other.Steps[other.StepIndex(a.Step)].Name)
				}
			}
		}
	}
	if !any || len(*f.faults) > 0 {
		return
	}
	for i := range b.data.Dishes {
		d := &b.data.Dishes[i]
		if circle := b.plateCircle(d.Specification.Elements); circle != "" {
			f.at("dishes[%d].specification.elements", i).say("fault.plate-circle", "dish", d.Name, "steps", circle)
		}
		for k := range d.Specification.Variants {
			if circle := b.plateCircle(d.Specification.Variants[k].apply(d.Specification.Elements)); circle != "" {
				f.at("dishes[%d].specification.variants[%d]", i, k).say("fault.plate-circle", "dish", d.Name, "steps", circle)
			}
		}
	}
}

// Cooked lists what is cooked for a plate: the components on it, and what is made to order to go into those, each once.
func (b *Book) Cooked(elements []Element) []*Component {
	var out []*Component
	var take func(id string)
	take = func(id string) {
		c := b.components[id]
		if c == nil || slices.Contains(out, c) {
			return
		}
		out = append(out, c)
		for _, u := range c.Uses {
			if other := b.components[u.Component]; other != nil && other.UsedToOrder() {
				take(u.Component)
			}
		}
	}
	for _, e := range elements {
		take(e.Component)
	}
	return out
}

// plateCircle names a circle among the steps to order of a plate, "" where there is none.
func (b *Book) plateCircle(elements []Element) string {
	cooked := b.Cooked(elements)
	name := func(c *Component, step string) string {
		return fmt.Sprintf("%s: %s", c.Name, c.Steps[c.StepIndex(step)].Name)
	}
	var ids []string
	before := map[string][]string{}
	for _, c := range cooked {
		steps := c.InPhase(PickUp)
		for i := range steps {
			id := name(c, steps[i].ID)
			ids = append(ids, id)
			for _, a := range steps[i].After {
				if c.Steps[c.StepIndex(a.Step)].Phase == PickUp {
					before[id] = append(before[id], name(c, a.Step))
				}
			}
			for _, a := range steps[i].Beside {
				if other := b.components[a.Component]; slices.Contains(cooked, other) {
					before[id] = append(before[id], name(other, a.Step))
				}
			}
			for _, u := range c.Uses { // what goes into it is done before it
				if other := b.components[u.Component]; other.UsedToOrder() && slices.Contains(c.TakesIn(u.Component), steps[i].ID) {
					for _, s := range other.InPhase(PickUp) {
						before[id] = append(before[id], name(other, s.ID))
					}
				}
			}
		}
	}
	return cycle(ids, before)
}

// TakesIn lists the steps to order before which a component that goes into this one must be done: its first ones, and none
// where one of its steps says itself after which step of the other it comes.
func (c *Component) TakesIn(component string) []string {
	var out []string
	for _, s := range c.InPhase(PickUp) {
		if slices.ContainsFunc(s.Beside, func(a OtherStep) bool { return a.Component == component }) {
			return nil
		}
		if !slices.ContainsFunc(s.After, func(a Predecessor) bool { return c.Steps[c.StepIndex(a.Step)].Phase == PickUp }) {
			out = append(out, s.ID)
		}
	}
	return out
}

// Mate is a component that shares a plate with another, with the steps that are done to order.
type Mate struct {
	Component string     `json:"component"`
	Name      string     `json:"name"`
	Steps     []MateStep `json:"steps" nullable:"false"`
}

// MateStep is a step that another component's may come after.
type MateStep struct {
	Step string `json:"step"`
	Name string `json:"name"`
}

// Mates lists what is cooked to order for the same plates as a component, in the order of the book.
func (b *Book) Mates(component string) []Mate {
	with := map[string]bool{}
	for i := range b.data.Dishes {
		d := &b.data.Dishes[i]
		for _, v := range append([]string{""}, variantNames(&d.Specification)...) {
			es, _ := d.Plate(v)
			cooked := b.Cooked(es)
			if slices.ContainsFunc(cooked, func(c *Component) bool { return c.ID == component }) {
				for _, c := range cooked {
					with[c.ID] = true
				}
			}
		}
	}
	out := []Mate{}
	for i := range b.data.Components {
		c := &b.data.Components[i]
		if c.ID == component || !with[c.ID] || len(c.InPhase(PickUp)) == 0 {
			continue
		}
		m := Mate{Component: c.ID, Name: c.Name}
		for _, s := range c.InPhase(PickUp) {
			m.Steps = append(m.Steps, MateStep{s.ID, s.Name})
		}
		out = append(out, m)
	}
	return out
}

func variantNames(s *Specification) (out []string) {
	for _, v := range s.Variants {
		out = append(out, v.Name)
	}
	return out
}
