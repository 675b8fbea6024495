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
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"path/filepath"
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
		if err := c.restart(ctx); err != nil && ctx.Err() == nil {
			c.report("The database stopped and could not be started again yet: " + err.Error())
			select {
			case <-ctx.Done():
				return
			case <-time.After(time.Second):
			}
		}
	}
}

func (c *Cluster) restart(ctx context.Context) error {
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
	u := url.URL{
		Scheme:   "postgres",
		User:     url.UserPassword(superuser, c.pass),
		Host:     net.JoinHostPort("127.0.0.1", strconv.Itoa(int(c.port.Load()))),
		Path:     "/" + database,
		RawQuery: "sslmode=disable",
	}
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
