package server

import (
	"cmp"
	"math"
	"net/http"
	"slices"
	"time"

	"github.com/labstack/echo/v5"

	"cressa/core/abrasive"
	"cressa/words"
	"cressa/workshop"
)

// Recipe is how something is done to a lap.
type Recipe struct {
	// ID is "" for one that is to be kept for the first time.
	ID   string              `json:"id" validate:"max=40"`
	Name string              `json:"name" validate:"required,max=100"`
	Kind workshop.RecipeKind `json:"kind" validate:"oneof=charge make true oil break-in"`
	// Surfaces are the faces that it is for; none are all.
	Surfaces []abrasive.Surface `json:"surfaces" validate:"max=8,dive,oneof=bonded metal plastic wax wood ceramic fabric film"`
	Parts    []RecipePart       `json:"parts" validate:"max=20,dive"`
	Steps    []RecipeStep       `json:"steps" validate:"min=1,max=40,dive"`
	Caution  string             `json:"caution" validate:"max=500"`
	// Version is 0 for one that ships with the application: it is copied, not changed.
	Version int `json:"version"`
}

// RecipePart is something that a recipe takes: so much for the lap, for 100 cm² of its face, or times
// the carats of diamond that 100 cm² take by the size of the grains.
type RecipePart struct {
	What   string       `json:"what" validate:"required,max=60"`
	Amount float64      `json:"amount" validate:"min=0,max=100000"`
	Unit   string       `json:"unit" validate:"max=20"`
	Per    workshop.Per `json:"per" validate:"oneof=lap area grain"`
}

// RecipeStep is one step, with the minutes that it takes by the clock, 0 for none.
type RecipeStep struct {
	Text    string  `json:"text" validate:"required,max=500"`
	Minutes float64 `json:"minutes" validate:"min=0,max=10080"`
}

// RecipeList is the recipes that ship and those of one's own.
type RecipeList struct {
	Recipes []Recipe `json:"recipes"`
}

// RecipesFor asks for the recipes of a lap, with a mean grain in µm for what goes by that; 0 is what
// the lap works with.
type RecipesFor struct {
	ID    string  `path:"id" json:"-"`
	Grain float64 `query:"grain" json:"grain" validate:"min=0,max=1000"`
}

// FittedRecipes are recipes with the amounts for a lap.
type FittedRecipes struct {
	// Grain is that for which the amounts are, in µm.
	Grain   float64        `json:"grain"`
	Recipes []FittedRecipe `json:"recipes"`
}

// FittedRecipe is a recipe with the amounts for a lap, in the order of its parts.
type FittedRecipe struct {
	Recipe  Recipe    `json:"recipe"`
	Amounts []float64 `json:"amounts"`
}

// PolishTrial is what a polish made of a facet, or of a facet and the one opposite it.
type PolishTrial struct {
	Material string `json:"material" validate:"required,max=60"`
	// Stone is the ID of the stone it was made on, "" where that is not in the records.
	Stone string      `json:"stone" validate:"max=40"`
	Ways  []PolishWay `json:"ways" validate:"min=1,max=2,dive"`
	Note  string      `json:"note" validate:"max=2000"`
}

// PolishWay is one way of polishing, and what came of it.
type PolishWay struct {
	Facet        string `json:"facet" validate:"max=40"`
	Lap          string `json:"lap" validate:"max=60"`
	LapItem      string `json:"lapItem" validate:"max=40"`
	Compound     string `json:"compound" validate:"max=60"`
	CompoundItem string `json:"compoundItem" validate:"max=40"`
	// RPM is how fast the lap turned, 0 where that is not known.
	RPM      float64           `json:"rpm" validate:"min=0,max=10000"`
	Pressure workshop.Pressure `json:"pressure" validate:"omitempty,oneof=light medium firm"`
	// Strokes and Minutes are what it took, 0 where nobody counted.
	Strokes int     `json:"strokes" validate:"min=0,max=100000"`
	Minutes float64 `json:"minutes" validate:"min=0,max=1000"`
	// Result is from 1, scratched, over 2, dull, and 3, good, to 4, flawless.
	Result int `json:"result" validate:"min=1,max=4"`
	// Photo is the hash of a photo of the stone, "" for none.
	Photo string `json:"photo" validate:"max=64"`
}

// PolishList is the trials of polishes, the last first, and how polishes stand on each material that
// was tried, the best first.
type PolishList struct {
	Trials    []KeptPolishTrial `json:"trials"`
	Standings []PolishStanding  `json:"standings"`
}

// KeptPolishTrial is a trial as it is kept.
type KeptPolishTrial struct {
	PolishTrial
	ID   string    `json:"id"`
	Made time.Time `json:"made"`
	// Speeds is how fast each way's lap ran under the stone, in m/s, in the middle of its track; 0
	// where that is not known.
	Speeds []float64 `json:"speeds"`
}

// PolishStanding is how a lap and a compound have done on a material: on how many trials that rests,
// the mean of their results, and of their minutes, 0 where none were timed.
type PolishStanding struct {
	Material string  `json:"material"`
	Lap      string  `json:"lap"`
	Compound string  `json:"compound"`
	Trials   int     `json:"trials"`
	Mean     float64 `json:"mean"`
	Minutes  float64 `json:"minutes"`
}

// BlindTrialRequest begins a trial that is judged blind.
type BlindTrialRequest struct {
	Name     string       `json:"name" validate:"required,max=100"`
	Question string       `json:"question" validate:"required,max=200"`
	Differs  string       `json:"differs" validate:"required,max=200"`
	Entries  []BlindEntry `json:"entries" validate:"min=2,max=6,dive"`
}

// BlindEntry is one of the stones: how it differs, and its ID, "" where it is not in the records.
type BlindEntry struct {
	What  string `json:"what" validate:"required,max=100"`
	Stone string `json:"stone" validate:"max=40"`
}

// TwinRequest plans a second stone like one that is planned, but for one thing: the lap and compound
// of its last pass where Girdle is "", else how far its girdle is taken.
type TwinRequest struct {
	Stone    string                `json:"stone" validate:"required,max=40"`
	Girdle   workshop.GirdleFinish `json:"girdle" validate:"omitempty,oneof=polished prepolished cut"`
	Polish   TwinPolish            `json:"polish"`
	Question string                `json:"question" validate:"required,max=200"`
}

// TwinPolish is the lap and the compound of the second stone's last pass.
type TwinPolish struct {
	Lap          string `json:"lap" validate:"max=60"`
	LapItem      string `json:"lapItem" validate:"max=40"`
	Compound     string `json:"compound" validate:"max=60"`
	CompoundItem string `json:"compoundItem" validate:"max=40"`
}

// BlindTrialList is the trials that are judged blind, the last first.
type BlindTrialList struct {
	Trials []BlindTrial `json:"trials"`
}

// BlindTrial is a trial as everybody may see it: nothing in it tells which is which before it was opened.
type BlindTrial struct {
	ID       string    `json:"id"`
	Name     string    `json:"name"`
	Question string    `json:"question"`
	Differs  string    `json:"differs"`
	Created  time.Time `json:"created"`
	// Letters are what the judges call the entries, in an order that is drawn each time.
	Letters []string `json:"letters"`
	Judges  []string `json:"judges"`
	// Outcome is null before it was opened.
	Outcome *BlindOutcome `json:"outcome"`
}

// BlindOutcome is what came of a trial.
type BlindOutcome struct {
	Entries []BlindLetter `json:"entries"`
	// Alike is how many saw no difference.
	Alike int `json:"alike"`
	// Chance is how likely judges who cannot tell would be to favour one as clearly, 0 to 1, and
	// Says that in words.
	Chance float64    `json:"chance"`
	Says   string     `json:"says"`
	Notes  []SaidNote `json:"notes"`
}

// BlindLetter is an entry with its letter.
type BlindLetter struct {
	Letter string `json:"letter"`
	What   string `json:"what"`
	// Stone is its ID and Number its number, "" and 0 where it is not in the records.
	Stone  string `json:"stone"`
	Number int    `json:"number"`
	Votes  int    `json:"votes"`
}

// SaidNote is what a judge noted.
type SaidNote struct {
	Judge  string `json:"judge"`
	Letter string `json:"letter"`
	Note   string `json:"note"`
}

// VerdictRequest is what one judge says: a letter, "" for no difference.
type VerdictRequest struct {
	Judge  string `json:"judge" validate:"required,max=60"`
	Letter string `json:"letter" validate:"max=1"`
	Note   string `json:"note" validate:"max=500"`
}

// BlindKey tells which is which, for whoever lays the stones out.
type BlindKey struct {
	Entries []BlindLetter `json:"entries"`
}

func (s *Server) trialRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/recipes", name: "listRecipes", summary: "How laps are charged, made, trued, oiled and broken in"}, func(c *echo.Context, _ struct{}) (RecipeList, error) {
		own, err := s.workshop.Recipes(c.Request().Context())
		return RecipeList{each(append(words.Recipes(), own...), recipeView)}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/recipes", name: "addRecipe", summary: "Keep a recipe of one's own", creates: true}, func(c *echo.Context, in withBody[Recipe]) (Recipe, error) {
		r := in.Body.recipe()
		r.ID = ""
		return viewedRecipe(s.workshop.SaveRecipe(c.Request().Context(), r))
	})
	handle(s, route{method: http.MethodPut, path: "/api/recipes/:id", name: "saveRecipe", summary: "Change a recipe of one's own"}, func(c *echo.Context, in byIDWithBody[Recipe]) (Recipe, error) {
		r := in.Body.recipe()
		r.ID = in.ID
		return viewedRecipe(s.workshop.SaveRecipe(c.Request().Context(), r))
	})
	handle(s, route{method: http.MethodDelete, path: "/api/recipes/:id", name: "dropRecipe", summary: "Throw a recipe of one's own away"}, func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.DropRecipe(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodGet, path: "/api/kit/:id/recipes", name: "getRecipesFor", summary: "Recipes with the amounts for a lap"}, s.recipesFor)
	handle(s, route{method: http.MethodGet, path: "/api/polishes", name: "listPolishTrials", summary: "What polishes made of facets"}, s.polishList)
	handle(s, route{method: http.MethodPost, path: "/api/polishes", name: "addPolishTrial", summary: "Note a trial of a polish", creates: true}, func(c *echo.Context, in withBody[PolishTrial]) (KeptPolishTrial, error) {
		t := workshop.PolishTrial{Material: in.Body.Material, Stone: in.Body.Stone, Note: in.Body.Note}
		t.Ways = each(in.Body.Ways, func(w PolishWay) workshop.PolishWay { return workshop.PolishWay(w) })
		t, err := s.workshop.AddPolishTrial(c.Request().Context(), t)
		return polishView(t, nil), err
	})
	handle(s, route{method: http.MethodDelete, path: "/api/polishes/:id", name: "dropPolishTrial", summary: "Take out a trial of a polish that was noted by mistake"}, func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.DropPolishTrial(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodGet, path: "/api/trials", name: "listBlindTrials", summary: "Trials that are judged blind"}, func(c *echo.Context, _ struct{}) (BlindTrialList, error) {
		list, err := s.workshop.BlindTrials(c.Request().Context())
		return BlindTrialList{each(list, s.blindView)}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/trials", name: "addBlindTrial", summary: "Begin a trial that is judged blind", creates: true}, func(c *echo.Context, in withBody[BlindTrialRequest]) (BlindTrial, error) {
		t := workshop.BlindTrial{Name: in.Body.Name, Question: in.Body.Question, Differs: in.Body.Differs}
		t.Entries = each(in.Body.Entries, func(e BlindEntry) workshop.BlindEntry { return workshop.BlindEntry{What: e.What, Stone: e.Stone} })
		return s.viewedBlind(s.workshop.AddBlindTrial(c.Request().Context(), t))
	})
	handle(s, route{method: http.MethodPost, path: "/api/trials/pair", name: "planPair", summary: "Plan a second stone that differs in one thing", creates: true, computes: true}, func(c *echo.Context, in withBody[TwinRequest]) (BlindTrial, error) {
		p := in.Body.Polish
		by := workshop.Twin{Girdle: in.Body.Girdle, Polish: workshop.Pass{Lap: p.Lap, LapItem: p.LapItem, Compound: p.Compound, CompoundItem: p.CompoundItem}}
		return s.viewedBlind(s.workshop.PlanPair(c.Request().Context(), in.Body.Stone, by, in.Body.Question))
	})
	handle(s, route{method: http.MethodGet, path: "/api/trials/:id", name: "getBlindTrial", summary: "A trial that is judged blind"}, s.blindTrial)
	handle(s, route{method: http.MethodPost, path: "/api/trials/:id/verdicts", name: "judgeTrial", summary: "Say which of them it is", creates: true}, func(c *echo.Context, in byIDWithBody[VerdictRequest]) (none, error) {
		return none{}, s.workshop.Judge(c.Request().Context(), in.ID, workshop.Verdict{Judge: in.Body.Judge, Letter: in.Body.Letter, Note: in.Body.Note})
	})
	// Which is which stays at the machine of the workshop: judges sit at tablets.
	handle(s, route{method: http.MethodGet, path: "/api/trials/:id/key", name: "getBlindKey", summary: "Which is which, for laying the stones out", from: fromThisMachine}, func(c *echo.Context, in byID) (BlindKey, error) {
		t, err := s.workshop.BlindTrial(c.Request().Context(), in.ID)
		if err != nil {
			return BlindKey{}, err
		}
		entries, err := s.lettersOf(c, t, nil)
		return BlindKey{entries}, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/trials/:id/open", name: "openBlindTrial", summary: "Tell which is which, and hear nobody any more", from: fromThisMachine}, func(c *echo.Context, in byID) (BlindTrial, error) {
		if _, err := s.workshop.OpenTrial(c.Request().Context(), in.ID); err != nil {
			return BlindTrial{}, err
		}
		return s.blindTrial(c, in)
	})
}

func (r Recipe) recipe() workshop.Recipe {
	return workshop.Recipe{
		ID: r.ID, Name: r.Name, Kind: r.Kind, Surfaces: r.Surfaces, Caution: r.Caution, Version: r.Version,
		Parts: each(r.Parts, func(p RecipePart) workshop.RecipePart { return workshop.RecipePart(p) }),
		Steps: each(r.Steps, func(o RecipeStep) workshop.RecipeStep { return workshop.RecipeStep(o) }),
	}
}

func recipeView(r workshop.Recipe) Recipe {
	return Recipe{
		ID: r.ID, Name: r.Name, Kind: r.Kind, Surfaces: append([]abrasive.Surface{}, r.Surfaces...), Caution: r.Caution, Version: r.Version,
		Parts: each(r.Parts, func(p workshop.RecipePart) RecipePart { return RecipePart(p) }),
		Steps: each(r.Steps, func(o workshop.RecipeStep) RecipeStep { return RecipeStep(o) }),
	}
}

func viewedRecipe(r workshop.Recipe, err error) (Recipe, error) { return recipeView(r), err }

func (s *Server) recipesFor(c *echo.Context, in RecipesFor) (FittedRecipes, error) {
	ctx := c.Request().Context()
	item, err := s.workshop.OnShelf(ctx, in.ID)
	if err != nil {
		return FittedRecipes{}, err
	}
	if item.Lap == nil {
		return FittedRecipes{}, workshop.ErrNotFound
	}
	own, err := s.workshop.Recipes(ctx)
	// What a polishing lap without a charge of its own usually gets.
	const fine = 0.5
	out := FittedRecipes{Grain: cmp.Or(in.Grain, item.Works().Grain, fine), Recipes: []FittedRecipe{}}
	for _, r := range append(words.Recipes(), own...) {
		if r.Fits(*item.Lap) {
			amounts := each(r.Parts, func(p workshop.RecipePart) float64 { return p.For(*item.Lap, out.Grain) })
			out.Recipes = append(out.Recipes, FittedRecipe{recipeView(r), amounts})
		}
	}
	return out, err
}

func polishView(t workshop.PolishTrial, shelf []workshop.Shelved) KeptPolishTrial {
	ways := each(t.Ways, func(w workshop.PolishWay) PolishWay { return PolishWay(w) })
	speeds := each(t.Ways, func(w workshop.PolishWay) float64 { return math.Round(100*w.Speed(shelf)) / 100 })
	return KeptPolishTrial{PolishTrial{t.Material, t.Stone, ways, t.Note}, t.ID, t.Made, speeds}
}

func (s *Server) polishList(c *echo.Context, _ struct{}) (PolishList, error) {
	ctx := c.Request().Context()
	trials, err := s.workshop.PolishTrials(ctx)
	if err != nil {
		return PolishList{}, err
	}
	shelf, err := s.workshop.Shelf(ctx)
	out := PolishList{Standings: []PolishStanding{}}
	out.Trials = each(trials, func(t workshop.PolishTrial) KeptPolishTrial { return polishView(t, shelf) })
	var materials []string
	for _, t := range trials {
		if !slices.Contains(materials, t.Material) {
			materials = append(materials, t.Material)
		}
	}
	slices.Sort(materials)
	for _, m := range materials {
		for _, o := range workshop.StandingsOf(trials, m) {
			out.Standings = append(out.Standings, PolishStanding{m, o.Lap, o.Compound, o.Trials, o.Mean, o.Minutes})
		}
	}
	return out, err
}

// blindView is a trial without what came of it.
func (s *Server) blindView(t workshop.BlindTrial) BlindTrial {
	return BlindTrial{
		ID: t.ID, Name: t.Name, Question: t.Question, Differs: words.Differs(t.Differs), Created: t.Created, Letters: s.workshop.Letters(t),
		Judges: each(t.Verdicts, func(v workshop.Verdict) string { return v.Judge }),
	}
}

func (s *Server) viewedBlind(t workshop.BlindTrial, err error) (BlindTrial, error) {
	if err != nil {
		return BlindTrial{}, err
	}
	return s.blindView(t), nil
}

func (s *Server) blindTrial(c *echo.Context, in byID) (BlindTrial, error) {
	t, err := s.workshop.BlindTrial(c.Request().Context(), in.ID)
	if err != nil {
		return BlindTrial{}, err
	}
	out := s.blindView(t)
	if t.Opened.IsZero() {
		return out, nil
	}
	tally := t.Tally()
	entries, err := s.lettersOf(c, t, tally.Votes)
	out.Outcome = &BlindOutcome{Entries: entries, Alike: tally.Alike, Chance: tally.Chance, Says: words.Tally(t, tally), Notes: []SaidNote{}}
	for _, v := range t.Verdicts {
		out.Outcome.Notes = append(out.Outcome.Notes, SaidNote{v.Judge, v.Letter, v.Note})
	}
	return out, err
}

// lettersOf are the entries with their letters, and their votes where those are given.
func (s *Server) lettersOf(c *echo.Context, t workshop.BlindTrial, votes []int) ([]BlindLetter, error) {
	out := make([]BlindLetter, len(t.Entries))
	for i, e := range t.Entries {
		out[i] = BlindLetter{Letter: e.Letter, What: words.Entry(t.Differs, e.What), Stone: e.Stone}
		if votes != nil {
			out[i].Votes = votes[i]
		}
		if e.Stone == "" {
			continue
		}
		stone, err := s.workshop.Stone(c.Request().Context(), e.Stone)
		if err != nil {
			return nil, err
		}
		out[i].Number = stone.Number
	}
	slices.SortFunc(out, func(a, b BlindLetter) int { return cmp.Compare(a.Letter, b.Letter) })
	return out, nil
}
