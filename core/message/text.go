package message

import (
	"strings"
	"time"
	"unicode/utf16"

	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/told"
)

// Parts is how a text message is cut up on its way to a phone.
type Parts struct {
	Parts int  `json:"parts"`
	Used  int  `json:"used" doc:"Characters as they are counted on the way."`
	Room  int  `json:"room" doc:"So many fit into as many parts."`
	Plain bool `json:"plain" doc:"All of them are of the phones' own alphabet; otherwise fewer fit."`
}

// gsmAlphabet is the default alphabet of text messages (3GPP TS 23.038, 6.2.1), and gsmExtended what takes two of its characters
// (6.2.1.1); both from memory.
const (
	gsmAlphabet = "@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !\"#¤%&'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà"
	gsmExtended = "\f^{}\\[~]|€"
)

// How much fits into a text message alone, and into each part of a longer one, whose header takes some of it (3GPP TS 23.040, 9.2.3.24.1).
const (
	gsmAlone, gsmEach   = 160, 153
	ucs2Alone, ucs2Each = 70, 67
)

// CountParts counts the parts of a text. A character that takes two places is never cut apart.
func CountParts(text string) Parts {
	widths, plain := gsmWidths(text)
	alone, each := gsmAlone, gsmEach
	if !plain {
		widths, alone, each = ucs2Widths(text), ucs2Alone, ucs2Each
	}
	p := Parts{Parts: 1, Room: alone, Plain: plain}
	for _, width := range widths {
		p.Used += width
	}
	if p.Used <= alone {
		return p
	}
	filled := 0
	for _, width := range widths {
		if filled+width > each {
			p.Parts, filled = p.Parts+1, 0
		}
		filled += width
	}
	p.Room = p.Parts * each
	return p
}

func gsmWidths(text string) (widths []int, all bool) {
	for _, r := range text {
		switch {
		case strings.ContainsRune(gsmAlphabet, r):
			widths = append(widths, 1)
		case strings.ContainsRune(gsmExtended, r):
			widths = append(widths, 2)
		default:
			return nil, false
		}
	}
	return widths, true
}

func ucs2Widths(text string) (widths []int) {
	for _, r := range text {
		widths = append(widths, len(utf16.Encode([]rune{r})))
	}
	return widths
}

// TextedAtOnce lists what clients can be told by text message too, as soon as a host has done it.
func TextedAtOnce() []Kind { return []Kind{"client-moved", "client-cancelled", "client-handed"} }

// Quiet is when no text messages go out, on the clock of whoever gets them.
type Quiet struct {
	From  string `json:"from" doc:"A time of day, 'HH:MM'; empty if they may go out at any time."`
	Until string `json:"until"`
	Later bool   `json:"later" doc:"What falls into them goes out after them, unless that is too late; otherwise before."`
}

// Fault is what is wrong with quiet hours, if something is.
func (q Quiet) Fault() told.Words {
	if q.From == "" && q.Until == "" {
		return told.Words{}
	}
	from, wrong := time.Parse(clockLayout, q.From)
	until, alsoWrong := time.Parse(clockLayout, q.Until)
	if wrong != nil || alsoWrong != nil {
		return told.Say("quiet-clock", "Give both times of day as hours and minutes, like 21:00 and 08:00.")
	}
	if from.Equal(until) {
		return told.Say("quiet-all-day", "These quiet hours have no end. Let them end at another time of day.")
	}
	return told.Words{}
}

// around is the quiet hours of a zone that hold an instant, if some do.
func (q Quiet) around(at span.Instant, zone *time.Location) (span.Span, bool) {
	from, wrong := time.Parse(clockLayout, q.From)
	until, alsoWrong := time.Parse(clockLayout, q.Until)
	if wrong != nil || alsoWrong != nil || zone == nil {
		return span.Span{}, false
	}
	for _, days := range []int{-1, 0} {
		date := civil.DateOf(at, zone).AddDays(days)
		end := date
		if !until.After(from) {
			end = date.AddDays(1)
		}
		quiet := span.Span{Start: on(date, from, zone), End: on(end, until, zone)}
		if quiet.Holds(at) {
			return quiet, true
		}
	}
	return span.Span{}, false
}

func on(date civil.Date, clock time.Time, zone *time.Location) span.Instant {
	return civil.Clock{Date: date, Seconds: clock.Hour()*3600 + clock.Minute()*60}.Instant(zone)
}

// Ends is when quiet hours end that hold an instant; that itself if none do.
func (q Quiet) Ends(at span.Instant, zone *time.Location) span.Instant {
	if quiet, falls := q.around(at, zone); falls {
		return quiet.End
	}
	return at
}

// shift is when a text message goes out that is due at an instant: not in quiet hours, and, before a meeting, not after its start.
func (q Quiet) shift(at span.Instant, side string, m Meeting) span.Instant {
	quiet, falls := q.around(at, m.ClientZone)
	switch {
	case !falls:
		return at
	case side == After, q.Later && quiet.End < m.Span.Start:
		return quiet.End
	}
	return quiet.Start - 60 // the last minute before them
}
