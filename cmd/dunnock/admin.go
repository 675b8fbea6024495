package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"dunnock/internal/app"
	"dunnock/internal/formats"
	"dunnock/internal/postgres"
)

func migrateCmd(cfg *config) *cobra.Command {
	return &cobra.Command{
		Use:   "migrate",
		Short: "Bring the database's schema up to date",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			db, err := cfg.open(cmd.Context(), "dunnock", nil)
			if err != nil {
				return err
			}
			defer db.Close()
			say(cmd.OutOrStdout(), "The schema is up to date.\n")
			return nil
		},
	}
}

// databaseCmd says where the database is, for backups.
func databaseCmd(cfg *config) *cobra.Command {
	isDemo := false
	cmd := &cobra.Command{
		Use:   "database",
		Short: "Print the address of the database, for pg_dump and psql; of a private cluster, while it runs",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if cfg.Database != "" {
				say(cmd.OutOrStdout(), "%s\n", cfg.Database)
				return nil
			}
			dir, fallback, err := cfg.folders()
			if err != nil {
				return err
			}
			if _, err := os.Stat(filepath.Join(fallback, "password")); err == nil {
				dir = fallback
			}
			name := "dunnock"
			if isDemo {
				name = "dunnock_demo"
			}
			url, err := postgres.Address(dir, name)
			if err != nil {
				return err
			}
			say(cmd.ErrOrStderr(), "The private cluster is in %s\n", dir)
			say(cmd.OutOrStdout(), "%s\n", url)
			return nil
		},
	}
	cmd.Flags().BoolVar(&isDemo, "demo", false, "the demo's database")
	return cmd
}

func userCmd(cfg *config) *cobra.Command {
	user := &cobra.Command{Use: "user", Short: "Manage who may sign in"}
	var s app.Setup
	add := &cobra.Command{
		Use:   "add",
		Short: "Add a coach with a practice of their own; the password is read from standard input or DUNNOCK_PASSWORD",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s.Password = os.Getenv("DUNNOCK_PASSWORD")
			if s.Password == "" {
				say(cmd.ErrOrStderr(), "Password: ")
				line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
				if err != nil && line == "" {
					return badInput{errors.New("no password was given on standard input")}
				}
				s.Password = strings.TrimRight(line, "\r\n")
			}
			db, err := cfg.open(cmd.Context(), "dunnock", nil)
			if err != nil {
				return err
			}
			defer db.Close()
			u, err := cfg.app(db.Store).AddUser(cmd.Context(), s, false)
			var known *app.Error
			if errors.As(err, &known) {
				return badInput{err}
			}
			if err != nil {
				return err
			}
			say(cmd.OutOrStdout(), "%s can sign in to %s.\n", u.Email, u.Practice)
			return nil
		},
	}
	add.Flags().StringVar(&s.Email, "email", "", "email address to sign in with")
	add.Flags().StringVar(&s.Name, "name", "", "name of the coach")
	add.Flags().StringVar(&s.Practice, "practice", "", "name of the practice")
	add.Flags().StringVar(&s.Zone, "zone", "UTC", "time zone of the practice, such as Europe/London")
	for _, f := range []string{"email", "name", "practice"} {
		_ = add.MarkFlagRequired(f)
	}
	user.AddCommand(add)
	return user
}

func exportCmd(cfg *config) *cobra.Command {
	export := &cobra.Command{Use: "export", Short: "Write data out as files"}
	export.AddCommand(
		&cobra.Command{
			Use:   "athlete ID",
			Short: "Write one golfer's export (docs/formats.md) to standard output",
			Args:  cobra.ExactArgs(1),
			RunE: func(cmd *cobra.Command, args []string) error {
				return cfg.eachPractice(cmd.Context(), func(a *app.App, who *app.Actor) (bool, error) {
					f, err := a.Export(cmd.Context(), who, args[0])
					var known *app.Error
					if errors.As(err, &known) && known.Kind == app.NotFound {
						return false, nil
					}
					if err != nil {
						return false, err
					}
					return true, formats.WriteJSON(cmd.OutOrStdout(), f)
				}, badInput{fmt.Errorf("there is no golfer %s: dunnock export list shows their ids", args[0])})
			},
		},
		&cobra.Command{
			Use:   "list",
			Short: "List the golfers with their ids",
			Args:  cobra.NoArgs,
			RunE: func(cmd *cobra.Command, _ []string) error {
				return cfg.eachPractice(cmd.Context(), func(a *app.App, who *app.Actor) (bool, error) {
					rows, err := a.Squad(cmd.Context(), who, false)
					for _, r := range rows {
						say(cmd.OutOrStdout(), "%s\t%s\t%s\n", r.ID, r.Name, who.Practice)
					}
					return false, err
				}, nil)
			},
		},
	)
	return export
}

// eachPractice calls do for somebody of every practice of every database there
// is, the demo's last, until it says that it is done; missing is returned when
// it never does.
func (c *config) eachPractice(ctx context.Context, do func(*app.App, *app.Actor) (bool, error), missing error) error {
	names := []string{"dunnock", "dunnock_demo"}
	if c.Database != "" {
		names = names[:1]
	}
	for _, name := range names {
		done, err := func() (bool, error) {
			db, err := c.open(ctx, name, nil)
			if err != nil {
				return false, err
			}
			defer db.Close()
			a := c.app(db.Store)
			actors, err := a.Actors(ctx)
			if err != nil {
				return false, err
			}
			for _, who := range actors {
				if done, err := do(a, who); done || err != nil {
					return done, err
				}
			}
			return false, nil
		}()
		if done || err != nil {
			return err
		}
	}
	return missing
}
