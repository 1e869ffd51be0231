package server

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jointime/demo"
	"jointime/planner"
	"jointime/store"
)

// The demo's clock: a kitchen that nobody works in opens in the afternoon of its day, whatever the hour is, and can be put at another hour
// by whoever tries it. It stands still while nobody serves it. A real kitchen has none.

// demoTick is how often it is written down how far the demo's clock has come, and looked whether another server has put it.
const demoTick = 2 * time.Second

// DemoClockView is the demo's clock.
type DemoClockView struct {
	Demo bool      `json:"demo" doc:"This is the demo, which has a clock of its own"`
	Real bool      `json:"real" doc:"It goes with the clock on the wall"`
	At   time.Time `json:"at"`
}

type (
	demoClockOut struct{ Body DemoClockView }
	demoClockIn  struct {
		Body struct {
			Hour demo.Hour `json:"hour" enum:"before-prep,afternoon,opening,serving,real-time"`
		}
	}
)

func (s *Server) demoClockRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-demo-clock", Method: http.MethodGet, Path: "/api/demo/clock",
		Summary: "The demo's clock"}, s.getDemoClock)
	huma.Register(api, huma.Operation{OperationID: "put-demo-clock", Method: http.MethodPut, Path: "/api/demo/clock",
		Summary: "Put the demo's clock to another hour of its day", Errors: []int{409},
		BodyReadTimeout: -1}, s.putDemoClock) // it may have to wait for the first plan
}

func (s *Server) getDemoClock(ctx context.Context, _ *struct{}) (*demoClockOut, error) {
	v := DemoClockView{At: s.clock()}
	if s.demo != nil {
		c, err := s.store.DemoClock(ctx)
		if err != nil {
			return nil, s.fail(err)
		}
		if v.Demo = c != nil; c != nil {
			v.Real = c.Real
		}
	}
	return &demoClockOut{v}, nil
}

func (s *Server) putDemoClock(ctx context.Context, in *demoClockIn) (*demoClockOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	var c *store.DemoClock
	if s.demo != nil {
		if c, err = s.store.DemoClock(ctx); err != nil {
			return nil, s.fail(err)
		}
	}
	if c == nil {
		return nil, huma.NewError(http.StatusConflict, "This is not the demo: its clock is the one on the wall.")
	}
	house := snap.Book.Kitchen()
	was := s.clock()
	at, real := in.Body.Hour.At(&house, c.Begins), in.Body.Hour == demo.RealTime
	if real {
		at = s.demo.Wall()
	}
	if at.After(was) {
		if err := s.prepUntil(ctx, at); err != nil {
			return nil, s.fail(err)
		}
	}
	if err := s.store.SetDemoClock(ctx, at, real); err != nil {
		return nil, s.fail(err)
	}
	s.stopDemo()
	// Only now that it is written down: until then it is kept where it was.
	if s.demo.Put(at); real {
		s.demo.Free()
	}
	if in.Body.Hour == demo.Serving {
		if err := s.playDemo(ctx); err != nil {
			return nil, s.fail(err)
		}
	}
	return s.getDemoClock(ctx, nil)
}

// prepUntil ticks what the make-ahead plan would have finished by an instant: nobody did it, but the clock was put past it.
func (s *Server) prepUntil(ctx context.Context, at time.Time) error {
	p, err := s.planner.Prep(ctx)
	if err != nil {
		return err
	}
	var list []planner.Tick
	for _, j := range p.View.Jobs {
		if j.State == "forgotten" {
			continue
		}
		for _, t := range j.Steps {
			if !t.Done && !t.FinishAt.After(at) {
				list = append(list, planner.Tick{Task: t.Task, Batch: j.ID, Done: true, Tasted: t.Last, At: t.FinishAt})
			}
		}
	}
	return s.store.ImportTicks(ctx, list)
}

// takeUpDemoClock puts the clock to where the demo's stopped.
func (s *Server) takeUpDemoClock(ctx context.Context) {
	c, err := s.store.DemoClock(ctx)
	switch {
	case err != nil:
		s.log.Error("the demo's clock", "error", err)
	case c == nil || c.Real:
		s.demo.Free()
	default:
		s.demo.Put(c.Reached)
	}
}

// keepDemoClock writes down how far the demo's clock has come, until the server ends, and follows another server that has put it.
func (s *Server) keepDemoClock() {
	ctx := s.live.Life()
	t := time.NewTicker(demoTick)
	defer t.Stop()
	for {
		select {
		case <-t.C:
		case <-ctx.Done():
			return
		}
		c, err := s.store.DemoClock(ctx)
		if err != nil || c == nil {
			continue
		}
		now := s.clock()
		switch off := now.Sub(c.Reached); {
		case c.Real:
			s.demo.Free()
		case off < -demoTick || off > 10*demoTick: // another has put it
			s.demo.Put(c.Reached)
		default:
			_ = s.store.DemoClockReached(ctx, c, now) // it is tried again
		}
	}
}
