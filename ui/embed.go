// Package ui embeds the built interface.
package ui

import (
	"embed"
	"io/fs"
)

// The build fills dist; the placeholder lets the module build without it.
//
//go:embed all:dist
var dist embed.FS

// Files returns the built files, index.html at the top.
func Files() fs.FS {
	files, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the name is a constant that fs.ValidPath accepts
	}
	return files
}
