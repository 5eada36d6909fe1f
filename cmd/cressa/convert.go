package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/diagram"
	"cressa/core/drawing"
	"cressa/core/polyhedron"
	"cressa/core/printed"
	"cressa/formats"
	"cressa/sheet"
	"cressa/words"
	"cressa/workshop"
)

func convertCommand() *cobra.Command {
	var paper string
	var single bool
	var width float64
	held := holding{}
	c := &cobra.Command{
		Use:   "convert IN OUT",
		Short: "Convert a diagram between the open formats, by extension",
		Long: "Reads .cressa.json, .csv, and convex solids as .obj, .stl and .ply; writes .cressa.json, .csv, .svg, .pdf\n" +
			"(the cutting sheet), .obj, .stl and .ply (the solid). A solid that comes in becomes tiers about the axis --up.\n" +
			"- is standard input or output, taken for .cressa.json.",
		Args: cobra.ExactArgs(2),
		RunE: func(c *cobra.Command, args []string) error {
			p, known := sheet.Papers[paper]
			if !known {
				return fmt.Errorf("--paper takes a4 or letter, not %q", paper)
			}
			if !(width > 0) {
				return fmt.Errorf("--width takes millimetres above 0, not %v", width)
			}
			if err := checkTeeth("--gear", held.gear); err != nil {
				return err
			}
			d, err := readAny(c.Context(), args[0], held, c.InOrStdin(), c.ErrOrStderr())
			if err != nil {
				return err
			}
			data, err := convert(args[0], args[1], d, p, single, width)
			if err != nil {
				return err
			}
			if args[1] == "-" {
				_, err = c.OutOrStdout().Write(data)
				return err
			}
			if err := os.WriteFile(args[1], data, 0o644); err != nil {
				return fail("%v; name another file to write", err)
			}
			return nil
		},
	}
	c.Flags().StringVar(&paper, "paper", "a4", "of a sheet: `a4|letter`")
	c.Flags().BoolVar(&single, "single", false, "a sheet on one page, where the tiers allow it")
	c.Flags().Float64Var(&width, "width", 10, "width of a solid that is written, in `MM`")
	c.Flags().Float64SliceVar(&held.up, "up", []float64{0, 0, 1}, "what points out of the table of a solid that is read: `X,Y,Z`")
	c.Flags().BoolVar(&held.apart, "apart", false, "keep faces of a solid that is read apart that nearly lie in one plane")
	c.Flags().BoolVar(&held.centroid, "centroid", false, "put the axis of a solid that is read through its centroid, not its origin")
	c.Flags().IntVar(&held.gear, "gear", 96, "`TEETH` of the gear for a solid that is read")
	c.Flags().Float64Var(&held.index, "ri", 1.54, "refractive index for a solid that is read")
	return c
}

// extension names the format of a file: what follows its first dot that belongs to one.
func extension(name string) string {
	if name == "-" {
		return ".json"
	}
	return strings.ToLower(filepath.Ext(name))
}

// holding says how a solid that is read is held on the dop.
type holding struct {
	up       []float64
	centroid bool
	apart    bool
	gear     int
	index    float64
}

// readSolid turns a convex solid into a diagram, and says aside what was changed for that.
func readSolid(ctx context.Context, name string, h holding, aside io.Writer) (*diagram.Diagram, error) {
	if len(h.up) != 3 || h.up[0] == 0 && h.up[1] == 0 && h.up[2] == 0 {
		return nil, fmt.Errorf("--up takes three numbers, such as 0,0,1")
	}
	data, err := os.ReadFile(name)
	if err != nil {
		return nil, fail("%v", err)
	}
	mesh, err := formats.ReadMesh(data)
	if err != nil {
		return nil, failAt(name, err)
	}
	shape, err := mesh.Shape(ctx, h.apart)
	if err != nil {
		return nil, failAt(name, err)
	}
	placed, err := shape.Place(ctx, polyhedron.Placing{
		Up: r3.Vec{X: h.up[0], Y: h.up[1], Z: h.up[2]}, ByCentroid: h.centroid, Gear: h.gear, RefractiveIndex: h.index,
		Name: strings.TrimSuffix(filepath.Base(name), filepath.Ext(name)),
	})
	if err != nil {
		return nil, failAt(name, err)
	}
	if n := shape.Merged.Faces; n > 0 {
		fmt.Fprintf(aside, "%s: %d faces were taken into the planes of others, from which they lean by up to %.2g°; --apart keeps them\n", name, n, shape.Merged.Degrees)
	}
	if placed.Moved >= 0.001 {
		fmt.Fprintf(aside, "%s: facets were turned by up to %.2g° to share their tier's angle and stand on their teeth\n", name, placed.Moved)
	}
	return placed.Stone.Diagram, nil
}

// readAny reads a diagram file, a table or a solid; aside is where remarks go.
func readAny(ctx context.Context, name string, h holding, in io.Reader, aside io.Writer) (*diagram.Diagram, error) {
	switch extension(name) {
	case ".json":
		return readDiagram(name, in)
	case ".obj", ".stl", ".ply":
		return readSolid(ctx, name, h, aside)
	case ".csv":
	default:
		return nil, fail("%s: this program reads .cressa.json, .csv, .obj, .stl and .ply; rename the file, or paste its table in the library", name)
	}
	data, err := os.ReadFile(name)
	if err != nil {
		return nil, fail("%v", err)
	}
	table, mistake := formats.ReadTable(string(data), formats.Reading{})
	if mistake != nil {
		return nil, failure{words.Mistake(name, *mistake)}
	}
	d, problems := printed.Diagram(table.Draft)
	if len(problems) > 0 {
		m := formats.Mistake{Line: 1, Column: 1, Problem: problems[0]}
		for _, l := range table.Lines {
			if l.Tier == m.TierNo && m.TierNo >= 0 {
				m.Line = l.No
				break
			}
		}
		return nil, failure{words.Mistake(name, m)}
	}
	return d, nil
}

func convert(in, out string, d *diagram.Diagram, paper sheet.Paper, single bool, width float64) ([]byte, error) {
	switch extension(out) {
	case ".json":
		return formats.WriteDiagram(d)
	case ".csv":
		return formats.WriteCSV(d)
	}
	stone, err := cut(in, d, "")
	if err != nil {
		return nil, err
	}
	mm := width / stone.Measures().Width
	pages := func() []drawing.Page {
		return sheet.Pages(sheet.OfDiagram(stone, workshop.DefaultMachine()), paper, single, formats.MeasureText)
	}
	switch extension(out) {
	case ".svg":
		return formats.WriteSVG(d.Name, pages()), nil
	case ".pdf":
		return formats.WritePDF(d.Name, pages())
	case ".obj":
		return formats.WriteOBJ(d.Name, stone.Solid(), mm, stone.FacetName), nil
	case ".ply":
		return formats.WritePLY(d.Name, stone.Solid(), mm), nil
	case ".stl":
		return formats.WriteSTL(d.Name, stone.Solid(), mm), nil
	}
	return nil, fail("%s: this program writes .cressa.json, .csv, .svg, .pdf, .obj, .stl and .ply; choose one of them", out)
}
