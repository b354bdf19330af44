package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"corrim/core/intake"
	words "corrim/core/message"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// messageRules is the messages of a workspace, or a type's own, as they are stored. Last is the highest number that a rule of the
// workspace or of its types ever had.
type messageRules struct {
	Last  int64                    `json:"last,omitempty"`
	Rules []messageRule            `json:"rules,omitempty"`
	Words map[words.Kind]words.Own `json:"words,omitempty"` // of what is told at once

	Quiet words.Quiet `json:"quiet,omitzero"` // the workspace's

	AlsoText []words.Kind `json:"alsoText,omitempty"` // of what is told at once, what goes by text message too

	// Of a type's: whether they are its own, or it went back to those of the workspace; and since when that is so.
	Own   bool  `json:"own,omitempty"`
	Since int64 `json:"since,omitempty"`
}

type messageRule struct {
	words.Rule
	Since int64 `json:"since"` // what was due before is none of its business
}

// MessageDraft is what somebody makes of the messages.
type MessageDraft struct {
	Rules []words.Rule             `json:"rules"`
	Quiet words.Quiet              `json:"quiet" doc:"Of a workspace: when no text messages go out."`
	Words map[words.Kind]words.Own `json:"words" doc:"Own words of what is told at once, by message and language."`

	AlsoText []words.Kind `json:"alsoText" doc:"What clients are told by text message too, as soon as a host has done it."`
}

func (m messageRules) rules() []words.Rule {
	out := make([]words.Rule, len(m.Rules))
	for i, r := range m.Rules {
		out[i] = r.Rule
	}
	return out
}

func (m messageRules) draft() MessageDraft {
	d := MessageDraft{m.rules(), m.Quiet, m.Words, m.AlsoText}
	if d.AlsoText == nil {
		d.AlsoText = []words.Kind{}
	}
	if d.Words == nil {
		d.Words = map[words.Kind]words.Own{}
	}
	return d
}

// with is the messages as somebody wants them now. A rule that sends at other times begins anew, but goes to nobody twice. Last is the
// highest number given so far.
func (m messageRules) with(d MessageDraft, last int64, now time.Time) messageRules {
	out := messageRules{Last: last, Words: d.Words, AlsoText: d.AlsoText, Quiet: d.Quiet, Own: m.Own, Since: m.Since}
	for _, r := range d.Rules {
		i := slices.IndexFunc(m.Rules, func(there messageRule) bool { return there.ID == r.ID && r.ID != 0 })
		if slices.ContainsFunc(out.Rules, func(earlier messageRule) bool { return earlier.ID == r.ID }) {
			i = -1 // a number is one message's
		}
		next := messageRule{r, now.Unix()}
		switch {
		case i < 0:
			out.Last++
			next.ID = out.Last
		case m.Rules[i].SendsAs(r):
			next.Since = m.Rules[i].Since
		}
		out.Rules = append(out.Rules, next)
	}
	return out
}

// wordsOf is a message's own words: those of a rule, or else of its kind.
func (m messageRules) wordsOf(kind words.Kind, rule int64) words.Own {
	i := slices.IndexFunc(m.Rules, func(r messageRule) bool { return r.ID == rule })
	if rule == 0 || i < 0 {
		return m.Words[kind]
	}
	return m.Rules[i].Words
}

// Messages is what a workspace or one of its types tells people, and what will be sent.
type Messages struct {
	MessageDraft
	Told   []words.Kind  `json:"told" doc:"The messages that are sent at once, in the order in which they come up; then entries in calendars."`
	In     []string      `json:"in" doc:"The languages in which there are words."`
	Own    bool          `json:"own" doc:"Of a type: are they its own? Otherwise they are those of the workspace."`
	Types  []TypeNamed   `json:"types" doc:"Of a workspace: the types that have their own."`
	Texts  bool          `json:"texts" doc:"Is there a gateway for text messages?"`
	Texted []words.Kind  `json:"texted" doc:"What can be told by text message at once."`
	Edits  bool          `json:"edits" doc:"May the viewer change them?"`
	Asks   []AskedInType `json:"asks" doc:"Of a type: the questions whose answers can decide about a message."`
	MessagesAhead
}

// AskedInType is a question of a type whose answer can decide about a message.
type AskedInType struct {
	ID      string   `json:"id"`
	Label   string   `json:"label"`
	Options []string `json:"options" doc:"If there are only so many answers."`
}

// deciding are the questions of a type whose answers can decide.
func (s messageScope) deciding() []AskedInType {
	out := []AskedInType{}
	for _, q := range s.questions {
		switch q.Kind {
		case intake.YesNo:
			out = append(out, AskedInType{q.ID, q.Label, []string{"yes", "no"}})
		case intake.One, intake.Several:
			out = append(out, AskedInType{q.ID, q.Label, q.Options})
		case intake.Short, intake.Number, intake.Date:
			out = append(out, AskedInType{q.ID, q.Label, []string{}})
		}
	}
	return out
}

// faultOfAnswers is what is wrong with conditions about answers, as the type asks.
func (s messageScope) faultOfAnswers(also []words.Condition) told.Words {
	for _, c := range also {
		if c.What != words.ByAnswer {
			continue
		}
		i := slices.IndexFunc(s.deciding(), func(q AskedInType) bool { return q.ID == c.Question })
		if i < 0 {
			return told.Say("condition-question", "One of its conditions is about a question that isn’t asked here. Remove it.")
		}
		if q := s.deciding()[i]; len(q.Options) > 0 && !slices.Contains(q.Options, c.Is) {
			return told.Say("condition-option", "“{}” can’t be answered with “{}”. Choose from the list.", q.Label, c.Is)
		}
	}
	return told.Words{}
}

// TypeNamed is a meeting type by its name.
type TypeNamed struct {
	ID   int64  `json:"id"`
	Name string `json:"name"`
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
	Kind     string    `json:"kind" enum:"client-reminder,client-thanks,client-missed,guest-reminder,host-reminder,office-note"`
	Receiver string    `json:"receiver" enum:"client,guests,hosts,address"`
	By       string    `json:"by" enum:"mail,text"`
	If       string    `json:"if" enum:",first,returning,attended,missed" doc:"What isn't known yet, and has to be so."`
	Change   string    `json:"change" enum:",added,taken"`
}

// Messages tells what a workspace's messages are, or those of one of its types; 0 is the workspace.
func (a *App) Messages(ctx context.Context, p schedule.Person, kind int64) (Messages, error) {
	s, err := a.messagesFor(ctx, p, kind, false)
	if err != nil {
		return Messages{}, err
	}
	ahead, err := a.ahead(ctx, p, s, s.now, s.now)
	if err != nil {
		return Messages{}, err
	}
	out := Messages{MessageDraft: s.now.draft(), Told: append(words.ToldAtOnce(), words.EntryClient, words.EntryHosts), In: words.Languages(), Own: s.now.Own, Texts: a.Texter != nil, Texted: words.TextedAtOnce(), Edits: s.edits, Asks: s.deciding(), MessagesAhead: ahead}
	out.Types, err = a.typesWithOwn(ctx, p, kind)
	return out, err
}

// TryMessages tells what other messages would send.
func (a *App) TryMessages(ctx context.Context, p schedule.Person, kind int64, d MessageDraft) (MessagesAhead, error) {
	s, err := a.messagesFor(ctx, p, kind, true)
	if err != nil {
		return MessagesAhead{}, err
	}
	wrong := d.faults(s)
	if len(wrong) > 0 {
		ahead, err := a.ahead(ctx, p, s, s.now, s.now)
		ahead.Wrong = wrong
		return ahead, err
	}
	return a.ahead(ctx, p, s, s.now, s.now.with(d, s.last, a.Now()))
}

// SaveMessages keeps messages. Saved for a type, they are its own from then on. The fields of a refusal are "rules.0", and
// "rules.0.words.de.subject" or "words.client-booked.de.subject".
func (a *App) SaveMessages(ctx context.Context, p schedule.Person, kind int64, d MessageDraft) (Messages, error) {
	s, err := a.messagesFor(ctx, p, kind, true)
	if err != nil {
		return Messages{}, err
	}
	if wrong := d.faults(s); len(wrong) > 0 {
		return Messages{}, wrong.Err()
	}
	label := told.Say("undo-messages", "Messages: {}", told.Count(len(d.Rules), "rule"))
	return a.changeMessages(ctx, p, kind, label, func(s messageScope) messageRules {
		next := s.now.with(d, s.last, a.Now())
		if kind != 0 && !next.Own {
			next.Own, next.Since = true, a.Now().Unix()
		}
		return next
	})
}

// FollowMessages gives a type the messages of its workspace again.
func (a *App) FollowMessages(ctx context.Context, p schedule.Person, kind int64) (Messages, error) {
	return a.changeMessages(ctx, p, kind, told.Say("undo-follow-messages", "Messages as in the workspace"), func(messageScope) messageRules {
		return messageRules{Since: a.Now().Unix()}
	})
}

func (a *App) changeMessages(ctx context.Context, p schedule.Person, kind int64, label told.Words, change func(messageScope) messageRules) (Messages, error) {
	s, err := a.messagesFor(ctx, p, kind, true)
	if err != nil {
		return Messages{}, err
	}
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		s, err := s.read(ctx, q)
		if err != nil {
			return err
		}
		if err := s.write(ctx, q, change(s)); err != nil {
			return err
		}
		if kind != 0 {
			return a.Remember(ctx, q, p, subjectTypeMessages, kind, label, s.stored)
		}
		return a.Remember(ctx, q, p, subjectMessages, p.Home.ID, label, s.stored)
	})
	if err != nil {
		return Messages{}, err
	}
	return a.Messages(ctx, p, kind)
}

// longestMessages is how long all of a workspace's or a type's messages may be as they are stored, in bytes.
const longestMessages = 200_000

func (d MessageDraft) faults(s messageScope) refusal.Complaints {
	wrong := refusal.Complaints{}
	for i, fault := range words.Faults(d.Rules) {
		wrong.Add(fmt.Sprintf("rules.%d", i), fault)
	}
	if len(d.Rules) > words.MostRules {
		wrong.Add("rules", told.Say("messages-most", "At most {} messages can be sent by the clock. Remove one first.", words.MostRules))
	}
	for i, r := range d.Rules {
		if fault := s.faultOfAnswers(r.Also); fault.Any() {
			wrong.Add(fmt.Sprintf("rules.%d", i), fault)
		}
		faultsOfWords(wrong, fmt.Sprintf("rules.%d.words", i), s.placeholders(r.Kind()), r.Words, faultsIn(r.Kind(), r.By))
	}
	for kind, own := range d.Words {
		faultsOfWords(wrong, "words."+string(kind), s.placeholders(kind), own, faultsIn(kind, words.ByMail))
	}
	if slices.ContainsFunc(d.AlsoText, func(kind words.Kind) bool { return !slices.Contains(words.TextedAtOnce(), kind) }) {
		wrong.Add("alsoText", told.Say("message-not-texted", "Only what hosts do can be told by text message at once: moved, cancelled, handed over."))
	}
	if fault := d.Quiet.Fault(); fault.Any() {
		wrong.Add("quiet", fault)
	}
	if text, err := json.Marshal(d); err != nil || len(text) > longestMessages {
		wrong.Add("words", told.Say("messages-too-long", "All messages together are too long. Shorten some of your own words."))
	}
	return wrong
}

func faultsOfWords(wrong refusal.Complaints, field string, known []words.Placeholder, own words.Own, faults faultFinder) {
	for tag, text := range own {
		if known == nil || !slices.Contains(words.Languages(), tag) {
			wrong.Add(field, told.Say("words-of-nothing", "There is no such message, or not in this language. Load the page again."))
			continue
		}
		for part, fault := range faults(text, known) {
			wrong.Add(field+"."+tag+"."+part, fault.Words)
		}
	}
}

// faultFinder finds what is wrong with own words.
type faultFinder func(words.Text, []words.Placeholder) map[string]words.Fault

// faultsIn finds it in what a message is: a mail, a text message, an entry in calendars.
func faultsIn(kind words.Kind, by string) faultFinder {
	switch {
	case kind.IsEntry():
		return words.Text.EntryFaults
	case by == words.ByText:
		return words.Text.TextFaults
	}
	return words.Text.Faults
}

// messageScope is whose messages are meant: a workspace's, or those of one of its types.
type messageScope struct {
	workspace, kind int64
	edits           bool
	stored          messageRules // as they stand there
	now             messageRules // as they hold: a type without its own has the workspace's
	last            int64        // the highest number of a rule in the workspace
	questions       []intake.Question
}

// placeholders are the names that a message's own words may use: also the answers to a type's questions.
func (s messageScope) placeholders(kind words.Kind) []words.Placeholder {
	known := words.Placeholders(kind)
	for _, q := range s.questions {
		known = append(known, words.Answers(kind, q.ID, q.Label)...)
	}
	return known
}

// messagesFor is the messages of the workspace, or of a type that the person may see; to be changed, if they may.
func (a *App) messagesFor(ctx context.Context, p schedule.Person, kind int64, toChange bool) (messageScope, error) {
	s := messageScope{workspace: p.Home.ID, kind: kind, edits: p.May(identity.EditWorkspace)}
	if kind != 0 {
		one, err := a.MeetingType(ctx, p, kind)
		if err != nil {
			return s, err
		}
		s.edits, s.questions = one.Edits, one.BookingPage.Questions
		if toChange && !one.Edits {
			return s, refusal.New(refusal.Forbidden, told.Say("type-messages-not-yours", "Only those who may change this meeting type can change its messages. Ask an owner or coordinator."))
		}
	} else if toChange {
		if err := p.Must(identity.EditWorkspace); err != nil {
			return s, err
		}
	}
	return s.read(ctx, a.Store.Queries)
}

func (s messageScope) read(ctx context.Context, q *sqlc.Queries) (messageScope, error) {
	ofHome, err := messagesOfWorkspace(ctx, q, s.workspace)
	s.stored, s.now, s.last = ofHome, ofHome, ofHome.Last
	if err != nil || s.kind == 0 {
		return s, err
	}
	if s.stored, err = messagesOfType(ctx, q, s.kind); s.stored.Own {
		s.now = s.stored
		s.now.Quiet = ofHome.Quiet
	}
	return s, err
}

// write stores messages. Numbers of rules are given once in a workspace and its types.
func (s messageScope) write(ctx context.Context, q *sqlc.Queries, m messageRules) error {
	if s.kind == 0 {
		return writeMessages(ctx, q, s.workspace, m)
	}
	ofHome, err := messagesOfWorkspace(ctx, q, s.workspace)
	if err != nil {
		return err
	}
	if m.Last > ofHome.Last {
		ofHome.Last = m.Last
		if err := writeMessages(ctx, q, s.workspace, ofHome); err != nil {
			return err
		}
	}
	m.Last, m.Quiet = 0, words.Quiet{} // both are the workspace's
	text, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return q.SetMessagesOfType(ctx, sqlc.SetMessagesOfTypeParams{ID: s.kind, Messages: string(text)})
}

func messagesOfWorkspace(ctx context.Context, q *sqlc.Queries, id int64) (m messageRules, err error) {
	row, err := q.WorkspaceByID(ctx, id)
	if err != nil {
		return m, err
	}
	return m, json.Unmarshal([]byte(row.Messages), &m)
}

func messagesOfType(ctx context.Context, q *sqlc.Queries, id int64) (messageRules, error) {
	text, err := q.MessagesOfType(ctx, id)
	if err != nil {
		return messageRules{}, err
	}
	return messagesIn(text)
}

// messagesIn reads those of a type; one that never had its own has none written down.
func messagesIn(text string) (m messageRules, err error) {
	if text == "" {
		return m, nil
	}
	return m, json.Unmarshal([]byte(text), &m)
}

// messagesHeld are the messages that hold for a type's bookings.
func messagesHeld(ctx context.Context, q *sqlc.Queries, workspace, kind int64) (messageRules, error) {
	own, err := messagesOfType(ctx, q, kind)
	if err != nil || own.Own {
		return own, err // quiet hours have done their part by now
	}
	return messagesOfWorkspace(ctx, q, workspace)
}

// typesWithOwn are the types that have messages of their own, of those that the person may see.
func (a *App) typesWithOwn(ctx context.Context, p schedule.Person, kind int64) ([]TypeNamed, error) {
	out := []TypeNamed{}
	if kind != 0 {
		return out, nil
	}
	rows, err := a.Store.TypesWithMessages(ctx, p.Home.ID)
	if err != nil {
		return out, err
	}
	for _, row := range rows {
		m, err := messagesIn(row.Messages)
		if err != nil {
			return out, err
		}
		if !m.Own {
			continue
		}
		one, err := a.MeetingType(ctx, p, row.ID)
		if errors.Is(err, settings.ErrNotYourType) {
			continue
		}
		if err != nil {
			return out, err
		}
		out = append(out, TypeNamed{one.ID, one.Name})
	}
	return out, nil
}

func writeMessages(ctx context.Context, q *sqlc.Queries, workspace int64, m messageRules) error {
	text, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return q.SetMessages(ctx, sqlc.SetMessagesParams{ID: workspace, Messages: string(text)})
}

// anew is messages as if they had just been made: what was due meanwhile isn't sent late.
func (m messageRules) anew(now time.Time) messageRules {
	m.Rules = slices.Clone(m.Rules)
	for i := range m.Rules {
		m.Rules[i].Since = now.Unix()
	}
	return m
}

// restoreMessages puts a workspace's messages back. Numbers given since stay given.
func (a *App) restoreMessages(ctx context.Context, q *sqlc.Queries, _ schedule.Person, workspace int64, before messageRules) error {
	now, err := messagesOfWorkspace(ctx, q, workspace)
	if err != nil {
		return err
	}
	before.Last = max(before.Last, now.Last)
	return writeMessages(ctx, q, workspace, before.anew(a.Now()))
}

// restoreTypeMessages puts a type's messages back, or lets it have those of its workspace again.
func (a *App) restoreTypeMessages(ctx context.Context, q *sqlc.Queries, p schedule.Person, kind int64, before messageRules) error {
	before = before.anew(a.Now())
	before.Since = a.Now().Unix()
	return messageScope{workspace: p.Home.ID, kind: kind}.write(ctx, q, before)
}
