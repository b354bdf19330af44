package civil

import (
	_ "embed" // the towns' names
	"strings"
	"sync"
)

//go:embed towns.gen.txt
var townText string

var towns = sync.OnceValue(func() map[string]string {
	names := map[string]string{}
	for line := range strings.Lines(townText) {
		if zone, town, ok := strings.Cut(strings.TrimSuffix(line, "\n"), "\t"); ok {
			names[zone] = town
		}
	}
	return names
})

// TownOf is what the town of an IANA zone is called in English (Unicode CLDR): America/Sao_Paulo is São Paulo.
func TownOf(zone string) string {
	if town := towns()[zone]; town != "" {
		return town
	}
	return strings.ReplaceAll(zone[strings.LastIndexByte(zone, '/')+1:], "_", " ")
}
