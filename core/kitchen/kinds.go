package kitchen

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
)

// Kind says what a record is.
type Kind string

// The kinds of record.
const (
	KitchenRecord   Kind = "kitchen"
	SectionRecord   Kind = "section"
	PersonRecord    Kind = "person"
	EquipmentRecord Kind = "equipment"
	VesselRecord    Kind = "vessel"
	ComponentRecord Kind = "component"
	DishRecord      Kind = "dish"
	ServiceRecord   Kind = "service"
	StockRecord     Kind = "stock"
	MealRecord      Kind = "meal"
)

// Key names a record.
type Key struct {
	Kind Kind
	ID   string
}

// MarshalText writes a key as files keep it: `section/larder`.
func (k Key) MarshalText() ([]byte, error) { return []byte(string(k.Kind) + "/" + k.ID), nil }

// UnmarshalText reads what MarshalText wrote.
func (k *Key) UnmarshalText(text []byte) error {
	kind, id, ok := strings.Cut(string(text), "/")
	if !ok || byKind[Kind(kind)] == nil {
		return fmt.Errorf("expected a kind and an id, as in section/larder, got %q", text)
	}
	*k = Key{Kind(kind), id}
	return nil
}

// HouseID is the id of the one record of the kind kitchen: the house's settings.
const HouseID = "kitchen"

// Entry is one record of a kitchen's data. Body is a value of the kind's type.
type Entry struct {
	ID   string
	Body any
}

// described is everything that is told of a kind apart from its meaning: the list in which its records
// stand, what names them, what is right for one by itself, and what it refers to.
type described[T any] struct {
	kind Kind
	// list is what the list is called in Data.
	list string
	// of is the list in a kitchen's data; house instead is the place of the one record of its kind.
	of     func(*Data) *[]T
	house  func(*Data) *T
	id     func(*T) string
	check  func(T) Faults
	refers func(*T, refer)
}

// refer is told what a record refers to: the other's kind and id, and where in the record that stands,
// as a format with its numbers.
type refer func(to Kind, id, path string, args ...any)

// description is described without its type.
type description interface {
	named() Kind
	records(d *Data) []Entry
	put(d *Data, body []byte) error
	drop(d *Data, id string)
	clone(d *Data)
	path(d *Data, id string) string
	refersTo(body []byte, to refer) error
	look(f finder, b *Book, only *Key)
	follow(f finder, b *Book)
}

// descriptions are the kinds in an order in which each refers only to earlier ones and to its own.
var descriptions = []description{
	described[Kitchen]{kind: KitchenRecord, list: "kitchen", house: func(d *Data) *Kitchen { return &d.Kitchen },
		id: func(*Kitchen) string { return HouseID }, check: CheckKitchen},
	described[Section]{kind: SectionRecord, list: "sections", of: func(d *Data) *[]Section { return &d.Sections },
		id: func(x *Section) string { return x.ID }, check: CheckSection},
	described[Person]{kind: PersonRecord, list: "people", of: func(d *Data) *[]Person { return &d.People },
		id: func(x *Person) string { return x.ID }, check: CheckPerson,
		refers: (*Person).refers},
	described[Equipment]{kind: EquipmentRecord, list: "equipment", of: func(d *Data) *[]Equipment { return &d.Equipment },
		id:    func(x *Equipment) string { return x.ID },
		check: CheckEquipment},
	described[Vessel]{kind: VesselRecord, list: "vessels", of: func(d *Data) *[]Vessel { return &d.Vessels },
		id: func(x *Vessel) string { return x.ID }, check: CheckVessel},
	described[Component]{kind: ComponentRecord, list: "components", of: func(d *Data) *[]Component { return &d.Components },
		id:    func(x *Component) string { return x.ID },
		check: CheckComponent, refers: (*Component).refers},
	described[Dish]{kind: DishRecord, list: "dishes", of: func(d *Data) *[]Dish { return &d.Dishes },
		id: func(x *Dish) string { return x.ID }, check: CheckDish,
		refers: (*Dish).refers},
	described[Service]{kind: ServiceRecord, list: "services", of: func(d *Data) *[]Service { return &d.Services },
		id: func(x *Service) string { return x.ID }, check: CheckService,
		refers: (*Service).refers},
	described[Stock]{kind: StockRecord, list: "stock", of: func(d *Data) *[]Stock { return &d.Stock },
		id: func(x *Stock) string { return x.ID }, check: CheckStock,
		refers: (*Stock).refers},
	described[Meal]{kind: MealRecord, list: "meals", of: func(d *Data) *[]Meal { return &d.Meals },
		id: func(x *Meal) string { return x.ID }, check: CheckMeal,
		refers: (*Meal).refers},
}

var byKind = func() map[Kind]description {
	out := map[Kind]description{}
	for _, x := range descriptions {
		out[x.named()] = x
	}
	return out
}()

// Kinds lists the kinds in an order in which each refers only to earlier ones and to its own.
func Kinds() []Kind {
	var out []Kind
	for _, x := range descriptions {
		out = append(out, x.named())
	}
	return out
}

// Records lists the records of a kind in their order.
func (d Data) Records(k Kind) []Entry {
	if x := byKind[k]; x != nil {
		return x.records(&d)
	}
	return nil
}

// Copy copies the lists, so that a record can be put in or taken out without touching d; what the records hold is shared.
func (d Data) Copy() Data {
	for _, x := range descriptions {
		x.clone(&d)
	}
	return d
}

// Put decodes a record and adds it, or replaces the one with its id. The error says that there is no such
// kind, or what is wrong with the JSON.
func (d *Data) Put(k Kind, body []byte) error {
	if x := byKind[k]; x != nil {
		return x.put(d, body)
	}
	return fmt.Errorf("unknown kind %q", k)
}

// Drop takes a record out of a list; d is as it was when there is none.
func (d *Data) Drop(key Key) {
	if x := byKind[key.Kind]; x != nil {
		x.drop(d, key.ID)
	}
}

// Path is where a record stands in the data, as faults name it: `components[3]`; its list when it is not there.
func (d Data) Path(key Key) string {
	if x := byKind[key.Kind]; x != nil {
		return x.path(&d, key.ID)
	}
	return ""
}

// References lists what a record of a kind refers to, each once. The error is what is wrong with its JSON.
func References(k Kind, body []byte) ([]Key, error) {
	x := byKind[k]
	if x == nil {
		return nil, fmt.Errorf("unknown kind %q", k)
	}
	var out []Key
	err := x.refersTo(body, func(to Kind, id, _ string, _ ...any) {
		if key := (Key{to, id}); !slices.Contains(out, key) {
			out = append(out, key)
		}
	})
	return out, err
}

func (x described[T]) named() Kind { return x.kind }

// all is the list, of one where the kind has only one record.
func (x described[T]) all(d *Data) []T {
	if x.house != nil {
		return []T{*x.house(d)}
	}
	return *x.of(d)
}

func (x described[T]) records(d *Data) []Entry {
	var out []Entry
	list := x.all(d)
	for i := range list {
		out = append(out, Entry{x.id(&list[i]), list[i]})
	}
	return out
}

func (x described[T]) put(d *Data, body []byte) error {
	var v T
	if err := json.Unmarshal(body, &v); err != nil {
		return err
	}
	if x.house != nil {
		*x.house(d) = v
		return nil
	}
	list := x.of(d)
	if i := x.find(d, x.id(&v)); i >= 0 {
		(*list)[i] = v
	} else {
		*list = append(*list, v)
	}
	return nil
}

func (x described[T]) find(d *Data, id string) int {
	list := x.all(d)
	for i := range list {
		if x.id(&list[i]) == id {
			return i
		}
	}
	return -1
}

func (x described[T]) drop(d *Data, id string) {
	if i := x.find(d, id); i >= 0 && x.of != nil {
		*x.of(d) = slices.Delete(*x.of(d), i, i+1)
	}
}

func (x described[T]) clone(d *Data) {
	if x.of != nil {
		*x.of(d) = slices.Clone(*x.of(d))
	}
}

func (x described[T]) path(d *Data, id string) string {
	if i := x.find(d, id); i >= 0 && x.of != nil {
		return fmt.Sprintf("%s[%d]", x.list, i)
	}
	return x.list
}

func (x described[T]) refersTo(body []byte, to refer) error {
	var v T
	if err := json.Unmarshal(body, &v); err != nil {
		return err
	}
	if x.refers != nil {
		x.refers(&v, to)
	}
	return nil
}

// at is where the record with a number stands.
func (x described[T]) at(f finder, i int) finder {
	if x.house != nil {
		return f.field(x.list)
	}
	return f.field(x.list).item(i)
}

// look checks every record by itself (only the one named, where one is), and that no two have one id.
func (x described[T]) look(f finder, b *Book, only *Key) {
	list := x.all(&b.data)
	for i := range list {
		key := Key{x.kind, x.id(&list[i])}
		if only == nil || *only == key {
			g := x.at(f, i)
			checkTexts(g, &list[i])
			g.add(x.check(list[i]))
		}
		if b.has[key] {
			x.at(f, i).field("id").say("fault.id-taken", "id", short(key.ID))
		}
		b.has[key] = true
	}
}

// follow reports every reference that leads nowhere.
func (x described[T]) follow(f finder, b *Book) {
	if x.refers == nil {
		return
	}
	list := x.all(&b.data)
	for i := range list {
		x.refers(&list[i], func(to Kind, id, path string, args ...any) {
			if !b.has[Key{to, id}] {
				x.at(f, i).at(path, args...).say("fault.no-record", "kind", to, "id", short(id))
			}
		})
	}
}
