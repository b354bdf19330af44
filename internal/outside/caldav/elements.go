package caldav

import (
	"encoding/xml"
	"net/http"
	"strconv"
	"strings"
)

// The wire format: WebDAV (RFC 4918), CalDAV (RFC 4791), sync-collection (RFC 6578) and the getctag that many servers
// offer. The rest of the package speaks in plain Go values.

const (
	propfindPrincipal = `<propfind xmlns="DAV:"><prop><current-user-principal/></prop></propfind>`
	propfindHome      = `<propfind xmlns="DAV:"><prop><C:calendar-home-set xmlns:C="urn:ietf:params:xml:ns:caldav"/></prop></propfind>`
	propfindAddresses = `<propfind xmlns="DAV:"><prop><C:calendar-user-address-set xmlns:C="urn:ietf:params:xml:ns:caldav"/></prop></propfind>`
	propfindCalendars = `<propfind xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><prop><resourcetype/><displayname/><current-user-privilege-set/><C:supported-calendar-component-set/></prop></propfind>`
	propfindCTag      = `<propfind xmlns="DAV:"><prop><S:getctag xmlns:S="http://calendarserver.org/ns/"/></prop></propfind>`
	propfindETags     = `<propfind xmlns="DAV:"><prop><getetag/><resourcetype/></prop></propfind>`
	propfindETag      = `<propfind xmlns="DAV:"><prop><getetag/></prop></propfind>`
)

func syncCollection(token string) string {
	return `<sync-collection xmlns="DAV:"><sync-token>` + escaped(token) + `</sync-token><sync-level>1</sync-level><prop><getetag/></prop></sync-collection>`
}

func multiget(hrefs []string) string {
	var b strings.Builder
	b.WriteString(`<C:calendar-multiget xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><prop><getetag/><C:calendar-data/></prop>`)
	for _, href := range hrefs {
		b.WriteString("<href>" + escaped(href) + "</href>")
	}
	b.WriteString(`</C:calendar-multiget>`)
	return b.String()
}

// withUID asks for the event with a UID (RFC 4791, 7.8.6).
func withUID(uid string) string {
	return `<C:calendar-query xmlns="DAV:" xmlns:C="urn:ietf:params:xml:ns:caldav"><prop><getetag/><C:calendar-data/></prop><C:filter><C:comp-filter name="VCALENDAR">` +
		`<C:comp-filter name="VEVENT"><C:prop-filter name="UID"><C:text-match collation="i;octet">` + escaped(uid) + `</C:text-match></C:prop-filter></C:comp-filter></C:comp-filter></C:filter></C:calendar-query>`
}

func escaped(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(s)) // writes to memory
	return b.String()
}

type multistatus struct {
	XMLName   xml.Name   `xml:"DAV: multistatus"`
	Responses []response `xml:"DAV: response"`
	SyncToken string     `xml:"DAV: sync-token"`
}

type response struct {
	Href     string     `xml:"DAV: href"`
	Status   string     `xml:"DAV: status"`
	PropStat []propstat `xml:"DAV: propstat"`
}

type propstat struct {
	Status string `xml:"DAV: status"`
	Prop   prop   `xml:"DAV: prop"`
}

type prop struct {
	Principal    hrefProp  `xml:"DAV: current-user-principal"`
	Home         hrefProp  `xml:"urn:ietf:params:xml:ns:caldav calendar-home-set"`
	Addresses    hrefsProp `xml:"urn:ietf:params:xml:ns:caldav calendar-user-address-set"`
	DisplayName  string    `xml:"DAV: displayname"`
	ETag         string    `xml:"DAV: getetag"`
	CTag         string    `xml:"http://calendarserver.org/ns/ getctag"`
	CalendarData string    `xml:"urn:ietf:params:xml:ns:caldav calendar-data"`
	ResourceType struct {
		Calendar   *struct{} `xml:"urn:ietf:params:xml:ns:caldav calendar"`
		Collection *struct{} `xml:"DAV: collection"`
	} `xml:"DAV: resourcetype"`
	Privileges *struct {
		Any []struct {
			Kinds []struct {
				XMLName xml.Name
			} `xml:",any"`
		} `xml:"DAV: privilege"`
	} `xml:"DAV: current-user-privilege-set"`
	Components struct {
		Comp []struct {
			Name string `xml:"name,attr"`
		} `xml:"urn:ietf:params:xml:ns:caldav comp"`
	} `xml:"urn:ietf:params:xml:ns:caldav supported-calendar-component-set"`
}

type hrefsProp struct {
	Hrefs []string `xml:"DAV: href"`
}

type hrefProp struct {
	Href string `xml:"DAV: href"`
}

// found is the properties the server has; missing ones stand in a propstat of their own with status 404.
func (r response) found() prop {
	for _, p := range r.PropStat {
		if statusCode(p.Status) == http.StatusOK {
			return p.Prop
		}
	}
	return prop{}
}

// gone tells whether the response says that the resource is not there.
func (r response) gone() bool { return statusCode(r.Status) == http.StatusNotFound }

// statusCode reads "HTTP/1.1 200 OK".
func statusCode(line string) int {
	fields := strings.Fields(line)
	if len(fields) < 2 {
		return 0
	}
	code, _ := strconv.Atoi(fields[1])
	return code
}

// holdsEvents tells whether it is a calendar for events; one that doesn't say is.
func (p prop) holdsEvents() bool {
	if p.ResourceType.Calendar == nil {
		return false
	}
	for _, c := range p.Components.Comp {
		if strings.EqualFold(c.Name, "VEVENT") {
			return true
		}
	}
	return len(p.Components.Comp) == 0
}

// readOnly tells whether the user may not write here, if the server says what they may (RFC 3744, 5.4).
func (p prop) readOnly() bool {
	if p.Privileges == nil || len(p.Privileges.Any) == 0 {
		return false
	}
	for _, privilege := range p.Privileges.Any {
		for _, kind := range privilege.Kinds {
			switch kind.XMLName.Local {
			case "all", "write", "write-content", "bind":
				return false
			}
		}
	}
	return true
}
