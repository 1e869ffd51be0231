package server

import "time"

// Followed has the plan of a service followed, or not, at an instant.
func (s *Server) Followed(id string, err error, now time.Time) { s.followers.note(id, err, now) }

// Follows reports whether the plan of a service is being made to follow what was said, or a better one is looked for behind that.
func (s *Server) Follows(id string) bool {
	s.followers.mu.Lock()
	defer s.followers.mu.Unlock()
	_, going := s.followers.going[id]
	return going
}
