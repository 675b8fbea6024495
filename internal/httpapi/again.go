package httpapi

import (
	"bytes"
	"fmt"
	"net/http"
	"strings"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/labstack/echo/v5"
)

// maxAnswers bounds how many finished answers are kept: at some 10 kB
// compressed each, about 40 MB.
const maxAnswers = 4000

// answer is a finished answer to a read.
type answer struct {
	header http.Header
	body   []byte
}

func newAnswers() (*lru.Cache[string, answer], error) { return lru.New[string, answer](maxAnswers) }

// again gives the answer to a read again while nothing it depends on changed:
// the practice's data (by the version the database keeps), its units, the day
// and the address. The version is read with the session's user on every request, so
// that several servers on one database never give an old answer.
func (s *Server) again(kept *lru.Cache[string, answer]) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			u := user(r.Context())
			if r.Method != http.MethodGet || u == nil || !keeps(r.URL.Path) {
				return next(c)
			}
			gzip := strings.Contains(r.Header.Get("Accept-Encoding"), "gzip")
			key := fmt.Sprint(u.PracticeID, " ", u.DataVersion, " ", u.Units.Speed, " ", s.app.Today(u.Zone), " ", gzip, " ", r.URL.RequestURI())
			if a, ok := kept.Get(key); ok {
				h := c.Response().Header()
				for k, v := range a.header {
					h[k] = v
				}
				_, err := c.Response().Write(a.body)
				return err
			}
			w := &recorder{ResponseWriter: c.Response(), status: http.StatusOK}
			c.SetResponse(w)
			err := next(c)
			c.SetResponse(w.ResponseWriter)
			if err == nil && w.status == http.StatusOK {
				header := http.Header{}
				for _, k := range []string{"Content-Type", "Content-Encoding", "Vary"} {
					if v := w.Header().Values(k); len(v) > 0 {
						header[k] = v
					}
				}
				kept.Add(key, answer{header, w.body.Bytes()})
			}
			return err
		}
	}
}

// keeps reports whether answers at an address may be kept: not those that change
// without the practice's data (the session, how far an import is, instruments),
// nor large downloads.
func keeps(path string) bool {
	for _, part := range []string{"/session", "/uploads", "/devices", "/exports/", "/recordings/", "/force", ".pdf"} {
		if strings.Contains(path, part) {
			return false
		}
	}
	return true
}

// recorder keeps what is written through it.
type recorder struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
}

func (w *recorder) WriteHeader(status int) {
	w.status = status
	w.ResponseWriter.WriteHeader(status)
}

func (w *recorder) Write(b []byte) (int, error) {
	w.body.Write(b)
	return w.ResponseWriter.Write(b)
}

// Unwrap lets the framework reach the writer beneath.
func (w *recorder) Unwrap() http.ResponseWriter { return w.ResponseWriter }
