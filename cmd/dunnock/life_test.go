package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/demo"
	"dunnock/internal/postgres"
	"dunnock/internal/postgres/pgtest"
)

// output gathers what a command prints while it runs.
type output struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (o *output) Write(p []byte) (int, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.b.Write(p)
}

func (o *output) String() string {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.b.String()
}

// begin runs a command until stop; done gets its error.
func begin(t *testing.T, args ...string) (out *output, stop func(), done chan error) {
	t.Helper()
	out = &output{}
	ctx, cancel := context.WithCancel(context.Background())
	cmd := root()
	cmd.SetArgs(args)
	cmd.SetOut(out)
	cmd.SetErr(out)
	done = make(chan error, 1)
	go func() { done <- cmd.ExecuteContext(ctx) }()
	t.Cleanup(cancel)
	return out, cancel, done
}

func says(t *testing.T, out *output, text string) {
	t.Helper()
	if !assert.Eventually(t, func() bool { return strings.Contains(out.String(), text) }, 60*time.Second, 20*time.Millisecond, "%s", text) {
		t.Fatalf("it said: %s", out)
	}
}

// folder is a data folder the database's user can reach.
func folder(t *testing.T) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "dunnock-life-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	return dir
}

var address = regexp.MustCompile(`http://127\.0\.0\.1:[0-9]+`)

// A second server on one data folder is refused in one line; commands share the
// cluster; Ctrl-C ends it in time with a live page open.
func TestAServerAndItsDataFolder(t *testing.T) {
	t.Setenv("DUNNOCK_TODAY", "2026-11-24")
	t.Setenv("DATABASE_URL", "")
	t.Setenv("DUNNOCK_PASSWORD", demo.Password)
	data := folder(t)
	out, stop, done := begin(t, "serve", "--data", data, "--addr", "127.0.0.1:0")
	says(t, out, "one-time code")

	_, err := run(t, nil, "serve", "--data", data, "--addr", "127.0.0.1:0")
	require.ErrorContains(t, err, "served already by process")
	assert.NotContains(t, err.Error(), "\n")

	_, err = run(t, nil, "user", "add", "--data", data, "--email", "c@example.org", "--name", "C", "--practice", "P")
	require.NoError(t, err, "a command beside the server uses its cluster")
	where, err := run(t, nil, "database", "--data", data)
	require.NoError(t, err)
	assert.Contains(t, where, "The private cluster is in ")
	assert.Contains(t, where, "postgres://dunnock:")

	base := address.FindString(out.String()) + "/api/v1"
	jar := &http.Client{}
	res, err := jar.Post(base+"/session", "application/json", strings.NewReader(`{"email":"c@example.org","password":"`+demo.Password+`"}`))
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, res.StatusCode)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	req, err := http.NewRequest("GET", base+"/version", nil)
	require.NoError(t, err)
	for _, k := range res.Cookies() {
		req.AddCookie(k)
	}
	// A body that never ends keeps a request open.
	slow, silent := io.Pipe()
	defer func() { _ = silent.Close() }()
	hang, err := http.NewRequest("POST", base+"/uploads?name=x", slow)
	require.NoError(t, err)
	for _, k := range res.Cookies() {
		hang.AddCookie(k)
	}
	go func() {
		if res, err := jar.Do(hang); err == nil {
			_ = res.Body.Close()
		}
	}()
	res, err = jar.Do(req)
	require.NoError(t, err)
	_ = res.Body.Close()

	at := time.Now()
	stop()
	require.NoError(t, <-done)
	assert.Less(t, time.Since(at), 3*time.Second)
	assert.Contains(t, out.String(), "Stopping.")
	_, err = run(t, nil, "database", "--data", data)
	assert.ErrorContains(t, err, "does not run")
}

// With a server of one's own that is not there, Dunnock waits, says so, and comes
// back by itself.
func TestAServerOfOnesOwnIsWaitedFor(t *testing.T) {
	ctx := context.Background()
	dir := filepath.Join(folder(t), "pg")
	c, err := postgres.Start(ctx, postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	require.NoError(t, c.EnsureDatabase(ctx, "own"))
	url := c.URL("own")
	c.Close()
	t.Setenv("DATABASE_URL", url)
	out, stop, done := begin(t, "serve", "--addr", "127.0.0.1:0")
	says(t, out, "waiting for it")
	c, err = postgres.Start(ctx, postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	require.Equal(t, url, c.URL("own"), "at the port it had")
	says(t, out, "one-time code")
	base := address.FindString(out.String()) + "/api/v1"
	status := func(path string) int {
		res, err := http.Get(base + path)
		if err != nil {
			return 0
		}
		_ = res.Body.Close()
		return res.StatusCode
	}
	require.Eventually(t, func() bool { return status("/health") == 200 }, 10*time.Second, 50*time.Millisecond)
	c.Close()
	begun := time.Now()
	assert.Equal(t, 503, status("/health"))
	assert.Less(t, time.Since(begun), 1500*time.Millisecond)
	assert.Equal(t, 503, status("/setup"))
	c, err = postgres.Start(ctx, postgres.Options{Dir: dir, Unsafe: true})
	require.NoError(t, err)
	defer c.Close()
	require.Eventually(t, func() bool { return status("/setup") == 200 }, 20*time.Second, 50*time.Millisecond, "it comes back by itself")
	stop()
	require.NoError(t, <-done)

	t.Setenv("DATABASE_URL", strings.Replace(url, "dunnock:", "dunnock:wrong", 1))
	_, err = run(t, nil, "serve", "--addr", "127.0.0.1:0")
	assert.ErrorContains(t, err, "password", "what waiting does not mend is said at once")
}

// The drill of docs/operations.md, as it stands there.
func TestRestoreDrill(t *testing.T) {
	doc, err := os.ReadFile("../../docs/operations.md")
	require.NoError(t, err)
	_, after, ok := strings.Cut(string(doc), "## Restore drill")
	require.True(t, ok)
	_, after, _ = strings.Cut(after, "```sh\n")
	drill, _, _ := strings.Cut(after, "```")

	url := pgtest.URL(t)
	env := map[string]string{"DATABASE_URL": url, "DUNNOCK_PASSWORD": "long enough", "DUNNOCK_TODAY": "2026-11-24"}
	_, err = run(t, env, "user", "add", "--email", "c@example.org", "--name", "C", "--practice", "P")
	require.NoError(t, err)
	conn, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer func() { _ = conn.Close(context.Background()) }()
	_, err = conn.Exec(t.Context(), "INSERT INTO athletes (practice_id, name, birth_date, playing_side) SELECT id, 'Ada North', '1990-01-02', 'left' FROM practices")
	require.NoError(t, err)

	dir := t.TempDir()
	bin := filepath.Join(dir, "dunnock")
	build, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	require.NoError(t, err, "%s", build)
	sh := func(empty string) (string, error) {
		cmd := exec.Command("bash", "-euo", "pipefail", "-c", drill)
		cmd.Dir = dir
		found, _ := filepath.Glob("/usr/lib/postgresql/*/bin")
		cmd.Env = append(os.Environ(), "DATABASE_URL="+url, "EMPTY="+empty, fmt.Sprintf("PATH=%s:%s:%s", dir, strings.Join(found, ":"), os.Getenv("PATH")))
		out, err := cmd.CombinedOutput()
		return string(out), err
	}
	out, err := sh(pgtest.Empty(t))
	require.NoError(t, err, out)
	assert.Contains(t, out, "Ada North")
	out, err = sh(pgtest.URL(t))
	require.Error(t, err, "a database that is not empty stops it at the first error")
	assert.Contains(t, out, "already exists")
	assert.Equal(t, 1, strings.Count(out, "ERROR"), out)
}
