package main

import (
	"fmt"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/core/cutting"
	"cressa/core/mending"
)

type slipReport struct {
	Kind  mending.SlipKind `json:"kind"`
	Tiers []string         `json:"tiers"`
	// By is nil where nothing is off by a figure.
	By       *float64         `json:"by"`
	Measures cutting.Measures `json:"measures"`
}

type slipsReport struct {
	Slips []slipReport `json:"slips"`
}

func slipsCommand() *cobra.Command {
	var asJSON bool
	var own []int
	c := &cobra.Command{
		Use:   "slips FILE",
		Short: "The stones that come of one slip, for one that does not look like its diagram",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			for _, teeth := range own {
				if err := checkTeeth("--own", teeth); err != nil {
					return err
				}
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			slips, err := mending.Slips(c.Context(), stone, own)
			if err != nil {
				return err
			}
			r := slipsReport{Slips: []slipReport{}}
			for _, s := range slips {
				r.Slips = append(r.Slips, slipReport{s.Kind, s.Tiers, s.By, s.Stone.Measures()})
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintln(out, "SLIP\tTIERS\tOFF BY\tFACETS\tLENGTH TO WIDTH")
			for _, s := range r.Slips {
				by := ""
				if s.By != nil {
					by = fmt.Sprintf("%+g", *s.By)
				}
				fmt.Fprintf(out, "%s\t%s\t%s\t%d\t%.3f\n", s.Kind, strings.Join(s.Tiers, " "), by, s.Measures.Facets, s.Measures.LengthWidth)
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().IntSliceVar(&own, "own", nil, "the `GEARS` that are owned, apart by commas")
	return c
}
