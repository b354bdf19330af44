package app

import (
	"context"
	"fmt"
	"strings"
	"time"

	"corrim/internal/identity"
	"corrim/internal/store/sqlc"
)

// jobTroubles says what of a host's bookings is not done yet, and what is to be done about it: one line for each cause, however many
// bookings wait for it.
func (a *App) jobTroubles(ctx context.Context, p Person) ([]Trouble, error) {
	now := a.Now().Unix()
	out := []Trouble{}
	for _, lane := range a.jobs.InTrouble() {
		row, err := a.Store.JobsWaitingFor(ctx, sqlc.JobsWaitingForParams{Lane: lane, HostID: p.ID, Now: now})
		if err != nil {
			return nil, err
		}
		if row.Bookings > 0 {
			out = append(out, p.waitsFor(lane, row))
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
func (p Person) waitsFor(lane string, row sqlc.JobsWaitingForRow) Trouble {
	of := fmt.Sprintf("one meeting waits, that with %s, %s.", row.ClientName, time.Unix(row.FirstStart, 0).In(p.zone).Format("Mon 2 Jan, 15:04"))
	if row.Bookings > 1 {
		of = fmt.Sprintf("%d meetings wait, the next with %s, %s.", row.Bookings, row.ClientName, time.Unix(row.FirstStart, 0).In(p.zone).Format("Mon 2 Jan, 15:04"))
	}
	server, isCalendar := strings.CutPrefix(lane, laneCalendars)
	switch {
	case lane == laneRooms:
		return Trouble{
			Title: "Video rooms can't be made at the moment", Room: row.BookingID,
			Sentence: "For a room " + of + " It is tried until they begin, and the client gets the link by mail as soon as there is one.",
		}
	case isCalendar:
		return Trouble{
			Title: "The calendar server " + server + " doesn't answer", Path: "/calendars", Label: "See your calendars",
			Sentence: "To be entered there, " + of + " What was booked stands; it comes into your calendar as soon as the server answers.",
		}
	}
	return Trouble{
		Title:    "Mail can't be sent at the moment",
		Sentence: "For their mail " + of + " It goes out as soon as the mail server answers. If it takes long, tell whoever runs Corrim, and the clients yourself.",
	}
}

// waits is one that its service refused, and is tried again later.
func waits(row sqlc.JobsInTroubleRow) Trouble {
	t := Trouble{Title: fmt.Sprintf(notYet[row.Kind], row.ClientName), Sentence: sentence(row.Trouble) + " It is tried again by itself."}
	if row.Kind == jobRoom {
		t.Room = row.BookingID
	}
	return t
}

var notYet = map[string]string{
	jobRoom: "The video room for %s is not made yet", jobCalendar: "%s is not in your calendar yet",
	jobMailClient: "Some mail about the meeting of %s could not be sent yet", jobMailHost: "Some mail to your team about %s could not be sent yet",
}

// givenUp is one that was given up.
func givenUp(row sqlc.JobsFailedRow) Trouble {
	title := fmt.Sprintf(map[string]string{
		jobRoom: "There is no video room for %s", jobCalendar: "%s could not be put into your calendar",
		jobMailClient: "Some mail about the meeting of %s could not be sent", jobMailHost: "Some mail to your team about %s could not be sent",
	}[row.Kind], row.ClientName)
	do := map[string]string{
		jobRoom: "Agree with them on another way to meet.", jobCalendar: "Enter it there yourself.", jobMailClient: "Tell them yourself.", jobMailHost: "Tell your team yourself.",
	}[row.Kind]
	return Trouble{Title: title, Sentence: sentence(row.Trouble) + " It was given up. " + do}
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
func (a *App) MakeRoomNow(ctx context.Context, p Person, id int64) (Today, error) {
	err := a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
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
		case <-time.After(roomTime):
		}
	}
	return a.Today(ctx, p)
}
