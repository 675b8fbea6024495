package postgres

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
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
	args := []string{
		"-D",
		c.data(),
		"-p",
		strconv.Itoa(int(c.port.Load())),
		"-c",
		"listen_addresses=127.0.0.1",
		"-c",
		"unix_socket_directories=",
		"-c",
		"max_connections=100",
		"-c",
		"shared_buffers=64MB",
		"-c",
		"log_min_messages=warning",
	}
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
