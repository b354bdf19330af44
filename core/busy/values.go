package busy

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/told"
)

// A stamp is a DATE or DATE-TIME value together with the zone its wall clock belongs to: UTC, the zone of its TZID, or
// the calendar's for dates and floating times.
type stamp struct {
	clock civil.Clock
	zone  *time.Location
	date  bool
}

func (s stamp) instant() span.Instant { return s.clock.Instant(s.zone) }

// wall is the wall-clock reading in seconds, dressed as UTC.
func (s stamp) wall() int64 { return s.clock.UTC().Unix() }

// at is the stamp of another reading on the same wall clock.
func (s stamp) at(wall int64) stamp {
	s.clock = civil.FromUTC(time.Unix(wall, 0))
	return s
}

// stamps reads a property that holds one or more DATE or DATE-TIME values.
func (z *zones) stamps(p property) ([]stamp, error) {
	var out []stamp
	for value := range strings.SplitSeq(p.value, ",") {
		s, err := z.stamp(value, p.param("TZID"))
		if err != nil {
			return nil, told.Error("caused-by", "{}: {}", p.name, err)
		}
		out = append(out, s)
	}
	return out, nil
}

// stamp reads one value. The form decides between date and date-time: VALUE is often left out or wrong.
func (z *zones) stamp(value, tzid string) (stamp, error) {
	value = strings.ToUpper(strings.TrimSpace(value))
	if len(value) == len("20060102") {
		t, err := time.Parse("20060102", value)
		if err != nil {
			return stamp{}, told.Error("date", "“{}” is not a date", value)
		}
		return stamp{civil.FromUTC(t), z.calendar, true}, nil
	}
	zone := z.find(tzid)
	if bare, utc := strings.CutSuffix(value, "Z"); utc {
		value, zone = bare, time.UTC
	}
	t, err := time.Parse("20060102T150405", leapSecond(value))
	if err != nil {
		return stamp{}, told.Error("date-time", "“{}” is not a date and time", value)
	}
	return stamp{civil.FromUTC(t), zone, false}, nil
}

func isUTC(value string) bool {
	return strings.HasSuffix(strings.ToUpper(strings.TrimSpace(value)), "Z")
}

// leapSecond reads second 60 as 59, as RFC 5545, 3.3.12 lets implementations without leap seconds do.
func leapSecond(value string) string {
	if strings.HasSuffix(value, "60") && len(value) == len("20060102T150405") {
		return value[:len(value)-2] + "59"
	}
	return value
}

// A length is a nominal part in days, counted on the wall clock, and an exact part in seconds (RFC 5545, 3.3.6).
type length struct {
	days    int
	seconds int64
}

// from returns the span of an occurrence that starts at s.
func (l length) from(s stamp) span.Span {
	start, end := s.instant(), s.clock
	if l.days == 0 {
		return span.Span{Start: start, End: start + span.Instant(l.seconds)}
	}
	end.Date = end.Date.AddDays(l.days)
	return span.Span{Start: start, End: end.Instant(s.zone) + span.Instant(l.seconds)}
}

// atMost is an upper bound of the length in seconds.
func (l length) atMost() int64 { return int64(l.days)*25*3600 + l.seconds }

var durationPattern = regexp.MustCompile(`^([+-]?)P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$`)

// maxDays bounds a single event: longer ones are mistakes.
const maxDays = 36525

// parseLength reads a DURATION; weeks and days are nominal, hours and less exact.
func parseLength(value string) (length, error) {
	value = strings.ToUpper(strings.TrimSpace(value))
	m := durationPattern.FindStringSubmatch(value)
	if m == nil || len(value) < 3 {
		return length{}, told.Error("duration", "“{}” is not a duration", value)
	}
	var n [4 + 1]int
	for i, text := range m[2:] {
		if text == "" {
			continue
		}
		v, err := strconv.Atoi(text)
		if err != nil || v > maxDays*24*60 {
			return length{}, told.Error("longer-than-century", "“{}” is longer than a century", value)
		}
		n[i] = v
	}
	l := length{n[0]*7 + n[1], int64(n[2])*3600 + int64(n[3])*60 + int64(n[4])}
	switch {
	case m[1] == "-" && l != length{}:
		return length{}, told.Error("ends-before-starts", "it ends before it starts")
	case l.days > maxDays:
		return length{}, told.Error("longer-than-century", "“{}” is longer than a century", value)
	}
	return l, nil
}

// period reads "start/end" or "start/duration" (RFC 5545, 3.3.9).
func (z *zones) period(value, tzid string) (stamp, length, error) {
	from, to, ok := strings.Cut(value, "/")
	if !ok {
		return stamp{}, length{}, told.Error("period", "“{}” is not a period", value)
	}
	start, err := z.stamp(from, tzid)
	if err != nil {
		return stamp{}, length{}, err
	}
	if l, err := parseLength(to); err == nil {
		return start, l, nil
	}
	end, err := z.stamp(to, tzid)
	if err != nil {
		return stamp{}, length{}, err
	}
	l, err := between(start, end)
	return start, l, err
}

// between is the length from start to end: whole days between dates, else exact (a DTEND fixes an exact length).
func between(start, end stamp) (length, error) {
	if start.date && end.date {
		days := start.clock.Date.DaysUntil(end.clock.Date)
		if days < 0 || days > maxDays {
			return length{}, told.Error("ends-before-starts", "it ends before it starts")
		}
		return length{days: days}, nil
	}
	seconds := int64(end.instant() - start.instant())
	if seconds < 0 || seconds > maxDays*24*3600 {
		return length{}, told.Error("ends-before-starts", "it ends before it starts")
	}
	return length{seconds: seconds}, nil
}
