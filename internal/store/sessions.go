package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
)

// Sessions keeps signed-in browsers for the session library. Its waits end with
// the request, as the library's own store's do not.
type Sessions struct{ s *Store }

// Sessions returns the store of signed-in browsers.
func (s *Store) Sessions() *Sessions { return &Sessions{s} }

// FindCtx returns the data of a token that has not expired.
func (x *Sessions) FindCtx(ctx context.Context, token string) (b []byte, found bool, err error) {
	ctx, cancel := context.WithTimeout(ctx, poolWait)
	defer cancel()
	err = x.s.pool.QueryRow(ctx, "SELECT data FROM sessions WHERE token = $1 AND current_timestamp < expiry", token).Scan(&b)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, false, nil
	}
	return b, err == nil, late(err)
}

// CommitCtx keeps the data of a token.
func (x *Sessions) CommitCtx(ctx context.Context, token string, b []byte, expiry time.Time) error {
	ctx, cancel := context.WithTimeout(ctx, poolWait)
	defer cancel()
	_, err := x.s.pool.Exec(
		ctx,
		"INSERT INTO sessions (token, data, expiry) VALUES ($1, $2, $3) ON CONFLICT (token) DO UPDATE SET data = EXCLUDED.data, expiry = EXCLUDED.expiry",
		token,
		b,
		expiry,
	)
	return late(err)
}

// DeleteCtx forgets a token.
func (x *Sessions) DeleteCtx(ctx context.Context, token string) error {
	ctx, cancel := context.WithTimeout(ctx, poolWait)
	defer cancel()
	_, err := x.s.pool.Exec(ctx, "DELETE FROM sessions WHERE token = $1", token)
	return late(err)
}

// late says what a wait that was too long is.
func late(err error) error {
	if errors.Is(err, context.DeadlineExceeded) {
		return fmt.Errorf("%w: %w", ErrUnavailable, err)
	}
	return err
}

// Find, Commit and Delete are what the library asks for where it has no context.

// Find is FindCtx without a context.
func (x *Sessions) Find(token string) ([]byte, bool, error) {
	return x.FindCtx(context.Background(), token)
}

// Commit is CommitCtx without a context.
func (x *Sessions) Commit(token string, b []byte, expiry time.Time) error {
	return x.CommitCtx(context.Background(), token, b, expiry)
}

// Delete is DeleteCtx without a context.
func (x *Sessions) Delete(token string) error { return x.DeleteCtx(context.Background(), token) }
