package server

import (
	"context"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/planner"
)

// DayMarks are what the line of the day shows: the joins of the services that are on it,
// and the hands-on work before them, as they were last told. Nothing is planned for it: it
// stands at the head of every page.
type DayMarks struct {
	Joins  []DayJoin  `json:"joins" nullable:"false"`
	Prep   []DayWork  `json:"prep" nullable:"false"`
	Offers []DayOffer `json:"offers" nullable:"false" doc:"Services whose plans somebody works by, and which have not followed a change"`
}

// DayJoin is one join on the line.
type DayJoin struct {
	At      time.Time `json:"at"`
	Trouble bool      `json:"trouble" doc:"It is late, or one of its holds is passed"`
}

// DayWork is a stretch of hands-on work of a section.
type DayWork struct {
	From    time.Time `json:"from"`
	To      time.Time `json:"to"`
	Section string    `json:"section"`
	Trouble bool      `json:"trouble" doc:"It belongs to a batch that is not ready in time"`
}

// DayOffer is a change that a service's plan has not followed.
type DayOffer struct {
	Service string `json:"service" doc:"Id"`
	Name    string `json:"name"`
	Number  int64  `json:"number" doc:"Of the plan that is held"`
	Offer
}

type dayOut struct{ Body DayMarks }

func (s *Server) dayRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-day", Method: http.MethodGet, Path: "/api/day",
		Summary: "What the line of the day shows", Errors: []int{409, 422}}, s.getDay)
}

func (s *Server) getDay(ctx context.Context, _ *struct{}) (*dayOut, error) {
	out := &dayOut{DayMarks{Joins: []DayJoin{}, Prep: []DayWork{}, Offers: []DayOffer{}}}
	k, err := s.store.Kitchen(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	if k.Book == nil {
		return out, nil
	}
	for _, add := range []func(context.Context, *planner.Kitchen, *DayMarks) error{s.dayWork, s.dayJoins, s.dayOffers} {
		if err := add(ctx, k, &out.Body); err != nil {
			return nil, s.fail(err)
		}
	}
	return out, nil
}

func (s *Server) dayWork(ctx context.Context, k *planner.Kitchen, out *DayMarks) error {
	plan, err := s.planner.ToldPrep(ctx)
	if err != nil || plan == nil {
		return err
	}
	house := k.Book.Kitchen()
	day := house.DayOf(s.clock())
	for _, j := range plan.View.Jobs {
		for _, t := range j.Steps {
			if t.Hands != kitchen.None && t.StartAt.Before(day.To) && t.FinishAt.After(day.From) {
				out.Prep = append(out.Prep, DayWork{t.StartAt, t.FinishAt, t.Section, j.State == "forgotten" || j.State == "tight"})
			}
		}
	}
	return nil
}

func (s *Server) dayJoins(ctx context.Context, k *planner.Kitchen, out *DayMarks) error {
	house := k.Book.Kitchen()
	day := house.DayOf(s.clock())
	for _, svc := range k.Book.Services() {
		if svc.Date != day.From.Format(time.DateOnly) {
			continue
		}
		plan, err := s.planner.Told(ctx, k, &svc)
		if err != nil {
			return err
		}
		if plan == nil {
			continue
		}
		for _, j := range plan.View.Joins {
			if j.At.After(day.From) && j.At.Before(day.To) {
				out.Joins = append(out.Joins, DayJoin{j.At, j.Standing == expand.Late})
			}
		}
	}
	slices.SortFunc(out.Joins, func(a, b DayJoin) int { return a.At.Compare(b.At) })
	return nil
}

func (s *Server) dayOffers(ctx context.Context, _ *planner.Kitchen, out *DayMarks) error {
	list, err := s.planner.Pending(ctx)
	for _, x := range list {
		out.Offers = append(out.Offers, DayOffer{x.Service, x.Name, x.Number, Offer{x.Offer.Changed, x.Offer.Said}})
	}
	return err
}
