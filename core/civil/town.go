package civil

import (
	"embed"
	"strings"
	"sync"
)

//go:embed towns/*.gen.txt
var townFiles embed.FS

// towns is what the towns of zones are called, by language, where that is not the end of the zone's name.
var towns = sync.OnceValue(func() map[string]map[string]string {
	files, _ := townFiles.ReadDir("towns") // it is part of the program
	all := map[string]map[string]string{}
	for _, file := range files {
		text, _ := townFiles.ReadFile("towns/" + file.Name())
		names := map[string]string{}
		for line := range strings.Lines(string(text)) {
			if zone, town, ok := strings.Cut(strings.TrimSuffix(line, "\n"), "\t"); ok {
				names[zone] = town
			}
		}
		all[strings.TrimSuffix(file.Name(), ".gen.txt")] = names
	}
	return all
})

// TownOf is what the town of an IANA zone is called in a language (Unicode CLDR): in English, America/Sao_Paulo is São Paulo.
func TownOf(zone, language string) string {
	if town := towns()[language][zone]; town != "" {
		return town
	}
	return strings.ReplaceAll(zone[strings.LastIndexByte(zone, '/')+1:], "_", " ")
}
