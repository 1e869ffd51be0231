package server

import (
	"cmp"
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/store"
)

// ServiceLine is a service with its version.
type ServiceLine struct {
	Service kitchen.Service `json:"service"`
	Version int64           `json:"version"`
	Covers  int             `json:"covers"`
	Over    bool            `json:"over" doc:"It has ended"`
}

// NewService asks for a service: as most are, or as another one is, a week later.
type NewService struct {
	Name string `json:"name" minLength:"1" maxLength:"120"`
	Copy string `json:"copy,omitempty" maxLength:"80" doc:"Id of the one that it begins as a copy of"`
}

// TablesEdit adds a table to a service, or takes one out.
type TablesEdit struct {
	Version int64  `json:"version" minimum:"1"`
	Edit    string `json:"edit" enum:"add,remove"`
	Table   string `json:"table,omitempty" maxLength:"80" doc:"The one that is taken out"`
}

type (
	servicesOut struct {
		Body []ServiceLine `nullable:"false"`
	}
	serviceOut struct{ Body ServiceLine }
)

func (s *Server) serviceRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-services", Method: http.MethodGet, Path: "/api/services",
		Summary: "All services, the next first"},
		s.listServices)
	huma.Register(api, huma.Operation{OperationID: "add-service", Method: http.MethodPost, Path: "/api/services",
		Summary: "Add a service that is as most are until more is said, or a copy", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}},
		s.addService)
	huma.Register(api, huma.Operation{OperationID: "edit-tables", Method: http.MethodPost, Path: "/api/services/{id}/tables",
		Summary: "Add a table to a service, or take one out", MaxBodyBytes: maxBody, Errors: []int{404, 409, 422}}, s.editTables)
	part[kitchen.Service]{s, kitchen.ServiceRecord, func(x *kitchen.Service) (*string, string) { return &x.ID, x.Name }, nil}.routes(api,
		"services")
}

func serviceKey(id string) kitchen.Key { return kitchen.Key{Kind: kitchen.ServiceRecord, ID: id} }

func (s *Server) listServices(ctx context.Context, _ *struct{}) (*servicesOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	out := []ServiceLine{}
	if !snap.Empty {
		for _, x := range snap.Book.Services() {
			out = append(out, s.serviceLine(snap, &x))
		}
		slices.SortStableFunc(out, func(a, b ServiceLine) int {
			return cmp.Or(cmp.Compare(after(a.Over), after(b.Over)), strings.Compare(a.Service.Date, b.Service.Date))
		})
	}
	return &servicesOut{out}, nil
}

func after(over bool) int {
	if over {
		return 1
	}
	return 0
}

func (s *Server) serviceLine(snap *store.Snapshot, x *kitchen.Service) ServiceLine {
	return ServiceLine{*x, snap.Versions[serviceKey(x.ID)], x.Covers(), x.Over(s.clock(), snap.Book.Zone())}
}

type addServiceIn struct{ Body NewService }

func (s *Server) addService(ctx context.Context, in *addServiceIn) (*serviceOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	name, said := strings.TrimSpace(in.Body.Name), " is new."
	made := snap.Book.NewService(name, s.clock())
	if in.Body.Copy != "" {
		old, ok := snap.Book.Service(in.Body.Copy)
		if !ok {
			return nil, s.fail(store.ErrNotFound)
		}
		made, said = old.Copy(name), " is a copy of "+old.Name+"."
	}
	made.ID = freeID(name, func(id string) bool { return snap.Versions[serviceKey(id)] != 0 })
	return s.saveService(ctx, made, 0, name+said)
}

type editTablesIn struct {
	ID   string `path:"id" maxLength:"80"`
	Body TablesEdit
}

func (s *Server) editTables(ctx context.Context, in *editTablesIn) (*serviceOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	old, ok := snap.Book.Service(in.ID)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	made, said := *old, old.Name+": a table was added."
	if in.Body.Edit == "add" {
		made.AddTable()
	} else {
		said = old.Name + ": a table was taken out."
		if err := made.DropTable(in.Body.Table); err != nil {
			return nil, s.fail(kitchen.Faults{kitchen.FaultOf("table", err)})
		}
	}
	return s.saveService(ctx, made, in.Body.Version, said)
}

func (s *Server) saveService(ctx context.Context, made kitchen.Service, version int64, said string) (*serviceOut, error) {
	if _, err := s.store.Save(ctx, serviceKey(made.ID), version, made, said); err != nil {
		return nil, s.fail(err)
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	saved, ok := snap.Book.Service(made.ID)
	if !ok { // somebody removed it meanwhile
		return nil, s.fail(store.ErrNotFound)
	}
	return &serviceOut{s.serviceLine(snap, saved)}, nil
}
