package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// A new piece gets two flaws by hand, is searched, the search is stopped, and what it had found by then is
// chosen and becomes a plan. That is checked, mended where the check says so, and the stone is glued.
func TestFromANewPieceToAGluedStone(t *testing.T) {
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
	u.until(`document.querySelector('h1')?.innerText === 'Piece 1' && !document.querySelector('[role=dialog]')`)

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
	u.mentions("Piece 1")
	u.click("Plan this stone")
	u.see("From the rough")
	u.click("Check before gluing")
	u.mentions("The piece has room for")
	u.mentions("may stay in the stone, wherever it falls")
	u.mentions("No dop with a known size is named for the pavilion side")

	// Its way out is one key away. What suits best is taken for both sides.
	key, err := browser.Eval[string](u.Page, `[...document.querySelectorAll('button[aria-keyshortcuts]')].find((b) => b.innerText.startsWith('To the dop')).getAttribute('aria-keyshortcuts')`)
	require.NoError(t, err)
	u.press(key)
	u.mentions("Grind a flat")
	for _, side := range []string{"For the pavilion", "For the crown"} {
		u.click(side)
		u.until(`document.querySelector('[aria-label=Dop] [aria-pressed=true]')`)
		u.click("Take these into the plan")
		u.until(`[...document.querySelectorAll('[aria-label=Dop] [aria-pressed=true]')].some((b) => b.innerText.includes('in the plan'))`)
	}
	u.click("Check before gluing")
	u.mentions("the lap stays")
	u.click("Gone through, go on")
	u.click("For the pavilion")
	u.fill("How the long axis was set", "flat on the lap at 90")
	u.fill("Cures for", "45")
	u.click("It is glued")
	u.mentions("It cures until")
	u.until(`!document.querySelector('[data-waiting]:not([data-waiting="0"])')`)

	// A clock and the cure are told on Today, in a page that was closed meanwhile.
	u.until(`(document.querySelector('[aria-label^="Start "]')?.click(), document.querySelector('[role=timer]'))`)
	require.NoError(t, u.Go(app.URL))
	u.mentions("Clocks")
	u.mentions("cures until")
	u.click("1 ·")
	u.mentions("gone through before gluing")
	u.mentions("flat on the lap at 90")
	u.quiet()
}

// A piece is judged by its sizes alone, and by its solid, without a mouse; a saw cut's offcut becomes a
// piece that leads back.
func TestAnEstimateByKeyboardAndAnOffcut(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL)
	u.see("Today")
	u.press("2")
	u.mentions("Mixed tin")
	u.press("n")
	u.until(`document.querySelector('[role=dialog]')`)
	to := func(name string) {
		t.Helper()
		const named = `(document.activeElement.labels?.[0]?.innerText ?? document.getElementById(document.activeElement.getAttribute('aria-labelledby')?.split(' ')[0])?.innerText ?? document.activeElement.innerText)`
		for range 40 {
			u.press(kb.Tab)
			if at, err := browser.Eval[string](u.Page, named+" ?? ''"); err == nil && at == name {
				return
			}
		}
		t.Fatalf("%q is not reached by the Tab key", name)
	}
	to("Material")
	u.press(kb.Enter)
	u.until(`document.querySelector('[role=listbox]')`)
	u.press("Peri")
	u.press(kb.Enter)
	u.until(`!document.querySelector('[role=listbox]')`)
	for field, figure := range map[string]string{"Length": "16", "Width": "12", "Depth": "9"} {
		to(field)
		u.press(figure)
	}
	to("Outline")
	u.press(kb.Enter)
	u.until(`document.querySelector('[role=listbox]')`)
	u.press("oval")
	u.press(kb.Enter)
	u.mentions("the depth")
	u.mentions("of the piece.")
	to("Put it in")
	u.press(kb.Enter)
	u.until(`document.querySelector('h1')?.innerText === 'Piece 9' && !document.querySelector('[role=dialog]')`)

	u.click("Add a saw cut")
	u.mentions("fall off")
	u.click("Save")
	u.mentions("Piece 9 is saved")
	u.click("Keep the offcut")
	u.mentions("The offcut is piece 10")
	u.click("Piece 10")
	u.mentions("Sawn off")
	u.click("Piece 9")
	u.until(`document.querySelector('h1')?.innerText === 'Piece 9'`)
	u.quiet()
}

// A flaw is placed by two looks and shows in the face; a changed diagram becomes a candidate; the search for two
// stones is stopped, and a saw cut that it had found by then is taken.
func TestLookedThroughChangedAndSawn(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/rough")
	u.click("Piece 1 · the olive block")
	u.mentions("Light, in its colour")
	u.click("Mark by two looks")
	const piece = "svg[role=application]"
	u.click("It lies in a liquid")
	require.NoError(t, u.ClickOn(piece))
	u.mentions("from another side")
	require.NoError(t, u.ClickOn(piece))
	u.mentions("almost the same side")
	require.NoError(t, u.Drag(piece, 150, 10))
	require.NoError(t, u.ClickOn(piece))
	u.mentions("The flaw is placed")
	u.choose("It must", "may stay")
	u.mentions("Flaw 3")
	u.until(`[...document.querySelectorAll('section')].some((s) => /Flaw 3\s+seen/.test(s.innerText))`)
	u.click("Save")
	u.mentions("Piece 1 is saved")
	require.NoError(t, u.Reload())
	u.until(`document.querySelector('[aria-label^="Flaw 3:"]')`)

	u.click("Change it to fit")
	u.click("Try changes")
	u.mentions("With tiers left off")
	u.until(`[...document.querySelectorAll('button')].some((b) => b.innerText === 'Try again')`)
	u.until(`((b) => (b?.click(), b?.getAttribute('aria-pressed') === 'true'))([...document.querySelectorAll('button')].find((b) => b.innerText.includes('heaviest')))`)
	u.click("Keep it as a candidate")
	u.until(`[...document.querySelectorAll('[role=listitem]')].some((c) => c.innerText.includes('Meridian, pavilion'))`)

	u.click("Two stones")
	u.click("Look for saw cuts")
	u.until(`document.querySelector('[role=listitem]')`)
	u.click("Stop")
	u.mentions("Saw cuts through the flaws")
	u.click("Take saw cut 1")
	u.mentions("The saw cut is in piece 1")
	u.until(`document.querySelector('[aria-label^="Saw cut 1:"]')`)
	u.quiet("/api/rough/sightings")
}
