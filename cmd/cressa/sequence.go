package main

import (
	"fmt"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/words"
)

type sequenceProblem struct {
	Tier    string `json:"tier"`
	Missing string `json:"missing"`
	MadeBy  string `json:"madeBy"`
}

type sequenceReport struct {
	Cuttable bool                    `json:"cuttable"`
	Problems []sequenceProblem       `json:"problems"`
	Free     []string                `json:"free"`
	Order    []string                `json:"order"`
	Stops    map[string]diagram.Stop `json:"stops"`
}

func sequenceCommand() *cobra.Command {
	var asJSON bool
	var girdle, table string
	c := &cobra.Command{
		Use:   "sequence FILE",
		Short: "Tell whether a diagram can be cut as written, and a better order",
		Long: "Tells which tier asks for a meet that is not there yet and which tier makes it, which tiers are\n" +
			"cut by size or by eye, and an order in which the stone can be cut with as few of these as there is.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			like := cutting.Preference{}
			for flag, to := range map[string]*cutting.When{"girdle": &like.Girdle, "table": &like.Table} {
				switch when := c.Flag(flag).Value.String(); when {
				case "drawn", "first", "last":
					*to = cutting.When(when)
				default:
					return fmt.Errorf("--%s takes drawn, first or last, not %q", flag, when)
				}
			}
			d, err := readDiagram(args[0], c.InOrStdin())
			if err != nil {
				return err
			}
			q := cutting.JudgeOrder(c.Context(), d, like)
			if asJSON {
				return printJSON(c.OutOrStdout(), sequenceOf(d, q))
			}
			out := tabwriter.NewWriter(c.OutOrStdout(), 0, 0, 2, ' ', 0)
			if q.Cuttable {
				fmt.Fprintln(out, "It can be cut as written.")
			}
			for _, p := range q.Problems {
				fmt.Fprintln(out, joinPlace(p))
			}
			if q.Status != cutting.Complete {
				fmt.Fprintln(out, "The search was ended early; this is the best that it had found.")
			}
			r := sequenceOf(d, q)
			fmt.Fprintf(out, "by size or eye\t%s\n", strings.Join(r.Free, " "))
			if q.Better == nil {
				fmt.Fprintln(out, "No order was found in which its stops can be cut.")
				return out.Flush()
			}
			fmt.Fprintln(out, "\nTIER\tSTOP")
			scale := words.Scale{Width: q.Better.Measures().Width}
			for _, t := range q.Better.Diagram.Tiers {
				fmt.Fprintf(out, "%s\t%s\n", t.Name, words.Stop(t, d.Gear, scale))
			}
			return out.Flush()
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "print one JSON object")
	c.Flags().StringVar(&girdle, "girdle", "drawn", "when you like to cut the girdle within its side: `drawn|first|last`")
	c.Flags().StringVar(&table, "table", "drawn", "when you like to cut the table within its side: `drawn|first|last`")
	return c
}

func sequenceOf(d *diagram.Diagram, q cutting.Sequence) sequenceReport {
	r := sequenceReport{
		Cuttable: q.Cuttable, Problems: []sequenceProblem{}, Free: []string{}, Order: []string{}, Stops: map[string]diagram.Stop{},
	}
	for _, p := range q.Problems {
		// A second transfer is a nuisance; the tier can be cut.
		if p.Code != cutting.TurnedBack {
			r.Problems = append(r.Problems, sequenceProblem{p.Tier, p.Text, p.Other})
		}
	}
	for _, no := range q.Free {
		r.Free = append(r.Free, d.Tiers[no].Name)
	}
	if q.Better != nil {
		for _, t := range q.Better.Diagram.Tiers {
			r.Order = append(r.Order, t.Name)
			r.Stops[t.Name] = t.Stop
		}
	}
	return r
}
