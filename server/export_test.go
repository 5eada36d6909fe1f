package server

// Working tells how many places of the pool are taken.
func (s *Server) Working() int { return len(s.heavy.hands) }
