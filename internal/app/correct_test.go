package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/intake"
	"corrim/internal/app"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

func TestAClientCorrectsWhatTheyWroteAndTheHostIsTold(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Connect()
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{
			{ID: "loan", Kind: intake.YesNo, Label: "Is it a loan?", Required: true},
			{ID: "lender", Kind: intake.Short, Label: "Who lends it?", Required: true, When: &intake.When{Question: "loan", Is: []string{"yes"}}},
			{ID: "plan", Kind: intake.Short, Label: "Which plan?"},
			{ID: "terms", Kind: intake.Terms, Label: "The house rules", Required: true},
		}
		c.Ways, c.Guests, c.CorrectUntil = []schedule.Way{{ID: "call", Kind: "phone", Calls: "host"}}, 1, 60
	})
	b, err := bookFor(t, h, "2026-05-05 10:00", func(r *schedule.BookingRequest) {
		r.Said = intake.Given{"loan": {"no"}, "plan": {"A"}, "terms": {"yes"}}
		r.Given, r.Guests, r.Remark = "+44 20 7946 0958", []string{"friend@x.example"}, "two maps"
	})
	require.NoError(t, err)
	letters(t, h, "friend@x.example", 1)
	assert.Equal(t, "number", b.Correct.Asks)
	assert.Len(t, b.Correct.Questions, 3, "what was agreed to stays agreed to")
	assert.Nil(t, b.Last)

	offers(t, h, func(c *settings.BookingPageChange) { c.Questions = append(c.Questions[:2], c.Questions[3]) }) // the plan is not asked for any more
	now := schedule.Correction{Said: intake.Given{"loan": {"yes"}}, Given: "12", Remark: "three maps"}
	_, err = h.App.Correct(ctx, linkOf(b), now)
	fields := refused(t, err, refusal.Invalid).Fields
	assert.NotEmpty(t, fields["given"])
	assert.NotEmpty(t, fields["said.lender"])

	now.Said["lender"], now.Given = []string{"The harbour"}, "+44 20 7946 0999"
	b, err = h.App.Correct(ctx, linkOf(b), now)
	require.NoError(t, err)
	said := map[string]string{}
	for _, fact := range b.Said {
		said[fact.Word] = fact.What
	}
	assert.Equal(t, map[string]string{"Is it a loan?": "yes", "Who lends it?": "The harbour", "Which plan?": "A", "The house rules": "yes"}, said)
	assert.Equal(t, "+442079460999", b.Number)
	assert.Equal(t, &app.LastChange{Kind: "corrected", By: "client", At: h.Now().UTC()}, b.Last)
	again, err := h.App.Correct(ctx, linkOf(b), now)
	require.NoError(t, err)
	assert.Equal(t, b, again, "sent twice, done once")

	told := letters(t, h, h.Host.Mail, 2)[1]
	assert.Contains(t, told.Subject, "Corrected by the client")
	assert.Contains(t, told.Text, "Corrected: By phone · Is it a loan? · Who lends it? · Remark")
	own := letters(t, h, "keeper@harbour.example", 2)[1]
	assert.Contains(t, own.Text, "three maps")
	require.Eventually(t, func() bool { return strings.Contains(strings.Join(h.Calendars.Texts("ines", 0), ""), "three maps") }, time.Minute, 20*time.Millisecond, "so is the host's calendar")
	assert.Len(t, letters(t, h, "friend@x.example", 1), 1, "a guest has nothing to do with it")

	h.Pass(24*time.Hour + time.Minute) // 59 minutes before it begins
	b, err = h.App.BookingByLink(ctx, linkOf(b))
	require.NoError(t, err)
	assert.Nil(t, b.Correct)
	_, err = h.App.Correct(ctx, linkOf(b), schedule.Correction{Given: "+44 20 7946 0958"})
	assert.Equal(t, "correct-late", refused(t, err, refusal.Over).Code)
}
