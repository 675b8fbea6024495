package drill

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dunnock/internal/postgres"
	"dunnock/internal/store"
)

// today is the day every drill lives on.
const today = "2026-11-24"

// scale is a number a target of the Makefile sets, or the short form's.
func scale(name string, short int) int {
	if n, err := strconv.Atoi(os.Getenv(name)); err == nil && n > 0 {
		return n
	}
	return short
}

var program = sync.OnceValues(func() (string, error) {
	dir, err := os.MkdirTemp("", "dunnock-drill-bin-")
	if err != nil {
		return "", err
	}
	bin := filepath.Join(dir, "dunnock")
	out, err := exec.Command("go", "build", "-o", bin, "dunnock/cmd/dunnock").CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("%w: %s", err, out)
	}
	return bin, nil
})

// server is the program, running on a data folder of its own.
type server struct {
	t    testing.TB
	bin  string
	data string
	mu   sync.Mutex
	cmd  *exec.Cmd
	base string
}

const (
	email    = "coach@drill.example"
	password = "long enough"
)

// begin starts the program on a fresh folder with one coach.
func begin(t testing.TB) *server {
	t.Helper()
	bin, err := program()
	require.NoError(t, err)
	data, err := os.MkdirTemp("", "dunnock-drill-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(data, 0o755))
	s := &server{t: t, bin: bin, data: data}
	t.Cleanup(func() {
		s.stop()
		_ = os.RemoveAll(data)
	})
	s.start()
	cmd := s.command("user", "add", "--email", email, "--name", "Coach", "--practice", "Drill", "--zone", "Europe/London")
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s", out)
	return s
}

func (s *server) command(args ...string) *exec.Cmd {
	cmd := exec.Command(s.bin, append(args, "--data", s.data)...)
	cmd.Env = append(os.Environ(), "DUNNOCK_TODAY="+today, "DUNNOCK_PASSWORD="+password, "DATABASE_URL=")
	return cmd
}

var address = regexp.MustCompile(`http://127\.0\.0\.1:[0-9]+`)

// start runs the program and waits until it serves, at the address it had.
func (s *server) start() {
	s.t.Helper()
	listen := "127.0.0.1:0"
	if s.base != "" {
		listen = strings.TrimPrefix(s.base, "http://")
	}
	cmd := s.command("serve", "--addr", listen)
	var out lines
	cmd.Stdout, cmd.Stderr = &out, &out
	require.NoError(s.t, cmd.Start())
	done := make(chan struct{})
	go func() { _ = cmd.Wait(); close(done) }()
	require.Eventually(s.t, func() bool {
		select {
		case <-done:
			return true
		default:
			return address.MatchString(out.String())
		}
	}, time.Minute, 10*time.Millisecond)
	found := address.FindString(out.String())
	require.NotEmpty(s.t, found, "it did not start: %s", out.String())
	s.mu.Lock()
	s.cmd, s.base = cmd, found
	s.mu.Unlock()
	require.Eventually(s.t, func() bool { return s.healthy() }, time.Minute, 20*time.Millisecond, "%s", &out)
}

type lines struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (l *lines) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.b.Write(p)
}

func (l *lines) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.b.String()
}

func (s *server) healthy() bool {
	res, err := (&http.Client{Timeout: 2 * time.Second}).Get(s.base + "/api/v1/health")
	if err != nil {
		return false
	}
	_ = res.Body.Close()
	return res.StatusCode == http.StatusOK
}

// kill ends the program without a word.
func (s *server) kill() {
	_ = s.cmd.Process.Kill()
	for s.healthy() {
		time.Sleep(5 * time.Millisecond)
	}
}

// killDatabase ends the database without a word.
func (s *server) killDatabase() {
	b, err := os.ReadFile(filepath.Join(s.data, "postgres", "cluster", "postmaster.pid"))
	if err != nil {
		return
	}
	if pid, err := strconv.Atoi(strings.TrimSpace(strings.SplitN(string(b), "\n", 2)[0])); err == nil {
		_ = syscall.Kill(pid, syscall.SIGKILL)
	}
}

func (s *server) stop() {
	if s.cmd == nil {
		return
	}
	_ = s.cmd.Process.Signal(syscall.SIGTERM)
	for range 400 {
		if s.cmd.ProcessState != nil || syscall.Kill(s.cmd.Process.Pid, 0) != nil {
			return
		}
		time.Sleep(10 * time.Millisecond)
	}
	_ = s.cmd.Process.Kill()
}

// database opens the store beneath, for filling it and for looking past the
// program.
func (s *server) database() *store.Store {
	s.t.Helper()
	url, err := postgres.Address(filepath.Join(s.data, "postgres"), "dunnock")
	require.NoError(s.t, err)
	db, err := store.Open(context.Background(), url, store.Options{})
	require.NoError(s.t, err)
	s.t.Cleanup(db.Close)
	return db
}

// memory is what the program holds now and held at most, in bytes.
func (s *server) memory() (now, peak int) {
	b, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	require.NoError(s.t, err)
	read := func(name string) int {
		_, after, _ := strings.Cut(string(b), name+":")
		n, _ := strconv.Atoi(strings.Fields(after)[0])
		return n << 10
	}
	return read("VmRSS"), read("VmHWM")
}

// client is a signed-in browser.
type client struct {
	s    *server
	http *http.Client
}

func (s *server) client() *client {
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	c := &client{s, &http.Client{Jar: jar, Timeout: 40 * time.Second, Transport: &http.Transport{MaxIdleConnsPerHost: 8}}}
	require.Eventually(s.t, func() bool {
		status, _ := c.call("POST", "/session", m{"email": email, "password": password}, nil)
		return status == http.StatusOK
	}, time.Minute, 50*time.Millisecond)
	return c
}

type m map[string]any

// call asks and returns the status, 0 when there was no answer.
func (c *client) call(method, path string, body, into any) (int, []byte) {
	var r io.Reader
	kind := "application/json"
	switch b := body.(type) {
	case nil:
	case []byte:
		r, kind = bytes.NewReader(b), "application/octet-stream"
	default:
		text, err := json.Marshal(body)
		if err != nil {
			panic(err)
		}
		r = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, c.s.base+"/api/v1"+path, r)
	if err != nil {
		panic(err)
	}
	req.Header.Set("Content-Type", kind)
	res, err := c.http.Do(req)
	if err != nil {
		return 0, nil
	}
	defer func() { _ = res.Body.Close() }()
	got, err := io.ReadAll(res.Body)
	if err != nil {
		return 0, nil
	}
	if into != nil && res.StatusCode < 300 {
		if err := json.Unmarshal(got, into); err != nil {
			return 0, got
		}
	}
	return res.StatusCode, got
}
