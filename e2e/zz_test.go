package e2e_test

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

func TestZZ(t *testing.T) {
	app := start(t, "demo")
	id := planOnce(t, app.URL, "First%20Light")
	u := open(t, 1280, 800, app.URL+"/bench/"+id)
	u.until(nowDone + ` === '0 of 67'||` + nowDone + `.startsWith('0 of')`)
	u.press(strings.Repeat(" ", 19))
	u.press("1")
	u.mentions("How far below")
	u.fill("How deep", "0.2")
	u.press(kb.Enter)
	u.click("Go on")
	u.mentions("as it was cut")
	u.until(`document.querySelector('[data-waiting="0"]')`)
	u.press(strings.Repeat(" ", 12))
	u.mentions("as it was cut")
	require.NoError(t, u.Shot("/tmp/p1.png"))
	u.press("b")
	u.mentions("One difference")
	require.NoError(t, u.Shot("/tmp/p2.png"))
	u.click("Close")
	u.click("Leave")
	u.mentions("What is still open")
	require.NoError(t, u.Shot("/tmp/p3.png"))
}
