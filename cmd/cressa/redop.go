package main

import (
	"fmt"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/formats"
)

type redopFacet struct {
	Tier  string  `json:"tier"`
	Index float64 `json:"index"`
	Angle float64 `json:"angle"`
	Dial  float64 `json:"dial"`
	Tooth int     `json:"tooth"`
	Cheat float64 `json:"cheat"`
}

type redopReport struct {
	Tilt float64 `json:"tilt"`
	// LeansTo is nil where the stone does not lean.
	LeansTo   *float64     `json:"leansTo"`
	Twist     float64      `json:"twist"`
	Residuals []float64    `json:"residuals"`
	Facets    []redopFacet `json:"facets"`
}

// maxReadingsBytes is far more than anybody reads off a machine.
const maxReadingsBytes = 1 << 20

func redopCommand() *cobra.Command {
	var asJSON bool
	var side, readings string
	c := &cobra.Command{
		Use:   "redop FILE --side SIDE --readings CSV",
		Short: "The settings of a stone that has moved on its dop",
		Long: "Finds how a stone sits from facets that were brought flush with the lap, and tells where every facet of\n" +
			"that side is dialled now. The readings are a table with the columns angle,index,foundAngle,foundIndex.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			up := diagram.Part(side)
			if up != diagram.Pavilion && up != diagram.Crown {
				return fmt.Errorf("--side takes pavilion or crown, not %q", side)
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			data, err := readFile(readings, c.InOrStdin(), maxReadingsBytes)
			if err != nil {
				return err
			}
			read, err := formats.ReadFlush(data, stone.Diagram.Gear)
			if err != nil {
				return fail("%s: %v", readings, err)
			}
			got, err := analysis.Redop(stone, up, read)
			if err != nil {
				return fail("%s: %v", readings, err)
			}
			r := redopReport{Tilt: got.Tilt, Twist: got.Twist, Residuals: got.Residuals, Facets: []redopFacet{}}
			if got.Towards > 0 {
				r.LeansTo = &got.Towards
			}
			for _, f := range got.Facets {
				r.Facets = append(r.Facets, redopFacet{f.Tier, f.Index, f.Angle, f.Setting.Index, f.Tooth, f.Cheat})
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintf(out, "leans %.2f° to index %.2f, twisted %+.2f°\n", got.Tilt, got.Towards, got.Twist)
			fmt.Fprintln(out, "FACET\tANGLE\tINDEX\tTOOTH\tCHEAT")
			for _, f := range r.Facets {
				fmt.Fprintf(out, "%s@%s\t%.2f°\t%.2f\t%d\t%+.2f°\n", f.Tier, short(f.Index), f.Angle, f.Dial, f.Tooth, f.Cheat)
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().StringVar(&side, "side", "", "the side that is up, `SIDE` being pavilion or crown")
	c.Flags().StringVar(&readings, "readings", "", "the readings, a `CSV` file")
	_ = c.MarkFlagRequired("side")
	_ = c.MarkFlagRequired("readings")
	return c
}
