package e2e_test

import (
	"errors"
	"fmt"
	"slices"
	"testing"

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
