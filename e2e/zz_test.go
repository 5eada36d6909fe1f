package e2e_test

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestZZ(t *testing.T) {
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL)
	rooms["bench"](u)
	u.see("Something happened")
	u.press("a")
	u.mentions("What follows")
	u.click("−1°")
	u.until(`document.querySelector('[data-so] polygon') && !document.querySelector('[aria-busy=true]')`)
	require.NoError(t, u.Shot("/tmp/p1.png"))
	u.click("Close")
	u.press("h")
	u.press("40.12")
	u.press("\r")
	u.press("m")
	require.NoError(t, u.Shot("/tmp/p2.png"))
	u.press("\x1b")
	u.press("0")
	u.click("Keep it")
	u.click("Go on")
	u.mentions("off its dop")
	require.NoError(t, u.Shot("/tmp/p9.png"))
}
