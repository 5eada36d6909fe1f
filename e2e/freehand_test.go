package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tapStone taps the picture of a freehand stone at a place: shares of its width and height.
const tapStone = `(() => {
	const g = document.querySelector('main svg g[style*=crosshair]');
	const r = g.getBoundingClientRect();
	const at = { clientX: r.x + r.width * %s, clientY: r.y + r.height * %s, bubbles: true };
	const face = document.elementFromPoint(at.clientX, at.clientY);
	face.dispatchEvent(new MouseEvent('click', at));
	return face.tagName;
})()`

// A stone is cut without a diagram, by keys where there are keys: coned, rounded, cut to a meet, to a size and by eye;
// a cut is taken back, a reload loses nothing, Today leads back; and at the end it is a diagram that solves to the same
// stone, and a plan of its size.
func TestAFreehandStoneBecomesADiagramAndSolvesBack(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	u := open(t, 1280, 800, app.URL+"/stones")
	u.click("Cut freehand")
	u.fill("Name", "Moon pebble")
	u.fill("Width of the rough", "9")
	u.click("Begin")
	u.mentions("Nothing is cut yet.")
	u.click("Cone: 45°, 16 facets")
	u.mentions("1 · to a centre point")
	u.click("Cut it")
	u.mentions("P1 45° to a centre point")

	u.fill("Angle", "90")
	u.mentions("Pavilion up · G1")
	u.click("2 · to this size")
	u.fill("Across", "8")
	u.press(kb.Enter)
	u.until(`document.activeElement === document.body && document.querySelector('[data-cut]')?.disabled === false`)
	u.press(kb.Enter)
	u.mentions("G1 90° until it is 8.00 mm across")
	u.mentions("8.00 × 8.00 × 9.00 mm")

	// A cut to the first meet, taken back, and made again.
	u.fill("Angle", "41")
	u.mentions("1 · to the meet of two P1 and G1")
	u.click("Cut it")
	u.mentions("P2 41° to the meet of two P1 and G1")
	u.click("Back")
	u.until(`!document.body.innerText.includes('P2 41°')`)
	u.mentions("Pavilion up · P2")
	u.press(kb.Escape)
	u.see("Freehand")
	u.click("Moon pebble")
	u.mentions("G1 90° until it is 8.00 mm across")

	// The other side: its first tier by eye, and a table to a height.
	u.press("t")
	u.mentions("Crown up")
	u.fill("Angle", "35")
	u.choose("Facets", "16 round the stone")
	u.click("2 · by eye, to here")
	u.mentions("Tap the point on the stone")
	u.until(`` + fmt.Sprintf(tapStone, "0.5", "0.1") + ` === 'polygon'`)
	u.mentions("Ring: stop here.")
	u.until(`document.querySelector('[data-cut]')?.disabled === false`)
	u.click("Cut it")
	u.mentions("C1 35°")
	u.fill("Angle", "0")
	u.choose("Facets", "this one")
	u.mentions("Crown up · T")
	u.click("4 · to this size")
	u.fill("Height", "5.4")
	u.until(`document.querySelector('[data-cut]')?.disabled === false`)
	u.click("Cut it")
	u.mentions("T 0°")
	u.until(`document.body.innerText.includes('draft saved')`)
	var list struct{ Freehand []struct{ ID, Name string } }
	fetch(t, app.URL+"/api/today", &list)
	require.Len(t, list.Freehand, 1)
	id := list.Freehand[0].ID
	require.NoError(t, u.Go(app.URL+"/freehand/"+id))
	u.mentions("T 0°")

	u.click("Make it a diagram")
	u.mentions("8.00 mm wide")
	u.click("Keep it and plan this stone")
	u.see("Moon pebble")
	u.until(`location.pathname === '/stones/new' && location.search.includes('width=8')`)
	var d struct {
		Revision string
		Draft    map[string]any
	}
	fetch(t, app.URL+"/api/diagrams/"+id, &d)
	assert.NotEmpty(t, d.Revision)
	fetch(t, app.URL+"/api/today", &list)
	assert.Empty(t, list.Freehand)
	u.quiet()
}
