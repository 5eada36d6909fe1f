package main

import (
	"errors"
	"fmt"
	"io"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/fit"
	"cressa/core/rough"
	"cressa/formats"
	"cressa/words"
)

type placeReport struct {
	// Scale is in mm for a design unit, Rotation nine numbers row by row, Offset in mm: a point v of the
	// diagram lies at Rotation·(Scale·v) + Offset in the piece.
	Scale    float64    `json:"scale"`
	Rotation [9]float64 `json:"rotation"`
	Offset   [3]float64 `json:"offset"`
}

type limitReport struct {
	Kind fit.Kind `json:"kind"`
	Name string   `json:"name"`
}

type fitReport struct {
	Diagram string  `json:"diagram"`
	Width   float64 `json:"width"`
	Length  float64 `json:"length"`
	Height  float64 `json:"height"`
	Carat   float64 `json:"carat"`
	Yield   float64 `json:"yield"`
	// Place is nil where the flaws leave no room.
	Place     *placeReport  `json:"place"`
	LimitedBy []limitReport `json:"limitedBy"`
	// Bound is a width in mm that no turn can exceed.
	Bound float64 `json:"bound"`
}

type fitsReport struct {
	Fits     []fitReport `json:"fits"`
	Warnings []string    `json:"warnings"`
}

func reportFit(f *analysis.Fitted) fitReport {
	r := fitReport{
		Diagram: f.Shape.Name, Width: f.Width, Length: f.Length, Height: f.Height,
		Carat: f.Carat, Yield: f.Yield, Bound: f.Bound, LimitedBy: []limitReport{},
	}
	for _, l := range f.LimitedBy {
		r.LimitedBy = append(r.LimitedBy, limitReport(l))
	}
	if f.Scale > 0 {
		r.Place = &placeReport{f.Scale, f.Turn.Numbers(), [3]float64{f.Offset.X, f.Offset.Y, f.Offset.Z}}
	}
	return r
}

func fitCommand() *cobra.Command {
	var asJSON bool
	var roughFile string
	var allowance float64
	c := &cobra.Command{
		Use:   "fit --rough FILE DIAGRAM…",
		Short: "The largest stone of each diagram in a piece of rough",
		Long: "Finds the size, the turn and the place of the largest stone of each diagram in a piece of rough\n" +
			"(*.rough.json), clear of its flaws. The heaviest comes first.",
		Args: cobra.MinimumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if !(allowance >= 0 && allowance <= rough.MaxLength) {
				return fmt.Errorf("--allowance takes mm from 0 to %d, not %v", rough.MaxLength, allowance)
			}
			piece, err := readPiece(roughFile, c.InOrStdin())
			if err != nil {
				return err
			}
			var shapes []*fit.Shape
			for _, name := range args {
				stone, err := readAndCut(c, name)
				if err != nil {
					return err
				}
				shapes = append(shapes, fit.NewShape(stone))
			}
			fits, err := analysis.LargestOf(c.Context(), piece, shapes, fit.Search{Allowance: allowance})
			if errors.As(err, &fit.NoRoom{}) {
				return fail("%s: an allowance of %v mm leaves nothing of the piece; give a smaller --allowance, or move the saw cuts", roughFile, allowance)
			} else if err != nil {
				return err
			}
			r := fitsReport{Fits: []fitReport{}, Warnings: []string{}}
			for i := range fits {
				r.Fits = append(r.Fits, reportFit(&fits[i]))
			}
			if off := words.FarOff(piece); off != "" {
				r.Warnings = append(r.Warnings, off)
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			return printFits(c.OutOrStdout(), r)
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().StringVar(&roughFile, "rough", "", "the piece of rough, a *.rough.json `FILE`")
	c.Flags().Float64Var(&allowance, "allowance", fit.UsualAllowance, "`MM` taken off all round")
	_ = c.MarkFlagRequired("rough")
	return c
}

// readPiece reads a piece of rough and works its solid out, - being standard input.
func readPiece(name string, in io.Reader) (*rough.Piece, error) {
	data, err := readFile(name, in, formats.MaxRoughBytes)
	if err != nil {
		return nil, err
	}
	r, mistakes := formats.ReadRough(data)
	if len(mistakes) > 0 {
		return nil, failure{words.Mistake(name, mistakes[0])}
	}
	piece, err := r.Work()
	var p diagram.Problem
	if errors.As(err, &p) {
		return nil, failure{words.Mistake(name, formats.RoughMistake(data, p))}
	}
	return piece, err
}

func printFits(w io.Writer, r fitsReport) error {
	out := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	fmt.Fprintln(out, "DIAGRAM\tWIDTH\tLENGTH\tHEIGHT\tWEIGHT\tYIELD\tLIMITED BY")
	for _, f := range r.Fits {
		if f.Place == nil {
			fmt.Fprintf(out, "%s\tthe flaws leave no room\n", f.Diagram)
			continue
		}
		fmt.Fprintf(out, "%s\t%.2f mm\t%.2f mm\t%.2f mm\t%.2f ct\t%.0f %%\t%s\n",
			f.Diagram, f.Width, f.Length, f.Height, f.Carat, 100*f.Yield, limits(f.LimitedBy))
	}
	for _, warning := range r.Warnings {
		fmt.Fprintf(out, "\nwarning\t%s\n", warning)
	}
	return out.Flush()
}

// limits names a few of what a stone touches, flaws and saw cuts first.
func limits(all []limitReport) string {
	const most = 4
	text, named := "", 0
	for _, kind := range []fit.Kind{fit.Flaw, fit.Trim, fit.Face} {
		for _, l := range all {
			if l.Kind != kind {
				continue
			}
			if named++; named > most {
				return fmt.Sprintf("%s and %d more", text, len(all)-most)
			}
			if text != "" {
				text += ", "
			}
			text += l.Name
		}
	}
	return text
}
