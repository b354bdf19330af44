package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// agenda is everything about one host that open times depend on, loaded for a range.
type agenda struct {
	person   Person
	now      span.Instant
	busy     []sqlc.BusyRow
	shown    []sqlc.BusyRow      // events that are shown and block nothing
	unread   []opentimes.Stretch // what is closed because a calendar can't be read
	blocks   []sqlc.Block
	taken    []sqlc.TimesOfHostsRow // when there are bookings: all that open times depend on
	bookings []hosted               // with everything about them, in a whole agenda only
}

// hosted is a booking with one of its hosts' part in it.
type hosted struct {
	sqlc.Booking
	own sqlc.MeetingHost
}

func hostedRows(rows []sqlc.BookingsOfHostsRow) []hosted {
	out := make([]hosted, len(rows))
	for i, r := range rows {
		out[i] = hosted{r.Booking, r.MeetingHost}
	}
	return out
}

// bookingsOf is somebody's bookings of which the kept time overlaps a range.
func bookingsOf(ctx context.Context, q *sqlc.Queries, person int64, within span.Span) ([]hosted, error) {
	rows, err := q.BookingsOfHosts(ctx, sqlc.BookingsOfHostsParams{RangeFrom: int64(within.Start), RangeTo: int64(within.End), People: []int64{person}})
	return hostedRows(rows), err
}

// agendaMargin is what an agenda holds beyond the range asked for, in seconds: limits count whole weeks, and the grids look
// at whole runs of up to a week with a meeting and its buffers beside them.
const agendaMargin = 14 * 24 * 3600

// agenda loads what the host's open times within the range depend on, without one booking's meeting if that is being moved.
func (a *App) agenda(ctx context.Context, q *sqlc.Queries, p Person, within span.Span, moving int64) (agenda, error) {
	all, err := a.agendas(ctx, q, []Person{p}, within, moving)
	if err != nil {
		return agenda{}, err
	}
	return all[0], nil
}

// agendas is the same of several people.
func (a *App) agendas(ctx context.Context, q *sqlc.Queries, people []Person, within span.Span, moving int64) ([]agenda, error) {
	reach := within.Grow(agendaMargin, agendaMargin)
	of, err := a.emptyAgendas(ctx, q, people)
	if err != nil || len(people) == 0 {
		return nil, err
	}
	rows, err := q.TimesOfHosts(ctx, sqlc.TimesOfHostsParams{RangeFrom: int64(reach.Start), RangeTo: int64(reach.End), People: idsOf(people)})
	if err != nil {
		return nil, err
	}
	slices.SortFunc(rows, func(a, b sqlc.TimesOfHostsRow) int { return cmp.Compare(a.StartAt, b.StartAt) })
	left, err := meetingLeft(ctx, q, moving)
	if err != nil {
		return nil, err
	}
	for _, b := range rows {
		g := of[b.PersonID]
		if b.MeetingID != left.MeetingID {
			g.taken = append(g.taken, b)
		}
	}
	return a.fill(ctx, q, people, of, reach)
}

// meetingLeft is a booking that is being moved, if there is one, so that its meeting is known.
func meetingLeft(ctx context.Context, q *sqlc.Queries, moving int64) (sqlc.Booking, error) {
	if moving == 0 {
		return sqlc.Booking{}, nil
	}
	b, err := q.Booking(ctx, moving)
	if errors.Is(err, store.ErrNotFound) {
		err = nil
	}
	return b, err
}

// wholeAgenda is an agenda that tells everything about its bookings: to draw it, or to say which of them are meant.
func (a *App) wholeAgenda(ctx context.Context, q *sqlc.Queries, p Person, within span.Span) (agenda, error) {
	all, err := a.wholeAgendas(ctx, q, []Person{p}, within.Grow(agendaMargin, agendaMargin))
	if err != nil {
		return agenda{}, err
	}
	return all[0], nil
}

// wholeAgendas is the same of several people and of just what lies in a range, which is enough to draw it.
func (a *App) wholeAgendas(ctx context.Context, q *sqlc.Queries, people []Person, reach span.Span) ([]agenda, error) {
	of, err := a.emptyAgendas(ctx, q, people)
	if err != nil || len(people) == 0 {
		return nil, err
	}
	rows, err := q.BookingsOfHosts(ctx, sqlc.BookingsOfHostsParams{RangeFrom: int64(reach.Start), RangeTo: int64(reach.End), People: idsOf(people)})
	if err != nil {
		return nil, err
	}
	for _, b := range hostedRows(rows) {
		g := of[b.own.PersonID]
		g.bookings = append(g.bookings, b)
		if b.SharedTime == 0 {
			g.taken = append(g.taken, b.times())
		}
	}
	return a.fill(ctx, q, people, of, reach)
}

// times is what open times need to know of a booking.
func (b hosted) times() sqlc.TimesOfHostsRow {
	return sqlc.TimesOfHostsRow{ID: b.ID, MeetingID: b.MeetingID, Capacity: b.Capacity, Taken: b.Taken, SessionID: b.Session * b.ID, SeriesID: b.SeriesID, TypeID: b.TypeID, PersonID: b.own.PersonID, StartAt: b.StartAt, EndAt: b.EndAt, KeptFrom: b.KeptFrom, KeptUntil: b.KeptUntil}
}

func idsOf(people []Person) []int64 {
	ids := make([]int64, len(people))
	for i, p := range people {
		ids[i] = p.ID
	}
	return ids
}

func (a *App) emptyAgendas(ctx context.Context, q *sqlc.Queries, people []Person) (map[int64]*agenda, error) {
	of := make(map[int64]*agenda, len(people))
	for _, p := range people {
		var err error
		if p.choices.OpenTitle != "" { // the calendars may have been read since the person was loaded
			if p.marked, err = openMarks(ctx, q, p.ID); err != nil {
				return nil, err
			}
		}
		of[p.ID] = &agenda{person: p, now: span.At(a.Now())}
	}
	return of, nil
}

// fill adds what keeps people from meeting anybody: their calendars, their blocks, and calendars that can't be read.
func (a *App) fill(ctx context.Context, q *sqlc.Queries, people []Person, of map[int64]*agenda, reach span.Span) ([]agenda, error) {
	ids := idsOf(people)
	from, to := int64(reach.Start), int64(reach.End)
	events, err := q.Busy(ctx, sqlc.BusyParams{RangeFrom: from, RangeTo: to, People: ids})
	if err != nil {
		return nil, err
	}
	for _, e := range events {
		of[e.PersonID].addEvent(e)
	}
	blocks, err := q.Blocks(ctx, sqlc.BlocksParams{RangeFrom: from, RangeTo: to, People: ids})
	if err != nil {
		return nil, err
	}
	for _, b := range blocks {
		of[b.PersonID].blocks = append(of[b.PersonID].blocks, b)
	}
	calendars, err := q.BlockingCalendars(ctx, ids)
	for _, c := range calendars {
		of[c.PersonID].doubt(c, reach, a.Now())
	}
	out := make([]agenda, len(people))
	for i, p := range people {
		out[i] = *of[p.ID]
	}
	return out, err
}

func (g *agenda) addEvent(e sqlc.BusyRow) {
	if e.Details == detailsNobody {
		e.Title = ""
	}
	switch {
	case e.Opens == 1: // these are hours
	case e.Blocks == 1:
		g.busy = append(g.busy, e)
	default:
		g.shown = append(g.shown, e)
	}
}

const (
	offerNothing      = "nothing"
	detailsNobody     = "nobody"
	detailsColleagues = "colleagues"
)

// doubt closes a range if nothing is known of a calendar yet; and if it can't be read while its host offers nothing then or its copy
// is too old.
func (g *agenda) doubt(c sqlc.BlockingCalendarsRow, reach span.Span, now time.Time) {
	oldest := now.Add(-time.Duration(g.person.choices.TrustHours) * time.Hour).Unix()
	switch {
	case c.ReadAt == 0:
		g.unread = append(g.unread, opentimes.Stretch{Span: reach, Calendar: c.Name, Says: told.Say("not-read-yet", "Not read yet, so nothing is offered")})
	case c.ReadAt < oldest || c.InTrouble && (g.person.choices.Unreachable == offerNothing || !calsync.FreshAt(c.ReadAt, oldest, now)):
		g.unread = append(g.unread, opentimes.Stretch{Span: reach, Calendar: c.Name, Says: told.Say("cant-be-read", "Can't be read, so nothing is offered")})
	}
}

// input is the agenda as core understands it, for a meeting type's rules; a type not yet saved has the ID 0.
func (g agenda) input(id int64, rules TypeRules) opentimes.Input {
	timing := rules.timing()
	timing.Name = typeLabel(id)
	home := g.person.home
	return opentimes.Input{Now: g.now, Type: timing, Host: g.host(id), Series: rules.series, FirstWeekday: home.firstWeekday(), ShareBuffers: home.ShareBuffers}
}

// typeLabel is how bookings and limits know a type: its name may change.
func typeLabel(id int64) string { return fmt.Sprintf("type %d", id) }

// seriesLabel is how core knows a series; empty for none.
func seriesLabel(id int64) string {
	if id == 0 {
		return ""
	}
	return fmt.Sprint(id)
}

func bookingLabel(id int64) string { return fmt.Sprint(id) }

func (g agenda) host(kind int64) opentimes.Host {
	host := opentimes.Host{Name: g.person.Name, Hours: g.person.planFor(kind)}
	stretches := make([]opentimes.Stretch, len(g.busy))
	for i, b := range g.busy {
		stretches[i] = opentimes.Stretch{Span: span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)}, Calendar: b.Calendar, Title: b.Title}
	}
	for _, b := range g.blocks {
		stretches = append(stretches, opentimes.Stretch{Span: blockSpan(b), Title: b.Label, Blocked: true})
	}
	host.Busy = opentimes.NewAgenda(append(stretches, g.unread...))
	for _, b := range g.taken {
		host.Bookings = append(host.Bookings, opentimes.Booking{
			ID: bookingLabel(b.ID), Type: typeLabel(b.TypeID), Meeting: span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)},
			Before: int(b.StartAt-b.KeptFrom) / 60, After: int(b.KeptUntil-b.EndAt) / 60,
			Filling: opentimes.Filling{Seats: int(b.Capacity), Taken: int(b.Taken)}, Session: b.SessionID > 0, Series: seriesLabel(b.SeriesID),
		})
	}
	return host
}

func meetingSpan(b sqlc.Booking) span.Span {
	return span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)}
}

// keptSpan is the meeting with its buffers.
func keptSpan(b sqlc.Booking) span.Span {
	return span.Span{Start: span.Instant(b.KeptFrom), End: span.Instant(b.KeptUntil)}
}
