package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"sync"
	"time"

	"github.com/spf13/cobra"

	"chromaqua/core/wording"
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
	answerTimeout = 10 * time.Minute // to send an answer to one who reads slowly
	closeTimeout  = 5 * time.Second
)

// memoryLimit is from where on memory is given back sooner than it is needed again, bytes:
// one picture of the largest size is being opened, and no more.
const memoryLimit = 448 << 20

// dataFile is where a studio lives unless told otherwise.
func dataFile(name string) string {
	if name == ownStudio {
		return studioFileAt()
	}
	return filepath.Join(home(), name)
}

func serveCommand() *cobra.Command {
	var at address
	var data string
	c := &cobra.Command{
		Use:   "serve",
		Short: "Start the application on your own studio",
		Args:  calledWith(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			return serveFile(c, at, data)
		},
	}
	serverFlags(c, &at, &data, ownStudio)
	return c
}

// serveFile runs the application on a studio file, and on where that is moved meanwhile.
func serveFile(c *cobra.Command, at address, data string) error {
	for data != "" {
		next := ""
		err := claimed(data, func() error {
			s, err := store.Open(c.Context(), data)
			if err != nil {
				return offered(data, err)
			}
			to := ""
			at.move = func(path string) { to = path }
			if err := serve(c, s, &at, data); err != nil || to == "" {
				return err
			}
			if next = to; !moved(c, data, to) {
				next = data
			}
			return nil
		})
		if err != nil {
			return err
		}
		data, at.ready = next, nil
	}
	return nil
}

// moved moves the file of a closed studio, remembers where when it is the maker's usual one,
// and reports whether it is there.
func moved(c *cobra.Command, data, to string) bool {
	usual := studioFileAt() == data
	err := store.Move(c.Context(), data, to)
	if err == nil && usual {
		err = remember(to)
	}
	if err != nil {
		fmt.Fprintf(c.ErrOrStderr(), "chromaqua: the studio could not be moved: %v\n", err)
	}
	_, there := os.Stat(to)
	return there == nil
}

func demoCommand() *cobra.Command {
	var at address
	var data string
	var reset bool
	c := &cobra.Command{
		Use:   "demo",
		Short: "Start the application on the sample studio",
		Long: `Starts the application on a studio file of its own with sample cards and drawings.
What you change there stays until --reset starts it afresh.`,
		Args: calledWith(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			return claimed(data, func() error {
				if reset {
					if err := removeSamples(c.Context(), data); err != nil {
						return err
					}
				}
				s, err := store.OpenSamples(c.Context(), data)
				if err != nil {
					return offered(data, err)
				}
				if err := fillIfEmpty(c.Context(), s); err != nil {
					return errors.Join(err, s.Close())
				}
				return serve(c, s, &at, data)
			})
		},
	}
	serverFlags(c, &at, &data, "demo.db")
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
	c.Flags().StringVar(&data, "data", dataFile(ownStudio), "the studio file")
	return c
}

// claimed works on a studio file that no other program has open. A folder that is not
// there yet is made, for the claim lies beside the file.
func claimed(data string, work func() error) (err error) {
	if err := os.MkdirAll(filepath.Dir(data), 0o755); err != nil {
		return fmt.Errorf("making the folder for the studio file: %w", err)
	}
	release, err := store.Claim(data)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, release()) }()
	return work()
}

// removeSamples deletes a studio of samples, and nothing else.
func removeSamples(ctx context.Context, data string) error {
	if info, err := os.Stat(data); errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0 {
		return nil
	}
	mark, err := store.MarkOf(ctx, data)
	if err != nil {
		return fmt.Errorf("not reset: %s: %w", data, err)
	}
	if mark != store.Samples {
		return fmt.Errorf("not reset: %s is not marked as a studio of samples, so that it may hold work of your own; move it away yourself, or name another with --data", data)
	}
	for _, suffix := range []string{"", "-wal", "-shm"} {
		if err := os.Remove(data + suffix); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

func restoreCommand() *cobra.Command {
	var data string
	var yes bool
	c := &cobra.Command{
		Use:   "restore FILE",
		Short: "Put the studio back to what a backup holds",
		Long: `Tells what is in a backup, and with --yes puts the studio back to it. What the studio
is now is kept as a copy beside it first. Close the application before.`,
		Args: calledWith(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, args []string) error {
			in, err := store.Summarise(c.Context(), args[0])
			if err != nil {
				return err
			}
			fmt.Fprintf(c.OutOrStdout(), "%s holds %s and %s", args[0], wording.Count(in.Cards, "card"), wording.Count(in.Images, "image"))
			if !in.Latest.IsZero() {
				fmt.Fprintf(c.OutOrStdout(), ", last changed on %s", in.Latest.Format("2 January 2006, 15:04"))
			}
			fmt.Fprintln(c.OutOrStdout(), ".")
			if !yes {
				fmt.Fprintf(c.OutOrStdout(), "Nothing was changed. To put %s back to it, add --yes.\n", data)
				return nil
			}
			return claimed(data, func() error {
				kept, err := putBack(c.Context(), data, args[0])
				if err == nil {
					fmt.Fprintf(c.OutOrStdout(), "%s is put back. What it was is kept beside it as %q.\n", data, kept)
				}
				return err
			})
		},
	}
	c.Flags().StringVar(&data, "data", dataFile(ownStudio), "the studio file")
	c.Flags().BoolVar(&yes, "yes", false, "really put it back")
	return c
}

// putBack puts a studio back to what a file holds, damaged as it may be.
func putBack(ctx context.Context, data, from string) (kept string, err error) {
	s, err := store.Open(ctx, data)
	if err != nil {
		if fault, _ := store.FaultOf(err); fault != store.Damaged {
			return "", err
		}
		return store.RestoreDamaged(ctx, data, from)
	}
	kept, err = s.Restore(ctx, from)
	return kept, errors.Join(err, s.Close())
}

// offered says of a fault of the disk met at the start what can be done; of a damaged
// studio, how to go back to its last copy.
func offered(data string, err error) error {
	fault, ours := store.FaultOf(err)
	switch {
	case !ours:
		return err
	case fault != store.Damaged:
		return fmt.Errorf("%s: %s (%w)", data, fault, err)
	}
	copies, listed := store.CopiesOf(data)
	if listed != nil || len(copies) == 0 {
		return fmt.Errorf("%w; there is no daily copy of it beside it: put a backup of your own back with: chromaqua restore FILE --data %q --yes", err, data)
	}
	return fmt.Errorf("%w; go back to its last copy with: chromaqua restore %q --data %q --yes", err, copies[0].Path, data)
}

func fillIfEmpty(ctx context.Context, s *store.Store) error {
	empty, err := s.Empty(ctx)
	if err != nil || !empty {
		return err
	}
	if err := demo.Fill(ctx, s); err != nil {
		return err
	}
	if err := demo.Evening(ctx, s); err != nil {
		return err
	}
	return demo.Made(ctx, s)
}

// serve runs the application until the command's context ends, and closes the
// studio.
func serve(c *cobra.Command, s *store.Store, at *address, data string) (err error) {
	defer func() { err = errors.Join(err, s.Close()) }()
	if err := at.check(); err != nil {
		return err
	}
	l, err := at.open()
	if err != nil {
		return err
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memoryLimit)
	}
	log := slog.New(slog.NewTextHandler(c.ErrOrStderr(), nil))
	copying := make(chan struct{})
	copies, stopCopies := context.WithCancel(c.Context())
	go func() { defer close(copying); keepCopies(copies, s, log) }()
	defer func() { stopCopies(); <-copying }()
	at.listen = l.Addr().String() // where it goes on when the studio moves
	app := web.New(s, log)
	defer app.Close()
	ended := make(chan struct{})
	end := sync.OnceFunc(func() { close(ended) })
	app.Machine.End = end
	app.Machine.Show = func(path string) error { return shows("file://" + filepath.ToSlash(path)) }
	if at.move != nil {
		app.Machine.MoveTo = func(path string) { at.move(path); end() }
	}
	found := at.found(l.Addr())
	app.Door.AnswerTo(at.names...)
	app.Door.Addresses, app.Door.Secure = found.others, at.secure()
	srv := &http.Server{
		Handler: app, ReadHeaderTimeout: headerTimeout, ReadTimeout: bodyTimeout, WriteTimeout: answerTimeout, IdleTimeout: idleTimeout,
		ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelDebug),
	}
	srv.RegisterOnShutdown(app.HangUp)
	given, err := app.Door.Passphrase(c.Context())
	if err != nil {
		return err
	}
	fmt.Fprintf(c.OutOrStdout(), "%sThe studio is kept in %s. Press Ctrl-C to close.\n", found.words(given), data)
	if len(found.here) > 0 {
		gone, err := started{found.here[0], os.Getpid()}.leave(data)
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, gone()) }()
		if at.ready != nil {
			go at.ready(found.here[0])
		}
	}
	failed := make(chan error, 1)
	go func() { failed <- at.answer(srv, l) }()
	select {
	case err := <-failed:
		return err
	case <-c.Context().Done():
	case <-ended:
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Context()), closeTimeout)
	defer cancel()
	// A browser may hold a line open on which it has asked for nothing yet; such a one is
	// taken for busy, and is cut off in the end. What was acknowledged is stored.
	if err := srv.Shutdown(ctx); !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return srv.Close()
}

// betweenCopies is how often it is looked whether the day has its copy.
const betweenCopies = time.Hour

// keepCopies keeps a copy of each day the application is used.
func keepCopies(ctx context.Context, s *store.Store, log *slog.Logger) {
	tick := time.NewTicker(betweenCopies)
	defer tick.Stop()
	for {
		if err := s.CopyToday(ctx); err != nil && ctx.Err() == nil {
			log.Error("no copy of today", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}
