package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"chromaqua/internal/demo"
	"chromaqua/internal/store"
	"chromaqua/internal/web"
)

const defaultAddr = "127.0.0.1:8417"

// Limits of the web server. A picture may come over a slow link, hence the
// long time for a body.
const (
	headerTimeout = 10 * time.Second
	bodyTimeout   = 5 * time.Minute
	idleTimeout   = 2 * time.Minute
	closeTimeout  = 5 * time.Second
)

// dataFile is where a studio lives unless told otherwise.
func dataFile(name string) string {
	dir := os.Getenv("XDG_DATA_HOME")
	if dir == "" {
		home, err := os.UserHomeDir()
		if err != nil {
			return name
		}
		dir = filepath.Join(home, ".local", "share")
	}
	return filepath.Join(dir, "chromaqua", name)
}

func serveCommand() *cobra.Command {
	var addr, data string
	c := &cobra.Command{
		Use:   "serve",
		Short: "Start the application on your own studio",
		Args:  calledWith(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := store.Open(c.Context(), data)
			if err != nil {
				return err
			}
			return serve(c, s, addr, data)
		},
	}
	serverFlags(c, &addr, &data, "studio.db")
	return c
}

func demoCommand() *cobra.Command {
	var addr, data string
	var reset bool
	c := &cobra.Command{
		Use:   "demo",
		Short: "Start the application on the sample studio",
		Long: `Starts the application on a studio file of its own with sample cards and drawings.
What you change there stays until --reset starts it afresh.`,
		Args: calledWith(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			if reset {
				if err := removeStudio(c.Context(), data); err != nil {
					return err
				}
			}
			s, err := store.Open(c.Context(), data)
			if err != nil {
				return err
			}
			if err := fillIfEmpty(c.Context(), s); err != nil {
				return errors.Join(err, s.Close())
			}
			return serve(c, s, addr, data)
		},
	}
	serverFlags(c, &addr, &data, "demo.db")
	c.Flags().BoolVar(&reset, "reset", false, "throw the demo's studio away and start it afresh")
	return c
}

func backupCommand() *cobra.Command {
	var data string
	c := &cobra.Command{
		Use:   "backup FILE",
		Short: "Copy the studio to a file while it stays in use",
		Args:  calledWith(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, args []string) error {
			if _, err := os.Stat(data); err != nil {
				return fmt.Errorf("there is no studio to back up: %w", err)
			}
			s, err := store.Open(c.Context(), data)
			if err != nil {
				return err
			}
			return errors.Join(s.Backup(c.Context(), args[0]), s.Close())
		},
	}
	c.Flags().StringVar(&data, "data", dataFile("studio.db"), "the studio file")
	return c
}

func serverFlags(c *cobra.Command, addr, data *string, file string) {
	c.Flags().StringVar(addr, "addr", defaultAddr, "address to listen on")
	c.Flags().StringVar(data, "data", dataFile(file), "the studio file; made when it is missing")
}

// removeStudio deletes a studio file, but nothing that is none.
func removeStudio(ctx context.Context, data string) error {
	if _, err := os.Stat(data); errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	s, err := store.Open(ctx, data)
	if err != nil {
		return fmt.Errorf("not reset: %w", err)
	}
	if err := s.Close(); err != nil {
		return err
	}
	for _, suffix := range []string{"", "-wal", "-shm"} {
		if err := os.Remove(data + suffix); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

func fillIfEmpty(ctx context.Context, s *store.Store) error {
	empty, err := s.Empty(ctx)
	if err != nil || !empty {
		return err
	}
	return demo.Fill(ctx, s)
}

// serve runs the application until the command's context ends, and closes the
// studio.
func serve(c *cobra.Command, s *store.Store, addr, data string) (err error) {
	defer func() { err = errors.Join(err, s.Close()) }()
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w; is it running already? Use --addr for another address", addr, err)
	}
	app := web.New(s, slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil)))
	defer app.Close()
	srv := &http.Server{
		Handler: app, ReadHeaderTimeout: headerTimeout, ReadTimeout: bodyTimeout, IdleTimeout: idleTimeout,
	}
	fmt.Fprintf(c.OutOrStdout(), "Chromaqua is open at http://%s/\nThe studio is kept in %s. Press Ctrl-C to close.\n", l.Addr(), data)
	failed := make(chan error, 1)
	go func() { failed <- srv.Serve(l) }()
	select {
	case err := <-failed:
		return err
	case <-c.Context().Done():
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Context()), closeTimeout)
	defer cancel()
	return srv.Shutdown(ctx)
}
