// Package browser drives the real interface in a headless Chromium, as a person
// would: by what stands on buttons and beside fields. It waits for what it looks
// for; it never sleeps.
package browser

import (
	"context"
	_ "embed"
	"errors"
	"fmt"
	"os"
	"strings"
	"sync"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/inspector"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

//go:embed find.js
var finder string

// patience is how long a thing may take to come. It is long because machines are
// shared, and only a failing test waits for all of it.
const patience = 60 * time.Second

// Start starts Chromium. The context it returns lives until cancel is called. Trusted
// are hashes of public keys, as CSP writes them, whose certificates are taken for good.
func Start(parent context.Context, trusted ...string) (ctx context.Context, cancel func(), err error) {
	return start(parent, trusted)
}

// StartHearing starts another Chromium whose microphone hears a WAV file over and over again, and which lets pages listen
// without asking.
func StartHearing(parent context.Context, wav string) (ctx context.Context, cancel func(), err error) {
	return start(parent, nil,
		chromedp.Flag("use-fake-device-for-media-stream", true),
		chromedp.Flag("use-fake-ui-for-media-stream", true),
		chromedp.Flag("use-file-for-fake-audio-capture", wav),
	)
}

func start(parent context.Context, trusted []string, more ...chromedp.ExecAllocatorOption) (ctx context.Context, cancel func(), err error) {
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.Flag("no-sandbox", true),
		chromedp.Flag("disable-component-update", true),
		chromedp.Flag("disable-quic", true),
		chromedp.Flag("enable-unsafe-swiftshader", true),
		chromedp.Flag("force-color-profile", "srgb"),
		chromedp.Flag("lang", "en-GB"),
	)
	if len(trusted) > 0 {
		options = append(options, chromedp.Flag("ignore-certificate-errors-spki-list", strings.Join(trusted, ",")))
	}
	allocator, stop := chromedp.NewExecAllocator(parent, append(options, more...)...)
	ctx, end := chromedp.NewContext(allocator)
	if err := chromedp.Do(ctx); err != nil {
		end()
		stop()
		return nil, nil, err
	}
	return ctx, func() { end(); stop() }, nil
}

// Page is a tab of its own browser profile.
type Page struct {
	ctx  context.Context
	Stop func()
	mu   sync.Mutex
	// complaints are what the page wrote to its console as errors.
	complaints []string
}

// Open opens a tab of the given size in a new profile.
func Open(browser context.Context, width, height int) (*Page, error) {
	ctx, stop := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	return prepare(ctx, stop, width, height)
}

// Another opens another tab of the same profile. It ends with this one.
func (p *Page) Another(width, height int) (*Page, error) {
	ctx, stop := chromedp.NewContext(p.ctx)
	return prepare(ctx, stop, width, height)
}

// prepare sizes a tab, listens to what it complains of and gives it the finder.
func prepare(ctx context.Context, stop func(), width, height int) (*Page, error) {
	p := &Page{ctx: ctx, Stop: stop}
	err := chromedp.Do(ctx, chromedp.EmulateViewport(int64(width), int64(height)))
	if err == nil {
		err = chromedp.Listen(ctx, p.listen)
	}
	if err == nil {
		_, err = chromedp.Call(ctx, log.Enable, cdp.Empty{})
	}
	if err == nil {
		_, err = chromedp.Call(ctx, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: finder})
	}
	return p, err
}

func (p *Page) listen(event any) {
	var said string
	switch e := event.(type) {
	case *runtime.EventExceptionThrown:
		said = e.ExceptionDetails.Text
		if e.ExceptionDetails.Exception != nil {
			said += " " + e.ExceptionDetails.Exception.Description
		}
	case *log.EventEntryAdded:
		// A connection that is held for good is said to have failed whenever its server ends.
		held := strings.HasSuffix(e.Entry.URL, "/api/live") && strings.Contains(e.Entry.Text, "net::")
		if e.Entry.Level == log.EntryLevelError && !held {
			said = e.Entry.Text + " " + e.Entry.URL
		}
	}
	if said == "" {
		return
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	p.complaints = append(p.complaints, said)
}

// Complaints returns what the page reported as errors, but for those that contain
// one of the given words.
func (p *Page) Complaints(expected ...string) []string {
	p.mu.Lock()
	defer p.mu.Unlock()
	var out []string
	for _, c := range p.complaints {
		known := false
		for _, word := range expected {
			known = known || strings.Contains(c, word)
		}
		if !known {
			out = append(out, c)
		}
	}
	return out
}

// Do runs steps with a bound on how long they may take.
func (p *Page) Do(steps ...chromedp.Action[chromedp.Void]) error {
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	return chromedp.Do(ctx, steps...)
}

// Go opens an address.
func (p *Page) Go(url string) error { return p.Do(chromedp.Navigate(url)) }

// Before runs a script in every page that is loaded from now on, before the page's own.
func (p *Page) Before(script string) error {
	_, err := chromedp.Call(p.ctx, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: script})
	return err
}

// Reload loads the page anew.
func (p *Page) Reload() error { return p.Do(chromedp.Reload()) }

// Crash ends the process that shows the page, as a browser that is killed does. Go opens another.
func (p *Page) Crash() error {
	ctx, done := context.WithCancel(p.ctx)
	defer done()
	crashed := make(chan struct{})
	if _, err := chromedp.Call(ctx, inspector.Enable, cdp.Empty{}); err != nil {
		return err
	}
	if err := chromedp.Listen(ctx, func(event any) {
		if _, is := event.(*inspector.EventTargetCrashed); is {
			close(crashed)
		}
	}); err != nil {
		return err
	}
	// No answer comes from what is gone.
	go func() { _, _ = chromedp.Call(ctx, page.Crash, cdp.Empty{}) }()
	select {
	case <-crashed:
		return nil
	case <-time.After(patience):
		return errors.New("the page does not crash")
	}
}

// Obstacles lists what keeps the browser from installing the page as an application.
func (p *Page) Obstacles() ([]string, error) {
	found, err := chromedp.Call(p.ctx, page.GetInstallabilityErrors, cdp.Empty{})
	if err != nil {
		return nil, err
	}
	var out []string
	for _, e := range found.InstallabilityErrors {
		out = append(out, e.ErrorID)
	}
	return out, nil
}

// Scheme makes the system ask for a light or a dark page.
func (p *Page) Scheme(scheme string) error {
	_, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
		Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-reduced-motion", Value: "reduce"}},
	})
	return err
}

// Eval runs a script that gives a T.
func Eval[T any](p *Page, script string) (T, error) {
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Evaluate[T](script))
}

// Until waits until a script gives something true.
func (p *Page) Until(script string) error {
	_, err := until[bool](p, "!!("+script+")")
	return err
}

// until waits until a script gives something true and returns it.
func until[T any](p *Page, script string) (T, error) {
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	found, err := chromedp.Run(ctx, chromedp.Poll[T](script, chromedp.WithPollingTimeout(patience)))
	// The page may load anew while it is being asked; then the new one is asked.
	for err != nil && loadsAnew(err) && ctx.Err() == nil {
		found, err = chromedp.Run(ctx, chromedp.Poll[T](script, chromedp.WithPollingTimeout(patience)))
	}
	if err != nil {
		text, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string]("cressaState()"))
		return found, fmt.Errorf("waiting for %s: %w; the page shows:\n%s", script, err, text)
	}
	return found, nil
}

// loadsAnew tells whether a question failed because the page was being loaded.
func loadsAnew(err error) bool {
	for _, said := range []string{"navigated", "Cannot find context", "context was destroyed"} {
		if strings.Contains(err.Error(), said) {
			return true
		}
	}
	return false
}

// See waits until the page says just this, in a line or a cell of its own.
func (p *Page) See(text string) error {
	return p.Until(fmt.Sprintf("cressaShows(%q)", text))
}

// Mentions waits until the page says this somewhere, as whole words.
func (p *Page) Mentions(text string) error {
	return p.Until(fmt.Sprintf("cressaMentions(%q)", text))
}

// spot is the middle of an element on the screen.
type spot struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Click clicks what has the given name: a button, a link, a choice, a row.
func (p *Page) Click(name string) error {
	return p.clickOn(fmt.Sprintf("cressaFind('click', %q)", name))
}

// ClickOn clicks what a CSS selector finds first.
func (p *Page) ClickOn(selector string) error {
	return p.clickOn(fmt.Sprintf("document.querySelector(%q)", selector))
}

// clickOn clicks the element that a script gives. Where the page moved between the
// look and the press, it looks again.
func (p *Page) clickOn(script string) error {
	const tries = 5
	for range tries {
		at, err := until[spot](p, "cressaSpot("+script+")")
		if err != nil {
			return err
		}
		if err := p.Do(chromedp.MouseClickXY(at.X, at.Y)); err != nil {
			return err
		}
		missed, err := Eval[bool](p, "window.cressaHit === false")
		if err != nil && loadsAnew(err) {
			// The press has sent the page on: the one that was aimed at is gone.
			return nil
		}
		if err != nil || !missed {
			return err
		}
	}
	return fmt.Errorf("%s does not keep still", script)
}

// Drag grabs what a CSS selector finds first, moves it by so many pixels and lets go.
func (p *Page) Drag(selector string, right, down float64) error {
	return p.DragSlowly(selector, right, down, "true")
}

// DragSlowly drags, but lets go only once a script gives something true.
func (p *Page) DragSlowly(selector string, right, down float64, ready string) error {
	at, err := until[spot](p, fmt.Sprintf("cressaSpot(document.querySelector(%q))", selector))
	if err != nil {
		return err
	}
	mouse := func(kind input.DispatchMouseEventType, x, y float64) error {
		return p.Do(chromedp.MouseEvent(kind, x, y, chromedp.ButtonLeft))
	}
	if err := mouse(chromedp.MousePressed, at.X, at.Y); err != nil {
		return err
	}
	const steps = 12
	for i := 1; i <= steps; i++ {
		share := float64(i) / steps
		if err := mouse(chromedp.MouseMoved, at.X+share*right, at.Y+share*down); err != nil {
			return err
		}
	}
	if err := p.Until(ready); err != nil {
		return err
	}
	return mouse(chromedp.MouseReleased, at.X+right, at.Y+down)
}

// Fill replaces what stands in the field with the given label, by keyboard.
func (p *Page) Fill(label, text string) error {
	find := fmt.Sprintf("cressaFind('field', %q)", label)
	if err := p.Until(find); err != nil {
		return err
	}
	focused, err := Eval[bool](p, fmt.Sprintf("(() => { const f = %s; f.focus(); f.select(); return document.activeElement === f })()", find))
	if err != nil {
		return err
	}
	if !focused {
		return fmt.Errorf("the field %q does not take the focus", label)
	}
	if text == "" {
		return p.Press(kb.Delete)
	}
	return p.Press(text)
}

// Choose picks an option from the list with the given label. The list is opened by a
// key: a mouse button that is let go over a list just opened would pick from it.
func (p *Page) Choose(label, option string) error {
	list := fmt.Sprintf("cressaFind('list', %q)", label)
	if _, err := until[spot](p, "cressaSpot("+list+")"); err != nil {
		return err
	}
	if err := p.Until(fmt.Sprintf("(%s.focus(), document.activeElement === %[1]s)", list)); err != nil {
		return err
	}
	if err := p.Press(kb.ArrowDown); err != nil {
		return err
	}
	if err := p.clickOn(fmt.Sprintf("cressaFind('option', %q)", option)); err != nil {
		return err
	}
	return p.Until("!document.querySelector('[role=listbox]')")
}

// Upload gives files to the page's file field.
func (p *Page) Upload(files ...string) error {
	return p.Do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), files))
}

// Press types keys into what has the focus. Special keys come from package kb.
func (p *Page) Press(keys string) error {
	for _, r := range keys {
		if err := p.stroke(r, 1); err != nil {
			return err
		}
	}
	return nil
}

// Hold holds a key down until it has come so often.
func (p *Page) Hold(key string, times int) error { return p.stroke([]rune(key)[0], times) }

// stroke presses a key, which comes so often before it is let go. A key and its character
// are one event, as at a keyboard: a page that takes the key gets no character.
func (p *Page) stroke(r rune, times int) error {
	events := kb.Encode(r)
	down, up := *events[0], *events[len(events)-1]
	if len(events) == 3 {
		down.Text, down.UnmodifiedText = events[1].Text, events[1].UnmodifiedText
	}
	for i := range times {
		repeated := i > 0
		down.AutoRepeat = &repeated
		if _, err := chromedp.Call(p.ctx, input.DispatchKeyEvent, down); err != nil {
			return err
		}
	}
	_, err := chromedp.Call(p.ctx, input.DispatchKeyEvent, up)
	return err
}

// Chord presses a key with others held down.
func (p *Page) Chord(key string, held ...chromedp.Modifier) error {
	return p.Do(chromedp.KeyEvent(key, chromedp.KeyModifiers(held...)))
}

// Shot writes a picture of the page, once its fonts are there.
func (p *Page) Shot(file string) error {
	if err := p.Until("document.fonts.status === 'loaded'"); err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	picture, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	return errors.Join(err, os.WriteFile(file, picture, 0o644))
}
