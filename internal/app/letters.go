package app

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/invite"
	"corrim/core/life"
	words "corrim/core/message"
	"corrim/internal/letter"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
)

// mailOf is a letter without sender and receiver.
func mailOf(l letter.Letter) Mail { return Mail{Subject: l.Subject, Text: l.Text(), HTML: l.HTML()} }

// forClient is the facts in the language in which the client booked, with the room if they may know it.
func (f facts) forClient() facts {
	f.w, f.room = words.In(f.booking.Language), admitted(f.booking)
	return f
}

// forHost is the facts for one of the hosts, in theirs.
func (f facts) forHost(host schedule.Person) facts {
	f.host, f.w, f.room = host, words.In(host.Language), roomOf(f.booking)
	return f
}

// when is the meeting's time on the clock of a zone: "Thursday 3 December 2026, 10:15 to 10:45 (Halifax, UTC−4)".
func (f facts) when(zone *time.Location) string {
	from, to := time.Unix(f.booking.StartAt, 0).In(zone), time.Unix(f.booking.EndAt, 0).In(zone)
	begins, ends := from.Format(f.clock()), to.Format(f.clock())
	if offsetOf(from) != offsetOf(to) { // the clock is changed meanwhile, and might seem to run backwards
		begins, ends = begins+" ("+offsetOf(from)+")", ends+" ("+offsetOf(to)+")"
	}
	when := f.w.Span(from, begins, ends)
	if f.host.Home.Zones == settings.ZonesHidden {
		return when
	}
	return fmt.Sprintf("%s (%s, %s)", when, civil.TownOf(zone.String(), f.w.Language), offsetOf(from))
}

func (f facts) clock() string { return f.host.Home.Front.Clock() }

func offsetOf(t time.Time) string {
	_, seconds := t.Zone()
	sign := "+"
	if seconds < 0 {
		sign, seconds = "−", -seconds
	}
	switch {
	case seconds == 0:
		return "UTC"
	case seconds%3600 == 0:
		return fmt.Sprintf("UTC%s%d", sign, seconds/3600)
	}
	return fmt.Sprintf("UTC%s%d:%02d", sign, seconds/3600, seconds/60%60)
}

// clientZone is the zone the client booked in; it was checked then.
func (f facts) clientZone() *time.Location {
	zone, err := civil.LoadZone(f.booking.ClientZone)
	if err != nil {
		return f.host.Local
	}
	return zone
}

// fact is what is told under a word of the reader's language.
func (f facts) fact(word, text string) letter.Fact { return letter.Fact{f.w.Fact(word), text} }

// times says when, on the reader's clock and, where it differs, on the other's.
func (f facts) times(reader, other *time.Location, whose string) []letter.Fact {
	out := []letter.Fact{f.fact("when", f.when(reader))}
	if f.host.Home.Zones != settings.ZonesHidden && !sameClock(f.booking.StartAt, reader, other) {
		out = append(out, letter.Fact{whose, f.when(other)})
	}
	return out
}

func sameClock(at int64, a, b *time.Location) bool {
	_, one := time.Unix(at, 0).In(a).Zone()
	_, two := time.Unix(at, 0).In(b).Zone()
	return one == two
}

func (f facts) clientFacts() []letter.Fact {
	out := append(f.heading(), f.meetingPlace(false)...)
	out = append(out, f.partyFacts()...)
	if f.booking.Remark != "" {
		out = append(out, f.fact("your-remark", f.booking.Remark))
	}
	return append(out, f.saidFacts()...)
}

// policyFacts is the workspace's policy in its own words, as long as there is something to cancel.
func (f facts) policyFacts() []letter.Fact {
	policy := f.host.Home.Front.Cancellation
	if policy == "" || f.booking.State != "booked" {
		return nil
	}
	return []letter.Fact{f.fact("policy", policy)}
}

// heading says what, when and with whom.
func (f facts) heading() []letter.Fact {
	out := append([]letter.Fact{f.fact("what", f.booking.TypeName)}, f.times(f.clientZone(), f.host.Local, f.w.Say("facts.on-clock-of", words.With{"name": f.host.Name}))...)
	return append(append(out, f.fact("with", f.with()+", "+f.workspace)), f.aboutFacts()...)
}

// partyFacts says who comes along; of a seat that somebody else took, whose it is, and who that was.
func (f facts) partyFacts() []letter.Fact {
	if len(f.party) == 0 {
		return nil
	}
	first := f.party[0]
	if first.ID != f.booking.ID {
		return []letter.Fact{f.fact("for", f.booking.ClientName), f.fact("booked-by", first.ClientName)}
	}
	along := slices.DeleteFunc(slices.Clone(f.party[1:]), func(s sqlc.Booking) bool { return s.State != f.booking.State })
	if len(along) == 0 {
		return nil
	}
	return []letter.Fact{f.fact("along", namesOfSeats(along))}
}

// guestFacts is what guests may know: the client's phone number is not among it, and what the client wrote only if somebody
// knows them (see clientKnown).
func (f facts) guestFacts(known bool) []letter.Fact {
	out := f.heading()
	if way := formOf(f.booking).Way; way.Kind == schedule.WayPhone || way.Kind == schedule.WayTheirs {
		if place := way.GuestsPlace(known); place != "" {
			return append(out, f.fact("where", place))
		}
		return append(out, f.fact("where", f.w.Say("facts.ask-client", words.With{"mail": f.booking.ClientMail})))
	}
	return append(out, f.meetingPlace(false)...)
}

// clientText is the text of the client's calendar entry.
func (f facts) clientText() string {
	if f.booking.State == "cancelled" {
		return letter.Lines(f.clientFacts())
	}
	return letter.Lines(f.clientFacts()) + "\n" + f.w.Say("entry.change", words.With{"link": f.link}) + "\n"
}

func (f facts) hostFacts() []letter.Fact {
	b := f.booking
	out := append([]letter.Fact{f.fact("what", b.TypeName)}, f.times(f.host.Local, f.clientZone(), f.w.Fact("on-clients-clock"))...)
	if b.Session == 0 {
		out = append(out, f.fact("client", b.ClientName+" <"+b.ClientMail+">"))
	}
	if others := f.besides(); others != "" {
		out = append(out, f.fact("together", others))
	}
	out = append(out, f.partyFacts()...)
	if b.Remark != "" {
		out = append(out, f.fact("remark", b.Remark))
	}
	out = append(append(out, f.aboutFacts()...), f.meetingPlace(true)...)
	out = append(out, f.saidFacts()...)
	if guests := formOf(b).Guests; len(guests) > 0 {
		out = append(out, f.fact("guests", strings.Join(guests, ", ")))
	}
	return out
}

// meetingPlace is where one meets; by video only as long as it stands.
func (f facts) meetingPlace(forHost bool) []letter.Fact {
	if f.room.URL != "" && f.booking.State == "booked" {
		out := []letter.Fact{f.fact("room", f.room.URL)}
		if code := f.room.Passcode; code != "" {
			out = append(out, f.fact("passcode", code))
		}
		if formOf(f.booking).Way.Room.RecordingNotice {
			out = append(out, f.fact("note", f.w.Fact("recorded")))
		}
		return out
	}
	if word, text := formOf(f.booking).Way.Where(f.w, forHost); text != "" {
		return []letter.Fact{{word, text}}
	}
	return nil
}

func (f facts) saidFacts() (out []letter.Fact) {
	for _, answer := range formOf(f.booking).Said {
		out = append(out, letter.Fact{answer.Label, answer.Text()})
	}
	return out
}

// hostText is the text of the entry in the host's calendar.
func (f facts) hostText() string { return letter.Lines(f.hostFacts()) }

// clientEntry is the meeting as it stands in the client's calendar, and hostEntry in a host's.
func (f facts) clientEntry() invite.Meeting {
	m := f.entry(words.EntryClient, f.clientZone(), f.link, f.clientText())
	m.Host.Mail = cmp.Or(f.organizers[backOfClient], m.Host.Mail)
	return m
}

func (f facts) hostEntry() invite.Meeting {
	var m invite.Meeting
	if schedule.Shared(f.booking) {
		m = f.meeting(letter.Lines(f.sharedFacts()))
		m.Title = f.w.Say("entry.shared", words.With{"type": f.booking.TypeName, "taken": f.booking.Taken, "seats": f.booking.Capacity})
	} else {
		m = f.entry(words.EntryHosts, f.host.Local, f.baseURL+"/", f.hostText())
	}
	m.UID, m.Standing = f.booking.MeetingUid, life.Confirmed
	if f.booking.MeetingState == "cancelled" {
		m.Standing = life.Withdrawn
	}
	return m
}

// sharedFacts is what a host reads of a meeting that clients share: who comes, and what each of them wrote.
func (f facts) sharedFacts() []letter.Fact {
	out := append([]letter.Fact{f.fact("what", f.booking.TypeName)}, f.times(f.host.Local, f.host.Local, "")...)
	for _, client := range f.clients {
		out = append(out, f.fact("client", client.ClientName+" <"+client.ClientMail+">"))
		if client.Remark != "" {
			out = append(out, f.fact("remark", client.Remark))
		}
		for _, answer := range formOf(client).Said {
			out = append(out, letter.Fact{answer.Label, answer.Text()})
		}
	}
	return append(append(out, f.aboutFacts()...), f.meetingPlace(true)...)
}

// entry is the meeting with a title and text of its own, if there are some.
func (f facts) entry(kind words.Kind, zone *time.Location, link, text string) invite.Meeting {
	m := f.meeting(text)
	if own, has := f.own.wordsOf(kind, 0)[f.w.Language]; has {
		said := own.Write(onlyKnown(kind, f.all(kind, zone, nil, link)))
		m.Title, m.Text = said.Subject, strings.TrimSpace(said.Opening+"\n\n"+text)+"\n"
	}
	return m
}

// occasion is a step of the booking, with what decides who is told of it.
func (f facts) occasion(event string) words.Occasion {
	form := formOf(f.booking)
	return words.Occasion{Event: life.Event(event), Invited: f.booking.Invited == 1, Guests: len(form.Guests) > 0, Place: form.Way.Kind == schedule.WayTheirs, Waits: onList(f.booking), Session: f.booking.Session == 1}
}

// clientLetter is what the client is told of a step; several bookings of one series are told of together.
func (f facts) clientLetter(s step, others []facts) letter.Letter {
	kind, _ := words.For(f.occasion(s.kind), words.Client)
	byHost := s.by == string(life.Host)
	with := words.With{
		"who": f.whose(s), "byHost": byHost, "invited": f.booking.Invited == 1,
		"to": f.names[s.to], "from": f.names[s.from], "code": f.code, "until": f.until(f.clientZone()), "shared": f.booking.SharedTime == 1, "dates": manyDates(others), "moved": s.moved,
	}
	if life.Event(s.kind) == life.Give {
		with["to"] = s.note
	}
	l := f.write(kind, f.clientZone(), with, f.link, f.clientFacts())
	if life.Event(s.kind) == life.Propose {
		for _, start := range proposals(f.booking) {
			l.Facts = append(l.Facts, f.fact("proposed", f.w.Moment(start.In(f.clientZone()), f.clock())))
		}
	}
	if byHost && s.note != "" {
		l.Facts = append(l.Facts, letter.Fact{f.w.Say("facts.writes", words.With{"name": f.whose(s)}), s.note})
	}
	if kind == "client-booked" {
		l.Closing = strings.TrimSpace(l.Closing + "\n\n" + f.after)
	}
	l.Facts = append(l.Facts, f.policyFacts()...)
	return f.withDates(l, others, kind, with)
}

// until is when what is held lapses, on the clock of a zone.
func (f facts) until(zone *time.Location) string {
	return f.w.DayAndClock(time.Unix(f.booking.LapsesAt, 0).In(zone), f.clock())
}

// whose is whoever of the workspace took a step, for the client to read: its host, unless somebody looked after them.
func (f facts) whose(s step) string { return cmp.Or(f.names[s.person], f.host.Name) }

// hostLetter is what a host is told of a step.
func (f facts) hostLetter(s step, others []facts) letter.Letter {
	kind, _ := words.For(f.occasion(s.kind), words.Hosts)
	byHost := s.by == string(life.Host)
	with := words.With{
		"byClient": !byHost, "to": f.names[s.to], "from": f.names[s.from], "until": f.until(f.host.Local), "shared": f.booking.SharedTime == 1,
		"getsIt": f.host.ID == s.to, "gaveIt": f.host.ID == s.from, "stays": f.host.ID != s.to && f.host.ID != s.from, "dates": manyDates(others), "moved": s.moved,
	}
	if f.booking.Session == 1 {
		with["set"], with["moved"], with["handed"], with["off"] = s.kind == string(life.Schedule), s.kind == string(life.Move), s.kind == string(life.Reassign), s.kind == string(life.Cancel)
		with["day"] = f.w.Day(time.Unix(f.booking.StartAt, 0).In(f.host.Local))
	}
	switch life.Event(s.kind) {
	case life.Give:
		with["to"] = s.note
	case life.Doubt:
		with["count"] = s.note
	}
	if byHost {
		colleague := f.colleague(s)
		with["bySelf"], with["colleague"] = colleague == "", colleague
	}
	l := f.write(kind, f.host.Local, with, f.baseURL+"/", f.hostFacts())
	switch {
	case life.Event(s.kind) == life.Cancel && s.note != "":
		l.Facts = append(l.Facts, f.fact("reason", s.note))
	case life.Event(s.kind) == life.Correct:
		l.Facts = append(l.Facts, f.fact("corrected", s.note))
	}
	for _, other := range others {
		other = other.forHost(f.host)
		l.Facts = append(l.Facts, f.fact("and-when", other.when(f.host.Local)))
		l.Facts = append(l.Facts, other.meetingPlace(true)...)
	}
	return l
}

// colleague is whoever else of the house took a step than the host who reads; empty if it was them.
func (f facts) colleague(s step) string {
	if s.person == f.host.ID {
		return ""
	}
	return f.names[s.person]
}

// guestLetter is what somebody is told whom the client brings; by is how the client is named.
func (f facts) guestLetter(kind words.Kind, by string, known bool) letter.Letter {
	return f.write(kind, f.clientZone(), words.With{"by": by}, "", f.guestFacts(known))
}
