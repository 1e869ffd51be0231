package lines

import (
	"slices"
	"strings"

	"jointime/core/kitchen"
)

// Known is what a house has, by which a line may speak of it. The zero value knows nothing, and takes every name for one.
type Known struct {
	sections, people map[string]string // id by its own and by its name
	components       map[string]bool
	kinds            map[kitchen.EquipmentKind]bool
	steps            map[string]string
}

// KnownOf is what a book has.
func KnownOf(b *kitchen.Book) *Known {
	k := &Known{sections: map[string]string{}, people: map[string]string{}, components: map[string]bool{},
		kinds: map[kitchen.EquipmentKind]bool{}}
	d := b.Data()
	for _, x := range d.Sections {
		k.sections[x.ID], k.sections[strings.ToLower(x.Name)] = x.ID, x.ID
	}
	for _, x := range d.People {
		k.people[x.ID], k.people[strings.ToLower(x.Name)] = x.ID, x.ID
	}
	for _, x := range d.Components {
		k.components[x.ID] = true
	}
	for _, x := range d.Equipment {
		k.kinds[x.Kind] = true
	}
	return k
}

// withSteps is what is known with the steps of a component, by id and by name; nil where they are not known yet.
func (k *Known) withSteps(now []kitchen.Step) *Known {
	out := *k
	out.steps = nil
	if now == nil {
		return &out
	}
	out.steps = map[string]string{}
	for i := range now {
		out.steps[slug(now[i].Name)] = now[i].ID
	}
	for i := range now {
		out.steps[now[i].ID] = now[i].ID
	}
	return &out
}

func lookup(in map[string]string, name string) (string, bool) {
	if nobodys[name] {
		return "", false
	}
	if in == nil {
		return name, true
	}
	id, ok := in[name]
	return id, ok
}

func (k *Known) section(name string) (string, bool) {
	if k.sections == nil && strings.HasSuffix(name, "ing") {
		return "", false
	}
	return lookup(k.sections, name)
}

func (k *Known) person(name string) (string, bool) { return lookup(k.people, name) }

func (k *Known) step(name string) (string, bool) {
	return lookup(k.steps, name)
}

func (k *Known) component(name string) bool { return k.components == nil || k.components[name] }

// instead is where a thing is done in a house that does not have the usual place for it: common practice, no source.
var instead = map[kitchen.EquipmentKind][]kitchen.EquipmentKind{kitchen.Steamer: {kitchen.Oven, kitchen.Burner},
	kitchen.Grill:      {kitchen.Plancha, kitchen.Salamander},
	kitchen.Salamander: {kitchen.Grill, kitchen.Oven}, kitchen.Fryer: {kitchen.Burner}, kitchen.Plancha: {kitchen.Burner}}

// equipment reports whether a house has a kind, or takes what it has instead.
func (k *Known) equipment(kind *kitchen.EquipmentKind) bool {
	if len(k.kinds) == 0 || k.kinds[*kind] {
		return true
	}
	i := slices.IndexFunc(instead[*kind], func(x kitchen.EquipmentKind) bool { return k.kinds[x] })
	if i < 0 {
		return false
	}
	*kind = instead[*kind][i]
	return true
}
