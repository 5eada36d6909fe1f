package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"log/slog"
	"net"
	"net/http"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/copies"
	"cressa/server"
	"cressa/sqlite"
	"cressa/workshop"
)

// behind lets every call seem to come from another machine in the network, each from the machine
// with the number that last holds.
type behind struct {
	net.Listener
	last *atomic.Int32
}

func (l behind) Accept() (net.Conn, error) {
	c, err := l.Listener.Accept()
	return from{c, byte(l.last.Load())}, err
}

type from struct {
	net.Conn
	last byte
}

func (f from) RemoteAddr() net.Addr {
	return &net.TCPAddr{IP: net.IPv4(192, 168, 7, f.last), Port: 40000}
}

// machine is the number of the machine that calls seem to come from.
var machine atomic.Int32

// comeFrom lets calls come from another machine from now on.
func comeFrom(no int) {
	machine.Store(int32(no))
	http.DefaultTransport.(*http.Transport).CloseIdleConnections()
}

// heldStore is a store whose devices cannot be read while somebody else holds the file.
type heldStore struct {
	*sqlite.Store
	held atomic.Bool
}

func (s *heldStore) DeviceBySession(ctx context.Context, hash string) (workshop.Device, error) {
	if s.held.Load() {
		return workshop.Device{}, workshop.ErrBusy
	}
	return s.Store.DeviceBySession(ctx, hash)
}

// startOpen runs a server that is open to the network, and returns a client at this
// machine and one elsewhere.
func startOpen(t *testing.T) (here, away client) {
	here, away, _ = startHeld(t)
	return here, away
}

func startHeld(t *testing.T) (here, away client, store *heldStore) {
	t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	folder := t.TempDir()
	library(t, filepath.Join(folder, copies.Records))
	file, err := sqlite.Open(ctx, filepath.Join(folder, copies.Records))
	require.NoError(t, err)
	store = &heldStore{Store: file}
	own, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	outer, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	w := workshop.New(store, time.Now)
	s := server.New(w, copies.Folder(folder), page, slog.New(slog.DiscardHandler))
	s.OpenTo(server.Network{Addresses: []string{outer.Addr().String()}, Listeners: []net.Listener{behind{outer, &machine}}})
	ended := make(chan error, 1)
	go func() { ended <- s.Serve(ctx, own, func(net.Addr) {}) }()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-ended)
		assert.NoError(t, store.Close())
	})
	return client{t, "http://" + own.Addr().String()}, client{t, "http://" + outer.Addr().String()}, store
}

func (c client) pair(code string) (int, string) {
	body, err := json.Marshal(server.PairRequest{Code: code, Name: "Wheel"})
	require.NoError(c.t, err)
	status, head, _ := c.send("POST", "/api/pair", string(body))
	cookie, _, _ := strings.Cut(head.Get("Set-Cookie"), ";")
	if cookie != "" {
		assert.Contains(c.t, head.Get("Set-Cookie"), "HttpOnly")
		assert.Contains(c.t, head.Get("Set-Cookie"), "SameSite=Strict")
	}
	return status, cookie
}

// opened lets one device in, and returns what the owner then sees.
func (c client) opened() (out server.DeviceList) {
	c.t.Helper()
	status, _, data := c.send("POST", "/api/devices/door", "")
	require.Equal(c.t, http.StatusNoContent, status, "%s", data)
	c.get("/api/devices", &out)
	return out
}

func TestOnlyPairedDevicesComeInFromTheNetwork(t *testing.T) {
	here, away := startOpen(t)
	var admission server.DeviceList
	here.get("/api/devices", &admission)
	assert.Empty(t, admission.Code, "nobody is let in unless the owner says so")
	status, _ := away.pair("00000000")
	assert.Equal(t, http.StatusForbidden, status)
	admission = here.opened()
	require.Len(t, admission.Code, 8)
	assert.Equal(t, away.url, admission.URL)
	assert.NotEmpty(t, admission.QR)

	// Unpaired: the code page at every address, and nothing behind it.
	for _, path := range []string{"/", "/stones", "/assets/index.js"} {
		status, head, data := away.send("GET", path, "")
		assert.Equal(t, http.StatusUnauthorized, status, path)
		assert.Contains(t, string(data), "Type the code", path)
		assert.Contains(t, head.Get("Content-Security-Policy"), "default-src 'self'")
	}
	away.problem("GET", "/api/settings", "", http.StatusUnauthorized)
	status, _, _ = away.send("GET", "/pair.js", "")
	assert.Equal(t, http.StatusOK, status)

	status, cookie := away.pair("00000000")
	assert.Equal(t, http.StatusForbidden, status)
	assert.Empty(t, cookie)
	status, cookie = away.pair(admission.Code[:4] + " " + admission.Code[4:])
	require.Equal(t, http.StatusNoContent, status)
	require.NotEmpty(t, cookie)
	status, _ = away.pair(admission.Code)
	assert.Equal(t, http.StatusForbidden, status, "a code is good for one device")

	paired := func(r *http.Request) { r.Header.Set("Cookie", cookie) }
	status, _, _ = away.send("GET", "/api/settings", "", paired)
	assert.Equal(t, http.StatusOK, status)
	_, _, data := away.send("GET", "/api/devices", "", paired)
	var seen server.DeviceList
	require.NoError(t, json.Unmarshal(data, &seen))
	assert.Empty(t, seen.Code, "the code is shown at the machine itself only")

	here.get("/api/devices", &admission)
	require.Len(t, admission.Devices, 1)
	path := "/api/devices/" + admission.Devices[0].ID
	status, _, _ = away.send("DELETE", path, "", paired)
	assert.Equal(t, http.StatusForbidden, status, "a device shuts no other out")
	status, _, _ = here.send("PUT", path, `{"name":"Old tablet"}`)
	assert.Equal(t, http.StatusNoContent, status)
	status, _, _ = here.send("DELETE", path, "")
	assert.Equal(t, http.StatusNoContent, status)
	status, _, _ = away.send("GET", "/api/settings", "", paired)
	assert.Equal(t, http.StatusUnauthorized, status, "revoked")
	here.problem("DELETE", path, "", http.StatusNotFound)
}

// A tablet stays paired while the records are busy, and only that long: a session ends that
// was not seen for too long.
func TestABusyDatabaseIsNotUnpaired(t *testing.T) {
	here, away, store := startHeld(t)
	admission := here.opened()
	_, cookie := away.pair(admission.Code)
	paired := func(r *http.Request) { r.Header.Set("Cookie", cookie) }
	ask := func() (int, server.Problem) {
		status, _, data := away.send("GET", "/api/settings", "", paired)
		var p server.Problem
		require.NoError(t, json.Unmarshal(data, &p))
		return status, p
	}
	store.held.Store(true)
	status, p := ask()
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Equal(t, "/problems/busy", p.Type)
	store.held.Store(false)
	status, _ = ask()
	assert.Equal(t, http.StatusOK, status)

	here.get("/api/devices", &admission)
	require.NoError(t, store.SeeDevice(t.Context(), admission.Devices[0].ID, time.Now().Add(-workshop.SessionLife-time.Hour)))
	status, p = ask()
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Equal(t, "/problems/unpaired", p.Type)
}

// What a program on this machine passes on for somebody elsewhere does not come from here.
func TestAProxyDoesNotMakeEverybodyTheOwner(t *testing.T) {
	here, _ := startOpen(t)
	for _, header := range []string{"X-Forwarded-For", "Forwarded", "Via"} {
		status, _, _ := here.send("GET", "/api/settings", "", func(r *http.Request) { r.Header.Set(header, "203.0.113.9") })
		assert.Equal(t, http.StatusUnauthorized, status, header)
	}
}

// Each address has a few tries; all of them together have ten, then the door is closed. The owner
// is told.
func TestGuessingCodesIsStopped(t *testing.T) {
	here, away := startOpen(t)
	before := here.opened()
	refused := 0
	for range 12 {
		if status, _ := away.pair("12345678"); status == http.StatusTooManyRequests {
			refused++
		}
	}
	assert.GreaterOrEqual(t, refused, 6, "five at once, then one in twelve seconds")
	var told server.DeviceList
	here.get("/api/devices", &told)
	assert.Equal(t, before.Code, told.Code)
	assert.Equal(t, 12-refused, told.Wrong.Count)
	assert.False(t, told.Wrong.Closed)
	assert.NotEqual(t, before.Code, here.opened().Code)

	asked := 0
	for i := 0; !told.Wrong.Closed; i++ {
		comeFrom(100 + i)
		status, _ := away.pair("12345678")
		require.Equal(t, http.StatusForbidden, status)
		here.get("/api/devices", &told)
		asked++
	}
	assert.Equal(t, 10, asked, "from however many addresses")
	assert.Empty(t, told.Code)
	comeFrom(200)
	status, cookie := away.pair(here.opened().Code)
	assert.Equal(t, http.StatusNoContent, status, "the owner opens it again")
	assert.NotEmpty(t, cookie)

	status, _, _ = away.send("DELETE", "/api/devices/wrong", "", func(r *http.Request) { r.Header.Set("Cookie", cookie) })
	assert.Equal(t, http.StatusForbidden, status)
	status, _, _ = here.send("DELETE", "/api/devices/wrong", "")
	assert.Equal(t, http.StatusNoContent, status)
	here.opened()
	status, _, _ = here.send("DELETE", "/api/devices/door", "")
	assert.Equal(t, http.StatusNoContent, status)
	here.get("/api/devices", &told)
	assert.Empty(t, told.Code)
	assert.Zero(t, told.Wrong.Count)
}

// A device that is shut out is told nothing more, not even the rest of what it is just being told.
func TestShuttingADeviceOutEndsWhatItIsTold(t *testing.T) {
	here, away := startOpen(t)
	_, cookie := away.pair(here.opened().Code)
	d := here.diagramCalled("Meridian")
	ask, err := json.Marshal(server.ToleranceRequest{Draft: d.Draft, Width: 8, Angle: 0.1, Index: 0.1, Depth: 0.01, Trials: 50000})
	require.NoError(t, err)
	status, _, _ := here.send("POST", "/api/diagrams/"+d.ID+"/tolerance", string(ask))
	require.Equal(t, http.StatusNoContent, status)
	r, err := http.NewRequest("GET", away.url+"/api/diagrams/"+d.ID+"/tolerance", nil)
	require.NoError(t, err)
	r.Header.Set("Cookie", cookie)
	answer, err := http.DefaultTransport.RoundTrip(r)
	require.NoError(t, err)
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	require.True(t, lines.Scan())
	var list server.DeviceList
	here.get("/api/devices", &list)
	status, _, _ = here.send("DELETE", "/api/devices/"+list.Devices[0].ID, "")
	require.Equal(t, http.StatusNoContent, status)
	last := ""
	for lines.Scan() {
		last = lines.Text()
	}
	assert.NotContains(t, last, `"complete"`)
	status, _, _ = here.send("DELETE", "/api/diagrams/"+d.ID+"/tolerance", "")
	assert.Equal(t, http.StatusNoContent, status)
}

func TestTheNetworkIsShutOutUnlessItIsAskedIn(t *testing.T) {
	c := start(t)
	var admission server.DeviceList
	c.get("/api/devices", &admission)
	assert.Empty(t, admission.URL)
	assert.Empty(t, admission.Code)
	c.problem("POST", "/api/pair", `{"code":"12345678","name":""}`, http.StatusForbidden)
	_, err := server.ListenOnNetwork("127.0.0.1", "0", "no-such-file", "no-such-file")
	assert.ErrorContains(t, err, "certificate")
}
