package e2e_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

// watch notes, for every key that is pressed, how long it takes until an attribute of what
// is below an element has changed.
const watch = `(() => {
	window.took = [];
	window.drawn = 0;
	let pressed = 0;
	window.addEventListener('keydown', () => { pressed = window.timing ? performance.now() : 0 }, true);
	new MutationObserver(() => {
		window.drawn++;
		if (pressed) window.took.push(performance.now() - pressed);
		pressed = 0;
	}).observe(document.querySelector('%s'), { subtree: true, attributes: true, attributeFilter: ['%s'] });
	return true;
})()`

// BenchmarkAChangedAngle types angles into the editor and reports how long the new
// stone takes to stand on the screen.
func BenchmarkAChangedAngle(b *testing.B) {
	timeAngles(b, "main", "points", `document.querySelector('main').dataset.busy === 'false'`,
		func(p *browser.Page) error { return p.Until(`document.querySelector('polygon')`) })
}

// BenchmarkALitAngle does the same with the picture under light.
func BenchmarkALitAngle(b *testing.B) {
	timeAngles(b, "[role=application]", "src", refined, func(p *browser.Page) error {
		return errors.Join(p.Click("Light"), p.Until(refined))
	})
}

// timeAngles opens the editor, prepares the view and types angles. It reports in ms how
// long an attribute of what is watched takes to change: median and 95th percentile.
func timeAngles(b *testing.B, watched, attribute, settled string, prepare func(*browser.Page) error) {
	for _, name := range []string{"First Light", "Deep Field"} {
		b.Run(name, func(b *testing.B) {
			app, err := running.Start(binary, "", "demo")
			require.NoError(b, err)
			defer app.Kill() //nolint:errcheck // the measurement is over
			p, err := browser.Open(chromium, 1280, 800)
			require.NoError(b, err)
			defer p.Stop()
			require.NoError(b, p.Go(app.URL+"/diagrams"))
			require.NoError(b, p.Click(name))
			require.NoError(b, p.Click("Edit a copy"))
			require.NoError(b, p.Until(rows+`.startsWith('P1')`))
			require.NoError(b, prepare(p))
			_, err = browser.Eval[bool](p, fmt.Sprintf(watch, watched, attribute))
			require.NoError(b, err)
			// Every angle is another one, so that no stone is known from before. Only
			// the last digit is timed, typed once the page has come to rest.
			for n := 0; b.Loop(); n++ {
				require.NoError(b, p.Until(settled))
				drawn, err := browser.Eval[int](p, `window.timing = false, window.drawn`)
				require.NoError(b, err)
				require.NoError(b, p.Fill("C3 Angle °", fmt.Sprintf("24.%02d", n%99+1)))
				require.NoError(b, p.Until(fmt.Sprintf(`window.drawn > %d && %s`, drawn, settled)))
				before, err := browser.Eval[int](p, `window.timing = true, window.took.length`)
				require.NoError(b, err)
				require.NoError(b, p.Press("5"))
				require.NoError(b, p.Until(fmt.Sprintf(`window.took.length > %d`, before)))
			}
			took, err := browser.Eval[[]float64](p, `window.took`)
			require.NoError(b, err)
			require.NotEmpty(b, took)
			slices.Sort(took)
			b.ReportMetric(took[len(took)/2], "ms-median")
			b.ReportMetric(took[len(took)*95/100], "ms-p95")
		})
	}
}

// nextFacet notes, for every key that is pressed, how long it takes until other digits stand on the bench and were
// painted.
const nextFacet = `(() => {
	window.took = [];
	const digits = () => [...document.querySelectorAll('[data-digits]')].map((e) => e.textContent).join(' ');
	let pressed = 0, stood = '';
	window.addEventListener('keydown', () => { pressed = performance.now(); stood = digits(); }, true);
	new MutationObserver(() => {
		if (!pressed || digits() === stood) return;
		const from = pressed;
		pressed = 0;
		requestAnimationFrame(() => setTimeout(() => window.took.push(performance.now() - from)));
	}).observe(document.querySelector('main'), { subtree: true, characterData: true, childList: true });
	// Keys are heard once the page was painted.
	requestAnimationFrame(() => setTimeout(() => { window.listens = true }));
	return true;
})()`

// BenchmarkAKeyAtTheBench cuts facets by a key on a stone with a log of 20 000 entries, and reports how long the next
// one takes to stand on the screen.
func BenchmarkAKeyAtTheBench(b *testing.B) {
	for _, entries := range []int{0, 20_000} {
		b.Run(fmt.Sprintf("%d entries", entries), func(b *testing.B) {
			app, err := running.Start(binary, "", "demo")
			require.NoError(b, err)
			defer app.Kill() //nolint:errcheck // the measurement is over
			id := planOnce(b, app.URL)
			tickAndTakeBack(b, app.URL, id, entries/2)
			p, err := browser.Open(chromium, 1280, 800)
			require.NoError(b, err)
			defer p.Stop()
			require.NoError(b, p.Go(app.URL+"/bench/"+id))
			require.NoError(b, p.Until(`document.querySelector('[data-digits]')`))
			_, err = browser.Eval[bool](p, nextFacet)
			require.NoError(b, err)
			require.NoError(b, p.Until(`window.listens`))
			// A hand that is quick waits for the next facet, and no longer.
			for n := 1; b.Loop(); n++ {
				key := " "
				if n%40 > 20 {
					key = "\b"
				}
				require.NoError(b, p.Press(key))
				require.NoError(b, p.Until(fmt.Sprintf(`window.took.length >= %d`, n)))
			}
			took, err := browser.Eval[[]float64](p, `window.took`)
			require.NoError(b, err)
			slices.Sort(took)
			b.ReportMetric(took[len(took)/2], "ms-median")
			b.ReportMetric(took[len(took)*95/100], "ms-p95")
		})
	}
}

// tickAndTakeBack fills the log of a stone with so many ticks of its first facets, each taken back.
func tickAndTakeBack(t testing.TB, url, id string, ticks int) {
	t.Helper()
	var script struct {
		WorkID string
		Facets []struct{ ID string }
		Visits []struct {
			Setup, Pass string
			Facet       int
		}
	}
	fetch(t, url+"/api/stones/"+id+"/script", &script)
	var events []any
	add := func(kind string, payload any) string {
		n := len(events) + 1
		name := fmt.Sprintf("be9c%028x", n)
		events = append(events, map[string]any{
			"id": name, "stream": "work/" + script.WorkID, "device": "other", "deviceSeq": n, "deviceTime": "2026-03-01T10:00:00Z",
			"kind": kind, "version": 1, "payload": payload,
		})
		return name
	}
	for i := range ticks {
		v := script.Visits[i%len(script.Visits)]
		add("undo", map[string]any{"undoes": add("done", map[string]any{"setup": v.Setup, "pass": v.Pass, "facet": script.Facets[v.Facet].ID})})
	}
	for batch := range slices.Chunk(events, 400) {
		body, err := json.Marshal(map[string]any{"events": batch})
		require.NoError(t, err)
		answer, err := http.Post(url+"/api/events", "application/json", bytes.NewReader(body))
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		require.Equal(t, http.StatusOK, answer.StatusCode)
	}
}

// BenchmarkAReadingAtTheBench sends readings of a height dial, twenty a second, and reports how long one takes to stand
// on the bench as digits: median and 95th percentile in ms.
func BenchmarkAReadingAtTheBench(b *testing.B) {
	app, err := running.Start(binary, "", "demo")
	require.NoError(b, err)
	defer app.Kill() //nolint:errcheck // the measurement is over
	dial, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	defer dial.Close()
	id := planOnce(b, app.URL)
	readFrom(b, app.URL, "Dial", dial.Addr().String())
	line, err := dial.Accept()
	require.NoError(b, err)
	defer line.Close()
	_, err = fmt.Fprintln(line, "height 9 mm")
	require.NoError(b, err)
	p, err := browser.Open(chromium, 1280, 800)
	require.NoError(b, err)
	defer p.Stop()
	require.NoError(b, p.Go(app.URL+"/bench/"+id))
	require.NoError(b, p.Until(`document.querySelector('[data-live]')`))
	_, err = browser.Eval[bool](p, `(() => {
		window.shown = {};
		new MutationObserver(() => {
			const text = document.querySelector('[data-live]')?.dataset.live;
			if (text && !(text in window.shown)) window.shown[text] = performance.timeOrigin + performance.now();
		}).observe(document.querySelector('main'), { subtree: true, attributes: true, childList: true, attributeFilter: ['data-live'] });
		return true;
	})()`)
	require.NoError(b, err)
	const readings = 200
	for b.Loop() {
		sent := map[string]time.Time{}
		every := time.NewTicker(50 * time.Millisecond)
		for n := range readings {
			mm := strconv.FormatFloat(10+float64(n)/100, 'f', -1, 64)
			sent[mm+" mm"] = time.Now()
			_, err := fmt.Fprintf(line, "height %s mm\n", mm)
			require.NoError(b, err)
			<-every.C
		}
		every.Stop()
		require.NoError(b, p.Until(fmt.Sprintf(`Object.keys(window.shown).length >= %d`, readings*9/10)))
		shown, err := browser.Eval[map[string]float64](p, `window.shown`)
		require.NoError(b, err)
		var took []float64
		for text, at := range shown {
			if from, ok := sent[text]; ok {
				took = append(took, at-float64(from.UnixMicro())/1000)
			}
		}
		slices.Sort(took)
		b.ReportMetric(took[len(took)/2], "ms-median")
		b.ReportMetric(took[len(took)*95/100], "ms-p95")
	}
}
