package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/store"
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
	huma.Register(api, huma.Operation{OperationID: "new-kitchen", Method: http.MethodPost, Path: "/api/kitchen", Summary: "Begin a kitchen of one's own", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		func(ctx context.Context, in *struct{ Body NewKitchen }) (*houseOut, error) {
			d := kitchen.Starter(in.Body.Name, in.Body.TimeZone, in.Body.SafetyCode)
			if err := s.store.Import(ctx, d, "The kitchen was begun."); err != nil {
				return nil, s.fail(err)
			}
			return s.house(ctx)
		})
	huma.Register(api, huma.Operation{OperationID: "change-kitchen", Method: http.MethodPut, Path: "/api/kitchen", Summary: "Change the kitchen's settings", MaxBodyBytes: maxBody, Errors: []int{409, 422}},
		func(ctx context.Context, in *struct{ Body Versioned[kitchen.Kitchen] }) (*houseOut, error) {
			if _, err := s.store.Save(ctx, store.Key{Kind: store.KitchenKind, ID: store.HouseID}, in.Body.Version, in.Body.Value, "Settings changed."); err != nil {
				return nil, s.fail(err)
			}
			return s.house(ctx)
		})
	part(s, api, "sections", store.SectionKind, func(x *kitchen.Section) (*string, string) { return &x.ID, x.Name })
	part(s, api, "people", store.PersonKind, func(x *kitchen.Person) (*string, string) { return &x.ID, x.Name })
	part(s, api, "equipment", store.EquipmentKind, func(x *kitchen.Equipment) (*string, string) { return &x.ID, x.Name })
	part(s, api, "vessels", store.VesselKind, func(x *kitchen.Vessel) (*string, string) { return &x.ID, x.Name })
}

// part describes saving and removing one kind of the kitchen's parts. A new one gets its
// id from its name.
func part[T any](s *Server, api huma.API, path string, kind store.Kind, of func(*T) (id *string, name string)) {
	huma.Register(api, huma.Operation{OperationID: "save-" + string(kind), Method: http.MethodPut, Path: "/api/" + path + "/{id}", Summary: "Save a new or a changed " + string(kind) + "; the id of a new one is new", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		func(ctx context.Context, in *struct {
			ID   string `path:"id" maxLength:"80"`
			Body Versioned[T]
		}) (*houseOut, error) {
			snap, err := s.book(ctx)
			if err != nil {
				return nil, s.fail(err)
			}
			value := in.Body.Value
			id, name := of(&value)
			*id = in.ID
			said := name + " changed."
			if in.Body.Version == 0 {
				*id = freeID(name, func(id string) bool { return snap.Versions[store.Key{Kind: kind, ID: id}] != 0 })
				said = name + " is new."
			}
			if _, err := s.store.Save(ctx, store.Key{Kind: kind, ID: *id}, in.Body.Version, value, said); err != nil {
				return nil, s.fail(err)
			}
			return s.house(ctx)
		})
	huma.Register(api, huma.Operation{OperationID: "delete-" + string(kind), Method: http.MethodDelete, Path: "/api/" + path + "/{id}", Summary: "Remove a " + string(kind) + " that nothing needs", Errors: []int{404, 409, 422}},
		func(ctx context.Context, in *struct {
			ID      string `path:"id" maxLength:"80"`
			Version int64  `query:"version" minimum:"1"`
		}) (*houseOut, error) {
			if err := s.store.Delete(ctx, store.Key{Kind: kind, ID: in.ID}, in.Version, "Removed."); err != nil {
				return nil, s.fail(err)
			}
			return s.house(ctx)
		})
}
