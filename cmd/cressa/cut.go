package main

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/formats"
	"cressa/words"
)

func cutCommand() *cobra.Command {
	var asJSON, planes bool
	var upto string
	c := &cobra.Command{
		Use:   "cut FILE",
		Short: "Solve a diagram and measure the stone it makes",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if planes && asJSON {
				return errors.New("--planes and --json exclude each other")
			}
			d, err := readDiagram(args[0], c.InOrStdin())
			if err != nil {
				return err
			}
			stone, err := cut(args[0], d, upto)
			if err != nil {
				return err
			}
			switch {
			case planes:
				return printPlanes(c.OutOrStdout(), stone)
			case asJSON:
				return printJSON(c.OutOrStdout(), cutReport(stone))
			}
			return printStone(c.OutOrStdout(), stone)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().BoolVar(&planes, "planes", false, "print one line a facet: nx ny nz d TIER@INDEX")
	c.Flags().StringVar(&upto, "upto", "", "solve only up to and with this `TIER`")
	return c
}

// readFile reads a file, - being standard input, and no more than a byte beyond so many: the reader of
// the format then says that it is too large.
func readFile(name string, in io.Reader, most int64) ([]byte, error) {
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, fail("%v", err)
		}
		defer file.Close()
		in = file
	}
	data, err := io.ReadAll(io.LimitReader(in, most+1))
	if err != nil {
		return nil, fail("%s: %v", name, err)
	}
	return data, nil
}

// readDiagram reads and checks a diagram file, - being standard input.
func readDiagram(name string, in io.Reader) (*diagram.Diagram, error) {
	data, err := readFile(name, in, formats.MaxDiagramBytes)
	if err != nil {
		return nil, err
	}
	d, mistakes := formats.ReadDiagram(data)
	if len(mistakes) > 0 {
		return nil, failure{words.Mistake(name, mistakes[0])}
	}
	return d, nil
}

func cut(name string, d *diagram.Diagram, upto string) (*cutting.Stone, error) {
	var stone *cutting.Stone
	var err error
	if upto == "" {
		stone, err = cutting.Cut(d)
	} else {
		no := d.TierNo(upto)
		if no < 0 {
			return nil, fail("%s: no tier is called %q; --upto takes the name of a tier", name, upto)
		}
		stone, err = cutting.UpTo(d, no+1)
	}
	var p diagram.Problem
	if errors.As(err, &p) {
		place := ""
		if at := words.Place(p); at != "" {
			place = ", " + at
		}
		return nil, fail("%s%s: %s", name, place, words.Problem(p))
	}
	return stone, err
}

type tierReport struct {
	Name      string    `json:"name"`
	Distances []float64 `json:"distances"`
	Azimuths  []float64 `json:"azimuths"`
}

type warningReport struct {
	Tier    string `json:"tier"`
	Message string `json:"message"`
}

type report struct {
	Measures cutting.Measures `json:"measures"`
	Tiers    []tierReport     `json:"tiers"`
	Warnings []warningReport  `json:"warnings"`
}

func cutReport(s *cutting.Stone) report {
	r := report{Measures: s.Measures(), Tiers: []tierReport{}, Warnings: []warningReport{}}
	for _, f := range s.Facets {
		if f.Place == 0 {
			r.Tiers = append(r.Tiers, tierReport{Name: s.Diagram.Tiers[f.Tier].Name})
		}
		t := &r.Tiers[len(r.Tiers)-1]
		t.Distances = append(t.Distances, f.Plane.D)
		t.Azimuths = append(t.Azimuths, f.Azimuth)
	}
	for _, w := range s.Warnings {
		r.Warnings = append(r.Warnings, warningReport{w.Tier, words.Problem(w)})
	}
	return r
}

func printJSON(w io.Writer, v any) error {
	data, err := json.MarshalIndent(v, "", "  ")
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(w, "%s\n", data)
	return err
}

// printPlanes prints the planes of the facets that are on the stone.
func printPlanes(w io.Writer, s *cutting.Stone) error {
	out := bufio.NewWriter(w)
	for i, f := range s.Facets {
		if s.Solid().Face(i) == nil {
			continue
		}
		n := f.Plane.Normal
		fmt.Fprintf(out, "%.15g %.15g %.15g %.15g %s@%s\n", n.X, n.Y, n.Z, f.Plane.D,
			s.Diagram.Tiers[f.Tier].Name, diagram.FormatNumber(f.Index))
	}
	return out.Flush()
}

func printStone(w io.Writer, s *cutting.Stone) error {
	d := s.Diagram
	out := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	m := s.Measures()
	fmt.Fprintf(out, "%s, gear %d, index %s\n\n", d.Name, d.Gear, diagram.FormatNumber(d.RefractiveIndex))
	scale := words.Scale{Width: m.Width}
	fmt.Fprintln(out, "TIER\tANGLE\tINDEX\tSTOP")
	for _, f := range s.Facets {
		if f.Place == 0 {
			t := d.Tiers[f.Tier]
			fmt.Fprintf(out, "%s\t%s°\t%s\t%s\n", t.Name, diagram.FormatNumber(t.Angle), words.Indexes(t.Indexes), words.Stop(t, d.Gear, scale))
		}
	}
	fmt.Fprintf(out, "\nfacets\t%d\n", m.Facets)
	rows := []struct {
		name  string
		value *float64
	}{
		{"length/width", &m.LengthWidth}, {"height/width", &m.HeightWidth}, {"crown/width", m.CrownHeight},
		{"girdle/width, thinnest", m.GirdleMin}, {"girdle/width, thickest", m.GirdleMax}, {"pavilion/width", m.PavilionDepth}, {"table/width", m.TableWidth},
		{"volume/width³", &m.VolumeFactor},
	}
	for _, row := range rows {
		if row.value != nil {
			fmt.Fprintf(out, "%s\t%.4f\n", row.name, *row.value)
		}
	}
	for _, warning := range s.Warnings {
		fmt.Fprintf(out, "\nwarning\t%s\n", joinPlace(warning))
	}
	return out.Flush()
}

func joinPlace(p diagram.Problem) string {
	if place := words.Place(p); place != "" {
		return place + ": " + words.Problem(p)
	}
	return words.Problem(p)
}
