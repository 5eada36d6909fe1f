package e2e_test

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// finding is a rule of the accessibility checker that a page breaks.
type finding struct {
	ID     string `json:"id"`
	Impact string `json:"impact"`
	Nodes  []struct {
		HTML    string `json:"html"`
		Summary string `json:"failureSummary"`
	} `json:"nodes"`
}

// checkAxe runs axe-core in the page and returns its serious findings.
func checkAxe(t *testing.T, u *user) []finding {
	t.Helper()
	source, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	_, err = browser.Eval[bool](u.Page, string(source)+"; true")
	require.NoError(t, err)
	_, err = browser.Eval[bool](u.Page, "window.cressaAxe = '', axe.run().then((r) => { window.cressaAxe = JSON.stringify(r.violations) }), true")
	require.NoError(t, err)
	u.until("window.cressaAxe")
	said, err := browser.Eval[string](u.Page, "window.cressaAxe")
	require.NoError(t, err)
	var all, serious []finding
	require.NoError(t, json.Unmarshal([]byte(said), &all))
	for _, f := range all {
		if f.Impact == "serious" || f.Impact == "critical" {
			serious = append(serious, f)
		}
	}
	return serious
}

// rooms are the views that are checked, and how to come to each.
var rooms = map[string]func(*user){
	"today": func(u *user) { u.see("Resume at the wheel") },
	"rough": func(u *user) { u.click("Rough"); u.mentions("Mixed tin") },
	"piece of rough": func(u *user) {
		u.click("Rough")
		u.click("Piece 1 · the olive block")
		u.click("veilmust come out")
		u.click("Add a saw cut")
		u.mentions("fall off")
	},
	"new piece": func(u *user) {
		u.click("Rough")
		u.click("Put a piece in")
		u.choose("Material", "Peridot")
		u.mentions("By its solid")
	},
	"diagrams": func(u *user) { u.click("Diagrams"); u.mentions("Spiral Arm") },
	"diagram":  func(u *user) { u.click("Diagrams"); u.click("Spiral Arm"); u.mentions("no mirror line") },
	"editor": func(u *user) {
		u.click("Diagrams")
		u.click("Meridian")
		u.click("Edit a copy")
		u.fill("P2 Angle °", "x")
		u.mentions("Type a number such as")
	},
	"stop picker": func(u *user) {
		u.click("Diagrams")
		u.click("First Light")
		u.click("Edit a copy")
		u.click("Choose a stop for P2")
		u.see("Where does P2 stop?")
	},
	"plan":   func(u *user) { u.click("Start a new stone"); u.click("Ecliptic"); u.mentions("Calipers read") },
	"stones": func(u *user) { u.click("Stones"); u.mentions("Rose oval") },
	"stone":  func(u *user) { u.click("Stones"); u.click("Grey night"); u.see("Logbook card") },
	"candidates": func(u *user) {
		u.click("Rough")
		u.click("Piece 1 · the olive block")
		u.click("Side by side")
		u.mentions("Over its cost")
		u.click("Add a price")
		u.see("Save the prices")
		u.until(`((all) => all.length > 3 && all.every((i) => i.naturalWidth > 200))([...document.querySelectorAll('[role=listitem] img')])`)
	},
	"changes of a candidate": func(u *user) {
		u.click("Rough")
		u.click("Piece 1 · the olive block")
		u.click("Change it to fit")
		u.click("Try changes")
		u.mentions("With tiers left off")
		u.until(`[...document.querySelectorAll('button')].some((b) => b.innerText === 'Try again')`)
	},
	"two stones": func(u *user) {
		u.click("Rough")
		u.click("Piece 6 · fire")
		u.click("Two stones")
		u.mentions("Nothing was looked for yet")
	},
	"measure": func(u *user) {
		u.click("Rough")
		u.click("Piece 2 · night")
		u.click("Measure it")
		u.mentions("What the dial reads")
	},
	"check": func(u *user) {
		u.click("Stones")
		u.click("Olive keel")
		u.click("Check before gluing")
		u.see("In order")
	},
	"preform": func(u *user) {
		u.click("Stones")
		u.click("Olive keel")
		u.click("Shape and dop")
		u.click("Cone and cylinder")
		u.mentions("Is it round")
	},
	"dop": func(u *user) {
		u.click("Stones")
		u.click("Olive keel")
		u.click("Shape and dop")
		u.click("For the crown")
		u.mentions("ends in a keel")
	},
	"card":    func(u *user) { u.click("Stones"); u.click("Blue swirl"); u.click("Finish it"); u.mentions("reckoned") },
	"logbook": func(u *user) { u.click("Logbook"); u.see("Together") },
	"machine": func(u *user) { u.click("Machine and habits"); u.see("Window bench") },
	"habits":  func(u *user) { u.click("Machine and habits"); u.click("Habits"); u.mentions("Passes proposed") },
	"instruments": func(u *user) {
		u.click("Machine and habits")
		u.click("Instruments")
		u.click("Type an address")
		u.see("Read this one")
	},
	"the ear": beside("g", "Let it listen"),
	"devices": func(u *user) {
		u.click("Machine and habits")
		u.click("Devices")
		u.mentions("The network is shut out")
	},
	"copies": func(u *user) {
		u.click("Machine and habits")
		u.click("Copies")
		u.click("Make a copy now")
		u.see("Download")
		u.click("Bring back")
		u.see("Replace the records")
	},
	"kit": func(u *user) { u.click("Kit"); u.choose("For a stone of", "Peridot"); u.mentions("shapes the stone") },
	"thing of the kit": func(u *user) {
		u.thing("Tin")
		u.click("Change")
		u.see("It polishes")
	},
	"recipes": func(u *user) { u.click("Kit"); u.click("Recipes"); u.mentions("What it takes") },
	"polish trials": func(u *user) {
		u.click("Kit")
		u.click("Polish trials")
		u.click("Note a trial")
		u.see("The one opposite")
	},
	"blind trials": func(u *user) {
		u.click("Kit")
		u.click("Blind trials")
		u.click("Hand the tablet over")
		u.see("I see no difference")
	},
	"materials": func(u *user) {
		u.click("Machine and habits")
		u.click("Materials")
		u.click("Add a material of your own")
		u.see("A material of your own")
	},
	"import": func(u *user) {
		u.click("Diagrams")
		u.click("Import")
		u.fill("Paste a table", "Lantern, 96 index\nP1 43 every 12 from 6 somehow\nwho knows")
		u.click("Read it")
		u.mentions("This line was not understood")
	},
	"pulling": func(u *user) {
		u.click("Diagrams")
		u.click("First Light")
		u.click("Edit a copy")
		u.until(`document.querySelector("input[data-name][value=C2]")`)
		require.NoError(u.t, u.ClickOn("input[data-name][value=C2]"))
		u.click("Lower C2 by hand")
		u.until(`document.querySelector('[data-ring]')`)
	},
	"loupe": func(u *user) {
		u.click("Diagrams")
		u.click("First Light")
		u.see("On your gears")
		u.click("Loupe")
		u.mentions("the widest first")
	},
	"cutting order": func(u *user) {
		u.click("Diagrams")
		u.click("Ecliptic")
		u.see("On your gears")
		u.click("Cutting order")
		u.mentions("can be cut as written")
	},
	"angles": func(u *user) {
		u.click("Diagrams")
		u.click("Parallax")
		u.see("On your gears")
		u.click("Angles")
		u.choose("Material", "Aquamarine")
		u.mentions("Pavilion ×")
	},
	"machine error": func(u *user) {
		u.click("Diagrams")
		u.click("Parallax")
		u.see("On your gears")
		u.click("Machine error")
		u.choose("Stones", "200")
		u.click("Run")
		u.see("Would rounding be noticed?")
	},
	"light": func(u *user) {
		u.click("Diagrams")
		u.click("Meridian")
		u.see("On your gears")
		u.click("Under light")
		u.see("Is a polished girdle worth it?")
		u.until(refined)
		u.until(`document.querySelector('section[aria-label="When it is tilted"] svg path')`)
	},
	"sweep": func(u *user) {
		u.click("Diagrams")
		u.click("First Light")
		u.see("On your gears")
		u.click("Under light")
		u.click("Sweep the angles")
		u.fill("Points a side", "6")
		u.click("Sweep")
		u.mentions("36 of 36 points")
		u.click("Go to the best")
		u.see("Angles there")
		u.until(`document.querySelector('section[aria-label="chosen point"] [aria-busy=false] img')`)
	},
	"light side by side": func(u *user) {
		u.click("Diagrams")
		u.click("First Light")
		u.click("More")
		u.click("Side by side")
		u.choose("Hold beside it", "Parallax")
		u.click("Light")
		u.see("Light, face up")
		u.until(refined)
	},
	"solid by rule": func(u *user) {
		u.click("Diagrams")
		u.click("Die or prism")
		u.until(`document.querySelectorAll('[role=dialog] polygon').length > 2`)
	},
	"sheet": func(u *user) {
		u.click("Stones")
		u.click("Rose oval")
		u.click("Sheet")
		u.until(`document.querySelector('.sheet-pages img')?.naturalWidth > 100`)
	},
	"bench":         func(u *user) { toTheWheel(u); u.mentions("25 of 219") },
	"catching up":   beside("c", "Progress"),
	"what happened": beside("e", "What was it? One key is enough."),
	"the order":     beside("r", "Cut again"),
	"height dial":   beside("h", "What the dial reads when a tier is finished"),
	"adapting":      beside("a", "What follows"),
	"one-sided":     beside("i", "Tap where the facet is bright already."),
	"time left":     beside("t", "At your own pace so far."),
	"hands-free":    beside("d", "Splash guard"),
	"at this lap":   beside("l", "At this lap"),
	"calipers":      beside("m", "The stone across"),
	"as it was cut": beside("b", "As it was cut"),
	"new freehand":  func(u *user) { u.click("Stones"); u.click("Cut freehand"); u.mentions("you dial") },
	"freehand": func(u *user) {
		u.click("Stones")
		u.click("Cut freehand")
		u.fill("Name", "Pebble")
		u.click("Begin")
		u.click("Cone: 45°, 16 facets")
		u.mentions("1 · to a centre point")
		u.click("Cut it")
		u.mentions("P1 45° to a centre point")
	},
	"printed card": func(u *user) {
		u.click("Stones")
		u.click("Grey night")
		u.click("Print a card")
		u.until(`document.querySelector('.sheet-pages img')?.complete`)
	},
	"quick design": func(u *user) {
		u.click("Diagrams")
		u.click("Quick design")
		u.until(`document.querySelectorAll('[role=dialog] polygon').length > 20`)
	},
	"repair bench": func(u *user) {
		u.click("Stones")
		u.click("Ring stone with a chip")
		u.click("To the bench")
		u.see("Begin")
	},
	"compared": func(u *user) {
		u.click("Diagrams")
		u.click("Meridian")
		u.click("More")
		u.click("Side by side")
		u.choose("Hold beside it", "Ecliptic")
		u.see("Where they differ")
	},
	"transfer": func(u *user) {
		u.click("Stones")
		u.click("Sea glass")
		u.click("Cut it")
		u.choose("Done marks", "a whole tier")
		finishSide(u)
		u.see("Turn the stone over")
	},
}

// beside opens what stands beside a facet at the wheel, by its key.
func beside(key, shows string) func(u *user) {
	return func(u *user) {
		toTheWheel(u)
		u.see("Something happened")
		u.press(key)
		u.see(shows)
	}
}

// toTheWheel goes to a bench that no other room touches.
func toTheWheel(u *user) {
	u.click("Stones")
	u.click("Rose oval")
	u.click("Resume")
}

// A first opening asks four questions, and they can be answered by anybody.
func TestTheFirstOpeningIsAccessible(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL)
	u.see("Four questions about your machine")
	assert.Empty(t, checkAxe(t, u))
	u.quiet()
}

func TestEveryRoomIsAccessibleInBothThemes(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	// One browser goes through all rooms: it has the application's files after the first.
	visitor := open(t, 1280, 800, app.URL)
	for name, goTo := range rooms {
		t.Run(name, func(t *testing.T) {
			u := &user{t: t, Page: visitor.Page}
			require.NoError(t, u.Scheme("light"))
			require.NoError(t, u.Go(app.URL))
			goTo(u)
			assert.Empty(t, checkAxe(t, u), "light")
			require.NoError(t, u.Scheme("dark"))
			u.until(`getComputedStyle(document.body).backgroundColor === 'rgb(18, 23, 28)'`)
			assert.Empty(t, checkAxe(t, u), "dark")
			u.quiet()
		})
	}
}

// At the wheel the digits are read from a metre.
func TestTheBenchIsReadableOnATablet(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1024, 768, app.URL)
	u.click("Resume at the wheel")
	u.see("Done")
	const inkHeight = `(() => {
		const e = document.querySelector('[data-digits=%NAME%]');
		const style = getComputedStyle(e);
		const pen = document.createElement('canvas').getContext('2d');
		pen.font = style.fontWeight + ' ' + style.fontSize + ' ' + style.fontFamily;
		const ink = pen.measureText('8');
		return ink.actualBoundingBoxAscent + ink.actualBoundingBoxDescent;
	})()`
	u.until(`document.fonts.status === 'loaded'`)
	for _, name := range []string{"Index", "Angle"} {
		height, err := browser.Eval[float64](u.Page, strings.ReplaceAll(inkHeight, "%NAME%", name))
		require.NoError(t, err)
		assert.GreaterOrEqual(t, height, 96.0, name)
	}
	stop, err := browser.Eval[float64](u.Page, `parseFloat(getComputedStyle(document.querySelector('[data-stop]')).fontSize)`)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, stop, 32.0)
	scrolls, err := browser.Eval[bool](u.Page, `document.documentElement.scrollHeight > innerHeight || document.documentElement.scrollWidth > innerWidth`)
	require.NoError(t, err)
	assert.False(t, scrolls, "nothing may lie off the screen")
}

// Two tabs edit one diagram: the later one is offered both versions.
func TestAStaleWriteOffersBoth(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	first := open(t, 1280, 800, app.URL+"/diagrams")
	first.click("First Light")
	first.click("Edit a copy")
	first.see("draft saved")
	where, err := browser.Eval[string](first.Page, "location.href")
	require.NoError(t, err)
	second := open(t, 1280, 800, where)
	second.see("draft saved")

	first.fill("P1 Angle °", "45")
	first.until(`document.body.innerText.includes('draft not saved yet') || document.body.innerText.includes('saving')`)
	first.see("draft saved")
	second.fill("P1 Angle °", "46")
	second.see("Changed in two places")
	second.mentions("P1 45°")
	second.click("Keep what is on this screen")
	second.see("draft saved")
	require.NoError(t, first.Reload())
	first.until(`[...document.querySelectorAll('input')].some((i) => i.value === '46')`)
	second.quiet("409")
}
