package server

import (
	"context"
	"time"

	"jointime/planner"
)

// Followed has the plan of a service followed, or not, at an instant.
func (s *Server) Followed(id string, err error, now time.Time) { s.followers.note(id, err, now) }

// Follow has the plan of a service follow, as the clock does.
func (s *Server) Follow(id string) { s.follow(id) }

// Following reports whether the plan of a service is being made to follow what was said.
func (s *Server) Following(id string) bool {
	s.followers.mu.Lock()
	defer s.followers.mu.Unlock()
	_, going := s.followers.going[id]
	return going
}

// Follows reports whether that is so, or a better plan is looked for behind it.
func (s *Server) Follows(id string) (does bool) {
	if s.Following(id) {
		return true
	}
	s.searches.with(id, func(b *behind) { does = b.end != nil })
	return does || s.Following(id) // what is found is told before the search ends
}

// Searched is the last search for a better plan of a service; nil where there was none.
func (s *Server) Searched(id string) (last *planner.Search) {
	s.searches.with(id, func(b *behind) { last = b.search })
	return last
}

// Searches has the last search for a better plan of a service go on, until it is ended; with nil it has come to its end.
func (s *Server) Searches(id string, end func()) {
	s.searches.with(id, func(b *behind) { b.end = end })
}

// Look looks for a better plan, and Improve sees to that search, as is done where something has happened.
func (s *Server) Look(ctx context.Context, id string, by *planner.Search) { s.look(ctx, id, by) }
func (s *Server) Improve(ctx context.Context, id string, more bool) error {
	return s.improve(ctx, id, more)
}

// Followers are the services whose plans are being made again.
type Followers = followers

// NewFollowers is none of them. Begins, More and Ends are begins, more and ends.
func NewFollowers() *Followers             { return newFollowers() }
func (f *Followers) Begins(id string) bool { return f.begins(id) }
func (f *Followers) More(id string) bool   { return f.more(id) }
func (f *Followers) Ends(id string) bool   { return f.ends(id) }
