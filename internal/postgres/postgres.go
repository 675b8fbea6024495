// Package postgres runs a private PostgreSQL cluster from the system's own
// packages, for one's own machine, the demo and the tests: made on first start,
// listening on loopback only, with a random password. PostgreSQL refuses to run
// as root: then it runs as an unprivileged user of the system.
//
// A cluster belongs to its folder, not to the process that started it. Every
// process that uses it holds a shared lock on the folder; the one that leaves
// last stops the cluster, whichever started it. A process that is killed leaves
// the cluster running for the next one to take over. A cluster that dies is
// started again by whoever uses it.
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
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// ErrMissing is returned when PostgreSQL's programs are not installed.
var ErrMissing = errors.New("PostgreSQL is not installed: on Debian, apt-get install postgresql")

const superuser = "dunnock"

// Cluster is a private cluster in use by this process.
type Cluster struct {
	Dir    string // where its files are
	bin    string
	who    *syscall.Credential
	o      Options
	pass   string
	port   atomic.Int64
	users  *os.File // holds the shared lock of those who use it
	leave  context.CancelFunc
	left   chan struct{}
	closed sync.Once
}

// Options say how a cluster is run.
type Options struct {
	Dir      string // folder of the cluster
	Fallback string // folder to use where the server's user cannot reach Dir; "" for none
	// Unsafe gives up durability and ends the cluster with the process that started
	// it: for tests, whose data nobody misses.
	Unsafe bool
	// Report is told when the cluster died and was started again; nil for nobody.
	Report func(string)
}

// watchEvery is how often a cluster is looked after.
const watchEvery = 250 * time.Millisecond

// Start makes the cluster if it is not there, starts it if it does not run, and
// looks after it until Close.
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
	c := &Cluster{Dir: dir, bin: bin, who: who, o: o, left: make(chan struct{})}
	unlock, err := c.lock(ctx)
	if err != nil {
		return nil, err
	}
	defer unlock()
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err != nil {
		if err := c.initialise(ctx); err != nil {
			return nil, err
		}
	}
	pass, err := os.ReadFile(filepath.Join(dir, "password"))
	if err != nil {
		return nil, fmt.Errorf("read the cluster's password: %w", err)
	}
	c.pass = strings.TrimSpace(string(pass))
	if c.users, err = os.OpenFile(filepath.Join(dir, "users.lock"), os.O_CREATE|os.O_RDWR, 0o600); err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(c.users.Fd()), syscall.LOCK_SH); err != nil {
		return nil, fmt.Errorf("lock the cluster's folder: %w", err)
	}
	if err := c.ensure(ctx); err != nil {
		_ = c.users.Close()
		return nil, err
	}
	watch, leave := context.WithCancel(context.Background())
	c.leave = leave
	go c.watch(watch)
	return c, nil
}

func (c *Cluster) data() string { return filepath.Join(c.Dir, "cluster") }

// lock keeps other processes from starting and stopping the cluster.
func (c *Cluster) lock(ctx context.Context) (unlock func(), err error) {
	f, err := os.OpenFile(filepath.Join(c.Dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	for {
		err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB)
		if err == nil {
			return func() { _ = f.Close() }, nil
		}
		if !errors.Is(err, syscall.EWOULDBLOCK) && !errors.Is(err, syscall.EINTR) {
			_ = f.Close()
			return nil, fmt.Errorf("lock the cluster's folder: %w", err)
		}
		select {
		case <-ctx.Done():
			_ = f.Close()
			return nil, ctx.Err()
		case <-time.After(20 * time.Millisecond):
		}
	}
}

// ensure has a server of the cluster running and answering, an orphaned one if
// there is one, and its port known. The caller holds the lock.
func (c *Cluster) ensure(ctx context.Context) (err error) {
	// A server that was killed leaves processes that take a moment to go, and one
	// that somebody who was killed had just begun to start takes a moment to come.
	for end := time.Now().Add(patience); ; {
		if err = c.tryStart(ctx); err == nil || ctx.Err() != nil || time.Now().After(end) {
			return err
		}
		select {
		case <-ctx.Done():
			return err
		case <-time.After(200 * time.Millisecond):
		}
	}
}

// patience is how long a start is tried.
const patience = 20 * time.Second

func (c *Cluster) tryStart(ctx context.Context) error {
	if pid, port, ok := c.running(); ok {
		if port == 0 {
			return fmt.Errorf("the database (process %d) is starting and does not say where", pid)
		}
		c.port.Store(int64(port))
		if err := c.await(ctx, nil); err != nil {
			return err
		}
		return c.keepPort()
	}
	port, err := c.choosePort()
	if err != nil {
		return err
	}
	c.port.Store(int64(port))
	done, err := c.run()
	if err != nil {
		return err
	}
	if err := c.await(ctx, done); err != nil {
		return err
	}
	return c.keepPort()
}

// choosePort takes the port the cluster had, where it is free: connections that
// are made anew then find it.
func (c *Cluster) choosePort() (int, error) {
	if b, err := os.ReadFile(filepath.Join(c.Dir, "port")); err == nil {
		if port, err := strconv.Atoi(strings.TrimSpace(string(b))); err == nil && port > 0 {
			if l, err := net.Listen("tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(port))); err == nil {
				_ = l.Close()
				return port, nil
			}
		}
	}
	return freePort()
}

// keepPort writes down the port, whole or not at all.
func (c *Cluster) keepPort() error {
	name := filepath.Join(c.Dir, "port")
	if err := os.WriteFile(name+".new", []byte(strconv.Itoa(int(c.port.Load()))), 0o600); err != nil {
		return err
	}
	return os.Rename(name+".new", name)
}

// running returns the process of the cluster's server and its port, by the
// server's own note of them; port 0 while it has not written it yet.
func (c *Cluster) running() (pid, port int, ok bool) {
	b, err := os.ReadFile(filepath.Join(c.data(), "postmaster.pid"))
	if err != nil {
		return 0, 0, false
	}
	lines := strings.Split(string(b), "\n")
	pid, err = strconv.Atoi(strings.TrimSpace(lines[0]))
	if err != nil || pid <= 1 {
		return 0, 0, false
	}
	if len(lines) > 3 {
		port, _ = strconv.Atoi(strings.TrimSpace(lines[3]))
	}
	return pid, port, c.lives(pid)
}

// lives reports whether a process is the cluster's server and not a dead one
// nobody has buried, or another program with its number.
func (c *Cluster) lives(pid int) bool {
	if err := syscall.Kill(pid, 0); err != nil && !errors.Is(err, syscall.EPERM) {
		return false
	}
	proc := fmt.Sprintf("/proc/%d/", pid)
	if line, err := os.ReadFile(proc + "cmdline"); err == nil && !bytes.Contains(line, []byte(c.data())) {
		return false
	}
	stat, err := os.ReadFile(proc + "stat")
	if err != nil {
		return true // a system without /proc
	}
	_, after, _ := strings.Cut(string(stat), ") ")
	return !strings.HasPrefix(after, "Z") && !strings.HasPrefix(after, "X")
}

// watch starts the cluster again when it died, until ctx ends.
func (c *Cluster) watch(ctx context.Context) {
	defer close(c.left)
	tick := time.NewTicker(watchEvery)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
		if _, port, ok := c.running(); ok {
			if port > 0 {
				c.port.Store(int64(port)) // another process may have started it again
			}
			continue
		}
		if err := c.again(ctx); err != nil && ctx.Err() == nil {
			c.report("The database stopped and could not be started again yet: " + err.Error())
			select {
			case <-ctx.Done():
				return
			case <-time.After(time.Second):
			}
		}
	}
}

func (c *Cluster) again(ctx context.Context) error {
	unlock, err := c.lock(ctx)
	if err != nil {
		return err
	}
	defer unlock()
	if _, _, ok := c.running(); ok {
		return nil // somebody else was faster
	}
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err != nil {
		return errors.New("its folder is gone")
	}
	c.report("The database stopped: starting it again.")
	return c.ensure(ctx)
}

func (c *Cluster) report(s string) {
	if c.o.Report != nil {
		c.o.Report(s)
	}
}

// Address returns the address of a database of the cluster in a folder, if it
// runs. It starts nothing.
func Address(dir, database string) (string, error) {
	c := &Cluster{Dir: dir}
	pass, err := os.ReadFile(filepath.Join(dir, "password"))
	if err != nil {
		return "", fmt.Errorf("there is no cluster in %s that can be read: %w", dir, err)
	}
	_, port, ok := c.running()
	if !ok || port == 0 {
		return "", fmt.Errorf("the cluster in %s does not run: start dunnock serve beside this", dir)
	}
	c.pass = strings.TrimSpace(string(pass))
	c.port.Store(int64(port))
	return c.URL(database), nil
}

// Port is where the cluster listens now.
func (c *Cluster) Port() uint16 { return uint16(c.port.Load()) }

// URL is the address of a database of the cluster.
func (c *Cluster) URL(database string) string {
	u := url.URL{Scheme: "postgres", User: url.UserPassword(superuser, c.pass), Host: net.JoinHostPort("127.0.0.1", strconv.Itoa(int(c.port.Load()))), Path: "/" + database, RawQuery: "sslmode=disable"}
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

// Close leaves the cluster. Who leaves last stops it: fast, but cleanly.
func (c *Cluster) Close() {
	c.closed.Do(func() {
		c.leave()
		<-c.left
		ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
		defer cancel()
		unlock, err := c.lock(ctx)
		_ = c.users.Close() // and with it the shared lock
		if err != nil {
			return
		}
		defer unlock()
		f, err := os.OpenFile(filepath.Join(c.Dir, "users.lock"), os.O_RDWR, 0o600)
		if err != nil {
			return
		}
		defer func() { _ = f.Close() }()
		if syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) != nil {
			return // somebody still uses it
		}
		c.stop()
	})
}

// stop ends the server and waits for it.
func (c *Cluster) stop() {
	pid, _, ok := c.running()
	if !ok {
		return
	}
	for _, how := range []struct {
		signal syscall.Signal
		wait   time.Duration
	}{{syscall.SIGINT, 20 * time.Second}, {syscall.SIGQUIT, 5 * time.Second}} { // fast, then at once
		_ = syscall.Kill(pid, how.signal)
		for end := time.Now().Add(how.wait); time.Now().Before(end); time.Sleep(10 * time.Millisecond) {
			if !c.lives(pid) {
				return
			}
		}
	}
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

// as runs a command as the server's user, away from the terminal: Ctrl-C is for
// us, not for the database.
func (c *Cluster) as(cmd *exec.Cmd) {
	cmd.Dir = "/"
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.who, Setsid: true}
	if c.o.Unsafe {
		cmd.SysProcAttr.Pdeathsig = syscall.SIGINT
	}
}

func (c *Cluster) initialise(ctx context.Context) error {
	// A cluster half made by a start that was broken off is made again: whole, it
	// gets its name.
	fresh := c.data() + ".new"
	for _, half := range []string{c.data(), fresh} {
		if err := os.RemoveAll(half); err != nil {
			return err
		}
	}
	secret := make([]byte, 18)
	_, _ = rand.Read(secret)
	pw := filepath.Join(c.Dir, "password")
	if err := os.WriteFile(pw, []byte(hex.EncodeToString(secret)), 0o600); err != nil {
		return err
	}
	if c.who != nil {
		if err := os.Chown(pw, int(c.who.Uid), int(c.who.Gid)); err != nil {
			return err
		}
	}
	args := []string{"--pgdata", fresh, "--username", superuser, "--pwfile", pw, "--auth", "scram-sha-256", "--encoding", "UTF8", "--no-locale"}
	if c.o.Unsafe {
		args = append(args, "--no-sync")
	}
	cmd := exec.CommandContext(ctx, filepath.Join(c.bin, "initdb"), args...)
	c.as(cmd)
	var out bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &out
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("make the database cluster: %w: %s", err, lastLine(out.String()))
	}
	return os.Rename(fresh, c.data())
}

// run starts the server; done gets a value when it ends.
func (c *Cluster) run() (done chan error, err error) {
	log, err := os.OpenFile(filepath.Join(c.Dir, "server.log"), os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return nil, err
	}
	args := []string{"-D", c.data(), "-p", strconv.Itoa(int(c.port.Load())), "-c", "listen_addresses=127.0.0.1", "-c", "unix_socket_directories=", "-c", "max_connections=100", "-c", "shared_buffers=64MB", "-c", "log_min_messages=warning"}
	safe := "on"
	if c.o.Unsafe {
		safe = "off"
		args = append(args, "-c", "autovacuum=off")
	}
	for _, promise := range []string{"fsync", "synchronous_commit", "full_page_writes"} {
		args = append(args, "-c", promise+"="+safe)
	}
	cmd := exec.Command(filepath.Join(c.bin, "postgres"), args...)
	c.as(cmd)
	cmd.Stdout, cmd.Stderr = log, log
	if err := cmd.Start(); err != nil {
		_ = log.Close()
		return nil, fmt.Errorf("start the database: %w", err)
	}
	done = make(chan error, 1)
	go func() {
		done <- cmd.Wait()
		_ = log.Close()
	}()
	return done, nil
}

// await waits until the server answers, or ends.
func (c *Cluster) await(ctx context.Context, done <-chan error) error {
	deadline := time.Now().Add(30 * time.Second)
	for {
		try, cancel := context.WithTimeout(ctx, time.Second)
		conn, err := pgx.Connect(try, c.URL("postgres"))
		cancel()
		if err == nil {
			return conn.Close(ctx)
		}
		select {
		case <-done:
			b, _ := os.ReadFile(filepath.Join(c.Dir, "server.log"))
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
