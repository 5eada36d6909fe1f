// Command screenshots takes a picture of each main view on the demo data, for the
// documentation.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"path/filepath"

	"github.com/chromedp/chromedp/kb"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

// view is one picture: where it starts, and what is done there.
type view struct {
	name   string
	path   string
	scheme string
	tablet bool
	// simulated tells that it is of the simulated machine's page.
	simulated bool
	steps     []step
}

type step func(*browser.Page) error

func click(name string) step { return func(p *browser.Page) error { return p.Click(name) } }

func clickOn(selector string) step {
	return func(p *browser.Page) error { return p.ClickOn(selector) }
}

func fill(label, text string) step {
	return func(p *browser.Page) error { return p.Fill(label, text) }
}

func see(text string) step { return func(p *browser.Page) error { return p.Mentions(text) } }

func selectTier(tier string) step {
	return func(p *browser.Page) error {
		if err := p.Click(tier); err != nil {
			return err
		}
		return p.Until("document.querySelector('table [aria-pressed=true]')")
	}
}

// lower turns the stone on the simulated machine, brings it down by three millimetres and lets the lap grind it.
func lower(tooth string) step {
	return func(p *browser.Page) error {
		for _, s := range []step{fill("Tooth", tooth), press(kb.Escape), click("Mast down to the stone"), press(kb.PageDown), press(kb.PageDown), press(kb.PageDown), click("Let the quill down")} {
			if err := s(p); err != nil {
				return err
			}
		}
		return p.Until(`document.querySelector('[data-state]').dataset.state === 'Grinding'`)
	}
}

// grind does so until the quill rests on its stop.
func grind(tooth string) step {
	return func(p *browser.Page) error {
		return errors.Join(lower(tooth)(p), p.Until(`document.querySelector('[data-state]').dataset.state === 'At stop'`), p.Click("Lift the quill"))
	}
}

func press(keys string) step { return func(p *browser.Page) error { return p.Press(keys) } }

// settled waits until nothing is fetched any more.
func settled(p *browser.Page) error {
	return p.Until("document.querySelector('polygon') && document.querySelector('main').dataset.busy === 'false'")
}

func seeDrawing(p *browser.Page) error { return p.Until("document.querySelector('polygon')") }

func seeLight(p *browser.Page) error {
	return p.Until("((all) => all.length > 0 && all.every((i) => i.naturalWidth > 200))([...document.querySelectorAll('[role=application] img')])")
}

var views = []view{
	{name: "today", path: "/", steps: []step{see("Resume"), seeDrawing}},
	{name: "diagrams", path: "/diagrams", steps: []step{see("Spiral Arm"), seeDrawing}},
	{name: "diagram", path: "/diagrams", steps: []step{click("Meridian"), see("keel"), seeDrawing, selectTier("P4")}},
	{name: "editor", path: "/diagrams", steps: []step{click("Three Sisters"), click("Edit a copy"), see("draft saved"), clickOn("input[data-name]"), seeDrawing}},
	{name: "angles", path: "/diagrams", steps: []step{click("Parallax"), see("keel"), click("Angles"), choose("Material", "Aquamarine"), see("Pavilion ×"), see("µm")}},
	{name: "freehand", path: "/freehand/new", tablet: true, steps: []step{
		fill("Name", "Pebble for the dome"), fill("Width of the rough", "9"), click("Begin"), click("Cone: 45°, 16 facets"), see("1 · to a centre point"), click("Cut it"), see("P1 45°"),
		fill("Angle", "90"), see("Pavilion up · G1"), click("2 · to this size"), fill("Across", "8"), click("Cut it"), see("G1 90°"),
		fill("Angle", "42"), choose("Facets", "8 round the stone"), see("1 · to the meet of"), see("draft saved"), seeDrawing,
	}},
	{name: "light", path: "/diagrams", steps: []step{click("Meridian"), see("keel"), clickOn("[href$='/light']"), see("Hours"), seeLight}},
	{name: "simulator", simulated: true, path: "/", steps: []step{
		see("Quill raised"), choose("Time", "16 times as fast"), fill("Stop at", "45"), grind("6"), grind("18"), grind("30"), grind("42"),
		choose("Time", "as it is"), lower("54"),
	}},
	{name: "rough", path: "/rough", steps: []step{click("Piece 1 · the olive block"), see("No turn gives"), seeLight, settled}},
	{name: "check", path: "/stones", steps: []step{click("Olive keel"), click("Check before gluing"), see("In order"), seeDrawing}},
	{name: "ways-out", path: "/stones", tablet: true, steps: []step{click("Round for the star party, one main too deep"), clickOn("main a[href^='/bench/']"), see("Done"), press("y"), see("Go this way"), press("3"), see("along the axis"), seeDrawing}},
	{name: "recut", path: "/logbook", steps: []step{
		click("3 · Gift for the meridian room"), click("Recut it"), see("as its log tells"), seeDrawing, clickOn("svg[aria-label='as it is']"), see("one flank in"), see("after:"), settled,
	}},
	{name: "plan", path: "/diagrams", steps: []step{click("Spiral Arm"), click("Plan a stone"), see("Calipers"), seeDrawing}},
	{name: "sheet", path: "/stones", steps: []step{click("Rose oval"), click("Sheet"), func(p *browser.Page) error { return p.Until("document.querySelector('.sheet-pages img')?.complete") }}},
	{name: "stone", path: "/stones", steps: []step{click("Rose oval"), see("Drag along it"), seeDrawing}},
	{name: "bench", path: "/", tablet: true, steps: []step{click("Resume at the wheel"), see("Done"), seeDrawing}},
	{name: "kit", path: "/kit?for=Peridot", steps: []step{see("shapes the stone"), clickOn("[data-thing][title*=coarser]"), see("What happened to it")}},
	{name: "logbook", path: "/logbook", steps: []step{see("Together")}},
	{name: "machine", path: "/machine", steps: []step{see("Window bench")}},
}

func choose(label, option string) step {
	return func(p *browser.Page) error { return p.Choose(label, option) }
}

func main() {
	out := flag.String("out", "docs/screenshots", "`folder` for the pictures")
	only := flag.String("only", "", "take only the picture of this `view`")
	flag.Parse()
	if err := run(context.Background(), *out, *only); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(ctx context.Context, out, only string) (err error) {
	dir, err := os.MkdirTemp("", "cressa-screenshots-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	binary, err := running.Build(ctx, dir)
	if err != nil {
		return err
	}
	app, err := running.Start(binary, "", "demo")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, app.Stop()) }()
	machine, err := running.Start(binary, "", "simulate", "--lines", "127.0.0.1:0")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, machine.Stop()) }()
	chromium, stop, err := browser.Start(ctx)
	if err != nil {
		return err
	}
	defer stop()
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	for _, v := range views {
		if only != "" && only != v.name {
			continue
		}
		url := app.URL
		if v.simulated {
			url = machine.URL
		}
		if err := take(chromium, url, filepath.Join(out, v.name+".png"), v); err != nil {
			return fmt.Errorf("%s: %w", v.name, err)
		}
	}
	return nil
}

func take(chromium context.Context, url, file string, v view) error {
	width, height := 1280, 800
	if v.tablet {
		width, height = 1024, 768
	}
	p, err := browser.Open(chromium, width, height)
	if err != nil {
		return err
	}
	defer p.Stop()
	if v.scheme == "" {
		v.scheme = "light"
	}
	if err := p.Scheme(v.scheme); err != nil {
		return err
	}
	if err := p.Go(url + v.path); err != nil {
		return err
	}
	for _, s := range v.steps {
		if err := s(p); err != nil {
			return err
		}
	}
	// What is still being fetched is no picture of a room.
	if err := p.Until("!document.querySelector('main [role=progressbar]')"); err != nil {
		return err
	}
	return p.Shot(file)
}
