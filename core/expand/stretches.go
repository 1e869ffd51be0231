package expand

import (
	"fmt"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// Somebody who helps a section for a part of the evening is a resource for each stretch of it: the windows do not overlap, and
// what a section may ask of them are the stretches in which they are there.

// stretch is a part of a person's evening: what they are called in it, from when to when.
type stretch struct {
	called   string
	from, to int64
}

// stretchesOf cuts the evenings of those who help by the clock.
func stretchesOf(e *Evening, services []kitchen.Service) map[string][]stretch {
	cuts := map[string][]int64{}
	for i := range services {
		of := &Evening{Service: &services[i], book: e.book, Origin: e.Origin}
		for _, h := range services[i].Helpers {
			for _, minute := range []int{h.From, h.To} {
				if minute > 0 {
					cuts[h.Person] = append(cuts[h.Person], of.second(minute))
				}
			}
		}
	}
	out := map[string][]stretch{}
	for id, at := range cuts {
		slices.Sort(at)
		from := int64(-workload.MaxSeconds)
		for _, to := range append(slices.Compact(at), workload.MaxSeconds) {
			called := id
			if n := len(out[id]); n > 0 {
				called = fmt.Sprintf("%s@%d", id, n)
			}
			out[id] = append(out[id], stretch{called, from, to})
			from = to
		}
	}
	return out
}

// second is a minute of the service's day in the workload.
func (e *Evening) second(minute int) int64 {
	return int64(e.Service.At(minute, e.book.Zone()).Sub(e.Origin).Seconds())
}

// divide makes a resource of every stretch of those who help by the clock, and tells whose it is.
func (e *Evening) divide(of map[string][]stretch) {
	var out []workload.Resource
	for _, r := range e.Workload.Resources {
		ref := e.roster[r.ID]
		list := of[ref.ID]
		if !ref.IsPerson() || len(list) == 0 {
			out = append(out, r)
			continue
		}
		for _, s := range list {
			part := r
			part.ID = ResourceRef{ref.Kind, s.called, ref.Part}.name()
			part.Windows = []workload.Window{}
			for _, w := range r.Windows {
				if w.From, w.To = max(w.From, s.from), min(w.To, s.to); w.From < w.To {
					part.Windows = append(part.Windows, w)
				}
			}
			e.roster[part.ID] = ref
			out = append(out, part)
		}
	}
	e.Workload.Resources = out
}

// called are the names of some people in all their stretches.
func (in *evening) called(people []string) []string {
	var out []string
	for _, id := range people {
		if len(in.stretches[id]) == 0 {
			out = append(out, id)
		}
		for _, s := range in.stretches[id] {
			out = append(out, s.called)
		}
	}
	return out
}

// helping adds to some people those who help a section, while they do.
func (in *evening) helping(people []string, section string) []string {
	for _, h := range in.helpers {
		if h.Section != section {
			continue
		}
		for _, s := range in.stretches[h.Person] {
			if (h.From == 0 || s.from >= in.second(h.From)) && (h.To == 0 || s.to <= in.second(h.To)) && !slices.Contains(people, s.called) {
				people = append(people, s.called)
			}
		}
		if len(in.stretches[h.Person]) == 0 && !slices.Contains(people, h.Person) {
			people = append(people, h.Person)
		}
	}
	return people
}

// mayDo lists the people who may do a step tonight.
func (f *Firing) mayDo(c *kitchen.Component, s *kitchen.Step) []string {
	people := mayDo(f.book, c, s)
	if f.in == nil {
		return people
	}
	people = f.in.called(people)
	if s.May == kitchen.MayUnsaid {
		people = f.in.helping(people, c.SectionOf(s))
	}
	return people
}

// mayDo lists the people who may do a step: its section, anybody, or those who are named, and who may do it too in one
// service.
func mayDo(b *kitchen.Book, c *kitchen.Component, s *kitchen.Step) []string {
	var people []string
	switch s.May {
	case kitchen.MayNamed:
		people = slices.Clone(s.People)
	case kitchen.MayAnybody:
		for _, p := range b.People() {
			people = append(people, p.ID)
		}
	default:
		people = cooks(b, c.SectionOf(s))
	}
	for _, id := range s.Also {
		if !slices.Contains(people, id) {
			people = append(people, id)
		}
	}
	return people
}

// platers are the people who may plate, and those who help at the pass.
func (f *Firing) platers() []string {
	var people []string
	for _, p := range f.book.MayPlate() {
		people = append(people, p.ID)
	}
	if f.in == nil {
		return people
	}
	people = f.in.called(people)
	for _, s := range f.book.Sections() {
		if s.Pass {
			people = f.in.helping(people, s.ID)
		}
	}
	return people
}

// cooks lists the people of a section with those who help there tonight.
func (f *Firing) cooks(section string) []string {
	people := cooks(f.book, section)
	if f.in == nil {
		return people
	}
	return f.in.helping(f.in.called(people), section)
}
