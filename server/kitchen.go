package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/scale"
	"jointime/store"
)

// House is the kitchen's settings and what the head of every page shows.
type House struct {
	Empty     bool                `json:"empty" doc:"Nobody has set up the kitchen yet"`
	Kitchen   kitchen.Kitchen     `json:"kitchen"`
	Sections  []kitchen.Section   `json:"sections" nullable:"false"`
	People    []kitchen.Person    `json:"people" nullable:"false"`
	Equipment []kitchen.Equipment `json:"equipment" nullable:"false"`
	Vessels   []kitchen.Vessel    `json:"vessels" nullable:"false"`
	Versions  map[string]int64    `json:"versions" doc:"Version of each of these by kind and id: section/larder"`
	Choices   kitchen.Choices     `json:"choices" doc:"Among what somebody chooses"`
	Units     []string            `json:"units" nullable:"false" doc:"Units that amounts are reckoned in"`
	Day       kitchen.Day         `json:"day"`
}

type houseOut struct{ Body House }

func (s *Server) kitchenRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-house", Method: http.MethodGet, Path: "/api/kitchen",
		Summary: "The kitchen's settings and its day"},
		s.getHouse)
	huma.Register(api, huma.Operation{OperationID: "load-demo", Method: http.MethodPost, Path: "/api/demo",
		Summary: "Load the demo into an empty kitchen", Errors: []int{409}},
		s.loadDemo)
}

func (s *Server) getHouse(ctx context.Context, _ *struct{}) (*houseOut, error) { return s.house(ctx) }

func (s *Server) loadDemo(ctx context.Context, _ *struct{}) (*houseOut, error) {
	if s.demo == nil {
		if err := LoadDemo(ctx, s.store, s.clock()); err != nil {
			return nil, s.fail(err)
		}
		return s.house(ctx)
	}
	if err := BeginDemo(ctx, s.store, s.demo); err != nil {
		return nil, s.fail(err)
	}
	if s.past {
		s.goPast()
	}
	return s.house(ctx)
}

func (s *Server) house(ctx context.Context) (*houseOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	h := House{Empty: snap.Empty, Sections: []kitchen.Section{}, People: []kitchen.Person{}, Equipment: []kitchen.Equipment{},
		Vessels:  []kitchen.Vessel{},
		Versions: map[string]int64{}, Choices: kitchen.EveryChoice(), Units: scale.Units()}
	h.Kitchen = kitchen.Starter("", "UTC", kitchen.CodeUKEU).Kitchen
	if !snap.Empty {
		h.Kitchen, h.Sections, h.People, h.Equipment = snap.Book.Kitchen(), snap.Book.Sections(), snap.Book.People(), snap.Book.Equipment()
		h.Vessels = snap.Book.Vessels()
		for k, v := range snap.Versions {
			if k.Kind != kitchen.ComponentRecord && k.Kind != kitchen.DishRecord {
				h.Versions[string(k.Kind)+"/"+k.ID] = v
			}
		}
	}
	h.Day = h.Kitchen.DayOf(s.clock())
	return &houseOut{h}, nil
}

// book returns the current kitchen, or errEmpty.
func (s *Server) book(ctx context.Context) (*store.Snapshot, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	if snap.Empty {
		return nil, errEmpty
	}
	return snap, nil
}
