package kitchen

import (
	"slices"
)

// How a service does a step otherwise than as written: at another heat, by somebody else, ahead, with a longer wait. The dish
// book stays as it is.

// Way says one thing of one step in one service.
type Way struct {
	Component string   `json:"component"`
	Step      string   `json:"step,omitempty" doc:"A step to order; empty for the wait to the plate"`
	HeatC     *float64 `json:"heat_c,omitempty" doc:"Done at this heat, °C"`
	Person    string   `json:"person,omitempty" doc:"Who may do it too"`
	Ahead     bool     `json:"ahead,omitempty" doc:"It, and what comes before it, is made ahead"`
	Stretch   bool     `json:"stretch,omitempty" doc:"What comes after it may wait as long as its stretch allows"`
}

func (w *Way) kinds() (n int) {
	for _, said := range []bool{w.HeatC != nil, w.Person != "", w.Ahead, w.Stretch} {
		if said {
			n++
		}
	}
	return n
}

func checkWays(f finder, ways []Way) {
	if len(ways) > 60 {
		f.at("ways").say("fault.ways", "most", 60, "got", len(ways))
	}
	type key struct {
		component, step, person string
		heat, ahead, stretch    bool
	}
	seen := map[key]bool{}
	for i, w := range ways {
		g := f.at("ways[%d]", i)
		if w.kinds() != 1 || w.Step == "" && !w.Stretch {
			g.say("fault.way-one")
		}
		if w.HeatC != nil {
			within(g.at("heat_c"), *w.HeatC, -60, 600)
		}
		k := key{w.Component, w.Step, w.Person, w.HeatC != nil, w.Ahead, w.Stretch}
		if seen[k] {
			g.say("fault.way-twice", "component", w.Component)
		}
		seen[k] = true
	}
}

// waysThere reports what a service says of steps that are not there, and what cannot be said of them.
func (b *Book) waysThere(f finder, s *Service) {
	for i, w := range s.Ways {
		g := f.at("ways[%d]", i)
		c := b.components[w.Component]
		if c == nil {
			continue // said already
		}
		k := c.StepIndex(w.Step)
		if w.Step != "" && (k < 0 || c.Steps[k].Phase != PickUp) {
			g.at("step").say("fault.way-step", "component", c.Name, "id", short(w.Step))
			continue
		}
		if w.HeatC != nil {
			e := c.Steps[k].Equipment
			if e == nil || e.SetpointC == nil {
				g.at("heat_c").say("fault.way-heat", "step", c.Steps[k].Name)
				continue
			}
			at := *e
			at.SetpointC, at.SetpointToC = w.HeatC, nil
			b.fitsEquipment(g, &at)
		}
		if w.Stretch && b.StretchOf(c, w.Step) == nil {
			g.at("stretch").say("fault.way-stretch", "component", c.Name)
		}
	}
}

// usualStretch is how long some kinds of thing may wait in the hot cupboard where nobody said, seconds. Common practice, no
// source.
var usualStretch = map[string]int{"steak": 25 * minute, "grain": 90 * minute}

// StretchOf is how the wait after a step to order may be stretched (the wait to the plate where step is empty), as somebody
// said, and else as is usual for its kind in a hot cupboard; nil where it may not.
func (b *Book) StretchOf(c *Component, step string) *Stretched {
	if step != "" {
		for i := range c.Steps {
			for k := range c.Steps[i].After {
				if a := &c.Steps[i].After[k]; a.Step == step && a.Stretch != nil {
					return a.Stretch
				}
			}
		}
		return nil
	}
	if c.Hold.Stretch != nil {
		return c.Hold.Stretch
	}
	u := c.UsualOf()
	if u == nil || usualStretch[u.Kind] == 0 || len(c.InPhase(PickUp)) == 0 || c.Pot != nil {
		return nil
	}
	long := usualStretch[u.Kind]
	if w := c.PlannedHold(); w.Longest == nil || *w.Longest >= long {
		return nil
	}
	for _, e := range b.data.Equipment {
		if e.Kind == Holding {
			return &Stretched{LongestS: long, In: &EquipmentNeed{Kind: Holding, Units: 1}}
		}
	}
	return nil
}

// As is the book as a service does it: its steps at the service's heats, by the people it asks, ahead, with its longer waits.
func (b *Book) As(s *Service) *Book {
	if len(s.Ways) == 0 {
		return b
	}
	out := *b
	out.data.Components = slices.Clone(b.data.Components)
	cloned := map[string]bool{}
	for _, w := range s.Ways {
		i := slices.IndexFunc(out.data.Components, func(c Component) bool { return c.ID == w.Component })
		if i < 0 {
			continue
		}
		c := &out.data.Components[i]
		if !cloned[c.ID] {
			*c = c.Clone()
			cloned[c.ID] = true
		}
		b.apply(c, &w)
	}
	out.components = byID(out.data.Components, func(c *Component) string { return c.ID })
	return &out
}

func (b *Book) apply(c *Component, w *Way) {
	k := c.StepIndex(w.Step)
	switch {
	case w.Stretch && w.Step == "":
		if x := b.StretchOf(c, ""); x != nil {
			h := c.PlannedHold().Wait
			h.Longest, h.NoLimit = &x.LongestS, false
			if x.In != nil {
				h.In, h.Place = x.In, Hot
			}
			c.Hold = h
		}
	case w.Stretch:
		for i := range c.Steps {
			for n := range c.Steps[i].After {
				if a := &c.Steps[i].After[n]; a.Step == w.Step && a.Stretch != nil {
					a.Longest, a.NoLimit, a.In = &a.Stretch.LongestS, false, a.Stretch.In
				}
			}
		}
	case k < 0:
	case w.HeatC != nil:
		e := *c.Steps[k].Equipment
		e.SetpointC, e.SetpointToC = w.HeatC, nil
		c.Steps[k].Equipment = &e
	case w.Person != "":
		c.Steps[k].Also = append(slices.Clone(c.Steps[k].Also), w.Person)
	case w.Ahead:
		c.ahead(w.Step)
	}
}

// ahead makes a step, and all that it comes after, one that is made ahead.
func (c *Component) ahead(step string) {
	k := c.StepIndex(step)
	if k < 0 || c.Steps[k].Phase == Ahead {
		return
	}
	c.Steps[k].Phase, c.Steps[k].Beside = Ahead, nil
	for _, a := range c.Steps[k].After {
		c.ahead(a.Step)
	}
}

// KeepsAfter reports whether something keeps for so many seconds after one of its steps to order: for the next of them, or for
// the plate.
func (b *Book) KeepsAfter(c *Component, step string, seconds int) bool {
	followed := false
	for i := range c.Steps {
		for _, a := range c.Steps[i].After {
			if a.Step == step {
				followed = true
				if w := c.PlannedWait(&c.Steps[i], a); w.Longest != nil && *w.Longest < seconds {
					return false
				}
			}
		}
	}
	if followed {
		return true
	}
	w := c.PlannedHold()
	return w.Longest == nil || *w.Longest >= seconds
}

// WithAhead is the book with every step ahead that one of some services makes ahead.
func (b *Book) WithAhead(services []Service) *Book {
	var s Service
	for i := range services {
		for _, w := range services[i].Ways {
			if w.Ahead {
				s.Ways = append(s.Ways, w)
			}
		}
	}
	return b.As(&s)
}
