package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/schedule"
	"corrim/internal/testhouse"
)

// bookAs has somebody book, with whoever's turn it is.
func bookAs(t *testing.T, h *testhouse.House, name, mail, at string) {
	t.Helper()
	r := h.Request(at)
	r.Name, r.Mail = name, mail
	_, err := h.App.Book(ctx, "quillmere", "survey", name+at, r)
	require.NoError(t, err)
}

func TestAnythingIsFoundByItsFirstLetters(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	routed(t, h, func(*schedule.TypeRouting) {})
	bookAs(t, h, "Museu de São Roque", "visitas@museudaria.example", "2026-05-05 10:00")
	bookAs(t, h, "Plain Museum", "desk@plain.example", "2026-05-05 10:00") // the turn of Maren
	find := func(p schedule.Person, search string) (out []string) {
		found, err := h.App.Find(ctx, p, search)
		require.NoError(t, err)
		for _, f := range found {
			out = append(out, f.Kind+" "+f.Name)
		}
		return out
	}
	ines := again(t, h)
	assert.Equal(t, []string{"client Museu de São Roque", "booking Museu de São Roque"}, find(ines, "sao MUS"), "without accents, in any order")
	assert.Equal(t, []string{"client Museu de São Roque", "booking Museu de São Roque"}, find(ines, "visitas@museudaria"), "by the address")
	assert.Equal(t, []string{"client Plain Museum", "client Museu de São Roque", "booking Plain Museum", "booking Museu de São Roque"}, find(ines, "mus"), "the latest first")
	assert.Equal(t, []string{"type Survey"}, find(ines, "surv"))
	assert.Equal(t, []string{"colleague Maren Achterberg", "hours Maren Achterberg"}, find(ines, "maren a"))
	for _, nothing := range []string{"", "  ", `"`, `mus" OR "plain`, "xyz", "useu", "-*"} {
		assert.Empty(t, find(ines, nothing), nothing)
	}

	maren, err := h.App.Person(ctx, h.Colleague.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"client Plain Museum", "booking Plain Museum"}, find(maren, "mus"), "a member finds only those who booked with them")

	// Who calls themselves otherwise later is found by the new name alone.
	bookAs(t, h, "Casa Nova", "visitas@museudaria.example", "2026-05-06 10:00")
	assert.Empty(t, find(ines, "roque"))
	assert.Contains(t, find(ines, "casa nova"), "client Casa Nova")
}
