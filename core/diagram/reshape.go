package diagram

import (
	"fmt"
	"slices"
	"strings"

	"cressa/core/gear"
)

// Reshaping is what can be done to a tier as a whole.
type Reshaping string

// The reshapings. All but Copied need indexes that can be read.
const (
	// Appended adds an empty tier at the end, under the next free name of the last one's kind. It needs no tier to begin with.
	Appended Reshaping = "append"
	// Copied adds a tier like it below, under a free name.
	Copied Reshaping = "copy"
	// Mirrored moves every facet across the line through index N.
	Mirrored Reshaping = "mirror"
	// Turned moves every facet on by Reshape.By teeth.
	Turned Reshaping = "turn"
	// Completed adds what the symmetry asks for: Reshape.Fold times round, and
	// mirrored where Reshape.Mirrored.
	Completed Reshaping = "complete"
	// WrittenOut turns a shorthand into plain positions.
	WrittenOut Reshaping = "write-out"
	// TurnedWhole turns the whole diagram on its gear by Reshape.By teeth, clockwise as seen from
	// above the table: it needs no tier, and the stone stays the same.
	TurnedWhole Reshaping = "turn-whole"
	// Renamed gives the tier the name Reshape.Name, in the stops of others too.
	Renamed Reshaping = "rename"
)

// Reshape asks for a tier to be reshaped.
type Reshape struct {
	Kind     Reshaping
	By       float64
	Fold     int
	Mirrored bool
	Name     string
}

// Reshape does it to the tier of the draft with the given place. Stops that name
// one facet of the tier follow it to its new index. The error is a Problem at the
// tier; the draft is then as it was.
func (d Draft) Reshape(no int, r Reshape) (Draft, error) {
	if r.Kind == Appended {
		out := d
		out.Tiers = append(slices.Clone(d.Tiers), d.nextTier())
		return out, nil
	}
	if r.Kind == TurnedWhole {
		return d.turned(r.By)
	}
	if no < 0 || no >= len(d.Tiers) {
		return d, Problem{Code: UnknownTier, TierNo: -1, Field: FieldTiers, Other: fmt.Sprint(no + 1)}
	}
	out := d
	out.Tiers = slices.Clone(d.Tiers)
	t := &out.Tiers[no]
	switch r.Kind {
	case Copied:
		c := *t
		c.Name, c.Key = d.freeName(t.Name), d.freeKey()
		out.Tiers = slices.Insert(out.Tiers, no+1, c)
		return out, nil
	case Renamed:
		out.moveRefs(t.Name, func(ref Ref) Ref {
			ref.Tier = r.Name
			return ref
		})
		t.Name = r.Name
		return out, nil
	}
	n, err := d.teeth()
	if err != nil {
		return d, err
	}
	indexes, err := ParseIndexes(t.Indexes, n)
	if err != nil {
		return d, Problem{Code: BadIndexes, Tier: t.Name, TierNo: no, Field: FieldIndexes, Text: err.Error()}
	}
	move := func(i float64) float64 { return i }
	switch r.Kind {
	case Mirrored:
		move = func(i float64) float64 { return gear.Mirror(i, n) }
	case Turned:
		move = func(i float64) float64 { return gear.Normal(i+r.By, n) }
	case Completed:
		indexes = Complete(indexes, n, max(r.Fold, 1), r.Mirrored)
	}
	for i := range indexes {
		indexes[i] = roundIndex(move(indexes[i]))
	}
	t.Indexes = FormatIndexes(indexes)
	out.moveRefs(t.Name, func(ref Ref) Ref {
		if ref.OneFacet {
			ref.Index = roundIndex(move(ref.Index))
		}
		return ref
	})
	return out, nil
}

// teeth reads the gear. The error is a Problem.
func (d Draft) teeth() (int, error) {
	teeth, err := ParseNumber(d.Gear)
	if err != nil || teeth != float64(int(teeth)) || teeth < 1 || teeth > MaxGear {
		return 0, Problem{Code: NotANumber, TierNo: -1, Field: FieldGear, Text: d.Gear}
	}
	return int(teeth), nil
}

// turned turns every tier by so many teeth round the stone: with the pavilion up a gear counts the
// other way, unless the diagram counts both sides one way. Indexes come out in rising order.
func (d Draft) turned(by float64) (Draft, error) {
	n, err := d.teeth()
	if err != nil {
		return d, err
	}
	out := d
	out.Tiers = slices.Clone(d.Tiers)
	read, _ := d.Read()
	for no := range out.Tiers {
		t := &out.Tiers[no]
		indexes, err := ParseIndexes(t.Indexes, n)
		if err != nil {
			return d, Problem{Code: BadIndexes, Tier: t.Name, TierNo: no, Field: FieldIndexes, Text: err.Error()}
		}
		if angle, err := ParseNumber(t.Angle); err == nil && angle == 0 && len(indexes) == 1 {
			// A level facet sits at any tooth.
			continue
		}
		step := by
		if read.Indexing != Shared && read.CutWith(Part(t.Part)) == Pavilion {
			step = -by
		}
		move := func(i float64) float64 { return roundIndex(gear.Normal(i+step, n)) }
		for i := range indexes {
			indexes[i] = move(indexes[i])
		}
		slices.Sort(indexes)
		t.Indexes = FormatIndexes(indexes)
		out.moveRefs(t.Name, func(ref Ref) Ref {
			if ref.OneFacet {
				ref.Index = move(ref.Index)
			}
			return ref
		})
	}
	return out, nil
}

// moveRefs changes every ref to a tier in the stops that can be read.
func (d *Draft) moveRefs(tier string, move func(Ref) Ref) {
	for i := range d.Tiers {
		stop, err := ParseStop(d.Tiers[i].Stop)
		if err != nil {
			continue
		}
		changed := false
		for _, refs := range [][]Ref{stop.Tiers, stop.From, stop.To} {
			for k := range refs {
				if refs[k].Tier == tier {
					moved := move(refs[k])
					changed = changed || moved != refs[k]
					refs[k] = moved
				}
			}
		}
		if changed {
			d.Tiers[i].Stop = stop.String()
		}
	}
}

// nextTier is an empty tier to be typed after the last one. Its part follows from what is typed.
func (d Draft) nextTier() DraftTier {
	name := Pavilion.Letter()
	if n := len(d.Tiers); n > 0 && strings.TrimSpace(d.Tiers[n-1].Name) != "" {
		name = strings.TrimSpace(d.Tiers[n-1].Name)
	}
	if name == "T" {
		// After a table come more facets of the crown.
		name = Crown.Letter()
	}
	return DraftTier{Key: d.freeKey(), Name: d.freeName(name)}
}

// Letter is what names of the part's tiers begin with.
func (p Part) Letter() string {
	switch p {
	case Girdle:
		return "G"
	case Crown:
		return "C"
	}
	return "P"
}

// freeName counts a tier's name on until no other tier has it: P1, P2, P3.
func (d Draft) freeName(name string) string {
	letters := strings.TrimRight(name, "0123456789")
	for n := 1; ; n++ {
		next := fmt.Sprintf("%s%d", letters, n)
		if !slices.ContainsFunc(d.Tiers, func(t DraftTier) bool { return t.Name == next }) {
			return next
		}
	}
}

func (d Draft) freeKey() string {
	for n := len(d.Tiers) + 1; ; n++ {
		key := fmt.Sprintf("t%d", n)
		if !slices.ContainsFunc(d.Tiers, func(t DraftTier) bool { return t.Key == key }) {
			return key
		}
	}
}
