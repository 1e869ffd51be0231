package server

import (
	"context"
	"errors"
	"strconv"
	"sync"
	"time"

	"jointime/core/service"
	"jointime/live"
	"jointime/planner"
)

// The plan of a service that goes on follows its log: at each event that matters, and by the clock, since what is due and was not fired is
// still to do.

// followEvery is how often the plan follows the clock.
const followEvery = 10 * time.Second

// followers are the services whose plans are being made again, and of which more has happened meanwhile.
type followers struct {
	mu    sync.Mutex
	going map[string]bool // true: once more
	// stuck is since when the plan of a service has not followed it any more, by a fault.
	stuck map[string]time.Time
}

func newFollowers() *followers {
	return &followers{going: map[string]bool{}, stuck: map[string]time.Time{}}
}

// note keeps how the plan of a service has followed last, at an instant.
func (f *followers) note(id string, err error, now time.Time) {
	f.mu.Lock()
	defer f.mu.Unlock()
	if err == nil {
		delete(f.stuck, id)
	} else if _, known := f.stuck[id]; !known {
		f.stuck[id] = now
	}
}

// stuckSince is since when the plan of a service has not followed it any more; nil where it does.
func (f *followers) stuckSince(id string) *time.Time {
	f.mu.Lock()
	defer f.mu.Unlock()
	if at, is := f.stuck[id]; is {
		return &at
	}
	return nil
}

// begins reports whether the plan of a service is to begin to follow now, and nobody sees to it yet. Where somebody does they follow once
// more.
func (f *followers) begins(id string) bool {
	f.mu.Lock()
	defer f.mu.Unlock()
	_, going := f.going[id]
	f.going[id] = going
	return !going
}

// more reports whether something more has happened in a service meanwhile.
func (f *followers) more(id string) bool {
	f.mu.Lock()
	defer f.mu.Unlock()
	return f.going[id]
}

// ends reports whether nothing more has happened in a service meanwhile: then nobody sees to it any more.
func (f *followers) ends(id string) bool {
	f.mu.Lock()
	defer f.mu.Unlock()
	if !f.going[id] {
		delete(f.going, id)
		return true
	}
	f.going[id] = false
	return false
}

// follow makes the plan of a service follow its log, in the background, after something has happened or by the clock; of many calls while it
// does, one more follows. What was found meanwhile by the search for a better plan is told then, and another is begun where that is due.
func (s *Server) follow(id string) {
	if isPractice(id) { // what is played plans for itself
		return
	}
	if !s.followers.begins(id) {
		return
	}
	s.work.Go(func() {
		life := s.live.Life()
		for {
			err := s.followOnce(life, id)
			if !s.over(err) {
				s.followers.note(id, err, s.clock())
				if err != nil {
					s.log.Error("the plan does not follow the service", "service", id, "error", err)
				}
			}
			if err := s.improve(life, id, s.followers.more(id)); err != nil && !s.over(err) {
				s.log.Error("no better plan could be looked for", "service", id, "error", err)
			}
			if s.followers.ends(id) || life.Err() != nil {
				return
			}
		}
	})
}

// over reports whether an error is that the server ends.
func (s *Server) over(err error) bool {
	return s.live.Life().Err() != nil || errors.Is(err, planner.ErrClosed)
}

// sayTold writes into the log which plan is shown.
func (s *Server) sayTold(ctx context.Context, id string, plan int64) error {
	told := service.Event{ID: "told-plan-" + strconv.FormatInt(plan, 10), Kind: service.Told, Facts: service.Facts{Plan: plan}}
	_, _, err := s.live.Add(ctx, id, live.Who{Role: "planner"}, []service.Event{told}, 0)
	return err
}

// followOnce makes the plan follow what is written now; one server at a time does so. Which plan is shown then is written into the log.
func (s *Server) followOnce(ctx context.Context, id string) error {
	_, err := s.store.Lead(ctx, "service/"+id, func() error {
		state, err := s.live.State(ctx, id)
		if err != nil {
			return err
		}
		plan, err := s.planner.Happened(ctx, id, state)
		if err != nil || plan == nil {
			return err
		}
		return s.sayTold(ctx, id, plan.Number)
	})
	if errors.Is(err, planner.ErrBehind) {
		return nil // another has told one
	}
	return err
}

// followClock makes the plans of the services that go on follow the clock.
func (s *Server) followClock() {
	t := time.NewTicker(followEvery)
	defer t.Stop()
	for {
		select {
		case <-t.C:
			for _, id := range s.live.Open() {
				s.follow(id)
			}
		case <-s.live.Life().Done():
			return
		}
	}
}
