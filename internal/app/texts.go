package app

import (
	"cmp"
	"context"
	"crypto/subtle"
	"errors"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/job"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// TextMessage is a text message as a gateway takes it.
type TextMessage struct {
	ID   string `json:"-"` // names it: sent twice, it goes out once
	To   string `json:"to"`
	From string `json:"from"`
	Text string `json:"text"`
}

// Texter hands text messages to a gateway. A nil error means that the gateway has taken the message over.
type Texter interface {
	Send(ctx context.Context, m TextMessage) error
}

// TextsOf is how text messages about a booking stand.
type TextsOf struct {
	Phone   string `json:"phone"`
	Stopped bool   `json:"stopped" doc:"Whoever has the number wants none any more."`
}

// mostTextsADay go to one number, whoever entered it.
const mostTextsADay = 12

// longestSender is how long the name is that texts come from (3GPP TS 23.040, 9.1.2.5).
const longestSender = 11

// sendsTexts tells whether clients of a type are asked whether they want text messages: some are sent, and there is a way to.
func (a *App) sendsTexts(ctx context.Context, q *sqlc.Queries, workspace, kind int64) (bool, error) {
	if a.Texter == nil {
		return false, nil
	}
	m, err := messagesHeld(ctx, q, workspace, kind)
	if len(m.AlsoText) > 0 {
		return true, err
	}
	for _, r := range m.Rules {
		if r.By == words.ByText {
			return true, err
		}
	}
	return false, err
}

// agreeToTexts keeps that a client agreed, in the words that they read.
func (a *App) agreeToTexts(ctx context.Context, q *sqlc.Queries, o schedule.Bookable, b sqlc.Booking, phone string) error {
	if phone == "" {
		return nil
	}
	w := words.In(b.Language)
	return q.AddTextConsent(ctx, sqlc.AddTextConsentParams{
		BookingID: b.ID, WorkspaceID: o.Host.Home.ID, Phone: phone, Words: schedule.TextConsents(o.Host.Home.Name)[w.Language], At: a.Now().Unix(),
	})
}

// textsOf is how text messages about a booking stand; nil if its client never agreed to any.
func textsOf(ctx context.Context, q *sqlc.Queries, booking int64) (*TextsOf, error) {
	row, err := q.TextConsent(ctx, booking)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	return &TextsOf{row.Phone, row.StoppedAt > 0}, err
}

// SetTexts stops text messages to a booking's number, or lets them come again.
func (a *App) SetTexts(ctx context.Context, link string, wanted bool) (ClientBooking, error) {
	err := a.Store.Write(ctx, func(q *sqlc.Queries) error {
		b, err := a.ByLink(ctx, q, link)
		if err != nil {
			return err
		}
		row, err := q.TextConsent(ctx, b.ID)
		if errors.Is(err, store.ErrNotFound) {
			return refusal.New(refusal.Over, told.NoTexts.Words())
		}
		if err != nil {
			return err
		}
		return a.setTexts(ctx, q, row.WorkspaceID, row.Phone, wanted)
	})
	if err != nil {
		return ClientBooking{}, err
	}
	return a.BookingByLink(ctx, link)
}

func (a *App) setTexts(ctx context.Context, q *sqlc.Queries, workspace int64, phone string, wanted bool) error {
	if wanted {
		return q.StartTexts(ctx, sqlc.StartTextsParams{WorkspaceID: workspace, Phone: phone})
	}
	return q.StopTexts(ctx, sqlc.StopTextsParams{WorkspaceID: workspace, Phone: phone, At: a.Now().Unix()})
}

// TextReport is what the gateway says: what became of a message, or what a phone answered.
type TextReport struct {
	ID    string `json:"id,omitempty" doc:"Of a message that was handed over."`
	State string `json:"state,omitempty" enum:",delivered,failed"`
	From  string `json:"from,omitempty" doc:"Of an answer: the number."`
	Text  string `json:"text,omitempty"`
}

// HeardFromGateway takes what a gateway reports, if it knows the token.
func (a *App) HeardFromGateway(ctx context.Context, token string, r TextReport) error {
	if a.Texter == nil || a.TextsToken == "" || subtle.ConstantTimeCompare([]byte(token), []byte(a.TextsToken)) != 1 {
		return refusal.New(refusal.NotSignedIn, told.Say("gateway-token", "The token is wrong."))
	}
	if r.ID != "" && r.State == "" {
		return refusal.New(refusal.Invalid, told.Say("gateway-state", "Say what became of the message: delivered, or failed."))
	}
	return a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if r.ID != "" {
			_, err := q.SetTextState(ctx, sqlc.SetTextStateParams{ID: r.ID, State: r.State})
			return err
		}
		wanted, means := meansOf(r.Text)
		if !means {
			return nil
		}
		phone := "+" + strings.TrimLeft(strings.TrimSpace(r.From), "+0")
		homes, err := q.WorkspacesOfPhone(ctx, phone)
		if err != nil {
			return err
		}
		for _, home := range homes {
			if err := a.setTexts(ctx, q, home, phone, wanted); err != nil {
				return err
			}
		}
		return nil
	})
}

// meansOf reads an answer: the words that end text messages and begin them again, as people write them.
func meansOf(text string) (wanted, means bool) {
	switch strings.ToUpper(strings.Trim(strings.TrimSpace(text), ".!\"'“”„")) {
	case "STOP", "STOPP", "ARRET", "ARRÊT", "PARAR", "STOPALL":
		return false, true
	case "START":
		return true, true
	}
	return false, false
}

// textTimed sends a text message that the clock brought about, if it is still true.
func (a *App) textTimed(ctx context.Context, j sqlc.Job) (job.Ending, error) {
	f, err := a.timedFacts(ctx, j)
	if err != nil {
		return nil, err
	}
	f = f.forClient()
	return a.sendText(ctx, f, j, f.textMessage(words.Kind(j.Occasion), a.mayConfirm(f.booking)))
}

// planTexts plans the text messages about a step, beside its mails.
func (a *App) planTexts(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step, kinds []string) error {
	if a.Texter == nil {
		return nil
	}
	if slices.Contains(kinds, jobMailClient) {
		if err := a.planTextOf(ctx, q, b, s); err != nil {
			return err
		}
	}
	if slices.Contains(kinds, jobMailHost) {
		return a.planHostTexts(ctx, q, b, s)
	}
	return nil
}

// planCode plans the text message with a booking's code. It is no use once the time is given back.
func (a *App) planCode(ctx context.Context, q *sqlc.Queries, b sqlc.Booking) error {
	now := a.Now()
	_, err := job.Plan(ctx, q, now, job.Keyed(job.New{Kind: jobTextCode, Lane: laneTexts, Subject: subjectBooking, SubjectID: b.ID, Revision: b.Revision, Occasion: string(life.Hold), Due: now, Expires: time.Unix(b.LapsesAt, 0)}))
	return err
}

// textCode sends the code that proves a client's number. It needs no agreement beside the client's wish for it, but it goes to nobody
// who has ended our text messages.
func (a *App) textCode(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	b := f.booking
	if b.Life != string(life.Unproved) {
		return nil, job.ErrDropped
	}
	f = f.forClient()
	text := f.w.Say("texts.stops", words.With{"said": f.w.Say("texts.client-held", words.With{"code": f.code, "workspace": f.workspace})})
	return a.sendTextTo(ctx, f, j, f.codePhone, text)
}

// planTextOf plans a text message about what a host has done, if the client has agreed to some: after quiet hours, and not once the
// meeting has begun.
func (a *App) planTextOf(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, s step) error {
	kind, some := words.For(words.Occasion{Event: life.Event(s.kind)}, words.Client)
	if !some || s.by != string(life.Host) || !slices.Contains(words.TextedAtOnce(), kind) {
		return nil
	}
	consent, err := q.TextConsent(ctx, b.ID)
	if errors.Is(err, store.ErrNotFound) || err == nil && consent.StoppedAt > 0 {
		return nil
	}
	if err != nil {
		return err
	}
	m, err := a.messagesWithQuiet(ctx, q, consent.WorkspaceID, b.TypeID)
	if err != nil || !slices.Contains(m.AlsoText, kind) {
		return err
	}
	return a.planTextAfterQuiet(ctx, q, b, m.Quiet, b.ClientZone, job.New{Kind: jobTextStep, Occasion: s.kind})
}

// planTextAfterQuiet plans a text message about a booking after quiet hours where its reader is; none that would come once the meeting
// has begun.
func (a *App) planTextAfterQuiet(ctx context.Context, q *sqlc.Queries, b sqlc.Booking, quiet words.Quiet, reader string, n job.New) error {
	zone, err := civil.LoadZone(reader)
	if err != nil {
		return err
	}
	now := a.Now()
	due := quiet.Ends(span.At(now), zone)
	if int64(due) >= b.StartAt {
		return nil
	}
	n.Lane, n.Subject, n.SubjectID, n.Revision, n.Due, n.Expires = laneTexts, subjectBooking, b.ID, b.Revision, due.Time(), time.Unix(b.StartAt, 0)
	_, err = job.Plan(ctx, q, now, job.Keyed(n))
	return err
}

// textStep sends a text message about what a host has done.
func (a *App) textStep(ctx context.Context, f facts, j sqlc.Job) (job.Ending, error) {
	f = f.forClient()
	kind, _ := words.For(f.occasion(j.Occasion), words.Client)
	said := f.w.Say("texts."+string(kind), f.all(kind, f.clientZone(), nil, f.link))
	return a.sendText(ctx, f, j, f.w.Say("texts.stops", words.With{"said": said}))
}

// textsFrom is who text messages of a workspace come from.
func textsFrom(home schedule.Home) string {
	return intake.FirstLetters(cmp.Or(home.Front.Short, home.Name), longestSender)
}

// sendText sends a text message, if the client still wants some and had not too many.
func (a *App) sendText(ctx context.Context, f facts, j sqlc.Job, text string) (job.Ending, error) {
	consent, err := a.Store.TextConsent(ctx, f.booking.ID)
	if errors.Is(err, store.ErrNotFound) {
		return nil, job.ErrDropped
	}
	if err != nil {
		return nil, err
	}
	return a.sendTextTo(ctx, f, j, consent.Phone, text)
}

// sendTextTo sends a text message to a number that still wants some and had not too many. What is kept of it has neither the client's
// link nor the code.
func (a *App) sendTextTo(ctx context.Context, f facts, j sqlc.Job, phone, text string) (job.Ending, error) {
	if a.Texter == nil || phone == "" {
		return nil, job.ErrDropped
	}
	stopped, err := a.Store.TextsStopped(ctx, sqlc.TextsStoppedParams{WorkspaceID: f.host.Home.ID, Phone: phone})
	if err != nil || stopped > 0 {
		return nil, errors.Join(err, job.ErrDropped)
	}
	since := a.Now().Add(-24 * time.Hour).Unix()
	if sent, err := a.Store.TextsToPhoneSince(ctx, sqlc.TextsToPhoneSinceParams{Phone: phone, Since: since}); err != nil || sent >= mostTextsADay {
		return nil, errors.Join(err, job.ErrDropped)
	}
	m := TextMessage{ID: a.messageID(j) + "." + a.name, To: phone, From: textsFrom(f.host.Home), Text: text}
	if err := a.Texter.Send(ctx, m); err != nil {
		return nil, err
	}
	said := strings.NewReplacer(f.link, a.BaseURL+"/b/…", f.code, "······").Replace(m.Text)
	return func(ctx context.Context, q *sqlc.Queries) error {
		return q.AddTextSent(ctx, sqlc.AddTextSentParams{ID: m.ID, BookingID: f.booking.ID, JobID: j.ID, Phone: m.To, Said: said, SentAt: a.Now().Unix()})
	}, nil
}

// textMessage is what a text message says, with how to end them.
func (f facts) textMessage(kind words.Kind, confirms bool) string {
	with := f.all(kind, f.clientZone(), words.With{"confirms": confirms}, f.link)
	said := f.w.Say("texts."+string(kind), with)
	if own, has := f.own.wordsOf(kind, f.rule)[f.w.Language]; has {
		said = own.Write(onlyKnown(kind, with)).Opening
	}
	return f.w.Say("texts.stops", words.With{"said": said})
}
