package formats

import (
	"strings"
	"sync"
	"unicode"

	"codeberg.org/go-fonts/dejavu/dejavusans"
	"codeberg.org/go-fonts/dejavu/dejavusansbold"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/text/unicode/bidi"
)

// missing stands for a character that the face lacks.
const missing = '□'

// beyondBasic is the first character that the PDF package cannot set, in whatever face.
const beyondBasic = 0x10000

// glyphs tells which characters both weights of the face have. It is read once.
var glyphs = sync.OnceValue(func() func(rune) bool {
	var faces []*sfnt.Font
	for _, data := range [][]byte{dejavusans.TTF, dejavusansbold.TTF} {
		f, err := sfnt.Parse(data)
		if err != nil {
			panic(err) // the face ships with the program
		}
		faces = append(faces, f)
	}
	var mutex sync.Mutex
	known := map[rune]bool{}
	return func(r rune) bool {
		mutex.Lock()
		defer mutex.Unlock()
		has, asked := known[r]
		if !asked {
			has = r < beyondBasic
			for _, f := range faces {
				glyph, err := f.GlyphIndex(nil, r)
				has = has && err == nil && glyph != 0
			}
			known[r] = has
		}
		return has
	}
})

// settable is a text with the characters that the face has. What only joins or varies others is
// left out where the face lacks it, everything else becomes a box.
func settable(text string) string {
	has := glyphs()
	return strings.Map(func(r rune) rune {
		switch {
		case unicode.IsControl(r) || unicode.Is(unicode.Bidi_Control, r):
			return -1
		case has(r):
			return r
		case unicode.In(r, unicode.Join_Control, unicode.Variation_Selector):
			return -1
		}
		return missing
	}, text)
}

// inOrder is a text in the order in which it stands on the line, from left to right: a PDF has no
// other. Arabic and Hebrew run the other way.
func inOrder(text string) string {
	if strings.IndexFunc(text, rightToLeft) < 0 {
		return text
	}
	var p bidi.Paragraph
	if _, err := p.SetString(text); err != nil {
		return text
	}
	order, err := p.Order()
	if err != nil {
		return text
	}
	var out strings.Builder
	for i := range order.NumRuns() {
		run := order.Run(i)
		if run.Direction() == bidi.RightToLeft {
			out.WriteString(bidi.ReverseString(run.String()))
		} else {
			out.WriteString(run.String())
		}
	}
	return out.String()
}

func rightToLeft(r rune) bool {
	properties, _ := bidi.LookupRune(r)
	return properties.Class() == bidi.R || properties.Class() == bidi.AL
}
