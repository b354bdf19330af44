package app_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/life"
	"corrim/core/waiting"
	"corrim/internal/app"
	"corrim/internal/public"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/testhouse"
)

// A room is planted, the host's own or one that is made for the meeting. Then a booking is brought to each state that it can be in, and
// everything is read that whoever holds its link, and whom they bring, can read from then on.

const (
	plantedRoom = "https://rooms.example/zq-own-room"
	seatDay     = "2026-05-08 10:00"
)

// planted is one booking, whose room only who has the seat may know.
type planted struct {
	t       *testing.T
	h       *testhouse.House
	link    string
	mails   []string // of the client and whom they bring
	secrets []string // what of the room is told to whoever has the seat
	seen    int      // how many letters there were when the state began
}

// ways are all ways on which something of the booking reaches whoever holds its link, since the state began.
func (p planted) ways() map[string]string {
	p.h.Pass(0)
	out := map[string]string{}
	page, err := p.h.App.BookingByLink(ctx, p.link)
	require.NoError(p.t, err)
	text, err := json.Marshal(page)
	require.NoError(p.t, err)
	out["page"] = string(text)
	file, err := p.h.App.BookingFile(ctx, p.link)
	require.NoError(p.t, err)
	out["file"] = strings.ReplaceAll(string(file), "\r\n ", "")
	for _, l := range p.h.Inbox.Letters()[p.seen:] {
		for _, mail := range p.mails {
			if strings.Contains(l.To, mail) {
				out["mail to "+mail+": "+l.Subject] += l.Text + l.HTML + strings.ReplaceAll(l.Calendar, "\r\n ", "") + strings.ReplaceAll(string(l.Raw), "=\r\n", "")
			}
		}
	}
	for i, m := range p.h.Phones.Messages() {
		out[fmt.Sprintf("text message %d", i)] = m.Text
	}
	return out
}

// is looks at the booking in the state that it should be in now.
func (p planted) is(state life.State) {
	p.t.Helper()
	ways := p.ways()
	assert.Contains(p.t, ways["page"], fmt.Sprintf(`"state":%q`, state))
	assert.Contains(p.t, ways["file"], "STATUS:"+string(state.Stands()), "RFC 5545, 3.8.1.11")
	told := map[bool]string{true: "who has the seat is told", false: "nobody else is"}
	for way, text := range ways {
		for _, secret := range p.secrets {
			if state.Admits() && (way == "page" || way == "file" && strings.HasPrefix(secret, "http")) {
				assert.Contains(p.t, text, secret, "%s: %s: %s", state, way, told[true])
			}
			if !state.Admits() {
				assert.NotContains(p.t, text, secret, "%s: %s: %s", state, way, told[false])
			}
		}
	}
}

func (p *planted) then() { p.h.Pass(0); p.seen = len(p.h.Inbox.Letters()) }

func TestARoomIsForWhoHasTheSeat(t *testing.T) {
	for _, kind := range []string{"own-room", "video"} {
		t.Run(kind, func(t *testing.T) {
			t.Parallel()
			roomStates(t, kind)
		})
	}
}

// roomed is a house whose type meets in a planted room.
func roomed(t *testing.T, kind string, change func(*settings.BookingPageChange)) *testhouse.House {
	h := testhouse.New(t)
	h.Run()
	offers(t, h, func(c *settings.BookingPageChange) {
		c.Guests, c.Ways = 2, []schedule.Way{{ID: "room", Kind: kind, Room: schedule.RoomOptions{Passcode: kind == "video"}}}
		if kind == "own-room" {
			c.Ways[0].Text, c.Ways[0].Room = plantedRoom, schedule.RoomOptions{}
		}
		change(c)
	})
	return h
}

// in is somebody's booking in such a house.
func in(t *testing.T, h *testhouse.House, at, name string, change func(*schedule.BookingRequest)) *planted {
	mail := strings.ToLower(name) + "@rooms.example"
	b, err := bookFor(t, h, at, func(r *schedule.BookingRequest) {
		r.Name, r.Mail, r.Guests = name, mail, []string{"guest-of-" + mail}
		change(r)
	})
	require.NoError(t, err)
	p := &planted{t: t, h: h, link: linkOf(b), mails: []string{mail}, secrets: []string{plantedRoom}}
	require.Eventually(t, func() bool { // a room that is made for it
		now, err := h.App.BookingByLink(ctx, p.link)
		if now.JoinURL != "" && now.JoinURL != plantedRoom {
			p.secrets = []string{now.JoinURL, now.Passcode}
			require.NotEmpty(t, now.Passcode)
		}
		return err == nil && (now.State != "booked" || now.JoinURL != "")
	}, time.Minute, time.Millisecond)
	return p
}

func asked(t *testing.T, h *testhouse.House, who string) int64 {
	today, err := h.App.Today(ctx, h.Host)
	require.NoError(t, err)
	for _, r := range today.Requests {
		if r.Client == who {
			return r.ID
		}
	}
	require.Fail(t, "no request of "+who)
	return 0
}

func roomStates(t *testing.T, kind string) {
	h := roomed(t, kind, func(c *settings.BookingPageChange) { c.OnRequest = true })
	ada := in(t, h, "2026-05-05 10:00", "Ada", asIs)
	ada.is(life.Requested)
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, asked(t, h, "Ada"), app.HandMove{Target: app.Target{Date: "2026-05-05", Minute: 11 * 60}, Outside: true}))
	ada.is(life.Requested)
	_, err := h.App.Propose(ctx, h.Host, asked(t, h, "Ada"), []public.HandPicked{{Date: "2026-05-06", Minute: 600}}, "")
	require.NoError(t, err)
	ada.is(life.Requested)
	_, err = h.App.Decline(ctx, h.Host, asked(t, h, "Ada"), "")
	require.NoError(t, err)
	ada.is(life.Declined)
	bo := in(t, h, "2026-05-05 14:00", "Bo", asIs)
	h.Pass(48 * time.Hour)
	bo.is(life.Expired)

	h = roomed(t, kind, func(c *settings.BookingPageChange) { c.Proof = "code" })
	cy := in(t, h, "2026-05-05 10:00", "Cy", asIs)
	cy.is(life.Unproved)
	_, err = h.App.Prove(ctx, cy.link, mailedCode(t, h, "cy@rooms.example"))
	require.NoError(t, err)
	if kind == "own-room" { // a room that is made has no address yet, that could be looked for
		cy.is(life.Booked)
	}

	h = roomed(t, kind, func(*settings.BookingPageChange) {})
	dee := in(t, h, "2026-05-05 10:00", "Dee", asIs)
	dee.mails = append(dee.mails, "guest-of-dee@rooms.example")
	dee.is(life.Booked)
	dee.then()
	_, err = h.App.Cancel(ctx, dee.link, "")
	require.NoError(t, err)
	dee.is(life.Cancelled)
	listStates(t, kind)
}

// listStates are those of a meeting that clients share: others have a seat in it, so that there is a room.
func listStates(t *testing.T, kind string) {
	h := roomed(t, kind, func(c *settings.BookingPageChange) { c.Waiting, c.WaitHours = waiting.InTurn, 4 })
	sessionsOf(t, h, 2)
	session := setting(t, h, "8 May 10:00")[0]
	seat(t, h, seatDay, "Zoe")
	eve := in(t, h, seatDay, "Eve", asIs)
	eve.is(life.Booked)
	fay := in(t, h, seatDay, "Fay", func(r *schedule.BookingRequest) { r.Wait = true })
	fay.secrets = eve.secrets
	fay.is(life.Waiting)
	require.NoError(t, h.App.MoveByHand(ctx, h.Host, session.ID, app.HandMove{Target: app.Target{Date: "2026-05-08", Minute: 11 * 60}, Outside: true}))
	fay.is(life.Waiting)
	eve.then()
	_, err := h.App.GiveSeat(ctx, eve.link, app.NewHolder{Name: "Gil", Mail: "gil@rooms.example"})
	require.NoError(t, err)
	eve.is(life.Cancelled)
	for _, l := range letters(t, h, "gil@rooms.example", 1) {
		assert.Contains(t, l.Text, eve.secrets[0], "who has the seat now is told")
	}
	require.NoError(t, cancelSeatOf(h, "Gil"))
	fay.is(life.Offered)
	fay.then()
	h.Pass(5 * time.Hour)
	fay.is(life.Expired)
}

// cancelSeatOf gives a client's seat back by the link in their first letter.
func cancelSeatOf(h *testhouse.House, name string) error {
	for _, l := range h.Inbox.Letters() {
		if _, rest, found := strings.Cut(l.Text, "/b/"); found && strings.Contains(l.To, strings.ToLower(name)+"@") {
			_, err := h.App.Cancel(ctx, strings.Fields(rest)[0], "")
			return err
		}
	}
	return fmt.Errorf("no letter to %s", name)
}

func TestAllDatesOfASeriesStandInOneFile(t *testing.T) {
	t.Parallel()
	h := testhouse.New(t)
	h.Run()
	courseOf(t, h, 2)
	setting(t, h, "Tuesdays 10:00 from 5 May, 4 times")
	ada := seat(t, h, "2026-05-05 10:00", "Ada")
	file, err := h.App.BookingFile(ctx, linkOf(ada))
	require.NoError(t, err)
	assert.Equal(t, 4, strings.Count(string(file), "BEGIN:VEVENT"), "the file, and what subscribes to it, have all")
	mail := letters(t, h, "ada@seats.example", 1)[0]
	require.Equal(t, "all-dates.ics", mail.Files[4].Name)
	assert.Equal(t, 4, strings.Count(string(mail.Files[4].Data), "BEGIN:VEVENT"), "and so has the first mail")
	assert.Equal(t, 1, strings.Count(mail.Calendar, "BEGIN:VEVENT"), "an invitation speaks of one meeting (RFC 5546, 2.1.4)")

	_, err = h.App.Cancel(ctx, strings.TrimPrefix(ada.Seats[1].Link, "/b/"), "")
	require.NoError(t, err)
	file, err = h.App.BookingFile(ctx, linkOf(ada))
	require.NoError(t, err)
	assert.Equal(t, 1, strings.Count(string(file), "STATUS:CANCELLED"), "a date that is given back is taken out of the calendar that subscribes")
	assert.Equal(t, 4, strings.Count(string(file), "BEGIN:VEVENT"))
}
