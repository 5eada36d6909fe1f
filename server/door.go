package server

import (
	"crypto/rand"
	"crypto/subtle"
	"fmt"
	"math/big"
	"net/http"
	"sync"
	"time"
)

const (
	// doorOpens is how long the door stands open for one device.
	doorOpens = 10 * time.Minute
	// mostGuesses wrong codes close it, from however many addresses they come.
	mostGuesses = 10
	codeDigits  = 8
)

// door lets one more device in, with a code, while its owner has it open. It closes behind the
// device, after some minutes, and when too many wrong codes were tried.
type door struct {
	now func() time.Time
	mu  sync.Mutex
	// present is the code, "" while the door is closed.
	present string
	until   time.Time
	// guesses counts the wrong codes since it was opened.
	guesses int
	wrong   WrongCodes
}

var (
	doorClosed = &Problem{Status: http.StatusForbidden, Detail: "No device is let in just now. On the machine that Cressa runs on, let one in under Machine and habits, Devices; then type the code that stands there."}
	wrongCode  = &Problem{Status: http.StatusForbidden, Detail: "That is not the code. Look at the machine that Cressa runs on: it stands there under Machine and habits, Devices. After ten wrong codes nobody is let in until its owner allows it again."}
)

// open opens the door with a new code.
func (d *door) open() {
	most := new(big.Int).Exp(big.NewInt(10), big.NewInt(codeDigits), nil)
	n, err := rand.Int(rand.Reader, most)
	if err != nil {
		panic(err) // the system's source of randomness does not fail
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	d.present, d.until, d.guesses = fmt.Sprintf("%0*d", codeDigits, n), d.now().Add(doorOpens), 0
}

// shut closes it.
func (d *door) shut() {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.present = ""
}

// code returns the present code and until when it is good, "" while the door is closed.
func (d *door) code() (code string, until time.Time) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.closeInTime()
	return d.present, d.until
}

func (d *door) closeInTime() {
	if d.now().After(d.until) {
		d.present = ""
	}
}

// try lets in whoever shows the present code, and closes the door behind it. The error is the
// Problem to answer with.
func (d *door) try(code string) error {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.closeInTime()
	if d.present != "" && subtle.ConstantTimeCompare([]byte(code), []byte(d.present)) == 1 {
		d.present = ""
		return nil
	}
	d.wrong.Count, d.wrong.Last = d.wrong.Count+1, d.now()
	if d.present == "" {
		return doorClosed
	}
	if d.guesses++; d.guesses >= mostGuesses {
		d.present, d.wrong.Closed = "", true
	}
	return wrongCode
}

func (d *door) wrongCodes() WrongCodes {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.wrong
}

// forget takes the wrong codes as seen.
func (d *door) forget() {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.wrong = WrongCodes{}
}
