package e2e_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
	"cressa/e2e/running"
)

// watch notes, for every key that is pressed, how long it takes until the drawing
// of the stone has changed.
const watch = `(() => {
	window.took = [];
	window.drawn = 0;
	let pressed = 0;
	window.addEventListener('keydown', () => { pressed = window.timing ? performance.now() : 0 }, true);
	new MutationObserver(() => {
		window.drawn++;
		if (pressed) window.took.push(performance.now() - pressed);
		pressed = 0;
	}).observe(document.querySelector('main'), { subtree: true, attributes: true, attributeFilter: ['points'] });
	return true;
})()`

// BenchmarkAChangedAngle types angles into the editor and reports how long the new
// stone takes to stand on the screen, in ms: median and 95th percentile.
func BenchmarkAChangedAngle(b *testing.B) {
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
			require.NoError(b, p.Until(`document.querySelector('polygon')`))
			_, err = browser.Eval[bool](p, watch)
			require.NoError(b, err)
			// Every angle is another one, so that no stone is known from before. Only
			// the last digit is timed, typed once the page has come to rest.
			for n := 0; b.Loop(); n++ {
				drawn, err := browser.Eval[int](p, `window.timing = false, window.drawn`)
				require.NoError(b, err)
				require.NoError(b, p.Fill("C3 Angle °", fmt.Sprintf("24.%02d", n%99+1)))
				require.NoError(b, p.Until(fmt.Sprintf(`window.drawn > %d && document.querySelector('main').getAttribute('aria-busy') === 'false'`, drawn)))
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
