package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"draxel/demo"
	"draxel/server"
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

func serveCommand() *cobra.Command {
	var data string
	var port int
	var withDemo bool
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve Draxel to a browser on this machine",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return serve(ctx, cmd, data, port, withDemo)
		},
	}
	c.Flags().StringVar(&data, "data", defaultData(), "folder for the jobs")
	c.Flags().IntVar(&port, "port", 8321, "port on the loopback interface; 0 takes a free one")
	c.Flags().BoolVar(&withDemo, "demo", false, "put the demonstration jobs in, where there is no job yet")
	return c
}

func serve(ctx context.Context, cmd *cobra.Command, data string, port int, withDemo bool) (err error) {
	s, err := store.Open(ctx, data, time.Now)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	if withDemo {
		if err := putDemo(ctx, s); err != nil {
			return err
		}
	}
	log := slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: slog.LevelWarn}))
	var lc net.ListenConfig
	listener, err := lc.Listen(ctx, "tcp", fmt.Sprintf("127.0.0.1:%d", port))
	if err != nil {
		return fmt.Errorf("listen: %w (another port: --port)", err)
	}
	web := &http.Server{Handler: server.New(server.Options{Store: s, Log: log}).Handler(), ReadHeaderTimeout: 10 * time.Second,
		BaseContext: func(net.Listener) context.Context { return ctx }}
	fmt.Fprintf(cmd.OutOrStdout(), "Draxel is at http://%s — stop it with Ctrl-C\n", listener.Addr())
	failed := make(chan error, 1)
	go func() { failed <- web.Serve(listener) }()
	select {
	case err := <-failed:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	return web.Shutdown(ctx)
}

// putDemo puts the demonstration jobs into an empty store.
func putDemo(ctx context.Context, s *store.Store) error {
	have, err := s.Jobs(ctx)
	if err != nil || len(have) > 0 {
		return err
	}
	jobs, err := demo.Jobs()
	if err != nil {
		return err
	}
	for i := len(jobs) - 1; i >= 0; i-- {
		id := []string{"sorrel-refit", "packhorse"}[i]
		if _, err := s.Create(ctx, id, "demo-"+id, "Ines", jobs[i]); err != nil {
			return err
		}
	}
	return nil
}
