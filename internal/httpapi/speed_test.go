package httpapi_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/core/warmup"
	"dunnock/internal/demo"
	"dunnock/internal/device"
	"dunnock/internal/formats"
	"dunnock/internal/httpapi"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/postgres/pgtest"
)

// a swing with the driver at full intent.
func aSwing(mps float64) map[string]any {
	return map[string]any{"id": uuid.NewString(), "implement": "driver", "side": "playing", "intent": "full", "set": 1, "atS": -1, "clubMps": mps}
}

func swingsOf(mps ...float64) map[string]any {
	var list []any
	for _, v := range mps {
		list = append(list, aSwing(v))
	}
	return map[string]any{"swings": list}
}

// A cold start from its first swing to the finding in the read, the ladder of the
// warm-up, and back.
func TestAColdStartOverHTTP(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var page diary.Page
	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	require.Empty(t, page.NoColdStart)
	var before, after warmup.WarmUp
	ten := map[string]any{"purpose": "tee", "minutes": 10, "place": "tee", "tee": "9:00", "walk": 4}
	c.post("/athletes/"+id+"/warmups/build", ten, http.StatusOK, &before)
	assert.Equal(t, "08:41", before.StartAt)

	own := uuid.NewString()
	var s diary.View
	start := map[string]any{"id": own, "kind": "cold-start", "before": "desk"}
	c.post("/athletes/"+id+"/speed-series", start, http.StatusOK, &s)
	c.post("/athletes/"+id+"/speed-series", start, http.StatusOK, &s)
	body := swingsOf(46, 46.3, 46.6, 46.9, 47.2, 47.5, 47.8, 48.1)
	c.do("PUT", "/speed-series/"+own+"/swings", "application/json", mustJSON(t, body), nil)
	res, answer := c.do("PUT", "/speed-series/"+own+"/swings", "application/json", mustJSON(t, body), nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(answer))
	require.NoError(t, json.Unmarshal(answer, &s))
	assert.Len(t, s.Swings, 8, "sent twice, kept once")
	assert.Equal(t, "still rising", s.Cold.Class)

	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	require.NotNil(t, page.ColdStart)
	assert.Equal(t, 12, page.ColdStart.Ladder)
	assert.Contains(t, page.ColdStart.Sentence, "after desk")
	assert.False(t, page.ColdStart.Due)
	assert.Equal(t, page.ColdStart.On.Add(56), page.ColdStart.DueOn)
	var read map[string]any
	c.get("/athletes/"+id+"/read", http.StatusOK, &read)
	assert.Contains(t, fmt.Sprint(read["speed"]), page.ColdStart.Sentence, "the read says what it costs")
	c.post("/athletes/"+id+"/warmups/build", ten, http.StatusOK, &after)
	count := func(w warmup.WarmUp) (n int) {
		for _, it := range w.Items {
			if it.Side == "playing" {
				n += it.Swings
			}
		}
		return n
	}
	assert.Equal(t, 8, count(before))
	assert.Equal(t, 12, count(after), "the ladder is as long as the cold start asks")

	for _, bad := range []map[string]any{swingsOf(9), swingsOf(76), {"swings": []any{}}, {"swings": []any{map[string]any{"id": "x"}}}} {
		res, _ := c.do("PUT", "/speed-series/"+own+"/swings", "application/json", mustJSON(t, bad), nil)
		assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	}
	res, answer = c.do("DELETE", "/speed-series/"+own, "", nil, nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.NoError(t, json.Unmarshal(answer, &s))
	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	assert.Len(t, s.Swings, 8, "what was removed is answered")
	c.post("/athletes/"+id+"/speed-series", map[string]any{"id": own, "kind": "cold-start", "before": s.Before, "date": s.Date, "swings": s.Swings}, http.StatusOK, &s)
	assert.Len(t, s.Swings, 8, "and comes back")
}

func mustJSON(t *testing.T, v any) []byte {
	t.Helper()
	b, err := json.Marshal(v)
	require.NoError(t, err)
	return b
}

// A day's swings become the screen's tests: driver, course swing, both sides, ladder.
func TestASeriesBecomesTheScreensTests(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	res, body := c.do("PATCH", "/implements", "application/json", []byte(`{"save":[{"id":"light","name":"Light stick","kind":"speed","massG":250,"lengthM":1.1},{"id":"heavy","name":"Heavy stick","kind":"speed","massG":365,"lengthM":1.1}]}`), nil)
	require.Equal(t, http.StatusNoContent, res.StatusCode, string(body))
	res, _ = c.do("PATCH", "/implements", "application/json", []byte(`{"save":[{"id":"x","name":"Bad","kind":"driver","massG":300,"lengthM":1.4}]}`), nil)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "longer than the rules allow")
	var s diary.View
	c.post("/athletes/"+id+"/speed-series", map[string]any{"kind": "training"}, http.StatusOK, &s)
	var list []any
	add := func(implement, side, intent string, mps ...float64) {
		for _, v := range mps {
			x := aSwing(v)
			x["implement"], x["side"], x["intent"] = implement, side, intent
			list = append(list, x)
		}
	}
	add("driver", "playing", "full", 45, 46, 45.5)
	add("driver", "playing", "cruise", 42, 42.5)
	add("driver", "other", "full", 40)
	add("light", "playing", "full", 49)
	add("heavy", "playing", "full", 43.5)
	res, body = c.do("PUT", "/speed-series/"+s.ID+"/swings", "application/json", mustJSON(t, map[string]any{"swings": list}), nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(body))
	var page diary.Page
	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	require.NotNil(t, page.Profile)
	assert.Len(t, page.Profile.Points, 3)
	assert.Len(t, page.Sides, 1)
	assert.InDelta(t, 13, page.Sides[0].GapPct, 0.1)
	assert.NotEmpty(t, page.Ladder)
	var put struct{ Filled, Left []string }
	c.post("/speed-series/"+s.ID+"/screen", map[string]any{}, http.StatusOK, &put)
	assert.Contains(t, put.Filled, "Driver speed, full intent")
	assert.Contains(t, strings.Join(put.Filled, "; "), "Implement ladder, playing side")
	assert.Contains(t, strings.Join(put.Filled, "; "), "Same club, both sides, other side")
}

// A trial of two warm-ups: its order is the server's, its next series has a place and a
// time, and it goes with its series.
func TestAWarmUpTrialOverHTTP(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var page diary.Page
	c.post("/athletes/"+id+"/warmup-trials", map[string]any{"a": "with", "b": "with", "way": "days"}, http.StatusUnprocessableEntity, nil)
	c.post("/athletes/"+id+"/warmup-trials", map[string]any{"a": "with", "b": "without", "way": "days"}, http.StatusOK, &page)
	require.Len(t, page.Trials, 1)
	trial := page.Trials[0]
	own := uuid.NewString()
	var s diary.View
	start := map[string]any{"id": own, "kind": "trial", "trial": trial.ID, "felt": 8}
	c.post("/athletes/"+id+"/speed-series", start, http.StatusOK, &s)
	c.post("/athletes/"+id+"/speed-series", start, http.StatusOK, &s)
	require.NotNil(t, s.InTrial)
	assert.Equal(t, diary.InTrial{Trial: trial.ID, Arm: trial.Next.Arm, Pair: 1, Felt: 8}, *s.InTrial, "sent twice, it keeps its place")
	c.post("/athletes/"+id+"/speed-series", map[string]any{"kind": "trial", "trial": trial.ID, "felt": 8}, http.StatusForbidden, nil)
	c.post("/athletes/"+id+"/speed-series", map[string]any{"kind": "trial", "trial": uuid.NewString(), "felt": 8}, http.StatusNotFound, nil)
	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	assert.Contains(t, page.Trials[0].Next.Wait, "too early by 48 hours")
	res, _ := c.do("DELETE", "/warmup-trials/"+trial.ID, "", nil, nil)
	require.Equal(t, http.StatusNoContent, res.StatusCode)
	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	assert.Empty(t, page.Trials)
	assert.Empty(t, page.Series)
}

// A golfer's own implements are changed alone, stand beside the practice's, and set what
// a lever climbs.
func TestAGolfersOwnImplements(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	list := `{"save":[{"id":"mine","name":"Old driver","kind":"driver","massG":320,"lengthM":1.15,"balanceM":0.86}]}`
	res, body := c.do("PATCH", "/athletes/"+id+"/implements", "application/json", []byte(list), nil)
	require.Equal(t, http.StatusNoContent, res.StatusCode, string(body))
	var page diary.Page
	c.get("/athletes/"+id+"/speed", http.StatusOK, &page)
	assert.Equal(t, "Old driver", page.Own.Name)
	require.Len(t, page.Levers, 1)
	assert.InDelta(t, 0.320*9.80665*(0.86-0.28), page.Levers[0].Steps[0].HingeNm, 1e-9)
	res, _ = c.do("PATCH", "/athletes/"+id+"/implements", "application/json", []byte(`{"save":[{"id":"x","name":"Short","kind":"driver","massG":320,"lengthM":0.3}]}`), nil)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	res, _ = c.do("PATCH", "/athletes/"+id+"/implements", "application/json", []byte(`{"save":[{"id":"two","name":"Two sticks","kind":"stick","massG":640,"lengthM":1.1}]}`), nil)
	assert.Equal(t, http.StatusNoContent, res.StatusCode)
	var mine []struct{ Name string }
	c.get("/athletes/"+id+"/implements", http.StatusOK, &mine)
	assert.Len(t, mine, 2, "what is not spoken of stays")
	res, _ = c.do("PATCH", "/athletes/"+id+"/implements", "application/json", []byte(`{"remove":["two","never there"]}`), nil)
	assert.Equal(t, http.StatusNoContent, res.StatusCode)
	c.get("/athletes/"+id+"/implements", http.StatusOK, &mine)
	assert.Len(t, mine, 1)
}

// A file of swings is read by a guess or by what its columns are said to hold; nothing is
// kept of it.
func TestAFileOfSwingsOverHTTP(t *testing.T) {
	c := withDemo(t)
	var f formats.SwingFile
	file := []byte("Club (m/s);Ball\n45;66\nx;\n")
	res, body := c.do("POST", "/swing-files", "application/octet-stream", file, nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(body))
	require.NoError(t, json.Unmarshal(body, &f))
	assert.Len(t, f.Swings, 1)
	assert.Len(t, f.Errors, 1)
	columns := url.QueryEscape(`[{"quantity":"","unit":""},{"quantity":"club","unit":"m/s"}]`)
	res, body = c.do("POST", "/swing-files?columns="+columns, "application/octet-stream", file, nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(body))
	require.NoError(t, json.Unmarshal(body, &f))
	assert.InDelta(t, 66, f.Swings[0].ClubMps, 1e-9)
	for path, bad := range map[string][]byte{"/swing-files": {}, "/swing-files?columns=x": file, "/swing-files?columns=%5B%5D": file} {
		res, _ = c.do("POST", path, "application/octet-stream", bad, nil)
		assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, path)
	}
}

// What is asked of a warm-up over HTTP: built, broken, mended, kept, for a group, and of
// a session.
func TestWarmUpsOverHTTP(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var w warmup.WarmUp
	c.post("/athletes/"+id+"/warmups/build", map[string]any{"purpose": "tee", "minutes": 10, "place": "tee"}, http.StatusOK, &w)
	c.post("/athletes/"+id+"/warmups/build", map[string]any{"purpose": "tee", "minutes": 0, "place": "tee"}, http.StatusUnprocessableEntity, nil)
	c.post("/athletes/"+id+"/warmups/build", map[string]any{"purpose": "tee", "minutes": 10, "place": "tee", "readiness": map[string]any{"illness": "fever"}}, http.StatusForbidden, nil)
	teed := map[string]any{"purpose": "tee", "minutes": 15, "place": "tee", "tee": "9:00", "walk": 4}
	var late warmup.WarmUp
	c.post("/athletes/"+id+"/warmups/build?now=8:45", teed, http.StatusOK, &late)
	assert.Equal(t, 6, late.Request.Minutes, "nine less the walk of four, five on the tee and what has passed")
	c.post("/athletes/"+id+"/warmups/build?now=8:55", teed, http.StatusForbidden, nil)
	items := w.Items[1:] // without the raise
	c.post("/athletes/"+id+"/warmups/judge", map[string]any{"request": w.Request, "items": items}, http.StatusOK, &w)
	broken := w.Broken(rulebook.Blocking)
	require.NotEmpty(t, broken)
	c.post("/athletes/"+id+"/warmups/judge", map[string]any{"request": w.Request, "items": w.Items, "mend": broken[0].Rule}, http.StatusOK, &w)
	assert.Empty(t, w.Broken(rulebook.Blocking))
	var others []warmup.Item
	c.post("/athletes/"+id+"/warmups/alternatives", map[string]any{"request": w.Request, "items": w.Items, "phase": "raise"}, http.StatusOK, &others)
	assert.NotEmpty(t, others)
	res, pdf := c.do("POST", "/athletes/"+id+"/warmups/card.pdf", "application/json", mustJSON(t, map[string]any{"request": w.Request, "items": w.Items}), nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.True(t, strings.HasPrefix(string(pdf), "%PDF"))
	assert.Contains(t, res.Header.Get("Content-Disposition"), "warm-up-torquil-brae")
	var kept gen.KeptWarmUp
	c.post("/athletes/"+id+"/warmups", map[string]any{"name": "Mine", "request": w.Request, "items": w.Items}, http.StatusOK, &kept)
	c.post("/athletes/"+id+"/warmups", map[string]any{"id": kept.Id, "revision": kept.Revision, "name": "Mine again", "request": w.Request, "items": w.Items}, http.StatusOK, &kept)
	c.post("/athletes/"+id+"/warmups", map[string]any{"id": kept.Id, "revision": 1, "name": "Older", "request": w.Request, "items": w.Items}, http.StatusConflict, nil)
	var list struct {
		Kept      []gen.KeptWarmUp
		Templates []warmup.Template
	}
	c.get("/athletes/"+id+"/warmups", http.StatusOK, &list)
	assert.Len(t, list.Templates, 8)
	require.Len(t, list.Kept, 1)
	assert.Equal(t, "Mine again", list.Kept[0].Name)
	res, _ = c.do("DELETE", "/warmups/"+string(kept.Id), "", nil, nil)
	assert.Equal(t, http.StatusNoContent, res.StatusCode)

	c.post("/group-warmups", map[string]any{"athletes": []string{id, c.golfer("Marit")}, "request": map[string]any{"purpose": "range", "minutes": 15, "place": "range"}}, http.StatusOK, &w)
	assert.Contains(t, fmt.Sprint(w.Notes), "2 in one line")
	two := map[string]any{"athletes": []string{id, c.golfer("Marit")}, "request": w.Request, "items": w.Items[1:]}
	var changed warmup.WarmUp
	c.post("/group-warmups", two, http.StatusOK, &changed)
	assert.Len(t, changed.Items, len(w.Items)-1, "as the coach put it together")
	assert.Contains(t, fmt.Sprint(changed.Notes, changed.Rules), "W-COLD", "and judged")
	var besides []warmup.Item
	c.post("/group-warmups/alternatives?phase=joints", two, http.StatusOK, &besides)
	assert.NotEmpty(t, besides)
	c.post("/group-warmups/card.pdf", two, http.StatusOK, nil)
	c.post("/group-warmups", map[string]any{"athletes": []string{uuid.NewString()}, "request": map[string]any{"purpose": "range", "minutes": 15, "place": "range"}}, http.StatusNotFound, nil)

	var p gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", map[string]any{}, http.StatusCreated, &p)
	session := p.Programme.Blocks[0].Weeks[0].Sessions[0]
	c.get("/programmes/"+p.Id+"/sessions/"+string(session.ID)+"/warmup", http.StatusOK, &w)
	assert.LessOrEqual(t, w.TotalSeconds, 360)
	assert.Empty(t, append(w.Broken(rulebook.Blocking), w.Broken(rulebook.Warning)...))
	c.get("/programmes/"+p.Id+"/sessions/none/warmup", http.StatusNotFound, nil)
	gripped := 0
	for _, s := range p.Programme.Blocks[0].Weeks[0].Sessions {
		var parts []derive.TimedPart
		c.get("/programmes/"+p.Id+"/sessions/"+string(s.ID)+"/timed", http.StatusOK, &parts)
		for _, part := range parts {
			gripped += map[bool]int{true: len(part.Steps)}[part.Name == "grip work"]
		}
	}
	assert.Positive(t, gripped, "every week holds grip work")
	c.get("/programmes/"+p.Id+"/sessions/none/timed", http.StatusNotFound, nil)
}

// Swings come over the stream as the stand-in makes them; garbage is counted, and an end
// is said.
func TestALiveRadarOverHTTP(t *testing.T) {
	t.Parallel()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() {
		_ = device.ServeRadar(ctx, l, device.RadarPlan{PaceS: 0.05, Garbage: 0.3, HangUpAt: 12, Seed: 2})
	}()
	s := newServerOptions(t, httpapi.Options{Store: pgtest.Store(t), Radar: l.Addr().String()})
	require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
	c := s.client(t)
	c.get("/devices/radar/live", http.StatusUnauthorized, nil)
	c.post("/session", map[string]string{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	req, err := http.NewRequestWithContext(ctx, "GET", s.URL+httpapi.Base+"/devices/radar/live", nil)
	require.NoError(t, err)
	res, err := c.http.Do(req)
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	scan := bufio.NewScanner(res.Body)
	var speeds []float64
	garbage, lost := 0, false
	for begin := time.Now(); scan.Scan() && len(speeds) < 14 && time.Since(begin) < 20*time.Second; {
		data, ok := strings.CutPrefix(scan.Text(), "data: ")
		if !ok {
			continue
		}
		var e struct {
			State   string
			Garbage int
			Swing   *struct {
				ClubMps float64
				AtS     float64
				Ball    *device.Ball
			}
		}
		require.NoError(t, json.Unmarshal([]byte(data), &e))
		lost = lost || e.State == "lost"
		garbage = max(garbage, e.Garbage)
		if e.Swing != nil {
			require.NotNil(t, e.Swing.Ball)
			speeds = append(speeds, e.Swing.ClubMps)
		}
	}
	assert.Len(t, speeds, 14, "it is found again after it hung up")
	assert.True(t, lost)
	assert.Positive(t, garbage)
	assert.Less(t, speeds[0], 46.0, "the golfer begins cold")
}
