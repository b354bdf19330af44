package busy

import (
	"bytes"
	"strings"
)

// A property is one content line of RFC 5545, 3.1: name, parameters, value. Names are upper case, values as written.
type property struct {
	name   string
	params []param
	value  string
}

type param struct{ name, value string }

// param returns the parameter's value, or "" if it isn't given.
func (p property) param(name string) string {
	for _, q := range p.params {
		if q.name == name {
			return q.value
		}
	}
	return ""
}

// A component is what stands between BEGIN and END.
type component struct {
	name       string
	properties []property
	children   []*component
}

// first returns the first property of that name.
func (c *component) first(name string) (property, bool) {
	for _, p := range c.properties {
		if p.name == name {
			return p, true
		}
	}
	return property{}, false
}

// text returns the value of the first property of that name, or "".
func (c *component) text(name string) string {
	p, _ := c.first(name)
	return strings.TrimSpace(p.value)
}

// parseComponents reads all top-level components. It is forgiving where meaning isn't at stake: a byte-order mark, bare
// line feeds, lower-case names, lines that are no property, an END too many. whole is false if the text ends inside a
// component, as a download cut short does.
func parseComponents(text []byte) (top []*component, whole bool) {
	root := &component{}
	stack := []*component{root}
	eachLine(text, func(line string) {
		p, ok := parseProperty(line)
		if !ok {
			return
		}
		current := stack[len(stack)-1]
		switch p.name {
		case "BEGIN":
			child := &component{name: strings.ToUpper(strings.TrimSpace(p.value))}
			current.children = append(current.children, child)
			stack = append(stack, child)
		case "END":
			stack = closed(stack, strings.ToUpper(strings.TrimSpace(p.value)))
		default:
			current.properties = append(current.properties, p)
		}
	})
	return root.children, len(stack) == 1
}

// closed pops the stack down to and including the innermost component of that name; an END that nothing began is
// passed over.
func closed(stack []*component, name string) []*component {
	for k := len(stack) - 1; k > 0; k-- {
		if stack[k].name == name {
			return stack[:k]
		}
	}
	return stack
}

// eachLine calls f for every unfolded line. Unfolding works on bytes, so a line folded within a UTF-8 character comes
// out whole (RFC 5545, 3.1).
func eachLine(text []byte, f func(string)) {
	text = bytes.TrimPrefix(text, []byte("\xef\xbb\xbf"))
	if !bytes.ContainsRune(text, '\n') {
		text = bytes.ReplaceAll(text, []byte("\r"), []byte("\n"))
	}
	var line []byte
	flush := func() {
		if len(line) > 0 {
			f(string(line))
		}
		line = line[:0]
	}
	for len(text) > 0 {
		var physical []byte
		physical, text, _ = bytes.Cut(text, []byte("\n"))
		physical = bytes.TrimSuffix(physical, []byte("\r"))
		if len(physical) > 0 && (physical[0] == ' ' || physical[0] == '\t') {
			line = append(line, physical[1:]...)
			continue
		}
		flush()
		line = append(line, physical...)
	}
	flush()
}

// parseProperty splits a content line; quoted parameter values may hold colons, semicolons and commas.
func parseProperty(line string) (property, bool) {
	end := strings.IndexAny(line, ":;")
	if end <= 0 {
		return property{}, false
	}
	p := property{name: strings.ToUpper(line[:end])}
	rest := line[end:]
	for strings.HasPrefix(rest, ";") {
		cut := unquotedIndex(rest[1:])
		if cut < 0 {
			return property{}, false
		}
		name, value, _ := strings.Cut(rest[1:1+cut], "=")
		p.params = append(p.params, param{strings.ToUpper(name), strings.Trim(value, `"`)})
		rest = rest[1+cut:]
	}
	p.value = rest[1:]
	p.mendTZID()
	return p, true
}

// mendTZID puts the rest of a zone's name back that holds a colon and was not quoted, as in TZID=(UTC+01:00) Amsterdam: dates and
// times have no colons.
func (p *property) mendTZID() {
	cut := strings.LastIndex(p.value, ":")
	if cut < 0 {
		return
	}
	for i := range p.params {
		if p.params[i].name == "TZID" {
			p.params[i].value, p.value = p.params[i].value+":"+p.value[:cut], p.value[cut+1:]
		}
	}
}

// unquotedIndex is the index of the first colon or semicolon outside quotes, or -1.
func unquotedIndex(s string) int {
	quoted := false
	for i := range len(s) {
		switch {
		case s[i] == '"':
			quoted = !quoted
		case !quoted && (s[i] == ':' || s[i] == ';'):
			return i
		}
	}
	return -1
}

var unescaper = strings.NewReplacer(`\n`, "\n", `\N`, "\n", `\,`, ",", `\;`, ";", `\\`, `\`)

// plainText undoes the escapes of a TEXT value (RFC 5545, 3.3.11).
func plainText(value string) string { return strings.TrimSpace(unescaper.Replace(value)) }
