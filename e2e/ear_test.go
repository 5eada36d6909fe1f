package e2e_test

import (
	"bytes"
	endian "encoding/binary"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cressa/e2e/browser"
)

// wheelSound is a WAV file of a machine: the hum of its motor all the time and, in the seconds that grind, bursts of noise over
// it.
func wheelSound(seconds int, grinds func(second int) bool) []byte {
	const rate = 48000
	random := rand.New(rand.NewPCG(1, 2))
	samples := make([]int16, seconds*rate)
	last := 0.0
	for i := range samples {
		at := float64(i) / rate
		v := 0.0
		for k := range 3 {
			v += 0.04 / float64(k+1) * math.Sin(2*math.Pi*50*float64(k+1)*at)
		}
		// The difference of white noise has little in the low tones, where the motor hums.
		white := random.Float64() - 0.5
		hiss := white - last
		last = white
		v += 0.002 * hiss
		if grinds(i / rate) {
			v += 0.2 * hiss * (0.7 + 0.3*math.Sin(2*math.Pi*11*at))
		}
		samples[i] = int16(v * 32000)
	}
	var out bytes.Buffer
	size := uint32(2 * len(samples))
	for _, part := range []any{
		[]byte("RIFF"), 36 + size, []byte("WAVEfmt "), uint32(16), uint16(1), uint16(1), uint32(rate), uint32(2 * rate), uint16(2), uint16(16),
		[]byte("data"), size, samples,
	} {
		_ = endian.Write(&out, endian.LittleEndian, part) // a buffer takes everything
	}
	return out.Bytes()
}

// Whoever lets the tablet listen teaches it the idle lap and the cut, and it tells when a cut has stopped. The microphone hears
// a file: the lap runs idle, then it grinds, in turn.
func TestTheEarTellsWhenTheGrindingStops(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "wheel.wav")
	require.NoError(t, os.WriteFile(file, wheelSound(20, func(s int) bool { return s >= 10 }), 0o600))
	hearing, stop, err := browser.StartHearing(t.Context(), file)
	require.NoError(t, err)
	t.Cleanup(stop)
	app := start(t, "demo")
	u := openIn(t, hearing, 1280, 800, app.URL)
	toTheWheel(u)
	u.see("Something happened")
	u.press("g")
	u.mentions("It is off until you let it listen.")
	u.click("Let it listen")
	// Nothing is known yet: the level is how loud all is that is heard. The motor hums at -71 dB, the grinding is at -39.
	const level = `parseFloat(document.querySelector('[data-level]')?.dataset.level)`
	const idle, grinding = level + ` < -65`, level + ` > -45`
	u.until(grinding)
	u.until(idle)
	u.click("Learn the idle lap")
	u.until(`[...document.querySelectorAll('button')].some((b) => b.innerText === 'Learn the cut' && !b.disabled)`)
	u.until(grinding)
	u.click("Learn the cut")
	u.until(`document.querySelector('[data-learned=true]')`)
	u.mentions("this stone speaks between")
	u.click("Close")
	u.mentions("grinding")
	u.until(`Number(document.querySelector('[data-ear]').dataset.ear) > 0`)
	u.mentions("It stopped")

	// What was learned stays for this stone on this lap; without the bench nobody listens.
	require.NoError(t, u.Reload())
	u.see("Something happened")
	u.press("g")
	u.click("Let it listen")
	u.mentions("this stone speaks between")
	u.click("I am turning it by hand")
	u.mentions("tap once in each turn")
	u.click("Here")
	u.click("Here")
	u.until(`[...document.querySelectorAll('[data-part]')].some((p) => Number(p.dataset.part) > 50)`)
	assert.Empty(t, checkAxe(t, u))
	u.quiet()
}
