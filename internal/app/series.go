package app

import (
	"context"
	"fmt"
	"slices"
	"time"

	"corrim/core/invite"
	words "corrim/core/message"
	"corrim/internal/job"
	"corrim/internal/letter"
	"corrim/internal/store/sqlc"
)

// Bookings that come about or end together are told in one letter with all dates. Each has its own jobs; the first letter that is due
// speaks for those that still wait, and they end with it.

// seriesWith is the other bookings of a job's series that its letter speaks for too: those whose own letters wait, unless they
// were changed meanwhile and have newer letters.
func (a *App) seriesWith(ctx context.Context, j sqlc.Job) ([]facts, error) {
	jobs, err := a.Store.OfSeries(ctx, sqlc.OfSeriesParams{Series: j.Series, Kind: j.Kind})
	if err != nil {
		return nil, err
	}
	var out []facts
	for _, other := range jobs {
		if other.ID == j.ID {
			continue
		}
		booking, err := a.Store.Booking(ctx, other.SubjectID)
		if err != nil {
			return nil, err
		}
		if other.Revision < booking.Revision {
			continue
		}
		already, err := a.toldAlready(ctx, booking, j.Occasion)
		if err != nil {
			return nil, err
		}
		if already && j.Kind == jobMailClient {
			continue
		}
		f, err := a.facts(ctx, booking)
		if err != nil {
			return nil, err
		}
		out = append(out, f)
	}
	return out, nil
}

// spokenFor ends the letters that a letter spoke for.
func spokenFor(j sqlc.Job) job.Ending {
	if j.Series == "" {
		return nil
	}
	return func(ctx context.Context, q *sqlc.Queries) error {
		return endSeriesWith(ctx, q, j, "")
	}
}

func endSeriesWith(ctx context.Context, q *sqlc.Queries, j sqlc.Job, trouble string) error {
	others, err := q.OfSeries(ctx, sqlc.OfSeriesParams{Series: j.Series, Kind: j.Kind})
	for _, other := range others {
		if other.ID != j.ID && err == nil {
			err = job.End(ctx, q, other, trouble, time.Unix(j.TouchedAt, 0))
		}
	}
	return err
}

// manyDates is how many bookings a letter is about, if it is about several.
func manyDates(others []facts) any {
	if len(others) == 0 {
		return false
	}
	return 1 + len(others)
}

// withDates adds the other dates of a series to the letter about the first, each with its own link.
func (f facts) withDates(l letter.Letter, others []facts, kind words.Kind, with words.With) letter.Letter {
	if len(others) == 0 {
		return l
	}
	stands := f.booking.State == "booked" && !onList(f.booking) // else there is nothing to do about each
	if stands {
		l.Actions = nil
	}
	for i, one := range append([]facts{f}, others...) {
		one = one.forClient()
		if i > 0 {
			l.Facts = append(l.Facts, f.fact("and-when", one.when(one.clientZone())))
			l.Facts = append(append(l.Facts, one.aboutFacts()...), one.meetingPlace(false)...)
		}
		if !stands {
			continue
		}
		with["day"] = f.w.Day(time.Unix(one.booking.StartAt, 0).In(one.clientZone()))
		l.Actions = append(l.Actions, letter.Action{Label: f.w.Write(kind, with).Action, URL: one.link})
	}
	return l
}

func invitations(of []facts) ([][]byte, error) {
	var out [][]byte
	for _, f := range of {
		f = f.forClient()
		text, err := f.clientEntry().Invitation()
		if err != nil {
			return nil, err
		}
		out = append(out, text)
	}
	return out, nil
}

// attachDates adds a file with all dates of a series to a mail that invites to them. Mail programs put the invitation that they find into a
// calendar, which is the first date's, and leave the files with the others to their reader (common practice).
func (m *Mail) attachDates(f facts, others []facts) error {
	if len(others) == 0 || m.InviteFor != "REQUEST" {
		return nil
	}
	dates, met := []invite.Meeting{}, map[int64]bool{}
	for _, one := range append([]facts{f}, others...) {
		if !met[one.booking.MeetingID] { // else it is the seat of somebody who comes along
			dates = append(dates, one.forClient().clientEntry())
		}
		met[one.booking.MeetingID] = true
	}
	if len(dates) < 2 {
		return nil
	}
	text, err := invite.File(dates...)
	m.Files = append(m.Files, File{Name: "all-dates.ics", Type: "text/calendar; method=PUBLISH", Data: text})
	return err
}

// hostsOfSeries is a letter for each who hosts some of a series, about those, and the copies, about all.
func (a *App) hostsOfSeries(ctx context.Context, all []facts, last step, id string) ([]Mail, error) {
	theirs, order := map[int64][]facts{}, []int64{}
	for _, f := range all {
		for _, person := range f.hosts {
			if !slices.Contains(order, person) {
				order = append(order, person)
			}
			theirs[person] = append(theirs[person], f)
		}
	}
	var out []Mail
	for _, person := range order {
		if wants, err := a.wantsNews(ctx, person, theirs[person][0], last); err != nil {
			return nil, err
		} else if !wants {
			continue
		}
		to := toldHost{person, fmt.Sprintf("%s-%d", id, person)}
		m, err := a.hostMail(ctx, theirs[person][0], last, theirs[person][1:], to)
		if err != nil {
			return nil, err
		}
		out = append(out, m)
	}
	return append(out, all[0].copies(last, all[1:], id)...), nil
}
