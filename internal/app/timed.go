package app

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// timedMessages is what a workspace has the clock send, as it is stored. Last is the highest number that a rule ever had.
type timedMessages struct {
	Last  int64       `json:"last,omitempty"`
	Rules []timedRule `json:"rules,omitempty"`
}

type timedRule struct {
	words.Rule
	Since int64 `json:"since"` // what was due before is none of its business
}

func (m timedMessages) rules() []words.Rule {
	out := make([]words.Rule, len(m.Rules))
	for i, r := range m.Rules {
		out[i] = r.Rule
	}
	return out
}

// with is the rules as somebody wants them now. One that is changed begins anew, but goes to nobody twice.
func (m timedMessages) with(rules []words.Rule, now time.Time) timedMessages {
	out := timedMessages{Last: m.Last}
	for _, r := range rules {
		i := slices.IndexFunc(m.Rules, func(there timedRule) bool { return there.ID == r.ID && r.ID != 0 })
		next := timedRule{r, now.Unix()}
		switch {
		case i < 0:
			out.Last++
			next.ID = out.Last
		case m.Rules[i].Rule == r:
			next.Since = m.Rules[i].Since
		}
		out.Rules = append(out.Rules, next)
	}
	return out
}

// Messages is what the clock sends in a workspace, and what will be sent.
type Messages struct {
	Rules []words.Rule `json:"rules"`
	Edits bool         `json:"edits" doc:"May the viewer change them?"`
	MessagesAhead
}

// MessagesAhead is what rules will send, about meetings that the viewer may see.
type MessagesAhead struct {
	Ahead []MessageAhead        `json:"ahead" doc:"The next ones, the first one first; with what a change takes back."`
	Adds  int                   `json:"adds" doc:"How many the change brings, of the meetings looked at."`
	Takes int                   `json:"takes" doc:"How many it takes back."`
	Wrong map[string]told.Words `json:"wrong" doc:"What is wrong with rules, by their places: 'rules.0'."`
}

// MessageAhead is a message that will be sent, as things stand.
type MessageAhead struct {
	At       time.Time `json:"at"`
	Booking  int64     `json:"booking"`
	Client   string    `json:"client"`
	Type     string    `json:"type"`
	Kind     string    `json:"kind" enum:"client-reminder,client-thanks,client-missed,host-reminder"`
	Receiver string    `json:"receiver" enum:"client,hosts"`
	If       string    `json:"if" enum:",attended,missed" doc:"What isn't known yet, and has to be so."`
	Change   string    `json:"change" enum:",added,taken"`
}

const (
	mostLookedAt = 300 // meetings
	mostAhead    = 14
)

// Messages tells what the clock sends.
func (a *App) Messages(ctx context.Context, p Person) (Messages, error) {
	stored, err := a.timed(ctx, a.Store.Queries, p.home.id)
	if err != nil {
		return Messages{}, err
	}
	rules := stored.rules()
	ahead, err := a.ahead(ctx, p, stored, stored)
	return Messages{rules, p.May(identity.EditWorkspace), ahead}, err
}

// TryMessages tells what other rules would send.
func (a *App) TryMessages(ctx context.Context, p Person, rules []words.Rule) (MessagesAhead, error) {
	if err := p.Must(identity.EditWorkspace); err != nil {
		return MessagesAhead{}, err
	}
	stored, err := a.timed(ctx, a.Store.Queries, p.home.id)
	if err != nil {
		return MessagesAhead{}, err
	}
	wrong := wrongRules(rules)
	if len(wrong) > 0 {
		ahead, err := a.ahead(ctx, p, stored, stored)
		ahead.Wrong = wrong
		return ahead, err
	}
	return a.ahead(ctx, p, stored, stored.with(rules, a.Now()))
}

// SaveMessages keeps rules. The fields of a refusal are "rules.0" and so on.
func (a *App) SaveMessages(ctx context.Context, p Person, rules []words.Rule) (Messages, error) {
	if wrong := wrongRules(rules); len(wrong) > 0 {
		return Messages{}, wrong.Err()
	}
	err := a.writeFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		before, err := a.timed(ctx, q, p.home.id)
		if err != nil {
			return err
		}
		if err := writeMessages(ctx, q, p.home.id, before.with(rules, a.Now())); err != nil {
			return err
		}
		return a.remember(ctx, q, p, subjectMessages, p.home.id, told.Say("undo-messages", "Messages: {}", told.Count(len(rules), "rule")), before)
	})
	if err != nil {
		return Messages{}, err
	}
	return a.Messages(ctx, p)
}

func wrongRules(rules []words.Rule) refusal.Complaints {
	wrong := refusal.Complaints{}
	for i, fault := range words.Faults(rules) {
		wrong.Add(fmt.Sprintf("rules.%d", i), fault)
	}
	if len(rules) > words.MostRules {
		wrong.Add("rules", told.Say("messages-most", "At most {} messages can be sent by the clock. Remove one first.", words.MostRules))
	}
	return wrong
}

func (a *App) timed(ctx context.Context, q *sqlc.Queries, workspace int64) (m timedMessages, err error) {
	row, err := q.WorkspaceByID(ctx, workspace)
	if err != nil {
		return m, err
	}
	return m, json.Unmarshal([]byte(row.Messages), &m)
}

func writeMessages(ctx context.Context, q *sqlc.Queries, workspace int64, m timedMessages) error {
	text, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return q.SetMessages(ctx, sqlc.SetMessagesParams{ID: workspace, Messages: string(text)})
}

// restoreMessages puts rules back, as if they had just been made: what was due meanwhile isn't sent late. Numbers given since stay given.
func (a *App) restoreMessages(ctx context.Context, q *sqlc.Queries, _ Person, workspace int64, before timedMessages) error {
	now, err := a.timed(ctx, q, workspace)
	if err != nil {
		return err
	}
	before.Last = max(before.Last, now.Last)
	for i := range before.Rules {
		before.Rules[i].Since = a.Now().Unix()
	}
	return writeMessages(ctx, q, workspace, before)
}

// ahead is what rules will send about the next meetings, and what differs from others.
func (a *App) ahead(ctx context.Context, p Person, before, after timedMessages) (MessagesAhead, error) {
	out := MessagesAhead{Ahead: []MessageAhead{}, Wrong: map[string]told.Words{}}
	now := a.Now()
	rows, err := a.Store.BookingsEndingAfter(ctx, sqlc.BookingsEndingAfterParams{After: now.Add(-longestAfter(before, after)).Unix(), WorkspaceID: p.home.id, Most: mostLookedAt})
	if err != nil {
		return out, err
	}
	var bookings []sqlc.Booking
	var meetings []words.Meeting
	for _, b := range rows {
		if b.HostID != p.ID && !p.May(identity.SeeEverybodys) {
			continue
		}
		m, err := a.timedMeeting(ctx, a.Store.Queries, p.home.id, b)
		if err != nil {
			return out, err
		}
		bookings, meetings = append(bookings, b), append(meetings, m)
	}
	done, err := a.messagesDone(ctx, bookings)
	if err != nil {
		return out, err
	}
	was, is := a.plannedBy(before, bookings, meetings, done), a.plannedBy(after, bookings, meetings, done)
	for key, one := range is {
		if _, there := was[key]; !there {
			one.Change = "added"
			out.Adds++
		}
		out.Ahead = append(out.Ahead, one)
	}
	for key, one := range was {
		if _, there := is[key]; !there {
			one.Change = "taken"
			out.Takes++
			out.Ahead = append(out.Ahead, one)
		}
	}
	slices.SortFunc(out.Ahead, func(a, b MessageAhead) int {
		return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Booking, b.Booking), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Change, b.Change))
	})
	out.Ahead = out.Ahead[:min(len(out.Ahead), mostAhead)]
	return out, nil
}

// aheadKey is what makes two messages the same for whoever gets them.
type aheadKey struct {
	at      span.Instant
	booking int64
	kind    words.Kind
}

// messageDone is a message that has been sent: a rule that is changed sends it to nobody twice.
type messageDone struct{ rule, booking, start int64 }

func (a *App) messagesDone(ctx context.Context, bookings []sqlc.Booking) (map[messageDone]bool, error) {
	ids := make([]int64, len(bookings))
	for i, b := range bookings {
		ids[i] = b.ID
	}
	rows, err := a.Store.MessagesDone(ctx, ids)
	done := map[messageDone]bool{}
	for _, row := range rows {
		done[messageDone{row.RuleID, row.BookingID, row.StartAt}] = true
	}
	return done, err
}

func (a *App) plannedBy(m timedMessages, bookings []sqlc.Booking, meetings []words.Meeting, done map[messageDone]bool) map[aheadKey]MessageAhead {
	out := map[aheadKey]MessageAhead{}
	for _, c := range words.Ahead(m.rules(), meetings, span.At(a.Now())) {
		b, r := bookings[c.Meeting], m.Rules[c.Rule]
		if done[messageDone{r.ID, b.ID, b.StartAt}] {
			continue
		}
		one := MessageAhead{At: c.At.Time(), Booking: b.ID, Client: b.ClientName, Type: b.TypeName, Kind: string(r.Kind()), Receiver: r.Receiver}
		if !r.Holds(meetings[c.Meeting]) {
			one.If = r.If
		}
		out[aheadKey{c.At, b.ID, r.Kind()}] = one
	}
	return out
}

// longestAfter is how long ago a meeting may have ended about which something is still to be sent.
func longestAfter(all ...timedMessages) time.Duration {
	longest := 0
	for _, m := range all {
		for _, r := range m.Rules {
			if r.Side == words.After {
				longest = max(longest, r.Minutes)
			}
		}
	}
	return time.Duration(longest) * time.Minute
}

// timedMeeting is what counts of a booking for the clock's messages.
func (a *App) timedMeeting(ctx context.Context, q *sqlc.Queries, workspace int64, b sqlc.Booking) (words.Meeting, error) {
	settled, err := q.SettledAt(ctx, b.ID)
	if err != nil {
		return words.Meeting{}, err
	}
	before, err := q.ClientCameBefore(ctx, sqlc.ClientCameBeforeParams{Mail: b.ClientMail, Before: b.ID, WorkspaceID: workspace})
	return words.Meeting{Span: meetingSpan(b), Since: span.Instant(settled), State: life.State(b.Life), Confirmed: confirmed(b), First: !before}, err
}
