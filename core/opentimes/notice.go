package opentimes

import (
	"corrim/core/span"
	"corrim/core/strict"
	"corrim/core/told"
)

// NoticeRule: not sooner than the notice allows, and never in the past.
const NoticeRule Rule = "notice"

var noticeRule = rule{
	name: NoticeRule, title: told.Say("rule-notice", "Notice"), takes: notice,
	holds: func(in Input, _ Start, by Reader) told.Words {
		return told.Say("notice-holds", "Not sooner than the notice allows: {}.", told.At(in.Earliest(), by.Zone))
	},
	fails: func(in Input, _ Cause, by Reader) told.Words {
		return told.Say("notice-fails", "Too soon: the notice allows starts from {} on.", told.At(in.Earliest(), by.Zone))
	},
	note: func(t Type) told.Words { return t.Notice.note() },
	file: file{[]string{"notice"}, readNotice, writeNotice},
}

// Notice is the shortest time between now and a start. The zero value asks for none.
type Notice struct {
	Minutes int
	Days    int // whole local days; counts instead of Minutes if it is not 0
}

// NoticeSettings is how the notice is set.
type NoticeSettings struct {
	Notice       int  `json:"notice" doc:"Minutes, or whole local days if noticeInDays is set."`
	NoticeInDays bool `json:"noticeInDays"`
}

func (*NoticeSettings) group() (string, Rule) { return "notice", NoticeRule }

func (n *NoticeSettings) check(complain func(field string, words told.Words)) {
	most := farthest
	if !n.NoticeInDays {
		most *= 24 * 60
	}
	between(complain, "notice", n.Notice, 0, most, told.Say("notice-0-730", "The notice is 0 to 730 days."))
}

func (n *NoticeSettings) apply(t *Type) {
	if n.NoticeInDays {
		t.Notice.Days = n.Notice
	} else {
		t.Notice.Minutes = n.Notice
	}
}

func readNotice(f map[string]strict.Node, t *Type) {
	n := f["notice"]
	if !n.Given() {
		return
	}
	given := n.Fields("minutes", "days")
	switch strict.One(n, given, "minutes", "days") {
	case "minutes":
		t.Notice.Minutes = given["minutes"].Number(0, 0, 1<<30)
	case "days":
		t.Notice.Days = given["days"].Number(0, 0, 36500)
	}
}

func writeNotice(t Type, out map[string]any) {
	if t.Notice.Days > 0 {
		out["notice"] = map[string]int{"days": t.Notice.Days}
	} else if t.Notice.Minutes > 0 {
		out["notice"] = map[string]int{"minutes": t.Notice.Minutes}
	}
}

func (n Notice) note() told.Words {
	switch {
	case n.Days > 0:
		return told.Say("notice-days", "{}", told.Count(n.Days, "whole day"))
	case n.Minutes%60 == 0 && n.Minutes > 0:
		return told.Say("notice-hours", "{}", told.Count(n.Minutes/60, "hour"))
	}
	return told.Say("notice-minutes", "{}", told.Count(n.Minutes, "minute"))
}

// notice refuses starts sooner than the notice.
func notice(q *query, take func(Take)) {
	if earliest := q.Earliest(); q.starts.Start < earliest {
		shut := span.Span{Start: q.starts.Start, End: earliest}
		take(Take{shut, Cause{Span: shut}})
	}
}

// Earliest is the first instant the notice allows: now + minutes, or the beginning of the local day today + n for whole
// days. Nothing before now is ever open.
func (in Input) Earliest() span.Instant {
	earliest := in.Now + span.Instant(in.Type.Notice.Minutes)*60
	if n := in.Type.Notice.Days; n != 0 {
		earliest = in.today().AddDays(n).Start(in.Host.Hours.Zone)
	}
	return max(earliest, in.Now)
}
