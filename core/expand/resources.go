package expand

import (
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// ResourceRef is what a resource of a workload is: a piece of equipment, or a part of a person.
type ResourceRef struct {
	Kind kitchen.Kind `json:"kind" enum:"person,equipment"`
	ID   string       `json:"id"`
	// Part is of people only.
	Part Part `json:"part,omitempty" enum:"hands,eyes,there"`
}

func piece(id string) ResourceRef { return ResourceRef{Kind: kitchen.EquipmentRecord, ID: id} }

// name is what a resource is called in a workload. Nothing reads it back: what a name stands for is asked of roster.
func (r ResourceRef) name() string {
	switch r.Part {
	case Eyes, There:
		return string(r.Part) + "/" + r.ID
	}
	return string(r.Kind) + "/" + r.ID
}

// IsPerson tells people from things.
func (r ResourceRef) IsPerson() bool { return r.Kind == kitchen.PersonRecord }

// roster is what each resource of a workload of a book is, by its name there.
func roster(b *kitchen.Book) map[string]ResourceRef {
	out := map[string]ResourceRef{}
	for _, p := range b.People() {
		for _, part := range parts {
			ref := ResourceRef{kitchen.PersonRecord, p.ID, part}
			out[ref.name()] = ref
		}
	}
	for _, e := range b.Equipment() {
		out[piece(e.ID).name()] = piece(e.ID)
	}
	return out
}

// equipment lists the pieces of a kind that reach a setpoint, and the room of the
// largest.
func equipment(b *kitchen.Book, n *kitchen.EquipmentNeed) (ids []string, room int) {
	for _, e := range b.Equipment() {
		if e.Kind != n.Kind || !n.Reached(e.Thermostat) {
			continue
		}
		ids = append(ids, piece(e.ID).name())
		room = max(room, e.Capacity)
	}
	return ids, room
}

// room is the need of one of some pieces.
func room(ids []string, e *kitchen.EquipmentNeed) workload.Need {
	return workload.Need{AnyOf: ids, Units: int64(e.Units), SetpointC: e.SetpointC, SetpointToC: e.SetpointToC}
}

// cooks lists the people of a section.
func cooks(b *kitchen.Book, section string) []string {
	var out []string
	for _, p := range b.People() {
		if slices.Contains(p.Sections, section) {
			out = append(out, p.ID)
		}
	}
	return out
}

// needsOf is who and what a task that is one batch of a step takes, with the people who may do it. The error is kitchen.Faults: there is
// nobody, or nothing.
func needsOf(b *kitchen.Book, task string, people []string, c *kitchen.Component, s *kitchen.Step) ([]workload.Need, error) {
	var needs []workload.Need
	if (s.Hands != kitchen.None || s.Ends != kitchen.Ends{} || len(s.Touches) > 0) && len(people) == 0 {
		return nil, kitchen.Faults{kitchen.FaultAt("sections."+c.SectionOf(s), "fault.nobody", "step", s.Name, "component", c.Name)}
	}
	switch s.Hands {
	case kitchen.Both:
		needs = work(people)
		if s.Away {
			needs = append(needs, gone(task, people))
		}
	case kitchen.Tend:
		most := 1
		for _, id := range people {
			if p, ok := b.Person(id); ok {
				most = max(most, p.Watches())
			}
		}
		needs = watch(task, people, min(s.Watch(), most))
	}
	if e := s.Equipment; e != nil {
		ids, _ := equipment(b, e)
		if len(ids) == 0 {
			return nil, kitchen.Faults{kitchen.FaultAt("equipment", "fault.nothing-to-cook-on", "kind", e.Kind, "step", s.Name, "component", c.Name)}
		}
		needs = append(needs, room(ids, e))
	}
	return needs, nil
}

// resources makes the people (hands, eyes and whether they are at the stove, in their hours) and the equipment of a
// book into resources of a workload that starts at origin.
func resources(b *kitchen.Book, origin time.Time, horizon int64) []workload.Resource {
	var out []workload.Resource
	for _, p := range b.People() {
		hours := windows(b.Kitchen(), &p, origin, horizon)
		for _, part := range parts {
			ref := ResourceRef{kitchen.PersonRecord, p.ID, part}
			r := workload.Resource{ID: ref.name(), Name: p.Name, Capacity: part.of(&p), HasWindows: true, Windows: slices.Clone(hours)}
			for i := range r.Windows {
				r.Windows[i].Capacity = r.Capacity
			}
			out = append(out, r)
		}
	}
	for _, e := range b.Equipment() {
		r := workload.Resource{ID: piece(e.ID).name(), Name: e.Name, Capacity: int64(e.Capacity)}
		if t := e.Thermostat; t != nil {
			r.Thermostat = &workload.Thermostat{StartC: t.StandbyC, HeatCPerMin: t.HeatCPerMin, CoolCPerMin: t.CoolCPerMin, ToleranceC: t.ToleranceC}
		}
		out = append(out, r)
	}
	return out
}

// windows lays a person's weekly hours over the days from origin to the horizon, in the
// kitchen's time zone. Hours that run into each other are joined.
func windows(k kitchen.Kitchen, p *kitchen.Person, origin time.Time, horizon int64) []workload.Window {
	zone := k.Zone()
	local := origin.In(zone)
	var out []workload.Window
	for d := -2; ; d++ {
		day := time.Date(local.Year(), local.Month(), local.Day()+d, 0, 0, 0, 0, zone)
		if int64(day.Sub(origin)/time.Second) > horizon {
			break
		}
		if p.Away(day) {
			continue
		}
		for _, h := range p.Hours {
			if h.Day != int(day.Weekday()) {
				continue
			}
			// Wall-clock minutes, so that a night of changing clocks has the hours that
			// the clock on the wall shows.
			at := func(min int) int64 {
				t := time.Date(day.Year(), day.Month(), day.Day(), 0, min, 0, 0, zone)
				return int64(t.Sub(origin) / time.Second)
			}
			from, to := at(h.From), at(h.To)
			if from >= to {
				continue
			}
			out = append(out, workload.Window{From: from, To: to, Capacity: 1})
		}
	}
	return joined(out)
}
