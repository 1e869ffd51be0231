package service

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// Who and what is not there for a while: what is given to them then, and what the screens say of it.

// Absence is a person or a piece of equipment that is not there.
type Absence struct {
	Who       string     `json:"who,omitempty"`
	Equipment string     `json:"equipment,omitempty"`
	Since     time.Time  `json:"since"`
	Until     *time.Time `json:"until,omitempty"`
	Event     string     `json:"event"`
	// CountedOn is in what is due alone: nothing that was said tells it.
	CountedOn *time.Time `json:"counted_on,omitempty" doc:"From when the plan counts on them again, where nobody knows until when"`
	// Left too.
	Left []LeftIn `json:"left,omitempty" nullable:"false" doc:"What was in it when it went, and goes on there by the plan"`
}

// LeftIn is what of one step is in a piece of equipment that is not there any more.
type LeftIn struct {
	Tasks    []string  `json:"tasks" nullable:"false"`
	What     string    `json:"what"`
	Portions int       `json:"portions"`
	DoneAt   time.Time `json:"done_at" doc:"When the first of it is done"`
}

// is who or what is not there, as plans name it.
func (a *Absence) is() expand.ResourceRef {
	if a.Equipment != "" {
		return expand.ResourceRef{Kind: kitchen.EquipmentRecord, ID: a.Equipment}
	}
	return expand.ResourceRef{Kind: kitchen.PersonRecord, ID: a.Who}
}

// awayAt is who and what is not there at an instant, by the clock of a place. Of whom nobody knows until when it says from when the plan
// counts on them again: where nobody else can do what is theirs it is planned for later, and that is a guess (unknownFor).
func (s *State) awayAt(p *Plan, now time.Time, zone *time.Location) []Absence {
	out := []Absence{}
	for _, a := range s.Out {
		if a.Until != nil && !a.Until.After(now) {
			continue
		}
		a.Since = a.Since.In(zone)
		if a.Until != nil {
			until := a.Until.In(zone)
			a.Until = &until
		} else if p.NextOf != nil {
			x := a.is()
			if at, ok := p.NextOf(x.Kind, x.ID, now); ok {
				at = at.In(zone)
				a.CountedOn = &at
			}
		}
		out = append(out, a)
	}
	return out
}

// leftIn are what goes on in a piece of equipment that is not there, the first to be done first. The plan does not know whether a broken
// oven is still hot, or where there is room for what is in it: it goes on as if nothing had been, until somebody says that it is held, or
// made again; so the screens name it.
func (p *Plan) leftIn(a *Absence, lines []DueLine) (out []LeftIn) {
	if a.Equipment == "" || p.TakenOf == nil {
		return nil
	}
	x := a.is()
	tasks := p.TakenOf(x.Kind, x.ID)
	var in []*DueLine
	for i := range lines {
		if l := &lines[i]; (l.Standing == IsOn || l.Standing == Asks) && !l.FireAt.After(a.Since) && slices.Contains(tasks, l.Task) {
			in = append(in, l)
		}
	}
	slices.SortFunc(in, func(a, b *DueLine) int { return cmp.Or(a.DoneAt.Compare(b.DoneAt), cmp.Compare(a.Task, b.Task)) })
	of := map[[2]string]int{}
	for _, l := range in {
		key := [2]string{l.Component, l.Step}
		k, known := of[key]
		if !known {
			k, of[key] = len(out), len(out)
			out = append(out, LeftIn{What: l.What, DoneAt: l.DoneAt})
		}
		out[k].Tasks, out[k].Portions = append(out[k].Tasks, l.Task), out[k].Portions+l.Portions
	}
	return out
}

// Of whom nobody knows when they are back, and without whom something cannot be done, it is taken that they are so long after they went,
// seconds; and where they are not, by so much is that put off, as often. Were it put off with the clock, all that waits for them would be
// told anew whenever the plan follows. Common practice, no source.
const (
	unknownFor  = 1200
	unknownStep = 300
)

// absent gives nothing new to who and what is not there, and what they have begun to others. Of several who are away for nobody knows how
// long, and can do the same, the last who went is the first who is back.
func (h *happening) absent() {
	h.e.TakenOver(h.w)
	out := slices.SortedStableFunc(slices.Values(h.state.Out), func(a, b Absence) int { return a.Since.Compare(b.Since) })
	h.e.HandOver(h.w, func(person string) bool {
		return slices.ContainsFunc(out, func(a Absence) bool {
			return a.Equipment == "" && a.Who == person && (a.Until == nil || a.Until.After(h.at))
		})
	})
	gone := map[expand.ResourceRef]bool{}
	for _, a := range out {
		x := a.is()
		to := h.w.Horizon
		switch {
		case a.Until != nil:
			to = min(to, h.second(*a.Until))
		case h.e.Needed(h.w, x.Kind, x.ID, h.begins, func(kind kitchen.Kind, id string) bool {
			return gone[expand.ResourceRef{Kind: kind, ID: id}]
		}):
			since := h.second(a.Since)
			to = min(to, since+unknownFor+max(h.now-since, 0)/unknownStep*unknownStep)
		default:
			gone[x] = true
		}
		h.e.Leave(h.w, x.Kind, x.ID, h.now, to)
	}
}

// begins is when a task that has not begun was told to, now at the soonest.
func (h *happening) begins(task string) int64 {
	if r := h.told[task]; r != nil {
		return max(r.Start, h.now)
	}
	return h.now
}
