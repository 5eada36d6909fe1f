package e2e_test

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/x509"
	"encoding/base64"
	"encoding/pem"
	"errors"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

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
	tablet.mentions("Type the code")
	tablet.fill("Code", "00000000")
	tablet.click("Pair this device")
	tablet.mentions("That is not the code.")

	desk := open(t, 1280, 800, app.URL+"/machine?show=devices")
	desk.see(outside)
	code, err := browser.Eval[string](desk.Page, `document.querySelector('[data-code]').innerText`)
	require.NoError(t, err)
	tablet.fill("Code", code)
	tablet.fill("What this device is called", "Tablet at the wheel")
	tablet.click("Pair this device")
	tablet.mentions("Rose oval")
	tablet.click("Rose oval")
	tablet.click("Resume")
	tablet.mentions("Keep this page open")
	tablet.click("Understood")
	before, err := browser.Eval[string](tablet.Page, progress)
	require.NoError(t, err)
	tablet.click("Done")
	tablet.until(progress + ` !== '` + before + `'`)
	tablet.see("on disk")

	require.NoError(t, desk.Reload())
	// The door is closed behind the tablet, and the owner is told of the wrong code.
	desk.see("Let a device in")
	desk.mentions("A wrong code was typed")
	desk.click("I have seen it")
	desk.until(`!document.querySelector('[data-wrong]')`)
	desk.click("Let a device in")
	desk.see("Pairing code")
	desk.click("Let nobody in")
	desk.see("Let a device in")
	desk.click("Shut Tablet at the wheel out")
	desk.see("Tablet at the wheel is shut out")
	tablet.click("Done")
	tablet.mentions("Type the code")
	assert.Empty(t, tablet.Complaints("401", "403"))
	desk.quiet()
}

// owned is a certificate of one's own, in files as the application takes them.
type owned struct {
	cert, key string
	// hash is that of its public key, in base64.
	hash string
}

// certify makes a certificate for every address of this machine.
func certify(dir string) (owned, error) {
	out := owned{cert: filepath.Join(dir, "cert.pem"), key: filepath.Join(dir, "key.pem")}
	addresses, err := net.InterfaceAddrs()
	if err != nil {
		return out, err
	}
	template := &x509.Certificate{SerialNumber: big.NewInt(1), NotAfter: time.Now().Add(24 * time.Hour)}
	for _, a := range addresses {
		if n, ok := a.(*net.IPNet); ok {
			template.IPAddresses = append(template.IPAddresses, n.IP)
		}
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return out, err
	}
	cert, err := x509.CreateCertificate(rand.Reader, template, template, &key.PublicKey, key)
	if err != nil {
		return out, err
	}
	private, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return out, err
	}
	public, err := x509.MarshalPKIXPublicKey(&key.PublicKey)
	if err != nil {
		return out, err
	}
	sum := sha256.Sum256(public)
	out.hash = base64.StdEncoding.EncodeToString(sum[:])
	return out, errors.Join(
		os.WriteFile(out.cert, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: cert}), 0o600),
		os.WriteFile(out.key, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: private}), 0o600),
	)
}

// With a certificate of one's own the tablet installs the application, and what was
// open begins again while the server is away.
func TestOverHTTPSTheTabletInstallsAndBeginsAgainOffline(t *testing.T) {
	t.Parallel()
	ip := localAddress(t)
	if ip == "" {
		t.Skip("this machine has no network to come from")
	}
	app := start(t, "demo", "--lan", "--lan-addr", ip, "--cert", certificate.cert, "--key", certificate.key)
	_, port, err := net.SplitHostPort(strings.TrimPrefix(app.URL, "http://"))
	require.NoError(t, err)
	outside := "https://" + net.JoinHostPort(ip, port)
	desk := open(t, 1280, 800, app.URL+"/machine?show=devices")
	desk.see(outside)
	code, err := browser.Eval[string](desk.Page, `document.querySelector('[data-code]').innerText`)
	require.NoError(t, err)

	tablet := open(t, 1024, 768, outside+"/stones")
	tablet.fill("Code", code)
	tablet.fill("What this device is called", "Tablet at the wheel")
	tablet.click("Pair this device")
	tablet.mentions("Rose oval")
	obstacles, err := tablet.Obstacles()
	require.NoError(t, err)
	assert.Equal(t, []string{"in-incognito"}, obstacles, "a test's profile is the only one")

	tablet.click("Rose oval")
	tablet.click("Resume")
	tablet.see("25 of 219")
	tablet.untilPutAside()
	tablet.click("Done")
	tablet.see("on disk")
	require.NoError(t, app.Kill())
	// The installed application is opened again.
	require.NoError(t, tablet.Go(outside+"/bench/"))
	tablet.mentions("8 · Ecliptic")
	tablet.click("Done")
	tablet.mentions("Cressa is away")
	assert.Empty(t, tablet.Complaints("Failed to load", "ERR_", "net::"))
}

// untilPutAside waits until the bench would load anew without the server.
func (u *user) untilPutAside() {
	u.t.Helper()
	u.until(`document.querySelector('[data-reloads=true]')`)
}

// On this machine, or over https, an open bench loads anew while the server is away.
func TestTheBenchLoadsAnewWithoutTheServer(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1024, 768, app.URL+"/stones")
	u.click("Sphene")
	u.click("Resume")
	u.see("on disk")
	u.untilPutAside()
	require.NoError(t, app.Kill())
	require.NoError(t, u.Reload())
	u.click("Done")
	u.mentions("Cressa is away")
	u.see("1 waiting")
	assert.Empty(t, u.Complaints("Failed to load", "ERR_", "net::"))
}
