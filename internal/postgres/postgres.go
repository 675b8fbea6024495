// Package postgres runs a private PostgreSQL cluster from the system's own
// packages, for the demo and the tests: made on first start, listening on
// loopback only, with a random password, and gone with the process that
// started it. PostgreSQL refuses to run as root: then it runs as an unprivileged
// user of the system.
package postgres

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// ErrMissing is returned when PostgreSQL's programs are not installed.
var ErrMissing = errors.New("PostgreSQL is not installed: on Debian, apt-get install postgresql")

const superuser = "dunnock"

// Cluster is a running private cluster.
type Cluster struct {
	Dir  string // where its files are
	port int
	pass string
	cmd  *exec.Cmd
	done chan error
	log  string
}

// Options say how a cluster is run.
type Options struct {
	Dir      string // folder of the cluster
	Fallback string // folder to use where the server's user cannot reach Dir; "" for none
	Unsafe   bool   // no fsync: for tests, whose data nobody misses
}

// Start makes the cluster if it is not there and starts it. Close stops it.
func Start(ctx context.Context, o Options) (*Cluster, error) {
	bin, err := binaries()
	if err != nil {
		return nil, err
	}
	who, err := serverUser()
	if err != nil {
		return nil, err
	}
	dir, err := reachable(o, who)
	if err != nil {
		return nil, err
	}
	c := &Cluster{Dir: dir, log: filepath.Join(dir, "server.log")}
	data := filepath.Join(dir, "cluster")
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); err != nil {
		if err := initialise(ctx, bin, dir, data, who); err != nil {
			return nil, err
		}
	}
	pass, err := os.ReadFile(filepath.Join(dir, "password"))
	if err != nil {
		return nil, fmt.Errorf("read the cluster's password: %w", err)
	}
	c.pass = strings.TrimSpace(string(pass))
	if c.attach(ctx) {
		return c, nil
	}
	if c.port, err = freePort(); err != nil {
		return nil, err
	}
	if err := os.WriteFile(filepath.Join(dir, "port"), []byte(strconv.Itoa(c.port)), 0o600); err != nil {
		return nil, err
	}
	if err := c.run(bin, data, who, o.Unsafe); err != nil {
		return nil, err
	}
	if err := c.await(ctx); err != nil {
		c.Close()
		return nil, err
	}
	return c, nil
}

// attach uses the cluster's server if another process runs it already; Close
// then leaves it alone.
func (c *Cluster) attach(ctx context.Context) bool {
	b, err := os.ReadFile(filepath.Join(c.Dir, "port"))
	if err != nil {
		return false
	}
	if c.port, err = strconv.Atoi(strings.TrimSpace(string(b))); err != nil {
		return false
	}
	ctx, cancel := context.WithTimeout(ctx, time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return false
	}
	return conn.Close(ctx) == nil
}

// URL is the address of a database of the cluster.
func (c *Cluster) URL(database string) string {
	u := url.URL{Scheme: "postgres", User: url.UserPassword(superuser, c.pass), Host: net.JoinHostPort("127.0.0.1", strconv.Itoa(c.port)), Path: "/" + database, RawQuery: "sslmode=disable"}
	return u.String()
}

// EnsureDatabase makes a database if it is not there.
func (c *Cluster) EnsureDatabase(ctx context.Context, name string) error {
	conn, err := pgx.Connect(ctx, c.URL("postgres"))
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close(ctx) }()
	var there bool
	if err := conn.QueryRow(ctx, "SELECT EXISTS (SELECT 1 FROM pg_database WHERE datname = $1)", name).Scan(&there); err != nil || there {
		return err
	}
	_, err = conn.Exec(ctx, "CREATE DATABASE "+pgx.Identifier{name}.Sanitize())
	return err
}

// Close stops the cluster: fast, but cleanly.
func (c *Cluster) Close() {
	if c.cmd == nil || c.cmd.Process == nil {
		return
	}
	_ = c.cmd.Process.Signal(syscall.SIGINT) // PostgreSQL's fast shutdown
	select {
	case <-c.done:
	case <-time.After(20 * time.Second):
		_ = c.cmd.Process.Signal(syscall.SIGQUIT)
		<-c.done
	}
	c.cmd = nil
}

func binaries() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	if len(found) == 0 {
		p, err := exec.LookPath("initdb")
		if err != nil {
			return "", ErrMissing
		}
		return filepath.Dir(p), nil
	}
	slices.SortFunc(found, func(a, b string) int { return version(b) - version(a) })
	return filepath.Dir(found[0]), nil
}

func version(initdb string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(initdb))))
	return n
}

// serverUser returns the user the server runs as: nil for oneself.
func serverUser() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	for _, name := range []string{"postgres", "nobody"} {
		u, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, err1 := strconv.ParseUint(u.Uid, 10, 32)
		gid, err2 := strconv.ParseUint(u.Gid, 10, 32)
		if err1 == nil && err2 == nil {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New("PostgreSQL does not run as root, and there is neither a user postgres nor nobody to run it as")
}

// reachable makes the cluster's folder where the server's user can reach it.
func reachable(o Options, who *syscall.Credential) (string, error) {
	dir, err := filepath.Abs(o.Dir)
	if err != nil {
		return "", err
	}
	if who != nil && !passable(filepath.Dir(dir)) {
		if o.Fallback == "" {
			return "", fmt.Errorf("%s cannot be reached by the unprivileged user PostgreSQL runs as", dir)
		}
		dir = o.Fallback
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", fmt.Errorf("make the cluster's folder: %w", err)
	}
	if who != nil {
		if err := os.Chown(dir, int(who.Uid), int(who.Gid)); err != nil {
			return "", fmt.Errorf("give the cluster's folder to PostgreSQL's user: %w", err)
		}
	}
	return dir, os.Chmod(dir, 0o700)
}

// passable reports whether everybody may pass through a folder and its parents.
// Parents that do not exist yet are made passable.
func passable(dir string) bool {
	for ; ; dir = filepath.Dir(dir) {
		st, err := os.Stat(dir)
		if err == nil && st.Mode().Perm()&0o001 == 0 {
			return false
		}
		if dir == filepath.Dir(dir) {
			return true
		}
	}
}

func as(cmd *exec.Cmd, who *syscall.Credential) {
	cmd.Dir = "/"
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: who, Setpgid: true, Pdeathsig: syscall.SIGINT}
}

func initialise(ctx context.Context, bin, dir, data string, who *syscall.Credential) error {
	// A cluster half made by a start that was broken off is made again.
	_ = os.RemoveAll(data)
	secret := make([]byte, 18)
	_, _ = rand.Read(secret)
	pw := filepath.Join(dir, "password")
	if err := os.WriteFile(pw, []byte(hex.EncodeToString(secret)), 0o600); err != nil {
		return err
	}
	if who != nil {
		if err := os.Chown(pw, int(who.Uid), int(who.Gid)); err != nil {
			return err
		}
	}
	cmd := exec.CommandContext(ctx, filepath.Join(bin, "initdb"), "--pgdata", data, "--username", superuser, "--pwfile", pw,
		"--auth", "scram-sha-256", "--encoding", "UTF8", "--no-locale", "--no-sync")
	as(cmd, who)
	var out bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &out
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("make the database cluster: %w: %s", err, lastLine(out.String()))
	}
	return nil
}

func (c *Cluster) run(bin, data string, who *syscall.Credential, unsafe bool) error {
	log, err := os.OpenFile(c.log, os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	args := []string{"-D", data, "-p", strconv.Itoa(c.port), "-c", "listen_addresses=127.0.0.1", "-c", "unix_socket_directories=", "-c", "max_connections=60", "-c", "shared_buffers=64MB", "-c", "log_min_messages=warning"}
	if unsafe {
		args = append(args, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off", "-c", "autovacuum=off")
	}
	cmd := exec.Command(filepath.Join(bin, "postgres"), args...)
	as(cmd, who)
	cmd.Stdout, cmd.Stderr = log, log
	if err := cmd.Start(); err != nil {
		_ = log.Close()
		return fmt.Errorf("start the database: %w", err)
	}
	c.cmd, c.done = cmd, make(chan error, 1)
	go func() {
		err := cmd.Wait()
		_ = log.Close()
		c.done <- err
		close(c.done)
	}()
	return nil
}

// await waits until the server answers.
func (c *Cluster) await(ctx context.Context) error {
	deadline := time.Now().Add(30 * time.Second)
	for {
		try, cancel := context.WithTimeout(ctx, time.Second)
		conn, err := pgx.Connect(try, c.URL("postgres"))
		cancel()
		if err == nil {
			return conn.Close(ctx)
		}
		select {
		case <-c.done:
			b, _ := os.ReadFile(c.log)
			return fmt.Errorf("the database stopped at once: %s", lastLine(string(b)))
		case <-ctx.Done():
			return ctx.Err()
		default:
		}
		if time.Now().After(deadline) {
			return fmt.Errorf("the database does not answer: %w", err)
		}
		time.Sleep(25 * time.Millisecond)
	}
}

func lastLine(s string) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	return lines[len(lines)-1]
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer func() { _ = l.Close() }()
	return l.Addr().(*net.TCPAddr).Port, nil
}
