package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/opentimes"
	"corrim/core/span"
	"corrim/core/wording"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Board is days of one person, or one day of everybody in the workspace, as ribbons on the viewer's clock.
type Board struct {
	Today  string     `json:"today" format:"date"`
	Minute int        `json:"minute" doc:"Of the viewer's wall clock, now."`
	Zone   string     `json:"zone"`
	Rows   []BoardRow `json:"rows"`
}

// BoardRow is one day of one person. What colleagues have in their calendars stays private: only that they are busy.
type BoardRow struct {
	Person string  `json:"person"`
	Zone   string  `json:"zone"`
	Own    bool    `json:"own"`
	Ribbon Ribbon  `json:"ribbon"`
	Blocks []Block `json:"blocks"`
}

// Block is time that was blocked here.
type Block struct {
	Mark
	ID int64 `json:"id,omitempty"`
}

// Board gathers days from a date on: the person's own, or with everybody set one day of each colleague.
func (a *App) Board(ctx context.Context, p Person, from string, days int, everybody bool) (Board, error) {
	first, err := civil.ParseDate(from)
	if err != nil {
		return Board{}, complaints{"from": err.Error()}.err()
	}
	people := []Person{p}
	if everybody {
		days = 1
		if people, err = a.colleagues(ctx, p); err != nil {
			return Board{}, err
		}
	}
	today := newDayDrawer(a.todayOf(p), p.zone)
	board := Board{Today: today.date.String(), Minute: today.minute(span.At(a.Now())), Zone: p.Zone, Rows: []BoardRow{}}
	for _, host := range people {
		within := span.Span{Start: first.Start(p.zone), End: first.AddDays(days).Start(p.zone)}
		g, err := a.agenda(ctx, a.Store.Queries, host, within, 0)
		if err != nil {
			return board, err
		}
		for i := range days {
			board.Rows = append(board.Rows, boardRow(newDayDrawer(first.AddDays(i), p.zone), g, host.ID == p.ID))
		}
	}
	return board, nil
}

func boardRow(d dayDrawer, g agenda, own bool) BoardRow {
	row := BoardRow{Person: g.person.Name, Zone: g.person.Zone, Own: own, Ribbon: d.ribbon(), Blocks: []Block{}}
	d.background(&row.Ribbon, g)
	for _, b := range g.blocks {
		for _, mark := range d.mark(nil, blockSpan(b), b.Label) {
			row.Blocks = append(row.Blocks, Block{mark, b.ID})
		}
	}
	if !own {
		row.hide()
	}
	return row
}

// hide leaves of a colleague's day only when they are busy.
func (r *BoardRow) hide() {
	r.Ribbon.Shown = nil
	for i := range r.Ribbon.Busy {
		r.Ribbon.Busy[i].Label = ""
	}
	for i := range r.Ribbon.Bookings {
		r.Ribbon.Bookings[i].Label = "booked"
	}
	for i := range r.Blocks {
		r.Blocks[i].Label, r.Blocks[i].ID = "", 0
	}
}

func blockSpan(b sqlc.Block) span.Span {
	return span.Span{Start: span.Instant(b.StartAt), End: span.Instant(b.EndAt)}
}

// NewBlock is a stretch of a day to be blocked, on the person's wall clock.
type NewBlock struct {
	Date  string `json:"date" format:"date"`
	From  int    `json:"from" minimum:"0" maximum:"1439" doc:"Minutes past midnight."`
	To    int    `json:"to" minimum:"1" maximum:"1440"`
	Label string `json:"label,omitempty" maxLength:"200"`
}

// blockState is a block for the history; There tells whether it was there.
type blockState struct {
	Block sqlc.Block
	There bool
}

// AddBlock blocks time of the person. The field of a refusal is "to" or "date".
func (a *App) AddBlock(ctx context.Context, p Person, n NewBlock) error {
	date, err := civil.ParseDate(n.Date)
	if err != nil {
		return complaints{"date": err.Error()}.err()
	}
	at := span.Span{Start: civil.Clock{Date: date, Seconds: n.From * 60}.Instant(p.zone), End: civil.Clock{Date: date, Seconds: n.To * 60}.Instant(p.zone)}
	if n.To == 24*60 {
		at.End = date.AddDays(1).Start(p.zone)
	}
	if at.Empty() {
		return complaints{"to": "What is blocked ends after it begins."}.err()
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		id, err := q.AddBlock(ctx, sqlc.AddBlockParams{PersonID: p.ID, StartAt: int64(at.Start), EndAt: int64(at.End), Label: oneLine(n.Label)})
		if err != nil {
			return err
		}
		label := fmt.Sprintf("Board: %s %s blocked", n.Date, clockOf(at, p.zone))
		return a.remember(ctx, q, p, settingChange{subjectBlock, id, label, blockState{Block: sqlc.Block{ID: id}}})
	})
}

func clockOf(s span.Span, zone *time.Location) string {
	return s.Start.Time().In(zone).Format("15:04") + "–" + s.End.Time().In(zone).Format("15:04")
}

// RemoveBlock gives blocked time free again.
func (a *App) RemoveBlock(ctx context.Context, p Person, id int64) error {
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := q.Block(ctx, id)
		if errors.Is(err, store.ErrNotFound) || err == nil && b.PersonID != p.ID {
			return refuse(NotFound, "This time is not blocked any more.")
		}
		if err != nil {
			return err
		}
		if err := q.RemoveBlock(ctx, id); err != nil {
			return err
		}
		label := fmt.Sprintf("Board: %s no longer blocked", clockOf(blockSpan(b), p.zone))
		return a.remember(ctx, q, p, settingChange{subjectBlock, id, label, blockState{b, true}})
	})
}

func restoreBlock(ctx context.Context, q *sqlc.Queries, c sqlc.SettingChange) error {
	before := blockState{}
	if err := json.Unmarshal([]byte(c.Before), &before); err != nil {
		return err
	}
	if !before.There {
		return q.RemoveBlock(ctx, c.SubjectID)
	}
	return q.PutBackBlock(ctx, sqlc.PutBackBlockParams(before.Block))
}

// HandBooking is a booking that a host enters for a client, once or again and again at the same time by the clock.
type HandBooking struct {
	Type    int64  `json:"type" doc:"One of the host's meeting types."`
	Date    string `json:"date" format:"date"`
	Minute  int    `json:"minute" minimum:"0" maximum:"1439" doc:"Of the host's wall clock."`
	Minutes int    `json:"minutes,omitempty" doc:"The length; that offered first if left out."`
	Weeks   int    `json:"weeks,omitempty" minimum:"0" maximum:"52" doc:"With times: again every so many weeks."`
	Times   int    `json:"times,omitempty" minimum:"0" maximum:"52" doc:"How often in all."`
	Name    string `json:"name" maxLength:"1000"`
	Mail    string `json:"mail" maxLength:"1000"`
	Remark  string `json:"remark,omitempty" maxLength:"20000"`
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that rules are broken, and wants it all the same."`
	Skip    bool   `json:"skip,omitempty" doc:"The host was warned, and wants only those times that are open."`
}

// BookByHand books for a client, all times in one transaction. Times that are not open are refused with the broken rules,
// unless the host wants them all the same, or without those; one that overlaps another booking then carries a mark of its
// own. It returns how many were booked.
func (a *App) BookByHand(ctx context.Context, p Person, h HandBooking) (booked int, err error) {
	request := BookingRequest{Name: h.Name, Mail: h.Mail, Remark: h.Remark, Zone: p.Zone, Minutes: h.Minutes}.normal(p.home)
	if err := request.check(); err != nil {
		return 0, err
	}
	kind, first, err := a.handTime(ctx, p, h)
	if err != nil {
		return 0, err
	}
	kind.Rules = kind.Rules.only(first.Minutes)
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		booked = 0
		warnings := ""
		for i, start := range h.repeated(p, first) {
			broken, sentences, err := a.brokenRules(ctx, q, p, kind, start, 0)
			if err != nil {
				return err
			}
			if len(broken) > 0 && !h.Outside {
				warnings += start.At.Time().In(p.zone).Format("Mon 2 Jan 15:04: ") + sentences
				continue
			}
			request.Start = start.At.Time()
			key := hashed(fmt.Sprintf("by hand %d %d %d %s", p.ID, a.Now().UnixNano(), i, request.Mail))
			by := insertion{step: step{kind: "booked", by: "host"}, overlap: slices.Contains(broken, opentimes.BookingRule)}
			if _, err := a.insertBooking(ctx, q, offered{kind, p}, key, request, by); err != nil {
				return err
			}
			booked++
		}
		if warnings != "" && !h.Skip {
			return &Refusal{Kind: OutsideRules, Sentence: "Outside the rules: " + warnings}
		}
		return nil
	})
	if err != nil {
		return 0, err
	}
	a.wakeWorker()
	return booked, nil
}

// repeated is the first start and, if it comes again, those so many weeks on at the same time of the host's clock.
func (h HandBooking) repeated(p Person, first opentimes.Start) []opentimes.Start {
	starts := []opentimes.Start{first}
	date := civil.DateOf(first.At, p.zone)
	for i := 1; i < h.Times && h.Weeks > 0; i++ {
		again := civil.Clock{Date: date.AddDays(7 * h.Weeks * i), Seconds: h.Minute * 60}
		starts = append(starts, opentimes.Start{At: again.Instant(p.zone), Minutes: first.Minutes})
	}
	return starts
}

func (a *App) handTime(ctx context.Context, p Person, h HandBooking) (MeetingType, opentimes.Start, error) {
	kind, err := a.MeetingType(ctx, p, h.Type)
	if err != nil {
		return kind, opentimes.Start{}, err
	}
	date, err := civil.ParseDate(h.Date)
	if err != nil {
		return kind, opentimes.Start{}, complaints{"date": err.Error()}.err()
	}
	minutes, err := kind.Rules.length(h.Minutes)
	if err != nil {
		return kind, opentimes.Start{}, err
	}
	start := opentimes.Start{At: civil.Clock{Date: date, Seconds: h.Minute * 60}.Instant(p.zone), Minutes: minutes}
	if int64(start.At) <= a.Now().Unix() {
		return kind, start, complaints{"date": "This time has already gone by. Choose a later one."}.err()
	}
	return kind, start, nil
}

// HandMove is where a host moves a booking to.
type HandMove struct {
	Date    string `json:"date" format:"date"`
	Minute  int    `json:"minute" minimum:"0" maximum:"1439" doc:"Of the host's wall clock."`
	Outside bool   `json:"outside,omitempty" doc:"The host was warned that rules are broken, and wants it all the same."`
}

// MoveByHand moves one of the person's coming bookings; the client is told. Rules are as for BookByHand.
func (a *App) MoveByHand(ctx context.Context, p Person, id int64, m HandMove) error {
	_, err := a.settle(ctx, p, id, func(q *sqlc.Queries, b sqlc.Booking) error {
		kind, start, err := a.handTime(ctx, p, HandBooking{Type: b.TypeID, Date: m.Date, Minute: m.Minute})
		if err != nil {
			return err
		}
		start.Minutes = startOf(b).Minutes
		broken, sentences, err := a.brokenRules(ctx, q, p, kind, start, b.ID)
		if err != nil {
			return err
		}
		if len(broken) > 0 && !m.Outside {
			return &Refusal{Kind: OutsideRules, Sentence: "This time is outside the rules: " + sentences}
		}
		by := int64(start.At) - b.StartAt
		to := sqlc.MoveBookingParams{ID: id, StartAt: b.StartAt + by, EndAt: b.EndAt + by, KeptFrom: b.KeptFrom + by, KeptUntil: b.KeptUntil + by}
		err = moveTo(ctx, q, to, slices.Contains(broken, opentimes.BookingRule))
		if err != nil {
			return err
		}
		return a.recordAnew(ctx, q, id, step{"moved", "host", ""})
	})
	return err
}

// brokenRules is which rules a start breaks, and why in sentences; moving is a booking that is left out.
func (a *App) brokenRules(ctx context.Context, q *sqlc.Queries, p Person, kind MeetingType, start opentimes.Start, moving int64) (broken []opentimes.Rule, sentences string, err error) {
	around := span.Span{Start: start.At, End: start.At + 1}
	g, err := a.agenda(ctx, q, p, around, moving)
	if err != nil {
		return nil, "", err
	}
	in := g.input(kind.ID, kind.Rules)
	e := opentimes.Explain(in, start)
	for _, r := range e.Reasons {
		if r.Holds {
			continue
		}
		broken = append(broken, r.Rule)
		for _, sentence := range wording.Reason(in, r, true) {
			sentences += sentence + " "
		}
	}
	return broken, sentences, nil
}
