package server

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/safety"
	"jointime/core/service"
	"jointime/live"
	"jointime/store"
)

// What thermometers say in service: readings by themselves, and an event where what they let expect has moved.

// movedBy is how far a forecast moves before that is said, warmedBy how far the core does, °C.
const (
	movedBy  = 20 * time.Second
	warmedBy = 5.0
)

// ReadingsIn are what a thermometer said at a run.
type ReadingsIn struct {
	Task      string               `json:"task" minLength:"1" maxLength:"300"`
	Component string               `json:"component" maxLength:"80"`
	Step      string               `json:"step" maxLength:"80"`
	Device    string               `json:"device,omitempty" maxLength:"80" doc:"What a thermometer that is not paired calls itself"`
	Readings  []store.ProbeReading `json:"readings" nullable:"false" minItems:"1" maxItems:"2000"`
}

// ReadingsView is what was measured at a run, and what it lets expect.
type ReadingsView struct {
	Readings []store.ProbeReading `json:"readings" nullable:"false"`
	Problem  bool                 `json:"problem" doc:"Nothing can be expected from these"`
	Said     []message.Message    `json:"said" nullable:"false"`
	ReadyAt  *time.Time           `json:"ready_at,omitempty" doc:"When the core is at its target, as far as that can be said"`
	ErrorS   int                  `json:"error_s" doc:"± seconds, two times of three"`
}

type (
	readingsIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body ReadingsIn
	}
	getReadingsIn struct {
		ID   string `path:"id" maxLength:"80"`
		Task string `query:"task" required:"true" maxLength:"300"`
	}
	readingsOut struct{ Body ReadingsView }
)

func (s *Server) readingRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "add-readings", Method: http.MethodPost, Path: "/api/services/{id}/readings",
		Summary: "Say what a thermometer measures at a run", MaxBodyBytes: maxBody, Errors: []int{404, 422},
		BodyReadTimeout: -1}, s.addReadings) // it may have to wait for the first plan
	huma.Register(api, huma.Operation{OperationID: "get-readings", Method: http.MethodGet, Path: "/api/services/{id}/readings",
		Summary: "What was measured at a run, and what that lets expect", Errors: []int{404}}, s.getReadings)
}

func (s *Server) addReadings(ctx context.Context, in *readingsIn) (*readingsOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	who, now := s.whoSays(ctx, in.ID), s.clock()
	e := service.Event{ID: fmt.Sprintf("probe-%s-%d", in.Body.Task, now.UnixNano()), Kind: service.Probe, At: now,
		Facts: service.Facts{Task: in.Body.Task, Component: in.Body.Component, Step: in.Body.Step}}
	if no := who.Refuses(&e); no != nil {
		return nil, s.fail(kitchen.Faults{{Path: "task", Message: *no}})
	}
	for i := range in.Body.Readings {
		if r := &in.Body.Readings[i]; r.At.IsZero() || r.At.After(now) {
			r.At = now // a thermometer's clock is not the kitchen's
		}
	}
	device := who.Device
	if device == "" {
		device = in.Body.Device
	}
	if err := s.store.AddReadings(ctx, in.ID, in.Body.Task, device, in.Body.Readings); err != nil {
		return nil, s.fail(err)
	}
	view, err := s.expects(ctx, in.ID, in.Body.Task, in.Body.Component, in.Body.Step)
	if err != nil {
		return nil, s.fail(err)
	}
	if err := s.sayProbe(ctx, in.ID, who, &e, view); err != nil {
		return nil, s.fail(err)
	}
	return &readingsOut{*view}, nil
}

// sayProbe writes into the log that a forecast has moved, where it has.
func (s *Server) sayProbe(ctx context.Context, id string, who live.Who, e *service.Event, view *ReadingsView) error {
	if view.ReadyAt == nil {
		return nil
	}
	state, err := s.live.Stands(ctx, id)
	if err != nil {
		return err
	}
	r, last := state.Run(e.Task), view.Readings[len(view.Readings)-1].Celsius
	known := r != nil && r.ProbeUntil != nil && r.Celsius != nil
	if known && view.ReadyAt.Sub(*r.ProbeUntil).Abs() < movedBy && math.Abs(last-*r.Celsius) < warmedBy {
		return nil
	}
	e.Celsius, e.Until = &last, view.ReadyAt
	_, taken, err := s.live.Add(ctx, id, who, []service.Event{*e}, 0)
	if err == nil && len(taken) > 0 && taken[0].As == live.Taken {
		s.follow(id)
	}
	return err
}

// expects is what was measured at a run and what follows from it, in the time since it was fired, or since it was first measured.
func (s *Server) expects(ctx context.Context, id, task, component, step string) (*ReadingsView, error) {
	list, err := s.store.Readings(ctx, id, task)
	if err != nil {
		return nil, err
	}
	out := &ReadingsView{Readings: list, Said: []message.Message{}, Problem: true}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	c, ok := snap.Book.Component(component)
	if !ok || c.StepIndex(step) < 0 || len(list) == 0 {
		return out, nil // it is written down, and nothing can be computed of it
	}
	from := list[0].At
	readings := make([]heat.Reading, 0, len(list))
	for i, r := range list {
		if i > 0 && !r.At.After(list[i-1].At) {
			continue // two thermometers at one instant
		}
		readings = append(readings, heat.Reading{S: r.At.Sub(from).Seconds(), C: r.Celsius})
	}
	p := safety.Probe(snap.Book, &c.Steps[c.StepIndex(step)], readings)
	if out.Problem, out.Said, out.ErrorS = p.Problem, p.Said, p.ErrorS; !p.Problem {
		at := from.Add(time.Duration(p.AtS) * time.Second)
		out.ReadyAt = &at
	}
	return out, nil
}

func (s *Server) getReadings(ctx context.Context, in *getReadingsIn) (*readingsOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	component, step := "", ""
	if plan, err := s.livePlan(ctx, in.ID); err == nil {
		for i := range plan.Runs {
			if r := &plan.Runs[i]; r.Task == in.Task {
				component, step = r.Component, r.Step
			}
		}
	}
	view, err := s.expects(ctx, in.ID, in.Task, component, step)
	if err != nil {
		return nil, s.fail(err)
	}
	return &readingsOut{*view}, nil
}
