// Package printed reads diagrams as cutting sheets print them: stops in words, indexes in
// shorthand, tiers without a part, lengths in millimetres. It turns a draft as it was typed into
// one that package diagram reads, and says of everything that it has understood what that is
// and whether it can be meant otherwise. Typing and pasting share it.
package printed

import (
	"slices"
	"strings"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Reading is what a field of a tier was read as.
type Reading struct {
	// TierNo is the tier's place from 0, Tier its name.
	TierNo int
	Tier   string
	Field  diagram.Field
	// Typed is what stands in the field, Read what it was read as: the text that package diagram
	// reads, or "" for a stop that is still to be found.
	Typed, Read string
	// How it was read.
	How Way
	// Sure is false where it may be meant otherwise and should be looked at.
	Sure bool
	// Value is a figure that goes with it, see the ways.
	Value float64
}

// Way is how a field was read. The words for it live in the catalogue of words.
type Way string

// The ways in which fields are read.
const (
	// Understood: the words say so.
	Understood Way = "understood"
	// PartByAngle, PartByName and PartByPlace tell what a part was told by, PartAsked that
	// it cannot be told: Read is a guess.
	PartByAngle Way = "part-by-angle"
	PartByName  Way = "part-by-name"
	PartByPlace Way = "part-by-place"
	PartAsked   Way = "part-asked"
	// StopGuessed: some of the words were not understood.
	StopGuessed Way = "stop-guessed"
	// CornerTaken: the words leave one corner open.
	CornerTaken Way = "corner-taken"
	// StopByEye: a share of the way between the two corners that are likeliest meant. Value is
	// the share, 0 to 1.
	StopByEye Way = "stop-by-eye"
	// StopToFind: the words say what kind of stop it is, but not where.
	StopToFind Way = "stop-to-find"
	// StopNotRead: the words say nothing that is understood.
	StopNotRead Way = "stop-not-read"
	// FigureAssumed: the words name a measure without a figure; the usual one was taken.
	// Value is the share of the width, 0 to 1.
	FigureAssumed Way = "figure-assumed"
	// LengthRead: a length was turned into a share of the width. Value is that share, 0 to 1.
	LengthRead Way = "length-read"
	// GirdleOdd: the girdle's thickness is under 1 % or over 8 % of the width. Value is the
	// share of the width.
	GirdleOdd Way = "girdle-odd"
	// WidthNeeded: a length in mm cannot be reckoned without the planned width.
	WidthNeeded Way = "width-needed"
	// IndexesGuessed: a run was completed without its last index.
	IndexesGuessed Way = "indexes-guessed"
	// AngleChosen: two angles are printed and the first was taken. Value is the other.
	AngleChosen Way = "angle-chosen"
)

// A girdle outside these shares of the width is asked about.
const (
	ThinGirdle  = 0.01
	ThickGirdle = 0.08
)

// Read reads a draft as it was typed. The draft that it returns has the same tiers, in the
// language of package diagram as far as they were understood; fields that were not are left as
// they stand, and stops that are still to be found are empty. It has no planned width: its lengths
// are shares of its own. The readings are in the order of the tiers.
func Read(typed diagram.Draft) (diagram.Draft, []Reading) {
	r := reader{draft: typed, cuts: mostCuts, facets: []int{0}}
	r.draft.Tiers = slices.Clone(typed.Tiers)
	if v, err := diagram.ParseNumber(typed.Width); err == nil && v > 0 {
		r.width = v
	}
	r.teeth = teethOf(typed.Gear)
	for no := range r.draft.Readable() {
		if r.facets[no] > 2*diagram.MaxFacets {
			break // too many by now, whatever the others add
		}
		r.tier(no)
	}
	r.draft.Width = ""
	return r.draft, r.readings
}

// Diagram reads a draft as it was typed into a diagram. The problems name tier and field; the
// diagram counts only where there are none.
func Diagram(typed diagram.Draft) (*diagram.Diagram, []diagram.Problem) {
	draft, _ := Read(typed)
	return draft.Read()
}

// Rewritten is diagram.Draft.Rewritten for a draft as it was typed: rows that stay the same keep
// the words in which they were typed. Where tiers change places, indexes and parts are written out,
// because their words may lean on the row above. Words for a stop that were not wholly understood go into the note where another stop
// takes their place.
func Rewritten(typed diagram.Draft, by *diagram.Diagram, order []int) diagram.Draft {
	read, readings := Read(typed)
	out := read.Rewritten(by, order)
	out.Width = typed.Width
	for i := range out.Tiers {
		from := i
		if order != nil {
			from = order[i]
		}
		was, is, row := typed.Tiers[from], read.Tiers[from], &out.Tiers[i]
		if order == nil {
			restore(&row.Angle, is.Angle, was.Angle)
			restore(&row.Indexes, is.Indexes, was.Indexes)
			restore(&row.Part, is.Part, was.Part)
		}
		restore(&row.Stop, is.Stop, was.Stop)
		doubtful := slices.ContainsFunc(readings, func(g Reading) bool {
			return g.TierNo == from && g.Field == diagram.FieldStop && !g.Sure
		})
		if doubtful && row.Stop != was.Stop && !strings.Contains(row.Note, was.Stop) {
			row.Note = strings.TrimSpace(row.Note + "\n" + was.Stop)
		}
	}
	return out
}

// Reshape is diagram.Draft.Reshape for a draft as it was typed: what is reshaped is what the words of
// the tier mean, and of a diagram turned whole what those of all tiers do. The other words stay.
// The error is a Problem; the draft is then as it was.
func Reshape(typed diagram.Draft, no int, how diagram.Reshape) (diagram.Draft, error) {
	read, _ := Read(typed)
	out := typed
	out.Tiers = slices.Clone(typed.Tiers)
	if how.Kind == diagram.TurnedWhole {
		turned, err := cutting.TurnedWhole(read, how.By)
		if err != nil {
			return typed, err
		}
		for i, t := range turned.Tiers {
			row := &out.Tiers[i]
			row.Indexes, row.Part = t.Indexes, t.Part
			if t.Stop != read.Tiers[i].Stop {
				row.Stop = t.Stop
			}
		}
		return out, nil
	}
	if no >= 0 && no < len(out.Tiers) {
		out.Tiers[no].Indexes, out.Tiers[no].Part = read.Tiers[no].Indexes, read.Tiers[no].Part
	}
	reshaped, err := out.Reshape(no, how)
	if err != nil {
		return typed, err
	}
	return reshaped, nil
}

// restore puts back what was typed where a field still says what it was read as.
func restore(field *string, read, typed string) {
	if *field == read {
		*field = typed
	}
}

// reader reads a draft tier by tier; tiers before the present one are read already.
type reader struct {
	draft    diagram.Draft
	readings []Reading
	// width is the planned one in mm, 0 where none is given; teeth the gear's, 0 likewise.
	width float64
	teeth int
	// cuts is how many facets may still be cut to see what words mean: a draft is read at every
	// letter that is typed, and a stranger's may be large.
	cuts int
	// facets counts those of the tiers before each place.
	facets []int
}

// mostCuts is about a tenth of a second.
const mostCuts = 4000

// spend takes from the cuts what cutting the tiers before a place costs, so many times over. It is
// false where that is more than is left.
func (r *reader) spend(no, times int) bool {
	if r.facets[no]*times > r.cuts {
		return false
	}
	r.cuts -= r.facets[no] * times
	return true
}

func (r *reader) add(g Reading) {
	g.Tier = strings.TrimSpace(r.draft.Tiers[g.TierNo].Name)
	r.readings = append(r.readings, g)
}

func (r *reader) tier(no int) {
	r.angle(no)
	r.indexes(no)
	indexes, _ := diagram.ParseIndexes(r.draft.Tiers[no].Indexes, r.teeth)
	r.facets = append(r.facets, r.facets[no]+1+len(indexes))
	r.part(no)
	r.stop(no)
}

// before cuts the tiers before a place as far as they are read; nil where that is not possible.
func (r *reader) before(no int) *cutting.Stone {
	draft := r.draft
	draft.Name, draft.Tiers = "draft", draft.Tiers[:no]
	if no == 0 || !r.spend(no, 1) {
		return nil
	}
	d, problems := draft.Read()
	if len(problems) > 0 {
		return nil
	}
	s, err := cutting.UpTo(d, no)
	if err != nil {
		return nil
	}
	return s
}

// teethOf reads a gear, 0 where it cannot be.
func teethOf(gear string) int {
	v, err := diagram.ParseNumber(gear)
	if err != nil || v != float64(int(v)) || v < 1 || v > diagram.MaxGear {
		return 0
	}
	return int(v)
}
