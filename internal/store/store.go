// Package store keeps everything in PostgreSQL, through GORM. It is the only
// place that knows tables and SQL. Callers get a Practice, and every query made
// through it is tied to that practice by a GORM plugin (tenant.go): a query on a
// practice's table that names no practice is refused, it cannot be forgotten.
//
// The schema is the SQL in migrations/: foreign keys, checks and unique
// constraints live there. Rows are turned to and from core types here, so that
// nobody above sees a row.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// Errors callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrConflict = errors.New("changed by somebody else since")
	ErrExists   = errors.New("exists already")
	ErrIssued   = errors.New("an issued programme does not change")
	ErrNewer    = errors.New("the database is of a newer version of Dunnock: use that version, or restore an older backup")
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is a database with the current schema.
type Store struct {
	db   *gorm.DB
	pool *pgxpool.Pool
}

// Open connects to the database at url and checks that it answers within ten
// seconds. It does not migrate.
func Open(ctx context.Context, url string) (*Store, error) {
	cfg, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("the database address is not one: %w", err)
	}
	cfg.MaxConns = 16
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	ping, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	if err := pool.Ping(ping); err != nil {
		pool.Close()
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: stdlib.OpenDBFromPool(pool)}), &gorm.Config{
		Logger:                 logger.New(log.Default(), logger.Config{LogLevel: logger.Silent}),
		SkipDefaultTransaction: true,
		TranslateError:         true,
		// Statements are prepared and kept by pgx, one cache a connection. GORM's
		// own cache would prepare each of them anew on every borrowed connection.
	})
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("open the database: %w", err)
	}
	if err := db.Use(tenancy{}); err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{db: db, pool: pool}, nil
}

// Close ends all connections.
func (s *Store) Close() { s.pool.Close() }

// Pool is the connection pool, for the session library.
func (s *Store) Pool() *pgxpool.Pool { return s.pool }

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error { return s.pool.Ping(ctx) }

func (s *Store) provider() (*goose.Provider, *sql.DB, error) {
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, nil, err
	}
	db := stdlib.OpenDBFromPool(s.pool)
	p, err := goose.NewProvider(goose.DialectPostgres, db, dir)
	return p, db, err
}

// Migrate brings the schema up to this binary's version and returns how many
// migrations were applied. It returns ErrNewer when the database is ahead.
func (s *Store) Migrate(ctx context.Context) (int, error) {
	p, db, err := s.provider()
	if err != nil {
		return 0, fmt.Errorf("read migrations: %w", err)
	}
	defer func() { _ = db.Close() }()
	have, want, err := p.GetVersions(ctx)
	if err != nil {
		return 0, fmt.Errorf("read the schema version: %w", err)
	}
	if have > want {
		return 0, fmt.Errorf("%w (schema %d, this one knows %d)", ErrNewer, have, want)
	}
	done, err := p.Up(ctx)
	if err != nil {
		return len(done), fmt.Errorf("migrate the database: %w", err)
	}
	return len(done), nil
}

// translate turns a database error into one of the package's.
func translate(err error) error {
	var pg *pgconn.PgError
	switch {
	case err == nil:
		return nil
	case errors.Is(err, gorm.ErrRecordNotFound):
		return ErrNotFound
	case errors.Is(err, gorm.ErrDuplicatedKey):
		return ErrExists
	case errors.As(err, &pg) && pg.Code == "23505":
		return ErrExists
	case errors.As(err, &pg) && pg.Code == "23000":
		return ErrIssued
	case errors.As(err, &pg) && pg.Code == "22P02":
		return ErrNotFound // an id that is no id
	}
	return err
}
