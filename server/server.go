// Package server is the application over HTTP: the routes with their requests and
// responses, the answers to what goes wrong, and who may enter.
package server

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"cressa/copies"
	"cressa/device"
	"cressa/photos"
	"cressa/workshop"
)

const (
	// maxBody is above the largest diagram file, JSON-quoted.
	maxBody = 8 << 20
	// readTimeout bounds how long a request may take to arrive.
	readTimeout = 20 * time.Second
	// writeTimeout bounds how long a request may take as a whole.
	writeTimeout = 60 * time.Second
	// shutdownTimeout is how long requests under way may still take at the end.
	shutdownTimeout = 5 * time.Second
)

// policy lets nothing in from outside. The hash is that of the empty style sheet
// that the UI's style library fills from script.
const policy = "default-src 'self'; script-src 'self'; " +
	"style-src 'self' 'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='; " +
	"img-src 'self' data: blob:; worker-src 'self' blob:; object-src 'none'; " +
	"base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

// Server serves one workshop.
type Server struct {
	echo     *echo.Echo
	workshop *workshop.Workshop
	routes   []route
	// hosts are the addresses it answers to.
	hosts     map[string]bool
	admission *admission
	// copier makes copies of the folder of the records and brings them back; photos are its pictures.
	copier *copier
	photos photos.Dir
	// replaced tells that a copy is to take the records' place, end ends Serve for that.
	replaced atomic.Bool
	end      context.CancelFunc
	// heavy lends the cores to what takes seconds.
	heavy *pool
	// background is what long work runs in, until finish ends it. Trials and sweeping are the
	// machine errors and sweeps of diagrams, fitting the searches for stones in rough, varying those for
	// changed diagrams and splitting those for saw cuts.
	background context.Context
	finish     context.CancelFunc
	trials     *relay[ToleranceLine]
	sweeping   *relay[SweepLine]
	fitting    *relay[FittingLine]
	varying    *relay[VariantLine]
	splitting  *relay[SplitLine]
	// devices are the instruments on the bench; reading is held while others are read. logs tells what the logs got.
	devices *device.Hub
	reading sync.Mutex
	logs    logNews
	// leaving ends what would otherwise go on for as long as a page is open.
	leaving context.Context
	leave   context.CancelFunc
	// judging is told that diagrams may wait to be judged.
	judging chan struct{}
}

// New returns a server of the workshop, of the folder that its records and pictures are in, and of
// the UI's built files. Log gets one line a request.
func New(w *workshop.Workshop, folder copies.Folder, ui fs.FS, log *slog.Logger) *Server {
	s := plain(log)
	s.workshop, s.photos = w, folder.Pictures()
	s.admission = &admission{door: door{now: time.Now}}
	s.copier = &copier{folder: folder, work: newRelay[CopyingLine]()}
	s.heavy, s.judging, s.devices = newPool(runtime.GOMAXPROCS(0)), make(chan struct{}, 1), &device.Hub{}
	s.background, s.finish = context.WithCancel(context.Background())
	s.trials, s.sweeping, s.fitting = newRelay[ToleranceLine](), newRelay[SweepLine](), newRelay[FittingLine]()
	s.varying, s.splitting = newRelay[VariantLine](), newRelay[SplitLine]()
	s.echo.Pre(s.checkDevice)
	s.echo.Use(s.judgeAfter)
	s.diagramRoutes()
	s.editingRoutes()
	s.freehandRoutes()
	s.orderRoutes()
	s.anglesRoutes()
	s.fitRoutes()
	s.errorRoutes()
	s.solidRoutes()
	s.lightRoutes()
	s.sweepRoutes()
	s.exportRoutes()
	s.doorRoutes()
	s.runRoutes()
	s.repairRoutes()
	s.stoneRoutes()
	s.listRoutes()
	s.benchRoutes()
	s.adaptRoutes()
	s.mendRoutes()
	s.recutRoutes()
	s.redopRoutes()
	s.seatRoutes()
	s.slipRoutes()
	s.adapterRoutes()
	s.asCutRoutes()
	s.cardRoutes()
	s.machineRoutes()
	s.eventRoutes()
	s.workshopRoutes()
	s.copyRoutes()
	s.kitRoutes()
	s.trialRoutes()
	s.roughRoutes()
	s.faceRoutes()
	s.variantRoutes()
	s.gluingRoutes()
	s.instrumentRoutes()
	s.liveRoutes()
	s.echo.Any("/api/*", func(*echo.Context) error { return echo.ErrNotFound })
	s.serveUI(ui, "index.html")
	return s
}

// plain returns a server that answers its own pages at its own address, without routes.
func plain(log *slog.Logger) *Server {
	s := &Server{echo: echo.New(), hosts: map[string]bool{}}
	s.leaving, s.leave = context.WithCancel(context.Background())
	s.echo.Logger = log
	s.echo.HTTPErrorHandler = answerProblem
	s.echo.Pre(middleware.SecureWithConfig(middleware.SecureConfig{
		ContentTypeNosniff: "nosniff", XFrameOptions: "DENY",
		ContentSecurityPolicy: policy, ReferrerPolicy: "no-referrer",
	}), keepToOwnPages, s.checkSender)
	s.echo.Use(
		requestLog(log),
		middleware.Recover(),
		s.limitBody,
		middleware.GzipWithConfig(middleware.GzipConfig{MinLength: 1024, Skipper: s.isStream}),
	)
	return s
}

// keepToOwnPages keeps answers out of other sites' pages.
func keepToOwnPages(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		c.Response().Header().Set("Cross-Origin-Resource-Policy", "same-origin")
		return next(c)
	}
}

// limitBody bounds what a request brings by what its route takes.
func (s *Server) limitBody(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		most := int64(maxBody)
		if i := slices.IndexFunc(s.routes, func(r route) bool { return r.method == c.Request().Method && r.path == c.Path() }); i >= 0 {
			most = cmp.Or(s.routes[i].body, most)
		}
		if c.Request().ContentLength > most {
			return tooLarge
		}
		c.Request().Body = http.MaxBytesReader(c.Response(), c.Request().Body, most)
		return next(c)
	}
}

func requestLog(log *slog.Logger) echo.MiddlewareFunc {
	return middleware.RequestLoggerWithConfig(middleware.RequestLoggerConfig{
		LogMethod: true, LogURIPath: true, LogStatus: true, LogLatency: true, HandleError: true,
		LogValuesFunc: func(_ *echo.Context, v middleware.RequestLoggerValues) error {
			log.Info("request", "method", v.Method, "path", v.URIPath, "status", v.Status, "took", v.Latency)
			return nil
		},
	})
}

// checkSender lets in only requests to the address that is served, from its own
// pages: another site's page in the same browser can neither read nor write, also
// where it has its own name point to this machine.
func (s *Server) checkSender(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		if !s.hosts[r.Host] {
			return &Problem{Status: http.StatusMisdirectedRequest, Detail: fmt.Sprintf("This program does not answer to the address %q. Use the one it printed when it started.", r.Host)}
		}
		if fromElsewhere(r) {
			return &Problem{Status: http.StatusForbidden, Detail: "The request comes from another site's page."}
		}
		return next(c)
	}
}

// fromElsewhere tells whether a browser says that another site's page sends a request. A link to a
// room may stand anywhere.
func fromElsewhere(r *http.Request) bool {
	if origin := r.Header.Get("Origin"); origin != "" {
		scheme := "http"
		if r.TLS != nil {
			scheme = "https"
		}
		from, err := url.Parse(origin)
		if err != nil || from.Host != r.Host || from.Scheme != scheme {
			return true
		}
	}
	switch r.Header.Get("Sec-Fetch-Site") {
	case "", "same-origin", "none":
		return false
	}
	return r.Method != http.MethodGet || strings.HasPrefix(r.URL.Path, "/api/") || r.Header.Get("Sec-Fetch-Mode") != "navigate"
}

// answerTo makes the server answer to the address it listens on, under each name
// that the machine itself has for it.
func (s *Server) answerTo(addr net.Addr) {
	own, port, err := net.SplitHostPort(addr.String())
	if err != nil {
		return
	}
	for _, name := range []string{own, "127.0.0.1", "localhost", "::1"} {
		s.answerToAddress(net.JoinHostPort(name, port))
	}
}

// answerToAddress makes it answer to an address; browsers leave out the usual port.
func (s *Server) answerToAddress(address string) {
	s.hosts[address] = true
	for _, usual := range []string{":80", ":443"} {
		if name, cut := strings.CutSuffix(address, usual); cut {
			s.hosts[name] = true
		}
	}
}

// OpenTo lets paired devices in over the network. It is called before Serve.
func (s *Server) OpenTo(n Network) {
	s.admission.network = n
	for _, address := range n.Addresses {
		s.answerToAddress(address)
	}
}

// startConfig tells how a server listens until the context ends.
func startConfig(ctx context.Context, listener net.Listener, ready func(net.Addr)) echo.StartConfig {
	return echo.StartConfig{
		Listener: listener, HideBanner: true, HidePort: true, GracefulTimeout: shutdownTimeout,
		ListenerAddrFunc: ready,
		BeforeServeFunc: func(h *http.Server) error {
			h.ReadTimeout, h.WriteTimeout = readTimeout, writeTimeout
			h.BaseContext = func(net.Listener) context.Context { return context.WithoutCancel(ctx) }
			return nil
		},
	}
}

// Serve listens until the context ends, then lets requests under way finish. Ready is
// called with the address once it listens. It returns the first error of a listener, ErrReplaced
// where a copy is to take the records' place, and nil after an orderly end.
func (s *Server) Serve(ctx context.Context, listener net.Listener, ready func(net.Addr)) error {
	s.answerTo(listener.Addr())
	config := startConfig(ctx, listener, ready)
	// One listener that fails ends all of them.
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	s.end = stop
	var beside sync.WaitGroup
	beside.Go(func() { s.judge(ctx) })
	beside.Go(func() { s.copyInTime(ctx) })
	beside.Go(func() { s.watchLogs(ctx) })
	defer context.AfterFunc(ctx, s.leave)()
	if err := s.readInstruments(ctx); err != nil {
		s.echo.Logger.Warn("the instruments cannot be read", "error", err)
	}
	defer func() {
		stop()
		beside.Wait()
		// Long work ends with the server; what it has kept is kept.
		s.finish()
		s.trials.working.Wait()
		s.sweeping.working.Wait()
		s.fitting.working.Wait()
		s.varying.working.Wait()
		s.splitting.working.Wait()
		s.copier.work.working.Wait()
		s.devices.Close()
	}()
	ended := make(chan error)
	for _, l := range s.admission.network.Listeners {
		from := config
		from.Listener, from.ListenerAddrFunc = l, nil
		go func() {
			defer stop()
			ended <- from.Start(ctx, s.echo)
		}()
	}
	err := config.Start(ctx, s.echo)
	stop()
	for range s.admission.network.Listeners {
		err = errors.Join(err, <-ended)
	}
	if err == nil && s.replaced.Load() {
		return ErrReplaced
	}
	return err
}
