package workshop

import (
	"context"
	"time"

	"cressa/core/abrasive"
	"cressa/core/diagram"
	"cressa/workshop/journal"
)

// Item is a thing of the kit: a lap, a bottle, a dop. Of the parts below it has the one that its kind
// names; a supply has none.
type Item struct {
	ID   string
	Kind ItemKind `validate:"oneof=lap compound adhesive dop gear blade supply"`
	Name string   `validate:"required,max=60"`
	Note string   `validate:"max=2000"`
	// Unit is what its stock is counted in, and Low the stock at which another is due, 0 for never.
	Unit string  `validate:"max=20"`
	Low  float64 `validate:"min=0,max=100000"`
	// ShelfMonths is how long it keeps once it was opened, 0 for ever.
	ShelfMonths float64 `validate:"min=0,max=600"`
	// Lasts is for how many stones one is good, as its owner or its maker says: 0 leaves that to
	// what the log tells.
	Lasts    float64 `validate:"min=0,max=100000"`
	Lap      *Lap
	Compound *Compound
	Adhesive *Adhesive
	Dop      *Dop
	Gear     *Gear
	Blade    *Blade
	Created  time.Time
	Version  int
}

// ItemKind is what a thing of the kit is.
type ItemKind string

// The kinds, in the order in which they are offered.
const (
	LapItem      ItemKind = "lap"
	CompoundItem ItemKind = "compound"
	AdhesiveItem ItemKind = "adhesive"
	DopItem      ItemKind = "dop"
	GearItem     ItemKind = "gear"
	BladeItem    ItemKind = "blade"
	SupplyItem   ItemKind = "supply"
)

// Lap is a lap, or one side of it.
type Lap struct {
	Surface abrasive.Surface `validate:"oneof=bonded metal plastic wax wood ceramic fabric film"`
	// Of is what it is made of, in its owner's words.
	Of string `validate:"max=40"`
	// Grain is that of the grit that is fast in it, the mean in µm, 0 where it is charged.
	Grain float64 `validate:"min=0,max=1000"`
	// Polishes tells that it is for the polish.
	Polishes bool
	// Diameter is its own and Hub that of the part that does not cut, in mm.
	Diameter float64 `validate:"min=10,max=1000"`
	Hub      float64 `validate:"min=0,max=500,ltfield=Diameter"`
	// Side is which side of a disc it is that has two.
	Side Side `validate:"omitempty,oneof=front back"`
	// KeptFor is the material that it is kept for, "" for all.
	KeptFor string `validate:"max=60"`
}

// Side is a side of a disc.
type Side string

// The sides. "" is a disc that is used on one.
const (
	Front Side = "front"
	Back  Side = "back"
)

// Compound is what a lap is charged with.
type Compound struct {
	Family abrasive.Family `validate:"oneof=diamond silicon-carbide alumina cerium tin-oxide zirconia silica other"`
	// Grain is the mean in µm, 0 where it is not known.
	Grain float64 `validate:"min=0,max=1000"`
	// Carrier is what it comes in or is mixed with.
	Carrier string `validate:"max=40"`
}

// Grit is the compound as a lap meets it.
func (c Compound) Grit() abrasive.Grit { return abrasive.Grit{Family: c.Family, Grain: c.Grain} }

// Adhesive holds a stone on its dop.
type Adhesive struct {
	Sort Sort `validate:"oneof=wax cyanoacrylate epoxy other"`
	// Minutes is how long it takes until the stone can be cut.
	Minutes float64 `validate:"min=0,max=10080"`
}

// Sort is a sort of adhesive.
type Sort string

// The sorts.
const (
	Wax           Sort = "wax"
	Cyanoacrylate Sort = "cyanoacrylate"
	Epoxy         Sort = "epoxy"
	OtherAdhesive Sort = "other"
)

// Dop is what a stone is glued to.
type Dop struct {
	Shape DopShape `validate:"oneof=flat cone vee"`
	// Diameter is that of its face, in mm.
	Diameter float64 `validate:"min=0.5,max=100"`
}

// DopShape is the shape of a dop's face.
type DopShape string

// The shapes.
const (
	FlatDop DopShape = "flat"
	ConeDop DopShape = "cone"
	VeeDop  DopShape = "vee"
)

// Gear is an index gear, with the machines that it goes onto, by their IDs.
type Gear struct {
	Teeth    int      `validate:"min=1,max=360"`
	Machines []string `validate:"max=20,dive,max=40"`
}

// Blade is a saw blade. Both figures are in mm; Kerf is what its cut takes away.
type Blade struct {
	Diameter float64 `validate:"min=10,max=1000"`
	Kerf     float64 `validate:"min=0.05,max=10"`
}

// Refusals of things.
const (
	// OtherPart: what is said of a thing does not belong to its kind.
	OtherPart diagram.Code = "other-part"
	// NoSuchItem: the kit has no such thing, or not of the kind that is asked for.
	NoSuchItem diagram.Code = "no-such-item"
	// NotForItem: that cannot happen to such a thing.
	NotForItem diagram.Code = "not-for-item"
	// StillUsed: a thing that met stones stays in the records.
	StillUsed diagram.Code = "still-used"
	// FullShelf: there are as many things as the kit holds.
	FullShelf diagram.Code = "full-shelf"
)

// check tells whether a thing is whole: it has the part that its kind names and no other.
func (i Item) check() error {
	if err := Validate(i); err != nil {
		return err
	}
	for kind, there := range map[ItemKind]bool{
		LapItem: i.Lap != nil, CompoundItem: i.Compound != nil, AdhesiveItem: i.Adhesive != nil, DopItem: i.Dop != nil, GearItem: i.Gear != nil, BladeItem: i.Blade != nil,
	} {
		if there != (i.Kind == kind) {
			return diagram.Problem{Code: OtherPart, TierNo: -1, Field: "kind", Text: i.Name}
		}
	}
	return nil
}

// Kit keeps the things of the workshop and what happened to them.
type Kit struct {
	store interface {
		Transactions
		KitStore
	}
	preferences *Preferences
	origin
}

// KitStore keeps the things of the kit, their log, and how often works used them.
type KitStore interface {
	// Items returns all things, those that are gone too, in the order in which they came.
	Items(ctx context.Context) ([]Item, error)
	Item(ctx context.Context, id string) (Item, error)
	InsertItem(ctx context.Context, i Item) error
	SaveItem(ctx context.Context, i Item, version int) error
	// DropItem takes out a thing that no work used, with its log.
	DropItem(ctx context.Context, id string) error
	// InsertEvent adds an event and returns its place.
	InsertEvent(ctx context.Context, e journal.Event) (seq int64, err error)
	// ItemEvents returns the logs of all things, or of one, in the order of their arrival.
	ItemEvents(ctx context.Context, id string) ([]journal.Event, error)
	// CountFrom sets from which place in the log on the use of a thing counts as that since it was
	// charged or renewed.
	CountFrom(ctx context.Context, id string, seq int64) error
	// Meetings returns what the things met at works; one alone where an ID is given.
	Meetings(ctx context.Context, id string) ([]Meeting, error)
	RecipeStore
	TrialStore
	// ItemStones returns the stones that a thing was used on, the last first, at most so many.
	ItemStones(ctx context.Context, id string, limit int) ([]ItemStone, error)
}

// RecipeStore keeps the recipes of the workshop's own.
type RecipeStore interface {
	Recipes(ctx context.Context) ([]Recipe, error)
	InsertRecipe(ctx context.Context, r Recipe) error
	SaveRecipe(ctx context.Context, r Recipe, version int) error
	DropRecipe(ctx context.Context, id string) error
}

// TrialStore keeps trials.
type TrialStore interface {
	// PolishTrials returns all of them, the last first.
	PolishTrials(ctx context.Context) ([]PolishTrial, error)
	InsertPolishTrial(ctx context.Context, t PolishTrial) error
	DropPolishTrial(ctx context.Context, id string) error
	// BlindTrials returns all of them with their verdicts, the last first.
	BlindTrials(ctx context.Context) ([]BlindTrial, error)
	InsertBlindTrial(ctx context.Context, t BlindTrial) error
	SaveBlindTrial(ctx context.Context, t BlindTrial, version int) error
	InsertVerdict(ctx context.Context, trial string, v Verdict) error
}

// ItemUse is how often a thing was used.
type ItemUse struct {
	// All is what it has done at all, Since what it has done since it was charged or renewed.
	All, Since journal.Span
	// Last is when it was used last.
	Last time.Time
}

// Meeting is that a thing was used with another one on a material: a lap with a compound.
type Meeting struct {
	Item, With, Material string
	journal.Span
	// Whole is of how many stones this counts for the thing: one that met it with several others
	// counts with one of them.
	Whole int
	// Since is what of it came after the thing was charged or renewed; its stones are whole ones.
	Since journal.Span
	// Seq is the place of the last such tick in the log, Last its time.
	Seq  int64
	Last time.Time
}

// useOf adds up what a thing has done.
func useOf(meetings []Meeting) ItemUse {
	var out ItemUse
	for _, m := range meetings {
		out.All.Stones += m.Whole
		out.All.Facets += m.Facets
		out.Since.Stones += m.Since.Stones
		out.Since.Facets += m.Since.Facets
		if m.Last.After(out.Last) {
			out.Last = m.Last
		}
	}
	return out
}

// ItemStone is a stone that met a thing.
type ItemStone struct {
	ID, Name, Material string
	Number, Facets     int
	Last               time.Time
}
