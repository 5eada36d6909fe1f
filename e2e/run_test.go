package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// Three stones from one plan are cut tier by tier; taking back leads to the stone
// that was cut last; one sheet has a box for each.
func TestARunOfThreeIsCutTierByTier(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1024, 768, app.URL+"/diagrams")
	u.click("Little Dipper")
	u.click("Plan a stone")
	u.fill("For whom, or what", "Door prizes")
	u.fill("How many", "3")
	u.click("Plan 3 stones")
	u.see("Run: Door prizes")
	u.mentions("number 3 of a run")
	u.click("Cut the run")
	u.mentions("Stone 1 of 3")
	u.choose("Done marks", "a whole tier")
	u.press(kb.Enter)
	u.mentions("Stone 2 of 3")
	u.mentions("P1 · Cut")
	u.choose("Done marks", "a whole tier")
	u.press(kb.Enter)
	u.mentions("Stone 3 of 3")
	u.press(kb.Backspace)
	u.mentions("Stone 2 of 3")
	u.until(progress + `.startsWith('7 of')`)
	u.press(kb.Enter)
	u.mentions("Stone 3 of 3")
	u.choose("Done marks", "a whole tier")
	u.press(kb.Enter)
	// The second tier begins with the first stone again; a reload finds the same place.
	u.mentions("Stone 1 of 3")
	u.mentions("G1 · Cut")
	u.see("on disk")
	require.NoError(t, u.Reload())
	u.mentions("Stone 1 of 3")
	u.mentions("G1 · Cut")

	u.press(kb.Escape)
	u.see("Hours shared out")
	u.until(`[...document.querySelectorAll('table tbody tr')].every((r) => r.innerText.includes('8 of'))`)
	u.click("One sheet")
	u.until(`document.querySelector('.sheet-pages img')?.naturalWidth > 100`)
	u.quiet()
}
