package main

import (
	"crypto/tls"
	"crypto/x509"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/postgres/pgtest"
)

// recipe runs the club's recipe of docs/operations.md in a folder.
func recipe(t *testing.T, dir string) {
	t.Helper()
	doc, err := os.ReadFile("../../docs/operations.md")
	require.NoError(t, err)
	_, after, ok := strings.Cut(string(doc), "## Tablets in a club's network")
	require.True(t, ok)
	_, after, _ = strings.Cut(after, "```sh\n")
	commands, _, _ := strings.Cut(after, "```")
	cmd := exec.Command("bash", "-euo", "pipefail", "-c", commands)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "NAME=localhost", "ADDRESS=127.0.0.1")
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s", out)
}

// The recipe for a club's network gives a server that a browser trusting the club trusts, and
// a renewed certificate is taken without a restart.
func TestClubCertificate(t *testing.T) {
	dir := t.TempDir()
	recipe(t, dir)
	cert, key := filepath.Join(dir, "dunnock.pem"), filepath.Join(dir, "dunnock.key")
	t.Setenv("DATABASE_URL", pgtest.URL(t))
	out, stop, done := begin(t, "serve", "--addr", "127.0.0.1:0", "--data", folder(t), "--tls-cert", cert, "--tls-key", key)
	says(t, out, "Dunnock is at https://127.0.0.1:")
	url := regexp.MustCompile(`https://127\.0\.0\.1:\d+`).FindString(out.String())

	club := x509.NewCertPool()
	pem, err := os.ReadFile(filepath.Join(dir, "club.pem"))
	require.NoError(t, err)
	require.True(t, club.AppendCertsFromPEM(pem))
	serial := func() string {
		client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: club}, DisableKeepAlives: true}, Timeout: 10 * time.Second}
		r, err := client.Get(url + "/api/v1/health")
		require.NoError(t, err)
		defer func() { _ = r.Body.Close() }()
		assert.Equal(t, http.StatusOK, r.StatusCode)
		return r.TLS.PeerCertificates[0].SerialNumber.String()
	}
	first := serial()
	_, err = (&http.Client{Timeout: 5 * time.Second}).Get(url + "/api/v1/health")
	require.Error(t, err, "nobody else signed it")

	renewed := t.TempDir()
	recipe(t, renewed)
	for _, name := range []string{"dunnock.key", "dunnock.pem"} {
		b, err := os.ReadFile(filepath.Join(renewed, name))
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), b, 0o600))
	}
	require.NoError(t, os.Chtimes(cert, time.Now(), time.Now().Add(time.Minute)))
	pem, err = os.ReadFile(filepath.Join(renewed, "club.pem"))
	require.NoError(t, err)
	club.AppendCertsFromPEM(pem)
	assert.NotEqual(t, first, serial())
	stop()
	require.NoError(t, <-done)
}

func TestACertificateThatCannotBeRead(t *testing.T) {
	_, err := run(t, map[string]string{"DATABASE_URL": pgtest.URL(t)}, "serve", "--addr", "127.0.0.1:0", "--data", folder(t), "--tls-cert", "nowhere.pem", "--tls-key", "nowhere.key")
	require.Error(t, err)
	assert.Contains(t, err.Error(), "nowhere.pem")
}
