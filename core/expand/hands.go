package expand

import (
	"cmp"
	"slices"
)

// SectionHands is how many of a section's people have their hands full over the evening: of those who are at
// home there and of those who are lent to it, wherever they work.
type SectionHands struct {
	Section  string     `json:"section"`
	People   []string   `json:"people" nullable:"false" doc:"Names; those at home there first, then those who are lent"`
	Capacity int64      `json:"capacity" doc:"Pairs of hands"`
	Steps    []LoadStep `json:"steps" nullable:"false" doc:"Where the use changes"`
	Peak     int64      `json:"peak"`
}

// hands adds the loads of people's hands up by section.
func (e *Evening) hands(loads []Load) []SectionHands {
	out := []SectionHands{}
	for _, s := range e.book.Sections() {
		var ids, names []string
		for _, p := range e.book.People() {
			if p.Home() == s.ID && !p.Away(e.Origin.In(e.book.Zone())) {
				ids, names = append(ids, p.ID), append(names, p.Name)
			}
		}
		for _, h := range e.Service.Helpers {
			if p, ok := e.book.Person(h.Person); ok && h.Section == s.ID && !slices.Contains(ids, p.ID) {
				ids, names = append(ids, p.ID), append(names, p.Name)
			}
		}
		if len(ids) == 0 {
			continue
		}
		x := SectionHands{Section: s.ID, People: names, Capacity: int64(len(ids)), Steps: []LoadStep{}}
		x.sum(slices.DeleteFunc(slices.Clone(loads), func(l Load) bool { return l.Of.Part != Hands || !slices.Contains(ids, l.Of.ID) }))
		out = append(out, x)
	}
	return out
}

// sum fills in the steps and the peak from the loads of people.
func (x *SectionHands) sum(loads []Load) {
	var edges []LoadStep // each by how much the use changes
	for _, l := range loads {
		was := int64(0)
		for _, s := range l.Steps {
			edges = append(edges, LoadStep{s.At, s.Units - was})
			was = s.Units
		}
	}
	slices.SortStableFunc(edges, func(a, b LoadStep) int { return cmp.Compare(a.At.UnixNano(), b.At.UnixNano()) })
	now := int64(0)
	for i, s := range edges {
		now += s.Units
		if i+1 < len(edges) && edges[i+1].At.Equal(s.At) {
			continue
		}
		x.Steps = append(x.Steps, LoadStep{s.At, now})
		x.Peak = max(x.Peak, now)
	}
}
