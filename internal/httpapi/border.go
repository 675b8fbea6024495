package httpapi

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
	"dunnock/internal/core/words"
)

// hosts refuses requests for a name this server does not have: a page of another
// site whose name was pointed here. This machine's own names always count.
func hosts(known []string) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			if !knownHost(c.Request().Host, known) {
				return &problemError{problem(http.StatusMisdirectedRequest, "Dunnock is not known by this name. Whoever runs it can allow it in DUNNOCK_HOSTS.", nil)}
			}
			return next(c)
		}
	}
}

func knownHost(host string, known []string) bool {
	name := host
	if h, _, err := net.SplitHostPort(host); err == nil {
		name = h
	}
	name = strings.ToLower(strings.Trim(name, "[]."))
	if ip, err := netip.ParseAddr(name); err == nil && ip.IsLoopback() {
		return true
	}
	return name == "localhost" || slices.ContainsFunc(known, func(k string) bool {
		k = strings.ToLower(strings.TrimSpace(k))
		return k != "" && (k == name || k == strings.ToLower(host))
	})
}

// remoteOf returns what tells the network address a request comes from: the
// peer's, or, where the peer is one of the proxies, the nearest one in
// X-Forwarded-For that is not.
func remoteOf(proxies []string) (func(*http.Request) string, error) {
	var trusted []netip.Prefix
	for _, p := range proxies {
		p = strings.TrimSpace(p)
		if p == "" {
			continue
		}
		if ip, err := netip.ParseAddr(p); err == nil {
			trusted = append(trusted, netip.PrefixFrom(ip, ip.BitLen()))
			continue
		}
		prefix, err := netip.ParsePrefix(p)
		if err != nil {
			return nil, fmt.Errorf("DUNNOCK_PROXY: %q is neither an address nor a range such as 10.0.0.0/8", p)
		}
		trusted = append(trusted, prefix)
	}
	believed := func(s string) bool {
		ip, err := netip.ParseAddr(s)
		return err == nil && slices.ContainsFunc(trusted, func(p netip.Prefix) bool { return p.Contains(ip.Unmap()) })
	}
	return func(r *http.Request) string {
		from, _, err := net.SplitHostPort(r.RemoteAddr)
		if err != nil {
			from = r.RemoteAddr
		}
		hops := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
		for i := len(hops) - 1; i >= 0 && believed(from); i-- {
			hop := strings.TrimSpace(hops[i])
			if _, err := netip.ParseAddr(hop); err != nil {
				break
			}
			from = hop
		}
		return from
	}, nil
}

// plainTexts refuses a request with a text that cannot be stored or shown, and
// names where it stands. Files are left to their readers.
func plainTexts(r *http.Request, file bool) error {
	var fields []app.Field
	query, err := url.ParseQuery(r.URL.RawQuery)
	if err != nil {
		return &problemError{problem(http.StatusUnprocessableEntity, "The address is not written as one.", nil)}
	}
	for name, values := range query {
		for _, v := range values {
			if text := words.Text(v, maxBody); text != "" {
				fields = append(fields, app.Field{Name: name, Text: text})
			}
		}
	}
	if !file && r.Body != nil && strings.Contains(r.Header.Get("Content-Type"), "json") {
		b, err := io.ReadAll(r.Body)
		if err != nil {
			return invalidRequest(err)
		}
		r.Body = io.NopCloser(bytes.NewReader(b))
		r.ContentLength = int64(len(b))
		dec := json.NewDecoder(bytes.NewReader(b))
		dec.UseNumber()
		var v any
		if dec.Decode(&v) == nil { // what is no JSON is said by the contract's check
			garbled := !utf8.Valid(b)
			walkTexts(v, "", func(at, s string) {
				text := words.Text(s, maxBody)
				if text == "" && garbled && strings.ContainsRune(s, utf8.RuneError) {
					text = "holds bytes that are no text (not UTF-8)"
				}
				if text != "" {
					fields = append(fields, app.Field{Name: at, Text: text})
				}
			})
		}
	}
	if len(fields) == 0 {
		return nil
	}
	return &problemError{problem(http.StatusUnprocessableEntity, fields[0].Name+": "+fields[0].Text, fields)}
}

// walkTexts gives every text of a JSON value with the path to it, names of
// members included.
func walkTexts(v any, at string, yield func(at, s string)) {
	switch x := v.(type) {
	case string:
		yield(at, x)
	case []any:
		for i, e := range x {
			walkTexts(e, fmt.Sprintf("%s[%d]", at, i), yield)
		}
	case map[string]any:
		for k, e := range x {
			path := k
			if at != "" {
				path = at + "." + k
			}
			if words.Text(k, maxBody) != "" {
				path = at
			}
			yield(path, k)
			walkTexts(e, path, yield)
		}
	}
}

// health answers before anything that needs the database's pool.
func (s *Server) health(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		if c.Request().URL.Path != Base+"/health" {
			return next(c)
		}
		got, err := s.GetHealth(c.Request().Context(), struct{}{})
		if err != nil {
			return err
		}
		return got.VisitGetHealthResponse(c.Response())
	}
}

// Waiting answers while the database is waited for.
func Waiting() http.Handler {
	const text = "Dunnock waits for its database and comes back by itself."
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Retry-After", "2")
		if strings.HasPrefix(r.URL.Path, Base) {
			writeProblem(w, problem(http.StatusServiceUnavailable, text, nil))
			return
		}
		w.Header().Set("Content-Type", "text/plain; charset=utf-8")
		w.Header().Set("Refresh", "2")
		w.WriteHeader(http.StatusServiceUnavailable)
		_, _ = io.WriteString(w, text+"\n")
	})
}
