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
	u.click("Plan this stone")
	u.see("Progress")
	id := u.id()
	u.click("Shape and dop")
	u.click("For G1@72")
	u.click("To the stone")
	u.see("Progress")
	u.click("Cut it")
	u.until(nowDone + "?.startsWith('0 of')")
	require.NoError(t, u.Shot("/tmp/q3.png"))

	// Each of the six is cut to its gate: the table adapter on and off, or the next face up.
	turned := 0
	for range 60 {
		finishSide(u)
		gate, err := browser.Eval[string](u.Page, `["Every facet is cut", "The table sits level", "The adapter is off", "Transfer done"].find((g) => document.body.innerText.includes(g)) ?? ""`)
		require.NoError(t, err)
		if gate == "Every facet is cut" {
			break
		}
		if gate == "Transfer done" {
			if turned++; turned == 1 {
				require.NoError(t, u.Shot("/tmp/q4.png"))
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
