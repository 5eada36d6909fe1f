package server

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"html/template"
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

const sessionCookie = "cressa_session"

// admission lets requests from other devices in: those that were paired. This machine
// itself needs no pairing.
type admission struct {
	network Network
	door    door
	// inside are the requests of paired devices that are under way.
	inside inside
}

// inside knows what each device is being answered, so that it ends when the device is shut out.
type inside struct {
	mu    sync.Mutex
	last  int
	under map[string]map[int]context.CancelFunc
}

// enter notes a request of a device. Its context ends when the device is put out; leave is called
// when the request is done.
func (i *inside) enter(ctx context.Context, device string) (_ context.Context, leave func()) {
	ctx, stop := context.WithCancel(ctx)
	i.mu.Lock()
	defer i.mu.Unlock()
	if i.under == nil {
		i.under = map[string]map[int]context.CancelFunc{}
	}
	if i.under[device] == nil {
		i.under[device] = map[int]context.CancelFunc{}
	}
	i.last++
	no := i.last
	i.under[device][no] = stop
	return ctx, func() {
		stop()
		i.mu.Lock()
		defer i.mu.Unlock()
		if delete(i.under[device], no); len(i.under[device]) == 0 {
			delete(i.under, device)
		}
	}
}

// putOut ends all requests of a device.
func (i *inside) putOut(device string) {
	i.mu.Lock()
	defer i.mu.Unlock()
	for _, stop := range i.under[device] {
		stop()
	}
}

// DeviceList is what the owner sees of the admission.
type DeviceList struct {
	// URL is the address for other devices, "" where the network is shut out.
	URL    string `json:"url"`
	Secure bool   `json:"secure"`
	// Code pairs one device until Until; "" while the door is closed. It is shown on this machine
	// only, and so are the wrong codes.
	Code    string     `json:"code"`
	Until   time.Time  `json:"until"`
	Wrong   WrongCodes `json:"wrong"`
	Devices []Device   `json:"devices"`
	// QR is the address as rows of a code's dark and light squares, 1 and 0.
	QR []string `json:"qr"`
	// Here tells that the one who asks sits at this machine.
	Here bool `json:"here"`
}

// WrongCodes counts the codes that let nobody in since the owner last said that they were seen.
type WrongCodes struct {
	Count int `json:"count"`
	// Last is when the last one came.
	Last time.Time `json:"last"`
	// Closed tells that they closed the door.
	Closed bool `json:"closed"`
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
			out.Code, out.Until = s.admission.door.code()
			out.Wrong = s.admission.door.wrongCodes()
			out.QR = qrRows(out.URL)
		}
		return out, err
	})
	handle(s, route{method: http.MethodPost, path: "/api/devices/door", name: "openDoor", summary: "Let one device in, for some minutes", from: fromThisMachine}, func(*echo.Context, struct{}) (none, error) {
		s.admission.door.open()
		return none{}, nil
	})
	handle(s, route{method: http.MethodDelete, path: "/api/devices/door", name: "closeDoor", summary: "Let no further device in", from: fromThisMachine}, func(*echo.Context, struct{}) (none, error) {
		s.admission.door.shut()
		return none{}, nil
	})
	handle(s, route{method: http.MethodDelete, path: "/api/devices/wrong", name: "forgetWrongCodes", summary: "The wrong codes were seen", from: fromThisMachine}, func(*echo.Context, struct{}) (none, error) {
		s.admission.door.forget()
		return none{}, nil
	})
	handle(s, route{method: http.MethodPut, path: "/api/devices/:id", name: "nameDevice", summary: "Name a device", from: fromThisMachine}, func(c *echo.Context, in byIDWithBody[NameRequest]) (none, error) {
		return none{}, s.workshop.NameDevice(c.Request().Context(), in.ID, in.Body.Name)
	})
	handle(s, route{method: http.MethodDelete, path: "/api/devices/:id", name: "revokeDevice", summary: "Shut a device out", from: fromThisMachine}, func(c *echo.Context, in byID) (none, error) {
		err := s.workshop.RevokeDevice(c.Request().Context(), in.ID)
		if err == nil {
			s.admission.inside.putOut(in.ID)
		}
		return none{}, err
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
	ip := net.ParseIP(host)
	return ip != nil && ip.IsLoopback() && ownName(r.Host)
}

// ownName tells whether an address is one that only this machine has for itself.
func ownName(address string) bool {
	name, _, err := net.SplitHostPort(address)
	if err != nil {
		name = strings.Trim(address, "[]") // the usual port is left out
	}
	ip := net.ParseIP(name)
	return name == "localhost" || ip != nil && ip.IsLoopback()
}

// pair admits a device that shows the present code.
func (s *Server) pair(c *echo.Context, in withBody[PairRequest]) (none, error) {
	code := strings.Map(func(r rune) rune {
		if r < '0' || r > '9' {
			return -1
		}
		return r
	}, in.Body.Code)
	if !s.admission.network.open() {
		return none{}, doorClosed
	}
	if err := s.admission.door.try(code); err != nil {
		return none{}, err
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
				ctx, leave := s.admission.inside.enter(r.Context(), d.ID)
				defer leave()
				r = r.WithContext(ctx)
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
// as a QR code of block characters, and a pairing code. It opens the door.
func (s *Server) Invitation() string {
	url := s.admission.network.URL()
	if url == "" {
		return ""
	}
	s.admission.door.open()
	code, until := s.admission.door.code()
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
	fmt.Fprintf(&out, "On the tablet open %s\nand type the code %s %s, until %s.\nFor another device, or later, let one in under Machine and habits, Devices.\n", url, code[:4], code[4:], until.Format("15:04"))
	return out.String()
}
