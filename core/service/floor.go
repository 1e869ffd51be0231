package service

import "slices"

// What the floor sees: its tables, when their courses come, what is off. Not what goes on inside the kitchen.

// ForFloor is what is due without what each section does.
func (d *DueView) ForFloor() *DueView {
	out := *d
	out.Sections, out.Settle, out.Out = []SectionDue{}, []Unsettled{}, []Absence{}
	out.Joins = slices.Clone(d.Joins)
	for i := range out.Joins {
		out.Joins[i].WaitsFor = []DueLine{}
		out.Joins[i].Done, out.Joins[i].Of, out.Joins[i].Parts = 0, 0, []PartDue{}
	}
	return &out
}

// ForFloor is what stands without what each section did and what was said in words.
func (s *State) ForFloor() *State {
	out := *s
	out.Runs, out.Out, out.Troubles, out.Settle = []RunState{}, []Absence{}, []SaidInWords{}, []Unsettled{}
	return &out
}

// ForFloor reports whether the floor is told of an event.
func (e *Event) ForFloor() bool {
	return e.Task == "" && e.Kind != Trouble && e.Kind != Out && e.Kind != In && e.Kind != Undone
}
