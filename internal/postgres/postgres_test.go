package postgres_test

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/postgres"
)

// open makes a folder the server's user can pass through.
func open(t *testing.T) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "dunnock-pg-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	return dir
}

func exec(t *testing.T, url, sql string) {
	t.Helper()
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	_, err = conn.Exec(ctx, sql)
	require.NoError(t, err)
}

func TestASecondStartKeepsWhatIsThere(t *testing.T) {
	ctx := context.Background()
	dir := filepath.Join(open(t), "pg")
	first, err := postgres.Start(ctx, postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	require.NoError(t, first.EnsureDatabase(ctx, "one"))
	require.NoError(t, first.EnsureDatabase(ctx, "one"))
	exec(t, first.URL("one"), "CREATE TABLE kept (x int)")

	// While it runs, another process uses the same server and leaves it alone.
	second, err := postgres.Start(ctx, postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	assert.Equal(t, first.URL("one"), second.URL("one"))
	second.Close()
	exec(t, first.URL("one"), "SELECT 1")
	first.Close()

	third, err := postgres.Start(ctx, postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	defer third.Close()
	exec(t, third.URL("one"), "SELECT x FROM kept")
}

func TestAHalfMadeClusterIsMadeAgain(t *testing.T) {
	dir := filepath.Join(open(t), "pg")
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "cluster", "base"), 0o755))
	c, err := postgres.Start(context.Background(), postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	defer c.Close()
	exec(t, c.URL("postgres"), "SELECT 1")
}

func TestAFolderTheServerCannotReachIsReplacedByTheFallback(t *testing.T) {
	if os.Geteuid() != 0 {
		t.Skip("an ordinary user runs the server as themselves and reaches their own folders")
	}
	closed := filepath.Join(open(t), "closed")
	require.NoError(t, os.Mkdir(closed, 0o700))
	_, err := postgres.Start(context.Background(), postgres.Options{Dir: filepath.Join(closed, "pg")})
	require.ErrorContains(t, err, "cannot be reached")
	fallback := filepath.Join(open(t), "pg")
	c, err := postgres.Start(context.Background(), postgres.Options{Dir: filepath.Join(closed, "pg"), Fallback: fallback, Unsafe: true})
	require.NoError(t, err)
	defer c.Close()
	assert.Equal(t, fallback, c.Dir)
}
