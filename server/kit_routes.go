package server

import (
	"context"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"cressa/core/abrasive"
	"cressa/words"
	"cressa/workshop"
)

// Shelf is all things of the kit, by their kinds, laps and compounds the coarsest first.
type Shelf struct {
	Items []Shelved `json:"items"`
}

// AddItemRequest is what somebody says of a new thing: what it is, the name it carries, and one
// figure: a diameter in mm, a gear's teeth, or how much there is; 0 leaves it to the name.
type AddItemRequest struct {
	Kind workshop.ItemKind `json:"kind" validate:"oneof=lap compound adhesive dop gear blade supply"`
	Name string            `json:"name" validate:"required,max=60"`
	Size float64           `json:"size" validate:"min=0,max=100000"`
}

// HappenedRequest says what happened to a thing. Which fields count depends on the kind.
type HappenedRequest struct {
	Kind string `json:"kind" validate:"oneof=charged cleaned touched renewed counted gone back"`
	// Item is the compound of the kit that a lap is charged with; "" for another, whose name, family
	// and mean grain in µm follow. Family and Grain are also what came onto it.
	Item   string          `json:"item" validate:"max=40"`
	Name   string          `json:"name" validate:"max=60"`
	Family abrasive.Family `json:"family" validate:"omitempty,oneof=diamond silicon-carbide alumina cerium tin-oxide zirconia silica other"`
	Grain  float64         `json:"grain" validate:"min=0,max=1000"`
	// Way is how it was cleaned, Flatness by how many µm it was out of flat then, null where nobody
	// measured.
	Way      abrasive.Cleaning `json:"way" validate:"omitempty,oneof=rinse scrub dress skim renew"`
	Flatness *float64          `json:"flatness" validate:"omitempty,min=0,max=5000"`
	// Material is a stone that came onto it, Hardness its hardness.
	Material string  `json:"material" validate:"max=60"`
	Hardness float64 `json:"hardness" validate:"min=0,max=10"`
	// On is the day, YYYY-MM-DD, since which the new one is in use, Have how much there is.
	On   string  `json:"on" validate:"max=10"`
	Have float64 `json:"have" validate:"min=0,max=100000"`
}

// LadderRequest asks for the passes of a stone as a ladder. Without passes they are those that a plan
// for the material would begin with.
type LadderRequest struct {
	Material string `json:"material" validate:"required,max=60"`
	Passes   []Pass `json:"passes" validate:"max=12,dive"`
}

// Ladder is the laps that a stone goes over, step by step, and what the shelf has for it.
type Ladder struct {
	Rungs []Rung `json:"rungs"`
	// Best are the laps of the shelf, by their IDs ("" for one that is not on it), that lead from the
	// first to the last in as few steps as can be; Sound tells that none of them is too large, and
	// Missing what would have to be bought.
	Best    []string `json:"best"`
	Sound   bool     `json:"sound"`
	Missing []Grade  `json:"missing"`
}

// Grade is a grit as it is bought: its mean grain in µm, and about the mesh that goes by.
type Grade struct {
	Grain float64 `json:"grain"`
	Mesh  float64 `json:"mesh"`
}

// Rung is one pass as a step of the ladder. Grains and depths are in µm.
type Rung struct {
	Pass Pass `json:"pass"`
	// Grain is the mean one that it works with, 0 where that is not known.
	Grain float64 `json:"grain"`
	// LeavesLow and LeavesHigh are how deep its damage goes, Leaves is where this material lies,
	// TakesOff what it must take off every facet at least.
	LeavesLow  float64 `json:"leavesLow"`
	LeavesHigh float64 `json:"leavesHigh"`
	Leaves     float64 `json:"leaves"`
	TakesOff   float64 `json:"takesOff"`
	// Ratio is how many times coarser the pass before is, 0 where that is not known, Limit what it
	// may be.
	Ratio float64 `json:"ratio"`
	Limit float64 `json:"limit"`
	// Wrong says what is wrong with the step, "" where nothing is.
	Wrong string `json:"wrong"`
	// Cares say what on the lap harms this stone, and Ways how it is cleaned of that.
	Cares []string   `json:"cares"`
	Ways  []CleanWay `json:"ways"`
}

// StarterRequest names a machine, the default where it is "", and the diameter of its laps in mm.
type StarterRequest struct {
	Machine  string  `query:"machine" json:"machine" validate:"max=40"`
	Diameter float64 `query:"diameter" json:"diameter" validate:"min=10,max=1000"`
}

// StarterList is what a beginner needs.
type StarterList struct {
	Things []StarterThing `json:"things"`
}

// StarterThing is something that a beginner needs. Have tells that the shelf has it.
type StarterThing struct {
	Kind workshop.ItemKind `json:"kind" validate:"oneof=lap compound adhesive dop gear blade supply"`
	Name string            `json:"name"`
	Size float64           `json:"size"`
	Why  string            `json:"why"`
	Have bool              `json:"have"`
}

// happenedByID names something that happened to a thing.
type happenedByID struct {
	ID    string `path:"id"`
	Event string `path:"event"`
}

func (s *Server) kitRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/kit", name: "getKit", summary: "The shelf"}, func(c *echo.Context, _ struct{}) (Shelf, error) {
		shelf, err := s.workshop.Shelf(c.Request().Context())
		return Shelf{each(shelf, shelvedView)}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/kit", name: "addItem", summary: "Put a thing on the shelf", creates: true}, func(c *echo.Context, in withBody[AddItemRequest]) (Shelved, error) {
		return shelved(s.workshop.AddItem(c.Request().Context(), workshop.Guess(in.Body)))
	})
	handle(s, route{method: http.MethodGet, path: "/api/kit/starter", name: "getStarterShelf", summary: "What a beginner needs"}, func(c *echo.Context, in StarterRequest) (StarterList, error) {
		list, err := s.workshop.StarterShelf(c.Request().Context(), in.Machine, in.Diameter)
		return StarterList{each(list, func(o workshop.Starter) StarterThing {
			return StarterThing{o.Kind, o.Name, o.Size, words.Starter(o.Why), o.Have}
		})}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/kit/ladder", name: "getLadder", summary: "Passes as a ladder of grits"}, func(c *echo.Context, in withBody[LadderRequest]) (Ladder, error) {
		passes := each(in.Body.Passes, func(p Pass) workshop.Pass { return workshop.Pass(p) })
		return ladderView(s.workshop.Ladder(c.Request().Context(), in.Body.Material, passes))
	})
	handle(s, route{method: http.MethodGet, path: "/api/kit/:id", name: "getItem", summary: "A thing of the kit with its story"}, s.itemPage)
	handle(s, route{method: http.MethodPut, path: "/api/kit/:id", name: "saveItem", summary: "Change what is said of a thing"}, func(c *echo.Context, in byIDWithBody[Item]) (Shelved, error) {
		item := in.Body.item()
		item.ID = in.ID
		return shelved(s.workshop.SaveItem(c.Request().Context(), item))
	})
	handle(s, route{method: http.MethodDelete, path: "/api/kit/:id", name: "dropItem", summary: "Take a thing off the shelf that was put there by mistake"}, func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.DropItem(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodPost, path: "/api/kit/:id/back", name: "addOtherSide", summary: "Put the other side of a lap on the shelf", creates: true}, func(c *echo.Context, in byID) (Shelved, error) {
		return shelved(s.workshop.OtherSide(c.Request().Context(), in.ID))
	})
	handle(s, route{method: http.MethodPost, path: "/api/kit/:id/log", name: "itemHappened", summary: "Say what happened to a thing", creates: true}, func(c *echo.Context, in byIDWithBody[HappenedRequest]) (Shelved, error) {
		kind, payload := in.Body.happened()
		return shelved(s.workshop.Happened(c.Request().Context(), in.ID, kind, payload))
	})
	handle(s, route{method: http.MethodDelete, path: "/api/kit/:id/log/:event", name: "undoItemHappened", summary: "Take back what was said of a thing"}, func(c *echo.Context, in happenedByID) (Shelved, error) {
		return shelved(s.workshop.UndoHappened(c.Request().Context(), in.ID, in.Event))
	})
}

func shelved(s workshop.Shelved, err error) (Shelved, error) { return shelvedView(s), err }

// usedOn is how many stones of a thing are listed.
const usedOn = 40

func (s *Server) itemPage(c *echo.Context, in byID) (ItemPage, error) {
	ctx := c.Request().Context()
	item, err := s.workshop.OnShelf(ctx, in.ID)
	if err != nil {
		return ItemPage{}, err
	}
	stones, err := s.workshop.StonesOf(ctx, in.ID, usedOn)
	if err != nil {
		return ItemPage{}, err
	}
	names, err := s.workshop.ItemNames(ctx)
	if err != nil {
		return ItemPage{}, err
	}
	out := ItemPage{
		Shelved: shelvedView(item), AllWays: []CleanWay{}, History: []ItemHistory{},
		UsedOn: each(stones, func(o workshop.ItemStone) ItemStone { return ItemStone(o) }),
		Met: each(item.Meetings, func(m workshop.Meeting) ItemMet {
			return ItemMet{m.Material, names[m.With], m.Stones, m.Facets, m.Last}
		}),
	}
	slices.Reverse(out.Met)
	if item.Lap != nil {
		fits := slices.DeleteFunc(slices.Clone(abrasive.Cleanings), func(w abrasive.Cleaning) bool { return w == abrasive.Renew || !w.Fits(item.Lap.Surface) })
		out.AllWays = waysOf(fits)
	}
	for _, e := range item.History {
		if text := words.ItemHappened(e); text != "" {
			out.History = append(out.History, ItemHistory{e.ID, e.ServerTime, e.By.Name, text})
		}
	}
	return out, nil
}

func ladderView(l workshop.Ladder, err error) (Ladder, error) {
	if err != nil {
		return Ladder{}, err
	}
	grade := func(grain float64) Grade { return Grade{grain, words.Mesh(grain)} }
	return Ladder{Rungs: each(l.Rungs, rungView), Best: l.Best, Sound: l.Sound, Missing: each(l.Missing, grade)}, nil
}

func rungView(r workshop.LadderRung) Rung {
	return Rung{
		Pass: Pass(r.Pass), Grain: r.Grain, LeavesLow: r.LeavesLow, LeavesHigh: r.LeavesHigh, Leaves: r.Leaves, TakesOff: r.TakesOff,
		Ratio: r.Ratio, Limit: r.Limit, Wrong: words.Rung(r), Cares: caresOf(r), Ways: waysOf(r.Ways),
	}
}

// caresOf is what of a lap harms a stone, and what of a bottle.
func caresOf(r workshop.LadderRung) []string {
	out := each(r.On, words.Residue)
	if r.KeptFor != "" {
		out = append(out, words.KeptFor(r.KeptFor))
	}
	for _, s := range []*workshop.Shelved{r.Lap, r.Compound} {
		if s == nil {
			continue
		}
		for _, n := range s.Needs {
			if n.Grave() {
				out = append(out, s.Name+": "+words.Need(n, *s))
			}
		}
	}
	return out
}

// kitNotices are the things that their owner should look after, the gravest first.
func (s *Server) kitNotices(ctx context.Context) ([]KitNotice, error) {
	out := []KitNotice{}
	shelf, err := s.workshop.Shelf(ctx)
	for _, o := range shelf {
		if len(o.Needs) > 0 {
			n := o.Needs[0]
			out = append(out, KitNotice{o.ID, o.Name, n.Grave(), words.Need(n, o)})
		}
	}
	first := func(n KitNotice) int {
		if n.Grave {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(out, func(a, b KitNotice) int { return first(a) - first(b) })
	return out, err
}
