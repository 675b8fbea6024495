package postgres_test

import (
	"context"
	"os"
	osexec "os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/postgres"
)

// server is the process of a cluster's server.
func server(t *testing.T, dir string) int {
	t.Helper()
	b, err := os.ReadFile(filepath.Join(dir, "cluster", "postmaster.pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.TrimSpace(strings.SplitN(string(b), "\n", 2)[0]))
	require.NoError(t, err)
	return pid
}

func answers(url string) bool {
	ctx, cancel := context.WithTimeout(context.Background(), time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return false
	}
	defer func() { _ = conn.Close(ctx) }()
	_, err = conn.Exec(ctx, "SELECT 1")
	return err == nil
}

// A database that dies is noticed and started again, at the same address, with
// everything it had acknowledged.
func TestADatabaseThatDiesIsStartedAgain(t *testing.T) {
	ctx := context.Background()
	dir := filepath.Join(open(t), "pg")
	var mu sync.Mutex
	var said []string
	c, err := postgres.Start(ctx, postgres.Options{Dir: dir, Report: func(s string) { mu.Lock(); said = append(said, s); mu.Unlock() }})
	require.NoError(t, err)
	defer c.Close()
	exec(t, c.URL("postgres"), "CREATE TABLE kept (x int)")
	for i := range 3 {
		exec(t, c.URL("postgres"), "INSERT INTO kept VALUES ("+strconv.Itoa(i)+")")
		before := c.URL("postgres")
		require.NoError(t, syscall.Kill(server(t, dir), syscall.SIGKILL))
		require.Eventually(t, func() bool { return answers(c.URL("postgres")) }, 20*time.Second, 50*time.Millisecond)
		assert.Equal(t, before, c.URL("postgres"))
	}
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	var n int
	require.NoError(t, conn.QueryRow(ctx, "SELECT count(*) FROM kept").Scan(&n))
	assert.Equal(t, 3, n)
	mu.Lock()
	defer mu.Unlock()
	assert.Contains(t, strings.Join(said, "\n"), "starting it again")
}

// As shipped the cluster keeps its promises: asserted on the running one.
func TestPromisesOfTheClusterAsShipped(t *testing.T) {
	ctx := context.Background()
	c, err := postgres.Start(ctx, postgres.Options{Dir: filepath.Join(open(t), "pg")})
	require.NoError(t, err)
	defer c.Close()
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	require.NoError(t, err)
	defer func() { _ = conn.Close(ctx) }()
	for _, promise := range []string{"fsync", "synchronous_commit", "full_page_writes"} {
		var is string
		require.NoError(t, conn.QueryRow(ctx, "SHOW "+promise).Scan(&is))
		assert.Equal(t, "on", is, promise)
	}
}

// TestMain lets a test start a second process that uses a cluster.
func TestMain(m *testing.M) {
	if dir := os.Getenv("DUNNOCK_TEST_CLUSTER"); dir != "" {
		c, err := postgres.Start(context.Background(), postgres.Options{Dir: dir})
		if err != nil {
			_, _ = os.Stdout.WriteString("error " + err.Error() + "\n")
			os.Exit(1)
		}
		_, _ = os.Stdout.WriteString(c.URL("postgres") + "\n")
		_, _ = os.Stdin.Read(make([]byte, 1)) // until the test closes it
		c.Close()
		os.Exit(0)
	}
	os.Exit(m.Run())
}

type second struct {
	cmd  *osexec.Cmd
	quit func()
	url  string
}

func another(t *testing.T, dir string) *second {
	t.Helper()
	cmd := osexec.Command(os.Args[0])
	cmd.Env = append(os.Environ(), "DUNNOCK_TEST_CLUSTER="+dir)
	in, err := cmd.StdinPipe()
	require.NoError(t, err)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	b := make([]byte, 300)
	n, err := out.Read(b)
	require.NoError(t, err)
	s := &second{cmd: cmd, url: strings.TrimSpace(string(b[:n]))}
	s.quit = func() { _ = in.Close(); _ = cmd.Wait() }
	require.NotContains(t, s.url, "error")
	return s
}

// Two that start at once share one cluster, and the port file is right; the
// cluster outlives whichever leaves first and ends with the last; one that was
// killed leaves it for the next to take over.
func TestProcessesShareACluster(t *testing.T) {
	dir := filepath.Join(open(t), "pg")
	var a, b *second
	var wg sync.WaitGroup
	wg.Go(func() { a = another(t, dir) })
	wg.Go(func() { b = another(t, dir) })
	wg.Wait()
	require.Equal(t, a.url, b.url)
	port, err := os.ReadFile(filepath.Join(dir, "port"))
	require.NoError(t, err)
	assert.Contains(t, a.url, ":"+string(port)+"/")
	a.quit()
	assert.True(t, answers(b.url), "whoever started it has left")

	require.NoError(t, b.cmd.Process.Kill())
	_ = b.cmd.Wait()
	assert.True(t, answers(b.url), "orphaned")
	pid := server(t, dir)
	c := another(t, dir)
	assert.Equal(t, b.url, c.url)
	assert.Equal(t, pid, server(t, dir), "taken over, not started anew")
	c.quit()
	assert.False(t, answers(c.url), "who leaves last stops it")
	assert.NoFileExists(t, filepath.Join(dir, "cluster", "postmaster.pid"), "cleanly")
}
