package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// A new piece gets two flaws by hand, is searched, the search is stopped, and what it had found by then is
// chosen and becomes a plan.
func TestFromANewPieceToAPlan(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL)
	u.see("Today")
	u.press("2")
	u.mentions("Pieces of rough belong here")
	u.press("n")
	u.see("Put a piece in")
	u.choose("Material", "Peridot")
	u.choose("Shape", "Block")
	for field, figure := range map[string]string{"Length": "15", "Width": "11", "Depth": "8"} {
		u.fill(field, figure)
	}
	// What the scales say is held against the solid.
	u.fill("Weight", "12")
	u.mentions("84 % more than the 12.00 ct on the scales")
	u.fill("Weight", "22")
	u.click("Put it in")
	u.see("Piece 1")
	u.until(`!document.querySelector('[role=dialog]')`)

	const piece = "svg[role=application]"
	u.press("f")
	u.mentions("Click where you see it")
	require.NoError(t, u.ClickOn(piece))
	u.fill("Name", "veil")
	u.choose("Form", "flat")
	require.NoError(t, u.Drag("[aria-label^='veil:']", -90, 20))
	u.until(`Math.abs(document.querySelector('[role=group][aria-label=Place] input').value) > 1`)
	u.press("f")
	require.NoError(t, u.ClickOn(piece))
	u.until(`document.querySelector('[aria-label^="Flaw 2:"]')`)
	u.choose("It must", "may stay")
	u.mentions("not saved yet")
	u.until(`[...document.querySelectorAll('button')].find(b => b.innerText === 'Find stones').disabled`)
	u.click("Save")
	u.mentions("Piece 1 is saved")

	u.click("Find stones")
	u.until(`document.querySelector('[role=listitem]')`)
	u.click("Stop")
	u.mentions("Stopped. What was found stays.")
	require.NoError(t, u.Reload())
	u.until(`document.querySelector('[role=listitem] svg polygon')`)
	u.fill("Reasons", "keeps the veil out")
	u.click("Choose it")
	u.mentions("is chosen")
	require.NoError(t, u.Reload())
	u.until(`[...document.querySelectorAll('textarea')].some((t) => t.value === 'keeps the veil out')`)
	u.click("Plan this stone")
	u.mentions("Calipers read")
	u.until(`document.querySelector('[role=combobox][value=Peridot], input[value=Peridot]') || document.body.innerText.includes('Peridot')`)
	u.quiet()
}
