package main

import (
	"errors"
	"fmt"
	"os"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/analysis"
	"cressa/core/angles"
	"cressa/core/diagram"
	"cressa/formats"
)

type movedTier struct {
	Name string  `json:"name"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

type retargetReport struct {
	PavilionFactor float64     `json:"pavilionFactor"`
	CrownFactor    float64     `json:"crownFactor"`
	Tiers          []movedTier `json:"tiers"`
	// MeetErrorMax is the largest gap of any meet, in design units.
	MeetErrorMax float64          `json:"meetErrorMax"`
	Diagram      *diagram.Diagram `json:"diagram"`
}

func retargetCommand() *cobra.Command {
	var asJSON bool
	var index, margin, crown, step float64
	var to string
	c := &cobra.Command{
		Use:   "retarget FILE --ri N",
		Short: "Move the angles to another refractive index",
		Long: "Moves every angle by the tangent ratio, so that the shallowest pavilion tier stands the margin above\n" +
			"the critical angle, and solves the stops again. Without --margin it keeps its own, at least 1 degree.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			switch {
			case !(index > 1 && index <= 4):
				return fmt.Errorf("--ri takes a refractive index over 1, up to 4, not %v", index)
			case !(crown > 0 && crown <= 10):
				return fmt.Errorf("--crown-factor takes a factor over 0, up to 10, not %v", crown)
			case !(step >= 0 && step <= 5):
				return fmt.Errorf("--round takes a step up to 5 degrees, not %v", step)
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			target := angles.Target{RefractiveIndex: index, CrownFactor: crown}
			if c.Flags().Changed("margin") {
				target.Margin = &margin
			}
			ask := analysis.AnglesAsked{Target: &target}
			if step > 0 {
				ask.Settable = angles.Steps(step)
			}
			moved, err := analysis.MoveAngles(c.Context(), stone, ask)
			if err != nil {
				return failAt(args[0], err)
			}
			done := moved.After
			r := retargetReport{
				PavilionFactor: moved.PavilionFactor, CrownFactor: moved.CrownFactor, Tiers: []movedTier{},
				MeetErrorMax: moved.WidestGap(), Diagram: done.Diagram,
			}
			for _, t := range moved.Tiers() {
				r.Tiers = append(r.Tiers, movedTier{t.Name, t.From, t.To})
			}
			if to != "" {
				data, err := formats.WriteDiagram(done.Diagram)
				if err != nil {
					return err
				}
				if err := os.WriteFile(to, data, 0o644); err != nil {
					return fail("%v; name another file to write", err)
				}
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintf(out, "pavilion × %.6f, crown × %.6f, shallowest %s° above the critical angle\n\nTIER\tFROM\tTO\n", r.PavilionFactor, r.CrownFactor, short(moved.Margin))
			for _, t := range r.Tiers {
				fmt.Fprintf(out, "%s\t%s°\t%.4f°\n", t.Name, diagram.FormatNumber(t.From), t.To)
			}
			fmt.Fprintf(out, "\nlargest gap of a meet\t%.2g of the width\n", r.MeetErrorMax/done.Measures().Width)
			for _, p := range moved.Warnings {
				fmt.Fprintf(out, "\nwarning\t%s\n", joinPlace(p))
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().Float64Var(&index, "ri", 0, "the other refractive index, `N`")
	c.Flags().Float64Var(&margin, "margin", 0, "margin of the shallowest pavilion tier in `DEG`")
	c.Flags().Float64Var(&crown, "crown-factor", 1, "`K` that the crown is stretched by")
	c.Flags().Float64Var(&step, "round", 0, "round the angles to a `STEP` in degrees")
	c.Flags().StringVar(&to, "out", "", "write the diagram to a `FILE`")
	_ = c.MarkFlagRequired("ri")
	return c
}

// failAt tells a problem of a diagram with its file and tier.
func failAt(name string, err error) error {
	var p diagram.Problem
	if errors.As(err, &p) {
		return fail("%s: %s", name, joinPlace(p))
	}
	return err
}
