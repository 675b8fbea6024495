package main

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/caarlos0/env/v11"
	"github.com/spf13/pflag"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/postgres"
	"dunnock/internal/store"
)

// config is where things are, from the environment; flags win over it.
type config struct {
	Addr     string   `env:"DUNNOCK_ADDR" envDefault:"127.0.0.1:7420"`
	Data     string   `env:"DUNNOCK_DATA" envDefault:"data"`
	Database string   `env:"DATABASE_URL"`
	Hosts    []string `env:"DUNNOCK_HOSTS"`
	Proxy    []string `env:"DUNNOCK_PROXY"`
	TodayEnv string   `env:"DUNNOCK_TODAY"`
	Secure   bool     `env:"DUNNOCK_SECURE_COOKIES"`
	TLSCert  string   `env:"DUNNOCK_TLS_CERT"`
	TLSKey   string   `env:"DUNNOCK_TLS_KEY"`
	Grip     string   `env:"DUNNOCK_GRIP" envDefault:"127.0.0.1:7460"`
	Plates   string   `env:"DUNNOCK_PLATES" envDefault:"127.0.0.1:7461"`
	Radar    string   `env:"DUNNOCK_RADAR" envDefault:"127.0.0.1:7462"`

	today                   civil.Date
	addrFlag, dataFlag, dbF string
}

func (c *config) flags(f *pflag.FlagSet) {
	f.StringVar(&c.addrFlag, "addr", "", "address to serve on (DUNNOCK_ADDR, default 127.0.0.1:7420)")
	f.StringVar(&c.dataFlag, "data", "", "data folder (DUNNOCK_DATA, default data)")
	f.StringVar(&c.dbF, "database-url", "", "PostgreSQL server of your own (DATABASE_URL); default: a private one in the data folder")
}

func (c *config) load(f *pflag.FlagSet) error {
	if err := env.Parse(c); err != nil {
		return badInput{err}
	}
	for name, dst := range map[string]*string{"addr": &c.Addr, "data": &c.Data, "database-url": &c.Database} {
		if f.Changed(name) {
			*dst, _ = f.GetString(name)
		}
	}
	if c.TodayEnv != "" {
		d, err := civil.Parse(c.TodayEnv)
		if err != nil {
			return badInput{fmt.Errorf("DUNNOCK_TODAY: %w", err)}
		}
		c.today = d
	}
	return nil
}

// database is an open store and how to close it with what runs behind it.
type database struct {
	*store.Store
	close func()
}

func (d *database) Close() {
	d.Store.Close()
	d.close()
}

// open connects to the configured database, starting the private cluster when
// none is configured, and brings its schema up to date. waiting is called with
// what it waits for while a server of one's own does not answer; nil does not wait.
func (c *config) open(ctx context.Context, name string, waiting func(string)) (*database, error) {
	url, closeCluster, o := c.Database, func() {}, store.Options{}
	if url == "" {
		cl, err := c.cluster(ctx)
		if err != nil {
			return nil, err
		}
		if err := cl.EnsureDatabase(ctx, name); err != nil {
			cl.Close()
			return nil, fmt.Errorf("make the database: %w", err)
		}
		url, closeCluster, o.Port = cl.URL(name), cl.Close, cl.Port
	}
	s, err := c.connect(ctx, url, o, waiting)
	if err != nil {
		closeCluster()
		return nil, err
	}
	return &database{s, closeCluster}, nil
}

// retryDatabase is how long is waited between looks for a server of one's own.
const retryDatabase = 2 * time.Second

func (c *config) connect(ctx context.Context, url string, o store.Options, waiting func(string)) (*store.Store, error) {
	said := false
	for {
		s, err := store.Open(ctx, url, o)
		if err == nil {
			if _, err = s.Migrate(ctx); err == nil {
				return s, nil
			}
			s.Close()
		}
		if waiting == nil || !store.Unavailable(err) || ctx.Err() != nil {
			return nil, oneLine(err)
		}
		if !said {
			waiting("The database does not answer: waiting for it. Ctrl-C ends.")
			said = true
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(retryDatabase):
		}
	}
}

// oneLine keeps the kind of an error and says it in one line.
func oneLine(err error) error { return lineError{err} }

type lineError struct{ error }

func (e lineError) Error() string { return strings.Join(strings.Fields(e.error.Error()), " ") }
func (e lineError) Unwrap() error { return e.error }

// alone keeps a second server off a data folder, until the process ends.
func (c *config) alone(database string) (release func(), err error) {
	if c.Database != "" {
		return func() {}, nil
	}
	if err := os.MkdirAll(c.Data, 0o755); err != nil {
		return nil, fmt.Errorf("make the data folder: %w", err)
	}
	f, err := os.OpenFile(filepath.Join(c.Data, database+".lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		who, _ := os.ReadFile(f.Name())
		_ = f.Close()
		return nil, fmt.Errorf("%s is served already by process %s: stop it, or choose another folder with --data", c.Data, strings.TrimSpace(string(who)))
	}
	if err := f.Truncate(0); err == nil {
		_, _ = f.WriteAt([]byte(strconv.Itoa(os.Getpid())), 0)
	}
	return func() { _ = f.Close() }, nil
}

// folders are where the private cluster lies, or lies instead.
func (c *config) folders() (dir, fallback string, err error) {
	if dir, err = filepath.Abs(filepath.Join(c.Data, "postgres")); err != nil {
		return "", "", err
	}
	h := sha256.Sum256([]byte(dir))
	return dir, "/var/lib/dunnock/" + hex.EncodeToString(h[:6]), nil
}

// cluster starts the private cluster of the data folder. Where PostgreSQL's
// unprivileged user cannot reach that folder, a folder below /var/lib/dunnock
// stands in, one for each data folder.
func (c *config) cluster(ctx context.Context) (*postgres.Cluster, error) {
	dir, fallback, err := c.folders()
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(c.Data, 0o755); err != nil {
		return nil, fmt.Errorf("make the data folder: %w", err)
	}
	cl, err := postgres.Start(ctx, postgres.Options{Dir: dir, Fallback: fallback, Report: func(s string) { fmt.Fprintln(os.Stderr, "dunnock: "+s) }})
	if err == nil && cl.Dir != dir {
		fmt.Fprintf(os.Stderr, "dunnock: the database's user cannot reach %s; the database is kept in %s\n", c.Data, cl.Dir)
	}
	return cl, err
}

func (c *config) app(s *store.Store) *app.App { return app.New(s, time.Now, c.today) }
