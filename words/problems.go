// Package words is the catalogue of the sentences that the Go side says to
// people. The core returns codes and figures; here they become English.
package words

import (
	"cmp"
	"fmt"
	"strings"

	"cressa/analysis"
	"cressa/core/angles"
	"cressa/core/cutting"
	"cressa/core/diagram"
	"cressa/core/freehand"
	"cressa/core/material"
	"cressa/core/mending"
	"cressa/core/polyhedron"
	"cressa/core/quick"
	"cressa/core/rough"
	"cressa/core/sweep"
	"cressa/formats"
	"cressa/workshop"
)

// Problem says what is wrong and what can be done about it, in one or two
// sentences without the place: the caller knows how it names places.
func Problem(p diagram.Problem) string {
	if say, ok := problems[p.Code]; ok {
		return say(p)
	}
	return p.Error()
}

// Place names the tier that a problem is at, "" for the diagram as a whole.
func Place(p diagram.Problem) string {
	if p.Tier != "" {
		return "tier " + p.Tier
	}
	if p.TierNo >= 0 {
		return fmt.Sprintf("tier number %d", p.TierNo+1)
	}
	return roughPlace(p.Field)
}

// Mistake puts file, line, place and sentence of a mistake into one line.
func Mistake(file string, m formats.Mistake) string {
	parts := []string{fmt.Sprintf("%s: line %d, column %d", file, m.Line, m.Column)}
	if place := Place(m.Problem); place != "" {
		parts[0] += ", " + place
	}
	return strings.Join(append(parts, Problem(m.Problem)), ": ")
}

type sentence func(diagram.Problem) string

func plain(text string) sentence { return func(diagram.Problem) string { return text } }

func number(v float64) string { return diagram.FormatNumber(v) }

var problems = map[diagram.Code]sentence{
	workshop.OtherPart: func(p diagram.Problem) string {
		return fmt.Sprintf("%s cannot be that: what a thing is stays, and the fields of one kind do not fit another.", p.Text)
	},
	workshop.NoSuchItem: func(p diagram.Problem) string {
		return strings.TrimSpace(fmt.Sprintf("The kit has no such thing %s. Choose another one from the shelf, or write its name alone.", p.Text))
	},
	workshop.NotForItem: func(p diagram.Problem) string {
		return fmt.Sprintf("That cannot happen to %s. Look at what it is, and at the figures.", p.Text)
	},
	workshop.StillUsed: func(p diagram.Problem) string {
		return fmt.Sprintf("%s has met stones and stays in their records. Say that it is gone instead.", p.Text)
	},
	workshop.JudgedAlready: func(p diagram.Problem) string {
		return fmt.Sprintf("%s has judged already. Each judge is heard once; somebody else takes another name.", p.Text)
	},
	workshop.TrialOpened: plain("It was told already which is which, so nobody is heard any more."),
	workshop.NoSuchLetter: func(p diagram.Problem) string {
		return fmt.Sprintf("No entry goes by the letter %s. Choose one that is there.", p.Text)
	},
	workshop.NothingDiffers: func(p diagram.Problem) string {
		return fmt.Sprintf("Both stones would have it the same (%s). Choose something else for the second.", p.Text)
	},
	workshop.FullShelf: func(p diagram.Problem) string {
		return fmt.Sprintf("The kit holds %.0f things. Take off what was put there by mistake.", p.Value)
	},
	formats.NotJSON: func(p diagram.Problem) string {
		return fmt.Sprintf("This cannot be read: %s. The file is JSON text in UTF-8.", p.Text)
	},
	formats.UnknownField: func(p diagram.Problem) string {
		if p.Other != "" {
			return fmt.Sprintf("There is no field %q. Did you mean %q?", p.Text, p.Other)
		}
		return fmt.Sprintf("There is no field %q here. Take it out, or put its text into a note.", p.Text)
	},
	formats.TwiceField: func(p diagram.Problem) string {
		return fmt.Sprintf("The field %q stands here twice. Keep one of them.", p.Text)
	},
	formats.WrongType: func(p diagram.Problem) string {
		return fmt.Sprintf("Here is %s where %s belongs.", p.Text, p.Other)
	},
	formats.MissingField: func(p diagram.Problem) string {
		return fmt.Sprintf("The field %q is missing. Add it.", p.Text)
	},
	formats.TooLarge: func(p diagram.Problem) string {
		return fmt.Sprintf("The file has %.0f bytes; at most %.0f are read. Is it the right file?", p.Value, p.High)
	},

	formats.TierRenamed: func(p diagram.Problem) string {
		return fmt.Sprintf("The sheet calls more than one tier %s, so this one is called %s here.", p.Text, p.Tier)
	},
	formats.GearGuessed: func(p diagram.Problem) string {
		return fmt.Sprintf("No gear is named; taken as %s teeth, which have all the indexes.", number(p.Value))
	},
	formats.IndexGuessed: func(p diagram.Problem) string {
		return fmt.Sprintf("No refractive index is named; taken as %s.", number(p.Value))
	},
	formats.LineNotRead: plain("This line was not understood. It is kept in the diagram's note."),
	formats.NoTable:     plain("No line of this looks like a tier: a name, an angle, indexes, and where the cut stops."),

	workshop.BadWeight: func(p diagram.Problem) string {
		return fmt.Sprintf("%q is no weight. Type a number such as 12.4, and choose carats or grams.", p.Text)
	},
	workshop.NoParcel: plain("That parcel is not in the records. Choose another, or none."),
	workshop.NoPiece:  plain("That piece of rough is not in the records. Choose it again under Rough, or plan without one."),
	rough.FewKnown:    plain("The height dial tells nothing yet: touch something known at two angles that differ, such as the bare dop's end at 0 and at 90."),
	rough.NotTouched:  plain("Beside touches or outlines, one jaw of the calipers must lie where the piece was touched: touch it at this angle and index first. Calipers alone place a piece across three directions, no more."),
	rough.PastPiece:   plain("This line of sight misses the piece. Click on the piece where you see the flaw."),
	rough.SameSide: func(p diagram.Problem) string {
		return fmt.Sprintf("The two looks come from almost the same side, %.0f° apart inside the piece. Turn it on, by a quarter turn if you can, and look again.", p.Value)
	},
	rough.OutsidePiece: plain("The two looks meet outside the piece. Look again; from each side click exactly what you see."),
	rough.PastOthers:   plain("This figure leaves nothing of the piece beside the others. Read it again."),
	rough.FewCorners:   plain("An outline has three corners at least."),
	rough.NoDirection:  plain("All three numbers are 0, or far too large for a direction. Give one that points somewhere."),
	rough.FewPoints: func(p diagram.Problem) string {
		return fmt.Sprintf("There are %.0f points; a hull takes from %.0f to %.0f.", p.Value, p.Low, p.High)
	},
	rough.FlatHull:    plain("The solid is flat and encloses nothing. Check its sizes, or add a point beside the others."),
	rough.NothingLeft: plain("This saw cut leaves nothing of the piece. Move it, or turn its normal round: what lies behind the normal is kept."),
	rough.TooMany: func(p diagram.Problem) string {
		return fmt.Sprintf("There are %.0f; at most %.0f are taken. Leave some out.", p.Value, p.High)
	},
	rough.WrongOrder: func(p diagram.Problem) string {
		return fmt.Sprintf("The zone ends at %s, not beyond where it begins (%s). Exchange the two.", number(p.Value), number(p.Low))
	},

	diagram.WrongFormat: func(p diagram.Problem) string {
		return fmt.Sprintf("The format is %q; this program reads %q.", p.Text, cmp.Or(p.Other, diagram.Format))
	},
	diagram.NameMissing: plain("The diagram has no name. Give it one."),
	diagram.TextTooLong: func(p diagram.Problem) string {
		return fmt.Sprintf("The %s has %.0f bytes; at most %.0f are kept. Shorten it.", p.Field, p.Value, p.High)
	},
	diagram.NotANumber: func(p diagram.Problem) string {
		if strings.TrimSpace(p.Text) == "" {
			return fmt.Sprintf("The %s is empty. Type a number.", fieldName(p.Field))
		}
		return fmt.Sprintf("%q is no %s. Type a number such as %s.", p.Text, fieldName(p.Field), sample(p.Field))
	},
	diagram.OutOfRange: func(p diagram.Problem) string {
		what := fieldName(p.Field)
		if p.Field == diagram.FieldStop {
			what = "figure of the stop " + p.Text
		}
		if p.Low > 0 && p.Low < 1e-6 {
			return fmt.Sprintf("The %s is %s; it must be over 0 and at most %s.", what, number(p.Value), number(p.High))
		}
		return fmt.Sprintf("The %s is %s; it must be from %s to %s.", what, number(p.Value), number(p.Low), number(p.High))
	},
	diagram.UnknownValue: func(p diagram.Problem) string {
		return fmt.Sprintf("%q is no %s. Choose one of %s.", p.Text, fieldName(p.Field), choices(p.Field))
	},
	diagram.NoTiers:      plain("The diagram has no tiers. Add the first one."),
	diagram.TooManyTiers: func(p diagram.Problem) string { return tooMany("tiers", p) },
	diagram.TooManyFacets: func(p diagram.Problem) string {
		return tooMany("facets", p)
	},
	diagram.BadTierName: func(p diagram.Problem) string {
		if p.Text == "" {
			return "The tier has no name. Type one such as P1, G1 or C2."
		}
		return fmt.Sprintf("%q cannot name a tier. Use 1 to 12 letters or digits, such as P1.", p.Text)
	},
	diagram.TwiceTierName: func(p diagram.Problem) string {
		return fmt.Sprintf("Another tier is called %s already. Rename one of them.", p.Text)
	},
	diagram.BadAngle: func(p diagram.Problem) string {
		if diagram.Part(p.Text) == diagram.Girdle {
			return fmt.Sprintf("The angle is %s°; a girdle facet has more than 0° and at most 90°.", number(p.Value))
		}
		return fmt.Sprintf("The angle is %s°; a %s facet has 0° to under 90°. Facets at 90° belong to the girdle.", number(p.Value), p.Text)
	},
	diagram.NoIndexes: plain("The tier has no indexes. Type at least one, as in 96-24-48-72."),
	diagram.BadIndexes: func(p diagram.Problem) string {
		if p.Text == "empty" {
			return "The tier has no indexes. Type at least one, as in 96-24-48-72."
		}
		return fmt.Sprintf("The indexes cannot be read: %s. Type them as in 3-9-15 or 3 9 15.", p.Text)
	},
	diagram.SameIndex: func(p diagram.Problem) string {
		return fmt.Sprintf("Index %s stands here twice (the gear's own number and 0 are one tooth). Take one out.", p.Text)
	},
	diagram.StopMissing: plain("No stop printed? Leave it empty and have it found, or choose one."),
	diagram.BadStop: func(p diagram.Problem) string {
		if p.Text == "" {
			return "The tier does not say where its cut stops. Choose a stop."
		}
		return fmt.Sprintf("The stop cannot be read: %s. Type it as the sheet has it, such as \"to meet P1/G1 corner\", or choose one.", p.Text)
	},
	diagram.StopNotHere: func(p diagram.Problem) string {
		switch diagram.StopKind(p.Text) {
		case diagram.Width:
			return "A width stops only a table: a crown tier at 0° with one index. Choose another stop."
		case diagram.Centre:
			return "A girdle facet never reaches the centre point. Give the girdle a size or a meet."
		}
		return "A girdle tier cannot stop at the girdle's own thickness. Give it a size or a meet."
	},
	diagram.UnknownTier: func(p diagram.Problem) string {
		return fmt.Sprintf("The stop names %s, and no tier is called so. Correct the name.", p.Other)
	},
	diagram.UnknownIndex: func(p diagram.Problem) string {
		return fmt.Sprintf("The stop names a facet of %s at index %s, and %s has none there. Correct the index.", p.Other, p.Text, p.Other)
	},
	diagram.SameFacet: func(p diagram.Problem) string {
		return fmt.Sprintf("The stop names the facet %s twice. Each entry needs a facet of its own.", p.Other)
	},

	cutting.MeetMissing: func(p diagram.Problem) string {
		if p.Other != "" {
			return fmt.Sprintf("Not cuttable as written: its stop, %s, is not on the stone yet. %s makes that meet; cut %s first.", p.Text, p.Other, p.Other)
		}
		return fmt.Sprintf("Not cuttable as written: its stop, %s, is not on the stone, and no later tier makes that meet. Name facets that meet.", p.Text)
	},
	cutting.CentreUnknown: plain("Not cuttable as written: nothing on this side fixes the height of a centre point yet. Stop the first tier of the second side at the girdle or at a meet."),
	cutting.CentreMissed:  plain("Not cuttable as written: the axis no longer passes through the stone. One of the tiers before cuts too deep."),
	cutting.GirdleMissing: plain("Not cuttable as written: no girdle facet meets the other side yet, so there is no girdle to measure. Cut girdle and other side first."),
	cutting.WidthMissing:  plain("Not cuttable as written: the crown nowhere has that width; its top is wider, or the whole stone is narrower. Change the width, or cut the crown facets first."),
	cutting.TakesAll:      plain("Not cuttable as written: the cut would take the whole stone. Check the figure of the stop and its sign."),
	cutting.CutFailed:     plain("A facet of this tier passes so close by several corners that the cut cannot be computed. Change its stop or its angle by a hair."),
	cutting.BlockLeft:     plain("The tiers do not close the stone: part of the rough block is still to be seen. Add the tiers that are missing."),

	cutting.OrderChangesStone: func(p diagram.Problem) string {
		return fmt.Sprintf("With the %s cut first the stops of this diagram make another stone. Keep its own order, or give it stops that suit the other.", p.Text)
	},

	cutting.TurnedBack: func(p diagram.Problem) string {
		return fmt.Sprintf("It is cut with the %s up once more, after the other side: the stone would be transferred a second time.", p.Text)
	},
	cutting.NoStop:       plain("Its facets stand at several distances and share no meet, so no one stop brings them there. Split the tier."),
	cutting.NoStopsFound: plain("No stop was found for it with which the stone goes on. Give it one, or give the tiers before it theirs."),

	sweep.BadAxis: func(p diagram.Problem) string {
		axis := map[diagram.Field]string{"x": "axis across", "y": "upward axis"}[p.Field]
		return fmt.Sprintf("The %s cannot run like that. Give it a tier of this diagram or a side, and let it run from over 0 upwards: factors to 10, angles to 90 degrees.", axis)
	},
	sweep.SameAxis: plain("Both axes change the same. Choose another side or tier for one of them."),
	workshop.UnknownTint: func(p diagram.Problem) string {
		return fmt.Sprintf("There is no body colour called %q. Choose one from the list.", p.Text)
	},
	analysis.GirdleKept: plain("No tier of this diagram stops at a girdle's thickness, so the girdle stays as the diagram has it."),
	angles.NoPavilion:   plain("No pavilion tier is left on the stone whose angle could be moved. Angles are moved by the shallowest one."),
	angles.OutOfTarget: func(p diagram.Problem) string {
		return fmt.Sprintf("Refractive index and margin ask for an angle of %.1f°; it must be over 0° and under 90°. Choose a smaller margin, or a higher index.", p.Value)
	},
	angles.SidesPart: func(p diagram.Problem) string {
		return fmt.Sprintf("The girdle runs up and down, and the sides are stretched differently: they part there by about %.2f %% of the width. Give the crown the pavilion's factor, or cut a level girdle.", 100*p.Value)
	},
	angles.GirdleLeans: func(p diagram.Problem) string {
		return fmt.Sprintf("It stands at %s° and not upright; it keeps its angle, and meets along it open.", number(p.Value))
	},
	angles.OptionalLeaks: func(p diagram.Problem) string {
		return fmt.Sprintf("It is optional and stands %.1f° below the critical angle: here it would open a window. Leave it off.", p.Value)
	},

	polyhedron.TooFewFaces: func(p diagram.Problem) string {
		return fmt.Sprintf("The file has %s faces; a solid has four at least. Is it the right file?", number(p.Value))
	},
	polyhedron.NotConvex: func(p diagram.Problem) string {
		return fmt.Sprintf("The solid is not convex: point %s stands out of face %s by %.3g. A lap cuts no hollows; send the convex body alone.", p.Other, p.Text, p.Value)
	},
	polyhedron.TooEased:  plain("Edges or corners are eased so far that a face would be gone. Ease them less."),
	polyhedron.NotClosed: plain("The solid is not closed: faces are missing. Export it whole, as one closed body."),
	formats.UnknownMesh:  plain("This is no OBJ, STL or PLY file. Export the solid as one of these."),
	formats.BadMesh: func(p diagram.Problem) string {
		if p.Value > 0 {
			return fmt.Sprintf("The solid cannot be read: line %.0f: %s. Export it anew.", p.Value, p.Text)
		}
		return fmt.Sprintf("The solid cannot be read: %s. Export it anew.", p.Text)
	},

	quick.NotFourfold: func(p diagram.Problem) string {
		return fmt.Sprintf("%s girdle facets will not do: they come in fours, and the gear needs two teeth for each. Choose another number or a finer gear.", number(p.Value))
	},
	quick.HollowOutline: func(p diagram.Problem) string {
		if p.Value > 0 {
			return fmt.Sprintf("Corner %s of the outline turns inward, and a lap cuts no hollows. Move it outward, or take it out.", number(p.Value))
		}
		return "The outline needs at least three corners that are not in one line. Add corners."
	},
	quick.SameTooth: func(p diagram.Problem) string {
		return fmt.Sprintf("Two sides of the outline come to index %s. Choose a finer gear, or corners farther apart.", p.Text)
	},
	quick.SlantTooFar: func(p diagram.Problem) string {
		return fmt.Sprintf("Slanted by %s° its ends run past each other. Make it longer, or the slant steeper.", number(p.Value))
	},
	quick.NoSuchStone: func(p diagram.Problem) string {
		return fmt.Sprintf("A %s pavilion under a %s crown makes no whole stone on this outline. Try another kind, or another number of girdle facets.", p.Text, p.Other)
	},
	cutting.HabitNotKept: func(p diagram.Problem) string {
		return fmt.Sprintf("Your habit to cut the %s %s does not suit this diagram: its stops would make another stone. The %s stays where the diagram has it.", p.Text, p.Other, p.Text)
	},

	workshop.GirdleThin: func(p diagram.Problem) string {
		return fmt.Sprintf("The girdle is %.2f mm at its thinnest; under %s mm it chips in setting. Leave it thicker, if that is not meant.", p.Value, number(p.Low))
	},
	workshop.GirdleThick: func(p diagram.Problem) string {
		return fmt.Sprintf("The girdle is %.2f mm at its thickest; over %s mm it looks heavy and costs weight. Take it down, if that is not meant.", p.Value, number(p.High))
	},

	workshop.AngleBetweenSteps: func(p diagram.Problem) string {
		return fmt.Sprintf("%s° lies between two settings of your machine, %s° and %s°.", number(p.Value), number(p.Low), number(p.High))
	},
	workshop.AngleOutOfReach: func(p diagram.Problem) string {
		return fmt.Sprintf("%s° is out of your machine's reach, which goes from %s° to %s°.", number(p.Value), number(p.Low), number(p.High))
	},
	workshop.NoGearCarries: func(p diagram.Problem) string {
		if p.Value == 0 {
			return "The machine has no gear. Enter the gears you own."
		}
		return fmt.Sprintf("None of your gears fits without a cheat, and the machine has no cheater; the best leaves %.2f° to cheat.", p.Value)
	},
	workshop.NoDefault: func(p diagram.Problem) string {
		return fmt.Sprintf("The default %s is not in the list. Choose one that is.", p.Field)
	},
	workshop.SameName: func(p diagram.Problem) string {
		return fmt.Sprintf("Two %s are called %q. Give one of them another name.", p.Field, p.Text)
	},
	workshop.BadMaterial: func(p diagram.Problem) string {
		return fmt.Sprintf("%s: its %s cannot be. %s", p.Text, materialField(p.Other), materialBounds(p.Other))
	},
	analysis.OtherFacets: func(diagram.Problem) string {
		return "The two diagrams do not have the same facets, so their meets cannot be held against each other."
	},
	workshop.UnknownMaterial: func(p diagram.Problem) string {
		return fmt.Sprintf("No material is called %q. Choose one from the table of materials.", p.Text)
	},
	workshop.NoSuchFlats: func(p diagram.Problem) string {
		return fmt.Sprintf("%q is no girdle tier that calipers can measure. Choose one that is cut at 90°.", p.Text)
	},
	workshop.HeavierThanStone: func(p diagram.Problem) string {
		return fmt.Sprintf("This comes to %s ct, and the stone weighs %s ct. Plan it smaller.", diagram.FormatNumber(p.Value), diagram.FormatNumber(p.High))
	},
	workshop.NoHoles: func(p diagram.Problem) string {
		return fmt.Sprintf("%s sets its angles by holes, and no peg reaches any of them. Enter at least one peg and holes that stand lower than it is long.", p.Text)
	},
	workshop.NoPass: func(p diagram.Problem) string {
		if p.Tier != "" {
			return fmt.Sprintf("Tier %s would get no lap at all. Leave it at least one.", p.Tier)
		}
		return fmt.Sprintf("The %s would get no lap at all. Leave it at least one.", p.Text)
	},
	workshop.StartsLater: func(p diagram.Problem) string {
		return fmt.Sprintf("It stops at a meet with %s, but %s is not cut before the pass %s. Let %s start earlier, or this tier as late.", p.Other, p.Other, p.Text, p.Other)
	},
	workshop.SamePass: func(p diagram.Problem) string {
		return fmt.Sprintf("The pass %q stands in the list twice. Take one out.", p.Text)
	},
	workshop.ChangedTierGone: func(p diagram.Problem) string {
		return fmt.Sprintf("The diagram as it is cut has no tier %s, so nothing can be changed there. Take that change back.", p.Tier)
	},
	workshop.NoSuchSetup: func(diagram.Problem) string {
		return "The plan of this stone has no such side any more. Open the bench anew."
	},
	workshop.NothingTold: func(p diagram.Problem) string {
		return fmt.Sprintf("None of the facets that %s tells is one of this plan's: another stone stands on it, or none was cut yet.", p.Text)
	},
	freehand.NothingToReach: func(diagram.Problem) string {
		return "This setting does not come to that meet. Choose one of those that are offered, or a point by eye."
	},
	freehand.SizeNeedsFlat: func(diagram.Problem) string {
		return "Only a girdle at 90° is cut to a size across, and a level facet to a height. Choose a meet or a point by eye."
	},
	freehand.PointOutside: func(diagram.Problem) string {
		return "A facet through that point takes nothing off the stone, or all of it. Choose a point that lies deeper, or less deep."
	},
	workshop.NoAdapter: func(diagram.Problem) string {
		return "This stone has no table that goes on with an adapter, or its machine has none. Give the machine its adapter's angle under Machine."
	},
	workshop.NotFlush: func(p diagram.Problem) string {
		return fmt.Sprintf("These readings differ by more than %s°, or give no angle between 0° and 90°. Lay the end flush again and read the protractor anew.", number(p.High))
	},
	workshop.NoWay: func(p diagram.Problem) string {
		return fmt.Sprintf("“%s” is no longer possible: the stone was changed meanwhile. Look at the ways again.", WayOut(mending.Kind(p.Text)))
	},
	workshop.NoSuchForm: func(diagram.Problem) string {
		return "Nothing tells yet what form the stone has. Choose the diagram that it follows and give its width."
	},
	workshop.RecutFixed: func(diagram.Problem) string {
		return "A recut keeps the size, the side that is cut first and the order that it was planned with. Everything else can be changed."
	},
	workshop.NoSuchSlip: func(diagram.Problem) string {
		return "That slip no longer fits: something was cut meanwhile. Look at the pictures again."
	},
	workshop.MendsInRun: func(diagram.Problem) string {
		return "Stones that are cut together share a plan, so one of them is not mended by itself. Finish the run, then recut this stone."
	},
	workshop.LeansInRun: func(diagram.Problem) string {
		return "Stones that are cut together share what is dialled, so one that leans is not corrected by angles. Nudge the wax, or glue it again."
	},
	workshop.HeldSince: func(diagram.Problem) string {
		return "The solid is being cut already, so its dop-ups and their order stay."
	},
	workshop.NoSuchFacet: func(p diagram.Problem) string {
		return fmt.Sprintf("The solid has no facet %s to face up. Propose the dop-ups again.", p.Text)
	},
	workshop.SideIsCut: func(p diagram.Problem) string {
		return fmt.Sprintf("The %s is being cut already, so it stays the side cut first.", p.Text)
	},

	cutting.OnlyTouches: func(p diagram.Problem) string {
		return fmt.Sprintf("%s of %s facets only touch the stone and take nothing off (index %s). Check the stop, or leave them out.", number(p.Value), number(p.High), p.Text)
	},
	cutting.CutAway: func(p diagram.Problem) string {
		return fmt.Sprintf("%s of %s facets are cut away by later tiers (index %s).", number(p.Value), number(p.High), p.Text)
	},
	cutting.SenseMatters: func(p diagram.Problem) string {
		if diagram.Indexing(p.Text) == diagram.Shared {
			return "This stone has no mirror line. Its indexes run one way round the stone on both sides; dial what is shown for each side, not what the diagram prints."
		}
		return "This stone has no mirror line. Its indexes are taken as dialled with each side up; read the other way it becomes another stone."
	},
}

func tooMany(what string, p diagram.Problem) string {
	return fmt.Sprintf("The diagram has %s %s; at most %s can be cut. Leave some out.", number(p.Value), what, number(p.High))
}

// fieldName is what people call a field.
func fieldName(f diagram.Field) string {
	if i := strings.LastIndexByte(string(f), '.'); i >= 0 {
		f = f[i+1:]
	}
	switch f {
	case "toTable":
		return "angle to the table"
	case "carat":
		return "weight in carats"
	case diagram.FieldRefractiveIndex:
		return "refractive index"
	case diagram.FieldFirstSide:
		return "side cut first"
	case diagram.FieldGear:
		return "number of teeth"
	case diagram.FieldIndexes:
		return "index"
	}
	return string(f)
}

func sample(f diagram.Field) string {
	switch f {
	case diagram.FieldGear:
		return "96"
	case diagram.FieldRefractiveIndex:
		return "1.54"
	}
	return "41.5"
}

func choices(f diagram.Field) string {
	if of := roughChoices(f); of != "" {
		return of
	}
	switch f {
	case diagram.FieldOutline:
		return list(diagram.Outlines)
	case diagram.FieldIndexing:
		return list(diagram.Indexings)
	case diagram.FieldFirstSide:
		return list([]diagram.Part{diagram.Pavilion, diagram.Crown})
	}
	return list(diagram.Parts)
}

func list[T ~string](values []T) string {
	words := make([]string, len(values))
	for i, v := range values {
		words[i] = string(v)
	}
	return strings.Join(words, ", ")
}

func materialField(field string) string {
	switch field {
	case "refractiveIndex":
		return "refractive index"
	case "sg":
		return "specific gravity"
	}
	return field
}

func materialBounds(field string) string {
	b := material.BoundOf(field)
	between := fmt.Sprintf("from %s to %s", diagram.FormatNumber(b.Low), diagram.FormatNumber(b.High))
	switch field {
	case "refractiveIndex":
		return "It lies " + between + ", the lower figure first."
	case "birefringence":
		return "It is 0 for a singly refractive material, and over 0 to 1 for the others."
	case "dispersion":
		return "It lies " + between + "; 0 where it is not known."
	case "sg":
		return "It lies " + between + "."
	}
	return "It lies " + between + " on the scale of Mohs, the lower figure first."
}
