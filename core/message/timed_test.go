package message_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"corrim/core/civil"
	"corrim/core/life"
	"corrim/core/message"
	"corrim/core/span"
)

func at(hour, minute int) span.Instant {
	return span.At(time.Date(2026, 5, 5, hour, minute, 0, 0, time.UTC))
}

func TestAMessageIsDueSoLongBeforeOrAfter(t *testing.T) {
	m := message.Meeting{Span: span.Span{Start: at(10, 0), End: at(10, 50)}, Since: at(8, 0), State: life.Booked}
	due := func(minutes int, side string) string {
		when, some := message.Rule{Receiver: message.ToClient, Minutes: minutes, Side: side, If: message.Always}.Due(m)
		if !some {
			return "never"
		}
		return when.Time().Format("15:04")
	}
	assert.Equal(t, "09:30", due(30, message.Before))
	assert.Equal(t, "11:20", due(30, message.After))
	assert.Equal(t, "08:01", due(119, message.Before))
	assert.Equal(t, "never", due(120, message.Before), "its client has just been told of it")
	assert.Equal(t, "never", due(24*60, message.Before))
}

func TestAMessageIsSentOnlyIfItIsTrue(t *testing.T) {
	for _, one := range []struct {
		side, condition string
		m               message.Meeting
		holds           bool
	}{
		{message.Before, message.Always, message.Meeting{State: life.Booked}, true},
		{message.Before, message.Always, message.Meeting{State: life.Requested}, false},
		{message.Before, message.Always, message.Meeting{State: life.Cancelled}, false},
		{message.Before, message.Unconfirmed, message.Meeting{State: life.Booked}, true},
		{message.Before, message.Unconfirmed, message.Meeting{State: life.Booked, Confirmed: true}, false},
		{message.Before, message.First, message.Meeting{State: life.Booked, First: true}, true},
		{message.Before, message.First, message.Meeting{State: life.Booked}, false},
		{message.After, message.Always, message.Meeting{State: life.Booked}, true},
		{message.After, message.Always, message.Meeting{State: life.Attended}, true},
		{message.After, message.Always, message.Meeting{State: life.NoShow}, false},
		{message.After, message.Attended, message.Meeting{State: life.Booked}, false},
		{message.After, message.Attended, message.Meeting{State: life.Attended}, true},
		{message.After, message.Missed, message.Meeting{State: life.NoShow}, true},
		{message.After, message.Missed, message.Meeting{State: life.Attended}, false},
	} {
		r := message.Rule{Receiver: message.ToClient, Minutes: 30, Side: one.side, If: one.condition}
		assert.Equal(t, one.holds, r.Holds(one.m), "%s %s %+v", one.side, one.condition, one.m)
	}
}

func TestWhatCanNeverBeSentIsNamed(t *testing.T) {
	rule := func(receiver, side, condition string, minutes int) message.Rule {
		return message.Rule{Receiver: receiver, Side: side, If: condition, Minutes: minutes}
	}
	rules := []message.Rule{
		rule(message.ToClient, message.Before, message.Always, 60),
		rule(message.ToClient, message.Before, message.Attended, 60),
		rule(message.ToClient, message.After, message.Unconfirmed, 60),
		rule(message.ToHosts, message.After, message.Always, 60),
		rule(message.ToClient, message.Before, message.Always, 0),
		rule(message.ToClient, message.After, message.Missed, 60),
		rule(message.ToClient, message.Before, message.Always, 60),
	}
	faults := message.Faults(rules)
	assert.Contains(t, faults[1].Sentence, "never be sent")
	assert.Contains(t, faults[2].Sentence, "nobody says")
	assert.Contains(t, faults[3].Sentence, "only reminded before")
	assert.Contains(t, faults[4].Sentence, "30 days")
	assert.Contains(t, faults[6].Sentence, "already")
	assert.Len(t, faults, 5)
	assert.Equal(t, message.ClientMissed, rules[5].Kind())
	assert.Equal(t, message.HostReminder, rules[3].Kind())
}

// Whatever is planned lies ahead, is not older than the booking, is planned once for a rule and meeting, in order, and is of a state
// that can still hold; planning again gives the same.
func TestWhatIsPlannedIsAheadAndOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		now := at(10, 0)
		around := rapid.Int64Range(-100_000, 100_000)
		rules := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) message.Rule {
			return message.Rule{
				Receiver: rapid.SampledFrom([]string{message.ToClient, message.ToHosts}).Draw(t, "to"), Minutes: rapid.IntRange(1, 3000).Draw(t, "minutes"),
				Side: rapid.SampledFrom([]string{message.Before, message.After}).Draw(t, "side"),
				If:   rapid.SampledFrom([]string{message.Always, message.Unconfirmed, message.First, message.Attended, message.Missed}).Draw(t, "if"),
			}
		}), 0, 4).Draw(t, "rules")
		meetings := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) message.Meeting {
			start := now + span.Instant(around.Draw(t, "start"))
			return message.Meeting{
				Span: span.Span{Start: start, End: start.Add(time.Duration(rapid.IntRange(1, 600).Draw(t, "length")) * time.Minute)}, Since: now + span.Instant(around.Draw(t, "since")),
				State:     rapid.SampledFrom([]life.State{life.Requested, life.Booked, life.Attended, life.NoShow, life.Cancelled}).Draw(t, "state"),
				Confirmed: rapid.Bool().Draw(t, "confirmed"), First: rapid.Bool().Draw(t, "first"),
			}
		}), 0, 6).Draw(t, "meetings")
		planned := message.Ahead(rules, meetings, now)
		seen := map[string]bool{}
		for i, c := range planned {
			m := meetings[c.Meeting]
			assert.Greater(t, c.At, now)
			assert.Greater(t, c.At, m.Since)
			assert.NotContains(t, []life.State{life.Requested, life.Cancelled}, m.State)
			key := fmt.Sprint(c.Rule, c.Meeting)
			assert.False(t, seen[key], "twice")
			seen[key] = true
			assert.True(t, i == 0 || planned[i-1].At <= c.At, "in order")
		}
		assert.Equal(t, planned, message.Ahead(rules, meetings, now))
	})
}

// What five rules will send about 10,000 meetings.
func BenchmarkAhead(b *testing.B) {
	now := at(10, 0)
	var rules []message.Rule
	for i := range 5 {
		rules = append(rules, message.Rule{Receiver: message.ToClient, Minutes: 60 * (i + 1), Side: message.Before, If: message.Always})
	}
	meetings := make([]message.Meeting, 10_000)
	for i := range meetings {
		start := now.Add(time.Duration(i+400) * time.Minute)
		meetings[i] = message.Meeting{Span: span.Span{Start: start, End: start.Add(time.Hour)}, State: life.Booked}
	}
	for b.Loop() {
		if planned := message.Ahead(rules, meetings, now); len(planned) != 50_000 {
			b.Fatal(len(planned))
		}
	}
}

// "The morning after at 9:00" is 9:00 where the receiver is, on the day after the meeting there, also where the clocks change between.
func TestAMessageAtATimeOfDayIsOnTheReceiversClock(t *testing.T) {
	halifax, lisbon := zoneOf(t, "America/Halifax"), zoneOf(t, "Europe/Lisbon")
	meeting := func(start string) message.Meeting {
		from, err := time.ParseInLocation("2006-01-02 15:04", start, lisbon)
		assert.NoError(t, err)
		return message.Meeting{Span: span.Of(from, from.Add(50*time.Minute)), State: life.Booked, ClientZone: halifax, HostZone: lisbon}
	}
	due := func(r message.Rule, m message.Meeting) string {
		when, some := r.Due(m)
		if !some {
			return "never"
		}
		return when.Time().Format("02 15:04Z")
	}
	day := 24 * 60
	after := message.Rule{Receiver: message.ToClient, Minutes: day, At: "09:00", Side: message.After, If: message.Always}
	assert.Equal(t, "06 12:00Z", due(after, meeting("2026-05-05 15:00")))
	assert.Equal(t, "05 12:00Z", due(after, meeting("2026-05-05 00:30")), "in Halifax it is still the day before")
	before := message.Rule{Receiver: message.ToClient, Minutes: day, At: "20:00", Side: message.Before, If: message.Always}
	// Halifax turns its clocks back at 2026-11-01 06:00 UTC (tzdata).
	assert.Equal(t, "31 23:00Z", due(before, meeting("2026-11-01 15:00")))
	assert.Equal(t, "02 00:00Z", due(before, meeting("2026-11-02 15:00")))
	hosts := message.Rule{Receiver: message.ToHosts, Minutes: 0, At: "07:00", Side: message.Before, If: message.Always}
	assert.Equal(t, "05 06:00Z", due(hosts, meeting("2026-05-05 15:00")))
	assert.Equal(t, "never", due(hosts, meeting("2026-05-05 06:30")), "it has begun by then")
	for _, wrong := range []message.Rule{{Minutes: day, At: "9 h"}, {Minutes: 90, At: "09:00"}, {Minutes: 31 * day, At: "09:00"}} {
		wrong.Receiver, wrong.Side, wrong.If = message.ToClient, message.Before, message.Always
		assert.True(t, wrong.Fault().Any())
	}
}

// The meetings that are looked at for a moment are all whose messages are due then.
func TestNoMeetingIsOverlooked(t *testing.T) {
	zones := []*time.Location{zoneOf(t, "America/Halifax"), zoneOf(t, "Pacific/Kiritimati"), zoneOf(t, "Pacific/Niue"), zoneOf(t, "Australia/Lord_Howe")}
	rapid.Check(t, func(t *rapid.T) {
		start := span.Instant(rapid.Int64Range(1_767_225_600, 1_798_761_600).Draw(t, "start")) // 2026
		m := message.Meeting{Span: span.Span{Start: start, End: start.Add(time.Hour)}, State: life.Booked, ClientZone: rapid.SampledFrom(zones).Draw(t, "zone")}
		r := message.Rule{
			Receiver: message.ToClient, Minutes: 24 * 60 * rapid.IntRange(0, 30).Draw(t, "days"), If: message.Always,
			At: rapid.SampledFrom([]string{"", "00:00", "02:30", "09:00", "23:59"}).Draw(t, "at"), Side: rapid.SampledFrom([]string{message.Before, message.After}).Draw(t, "side"),
		}
		at, some := r.Due(m)
		if !some {
			return
		}
		marked := m.Span.Start
		if r.Side == message.After {
			marked = m.Span.End
		}
		if within := r.DueWithin(span.Span{Start: at, End: at + 1}); !within.Holds(marked) {
			t.Fatalf("%v at %v lies outside %v", r, at, within)
		}
	})
}

func zoneOf(t *testing.T, name string) *time.Location {
	t.Helper()
	zone, err := civil.LoadZone(name)
	assert.NoError(t, err)
	return zone
}

func TestFurtherConditionsMustAllHold(t *testing.T) {
	m := message.Meeting{Span: span.Span{Start: at(10, 0), End: at(10, 30)}, Since: at(7, 0), State: life.Booked, Way: "phone", Language: "de"}
	rule := func(also ...message.Condition) message.Rule {
		return message.Rule{Receiver: message.ToClient, Minutes: 30, Side: message.Before, If: message.Always, Also: also}
	}
	is := func(what, is string) message.Condition { return message.Condition{What: what, Is: is} }
	for _, one := range []struct {
		also  []message.Condition
		holds bool
	}{
		{[]message.Condition{is("way", "phone"), is("language", "de"), is("length", "30"), is("short", "4")}, true},
		{[]message.Condition{is("way", "phone"), is("language", "fr")}, false},
		{[]message.Condition{is("way", "video")}, false},
		{[]message.Condition{is("length", "60")}, false},
		{[]message.Condition{is("short", "3")}, false}, // exactly three hours before
	} {
		assert.Equal(t, one.holds, rule(one.also...).Holds(m), "%v", one.also)
		assert.False(t, rule(one.also...).Fault().Any())
		assert.Equal(t, one.holds, len(message.Ahead([]message.Rule{rule(one.also...)}, []message.Meeting{m}, at(8, 0))) > 0)
	}
	for _, wrong := range [][]message.Condition{{is("way", "pigeon")}, {is("language", "tlh")}, {is("short", "0")}, {is("length", "long")}, {is("way", "phone"), is("way", "video")}} {
		assert.True(t, rule(wrong...).Fault().Any(), "%v", wrong)
	}
	never := rule(is("short", "12"))
	never.Minutes = 24 * 60
	assert.Contains(t, never.Fault().Sentence, "never be sent")
	returning := rule()
	returning.If = message.Returning
	assert.True(t, returning.Holds(m))
	m.First = true
	assert.False(t, returning.Holds(m))
}

func TestAnAnswerDecidesAboutAMessage(t *testing.T) {
	m := message.Meeting{Span: span.Span{Start: at(10, 0), End: at(10, 30)}, Since: at(7, 0), State: life.Booked}
	m.Answers = map[string][]string{"material": {"Silk", "paper"}}
	for _, one := range []struct {
		condition message.Condition
		sent      bool
	}{
		{message.Condition{What: message.ByAnswer, Question: "material", Is: "silk"}, true},
		{message.Condition{What: message.ByAnswer, Question: "material", Is: "wood"}, false},
		{message.Condition{What: message.ByAnswer, Question: "material", Is: "wood", Not: true}, true},
		{message.Condition{What: message.ByAnswer, Question: "material", Is: "paper", Not: true}, false},
		{message.Condition{What: message.ByAnswer, Question: "never asked", Is: "silk"}, false},
		{message.Condition{What: message.ByAnswer, Question: "never asked", Is: "silk", Not: true}, true},
	} {
		r := message.Rule{Receiver: message.ToClient, Minutes: 30, Side: message.Before, If: message.Always, Also: []message.Condition{one.condition}}
		assert.False(t, r.Fault().Any())
		assert.Equal(t, one.sent, r.Holds(m), one.condition)
	}
	two := message.Condition{What: message.ByAnswer, Question: "size", Is: "3"}
	r := message.Rule{Receiver: message.ToClient, Minutes: 30, Side: message.Before, If: message.Always, Also: []message.Condition{{What: message.ByAnswer, Question: "material", Is: "silk"}, two}}
	assert.False(t, r.Fault().Any(), "two questions")
	r.Also[0] = two
	assert.True(t, r.Fault().Any(), "one question twice")
	r.Also = []message.Condition{{What: message.ByAnswer, Question: "size", Is: " "}}
	assert.True(t, r.Fault().Any(), "no answer")
}
