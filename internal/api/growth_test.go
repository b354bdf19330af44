package api_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"corrim/internal/demo"
)

// What people look at most, with 200 advisers more, 2,000 types, 320,000 bookings and 200,000 events; "make trial" holds it against
// the same without them.
func BenchmarkWithYearsOfUse(b *testing.B) {
	h, c := serve(b, generous)
	require.NoError(b, demo.Grow(b.Context(), h.App.Store, 200, h.Now()))
	response, _ := c.send("POST", "/api/session", fmt.Sprintf(`{"mail":%q,"password":"a lamp in the hall"}`, h.Host.Mail))
	require.Equal(b, 200, response.StatusCode)
	day := h.Now().AddDate(0, 0, 1).Format(time.DateOnly)
	for _, path := range []string{
		"/api/today", "/api/public/quillmere", "/api/types?all=true", "/api/staff", "/api/clients", "/api/known-clients", "/api/board?days=7&everybody=true&from=" + day,
		fmt.Sprintf("/api/types/%d/routing", h.Type.ID),
	} {
		b.Run(path[len("/api/"):], func(b *testing.B) {
			for b.Loop() {
				response, _ := c.send("GET", path, "")
				require.Equal(b, 200, response.StatusCode)
			}
		})
	}
}
