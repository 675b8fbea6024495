package main

import (
	"crypto/tls"
	"fmt"
	"net"
	"os"
	"sync"
	"time"
)

// secured serves a listener over TLS with a certificate and its key. Both files are read again
// when they change: a certificate is renewed without a restart.
func secured(l net.Listener, certFile, keyFile string) (net.Listener, error) {
	c := &certificate{cert: certFile, key: keyFile}
	if _, err := c.get(nil); err != nil {
		return nil, badInput{fmt.Errorf("the certificate %s with the key %s: %w", certFile, keyFile, err)}
	}
	return tls.NewListener(l, &tls.Config{MinVersion: tls.VersionTLS12, GetCertificate: c.get, NextProtos: []string{"http/1.1"}}), nil
}

// certificate is a pair of files and what was read of them.
type certificate struct {
	cert, key string

	mu     sync.Mutex
	loaded *tls.Certificate
	of     time.Time // when the file that was read was written
}

func (c *certificate) get(*tls.ClientHelloInfo) (*tls.Certificate, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	st, err := os.Stat(c.cert)
	if err == nil && c.loaded != nil && st.ModTime().Equal(c.of) {
		return c.loaded, nil
	}
	var pair tls.Certificate
	if err == nil {
		pair, err = tls.LoadX509KeyPair(c.cert, c.key)
	}
	switch {
	case err == nil:
		c.loaded, c.of = &pair, st.ModTime()
	case c.loaded == nil:
		return nil, err
	}
	return c.loaded, nil // half a renewal: the one before goes on
}
