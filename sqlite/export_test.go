package sqlite

// OnStatement calls f with every statement from now on.
func (s *Store) OnStatement(f func(statement string)) { s.asked = f }
