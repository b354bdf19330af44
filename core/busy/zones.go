package busy

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
	"unicode"

	"corrim/core/civil"
)

// zones finds the zone that a TZID means within one VCALENDAR.
type zones struct {
	calendar *time.Location            // for dates, floating times and names nobody knows
	own      map[string]*component     // VTIMEZONEs by TZID
	found    map[string]*time.Location // by TZID
	unknown  []string                  // TZIDs that fell back to the calendar's zone
}

func newZones(calendar *time.Location, vcalendar *component) *zones {
	z := &zones{calendar: calendar, own: map[string]*component{}, found: map[string]*time.Location{}}
	for _, c := range vcalendar.children {
		if c.name == "VTIMEZONE" {
			z.own[tzidKey(c.text("TZID"))] = c
		}
	}
	return z
}

// tzidKey is a TZID as it is compared. It is TEXT, so commas may be escaped, and programs differ in its case.
func tzidKey(tzid string) string { return strings.ToLower(plainText(tzid)) }

// find looks a TZID up: an IANA name means the zone data, whatever a VTIMEZONE of that name says; then the Windows
// names; then the VTIMEZONE; only then the calendar's own zone.
func (z *zones) find(tzid string) *time.Location {
	if tzid == "" {
		return z.calendar
	}
	if known := z.found[tzid]; known != nil {
		return known
	}
	zone := named(plainText(tzid))
	if own := z.own[tzidKey(tzid)]; zone == nil && own != nil {
		if zone = named(own.text("X-LIC-LOCATION")); zone == nil {
			zone = fromVTimezone(tzid, own)
		}
	}
	if zone == nil {
		z.unknown = append(z.unknown, tzid)
		zone = z.calendar
	}
	z.found[tzid] = zone
	return zone
}

// named finds a zone by its IANA or Windows name. Globally unique names carry a prefix:
// "/example.org/20260101_1/Europe/Lisbon".
func named(name string) *time.Location {
	if iana, ok := anyCase()[strings.ToLower(name)]; ok {
		name = iana
	}
	parts := strings.Split(strings.TrimPrefix(name, "/"), "/")
	for k := range parts {
		if k > 0 && k == len(parts)-1 {
			break // a last part alone ("Lisbon", "GMT") is not enough
		}
		name := strings.Join(parts[k:], "/")
		for _, spelling := range []string{name, anyCase()[strings.ToLower(name)], capitalised(name)} {
			if zone, err := civil.LoadZone(spelling); spelling != "" && err == nil {
				return zone
			}
		}
	}
	return nil
}

// anyCase finds the IANA name for a Windows name, or for an IANA name that stands for one, in whatever case.
var anyCase = sync.OnceValue(func() map[string]string {
	out := map[string]string{}
	for windows, iana := range windowsZones {
		out[strings.ToLower(windows)], out[strings.ToLower(iana)] = iana, iana
	}
	return out
})

// capitalised is a name in any case as IANA names are mostly written: "EUROPE/LISBON" is Europe/Lisbon.
func capitalised(name string) string {
	b := []byte(strings.ToLower(name))
	for i := range b {
		if i == 0 || b[i-1] == '/' || b[i-1] == '_' || b[i-1] == '-' {
			b[i] = byte(unicode.ToUpper(rune(b[i])))
		}
	}
	return string(b)
}

// onset is the instant, in seconds, from which an observance is in force.
type onset struct {
	at, offset, before int64
	summer             bool
}

// Onsets are worked out for these years; outside them the nearest holds.
const firstOnsetYear, lastOnsetYear = 1970, 2100

// fromVTimezone builds a zone from the calendar's own definition, or nil if it says nothing usable. Go makes zones only
// from TZif data (RFC 8536), so that is what is written here.
func fromVTimezone(name string, c *component) *time.Location {
	var onsets []onset
	for _, o := range c.children {
		if o.name == "STANDARD" || o.name == "DAYLIGHT" {
			onsets = append(onsets, observance(o)...)
		}
	}
	if len(onsets) == 0 || len(c.children) > 250 { // TZif numbers its types with one byte
		return nil
	}
	slices.SortFunc(onsets, func(a, b onset) int { return cmp.Compare(a.at, b.at) })
	zone, err := time.LoadLocationFromTZData(name, tzif(onsets))
	if err != nil {
		return nil
	}
	return zone
}

// observance lists the onsets of one STANDARD or DAYLIGHT part (RFC 5545, 3.6.5). One that cannot be read has none.
func observance(c *component) []onset {
	before, ok1 := parseOffset(c.text("TZOFFSETFROM"))
	offset, ok2 := parseOffset(c.text("TZOFFSETTO"))
	wallClock := &zones{calendar: time.UTC}
	start, err := wallClock.stamp(c.text("DTSTART"), "")
	if !ok1 || !ok2 || err != nil {
		return nil
	}
	var out []onset
	add := func(wall int64) bool {
		out = append(out, onset{wall - before, offset, before, c.name == "DAYLIGHT"})
		return true
	}
	add(start.wall())
	lower := time.Date(firstOnsetYear, 1, 1, 0, 0, 0, 0, time.UTC).Unix()
	upper := time.Date(lastOnsetYear, 1, 1, 0, 0, 0, 0, time.UTC).Unix()
	work := budget(lastOnsetYear * 366)
	for _, p := range c.properties {
		switch p.name {
		case "RRULE":
			if rule, err := parseRule(p.value, start.at(start.wall()), before); err == nil {
				rule.each(start.wall(), lower, upper, &work, add)
			}
		case "RDATE":
			dates, _ := wallClock.stamps(p)
			for _, d := range dates {
				add(d.wall())
			}
		}
	}
	return out
}

// parseOffset reads "+0530" or "-023015" as seconds east of Greenwich.
func parseOffset(text string) (int64, bool) {
	if len(text) != 5 && len(text) != 7 || text[0] != '+' && text[0] != '-' {
		return 0, false
	}
	digits, err := strconv.Atoi((text[1:] + "00")[:6])
	if err != nil {
		return 0, false
	}
	seconds := int64(digits/10000*3600 + digits/100%100*60 + digits%100)
	if text[0] == '-' {
		seconds = -seconds
	}
	return seconds, seconds > -24*3600 && seconds < 24*3600
}

// tzif writes version-2 TZif data (RFC 8536): an empty first block, then one with 64-bit transition times. Type 0 is
// what was in force before the first onset.
func tzif(onsets []onset) []byte {
	type localType struct {
		offset int64
		summer bool
	}
	types := []localType{{onsets[0].before, false}}
	var times, indexes bytes.Buffer
	for _, o := range onsets {
		t := localType{o.offset, o.summer}
		index := slices.Index(types[1:], t) + 1
		if index == 0 {
			index, types = len(types), append(types, t)
		}
		_ = binary.Write(&times, binary.BigEndian, o.at)
		indexes.WriteByte(byte(index))
	}
	var out bytes.Buffer
	header := func(transitions, types, chars int) {
		out.WriteString("TZif2" + strings.Repeat("\x00", 15))
		for _, n := range []int{0, 0, 0, transitions, types, chars} {
			_ = binary.Write(&out, binary.BigEndian, int32(n))
		}
	}
	header(0, 0, 0)
	header(len(onsets), len(types), 1)
	out.Write(times.Bytes())
	out.Write(indexes.Bytes())
	for _, t := range types {
		_ = binary.Write(&out, binary.BigEndian, int32(t.offset))
		out.WriteByte(map[bool]byte{true: 1}[t.summer])
		out.WriteByte(0) // its abbreviation, an empty one
	}
	out.WriteString("\x00\n\n")
	return out.Bytes()
}
