// Package pgtest gives each test a database of its own: one private cluster a
// test binary, one migrated template in it, and a copy of that for every test.
package pgtest

import (
	"compress/gzip"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dunnock/internal/postgres"
	"dunnock/internal/store"
)

var (
	once    sync.Once
	cluster *postgres.Cluster
	failure error
	count   atomic.Int64
)

// Main runs a package's tests and stops the cluster afterwards. Call it from
// TestMain.
func Main(m *testing.M) {
	code := m.Run()
	if cluster != nil {
		cluster.Close()
		_ = os.RemoveAll(filepath.Dir(cluster.Dir))
	}
	os.Exit(code)
}

func start() {
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "dunnock-test-")
	if err != nil {
		failure = err
		return
	}
	if failure = os.Chmod(dir, 0o755); failure != nil {
		return
	}
	if cluster, failure = postgres.Start(ctx, postgres.Options{Dir: filepath.Join(dir, "pg"), Unsafe: true}); failure != nil {
		return
	}
	if failure = cluster.EnsureDatabase(ctx, "template_dunnock"); failure != nil {
		return
	}
	s, err := store.Open(ctx, cluster.URL("template_dunnock"), store.Options{})
	if err != nil {
		failure = err
		return
	}
	_, failure = s.Migrate(ctx)
	s.Close()
}

// URL returns the address of a new, migrated, empty database.
func URL(t testing.TB) string { t.Helper(); return create(t, "template_dunnock") }

// Empty returns the address of a new database with no schema at all.
func Empty(t testing.TB) string { t.Helper(); return create(t, "template0") }

func create(t testing.TB, template string) string {
	t.Helper()
	once.Do(start)
	require.NoError(t, failure)
	ctx := context.Background()
	name := fmt.Sprintf("test_%d", count.Add(1))
	conn, err := pgx.Connect(ctx, cluster.URL("postgres"))
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	_, err = conn.Exec(ctx, "CREATE DATABASE "+name+" TEMPLATE "+template+" STRATEGY file_copy")
	require.NoError(t, err)
	return cluster.URL(name)
}

// prepared are the databases of Prepared, by name.
var prepared sync.Map

// Prepared returns a store on a new database with what fill puts into an empty
// one; it is closed with the test. A name is filled once for the test binary and
// copied for every test after that.
func Prepared(t testing.TB, name string, fill func(*store.Store) error) *store.Store {
	t.Helper()
	ctx := context.Background()
	made, _ := prepared.LoadOrStore(name, sync.OnceValues(func() (string, error) {
		url := URL(t)
		s, err := store.Open(ctx, url, store.Options{})
		if err != nil {
			return "", err
		}
		defer s.Close()
		return url[strings.LastIndex(url, "/")+1:], fill(s)
	}))
	template, err := made.(func() (string, error))()
	require.NoError(t, err)
	template, _, _ = strings.Cut(template, "?")
	s, err := store.Open(ctx, create(t, template), store.Options{})
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s
}

// Store returns a store on a new database; it is closed with the test.
func Store(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), URL(t), store.Options{})
	require.NoError(t, err)
	t.Cleanup(s.Close)
	return s
}

// Restored returns a database with what a dump holds: plain SQL, compressed.
func Restored(t testing.TB, path string) string {
	t.Helper()
	ctx := context.Background()
	url := Empty(t)
	f, err := os.Open(path)
	require.NoError(t, err)
	defer func() { _ = f.Close() }()
	r, err := gzip.NewReader(f)
	require.NoError(t, err)
	sql, err := io.ReadAll(r)
	require.NoError(t, err)
	conn, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	_, err = conn.Exec(ctx, string(sql), pgx.QueryExecModeSimpleProtocol)
	require.NoError(t, err)
	return url
}
