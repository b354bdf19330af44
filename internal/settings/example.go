package settings

import (
	"slices"
	"time"

	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
)

// RuleExample is what a group of rules does to a made-up day.
type RuleExample struct {
	Says   told.Words      `json:"says"`
	Ribbon schedule.Ribbon `json:"ribbon"`
}

// ExampleOf is rules as they stand, maybe unsaved, and the group of them that is to be explained.
type ExampleOf struct {
	Group   string                 `json:"group" maxLength:"40"`
	Minutes int                    `json:"minutes" minimum:"1" maximum:"1440" doc:"How long the meetings last."`
	Rules   opentimes.BookingRules `json:"rules"`
}

// RuleExample shows what a group of rules does; nothing of anybody's is in it.
func (s *Settings) RuleExample(of ExampleOf) (RuleExample, error) {
	wrong := refusal.Complaints{}
	of.Rules.Check(func(field string, words told.Words) { wrong.Add("rules."+field, words) })
	if err := wrong.Err(); err != nil {
		return RuleExample{}, err
	}
	e, found := of.Rules.Example(of.Group, of.Minutes)
	if !found {
		return RuleExample{}, refusal.New(refusal.NotFound, told.Say("no-such-group", "There is no such group of rules."))
	}
	return RuleExample{e.Says, exampleRibbon(e)}, nil
}

// exampleRibbon draws an example: what is open with the rule, what goes by it, and what it adds.
func exampleRibbon(e opentimes.Example) schedule.Ribbon {
	d := schedule.NewDayDrawer(e.Day, time.UTC)
	r := d.Ribbon()
	for _, s := range e.With.Host.Hours.Open(d.Day) {
		r.Open = d.Mark(r.Open, s, "")
	}
	for i, b := range e.With.Host.Bookings {
		if b.Meeting.Overlaps(d.Day) {
			from, to := d.Minute(b.Meeting.Start), d.Minute(b.Meeting.End)
			r.Bookings = append(r.Bookings, schedule.Booked{Mark: schedule.Mark{From: from, To: to}, ID: int64(i + 1), KeptFrom: from - b.Before, KeptUntil: to + b.After, State: "booked"})
		}
	}
	with := opentimes.Search(e.With, d.Day)
	change := opentimes.Compare(opentimes.Search(e.Without, d.Day), with)
	kept := slices.DeleteFunc(with, func(s opentimes.Start) bool { return slices.Contains(change.Gained, s) })
	r.Kept, r.Gained, r.Lost = d.Starts(r.Kept, kept), d.Starts(r.Gained, change.Gained), d.Starts(r.Lost, change.Lost)
	return r
}
