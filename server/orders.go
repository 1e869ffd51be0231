package server

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/store"
)

// What tables order in service: what can be ordered, an order as it was typed, what stands in for what is off.

// OrderIn is an order as it was typed or pressed.
type OrderIn struct {
	Table string `json:"table,omitempty" maxLength:"80" doc:"Whose it is, by id, where the line does not say so"`
	Line  string `json:"line" maxLength:"500" doc:"As in 7: 2 hake, 1 fowl, 1 no milk"`
}

// StandInsView is what can stand in for what is off.
type StandInsView struct {
	StandIns []StandInOffer `json:"stand_ins" nullable:"false" doc:"What is nearest to it first"`
}

// StandInOffer is a stand-in with when its tables would have it.
type StandInOffer struct {
	service.StandIn
	Times []StandInTime `json:"times" nullable:"false" doc:"Of its tables, in their order"`
	LateS int64         `json:"late_s" doc:"How much later than told the tables have it all together, seconds"`
}

// StandInTime is when a table's course comes together with a stand-in.
type StandInTime struct {
	Table  string         `json:"table"`
	Course kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	At     time.Time      `json:"at"`
	LaterS int64          `json:"later_s" doc:"Than is told now, seconds; less than 0 for sooner"`
}

type (
	orderIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body OrderIn
	}
	standInsIn struct {
		ID        string `path:"id" maxLength:"80"`
		Dish      string `query:"dish" maxLength:"80" doc:"The dish that is off, or"`
		Component string `query:"component" maxLength:"80" doc:"the component"`
	}
	orderOut     struct{ Body service.OrderRead }
	orderMenuOut struct{ Body service.OrderMenu }
	standInsOut  struct{ Body StandInsView }
)

func (s *Server) orderRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "order-menu", Method: http.MethodGet, Path: "/api/services/{id}/menu",
		Summary: "What can be ordered in a service, and what is left of it", Errors: []int{404}}, s.orderMenu)
	huma.Register(api, huma.Operation{OperationID: "read-order", Method: http.MethodPost, Path: "/api/services/{id}/order",
		Summary: "Read an order as it was typed; nothing is ordered by that", MaxBodyBytes: maxBody, Errors: []int{404, 422}}, s.readOrder)
	huma.Register(api, huma.Operation{OperationID: "stand-ins", Method: http.MethodGet, Path: "/api/services/{id}/stand-ins",
		Summary: "What can stand in for what is off, and when its tables would have it", Errors: []int{404, 422}}, s.standIns)
}

// served is a service as it is served: as it was booked, and as was said since.
func (s *Server) served(ctx context.Context, id string) (*kitchen.Book, *kitchen.Service, *service.State, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, nil, nil, err
	}
	booked, ok := snap.Book.Service(id)
	if !ok {
		return nil, nil, nil, store.ErrNotFound
	}
	state, err := s.live.Stands(ctx, id)
	if err != nil {
		return nil, nil, nil, err
	}
	return snap.Book, service.AsSaid(snap.Book, booked, state), state, nil
}

func (s *Server) orderMenu(ctx context.Context, in *liveIn) (*orderMenuOut, error) {
	b, svc, state, err := s.served(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &orderMenuOut{*service.Menu(b, svc, state)}, nil
}

func (s *Server) readOrder(ctx context.Context, in *orderIn) (*orderOut, error) {
	b, svc, state, err := s.served(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &orderOut{*service.ReadOrder(b, svc, state, in.Body.Table, in.Body.Line)}, nil
}

func (s *Server) standIns(ctx context.Context, in *standInsIn) (*standInsOut, error) {
	b, svc, state, err := s.served(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if in.Dish == "" && in.Component == "" {
		return nil, s.fail(kitchen.Faults{kitchen.FaultAt("component", "live.missing")})
	}
	shown, err := s.planner.Service(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	at := map[service.TableCourse]time.Time{}
	for i := range shown.Plan.View.Joins {
		j := &shown.Plan.View.Joins[i]
		at[service.TableCourse{Table: j.Table, Course: j.Course, Round: j.Round}] = j.At
	}
	out := StandInsView{StandIns: []StandInOffer{}}
	for _, x := range service.StandIns(b, svc, state, &service.Lack{Dish: in.Dish, Component: in.Component}) {
		offer := StandInOffer{StandIn: x, Times: []StandInTime{}}
		plan, err := s.planner.Try(ctx, in.ID, state.With(x.Tables, s.clock()))
		if err != nil {
			return nil, s.fail(err)
		}
		for _, t := range x.Tables {
			for i := range plan.View.Joins {
				if j := &plan.View.Joins[i]; j.Table == t.Table && j.Course == t.Course && j.Round < 2 {
					later := int64(0)
					if was, told := at[t.TableCourse]; told {
						later = int64(j.At.Sub(was) / time.Second)
					}
					offer.Times = append(offer.Times, StandInTime{t.Table, t.Course, j.At, later})
					offer.LateS += max(0, later)
				}
			}
		}
		out.StandIns = append(out.StandIns, offer)
	}
	slices.SortStableFunc(out.StandIns, func(a, b StandInOffer) int { return len(a.Not) - len(b.Not) })
	return &standInsOut{out}, nil
}
