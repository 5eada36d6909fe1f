package main

import (
	"errors"
	"fmt"
	"io"
	"math"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"
	"gonum.org/v1/gonum/spatial/r3"

	"cressa/analysis"
	"cressa/core/diagram"
	"cressa/core/material"
	"cressa/core/mending"
	"cressa/words"
)

type takeReport struct {
	Tier  string  `json:"tier"`
	Index float64 `json:"index"`
	MM    float64 `json:"mm"`
}

// wayReport is a way out. All behind Why is left out where it is not possible.
type wayReport struct {
	Kind     mending.Kind `json:"kind"`
	Possible bool         `json:"possible"`
	Why      string       `json:"why,omitempty"`
	*WayFigures
}

// WayFigures are those of a way that is possible.
type WayFigures struct {
	Scale *float64     `json:"scale,omitempty"`
	Shift *[3]float64  `json:"shift,omitempty"`
	Place *placeReport `json:"place,omitempty"`
	Take  []takeReport `json:"take"`
	// Facets is how many are cut again.
	Facets      int      `json:"facets"`
	Width       float64  `json:"width"`
	Length      float64  `json:"length"`
	Height      float64  `json:"height"`
	Carat       *float64 `json:"carat,omitempty"`
	Lost        float64  `json:"lost"`
	GirdleMin   *float64 `json:"girdleMin"`
	GirdleMax   *float64 `json:"girdleMax"`
	GapMax      float64  `json:"gapMax"`
	CuletOffset *float64 `json:"culetOffset,omitempty"`
}

type waysReport struct {
	Ways []wayReport `json:"ways"`
}

// reportWay tells of a way on a stone of so many mm for a unit, of a recut also where the culet stands.
func reportWay(w analysis.WayOut, mm float64, recut bool) wayReport {
	r := wayReport{Kind: w.Kind, Possible: w.Err == nil}
	if w.Err != nil {
		r.Why = words.WhyNot(w.Err)
		return r
	}
	r.WayFigures = &WayFigures{
		Scale: w.Scale, Take: []takeReport{}, Facets: w.Again, Width: w.Width, Length: w.Length, Height: w.Height,
		Carat: w.Carat, Lost: w.Lost, GirdleMin: w.GirdleMin, GirdleMax: w.GirdleMax, GapMax: w.GapMax,
	}
	if w.Shift != nil {
		r.Shift = &[3]float64{w.Shift.X * mm, w.Shift.Y * mm, w.Shift.Z * mm}
	}
	if p := w.Place; p != nil {
		r.Place = &placeReport{p.Scale * mm, p.Numbers(), [3]float64{p.Offset.X * mm, p.Offset.Y * mm, p.Offset.Z * mm}}
	}
	for _, t := range w.Takes {
		r.Take = append(r.Take, takeReport(t))
	}
	if recut {
		r.CuletOffset = &w.CuletOffset
	}
	return r
}

func mendCommand() *cobra.Command {
	var asJSON bool
	var width float64
	var over, done []string
	var made string
	c := &cobra.Command{
		Use:   "mend FILE --width MM --over TIER@INDEX=MM …",
		Short: "The ways out of facets that were cut too deep",
		Long: "Tells for facets that were cut too deep what each way out takes off every facet, and the stone that comes\n" +
			"of it. --done names the tiers that are cut so far; without it all are.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			sg, err := checkMending(width, made)
			if err != nil {
				return err
			}
			var overcuts []analysis.Overcut
			for _, text := range over {
				of, mm, err := parseDepth(text)
				if err != nil {
					return err
				}
				overcuts = append(overcuts, analysis.Overcut{Of: of, MM: mm})
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			mm := width / stone.Measures().Width
			ways, err := analysis.MendWays(stone, mm, overcuts, done, sg)
			if err != nil {
				return fail("%s: %v", args[0], err)
			}
			return printWays(c.OutOrStdout(), ways, mm, asJSON, false)
		},
	}
	mendingFlags(c, &asJSON, &width, &made)
	c.Flags().StringArrayVar(&over, "over", nil, "`TIER@INDEX=MM` by which a facet is too deep")
	c.Flags().StringSliceVar(&done, "done", nil, "`TIERS` that are cut so far, apart by commas; all by default")
	_ = c.MarkFlagRequired("over")
	return c
}

func recutCommand() *cobra.Command {
	var asJSON bool
	var width, turn float64
	var damage, protect []string
	var made string
	c := &cobra.Command{
		Use:   "recut FILE --width MM --damage X,Y,Z[,R][;X,Y,Z…] …",
		Short: "The ways to recut a finished stone that came back damaged",
		Long: "Tells for a finished stone with chips what each way to recut it takes off every facet, and the stone that\n" +
			"comes of it. A damage is one or more points in mm, in the diagram's frame, apart by semicolons; R is how far\n" +
			"outside of the new stone they have to lie at least.",
		Args: cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			sg, err := checkMending(width, made)
			if err != nil {
				return err
			}
			if !(turn >= 0 && turn <= 45) {
				return fmt.Errorf("--turn takes degrees from 0 to 45, not %v", turn)
			}
			var damages []mending.Damage
			for _, text := range damage {
				d, err := parseDamage(text)
				if err != nil {
					return err
				}
				damages = append(damages, d)
			}
			var protected []diagram.Ref
			for _, text := range protect {
				ref, err := diagram.ParseRef(text)
				if err != nil {
					return fmt.Errorf("--protect: %w", err)
				}
				protected = append(protected, ref)
			}
			stone, err := readAndCut(c, args[0])
			if err != nil {
				return err
			}
			mm := width / stone.Measures().Width
			ways, err := analysis.RecutWays(c.Context(), stone, mm, damages, protected, turn, sg)
			if errors.Is(err, mending.ErrTooDeep) {
				return fail("%s: --damage: %s Give points in mm, in the diagram's frame.", args[0], words.WhyNot(err))
			} else if err != nil {
				return fail("%s: %v", args[0], err)
			}
			return printWays(c.OutOrStdout(), ways, mm, asJSON, true)
		},
	}
	mendingFlags(c, &asJSON, &width, &made)
	c.Flags().StringArrayVar(&damage, "damage", nil, "`POINTS` in mm: X,Y,Z, with ,R how far they have to lie outside, apart by ;")
	c.Flags().StringSliceVar(&protect, "protect", nil, "`FACETS` that must not be touched, as TIER@INDEX, apart by commas")
	c.Flags().Float64Var(&turn, "turn", 3, "`DEGREES` that the largest copy may be turned by")
	_ = c.MarkFlagRequired("damage")
	return c
}

func mendingFlags(c *cobra.Command, asJSON *bool, width *float64, made *string) {
	c.Flags().BoolVar(asJSON, "json", false, "print one JSON object")
	c.Flags().Float64Var(width, "width", 0, "width of the planned stone in `MM`")
	c.Flags().StringVar(made, "material", "", "the stone's material, by its `NAME` in the material table, for its weight")
	_ = c.MarkFlagRequired("width")
}

// checkMending checks what both commands ask for and returns the specific gravity, 0 where no material is named.
func checkMending(width float64, made string) (sg float64, err error) {
	if !(width > 0 && width <= 1000) {
		return 0, fmt.Errorf("--width takes millimetres above 0, up to 1000, not %v", width)
	}
	if made == "" {
		return 0, nil
	}
	m, ok := material.Find(made)
	if !ok {
		return 0, fail("no material is called %q; \"cressa material\" lists them all", made)
	}
	return m.SG, nil
}

// parseDepth reads "P2@12=0.05".
func parseDepth(text string) (of diagram.Ref, mm float64, err error) {
	name, figure, found := strings.Cut(text, "=")
	if !found {
		return of, 0, fmt.Errorf("--over takes TIER@INDEX=MM, not %q", text)
	}
	if of, err = diagram.ParseRef(name); err != nil {
		return of, 0, fmt.Errorf("--over %q: %w", text, err)
	}
	if mm, err = diagram.ParseNumber(figure); err != nil {
		return of, 0, fmt.Errorf("--over %q: give mm after the =", text)
	}
	return of, mm, nil
}

// parseDamage reads "1,2,3;1,2.5,3,0.05": the largest clearance of its points counts.
func parseDamage(text string) (d mending.Damage, err error) {
	for _, point := range strings.Split(text, ";") {
		var at []float64
		for _, figure := range strings.Split(point, ",") {
			v, err := diagram.ParseNumber(strings.TrimSpace(figure))
			if err != nil || math.Abs(v) > 1000 {
				return d, fmt.Errorf("--damage %q: %q is no length in mm", text, figure)
			}
			at = append(at, v)
		}
		switch {
		case len(at) < 3 || len(at) > 4:
			return d, fmt.Errorf("--damage %q: a point is X,Y,Z or X,Y,Z,R, not %q", text, point)
		case len(at) == 4 && at[3] < 0:
			return d, fmt.Errorf("--damage %q: R is 0 or more", text)
		case len(at) == 4:
			d.Clearance = math.Max(d.Clearance, at[3])
		}
		d.Points = append(d.Points, r3.Vec{X: at[0], Y: at[1], Z: at[2]})
	}
	return d, nil
}

func printWays(out io.Writer, ways []analysis.WayOut, mm float64, asJSON, recut bool) error {
	r := waysReport{Ways: []wayReport{}}
	for _, w := range ways {
		r.Ways = append(r.Ways, reportWay(w, mm, recut))
	}
	if asJSON {
		return printJSON(out, r)
	}
	table := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	fmt.Fprintln(table, "WAY\tLOST\tWIDTH\tCUT AGAIN\tGIRDLE\tWIDEST GAP")
	for i, w := range r.Ways {
		if !w.Possible {
			fmt.Fprintf(table, "%s\tnot possible: %s\t\t\t\t\n", words.WayOut(w.Kind), w.Why)
			continue
		}
		girdle := "none"
		if w.GirdleMin != nil {
			girdle = fmt.Sprintf("%.2f–%.2f mm", *w.GirdleMin, *w.GirdleMax)
		}
		fmt.Fprintf(table, "%s\t%.2f %%\t%.2f mm\t%d of %d facets\t%s\t%.0f µm\n", words.WayOut(w.Kind), 100*w.Lost, w.Width, w.Facets, len(ways[i].Take), girdle, w.GapMax)
	}
	return table.Flush()
}
