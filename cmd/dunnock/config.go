package main

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"os"
	"path/filepath"
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
	Addr     string `env:"DUNNOCK_ADDR" envDefault:"127.0.0.1:7420"`
	Data     string `env:"DUNNOCK_DATA" envDefault:"data"`
	Database string `env:"DATABASE_URL"`
	TodayEnv string `env:"DUNNOCK_TODAY"`
	Secure   bool   `env:"DUNNOCK_SECURE_COOKIES"`
	Grip     string `env:"DUNNOCK_GRIP" envDefault:"127.0.0.1:7460"`
	Plates   string `env:"DUNNOCK_PLATES" envDefault:"127.0.0.1:7461"`

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
// none is configured, and brings its schema up to date.
func (c *config) open(ctx context.Context, name string) (*database, error) {
	url, closeCluster := c.Database, func() {}
	if url == "" {
		cl, err := c.cluster(ctx)
		if err != nil {
			return nil, err
		}
		if err := cl.EnsureDatabase(ctx, name); err != nil {
			cl.Close()
			return nil, fmt.Errorf("make the database: %w", err)
		}
		url, closeCluster = cl.URL(name), cl.Close
	}
	s, err := store.Open(ctx, url)
	if err != nil {
		closeCluster()
		return nil, err
	}
	if _, err := s.Migrate(ctx); err != nil {
		s.Close()
		closeCluster()
		return nil, err
	}
	return &database{s, closeCluster}, nil
}

// cluster starts the private cluster of the data folder. Where PostgreSQL's
// unprivileged user cannot reach that folder, a folder below /var/lib/dunnock
// stands in, one for each data folder.
func (c *config) cluster(ctx context.Context) (*postgres.Cluster, error) {
	dir, err := filepath.Abs(filepath.Join(c.Data, "postgres"))
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(c.Data, 0o755); err != nil {
		return nil, fmt.Errorf("make the data folder: %w", err)
	}
	h := sha256.Sum256([]byte(dir))
	cl, err := postgres.Start(ctx, postgres.Options{Dir: dir, Fallback: "/var/lib/dunnock/" + hex.EncodeToString(h[:6])})
	if err == nil && cl.Dir != dir {
		fmt.Fprintf(os.Stderr, "dunnock: the database's user cannot reach %s; the database is kept in %s\n", c.Data, cl.Dir)
	}
	return cl, err
}

func (c *config) app(s *store.Store) *app.App { return app.New(s, time.Now, c.today) }
