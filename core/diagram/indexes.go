package diagram

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cressa/core/gear"
)

// MaxIndexText bounds the indexes of a tier as they are written, in bytes: as many as a
// diagram has facets, ten letters each. Those of all tiers of a draft together may take five
// times as much, because drafts are read at every letter.
const MaxIndexText = 10 * MaxFacets

// The shorthands that ParseIndexes knows beside plain positions.
var (
	everyPattern    = regexp.MustCompile(`every\s+([0-9.]+)(?:\s+from\s+([0-9.]+))?(?:\s+to\s+([0-9.]+))?`)
	foldPattern     = regexp.MustCompile(`([0-9]+)\s*-?\s*fold`)
	mirroredPattern = regexp.MustCompile(`mirrored`)
)

// ParseIndexes reads positions as they are printed on sheets: separated by
// dashes, spaces, commas or semicolons, "3-9-15" as well as "3 9 15". A fraction
// has a point: "3.5". On a gear of the given teeth it also reads what a cutter
// would say instead of writing them all out:
//
//	every 12 from 96           96-12-24-…-84
//	every 8 from 4 to 28       4-12-20-28
//	3, mirrored                3-93
//	3, mirrored, 8-fold        3-9-15-…-93
//
// What is mirrored or turned is listed round the gear, each position once. It returns an
// error that quotes the part that it cannot read, or says what is too much: a shorthand
// without a gear, more indexes than a diagram has facets, or more than MaxIndexText bytes.
func ParseIndexes(text string, teeth int) ([]float64, error) {
	if len(text) > MaxIndexText {
		return nil, fmt.Errorf("%d letters are more than the indexes of a tier take", len(text))
	}
	rest := strings.ToLower(text)
	take := func(pattern *regexp.Regexp) [][]string {
		found := pattern.FindAllStringSubmatch(rest, -1)
		rest = pattern.ReplaceAllString(rest, " ")
		return found
	}
	every, folds, mirrored := take(everyPattern), take(foldPattern), take(mirroredPattern)
	out, err := plainIndexes(rest)
	if err != nil {
		return nil, err
	}
	if len(every)+len(folds)+len(mirrored) > 0 && (teeth < 1 || teeth > MaxGear) {
		return nil, fmt.Errorf("%q needs a gear to count on", strings.TrimSpace(text))
	}
	for _, e := range every {
		run, err := everyOf(e, teeth)
		if err != nil {
			return nil, err
		}
		if out = append(out, run...); len(out) > 2*MaxFacets {
			return nil, fmt.Errorf("%d indexes are more than a diagram has facets", len(out))
		}
	}
	if len(out) == 0 {
		if len(folds)+len(mirrored) > 0 {
			return nil, fmt.Errorf("%q says what to repeat, but not which index", strings.TrimSpace(text))
		}
		return nil, fmt.Errorf("empty")
	}
	// What it comes to is known before it is written out.
	count, fold := len(out), 1
	if len(mirrored) > 0 {
		count *= 2
	}
	for _, f := range folds {
		n, err := strconv.Atoi(f[1])
		if err != nil || n < 1 || n > teeth {
			return nil, fmt.Errorf("%q is more than the gear has teeth", f[0])
		}
		if fold *= n; fold > MaxFacets {
			return nil, fmt.Errorf("%d-fold is more than a diagram has facets", fold)
		}
	}
	if count*fold > 2*MaxFacets {
		return nil, fmt.Errorf("%d indexes are more than a diagram has facets", count*fold)
	}
	if len(folds)+len(mirrored) == 0 {
		return out, nil
	}
	return Complete(out, teeth, fold, len(mirrored) > 0), nil
}

func plainIndexes(text string) ([]float64, error) {
	var out []float64
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" \t\n-–,;", r) }) {
		v, err := ParseNumber(w)
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, nil
}

// everyOf counts on from an index by a step, once round or up to a last index.
func everyOf(match []string, teeth int) ([]float64, error) {
	bounds := [3]float64{0, float64(teeth), 0}
	for i, text := range match[1:] {
		if text == "" {
			continue
		}
		v, err := ParseNumber(text)
		if err != nil {
			return nil, err
		}
		bounds[i] = v
	}
	step, from, to := bounds[0], bounds[1], bounds[2]
	if !(step >= float64(teeth)/MaxFacets) {
		return nil, fmt.Errorf("%q has a step too small to count by", match[0])
	}
	round := float64(teeth)
	if match[3] != "" {
		// Up to and with the last one, a hair of the arithmetic forgiven.
		round = math.Mod(to-from+2*float64(teeth), float64(teeth)) + 1e-6
	}
	var out []float64
	for n := 0; float64(n)*step < round-1e-9; n++ {
		out = append(out, gear.Normal(from+float64(n)*step, teeth))
	}
	return out, nil
}

// FormatIndexes writes positions as ParseIndexes reads them.
func FormatIndexes(indexes []float64) string {
	words := make([]string, len(indexes))
	for i, v := range indexes {
		words[i] = FormatNumber(v)
	}
	return strings.Join(words, "-")
}

// Complete repeats indexes fold times round the gear and, if they are to be
// mirrored, across the line through index N. It lists every position once, from 1
// up to N.
func Complete(indexes []float64, teeth, fold int, mirrored bool) []float64 {
	var out []float64
	for _, i := range indexes {
		for k := range fold {
			turned := i + float64(k*teeth)/float64(fold)
			out = append(out, roundIndex(gear.Normal(turned, teeth)))
			if mirrored {
				out = append(out, roundIndex(gear.Normal(-turned, teeth)))
			}
		}
	}
	// Once sorted, what is one position stands side by side: Normal leaves none near 0.
	slices.Sort(out)
	return slices.CompactFunc(out, func(a, b float64) bool { return gear.Same(a, b, teeth) })
}

// roundIndex drops the arithmetic's last digits, far below a position's tolerance.
func roundIndex(index float64) float64 { return math.Round(index*1e11) / 1e11 }
