package httpapi_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
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
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/postgres/pgtest"
)

// A jump is captured live, kept, and stands in the screen; another is discarded.
func TestALiveJumpOverHTTP(t *testing.T) {
	t.Parallel()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() { _ = device.ServePlates(ctx, l, device.PlatesPlan{HeightM: 0.3, NoiseN: 1, PauseS: 0.2}) }()
	s := newServerWith(t, pgtest.Store(t), "", l.Addr().String())
	require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
	c := s.client(t)
	c.post("/session", map[string]string{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	id := c.golfer("Torquil")
	live := func(kind, athlete string) string { return `{"kind":"` + kind + `","athlete":"` + athlete + `"}` }
	c.get("/devices/plates/live", http.StatusNotFound, nil)
	c.post("/devices/plates/live", json.RawMessage(live("walk", id)), http.StatusUnprocessableEntity, nil)
	c.post("/devices/plates/live", json.RawMessage(live("jump", "nobody")), http.StatusNotFound, nil)
	req, err := http.NewRequestWithContext(ctx, "POST", s.URL+httpapi.Base+"/devices/plates/live", strings.NewReader(live("jump", id)))
	require.NoError(t, err)
	res, err := c.http.Do(req)
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	seen := map[string]bool{}
	var kept []gen.Recording
	scan := bufio.NewScanner(res.Body)
	scan.Buffer(nil, 1<<20)
	begin := time.Now()
	for scan.Scan() && len(kept) < 2 && time.Since(begin) < 30*time.Second {
		data, ok := strings.CutPrefix(scan.Text(), "data: ")
		if !ok {
			continue
		}
		var e struct {
			State     string
			Trace     []float64
			Recording *gen.Recording
		}
		require.NoError(t, json.Unmarshal([]byte(data), &e))
		seen[e.State] = true
		if e.Recording != nil {
			kept = append(kept, *e.Recording)
		}
	}
	require.Len(t, kept, 2, "%v", seen)
	assert.True(t, seen["armed"] && seen["recording"] && seen["captured"], "%v", seen)
	assert.True(t, kept[0].Pending)
	var page gen.ForcePage
	c.get("/athletes/"+id+"/force", http.StatusOK, &page)
	assert.Empty(t, page.Recordings, "nothing is kept that nobody keeps")
	var r gen.Recording
	c.json("PATCH", "/recordings/"+kept[0].Id, map[string]any{"keep": true}, http.StatusOK, &r)
	assert.InDelta(t, 0.3, *r.Jump.JumpHeightM, 0.01)
	assert.Len(t, r.Cells, 1)
	c.json("DELETE", "/recordings/"+kept[1].Id, nil, http.StatusNoContent, nil)
	c.get("/athletes/"+id+"/force", http.StatusOK, &page)
	assert.Len(t, page.Recordings, 1)
}

// Plates that are not there, or go away, are said.
func TestPlatesThatAreNotThere(t *testing.T) {
	const path = "/devices/plates/live"
	open := func(plates string) (*client, map[string]string) {
		s := newServerWith(t, pgtest.Store(t), "", plates)
		require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
		c := s.client(t)
		c.post("/session", map[string]string{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
		return c, map[string]string{"kind": "jump", "athlete": c.golfer("Torquil")}
	}
	c, jump := open("")
	assert.Contains(t, *c.post(path, jump, http.StatusNotFound, nil).Detail, "DUNNOCK_PLATES")
	var devices []gen.Device
	c.get("/devices", http.StatusOK, &devices)
	assert.Empty(t, devices)
	c, jump = open("127.0.0.1:1")
	assert.Contains(t, *c.post(path, jump, http.StatusNotFound, nil).Detail, "dunnock sim plates")

	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { // says hello, sends nonsense and a sample, and hangs up
		for {
			conn, err := l.Accept()
			if err != nil {
				return
			}
			_, _ = fmt.Fprintln(conn, `{"protocol":"dunnock-stream/1","kind":"plates","name":"P","unit":"N","rateHz":1000,"channels":["Fz_lead","Fz_trail"]}`)
			_, _ = fmt.Fprintln(conn, `{"seq":…`)
			_, _ = fmt.Fprintln(conn, `{"seq":0,"t":0,"c":[1]}`)
			_, _ = fmt.Fprintln(conn, `{"seq":0,"t":0,"c":[400,390]}`)
			_ = conn.Close()
		}
	}()
	defer func() { _ = l.Close() }()
	c, jump = open(l.Addr().String())
	asked, err := json.Marshal(jump)
	require.NoError(t, err)
	_, body := c.do("POST", path, "application/json", asked, nil)
	assert.Contains(t, string(body), `"state":"lost"`)
	assert.Contains(t, string(body), `"garbage":2`)
	// Swings need an impact channel, which these plates do not send.
	jump["kind"] = "swing"
	assert.Contains(t, *c.post(path, jump, http.StatusForbidden, nil).Detail, "Swings are noticed by their impact")
}
