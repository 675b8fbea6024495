package httpapi_test

import (
	"compress/gzip"
	"context"
	"errors"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/demo"
	"dunnock/internal/httpapi/gen"
)

// An answer that is given again is never an old one, whoever changed what it
// rests on, and never somebody else's.
func TestAnswersGivenAgainAreNeverOld(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Eilidh")
	read := func() (r gen.Read) {
		t.Helper()
		c.get("/athletes/"+id+"/read", http.StatusOK, &r)
		return r
	}
	first := read()
	assert.Equal(t, first, read())

	// A change by a second browser of the same practice, through another server
	// on the same database.
	other := newServerOn(t, c.s.store).client(t)
	other.post("/session", m{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	s := other.screen(id)
	other.json("PATCH", "/screens/"+s.Id, m{"cells": []m{{"test": "cmj", "trial": 1, "text": "31"}}}, http.StatusOK, nil)
	assert.NotEqual(t, first.Headline+sentences(first), read().Headline+sentences(read()))

	// Another unit is another answer.
	c.units(m{"speed": "m/s", "mass": "kg", "length": "cm", "distance": "m"}, http.StatusOK)
	assert.Contains(t, read().Speed.GoalSentence, "m/s")

	// Another practice has answers of its own.
	_, err := c.s.app.AddUser(context.Background(), app.Setup{Practice: "Other", Zone: "UTC", Name: "O", Email: "o@example.org", Password: "long enough"}, false)
	require.NoError(t, err)
	stranger := c.s.client(t)
	stranger.post("/session", m{"email": "o@example.org", "password": "long enough"}, http.StatusOK, nil)
	stranger.get("/athletes/"+id+"/read", http.StatusNotFound, nil)
	var squad struct{ Athletes []gen.SquadRow }
	stranger.get("/athletes", http.StatusOK, &squad)
	assert.Empty(t, squad.Athletes)

	// A refusal is not kept.
	stranger.get("/athletes/"+id, http.StatusNotFound, nil)
	c.get("/athletes/"+id, http.StatusOK, nil)
}

func sentences(r gen.Read) string {
	var b strings.Builder
	for _, x := range r.Tests {
		b.WriteString(x.Sentence)
	}
	return b.String()
}

// Compressed and plain answers are kept apart.
func TestAnswersGivenAgainFitWhatTheBrowserTakes(t *testing.T) {
	c := withDemo(t)
	path := "/athletes/" + c.golfer("Torquil") + "/read"
	bodies := map[string]string{}
	for range 2 {
		for _, encoding := range []string{"gzip", "identity"} {
			res, b := c.raw(path, encoding)
			require.Equal(t, http.StatusOK, res.StatusCode)
			assert.Equal(t, "application/json", res.Header.Get("Content-Type"))
			assert.Equal(t, "no-store", res.Header.Get("Cache-Control"))
			if encoding == "gzip" {
				require.Equal(t, "gzip", res.Header.Get("Content-Encoding"))
				z, err := gzip.NewReader(strings.NewReader(b))
				require.NoError(t, err)
				plain, err := io.ReadAll(z)
				require.NoError(t, err)
				b = string(plain)
			} else {
				require.Empty(t, res.Header.Get("Content-Encoding"))
			}
			if before, ok := bodies[encoding]; ok {
				assert.Equal(t, before, b)
			}
			bodies[encoding] = b
		}
	}
	assert.JSONEq(t, bodies["gzip"], bodies["identity"])
}

// hungUp is a browser that leaves while it is answered.
type hungUp struct {
	header http.Header
	takes  int
}

func (w *hungUp) Header() http.Header { return w.header }
func (w *hungUp) WriteHeader(int)     {}
func (w *hungUp) Write(b []byte) (int, error) {
	if len(b) > w.takes {
		return 0, errors.New("the browser is gone")
	}
	w.takes -= len(b)
	return len(b), nil
}

// What a browser that left did not take whole is given to nobody.
func TestAnAnswerBrokenOffIsNotGivenAgain(t *testing.T) {
	c := withDemo(t)
	at, err := url.Parse(c.s.URL)
	require.NoError(t, err)
	for i, name := range []string{"Eilidh", "Finn", "Jonas", "Magnus", "Marit", "Torquil"} {
		path := "/athletes/" + c.golfer(name) + "/read"
		r := httptest.NewRequest(http.MethodGet, c.s.URL+"/api/v1"+path, nil)
		r.Header.Set("Accept-Encoding", "gzip")
		for _, x := range c.http.Jar.Cookies(at) {
			r.AddCookie(x)
		}
		c.s.Config.Handler.ServeHTTP(&hungUp{http.Header{}, []int{0, 10, 500, 2000, 4000, 6000}[i]}, r)
		_, b := c.raw(path, "gzip")
		z, err := gzip.NewReader(strings.NewReader(b))
		require.NoError(t, err, name)
		_, err = io.ReadAll(z)
		require.NoError(t, err, name)
	}
}

// raw asks without the transport's own compression.
func (c *client) raw(path, encoding string) (*http.Response, string) {
	c.t.Helper()
	req, err := http.NewRequest(http.MethodGet, c.s.URL+"/api/v1"+path, nil)
	require.NoError(c.t, err)
	req.Header.Set("Accept-Encoding", encoding)
	res, err := (&http.Client{Jar: c.http.Jar, Transport: &http.Transport{DisableCompression: true}}).Do(req)
	require.NoError(c.t, err)
	defer func() { _ = res.Body.Close() }()
	b, err := io.ReadAll(res.Body)
	require.NoError(c.t, err)
	return res, string(b)
}
