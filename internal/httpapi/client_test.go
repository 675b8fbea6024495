package httpapi_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
	"dunnock/internal/demo"
	"dunnock/internal/httpapi"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

var today = civil.MustParse("2026-11-24")

// server is a Dunnock on a database of its own.
type server struct {
	*httptest.Server
	app   *app.App
	store *store.Store
}

func newServer(t testing.TB) *server {
	t.Helper()
	return newServerOn(t, pgtest.Store(t))
}

// newServerOn is one more server on a database.
func newServerOn(t testing.TB, s *store.Store) *server { return newServerWith(t, s, "", "") }

// newServerWith is one with a dynamometer and plates at loopback addresses.
func newServerWith(t testing.TB, s *store.Store, grip, plates string) *server {
	t.Helper()
	return newServerOptions(t, httpapi.Options{Store: s, Grip: grip, Plates: plates})
}

// newServerOptions is one with options of its own.
func newServerOptions(t testing.TB, o httpapi.Options) *server {
	t.Helper()
	o.App, o.Version = app.New(o.Store, time.Now, today), "test"
	o.Web = fstest.MapFS{
		"index.html":    {Data: []byte(`<meta content="__NONCE__">`)},
		"assets/app.js": {Data: []byte("1")},
	}
	h, stop, err := httpapi.New(o)
	require.NoError(t, err)
	srv := httptest.NewServer(h)
	t.Cleanup(func() { srv.Close(); o.App.Close(); stop() })
	return &server{srv, o.App, o.Store}
}

// withSquad is a database with the demo squad.
func withSquad(t testing.TB) *store.Store {
	t.Helper()
	return pgtest.Prepared(t, "squad", func(s *store.Store) error {
		a := app.New(s, time.Now, today)
		defer a.Close()
		return demo.LoadSquad(context.Background(), a, false)
	})
}

// withDemo loads the demo squad and signs its coach in.
func withDemo(t testing.TB) *client {
	t.Helper()
	s := newServerOn(t, withSquad(t))
	c := s.client(t)
	c.post("/session", map[string]string{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	return c
}

// client is a browser without a screen: it keeps cookies, and it checks every
// answer against the contract.
type client struct {
	t      testing.TB
	s      *server
	http   *http.Client
	router routers.Router
}

// contract finds what the contract says of a request; it is read once.
var contract = sync.OnceValues(func() (routers.Router, error) {
	spec, err := gen.GetSpec()
	if err != nil {
		return nil, err
	}
	return gorillamux.NewRouter(spec)
})

func (s *server) client(t testing.TB) *client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	router, err := contract()
	require.NoError(t, err)
	return &client{t: t, s: s, http: &http.Client{Jar: jar}, router: router}
}

func (c *client) do(method, path, contentType string, body []byte, headers map[string]string) (*http.Response, []byte) {
	c.t.Helper()
	req, err := http.NewRequest(method, c.s.URL+httpapi.Base+path, bytes.NewReader(body))
	require.NoError(c.t, err)
	if contentType != "" {
		req.Header.Set("Content-Type", contentType)
	}
	for k, v := range headers {
		req.Header.Set(k, v)
	}
	res, err := c.http.Do(req)
	require.NoError(c.t, err)
	defer func() { _ = res.Body.Close() }()
	got, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	c.fits(req, res, got)
	return res, got
}

// fits holds an answer against the contract.
func (c *client) fits(req *http.Request, res *http.Response, body []byte) {
	c.t.Helper()
	plain, err := http.NewRequest(req.Method, "http://x"+req.URL.RequestURI(), nil)
	require.NoError(c.t, err)
	route, params, err := c.router.FindRoute(plain)
	if err != nil {
		return // not in the contract: an address there is nothing at
	}
	in := &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: plain, PathParams: params, Route: route},
		Status:                 res.StatusCode, Header: res.Header, Body: io.NopCloser(bytes.NewReader(body)),
	}
	require.NoError(c.t, openapi3filter.ValidateResponse(context.Background(), in), "%s %s answers outside the contract: %s", req.Method, req.URL.Path, body)
}

func (c *client) json(method, path string, body any, status int, into any) gen.Problem {
	c.t.Helper()
	var b []byte
	if body != nil {
		var err error
		b, err = json.Marshal(body)
		require.NoError(c.t, err)
	}
	res, got := c.do(method, path, "application/json", b, nil)
	require.Equal(c.t, status, res.StatusCode, "%s %s: %s", method, path, got)
	var p gen.Problem
	if status >= 400 {
		require.Equal(c.t, "application/problem+json", res.Header.Get("Content-Type"))
		require.NoError(c.t, json.Unmarshal(got, &p))
		return p
	}
	if into != nil {
		require.NoError(c.t, json.Unmarshal(got, into))
	}
	return p
}

func (c *client) get(path string, status int, into any) gen.Problem {
	c.t.Helper()
	return c.json(http.MethodGet, path, nil, status, into)
}

func (c *client) post(path string, body any, status int, into any) gen.Problem {
	c.t.Helper()
	return c.json(http.MethodPost, path, body, status, into)
}

// units sets what the practice reads, quantity by quantity.
func (c *client) units(of m, status int) {
	c.t.Helper()
	var p m
	c.get("/practice", http.StatusOK, &p)
	p["units"] = of
	c.json("PUT", "/practice", p, status, nil)
}

// golfer returns the id of a golfer of the demo.
func (c *client) golfer(name string) string {
	c.t.Helper()
	var squad struct{ Athletes []gen.SquadRow }
	c.get("/athletes", http.StatusOK, &squad)
	for _, a := range squad.Athletes {
		if strings.HasPrefix(a.Name, name) {
			return a.Id
		}
	}
	c.t.Fatalf("no golfer %s", name)
	return ""
}

// screen returns the newest screen of a golfer.
func (c *client) screen(athlete string) gen.Screen {
	c.t.Helper()
	var rows []gen.ScreenRow
	c.get("/athletes/"+athlete+"/screens", http.StatusOK, &rows)
	var s gen.Screen
	c.get("/screens/"+rows[0].Id, http.StatusOK, &s)
	return s
}
