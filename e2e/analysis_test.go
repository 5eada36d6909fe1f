package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/polyhedron"
	"cressa/e2e/browser"
	"cressa/formats"
)

// tiersTyped are the names in the editor, in their order.
const tiersTyped = `[...document.querySelectorAll('input[data-name]')].map((i) => i.value).join(' ')`

// A tier that asks for a meet that is not there yet: told where it stands, mended with
// one action that shows both orders, and undone.
func TestAWrongOrderIsMended(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("Three Sisters")
	u.click("Edit a copy")
	u.see("draft saved")
	require.NoError(t, u.ClickOn("input[data-name][value=P2]"))
	u.click("Move P2 up")
	u.click("Move P2 up")
	u.mentions("makes that meet")
	u.click("Mend the order")
	u.mentions("It cannot be cut as written")
	u.until(`document.querySelectorAll('[role=dialog] section[aria-label=Better] [data-tier=P2] polygon').length > 0`)
	u.until(`document.querySelectorAll('[role=dialog] section[aria-label="As written"] [data-tier=P1] polygon').length > 0`)
	u.click("Take this order")
	u.until(tiersTyped + `.startsWith('P1 G1 G2 P2 P3 ')`)
	u.until(`!document.body.innerText.includes('Not cuttable as written')`)
	// The one that is offered in passing.
	require.NoError(t, u.ClickOn(`[role=alert] button`))
	u.until(tiersTyped + `.startsWith('P1 P2 G1 G2 P3 ')`)
	u.mentions("Not cuttable as written")
	u.click("Redo")
	u.until(tiersTyped + `.startsWith('P1 G1 G2 P2 P3 ')`)

	// Typed without its instruction, a tier still says by its angle where it stops.
	u.fill("P2 Stop", "")
	u.click("Find the stops")
	u.mentions("Found from the angles")
	u.click("Stone 1")
	u.click("Take these stops")
	u.until(`document.querySelector('[aria-label="P2 Stop"]').value === 'meet P1 G1 G2'`)
	u.see("draft saved")
	u.click("Cutting order")
	u.mentions("It can be cut as written, and no order is better")
	u.mentions("C4 can be left off")
	u.click("Close")

	// What was left in a wrong order says so on its page too.
	require.NoError(t, u.ClickOn("input[data-name][value=P2]"))
	u.click("Move P2 up")
	u.click("Move P2 up")
	u.mentions("makes that meet")
	u.click("Done editing")
	u.see("Before you cut it")
	u.click("Mend the order")
	u.click("Take this order")
	u.see("draft saved")
	u.until(tiersTyped + `.startsWith('P1 G1 G2 P2 P3 ')`)
	u.click("Undo")
	u.until(tiersTyped + `.startsWith('P1 P2 G1 G2 P3 ')`)
	u.quiet()
}

// A sheet that prints angles and indexes and no instruction: its stops are found as it
// comes in, among a few stones to choose from.
func TestASheetWithoutInstructionsGetsItsStops(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/diagrams/import")
	u.fill("Paste a table", "Evening Lantern, 96 index, R.I. 1.54\nP1 43 every 12 from 6\nG1 90 every 12 from 6\nP2 41.5 every 12 from 96\nC1 36 every 12 from 6\nC2 24 every 12 from 96\nT 0 96")
	u.click("Read it")
	u.mentions("6 tiers have no stop")
	u.click("Find the stops")
	u.mentions("Found from the angles")
	u.click("Stone 1")
	u.until(`document.querySelectorAll('[role=dialog] polygon').length > 20`)
	u.click("Take these stops")
	u.until(`!document.body.innerText.includes('have no stop')`)
	u.click("Add it to the library")
	u.see("On your gears")
	u.see("to a centre point")
	u.quiet()
}

// Angles that no protractor shows: rounded at what costs least, looked at under the
// loupe, moved to another material and kept beside their origin.
func TestAnglesAreRoundedAndMoved(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("Parallax")
	u.see("On your gears")
	u.click("Angles")
	u.see("What rounding opens")
	cell := func(row int) float64 {
		v, err := browser.Eval[float64](u.Page, `parseFloat([...document.querySelectorAll('section[aria-label="What rounding opens"] tbody tr')][`+string(rune('0'+row))+`].cells[1].textContent)`)
		require.NoError(t, err)
		return v
	}
	assert.Less(t, cell(0), cell(1), "the search finds better neighbours than the nearest")
	u.click("Loupe")
	u.mentions("the widest first")
	u.until(`document.querySelectorAll('[role=dialog] svg polygon').length > 8`)
	const gap = `[...document.querySelectorAll('[role=dialog] p, [role=dialog] span')].map((e) => e.textContent).find((s) => /^gap .* residual/.test(s))`
	u.until(`!` + gap + `.startsWith('gap 0 ')`)
	u.click("Close")
	u.choose("Round to", "not at all")
	u.mentions("Every meet holds")

	u.choose("Material", "Aquamarine")
	u.mentions("Pavilion ×")
	u.choose("Margin", "chosen")
	u.fill("Margin", "400")
	u.mentions("Type -20 to 40")
	u.fill("Margin", "2")
	u.choose("Crown", "moves with the pavilion")
	u.choose("Round to", "0.1°, your protractor")
	u.until(`document.body.innerText.includes('What rounding opens')`)
	u.click("Keep as a variant")
	u.see("n 1.564")
	u.until(`[...document.querySelectorAll('tbody tr')].some((r) => /^P2/.test(r.innerText) && /\b41\.\d°/.test(r.innerText))`)
	u.quiet()
}

// A die that somebody drew becomes tiers about the axis that is chosen, with cheats; what
// is no solid says why.
func TestADieFromAMesh(t *testing.T) {
	t.Parallel()
	shape, err := polyhedron.Rule{Kind: polyhedron.Octahedron, Pose: polyhedron.CornerUp}.Shape()
	require.NoError(t, err)
	dir := t.TempDir()
	die, letter := filepath.Join(dir, "Raffle eight.stl"), filepath.Join(dir, "letter.obj")
	require.NoError(t, os.WriteFile(die, formats.WriteSTL("die", shape.Solid, 16), 0o600))
	require.NoError(t, os.WriteFile(letter, []byte("Dear Ines,\nthe die is in the other mail."), 0o600))

	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/diagrams/import")
	require.NoError(t, u.Upload(letter))
	u.mentions("This is no OBJ, STL or PLY file")
	require.NoError(t, u.Upload(die))
	u.see("How it is held")
	u.mentions("16 wide")
	u.until(`document.querySelectorAll('tbody tr').length === 2`)
	u.choose("Up", "face 1: 3 corners, 12.5 % of the surface")
	u.until(`document.querySelectorAll('tbody tr').length === 4`)
	u.click("Add it to the library")
	u.see("from Raffle eight.stl")
	u.click("Plan a stone")
	u.see("Plan this stone")

	require.NoError(t, u.Go(app.URL+"/diagrams"))
	u.click("Die or prism")
	u.choose("Solid", "trapezohedron")
	u.fill("Sides", "2")
	u.see("Type a whole number from 3 to 60.")
	u.fill("Sides", "5")
	u.fill("Name", "Ten for the raffle")
	u.until(`document.querySelectorAll('[role=dialog] polygon').length > 4`)
	u.click("Add to the library")
	u.see("from a solid by rule")
	u.quiet("422")
}

// What the machine's own errors do is reckoned while one looks on, can be stopped, and
// says whether rounding would be noticed.
func TestMachineErrorIsReckonedAndStopped(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("Parallax")
	u.see("On your gears")
	u.click("Machine error")
	u.choose("Stones", "16000")
	u.click("Run")
	u.mentions("of 16000 stones")
	u.click("Stop")
	u.mentions("Stopped before the end")
	u.choose("Stones", "500")
	u.click("Run")
	u.see("Which tier matters at the worst meet")
	u.see("no, the machine’s own error is larger")
	u.see("yes")
	require.NoError(t, u.ClickOn("[data-ring='2']"))
	u.until(`document.querySelector('[data-ring="2"]').getAttribute('aria-pressed') === 'true'`)

	u.choose("Stones", "16000")
	u.click("Run")
	u.mentions("of 16000 stones")
	require.NoError(t, app.Kill())
	u.mentions("Cressa does not answer")
	u.quiet("ERR_")
}
