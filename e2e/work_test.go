package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// rows are the names of the tiers in the editor, in order.
const rows = `[...document.querySelectorAll('input[data-name]')].map((i) => i.value).join(' ')`

// progress is what the bench says of it.
const progress = `document.querySelector('header [aria-label=Progress]').innerText`

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
	// It stands there twice; the first of them goes.
	require.NoError(t, u.ClickOn(`[aria-label="Take P1 out"]`))
	u.click("Use this stop")
	u.see("to the meet of P1 and two G1")
	u.fill("P2 Note", "the last of the pavilion")
	u.click("Move P2 up")
	u.until(rows + ` === 'P1 P2 G1 C1 C2 C3 T'`)
	u.mentions("G1 makes that meet; cut G1 first")
	u.see("The drawing shows the last stone that could be cut.")
	u.click("Undo")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)
	u.click("Redo")
	u.until(rows + ` === 'P1 P2 G1 C1 C2 C3 T'`)
	u.click("Move P2 down")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)

	// By hand: let go once the row above has made room. An open tier is taller than the others.
	height, err := browser.Eval[float64](u.Page, `document.querySelector('input[data-name][value=P2]').getBoundingClientRect().y - document.querySelector('input[data-name][value=G1]').getBoundingClientRect().y`)
	require.NoError(t, err)
	const madeRoom = `document.querySelectorAll('[style*="translateY"]').length > 1`
	require.NoError(t, u.DragSlowly(`[aria-label^="Drag P2"]`, 0, -1.7*height, madeRoom))
	u.until(rows + ` === 'P1 P2 G1 C1 C2 C3 T'`)
	// By keyboard: for a moment after a drag no click counts, so that letting go presses nothing.
	require.NoError(t, u.Chord("z", chromedp.ModifierCtrl))
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)
	require.NoError(t, u.ClickOn("input[data-name][value=T]"))
	u.click("Remove T")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3'`)
	u.until(`!document.body.innerText.includes('Table / width')`)
	u.see("edited, not kept yet")
	u.see("draft saved")

	// What was typed is there after a reload, kept or not.
	require.NoError(t, u.Reload())
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3'`)
	u.click("Save")
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

	// An optional tier is left off to look, and the table takes its room.
	u.click("Diagrams")
	u.click("Three Sisters")
	u.mentions("cut 40 of 40")
	u.click("Look without C4")
	u.mentions("cut 34 of 34")
	u.see("left off")
	u.click("Look with C4 again")
	u.mentions("cut 40 of 40")
	u.quiet()
}

// A machine without a cheater and with coarse steps is respected by plan and bench.
func TestThePlanAndTheBenchRespectTheMachine(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/machine")
	u.fill("Index gears you own", "80")
	u.choose("Finest step of your protractor", "1°")
	u.choose("Cheater", "none")
	u.click("Save")
	u.see("Saved")

	u.click("Diagrams")
	u.click("First Light")
	u.mentions("No gear of yours fits without a cheat.")
	u.mentions("None of your gears fits without a cheat, and the machine has no cheater")
	u.click("Plan a stone")
	u.see("P2: 42.5° lies between two settings of your machine, 42° and 43°.")
	u.mentions("your machine has no cheater. Cut at whole teeth, meets open by up to")
	u.mentions("None of this machine’s gears fits without a cheat.")
	u.choose("Material", "Fluorite")
	u.until(`document.querySelector('[aria-label*="below the critical angle: light is lost"]')`)
	u.fill("Size (mm)", "oops")
	u.see("Type 0.1 to 500.")
	u.fill("Size (mm)", "10")
	u.click("Plan this stone")
	u.click("Cut it")
	u.mentions("P1 · Cut")

	// Skip, note and round.
	u.press("s")
	u.see("1 skipped")
	u.until(`document.querySelectorAll('[data-tick=disk]').length === 1`)
	u.press("n")
	u.mentions("What happened at")
	u.press("chip at the edge")
	u.press(kb.Enter)
	u.choose("Done marks", "a round at one angle")
	u.press(kb.Enter)
	u.see("11 of 219")
	u.press("?")
	u.see("Leave the bench")
	u.click("Close")
	u.press(kb.Escape)
	u.mentions("chip at the edge")
	assert.Empty(t, u.Complaints())
}

// A stop is set by pulling a tier until it clicks, once with the pointer in the
// section and once with keys alone; undo leads back, after a reload too.
func TestAStopIsSetByPullingAndByKeys(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("First Light")
	u.click("Edit a copy")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)
	stop := func(tier string) string {
		return `document.querySelector('[aria-label="` + tier + ` Stop"]')?.value`
	}
	require.NoError(t, u.ClickOn("input[data-name][value=T]"))
	u.click("Lower T by hand")
	u.until(`document.querySelectorAll('ul[aria-label^="It reaches"] button').length > 1`)
	before, err := browser.Eval[string](u.Page, stop("T"))
	require.NoError(t, err)

	// By keys: on to the next meet, and back.
	u.press("]")
	u.until(stop("T") + ` !== '` + before + `'`)
	u.see("draft saved")
	u.press("[")
	u.until(stop("T") + ` === '` + before + `'`)
	u.press("}")
	u.until(stop("T") + `.startsWith('width')`)

	// By hand, in the section: dragged down a little the table clicks into the next
	// meet; dragged on, between two meets, it stops by its width.
	u.click("Section")
	require.NoError(t, u.Drag("[data-grab]", 0, 7))
	u.until(stop("T") + `.startsWith('meet') && ` + stop("T") + ` !== '` + before + `'`)
	u.see("draft saved")
	require.NoError(t, u.Drag("[data-grab]", 0, 25))
	u.until(stop("T") + `.startsWith('width')`)
	dragged, err := browser.Eval[string](u.Page, stop("T"))
	require.NoError(t, err)
	u.see("draft saved")

	require.NoError(t, u.Reload())
	u.until(stop("T") + ` === '` + dragged + `'`)
	for range 5 {
		u.click("Undo")
	}
	u.until(stop("T") + ` === '` + before + `'`)
	u.quiet()
}

// Tiers are completed by symmetry, renamed with the stops that mention them, and
// held beside a variant.
func TestTiersAreReshapedAndVariantsCompared(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("First Light")
	u.click("More")
	u.click("Make a variant")
	u.until(rows + ` === 'P1 G1 P2 C1 C2 C3 T'`)
	u.fill("P2 Index", "8")
	u.click("What can be done with P2")
	u.click("Complete by symmetry")
	u.fill("times round the gear", "12")
	u.see("8-16-24-32-40-48-56-64-72-80-88-96")
	u.click("Complete it")
	u.until(`document.querySelector('[aria-label="P2 Index"]').value.startsWith('8-16-24')`)
	u.click("What can be done with P2")
	u.click("Rename, in stops too")
	u.fill("New name", "P9")
	u.press(kb.Enter)
	u.until(rows + ` === 'P1 G1 P9 C1 C2 C3 T'`)
	u.fill("P9 Angle °", "43")

	u.click("Save")
	u.see("Kept")
	u.click("Done editing")
	u.click("More")
	u.click("Side by side")
	u.see("Where they differ")
	u.see("P9 angle")
	u.quiet()
}

// What was cut away from the screen is ticked along the thread, by hand and by
// keys, and taken back.
func TestCatchingUpAlongTheThread(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/stones")
	u.click("Sphene")
	u.see("5 of 93 cuts")
	done := `document.querySelectorAll('[data-visit=done]').length`
	u.until(done + ` === 5`)
	u.until(`(document.querySelector('[role=slider][aria-label^="Tick off"]').focus(), document.activeElement.getAttribute('aria-valuenow') === '5')`)
	for range 3 {
		u.press(kb.ArrowRight)
	}
	u.mentions("Tick 3 cuts as done")
	u.press(kb.Enter)
	u.until(done + ` === 8`)
	u.see("8 of 93 cuts")
	u.click("Undo")
	u.until(done + ` === 5`)
	u.see("5 of 93 cuts")

	require.NoError(t, u.Drag("[data-visit=open]", 60, 0))
	u.until(`document.body.innerText.match(/Tick \d+ cuts as done/)`)
	u.click("Tick all")
	u.until(done + ` > 8`)

	// At the wheel the thread lies behind a button and a key.
	u.click("Resume")
	u.until(`document.querySelector('[data-digits=Index]')`)
	before, err := browser.Eval[string](u.Page, progress)
	require.NoError(t, err)
	u.press("c")
	u.until(`document.querySelector('[role=dialog] [role=slider]')`)
	u.until(`(document.querySelector('[role=dialog] [role=slider]').focus(), document.activeElement.getAttribute('role') === 'slider')`)
	u.press(kb.ArrowRight)
	u.press(kb.ArrowRight)
	u.mentions("Tick 2 cuts as done")
	u.press(kb.Enter)
	u.see("2 cuts ticked")
	u.click("Close")
	u.until(progress + ` !== '` + before + `'`)
	u.quiet()
}

// Where a browser keeps nothing, as in some private windows, that is said, and what
// is ticked reaches the disk all the same.
func TestTheBenchWorksWhereTheBrowserKeepsNothing(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1024, 768, app.URL+"/logbook")
	require.NoError(t, u.Before(`IDBFactory.prototype.open = () => { throw new DOMException('no', 'SecurityError') }`))
	require.NoError(t, u.Go(app.URL+"/stones"))
	u.click("Sphene")
	u.click("Resume")
	u.mentions("5 of 93")
	stone := idOf(t, u)
	before := count(eventsOf(t, app.URL, stone), "done")
	u.click("Done")
	u.see("6 of 93")
	u.mentions("This browser keeps nothing for Cressa")
	u.see("on disk")
	assert.Equal(t, before+1, count(eventsOf(t, app.URL, stone), "done"))
	u.quiet()
}
