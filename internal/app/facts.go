package app

import (
	"context"
	"errors"
	"fmt"
	"time"

	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/span"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// TypeFacts is what matters about a type beside its settings.
type TypeFacts struct {
	ID int64 `json:"id"`
	Crew
	From string `json:"from" format:"date" doc:"Today, on the viewer's clock."`
	Open int    `json:"open" doc:"Open starts in the next 14 days, of its hosts as they are routed."`
	Days []int  `json:"days" doc:"Of those, how many are on each day of the viewer's, today first."`

	Next *time.Time `json:"next,omitempty" doc:"The first open start, however far ahead."`
	Mend *Mend      `json:"mend,omitempty" doc:"If nothing is open in the 14 days."`

	Coming    int64   `json:"coming" doc:"Bookings to come, of those that the viewer may see."`
	Ratings   Ratings `json:"ratings" doc:"How clients rated it, of the meetings that the viewer may see."`
	Requested int64   `json:"requested" doc:"Of the same, what waits for a host's answer."`
}

// Mend says why nothing is open, and leads to where something can be done about it.
type Mend struct {
	Sentence told.Words `json:"sentence"`
	Path     string     `json:"path"`
	Label    told.Words `json:"label"`
}

// mostFacts is of how many types the facts are told at once.
const mostFacts = 20

// TypeFacts tells of types who hosts them, and how much of each is really open. Those that the viewer may not see are left out.
func (a *App) TypeFacts(ctx context.Context, p Person, ids []int64) ([]TypeFacts, error) {
	if len(ids) > mostFacts {
		return nil, refusal.New(refusal.Invalid, told.Say("ask-facts-most", "Ask for the facts of at most {} meeting types at once.", mostFacts))
	}
	coming, err := a.comingByType(ctx, p, ids)
	if err != nil {
		return nil, err
	}
	rated, err := a.ratings(ctx, p, ids)
	if err != nil {
		return nil, err
	}
	known, out := a.shelf(p, a.fortnight(p)), []TypeFacts{}
	for _, id := range ids {
		kind, err := a.MeetingType(ctx, p, id)
		if errors.Is(err, errNotYourType) {
			continue
		}
		if err != nil {
			return nil, err
		}
		facts, err := a.typeFacts(ctx, p, known, kind)
		if err != nil {
			return nil, err
		}
		facts.Coming, facts.Requested, facts.Ratings = coming[id].Coming, coming[id].Requested, rated[id]
		out = append(out, facts)
	}
	return out, nil
}

// fortnight is the next 14 days of the person, today included.
func (a *App) fortnight(p Person) span.Span {
	today := a.todayOf(p)
	return span.Span{Start: today.Start(p.zone), End: today.AddDays(countDays).Start(p.zone)}
}

func (a *App) typeFacts(ctx context.Context, p Person, known shelf, kind MeetingType) (TypeFacts, error) {
	l, crew, err := a.crewFrom(ctx, a.Store.Queries, known, kind, 0)
	if err != nil {
		return TypeFacts{}, err
	}
	facts := TypeFacts{ID: kind.ID, Crew: crew, From: a.todayOf(p).String(), Days: make([]int, countDays)}
	starts := l.offers(known.within)
	facts.Open = len(starts)
	for i := range facts.Days {
		facts.Days[i] = countIn(starts, a.todayOf(p).AddDays(i).Span(p.zone))
	}
	if facts.Open > 0 {
		next := starts[0].At.Time()
		facts.Next = &next
		return facts, nil
	}
	mend := l.mend(p, kind.seenBy(p), known.within, a.todayOf(p).String())
	facts.Mend = &mend
	facts.Next, err = a.nextOfAll(ctx, p, kind, known.within.End)
	return facts, err
}

// nextOfAll is the first start after an instant that some client can get.
func (a *App) nextOfAll(ctx context.Context, p Person, kind MeetingType, after span.Instant) (*time.Time, error) {
	beyond := span.Span{Start: after, End: after.Add(longestLook)}
	l, _, err := a.crew(ctx, a.Store.Queries, p, kind, 0, beyond)
	if err != nil {
		return nil, err
	}
	starts := l.offers(beyond)
	if len(starts) == 0 {
		return nil, nil
	}
	next := starts[0].At.Time()
	return &next, nil
}

// comingByType counts the bookings to come of types that the viewer may see: everybody's, or those they host.
func (a *App) comingByType(ctx context.Context, p Person, ids []int64) (map[int64]sqlc.ComingOfTypesRow, error) {
	viewer := p.ID
	if p.May(identity.SeeEverybodys) {
		viewer = 0
	}
	rows, err := a.Store.ComingOfTypes(ctx, sqlc.ComingOfTypesParams{Now: a.Now().Unix(), Types: ids, Viewer: viewer})
	out := make(map[int64]sqlc.ComingOfTypesRow, len(rows))
	for _, row := range rows {
		out[row.TypeID] = row
	}
	return out, err
}

// setBy is the sentence of a type's rules in which a rule is set, and what changing it is called.
var setBy = map[opentimes.Rule]struct {
	sentence string
	label    told.Words
}{
	opentimes.WindowRule:  {"window", told.Say("mend-window", "Change the booking window")},
	opentimes.NoticeRule:  {"notice", told.Say("mend-notice", "Change the notice")},
	opentimes.LimitRule:   {"limit", told.Say("mend-limit", "Change the limits")},
	opentimes.StepRule:    {"step", told.Say("mend-step", "Change the start step")},
	opentimes.HolidayRule: {"holidays", told.Say("mend-holidays", "Change the public holidays")},
}

// mend says to a person why nothing of the lineup's type, as they see it, is open within a range that begins at their date, and where
// that is changed.
func (l lineup) mend(p Person, kind MeetingType, within span.Span, date string) Mend {
	path := fmt.Sprintf("/types/%d", kind.ID)
	if len(l.agendas) == 0 {
		return Mend{told.Say("nobody-hosts", "Nobody who takes bookings hosts it."), path + "/routing", told.Say("mend-hosts", "Choose who hosts it")}
	}
	rule := l.takesMost(within)
	m := Mend{l.whyEmpty(rule), path + "/why/" + date, told.Say("mend-see-why", "See why")}
	if rule == opentimes.SessionsRule {
		m.Path, m.Label = path+"/sessions", told.Say("mend-sessions", "Set sessions")
		if len(l.full(within)) > 0 {
			m.Sentence = told.Say("sessions-all-full", "All sessions in that time are full.")
		}
		return m
	}
	switch set, found := setBy[rule]; {
	case found && kind.Edits:
		m.Path, m.Label = path+"?rule="+set.sentence, set.label
	case rule != opentimes.HoursRule || kind.Rules.Hours != nil:
	case kind.Mine:
		m.Path, m.Label = "/hours", told.Say("mend-your-hours", "Change your hours")
	case len(l.agendas) == 1 && p.May(identity.LookAfterHours):
		m.Path, m.Label = fmt.Sprintf("/hours?for=%d", l.agendas[0].person.ID), told.Say("mend-their-hours", "Change their hours")
	}
	return m
}

// mendedBy tells whether a person can do something about it that nothing of the lineup's type is open: whoever may change the type can,
// and its hosts, where it comes from what is theirs.
func (l lineup) mendedBy(kind MeetingType, within span.Span) bool {
	if kind.Edits || len(l.agendas) == 0 {
		return kind.Edits
	}
	_, ofType := setBy[l.takesMost(within)]
	return kind.Mine && !ofType
}

// ofHosts is what of the hosts a rule is about that isn't set for a type.
var ofHosts = map[opentimes.Rule]told.Words{
	opentimes.HoursRule: told.Say("by-hours", "the hours"), opentimes.BusyRule: told.Say("by-events", "events in the calendars"), opentimes.BookingRule: told.Say("by-bookings", "other bookings"),
}

// whyEmpty says which rule leaves nothing open, and how it is set if it is a rule of the type.
func (l lineup) whyEmpty(rule opentimes.Rule) told.Words {
	theirs, ofHost := ofHosts[rule]
	switch {
	case rule == opentimes.SessionsRule:
		return told.Say("no-session-set", "No session is set in that time.")
	case !ofHost:
		return told.Say("blocked-by-rule", "Mostly blocked by {}: {}.", rule.InSentence(), rule.Note(l.agendas[0].input(l.o.ID, l.o.Rules).Type))
	case len(l.agendas) > 1 && l.o.pool.Way == routing.Together:
		return told.Say("never-all-open", "There is no time at which {} are all open; mostly blocked by {}.", told.List(l.names()), theirs)
	}
	return told.Say("blocked-by-theirs", "Mostly blocked by {} of {}.", theirs, told.List(l.names()))
}

// emptyTrouble says that a type has nothing open, and why.
func (l lineup) emptyTrouble(p Person, kind MeetingType, within span.Span, date string) Trouble {
	m := l.mend(p, kind, within, date)
	return Trouble{Title: told.Say("type-empty", "“{}” has nothing open in the next {} days", kind.Name, countDays), Sentence: m.Sentence, Path: m.Path, Label: m.Label}
}
