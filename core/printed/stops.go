package printed

import (
	"context"
	"math"
	"regexp"
	"slices"
	"strings"

	"cressa/core/cutting"
	"cressa/core/diagram"
)

var (
	centreWords = regexp.MustCompile(`(?i)\bcent(?:re|er)[\s-]*point\b|\b(?:temporary\s+)?cent(?:re|er)\b|\bt?\.?c\.?p\b\.?|\bculet\b|\bapex\b|\bto\s+a\s+point\b|\bkeel\b`)
	girdleWord  = regexp.MustCompile(`(?i)\bgirdle\b`)
	girdleSet   = regexp.MustCompile(`(?i)\b(?:set|establish|leave|level|makes?)\b.*\bgirdle\b|\bgirdle\b.*\b(?:thickness|thick)\b|\bgirdle\b[^0-9]*` + lengthPattern + `|` + lengthPattern + `\s*(?:thick\s+)?girdle\b`)
	tableWords  = regexp.MustCompile(`(?i)\b(?:table|width|wide)\b`)
	sizeWords   = regexp.MustCompile(`(?i)\b(?:size|diameter|width|dimensions?)\b`)
	eyeWords    = regexp.MustCompile(`(?i)\bby\s+eye\b|\babout\b|\bhalf(?:[\s-]*way)?\b|\bthirds?\b|\bquarters?\b|\bway\b|\b[1-9]\s*/\s*[1-9]\b`)
	meetWords   = regexp.MustCompile(`(?i)\bmeet(?:s|ing|points?|[\s-]points?)?\b|\bcorners?\b|\bm\.?p\b\.?|\bintersections?\b|\bjunctions?\b`)
	word        = regexp.MustCompile(`[A-Za-z0-9@.]+`)
	// plainWords say nothing that would change a stop.
	plainWords = map[string]bool{}
)

func init() {
	for _, w := range strings.Fields(`a all and all at by cut cutting corner corners edge edges facet facets for form forms from
		grind in intersection is it its just junction line lines make makes meet meeting meetpoint meetpoints meets mp m.p of off on once
		point points ring should tier tiers temporary that the their them then there these this through till to until up where with
		centre center centrepoint centerpoint cp tcp t.c.p c.p culet apex keel girdle set establish leave level thickness thick size diameter table width wide
		dimension mm percent eye about halfway half way third thirds quarter quarters two three four one 1 down between`) {
		plainWords[w] = true
	}
}

// usualGirdle is the thickness that is taken where a sheet asks for one without a figure.
func usualGirdle() float64 {
	v, _ := diagram.GirdleBand.Usual()
	return v
}

// Hint tells of a stop that is to be found which kinds of corner its words leave open.
type Hint string

// The hints. The zero value leaves all open.
const (
	// AtGirdle: a corner that a girdle facet comes to.
	AtGirdle Hint = "girdle"
	// AtMeet: any corner.
	AtMeet Hint = "meet"
)

// HintOf tells what the words of a stop leave open.
func HintOf(text string) Hint {
	switch {
	case girdleWord.MatchString(text):
		return AtGirdle
	case meetWords.MatchString(text):
		return AtMeet
	}
	return ""
}

// Allows tells whether a stop may be meant by the words.
func (h Hint) Allows(d *diagram.Diagram, stop diagram.Stop) bool {
	switch h {
	case AtGirdle:
		return namesPart(d, stop, diagram.Girdle) || stop.Kind == diagram.GirdleBand
	case AtMeet:
		return stop.Kind == diagram.Meet
	}
	return true
}

// stop reads where a tier's cut stops.
func (r *reader) stop(no int) {
	t := &r.draft.Tiers[no]
	text := strings.TrimSpace(t.Stop)
	if text == "" {
		return
	}
	if stop, err := diagram.ParseStop(text); err == nil && r.namesNoWords(stop) {
		r.strict(no, stop)
		return
	}
	g := Reading{TierNo: no, Field: diagram.FieldStop, Typed: t.Stop, How: Understood, Sure: r.knowsAllWords(no, text)}
	if !g.Sure {
		g.How = StopGuessed
	}
	stop, known := r.words(no, text, &g)
	t.Stop, g.Read = "", ""
	if known {
		t.Stop = stop.String()
		g.Read = t.Stop
	}
	r.add(g)
}

// namesNoWords tells that what a stop takes for tiers are no words of a sentence: "meet at girdle"
// names none.
func (r *reader) namesNoWords(stop diagram.Stop) bool {
	return !slices.ContainsFunc(stop.Refs(), func(ref diagram.Ref) bool {
		return plainWords[strings.ToLower(ref.Tier)] && r.tierNo(len(r.draft.Tiers), ref.Tier) < 0
	})
}

// strict looks at a stop that needs no reading: the figure of a girdle may be in millimetres.
func (r *reader) strict(no int, stop diagram.Stop) {
	if stop.Kind != diagram.GirdleBand || r.width == 0 {
		return
	}
	if v := stop.Thickness; v >= 1.2*ThinGirdle && v <= 0.6*ThickGirdle {
		// On a stone about 1 wide this is an ordinary girdle: no need to measure the stone.
		return
	}
	w := r.stoneWidth(no)
	share := stop.Thickness / w
	g := Reading{TierNo: no, Field: diagram.FieldStop, Typed: r.draft.Tiers[no].Stop, Read: r.draft.Tiers[no].Stop, How: Understood, Sure: true}
	if share > ThickGirdle {
		// Nobody leaves a girdle of a tenth of the width; a few tenths of a millimetre are usual.
		share = stop.Thickness / r.width
		r.draft.Tiers[no].Stop = girdleStop(share * w).String()
		g.Read, g.How, g.Value = r.draft.Tiers[no].Stop, LengthRead, share
	}
	if odd(share) {
		g.How, g.Sure, g.Value = GirdleOdd, false, share
	}
	if g.How != Understood {
		r.add(g)
	}
}

func odd(share float64) bool { return share < ThinGirdle-1e-9 || share > ThickGirdle+1e-9 }

// girdleStop rounds to a ten-thousandth of a per cent, far finer than a lap can hold.
func girdleStop(thickness float64) diagram.Stop {
	return diagram.Stop{Kind: diagram.GirdleBand, Thickness: math.Round(thickness*1e6) / 1e6}
}

// words reads a stop in words. It is false where the stop is still to be found; the reading then
// says whether the words were understood.
func (r *reader) words(no int, text string, g *Reading) (diagram.Stop, bool) {
	t := r.draft.Tiers[no]
	angle, _ := diagram.ParseNumber(t.Angle)
	part := diagram.Part(t.Part)
	refs := r.namedTiers(no, text)
	switch {
	case len(refs) > 0:
		return r.meet(no, text, refs), true
	case eyeWords.MatchString(text) && shareOf(text) > 0:
		return r.byEye(no, text, g)
	case part == diagram.Crown && angle == 0 && tableWords.MatchString(text):
		return r.table(text, g)
	case part != diagram.Girdle && girdleSet.MatchString(text) && lengthIn.MatchString(text):
		return r.girdle(no, text, g)
	case part == r.second() && girdleSet.MatchString(text) && r.opensSide(no):
		return r.girdle(no, text, g)
	case part != diagram.Girdle && centreWords.MatchString(text):
		return diagram.Stop{Kind: diagram.Centre}, true
	case part == diagram.Girdle && sizeWords.MatchString(text):
		return r.size(text, g)
	case HintOf(text) != "":
		return r.toCorner(no, text, g)
	}
	if l, ok := lengthOf(text); ok && strings.TrimSpace(lengthIn.ReplaceAllString(text, "")) == "" && part == r.second() && r.opensSide(no) {
		// A figure alone where the girdle is set is its thickness.
		return r.girdleLength(no, l, g)
	}
	g.How, g.Sure = StopNotRead, false
	return diagram.Stop{}, false
}

// second is the side that is cut second.
func (r *reader) second() diagram.Part {
	if diagram.Part(r.draft.FirstSide) == diagram.Crown {
		return diagram.Pavilion
	}
	return diagram.Crown
}

// opensSide tells whether the tier is the first of its side.
func (r *reader) opensSide(no int) bool {
	return !slices.ContainsFunc(r.draft.Tiers[:no], func(t diagram.DraftTier) bool { return t.Part == r.draft.Tiers[no].Part })
}

func (r *reader) table(text string, g *Reading) (diagram.Stop, bool) {
	l, ok := lengthOf(text)
	share, known := r.share(l)
	if l.unit == bare && share > 1 {
		share /= 100
	}
	switch {
	case !ok:
		// "Table" alone names the tier.
		g.How = StopToFind
		return diagram.Stop{}, false
	case !known:
		g.How, g.Sure = WidthNeeded, false
		return diagram.Stop{}, false
	case !(share > 0 && share < 1):
		g.How, g.Sure = StopNotRead, false
		return diagram.Stop{}, false
	}
	if l.unit == mm {
		g.How, g.Value = LengthRead, share
	}
	return diagram.Stop{Kind: diagram.Width, Ratio: math.Round(share*1e6) / 1e6}, true
}

func (r *reader) girdle(no int, text string, g *Reading) (diagram.Stop, bool) {
	if l, ok := lengthOf(text); ok {
		return r.girdleLength(no, l, g)
	}
	g.How, g.Sure, g.Value = FigureAssumed, false, usualGirdle()
	return girdleStop(usualGirdle() * r.stoneWidth(no)), true
}

func (r *reader) girdleLength(no int, l length, g *Reading) (diagram.Stop, bool) {
	if l.unit == bare && l.value > ThickGirdle {
		l.unit = mm
		if l.value >= 2 {
			// Whole figures are per cent: a girdle of 2 mm belongs to no stone.
			l.unit = percent
		}
	}
	share, known := r.share(l)
	if !known {
		g.How, g.Sure = WidthNeeded, false
		return diagram.Stop{}, false
	}
	g.How, g.Value = LengthRead, share
	if odd(share) {
		g.How, g.Sure = GirdleOdd, false
	}
	return girdleStop(share * r.stoneWidth(no)), true
}

func (r *reader) size(text string, g *Reading) (diagram.Stop, bool) {
	radius, _ := diagram.Size.Usual()
	if l, ok := lengthOf(text); ok {
		share, known := r.share(l)
		if !known {
			g.How, g.Sure = WidthNeeded, false
			return diagram.Stop{}, false
		}
		if l.unit != bare {
			// What is printed is the whole, from side to side.
			radius = share / 2
			g.How, g.Value = LengthRead, share
		} else if l.value <= 1 {
			radius = l.value
		}
	}
	return diagram.Stop{Kind: diagram.Size, Radius: math.Round(radius*1e6) / 1e6}, true
}

// toCorner reads "meet at girdle" and its like: the corner is taken where there is only one that
// the words allow, else it is to be found.
func (r *reader) toCorner(no int, text string, g *Reading) (diagram.Stop, bool) {
	g.How, g.Sure = StopToFind, false
	hint := HintOf(text)
	with, ok := r.withTier(no)
	// Every corner of the stone is tried.
	if !ok || !r.spend(no, 10) {
		return diagram.Stop{}, false
	}
	p, err := cutting.PullTier(context.Background(), with, no)
	if err != nil {
		return diagram.Stop{}, false
	}
	var allowed []diagram.Stop
	for _, reach := range p.Reaches {
		if reach.Stop.Kind == diagram.Meet && hint.Allows(with, reach.Stop) && (r.opensSide(no) || namesPart(with, reach.Stop, with.Tiers[no].Part)) {
			allowed = append(allowed, reach.Stop)
		}
	}
	if len(allowed) != 1 {
		return diagram.Stop{}, false
	}
	g.How, g.Sure = CornerTaken, true
	return allowed[0], true
}

// namesPart tells whether a facet of the part comes to the meet of a stop.
func namesPart(d *diagram.Diagram, stop diagram.Stop, part diagram.Part) bool {
	return slices.ContainsFunc(stop.Refs(), func(ref diagram.Ref) bool {
		no := d.TierNo(ref.Tier)
		return no >= 0 && d.Tiers[no].Part == part
	})
}

// withTier reads the tiers up to one, whose stop does not matter.
func (r *reader) withTier(no int) (*diagram.Diagram, bool) {
	draft := r.draft
	draft.Name, draft.Tiers = "draft", slices.Clone(draft.Tiers[:no+1])
	draft.Tiers[no].Stop = diagram.Stop{Kind: diagram.Depth}.String()
	d, problems := draft.Read()
	return d, len(problems) == 0
}

// shares are the words for a part of the way.
var shares = []struct {
	words *regexp.Regexp
	share float64
}{
	{regexp.MustCompile(`(?i)\btwo[\s-]+thirds?\b|\b2\s*/\s*3\b`), 2.0 / 3},
	{regexp.MustCompile(`(?i)\bthree[\s-]+quarters?\b|\b3\s*/\s*4\b`), 0.75},
	{regexp.MustCompile(`(?i)\bthird\b|\b1\s*/\s*3\b`), 1.0 / 3},
	{regexp.MustCompile(`(?i)\bquarter\b|\b1\s*/\s*4\b`), 0.25},
	{regexp.MustCompile(`(?i)\bhalf(?:[\s-]*way)?\b|\b1\s*/\s*2\b`), 0.5},
}

// shareOf reads a part of the way, 0 where none is named.
func shareOf(text string) float64 {
	for _, s := range shares {
		if s.words.MatchString(text) {
			return s.share
		}
	}
	if l, ok := lengthOf(text); ok && l.unit == percent && l.value > 0 && l.value < 100 {
		return l.value / 100
	}
	return 0
}

// byEye takes the share of the way down the longest edge of the facets cut last on this side:
// what the next step of a step cut is judged against.
func (r *reader) byEye(no int, text string, g *Reading) (diagram.Stop, bool) {
	g.How, g.Sure, g.Value = StopByEye, false, shareOf(text)
	with, ok := r.withTier(no)
	if !ok || !r.spend(no, 2) {
		return diagram.Stop{}, false
	}
	stop, ok := cutting.ShareOfEdge(with, no, g.Value)
	return stop, ok
}

// meet reads the tiers that come together.
func (r *reader) meet(no int, text string, refs []diagram.Ref) diagram.Stop {
	if len(refs) == 1 && !refs[0].OneFacet {
		// One tier alone meets itself; at the girdle, the girdle tier there too.
		if girdleWord.MatchString(text) && !r.isGirdle(no, refs[0]) {
			for i := no - 1; i >= 0; i-- {
				if r.draft.Tiers[i].Part == string(diagram.Girdle) {
					return diagram.Stop{Kind: diagram.Meet, Tiers: append(refs, diagram.Ref{Tier: strings.TrimSpace(r.draft.Tiers[i].Name)})}
				}
			}
		}
		refs = append(refs, refs[0])
	}
	return diagram.Stop{Kind: diagram.Meet, Tiers: refs}
}

func (r *reader) isGirdle(no int, ref diagram.Ref) bool {
	at := r.tierNo(no, ref.Tier)
	return at >= 0 && r.draft.Tiers[at].Part == string(diagram.Girdle)
}

var counts = map[string]int{"two": 2, "three": 3, "four": 4}

// namedTiers finds the tiers before no that a text names, "two P1 and G1", "P1/G1", "P1@3".
func (r *reader) namedTiers(no int, text string) []diagram.Ref {
	var out []diagram.Ref
	times := 1
	numbers := meetWords.MatchString(text)
	for _, w := range word.FindAllString(text, -1) {
		w = strings.Trim(w, ".")
		if n, ok := counts[strings.ToLower(w)]; ok {
			times = n
			continue
		}
		ref, err := diagram.ParseRef(w)
		if err == nil && r.tierNo(no, ref.Tier) >= 0 && r.mayName(ref.Tier, numbers) {
			for range times {
				out = append(out, ref)
			}
		}
		times = 1
	}
	return out
}

// mayName tells whether a word that is the name of a tier is meant as one: a number only where
// the words speak of a meet, and never a word that a sentence needs.
func (r *reader) mayName(name string, meet bool) bool {
	if _, err := diagram.ParseNumber(name); err == nil {
		return meet
	}
	lower := strings.ToLower(name)
	return name != lower || !plainWords[lower]
}

// knowsAllWords tells whether every word of a stop is one that was taken into account.
func (r *reader) knowsAllWords(no int, text string) bool {
	refs := r.namedTiers(no, text)
	for _, w := range word.FindAllString(text, -1) {
		w = strings.Trim(w, ".")
		lower := strings.ToLower(w)
		if w == "" || plainWords[lower] {
			continue
		}
		if _, err := diagram.ParseNumber(strings.TrimSuffix(lower, "mm")); err == nil {
			continue
		}
		if !slices.ContainsFunc(refs, func(ref diagram.Ref) bool { return ref.String() == w }) {
			return false
		}
	}
	return true
}

// ReadsAsStop tells whether a text says where a cut stops.
func ReadsAsStop(text string) bool {
	if _, err := diagram.ParseStop(text); err == nil {
		return true
	}
	for _, p := range []*regexp.Regexp{centreWords, girdleWord, sizeWords, meetWords, eyeWords} {
		if p.MatchString(text) {
			return true
		}
	}
	return false
}
