package server

import (
	"context"
	"slices"
	"strings"
	"sync"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/workload"
	"jointime/demo"
	"jointime/planner"
	"jointime/store"
)

// demoRounds bounds the search for the plan from which the demo's ticks are taken; it
// ends by itself, so that the same day always gives the same ticks.
const demoRounds = 6000

// LoadDemo puts the demo into an empty kitchen: its services on the day of now, what was
// made on the days before as products on hand, and what the day's plan would have
// finished by now as ticked. The day's plan itself is what the kitchen would have made in
// the morning; one thing was forgotten.
func LoadDemo(ctx context.Context, s *store.Store, now time.Time) error {
	d, err := demo.Kitchen()
	if err != nil {
		return err
	}
	day := d.Kitchen.DayOf(now)
	d.Services, d.Meals = demo.Services(day.From), demo.Meals()
	book, err := kitchen.NewBook(d)
	if err != nil {
		return err
	}
	if d.Stock, err = madeBefore(book, day.From); err != nil {
		return err
	}
	if book, err = kitchen.NewBook(d); err != nil {
		return err
	}
	if err := s.Import(ctx, d, "The demo was loaded."); err != nil {
		return err
	}
	ticks, err := madeToday(ctx, book, day.From, now)
	if err != nil {
		return err
	}
	return s.ImportTicks(ctx, ticks)
}

// BeginDemo loads the demo as on the afternoon of this day, with a clock of its own that is put there: what is loaded is written down at
// that hour. The store has to go by the same clock.
func BeginDemo(ctx context.Context, s *store.Store, c *demo.Clock) error {
	d, err := demo.Kitchen()
	if err != nil {
		return err
	}
	if snap, err := s.Snapshot(ctx); err != nil {
		return err
	} else if !snap.Empty {
		return store.ErrNotEmpty // no clock is put for what is not loaded
	}
	at := demo.Afternoon.At(&d.Kitchen, c.Wall())
	c.Put(at)
	if err := LoadDemo(ctx, s, at); err != nil {
		c.Free()
		return err
	}
	return s.BeginDemoClock(ctx, at)
}

// madeBefore is what has to be on hand in the morning because the evening needs it and a
// day is too short to make it.
func madeBefore(book *kitchen.Book, morning time.Time) ([]kitchen.Stock, error) {
	p, err := expand.NewPrep(book, book.Services(), morning, nil, nil)
	if err != nil {
		return nil, err
	}
	var out []kitchen.Stock
	for i, x := range p.Amounts.Batches {
		tonight := x.Service == demo.Tonight
		// What would only just be ready belongs to the day before too.
		late := p.EarliestReady[i].Add(2 * time.Hour).After(x.NeedBy)
		if !slices.Contains(demo.MadeBefore, x.Component) && (!tonight || !late) {
			continue
		}
		c, _ := book.Component(x.Component)
		if n := len(out); n > 0 && out[n-1].Component == c.ID {
			out[n-1].Amount += c.BatchYield
			out[n-1].UseBy = x.LastUse.Add(2 * time.Hour)
			continue
		}
		out = append(out, kitchen.Stock{ID: "stock-" + c.ID, Component: c.ID, Amount: c.BatchYield, UseBy: x.LastUse.Add(2 * time.Hour),
			Note: "made before today"})
	}
	return out, nil
}

// mornings are the plans of mornings that were searched for, *workload.Schedule by the instant: the demo is the same whenever and in
// whatever kitchen it is loaded, and its plan takes the most of the time that this takes.
var mornings sync.Map

// morningPlan is the demo's make-ahead plan of a morning. One that was cut short is not kept.
func morningPlan(ctx context.Context, w *workload.Workload, morning time.Time) *workload.Schedule {
	if known, ok := mornings.Load(morning.String()); ok {
		return known.(*workload.Schedule)
	}
	s := schedule.Solve(ctx, w, schedule.Options{Seed: 1, Rounds: demoRounds, Anyway: true})
	if ctx.Err() == nil {
		mornings.Store(morning.String(), s)
	}
	return s
}

// madeToday ticks the steps that the morning's plan has finished by now.
func madeToday(ctx context.Context, book *kitchen.Book, morning, now time.Time) ([]planner.Tick, error) {
	p, err := expand.NewPrep(book, book.Coming(morning), morning, nil, nil)
	if err != nil {
		return nil, err
	}
	var out []planner.Tick
	for _, j := range p.Read(morningPlan(ctx, p.Workload, morning)).Jobs {
		if j.State == "forgotten" {
			continue
		}
		for _, t := range j.Steps {
			if t.FinishAt.After(now) {
				continue
			}
			out = append(out, planner.Tick{Task: t.Task, Batch: j.ID, Done: true, Tasted: t.Last, Person: strings.Join(t.People, ", "),
				At: t.FinishAt})
		}
	}
	return out, nil
}
