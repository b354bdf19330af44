package app_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/message"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
	"corrim/internal/testhouse"
)

func clientRule(minutes int, side, condition string) message.Rule {
	return message.Rule{Receiver: message.ToClient, Minutes: minutes, Side: side, If: condition}
}

func clocked(rules ...message.Rule) app.MessageDraft { return app.MessageDraft{Rules: rules} }

// until lets time go by to a moment, minute by minute as the clock's job looks, and waits for what was due then.
func until(t *testing.T, h *testhouse.House, moment string) {
	t.Helper()
	looks := func() (due int64) {
		require.NoError(t, h.Database().QueryRow("SELECT due_at FROM job WHERE kind = 'clock'").Scan(&due))
		return due
	}
	for h.Now().Before(h.At(moment)) {
		h.Pass(min(20*time.Minute, h.At(moment).Sub(h.Now())))
		require.Eventually(t, func() bool { return looks() > h.Now().Unix() }, time.Minute, time.Millisecond)
	}
	require.Eventually(t, func() bool { return h.JobsWaiting() == 0 }, time.Minute, 5*time.Millisecond)
}

func subjectsTo(h *testhouse.House, to string) (subjects []string) {
	for _, l := range h.Inbox.Letters() {
		if strings.Contains(l.To, to) {
			subjects = append(subjects, l.Subject)
		}
	}
	return subjects
}

func TestMeetingsAreRemindedOfAndFollowed(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(
		clientRule(120, message.Before, message.Always), clientRule(60, message.Before, message.Unconfirmed),
		message.Rule{Receiver: message.ToHosts, Minutes: 30, Side: message.Before, If: message.Always},
		clientRule(60, message.After, message.Attended), clientRule(60, message.After, message.Missed),
	))
	require.NoError(t, err)
	b := book(t, h, "2026-05-05 15:00")
	letters(t, h, "keeper@harbour.example", 1)
	view, err := h.App.Messages(ctx, h.Host, 0)
	require.NoError(t, err)
	var ahead []string
	for _, m := range view.Ahead {
		ahead = append(ahead, m.At.In(h.At("2026-05-05 15:00").Location()).Format("15:04 ")+m.Kind)
	}
	slices.Sort(ahead)
	assert.Equal(t, []string{"missed", "attended"}, []string{view.Ahead[3].If, view.Ahead[4].If})
	assert.Equal(t, []string{"13:00 client-reminder", "14:00 client-reminder", "14:30 host-reminder", "16:50 client-missed", "16:50 client-thanks"}, ahead, "whether they come isn't known yet")

	until(t, h, "2026-05-05 12:59")
	assert.Len(t, subjectsTo(h, "keeper@"), 1)
	until(t, h, "2026-05-05 13:00")
	first := letters(t, h, "keeper@harbour.example", 2)[1]
	assert.Equal(t, "Tuesday 5 May, 11:00: Survey with Ines Valadares", first.Subject, "on the client's clock")
	for label, answer := range map[string]string{"I will be there": "come", "I have to move it": "move", "I can’t come": "cancel"} {
		assert.Contains(t, first.Text, label+":\r\n"+h.App.BaseURL+b.Link+"?answer="+answer)
	}
	assert.Empty(t, first.Calendar, "the one invitation stays the one")
	_, err = h.App.Confirm(ctx, linkOf(b))
	require.NoError(t, err)
	until(t, h, "2026-05-05 14:30")
	assert.Len(t, subjectsTo(h, "keeper@"), 2, "who has confirmed isn't asked again")
	assert.Contains(t, subjectsTo(h, "ines@"), "Tuesday 5 May, 15:00: Survey, Harbour Maritime")

	until(t, h, "2026-05-05 17:30")
	assert.Len(t, subjectsTo(h, "keeper@"), 2, "nobody has said whether they were there")
	require.NoError(t, h.App.Attendance(ctx, h.Host, view.Ahead[0].Booking, "attended"))
	until(t, h, "2026-05-05 17:40")
	assert.Contains(t, subjectsTo(h, "keeper@")[2], "Thank you")
	until(t, h, "2026-05-05 19:00")
	assert.Len(t, subjectsTo(h, "keeper@"), 3, "each once")

	sheet, err := h.App.BookingSheet(ctx, h.Host, view.Ahead[0].Booking)
	require.NoError(t, err)
	var sent []string
	for _, m := range sheet.Messages {
		sent = append(sent, m.To+" "+m.Occasion+" "+m.State)
	}
	assert.Subset(t, sent, []string{"client client-reminder sent", "hosts host-reminder sent", "client client-thanks sent"})
}

func TestAMessageIsNotSentLateOrUntrue(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	b := book(t, h, "2026-05-05 15:00")
	letters(t, h, "keeper@harbour.example", 1)
	until(t, h, "2026-05-05 13:30")
	// What was due before a rule was made is none of its business, even if it is not late yet.
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(120, message.Before, message.Always)))
	require.NoError(t, err)
	until(t, h, "2026-05-05 13:45")
	assert.Len(t, subjectsTo(h, "keeper@"), 1)

	// Moved, it is reminded of at its new time; after a long silence of the program nothing comes late.
	_, err = h.App.Move(ctx, linkOf(b), h.At("2026-05-06 15:00"))
	require.NoError(t, err)
	h.Pass(h.At("2026-05-06 12:00").Sub(h.Now()))
	until(t, h, "2026-05-06 12:01")
	moved := len(subjectsTo(h, "keeper@"))
	h.Pass(3 * time.Hour)
	until(t, h, "2026-05-06 15:10")
	assert.Len(t, subjectsTo(h, "keeper@"), moved)

	other := book(t, h, "2026-05-07 15:00")
	h.Pass(h.At("2026-05-07 12:00").Sub(h.Now()))
	until(t, h, "2026-05-07 12:01")
	_, err = h.App.Cancel(ctx, linkOf(other), "")
	require.NoError(t, err)
	until(t, h, "2026-05-07 13:10")
	assert.NotContains(t, strings.Join(subjectsTo(h, "keeper@"), "\n"), "Thursday 7 May, 11:00")
}

func TestTryingMessagesTellsWhatChanges(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	book(t, h, "2026-05-05 15:00")
	saved, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(60, message.Before, message.Always)))
	require.NoError(t, err)
	other := slices.Clone(saved.Rules)
	other[0].Minutes = 120
	tried, err := h.App.TryMessages(ctx, h.Host, 0, clocked(append(other, clientRule(30, message.After, message.Always))...))
	require.NoError(t, err)
	assert.Equal(t, 2, tried.Adds)
	assert.Equal(t, 1, tried.Takes)
	assert.Equal(t, []string{"added", "taken", "added"}, []string{tried.Ahead[0].Change, tried.Ahead[1].Change, tried.Ahead[2].Change})

	tried, err = h.App.TryMessages(ctx, h.Host, 0, clocked(clientRule(0, message.Before, message.Always)))
	require.NoError(t, err)
	assert.Contains(t, tried.Wrong["rules.0"].Sentence, "30 days")
	_, err = h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(60, message.Before, message.Missed)))
	assert.Contains(t, refused(t, err, refusal.Invalid).Fields["rules.0"].Sentence, "never be sent")

	_, err = h.App.SaveMessages(ctx, h.Host, 0, app.MessageDraft{})
	require.NoError(t, err)
	_, err = h.App.Undo(ctx, h.Host)
	require.NoError(t, err)
	again, err := h.App.Messages(ctx, h.Host, 0)
	require.NoError(t, err)
	assert.Equal(t, saved.Rules, again.Rules)

	member := as(t, h, h.Colleague, identity.Member)
	theirs, err := h.App.Messages(ctx, member, 0)
	require.NoError(t, err)
	assert.Empty(t, theirs.Ahead, "others' meetings are not theirs to see")
	assert.False(t, theirs.Edits)
	_, err = h.App.SaveMessages(ctx, member, 0, app.MessageDraft{})
	refused(t, err, refusal.Forbidden)
}

func TestAReminderThatIsRefusedIsToldToItsHost(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.App.Mailer = &refusing{taken: map[string]int{}}
	h.Run()
	_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(60, message.Before, message.Always)))
	require.NoError(t, err)
	_, err = bookFor(t, h, "2026-05-05 15:00", func(r *schedule.BookingRequest) { r.Mail = "nobody@refused.example" })
	require.NoError(t, err)
	h.Pass(h.At("2026-05-05 14:01").Sub(h.Now()))
	require.Eventually(t, func() bool {
		today, err := h.App.Today(ctx, again(t, h))
		require.NoError(t, err)
		said := 0
		for _, trouble := range today.Troubles {
			if strings.Contains(trouble.Title.Sentence, "Some mail about the meeting of Harbour Maritime could not be sent yet") {
				said++
			}
		}
		return said == 2 // the confirmation's, and the reminder's
	}, time.Minute, 10*time.Millisecond)
}

func TestARuleThatIsChangedSendsNothingTwiceAndSaysSo(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	saved, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(120, message.Before, message.Always)))
	require.NoError(t, err)
	book(t, h, "2026-05-05 15:00")
	until(t, h, "2026-05-05 13:01")
	letters(t, h, "keeper@harbour.example", 2)
	other := slices.Clone(saved.Rules)
	other[0].Minutes = 60
	tried, err := h.App.TryMessages(ctx, h.Host, 0, clocked(other...))
	require.NoError(t, err)
	assert.Empty(t, tried.Ahead)
	_, err = h.App.SaveMessages(ctx, h.Host, 0, clocked(other...))
	require.NoError(t, err)
	until(t, h, "2026-05-05 14:10")
	assert.Len(t, subjectsTo(h, "keeper@"), 2)
}

func TestOneWaitingMessageIsSentNowOrNotAtAll(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	saved, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(120, message.Before, message.Always), clientRule(60, message.Before, message.Always), clientRule(30, message.After, message.Missed)))
	require.NoError(t, err)
	book(t, h, "2026-05-05 15:00")
	letters(t, h, "keeper@harbour.example", 1)
	id := saved.Rules[0].ID
	view, err := h.App.Messages(ctx, h.Host, 0)
	require.NoError(t, err)
	booking := view.Ahead[0].Booking
	planned := func() (states []string) {
		sheet, err := h.App.BookingSheet(ctx, h.Host, booking)
		require.NoError(t, err)
		for _, m := range sheet.Messages {
			if m.Rule != 0 {
				states = append(states, m.State+" "+m.If)
			}
		}
		return states
	}
	assert.Equal(t, []string{"planned ", "planned ", "planned missed"}, planned())
	_, err = h.App.SendNow(ctx, h.Host, booking, id)
	require.NoError(t, err)
	letters(t, h, "keeper@harbour.example", 2)
	_, err = h.App.SendNow(ctx, h.Host, booking, id)
	refused(t, err, refusal.NotFound)
	_, err = h.App.LeaveOut(ctx, h.Host, booking, id+1)
	require.NoError(t, err)
	assert.Contains(t, planned(), "left ")
	_, err = h.App.SendNow(ctx, h.Host, booking, id+2)
	assert.Contains(t, refused(t, err, refusal.Over).Sentence, "isn't true")
	_, err = h.App.LeaveOut(ctx, as(t, h, h.Colleague, identity.Member), booking, id+2)
	refused(t, err, refusal.NotFound)
	until(t, h, "2026-05-05 14:30")
	assert.Len(t, subjectsTo(h, "keeper@"), 2, "one went out early, the other not at all")
}

// What a thousand reminders take that are due at once: worked out, handed to the mail stand-in and noted.
func BenchmarkThousandReminders(b *testing.B) {
	for b.Loop() {
		b.StopTimer()
		h := testhouse.New(b)
		_, err := h.App.SaveMessages(ctx, h.Host, 0, clocked(clientRule(60, message.Before, message.Always)))
		require.NoError(b, err)
		at := h.At("2026-05-05 15:00").Unix()
		require.NoError(b, h.App.Store.Write(ctx, func(q *sqlc.Queries) error {
			for i := range 1000 {
				id, err := q.AddMeeting(ctx, sqlc.AddMeetingParams{
					Uid: fmt.Sprintf("u%d", i), TypeID: h.Type.ID, TypeName: "Survey", HostID: h.Host.ID, StartAt: at, EndAt: at + 3000, KeptFrom: at, KeptUntil: at + 3000,
					OverlapAllowed: 1, SharedTime: 1, Way: "{}", CreatedAt: h.Now().Unix(),
				})
				if err != nil {
					return err
				}
				if _, err := q.AddSeat(ctx, sqlc.AddSeatParams{
					Keeps:     1,
					MeetingID: id, Life: "booked", ClientName: "C", ClientMail: fmt.Sprintf("c%d@x.example", i), ClientZone: "UTC", Language: "en", LinkHash: fmt.Sprintf("l%d", i),
					RequestKey: fmt.Sprintf("r%d", i), CreatedAt: h.Now().Unix(), Answers: "{}", Said: "[]", Guests: "[]",
				}); err != nil {
					return err
				}
			}
			return nil
		}))
		stop := h.Run()
		h.Pass(h.At("2026-05-05 13:59").Sub(h.Now()))
		b.StartTimer()
		h.Pass(2 * time.Minute)
		require.Eventually(b, func() bool { return len(h.Inbox.Letters()) >= 1000 }, 2*time.Minute, 20*time.Millisecond)
		b.StopTimer()
		stop()
		b.StartTimer()
	}
}
