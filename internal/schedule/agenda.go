package schedule

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/life"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Agenda is everything about one host that open times depend on, loaded for a range.
type Agenda struct {
	Person   Person
	now      span.Instant
	Busy     []sqlc.BusyRow
	shown    []sqlc.BusyRow      // events that are shown and block nothing
	Unread   []opentimes.Stretch // what is closed because a calendar can't be read
	Blocks   []sqlc.Block
	Taken    []sqlc.TimesOfHostsRow // when there are bookings: all that open times depend on
	Bookings []Hosted               // with everything about them, in a whole agenda only
}

// Hosted is a booking with one of its hosts' part in it.
type Hosted struct {
	sqlc.Booking
	Own sqlc.MeetingHost
}

func hostedRows(rows []sqlc.BookingsOfHostsRow) []Hosted {
	out := make([]Hosted, len(rows))
	for i, r := range rows {
		out[i] = Hosted{r.Booking, r.MeetingHost}
	}
	return out
}

// BookingsOf is somebody's bookings of which the kept time overlaps a range.
func BookingsOf(ctx context.Context, q *sqlc.Queries, person int64, within span.Span) ([]Hosted, error) {
	rows, err := q.BookingsOfHosts(ctx, sqlc.BookingsOfHostsParams{RangeFrom: int64(within.Start), RangeTo: int64(within.End), People: []int64{person}})
	return hostedRows(rows), err
}

// AgendaMargin is what an agenda holds beyond the range asked for, in seconds: limits count whole weeks, and the grids look
// at whole runs of up to a week with a meeting and its buffers beside them.
const AgendaMargin = 14 * 24 * 3600

// Agenda loads what the host's open times within the range depend on, without one booking's meeting if that is being moved.
func (s *Service) Agenda(ctx context.Context, q *sqlc.Queries, p Person, within span.Span, moving int64) (Agenda, error) {
	all, err := s.Agendas(ctx, q, []Person{p}, within, moving)
	if err != nil {
		return Agenda{}, err
	}
	return all[0], nil
}

// Agendas is the same of several people.
func (s *Service) Agendas(ctx context.Context, q *sqlc.Queries, people []Person, within span.Span, moving int64) ([]Agenda, error) {
	reach := within.Grow(AgendaMargin, AgendaMargin)
	of, err := s.emptyAgendas(ctx, q, people)
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
			g.Taken = append(g.Taken, b)
		}
	}
	return s.fill(ctx, q, people, of, reach)
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

// WholeAgenda is an agenda that tells everything about its bookings: to draw it, or to say which of them are meant.
func (s *Service) WholeAgenda(ctx context.Context, q *sqlc.Queries, p Person, within span.Span) (Agenda, error) {
	all, err := s.WholeAgendas(ctx, q, []Person{p}, within.Grow(AgendaMargin, AgendaMargin))
	if err != nil {
		return Agenda{}, err
	}
	return all[0], nil
}

// WholeAgendas is the same of several people and of just what lies in a range, which is enough to draw it.
func (s *Service) WholeAgendas(ctx context.Context, q *sqlc.Queries, people []Person, reach span.Span) ([]Agenda, error) {
	of, err := s.emptyAgendas(ctx, q, people)
	if err != nil || len(people) == 0 {
		return nil, err
	}
	rows, err := q.BookingsOfHosts(ctx, sqlc.BookingsOfHostsParams{RangeFrom: int64(reach.Start), RangeTo: int64(reach.End), People: idsOf(people)})
	if err != nil {
		return nil, err
	}
	for _, b := range hostedRows(rows) {
		g := of[b.Own.PersonID]
		g.Bookings = append(g.Bookings, b)
		if b.SharedTime == 0 {
			g.Taken = append(g.Taken, b.Times())
		}
	}
	return s.fill(ctx, q, people, of, reach)
}

// Times is what open times need to know of a booking.
func (b Hosted) Times() sqlc.TimesOfHostsRow {
	return sqlc.TimesOfHostsRow{ID: b.ID, MeetingID: b.MeetingID, Capacity: b.Capacity, Taken: b.Taken, SessionID: b.Session * b.ID, SeriesID: b.SeriesID, TypeID: b.TypeID, PersonID: b.Own.PersonID, StartAt: b.StartAt, EndAt: b.EndAt, KeptFrom: b.KeptFrom, KeptUntil: b.KeptUntil}
}

func idsOf(people []Person) []int64 {
	ids := make([]int64, len(people))
	for i, p := range people {
		ids[i] = p.ID
	}
	return ids
}

func (s *Service) emptyAgendas(ctx context.Context, q *sqlc.Queries, people []Person) (map[int64]*Agenda, error) {
	of := make(map[int64]*Agenda, len(people))
	for _, p := range people {
		var err error
		if p.CalendarSettings.OpenTitle != "" { // the calendars may have been read since the person was loaded
			if p.marked, err = openMarks(ctx, q, p.ID); err != nil {
				return nil, err
			}
		}
		of[p.ID] = &Agenda{Person: p, now: span.At(s.now())}
	}
	return of, nil
}

// fill adds what keeps people from meeting anybody: their calendars, their blocks, and calendars that can't be read.
func (s *Service) fill(ctx context.Context, q *sqlc.Queries, people []Person, of map[int64]*Agenda, reach span.Span) ([]Agenda, error) {
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
		of[b.PersonID].Blocks = append(of[b.PersonID].Blocks, b)
	}
	calendars, err := q.BlockingCalendars(ctx, ids)
	for _, c := range calendars {
		of[c.PersonID].doubt(c, reach, s.now())
	}
	out := make([]Agenda, len(people))
	for i, p := range people {
		out[i] = *of[p.ID]
	}
	return out, err
}

func (g *Agenda) addEvent(e sqlc.BusyRow) {
	if e.Details == detailsNobody {
		e.Title = ""
	}
	switch {
	case e.Opens == 1: // these are hours
	case e.Blocks == 1:
		g.Busy = append(g.Busy, e)
	default:
		g.shown = append(g.shown, e)
	}
}

const (
	OfferNothing      = "nothing"
	detailsNobody     = "nobody"
	detailsColleagues = "colleagues"
)

// doubt closes a range if nothing is known of a calendar yet; and if it can't be read while its host offers nothing then or its copy
// is too old.
func (g *Agenda) doubt(c sqlc.BlockingCalendarsRow, reach span.Span, now time.Time) {
	oldest := now.Add(-time.Duration(g.Person.CalendarSettings.TrustHours) * time.Hour).Unix()
	switch {
	case c.ReadAt == 0:
		g.Unread = append(g.Unread, opentimes.Stretch{Span: reach, Calendar: c.Name, Says: told.Say("not-read-yet", "Not read yet, so nothing is offered")})
	case c.ReadAt < oldest || c.InTrouble && (g.Person.CalendarSettings.Unreachable == OfferNothing || !calsync.FreshAt(c.ReadAt, oldest, now)):
		g.Unread = append(g.Unread, opentimes.Stretch{Span: reach, Calendar: c.Name, Says: told.Say("cant-be-read", "Can't be read, so nothing is offered")})
	}
}

// Input is the agenda as core understands it, for a meeting type's rules; a type not yet saved has the ID 0.
func (g Agenda) Input(id int64, rules TypeRules) opentimes.Input {
	timing := rules.timing()
	timing.Name = typeLabel(id)
	home := g.Person.Home
	return opentimes.Input{Now: g.now, Type: timing, Host: g.host(id), Series: rules.series, FirstWeekday: home.WeekBegins(), ShareBuffers: home.ShareBuffers}
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

func (g Agenda) host(kind int64) opentimes.Host {
	host := opentimes.Host{Name: g.Person.Name, Hours: g.Person.PlanFor(kind)}
	stretches := make([]opentimes.Stretch, len(g.Busy))
	for i, b := range g.Busy {
		stretches[i] = opentimes.Stretch{Span: span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)}, Calendar: b.Calendar, Title: b.Title}
	}
	for _, b := range g.Blocks {
		stretches = append(stretches, opentimes.Stretch{Span: BlockSpan(b), Title: b.Label, Blocked: true})
	}
	host.Busy = opentimes.NewAgenda(append(stretches, g.Unread...))
	for _, b := range g.Taken {
		host.Bookings = append(host.Bookings, opentimes.Booking{
			ID: bookingLabel(b.ID), Type: typeLabel(b.TypeID), Meeting: span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)},
			Before: int(b.StartAt-b.KeptFrom) / 60, After: int(b.KeptUntil-b.EndAt) / 60,
			Filling: opentimes.Filling{Seats: int(b.Capacity), Taken: int(b.Taken)}, Session: b.SessionID > 0, Series: seriesLabel(b.SeriesID),
		})
	}
	return host
}

// MeetingSpan is when a booking's meeting is, without its buffers.
func MeetingSpan(b sqlc.Booking) span.Span {
	return span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)}
}

// KeptSpan is the meeting with its buffers.
func KeptSpan(b sqlc.Booking) span.Span {
	return span.Span{Start: span.Instant(b.KeptFrom), End: span.Instant(b.KeptUntil)}
}

const HostLeft = "left"

// SeenBy is the agenda as somebody of the workspace may see it. Of a colleague's they see when they are busy, what their
// calendars tell colleagues, and with whom they are booked only if the viewer's role lets them know. Spans stay as they
// are, so that the same times come out of it whoever looks. Whatever is shown of an agenda goes through here.
func (g Agenda) SeenBy(viewer Person) Agenda {
	if g.Person.ID == viewer.Eyes() {
		return g
	}
	g = g.forColleagues()
	g.Blocks = slices.Clone(g.Blocks)
	for i := range g.Blocks {
		g.Blocks[i].Label, g.Blocks[i].ID = "", 0
	}
	if !viewer.May(identity.SeeEverybodys) {
		g.Bookings = slices.Clone(g.Bookings)
		for i := range g.Bookings {
			g.Bookings[i].Booking = unnamed(g.Bookings[i].Booking)
		}
	}
	return g
}

// unnamed is a booking as those know it who may not know whose it is: that somebody is booked.
func unnamed(b sqlc.Booking) sqlc.Booking {
	return sqlc.Booking{
		ID: b.ID, TypeID: b.TypeID, HostID: b.HostID, State: b.State, Life: string(life.Booked), CreatedAt: b.CreatedAt,
		StartAt: b.StartAt, EndAt: b.EndAt, KeptFrom: b.KeptFrom, KeptUntil: b.KeptUntil,
	}
}

// forColleagues is the agenda without what calendars don't tell colleagues.
func (g Agenda) forColleagues() Agenda {
	open := func(e sqlc.BusyRow) bool { return e.Details == detailsColleagues }
	out := g
	out.Busy, out.shown, out.Unread = nil, nil, slices.Clone(g.Unread)
	for _, e := range g.Busy {
		if !open(e) {
			e.Title, e.Calendar = "", ""
		}
		out.Busy = append(out.Busy, e)
	}
	for _, e := range g.shown {
		if open(e) {
			out.shown = append(out.shown, e)
		}
	}
	for i := range out.Unread {
		out.Unread[i].Calendar, out.Unread[i].Says = "", told.Words{}
	}
	return out
}

// BlockSpan is when a block is.
func BlockSpan(b sqlc.Block) span.Span {
	return span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)}
}
