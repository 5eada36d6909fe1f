package device

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/netip"
	"os"
	"strings"
	"syscall"
	"time"

	"go.bug.st/serial"
)

// Port is where a device is found.
type Port struct {
	// Kind is TCP or Serial.
	Kind PortKind
	// Address is HOST:PORT, or the name of a serial port.
	Address string
	// Baud is the speed of a serial port.
	Baud int
}

// PortKind is how a device is connected.
type PortKind string

// The kinds.
const (
	TCP    PortKind = "tcp"
	Serial PortKind = "serial"
)

// Trouble tells why a device is away.
type Trouble string

// The troubles.
const (
	// Unreachable: nothing answers at its address.
	Unreachable Trouble = "unreachable"
	// ElsewhereRefused: its address is not of this machine or of a private network.
	ElsewhereRefused Trouble = "elsewhere"
	// NoPort: there is no such serial port now.
	NoPort Trouble = "no-port"
	// PortTaken: another program has the serial port, or this one may not use it.
	PortTaken Trouble = "port-taken"
	// HungUp: it was there, and ended the connection.
	HungUp Trouble = "hung-up"
	// Silent: it is connected and says nothing.
	Silent Trouble = "silent"
	// Babble: what it says is not of the protocol.
	Babble Trouble = "babble"
)

const (
	dialTimeout = 3 * time.Second
	// silence is how long a device may say nothing: it repeats its readings every two seconds.
	silence = 6 * time.Second
	// mostLine is how long a line may be in bytes, mostBabble how many lines in a row may make no sense.
	mostLine, mostBabble = 256, 200
)

// errElsewhere is returned for an address outside of this machine and the private networks.
var errElsewhere = errors.New("not in an own network")

// line is an open connection.
type line struct {
	io.ReadWriteCloser
	// patient gives the next read some time.
	patient func(time.Duration) error
}

// open connects to a device.
func (p Port) open(ctx context.Context) (*line, Trouble) {
	if p.Kind == Serial {
		return p.openSerial()
	}
	d := net.Dialer{Timeout: dialTimeout, Control: ownNetworkOnly}
	conn, err := d.DialContext(ctx, "tcp", p.Address)
	switch {
	case errors.Is(err, errElsewhere):
		return nil, ElsewhereRefused
	case err != nil:
		return nil, Unreachable
	}
	return &line{conn, func(d time.Duration) error { return conn.SetReadDeadline(time.Now().Add(d)) }}, ""
}

// ownNetworkOnly refuses to connect to addresses that are not of this machine or of a private network: a device stands on
// the bench, and whoever may name one must not reach further by it.
func ownNetworkOnly(_, address string, _ syscall.RawConn) error {
	to, err := netip.ParseAddrPort(address)
	if err != nil || !to.Addr().Unmap().IsLoopback() && !to.Addr().Unmap().IsPrivate() {
		return errElsewhere
	}
	return nil
}

func (p Port) openSerial() (*line, Trouble) {
	port, err := serial.Open(p.Address, &serial.Mode{BaudRate: p.Baud})
	var failed *serial.PortError
	switch {
	case errors.As(err, &failed) && failed.Code() == serial.PortNotFound, errors.Is(err, os.ErrNotExist):
		return nil, NoPort
	case err != nil:
		return nil, PortTaken
	}
	return &line{quietPort{port}, port.SetReadTimeout}, ""
}

// quietPort is a serial port whose reads end with an error where nothing came in time.
type quietPort struct{ serial.Port }

func (p quietPort) Read(into []byte) (int, error) {
	n, err := p.Port.Read(into)
	if n == 0 && err == nil {
		return 0, os.ErrDeadlineExceeded
	}
	return n, err
}

// listen reads lines until the connection ends, and tells why it did. Said is called with each line.
func (l *line) listen(ctx context.Context, said func(text string) error) Trouble {
	defer context.AfterFunc(ctx, func() { _ = l.Close() })()
	in := bufio.NewReaderSize(l, mostLine)
	babble := 0
	for {
		if err := l.patient(silence); err != nil {
			return HungUp
		}
		text, err := in.ReadSlice('\n')
		switch {
		case errors.Is(err, os.ErrDeadlineExceeded):
			return Silent
		case errors.Is(err, bufio.ErrBufferFull):
			return Babble
		case err != nil:
			return HungUp
		}
		if err := said(strings.TrimSpace(string(text))); err == nil {
			babble = 0
		} else if babble++; babble > mostBabble {
			return Babble
		}
	}
}

// ask sends a line.
func (l *line) ask(text string) error {
	_, err := fmt.Fprintln(l, text)
	return err
}

// Find looks for devices: the serial ports of this machine, and at which of the given addresses somebody answers.
func Find(ctx context.Context, addresses ...string) []Port {
	var out []Port
	names, err := serial.GetPortsList()
	if err == nil {
		for _, name := range names {
			out = append(out, Port{Serial, name, UsualBaud})
		}
	}
	for _, address := range addresses {
		p := Port{TCP, address, UsualBaud}
		if l, trouble := p.open(ctx); trouble == "" {
			_ = l.Close()
			out = append(out, p)
		}
	}
	return out
}

// UsualBaud is the speed of a serial port where nothing else is said.
const UsualBaud = 9600
