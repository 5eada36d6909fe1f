package main

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/gear"
)

type regearTier struct {
	Name      string          `json:"name"`
	Positions []gear.Position `json:"positions"`
}

type regearReport struct {
	Turn         float64      `json:"turn"`
	LargestCheat float64      `json:"largestCheat"`
	Tiers        []regearTier `json:"tiers"`
}

func regearCommand() *cobra.Command {
	var asJSON bool
	var teeth int
	var turn string
	c := &cobra.Command{
		Use:   "regear FILE --gear TEETH",
		Short: "The same stone on another gear, in teeth and cheats",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if err := checkTeeth("--gear", teeth); err != nil {
				return err
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			r := regearReport{Tiers: []regearTier{}}
			if turn == "best" {
				r.Turn = stone.BestTurn(teeth).Turn
			} else if r.Turn, err = diagram.ParseNumber(turn); err != nil {
				return fmt.Errorf("--turn takes best or degrees, not %q", turn)
			}
			turns := cutting.Together(r.Turn)
			r.LargestCheat = stone.LargestCheat(teeth, turns)
			for no, positions := range stone.Positions(teeth, turns) {
				r.Tiers = append(r.Tiers, regearTier{stone.Diagram.Tiers[no].Name, positions})
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintf(out, "gear %d, the stone turned by %s°, largest cheat %s°\n", teeth, short(r.Turn), short(r.LargestCheat))
			for _, t := range r.Tiers {
				fmt.Fprintf(out, "%s\t%s\n", t.Name, dials(t.Positions))
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().IntVar(&teeth, "gear", 0, "`TEETH` of the other gear")
	c.Flags().StringVar(&turn, "turn", "best", "turn of the stone on its dop: best, or `DEG`")
	_ = c.MarkFlagRequired("gear")
	return c
}

type gearReport struct {
	Teeth        int     `json:"teeth"`
	LargestCheat float64 `json:"largestCheat"`
	Turn         float64 `json:"turn"`
}

func gearsCommand() *cobra.Command {
	var asJSON bool
	var own []int
	c := &cobra.Command{
		Use:   "gears FILE --own TEETH,TEETH,…",
		Short: "Rank the gears you own by the cheats a diagram needs on them",
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
			reports := []gearReport{}
			for _, fit := range stone.RankGears(own) {
				reports = append(reports, gearReport{fit.Teeth, fit.LargestCheat, fit.Turn})
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), map[string]any{"gears": reports})
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintln(out, "GEAR\tLARGEST CHEAT\tTURN")
			for _, r := range reports {
				fmt.Fprintf(out, "%d\t%s°\t%s°\n", r.Teeth, short(r.LargestCheat), short(r.Turn))
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().IntSliceVar(&own, "own", nil, "the `TEETH` of each gear you own")
	_ = c.MarkFlagRequired("own")
	return c
}

func checkTeeth(flag string, teeth int) error {
	if teeth < 1 || teeth > diagram.MaxGear {
		return fmt.Errorf("%s takes from 1 to %d teeth, not %d", flag, diagram.MaxGear, teeth)
	}
	return nil
}

// readAndCut reads a diagram and cuts all of it.
func readAndCut(c *cobra.Command, name string) (*cutting.Stone, error) {
	d, err := readDiagram(name, c.InOrStdin())
	if err != nil {
		return nil, err
	}
	return cut(name, d, "")
}

// dials prints positions as a cutter reads them: tooth, and the cheat where there is one.
func dials(positions []gear.Position) string {
	words := make([]string, len(positions))
	for i, p := range positions {
		words[i] = strconv.Itoa(p.Tooth)
		if p.Cheat != 0 {
			words[i] += fmt.Sprintf("(%+.2f°)", p.Cheat)
		}
	}
	return strings.Join(words, " ")
}

// short prints degrees to a thousandth.
func short(v float64) string { return diagram.FormatNumber(math.Round(v*1000) / 1000) }
