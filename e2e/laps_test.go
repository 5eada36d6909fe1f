package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A girdle that is not polished, a table that starts finer and goes through its laps at one setting of
// the adapter, and facets that were skipped: they are found again at the end of the pass, on Today and
// at the end.
func TestTheTableAtOneSettingAndSkippedFacetsFoundAgain(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1024, 768, app.URL+"/diagrams")
	u.click("Little Dipper")
	u.click("Plan a stone")
	u.choose("Material", "Peridot")
	u.until(`document.querySelectorAll('[role=group][aria-label=Passes] input')[8].value === 'alumina 0.3 µm'`)
	u.click("Girdle: Polish")
	u.click("Table: Cut")
	u.until(`document.querySelector('input[aria-label="Table: Cut"]').checked === false`)
	u.click("Plan this stone")
	u.click("Cut it")
	u.see("First facet of this side")
	stone := idOf(t, u)

	// 24 facets in three passes, but for eight of the girdle and one of the table. The third is skipped.
	u.until(`document.querySelector('[data-touch]') !== null`)
	u.press(kb.Enter)
	u.press(kb.Enter)
	u.press("s")
	u.see("2 of 66")
	u.see("1 skipped")
	u.choose("Done marks", "a whole tier")
	// How much Done marks survives a reload.
	require.NoError(t, u.Reload())
	u.click("Done: tier of 5")
	u.click("Done: tier of 8")
	u.see("End of Cut · 600")
	u.see("1 facet was skipped")
	u.click("Go on without")
	u.see("until the 600 scratches are gone; hold the centre point")
	u.see("on disk")

	// Today has the way to it.
	u.press(kb.Escape)
	u.click("Today")
	u.click("1 skipped")
	u.click("Cut it now: P1 at 36 · Cut · 600")
	u.see("A facet that was skipped. Done marks this one alone.")
	u.see("to a centre point")
	u.press(kb.Enter)
	u.see("16 of 66")
	u.until(`!document.body.innerText.includes('1 skipped')`)

	finishSide(u)
	u.click("Transfer done")
	finishSide(u)
	u.see("Fit the table adapter")
	u.click("Fit the adapter and lock the dop")
	u.click("The table sits level")
	u.mentions("T · Pre-polish · 3000")
	u.mentions("with the table adapter")
	u.press(kb.Enter)
	u.mentions("T · Polish · tin · alumina 0.3 µm")
	u.see("until the 3000 scratches are gone; hold the table's width")
	u.press("s")
	u.click("The adapter is off")
	u.see("Every pass is through")
	u.click("Cut it now: T at 96 · Polish · tin · alumina 0.3 µm")
	u.press(kb.Enter)
	// It was on the adapter once more.
	u.click("The adapter is off")
	u.see("Every facet is cut")
	u.see("on disk")
	events := eventsOf(t, app.URL, stone)
	assert.Equal(t, 66, count(events, "done"))
	assert.Equal(t, 2, count(events, "skip"))
	u.quiet()
}
