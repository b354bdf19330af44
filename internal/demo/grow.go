package demo

import (
	"context"
	_ "embed" // what is grown
	"strconv"
	"strings"
	"time"

	"corrim/internal/store"
)

//go:embed grow.sql
var growth string

// Grow adds years of use to a planted demo: so many more advisers, and some 1,600 bookings for everybody. With 200, there are 2,000 types,
// 320,000 bookings and 200,000 events, to see whether all is as quick then.
func Grow(ctx context.Context, s *store.Store, advisers int, now time.Time) error {
	script := strings.NewReplacer("HOSTS", strconv.Itoa(advisers), "NOW", strconv.FormatInt(now.Unix(), 10)).Replace(growth)
	return s.Script(ctx, script)
}
