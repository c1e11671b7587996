package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/pkg/browser"
	"github.com/spf13/cobra"
	"golang.org/x/term"

	"draxel/demo"
	"draxel/exchange"
	"draxel/server"
	"draxel/server/desk"
	"draxel/store"
)

// defaultData is the user's own folder for application data.
func defaultData() string {
	dir, err := os.UserConfigDir()
	if err != nil {
		return "draxel-data"
	}
	return filepath.Join(dir, "draxel")
}

// usualPort is where Draxel listens unless told otherwise.
const usualPort = 8321

func serveCommand() *cobra.Command {
	var o serveOptions
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve Draxel to a browser on this machine",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx, cmd, o)
		},
	}
	c.Flags().StringVar(&o.data, "data", defaultData(), "folder for the jobs")
	c.Flags().IntVar(&o.port, "port", usualPort, "port to listen on; 0 takes a free one")
	c.Flags().BoolVar(&o.demo, "demo", false, "put the demonstration jobs in, where there is no job yet")
	c.Flags().BoolVar(&o.alone, "no-browser", false, "open no browser")
	c.Flags().BoolVar(&o.lan, "lan", false, "let other devices of the local network in, for the passcode")
	c.Flags().
		StringVar(&o.passcode, "passcode", "", "what another device must give; everybody on this machine can see it "+
			"in the list of processes: better set "+passcodeVariable+", use --passcode-file, or be asked")
	c.Flags().StringSliceVar(&o.instruments, "instrument", nil, "number of a meter, a control unit or a bench rig in the "+
		"local network that may be called; may be said several times")
	c.Flags().BoolVar(&o.tls, "tls", false, "encrypt what other devices are sent, by a certificate of this machine's own")
	c.Flags().IntVar(&o.tlsPort, "tls-port", 0, "port for other devices with --tls; the next one where none is given")
	c.Flags().StringVar(&o.tlsCert, "tls-cert", "", "file of a certificate to use with --tls instead (PEM)")
	c.Flags().StringVar(&o.tlsKey, "tls-key", "", "file of its key (PEM)")
	c.Flags().StringVar(&o.passcodeFile, "passcode-file", "", "file whose first line is the passcode")
	return c
}

// passcodeVariable names where the passcode is read from when it is not to stand in the shell's history.
const passcodeVariable = "DRAXEL_PASSCODE"

type serveOptions struct {
	data, passcode string
	passcodeFile   string
	port           int
	demo, lan      bool
	alone          bool // no browser is opened
	instruments    []string
	tls            bool
	tlsPort        int
	tlsCert        string
	tlsKey         string
}

// listens gives the address to listen at, and what the server must know of the local network. Nobody but this machine
// is let in without a passcode.
func (o serveOptions) listens() (string, *desk.Lan, error) {
	alone := fmt.Sprintf("127.0.0.1:%d", o.port)
	if !o.lan && o.tls {
		return "", nil, errors.New("--tls is for other devices: it wants --lan")
	}
	if !o.tls && (o.tlsCert != "" || o.tlsKey != "" || o.tlsPort != 0) {
		return "", nil, errors.New("a certificate, its key or a port for other devices wants --tls")
	}
	if !o.lan {
		return alone, nil, nil
	}
	if len(o.passcode) < desk.LeastPasscode {
		return "", nil, fmt.Errorf(
			"--lan wants a passcode of at least %d characters: set %s, use --passcode-file, or start it "+
				"where it can ask",
			desk.LeastPasscode,
			passcodeVariable,
		)
	}
	if o.tls {
		return alone, &desk.Lan{Passcode: o.passcode}, nil
	}
	return fmt.Sprintf(":%d", o.port), &desk.Lan{Passcode: o.passcode}, nil
}

// asked finds the passcode: as it was said, in a file, in the environment, else by asking whoever starts it.
func (o *serveOptions) asked(cmd *cobra.Command) error {
	switch {
	case !o.lan:
		return nil
	case o.passcode != "":
		fmt.Fprintln(
			cmd.ErrOrStderr(),
			"The passcode stands in the list of processes, where everybody on this machine can "+
				"read it. Better: "+passcodeVariable+", --passcode-file, or be asked.",
		)
	case o.passcodeFile != "":
		text, err := os.ReadFile(o.passcodeFile)
		if err != nil {
			return fmt.Errorf("read the passcode: %w", err)
		}
		line, _, _ := strings.Cut(string(text), "\n")
		o.passcode = strings.TrimRight(line, "\r")
	case os.Getenv(passcodeVariable) != "":
		o.passcode = os.Getenv(passcodeVariable)
	case term.IsTerminal(int(os.Stdin.Fd())):
		fmt.Fprint(cmd.ErrOrStderr(), "Passcode for other devices: ")
		text, err := term.ReadPassword(int(os.Stdin.Fd()))
		fmt.Fprintln(cmd.ErrOrStderr())
		if err != nil {
			return fmt.Errorf("read the passcode: %w", err)
		}
		o.passcode = string(text)
	}
	return nil
}

// secure makes ready what other devices are served with where it is to be encrypted: a certificate, and where it
// listens.
func (o serveOptions) secure(ctx context.Context, lan *desk.Lan) (_ net.Listener, err error) {
	if !o.tls || lan == nil {
		return nil, nil
	}
	var s desk.Secured
	if o.tlsCert != "" || o.tlsKey != "" {
		s, err = desk.SecureBy(o.tlsCert, o.tlsKey)
	} else {
		s, err = desk.Secure(o.data, desk.OwnAddresses(), time.Now())
	}
	if err != nil {
		return nil, err
	}
	port := o.tlsPort
	if port == 0 && o.port != 0 {
		port = o.port + 1
	}
	l, err := (&net.ListenConfig{}).Listen(ctx, "tcp", fmt.Sprintf(":%d", port))
	if err != nil {
		return nil, fmt.Errorf("listen: %w (another port: --tls-port)", err)
	}
	lan.Secured = &s
	_, lan.Port, err = net.SplitHostPort(l.Addr().String())
	return l, err
}

// shows says whether a browser is opened: for somebody who started it at a terminal or by a click, and not for a
// service.
func (o serveOptions) shows(cmd *cobra.Command) bool {
	out, is := cmd.OutOrStdout().(*os.File)
	return !o.alone && is && term.IsTerminal(int(out.Fd()))
}

// show opens the page in the browser. Where there is none the address stands on the screen.
func show(cmd *cobra.Command, at string) {
	browser.Stdout = io.Discard
	if err := browser.OpenURL(at); err != nil {
		fmt.Fprintln(cmd.OutOrStdout(), "No browser could be opened: open that address yourself.")
	}
}

func serve(ctx context.Context, cmd *cobra.Command, o serveOptions) (err error) {
	if err := o.asked(cmd); err != nil {
		return err
	}
	address, lan, err := o.listens()
	if err != nil {
		return err
	}
	instruments, err := exchange.InstrumentHosts(o.instruments)
	if err != nil {
		return fmt.Errorf("--instrument: %w", err)
	}
	s, err := store.Open(ctx, o.data, time.Now)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	if o.demo {
		if err := putDemo(ctx, s); err != nil {
			return err
		}
	}
	log := slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: slog.LevelWarn}))
	var lc net.ListenConfig
	listener, err := lc.Listen(ctx, "tcp", address)
	if err != nil {
		return fmt.Errorf("listen: %w (another port: --port)", err)
	}
	encrypted, err := o.secure(ctx, lan)
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	draxel, err := server.New(desk.Options{Store: s, Log: log, Lan: lan, Instruments: instruments,
		Demo: desk.Demo{IDs: demo.IDs(), Jobs: demonstration}})
	if err != nil {
		return errors.Join(err, listener.Close())
	}
	web := &http.Server{Handler: draxel.Handler(), ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute,
		MaxHeaderBytes: 64 << 10}
	web.RegisterOnShutdown(draxel.Stop)
	_, port, err := net.SplitHostPort(listener.Addr().String())
	if err != nil {
		return fmt.Errorf("listen: %w", err)
	}
	at := "http://127.0.0.1:" + port
	fmt.Fprintf(cmd.OutOrStdout(), "Draxel is at %s — stop it with Ctrl-C\nJobs are kept in %s; copy them with: draxel "+
		"backup --data %s --out FILE\n", at, o.data, o.data)
	switch {
	case encrypted != nil:
		fmt.Fprintf(cmd.OutOrStdout(), "Other devices of the local network are let in for the passcode, at https and port "+
			"%s. "+
			"The bench view shows the address; what they are to trust has the SHA-256 fingerprint\n%s\n", lan.Port,
			lan.Secured.Fingerprint)
	case lan != nil:
		fmt.Fprintln(
			cmd.OutOrStdout(),
			"Other devices of the local network are let in for the passcode. What they send is not encrypted: use a "+
				"network that you trust.",
		)
	}
	if o.shows(cmd) {
		go show(cmd, at)
	}
	failed := make(chan error, 2)
	go func() { failed <- web.Serve(desk.Bounded(listener)) }()
	if encrypted != nil {
		go func() { failed <- web.Serve(tls.NewListener(desk.Bounded(encrypted), lan.Secured.Config())) }()
	}
	select {
	case err := <-failed:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	if err := web.Shutdown(ctx); errors.Is(err, context.DeadlineExceeded) {
		return web.Close() // somebody reads too slowly to wait for
	} else if err != nil {
		return fmt.Errorf("stop: %w", err)
	}
	return nil
}

// putDemo puts the demonstration jobs into an empty store.
func putDemo(ctx context.Context, s *store.Store) error {
	have, err := s.Jobs(ctx)
	if err != nil || len(have) > 0 {
		return err
	}
	all, err := demonstration()
	if err == nil {
		_, err = s.CreateAll(ctx, "Ines", all...)
	}
	return err
}

// demonstration makes the demonstration jobs, the last one first.
func demonstration() ([]store.NewJob, error) {
	jobs, err := demo.Jobs()
	if err == nil {
		err = demo.HandOver(&jobs[1])
	}
	if err != nil {
		return nil, fmt.Errorf("put the demonstration: %w", err)
	}
	var all []store.NewJob
	for i := len(jobs) - 1; i >= 0; i-- {
		id := demo.IDs()[i]
		all = append(all, store.NewJob{ID: id, Request: "demo-" + id, Path: "--demo", Job: jobs[i]})
	}
	return all, nil
}
