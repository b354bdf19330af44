package opentimes

import (
	"corrim/core/hours"
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// HoursRule: the meeting lies within the host's open hours, and the type's own.
const HoursRule Rule = "hours"

var hoursRule = rule{
	name: HoursRule, title: told.Say("rule-hours", "Hours"), takes: withinHours, yields: true, short: told.Say("short-hours", "doesn't work then"),
	holds: always(told.Say("hours-holds", "Within the open hours.")),
	fails: func(_ Input, c Cause, by Reader) told.Words {
		return told.Say("hours-fails", "Outside the open hours: closed {}.", told.During(c.Span, by.Zone))
	},
	note: func(t Type) told.Words {
		if t.Hours != nil {
			return told.Say("hours-note-own", "the host's and the type's own")
		}
		return told.Say("hours-note", "the host's")
	},
	file: file{[]string{"hours"}, readOwnHours, writeOwnHours},
}

// readOwnHours reads a type's own hours; an empty object means none.
func readOwnHours(f map[string]strict.Node, t *Type) {
	given := f["hours"].Fields("zone", "week", "changes")
	if !given["zone"].Given() && !given["week"].Given() && !given["changes"].Given() {
		return
	}
	t.Hours = &hours.Plan{Week: hours.ReadWeek(given["week"]), Changes: hours.ReadChanges(given["changes"])}
	if given["zone"].Given() {
		t.Hours.Zone = given["zone"].Zone()
	}
}

func writeOwnHours(t Type, out map[string]any) {
	if t.Hours == nil {
		return
	}
	own := map[string]any{"week": hours.WriteWeek(t.Hours.Week), "changes": hours.WriteChanges(t.Hours.Changes)}
	if t.Hours.Zone != nil {
		own["zone"] = t.Hours.Zone.String()
	}
	out["hours"] = own
}

// withinHours refuses starts whose meeting would not lie wholly inside the host's open hours, and inside the type's own
// if it has some. Buffers may run past them, unless the type keeps them inside. The cause is the closed time that the
// meeting would reach into.
func withinHours(q *query, take func(Take)) {
	q.within(q.Host.Hours, take)
	if own := q.Type.Hours; own != nil {
		plan := *own
		if plan.Zone == nil {
			plan.Zone = q.Host.Hours.Zone
		}
		q.within(plan, take)
	}
}

func (q *query) within(plan hours.Plan, take func(Take)) {
	before, length := int64(0), q.duration
	if q.Type.BuffersInsideOpen {
		before, length = q.before, q.duration+q.after
	}
	// A day more on either side, so that the closed time given as the cause is the whole of it.
	around := q.reach().Grow(daySeconds, daySeconds)
	for _, closed := range plan.Open(around).Complement(around) {
		// A meeting [s−before, s+length) reaches into [x, y) if x − length < s < y + before.
		take(Take{span.Span{Start: closed.Start - span.Instant(length) + 1, End: closed.End + span.Instant(before)}, Cause{Span: closed}})
	}
}

const daySeconds = 24 * 60 * 60
