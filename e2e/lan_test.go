package e2e_test

import (
	"net"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

// localAddress returns an address of this machine that others could call, "" where
// it has none.
func localAddress(t *testing.T) string {
	t.Helper()
	all, err := net.InterfaceAddrs()
	require.NoError(t, err)
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && n.IP.To4() != nil && !n.IP.IsLoopback() {
			return n.IP.String()
		}
	}
	return ""
}

// A second browser comes over the network: it sees the code page and nothing else,
// is paired, works at the bench, and is shut out again.
func TestATabletIsPairedAndShutOut(t *testing.T) {
	t.Parallel()
	ip := localAddress(t)
	if ip == "" {
		_, err := running.Start(binary, "", "demo", "--lan")
		require.Error(t, err, "without a network there is nothing to open to")
		t.Log("this machine has no network: only the refusal was tried")
		return
	}
	app := start(t, "demo", "--lan", "--lan-addr", ip)
	_, port, err := net.SplitHostPort(strings.TrimPrefix(app.URL, "http://"))
	require.NoError(t, err)
	outside := "http://" + net.JoinHostPort(ip, port)

	tablet := open(t, 1024, 768, outside+"/stones")
	tablet.see("Type the code")
	tablet.fill("Code", "00000000")
	tablet.click("Pair this device")
	tablet.see("That is not the present code.")

	desk := open(t, 1280, 800, app.URL+"/machine?show=devices")
	desk.see(outside)
	code, err := browser.Eval[string](desk.Page, `document.querySelector('[data-code]').innerText`)
	require.NoError(t, err)
	tablet.fill("Code", code)
	tablet.fill("What this device is called", "Tablet at the wheel")
	tablet.click("Pair this device")
	tablet.see("Rose oval")
	tablet.click("Rose oval")
	tablet.click("Resume")
	tablet.see("Keep this page open")
	tablet.click("Understood")
	before, err := browser.Eval[string](tablet.Page, `document.querySelector('header [aria-label=Progress]').innerText`)
	require.NoError(t, err)
	tablet.click("Done")
	tablet.until(`document.querySelector('header [aria-label=Progress]').innerText !== '` + before + `'`)
	tablet.see("on disk")

	require.NoError(t, desk.Reload())
	desk.click("Shut Tablet at the wheel out")
	desk.see("Tablet at the wheel is shut out")
	tablet.click("Done")
	tablet.see("Type the code")
	assert.Empty(t, tablet.Complaints("401", "403"))
	desk.quiet()
}

// On this machine, or over https, an open bench loads anew while the server is away.
func TestTheBenchLoadsAnewWithoutTheServer(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1024, 768, app.URL+"/stones")
	u.click("Sphene")
	u.click("Resume")
	u.see("on disk")
	_, err := browser.Eval[bool](u.Page, `(async () => {
		const put = async () => (await (await caches.open('cressa-bench')).keys()).length > 3;
		const works = async () => !!(await navigator.serviceWorker.getRegistration('/bench/'))?.active;
		while (!(await put()) || !(await works())) await new Promise(requestAnimationFrame);
		window.aside = true;
	})(), true`)
	require.NoError(t, err)
	u.until(`window.aside`)
	require.NoError(t, app.Kill())
	require.NoError(t, u.Reload())
	u.click("Done")
	u.see("Cressa is away")
	u.see("1 waiting")
	assert.Empty(t, u.Complaints("Failed to load", "ERR_", "net::"))
}
