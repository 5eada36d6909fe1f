package sqlite

import (
	"context"
	"time"

	"cressa/core/abrasive"
	"cressa/workshop"
)

// Recipes and trials of the kit, and the documents that they are stored as.

const (
	recipeForm = 1
	polishForm = 1
	blindForm  = 1
)

type recipeDoc struct {
	form
	Name     string             `json:"name"`
	Kind     string             `json:"kind"`
	Surfaces []abrasive.Surface `json:"surfaces"`
	Parts    []recipePartDoc    `json:"parts"`
	Steps    []recipeStepDoc    `json:"steps"`
	Caution  string             `json:"caution"`
}

type recipePartDoc struct {
	What   string       `json:"what"`
	Amount float64      `json:"amount"`
	Unit   string       `json:"unit"`
	Per    workshop.Per `json:"per"`
}

type recipeStepDoc struct {
	Text    string  `json:"text"`
	Minutes float64 `json:"minutes"`
}

func recipeDocument(r workshop.Recipe) string {
	d := recipeDoc{form: form{recipeForm}, Name: r.Name, Kind: string(r.Kind), Surfaces: r.Surfaces, Caution: r.Caution}
	for _, p := range r.Parts {
		d.Parts = append(d.Parts, recipePartDoc(p))
	}
	for _, s := range r.Steps {
		d.Steps = append(d.Steps, recipeStepDoc(s))
	}
	return document(d)
}

// Recipes implements workshop.RecipeStore.
func (s *Store) Recipes(ctx context.Context) ([]workshop.Recipe, error) {
	out := []workshop.Recipe{}
	return out, s.rows(ctx, func(scan scan) error {
		r := workshop.Recipe{Surfaces: []abrasive.Surface{}, Parts: []workshop.RecipePart{}, Steps: []workshop.RecipeStep{}}
		var text string
		if err := scan(&r.ID, asInstant{&r.Created}, &r.Version, &text); err != nil {
			return err
		}
		var d recipeDoc
		if err := read(text, recipeForm, &d); err != nil {
			return err
		}
		r.Name, r.Kind, r.Caution = d.Name, workshop.RecipeKind(d.Kind), d.Caution
		r.Surfaces = append(r.Surfaces, d.Surfaces...)
		for _, p := range d.Parts {
			r.Parts = append(r.Parts, workshop.RecipePart(p))
		}
		for _, p := range d.Steps {
			r.Steps = append(r.Steps, workshop.RecipeStep(p))
		}
		out = append(out, r)
		return nil
	}, `SELECT id, created, version, document FROM recipes ORDER BY created, id`)
}

// InsertRecipe implements workshop.RecipeStore.
func (s *Store) InsertRecipe(ctx context.Context, r workshop.Recipe) error {
	return s.exec(ctx, `INSERT INTO recipes (id, created, version, document) VALUES (?, ?, ?, ?)`, r.ID, instant(r.Created), r.Version, recipeDocument(r))
}

// SaveRecipe implements workshop.RecipeStore.
func (s *Store) SaveRecipe(ctx context.Context, r workshop.Recipe, version int) error {
	return s.changeOne(ctx, `UPDATE recipes SET document = ?, version = ? WHERE id = ? AND version = ?`, recipeDocument(r), r.Version, r.ID, version)
}

// DropRecipe implements workshop.RecipeStore.
func (s *Store) DropRecipe(ctx context.Context, id string) error {
	return s.changeIt(ctx, `DELETE FROM recipes WHERE id = ?`, id)
}

type polishDoc struct {
	form
	Material string         `json:"material"`
	Stone    string         `json:"stone"`
	Ways     []polishWayDoc `json:"ways"`
	Note     string         `json:"note"`
}

type polishWayDoc struct {
	Facet        string            `json:"facet"`
	Lap          string            `json:"lap"`
	LapItem      string            `json:"lapItem"`
	Compound     string            `json:"compound"`
	CompoundItem string            `json:"compoundItem"`
	RPM          float64           `json:"rpm"`
	Pressure     workshop.Pressure `json:"pressure"`
	Strokes      int               `json:"strokes"`
	Minutes      float64           `json:"minutes"`
	Result       int               `json:"result"`
	Photo        string            `json:"photo"`
}

// PolishTrials implements workshop.TrialStore.
func (s *Store) PolishTrials(ctx context.Context) ([]workshop.PolishTrial, error) {
	out := []workshop.PolishTrial{}
	return out, s.rows(ctx, func(scan scan) error {
		var t workshop.PolishTrial
		var text string
		if err := scan(&t.ID, asInstant{&t.Made}, &text); err != nil {
			return err
		}
		var d polishDoc
		if err := read(text, polishForm, &d); err != nil {
			return err
		}
		t.Material, t.Stone, t.Note = d.Material, d.Stone, d.Note
		for _, w := range d.Ways {
			t.Ways = append(t.Ways, workshop.PolishWay(w))
		}
		out = append(out, t)
		return nil
	}, `SELECT id, made, document FROM polish_trials ORDER BY made DESC, id`)
}

// InsertPolishTrial implements workshop.TrialStore.
func (s *Store) InsertPolishTrial(ctx context.Context, t workshop.PolishTrial) error {
	d := polishDoc{form: form{polishForm}, Material: t.Material, Stone: t.Stone, Note: t.Note}
	for _, w := range t.Ways {
		d.Ways = append(d.Ways, polishWayDoc(w))
	}
	return s.exec(ctx, `INSERT INTO polish_trials (id, made, document) VALUES (?, ?, ?)`, t.ID, instant(t.Made), document(d))
}

// DropPolishTrial implements workshop.TrialStore.
func (s *Store) DropPolishTrial(ctx context.Context, id string) error {
	return s.changeIt(ctx, `DELETE FROM polish_trials WHERE id = ?`, id)
}

type blindDoc struct {
	form
	Name     string          `json:"name"`
	Question string          `json:"question"`
	Differs  string          `json:"differs"`
	Entries  []blindEntryDoc `json:"entries"`
	Opened   time.Time       `json:"opened"`
}

type blindEntryDoc struct {
	What   string `json:"what"`
	Stone  string `json:"stone"`
	Letter string `json:"letter"`
}

func blindDocument(t workshop.BlindTrial) string {
	d := blindDoc{form: form{blindForm}, Name: t.Name, Question: t.Question, Differs: t.Differs, Opened: t.Opened}
	for _, e := range t.Entries {
		d.Entries = append(d.Entries, blindEntryDoc(e))
	}
	return document(d)
}

// BlindTrials implements workshop.TrialStore.
func (s *Store) BlindTrials(ctx context.Context) ([]workshop.BlindTrial, error) {
	out := []workshop.BlindTrial{}
	at := map[string]int{}
	err := s.rows(ctx, func(scan scan) error {
		t := workshop.BlindTrial{Verdicts: []workshop.Verdict{}}
		var text string
		if err := scan(&t.ID, asInstant{&t.Created}, &t.Version, &text); err != nil {
			return err
		}
		var d blindDoc
		if err := read(text, blindForm, &d); err != nil {
			return err
		}
		t.Name, t.Question, t.Differs, t.Opened = d.Name, d.Question, d.Differs, d.Opened
		for _, e := range d.Entries {
			t.Entries = append(t.Entries, workshop.BlindEntry(e))
		}
		at[t.ID] = len(out)
		out = append(out, t)
		return nil
	}, `SELECT id, created, version, document FROM blind_trials ORDER BY created DESC, id`)
	if err != nil {
		return nil, err
	}
	return out, s.rows(ctx, func(scan scan) error {
		var v workshop.Verdict
		var trial string
		err := scan(&trial, &v.ID, asInstant{&v.At}, &v.Judge, &v.Letter, &v.Note)
		if i, there := at[trial]; there && err == nil {
			out[i].Verdicts = append(out[i].Verdicts, v)
		}
		return err
	}, `SELECT trial_id, id, at, judge, letter, note FROM verdicts ORDER BY at, id`)
}

// InsertBlindTrial implements workshop.TrialStore.
func (s *Store) InsertBlindTrial(ctx context.Context, t workshop.BlindTrial) error {
	return s.exec(ctx, `INSERT INTO blind_trials (id, created, version, document) VALUES (?, ?, ?, ?)`, t.ID, instant(t.Created), t.Version, blindDocument(t))
}

// SaveBlindTrial implements workshop.TrialStore.
func (s *Store) SaveBlindTrial(ctx context.Context, t workshop.BlindTrial, version int) error {
	return s.changeOne(ctx, `UPDATE blind_trials SET document = ?, version = ? WHERE id = ? AND version = ?`, blindDocument(t), t.Version, t.ID, version)
}

// InsertVerdict implements workshop.TrialStore.
func (s *Store) InsertVerdict(ctx context.Context, trial string, v workshop.Verdict) error {
	return s.exec(ctx, `INSERT INTO verdicts (id, trial_id, at, judge, letter, note) VALUES (?, ?, ?, ?, ?, ?)`, v.ID, trial, instant(v.At), v.Judge, v.Letter, v.Note)
}
