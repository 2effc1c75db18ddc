// Command chromaqua helps a card maker plan, paint and repeat a watercolour
// card: `serve` and `demo` start the web application, the other commands ask
// the core and print JSON.
//
// It exits with 0 when done, 1 when it could not, 2 when called wrongly.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
)

// Exit codes.
const (
	done    = 0
	failed  = 1
	badCall = 2
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	os.Exit(run(ctx, os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}

// usageError marks a call that was wrong, as against one that went wrong.
type usageError struct{ error }

// run executes one command line and returns its exit code.
func run(ctx context.Context, args []string, in io.Reader, out, errOut io.Writer) int {
	root := &cobra.Command{
		Use:           "chromaqua",
		Short:         "Plan, paint and repeat watercolour cards",
		SilenceErrors: true,
		SilenceUsage:  true,
		Long: `Plan, paint and repeat watercolour cards.

Without a word it opens your own studio in a browser; a second start shows the first.`,
	}
	startCommand(root)
	root.AddCommand(serveCommand(), demoCommand(), backupCommand(), restoreCommand(), regionsCommand(), mixCommand(), recipeCommand(), calibrateCommand(), orderCommand(), planCommand(), paintCommand(), checkCommand(), cutCommand(), foldCommand(), doctorCommand(), versionCommand())
	root.CompletionOptions.DisableDefaultCmd = true
	root.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return usageError{err} })
	root.SetArgs(args)
	root.SetIn(in)
	root.SetOut(out)
	root.SetErr(errOut)
	switch c, err := root.ExecuteContextC(ctx); {
	case err == nil:
		return done
	case errors.As(err, new(usageError)):
		fmt.Fprintf(errOut, "chromaqua: %v\nSee '%s --help'.\n", err, c.CommandPath())
		return badCall
	default:
		fmt.Fprintf(errOut, "chromaqua: %v\n", err)
		return failed
	}
}

// calledWith makes the failure of an argument check a wrong call.
func calledWith(check cobra.PositionalArgs) cobra.PositionalArgs {
	return func(c *cobra.Command, args []string) error {
		if err := check(c, args); err != nil {
			return usageError{err}
		}
		return nil
	}
}

// onFile completes a command that works on one file, "-" meaning standard input.
func onFile(c *cobra.Command, work func(c *cobra.Command, f io.Reader) error) *cobra.Command {
	c.Args = calledWith(cobra.ExactArgs(1))
	c.RunE = func(c *cobra.Command, args []string) error {
		if args[0] == "-" {
			return work(c, c.InOrStdin())
		}
		f, err := os.Open(args[0])
		if err != nil {
			return err
		}
		defer f.Close()
		if err := work(c, f); err != nil {
			return fmt.Errorf("%s: %w", args[0], err)
		}
		return nil
	}
	return c
}
