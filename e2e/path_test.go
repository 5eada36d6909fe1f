package e2e_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

func TestFromAnEmptyFolderToTheFirstFacetInEightActions(t *testing.T) {
	t.Parallel()
	app := start(t, "serve", "--data", t.TempDir())
	u := open(t, 1280, 800, app.URL)
	u.see("Four questions about your machine")
	u.click("Skip for now")
	u.click("First Light")
	u.click("Plan this stone")
	u.click("Cut it")
	u.until(`document.querySelector('[data-digits=Index]')?.innerText === '4'`)
	u.until(`document.querySelector('[data-digits=Angle]').innerText.replace(/\s/g, '') === '44°'`)
	u.see("to a centre point")
	assert.LessOrEqual(t, u.actions, 8)
	u.quiet()
}

// sheet is a sheet of seven tiers exactly as it is printed: name, angle, indexes, stop.
var sheet = [][4]string{
	{"P1", "43", "03-09-15-21-27-33-39-45-51-57-63-69-75-81-87-93", "cut to a center point"},
	{"G1", "90°", "same indexes", "to size"},
	{"P2", "41.2", "96-12-…-84", "to meet P1/G1 corner"},
	{"C1", "40", "as P1", "set girdle thickness 2 %"},
	{"C2", "34.5", "every 12 from 96", "meet at girdle"},
	{"C3", "20", "06-18-30-42-54-66-78-90", "to meet C1/C2 corner"},
	{"T", "0", "", "to meet C2/C3 corner"},
}

// A printed sheet is typed in, planned, cut with a reload and a killed server in the
// middle, turned over, and finished into the logbook. Every tick arrives once.
func TestASheetFromPaperToTheLogbook(t *testing.T) {
	t.Parallel()
	data := t.TempDir()
	app := start(t, "serve", "--data", data)
	u := open(t, 1280, 800, app.URL+"/diagrams")
	typeSheet(u)
	u.click("Save")
	u.see("Kept")
	u.click("Plan a stone")
	u.mentions("Calipers read G1")
	u.fill("For whom, or what", "Paper round")
	u.choose("Material", "Aquamarine")
	u.fill("Size (mm)", "9")
	u.see("until the girdle is 0.18 mm")
	u.click("Plan this stone")
	u.click("Cut it")
	u.mentions("P1 · Cut")
	stone := idOf(t, u)

	// Facet by facet with the keyboard, then the rest of the tier at once.
	u.press(kb.Enter)
	u.see("1 of 219")
	u.see("+6 → 9")
	u.press(kb.Enter)
	u.see("2 of 219")
	u.click("Back")
	u.see("1 of 219")
	u.choose("Done marks", "a whole tier")
	u.click("Done")
	u.see("16 of 219")
	u.until(`document.querySelectorAll('[data-tick=disk]').length === 16`)

	// A reload resumes exactly where it was.
	require.NoError(t, u.Reload())
	u.see("16 of 219")
	u.mentions("G1 · Cut")
	u.choose("Done marks", "a whole tier")

	// The server is killed; cutting goes on, the ticks stay hollow.
	require.NoError(t, app.Kill())
	u.click("Done")
	u.see("32 of 219")
	u.until(`document.querySelectorAll('[data-tick=held]').length === 16`)
	u.click("Done")
	u.mentions("Cressa is away. Cut on: 24 entries wait")
	again, err := running.Start(binary, app.URL, "serve", "--data", data)
	require.NoError(t, err)
	t.Cleanup(func() { _ = again.Kill() })
	u.until(`!document.body.innerText.includes('Cressa is away')`)

	// The rest of the first side in its three passes, the transfer, the other side.
	finishSide(u)
	u.see("Turn the stone over")
	u.click("Glue the side that is up now to")
	u.click("Transfer done")
	u.mentions("C1 · Cut")
	finishSide(u)
	u.see("Fit the table adapter")
	u.click("The table sits level")
	finishSide(u)
	u.click("The adapter is off")
	u.see("Every facet is cut")
	u.see("on disk")

	events := eventsOf(t, app.URL, stone)
	assert.Equal(t, 219, count(events, "done")-count(events, "undo"), "every tick once")
	assert.Equal(t, 1, count(events, "transfer"))

	u.click("Write the logbook card")
	u.fill("Rough weight (ct)", "10")
	u.fill("Finished weight (ct)", "2,5")
	u.see("25.0 %")
	u.fill("Width (mm)", "8.98")
	u.click("Keep the card")
	u.see("Logbook card")
	u.click("Logbook")
	u.mentions("Paper round")
	u.mentions("2.50 ct")
	u.quiet("ERR_CONNECTION_REFUSED")
}

func typeSheet(u *user) {
	u.t.Helper()
	u.click("Type a new one")
	u.mentions("Type the sheet as it is printed")
	u.fill("Name", "Paper Round")
	for i, row := range sheet {
		if i == 0 {
			u.click("Add a tier")
		} else {
			// Enter in the last row makes the next one and goes to its name.
			u.press(kb.Enter)
		}
		u.until(`document.querySelectorAll('input[data-name]').length === ` + string(rune('1'+i)))
		u.until(`document.activeElement === [...document.querySelectorAll('input[data-name]')].at(-1)`)
		require.NoError(u.t, u.Chord("a", chromedp.ModifierCtrl))
		u.press(row[0])
		for k, field := range []string{"Angle °", "Index", "Stop"} {
			if row[k+1] != "" {
				u.fill(row[0]+" "+field, row[k+1])
			}
		}
	}
	u.see("draft saved")
	u.until(`document.querySelectorAll('polygon').length > 40`)

	// A mistake is told at its tier, and the last good stone stays.
	u.fill("C2 Stop", "meet C1 C1 G9")
	u.mentions("The stop names G9, and no tier is called so")
	u.see("The drawing shows the last stone that could be cut.")
	u.until(`document.querySelectorAll('polygon').length > 40`)
	require.NoError(u.t, u.Chord("z", chromedp.ModifierCtrl))
	u.until(`!document.body.innerText.includes('G9')`)
}

// finishSide ticks tier by tier until the side is done.
func finishSide(u *user) {
	u.t.Helper()
	for range 40 {
		more, err := browser.Eval[bool](u.Page, `!!document.querySelector('[data-digits=Index]')`)
		require.NoError(u.t, err)
		if !more {
			return
		}
		before, err := browser.Eval[string](u.Page, progress)
		require.NoError(u.t, err)
		u.press(kb.Enter)
		u.until(progress + ` !== '` + before + `'`)
	}
	u.t.Fatal("the side does not come to an end")
}

func idOf(t *testing.T, u *user) string {
	t.Helper()
	u.until(`location.pathname.startsWith("/bench/")`)
	path, err := browser.Eval[string](u.Page, "location.pathname")
	require.NoError(t, err)
	return strings.TrimPrefix(path, "/bench/")
}

type event struct {
	Seq  int64  `json:"seq"`
	ID   string `json:"id"`
	Kind string `json:"kind"`
}

func eventsOf(t *testing.T, url, stone string) []event {
	t.Helper()
	var script scriptOfStone
	fetch(t, url+"/api/stones/"+stone+"/script", &script)
	var out []event
	for after := int64(0); ; {
		var log struct {
			Events []event
			More   bool
		}
		fetch(t, fmt.Sprintf("%s/api/works/%s/events?after=%d", url, script.WorkID, after), &log)
		out = append(out, log.Events...)
		if !log.More {
			return out
		}
		after = out[len(out)-1].Seq
	}
}

func count(events []event, kind string) int {
	n := 0
	for _, e := range events {
		if e.Kind == kind {
			n++
		}
	}
	return n
}
