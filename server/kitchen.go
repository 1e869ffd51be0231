package server

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/scale"
	"jointime/store"
)

// House is the kitchen's settings and what the head of every page shows.
type House struct {
	Empty     bool                    `json:"empty" doc:"Nobody has set up the kitchen yet"`
	Kitchen   kitchen.Kitchen         `json:"kitchen"`
	Sections  []kitchen.Section       `json:"sections" nullable:"false"`
	People    []kitchen.Person        `json:"people" nullable:"false"`
	Equipment []kitchen.Equipment     `json:"equipment" nullable:"false"`
	Vessels   []kitchen.Vessel        `json:"vessels" nullable:"false"`
	Versions  map[string]int64        `json:"versions" doc:"Version of each of these by kind and id: section/larder"`
	Allergens []kitchen.Allergen      `json:"allergens" nullable:"false" doc:"Those that can be named, in the order of Annex II"`
	Dangers   []kitchen.Danger        `json:"dangers" nullable:"false"`
	Kinds     []kitchen.EquipmentKind `json:"kinds" nullable:"false" doc:"Kinds of equipment"`
	Forms     []string                `json:"forms" nullable:"false" doc:"Kinds of form for elements, in the order in which they are offered"`
	Units     []string                `json:"units" nullable:"false" doc:"Units that amounts are reckoned in"`
	Day       Day                     `json:"day"`
}

// Day is the service day for the day line.
type Day struct {
	From        time.Time `json:"from" doc:"First prep"`
	To          time.Time `json:"to" doc:"Close"`
	ServiceFrom time.Time `json:"service_from"`
	ServiceTo   time.Time `json:"service_to"`
	Now         time.Time `json:"now"`
	// UTCOffsetMin is the kitchen's offset from UTC now, for showing clock times.
	UTCOffsetMin int `json:"utc_offset_min"`
}

type houseOut struct{ Body House }

func (s *Server) kitchenRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-house", Method: http.MethodGet, Path: "/api/kitchen", Summary: "The kitchen's settings and its day"},
		s.getHouse)
	huma.Register(api, huma.Operation{OperationID: "load-demo", Method: http.MethodPost, Path: "/api/demo", Summary: "Load the demo into an empty kitchen", Errors: []int{409}},
		s.loadDemo)
}

func (s *Server) getHouse(ctx context.Context, _ *struct{}) (*houseOut, error) { return s.house(ctx) }

func (s *Server) loadDemo(ctx context.Context, _ *struct{}) (*houseOut, error) {
	if err := LoadDemo(ctx, s.store, s.clock()); err != nil {
		return nil, s.fail(err)
	}
	return s.house(ctx)
}

func (s *Server) house(ctx context.Context) (*houseOut, error) {
	snap, err := s.store.Snapshot(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	h := House{Empty: snap.Empty, Sections: []kitchen.Section{}, People: []kitchen.Person{}, Equipment: []kitchen.Equipment{}, Vessels: []kitchen.Vessel{},
		Forms: kitchen.FormKinds(), Versions: map[string]int64{}, Allergens: kitchen.EUAllergens(), Dangers: kitchen.Dangers(), Kinds: kitchen.EquipmentKinds(), Units: scale.Units()}
	h.Kitchen = kitchen.Kitchen{TimeZone: "UTC", DayFrom: 8 * 60, ServiceFrom: 18 * 60, ServiceTo: 22 * 60, PlatingHands: 2, SafetyCode: kitchen.CodeUKEU}
	if !snap.Empty {
		h.Kitchen, h.Sections, h.People, h.Equipment = snap.Book.Kitchen(), snap.Book.Sections(), snap.Book.People(), snap.Book.Equipment()
		h.Vessels = snap.Book.Vessels()
		for k, v := range snap.Versions {
			if k.Kind != kitchen.ComponentRecord && k.Kind != kitchen.DishRecord {
				h.Versions[string(k.Kind)+"/"+k.ID] = v
			}
		}
	}
	h.Day = dayOf(h.Kitchen, s.clock())
	return &houseOut{h}, nil
}

// dayTurns is the hour at which a new service day begins.
const dayTurns = 4

// dayOf is the service day that now belongs to: until four in the morning it is
// still yesterday's.
func dayOf(k kitchen.Kitchen, now time.Time) Day {
	zone, err := time.LoadLocation(k.TimeZone)
	if err != nil {
		zone = time.UTC
	}
	local := now.In(zone)
	d := local.Add(-dayTurns * time.Hour)
	at := func(minutes int) time.Time {
		return time.Date(d.Year(), d.Month(), d.Day(), 0, minutes, 0, 0, zone)
	}
	_, offset := local.Zone()
	return Day{From: at(k.DayFrom), To: at(max(k.ServiceTo+60, k.DayFrom+60)), ServiceFrom: at(k.ServiceFrom), ServiceTo: at(k.ServiceTo), Now: local, UTCOffsetMin: offset / 60}
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
