package opentimes

import (
	"corrim/core/hours"
	"corrim/core/phrase"
	"corrim/core/span"
	"corrim/core/strict"
)

// HoursRule: the meeting lies within the host's open hours, and the type's own.
const HoursRule Rule = "hours"

var hoursRule = rule{
	name: HoursRule, title: "Hours", takes: withinHours, short: "doesn't work then",
	holds: always("Within the open hours."),
	fails: func(_ Input, c Cause, by Reader) string {
		return "Outside the open hours: closed " + phrase.Stretch(c.Span, by.Zone) + "."
	},
	note: func(t Type) string {
		if t.Hours != nil {
			return "the host's and the type's own"
		}
		return "the host's"
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
