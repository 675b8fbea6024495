// Command dunnock is the whole of Dunnock: the server with its front end, the
// demo, and the core on files for scripts.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"runtime/debug"
	"strings"
	"syscall"
	_ "time/tzdata" // practices name IANA zones; a bare machine may have none

	"github.com/spf13/cobra"
)

// version is set when a release is built.
var version = "dev"

// badInput marks errors in what was given, which end with exit code 2.
type badInput struct{ error }

func main() {
	// A read of a whole squad makes many short-lived numbers: collected a quarter
	// as often unless memory runs short or the environment says otherwise.
	if os.Getenv("GOGC") == "" && os.Getenv("GOMEMLIMIT") == "" {
		debug.SetGCPercent(400)
		debug.SetMemoryLimit(384 << 20)
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err := root().ExecuteContext(ctx)
	if err == nil || errors.Is(err, context.Canceled) && ctx.Err() != nil {
		return
	}
	fmt.Fprintln(os.Stderr, "dunnock: "+strings.TrimRight(err.Error(), "\n"))
	var bad badInput
	if errors.As(err, &bad) {
		os.Exit(2)
	}
	os.Exit(1)
}

func root() *cobra.Command {
	var cfg config
	cmd := &cobra.Command{
		Use:           "dunnock",
		Short:         "Screen, read and plan for the golf strength and conditioning coach",
		SilenceUsage:  true,
		SilenceErrors: true,
		PersistentPreRunE: func(cmd *cobra.Command, _ []string) error {
			return cfg.load(cmd.Flags())
		},
	}
	cmd.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return badInput{err} })
	cfg.flags(cmd.PersistentFlags())
	cmd.AddCommand(
		serveCmd(&cfg),
		demoCmd(&cfg),
		migrateCmd(&cfg),
		userCmd(&cfg),
		databaseCmd(&cfg),
		exportCmd(&cfg),
		simCmd(&cfg),
		readCmd(),
		planCmd(),
		checkCmd(),
		forceCmd(),
		speedCmd(),
		warmUpCmd(),
		versionCmd(),
	)
	return cmd
}

func versionCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := fmt.Fprintln(cmd.OutOrStdout(), "dunnock "+version)
			return err
		},
	}
}
