// Package httpapi serves the contract of api/contract and the front end.
// Handlers are thin: they turn a generated request into a use case's arguments
// and its result into a generated response. What must hold for every request is
// here too: session, cross-origin protection, size limits, validation against
// the contract, security headers, problem+json.
package httpapi

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"os"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"dunnock/internal/app"
	"dunnock/internal/forcefile"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/store"
)

// Base is the path the contract is served under.
const Base = "/api/v1"

// maxBody is the largest JSON body, in bytes. Imports have a limit of their own.
const maxBody = 512 << 10

// Options say what is served.
type Options struct {
	App     *app.App
	Store   *store.Store
	Web     fs.FS // the built front end, or nil
	Version string
	Demo    bool   // show the demo's sign-in on the sign-in page
	Secure  bool   // cookies over TLS only
	Grip    string // loopback address of the dynamometer, or ""
	Plates  string // and of the force plates
	Radar   string // and of the radar
	// Hosts are the names it is reached by, besides those of this machine.
	Hosts []string
	// Proxies are the addresses or ranges whose forwarding header is believed.
	Proxies []string
	// Ending ends live streams when the program stops; nil never does.
	Ending context.Context
	Logger *slog.Logger
}

// Server is the HTTP side of Dunnock.
type Server struct {
	app      *app.App
	least    map[string]app.Role // by method and pattern of the address
	sessions *scs.SessionManager
	version  string
	demo     bool
	secure   bool
	grip     string
	plates   string
	radar    string
	remote   func(*http.Request) string
	ending   context.Context
}

// actorKey holds who acts in a request's context.
type actorKey struct{}

// New returns the handler of everything, and a function that ends its
// background work.
func New(o Options) (http.Handler, func(), error) {
	s := &Server{app: o.App, version: o.Version, demo: o.Demo, secure: o.Secure, grip: o.Grip, plates: o.Plates, radar: o.Radar, ending: o.Ending}
	if o.Logger == nil {
		o.Logger = slog.Default()
	}
	if s.ending == nil {
		s.ending = context.Background()
	}
	var err error
	if s.remote, err = remoteOf(o.Proxies); err != nil {
		return nil, nil, err
	}
	s.sessions = scs.New()
	s.sessions.Store = o.Store.Sessions()
	s.sessions.Lifetime = 14 * 24 * time.Hour
	s.sessions.Cookie.Name = "dunnock_session"
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	s.sessions.Cookie.Secure = o.Secure
	s.sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		gone := errors.Is(err, context.Canceled) && r.Context().Err() != nil
		if !store.Unavailable(err) && !gone {
			o.Logger.Error("session", "err", err)
		}
		w.Header().Set("Retry-After", "2")
		writeProblem(w, problem(http.StatusServiceUnavailable, "The database does not answer. Try again in a moment.", nil))
	}

	rules, err := contract()
	if err != nil {
		return nil, nil, err
	}
	s.least = rules.least

	e := echo.New()
	e.Logger = o.Logger
	e.HTTPErrorHandler = errorHandler(o.Logger)
	e.Use(middleware.Recover(), secure, hosts(o.Hosts))

	answers := newAnswers()
	// Fast compression for answers; the front end's files are compressed well, and
	// then kept by the browser.
	gzip := middleware.GzipWithConfig(middleware.GzipConfig{Level: 2, MinLength: 1400})
	api := e.Group(Base, s.health, limitBody, crossOrigin(), echo.WrapMiddleware(s.sessions.LoadAndSave), s.authenticate, s.keepAnswers(answers), gzip, validate(rules.router))
	gen.RegisterHandlers(api, gen.NewStrictHandler(s, nil))
	// A live stream is neither kept nor compressed.
	stream := e.Group(Base, crossOrigin(), echo.WrapMiddleware(s.sessions.LoadAndSave), s.authenticate)
	stream.GET("/devices/grip/live", s.liveGrip)
	stream.POST("/devices/plates/live", s.livePlates)
	stream.GET("/devices/radar/live", s.liveRadar)
	stream.GET("/programmes/:programmeId/live", s.liveProgramme)
	stream.GET("/squad/drafts/live", s.liveReplan)
	stream.GET("/classes/:classId/live", s.liveClass)
	api.RouteNotFound("/*", func(*echo.Context) error {
		return &app.Error{Kind: app.NotFound, Text: "There is nothing at this address."}
	})
	if o.Web != nil {
		if err := frontEnd(e, o.Web); err != nil {
			return nil, nil, err
		}
	}
	return e, func() {}, nil
}

// contracted is what the contract asks of a request: whose it may be, and its form.
type contracted struct {
	least  map[string]app.Role
	router routers.Router
}

// contract reads the contract, once for the process: it does not change.
var contract = sync.OnceValues(func() (*contracted, error) {
	spec, err := gen.GetSpec()
	if err != nil {
		return nil, fmt.Errorf("read the contract: %w", err)
	}
	least, err := leastRoles(spec)
	if err != nil {
		return nil, err
	}
	router, err := gorillamux.NewRouter(spec)
	if err != nil {
		return nil, fmt.Errorf("route the contract: %w", err)
	}
	return &contracted{least, router}, nil
})

// leastRoles is the role each route asks for at least, as the contract states it
// (x-least-role), by method and the pattern of its address.
func leastRoles(contract *openapi3.T) (map[string]app.Role, error) {
	out := map[string]app.Role{}
	state := func(method, path string, role any) error {
		text, _ := role.(string)
		if !app.Coach.AtLeast(app.Role(text)) {
			return fmt.Errorf("the contract states no known x-least-role for %s %s", method, path)
		}
		out[method+" "+Base+strings.NewReplacer("{", ":", "}", "").Replace(path)] = app.Role(text)
		return nil
	}
	for path, item := range contract.Paths.Map() {
		for method, op := range item.Operations() {
			if err := state(method, path, op.Extensions["x-least-role"]); err != nil {
				return nil, err
			}
		}
	}
	streams, _ := contract.Extensions["x-streams"].([]any)
	for _, s := range streams {
		x, _ := s.(map[string]any)
		method, _ := x["method"].(string)
		path, _ := x["path"].(string)
		if err := state(method, path, x["x-least-role"]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// authenticate puts the actor of the session into the request, or answers 401
// where the route asks for one, and 403 where theirs may not do it.
func (s *Server) authenticate(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		ctx := context.WithValue(r.Context(), remoteKey{}, s.remote(r))
		least, known := s.least[r.Method+" "+c.Path()]
		if !known {
			least = app.Coach // an address there is not says so only to those who may ask
		}
		if least == app.Anybody {
			if r.Method == http.MethodPost {
				w := c.Response()
				ctx = context.WithValue(ctx, cookieKey{}, func(k *http.Cookie) { http.SetCookie(w, k) })
				if k, err := r.Cookie(knownCookie); err == nil {
					ctx = context.WithValue(ctx, browserKey{}, k.Value)
				}
			}
		} else {
			id := s.sessions.GetString(r.Context(), "user")
			if id == "" {
				return &app.Error{Kind: app.SignedOut, Text: "Sign in first."}
			}
			who, err := s.app.Actor(r.Context(), id)
			if err != nil {
				return err
			}
			if !who.Role.AtLeast(least) {
				return &app.Error{Kind: app.Refused, Text: "Your role in this practice does not allow this. Ask its coach."}
			}
			ctx = context.WithValue(ctx, actorKey{}, who)
		}
		c.SetRequest(r.WithContext(ctx))
		return next(c)
	}
}

// actor returns who is signed in; authenticate has seen to it that somebody is.
func actor(ctx context.Context) *app.Actor {
	who, _ := ctx.Value(actorKey{}).(*app.Actor)
	return who
}

type remoteKey struct{}

// crossOrigin refuses state-changing requests that come from another site, by
// the browser's own Sec-Fetch-Site and Origin headers.
func crossOrigin() echo.MiddlewareFunc {
	guard := http.NewCrossOriginProtection()
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			if err := guard.Check(c.Request()); err != nil {
				return &app.Error{Kind: app.Refused, Text: "This request comes from another site and is refused."}
			}
			return next(c)
		}
	}
}

func limitBody(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		limit := int64(maxBody)
		switch {
		case strings.HasSuffix(r.URL.Path, "/imports"):
			limit = maxImport
		case strings.HasSuffix(r.URL.Path, "/uploads"), strings.HasSuffix(r.URL.Path, "/golfer-files"), strings.HasSuffix(r.URL.Path, "/logs"), strings.HasSuffix(r.URL.Path, "/photo"):
			limit = maxUpload
		case strings.HasSuffix(r.URL.Path, "/recordings"), strings.HasSuffix(r.URL.Path, "/force-files/look"):
			limit = forcefile.MaxBytes
		}
		if r.ContentLength > limit {
			return tooLarge(limit)
		}
		r.Body = &arriving{http.MaxBytesReader(c.Response(), r.Body, limit), http.NewResponseController(c.Response())}
		return next(c)
	}
}

// patience is how long a body may bring nothing, and an answer may not be taken.
var patience = 30 * time.Second

// arriving moves the deadlines of a request with what arrives: a thin line is
// not cut off, a silent one is.
type arriving struct {
	io.ReadCloser
	rc *http.ResponseController
}

func (a *arriving) Read(p []byte) (int, error) {
	_ = a.rc.SetReadDeadline(time.Now().Add(patience))
	n, err := a.ReadCloser.Read(p)
	_ = a.rc.SetWriteDeadline(time.Now().Add(2 * patience))
	if errors.Is(err, os.ErrDeadlineExceeded) {
		err = errSilent
	}
	return n, err
}

// errSilent is returned by a body that brought nothing for too long.
var errSilent = &problemError{problem(http.StatusRequestTimeout, "Nothing more arrived for half a minute. Nothing was saved: try again where the line is better.", nil)}

// bringsFile reports whether the body of a request to an address is a file: its
// reader says what is wrong with it.
func bringsFile(path string) bool {
	return strings.HasSuffix(path, "/imports") || strings.HasSuffix(path, "/uploads") || strings.HasSuffix(path, "/golfer-files") ||
		strings.HasSuffix(path, "/recordings") || strings.HasSuffix(path, "/force-files/look")
}

// validate checks a request against the contract and names every field that
// does not fit.
func validate(router routers.Router) echo.MiddlewareFunc {
	opts := &openapi3filter.Options{MultiError: true, AuthenticationFunc: openapi3filter.NoopAuthenticationFunc}
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			route, params, err := router.FindRoute(r)
			if err != nil {
				return next(c) // echo answers what is not in the contract
			}
			if err := plainTexts(r, bringsFile(r.URL.Path)); err != nil {
				return err
			}
			o := *opts
			looked := r
			if bringsFile(r.URL.Path) {
				// A file is its reader's to judge. The validator would gather it whole first.
				o.ExcludeRequestBody = true
				looked = r.Clone(r.Context())
				looked.Body, looked.ContentLength = http.NoBody, 0
			}
			in := &openapi3filter.RequestValidationInput{Request: looked, PathParams: params, Route: route, Options: &o}
			if err := openapi3filter.ValidateRequest(r.Context(), in); err != nil {
				return invalidRequest(err)
			}
			return next(c)
		}
	}
}
