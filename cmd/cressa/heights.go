package main

import (
	"fmt"
	"math"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/heights"
)

type tierHeight struct {
	Name string `json:"name"`
	// Height is what the dial reads when the tier is finished and SD its standard deviation, in mm, nil where
	// the readings do not tell. Read tells that a reading of it was given.
	Height *float64 `json:"height"`
	SD     *float64 `json:"sd"`
	Read   bool     `json:"read"`
}

type heightsReport struct {
	// Length and Zero are in mm, nil where the readings leave them unknown.
	Length *float64     `json:"length"`
	Zero   *float64     `json:"zero"`
	Tiers  []tierHeight `json:"tiers"`
}

func heightsCommand() *cobra.Command {
	var asJSON bool
	var width, sd float64
	var readings []string
	c := &cobra.Command{
		Use:   "heights FILE --width MM --reading TIER[@INDEX]=MM …",
		Short: "What the height dial will read, from readings of finished tiers",
		Long: "Fits the length to the stone and the dial's zero to readings of finished tiers of one side, and tells for\n" +
			"every other tier of that side what the dial reads when it is finished, and how sure that is. Two readings\n" +
			"at angles far apart tell most. A tier may be read more than once.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			switch {
			case !(width > 0 && width <= 1000):
				return fmt.Errorf("--width takes millimetres above 0, up to 1000, not %v", width)
			case !(sd > 0 && sd <= 1):
				return fmt.Errorf("--sd takes millimetres above 0, up to 1, not %v", sd)
			}
			var read []analysis.HeightRead
			for _, text := range readings {
				r, err := parseHeightRead(text)
				if err != nil {
					return err
				}
				read = append(read, r)
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			got, err := analysis.HeightsOf(stone, width/stone.Measures().Width, read, sd)
			if err != nil {
				return fail("%s: --reading: %v", args[0], err)
			}
			r := heightsReport{Length: got.Length, Zero: got.Zero, Tiers: []tierHeight{}}
			for _, t := range got.Tiers {
				r.Tiers = append(r.Tiers, tierHeight{t.Name, t.MM, t.SD, t.Read})
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			if r.Length != nil {
				fmt.Fprintf(out, "length %.3f mm, zero %.3f mm\n", *r.Length, *r.Zero)
			}
			fmt.Fprintln(out, "TIER\tDIAL\tSURE TO")
			for _, t := range r.Tiers {
				switch {
				case t.Height == nil:
					fmt.Fprintf(out, "%s\tnot known\t\n", t.Name)
				case t.Read:
					fmt.Fprintf(out, "%s\t%.3f mm\tread\n", t.Name, *t.Height)
				default:
					fmt.Fprintf(out, "%s\t%.3f mm\t± %.3f mm\n", t.Name, *t.Height, *t.SD)
				}
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().Float64Var(&width, "width", 0, "finished width in `MM`")
	c.Flags().Float64Var(&sd, "sd", heights.UsualSD, "`MM` by which a reading repeats")
	c.Flags().StringArrayVar(&readings, "reading", nil, "`TIER=MM` that the dial read when the tier was finished, or TIER@INDEX=MM")
	_ = c.MarkFlagRequired("width")
	_ = c.MarkFlagRequired("reading")
	return c
}

// parseHeightRead reads "P1=48.16" or "P1@3=48.16".
func parseHeightRead(text string) (r analysis.HeightRead, err error) {
	name, figure, found := strings.Cut(text, "=")
	if !found {
		return r, fmt.Errorf("--reading takes TIER=MM or TIER@INDEX=MM, not %q", text)
	}
	if r.Of, err = diagram.ParseRef(name); err != nil {
		return r, fmt.Errorf("--reading %q: %w", text, err)
	}
	if r.MM, err = diagram.ParseNumber(figure); err != nil || math.Abs(r.MM) > 10000 {
		return r, fmt.Errorf("--reading %q: give the dial's reading in mm after the =", text)
	}
	return r, nil
}
