package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// A stone that was finished here is recut: it gets a work of its own, the first one stays as
// it was, and the logbook has both.
func TestAFinishedStoneIsRecut(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/logbook")
	u.click("1 · Practice for the school class")
	u.click("Recut it")
	u.click("To any diagram, planned anew")
	u.see("Recut to which diagram?")
	u.click("Ecliptic")
	u.see("Recut 1 · Practice for the school class")
	u.fill("Size (mm)", "30")
	u.click("Plan this recut")
	u.mentions("the stone weighs 4.29 ct. Plan it smaller.")
	u.fill("Size (mm)", "9")
	u.fill("What for", "The table is worn")
	u.click("Plan this recut")
	u.see("Before the recut")
	u.see("The table is worn")
	u.click("Cut it")
	u.until(`document.querySelector('[data-done]')`)
	u.press(kb.Enter)
	u.see("1 of 219")
	u.see("on disk")
	u.press(kb.Escape)
	u.see("1 of 219 cuts")
	u.click("First cut")
	u.mentions("This is earlier work on the stone")
	u.see("Progress")
	u.click("Go to the present work")
	u.see("Before the recut")
	u.click("Finish it")
	u.click("Keep the card")
	u.see("Correct the card")
	require.NoError(t, u.Go(app.URL+"/logbook"))
	u.see("Ecliptic · Recut")
	// Both works of the stone stand there, the newest first.
	require.NoError(t, u.ClickOn(`main a[href*="/stones/"]`))
	u.see("What was done to this stone")
	u.quiet("422")
}

// A stone that was finished here comes back for repair, with its number and its past.
func TestAFinishedStoneComesBack(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/logbook")
	u.click("3 · Gift for the meridian room")
	u.click("It came back")
	u.see("3 · Gift for the meridian room came back")
	u.fill("Damage", "A corner is chipped")
	u.click("Take it in")
	u.see("To the bench")
	u.see("A corner is chipped")
	u.click("First cut")
	u.mentions("This is earlier work on the stone")
	u.see("Progress")
	u.quiet()
}
