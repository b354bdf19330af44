package app

import (
	"cmp"
	"context"
	"slices"
	"time"

	"corrim/core/civil"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

const (
	mostLookedAt = 300 // meetings
	mostAhead    = 14
)

// lookedAt is a booking whose messages are worked out.
type lookedAt struct {
	booking sqlc.Booking
	meeting words.Meeting
}

// ahead is what messages will send about the next meetings that the person may see, and what differs if those of the scope are others.
func (a *App) ahead(ctx context.Context, p schedule.Person, s messageScope, before, after messageRules) (MessagesAhead, error) {
	out := MessagesAhead{Ahead: []MessageAhead{}, Wrong: map[string]told.Words{}}
	own, err := a.ownOfTypes(ctx, s)
	if err != nil {
		return out, err
	}
	longest := longestAfter(append(own.all(), before, after)...)
	rows, err := a.Store.BookingsEndingAfter(ctx, sqlc.BookingsEndingAfterParams{After: a.Now().Add(-longest).Unix(), WorkspaceID: p.Home.ID, TypeID: s.kind, Most: mostLookedAt})
	if err != nil {
		return out, err
	}
	byType := map[int64][]lookedAt{}
	var ids []int64
	for _, b := range rows {
		if b.HostID != p.ID && !p.May(identity.SeeEverybodys) {
			continue
		}
		m, err := a.timedMeeting(ctx, a.Store.Queries, p.Home.ID, b)
		if err != nil {
			return out, err
		}
		byType[b.TypeID] = append(byType[b.TypeID], lookedAt{b, m})
		ids = append(ids, b.ID)
	}
	look := aheadView{now: a.Now(), hidesFirst: p.WhoseClients() != 0}
	if look.done, err = a.messagesDone(ctx, ids); err != nil {
		return out, err
	}
	was, is := map[aheadKey]MessageAhead{}, map[aheadKey]MessageAhead{}
	for kind, meetings := range byType {
		if rules, has := own[kind]; has && s.kind == 0 {
			rules.Quiet = before.Quiet
			look.plan(was, rules, meetings)
			rules.Quiet = after.Quiet
			look.plan(is, rules, meetings)
			continue
		}
		look.plan(was, before, meetings)
		look.plan(is, after, meetings)
	}
	out.compare(was, is)
	return out, nil
}

// compare is what will be sent, with what differs from what would have been.
func (out *MessagesAhead) compare(was, is map[aheadKey]MessageAhead) {
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
}

// typesOwn is the messages of types that have their own.
type typesOwn map[int64]messageRules

func (t typesOwn) all() (out []messageRules) {
	for _, m := range t {
		out = append(out, m)
	}
	return out
}

func (a *App) ownOfTypes(ctx context.Context, s messageScope) (typesOwn, error) {
	own := typesOwn{}
	rows, err := a.Store.TypesWithMessages(ctx, s.workspace)
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		m, err := messagesIn(row.Messages)
		if err != nil {
			return nil, err
		}
		if m.Own {
			own[row.ID] = m
		}
	}
	return own, nil
}

// aheadKey is what makes two messages the same for whoever gets them.
type aheadKey struct {
	at      span.Instant
	booking int64
	kind    words.Kind
	by      string
	address string
}

// messageDone is a message that has been sent: a rule that is changed sends it to nobody twice.
type messageDone struct{ rule, booking, start int64 }

func (a *App) messagesDone(ctx context.Context, bookings []int64) (map[messageDone]bool, error) {
	rows, err := a.Store.MessagesDone(ctx, bookings)
	done := map[messageDone]bool{}
	for _, row := range rows {
		done[messageDone{row.RuleID, row.BookingID, row.StartAt}] = true
	}
	return done, err
}

// aheadView works out what will be sent. Whether a client comes for the first time is hidden from whoever sees only their own
// meetings: it tells that the client was with a colleague.
type aheadView struct {
	now        time.Time
	done       map[messageDone]bool
	hidesFirst bool
}

// seen is rules as a reader may have them worked out: without the conditions that are hidden from them.
func (l aheadView) seen(rules []words.Rule) []words.Rule {
	for i, r := range rules {
		if l.hidden(messageRule{Rule: r}) {
			rules[i].If = words.Always
		}
	}
	return rules
}

func (l aheadView) plan(out map[aheadKey]MessageAhead, m messageRules, looked []lookedAt) {
	meetings := make([]words.Meeting, len(looked))
	for i, one := range looked {
		meetings[i] = one.meeting
		meetings[i].Quiet = m.Quiet
	}
	for _, c := range words.Ahead(l.seen(m.rules()), meetings, span.At(l.now)) {
		b, r := looked[c.Meeting].booking, m.Rules[c.Rule]
		if l.done[messageDone{r.ID, b.ID, b.StartAt}] {
			continue
		}
		one := MessageAhead{At: c.At.Time(), Booking: b.ID, Client: b.ClientName, Type: b.TypeName, Kind: string(r.Kind()), Receiver: r.Receiver, By: cmp.Or(r.By, words.ByMail)}
		if !r.Holds(meetings[c.Meeting]) || l.hidden(r) {
			one.If = r.If
		}
		out[aheadKey{c.At, b.ID, r.Kind(), one.By, r.Address}] = one
	}
}

func answersOf(b sqlc.Booking) map[string][]string {
	out := map[string][]string{}
	for _, answer := range formOf(b).Said {
		out[answer.ID] = answer.Values
	}
	return out
}

// wayNamed is how one meets as conditions name it: by video is by video, in whosever room.
func wayNamed(kind string) string {
	if kind == schedule.WayOwnRoom {
		return schedule.WayVideo
	}
	return kind
}

// hidden tells whether a rule's condition tells a reader of colleagues' meetings.
func (l aheadView) hidden(r messageRule) bool {
	return l.hidesFirst && (r.If == words.First || r.If == words.Returning)
}

// longestAfter is how long ago a meeting may have ended about which something is still to be sent.
func longestAfter(all ...messageRules) time.Duration {
	longest := time.Duration(0)
	for _, m := range all {
		for _, r := range m.Rules {
			if r.Side == words.After {
				longest = max(longest, r.Longest())
			}
		}
	}
	return longest
}

// timedMeeting is what counts of a booking for the clock's messages.
func (a *App) timedMeeting(ctx context.Context, q *sqlc.Queries, workspace int64, b sqlc.Booking) (words.Meeting, error) {
	settled, err := q.SettledAt(ctx, b.ID)
	if err != nil {
		return words.Meeting{}, err
	}
	before, err := q.ClientCameBefore(ctx, sqlc.ClientCameBeforeParams{Mail: b.ClientMail, Before: b.ID, WorkspaceID: workspace})
	if err != nil {
		return words.Meeting{}, err
	}
	host, err := q.Person(ctx, b.HostID)
	if err != nil {
		return words.Meeting{}, err
	}
	texts, err := textsOf(ctx, q, b.ID)
	if err != nil {
		return words.Meeting{}, err
	}
	left, err := q.LeftFollowUps(ctx, sqlc.LeftFollowUpsParams{WorkspaceID: workspace, Mail: b.ClientMail})
	if err != nil {
		return words.Meeting{}, err
	}
	hosts, err := civil.LoadZone(host.Zone)
	if err != nil {
		return words.Meeting{}, err
	}
	m := words.Meeting{Span: schedule.MeetingSpan(b), Since: span.Instant(settled), State: life.State(b.Life), Confirmed: confirmed(b), First: !before, Guests: len(formOf(b).Guests) > 0, Answers: answersOf(b), Left: left, Texts: texts != nil && !texts.Stopped, Way: wayNamed(formOf(b).Way.Kind), Language: words.In(b.Language).Language, ClientZone: hosts, HostZone: hosts}
	if zone, err := civil.LoadZone(b.ClientZone); err == nil {
		m.ClientZone = zone
	}
	return m, nil
}
