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
	// better ends the search for a better plan of a service, behind the one that follows; what happens comes first. putOff is how often in a
	// row that has been.
	better map[string]context.CancelFunc
	putOff map[string]int
	// looked is how many events that matter a service had when a better plan was last looked for.
	looked map[string]int
	// stuck is since when the plan of a service has not followed it any more, by a fault.
	stuck map[string]time.Time
}

func newFollowers() *followers {
	return &followers{going: map[string]bool{}, better: map[string]context.CancelFunc{}, putOff: map[string]int{}, looked: map[string]int{},
		stuck: map[string]time.Time{}}
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

// mostPutOff is how often in a row a search for a better plan is ended by what happens: in a rush something is tapped every few seconds, and
// it would never come to its end. The next time what happens is followed after it, some seconds later, and by what it has found.
const mostPutOff = 2

// begins reports whether the plan of a service is to begin to follow now, and nobody sees to it yet. Where somebody does they follow once
// more; the search for a better plan makes way for what has happened, but not for the clock alone.
func (f *followers) begins(id string, byClock bool) bool {
	f.mu.Lock()
	defer f.mu.Unlock()
	if _, going := f.going[id]; !going {
		f.going[id] = false
		return true
	}
	f.going[id] = true
	if end := f.better[id]; end != nil && !byClock && f.putOff[id] < mostPutOff {
		f.putOff[id]++
		end()
	}
	return false
}

// follow makes the plan of a service follow its log, in the background, after something has happened or by the clock; of many calls while it
// does, one more follows.
func (s *Server) follow(id string, byClock bool) {
	if isPractice(id) { // what is played plans for itself
		return
	}
	if !s.followers.begins(id, byClock) {
		return
	}
	s.work.Go(func() {
		for {
			err := s.followOnce(s.live.Life(), id)
			if ends := s.live.Life().Err() != nil || errors.Is(err, planner.ErrClosed); !ends {
				s.followers.note(id, err, s.clock())
				if err != nil {
					s.log.Error("the plan does not follow the service", "service", id, "error", err)
				}
			}
			s.improveOnce(id)
			s.followers.mu.Lock()
			if !s.followers.going[id] || s.live.Life().Err() != nil {
				delete(s.followers.going, id)
				s.followers.mu.Unlock()
				return
			}
			s.followers.going[id] = false
			s.followers.mu.Unlock()
		}
	})
}

// improveOnce looks for a better plan of a service, once after what was said last, and again where the planner says so.
func (s *Server) improveOnce(id string) {
	ctx, end := context.WithCancel(s.live.Life())
	defer end()
	s.followers.mu.Lock()
	s.followers.better[id] = end
	more := s.followers.going[id]
	looked := s.followers.looked[id]
	s.followers.mu.Unlock()
	defer func() {
		s.followers.mu.Lock()
		delete(s.followers.better, id)
		s.followers.mu.Unlock()
	}()
	if more {
		return
	}
	state, err := s.live.Stands(ctx, id)
	if err != nil || state.Phase != service.Open || state.Matters() == looked && !s.planner.LooksAgain(id) {
		return
	}
	_, err = s.store.Lead(ctx, "service/"+id, func() error {
		plan, err := s.planner.Improve(ctx, id, state, func() (*service.State, error) { return s.live.Stands(ctx, id) })
		if err != nil || plan == nil {
			return err
		}
		return s.sayTold(context.WithoutCancel(ctx), id, plan.Number) // it is written down: that is said whatever happens meanwhile
	})
	if err != nil && ctx.Err() == nil && !errors.Is(err, planner.ErrBehind) && !errors.Is(err, planner.ErrClosed) {
		s.log.Error("no better plan could be looked for", "service", id, "error", err)
	}
	if ctx.Err() == nil {
		s.followers.searched(id, state.Matters())
	}
}

// searched notes that a search for a better plan has come to its end, after so many events that matter.
func (f *followers) searched(id string, matters int) {
	f.mu.Lock()
	defer f.mu.Unlock()
	f.looked[id] = matters
	delete(f.putOff, id)
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
				s.follow(id, true)
			}
		case <-s.live.Life().Done():
			return
		}
	}
}
