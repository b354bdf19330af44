package app

import (
	"bytes"
	"cmp"
	"fmt"
	"html/template"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/life"
)

// A letter is what a mail says, written once and sent as text and as HTML.
type letter struct {
	subject string
	Opening string
	Facts   [][2]string // a word for it, and what it is
	Actions []action
	Closing string
}

type action struct{ Label, URL string }

var letterHTML = template.Must(template.New("letter").Parse(`<!doctype html>
<html lang="en"><body style="margin:0;background:#f5f6f2;color:#17211f;font:15px/1.5 'IBM Plex Sans',Helvetica,Arial,sans-serif">
<div style="max-width:560px;margin:0 auto;padding:28px 20px">
<p style="font:500 19px/1.35 Newsreader,Georgia,serif;margin:0 0 18px">{{.Opening}}</p>
<table role="presentation" style="border-collapse:collapse;width:100%">
{{range .Facts}}<tr><td style="padding:7px 14px 7px 0;border-top:1px solid #d9ddd5;color:#4a5753;vertical-align:top;white-space:nowrap">{{index . 0}}</td><td style="padding:7px 0;border-top:1px solid #d9ddd5;white-space:pre-line">{{index . 1}}</td></tr>
{{end}}</table>
{{range .Actions}}<p style="margin:16px 0 0"><a href="{{.URL}}" style="color:#0b5a5e">{{.Label}}</a></p>
{{end}}{{if .Closing}}<p style="margin:20px 0 0;color:#4a5753">{{.Closing}}</p>{{end}}
</div></body></html>
`))

// mail is the letter without sender, receiver and invitation.
func (l letter) mail() Mail {
	var html bytes.Buffer
	_ = letterHTML.Execute(&html, l) // writes to memory, and the template is fixed
	return Mail{Subject: l.subject, Text: l.text(), HTML: html.String()}
}

func (l letter) text() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s\n\n%s", l.Opening, factLines(l.Facts))
	for _, a := range l.Actions {
		fmt.Fprintf(&b, "\n%s:\n%s\n", a.Label, a.URL)
	}
	if l.Closing != "" {
		fmt.Fprintf(&b, "\n%s\n", l.Closing)
	}
	return b.String()
}

func factLines(facts [][2]string) string {
	var b strings.Builder
	for _, f := range facts {
		fmt.Fprintf(&b, "%s: %s\n", f[0], f[1])
	}
	return b.String()
}

// when is the meeting's time on the clock of a zone: "Thursday 3 December 2026, 10:15 to 10:45 (Halifax, UTC−4)".
func (f facts) when(zone *time.Location) string {
	from, to := time.Unix(f.booking.StartAt, 0).In(zone), time.Unix(f.booking.EndAt, 0).In(zone)
	begins, ends := from.Format(f.clock()), to.Format(f.clock())
	if offsetOf(from) != offsetOf(to) { // the clock is changed meanwhile, and might seem to run backwards
		begins, ends = begins+" ("+offsetOf(from)+")", ends+" ("+offsetOf(to)+")"
	}
	when := fmt.Sprintf("%s, %s to %s", from.Format("Monday 2 January 2006"), begins, ends)
	if f.host.home.Zones == zonesHidden {
		return when
	}
	return fmt.Sprintf("%s (%s, %s)", when, civil.TownOf(zone.String()), offsetOf(from))
}

func (f facts) clock() string { return f.host.home.Front.clock() }

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
		return f.host.zone
	}
	return zone
}

// times says when, on the reader's clock and, where it differs, on the other's.
func (f facts) times(reader, other *time.Location, whose string) [][2]string {
	out := [][2]string{{"When", f.when(reader)}}
	if f.host.home.Zones != zonesHidden && !sameClock(f.booking.StartAt, reader, other) {
		out = append(out, [2]string{whose, f.when(other)})
	}
	return out
}

func sameClock(at int64, a, b *time.Location) bool {
	_, one := time.Unix(at, 0).In(a).Zone()
	_, two := time.Unix(at, 0).In(b).Zone()
	return one == two
}

func (f facts) clientFacts() [][2]string {
	out := f.sharedFacts()
	if f.booking.Remark != "" {
		out = append(out, [2]string{"Your remark", f.booking.Remark})
	}
	return append(out, f.saidFacts()...)
}

func (f facts) sharedFacts() [][2]string { return append(f.heading(), f.meetingPlace(false)...) }

// heading says what, when and with whom.
func (f facts) heading() [][2]string {
	out := append([][2]string{{"What", f.booking.TypeName}}, f.times(f.clientZone(), f.host.zone, "On "+f.host.Name+"'s clock")...)
	return append(out, [2]string{"With", f.with() + ", " + f.workspace})
}

// guestFacts is what guests may know: the client's phone number is not among it, and what the client wrote only if somebody
// knows them (see clientKnown).
func (f facts) guestFacts(known bool) [][2]string {
	out := f.heading()
	if way := formOf(f.booking).way; way.Kind == wayPhone || way.Kind == wayTheirs {
		if place := way.guestsPlace(known); place != "" {
			return append(out, [2]string{"Where", place})
		}
		return append(out, [2]string{"Where", "Ask " + f.booking.ClientMail + ", who brings you."})
	}
	return append(out, f.meetingPlace(false)...)
}

// clientText is the text of the client's calendar entry.
func (f facts) clientText() string {
	if f.booking.State == "cancelled" {
		return factLines(f.clientFacts())
	}
	return factLines(f.clientFacts()) + "\nMove or cancel: " + f.link + "\n"
}

func (f facts) hostFacts() [][2]string {
	b := f.booking
	out := append([][2]string{{"What", b.TypeName}}, f.times(f.host.zone, f.clientZone(), "On the client's clock")...)
	out = append(out, [2]string{"Client", b.ClientName + " <" + b.ClientMail + ">"})
	if others := f.besides(); others != "" {
		out = append(out, [2]string{"Together with", others})
	}
	if b.Remark != "" {
		out = append(out, [2]string{"Remark", b.Remark})
	}
	out = append(out, f.meetingPlace(true)...)
	out = append(out, f.saidFacts()...)
	if guests := formOf(b).guests; len(guests) > 0 {
		out = append(out, [2]string{"Guests", strings.Join(guests, ", ")})
	}
	return out
}

// meetingPlace is where one meets; by video only as long as it stands.
func (f facts) meetingPlace(forHost bool) [][2]string {
	if room := joinURL(f.booking); room != "" && f.booking.State == "booked" {
		out := [][2]string{{"Video room", room}}
		if code := roomOf(f.booking).Passcode; code != "" {
			out = append(out, [2]string{"Passcode", code})
		}
		if formOf(f.booking).way.Room.RecordingNotice {
			out = append(out, [2]string{"Please note", "The meeting is recorded."})
		}
		return out
	}
	if word, text := formOf(f.booking).way.where(forHost); text != "" {
		return [][2]string{{word, text}}
	}
	return nil
}

func (f facts) saidFacts() (out [][2]string) {
	for _, answer := range formOf(f.booking).said {
		out = append(out, [2]string{answer.Label, answer.Text()})
	}
	return out
}

// hostText is the text of the entry in the host's calendar.
func (f facts) hostText() string { return factLines(f.hostFacts()) }

func (f facts) clientLetter(s step) letter {
	name := f.booking.TypeName
	l := letter{Facts: f.clientFacts(), Actions: []action{{"Move or cancel", f.link}}}
	byHost := s.by == "host"
	who := f.whose(s)
	switch s.kind {
	case "moved":
		l.subject, l.Opening = "Moved: "+name+" with "+f.with(), "Your meeting has a new time."
		if byHost {
			l.Opening = who + " had to move your meeting. If the new time doesn't suit you, choose another one."
		}
		if l.Closing = "The invitation in this mail replaces the earlier one in your calendar."; f.booking.Invited == 0 {
			l.Closing = "It still has to be approved."
		}
	case "cancelled":
		l.subject, l.Opening = "Cancelled: "+name+" with "+f.with(), "Your meeting is cancelled."
		if byHost {
			l.Opening = who + " had to cancel your meeting."
		}
		l.Actions = []action{{"Book another time", f.link}}
		if f.booking.Invited == 1 {
			l.Closing = "This mail also takes the meeting out of your calendar."
		}
	case stepHanded:
		l.subject, l.Opening = "Now with "+f.host.Name+": "+name, f.names[s.to]+" takes your meeting instead of "+f.names[s.from]+"."
		l.Closing = "The invitation in this mail replaces the earlier one in your calendar. If this doesn't suit you, choose another time."
	case stepRoom:
		l.subject, l.Opening = "Video room ready: "+name+" with "+f.with(), "The video room of your meeting is ready; its link is below."
		l.Closing = "The invitation in this mail replaces the earlier one in your calendar."
	case string(life.Correct):
		l.subject, l.Opening = "Corrected: "+name+" with "+f.with(), "You have corrected what you wrote with your meeting. "+f.host.Name+" is told."
		if f.booking.Invited == 1 {
			l.Closing = "The invitation in this mail replaces the earlier one in your calendar."
		}
	case stepAsked:
		l.subject, l.Opening = "Please choose another time: "+name+" with "+f.with(), who+" asks you to choose another time for your meeting."
		l.Actions, l.Closing = []action{{"Choose another time", f.link}}, "Until you have chosen, the time above stays yours."
	case string(life.Approve), string(life.Take), string(life.Book):
		l.subject, l.Opening = name+" with "+f.with(), "Your meeting is booked."
		l.Closing = strings.TrimSpace("The invitation for your calendar is in this mail. Answers to it reach " + f.host.Name + ".\n\n" + f.after)
	default:
		f.beforeBooked(s, &l)
	}
	if byHost && s.note != "" {
		l.Facts = append(l.Facts, [2]string{who + " writes", s.note})
	}
	return l
}

// whose is whoever of the workspace took a step, for the client to read: its host, unless somebody looked after them.
func (f facts) whose(s step) string { return cmp.Or(f.names[s.person], f.host.Name) }

// beforeBooked says what became of a booking that is not booked.
func (f facts) beforeBooked(s step, l *letter) {
	name := f.booking.TypeName
	lapses := time.Unix(f.booking.LapsesAt, 0).In(f.clientZone()).Format("Monday 2 January, " + f.clock())
	switch life.Event(s.kind) {
	case life.Hold:
		l.subject, l.Opening = "Your code is "+f.code, "Your code is "+f.code+". Enter it on the page, and your meeting is booked."
		l.Actions, l.Closing = []action{{"Enter it here", f.link}}, "The time is kept for you until "+lapses+". If you didn't ask for it, do nothing, and nothing is booked."
	case life.Request:
		l.subject, l.Opening = "Requested: "+name+" with "+f.with(), "Your request has arrived. "+f.host.Name+" decides about it soon."
		l.Actions, l.Closing = []action{{"See or withdraw it", f.link}}, "The time is kept for you until "+lapses+". The invitation comes once it is approved."
	case life.Propose:
		l.subject, l.Opening = "Other times for "+name+" with "+f.with(), f.whose(s)+" proposes other times for your meeting."
		for _, start := range proposals(f.booking) {
			l.Facts = append(l.Facts, [2]string{"Proposed", start.In(f.clientZone()).Format("Monday 2 January 2006, " + f.clock())})
		}
		l.Actions, l.Closing = []action{{"Take one of them", f.link}}, "Until then the time that you asked for stays kept."
	case life.Decline:
		l.subject, l.Opening = "Declined: "+name+" with "+f.with(), f.whose(s)+" can't take your meeting."
		l.Actions = []action{{"Ask for another time", f.link}}
	case life.Lapse:
		l.subject, l.Opening = "Not decided: "+name+" with "+f.with(), "Nobody decided about your request in time, so the hold on its time expired. We are sorry."
		l.Actions = []action{{"Ask for another time", f.link}}
	}
}

func (f facts) hostLetter(s step) letter {
	who := f.booking.ClientName
	l := letter{Facts: f.hostFacts(), Actions: []action{{"See your day", f.baseURL + "/"}}}
	by, did := "by the client", who
	if s.by == "host" {
		by, did = "by "+f.doer(s), f.doer(s)
	}
	if did == "you" {
		did = "You"
	}
	switch s.kind {
	case "moved":
		l.subject, l.Opening = "Moved "+by+": "+f.booking.TypeName+", "+who, did+" moved a meeting with "+f.other(s, who)+"."
	case "cancelled":
		l.subject, l.Opening = "Cancelled "+by+": "+f.booking.TypeName+", "+who, did+" cancelled a meeting with "+f.other(s, who)+"."
		if s.note != "" {
			l.Facts = append(l.Facts, [2]string{"Reason", s.note})
		}
	case stepHanded:
		switch f.host.ID {
		case s.to:
			l.subject, l.Opening = "Now yours: "+f.booking.TypeName+", "+who, did+" handed a meeting with "+who+" over to you."
		case s.from:
			l.subject, l.Opening = "Handed over: "+f.booking.TypeName+", "+who, did+" handed your meeting with "+who+" over to "+f.names[s.to]+"."
		default: // who takes part and stays
			l.subject, l.Opening = "Now with "+f.names[s.to]+": "+f.booking.TypeName+", "+who, f.names[s.to]+" takes part in your meeting with "+who+" instead of "+f.names[s.from]+"."
		}
	case stepRoom:
		l.subject, l.Opening = "Video room ready: "+f.booking.TypeName+", "+who, "The video room of your meeting with "+who+" is ready."
	case string(life.Correct):
		l.subject, l.Opening = "Corrected by the client: "+f.booking.TypeName+", "+who, who+" corrected what they wrote with the meeting."
		l.Facts = append(l.Facts, [2]string{"Corrected", s.note})
	case string(life.Request):
		l.subject, l.Opening = "Request: "+f.booking.TypeName+", "+who, who+" asks for a meeting with you."
		l.Actions = []action{{"Approve or decline it", f.baseURL + "/"}}
		l.Closing = "The time is kept until " + time.Unix(f.booking.LapsesAt, 0).In(f.host.zone).Format("Monday 2 January, "+f.clock()) + "."
	case string(life.Lapse):
		l.subject, l.Opening = "Not decided: "+f.booking.TypeName+", "+who, "Nobody decided about the request of "+who+" in time, so the hold on its time expired."
	case string(life.Approve):
		l.subject, l.Opening = "Approved: "+f.booking.TypeName+", "+who, did+" approved the meeting with "+who+"."
	case string(life.Take):
		l.subject, l.Opening = "Booked: "+f.booking.TypeName+", "+who, who+" took one of the times that were proposed."
	default:
		l.subject, l.Opening = "Booked: "+f.booking.TypeName+", "+who, who+" booked a meeting with you."
		if s.by == "host" {
			l.Opening = did + " booked a meeting with " + who + "."
		}
	}
	return l
}

// doer is whoever of the house took a step, for the host to read.
func (f facts) doer(s step) string {
	if name := f.names[s.person]; name != "" && s.person != f.host.ID {
		return name
	}
	return "you"
}

// other is whom the meeting was with, for the host to read.
func (f facts) other(s step, client string) string {
	if s.by == "host" {
		return client
	}
	return "you"
}
