// Package demo holds the diagrams that ship with the application and the records
// of a small workshop that cuts donor gifts for a planetarium. Its people, places
// and figures are made up.
package demo

import (
	"context"
	"embed"
	"fmt"
	"io/fs"
	"maps"
	"slices"

	"cressa/core/diagram"
	"cressa/formats"
	"cressa/workshop"
)

//go:embed diagrams/*.cressa.json
var files embed.FS

// Diagrams returns the starter diagrams by their names. It returns an error where a file
// that ships with the program cannot be read.
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

// starters names the set of diagrams that ships. A later set gets another name.
const starters = "starters-1"

// FillLibrary puts the starter diagrams into a library, once. It returns the errors of
// Diagrams and of the store.
func FillLibrary(ctx context.Context, w *workshop.Workshop) error {
	all, err := Diagrams()
	if err != nil {
		return err
	}
	var list []*diagram.Diagram
	for _, name := range slices.Sorted(maps.Keys(all)) {
		list = append(list, all[name])
	}
	return w.Fill(ctx, starters, list)
}
