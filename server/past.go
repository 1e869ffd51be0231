package server

import (
	"context"
	"fmt"
	"time"

	"jointime/core/service"
	"jointime/core/simulate"
	"jointime/demo"
)

// The demo's services that are over: they are played once, in the background, and stand in the record like any others. Each is written
// whole or not at all; what was begun by a server that ended is gone on with by the next.

// goPast plays them in the background.
func (s *Server) goPast() {
	s.nights.mu.Lock()
	defer s.nights.mu.Unlock()
	if s.nights.playing {
		return
	}
	s.nights.playing = true
	s.work.Go(func() {
		s.playPast(s.live.Life())
		s.nights.mu.Lock()
		s.nights.playing = false
		s.nights.mu.Unlock()
	})
}

// playPast plays what is not yet in the record, the last evening first.
func (s *Server) playPast(ctx context.Context) {
	c, err := s.store.DemoClock(ctx)
	if err != nil || c == nil {
		return
	}
	snap, err := s.book(ctx)
	if err != nil {
		return
	}
	house := snap.Book.Kitchen()
	day := house.DayOf(c.Begins).From
	for n, svc := range demo.Past(day) {
		if _, there := snap.Book.Service(svc.ID); !there {
			if _, err = s.store.Save(ctx, serviceKey(svc.ID), 0, svc, svc.Name+" was played for the demo."); err != nil {
				break
			}
		}
		if err = s.playPastNight(ctx, svc.ID, uint64(n)+1); err != nil {
			break
		}
	}
	if err != nil && ctx.Err() == nil {
		s.log.Error("the demo's past services could not be played", "error", err)
	}
}

func (s *Server) playPastNight(ctx context.Context, id string, seed uint64) error {
	log, err := s.store.Events(ctx, id, 0)
	if err != nil || len(log) > 0 {
		return err
	}
	head, err := s.store.Head(ctx, "service/"+id)
	if err != nil {
		return err
	}
	plan, err := s.planner.ToldPlan(ctx, id, head.Number)
	if head.Number == 0 {
		plan, err = s.planner.Recorded(ctx, id)
	}
	if err != nil {
		return fmt.Errorf("planning %s: %w", id, err)
	}
	set := simulate.Usual().AsOrdered()
	set.Steps, set.People = demo.Truth()
	events := simulate.New(plan.Evening, plan.Schedule, plan.Number).Play(seed, set, simulate.AsPrinted, true).Events
	if len(events) == 0 {
		return nil
	}
	told := service.Event{ID: "played-told", Kind: service.Told, At: events[0].At.Add(time.Nanosecond),
		Facts: service.Facts{Plan: plan.Number}}
	closed := service.Event{ID: "played-closed", Kind: service.Closed, At: events[len(events)-1].At.Add(10 * time.Minute), Device: "pass"}
	list := append([]service.Event{events[0], told}, events[1:]...)
	list = append(list, closed)
	for i := range list {
		list[i].ReceivedAt = list[i].At
	}
	// What stands beside it first, which is the same whenever it is written: a night whose log is there is whole.
	for task, readings := range pastReadings(plan.Evening.Book(), events) {
		if err := s.store.AddReadings(ctx, id, task, "probe", readings); err != nil {
			return err
		}
	}
	if err := s.store.AddThrown(ctx, pastThrown(plan.Evening.Book(), plan.Evening.Service, list)...); err != nil {
		return err
	}
	_, err = s.store.Append(ctx, id, 0, func(since []service.Event) ([]service.Event, error) {
		if len(since) > 0 {
			return nil, nil // another server was quicker
		}
		return list, nil
	})
	return err
}
