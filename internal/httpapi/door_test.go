package httpapi_test

import (
	"context"
	"fmt"
	"net/http"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/demo"
	"dunnock/internal/httpapi"
	"dunnock/internal/postgres/pgtest"
)

func TestParallelGuessesAreCountedBeforeTheyAreTested(t *testing.T) {
	c := withDemo(t)
	known := c // has signed in before
	var tested, refused atomic.Int64
	var wg sync.WaitGroup
	for range 120 {
		wg.Go(func() {
			res, _ := c.s.client(t).do("POST", "/session", "application/json", []byte(`{"email":"`+demo.Email+`","password":"a wrong guess"}`), nil)
			switch res.StatusCode {
			case http.StatusUnauthorized:
				tested.Add(1)
			case http.StatusTooManyRequests, http.StatusServiceUnavailable:
				refused.Add(1)
			}
		})
	}
	wg.Wait()
	assert.LessOrEqual(t, tested.Load(), int64(5))
	assert.Equal(t, int64(120), tested.Load()+refused.Load())
	for i := range 40 { // other names, from the same address
		c.s.client(t).do("POST", "/session", "application/json", fmt.Appendf(nil, `{"email":"x%d@example.org","password":"a wrong guess"}`, i%8), nil)
	}
	// A browser that signed in before gets in with the right password, and does not
	// with a wrong one for ever.
	known.json("DELETE", "/session", nil, http.StatusNoContent, nil)
	known.post("/session", m{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	known.json("DELETE", "/session", nil, http.StatusNoContent, nil)
	for range 5 {
		known.post("/session", m{"email": demo.Email, "password": "a wrong guess"}, http.StatusUnauthorized, nil)
	}
	known.post("/session", m{"email": demo.Email, "password": demo.Password}, http.StatusTooManyRequests, nil)

	// Whoever else sits behind that address is not locked out: a colleague on a
	// browser that is new here.
	_, err := c.s.app.AddUser(context.Background(), app.Setup{Practice: "Other", Zone: "UTC", Name: "O", Email: "o@example.org", Password: "long enough"}, false)
	require.NoError(t, err)
	c.s.client(t).post("/session", m{"email": "o@example.org", "password": "long enough"}, http.StatusOK, nil)
}

// Forwarded addresses count only from a proxy that was named.
func TestForwardedAddresses(t *testing.T) {
	s := pgtest.Store(t)
	require.NoError(t, demo.LoadSquad(context.Background(), app.New(s, time.Now, today), false))
	guess := func(c *client, from string) int {
		res, _ := c.do(
			"POST",
			"/session",
			"application/json",
			[]byte(`{"email":"`+demo.Email+`","password":"a wrong guess"}`),
			map[string]string{"X-Forwarded-For": from},
		)
		return res.StatusCode
	}
	plain := newServerOn(t, s)
	for i := range 5 {
		assert.Equal(t, http.StatusUnauthorized, guess(plain.client(t), fmt.Sprintf("10.0.0.%d", i)))
	}
	assert.Equal(t, http.StatusTooManyRequests, guess(plain.client(t), "10.0.0.9"), "a header anybody can write is no address")

	proxied := newServerOptions(t, httpapi.Options{Store: s, Proxies: []string{"127.0.0.0/8", "10.9.0.1"}})
	for i := range 5 {
		assert.Equal(t, http.StatusUnauthorized, guess(proxied.client(t), fmt.Sprintf("10.0.0.%d", i)))
	}
	assert.Equal(t, http.StatusUnauthorized, guess(proxied.client(t), "10.0.0.9, 10.9.0.1"), "the nearest that is no proxy")
	for range 4 {
		guess(proxied.client(t), "6.6.6.6, 10.0.0.9")
	}
	assert.Equal(t, http.StatusTooManyRequests, guess(proxied.client(t), "7.7.7.7, 10.0.0.9"), "what a client writes in front does not count")
	_, _, err := httpapi.New(httpapi.Options{Store: s, App: plain.app, Proxies: []string{"proxy.example"}})
	assert.ErrorContains(t, err, "DUNNOCK_PROXY")
}

// Only names of this machine and those in DUNNOCK_HOSTS are answered.
func TestHosts(t *testing.T) {
	s := pgtest.Store(t)
	srv := newServerOptions(t, httpapi.Options{Store: s, Hosts: []string{"desk.club.example"}})
	for host, want := range map[string]int{
		"localhost:7420": 200, "127.0.0.1": 200, "[::1]:7420": 200, "127.8.8.8:1": 200, "desk.club.example": 200, "DESK.club.example:443": 200,
		"evil.example": 421, "localhost.evil.example": 421, "127.0.0.1.evil.example": 421, "192.168.0.7": 421,
	} {
		req, err := http.NewRequest("GET", srv.URL+httpapi.Base+"/setup", nil)
		require.NoError(t, err)
		req.Host = host
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		_ = res.Body.Close()
		assert.Equal(t, want, res.StatusCode, host)
	}
}
