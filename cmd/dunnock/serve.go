package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"dunnock/internal/app"
	"dunnock/internal/demo"
	"dunnock/internal/httpapi"
	"dunnock/web"
)

func serveCmd(cfg *config) *cobra.Command {
	var cert, key string
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve Dunnock",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if cert != "" || key != "" {
				cfg.TLSCert, cfg.TLSKey = cert, key
			}
			return cfg.serve(cmd.Context(), cmd.OutOrStdout(), "dunnock", false, func(ctx context.Context, a *app.App, url string) error {
				needed, err := a.SetupNeeded(ctx)
				if err != nil {
					return err
				}
				if !needed {
					say(cmd.OutOrStdout(), "Dunnock is at %s\n", url)
					return nil
				}
				code, err := a.NewSetupCode(ctx)
				if err != nil {
					return err
				}
				say(cmd.OutOrStdout(), "Dunnock is at %s\nNobody can sign in yet. Open it and use this one-time code: %s\n", url, code)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&cert, "tls-cert", "", "certificate to serve https with (DUNNOCK_TLS_CERT)")
	cmd.Flags().StringVar(&key, "tls-key", "", "its private key (DUNNOCK_TLS_KEY)")
	return cmd
}

func demoCmd(cfg *config) *cobra.Command {
	var reset bool
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Serve Dunnock with the demo squad",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return cfg.serve(cmd.Context(), cmd.OutOrStdout(), "dunnock_demo", true, func(ctx context.Context, a *app.App, url string) error {
				if err := demo.Load(ctx, a, reset); err != nil {
					return err
				}
				cfg.standIns(ctx, cmd.OutOrStdout())
				say(cmd.OutOrStdout(), "Dunnock is at %s\nDemo sign-in: %s, password %s\nStop with Ctrl-C.\n", url, demo.Email, demo.Password)
				return nil
			})
		},
	}
	cmd.Flags().BoolVar(&reset, "reset", false, "start the demo data afresh")
	return cmd
}

func say(w io.Writer, format string, args ...any) { _, _ = fmt.Fprintf(w, format, args...) }

// serve listens first, so that a port in use is found before anything else is
// started, then opens the database, calls ready and answers until ctx ends. While
// the database is waited for, every answer says so.
func (c *config) serve(ctx context.Context, out io.Writer, database string, isDemo bool, ready func(context.Context, *app.App, string) error) error {
	if _, err := fs.Stat(web.Dist(), "index.html"); err != nil {
		return errors.New("the front end is not built into this binary: run make build")
	}
	release, err := c.alone(database)
	if err != nil {
		return err
	}
	defer release()
	l, err := net.Listen("tcp", c.Addr)
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("%s is in use: stop the other program, or choose another address with DUNNOCK_ADDR", c.Addr)
	}
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w", c.Addr, err)
	}
	scheme := "http"
	if c.TLSCert != "" || c.TLSKey != "" {
		if l, err = secured(l, c.TLSCert, c.TLSKey); err != nil {
			return err
		}
		scheme, c.Secure = "https", true
	}
	defer func() { _ = l.Close() }()
	log := slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn}))
	var handler atomic.Pointer[http.Handler]
	waiting := httpapi.Waiting()
	handler.Store(&waiting)
	// Requests end with the program: a live page does not keep it from stopping.
	base, end := context.WithCancel(context.Background())
	defer end()
	srv := &http.Server{
		Handler:     http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { (*handler.Load()).ServeHTTP(w, r) }),
		BaseContext: func(net.Listener) context.Context { return base },
		// Bodies have deadlines of their own, which move with what arrives.
		ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
		ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn),
	}
	done := make(chan error, 1)
	go func() { done <- srv.Serve(l) }()
	stopped := make(chan struct{})
	ctx, stop := context.WithCancel(ctx)
	defer func() { stop(); <-stopped }()
	go func() {
		defer close(stopped)
		<-ctx.Done()
		wait, cancel := context.WithTimeout(context.Background(), graceful)
		defer cancel()
		_ = srv.Shutdown(wait)
		end()
		_ = srv.Close()
	}()
	db, err := c.open(ctx, database, func(s string) { say(out, "%s\n", s) })
	if err != nil {
		return err
	}
	defer db.Close()
	a := c.app(db.Store)
	defer a.Close()
	api, stopAPI, err := httpapi.New(
		httpapi.Options{
			App:     a,
			Store:   db.Store,
			Web:     web.Dist(),
			Version: version,
			Demo:    isDemo,
			Secure:  c.Secure,
			Grip:    c.Grip,
			Plates:  c.Plates,
			Radar:   c.Radar,
			Hosts:   c.Hosts,
			Proxies: c.Proxy,
			Ending:  ctx,
			Logger:  log,
		},
	)
	if err != nil {
		return badInput{err}
	}
	defer stopAPI()
	a.Housekeep()
	if err := ready(ctx, a, scheme+"://"+l.Addr().String()); err != nil {
		return err
	}
	handler.Store(&api)
	select {
	case err := <-done:
		if errors.Is(err, http.ErrServerClosed) {
			break
		}
		return err
	case <-ctx.Done():
	}
	say(out, "Stopping.\n")
	<-stopped
	return nil
}

// graceful is how long open requests have to end by themselves. Live pages are
// told at once.
const graceful = 1500 * time.Millisecond
