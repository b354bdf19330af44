package identity

import "context"

// Hashing does something as passwords are worked on, for tests of how many at once.
func (s *Service) Hashing(ctx context.Context, work func()) error { return s.gate.do(ctx, work) }
