package server

import (
	"context"
	"errors"
	"sync"

	"jointime/core/service"
	"jointime/planner"
)

// Beside the plan that follows a service a better one is looked for. What happens meanwhile is followed at once: it neither ends the search
// nor waits for it. In a rush something is tapped every few seconds, and one of the two would never come to its end. What is found catches
// up with what has happened before it is told.

// searches are the searches for a better plan of the services that go on.
type searches struct {
	mu sync.Mutex
	by map[string]*behind
}

// behind is the last search for a better plan of a service, which has found something or not.
type behind struct {
	search *planner.Search
	end    context.CancelFunc // nil once it has come to its end
	found  *planner.Found     // what is not told yet
	after  int                // how many events that matter there were when it began; -1 where another is to begin anyhow
}

// with has a look at the last search of a service, or changes it.
func (s *searches) with(id string, f func(b *behind)) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.by[id] == nil {
		s.by[id] = &behind{after: -1}
	}
	f(s.by[id])
}

// improve tells what the search for a better plan of a service has found, ends one that looks for what is not wanted any more, and begins
// another: once after what was said last, and again where the planner says so. More says that something has happened which the plan does not
// follow yet: then none is begun.
func (s *Server) improve(ctx context.Context, id string, more bool) error {
	var is behind
	s.searches.with(id, func(b *behind) { is, b.found = *b, nil })
	if is.found != nil {
		if err := s.tellBetter(ctx, id, is.found); err != nil {
			return err
		}
	}
	state, err := s.live.Stands(ctx, id)
	if err != nil {
		return err
	}
	if is.end != nil {
		holds, err := is.search.Holds(ctx, state)
		if err == nil && !holds {
			is.end()
		}
		return err
	}
	if more || state.Phase != service.Open || state.Matters() == is.after && !s.planner.LooksAgain(id) {
		return nil
	}
	search, err := s.planner.Search(ctx, id, state)
	if err != nil || search == nil {
		return err
	}
	looks, end := context.WithCancel(ctx)
	s.searches.with(id, func(b *behind) { b.search, b.end, b.after = search, end, state.Matters() })
	s.work.Go(func() {
		defer end()
		s.look(looks, id, search)
	})
	return nil
}

// look looks for a better plan of a service, on one server at a time, and has what is found told. A search that was ended begins anew.
func (s *Server) look(ctx context.Context, id string, search *planner.Search) {
	_, err := s.store.Lead(ctx, "better/"+id, func() error {
		return search.Look(ctx, func(found *planner.Found) {
			s.searches.with(id, func(b *behind) { b.found = found })
			s.follow(id)
		})
	})
	ended := ctx.Err() != nil
	if err != nil && !ended {
		s.log.Error("no better plan could be looked for", "service", id, "error", err)
	}
	s.searches.with(id, func(b *behind) {
		if b.end = nil; ended {
			b.after = -1
		}
	})
	if ended {
		s.follow(id)
	}
}

// tellBetter tells what was found, where that is still better; one server at a time tells.
func (s *Server) tellBetter(ctx context.Context, id string, found *planner.Found) error {
	_, err := s.store.Lead(ctx, "service/"+id, func() error {
		state, err := s.live.State(ctx, id)
		if err != nil {
			return err
		}
		plan, err := found.Tell(ctx, state)
		if err != nil || plan == nil {
			return err
		}
		return s.sayTold(context.WithoutCancel(ctx), id, plan.Number) // it is written down: that is said whatever happens meanwhile
	})
	if errors.Is(err, planner.ErrBehind) {
		return nil // another has told one
	}
	return err
}
