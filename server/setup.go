package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
)

// NewKitchen is what is asked before a kitchen of one's own can begin.
type NewKitchen struct {
	Name       string             `json:"name" maxLength:"120"`
	TimeZone   string             `json:"time_zone"`
	SafetyCode kitchen.SafetyCode `json:"safety_code" enum:"uk-eu,us-fda"`
}

// Versioned is a thing as it is to be, with the version that it was changed from.
type Versioned[T any] struct {
	Version int64 `json:"version" minimum:"0" doc:"0 for a new one"`
	Value   T     `json:"value"`
}

func (s *Server) setupRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "new-kitchen", Method: http.MethodPost, Path: "/api/kitchen",
		Summary: "Begin a kitchen of one's own", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		s.newKitchen)
	huma.Register(api, huma.Operation{OperationID: "change-kitchen", Method: http.MethodPut, Path: "/api/kitchen",
		Summary: "Change the kitchen's settings", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		s.changeKitchen)
	part[kitchen.Section]{s, kitchen.SectionRecord, func(x *kitchen.Section) (*string, string) { return &x.ID, x.Name },
		(*kitchen.Book).NewSection}.routes(api, "sections")
	part[kitchen.Person]{s, kitchen.PersonRecord, func(x *kitchen.Person) (*string, string) { return &x.ID, x.Name },
		(*kitchen.Book).NewPerson}.routes(api, "people")
	part[kitchen.Equipment]{s, kitchen.EquipmentRecord, func(x *kitchen.Equipment) (*string, string) { return &x.ID, x.Name },
		(*kitchen.Book).NewEquipment}.routes(api, "equipment")
	part[kitchen.Vessel]{s, kitchen.VesselRecord, func(x *kitchen.Vessel) (*string, string) { return &x.ID, x.Name },
		(*kitchen.Book).NewVessel}.routes(api, "vessels")
}

type newKitchenIn struct{ Body NewKitchen }

func (s *Server) newKitchen(ctx context.Context, in *newKitchenIn) (*houseOut, error) {
	d := kitchen.Starter(in.Body.Name, in.Body.TimeZone, in.Body.SafetyCode)
	if err := s.store.Import(ctx, d, "The kitchen was begun."); err != nil {
		return nil, s.fail(err)
	}
	return s.house(ctx)
}

type changeKitchenIn struct{ Body Versioned[kitchen.Kitchen] }

func (s *Server) changeKitchen(ctx context.Context, in *changeKitchenIn) (*houseOut, error) {
	if _, err := s.store.Save(ctx, kitchen.Key{Kind: kitchen.KitchenRecord, ID: kitchen.HouseID}, in.Body.Version, in.Body.Value,
		"Settings changed."); err != nil {
		return nil, s.fail(err)
	}
	return s.house(ctx)
}

// part is saving and removing one kind of the kitchen's parts. A new one gets its id from its name.
type part[T any] struct {
	s    *Server
	kind kitchen.Kind
	of   func(*T) (id *string, name string)
	// fresh is a new one until somebody says more; nil where the page says all of it.
	fresh func(*kitchen.Book, string) T
}

func (p part[T]) routes(api huma.API, path string) {
	kind := string(p.kind)
	huma.Register(api, huma.Operation{OperationID: "save-" + kind, Method: http.MethodPut, Path: "/api/" + path + "/{id}",
		Summary: "Save a new or a changed " + kind + "; the id of a new one is new", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}}, p.save)
	huma.Register(api, huma.Operation{OperationID: "delete-" + kind, Method: http.MethodDelete, Path: "/api/" + path + "/{id}",
		Summary: "Remove a " + kind + " that nothing needs", Errors: []int{404, 409, 422}}, p.remove)
	if p.fresh != nil {
		huma.Register(api, huma.Operation{OperationID: "add-" + kind, Method: http.MethodPost, Path: "/api/" + path,
			Summary: "Add a " + kind + " that is as most are until more is said", MaxBodyBytes: maxBody, Errors: []int{409, 422}}, p.add)
	}
}

type savePartIn[T any] struct {
	ID   string `path:"id" maxLength:"80"`
	Body Versioned[T]
}

func (p part[T]) save(ctx context.Context, in *savePartIn[T]) (*houseOut, error) {
	snap, err := p.s.book(ctx)
	if err != nil {
		return nil, p.s.fail(err)
	}
	value := in.Body.Value
	id, name := p.of(&value)
	*id = in.ID
	said := name + " changed."
	if in.Body.Version == 0 {
		*id = freeID(name, func(id string) bool { return snap.Versions[kitchen.Key{Kind: p.kind, ID: id}] != 0 })
		said = name + " is new."
	}
	if _, err := p.s.store.Save(ctx, kitchen.Key{Kind: p.kind, ID: *id}, in.Body.Version, value, said); err != nil {
		return nil, p.s.fail(err)
	}
	return p.s.house(ctx)
}

type addPartIn struct{ Body Named }

func (p part[T]) add(ctx context.Context, in *addPartIn) (*houseOut, error) {
	snap, err := p.s.book(ctx)
	if err != nil {
		return nil, p.s.fail(err)
	}
	value := p.fresh(snap.Book, in.Body.Name)
	id, name := p.of(&value)
	*id = freeID(name, func(id string) bool { return snap.Versions[kitchen.Key{Kind: p.kind, ID: id}] != 0 })
	if _, err := p.s.store.Save(ctx, kitchen.Key{Kind: p.kind, ID: *id}, 0, value, name+" is new."); err != nil {
		return nil, p.s.fail(err)
	}
	return p.s.house(ctx)
}

type removePartIn struct {
	ID      string `path:"id" maxLength:"80"`
	Version int64  `query:"version" minimum:"1"`
}

func (p part[T]) remove(ctx context.Context, in *removePartIn) (*houseOut, error) {
	if p.kind == kitchen.PersonRecord {
		if err := p.s.signsInNoMore(ctx, in.ID); err != nil {
			return nil, p.s.fail(err)
		}
	}
	if err := p.s.store.Delete(ctx, kitchen.Key{Kind: p.kind, ID: in.ID}, in.Version, "Removed."); err != nil {
		return nil, p.s.fail(err)
	}
	return p.s.house(ctx)
}
