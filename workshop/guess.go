package workshop

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"

	"cressa/core/abrasive"
	"cressa/workshop/journal"
)

// Guess is what somebody says of a new thing: what it is, the name it carries, and one figure. That is
// a lap's, a dop's or a blade's diameter in mm, a gear's teeth, or how much there is of anything else;
// 0 leaves it to the name.
type Guess struct {
	Kind ItemKind `validate:"oneof=lap compound adhesive dop gear blade supply"`
	Name string   `validate:"required,max=60"`
	Size float64  `validate:"min=0,max=100000"`
}

// usualLap is the diameter of a lap in mm where no other lies on the shelf, and usualHub that of the
// middle that does not cut.
const usualLap, usualHub = 150, 40

// named finds the first of some meanings that a name has a word for.
func named[T any](name string, meanings []meaning[T], otherwise T) T {
	for _, m := range meanings {
		if m.words.MatchString(name) {
			return m.is
		}
	}
	return otherwise
}

type meaning[T any] struct {
	words *regexp.Regexp
	is    T
}

// means is a meaning of words that begin as one of those given.
func means[T any](is T, words string) meaning[T] {
	return meaning[T]{regexp.MustCompile(`(?i)\b(?:` + words + `)`), is}
}

var (
	surfaceWords = []meaning[abrasive.Surface]{
		means(abrasive.Film, "film|foil|disc|lapping film"), means(abrasive.Bonded, "plated|sinter|resin|bonded|nickel"),
		means(abrasive.Metal, "copper|tin|zinc|bronze|brass|lead|iron|aluminium|alloy"), means(abrasive.Ceramic, "ceramic"),
		means(abrasive.Wax, "wax"), means(abrasive.Wood, "wood|oak|maple|cherry"), means(abrasive.Fabric, "felt|leather|cloth|silk|pad"),
		means(abrasive.Plastic, "plastic|acryl|phenol|composite|polycarb"),
	}
	familyWords = []meaning[abrasive.Family]{
		means(abrasive.Diamond, "diamond"), means(abrasive.Cerium, "cerium|ceria"), means(abrasive.Alumina, "alumin|corund|linde"),
		means(abrasive.TinOxide, "tin oxide"), means(abrasive.Zirconia, "zircon"), means(abrasive.SiliconCarbide, "silicon carb|carbide|sic\\b"),
		means(abrasive.Silica, "silica|colloid"),
	}
	sortWords = []meaning[Sort]{
		means(Wax, "wax|shellac|pitch"), means(Cyanoacrylate, "cyano|instant|super"), means(Epoxy, "epoxy|two-part|resin"),
	}
	shapeWords = []meaning[DopShape]{means(ConeDop, "cone|cup"), means(VeeDop, "v\\b|vee|key|long")}
	minutes    = regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*(min|h\b|hour)`)
	millis     = regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*mm`)
	plain      = regexp.MustCompile(`\d+(?:[.,]\d+)?`)
)

// figure reads the first figure that a pattern finds in a name.
func figure(of *regexp.Regexp, name string) float64 {
	m := of.FindStringSubmatch(name)
	if m == nil {
		return 0
	}
	v, _ := strconv.ParseFloat(strings.ReplaceAll(m[min(1, len(m)-1)], ",", "."), 64)
	return v
}

// guess makes a thing of what is said of it, with what happened to it so far as far as that shows.
func (k *Kit) guess(g Guess, others []Shelved, settings Settings) (Item, []happening) {
	i := Item{Kind: g.Kind, Name: strings.TrimSpace(g.Name)}
	today := k.moment().Format(time.DateOnly)
	size := g.Size
	grain, _ := abrasive.ReadGrain(g.Name)
	var log []happening
	count := func(have, low float64, unit string) {
		i.Unit, i.Low = unit, low
		log = append(log, happening{journal.Counted, journal.Count{Have: have}})
	}
	opened := func() { log = append(log, happening{journal.Renewed, journal.Renewing{On: today}}) }
	switch g.Kind {
	case LapItem:
		i.Lap = guessLap(g, grain, others)
		if !i.Lap.holds() && grain > 0 {
			log = append(log, happening{journal.Charged, journal.Charging{Name: "diamond", Family: string(abrasive.Diamond), Grain: grain}})
		}
		if i.Lap.Surface == abrasive.Film {
			i.Unit = "discs"
		}
		opened()
		if len(log) > 1 {
			// A disc is charged once it lies there.
			log[0], log[1] = log[1], log[0]
		}
	case CompoundItem:
		i.Compound = &Compound{Family: named(g.Name, familyWords, abrasive.OtherAbrasive), Grain: grain}
		if i.Compound.Family == abrasive.OtherAbrasive && grain > 0 {
			i.Compound.Family = abrasive.Diamond
		}
		if grain == 0 {
			i.Compound.Grain = i.Compound.Family.UsualGrain()
		}
		opened()
		count(size, size/5, "g")
	case AdhesiveItem:
		i.Adhesive = &Adhesive{Sort: named(g.Name, sortWords, OtherAdhesive)}
		i.Adhesive.Minutes, i.ShelfMonths = i.Adhesive.Sort.usual()
		if m := minutes.FindStringSubmatch(g.Name); m != nil {
			i.Adhesive.Minutes = figure(minutes, g.Name)
			if !strings.EqualFold(m[2], "min") {
				i.Adhesive.Minutes *= 60
			}
		}
		opened()
		count(max(size, 1), 1, "pieces")
	case DopItem:
		i.Dop = &Dop{Shape: named(g.Name, shapeWords, FlatDop), Diameter: first(size, figure(millis, g.Name), figure(plain, g.Name), 6)}
		count(1, 0, "pieces")
	case GearItem:
		i.Gear = &Gear{Teeth: int(first(size, figure(plain, g.Name), 96)), Machines: []string{settings.Machine}}
	case BladeItem:
		i.Blade = &Blade{Diameter: first(size, 100), Kerf: first(math.Min(figure(millis, g.Name), 2), 0.4)}
		count(1, 0, "pieces")
	case SupplyItem:
		count(size, math.Floor(size/4), "pieces")
	}
	return i, log
}

// guessLap makes a lap of its name: what it is made of, and whether its grit is fast in it.
func guessLap(g Guess, grain float64, others []Shelved) *Lap {
	l := &Lap{Diameter: g.Size, Surface: named(g.Name, surfaceWords, abrasive.Plastic)}
	if l.Surface == abrasive.Plastic && grain > 0 {
		// A disc that carries nothing but its grit is one that cuts.
		l.Surface = abrasive.Bonded
	}
	if l.holds() {
		l.Grain = grain
	}
	l.Polishes = l.Surface != abrasive.Bonded && grain <= coarsestPolish && !strings.Contains(strings.ToLower(g.Name), "copper")
	for _, o := range others {
		if l.Diameter == 0 && o.Lap != nil {
			l.Diameter = o.Lap.Diameter
		}
	}
	l.Diameter = first(l.Diameter, usualLap)
	if l.Surface == abrasive.Metal {
		l.Of = strings.ToLower(surfaceWords[2].words.FindString(g.Name))
	}
	l.Hub = math.Min(usualHub, l.Diameter/3)
	return l
}

// coarsestPolish is the largest grain, in µm, that a lap is usually polished with.
const coarsestPolish = 1

// holds tells whether a lap's grit is fast in it.
func (l Lap) holds() bool { return l.Surface == abrasive.Bonded || l.Surface == abrasive.Film }

// usual returns how many minutes an adhesive takes until the stone can be cut, and how many months
// an open one keeps. Labels differ, and decide.
func (s Sort) usual() (minutes, months float64) {
	switch s {
	case Wax:
		return 15, 0
	case Cyanoacrylate:
		return 60, 12
	case Epoxy:
		return 24 * 60, 24
	}
	return 60, 12
}

// first returns the first figure that is one.
func first(figures ...float64) float64 {
	for _, v := range figures {
		if v > 0 {
			return v
		}
	}
	return 0
}
