package server

import (
	"math"
	"time"

	"cressa/core/abrasive"
	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

// Item is a thing of the kit: a lap, a bottle, a dop. Of the parts below it has the one that its kind
// names; a supply has none.
type Item struct {
	ID   string            `json:"id" validate:"max=40"`
	Kind workshop.ItemKind `json:"kind" validate:"oneof=lap compound adhesive dop gear blade supply"`
	Name string            `json:"name" validate:"required,max=60"`
	Note string            `json:"note" validate:"max=2000"`
	// Unit is what its stock is counted in, Low the stock at which another is due, 0 for never.
	Unit string  `json:"unit" validate:"max=20"`
	Low  float64 `json:"low" validate:"min=0,max=100000"`
	// ShelfMonths is how long it keeps once it was opened, 0 for ever.
	ShelfMonths float64 `json:"shelfMonths" validate:"min=0,max=600"`
	// Lasts is for how many stones one is good, as its owner says; 0 leaves that to the log.
	Lasts    float64   `json:"lasts" validate:"min=0,max=100000"`
	Lap      *Lap      `json:"lap"`
	Compound *Compound `json:"compound"`
	Adhesive *Adhesive `json:"adhesive"`
	Dop      *Dop      `json:"dop"`
	Gear     *KitGear  `json:"gear"`
	Blade    *Blade    `json:"blade"`
	Version  int       `json:"version"`
}

// Lap is a lap, or one side of it. Diameter and Hub, the middle that does not cut, are in mm.
type Lap struct {
	Surface abrasive.Surface `json:"surface" validate:"oneof=bonded metal plastic wax wood ceramic fabric film"`
	// Of is what it is made of.
	Of string `json:"of" validate:"max=40"`
	// Grain is that of the grit that is fast in it, the mean in µm, 0 where it is charged.
	Grain    float64       `json:"grain" validate:"min=0,max=1000"`
	Polishes bool          `json:"polishes"`
	Diameter float64       `json:"diameter" validate:"min=10,max=1000"`
	Hub      float64       `json:"hub" validate:"min=0,max=500,ltfield=Diameter"`
	Side     workshop.Side `json:"side" validate:"omitempty,oneof=front back"`
	// KeptFor is the material that it is kept for, "" for all.
	KeptFor string `json:"keptFor" validate:"max=60"`
}

// Compound is what a lap is charged with.
type Compound struct {
	Family abrasive.Family `json:"family" validate:"oneof=diamond silicon-carbide alumina cerium tin-oxide zirconia silica other"`
	// Grain is the mean in µm, 0 where it is not known.
	Grain   float64 `json:"grain" validate:"min=0,max=1000"`
	Carrier string  `json:"carrier" validate:"max=40"`
}

// Adhesive holds a stone on its dop.
type Adhesive struct {
	Sort workshop.Sort `json:"sort" validate:"oneof=wax cyanoacrylate epoxy other"`
	// Minutes is how long it takes until the stone can be cut.
	Minutes float64 `json:"minutes" validate:"min=0,max=10080"`
}

// Dop is what a stone is glued to. Diameter is that of its face, in mm.
type Dop struct {
	Shape    workshop.DopShape `json:"shape" validate:"oneof=flat cone vee"`
	Diameter float64           `json:"diameter" validate:"min=0.5,max=100"`
}

// KitGear is an index gear, with the machines that it goes onto, by their IDs.
type KitGear struct {
	Teeth    int      `json:"teeth" validate:"min=1,max=360"`
	Machines []string `json:"machines" validate:"max=20,dive,max=40"`
}

// Blade is a saw blade. Both figures are in mm.
type Blade struct {
	Diameter float64 `json:"diameter" validate:"min=10,max=1000"`
	Kerf     float64 `json:"kerf" validate:"min=0.05,max=10"`
}

// Shelved is a thing of the kit with what the logs tell of it.
type Shelved struct {
	Item Item `json:"item"`
	Gone bool `json:"gone"`
	// Have is its stock, null where nobody counted.
	Have *float64 `json:"have"`
	// Opened is the day since which the present one is open or in use, Until that up to which it
	// keeps; "" where that is not known, or it keeps for ever.
	Opened string `json:"opened"`
	Until  string `json:"until"`
	// Grain is the mean one that a lap works with, in µm, 0 where that is not known, and Charge what
	// it was charged with last, null for none.
	Grain  float64 `json:"grain"`
	Charge *Charge `json:"charge"`
	// Flatness is how far a lap is out of flat, in µm, null where it was not measured.
	Flatness *float64 `json:"flatness"`
	// Area is that of a lap's face, in cm², 0 for other things.
	Area float64 `json:"area"`
	// Stones and Facets are what it has done since it was charged or renewed, AllStones and AllFacets
	// what it has done at all, Used when that was last, null for never.
	Stones    int        `json:"stones"`
	Facets    int        `json:"facets"`
	AllStones int        `json:"allStones"`
	AllFacets int        `json:"allFacets"`
	Used      *time.Time `json:"used"`
	// GoodFor is for how many stones one lasts, 0 where nothing is known, LearnedFrom of how many
	// that was learned, 0 where its owner says so. Left is the share that is left, null where nothing
	// is known.
	GoodFor     float64  `json:"goodFor"`
	LearnedFrom int      `json:"learnedFrom"`
	Left        *float64 `json:"left"`
	// On is what is on a lap that may harm the next stone, Ways how it is cleaned of all of it, the
	// mildest first.
	On    []string    `json:"on"`
	Ways  []CleanWay  `json:"ways"`
	Needs []NeedEntry `json:"needs"`
}

// Charge is what a lap was charged with.
type Charge struct {
	Name string    `json:"name"`
	At   time.Time `json:"at"`
}

// CleanWay is a way of cleaning a lap.
type CleanWay struct {
	Way  abrasive.Cleaning `json:"way" validate:"oneof=rinse scrub dress skim renew"`
	Text string            `json:"text"`
}

// NeedEntry is something that is due for a thing.
type NeedEntry struct {
	Need workshop.Need `json:"need" validate:"oneof=past-date near-date used-up runs-low worn nearly-worn dirty"`
	// Grave tells of what spoils a stone or stops the work.
	Grave bool   `json:"grave"`
	Text  string `json:"text"`
}

// KitNotice is a thing of the kit that its owner should look after.
type KitNotice struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Grave bool   `json:"grave"`
	Text  string `json:"text"`
}

// ItemPage is a thing of the kit with its story.
type ItemPage struct {
	Shelved
	// AllWays are the ways in which such a lap can be cleaned at all.
	AllWays []CleanWay `json:"allWays"`
	// Met is what a lap met at work, the last first.
	Met []ItemMet `json:"met"`
	// Stones are those that it was used on, the last first.
	UsedOn  []ItemStone   `json:"usedOn"`
	History []ItemHistory `json:"history"`
}

// ItemMet is a material that a thing was used on, and with what.
type ItemMet struct {
	Material string    `json:"material"`
	With     string    `json:"with"`
	Stones   int       `json:"stones"`
	Facets   int       `json:"facets"`
	Last     time.Time `json:"last"`
}

// ItemStone is a stone that a thing was used on.
type ItemStone struct {
	ID       string    `json:"id"`
	Name     string    `json:"name"`
	Material string    `json:"material"`
	Number   int       `json:"number"`
	Facets   int       `json:"facets"`
	Last     time.Time `json:"last"`
}

// ItemHistory is something that happened to a thing.
type ItemHistory struct {
	ID   string    `json:"id"`
	At   time.Time `json:"at"`
	By   string    `json:"by"`
	Text string    `json:"text"`
}

func (i Item) item() workshop.Item {
	return workshop.Item{
		ID: i.ID, Kind: i.Kind, Name: i.Name, Note: i.Note, Unit: i.Unit, Low: i.Low, ShelfMonths: i.ShelfMonths, Lasts: i.Lasts, Version: i.Version,
		Lap: (*workshop.Lap)(i.Lap), Compound: (*workshop.Compound)(i.Compound), Adhesive: (*workshop.Adhesive)(i.Adhesive),
		Dop: (*workshop.Dop)(i.Dop), Gear: (*workshop.Gear)(i.Gear), Blade: (*workshop.Blade)(i.Blade),
	}
}

func itemView(i workshop.Item) Item {
	return Item{
		ID: i.ID, Kind: i.Kind, Name: i.Name, Note: i.Note, Unit: i.Unit, Low: i.Low, ShelfMonths: i.ShelfMonths, Lasts: i.Lasts, Version: i.Version,
		Lap: (*Lap)(i.Lap), Compound: (*Compound)(i.Compound), Adhesive: (*Adhesive)(i.Adhesive),
		Dop: (*Dop)(i.Dop), Gear: (*KitGear)(i.Gear), Blade: (*Blade)(i.Blade),
	}
}

func shelvedView(s workshop.Shelved) Shelved {
	out := Shelved{
		Item: itemView(s.Item), Gone: s.Gone, Have: s.Have, Opened: s.Opened, Until: s.Until, Flatness: s.Flatness,
		Stones: s.Use.Since.Stones, Facets: s.Use.Since.Facets, AllStones: s.Use.All.Stones, AllFacets: s.Use.All.Facets, Used: momentOrNone(s.Use.Last),
		GoodFor: math.Round(s.Lasts*10) / 10, LearnedFrom: s.LastsFrom,
		On: each(s.Residues, words.Residue), Ways: waysOf(s.Ways), Needs: needsOf(s),
	}
	if s.Lap != nil {
		out.Grain, out.Area = s.Works().Grain, math.Round(abrasive.Area(s.Lap.Diameter, s.Lap.Hub)*10)/10
	}
	if s.Charge != nil {
		out.Charge = &Charge{s.Charge.Name, s.ChargedAt}
	}
	if left, known := s.Left(); known {
		out.Left = &left
	}
	return out
}

func waysOf(ways []abrasive.Cleaning) []CleanWay {
	return each(ways, func(c abrasive.Cleaning) CleanWay { return CleanWay{c, words.Way(c)} })
}

func needsOf(s workshop.Shelved) []NeedEntry {
	return each(s.Needs, func(n workshop.Need) NeedEntry { return NeedEntry{n, n.Grave(), words.Need(n, s)} })
}

// happened reads what a request says of a thing.
func (r HappenedRequest) happened() (journal.Kind, any) {
	kind := journal.Kind(r.Kind)
	switch kind {
	case journal.Charged:
		return kind, journal.Charging{Item: r.Item, Name: r.Name, Family: string(r.Family), Grain: r.Grain}
	case journal.Cleaned:
		return kind, journal.Cleaning{Way: string(r.Way), Flatness: r.Flatness}
	case journal.Touched:
		return kind, journal.Touching{Family: string(r.Family), Grain: r.Grain, Material: r.Material, Hardness: r.Hardness}
	case journal.Renewed:
		return kind, journal.Renewing{On: r.On}
	case journal.Counted:
		return kind, journal.Count{Have: r.Have}
	}
	return kind, nil
}
