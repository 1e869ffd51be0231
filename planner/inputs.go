package planner

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"

	"jointime/core/kitchen"
)

// inputs are what a plan is made from.
type inputs struct {
	book     *kitchen.Book
	data     kitchen.Data
	raw      []byte // data as JSON
	versions map[kitchen.Key]int64
	// service and rest are hashes of the services planned and of everything else; hash is of
	// both.
	service, rest, hash string
}

// inputsOf gathers what the plan of some services depends on. stock says whether products
// on hand count.
func inputsOf(k *Kitchen, services []kitchen.Service, stock bool) (*inputs, error) {
	data := k.Book.Needed(services)
	if !stock {
		data.Stock = nil
	}
	in, err := hashed(k.Book, data)
	if err != nil {
		return nil, err
	}
	in.versions = map[kitchen.Key]int64{}
	for _, kind := range kitchen.Kinds() {
		for _, r := range data.Records(kind) {
			key := kitchen.Key{Kind: kind, ID: r.ID}
			in.versions[key] = k.Version(key)
		}
	}
	return in, nil
}

func hashed(b *kitchen.Book, data kitchen.Data) (*inputs, error) {
	in := &inputs{book: b, data: data}
	var err error
	if in.raw, err = json.Marshal(data); err != nil {
		return nil, fmt.Errorf("hashing what a plan depends on: %w", err)
	}
	services, err := json.Marshal(data.Services)
	if err != nil {
		return nil, fmt.Errorf("hashing what a plan depends on: %w", err)
	}
	data.Services = nil
	rest, err := json.Marshal(data)
	if err != nil {
		return nil, fmt.Errorf("hashing what a plan depends on: %w", err)
	}
	in.service, in.rest, in.hash = sum(services), sum(rest), sum(in.raw)
	return in, nil
}

func sum(b []byte) string {
	h := sha256.Sum256(b)
	return hex.EncodeToString(h[:])
}

// fromRaw makes the inputs of a record again.
func fromRaw(raw []byte, versions map[kitchen.Key]int64) (*inputs, error) {
	var d kitchen.Data
	if err := json.Unmarshal(raw, &d); err != nil {
		return nil, fmt.Errorf("what a told plan was made from: %w", err)
	}
	b, err := kitchen.NewBook(d)
	if err != nil {
		return nil, fmt.Errorf("what a told plan was made from: %w", err)
	}
	in, err := hashed(b, d)
	if err == nil {
		in.versions = versions
	}
	return in, err
}

// withService is the inputs of a plan that is held, with the service as it is now and
// everything else as it was; nil when the service needs something that was not there.
func (in *inputs) withService(now *inputs) *inputs {
	d := in.data
	d.Services = now.data.Services
	b, err := kitchen.NewBook(d)
	if err != nil {
		return nil
	}
	out, err := hashed(b, d)
	if err != nil {
		return nil
	}
	out.versions = make(map[kitchen.Key]int64, len(in.versions))
	for k, v := range in.versions {
		out.versions[k] = v
	}
	for _, s := range d.Services {
		out.versions[serviceKey(s.ID)] = now.versions[serviceKey(s.ID)]
	}
	return out
}

// changed names what is different from an earlier state, other than the services: dishes
// and components by their names, the rest by what it is.
func (in *inputs) changed(was *inputs) []string {
	var out []string
	add := func(name string) {
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	differ(was.data.Dishes, in.data.Dishes, func(d *kitchen.Dish) (string, string) { return d.ID, d.Name }, add)
	differ(was.data.Components, in.data.Components, func(c *kitchen.Component) (string, string) { return c.ID, c.Name }, add)
	differ(was.data.People, in.data.People, func(p *kitchen.Person) (string, string) { return p.ID, p.Name }, add)
	differ(was.data.Equipment, in.data.Equipment, func(e *kitchen.Equipment) (string, string) { return e.ID, e.Name }, add)
	differ(was.data.Sections, in.data.Sections, func(s *kitchen.Section) (string, string) { return s.ID, s.Name }, add)
	differ(was.data.Vessels, in.data.Vessels, func(v *kitchen.Vessel) (string, string) { return v.ID, v.Name }, add)
	differ([]kitchen.Kitchen{was.data.Kitchen}, []kitchen.Kitchen{in.data.Kitchen}, func(k *kitchen.Kitchen) (string, string) {
		return "",
			k.Name
	}, add)
	return out
}

// differ names what is in one list and not the same in the other.
func differ[T any](was, is []T, of func(*T) (id, name string), add func(string)) {
	old := map[string]string{}
	for i := range was {
		id, _ := of(&was[i])
		raw, _ := json.Marshal(was[i]) // it was marshalled before
		old[id] = string(raw)
	}
	for i := range is {
		id, name := of(&is[i])
		raw, _ := json.Marshal(is[i])
		if old[id] != string(raw) {
			add(name)
		}
		delete(old, id)
	}
	for i := range was {
		if id, name := of(&was[i]); old[id] != "" {
			add(name)
		}
	}
}
