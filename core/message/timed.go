package message

import (
	"cmp"
	"net/mail"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/life"
	"corrim/core/span"
	"corrim/core/told"
)

// Rule is a message that the clock brings about: so long before meetings start, or after they end.
type Rule struct {
	ID       int64       `json:"id" doc:"Stays; 0 for one that is new."`
	Receiver string      `json:"receiver" enum:"client,guests,hosts,address"`
	Address  string      `json:"address,omitempty" maxLength:"300" doc:"The mail address, if that is who gets it: an office, a reception."`
	By       string      `json:"by,omitempty" enum:",mail,text" doc:"Mail if left out. Text messages go only to clients who have agreed to them."`
	Minutes  int         `json:"minutes" doc:"Before the start or after the end, 1 to 43200."`
	Side     string      `json:"side" enum:"before,after"`
	At       string      `json:"at,omitempty" doc:"A time of day where the receiver is, 'HH:MM': then Minutes are whole days, or none for the same day."`
	If       string      `json:"if" enum:"always,unconfirmed,first,returning,attended,missed" doc:"Only clients who have not said that they come; who never were booked before, or were; who were marked as there, or as missing. After a meeting, always is unless they were marked as missing."`
	Asks     bool        `json:"asks,omitempty" doc:"It asks how the meeting was; only afterwards, and never of who was missing."`
	Also     []Condition `json:"also,omitempty" doc:"What has to be so too, all of it."`
	Words    Own         `json:"words,omitempty" doc:"Its own words."`
}

// What the fields of a Rule say.
const (
	ToClient  = "client"
	ToGuests  = "guests"
	ToHosts   = "hosts"
	ToAddress = "address"

	ByMail = "mail"
	ByText = "text"

	Before = "before"
	After  = "after"

	Always      = "always"
	Unconfirmed = "unconfirmed"
	First       = "first"
	Returning   = "returning"
	Attended    = "attended"
	Missed      = "missed"
)

// Messages that the clock brings about.
const (
	ClientReminder Kind = "client-reminder"
	ClientThanks   Kind = "client-thanks"
	ClientMissed   Kind = "client-missed"
	GuestReminder  Kind = "guest-reminder"
	HostReminder   Kind = "host-reminder"
	OfficeNote     Kind = "office-note"
)

const (
	minutesOfDay  = 24 * 60
	longestOffset = 30 * minutesOfDay
	clockLayout   = "15:04"
)

// MostRules is how many there may be.
const MostRules = 20

// Meeting is what counts of a booking for that.
type Meeting struct {
	Span      span.Span
	Since     span.Instant // when it was booked, or moved to this time
	State     life.State
	Confirmed bool                // the client has said that they come
	First     bool                // the client's first meeting here
	Guests    bool                // the client brings some
	Answers   map[string][]string // by question
	Way       string              // how one meets, as Ways lists it
	Language  string              // in which the client reads

	Left bool // the client wants nothing after meetings any more

	Texts bool  // the client has agreed to text messages, and not stopped them
	Quiet Quiet // when none go out

	ClientZone, HostZone *time.Location // where a time of day is that of the receiver
}

// Fault is what is wrong with a rule, if something is.
func (r Rule) Fault() told.Words {
	if fault := r.offsetFault(); fault.Any() {
		return fault
	}
	if fault := r.faultOfAlso(); fault.Any() {
		return fault
	}
	switch {
	case r.Side == Before && (r.If == Attended || r.If == Missed):
		return told.Say("message-marked-before", "Whether they were there isn't known before the meeting, so this would never be sent. Choose another condition, or send it afterwards.")
	case r.Side == After && r.If == Unconfirmed:
		return told.Say("message-unconfirmed-after", "Afterwards nobody says any more that they come. Choose whether they were there instead.")
	case r.By == ByText && r.Receiver != ToClient:
		return told.Say("message-text-others", "Text messages go to clients, who have agreed to them. Choose a mail for others.")
	case r.Receiver == ToAddress && !isAddress(r.Address):
		return told.Say("message-address", "Give the mail address that gets it, like office@example.org.")
	case r.Asks && (r.Side != After || r.If == Missed || r.Receiver != ToClient):
		return told.Say("message-asks", "How a meeting was can only be asked afterwards, of who was there.")
	case r.Side == After && (r.Receiver == ToHosts || r.Receiver == ToGuests):
		return told.Say("message-reminds-before", "Hosts and guests are only reminded before a meeting.")
	}
	return told.Words{}
}

func isAddress(text string) bool {
	address, err := mail.ParseAddress(text)
	return err == nil && address.Address == text
}

func (r Rule) offsetFault() told.Words {
	if r.At == "" && (r.Minutes < 1 || r.Minutes > longestOffset) {
		return told.Say("message-minutes", "A message goes out between a minute and 30 days before or after the meeting.")
	}
	if r.At == "" {
		return told.Words{}
	}
	if _, err := time.Parse(clockLayout, r.At); err != nil {
		return told.Say("message-clock", "Give the time of day as hours and minutes, like 09:00.")
	}
	if r.Minutes < 0 || r.Minutes > longestOffset || r.Minutes%minutesOfDay != 0 {
		return told.Say("message-days", "A message at a time of day goes out on the day of the meeting, or up to 30 days before or after it.")
	}
	return told.Words{}
}

// Faults is what is wrong with rules, by their places.
func Faults(rules []Rule) map[int]told.Words {
	faults := map[int]told.Words{}
	for i, r := range rules {
		if fault := r.Fault(); fault.Any() {
			faults[i] = fault
		} else if slices.ContainsFunc(rules[:i], r.SendsAs) {
			faults[i] = told.Say("message-twice", "This message is there already.")
		}
	}
	return faults
}

// SendsAs tells whether another rule sends the same at the same times, in whatever words.
func (r Rule) SendsAs(other Rule) bool {
	return r.Receiver == other.Receiver && strings.EqualFold(r.Address, other.Address) && (r.By == ByText) == (other.By == ByText) && r.Minutes == other.Minutes && r.At == other.At && r.Side == other.Side && r.If == other.If && slices.Equal(r.Also, other.Also)
}

// Kind is the message that a rule sends.
func (r Rule) Kind() Kind {
	switch {
	case r.Receiver == ToHosts:
		return HostReminder
	case r.Receiver == ToGuests:
		return GuestReminder
	case r.Receiver == ToAddress:
		return OfficeNote
	case r.Side == Before:
		return ClientReminder
	case r.If == Missed:
		return ClientMissed
	}
	return ClientThanks
}

// Due is when a rule's message about a meeting goes out. There is none if the moment lies before the meeting was booked or moved:
// its client has just been told then; or, at a time of day, if it isn't before the start or after the end any more.
func (r Rule) Due(m Meeting) (at span.Instant, some bool) {
	offset := time.Duration(r.Minutes) * time.Minute
	switch {
	case r.At != "":
		at = r.dueAtClock(m)
	case r.Side == After:
		at = m.Span.End.Add(offset)
	default:
		at = m.Span.Start.Add(-offset)
	}
	if r.By == ByText {
		at = m.Quiet.shift(at, r.Side, m)
	}
	if r.Side == After {
		return at, at > m.Since && at >= m.Span.End
	}
	return at, at > m.Since && at < m.Span.Start
}

// dueAtClock counts the days on the receiver's calendar. A time that a clock change leaves out is the one right after it.
func (r Rule) dueAtClock(m Meeting) span.Instant {
	zone := m.ClientZone
	if r.Receiver == ToHosts || r.Receiver == ToAddress {
		zone = m.HostZone
	}
	clock, err := time.Parse(clockLayout, r.At)
	if err != nil || zone == nil {
		return 0 // a rule with faults is never due
	}
	from, days := m.Span.Start, -r.Minutes/minutesOfDay
	if r.Side == After {
		from, days = m.Span.End, -days
	}
	date := civil.DateOf(from, zone).AddDays(days)
	return civil.Clock{Date: date, Seconds: clock.Hour()*3600 + clock.Minute()*60}.Instant(zone)
}

// DueWithin is when the meetings start, or end after the meeting, whose messages may be due within a range: the zones of the
// receivers and clock changes make it wider.
func (r Rule) DueWithin(due span.Span) span.Span {
	offset := time.Duration(r.Minutes) * time.Minute
	if r.Side == After {
		offset = -offset
	}
	within := span.Span{Start: due.Start.Add(offset), End: due.End.Add(offset)}
	if r.At != "" {
		within = within.Grow(widest, widest)
	}
	if r.By == ByText {
		within = within.Grow(widest, widest)
	}
	return within
}

// Holds tells whether a rule's message about a meeting is true as things stand.
func (r Rule) Holds(m Meeting) bool {
	if !r.reaches(m) {
		return false
	}
	standing := m.State == life.Booked || r.Side == After && m.State == life.Attended
	switch r.If {
	case Unconfirmed:
		return standing && !m.Confirmed
	case First:
		return standing && m.First
	case Returning:
		return standing && !m.First
	case Attended:
		return m.State == life.Attended
	case Missed:
		return m.State == life.NoShow
	}
	return standing
}

// FollowsUp tells whether it goes to the client after the meeting.
func (r Rule) FollowsUp() bool { return r.Receiver == ToClient && r.Side == After }

// reaches tells whether a rule is about a meeting at all: by what doesn't change as it comes nearer.
func (r Rule) reaches(m Meeting) bool {
	if r.By == ByText && !m.Texts || r.FollowsUp() && m.Left || r.Receiver == ToGuests && !m.Guests {
		return false
	}
	return !slices.ContainsFunc(r.Also, func(c Condition) bool { return !c.holds(m) })
}

// may tells whether it can still become true, by what a host may mark afterwards.
func (r Rule) may(m Meeting) bool {
	if m.State == life.Booked && (r.If == Attended || r.If == Missed) {
		return r.reaches(m)
	}
	return r.Holds(m)
}

// Longest is how long before or after a meeting the message goes out at most.
func (r Rule) Longest() time.Duration {
	longest := time.Duration(r.Minutes) * time.Minute
	if r.At != "" {
		longest += widest * time.Second
	}
	if r.By == ByText {
		longest += widest * time.Second
	}
	return longest
}

// widest is how far a time of day on a date is from the same number of days before or after a meeting, and quiet hours shift a message,
// in seconds: a day, and an hour for a clock change.
const widest = 25 * 3600

// Grace is how late a message may go out, if something held it up; afterwards it is no use any more.
func (r Rule) Grace() time.Duration {
	if r.Side == After {
		return 24 * time.Hour
	}
	if r.At != "" {
		return time.Hour
	}
	return min(time.Hour, time.Duration(r.Minutes)*time.Minute/2)
}

// Coming is a message that will go out.
type Coming struct {
	At      span.Instant
	Rule    int // its place
	Meeting int // its place
}

// Ahead is the messages of rules about meetings that will go out after now, as things stand, the first one first.
func Ahead(rules []Rule, meetings []Meeting, now span.Instant) []Coming {
	var out []Coming
	for i, r := range rules {
		for j, m := range meetings {
			if at, some := r.Due(m); some && at > now && r.may(m) {
				out = append(out, Coming{at, i, j})
			}
		}
	}
	slices.SortFunc(out, func(a, b Coming) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Meeting, b.Meeting), cmp.Compare(a.Rule, b.Rule))
	})
	return out
}
