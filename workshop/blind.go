package workshop

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"cressa/core/diagram"
	"cressa/core/verdict"
)

// BlindTrial is stones or facets that differ in one thing, judged by people who do not know which is
// which.
type BlindTrial struct {
	ID   string
	Name string `validate:"required,max=100"`
	// Question is what the judges are asked, Differs what the entries differ in.
	Question string       `validate:"required,max=200"`
	Differs  string       `validate:"required,max=200"`
	Entries  []BlindEntry `validate:"min=2,max=6,dive"`
	Created  time.Time
	// Opened is when it was told which is which, zero while judges may still come.
	Opened  time.Time
	Version int
	// Verdicts are in the order in which they came.
	Verdicts []Verdict
}

// BlindEntry is one of the stones.
type BlindEntry struct {
	// What is how it differs, Stone the ID of the stone, "" for a facet or one that is not in the
	// records.
	What  string `validate:"required,max=100"`
	Stone string `validate:"max=40"`
	// Letter is what the judges call it. It is drawn.
	Letter string
}

// Verdict is what one judge said.
type Verdict struct {
	ID    string
	Judge string `validate:"required,max=60"`
	// Letter is the entry that was chosen, "" where the judge saw no difference.
	Letter string `validate:"max=1"`
	Note   string `validate:"max=500"`
	At     time.Time
}

// Refusals of verdicts.
const (
	// JudgedAlready: the judge has given a verdict.
	JudgedAlready diagram.Code = "judged-already"
	// TrialOpened: it was told which is which.
	TrialOpened diagram.Code = "trial-opened"
	// NoSuchLetter: no entry goes by that letter.
	NoSuchLetter diagram.Code = "no-such-letter"
	// NothingDiffers: the other stone would be the same.
	NothingDiffers diagram.Code = "nothing-differs"
)

// Tally counts verdicts.
type Tally struct {
	// Votes are those of the entries in their order, Alike of those who saw no difference.
	Votes []int
	Alike int
	// Leader is the place of the entry with most votes, -1 where several have as many.
	Leader int
	// Chance is how likely judges who cannot tell would be to favour one as clearly, 0 to 1.
	Chance float64
}

// Tally counts the verdicts of a trial, and how sure they can be.
func (t BlindTrial) Tally() Tally {
	out := Tally{Votes: make([]int, len(t.Entries)), Leader: -1}
	for _, v := range t.Verdicts {
		at := slices.IndexFunc(t.Entries, func(e BlindEntry) bool { return e.Letter == v.Letter })
		if at < 0 {
			out.Alike++
			continue
		}
		out.Votes[at]++
	}
	most := slices.Max(out.Votes)
	if at := slices.Index(out.Votes, most); most > 0 && !slices.Contains(out.Votes[at+1:], most) {
		out.Leader = at
	}
	out.Chance = verdict.ByChance(out.Votes)
	return out
}

// BlindTrials returns all trials that are judged blind, the last first.
func (k *Kit) BlindTrials(ctx context.Context) ([]BlindTrial, error) { return k.store.BlindTrials(ctx) }

// BlindTrial returns a trial, ErrNotFound where there is no such.
func (k *Kit) BlindTrial(ctx context.Context, id string) (BlindTrial, error) {
	all, err := k.store.BlindTrials(ctx)
	if err != nil {
		return BlindTrial{}, err
	}
	at := slices.IndexFunc(all, func(t BlindTrial) bool { return t.ID == id })
	if at < 0 {
		return BlindTrial{}, ErrNotFound
	}
	return all[at], nil
}

// AddBlindTrial keeps a trial and draws the letters of its entries. It returns the errors of Validate.
func (k *Kit) AddBlindTrial(ctx context.Context, t BlindTrial) (BlindTrial, error) {
	t.ID, t.Created, t.Version, t.Opened, t.Verdicts = k.newID(), k.moment(), 1, time.Time{}, []Verdict{}
	if err := Validate(t); err != nil {
		return t, err
	}
	t.Entries = slices.Clone(t.Entries)
	for i, place := range k.shuffled(len(t.Entries)) {
		t.Entries[i].Letter = string(rune('A' + place))
	}
	return t, k.store.InsertBlindTrial(ctx, t)
}

// shuffled returns the numbers below n in a drawn order.
func (k *Kit) shuffled(n int) []int {
	type drawn struct {
		by string
		no int
	}
	list := make([]drawn, n)
	for i := range list {
		list[i] = drawn{k.newID(), i}
	}
	slices.SortFunc(list, func(a, b drawn) int { return strings.Compare(a.by, b.by) })
	out := make([]int, n)
	for i, d := range list {
		out[i] = d.no
	}
	return out
}

// Letters returns the letters of a trial in a drawn order: where one stands first must not decide.
func (k *Kit) Letters(t BlindTrial) []string {
	var out []string
	for _, i := range k.shuffled(len(t.Entries)) {
		out = append(out, t.Entries[i].Letter)
	}
	return out
}

// Judge keeps what somebody said. Each judge is heard once. It returns ErrNotFound, the errors of
// Validate, and a diagram.Problem where the judge was heard, no entry has the letter, or it was told
// already which is which.
func (k *Kit) Judge(ctx context.Context, trial string, v Verdict) error {
	v.ID, v.At, v.Judge = k.newID(), k.moment(), strings.TrimSpace(v.Judge)
	if err := Validate(v); err != nil {
		return err
	}
	return k.store.InTx(ctx, func(ctx context.Context) error {
		t, err := k.BlindTrial(ctx, trial)
		if err != nil {
			return err
		}
		refuse := func(code diagram.Code, text string) error {
			return diagram.Problem{Code: code, TierNo: -1, Text: text}
		}
		switch {
		case !t.Opened.IsZero():
			return refuse(TrialOpened, t.Name)
		case slices.ContainsFunc(t.Verdicts, func(o Verdict) bool { return strings.EqualFold(o.Judge, v.Judge) }):
			return refuse(JudgedAlready, v.Judge)
		case v.Letter != "" && !slices.ContainsFunc(t.Entries, func(e BlindEntry) bool { return e.Letter == v.Letter }):
			return refuse(NoSuchLetter, v.Letter)
		}
		return k.store.InsertVerdict(ctx, trial, v)
	})
}

// OpenTrial tells which is which: no further judge is heard. Once it was told it stays so. It returns
// ErrNotFound.
func (k *Kit) OpenTrial(ctx context.Context, id string) (BlindTrial, error) {
	var out BlindTrial
	return out, k.store.InTx(ctx, func(ctx context.Context) (err error) {
		if out, err = k.BlindTrial(ctx, id); err != nil || !out.Opened.IsZero() {
			return err
		}
		version := out.Version
		out.Opened, out.Version = k.moment(), version+1
		return k.store.SaveBlindTrial(ctx, out, version)
	})
}

// Twin is how the second stone of a pair differs from the first: in the lap and compound of its last
// pass, or in how far its girdle is taken.
type Twin struct {
	// Polish replaces the last pass where Girdle is "".
	Polish Pass
	Girdle GirdleFinish `validate:"omitempty,oneof=polished prepolished cut"`
}

// PlanPair plans a second stone like one that is planned, but for one thing, and a blind trial of the
// two. It returns ErrNotFound, ErrNoPlan, the errors of Assess, and a diagram.Problem where nothing
// would differ.
func (w *Workshop) PlanPair(ctx context.Context, stoneID string, by Twin, question string) (BlindTrial, error) {
	stone, err := w.Stone(ctx, stoneID)
	if err != nil {
		return BlindTrial{}, err
	}
	plan := stone.Work().Plan
	if plan == nil {
		return BlindTrial{}, ErrNoPlan
	}
	c := plan.Choices
	last := len(c.Passes) - 1
	c.Passes = slices.Clone(c.Passes)
	says := func(p Pass) string {
		words := slices.DeleteFunc([]string{p.Lap, p.Compound}, func(s string) bool { return s == "" })
		return cmp.Or(strings.Join(words, ", "), p.Name)
	}
	t := BlindTrial{Name: stone.Name, Question: question}
	var was, is string
	if by.Girdle != "" {
		c.Uses = slices.DeleteFunc(slices.Clone(c.Uses), func(u LapUse) bool { return u.Group == GirdleLaps })
		c.Uses = append(c.Uses, by.Girdle.Uses(c.Passes)...)
		t.Differs = "girdle"
		was, is = string(girdleOf(plan.Choices.Laps)), string(by.Girdle)
	} else {
		p := &c.Passes[last]
		p.Lap, p.LapItem, p.Compound, p.CompoundItem = by.Polish.Lap, by.Polish.LapItem, by.Polish.Compound, by.Polish.CompoundItem
		if c, err = w.name(ctx, c); err != nil {
			return t, err
		}
		t.Differs = "polish"
		was, is = says(plan.Choices.Passes[last]), says(c.Passes[last])
	}
	if was == is {
		return t, diagram.Problem{Code: NothingDiffers, TierNo: -1, Text: was}
	}
	return t, w.Stones.store.InTx(ctx, func(ctx context.Context) error {
		twin, err := w.twin(ctx, stone, c)
		if err != nil {
			return err
		}
		t.Entries = []BlindEntry{{What: was, Stone: stone.ID}, {What: is, Stone: twin.ID}}
		t, err = w.AddBlindTrial(ctx, t)
		return err
	})
}

// girdleOf is how far a plan takes its girdle.
func girdleOf(l Laps) GirdleFinish {
	gets := len(l.Of(diagram.Tier{Part: diagram.Girdle}))
	switch {
	case gets == len(l.Passes):
		return GirdlePolished
	case gets == 1:
		return GirdleCut
	}
	return GirdlePrepolished
}

// twin plans a stone like another one, with other choices.
func (s *Stones) twin(ctx context.Context, of Stone, c Choices) (Stone, error) {
	before := of.Work().Plan
	plan, _, err := s.firstPlan(ctx, before.DiagramID, before.Revision, c)
	if err != nil {
		return Stone{}, err
	}
	stone := s.newStone(strings.TrimSpace(of.Name+" (twin)"), plan)
	stone.Number, err = s.insert(ctx, stone)
	return stone, err
}
