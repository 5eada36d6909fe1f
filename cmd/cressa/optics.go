package main

import (
	"fmt"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"cressa/core/light"
	"cressa/core/material"
)

type opticsReport struct {
	// CriticalAngle is in degrees; the shares are means over the rays that hit the stone.
	CriticalAngle float64 `json:"criticalAngle"`
	LightReturn   float64 `json:"lightReturn"`
	Leak          float64 `json:"leak"`
	HeadShadow    float64 `json:"headShadow"`
	Window        float64 `json:"window"`
	Glare         float64 `json:"glare"`
	Frosted       float64 `json:"frosted"`
	Rays          int     `json:"rays"`
	Segments      int     `json:"segments"`
	RaysPerSecond float64 `json:"raysPerSecond"`
}

func opticsCommand() *cobra.Command {
	var asJSON bool
	var model, girdle string
	e := light.Experiment{}
	c := &cobra.Command{
		Use:   "optics FILE",
		Short: "What an eye above the stone sees of its light",
		Long: "Follows rays from the eye through the stone and tells what share of their light returns from above,\n" +
			"leaks below or ends at the head that looks. The figures compare stones; they do not promise beauty.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			switch {
			case c.Flags().Changed("ri") && !(e.RefractiveIndex > 1 && e.RefractiveIndex <= 4):
				return fmt.Errorf("--ri takes a refractive index over 1, up to 4, not %v", e.RefractiveIndex)
			case model != string(light.Uniform) && model != string(light.Cosine) && model != string(light.Head):
				return fmt.Errorf("--model takes uniform, cosine or head, not %q", model)
			case girdle != "polished" && girdle != "frosted":
				return fmt.Errorf("--girdle takes polished or frosted, not %q", girdle)
			case e.Grid < 2 || e.Grid > 2048:
				return fmt.Errorf("--grid takes from 2 to 2048 rays, not %d", e.Grid)
			case !(e.Tilt >= 0 && e.Tilt < 90):
				return fmt.Errorf("--tilt takes degrees from 0 to under 90, not %v", e.Tilt)
			case !(e.To >= -360 && e.To <= 360):
				return fmt.Errorf("--tilt-to takes an azimuth in degrees, not %v", e.To)
			case !(e.HeadAngle >= 0 && e.HeadAngle <= 90):
				return fmt.Errorf("--head takes degrees from 0 to 90, not %v", e.HeadAngle)
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			if !c.Flags().Changed("ri") {
				e.RefractiveIndex = stone.Diagram.RefractiveIndex
			}
			e.FrostedGirdle = girdle == "frosted"
			ready := light.Of(stone)
			began := time.Now()
			f, err := ready.Trace(c.Context(), e)
			if err != nil {
				return err
			}
			r := opticsReport{
				CriticalAngle: material.CriticalAngle(e.RefractiveIndex), LightReturn: f.Return(light.Model(model)),
				Leak: f.Leak, HeadShadow: f.HeadShadow, Window: f.Window, Glare: f.Glare, Frosted: f.Frosted,
				Rays: f.Rays, Segments: f.Segments, RaysPerSecond: float64(f.Rays) / time.Since(began).Seconds(),
			}
			if asJSON {
				return printJSON(c.OutOrStdout(), r)
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			fmt.Fprintf(out, "critical angle\t%.2f°\n", r.CriticalAngle)
			for _, row := range []struct {
				name  string
				share float64
			}{
				{"light return, " + model, r.LightReturn}, {"leak", r.Leak}, {"head shadow", r.HeadShadow},
				{"window", r.Window}, {"glare", r.Glare}, {"frosted", r.Frosted},
			} {
				fmt.Fprintf(out, "%s\t%.2f %%\n", row.name, 100*row.share)
			}
			fmt.Fprintf(out, "rays\t%d\n", r.Rays)
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().Float64Var(&e.RefractiveIndex, "ri", 0, "refractive index `N`, the diagram's own without")
	c.Flags().StringVar(&model, "model", "uniform", "light that counts: uniform, cosine or head")
	c.Flags().Float64Var(&e.HeadAngle, "head", light.HeadAngle, "half-angle of the head in `DEG`")
	c.Flags().IntVar(&e.Grid, "grid", 256, "`G` rays across the larger extent, and down")
	c.Flags().Float64Var(&e.Tilt, "tilt", 0, "`DEG` that the stone is tilted")
	c.Flags().Float64Var(&e.To, "tilt-to", 0, "stone azimuth in `DEG` towards which the eye stands then")
	c.Flags().StringVar(&girdle, "girdle", "polished", "polished or frosted")
	return c
}
