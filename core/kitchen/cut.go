package kitchen

// The cut between what is made ahead and what is done to order: how long before the plate the first step to order begins, and
// how long what was made ahead may wait for it.

// OrderSpan is how long before its moment on the plate a component's first step to order begins: the longest path through
// those steps for so many portions, with the shortest of every wait, seconds.
func (c *Component) OrderSpan(portions int) int {
	finish := map[string]int{}
	most := 0
	for _, s := range c.InPhase(PickUp) {
		start := 0
		for _, a := range s.After {
			start = max(start, finish[a.Step]+a.Shortest)
		}
		n := portions
		if s.Batch != nil && s.Batch.Run == SideBySide {
			n = min(n, s.Batch.Portions)
		}
		finish[s.ID] = start + s.Time.For(n).Likely
		most = max(most, finish[s.ID])
	}
	if len(finish) == 0 {
		return 0
	}
	return most + c.PlannedHold().Shortest
}

// AcrossTheCut is the wait between what is made ahead and the first step to order, or the plate, as somebody said it.
func (c *Component) AcrossTheCut() Wait {
	steps := c.InPhase(PickUp)
	for i := range steps {
		for _, a := range steps[i].After {
			if k := c.StepIndex(a.Step); k >= 0 && c.Steps[k].Phase == Ahead {
				return a.Wait
			}
		}
	}
	if len(steps) == 0 {
		return c.Hold
	}
	return Wait{}
}

// Cooks reports whether a step heats what it is done to.
func (s *Step) Cooks() bool { return s.Equipment != nil && s.Equipment.Kind.Heats() }

// Cooked is the last step ahead that heats a component, from whose end its use-by counts; nil where none does.
func (c *Component) Cooked() *Step {
	var out *Step
	for _, s := range c.InPhase(Ahead) {
		if s.Cooks() {
			out = &c.Steps[c.StepIndex(s.ID)]
		}
	}
	return out
}

// stands is how long something that was cooked ahead stands at the most before it goes on or is chilled, where nobody said.
// Common practice, no source; a safety code may be shorter.
const stands = 30 * minute

// PlannedAhead is the wait between two steps ahead, as it is planned: what was cooked goes on, or is chilled, at once.
func (c *Component) PlannedAhead(s *Step, a Predecessor) Planned {
	k := c.StepIndex(a.Step)
	if !a.unlimited() || k < 0 || s.Phase != Ahead || !c.Steps[k].Cooks() || a.Place == Chilled || a.Place == Frozen || a.Place == Dry {
		return Planned{Wait: a.Wait}
	}
	w := a.Wait
	l := w.Shortest + stands
	if w.Best != nil {
		l = max(l, *w.Best)
	}
	w.Longest = &l
	return Planned{Wait: w, Assumed: true, By: "cooked"}
}
