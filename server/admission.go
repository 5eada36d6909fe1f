package server

import (
	"crypto/rand"
	"crypto/subtle"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"math/big"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
	"rsc.io/qr"

	"cressa/words"
	"cressa/workshop"
	"cressa/workshop/journal"
)

const (
	sessionCookie = "cressa_session"
	codeLife      = 10 * time.Minute
	// mostGuesses wrong codes make the code worthless.
	mostGuesses = 10
	codeDigits  = 8
)

// admission lets requests from other devices in: those that were paired. This machine
// itself needs no pairing.
type admission struct {
	network Network
	now     func() time.Time
	mu      sync.Mutex
	code    string
	until   time.Time
	guesses int
}

// Code returns the present pairing code. It is good for one device, for ten
// minutes, and for ten guesses.
func (d *admission) Code() (code string, until time.Time) {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.present()
}

func (d *admission) present() (string, time.Time) {
	if d.code == "" || d.now().After(d.until) || d.guesses >= mostGuesses {
		d.renew()
	}
	return d.code, d.until
}

func (d *admission) renew() {
	most := new(big.Int).Exp(big.NewInt(10), big.NewInt(codeDigits), nil)
	n, err := rand.Int(rand.Reader, most)
	if err != nil {
		panic(err) // the system's source of randomness does not fail
	}
	d.code, d.until, d.guesses = fmt.Sprintf("%0*d", codeDigits, n), d.now().Add(codeLife), 0
}

// Renew makes a new code and voids the present one.
func (d *admission) Renew() {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.renew()
}

// try tells whether a code is the present one; if so it is used up.
func (d *admission) try(code string) bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	present, _ := d.present()
	if subtle.ConstantTimeCompare([]byte(code), []byte(present)) != 1 {
		d.guesses++
		return false
	}
	d.renew()
	return true
}

// DeviceList is what the owner sees of the admission.
type DeviceList struct {
	// URL is the address for other devices, "" where the network is shut out.
	URL    string `json:"url"`
	Secure bool   `json:"secure"`
	// Code pairs one device until Until. It is shown on this machine only.
	Code    string    `json:"code"`
	Until   time.Time `json:"until"`
	Devices []Device  `json:"devices"`
	// QR is the address as rows of a code's dark and light squares, 1 and 0.
	QR []string `json:"qr"`
	// Here tells that the one who asks sits at this machine.
	Here bool `json:"here"`
}

// NameRequest gives a device a name.
type NameRequest struct {
	Name string `json:"name" validate:"required,max=60"`
}

// PairRequest shows the pairing code.
type PairRequest struct {
	Code string `json:"code" validate:"required,max=20"`
	Name string `json:"name" validate:"max=60"`
}

func (s *Server) doorRoutes() {
	handle(s, route{method: http.MethodGet, path: "/api/devices", name: "listDevices", summary: "Paired devices, and how to pair one"}, func(c *echo.Context, _ struct{}) (DeviceList, error) {
		devices, err := s.workshop.Devices(c.Request().Context())
		out := DeviceList{URL: s.admission.network.URL(), Secure: s.admission.network.TLS, Devices: each(devices, func(d workshop.Device) Device { return Device(d) }), QR: []string{}, Here: fromHere(c.Request())}
		if out.URL != "" && out.Here {
			out.Code, out.Until = s.admission.Code()
			out.QR = qrRows(out.URL)
		}
		return out, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/devices/code", name: "renewCode", summary: "A new pairing code", from: fromThisMachine}, func(*echo.Context, struct{}) (none, error) {
		s.admission.Renew()
		return none{}, nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/devices/:id", name: "nameDevice", summary: "Name a device", from: fromThisMachine}, func(c *echo.Context, in byIDWithBody[NameRequest]) (none, error) {
		return none{}, s.workshop.NameDevice(c.Request().Context(), in.ID, in.Body.Name)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/devices/:id", name: "revokeDevice", summary: "Shut a device out", from: fromThisMachine}, func(c *echo.Context, in byID) (none, error) {
		return none{}, s.workshop.RevokeDevice(c.Request().Context(), in.ID)
	})
	handle(s, route{method: http.MethodPost, path: "/api/pair", name: "pair", summary: "Pair this device", from: fromAnywhere}, s.pair)
}

// forwarding are the headers by which a program in between says that it passes on
// somebody else's request.
var forwarding = []string{"Forwarded", "Via", "X-Forwarded-For", "X-Forwarded-Host", "X-Real-Ip"}

// fromHere tells whether a request comes from this machine itself, under one of its
// own names, and was not passed on by a program here for somebody elsewhere.
func fromHere(r *http.Request) bool {
	for _, name := range forwarding {
		if r.Header.Get(name) != "" {
			return false
		}
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return false
	}
	name, _, err := net.SplitHostPort(r.Host)
	ip := net.ParseIP(host)
	return err == nil && ip != nil && ip.IsLoopback() && (name == "localhost" || name == "127.0.0.1" || name == "::1")
}

// pair admits a device that shows the present code.
func (s *Server) pair(c *echo.Context, in withBody[PairRequest]) (none, error) {
	code := strings.Map(func(r rune) rune {
		if r < '0' || r > '9' {
			return -1
		}
		return r
	}, in.Body.Code)
	if !s.admission.network.open() || !s.admission.try(code) {
		return none{}, &Problem{Status: http.StatusForbidden, Detail: "That is not the present code. It changes after each device and every ten minutes; look at the machine that Cressa runs on."}
	}
	_, session, err := s.workshop.PairDevice(c.Request().Context(), in.Body.Name)
	if err != nil {
		return none{}, err
	}
	c.SetCookie(&http.Cookie{
		Name: sessionCookie, Value: session, Path: "/", MaxAge: int(workshop.SessionLife.Seconds()),
		HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: s.admission.network.TLS,
	})
	return none{}, nil
}

// checkDevice lets only this machine and paired devices past; the others see the
// code page and nothing else. It notes who acts.
func (s *Server) checkDevice(next echo.HandlerFunc) echo.HandlerFunc {
	limited := middleware.RateLimiterWithConfig(middleware.RateLimiterConfig{
		// Five codes at once, then one in twelve seconds, each address for itself.
		Store: middleware.NewRateLimiterMemoryStoreWithConfig(middleware.RateLimiterMemoryStoreConfig{Rate: 5.0 / 60, Burst: 5, ExpiresIn: 10 * time.Minute}),
		IdentifierExtractor: func(c *echo.Context) (string, error) {
			host, _, err := net.SplitHostPort(c.Request().RemoteAddr)
			return host, err
		},
		DenyHandler: func(*echo.Context, string, error) error {
			return &Problem{Status: http.StatusTooManyRequests, Detail: "Too many codes were tried from this device. Wait a minute, then type the present one."}
		},
	})(next)
	return func(c *echo.Context) error {
		r := c.Request()
		admit := func(who journal.Actor) error {
			c.SetRequest(r.WithContext(workshop.WithActor(r.Context(), who)))
			return next(c)
		}
		if fromHere(r) {
			return admit(journal.Actor{Name: words.ThisMachine})
		}
		if s.forAnyone(r) {
			return limited(c)
		}
		if cookie, err := c.Cookie(sessionCookie); err == nil {
			d, err := s.workshop.AdmitDevice(r.Context(), cookie.Value)
			if err == nil {
				return admit(journal.Actor{ID: d.ID, Name: d.Name})
			}
			// What keeps the records from being read says nothing of the device.
			if !errors.Is(err, workshop.ErrNotFound) {
				return fmt.Errorf("admitting a device: %w", err)
			}
		}
		if strings.HasPrefix(r.URL.Path, "/api/") {
			return &Problem{Type: kindUnpaired, Status: http.StatusUnauthorized, Detail: "This device is not paired (any more). Load the page anew and type the code."}
		}
		return codePage(c)
	}
}

// forAnyone tells whether a request is to a route that is open before a device is paired.
func (s *Server) forAnyone(r *http.Request) bool {
	return slices.ContainsFunc(s.routes, func(o route) bool {
		return o.from == fromAnywhere && o.method == r.Method && o.path == r.URL.Path
	})
}

// kindUnpaired tells the UI to load the page anew: it becomes the code page.
const kindUnpaired = "/problems/unpaired"

//go:embed pair.html pair.js pair.css
var pairFiles embed.FS

var pairTemplate = template.Must(template.ParseFS(pairFiles, "pair.html"))

// codePage is all that an unpaired device sees.
func codePage(c *echo.Context) error {
	head := c.Response().Header()
	head.Set("Cache-Control", "no-store")
	switch c.Request().URL.Path {
	case "/pair.js", "/pair.css":
		data, err := pairFiles.ReadFile(strings.TrimPrefix(c.Request().URL.Path, "/"))
		if err != nil {
			return err
		}
		return c.Blob(http.StatusOK, contentType(c.Request().URL.Path), data)
	}
	if c.Request().Method != http.MethodGet {
		return echo.ErrUnauthorized
	}
	var page strings.Builder
	if err := pairTemplate.Execute(&page, nil); err != nil {
		return err
	}
	return c.HTML(http.StatusUnauthorized, page.String())
}

// qrRows returns the address as a QR code, 1 for a dark square.
func qrRows(text string) []string {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return []string{}
	}
	out := make([]string, code.Size)
	for y := range out {
		var row strings.Builder
		for x := range code.Size {
			if code.Black(x, y) {
				row.WriteByte('1')
			} else {
				row.WriteByte('0')
			}
		}
		out[y] = row.String()
	}
	return out
}

// Invitation is what the program prints for other devices: the address as text and
// as a QR code of block characters, and the present pairing code.
func (s *Server) Invitation() string {
	url := s.admission.network.URL()
	if url == "" {
		return ""
	}
	code, _ := s.admission.Code()
	var out strings.Builder
	rows := qrRows(url)
	dark := func(x, y int) bool { return y >= 0 && y < len(rows) && x >= 0 && x < len(rows) && rows[y][x] == '1' }
	const quiet = 2
	for y := -quiet; y < len(rows)+quiet; y += 2 {
		for x := -quiet; x < len(rows)+quiet; x++ {
			// Light squares are drawn, so that the code reads on a dark terminal.
			switch {
			case dark(x, y) && dark(x, y+1):
				out.WriteByte(' ')
			case dark(x, y):
				out.WriteString("▄")
			case dark(x, y+1):
				out.WriteString("▀")
			default:
				out.WriteString("█")
			}
		}
		out.WriteByte('\n')
	}
	fmt.Fprintf(&out, "On the tablet open %s\nand type the code %s %s\n", url, code[:4], code[4:])
	return out.String()
}
