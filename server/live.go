package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/access"
	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/safety"
	"jointime/core/service"
	"jointime/live"
	"jointime/store"
)

// What happens in a service: five operations, by which a program that has read the plan can play a whole evening.

// EventIn is something that happened, as a screen says it.
type EventIn struct {
	ID     string       `json:"id" minLength:"8" maxLength:"80" doc:"Made by the screen: the same tap sent twice counts once"`
	Kind   service.Kind `json:"kind" doc:"What it says; the planner alone says told"`
	At     *time.Time   `json:"at,omitempty" doc:"When it happened; only of one that was kept, else it is now"`
	Device string       `json:"device,omitempty" maxLength:"80"`
	Count  int64        `json:"count,omitempty" minimum:"0" doc:"The device's own counter"`
	Kept   bool         `json:"kept,omitempty" doc:"It was made while the connection was lost: it is written whatever it says"`
	service.Facts
}

// EventsTaken is what became of events.
type EventsTaken struct {
	Seq   int64          `json:"seq" doc:"Number of the last event of the log"`
	Taken []live.Outcome `json:"taken" nullable:"false" doc:"In the order in which they were sent"`
}

// GateView is what stands before a service is opened.
type GateView struct {
	Unready []service.Unready `json:"unready" nullable:"false" doc:"What is not made, not tasted, not measured, not known; by section"`
}

type (
	eventsIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body struct {
			Events []EventIn `json:"events" nullable:"false" minItems:"1" maxItems:"500"`
		}
	}
	liveIn struct {
		ID string `path:"id" maxLength:"80"`
	}
	eventsOut struct{ Body EventsTaken }
	stateOut  struct{ Body service.State }
	dueOut    struct{ Body service.DueView }
	gateOut   struct{ Body GateView }
)

func (s *Server) liveRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "add-events", Method: http.MethodPost, Path: "/api/services/{id}/events",
		Summary: "Say what happened in a service", MaxBodyBytes: maxBody, Errors: []int{404, 422},
		// A limit on reading what was sent would end the request as well, where it has to wait for the first plan.
		BodyReadTimeout: -1}, s.addEvents)
	huma.Register(api, huma.Operation{OperationID: "service-state", Method: http.MethodGet, Path: "/api/services/{id}/state",
		Summary: "What stands in a service, by all that was said", Errors: []int{404}}, s.serviceState)
	huma.Register(api, huma.Operation{OperationID: "service-gate", Method: http.MethodGet, Path: "/api/services/{id}/gate",
		Summary: "What is not ready before a service is opened", Errors: []int{404}}, s.serviceGate)
	huma.Register(api, huma.Operation{OperationID: "service-due", Method: http.MethodGet, Path: "/api/services/{id}/due",
		Summary: "What each section does next, and when each join comes together", Errors: []int{404, 422}}, s.serviceDue)
}

// here says whether there is such a service.
func (s *Server) here(ctx context.Context, id string) error {
	if isPractice(id) {
		_, err := s.store.Practice(ctx, id)
		return err
	}
	snap, err := s.book(ctx)
	if err != nil {
		return err
	}
	if _, ok := snap.Book.Service(id); !ok {
		return store.ErrNotFound
	}
	return nil
}

func (s *Server) addEvents(ctx context.Context, in *eventsIn) (*eventsOut, error) {
	if isPractice(in.ID) {
		return s.practiceEvents(ctx, in)
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	booked, ok := snap.Book.Service(in.ID)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	state, err := s.live.Stands(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	list := make([]service.Event, len(in.Body.Events))
	for i, e := range in.Body.Events {
		list[i] = service.Event{ID: e.ID, Kind: e.Kind, At: s.clock(), Device: e.Device, Count: e.Count, Kept: e.Kept, Facts: e.Facts}
		if e.Kept && e.At != nil {
			list[i].At = *e.At
		}
		if e.Kind == service.Told {
			return nil, s.fail(kitchen.Faults{kitchen.FaultAt(fmt.Sprintf("events[%d].kind", i), "live.kind", "kind", string(e.Kind))})
		}
		err := list[i].Check()
		if err == nil && !e.Kept {
			err = service.CheckSaid(snap.Book, booked, state, &list[i])
		}
		if err != nil {
			return nil, s.fail(under(fmt.Sprintf("events[%d].", i), err))
		}
	}
	plan := int64(0)
	if slices.ContainsFunc(list, func(e service.Event) bool { return e.Kind == service.Opened }) {
		p, err := s.livePlan(ctx, in.ID)
		if err != nil {
			return nil, s.fail(err)
		}
		plan = p.Number
		// Whoever opens in spite of what is not ready has that said in the log.
		unready, err := s.gate(ctx, in.ID)
		if err != nil {
			return nil, s.fail(err)
		}
		for i := range list {
			if list[i].Kind == service.Opened && len(unready) > 0 {
				list[i].Why = strings.TrimSpace(list[i].Why + " " + message.Of("live.opened-unready", "count", len(unready)).Text)
			}
		}
	}
	seq, taken, err := s.live.Add(ctx, in.ID, s.whoSays(ctx, in.ID), list, plan)
	if err != nil {
		return nil, s.fail(err)
	}
	for i, a := range taken {
		if (a.As == live.Taken || a.As == live.ToSettle) && list[i].Kind.Matters() {
			s.follow(in.ID)
			break
		}
	}
	return &eventsOut{EventsTaken{seq, taken}}, nil
}

// whoSays is who says what happened in a service, and what they may not say: the section of a run is as the plan has it, or as the book has
// it for a run that the plan does not know any more.
func (s *Server) whoSays(ctx context.Context, id string) live.Who {
	f := found(ctx)
	var plan *service.Plan
	asked := false
	return live.Who{Person: f.Name, Role: string(f.Role), Device: f.Identity.Device, Refuses: func(e *service.Event) *message.Message {
		section := ""
		if f.Role == access.Section && e.Task != "" {
			if !asked {
				plan, _ = s.livePlan(ctx, id) // without one, the book says it
				asked = true
			}
			if section = plan.SectionOf(e.Task); section == "" {
				section = s.sectionOf(ctx, e)
			}
		}
		return access.RefusesEvent(&f.Identity, e, section)
	}}
}

// sectionOf is where the step is done that an event is about, "" where the book does not say so.
func (s *Server) sectionOf(ctx context.Context, e *service.Event) string {
	snap, err := s.book(ctx)
	if err != nil {
		return ""
	}
	c, ok := snap.Book.Component(e.Component)
	if !ok {
		return ""
	}
	if k := slices.IndexFunc(c.Steps, func(x kitchen.Step) bool { return x.ID == e.Step }); k >= 0 && c.Steps[k].Section != "" {
		return c.Steps[k].Section
	}
	return c.Section
}

// under puts a path in front of the paths of faults.
func under(path string, err error) error {
	var faults kitchen.Faults
	if !errors.As(err, &faults) {
		return err
	}
	out := slices.Clone(faults)
	for i := range out {
		out[i].Path = path + out[i].Path
	}
	return out
}

func (s *Server) serviceState(ctx context.Context, in *liveIn) (*stateOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	state, err := s.live.State(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if found(ctx).Role == access.Floor {
		state = state.ForFloor()
	}
	return &stateOut{*state}, nil
}

func (s *Server) serviceDue(ctx context.Context, in *liveIn) (*dueOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	d, err := s.due(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if found(ctx).Role == access.Floor {
		d = d.ForFloor()
	}
	return &dueOut{*d}, nil
}

// gate is what is not ready for a service.
func (s *Server) gate(ctx context.Context, id string) ([]service.Unready, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	svc, ok := snap.Book.Service(id)
	if !ok {
		return nil, store.ErrNotFound
	}
	var jobs []expand.Job
	tasted := map[string]bool{}
	if p, err := s.planner.Prep(ctx); err == nil {
		jobs = p.View.Jobs
		for _, t := range p.Ticks {
			tasted[t.Task] = t.Tasted
		}
	} else if ctx.Err() != nil {
		return nil, err // where nothing could be planned, nothing is known of what is made
	}
	day, err := s.missing(ctx, snap.Book)
	if err != nil {
		return nil, err
	}
	return service.Gate(snap.Book, svc, jobs, tasted, day), nil
}

// missing is what should stand in today's log of temperatures and does not.
func (s *Server) missing(ctx context.Context, b *kitchen.Book) ([]safety.Due, error) {
	house, now := b.Kitchen(), s.clock()
	from, to, err := house.Stretch(house.Date(now))
	if err != nil {
		return nil, err
	}
	entries, err := s.store.SafetyLog(ctx, from, to)
	if err != nil {
		return nil, err
	}
	made, err := s.madeToday(ctx)
	if err != nil {
		return nil, err
	}
	return safety.Missing(b, made, entries, now), nil
}

func (s *Server) serviceGate(ctx context.Context, in *liveIn) (*gateOut, error) {
	list, err := s.gate(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	return &gateOut{GateView{list}}, nil
}

func (s *Server) livePlan(ctx context.Context, id string) (*service.Plan, error) {
	shown, err := s.planner.Service(ctx, id)
	if err != nil {
		return nil, err
	}
	p := service.PlanOf(shown.Plan.Number, &shown.Plan.View)
	p.NextOf, p.TakenOf = shown.Plan.Evening.NextIn(shown.Plan.Schedule), shown.Plan.Evening.TakenIn(shown.Plan.Schedule)
	return p, nil
}

func (s *Server) due(ctx context.Context, id string) (*service.DueView, error) {
	if isPractice(id) {
		return s.practiceDue(ctx, id)
	}
	plan, err := s.livePlan(ctx, id)
	if err != nil {
		return nil, err
	}
	state, err := s.live.Stands(ctx, id)
	if err != nil {
		return nil, err
	}
	d := service.DueAt(state, plan, s.clock())
	if since := s.followers.stuckSince(id); since != nil {
		at := since.In(d.At.Location())
		d.Stuck = &at
	}
	return d, nil
}
