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

// Followers are the services whose plans are being made again.
type Followers = followers

// NewFollowers is none of them.
func NewFollowers() *Followers { return newFollowers() }

// Begins is begins. Searches says how the search for a better plan of a service is ended, and Searched that it has come to its end.
func (f *Followers) Begins(id string, byClock bool) bool { return f.begins(id, byClock) }
func (f *Followers) Searches(id string, end func())      { f.better[id] = end }
func (f *Followers) Searched(id string)                  { f.searched(id, 1) }
