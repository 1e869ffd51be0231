package expand

import (
	"slices"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// What of one component waits for what of another on the same plate. Portions are numbered by plate: a batch waits for those
// batches of the other component that hold portions of its plates, and for no others.

// madeInto adds what is made to order to go into something on the plates of an order.
func (f *Firing) madeInto(d *kitchen.Dish, elements []kitchen.Element, o Order, plate int, apart bool, byKey map[key]*wanted) {
	once := map[string]bool{}
	for _, e := range elements {
		once[e.Component] = true
	}
	cooked := f.book.Cooked(elements)
	for _, c := range cooked {
		k := key{c.ID, apart}
		x := byKey[k]
		if x == nil {
			x = &wanted{component: c, place: f.Table.ID, apart: apart}
			byKey[k] = x
			f.wants = append(f.wants, x)
		}
		for _, user := range cooked {
			if c.UsedToOrder() && slices.ContainsFunc(user.Uses, func(u kitchen.Use) bool { return u.Component == c.ID }) {
				if !slices.Contains(x.into, user.ID) {
					x.into = append(x.into, user.ID)
				}
			}
		}
		if once[c.ID] {
			continue
		}
		once[c.ID] = true
		x.more(o, plate)
		if !slices.ContainsFunc(f.Moments, func(m Moment) bool { return m.Component == c.ID && m.Apart == apart }) {
			f.Moments = append(f.Moments, Moment{Component: c.ID, Dish: d.ID, Apart: apart, Into: x.into[0]})
		}
	}
}

// plateOf is a plate of a table-course.
type plateOf struct {
	firing *Firing
	plate  int
}

// of lists the plates of a batch.
func (x *wanted) of(b batch) []plateOf {
	var out []plateOf
	for _, s := range x.shares {
		for i := max(b.from, s.from); i < min(b.to, s.to); i++ {
			out = append(out, plateOf{s.firing, x.plates[i]})
		}
	}
	return out
}

// crossing ties the components of the plates of some table-courses to each other.
type crossing struct {
	wants map[*Firing]map[key]*wanted // who cooks it, for a table-course
	home  map[*wanted]*Firing         // whose workload has its tasks
}

// across adds the waits between components of the same plates, when every batch of every table-course is there.
func across(firings []*Firing) {
	c := crossing{map[*Firing]map[key]*wanted{}, map[*wanted]*Firing{}}
	for _, f := range firings {
		c.wants[f] = map[key]*wanted{}
	}
	for _, f := range firings {
		for _, x := range f.wants {
			c.home[x] = f
			for _, s := range x.shares {
				c.wants[s.firing][key{x.component.ID, x.apart}] = x
			}
		}
	}
	for _, f := range firings {
		for _, x := range f.wants {
			for i := range x.component.Steps {
				for _, a := range x.component.Steps[i].Beside {
					c.after(x, &x.component.Steps[i], a)
				}
			}
			for _, user := range x.into {
				c.into(x, user)
			}
		}
	}
}

// others lists those who cook a component for the plates of what is wanted, each once.
func (c *crossing) others(x *wanted, component string) []*wanted {
	var out []*wanted
	for _, s := range x.shares {
		if y := c.wants[s.firing][key{component, x.apart}]; y != nil && !slices.Contains(out, y) {
			out = append(out, y)
		}
	}
	return out
}

// alongside lists the batches that hold portions of the plates of another.
func alongside(x *wanted, b batch, y *wanted, list []batch) []batch {
	var out []batch
	plates := x.of(b)
	for _, p := range list {
		if slices.ContainsFunc(y.of(p), func(of plateOf) bool { return slices.Contains(plates, of) }) {
			out = append(out, p)
		}
	}
	return out
}

// after lets the batches of a step wait for those of a step of another component that hold the same plates' portions. What
// goes on in a pan goes on in the last of them; the others only come before.
func (c *crossing) after(x *wanted, s *kitchen.Step, a kitchen.OtherStep) {
	w := kitchen.PlannedBeside(a).Wait
	if a.Any {
		c.takenFrom(x, s, a, w)
		return
	}
	for _, q := range x.made[s.ID] {
		for _, y := range c.others(x, a.Component) {
			list := alongside(x, q, y, y.made[a.Step])
			for k, p := range list {
				wait := w
				if a.Pan && k < len(list)-1 {
					wait = kitchen.Wait{Shortest: w.Shortest, NoLimit: true}
				}
				c.home[x].link(p.id, q.id, wait, 0)
				if a.Pan && k == len(list)-1 {
					c.samePan(x, s, q, y, a.Step, p)
				}
			}
		}
	}
}

// takenFrom lets the batches of a step wait for the first batch of a step of another component at their tables, whoever's
// plates that is for, and lets nothing more be done to that before: the same thing, finished otherwise.
func (c *crossing) takenFrom(x *wanted, s *kitchen.Step, a kitchen.OtherStep, w kitchen.Wait) {
	for _, q := range x.made[s.ID] {
		for _, share := range x.shares {
			if q.from >= share.to || share.from >= q.to {
				continue
			}
			for _, apart := range []bool{false, true} {
				y := c.wants[share.firing][key{a.Component, apart}]
				if y == nil || len(y.made[a.Step]) == 0 {
					continue
				}
				c.home[x].link(y.made[a.Step][0].id, q.id, w, 0)
				break
			}
		}
	}
}

// samePan ties a batch to the equipment of a batch of another component.
func (c *crossing) samePan(x *wanted, s *kitchen.Step, q batch, y *wanted, step string, p batch) {
	before := &y.component.Steps[y.component.StepIndex(step)]
	t, on := c.home[x].task(q.main()), c.home[y].task(p.main())
	if t == nil || on == nil || s.Equipment == nil || before.Equipment == nil {
		return
	}
	last, was := len(t.Needs)-1, len(on.Needs)-1
	if t.Needs[last].As == nil && slices.Equal(t.Needs[last].AnyOf, on.Needs[was].AnyOf) {
		t.Needs[last].As = &workload.As{Task: on.ID, Need: was}
	}
}

func (f *Firing) task(id string) *workload.Task {
	for i := range f.Workload.Tasks {
		if f.Workload.Tasks[i].ID == id {
			return &f.Workload.Tasks[i]
		}
	}
	return nil
}

// into lets what goes into another component be done before the steps of that one which take it in.
func (c *crossing) into(x *wanted, user string) {
	w := x.component.PlannedHold().Wait
	steps := x.component.InPhase(kitchen.PickUp)
	for i := range steps {
		if slices.ContainsFunc(steps, func(s kitchen.Step) bool {
			return slices.ContainsFunc(s.After, func(a kitchen.Predecessor) bool { return a.Step == steps[i].ID })
		}) {
			continue
		}
		for _, p := range x.made[steps[i].ID] {
			for _, y := range c.others(x, user) {
				for _, step := range y.component.TakesIn(x.component.ID) {
					for _, q := range alongside(x, p, y, y.made[step]) {
						c.home[x].link(p.id, q.id, w, 0)
					}
				}
			}
		}
	}
}

// planned is the wait between what two tasks of steps to order are, as it is planned: within a component, from one to another
// on the same plates, or of what goes into something. ok is false where nothing lies between them but their turn.
func planned(b *kitchen.Book, from, to TaskRef) (_ kitchen.Planned, ok bool) {
	c, known := b.Component(from.Component)
	if !known || from.Preheat {
		return kitchen.Planned{}, false
	}
	if to.Plating {
		return c.PlannedHold(), true
	}
	other, known := b.Component(to.Component)
	if !known || other == c && from.Step == to.Step {
		return kitchen.Planned{}, false
	}
	s := &other.Steps[other.StepIndex(to.Step)]
	if other == c {
		for _, a := range s.After {
			if a.Step == from.Step {
				return c.PlannedWait(s, a), true
			}
		}
		return kitchen.Planned{}, false
	}
	for _, a := range s.Beside {
		if a.Component == c.ID && a.Step == from.Step {
			return kitchen.PlannedBeside(a), true
		}
	}
	return c.PlannedHold(), true // it goes into the other
}
