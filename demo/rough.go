package demo

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"gonum.org/v1/gonum/spatial/r3"

	"cressa/core/rough"
	"cressa/workshop"
)

// found holds what was found in the parcel's pieces, by the numbers of the pieces: searches take seconds,
// and the scenario is made at every start. The package's test writes it anew when it is told to.
//
//go:embed found.json
var found []byte

// Found is a stone that was found in a piece of the parcel.
type Found struct {
	Piece   int            `json:"piece"`
	Diagram string         `json:"diagram"`
	Found   workshop.Found `json:"found"`
	// Why is set for the one that is chosen.
	Why string `json:"why,omitempty"`
}

// prices are what the workshop would ask for a stone that it did not give away.
func prices() []workshop.Price {
	price := func(material string, from float64, amount int64) workshop.Price {
		return workshop.Price{Material: material, Currency: "EUR", From: from, Amount: amount}
	}
	return []workshop.Price{
		price("Peridot", 0.5, 35_00), price("Peridot", 2, 60_00),
		price("Spinel", 0.5, 90_00), price("Spinel", 2, 160_00),
		price("Sphene", 0.5, 70_00), price("Sphene", 2, 150_00),
	}
}

// Parcel is the mixed tin that the workshop bought, and its eight pieces.
func Parcel() (workshop.Parcel, []workshop.Piece) {
	parcel := workshop.Parcel{
		Name: "Mixed tin, gem club", Source: "Gem club of a school that closed", Lot: "Tin 4",
		Cost:     workshop.ParcelCost{Per: workshop.ByParcel, Amount: 18500, Postage: 890, Currency: "EUR"},
		Promised: "Eight pieces, clean in the middle, one of them grey spinel.",
		Came:     "All eight. The kunzite has a cleavage that the list does not mention, the sphene is smaller than said.",
	}
	box := func(x, y, z float64) rough.Solid {
		return rough.Solid{Kind: rough.KindBox, Size: r3.Vec{X: x, Y: y, Z: z}}
	}
	pebble := func(x, y, z float64) rough.Solid {
		return rough.Solid{Kind: rough.KindPebble, Size: r3.Vec{X: x, Y: y, Z: z}}
	}
	level, upright := 0.0, 90.0
	piece := func(weighed string, r rough.Rough) workshop.Piece {
		return workshop.Piece{Weighed: workshop.Weighed{Text: weighed, Unit: "ct"}, Rough: r}
	}
	pieces := []workshop.Piece{
		piece("14.85", rough.Rough{
			Name: "the olive block", Material: "Peridot", Solid: box(14, 9.5, 7.2),
			Note: "A veil from the left end that runs to the middle, one black crystal.",
			Flaws: []rough.Flaw{
				{Name: "veil", Kind: rough.Disc, At: r3.Vec{X: -4.6, Y: 0.8, Z: 0.6}, Radius: 2.2, Normal: r3.Vec{X: 0.8, Y: 0.2, Z: 0.55}, Rule: rough.Out},
				{Name: "black crystal", Kind: rough.Ball, At: r3.Vec{X: 3.1, Y: -2.4, Z: -1.5}, Radius: 0.45, Rule: rough.Hidden},
			},
		}),
		piece("9.6", rough.Rough{
			Name: "night", Material: "Spinel", Solid: pebble(11.5, 9.8, 9),
			Flaws: []rough.Flaw{{Name: "feather", Kind: rough.Disc, At: r3.Vec{X: 2.8, Y: 2.2, Z: 1}, Radius: 1.6, Normal: r3.Vec{X: 1, Y: 0.6, Z: -0.3}, Rule: rough.Out}},
		}),
		piece("8.7", rough.Rough{
			Name: "the prism", Material: "Aquamarine", Solid: prism(6, 8.6, 13.2),
			Axis:   &rough.Axis{Kind: rough.OpticAxis, Direction: r3.Vec{Z: 1}, ToTable: &level},
			Colour: &rough.Colour{Along: [3]float64{0.06, 0.012, 0.008}, Across: [3]float64{0.03, 0.01, 0.01}},
			Flaws:  []rough.Flaw{{Name: "tubes", Kind: rough.Ball, At: r3.Vec{X: 0.6, Y: 0.4, Z: 5.4}, Radius: 1, Rule: rough.Out}},
		}),
		piece("23.4", rough.Rough{
			Name: "rose slab", Material: "Kunzite", Solid: box(18, 12, 7.1),
			Note:   "Splits along the long side. No heat, no knock.",
			Axis:   &rough.Axis{Kind: rough.ColourAxis, Direction: r3.Vec{X: 1}, ToTable: &upright},
			Colour: &rough.Colour{Along: [3]float64{0.02, 0.09, 0.04}, Across: [3]float64{0.01, 0.025, 0.012}},
			Flaws:  []rough.Flaw{{Name: "cleavage", Kind: rough.Disc, At: r3.Vec{X: 2, Y: 3.9, Z: 0}, Radius: 4.5, Normal: r3.Vec{Y: 1}, Rule: rough.Out}},
		}),
		piece("6.1", rough.Rough{
			Name: "violet", Material: "Iolite", Solid: pebble(12, 9, 7.8),
			Axis: &rough.Axis{Kind: rough.ColourAxis, Direction: r3.Vec{X: 1}, ToTable: &upright},
			Colour: &rough.Colour{
				Along: [3]float64{0.12, 0.12, 0.03}, Across: [3]float64{0.04, 0.035, 0.03},
				Zones: []rough.Zone{{Normal: r3.Vec{Z: 1}, From: 1.6, To: 3, RGB: [3]float64{0.02, 0.02, 0.02}}},
			},
		}),
		piece("3.4", rough.Rough{
			Name: "fire", Material: "Sphene", Solid: box(8.4, 5.6, 4.2),
			Flaws: []rough.Flaw{{Name: "twin plane", Kind: rough.Disc, At: r3.Vec{X: 3.2}, Radius: 3, Normal: r3.Vec{X: 1, Z: 0.3}, Rule: rough.Out}},
		}),
		piece("", rough.Rough{
			Name: "lump", Material: "Practice glass", Solid: rough.Solid{Kind: rough.KindHull, Points: lump()},
			Note: "Scanned by the school class.",
			Flaws: []rough.Flaw{
				{Name: "bubble", Kind: rough.Ball, At: r3.Vec{X: 1.2, Y: -2.5, Z: 2}, Radius: 0.6, Rule: rough.Out},
				{Name: "stria", Kind: rough.Point, At: r3.Vec{X: -4, Y: 1, Z: -1}, Rule: rough.Accept},
			},
		}),
		piece("7.8", rough.Rough{
			Name: "blue", Material: "Spinel", Solid: pebble(10.4, 9.6, 7.6),
			Trims: []rough.Trim{{Normal: r3.Vec{X: 1, Y: 0.15, Z: 0.2}, Distance: 3.9, Kerf: 0.4}},
			Colour: &rough.Colour{
				Along: [3]float64{0.05, 0.03, 0.012}, Across: [3]float64{0.05, 0.03, 0.012},
				Zones: []rough.Zone{{Normal: r3.Vec{X: -0.3, Z: -1}, From: 1.9, To: 4, RGB: [3]float64{0.35, 0.22, 0.06}}},
			},
			Flaws: []rough.Flaw{{Name: "crack", Kind: rough.Disc, At: r3.Vec{X: 4.2, Y: 0.4, Z: 0.6}, Radius: 1.4, Normal: r3.Vec{X: 1, Y: 0.3, Z: 0.2}, Rule: rough.Out}},
		}),
	}
	for i := range pieces {
		p := &pieces[i]
		p.Fate = workshop.Whole
		// All weights are written as they are read.
		p.Rough.Carat, _ = p.Weighed.Carats()
	}
	pieces[0].Look.Seen = []workshop.Seen{
		{Way: workshop.OnWhite, What: workshop.SawSomething, Note: "deepest olive at the right end"},
		{Way: workshop.Backlit, What: workshop.SawSomething, Note: "veil at the left end, runs in"},
		{Way: workshop.Reflected, What: workshop.SawNothing},
		{Way: workshop.WetSideLit, What: workshop.SawSomething, Note: "one black crystal, low"},
		{Way: workshop.Polarised, What: workshop.NotLooked},
	}
	pieces[2].Look = workshop.Look{Along: "sea blue", Across: "nearly white"}
	pieces[3].Look = workshop.Look{Along: "rose", Across: "pale lilac"}
	pieces[4].Look = workshop.Look{Along: "violet blue", Across: "grey, honey from the third side"}
	return parcel, pieces
}

// prism is an upright one with so many sides, over corners and high as told, its ends broken.
func prism(sides int, over, high float64) rough.Solid {
	var points []r3.Vec
	for i := range sides {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(sides))
		x, y := over/2*cos, over/2*sin
		points = append(points, r3.Vec{X: x, Y: y, Z: high/2 + 0.2*x - 0.1*y}, r3.Vec{X: x, Y: y, Z: -high/2 - 0.15*x})
	}
	return rough.Solid{Kind: rough.KindHull, Points: points}
}

// lump is a scanned piece: a hundred points of an uneven body.
func lump() []r3.Vec {
	var points []r3.Vec
	for i := range 100 {
		z := 1 - (2*float64(i)+1)/100
		sin, cos := math.Sincos((float64(i) + 0.5) * math.Pi * (3 - math.Sqrt(5)))
		r := math.Sqrt(1 - z*z)
		uneven := 1 + 0.06*math.Sin(5*cos+3*z) + 0.05*math.Cos(7*sin*r-2*z)
		round := func(v float64) float64 { return math.Round(100*v) / 100 }
		points = append(points, r3.Vec{X: round(8.2 * r * cos * uneven), Y: round(6.4 * r * sin * uneven), Z: round(5.6 * z * uneven)})
	}
	return points
}

// AllFound returns what was found in the pieces of the parcel.
func AllFound() ([]Found, error) {
	var out []Found
	return out, json.Unmarshal(found, &out)
}

// buy puts the parcel in, a fortnight ago, with what was found in two of its pieces.
func (f *filler) buy(ctx context.Context, at time.Time, library []workshop.DiagramLine) error {
	f.now = at.AddDate(0, 0, -14)
	parcel, pieces := Parcel()
	parcel.Bought = f.now.Format(time.DateOnly)
	kept, err := f.workshop.SaveParcel(ctx, parcel)
	if err != nil {
		return err
	}
	all, err := AllFound()
	if err != nil {
		return err
	}
	for i, p := range pieces {
		f.now = f.now.Add(7 * time.Minute)
		p.Parcel = kept.ID
		if p, err = f.workshop.SavePiece(ctx, p); err != nil {
			return fmt.Errorf("piece %d: %w", i+1, err)
		}
		for _, one := range all {
			at := slices.IndexFunc(library, func(l workshop.DiagramLine) bool { return l.Name == one.Diagram })
			if one.Piece != i+1 || at < 0 {
				continue
			}
			c, err := f.workshop.PutCandidate(ctx, workshop.Candidate{
				Piece: p.ID, Diagram: library[at].ID, Revision: library[at].Revision, Name: one.Diagram, Allowance: 0.3,
				Found: one.Found, Version: p.Version, Rounds: 1,
			})
			if err != nil {
				return err
			}
			if one.Why != "" {
				if _, err := f.workshop.Choose(ctx, p.ID, c.ID, one.Why); err != nil {
					return err
				}
			}
		}
	}
	return nil
}
