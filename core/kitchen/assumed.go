package kitchen

// What is taken for granted of a component where nobody said, in one list for whoever shows it.

// Assumed is what is assumed of a component.
type Assumed struct {
	Thing string        `json:"thing" doc:"The kind of thing that it is taken to be, in words; empty when that is not known"`
	Waits []AssumedWait `json:"waits" nullable:"false" doc:"Every wait to order, as it is planned"`
	Steps []AssumedStep `json:"steps" nullable:"false" doc:"Every step"`
}

// AssumedWait is a wait as it is planned.
type AssumedWait struct {
	After string  `json:"after" doc:"The step before it; empty for the wait to the plate"`
	To    string  `json:"to" doc:"The step after it; empty for the wait to the plate"`
	Plan  Planned `json:"plan"`
}

// AssumedStep is what a step takes and may, as it is planned.
type AssumedStep struct {
	Step     string `json:"step"`
	Eyes     int    `json:"eyes" doc:"Of a cook, while it goes on"`
	GoesOn   bool   `json:"goes_on" doc:"In the same pan and hands as the step before"`
	MayBegin bool   `json:"may_begin" doc:"Before its table is called"`
	Piece    Piece  `json:"piece" doc:"What it heats, for a start, where its size is to set its time"`
}

// Assumed lists what is assumed of a component.
func (c *Component) Assumed() Assumed {
	out := Assumed{Waits: []AssumedWait{}, Steps: []AssumedStep{}}
	if u := c.UsualOf(); u != nil {
		out.Thing = u.Name
	}
	for i := range c.Steps {
		s := &c.Steps[i]
		x := AssumedStep{Step: s.ID, Eyes: s.Watch(), MayBegin: c.MayBegin(s), Piece: c.UsualPiece(s)}
		if s.Phase == Ahead {
			for _, a := range s.After {
				if w := c.PlannedAhead(s, a); w.Assumed {
					out.Waits = append(out.Waits, AssumedWait{a.Step, s.ID, w})
				}
			}
			out.Steps = append(out.Steps, x)
			continue
		}
		for _, a := range s.After {
			if k := c.StepIndex(a.Step); k >= 0 && c.Steps[k].Phase == PickUp {
				out.Waits = append(out.Waits, AssumedWait{a.Step, s.ID, c.PlannedWait(s, a)})
				x.GoesOn = x.GoesOn || c.GoesOn(s, a.Step)
			}
		}
		out.Steps = append(out.Steps, x)
	}
	if len(c.InPhase(PickUp)) > 0 {
		out.Waits = append(out.Waits, AssumedWait{Plan: c.PlannedHold()})
	}
	return out
}
