package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

func TestZZ(t *testing.T) {
	sim := start(t, "simulate", "--lines", "127.0.0.1:18475")
	u := open(t, 1280, 800, sim.URL)
	u.mentions("Quill raised")
	u.choose("Time", "16 times as fast")
	u.fill("Stop at", "45")
	for _, tooth := range []string{"6", "18", "30", "42"} {
		u.fill("Tooth", tooth)
		u.until("document.querySelector('[data-dial=Index]').innerText === '" + tooth + "'")
		u.click("Mast down to the stone")
		u.press(kb.ArrowDown)
		for range 3 {
			u.press(kb.PageDown)
		}
		u.click("Let the quill down")
		u.until("document.querySelector('[data-state]').dataset.state === 'Grinding'")
		if tooth == "42" {
			require.NoError(t, u.Shot("/tmp/p2.png"))
		}
		u.click("Lift the quill")
	}
	app := start(t, "demo")
	v := open(t, 1280, 800, app.URL+"/machine?show=instruments")
	v.mentions("No instrument is read yet")
	require.NoError(t, v.Shot("/tmp/p3.png"))
	v.click("Type an address")
	v.fill("Name", "Mast")
	v.fill("Address", "127.0.0.1:18475")
	v.click("Read this one")
	v.until("document.querySelector('[data-reading=height]')")
	require.NoError(t, v.Shot("/tmp/p4.png"))
	v.click("Correct: Height")
	v.mentions("Bring it to something known")
	require.NoError(t, v.Shot("/tmp/p5.png"))
}
