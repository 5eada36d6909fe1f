package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"cressa/copies"
	"cressa/demo"
	"cressa/server"
	"cressa/sqlite"
	"cressa/ui"
	"cressa/workshop"
)

const (
	defaultAddr  = "127.0.0.1:8473"
	databaseFile = copies.Records
	photoFolder  = copies.Photos
)

func serveCommand() *cobra.Command {
	var data string
	var at where
	c := &cobra.Command{
		Use:   "serve",
		Short: "Run the application",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			if data == "" {
				var err error
				if data, err = defaultData(); err != nil {
					return fail("%v; name a folder with --data", err)
				}
			}
			return serve(c, at, data, func(ctx context.Context, w *workshop.Workshop) error {
				return errors.Join(demo.FillLibrary(ctx, w), w.EmptyBin(ctx), w.ForgetRequests(ctx))
			}, "Your records are kept in "+data)
		},
	}
	c.Flags().StringVar(&data, "data", "", "folder of your records (default: cressa in your data folder)")
	at.flags(c)
	return c
}

// where says on which addresses to listen.
type where struct {
	addr string
	// lan lets paired devices in over the local network, with https where cert and
	// key name the files of a certificate.
	lan bool
	// lanAddr is the address to listen on, "" for those in private networks.
	lanAddr   string
	cert, key string
}

func (w *where) flags(c *cobra.Command) {
	c.Flags().StringVar(&w.addr, "addr", defaultAddr, "`HOST:PORT` of this machine to listen on")
	c.Flags().BoolVar(&w.lan, "lan", false, "let tablets in over the local network, once they are paired")
	c.Flags().StringVar(&w.lanAddr, "lan-addr", "", "with --lan: listen on this `IP` of the machine, not on all in private networks")
	c.Flags().StringVar(&w.cert, "cert", "", "with --lan: `FILE` of a certificate of your own, for https")
	c.Flags().StringVar(&w.key, "key", "", "with --lan: `FILE` of the certificate's key")
}

func (w *where) check() error {
	if (w.cert == "") != (w.key == "") {
		return errors.New("--cert and --key belong together")
	}
	if w.cert != "" && !w.lan {
		return errors.New("--cert is for --lan; this machine itself needs none")
	}
	if w.lanAddr != "" && (!w.lan || net.ParseIP(w.lanAddr) == nil) {
		return errors.New("--lan-addr takes an IP address of this machine, and belongs to --lan")
	}
	return checkLoopback(w.addr)
}

func demoCommand() *cobra.Command {
	var at where
	c := &cobra.Command{
		Use:   "demo",
		Short: "Run the application on a fresh copy of the demo data",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			data, err := os.MkdirTemp("", "cressa-demo-")
			if err != nil {
				return fail("%v", err)
			}
			defer os.RemoveAll(data)
			filled := false // a copy that is brought back has the scenario already
			return serve(c, at, data, func(ctx context.Context, _ *workshop.Workshop) error {
				if filled {
					return nil
				}
				filled = true
				return demo.Fill(ctx, filepath.Join(data, databaseFile), time.Now())
			}, "This is the demo: what you change here is thrown away when it stops.\nTo keep your own records, run: "+os.Args[0]+" serve")
		},
	}
	at.flags(c)
	return c
}

// defaultData is the folder for records after the XDG base directory rules.
func defaultData() (string, error) {
	if dir := os.Getenv("XDG_DATA_HOME"); filepath.IsAbs(dir) {
		return filepath.Join(dir, "cressa"), nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", errors.New("there is no home folder to keep records in")
	}
	return filepath.Join(home, ".local", "share", "cressa"), nil
}

// serve runs the application until it is told to stop. Prepare may fill the
// records before the first request.
func serve(c *cobra.Command, at where, data string, prepare func(context.Context, *workshop.Workshop) error, about string) error {
	if err := at.check(); err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(c.Context(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := os.MkdirAll(data, 0o700); err != nil {
		return fail("%v; name another folder with --data", err)
	}
	if err := private(data); err != nil {
		return fail("%v", err)
	}
	for {
		err := serveRecords(ctx, c, &at, data, prepare, about)
		if !errors.Is(err, server.ErrReplaced) {
			return err
		}
		about = "A copy has taken the place of the records; those from before are kept in " + data
	}
}

// serveRecords serves the records of a folder until it is told to stop, or until a copy is to take
// their place. The address that it gets stands in at then.
func serveRecords(ctx context.Context, c *cobra.Command, at *where, data string, prepare func(context.Context, *workshop.Workshop) error, about string) (err error) {
	if err := finish(data); err != nil {
		return fail("%v", err)
	}
	release, err := hold(data, false)
	if err != nil {
		return fail("%v", err)
	}
	defer func() { err = errors.Join(err, release()) }()
	listener, err := net.Listen("tcp", at.addr)
	if err != nil {
		return fail("%v; stop what runs there, or choose another port with --addr", err)
	}
	at.addr = listener.Addr().String()
	store, err := sqlite.Open(ctx, filepath.Join(data, databaseFile))
	if err != nil {
		return errors.Join(fail("%v", err), listener.Close())
	}
	defer func() { err = errors.Join(err, store.Close()) }()
	w := workshop.New(store, time.Now)
	if err := errors.Join(w.Refresh(ctx), w.ShelveGears(ctx)); err != nil {
		return errors.Join(fail("%v; run “cressa check” to see what is wrong", err), listener.Close())
	}
	if err := prepare(ctx, w); err != nil {
		return errors.Join(fail("%v", err), listener.Close())
	}
	log := slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil))
	s := server.New(w, copies.Folder(data), ui.Files(), log)
	if at.lan {
		_, port, _ := net.SplitHostPort(at.addr)
		network, err := server.ListenOnNetwork(at.lanAddr, port, at.cert, at.key)
		if err != nil {
			return errors.Join(fail("--lan: %v", err), listener.Close())
		}
		s.OpenTo(network)
	}
	err = s.Serve(ctx, listener, announce(c.OutOrStdout(), about, s.Invitation()))
	if err != nil && !errors.Is(err, server.ErrReplaced) {
		return fail("%v", err)
	}
	return err
}

// finish puts a copy that was taken out in the place of the records, also where the program was
// killed over that.
func finish(data string) error {
	folder := copies.Folder(data)
	if !folder.Pending() {
		return folder.Tidy()
	}
	release, err := hold(data, true)
	if err != nil {
		return err
	}
	_, err = folder.Finish()
	return errors.Join(err, release())
}

// private shuts others out of a folder that an older version left open to them, where nothing else
// is in it.
func private(data string) error {
	entries, err := os.ReadDir(data)
	if err != nil {
		return err
	}
	for _, e := range entries {
		ours := e.Name() == photoFolder || e.Name() == copies.Beside || strings.HasPrefix(e.Name(), "cressa.") || strings.HasPrefix(e.Name(), "replaced-")
		if !ours {
			return nil
		}
	}
	info, err := os.Stat(data)
	if err != nil || info.Mode().Perm()&0o077 == 0 {
		return err
	}
	return os.Chmod(data, 0o700)
}

func announce(out io.Writer, about, invitation string) func(net.Addr) {
	return func(addr net.Addr) {
		fmt.Fprintf(out, "%s\n%sCressa is at http://%s\nStop it with Ctrl+C.\n", about, invitation, addr)
	}
}

// checkLoopback: only this machine may connect.
func checkLoopback(addr string) error {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return fmt.Errorf("--addr %q is no HOST:PORT", addr)
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return fmt.Errorf("--addr %q is not an address of this machine alone; use 127.0.0.1:PORT", addr)
	}
	return nil
}
