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
	db     *gorm.DB
	pool   *pgxpool.Pool
	health *pgxpool.Pool // one connection, for Ping alone
}

// Open connects to the database at url and checks that it answers within ten
// seconds. It does not migrate.
func Open(ctx context.Context, url string, o Options) (*Store, error) {
	cfg, err := poolConfig(url, o)
	if err != nil {
		return nil, err
	}
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	own := cfg.Copy()
	own.MaxConns = 1
	health, err := pgxpool.NewWithConfig(ctx, own)
	if err != nil {
		pool.Close()
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	s := &Store{pool: pool, health: health}
	ping, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	if err := pool.Ping(ping); err != nil {
		s.Close()
		var pg *pgconn.PgError
		if errors.As(err, &pg) && !Unavailable(err) {
			return nil, fmt.Errorf("the database refuses the connection: %s", pg.Message)
		}
		return nil, fmt.Errorf("%w: %w", ErrUnavailable, err)
	}
	s.db, err = gorm.Open(postgres.New(postgres.Config{Conn: openDB(pool)}), &gorm.Config{
		Logger:                 logger.New(log.Default(), logger.Config{LogLevel: logger.Silent}),
		SkipDefaultTransaction: true,
		TranslateError:         true,
		// Statements are prepared and kept by pgx, one cache a connection. GORM's
		// own cache would prepare each of them anew on every borrowed connection.
	})
	if err == nil {
		err = s.db.Use(tenancy{})
	}
	if err != nil {
		s.Close()
		return nil, fmt.Errorf("open the database: %w", err)
	}
	return s, nil
}

// Close ends all connections.
func (s *Store) Close() {
	s.pool.Close()
	s.health.Close()
}

func (s *Store) provider() (*goose.Provider, *sql.DB, error) {
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, nil, err
	}
	db := stdlib.OpenDBFromPool(s.pool)
	p, err := goose.NewProvider(goose.DialectPostgres, db, dir, goose.WithGoMigrations(changesMigration))
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
	case errors.As(err, &pg) && (pg.Code == "23514" || pg.Code == "22003" || pg.Code == "22001" || pg.Code == "22021"):
		return &ValueError{Part: pg.ConstraintName}
	}
	return err
}

// A ValueError says that the database refused a value, the last line of defence:
// Part names the table and the column where the database says so.
type ValueError struct{ Part string }

func (e *ValueError) Error() string {
	return "a value that cannot be stored: " + e.Part
}
