// Package ui holds the built user interface, so that the program is one file.
package ui

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Files returns the built user interface; built is false if the program was compiled without it.
func Files() (files fs.FS, built bool) {
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		return nil, false
	}
	_, err = fs.Stat(files, "index.html")
	return files, err == nil
}
