package workshop

import (
	"context"
	"math"
	"slices"
	"time"

	"cressa/core/abrasive"
	"cressa/core/diagram"
)

// Recipe is how something is done to a lap: charging, making, truing, oiling, breaking in.
type Recipe struct {
	ID   string
	Name string     `validate:"required,max=100"`
	Kind RecipeKind `validate:"oneof=charge make true oil break-in"`
	// Surfaces are those it is for; none are all.
	Surfaces []abrasive.Surface `validate:"max=8,dive,oneof=bonded metal plastic wax wood ceramic fabric film"`
	Parts    []RecipePart       `validate:"max=20,dive"`
	Steps    []RecipeStep       `validate:"min=1,max=40,dive"`
	Caution  string             `validate:"max=500"`
	Created  time.Time
	// Version is 0 for one that ships with the application: it is copied, not changed.
	Version int
}

// RecipeKind is what a recipe does.
type RecipeKind string

// The kinds.
const (
	ToChargeLap RecipeKind = "charge"
	ToMakeLap   RecipeKind = "make"
	ToTrueLap   RecipeKind = "true"
	ToOilLap    RecipeKind = "oil"
	ToBreakIn   RecipeKind = "break-in"
)

// RecipePart is something that a recipe takes.
type RecipePart struct {
	What   string  `validate:"required,max=60"`
	Amount float64 `validate:"min=0,max=100000"`
	Unit   string  `validate:"max=20"`
	Per    Per     `validate:"oneof=lap area grain"`
}

// Per is what an amount goes by.
type Per string

// What amounts go by.
const (
	// PerLap: that much, however large the lap is.
	PerLap Per = "lap"
	// PerArea: that much for 100 cm² of its face.
	PerArea Per = "area"
	// PerGrain: the carats of diamond that 100 cm² take by the size of the grains, times the amount.
	PerGrain Per = "grain"
)

// For returns how much a part is for a lap, with a grain in µm for what goes by that, to a hundredth;
// drops are counted.
func (p RecipePart) For(l Lap, grain float64) float64 {
	area := abrasive.Area(l.Diameter, l.Hub) / 100
	amount := p.Amount
	switch p.Per {
	case PerArea:
		amount *= area
	case PerGrain:
		amount *= area * abrasive.ChargeOf(grain)
	}
	if p.Unit == "drops" {
		return math.Max(1, math.Round(amount))
	}
	return math.Round(100*amount) / 100
}

// RecipeStep is one step, with the minutes that it takes by the clock, 0 for none.
type RecipeStep struct {
	Text    string  `validate:"required,max=500"`
	Minutes float64 `validate:"min=0,max=10080"`
}

// Fits tells whether a recipe is for such a lap.
func (r Recipe) Fits(l Lap) bool {
	return len(r.Surfaces) == 0 || slices.Contains(r.Surfaces, l.Surface)
}

// mostRecipes is how many recipes of one's own are kept.
const mostRecipes = 200

// Recipes returns the recipes of the workshop's own, in the order in which they came.
func (k *Kit) Recipes(ctx context.Context) ([]Recipe, error) { return k.store.Recipes(ctx) }

// SaveRecipe keeps a recipe of one's own: a new one where it has no ID, else over the version that the
// caller read. It returns the errors of Validate, ErrStale, and a diagram.Problem where there are too
// many.
func (k *Kit) SaveRecipe(ctx context.Context, r Recipe) (Recipe, error) {
	version := r.Version
	if r.ID == "" {
		r.ID, r.Created, version = k.newID(), k.moment(), 0
	}
	r.Version = version + 1
	if err := Validate(r); err != nil {
		return r, err
	}
	return r, k.store.InTx(ctx, func(ctx context.Context) error {
		if version > 0 {
			return k.store.SaveRecipe(ctx, r, version)
		}
		all, err := k.store.Recipes(ctx)
		if err != nil {
			return err
		}
		if len(all) >= mostRecipes {
			return diagram.Problem{Code: FullShelf, TierNo: -1, Field: "recipes", Value: mostRecipes}
		}
		return k.store.InsertRecipe(ctx, r)
	})
}

// DropRecipe throws a recipe of one's own away. It returns ErrNotFound.
func (k *Kit) DropRecipe(ctx context.Context, id string) error { return k.store.DropRecipe(ctx, id) }
