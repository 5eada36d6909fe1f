package e2e_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// A die is planned to be held by one face after the other, is glued for one of them, and is cut over all its dop-ups, with the page
// reloaded in between.
func TestADieIsCutOverItsDopUps(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("Eased Die")
	u.click("Plan a stone")
	u.click("Hold it by one face after the other")
	u.click("Take 2 dop-ups")
	u.fill("No steeper than", "60")
	u.click("Take 6 dop-ups")
	u.see("6 · T@96 up")
	u.click("Move dop-up 6 up")
	u.see("5 · T@96 up")
	assert.Empty(t, checkAxe(t, u), "dop-ups")
	u.click("Plan this stone")
	u.see("Progress")
	id := u.id()
	u.click("Shape and dop")
	u.click("For G1@72")
	u.click("To the stone")
	u.see("Progress")
	u.click("Cut it")
	u.until(nowDone + "?.startsWith('0 of')")

	// Each of the six is cut to its gate: the table adapter on and off, or the next face up.
	const atGate = `["Every facet is cut", "The table sits level", "The adapter is off", "Transfer done"].find((g) => document.body.innerText.includes(g)) || ""`
	turned := 0
	for range 60 {
		u.until(`document.querySelector('[data-digits=Index]') || ` + atGate)
		finishSide(u)
		gate, err := browser.Eval[string](u.Page, atGate)
		require.NoError(t, err)
		if gate == "Every facet is cut" {
			break
		}
		if gate == "Transfer done" {
			if turned++; turned == 1 {
				u.mentions("G1@72 comes up now.")
				u.mentions("line it up by eye along its edges")
				u.settled()
				require.NoError(t, u.Reload())
			}
		}
		u.click(gate)
		u.until(fmt.Sprintf("!document.body.innerText.includes(%q)", gate))
	}
	assert.Equal(t, 5, turned)
	u.see("Every facet is cut")
	u.settled()
	var cut asCut
	fetch(t, app.URL+"/api/stones/"+id+"/as-cut", &cut)
	assert.Empty(t, cut.Differences)
	assert.InDelta(t, cut.Meant.Carats, cut.Coming.Carats, 1e-6)
}
