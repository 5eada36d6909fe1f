package main

import (
	"fmt"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/analysis"
	"cressa/core/tolerance"
	"cressa/workshop"
)

type toleranceMeet struct {
	Facets []string `json:"facets"`
	P50    float64  `json:"p50"`
	P95    float64  `json:"p95"`
}

type tierShare struct {
	Name  string  `json:"name"`
	Share float64 `json:"share"`
}

type toleranceReport struct {
	Meets []toleranceMeet `json:"meets"`
	// Worst is the largest P95.
	Worst  float64     `json:"worst"`
	ByTier []tierShare `json:"byTier"`
}

// What a machine repeats where nothing is said, in degrees and mm.
const usualAngle, usualIndex, usualDepth = workshop.UsualRepeatability, 0.05, 0.005

func toleranceCommand() *cobra.Command {
	var asJSON bool
	var width, angle, index, depth float64
	var trials int
	var seed uint64
	c := &cobra.Command{
		Use:   "tolerance FILE --width MM",
		Short: "What a machine's repeatability does to the meets",
		Long: "Cuts the stone many times with errors of the given standard deviations and tells the gap of every meet\n" +
			"in µm: what half of the stones exceed, and one in twenty. What is not given is 0; without any of the\n" +
			"three they are those of an ordinary machine.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			switch {
			case !(width > 0 && width <= 1000):
				return fmt.Errorf("--width takes millimetres above 0, up to 1000, not %v", width)
			case !(angle >= 0 && angle <= 5 && index >= 0 && index <= 5 && depth >= 0 && depth <= 1):
				return fmt.Errorf("--angle and --index take degrees from 0 to 5, --depth mm from 0 to 1")
			case trials < 2 || trials > 100000:
				return fmt.Errorf("--trials takes from 2 to 100000, not %d", trials)
			}
			if angle == 0 && index == 0 && depth == 0 && !c.Flags().Changed("angle") && !c.Flags().Changed("index") && !c.Flags().Changed("depth") {
				angle, index, depth = usualAngle, usualIndex, usualDepth
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			ask := analysis.ErrorsAsked{Width: width, Angle: angle, Index: index, Depth: depth, Trials: trials, Seed: seed}
			got, err := analysis.MachineErrors(c.Context(), stone, ask, func(int, int) {})
			if err != nil {
				return err
			}
			r := toleranceReport{Meets: []toleranceMeet{}, ByTier: []tierShare{}}
			for _, m := range got.Meets {
				r.Meets, r.Worst = append(r.Meets, toleranceMeet{m.Facets, m.P50, m.P95}), max(r.Worst, m.P95)
			}
			for _, t := range got.ByTier {
				r.ByTier = append(r.ByTier, tierShare(t))
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintln(out, "MEET\tHALF\tONE IN TWENTY")
			for _, m := range r.Meets {
				fmt.Fprintf(out, "%s\t%.1f µm\t%.1f µm\n", strings.Join(m.Facets, " "), m.P50, m.P95)
			}
			fmt.Fprintln(out, "\nTIER\tSHARE OF THE WORST MEET")
			for _, t := range r.ByTier {
				fmt.Fprintf(out, "%s\t%.0f %%\n", t.Name, 100*t.Share)
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().Float64Var(&width, "width", 0, "finished width in `MM`")
	c.Flags().Float64Var(&angle, "angle", 0, "`DEG` by which an angle repeats")
	c.Flags().Float64Var(&index, "index", 0, "`DEG` by which an index repeats")
	c.Flags().Float64Var(&depth, "depth", 0, "`MM` by which a depth repeats")
	c.Flags().IntVar(&trials, "trials", tolerance.Usual, "`N` stones that are cut")
	c.Flags().Uint64Var(&seed, "seed", 1, "`S`: equal seeds give equal results")
	_ = c.MarkFlagRequired("width")
	return c
}
