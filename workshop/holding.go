package workshop

import (
	"regexp"

	"cressa/core/dopping"
)

// fillWords are those of a powder that is put into an adhesive.
var fillWords = regexp.MustCompile(`(?i)\b(?:fill|powder|talc|soda|gel)`)

// DopOf returns the dop that a hold names: the one of the shelf, else what its words say, such as "cone
// 6 mm". It is false where they give no size.
func (h Hold) DopOf(shelf []Shelved) (dopping.Dop, bool) {
	if i := find(shelf, h.DopItem); i != nil && i.Dop != nil {
		return i.Dop.Dop(), true
	}
	out := dopping.Dop{Shape: dopping.Shape(named(h.Dop, shapeWords, FlatDop)), Diameter: figure(millis, h.Dop)}
	return out, out.Diameter > 0
}

// Dop is the dop as a stone meets it.
func (d Dop) Dop() dopping.Dop {
	return dopping.Dop{Shape: dopping.Shape(d.Shape), Diameter: d.Diameter}
}

// AdhesiveOf returns what a hold glues with, as it is on the shelf, nil where it is not, and its sort with
// the minutes that this bottle takes. It is false where neither shelf nor words tell the sort.
func (h Hold) AdhesiveOf(shelf []Shelved) (dopping.Adhesive, *Shelved, bool) {
	name := h.Adhesive
	item := find(shelf, h.AdhesiveItem)
	if item != nil {
		name = item.Name
	}
	a, ok := dopping.AdhesiveOf(sortOf(name, item))
	if item != nil && item.Adhesive != nil && item.Adhesive.Minutes > 0 {
		a.Minutes = item.Adhesive.Minutes
	}
	return a, item, ok
}

// sortOf tells the sort of an adhesive by its name and, where it is a thing of the kit, by what is said of
// it there; "" where neither tells.
func sortOf(name string, item *Shelved) dopping.Sort {
	has := func(s Sort) bool {
		for _, m := range sortWords {
			if m.is == s && m.words.MatchString(name) {
				return true
			}
		}
		return false
	}
	sort := named(name, sortWords, OtherAdhesive)
	if item != nil && item.Adhesive != nil && item.Adhesive.Sort != OtherAdhesive {
		sort = item.Adhesive.Sort
	}
	switch {
	case has(Wax) && has(Cyanoacrylate):
		return dopping.WaxCyano
	case sort == Cyanoacrylate && fillWords.MatchString(name):
		return dopping.FillCyano
	case sort == OtherAdhesive:
		return ""
	}
	return dopping.Sort(sort)
}
