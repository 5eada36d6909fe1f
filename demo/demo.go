// Package demo holds the diagrams that ship with the application and the records
// of a small workshop that cuts donor gifts for a planetarium. Its people, places
// and figures are made up.
package demo

import (
	"context"
	"embed"
	"fmt"
	"io/fs"

	"cressa/core/diagram"
	"cressa/formats"
	"cressa/workshop"
)

//go:embed diagrams/*.cressa.json
var files embed.FS

// Diagrams returns the starter diagrams by their names.
func Diagrams() (map[string]*diagram.Diagram, error) {
	names, err := fs.Glob(files, "diagrams/*")
	if err != nil {
		return nil, err
	}
	out := map[string]*diagram.Diagram{}
	for _, name := range names {
		data, err := files.ReadFile(name)
		if err != nil {
			return nil, err
		}
		d, mistakes := formats.ReadDiagram(data)
		if len(mistakes) > 0 {
			return nil, fmt.Errorf("%s: line %d: %w", name, mistakes[0].Line, mistakes[0].Problem)
		}
		out[d.Name] = d
	}
	return out, nil
}

// AddStarters puts the starter diagrams into a library.
func AddStarters(ctx context.Context, w *workshop.Workshop) error {
	diagrams, err := Diagrams()
	if err != nil {
		return err
	}
	for _, d := range diagrams {
		if err := w.AddStarter(ctx, d); err != nil {
			return err
		}
	}
	return nil
}
