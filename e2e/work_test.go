package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// rows are the names of the tiers in the editor, in order.
const rows = `[...document.querySelectorAll('input[data-name]')].map((i) => i.value).join(' ')`

// Tiers are added, moved and removed, stops are picked from lists, and every step
// is taken back and done again.
func TestTiersAreEditedAndUndone(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("First Light")
	u.click("Edit a copy")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)

	u.click("Choose a stop for P2")
	u.click("Take P1 out")
	u.click("Use this stop")
	u.see("to the meet of P1 and two G1")
	u.fill("P2 Note", "the last of the pavilion")
	u.click("Move P2 up")
	u.until(rows + ` === 'P1 P2 G1 C1 C2 C3 T'`)
	u.see("G1 makes that meet; cut G1 first")
	u.see("The drawing shows the last stone that could be cut.")
	u.click("Undo")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)
	u.click("Redo")
	u.until(rows + ` === 'P1 P2 G1 C1 C2 C3 T'`)
	u.click("Move P2 down")
	require.NoError(t, u.ClickOn("input[data-name][value=T]"))
	u.click("Remove T")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3'`)
	u.until(`!document.body.innerText.includes('Table / width')`)
	u.see("edited, not kept yet")
	u.see("draft saved")

	// What was typed is there after a reload, kept or not.
	require.NoError(t, u.Reload())
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3'`)
	u.click("Keep this version")
	u.see("Kept")
	u.click("Done editing")
	u.see("the last of the pavilion")
	u.quiet()
}

// The cutting is walked through facet by facet, and a tier that is chosen in the
// table lights in the drawings.
func TestTheStoneIsWalkedThroughAndPicked(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("Meridian")
	u.see("T at 96 · cut 49 of 49")
	u.press(kb.Home)
	u.see("Rough block")
	u.press(kb.ArrowRight)
	u.see("P1 at 48 · cut 1 of 49")
	u.press(kb.End)
	u.click("P4")
	u.until(`document.querySelector('table [aria-pressed=true]')?.textContent === 'P4'`)
	const lit = `[...document.querySelectorAll('svg[role=img]')].every((s) => s.querySelector('polygon[fill="#b9d9d0"], line[stroke="#1f6b5d"]'))`
	u.until(lit)

	u.click("In the round")
	require.NoError(t, u.ClickOn("[role=application]"))
	before, err := browser.Eval[string](u.Page, `document.querySelector('[role=application] polygon').getAttribute('points')`)
	require.NoError(t, err)
	u.press(kb.ArrowLeft)
	u.until(`document.querySelector('[role=application] polygon').getAttribute('points') !== '` + before + `'`)
	u.quiet()
}

// A machine without a cheater and with coarse steps is respected by plan and bench.
func TestThePlanAndTheBenchRespectTheMachine(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/machine")
	u.fill("Index gears you own", "80 96")
	u.choose("Finest step of your protractor", "1°")
	u.click("Your machine has a cheater")
	u.click("Save")
	u.see("Saved")

	u.click("Diagrams")
	u.click("First Light")
	u.click("Plan a stone")
	u.see("P2 at 42.5° lies between two steps of your protractor, 42° and 43°.")
	u.choose("Gear", "80")
	u.see("your machine has no cheater")
	u.choose("Material", "Fluorite")
	u.until(`document.querySelector('[aria-label*="below the critical angle: light is lost"]')`)
	u.fill("Size (mm)", "oops")
	u.see("Type 0.1 to 500 mm.")
	u.fill("Size (mm)", "10")
	u.click("Plan this stone")
	u.click("Cut it")
	u.see("P1 · Cut")

	// Skip, note and round.
	u.press("s")
	u.see("1 of 219")
	u.until(`document.querySelectorAll('[data-tick=disk]').length === 1`)
	u.press("n")
	u.see("What happened?")
	u.press("chip at the edge")
	u.press(kb.Enter)
	u.choose("Done ticks", "a round at one angle")
	u.press(kb.Enter)
	u.see("12 of 219")
	u.press("?")
	u.see("Leave the bench")
	u.click("Close")
	u.press(kb.Escape)
	u.see("chip at the edge")
	assert.Empty(t, u.Complaints())
}
