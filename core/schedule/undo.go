package schedule

// undo remembers what resources were used for when it began, of those that are touched, so that all is as it was again at once: to copy
// that takes a fraction of what it takes to take out one by one what was put down since, and to put back what was taken out.
type undo struct {
	on    bool
	kept  []bool // of each resource, whether it is remembered
	steps [][]use
	heats [][]heat
	list  []int32 // those
	dirty []int32 // touched since it began, or since all was as it was the last time
	marks []bool  // of each resource, whether it is among these
}

func newUndo(resources int) undo {
	return undo{kept: make([]bool, resources), marks: make([]bool, resources),
		steps: make([][]use, resources), heats: make([][]heat, resources)}
}

// begin remembers all from now on.
func (u *undo) begin() {
	u.end()
	u.on = true
}

// end forgets it.
func (u *undo) end() {
	for _, r := range u.list {
		u.kept[r] = false
	}
	for _, r := range u.dirty {
		u.marks[r] = false
	}
	u.on, u.list, u.dirty = false, u.list[:0], u.dirty[:0]
}

// touch is called before the use of a resource changes.
func (u *undo) touch(s *state, r int32) {
	if u.marks[r] {
		return
	}
	u.marks[r] = true
	u.dirty = append(u.dirty, r)
	if u.kept[r] {
		return
	}
	u.kept[r] = true
	u.list = append(u.list, r)
	u.steps[r] = append(u.steps[r][:0], s.prof[r].steps...)
	u.heats[r] = append(u.heats[r][:0], s.heat[r].list...)
}

// back makes the use of all resources what it was when it began.
func (u *undo) back(s *state) {
	for _, r := range u.dirty {
		u.marks[r] = false
		s.prof[r].steps = append(s.prof[r].steps[:0], u.steps[r]...)
		s.heat[r].list = append(s.heat[r].list[:0], u.heats[r]...)
	}
	u.dirty = u.dirty[:0]
}
