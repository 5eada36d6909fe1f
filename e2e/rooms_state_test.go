package e2e_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

const changedElsewhere = "This was changed elsewhere after you opened it"

// renameElsewhere gives a draft another name, as another page does.
func renameElsewhere(t *testing.T, url, diagram, name string) {
	t.Helper()
	at := url + "/api/diagrams/" + diagram
	var page struct {
		Draft   map[string]any
		Version int
	}
	fetch(t, at, &page)
	page.Draft["name"] = name
	send(t, http.MethodPut, at+"/draft", map[string]any{"draft": page.Draft, "version": page.Version})
}

// id is that of the record whose page is open.
func (u *user) id() string {
	u.t.Helper()
	id, err := browser.Eval[string](u.Page, `location.pathname.split('/')[2]`)
	require.NoError(u.t, err)
	return id
}

func (u *user) back() {
	u.t.Helper()
	_, err := browser.Eval[bool](u.Page, `history.back(), true`)
	require.NoError(u.t, err)
}

// A room is entered at its heading, and Back returns to where one was.
func TestARoomIsEnteredAtItsHeadingAndLeftWhereItWas(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	focused := func(text string) {
		u.until(fmt.Sprintf(`document.activeElement.matches('h1') && document.activeElement.innerText === %q`, text))
	}
	u.click("Stones")
	focused("Stones")
	u.click("Diagrams")
	focused("Diagrams")

	const scrolled = `[...document.querySelectorAll('*')].reduce((most, e) => Math.max(most, e.scrollTop), 0)`
	u.click("Ecliptic")
	focused("Ecliptic")
	u.until(scrolled + ` === 0`)
	u.back()
	u.see("Ecliptic")
	u.until(scrolled + ` > 200`)
	before, err := browser.Eval[float64](u.Page, scrolled)
	require.NoError(t, err)
	// From there by keyboard alone, and back by the browser's own key.
	u.click("Ecliptic")
	u.until(scrolled + ` === 0`)
	u.back()
	u.until(fmt.Sprintf(`%s === %v`, scrolled, before))
	u.quiet()
}

// What was changed elsewhere is said in every place that writes, and can then be done.
func TestAStaleAnswerIsSaidWhereverItComes(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	// Keeping a version: the other draft comes in, and is kept after a look at it.
	u.click("First Light")
	u.click("Edit a copy")
	u.see("draft saved")
	u.fill("P1 Angle °", "43.1")
	u.until(`document.body.innerText.includes('not saved yet') || document.body.innerText.includes('saving')`)
	u.see("draft saved")
	u.click("Done editing")
	u.see("On your gears")
	diagram := u.id()
	renameElsewhere(t, app.URL, diagram, "First Light of theirs")
	u.click("Save")
	u.mentions(changedElsewhere)
	u.see("First Light of theirs")
	u.click("Save")
	u.see("Kept")

	// Taking other angles into the draft: both are shown, and mine is kept.
	u.click("Angles")
	u.choose("Material", "Aquamarine")
	u.mentions("Pavilion ×")
	renameElsewhere(t, app.URL, diagram, "First Light once more")
	u.click("Take into the draft")
	u.see("Changed in two places")
	u.mentions("First Light once more")
	u.click("Keep what is on this screen")
	u.see("draft saved")
	u.until(`document.querySelector('[aria-label="P1 Angle °"]').value !== '43.1'`)

	// Giving a repair back.
	require.NoError(t, u.Go(app.URL+"/stones"))
	u.click("Ring stone with a chip")
	u.click("Return to owner")
	u.fill("Weight now", "2.5")
	stone := u.id()
	send(t, http.MethodPut, app.URL+"/api/stones/"+stone+"/finish", map[string]any{
		"roughCarats": 0, "finishedCarats": 2.4, "widthMM": 0, "lengthMM": 0, "heightMM": 0, "started": "", "finished": "2026-03-01",
		"hours": nil, "notes": "The chip is out", "version": 0, "saved": "2026-03-01T10:00:00Z",
	})
	u.click("Return to owner")
	u.see("Changed in two places")
	u.mentions("The chip is out")
	u.click("Take what was saved elsewhere")
	u.mentions("2.40 ct")
	u.quiet("409")
}

// Rooms are reached by their numbers, until those are switched off for good.
func TestKeysOfOneCharacterCanBeSwitchedOff(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL)
	room := func(title string) { u.until(fmt.Sprintf(`document.querySelector('h1')?.innerText === %q`, title)) }
	room("Today")
	for key, title := range map[string]string{"2": "Rough", "3": "Diagrams", "4": "Stones", "5": "Logbook", "6": "Kit", "1": "Today"} {
		u.press(key)
		room(title)
	}
	// What is typed into a field is no key.
	u.press("4")
	room("Stones")
	u.fill("Number, name, diagram or material", "214")
	u.until(`location.search === '?text=214'`)
	room("Stones")

	_, err := browser.Eval[bool](u.Page, `document.activeElement.blur(), true`)
	require.NoError(t, err)
	u.press("?")
	u.see("Keys of this screen")
	u.click("Keys of a single character")
	u.click("Close")
	u.until(`!document.querySelector('[role=dialog]')`)
	require.NoError(t, u.Reload())
	room("Stones")
	u.press("5")
	u.press("?")
	u.click("Keys of this screen")
	u.see("Keys of this screen")
	room("Stones")
	u.click("Keys of a single character")
	u.click("Close")
	u.until(`!document.querySelector('[role=dialog]')`)
	u.press("5")
	room("Logbook")
	u.quiet()
}

// From the library to the first tick at the bench without a mouse.
func TestAStoneIsPlannedAndBegunByKeyboardAlone(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL)
	u.see("Today")
	// to goes on to what is called so, or back, as somebody does who hears the names.
	to := func(name string, held ...chromedp.Modifier) {
		t.Helper()
		here := fmt.Sprintf(`((e) => (e.getAttribute('aria-label') ?? e.innerText ?? '').trim().startsWith(%q) || [...(e.labels ?? [])].some((l) => l.innerText === %[1]q))(document.activeElement)`, name)
		for range 80 {
			found, err := browser.Eval[bool](u.Page, here)
			require.NoError(t, err)
			if found {
				return
			}
			require.NoError(t, u.Chord(kb.Tab, held...))
		}
		t.Fatalf("%q is not reached by the Tab key", name)
	}
	u.press("3")
	u.until(`document.activeElement.innerText === 'Diagrams'`)
	u.see("Spiral Arm")
	to("Search")
	u.press("spiral")
	u.until(`document.querySelectorAll('main h2').length === 1`)
	to("Spiral Arm")
	u.press(kb.Enter)
	u.until(`document.activeElement.innerText === 'Spiral Arm'`)
	to("Plan a stone")
	u.press(kb.Enter)
	u.mentions("Calipers read")
	to("For whom, or what")
	u.press("For the night guard")
	// The button stands before the fields.
	to("Plan this stone", chromedp.ModifierShift)
	u.press(kb.Enter)
	u.mentions("For the night guard")
	u.see("Progress")
	to("Cut it")
	u.press(kb.Enter)
	u.see("0 of 93")
	u.press(kb.Enter)
	u.see("1 of 93")
	u.see("on disk")
	u.press(kb.Backspace)
	u.see("0 of 93")
	u.press(kb.Escape)
	u.see("Progress")
	u.quiet()
}
