package httpapi

import (
	"bytes"
	"fmt"
	"net/http"
	"strings"
	"sync"

	"github.com/labstack/echo/v5"

	"dunnock/internal/app"
	"dunnock/internal/core/civil"
)

// Bounds of the finished answers that are kept, in bytes.
const (
	maxAnswers = 32 << 20 // all together
	maxAnswer  = 1 << 20  // one
)

// answer is a finished answer to a read.
type answer struct {
	header http.Header
	body   []byte
}

// answers keeps finished answers, those of one version of a practice's data
// together: with the next version they go, and with them whatever they said of a
// golfer who was erased.
type answers struct {
	mu        sync.Mutex
	practices map[string]*version
	bytes     int
	clock     int64
}

type version struct {
	of    int64
	kept  map[string]answer
	bytes int
	used  int64
}

func newAnswers() *answers { return &answers{practices: map[string]*version{}} }

func (a *answers) get(practice string, of int64, key string) (answer, bool) {
	a.mu.Lock()
	defer a.mu.Unlock()
	v := a.practices[practice]
	if v == nil {
		return answer{}, false
	}
	if v.of < of {
		a.drop(practice)
		return answer{}, false
	}
	a.clock++
	v.used = a.clock
	x, ok := v.kept[key]
	return x, ok && v.of == of
}

func (a *answers) add(practice string, of int64, key string, x answer) {
	size := len(x.body) + len(key) + 200
	if size > maxAnswer {
		return
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	v := a.practices[practice]
	if v != nil && v.of < of {
		a.drop(practice)
		v = nil
	}
	if v == nil {
		v = &version{of: of, kept: map[string]answer{}}
		a.practices[practice] = v
	}
	if _, there := v.kept[key]; there || v.of != of {
		return
	}
	a.clock++
	v.used = a.clock
	v.kept[key] = x
	v.bytes += size
	a.bytes += size
	for a.bytes > maxAnswers {
		oldest := ""
		for id, p := range a.practices {
			if oldest == "" || p.used < a.practices[oldest].used {
				oldest = id
			}
		}
		a.drop(oldest)
	}
}

func (a *answers) drop(practice string) {
	if v := a.practices[practice]; v != nil {
		a.bytes -= v.bytes
		delete(a.practices, practice)
	}
}

// keptRoutes are the reads whose answers rest on the practice's data, its units
// and the day alone. Exports, notes to doctors and files are none of them.
var keptRoutes = map[string]bool{
	Base + "/meta": true, Base + "/battery": true, Base + "/repeats": true, Base + "/athletes": true, Base + "/athletes/:athleteId": true,
	Base + "/athletes/:athleteId/read": true, Base + "/athletes/:athleteId/screens": true, Base + "/screens/:screenId": true,
	Base + "/athletes/:athleteId/programmes": true, Base + "/programmes/:programmeId": true, Base + "/programmes/:programmeId/alternatives": true,
	Base + "/days": true, Base + "/days/:dayId": true, Base + "/days/:dayId/stations/:station": true,
	Base + "/today": true, Base + "/athletes/:athleteId/floor": true, Base + "/athletes/:athleteId/floor/:sessionId": true,
	Base + "/athletes/:athleteId/load": true, Base + "/athletes/:athleteId/next-dose": true,
}

// keepAnswers gives the answer to a read again while nothing it depends on changed:
// the practice's data (by the version the database keeps), its units, the day, the
// role and the address. The version is read with the actor on every request, so
// that several servers on one database never give an old answer.
func (s *Server) keepAnswers(kept *answers) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			who := actor(r.Context())
			if r.Method != http.MethodGet || who == nil || !keptRoutes[c.Path()] {
				return next(c)
			}
			key := answerKey(who, s.app.Today(who.Zone), r)
			if a, ok := kept.get(who.PracticeID, who.DataVersion, key); ok {
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
			if err == nil && w.status == http.StatusOK && !w.broken {
				header := http.Header{}
				for _, k := range []string{"Content-Type", "Content-Encoding", "Vary"} {
					if v := w.Header().Values(k); len(v) > 0 {
						header[k] = v
					}
				}
				kept.add(who.PracticeID, who.DataVersion, key, answer{header, w.body.Bytes()})
			}
			return err
		}
	}
}

// recorder keeps what is written through it. It is broken once the browser did not
// take something: whoever compresses writes no more then, and tells nobody.
type recorder struct {
	http.ResponseWriter
	status int
	body   bytes.Buffer
	broken bool
}

func (w *recorder) WriteHeader(status int) {
	w.status = status
	w.ResponseWriter.WriteHeader(status)
}

func (w *recorder) Write(b []byte) (int, error) {
	w.body.Write(b)
	n, err := w.ResponseWriter.Write(b)
	w.broken = w.broken || err != nil
	return n, err
}

// Unwrap lets the framework reach the writer beneath.
func (w *recorder) Unwrap() http.ResponseWriter { return w.ResponseWriter }

// answerKey names an answer among those of a practice: it is given again to one
// who may see the same, in the same units, on the same day.
func answerKey(who *app.Actor, today civil.Date, r *http.Request) string {
	gzip := strings.Contains(r.Header.Get("Accept-Encoding"), "gzip")
	return fmt.Sprint(who.Role, " ", who.Units, " ", today, " ", gzip, " ", r.URL.RequestURI())
}
