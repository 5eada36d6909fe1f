package server

import "time"

// What is tried here is what is answered, not how soon.
func init() { patience, allowed = 50*time.Second, 55*time.Second }

// Working tells how many places of the pool are taken.
func (s *Server) Working() int { return len(s.heavy.hands) }
