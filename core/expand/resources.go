package expand

import (
	"time"

	"jointime/core/kitchen"
	"jointime/core/workload"
)

// wholePerson is all of a person's attention, in quarters.
const wholePerson = 4

// ResourceRef is what a resource of a workload is: a person, or a piece of equipment.
type ResourceRef struct {
	Kind kitchen.Kind `json:"kind" enum:"person,equipment"`
	ID   string       `json:"id"`
}

func person(id string) ResourceRef { return ResourceRef{kitchen.PersonRecord, id} }

func piece(id string) ResourceRef { return ResourceRef{kitchen.EquipmentRecord, id} }

// name is what a resource is called in a workload. Nothing reads it back: what a name stands for is asked of roster.
func (r ResourceRef) name() string { return string(r.Kind) + "/" + r.ID }

// IsPerson tells hands from things.
func (r ResourceRef) IsPerson() bool { return r.Kind == kitchen.PersonRecord }

// roster is what each resource of a workload of a book is, by its name there.
func roster(b *kitchen.Book) map[string]ResourceRef {
	out := map[string]ResourceRef{}
	for _, p := range b.People() {
		out[person(p.ID).name()] = person(p.ID)
	}
	for _, e := range b.Equipment() {
		out[piece(e.ID).name()] = piece(e.ID)
	}
	return out
}

// equipment lists the pieces of a kind that reach a setpoint, and the room of the
// largest.
func equipment(b *kitchen.Book, kind kitchen.EquipmentKind, setpoint *float64) (ids []string, room int) {
	for _, e := range b.Equipment() {
		if e.Kind != kind {
			continue
		}
		if t := e.Thermostat; t != nil && setpoint != nil && (*setpoint < t.LowC || *setpoint > t.HighC) {
			continue
		}
		ids = append(ids, piece(e.ID).name())
		room = max(room, e.Capacity)
	}
	return ids, room
}

// cooks lists the people of a section.
func cooks(b *kitchen.Book, section string) []string {
	var out []string
	for _, p := range b.People() {
		for _, s := range p.Sections {
			if s == section {
				out = append(out, person(p.ID).name())
			}
		}
	}
	return out
}

// needsOf is who and what one batch of a step takes, with the people who may do it. The
// error is kitchen.Faults: there is nobody, or nothing.
func needsOf(b *kitchen.Book, people []string, c *kitchen.Component, s *kitchen.Step) ([]workload.Need, error) {
	var needs []workload.Need
	if n := s.Hands.Attention(); n > 0 {
		if len(people) == 0 {
			return nil, kitchen.Faults{kitchen.FaultAt("sections."+c.SectionOf(s), "fault.nobody", "step", s.Name, "component", c.Name)}
		}
		needs = append(needs, workload.Need{AnyOf: people, Units: int64(n)})
	}
	if e := s.Equipment; e != nil {
		ids, _ := equipment(b, e.Kind, e.SetpointC)
		if len(ids) == 0 {
			return nil, kitchen.Faults{kitchen.FaultAt("equipment", "fault.nothing-to-cook-on", "kind", e.Kind, "step", s.Name, "component", c.Name)}
		}
		needs = append(needs, workload.Need{AnyOf: ids, Units: int64(e.Units), SetpointC: e.SetpointC})
	}
	return needs, nil
}

// resources makes the people (in quarters of attention, in their hours) and the
// equipment of a book into resources of a workload that starts at origin.
func resources(b *kitchen.Book, origin time.Time, horizon int64) []workload.Resource {
	var out []workload.Resource
	for _, p := range b.People() {
		out = append(out, workload.Resource{ID: person(p.ID).name(), Name: p.Name, Capacity: wholePerson,
			HasWindows: true, Windows: windows(b.Kitchen(), &p, origin, horizon)})
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
			out = append(out, workload.Window{From: from, To: to, Capacity: wholePerson})
		}
	}
	return joined(out)
}
