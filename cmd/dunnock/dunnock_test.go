package main

import (
	"bytes"
	"context"
	"net"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
	"dunnock/internal/postgres/pgtest"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// run calls the command as a shell would and returns what it printed.
func run(t *testing.T, env map[string]string, args ...string) (string, error) {
	t.Helper()
	for k, v := range env {
		t.Setenv(k, v)
	}
	var out bytes.Buffer
	cmd := root()
	cmd.SetArgs(args)
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	err := cmd.ExecuteContext(ctx)
	return out.String(), err
}

func export(t *testing.T) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "golfer.json")
	f, err := os.Create(path)
	require.NoError(t, err)
	require.NoError(t, formats.WriteJSON(f, testkit.Strong()))
	require.NoError(t, f.Close())
	return path
}

func TestReadAndPlanAreTheSameByteForByte(t *testing.T) {
	path := export(t)
	for _, args := range [][]string{{"read", path, "--json"}, {"plan", path, "--school", "strength-first", "--json"}} {
		first, err := run(t, nil, args...)
		require.NoError(t, err)
		second, err := run(t, map[string]string{"TZ": "Pacific/Auckland"}, args...)
		require.NoError(t, err)
		assert.Equal(t, first, second)
	}
	words, err := run(t, nil, "plan", path)
	require.NoError(t, err)
	assert.Contains(t, words, "Trap-bar deadlift")
	words, err = run(t, nil, "read", path)
	require.NoError(t, err)
	assert.Contains(t, words, "Rotational power holds club speed back most")
}

// Golden files: what a change of the rules, the library or the wording does to
// a whole read and a whole plan is seen in the diff. UPDATE=1 writes them anew.
func TestGolden(t *testing.T) {
	path := export(t)
	for name, args := range map[string][]string{"read.golden.json": {"read", path, "--json"}, "plan.golden.txt": {"plan", path}} {
		got, err := run(t, nil, args...)
		require.NoError(t, err)
		golden := filepath.Join("testdata", name)
		if os.Getenv("UPDATE") != "" {
			require.NoError(t, os.WriteFile(golden, []byte(got), 0o644))
		}
		want, err := os.ReadFile(golden)
		require.NoError(t, err)
		assert.Equal(t, string(want), got, name)
	}
}

func TestBadFilesAreNamedAndEndWithTwo(t *testing.T) {
	bad := filepath.Join(t.TempDir(), "bad.json")
	require.NoError(t, os.WriteFile(bad, []byte("{\n\"format\": 7}"), 0o600))
	for _, args := range [][]string{{"read", bad}, {"plan", bad}, {"read", "/no/such/file.json"}, {"read", export(t), "--school", "none"}} {
		out, err := run(t, nil, args...)
		var input badInput
		require.ErrorAs(t, err, &input, "%v", args)
		assert.Empty(t, out)
	}
	_, err := run(t, nil, "read", bad)
	assert.ErrorContains(t, err, "line 2")
}

func TestUsersAndExportsOnAServerOfOnesOwn(t *testing.T) {
	url := pgtest.URL(t)
	env := map[string]string{"DATABASE_URL": url, "DUNNOCK_PASSWORD": "long enough", "DUNNOCK_TODAY": "2026-11-24"}
	out, err := run(t, env, "migrate")
	require.NoError(t, err)
	assert.Contains(t, out, "up to date")
	out, err = run(t, env, "user", "add", "--email", "c@example.org", "--name", "C", "--practice", "P")
	require.NoError(t, err)
	assert.Contains(t, out, "c@example.org can sign in to P")
	_, err = run(t, env, "user", "add", "--email", "c@example.org", "--name", "C", "--practice", "P")
	assert.ErrorContains(t, err, "already")
	_, err = run(t, env, "user", "add", "--email", "d@example.org", "--name", "C", "--practice", "P", "--zone", "Nowhere/None")
	assert.ErrorContains(t, err, "time zone")
	out, err = run(t, env, "export", "list")
	require.NoError(t, err)
	assert.Empty(t, out)
	_, err = run(t, env, "export", "athlete", "00000000-0000-4000-8000-000000000000")
	assert.ErrorContains(t, err, "there is no golfer")
}

func TestPlainWordsWhenItCannotStart(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	for says, c := range map[string]struct {
		env  map[string]string
		args []string
	}{
		"is in use":               {map[string]string{"DUNNOCK_ADDR": l.Addr().String()}, []string{"serve"}},
		"does not answer":         {map[string]string{"DATABASE_URL": "postgres://x@127.0.0.1:9/x?sslmode=disable", "DUNNOCK_ADDR": "127.0.0.1:0"}, []string{"serve"}},
		"DUNNOCK_TODAY":           {map[string]string{"DUNNOCK_TODAY": "tomorrow"}, []string{"version"}},
		"not one":                 {map[string]string{"DATABASE_URL": "nonsense://", "DUNNOCK_TODAY": ""}, []string{"migrate"}},
		"unknown command \"dance": {map[string]string{"DUNNOCK_TODAY": ""}, []string{"dance"}},
	} {
		_, err := run(t, c.env, c.args...)
		if assert.ErrorContains(t, err, says) {
			assert.Equal(t, 1, strings.Count(strings.TrimSpace(err.Error()), "\n")+1, "one line: %s", err)
		}
	}
}

func TestVersion(t *testing.T) {
	out, err := run(t, nil, "version")
	require.NoError(t, err)
	assert.Equal(t, "dunnock dev\n", out)
}
