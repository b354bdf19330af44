// Package told is what the program says when it is asked: why something can't be done, why a time is closed, what was changed. Every
// sentence has a code that stays, and what differs in it apart, so that it can be said in its reader's language without looking at
// the English.
package told

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/phrase"
	"corrim/core/span"
)

// Words is a sentence, or a part of one.
type Words struct {
	Code     string `json:"code,omitempty" doc:"Names the sentence, and stays."`
	With     []any  `json:"with,omitempty" doc:"What differs in the sentence, in its order: texts and numbers as they are; {date}, {at} and {clock} are of a wall clock, {from, to} is a stretch of time, {weekday} counts from 0 for Sunday and {month} from 1, {and} is names, and {sentence} words in turn."`
	Sentence string `json:"sentence" doc:"In English."`
}

// Any tells whether there is something to say.
func (w Words) Any() bool { return w.Sentence != "" }

// Say is a sentence with {} for each thing that differs. A code is never given to another sentence.
func Say(code, english string, differs ...any) Words { return Pattern{code, english}.With(differs...) }

// Sentences are words in English.
func Sentences(all []Words) []string {
	out := make([]string, len(all))
	for i, one := range all {
		out[i] = one.Sentence
	}
	return out
}

// Plain is what others have written, which nobody translates.
func Plain(text string) Words { return Words{Sentence: text} }

// Join is sentences, or parts of one, one after the other.
func Join(all []Words, between string) Words {
	switch len(all) {
	case 0:
		return Words{}
	case 1:
		return all[0]
	}
	var sentences []string
	var parts []any
	for _, one := range all {
		sentences, parts = append(sentences, one.Sentence), append(parts, one)
	}
	return Words{"joined", append([]any{between}, parts...), strings.Join(sentences, between)}
}

// failure is an error that is written for people.
type failure struct{ words Words }

// Error is an error that is written for people; errors among what differs are wrapped.
func Error(code, english string, differs ...any) error {
	return &failure{Say(code, english, differs...)}
}

func (f *failure) Error() string { return f.words.Sentence }

// Told is the error in words.
func (f *failure) Told() Words {
	words := f.words
	words.With = slices.Clone(words.With)
	for i, one := range words.With {
		if err, is := one.(error); is {
			words.With[i] = OfError(err)
		}
	}
	return words
}

// Unwrap is what it comes from.
func (f *failure) Unwrap() (causes []error) {
	for _, one := range f.words.With {
		if err, is := one.(error); is {
			causes = append(causes, err)
		}
	}
	return causes
}

// Stored is words as a text to be kept.
func (w Words) Stored() string {
	text, err := json.Marshal(w)
	if err != nil || w.Code == "" {
		return w.Sentence
	}
	return string(text)
}

// FromStored is words that were kept; what was kept before they had codes is a sentence.
func FromStored(text string) Words {
	var words Words
	if !strings.HasPrefix(text, "{") || json.Unmarshal([]byte(text), &words) != nil {
		return Plain(text)
	}
	return words
}

// teller is an error that says itself what people are told.
type teller interface{ Told() Words }

// OfError is what people are told of an error that is written for them.
func OfError(err error) Words {
	var says teller
	if errors.As(err, &says) {
		return says.Told()
	}
	return Plain(err.Error())
}

// Pattern is a sentence with {} for each thing that differs.
type Pattern struct{ code, english string }

// With is the sentence with what differs put in.
func (p Pattern) With(differs ...any) Words {
	var said strings.Builder
	rest := p.english
	for _, one := range differs {
		before, after, _ := strings.Cut(rest, "{}")
		said.WriteString(before + inEnglish(one))
		rest = after
	}
	return Words{p.code, differs, said.String() + rest}
}

// Words is the sentence where nothing differs.
func (p Pattern) Words() Words { return p.With() }

func inEnglish(one any) string {
	switch one := one.(type) {
	case Words:
		return one.Sentence
	case error:
		return one.Error()
	case fmt.Stringer:
		return one.String()
	}
	return fmt.Sprint(one)
}

// Amount is so many of a thing.
type Amount struct {
	n     int
	thing string
}

// Count is so many of a thing: "1 hour", "24 hours".
func Count(n int, thing string) Amount { return Amount{n, thing} }

func (a Amount) String() string { return phrase.Count(a.n, a.thing) }

// MarshalJSON keeps the number: what is counted is said by the sentence.
func (a Amount) MarshalJSON() ([]byte, error) { return json.Marshal(a.n) }

// Names is a list of names: "Ines, Maren and Siew Lin".
type Names struct {
	And []string `json:"and"`
}

// List is names in a sentence.
func List(names []string) Names { return Names{names} }

func (n Names) String() string { return phrase.List(n.And) }

// Day is a date on somebody's calendar.
type Day struct {
	Date    string `json:"date"` // 2026-05-04
	english string
}

// Date is the day of an instant in a zone, with its year.
func Date(i span.Instant, zone *time.Location) Day {
	return Day{i.Time().In(zone).Format(time.DateOnly), phrase.Date(i, zone)}
}

// ShortDate is the same without its year: "Mon 4 May".
func ShortDate(i span.Instant, zone *time.Location) Day {
	return Day{i.Time().In(zone).Format(time.DateOnly), i.Time().In(zone).Format("Mon 2 Jan")}
}

// Weekday is a day of the week: "Monday".
type Weekday time.Weekday

func (w Weekday) String() string { return time.Weekday(w).String() }

// MarshalJSON counts from 0 for Sunday.
func (w Weekday) MarshalJSON() ([]byte, error) {
	return json.Marshal(map[string]int{"weekday": int(w)})
}

// Month is a month: "May".
type Month time.Month

func (m Month) String() string { return time.Month(m).String() }

// MarshalJSON counts from 1 for January.
func (m Month) MarshalJSON() ([]byte, error) { return json.Marshal(map[string]int{"month": int(m)}) }

// OnDate is a date as it stands in a calendar file: "2026-05-04".
func OnDate(date civil.Date) Day { return Day{date.String(), date.String()} }

// LongDate is a date without its year: "Monday 4 May".
func LongDate(date civil.Date) Day {
	return Day{date.String(), date.Start(time.UTC).Time().Format("Monday 2 January")}
}

// FullDate is a date with its year, without its weekday: "4 May 2026".
func FullDate(date civil.Date) Day {
	return Day{date.String(), date.Start(time.UTC).Time().Format("2 January 2006")}
}

func (d Day) String() string { return d.english }

// Moment is a date and a time on somebody's clock.
type Moment struct {
	At      string `json:"at"` // 2026-05-04T15:04
	english string
}

const wallClock = "2006-01-02T15:04"

// At is an instant on the wall clock of a zone.
func At(i span.Instant, zone *time.Location) Moment {
	return Moment{i.Time().In(zone).Format(wallClock), phrase.Moment(i, zone)}
}

func (m Moment) String() string { return m.english }

// Reading is a time of day on somebody's clock.
type Reading struct {
	Clock string `json:"clock"` // 15:04
}

// Clock is what a zone's wall clock shows at an instant.
func Clock(i span.Instant, zone *time.Location) Reading { return Reading{phrase.Clock(i, zone)} }

func (r Reading) String() string { return r.Clock }

// Stretch is from when to when on somebody's clock.
type Stretch struct {
	From    string `json:"from"` // 2026-05-04T15:04
	To      string `json:"to"`
	english string
}

// During is a span on the wall clock of a zone.
func During(s span.Span, zone *time.Location) Stretch {
	return Stretch{s.Start.Time().In(zone).Format(wallClock), s.End.Time().In(zone).Format(wallClock), phrase.Stretch(s, zone)}
}

func (s Stretch) String() string { return s.english }

// What clients are told.
var (
	TimeTaken             = Pattern{"time-taken", "This time has just been taken. Nothing you typed is lost: choose another time and book it."}
	GiveName              = Pattern{"give-name", "Enter the name of whoever is to have the seat."}
	GiveMail              = Pattern{"give-mail", "Enter their mail address: the invitation goes there."}
	GiveOther             = Pattern{"give-other", "That is who has it already. Enter who is to have it instead."}
	GiveNot               = Pattern{"give-not", "Only a seat that is booked, where others come too, can be given to somebody else."}
	FewSeats              = Pattern{"seats-few", "There are fewer seats left then than you want. Nothing you typed is lost: choose another time, or leave somebody out."}
	TooManyAlong          = Pattern{"along-many", "So many can't come along with you; the most is {}."}
	AloneOnList           = Pattern{"along-on-list", "One waits for a single seat. Leave out who comes along; each can join the list themselves."}
	NameOfAlong           = Pattern{"along-name", "Enter the name of whoever comes along."}
	SeriesFull            = Pattern{"series-full", "This series has just become full. Nothing you typed is lost: choose another one and book it."}
	SeriesStays           = Pattern{"series-stays", "This date is one of a series, which is taken whole, so it can't be moved. Give it back by itself, or write to your host."}
	TimeGone              = Pattern{"time-gone", "This time has already gone by. Nothing you typed is lost: choose another time and book it."}
	SilentCalendar        = Pattern{"calendar-silent", "Your host's calendar doesn't answer at the moment, so this time can't be promised. Nothing you typed is lost: try again in a few minutes."}
	FaultyForm            = Pattern{"form-faulty", "Some of what was entered cannot be used; nothing was changed."}
	NoName                = Pattern{"name-missing", "Enter your name, so that we know who is coming."}
	NoMail                = Pattern{"mail-missing", "Enter your mail address: the invitation goes there."}
	NoMailAddress         = Pattern{"mail-incomplete", "This is not a complete mail address. It should look like name@museum.example."}
	NoPhoneNumber         = Pattern{"phone-incomplete", "This is not a complete phone number. Enter it with its country code, like +44 20 7946 0958."}
	Tick                  = Pattern{"answer-not-ticked", "Please tick this to go on."}
	Choose                = Pattern{"answer-not-chosen", "Please choose an answer."}
	Missing               = Pattern{"answer-missing", "Please answer this."}
	NoNumber              = Pattern{"answer-no-number", "Please enter a number, like 12 or 3.5."}
	NoReason              = Pattern{"reason-missing", "Please say why, so that your host knows."}
	NoAddress             = Pattern{"address-missing", "Enter the address where we meet."}
	NoPage                = Pattern{"page-unknown", "This page doesn't exist, or not any more. Check the address, or ask whoever sent it to you for a new one."}
	NoBooking             = Pattern{"booking-unknown", "This link doesn't lead to a booking, or not any more. Use the link in your latest mail about it."}
	ProposalTaken         = Pattern{"proposal-taken", "This time has been taken meanwhile. Choose another of the proposed ones, or wait for your host."}
	TooOften              = Pattern{"too-many-attempts", "Too many attempts from here within a minute. Nothing is lost: wait a minute, then try again."}
	NotNow                = Pattern{"page-off", "This can't be booked at the moment. Nothing you typed is lost; write to {} if you need it now."}
	OnlyPeople            = Pattern{"page-for-people", "Only people of {} can book this. If you are one of them, sign in first, then open this page again."}
	OnlyHosts             = Pattern{"page-for-hosts", "This can't be booked here. Write to {}, and they enter it for you."}
	LongName              = Pattern{"name-long", "A name has at most 200 letters."}
	LongRemark            = Pattern{"remark-long", "A remark has at most 4000 letters."}
	LongReason            = Pattern{"reason-long", "A reason has at most 1000 letters."}
	LongAnswer            = Pattern{"answer-long", "An answer has at most {} letters here."}
	NoZone                = Pattern{"zone-unknown", "Choose your time zone from the list."}
	GuestAddress          = Pattern{"guest-incomplete", "“{}” is not a complete mail address."}
	TooManyGuests         = Pattern{"guests-many", "So many guests can't come along; the most is {}."}
	NoLocation            = Pattern{"location-unknown", "This location is not offered, or not any more. Choose another one."}
	NoLength              = Pattern{"length-unknown", "This length is not offered, or not any more. Choose another one."}
	NotAmong              = Pattern{"answer-unknown", "“{}” is not among the answers, or not any more. Please choose again."}
	OnlyOne               = Pattern{"answer-several", "Only one answer is possible here."}
	CantAnswer            = Pattern{"question-unknown", "This question can't be answered at the moment. Leave it out, or write to your host."}
	YesOrNo               = Pattern{"answer-no-yes-no", "Please choose yes or no."}
	NoWebAddress          = Pattern{"web-incomplete", "This is not a complete web address. It should look like https://museum.example/plan."}
	NoDate                = Pattern{"answer-no-date", "Please enter a date, like 2027-03-14."}
	NoPuzzle              = Pattern{"puzzle-missing", "The small puzzle that keeps robots out is not solved yet. Wait a moment and press again."}
	OldPuzzle             = Pattern{"puzzle-old", "The small puzzle that keeps robots out was asked too long ago. Your browser solves another one; press again."}
	WrongPuzzle           = Pattern{"puzzle-wrong", "The small puzzle that keeps robots out was not solved. Your browser tries another one; press again."}
	WrongCode             = Pattern{"code-wrong", "This is not the code. Look for the latest mail from us; tries left: {}."}
	CodeSpent             = Pattern{"code-spent", "The code was wrong five times, so the hold on this time expired. Book again, and a new code comes by mail."}
	CodesSent             = Pattern{"codes-sent", "Three codes were sent for this booking. Look for them among unwanted mail too, or withdraw it and book again."}
	WaitsForCode          = Pattern{"booking-unproved", "This booking still waits for its code."}
	AlreadyAsked          = Pattern{"booking-requested", "This is requested, and not decided yet."}
	AlreadyBooked         = Pattern{"booking-booked", "This is booked already."}
	AlreadyCancelled      = Pattern{"booking-cancelled", "This booking was cancelled. Book a new time instead."}
	AlreadyDeclined       = Pattern{"booking-declined", "This request was declined. Book a new time instead."}
	AlreadyExpired        = Pattern{"booking-expired", "The hold on this time expired, because nobody decided in time. Book a new time instead."}
	OnList                = Pattern{"list-on", "This mail address is on the waiting list already. The link in the mail about it leads to your place."}
	NoList                = Pattern{"list-none", "There is no waiting list here. Choose another date, or write to your host."}
	ListFull              = Pattern{"list-full", "Very many wait for this already. Choose another date, or write to {}."}
	NotFull               = Pattern{"list-unneeded", "This date has changed meanwhile: see whether a seat is left, or choose another one."}
	SeatOver              = Pattern{"seat-over", "The place was kept for you for a while, and that has passed. It was offered to whoever is next."}
	SeatGone              = Pattern{"seat-gone", "Somebody else was faster: no place is free at the moment. You stay on the list."}
	StillWaiting          = Pattern{"seat-not-yet", "No place is free for you yet. We write to you as soon as one is."}
	Begun                 = Pattern{"meeting-begun", "This meeting has already begun, so it can't be changed any more."}
	NeverMoved            = Pattern{"move-never", "This meeting can't be moved here. Write to your host instead."}
	MovedUntilStart       = Pattern{"move-until-start", "It could be moved until it began. Write to your host instead."}
	MovedUntilDays        = Pattern{"move-until-days", "It could be moved until {} days before it begins. Write to your host instead."}
	MovedUntilHour        = Pattern{"move-until-hour", "It could be moved until 1 hour before it begins. Write to your host instead."}
	MovedUntilHours       = Pattern{"move-until-hours", "It could be moved until {} hours before it begins. Write to your host instead."}
	MovedUntilMinute      = Pattern{"move-until-minute", "It could be moved until 1 minute before it begins. Write to your host instead."}
	MovedUntilMinutes     = Pattern{"move-until-minutes", "It could be moved until {} minutes before it begins. Write to your host instead."}
	NeverCancelled        = Pattern{"cancel-never", "This meeting can't be cancelled here. Write to your host instead."}
	CancelledUntilStart   = Pattern{"cancel-until-start", "It could be cancelled until it began. Write to your host instead."}
	CancelledUntilDays    = Pattern{"cancel-until-days", "It could be cancelled until {} days before it begins. Write to your host instead."}
	CancelledUntilHour    = Pattern{"cancel-until-hour", "It could be cancelled until 1 hour before it begins. Write to your host instead."}
	CancelledUntilHours   = Pattern{"cancel-until-hours", "It could be cancelled until {} hours before it begins. Write to your host instead."}
	CancelledUntilMinute  = Pattern{"cancel-until-minute", "It could be cancelled until 1 minute before it begins. Write to your host instead."}
	CancelledUntilMinutes = Pattern{"cancel-until-minutes", "It could be cancelled until {} minutes before it begins. Write to your host instead."}
	ConfirmLater          = Pattern{"confirm-early", "You can confirm from 48 hours before it begins."}
	TickTexts             = Pattern{"texts-unagreed", "Tick that you agree to text messages, or leave the number out."}
	TextsNotThere         = Pattern{"texts-not-there", "Text messages can't be sent to this country. Give another number."}
	TextsToLandline       = Pattern{"texts-landline", "This is the number of a landline, which gets no text messages. Give a mobile number."}
	TextsStopped          = Pattern{"texts-stopped", "This number has ended our text messages. Send START as an answer to one of them, or give another number."}
	NoCodePhone           = Pattern{"code-phone-missing", "Enter your mobile number: a code comes there."}
	PhoneBusy             = Pattern{"code-phone-busy", "Many codes were sent to this number today. Give another number, or write to {}."}
	NoTexts               = Pattern{"texts-none", "No text messages are sent about this booking."}
	NoRating              = Pattern{"rating-missing", "Choose a number from 1 to 5."}
	Rated                 = Pattern{"rated-already", "You have said how it was already. Thank you."}
	NotRated              = Pattern{"rating-over", "How this meeting was can't be said here, or not any more. Write to your host instead."}
	CorrectLate           = Pattern{"correct-late", "What you wrote can't be corrected here any more. Write to your host instead."}
	NotProposed           = Pattern{"proposal-unknown", "This time is not proposed any more. Choose one of the others."}
	NoOffer               = Pattern{"offer-unknown", "This link doesn't lead to an offer, or not any more. Use the link in your latest mail about it."}
	OfferTaken            = Pattern{"offer-taken", "One of these times has been taken already. The link in the mail about that booking leads to it."}
	OfferWithdrawn        = Pattern{"offer-withdrawn", "This offer was withdrawn. Write to {} for other times."}
	OfferExpired          = Pattern{"offer-expired", "This offer has expired. Write to {} for other times."}
	NoFileAsked           = Pattern{"file-unasked", "Nobody asks for a file here. Load the page again."}
	FilesBusy             = Pattern{"files-busy", "Too many files are being sent at the moment. Nothing is lost: try again in an hour, or book without the file."}
	FilesSpent            = Pattern{"files-spent", "You have sent too many files without booking. Nothing is lost: book with those there are, or try again tomorrow."}
	FileGone              = Pattern{"file-gone", "This file is not here any more. Choose it again."}
	FileEmpty             = Pattern{"file-empty", "This file is empty. Choose another one."}
	FileLarge             = Pattern{"file-large", "A file has at most 4 MB here. Send a smaller one, or a link to it."}
	FileKind              = Pattern{"file-kind", "This file can't be taken: it has to be a {}, and its name has to say so."}
	Failed                = Pattern{"failed", "Something went wrong here, and nothing was changed. Try again; if it stays like this, tell whoever runs this installation."}
	TooLong               = Pattern{"too-long", "That is more text than can be taken. Shorten it and send it again."}
	GivenUp               = Pattern{"given-up", "The request was given up before it was done. Send it again."}
	NotPublished          = Pattern{"page-unpublished", "This page is not published yet. Ask {} when it will be."}
	ClientFull            = Pattern{"client-full", "At most {} of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to {}."}
	ClientBusy            = Pattern{"client-busy", "With this mail address, many meetings were booked within an hour. Nothing you typed is lost: try again later. If you need more, write to {}."}
	GuestBusy             = Pattern{"guest-busy", "{} was invited many times today. Leave this guest out, or tell them yourself."}
	TypeBusy              = Pattern{"type-busy", "Very many meetings of this kind were booked today, so no more are taken for now. Nothing you typed is lost: try again tomorrow. If you need more, write to {}."}
)

// Deadline is until when a client may do something, in minutes before the start.
type Deadline struct{ never, start, days, hour, hours, minute, minutes Pattern }

// The two deadlines of a booking.
var (
	Moving     = Deadline{NeverMoved, MovedUntilStart, MovedUntilDays, MovedUntilHour, MovedUntilHours, MovedUntilMinute, MovedUntilMinutes}
	Cancelling = Deadline{NeverCancelled, CancelledUntilStart, CancelledUntilDays, CancelledUntilHour, CancelledUntilHours, CancelledUntilMinute, CancelledUntilMinutes}
)

// Passed says that the deadline is over; one below 0 never was.
func (d Deadline) Passed(until int) Words {
	const hour, day = 60, 24 * 60
	switch {
	case until < 0:
		return d.never.Words()
	case until == 0:
		return d.start.Words()
	case until%day == 0 && until > day:
		return d.days.With(until / day)
	case until == hour:
		return d.hour.Words()
	case until%hour == 0:
		return d.hours.With(until / hour)
	case until == 1:
		return d.minute.Words()
	}
	return d.minutes.With(until)
}
