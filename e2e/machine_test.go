package e2e_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/core/wheel"
	"cressa/device/simulated"
)

// machine is a simulated machine in this process, quick enough for a test, and the address of its readings.
func machine(t testing.TB, gear int) (*simulated.Bench, string) {
	t.Helper()
	bench := simulated.New(wheel.New(wheel.Setup{Width: 10, Height: 13, Hardness: 7, SG: 2.65, Gear: gear, Seed: 1}, wheel.Errors{}))
	bench.Look(func(s *simulated.Scene) { s.Pace = 20 })
	lines, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	served := make(chan error, 1)
	go bench.Run(ctx)
	go func() { served <- bench.ServeLines(ctx, lines) }()
	t.Cleanup(func() {
		stop()
		assert.NoError(t, <-served)
	})
	return bench, lines.Addr().String()
}

// readFrom has the application read an instrument.
func readFrom(t testing.TB, url, name, lines string) {
	t.Helper()
	body, err := json.Marshal(map[string]any{"id": "", "name": name, "port": "tcp", "address": lines, "baud": 9600, "scales": []any{}, "created": "1970-01-01T00:00:00Z", "version": 0})
	require.NoError(t, err)
	answer, err := http.Post(url+"/api/instruments", "application/json", bytes.NewReader(body))
	require.NoError(t, err)
	defer answer.Body.Close()
	require.Equal(t, http.StatusOK, answer.StatusCode)
}

// dialled is what this test looks at of a script.
type dialled struct {
	Gear   int
	Setups []struct{ ID string }
	Facets []struct {
		Tier              string
		Reading, Distance float64
		Dial              struct {
			Tooth int
			Cheat float64
		}
	}
	Visits []struct {
		Setup   string
		Facet   int
		Adapter bool
	}
}

// A whole stone is cut on the simulated machine: the bench reads its dials and says how they stand, heights are foretold from
// them, a cable that is pulled in the middle holds nothing up, and at the end the stone that stands on the machine is the one
// that was planned.
func TestAWholeStoneIsCutOnTheSimulatedMachine(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	id := planOnce(t, app.URL)
	var script dialled
	fetch(t, app.URL+"/api/stones/"+id+"/script", &script)
	bench, lines := machine(t, script.Gear)
	readFrom(t, app.URL, "Window bench", lines)
	u := open(t, 1280, 800, app.URL+"/bench/"+id)
	all := len(script.Visits)
	at := func(n int) { u.until(fmt.Sprintf("%s === '%d of %d'", nowDone, n, all)) }
	at(0)
	// says waits for a reading at the bench that stands so.
	says := func(how string) string {
		return fmt.Sprintf(`[...document.querySelectorAll('[data-live] strong')].some((e) => %s)`, how)
	}
	u.until(says(`e.innerText.endsWith('high')`))
	grind := func(place int) {
		bench.Look(func(s *simulated.Scene) {
			f := script.Facets[script.Visits[place].Facet]
			c := s.Wheel.Controls()
			c.Angle, c.Tooth, c.Cheat, c.Adapter = f.Reading, f.Dial.Tooth, f.Dial.Cheat, script.Visits[place].Adapter
			c.Down, c.RPM, c.Force = false, 2500, 20
			s.Wheel.Set(c)
			c.Height, c.Down = s.Wheel.HeightAt(f.Distance), true
			s.Wheel.Set(c)
		})
	}
	tiers := map[string]int{}
	for i, v := range script.Visits {
		at(i)
		if i > 0 && v.Setup != script.Visits[i-1].Setup {
			u.see("Turn the stone over")
			bench.Look(func(s *simulated.Scene) { s.Wheel.TurnOver() })
			u.click("Transfer done")
			clear(tiers)
		}
		if v.Adapter && !script.Visits[i-1].Adapter {
			u.click("The table sits level")
		}
		tier := script.Facets[v.Facet].Tier
		switch i {
		case 5:
			// In mid cut the cable comes out. What was read is kept, Done works, and the dials come back by themselves.
			bench.Look(func(s *simulated.Scene) { s.Unplugged = true })
			u.mentions("Window bench is away.")
			u.press(kb.Enter)
			bench.Look(func(s *simulated.Scene) { s.Unplugged = false })
			grind(i)
			u.until(`document.querySelector('[data-live]')`)
		default:
			grind(i)
			u.until(`document.querySelector('[data-kept]')`)
			if len(tiers) >= 2 && tiers[tier] == 0 && !v.Adapter {
				// Two tiers were read: the height of this one is foretold, and comes out so.
				u.until(fmt.Sprintf(`%s.length === 3 && %[1]s.every((e) => ['held', 'at stop'].includes(e.innerText))`, `[...document.querySelectorAll('[data-live] strong')]`))
			}
			u.press(kb.Enter)
		}
		tiers[tier]++
	}
	at(all)
	u.click("The adapter is off")
	u.see("Every facet is cut")
	u.until(`document.querySelector('[data-waiting="0"]')`)

	require.NoError(t, u.Go(app.URL+"/stones/"+id))
	u.click("Take over the stone from Window bench")
	u.mentions("The stone is as Window bench told it.")
	u.mentions("All of it as planned.")
	var cut struct {
		Differences []struct{ Text string }
		FacetsCut   int
		Told        string
	}
	fetch(t, app.URL+"/api/stones/"+id+"/as-cut", &cut)
	assert.Empty(t, cut.Differences)
	assert.Equal(t, "Window bench", cut.Told)
	assert.Equal(t, len(script.Facets), cut.FacetsCut)
	u.quiet()
}

// Instruments are found, named and corrected under Machine, and fill number fields by one key. The page of the simulated
// machine moves all of it by keyboard.
func TestAnInstrumentIsFoundCorrectedAndFillsAField(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	sim := start(t, "simulate", "--lines", "127.0.0.1:0")
	hands := open(t, 1280, 800, sim.URL)
	hands.mentions("Readings at")
	hands.choose("Time", "16 times as fast")
	hands.click("Neither") // the keys are the machine's again
	var scene struct{ Lines string }
	fetch(t, sim.URL+"/api/simulator", &scene)
	u := open(t, 1280, 800, app.URL+"/machine?show=instruments")
	u.mentions("No instrument is read yet")
	u.click("Type an address")
	u.fill("Name", "Dials")
	u.fill("Address", "127.0.0.1:1")
	u.click("Read this one")
	u.mentions("Nothing answers at its address.")
	u.click("Stop reading it")
	u.mentions("Dials is no longer read")
	u.click("Type an address")
	u.fill("Name", "Dials")
	u.fill("Address", scene.Lines)
	u.click("Read this one")
	u.until(`document.querySelector('[data-reading=height]')?.innerText === '20 mm'`)

	// The mast goes down by a division, and up by a millimetre; then its dial is set to 0.
	hands.press(kb.ArrowDown)
	u.until(`document.querySelector('[data-reading=height]').innerText === '19.99 mm'`)
	hands.press(kb.PageUp)
	u.until(`document.querySelector('[data-reading=height]').innerText === '20.99 mm'`)
	u.click("Correct: Height")
	u.fill("It should be now", "0")
	u.click("Set it")
	u.click("Save")
	u.until(`document.querySelector('[data-reading=height]').innerText === '0 mm'`)
	assert.Empty(t, checkAxe(t, u))

	// The calipers read across the stone, and a field takes that with one key.
	hands.click("Calipers")
	u.until(`document.querySelector('[data-reading=calipers]')?.innerText === '9 mm'`)
	toTheWheel(u)
	u.see("Something happened")
	u.press("m")
	u.see("The stone across")
	u.until(`document.querySelector('[data-offer=calipers]')`)
	u.press("=")
	u.until(`document.activeElement.value === '9'`)

	// The quill comes down, grinds, and rests on its stop.
	hands.press("s")
	hands.press("t")
	hands.press(kb.PageDown)
	hands.click("Let the quill down")
	hands.until(`document.querySelector('[data-state]').dataset.state === 'At stop'`)
	hands.mentions("1 facet ground")
	assert.Empty(t, checkAxe(t, hands))
	hands.quiet()
	u.quiet()
}

// Two tablets cut one stone: what one ticks the other shows. One that was away says otherwise of a facet than the other: both
// say so, and whoever has the stone in hand tells what is so.
func TestTwoTabletsAgreeAndSayWhereTheyDoNot(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	id := planOnce(t, app.URL)
	one := open(t, 1280, 800, app.URL+"/bench/"+id)
	network := inBetween(t, app)
	other := open(t, 1280, 800, network.url+"/bench/"+id)
	done := func(u *user, n int) { u.until(fmt.Sprintf("%s?.startsWith('%d of')", nowDone, n)) }
	done(one, 0)
	done(other, 0)
	one.press(kb.Enter)
	done(other, 1)

	network.hung.Store(true)
	one.press("s") // left out
	one.until(`document.querySelector('[data-waiting="0"]')`)
	other.press(kb.Enter) // cut, and nobody knows
	done(other, 2)
	network.hung.Store(false)
	for _, u := range []*user{one, other} {
		u.mentions("It counts as cut; both are on record.")
	}
	assert.Empty(t, checkAxe(t, one))
	one.click("It was left out")
	for _, u := range []*user{one, other} {
		u.until(`!document.body.innerText.includes('both are on record')`)
		u.mentions("1 skipped")
	}
	one.quiet()
	other.quiet("Failed to load", "ERR_", "net::", "sending failed")
}

// A tablet whose storage is full says so, and ticks reach the server all the same. So does one whose clock is wrong.
func TestATabletWhoseStorageIsFullGoesOn(t *testing.T) {
	t.Parallel()
	app := start(t, "demo")
	id := planOnce(t, app.URL)
	u := open(t, 1280, 800, "about:blank")
	// The browser's database takes nothing more once its storage is full.
	require.NoError(t, u.Before(`for (const name of ['add', 'put']) {
		const write = IDBObjectStore.prototype[name];
		IDBObjectStore.prototype[name] = function (...what) {
			if (window.storageIsFull) throw new DOMException('full', 'QuotaExceededError');
			return write.apply(this, what);
		};
	}`))
	require.NoError(t, u.Go(app.URL+"/bench/"+id))
	u.until(fmt.Sprintf("%s?.startsWith('0 of')", nowDone))
	u.until(`(window.storageIsFull = true)`)
	for n := range 3 {
		u.press(kb.Enter)
		u.until(fmt.Sprintf("%s?.startsWith('%d of')", nowDone, n+1))
	}
	u.until(`document.querySelector('[data-waiting="0"]')`)
	u.mentions("its disk is full")
	u.until(`!(window.storageIsFull = false)`)
	u.press(kb.Enter)
	u.until(`!document.body.innerText.includes('its disk is full')`)
	u.until(`document.querySelector('[data-waiting="0"]')`)
	assert.Equal(t, 4, count(eventsOf(t, app.URL, id), "done"))

	late := open(t, 1280, 800, "about:blank")
	require.NoError(t, late.Before(`{ const now = Date.now; Date.now = () => now() - 3 * 3600e3; }`))
	require.NoError(t, late.Go(app.URL+"/bench/"+id))
	late.mentions("The clock of this device is 3 h 0 min behind.")
	late.quiet()
}
