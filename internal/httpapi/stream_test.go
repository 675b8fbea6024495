package httpapi_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/demo"
	"dunnock/internal/device"
	"dunnock/internal/httpapi"
	"dunnock/internal/postgres/pgtest"
)

// A live stream ends with the session, and with the program.
func TestStreamsEndAtSignOutAndWithTheProgram(t *testing.T) {
	t.Parallel()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() { _ = device.ServeGrip(ctx, l, device.GripPlan{Pattern: "hold", PeakKg: 40, RateHz: 100}) }()
	ending, stop := context.WithCancel(context.Background())
	defer stop()
	s := newServerOptions(t, httpapi.Options{Store: pgtest.Store(t), Grip: l.Addr().String(), Ending: ending})
	require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
	last := func(c *client, end func()) (text string) {
		res, err := c.http.Get(s.URL + httpapi.Base + "/devices/grip/live")
		require.NoError(t, err)
		defer func() { _ = res.Body.Close() }()
		scan := bufio.NewScanner(res.Body)
		scan.Buffer(nil, 1<<20)
		require.True(t, scan.Scan())
		end()
		begin := time.Now()
		for scan.Scan() {
			if data, ok := strings.CutPrefix(scan.Text(), "data: "); ok {
				var e struct{ State, Text string }
				require.NoError(t, json.Unmarshal([]byte(data), &e))
				text = e.State + ": " + e.Text
			}
		}
		assert.Less(t, time.Since(begin), 3*time.Second)
		return text
	}
	c := s.client(t)
	in := m{"email": demo.Email, "password": demo.Password}
	c.post("/session", in, http.StatusOK, nil)
	assert.Contains(t, last(c, func() { c.json("DELETE", "/session", nil, http.StatusNoContent, nil) }), "ended: You signed out")
	c.post("/session", in, http.StatusOK, nil)
	assert.Contains(t, last(c, stop), "ended: Dunnock is being stopped")
}

// An instrument that begins its clock anew, over and over, or sends nothing that
// can be used, ends the stream with a sentence; what is held of it is bounded.
func TestAnInstrumentThatCannotBeReliedOn(t *testing.T) {
	for says, play := range map[string]func(net.Conn){
		"began anew 20 times": func(conn net.Conn) {
			for i := range 4000 {
				_, _ = fmt.Fprintf(conn, `{"seq":%d,"t":%d,"v":20}`+"\n", i, 10*(i%3))
			}
		},
		"More than 2000 readings": func(conn net.Conn) {
			for range 4000 {
				_, _ = fmt.Fprintln(conn, `{"seq":1,"t":1,"v":20}`)
			}
		},
	} {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		go func() {
			for {
				conn, err := l.Accept()
				if err != nil {
					return
				}
				_, _ = fmt.Fprintln(conn, `{"protocol":"dunnock-stream/1","kind":"grip","name":"G","unit":"kg","rateHz":100}`)
				play(conn)
				time.Sleep(time.Second)
				_ = conn.Close()
			}
		}()
		s := newServerOptions(t, httpapi.Options{Store: pgtest.Store(t), Grip: l.Addr().String()})
		require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
		c := s.client(t)
		c.post("/session", m{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
		_, body := c.do("GET", "/devices/grip/live", "", nil, nil)
		_ = l.Close()
		assert.Contains(t, string(body), `"state":"ended"`)
		assert.Contains(t, string(body), says)
	}
}

// A body over a thin line is taken as long as something arrives, and a silent one
// is answered, not cut off.
func TestThinAndSilentLines(t *testing.T) {
	c := withDemo(t)
	defer httpapi.Patience(400 * time.Millisecond)()
	send := func(pause time.Duration, parts ...string) (*http.Response, []byte) {
		r, w := io.Pipe()
		go func() {
			for _, p := range parts {
				_, _ = io.WriteString(w, p)
				time.Sleep(pause)
			}
			_ = w.Close()
		}()
		req, err := http.NewRequest("POST", c.s.URL+httpapi.Base+"/uploads?name=f.csv", r)
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/octet-stream")
		res, err := c.http.Do(req)
		require.NoError(t, err, "cut off without an answer")
		defer func() { _ = res.Body.Close() }()
		b, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return res, b
	}
	res, b := send(150*time.Millisecond, "golfer,date,", "cmj\n", "A", "da,2026-", "11-02,", "3", "0\n")
	assert.Equal(t, http.StatusCreated, res.StatusCode, "%s", b)
	res, b = send(3*time.Second, "golfer,date,", "cmj\n")
	assert.Equal(t, http.StatusRequestTimeout, res.StatusCode, "%s", b)
	assert.Contains(t, string(b), "Nothing was saved")
}
