package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
)

// ErrUnavailable is returned when the database does not answer, or has no
// connection free for longer than poolWait. What was asked for did not happen,
// or, where the answer to a commit was lost, may have.
var ErrUnavailable = errors.New("the database does not answer")

const (
	maxConns   = 16
	poolWait   = 5 * time.Second // for a free connection
	lockWait   = 8 * time.Second // for a row somebody else is writing
	healthWait = 800 * time.Millisecond
)

// Options say how a store connects.
type Options struct {
	// Port, where it is given, is asked before each new connection: a private
	// cluster that was started again may listen elsewhere.
	Port func() uint16
}

func poolConfig(url string, o Options) (*pgxpool.Config, error) {
	cfg, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("the database address is not one: %w", err)
	}
	cfg.MaxConns = maxConns
	cfg.ConnConfig.ConnectTimeout = poolWait
	for name, wait := range map[string]time.Duration{"lock_timeout": lockWait, "statement_timeout": time.Minute, "idle_in_transaction_session_timeout": time.Minute} {
		cfg.ConnConfig.RuntimeParams[name] = fmt.Sprint(wait.Milliseconds())
	}
	if o.Port != nil {
		cfg.BeforeConnect = func(_ context.Context, c *pgx.ConnConfig) error {
			c.Port = o.Port()
			return nil
		}
	}
	return cfg, nil
}

// bounded is a pool's connector whose waits have a limit.
type bounded struct{ driver.Connector }

func (b bounded) Connect(ctx context.Context) (driver.Conn, error) {
	wait, cancel := context.WithTimeout(ctx, poolWait)
	defer cancel()
	c, err := b.Connector.Connect(wait)
	if err != nil && ctx.Err() == nil {
		return nil, fmt.Errorf("%w: %w", ErrUnavailable, err)
	}
	return c, err
}

func openDB(pool *pgxpool.Pool) *sql.DB {
	db := sql.OpenDB(bounded{stdlib.GetPoolConnector(pool)})
	db.SetMaxIdleConns(0) // the pool beneath keeps them
	return db
}

// Unavailable reports whether an error says that the database was not there,
// stopped, or had no room.
func Unavailable(err error) bool {
	var pg *pgconn.PgError
	var connect *pgconn.ConnectError
	var network net.Error
	switch {
	case err == nil:
		return false
	case errors.As(err, &pg):
		switch pg.Code {
		case "57P01", "57P02", "57P03", "53300", "55P03", "08006", "08001", "25P03":
			return true
		}
		return false
	case errors.Is(err, ErrUnavailable), errors.As(err, &connect):
		return true
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return false
	case errors.As(err, &network), errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, net.ErrClosed),
		errors.Is(err, syscall.ECONNRESET), errors.Is(err, syscall.EPIPE), errors.Is(err, driver.ErrBadConn), errors.Is(err, sql.ErrConnDone):
		return true
	}
	return pgconn.SafeToRetry(err)
}

// Pool is the pool beneath, for tests that fill it, empty it and look past the
// practices.
func (s *Store) Pool() *pgxpool.Pool { return s.pool }

// Ping reports whether the database answers, on a connection of its own: it
// answers within a second whatever the pool is doing.
func (s *Store) Ping(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, healthWait)
	defer cancel()
	return s.health.Ping(ctx)
}
