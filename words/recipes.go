package words

import (
	"cressa/core/abrasive"
	"cressa/workshop"
)

// Recipes returns the recipes that ship with the application. Amounts are where one begins.
func Recipes() []workshop.Recipe {
	step := func(minutes float64, text string) workshop.RecipeStep {
		return workshop.RecipeStep{Text: text, Minutes: minutes}
	}
	part := func(what string, amount float64, unit string, per workshop.Per) workshop.RecipePart {
		return workshop.RecipePart{What: what, Amount: amount, Unit: unit, Per: per}
	}
	return []workshop.Recipe{
		{
			ID: "charge-diamond", Name: "Charge a metal lap with diamond", Kind: workshop.ToChargeLap, Surfaces: []abrasive.Surface{abrasive.Metal},
			Parts: []workshop.RecipePart{part("Diamond powder", 1, "ct", workshop.PerGrain), part("Light oil", 2, "drops", workshop.PerArea)},
			Steps: []workshop.RecipeStep{
				step(0, "Wash lap, hands and roller. Lay out a clean sheet: nothing coarser may lie on the bench."),
				step(0, "Spread the oil over the whole face with a clean finger and wipe it back to a film that only just shines."),
				step(0, "Dot the diamond over the face, more towards the rim, where there is more of it. Spread the dots until no grey spot is left."),
				step(4, "Roll it in with a hardened roller: firm, straight strokes from rim to middle, the lap turned by an eighth after each round."),
				step(2, "Roll once more across the first direction, lighter."),
				step(0, "Wipe off what did not go in, and keep that cloth for this grain alone."),
				step(3, "Run the lap slowly, with a flat piece of agate or practice glass held against it and a drop of oil. It should cut evenly over the whole track."),
			},
			Caution: "Powders: do not breathe them, and wash your hands. Nothing is held against a turning lap with loose sleeves.",
		},
		{
			ID: "charge-oxide", Name: "Charge a polishing lap with oxide", Kind: workshop.ToChargeLap,
			Surfaces: []abrasive.Surface{abrasive.Metal, abrasive.Plastic, abrasive.Film, abrasive.Wax, abrasive.Wood, abrasive.Fabric},
			Parts:    []workshop.RecipePart{part("Oxide", 0.4, "g", workshop.PerArea), part("Water", 4, "ml", workshop.PerArea)},
			Steps: []workshop.RecipeStep{
				step(0, "Stir oxide and water to a thin cream in a clean cup."),
				step(0, "Brush it over the face with a brush that is kept for this oxide."),
				step(1, "Let it draw a little: a damp lap polishes, a wet one floats the stone."),
				step(0, "Wipe with a clean finger from the middle to the rim until the face only looks damp."),
				step(0, "While you polish, keep it so: a drop of water where it dries, a breath of oxide where it fades."),
			},
			Caution: "Powders: do not breathe them, and wash your hands.",
		},
		{
			ID: "make-wax", Name: "Make a lap with a face of wax", Kind: workshop.ToMakeLap, Surfaces: []abrasive.Surface{abrasive.Wax},
			Parts: []workshop.RecipePart{part("Hard wax", 25, "g", workshop.PerArea), part("Flat disc to carry it", 1, "piece", workshop.PerLap)},
			Steps: []workshop.RecipeStep{
				step(0, "Warm the disc by hand-hot water and dry it. Put a rim of strong tape around it, 4 mm high."),
				step(10, "Melt the wax over a water bath, never over the flame, until it is thin and clear."),
				step(0, "Set the disc level and pour at once, from the middle outwards."),
				step(60, "Let it cool in still air, covered against dust."),
				step(0, "Take the tape off. Scrape the face flat with a straight edge, wet, turning the disc by hand."),
				step(0, "Cut fine grooves from the middle to the rim, a finger apart, so that the cream can run."),
			},
			Caution: "Hot wax burns, and catches fire over a flame: use a water bath and stay with it. Solvents stay out of the room.",
		},
		{
			ID: "true-metal", Name: "True a metal lap", Kind: workshop.ToTrueLap, Surfaces: []abrasive.Surface{abrasive.Metal},
			Parts: []workshop.RecipePart{part("Loose grit, mesh 400", 1.5, "g", workshop.PerArea), part("Plate glass, larger than the lap", 1, "piece", workshop.PerLap), part("Water", 5, "ml", workshop.PerArea)},
			Steps: []workshop.RecipeStep{
				step(0, "Draw a cross of pencil over the whole face."),
				step(5, "Lay the lap face down on the glass with grit and water. Move it in figures of eight with your hands flat on its middle, turning it as you go."),
				step(0, "Rinse and look: where pencil is left the face is low. Go on until none is."),
				step(0, "Wash lap, hands and bench until no grit is left anywhere. This grit must never meet a polishing lap."),
				step(0, "Measure how flat it is with a straight edge and feelers, and write that down. The lap has to be charged anew."),
			},
			Caution: "Keep it wet: the dust of metals and grit is not for lungs.",
		},
		{
			ID: "oil-metal", Name: "Oil a metal lap for the shelf", Kind: workshop.ToOilLap, Surfaces: []abrasive.Surface{abrasive.Metal},
			Parts: []workshop.RecipePart{part("Light oil without acid", 1, "drops", workshop.PerArea)},
			Steps: []workshop.RecipeStep{
				step(0, "Wash off what was polished last, and dry the lap with warm air, back and rim too."),
				step(0, "Rub the oil over face, rim and back with a clean cloth."),
				step(10, "Let it stand on its rim, then wipe off what runs."),
				step(0, "Wrap it in clean paper and write on that what it is charged with."),
			},
			Caution: "An oily rag can heat up by itself: spread it out to dry, outside.",
		},
		{
			ID: "break-in", Name: "Break in a bonded lap", Kind: workshop.ToBreakIn, Surfaces: []abrasive.Surface{abrasive.Bonded},
			Parts: []workshop.RecipePart{part("Piece of practice glass or quartz with a large flat", 1, "piece", workshop.PerLap)},
			Steps: []workshop.RecipeStep{
				step(0, "Wash the new lap with soap and a soft brush. Grains stand proud on it and scratch."),
				step(5, "Run it at half speed with much water. Hold the flat against it, light, and move it from rim to middle and back without a stop."),
				step(0, "Rinse lap and splash pan: the grains that came off must not stay."),
				step(5, "Once more, with a little more pressure."),
				step(0, "Look at the flat under the loupe: when its scratches are all of one size the lap is ready."),
			},
			Caution: "Eye protection, no loose sleeves or hair near the turning lap, and never dry.",
		},
	}
}
