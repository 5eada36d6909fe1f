package e2e_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// nowDone is what the bench says of its progress, before it says anything nothing.
const nowDone = `document.querySelector('header [aria-label=Progress]')?.innerText`

// planOnce plans a round whose facets go over one lap.
func planOnce(t testing.TB, url string) (id string) {
	t.Helper()
	var list struct{ Diagrams []struct{ ID, Name string } }
	fetch(t, url+"/api/diagrams?text=First%20Light", &list)
	require.NotEmpty(t, list.Diagrams)
	var choices map[string]any
	fetch(t, url+"/api/diagrams/"+list.Diagrams[0].ID+"/proposal", &choices)
	choices["passes"] = choices["passes"].([]any)[:1]
	choices["uses"], choices["material"] = []any{}, "Quartz"
	choices["holds"] = []any{map[string]any{"dop": "Cone 6 mm", "adhesive": "wax"}, map[string]any{"dop": "Flat 5 mm", "adhesive": "epoxy"}}
	body, err := json.Marshal(map[string]any{"name": "At the wheel", "diagramId": list.Diagrams[0].ID, "choices": choices})
	require.NoError(t, err)
	answer, err := http.Post(url+"/api/stones", "application/json", bytes.NewReader(body))
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, http.StatusOK, answer.StatusCode)
	var stone struct{ ID string }
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&stone))
	return stone.ID
}

// wheelScript is what these tests look at of a script.
type wheelScript struct {
	Setups []struct{ ID string }
	Facets []struct{ Tier string }
	Visits []struct {
		Setup   string
		Adapter bool
	}
	Layer []struct{ Tier string }
}

// A pedal that was taught by pressing it cuts a whole stone: the first side, the transfer with its clocks, a crown
// that is adapted to the height that is left, and the table on the adapter.
func TestAStoneIsCutByAPedalWithAnAdaptedCrown(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	id := planOnce(t, app.URL)
	stone := app.URL + "/api/stones/" + id
	var script wheelScript
	fetch(t, stone+"/script", &script)
	sides := map[string]int{}
	adapter := 0
	for _, v := range script.Visits {
		sides[v.Setup]++
		if v.Adapter {
			adapter++
		}
	}
	first, all := sides[script.Setups[0].ID], len(script.Visits)
	u := open(t, 1280, 800, app.URL+"/bench/"+id)
	at := func(n int) { u.until(fmt.Sprintf("%s === '%d of %d'", nowDone, n, all)) }
	at(0)

	u.press("d")
	u.see("Splash guard")
	u.click("Learn a key: Done")
	u.press("b")
	u.mentions("learned: b")
	u.click("Close")
	// The dialog goes by itself; until it has the keys are its own.
	u.until(`!document.querySelector('[role=dialog]')`)
	u.press(strings.Repeat("b", first))
	at(first)

	// The transfer: which dop comes off and how, with clocks; the pedal does not go past it.
	u.see("Turn the stone over")
	u.press("b")
	u.mentions("Warm the metal of the first dop (Cone 6 mm), not the stone: it lets go at about 65 °C")
	u.click("Start 30 min, step 9")
	u.until(`document.querySelector('[role=timer]')?.innerText.startsWith("0:29")`)
	u.click("Glued now")
	u.mentions("cures until")
	u.click("Transfer done")
	at(first)

	// Less is left than planned: one key chooses a way, one takes it.
	u.press("u")
	u.see("Height that is left")
	u.fill("Height left", "1.05")
	u.press(kb.Enter)
	u.mentions("1 · Flatter angles")
	assert.Empty(t, checkAxe(t, u), "height that is left")
	u.press("2")
	u.until(`document.querySelectorAll('main [aria-pressed=true]').length === 1 && document.querySelector('main [aria-pressed=true]').innerText.includes('2 · A wider table')`)
	u.press("1")
	u.until(`document.querySelector('main [aria-pressed=true]').innerText.includes('1 · Flatter angles')`)
	u.press(kb.Enter)
	u.see("Adapted at the wheel: not as the diagram draws it.")
	at(first)
	u.press("w")
	u.fill("Thickest at index", "24")
	u.mentions("The stone leans by 0.36° towards index 24.")
	assert.Empty(t, checkAxe(t, u), "girdle level")
	u.click("Close")
	u.press(strings.Repeat("b", all-first-adapter))
	at(all - adapter)

	// The table came in from one side; then the adapter's own angle is found, and the protractor is set to it.
	u.click("It comes in from one side, or its angle is not known")
	u.click("Left")
	u.fill("Deeper there by", "0.02")
	u.mentions("so that the left side lifts")
	assert.Empty(t, checkAxe(t, u), "table adapter")
	u.click("Near")
	u.mentions("flatter, to 44.77°")
	u.fill("Readings", "45.3 45.1 45.2")
	u.click("Keep this angle")
	u.mentions("Set the protractor to 45.2°")
	u.click("The table sits level")
	u.press(strings.Repeat("b", adapter))
	at(all)
	u.click("The adapter is off")
	u.see("Every facet is cut")
	u.until(`document.querySelector('[data-waiting="0"]')`)

	fetch(t, stone+"/script", &script)
	require.NotEmpty(t, script.Layer)
	var page struct {
		Summary struct {
			State string
		}
		Assessment struct{ Crown float64 }
	}
	fetch(t, stone, &page)
	assert.Equal(t, "cut", page.Summary.State)
	assert.Less(t, page.Assessment.Crown, 1.05)

	// Off the dop as its adhesive lets go, weighed, and a card for the drawer with its price, on paper and as PDF.
	u.click("Write the logbook card")
	u.mentions("Warm the metal of the dop (Flat 5 mm), not the stone.")
	u.click("Start 30 min, step 2")
	u.fill("Rough weight (ct)", "4")
	u.fill("Finished weight (ct)", "1.2")
	u.fill("Price", "480")
	u.fill("Currency", "eur")
	u.click("Keep the card")
	u.click("Print a card")
	u.choose("For", "the drawer")
	u.click("With its price")
	u.until(`decodeURIComponent(document.querySelector('.sheet-pages img')?.src ?? '').includes('480.00 EUR')`)
	answer, err := http.Get(stone + "/print/a6/pdf?for=drawer&price=true")
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	assert.Equal(t, "application/pdf", answer.Header.Get("Content-Type"))
	u.quiet()
}

// What happens at the wheel is told by one key and leads to help; a stone that came off its dop is glued and lined up
// before the work goes on, also after a reload; the order changes in the middle.
func TestWhatHappensAtTheWheelIsToldAndHelped(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	id := planOnce(t, app.URL)
	u := open(t, 1024, 768, app.URL+"/bench/"+id)
	u.until(nowDone + "?.startsWith('0 of')")
	u.press(strings.Repeat(kb.Enter, 3))
	u.until(nowDone + "?.startsWith('3 of')")

	// Cut too deep: which facet, how deep, and what that takes.
	u.press("1")
	u.see("How far below its stop does the facet stand?")
	u.click("Facet before")
	u.press("\t")
	u.fill("How deep", "0.05")
	u.press(kb.Enter)
	u.mentions("off the girdle")
	u.click("Go on")
	u.mentions("The pictures show the stone as it was cut.")
	u.press("b")
	u.mentions("One difference:")
	u.see("cut too deep, by 0.05 mm")
	u.click("Close")

	// The height dial: two readings foretell the others.
	u.press("h")
	u.see("Height dial")
	u.fill("Dial reads", "48.2")
	u.press(kb.Enter)
	u.until(nowDone + "?.startsWith('3 of')")

	// The bond fails: no key for Done goes on before the stone sits as before.
	u.press("0")
	u.click("Keep it")
	u.click("Go on")
	u.see("The stone is off its dop")
	assert.Empty(t, checkAxe(t, u), "off the dop")
	u.press(kb.Enter)
	u.until(`document.querySelector('[data-waiting="0"]')`)
	require.NoError(t, u.Reload())
	u.see("The stone is off its dop")
	u.until(nowDone + "?.startsWith('3 of')")
	u.see("Facets to line up by")
	u.click("Glued now")
	u.mentions("cures until")
	u.click("It sits as before")
	u.press(kb.Enter)
	u.until(nowDone + "?.startsWith('4 of')")

	// The tier again: four cuts are open again, and Back closes them.
	u.press("r")
	u.click("P1, from Cut · 600 on")
	u.mentions("4 cuts are open again")
	u.click("Open it again")
	u.until(nowDone + "?.startsWith('0 of')")
	u.press(kb.Backspace)
	u.until(nowDone + "?.startsWith('4 of')")

	// A pause covers the bench, and the story is told at the desk.
	u.press("p")
	u.see("Paused")
	u.press(kb.Enter)
	u.until(nowDone + "?.startsWith('4 of')")
	u.until(`document.querySelector('[data-waiting="0"]')`)
	require.NoError(t, u.Go(app.URL+"/stones/"+id))
	u.mentions("cut too deep, 0.05 mm")
	u.mentions("the stone came off its dop")
	u.mentions("One difference:")
	u.quiet()
}
