package server

// Follows reports whether the plan of a service is being made to follow what was said, or a better one is looked for behind that.
func (s *Server) Follows(id string) bool {
	s.followers.mu.Lock()
	defer s.followers.mu.Unlock()
	_, going := s.followers.going[id]
	return going
}
