package main

import (
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/core/material"
)

// materialReport is a row of the table with what is computed from it.
type materialReport struct {
	material.Material
	CriticalAngle material.Range `json:"criticalAngle"`
}

func reportMaterial(m material.Material) materialReport {
	return materialReport{m, material.Range{
		Low:  material.CriticalAngle(m.RefractiveIndex.High),
		High: material.CriticalAngle(m.RefractiveIndex.Low),
	}}
}

func materialCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   "material [NAME]",
		Short: "The material table, or one material of it",
		RunE: func(c *cobra.Command, args []string) error {
			rows := material.All()
			if name := strings.Join(args, " "); name != "" {
				m, ok := material.Find(name)
				if !ok {
					return fail("no material is called %q; \"cressa material\" lists them all", name)
				}
				rows = []material.Material{m}
			}
			reports := make([]materialReport, len(rows))
			for i, m := range rows {
				reports[i] = reportMaterial(m)
			}
			if !asJSON {
				return printMaterials(c.OutOrStdout(), reports)
			}
			if len(args) > 0 {
				return printJSON(c.OutOrStdout(), reports[0])
			}
			return printJSON(c.OutOrStdout(), map[string]any{"materials": reports})
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	return c
}

func printMaterials(w io.Writer, rows []materialReport) error {
	out := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	fmt.Fprintln(out, "MATERIAL\tINDEX\tCRITICAL ANGLE\tOPTIC\tBIREFRINGENCE\tDISPERSION\tSG\tHARDNESS\tCLEAVAGE\tPOLISH\tHEAT\tSOLVENT\tDUST")
	for _, m := range rows {
		fmt.Fprintf(out, "%s\t%s\t%s°\t%s\t%.3f\t%s\t%.2f\t%s\t%s\t%s\t%s\t%s\t%s\n", m.Name, span(m.RefractiveIndex, 3), span(m.CriticalAngle, 1),
			m.Optic, m.Birefringence, orDash(float64(m.Dispersion)), m.SG, span(m.Hardness, 1), m.Cleavage, m.Polish, m.Heat, m.Solvent, m.Dust)
	}
	return out.Flush()
}

// span prints a range with the given digits, a single figure where it is one.
func span(r material.Range, digits int) string {
	if r.Low == r.High {
		return fmt.Sprintf("%.*f", digits, r.Low)
	}
	return fmt.Sprintf("%.*f–%.*f", digits, r.Low, digits, r.High)
}

// orDash prints a figure to a thousandth, a dash where it is not known.
func orDash(v float64) string {
	if v == 0 {
		return "–"
	}
	return fmt.Sprintf("%.3f", v)
}
