package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// thing opens a thing of the shelf.
func (u *user) thing(name string) {
	u.t.Helper()
	u.click("Kit")
	find := fmt.Sprintf(`[...document.querySelectorAll('[data-thing]')].find((b) => b.innerText.split('\n').includes(%q))`, name)
	u.until(find)
	u.until(fmt.Sprintf(`(%s?.click(), document.querySelector('section[aria-label=%q]') !== null)`, find, name))
}

// passField is the field of a plan's passes with a place: each has its name, its lap and its compound.
func passField(place int) string {
	return fmt.Sprintf(`document.querySelectorAll('[role=group][aria-label=Passes] input:not([type=checkbox])')[%d]`, place)
}

// typeInto types into a field of several that have one name.
func (u *user) typeInto(field, text string) {
	u.t.Helper()
	u.until(fmt.Sprintf(`(%s?.focus(), %[1]s?.select?.(), document.activeElement === %[1]s)`, field))
	u.press(text)
	u.until(fmt.Sprintf(`%s?.value === %q`, field, text))
}

// A shelf is set up without a mouse: the first things by name, a bottle by another kind, and back again.
func TestAShelfIsSetUpByKeyboard(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL)
	u.see("Today")
	u.press("6")
	u.mentions("Laps, compounds, adhesives, dops and the rest belong here.")
	for _, name := range []string{"Plated 600", "Tin"} {
		u.press("n")
		u.until(`document.activeElement.closest('[role=dialog]') && document.activeElement.tagName === 'INPUT'`)
		u.press(name + kb.Enter)
		u.mentions(name + " is on the shelf")
		u.until(`!document.querySelector('[role=dialog]')`)
	}
	u.mentions("25 µm")
	// A bottle, by the list of kinds.
	u.press("n")
	u.until(`document.activeElement.closest('[role=dialog]') && document.activeElement.tagName === 'INPUT'`)
	u.choose("What it is", "Compound")
	u.fill("How much", "50")
	u.fill("Name on it", "Alumina 0.3 µm")
	u.press(kb.Enter)
	u.mentions("Alumina 0.3 µm is on the shelf")
	// Arrow keys go from thing to thing, Enter takes one.
	u.until(`(document.querySelector('[data-thing]').focus(), true)`)
	u.press(kb.ArrowRight)
	u.press(kb.Enter)
	u.until(`document.querySelector('section[aria-label=Tin]')`)
	// What makes no sense is said at once, and nothing typed is lost.
	u.press("n")
	u.until(`document.activeElement.closest('[role=dialog]') && document.activeElement.tagName === 'INPUT'`)
	u.fill("Diameter", "5")
	u.fill("Name on it", "Zinc")
	u.press(kb.Enter)
	u.see("Some fields need another value.")
	u.fill("Diameter", "150")
	u.click("Put it on the shelf")
	u.mentions("Zinc is on the shelf")
	u.quiet("422")
}

// A ladder with a jump: what is wrong, what is missing, and what the shelf proposes once it is there.
func TestALadderWithAJumpIsMended(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/kit")
	add := func(kind, name string) {
		u.click("Add a thing")
		u.choose("What it is", kind)
		u.fill("Name on it", name)
		u.click("Put it on the shelf")
		u.mentions(name + " is on the shelf")
		u.until(`!document.querySelector('[role=dialog]')`)
	}
	add("Lap", "260")
	add("Lap", "3000")
	add("Lap", "Tin")
	add("Compound", "Alumina 0.3 µm")
	plan := func() {
		u.click("Diagrams")
		u.click("First Light")
		u.click("Plan a stone")
		u.choose("Material", "Peridot")
		u.until(passField(7) + `.value === 'Tin'`)
		u.typeInto(passField(1), "260")
		u.mentions("times coarser; up to 5 it leaves no scratches behind")
	}
	plan()
	u.mentions("Missing on the shelf: about 19 µm (mesh 810).")
	u.click("Kit")
	add("Lap", "600")
	plan()
	u.mentions("From your shelf: 260 → 600 → 3000 → Tin.")
	u.click("Take that ladder")
	u.until(passField(4) + `.value === '600'`)
	u.until(`!document.body.innerText.includes('times coarser')`)
	u.click("Plan this stone")
	u.click("Cut it")
	u.mentions("Cut · 260")
	u.quiet()
}

// A lap that something coarse got on is told of on the shelf, on Today and at the wheel, until it was
// cleaned; a bottle past its date until a new one was opened.
func TestALapIsWarnedOfAndCleanedAndABottleIsPastItsDate(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL)
	u.mentions("Cyanoacrylate: It was good until")
	u.thing("Cyanoacrylate")
	u.click("New one opened")
	u.click("Save")
	u.mentions("New on")
	u.click("Today")
	u.mentions("It met 3 µm diamond")
	u.until(`!document.body.innerText.includes('It was good until')`)
	u.mentions("1 piece left.")

	u.thing("600")
	u.click("More")
	u.click("Something got on it")
	u.fill("Grain", "60")
	u.click("Save")
	u.mentions("It met 60 µm diamond, which is coarser than what it works with and scratches.")
	// The stone that is to be cut next is warned of it where its lap goes on.
	u.click("Stones")
	u.click("Sea glass")
	u.click("Cut it")
	u.mentions("600: It met 60 µm diamond")
	u.mentions("Scrub it with soap and a stiff brush")
	u.click("Scrubbed")
	u.until(`!document.body.innerText.includes('60 µm')`)
	u.press(kb.Enter)
	u.see("on disk")
	u.press(kb.Escape)
	u.thing("600")
	u.mentions("Scrubbed.")
	u.quiet()
}

// A trial of a polish is noted, and its best is proposed for the next stone of that material.
func TestAPolishThatDidBestIsProposedTheNextTime(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/kit?show=polishes")
	u.click("Note a trial")
	u.choose("Material", "Aquamarine")
	for place, lap := range []string{"Tin", "Cerium film"} {
		u.typeInto(fmt.Sprintf(`document.querySelectorAll('[role=dialog] [role=group] input[role=combobox]')[%d]`, 2*place), lap)
		u.press(kb.Escape)
	}
	u.click("Keep the trial")
	u.mentions("on 1 trial")
	u.click("Diagrams")
	u.click("First Light")
	u.click("Plan a stone")
	u.choose("Material", "Aquamarine")
	u.until(passField(7) + `.value === 'Tin'`)
	u.quiet()
}

// Two stones are planned as a pair, judged by people who are not told which is which, and counted.
func TestAPairIsPlannedAndJudgedBlind(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/kit?show=trials")
	u.click("Plan a pair")
	u.choose("First stone", "9 · Sea glass for the open day")
	u.choose("The second differs in", "how far the girdle is taken")
	u.click("Plan the second")
	u.click("Hand the tablet over")
	for n, judge := range []string{"Ines", "Toma", "Noor"} {
		u.fill("Your name", judge)
		said, err := browser.Eval[string](u.Page, `document.body.innerText`)
		require.NoError(t, err)
		assert.NotContains(t, said, "girdle", "the judge is not told what they differ in, nor which is which")
		u.click([]string{"Tray A", "Tray A", "I see no difference"}[n])
		u.click("Give my verdict")
		u.click("The next judge")
	}
	// Each judge is heard once.
	u.fill("Your name", "toma")
	u.click("Tray B")
	u.click("Give my verdict")
	u.see("toma has judged already. Each judge is heard once; somebody else takes another name.")
	u.click("All trials")
	u.click("Sea glass for the open day")
	u.mentions("3 verdicts so far. Ines, Toma, Noor")
	u.click("Show me which is which, to lay them out")
	u.mentions("stone 19")
	u.click("End it and tell which is which")
	u.until(`document.querySelector('[role=dialog]')`)
	u.until(`([...document.querySelectorAll('[role=dialog] button')].at(-1).click(), true)`)
	u.mentions("2 of 2 chose A")
	u.mentions("that settles nothing. Ask more judges.")
	u.mentions("1 saw no difference")
	u.quiet("422")
}
