package app

import (
	"context"
	"strings"
	"time"

	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// jobTroubles says what of a host's bookings is not done yet, and what is to be done about it: one line for each cause, however many
// bookings wait for it.
func (a *App) jobTroubles(ctx context.Context, p schedule.Person) ([]schedule.Trouble, error) {
	now := a.Now().Unix()
	out := []schedule.Trouble{}
	for _, lane := range a.jobs.InTrouble() {
		row, err := a.Store.JobsWaitingFor(ctx, sqlc.JobsWaitingForParams{Lane: lane, HostID: p.ID, Now: now})
		if err != nil {
			return nil, err
		}
		if row.Bookings > 0 {
			out = append(out, waitsFor(p, lane, row))
		}
	}
	waiting, err := a.Store.JobsInTrouble(ctx, sqlc.JobsInTroubleParams{HostID: p.ID, Now: now})
	if err != nil {
		return nil, err
	}
	for _, row := range waiting {
		out = append(out, waits(row))
	}
	failed, err := a.Store.JobsFailed(ctx, sqlc.JobsFailedParams{HostID: p.ID, Now: now})
	for _, row := range failed {
		out = append(out, givenUp(row))
	}
	return out, err
}

// waitsFor is what waits because a service doesn't answer.
func waitsFor(p schedule.Person, lane string, row sqlc.JobsWaitingForRow) schedule.Trouble {
	first := told.At(span.Instant(row.FirstStart), p.Local)
	of := told.Say("one-meeting-waits", "one meeting waits, that with {}, {}.", row.ClientName, first)
	if row.Bookings > 1 {
		of = told.Say("meetings-wait", "{} meetings wait, the next with {}, {}.", row.Bookings, row.ClientName, first)
	}
	server, isCalendar := strings.CutPrefix(lane, laneCalendars)
	switch {
	case lane == laneRooms:
		return schedule.Trouble{
			Title: told.Say("no-rooms-now", "Video rooms can't be made at the moment"), Room: row.BookingID,
			Sentence: told.Say("rooms-wait", "For a room {} It is tried until they begin, and the client gets the link by mail as soon as there is one.", of),
		}
	case lane == laneTexts:
		return schedule.Trouble{
			Title:    told.Say("no-texts-now", "Text messages can't be sent at the moment"),
			Sentence: told.Say("texts-wait", "For a text message {} It goes out as soon as the gateway answers, unless it is too late then.", of),
		}
	case isCalendar:
		return schedule.Trouble{
			Title: told.Say("calendar-server-silent", "The calendar server {} doesn't answer", server), Path: "/calendars", Label: seeCalendars,
			Sentence: told.Say("entries-wait", "To be entered there, {} What was booked stands; it comes into your calendar as soon as the server answers.", of),
		}
	}
	return schedule.Trouble{
		Title:    told.Say("no-mail-now", "Mail can't be sent at the moment"),
		Sentence: told.Say("mails-wait", "For their mail {} It goes out as soon as the mail server answers. If it takes long, tell whoever runs Corrim, and the clients yourself.", of),
	}
}

// waits is one that its service refused, and is tried again later.
func waits(row sqlc.JobsInTroubleRow) schedule.Trouble {
	t := schedule.Trouble{Title: notYet[row.Kind](row.ClientName), Sentence: told.Say("tried-again", "{} It is tried again by itself.", sentence(row.Trouble))}
	if row.Kind == jobRoom {
		t.Room = row.BookingID
	}
	return t
}

// seeCalendars leads to where a calendar's trouble is told whole.
var seeCalendars = told.Say("see-calendars", "See your calendars")

// about says something of a client's meeting.
func about(code, english string) func(client string) told.Words {
	return func(client string) told.Words { return told.Say(code, english, client) }
}

var (
	mailNotYet = about("mail-not-yet", "Some mail about the meeting of {} could not be sent yet")
	mailNever  = about("mail-never", "Some mail about the meeting of {} could not be sent")
)

var notYet = map[string]func(client string) told.Words{
	jobRoom:       about("room-not-yet", "The video room for {} is not made yet"),
	jobCalendar:   about("entry-not-yet", "{} is not in your calendar yet"),
	jobMailClient: mailNotYet,
	jobTimed:      mailNotYet,
	jobText:       about("text-not-yet", "A text message to {} could not be sent yet"),
	jobTextStep:   about("text-not-yet", "A text message to {} could not be sent yet"),
	jobTextCode:   about("text-not-yet", "A text message to {} could not be sent yet"),
	jobTextHost:   about("team-text-not-yet", "A text message to your team about {} could not be sent yet"),
	jobMailHost:   about("team-mail-not-yet", "Some mail to your team about {} could not be sent yet"),
}

var never = map[string]func(client string) told.Words{
	jobRoom:       about("room-never", "There is no video room for {}"),
	jobCalendar:   about("entry-never", "{} could not be put into your calendar"),
	jobMailClient: mailNever,
	jobTimed:      mailNever,
	jobText:       about("text-never", "A text message to {} could not be sent"),
	jobTextStep:   about("text-never", "A text message to {} could not be sent"),
	jobTextCode:   about("text-never", "A text message to {} could not be sent"),
	jobTextHost:   about("team-text-never", "A text message to your team about {} could not be sent"),
	jobMailHost:   about("team-mail-never", "Some mail to your team about {} could not be sent"),
}

var instead = map[string]told.Words{
	jobRoom:       told.Say("agree-otherwise", "Agree with them on another way to meet."),
	jobCalendar:   told.Say("enter-yourself", "Enter it there yourself."),
	jobMailClient: told.Say("tell-yourself", "Tell them yourself."),
	jobText:       told.Say("tell-if-matters", "Tell them yourself if it still matters."),
	jobTextStep:   told.Say("tell-if-matters", "Tell them yourself if it still matters."),
	jobTextCode:   told.Say("tell-if-matters", "Tell them yourself if it still matters."),
	jobTextHost:   told.Say("tell-team-yourself", "Tell your team yourself."),
	jobTimed:      told.Say("tell-if-matters", "Tell them yourself if it still matters."),
	jobMailHost:   told.Say("tell-team-yourself", "Tell your team yourself."),
}

// givenUp is one that was given up.
func givenUp(row sqlc.JobsFailedRow) schedule.Trouble {
	return schedule.Trouble{Title: never[row.Kind](row.ClientName), Sentence: told.Say("given-up-instead", "{} It was given up. {}", sentence(row.Trouble), instead[row.Kind])}
}

// sentence makes one of what a service said.
func sentence(trouble string) string {
	trouble = strings.TrimRight(strings.TrimSpace(trouble), ".")
	if trouble == "" {
		return ""
	}
	if first, _, _ := strings.Cut(trouble, " "); !strings.Contains(first, "@") { // an address stays as it is
		trouble = strings.ToUpper(trouble[:1]) + trouble[1:]
	}
	return trouble + "."
}

// MakeRoomNow asks for a booking's room at once, whenever it would be tried again.
func (a *App) MakeRoomNow(ctx context.Context, p schedule.Person, id int64) (Today, error) {
	err := a.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		if _, err := a.ownBooking(ctx, q, p, id); err != nil {
			return err
		}
		return q.SoonerJobs(ctx, sqlc.SoonerJobsParams{Subject: subjectBooking, SubjectID: id, Kind: jobRoom, Now: a.Now().Unix()})
	})
	if err != nil {
		return Today{}, err
	}
	jobs, err := a.Store.JobsOf(ctx, sqlc.JobsOfParams{Subject: subjectBooking, SubjectID: id, Kind: jobRoom})
	if err != nil {
		return Today{}, err
	}
	if len(jobs) > 0 {
		tried, forget := a.jobs.Watch(jobs[0].ID)
		defer forget()
		a.jobs.AskNow(laneRooms)
		select {
		case <-tried:
		case <-ctx.Done():
		case <-time.After(a.Waits(roomTime)):
		}
	}
	return a.Today(ctx, p)
}
