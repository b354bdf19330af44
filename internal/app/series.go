package app

import (
	"context"
	"fmt"
	"slices"
	"time"

	"corrim/core/wording"
	"corrim/internal/job"
	"corrim/internal/store/sqlc"
)

// Bookings that a host enters together are told in one letter with all dates. Each has its own jobs; the first letter that is due
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

// withDates makes a letter about one booking one about a series, for its client.
func (l letter) withDates(f facts, others []facts) letter {
	if len(others) == 0 {
		return l
	}
	all := append([]facts{f}, others...)
	l.subject += ", " + wording.Count(len(all), "date")
	l.Opening = "Your " + wording.Count(len(all), "meeting") + " are booked."
	l.Actions = nil
	for i, one := range all {
		date := time.Unix(one.booking.StartAt, 0).In(one.clientZone()).Format("Monday 2 January")
		if i > 0 {
			l.Facts = append(l.Facts, [2]string{"And", one.when(one.clientZone())})
			l.Facts = append(l.Facts, one.meetingPlace(false)...)
		}
		l.Actions = append(l.Actions, action{"Move or cancel " + date, one.link})
	}
	return l
}

// withTimes makes a letter about one booking one about a series, for a host or who is told of every booking.
func (l letter) withTimes(f facts, others []facts) letter {
	if len(others) == 0 {
		return l
	}
	l.subject += ", " + wording.Count(1+len(others), "date")
	for _, one := range others {
		l.Facts = append(l.Facts, [2]string{"And", one.when(f.host.zone)})
		l.Facts = append(l.Facts, one.meetingPlace(true)...)
	}
	return l
}

func invitations(of []facts) ([][]byte, error) {
	var out [][]byte
	for _, f := range of {
		text, err := f.meeting(f.clientText()).Invitation()
		if err != nil {
			return nil, err
		}
		out = append(out, text)
	}
	return out, nil
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
		to := toldHost{person, fmt.Sprintf("%s-%d", id, person)}
		m, err := a.hostMail(ctx, theirs[person][0], last, theirs[person][1:], to)
		if err != nil {
			return nil, err
		}
		out = append(out, m)
	}
	return append(out, all[0].copies(last, all[1:], id)...), nil
}
