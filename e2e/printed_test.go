package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// printed is a sheet as somebody mails it: no stop for the table, no mark of the parts.
const printed = `Evening Gift   96 index   1.54
P1  43.5°  03-09-15-21-27-33-39-45-51-57-63-69-75-81-87-93  cut to a center point
G1  90°    same indexes   to size
P2  41°    96-12-…-84   to meet P1/G1 corner
C1  42°    3-9-…-93    set girdle thickness 0.3
C2  36°    every 12 from 96   meet at girdle
C3  22°    06-18-30-42-54-66-78-90  to meet C1/C2 corner
Table 0`

// A printed sheet, a half-degree machine with gears of 64 and 80, topaz at 8 mm: to the first facet
// with every suggestion taken, and few presses.
func TestFromAPrintedSheetToTheFirstFacet(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL+"/")
	u.see("Four questions about your machine")
	u.fill("Index gears you own", "64 80")
	u.choose("Finest step of your protractor", "0.5°")
	u.click("Save")
	u.until(`!document.body.innerText.includes('Four questions')`)
	require.NoError(t, u.Go(app.URL+"/diagrams/import"))
	u.fill("Paste a table", printed)

	actions := 0
	act := func(do func()) {
		actions++
		do()
	}
	act(func() { u.click("Read it") })
	u.mentions("0.30 mm, 3.75 % of the width")
	u.mentions("One tier has no stop")
	act(func() { u.click("Find the stops") })
	u.until(`document.querySelectorAll('[role=dialog] polygon').length > 20`)
	act(func() { u.click("Take these stops") })
	u.until(`!document.body.innerText.includes('has no stop')`)
	act(func() { u.click("Add it to the library") })
	act(func() { u.click("Plan a stone") })
	act(func() { u.choose("Material", "Topaz") })
	u.mentions("1.609")
	act(func() { u.click("Fit to my machine and stone") })
	u.mentions("Angles your machine cannot set")
	u.until(`!document.querySelector('[role=dialog] [role=progressbar]')`)
	u.mentions("Gear")
	act(func() { u.click("Take it") })
	u.mentions("Evening Gift for topaz")
	u.until(`!document.querySelector('[role=dialog]')`)
	act(func() { u.click("Plan this stone") })
	act(func() { u.click("Cut it") })
	u.mentions("P1 · Cut")
	digits, err := browser.Eval[string](u.Page, `[...document.querySelectorAll('[data-digits]')].map((e) => e.textContent).join(' ')`)
	require.NoError(t, err)
	assert.Contains(t, digits, "43.5", "the protractor sets it")
	assert.Regexp(t, `\b2\b`, digits, "the first of 3 on 96 is 2 on 64")
	assert.LessOrEqual(t, actions, 15)
	u.quiet()
}
