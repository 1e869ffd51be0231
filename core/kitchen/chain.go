package kitchen

import (
	"fmt"
	"slices"

	"jointime/core/message"
)

// The operations of the chain editor. Each keeps the waits that a person has set: a
// wait belongs to the step that comes after it. None checks the outcome; that is
// CheckComponent's work.

// Linear reports whether every step comes after exactly the one before it in the list.
func (c *Component) Linear() bool {
	for i, s := range c.Steps {
		switch {
		case i == 0 && len(s.After) != 0:
			return false
		case i > 0 && (len(s.After) != 1 || s.After[0].Step != c.Steps[i-1].ID):
			return false
		}
	}
	return true
}

// InsertStep puts a step at a place in the list, 0 to len(Steps). It comes after the
// step before it; what came after that one comes after the new one, with its wait. It
// takes the phase of the step before it, or of the one after when it is the first. An id
// that is taken gets a number. The error says that the place does not exist.
func (c *Component) InsertStep(at int, s Step) error {
	if at < 0 || at > len(c.Steps) {
		return message.Fail("fault.range", "low", 0, "high", len(c.Steps), "got", at)
	}
	s.ID = c.freeStepID(s.ID)
	switch {
	case at > 0:
		before := c.Steps[at-1]
		s.Phase = before.Phase
		s.After = []Predecessor{{Step: before.ID}}
		if at < len(c.Steps) {
			for k, a := range c.Steps[at].After {
				if a.Step == before.ID {
					c.Steps[at].After[k].Step = s.ID
				}
			}
		}
	case len(c.Steps) > 0:
		s.Phase, s.After = c.Steps[0].Phase, []Predecessor{}
		if len(c.Steps[0].After) == 0 {
			c.Steps[0].After = []Predecessor{{Step: s.ID}}
		}
	default:
		s.After = []Predecessor{}
	}
	c.Steps = slices.Insert(c.Steps, at, s)
	return nil
}

func (c *Component) freeStepID(id string) string {
	for n, next := 2, id; ; n++ {
		if c.StepIndex(next) < 0 {
			return next
		}
		next = fmt.Sprintf("%s-%d", id, n)
	}
}

// RemoveStep takes a step out; what came after it comes after what it came after, with
// its own wait. The error says that there is no such step.
func (c *Component) RemoveStep(id string) error {
	i := c.StepIndex(id)
	if i < 0 {
		return message.Fail("fault.no-step", "id", short(id))
	}
	gone := c.Steps[i]
	c.Steps = slices.Delete(c.Steps, i, i+1)
	for k := range c.Steps {
		var after []Predecessor
		for _, a := range c.Steps[k].After {
			if a.Step != id {
				after = append(after, a)
				continue
			}
			for _, g := range gone.After {
				if !slices.ContainsFunc(after, func(x Predecessor) bool { return x.Step == g.Step }) {
					after = append(after, Predecessor{g.Step, a.Wait})
				}
			}
		}
		if after == nil {
			after = []Predecessor{}
		}
		c.Steps[k].After = after
	}
	return nil
}

// MoveStep moves the step at from to stand at to. In a linear chain the steps are tied
// to each other again in the new order, and a step that crosses the cut changes its
// phase; in a graph only the order of the list changes.
func (c *Component) MoveStep(from, to int) error {
	if n := len(c.Steps); from < 0 || from >= n || to < 0 || to >= n {
		return message.Fail("fault.places", "low", 0, "high", n-1, "from", from, "to", to)
	}
	if from == to {
		return nil
	}
	linear := c.Linear()
	s := c.Steps[from]
	c.Steps = slices.Delete(c.Steps, from, from+1)
	if linear {
		switch {
		case to == len(c.Steps):
			s.Phase = c.Steps[to-1].Phase
		case to == 0, c.Steps[to].Phase == c.Steps[to-1].Phase:
			s.Phase = c.Steps[to].Phase
		} // between the phases it keeps its own
	}
	c.Steps = slices.Insert(c.Steps, to, s)
	if linear {
		c.relink()
	}
	return nil
}

// relink ties each step to the one before it. The first step has no wait before it: what
// it had goes to the step that was first.
func (c *Component) relink() {
	var spare Wait
	if len(c.Steps) > 0 && len(c.Steps[0].After) > 0 {
		spare = c.Steps[0].After[0].Wait
	}
	for i := range c.Steps {
		if i == 0 {
			c.Steps[i].After = []Predecessor{}
			continue
		}
		w := spare
		if len(c.Steps[i].After) > 0 {
			w = c.Steps[i].After[0].Wait
		} else {
			spare = Wait{}
		}
		c.Steps[i].After = []Predecessor{{c.Steps[i-1].ID, w}}
	}
}

// CutAt makes the first n steps of the list make-ahead and the others pick-up.
func (c *Component) CutAt(n int) error {
	if n < 0 || n > len(c.Steps) {
		return message.Fail("fault.range", "low", 0, "high", len(c.Steps), "got", n)
	}
	for i := range c.Steps {
		c.Steps[i].Phase = PickUp
		if i < n {
			c.Steps[i].Phase = Ahead
		}
	}
	return nil
}
