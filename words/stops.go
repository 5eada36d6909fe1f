package words

import (
	"fmt"
	"math"
	"strings"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

// Scale turns design units into what a cutter measures.
type Scale struct {
	// MM is how many millimetres one design unit is; 0 where the stone has no
	// size yet, and lengths are then told in hundredths of its width.
	MM float64
	// Width is the stone's width in design units.
	Width float64
}

// Length words a length given in design units.
func (s Scale) Length(v float64) string {
	if s.MM > 0 {
		return fmt.Sprintf("%.2f mm", v*s.MM)
	}
	if s.Width > 0 {
		return fmt.Sprintf("%.3g %% of the width", 100*v/s.Width)
	}
	return diagram.FormatNumber(v)
}

// Stop says where the cut of a tier stops, as one cutter would tell another:
// "until …" or "to …". Gear is the diagram's.
func Stop(t diagram.Tier, teeth int, scale Scale) string {
	switch s := t.Stop; s.Kind {
	case diagram.Centre:
		return centre(t, teeth, scale)
	case diagram.Size:
		return size(t, teeth, scale)
	case diagram.Meet:
		return "to the meet of " + facets(s.Tiers)
	case diagram.GirdleBand:
		return fmt.Sprintf("until the girdle is %s", scale.Length(s.Thickness))
	case diagram.Along:
		return fmt.Sprintf("%s of the way from the meet of %s to the meet of %s", share(s.At), facets(s.From), facets(s.To))
	case diagram.Width:
		if scale.MM == 0 {
			return fmt.Sprintf("until the table is %s of the width", share(s.Ratio))
		}
		return fmt.Sprintf("until the table is %s, %s of the width", scale.Length(s.Ratio*scale.Width), share(s.Ratio))
	case diagram.Depth:
		return depth(s.Distance, scale)
	}
	return ""
}

// FreeStop says where a facet stops that has nothing to meet yet, in mm.
func FreeStop(f cutting.Free) string {
	if f.Across > 0 {
		return fmt.Sprintf("until it is %.2f mm from the facet opposite", f.Across)
	}
	return fmt.Sprintf("until it lies %.2f mm from the middle of the stone", f.Distance)
}

// TakeOff says what is still to come off a facet that was cut before, in mm.
func TakeOff(mm float64) string { return fmt.Sprintf("until %.3f mm is off", mm) }

// Aside says by how many mm a facet is cut deeper than its stop.
func Aside(stop string, deeper float64) string {
	if deeper < 0 {
		return fmt.Sprintf("%s, %.3f mm less deep", stop, -deeper)
	}
	return fmt.Sprintf("%s, %.3f mm deeper", stop, deeper)
}

func centre(t diagram.Tier, teeth int, scale Scale) string {
	point := "to a centre point"
	if len(t.Indexes) == 2 && opposite(t, t.Indexes[0], teeth) {
		point = "to a keel through the centre"
	}
	switch drop := t.Stop.Drop; {
	case drop > 0:
		return fmt.Sprintf("%s, %s below the one that is there", point, scale.Length(drop))
	case drop < 0:
		return fmt.Sprintf("%s, left %s proud of the one that is there", point, scale.Length(-drop))
	}
	return point
}

func size(t diagram.Tier, teeth int, scale Scale) string {
	r := t.Stop.Radius
	if t.Part == diagram.Girdle && t.Angle == 90 {
		if opposite(t, t.Indexes[0], teeth) {
			return fmt.Sprintf("until it is %s across", scale.Length(2*r))
		}
		return fmt.Sprintf("until it is %s from the axis", scale.Length(r))
	}
	return depth(r, scale)
}

// depth words a plane distance. The zero point is the first centre point.
func depth(d float64, scale Scale) string {
	return fmt.Sprintf("to a set depth, its plane %s from the zero point", scale.Length(d))
}

// opposite tells whether the tier has a facet across from the one at index.
func opposite(t diagram.Tier, index float64, teeth int) bool {
	return t.IndexNo(index+float64(teeth)/2, teeth) >= 0
}

// facets words the facets of a meet: "two P1 and two G1".
func facets(refs []diagram.Ref) string {
	var order []string
	counts := map[string]int{}
	for _, r := range refs {
		name := r.Tier
		if r.OneFacet {
			name = fmt.Sprintf("%s at %s", r.Tier, index(r.Index))
		}
		if counts[name] == 0 {
			order = append(order, name)
		}
		counts[name]++
	}
	words := make([]string, len(order))
	for i, name := range order {
		words[i] = name
		if n := counts[name]; n > 1 {
			words[i] = count(n) + " " + name
		}
	}
	return And(words)
}

// index writes a position on the gear to a thousandth of a tooth, finer than any cheat.
func index(v float64) string { return diagram.FormatNumber(math.Round(v*1000) / 1000) }

// Indexes writes a tier's positions for people; diagram.FormatIndexes writes them for programs.
func Indexes(indexes []float64) string {
	out := make([]string, len(indexes))
	for i, v := range indexes {
		out[i] = index(v)
	}
	return strings.Join(out, "-")
}

// And joins words as a sentence does.
func And(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

func count(n int) string {
	names := []string{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}
	if n < len(names) {
		return names[n]
	}
	return fmt.Sprint(n)
}

// share words a part of a whole.
func share(v float64) string {
	switch {
	case v == 0.5:
		return "half"
	case v == 0.25:
		return "a quarter"
	case v == 0.75:
		return "three quarters"
	case math.Abs(v-1.0/3) < 1e-4:
		return "a third"
	case math.Abs(v-2.0/3) < 1e-4:
		return "two thirds"
	}
	return fmt.Sprintf("%.3g %%", 100*v)
}
