package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// refined is true once the picture shows what was asked for with all its rays.
const refined = `document.querySelector('[role=application][aria-busy=false] img')?.naturalWidth > 200`

// pictured is the picture on the screen.
const pictured = `document.querySelector('[role=application] img').src`

// While angles are typed the picture under light follows; where they make no stone the
// last one stays.
func TestThePictureFollowsTheAngles(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("First Light")
	u.click("Edit a copy")
	u.see("draft saved")
	u.click("Light")
	u.until(refined)
	first, err := browser.Eval[string](u.Page, pictured)
	require.NoError(t, err)
	u.fill("P2 Angle °", "40.5")
	u.until(fmt.Sprintf("%s !== %q", pictured, first))
	u.until(refined)
	second, err := browser.Eval[string](u.Page, pictured)
	require.NoError(t, err)
	u.fill("P2 Angle °", "forty")
	u.mentions("Type a number such as")
	still, err := browser.Eval[bool](u.Page, fmt.Sprintf("%s === %q", pictured, second))
	require.NoError(t, err)
	assert.True(t, still)
	u.fill("P2 Angle °", "42.5")
	u.until(fmt.Sprintf("%s === %q", pictured, first))
	u.quiet()
}

// The map shows in its colours the shares that stand beside it, face up and tilted.
func TestTheMapShowsItsShares(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("Spiral Arm")
	u.see("On your gears")
	u.click("Under light")
	u.see("Is a polished girdle worth it?")
	u.click("where light goes")
	agrees := func() {
		u.until(refined)
		differs, err := browser.Eval[float64](u.Page, `(() => {
			const img = document.querySelector('[role=application] img');
			const c = document.createElement('canvas');
			c.width = c.height = img.naturalWidth;
			const g = c.getContext('2d');
			g.drawImage(img, 0, 0);
			const d = g.getImageData(0, 0, c.width, c.height).data;
			const seen = {};
			let rays = 0;
			for (let i = 0; i < d.length; i += 4) {
				if (d[i + 3] === 0) continue;
				rays++;
				const k = 'rgb(' + [d[i], d[i + 1], d[i + 2]].join(', ') + ')';
				seen[k] = (seen[k] ?? 0) + 1;
			}
			const rows = [...document.querySelectorAll('ul[aria-label^="Shares of the picture"] li')];
			if (rows.length !== 3 || rays < 1000) return 1;
			return Math.max(...rows.map((r) => {
				const colour = getComputedStyle(r.firstChild).backgroundColor;
				return Math.abs((seen[colour] ?? 0) / rays - parseFloat(r.innerText.match(/([\d.]+) %/)[1]) / 100);
			}));
		})()`)
		require.NoError(t, err)
		assert.LessOrEqual(t, differs, 0.0006, "shares are told to a tenth of a percent")
	}
	agrees()
	faceUp, err := browser.Eval[string](u.Page, pictured)
	require.NoError(t, err)
	require.NoError(t, u.Drag("[role=application] img", -90, 40))
	u.mentions("tilted")
	u.until(fmt.Sprintf("%s !== %q", pictured, faceUp))
	agrees()
	_, err = browser.Eval[bool](u.Page, `document.querySelector('[role=application]').focus(), true`)
	require.NoError(t, err)
	u.press(kb.Home)
	u.mentions("face up")
	u.until(fmt.Sprintf("%s === %q", pictured, faceUp))

	// Another material has other light; the address remembers it.
	const returned = `parseFloat(document.querySelector('section[aria-label="Figures, face up"] dd').innerText)`
	before, err := browser.Eval[float64](u.Page, returned)
	require.NoError(t, err)
	u.choose("Material", "Practice glass")
	u.until(fmt.Sprintf(`%s !== %v && document.querySelector('main').innerText.includes('n 1.51')`, returned, before))
	require.NoError(t, u.Reload())
	u.until(`document.querySelector('main')?.innerText.includes('n 1.51')`)
	u.until(`document.querySelectorAll('section[aria-label="In other materials"] tbody tr').length >= 5`)
	u.until(`document.querySelectorAll('section[aria-label^="Is a polished"] tbody tr').length === 3`)
	u.until(`document.querySelectorAll('section[aria-label="When it is tilted"] svg path').length >= 2`)
	u.quiet()
}

// A sweep that is left, found again and cancelled, one that is kept over a reload, a point
// that becomes a variant, and both beside each other in one material.
func TestASweepBecomesAVariant(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/diagrams")
	u.click("First Light")
	u.see("On your gears")
	u.click("Under light")
	u.click("Sweep the angles")
	u.see("Points a side")
	u.choose("Material", "Quartz")
	u.fill("Points a side", "60")
	u.click("Sweep")
	u.mentions("of 3600 points")
	u.until(`document.querySelector('[role=application] canvas')`)
	// It goes on while its page is left, and is found again.
	u.click("Stones")
	u.click("Ring stone with a chip")
	require.NoError(t, u.Reload())
	u.back()
	u.click("Diagrams")
	u.click("First Light")
	u.click("Under light")
	u.click("Sweep the angles")
	u.mentions("of 3600 points")
	u.until(`document.querySelector('[role=application] canvas')`)
	u.click("Cancel")
	u.mentions("it is not kept")
	u.fill("Points a side", "9")
	u.choose("Upwards", "C1, angle")
	u.click("Sweep")
	u.see("Kept sweeps")
	u.mentions("81 of 81 points")
	require.NoError(t, u.Reload())
	u.mentions("81 of 81 points")

	// The map has as many colours as there is to tell; its middle is the diagram.
	colours, err := browser.Eval[int](u.Page, `(() => {
		const c = document.querySelector('[role=application] canvas');
		const d = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
		const seen = new Set();
		for (let i = 0; i < d.length; i += 4) seen.add(d[i] * 65536 + d[i + 1] * 256 + d[i + 2]);
		return seen.size;
	})()`)
	require.NoError(t, err)
	assert.Greater(t, colours, 20)
	u.fill("margin at least", "2")
	u.until(`/^[1-9]\d? of 81 points/m.test(document.body.innerText) && !document.body.innerText.includes('81 of 81')`)
	u.choose("Map of", "weight")
	u.click("Go to the best")
	u.see("Angles there")
	u.until(`document.querySelector('section[aria-label="chosen point"] [role=application][aria-busy=false] img')?.naturalWidth > 200`)
	_, err = browser.Eval[bool](u.Page, `document.querySelector('[role=application]:has(canvas)').focus(), true`)
	require.NoError(t, err)
	const angle = `[...document.querySelectorAll('section[aria-label="chosen point"] dd')][1].innerText`
	before, err := browser.Eval[string](u.Page, angle)
	require.NoError(t, err)
	u.press(kb.ArrowUp)
	u.until(fmt.Sprintf("%s !== %q", angle, before))
	u.click("Keep as a variant")
	u.mentions("First Light, pavilion")
	u.see("On your gears")

	u.click("More")
	u.click("Side by side")
	u.see("Take First Light out")
	u.click("Light")
	u.choose("Material", "Quartz")
	u.choose("Show the stone", "where light goes")
	u.until(`document.querySelectorAll('[role=application][aria-busy=false] img').length === 2`)
	u.until(`[...document.querySelectorAll('section[aria-label="Light, face up"] tbody tr')].some((r) => /\([+−]/.test(r.innerText))`)
	u.see("C1 angle")
	u.quiet()
}
