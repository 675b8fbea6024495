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

	"dunnock/internal/core/retest"
	"dunnock/internal/demo"
	"dunnock/internal/device"
	"dunnock/internal/httpapi"
	"dunnock/internal/httpapi/gen"
	"dunnock/internal/postgres/pgtest"
)

// everybody returns the ids of the squad.
func (c *client) everybody() []string {
	var squad struct{ Athletes []gen.SquadRow }
	c.get("/athletes", http.StatusOK, &squad)
	var out []string
	for _, a := range squad.Athletes {
		out = append(out, a.Id)
	}
	return out
}

func TestAnOwnTestBehavesLikeAnyOther(t *testing.T) {
	c := withDemo(t)
	own := m{
		"id":           "",
		"name":         "Rope climb",
		"group":        "Strength",
		"unit":         "s",
		"decimals":     1,
		"sides":        "none",
		"trials":       2,
		"rule":         "best",
		"lessIsBetter": true,
		"typicalError": 0.5,
		"plausible": []float64{
			3,
			60,
		},
		"impossible": []float64{1, 120},
		"setup":      "Five metres, arms only.",
		"source":     "",
		"quality":    "maximal-strength",
		"supplement": 0.2,
		"targets":    []m{{"value": 10, "spread": 2}},
	}
	var b gen.Battery
	c.json("PATCH", "/battery", m{"revision": 0, "test": own}, http.StatusOK, &b)
	p := c.json("PATCH", "/battery", m{"revision": 0, "test": own}, http.StatusConflict, nil)
	assert.Contains(t, *p.Detail, "changed by somebody else")
	p = c.json(
		"PATCH",
		"/battery",
		m{
			"revision": b.Revision,
			"test": m{
				"id":           "",
				"name":         "Odd",
				"group":        "G",
				"unit":         "furlong",
				"decimals":     1,
				"sides":        "none",
				"trials":       1,
				"rule":         "best",
				"typicalError": 1,
				"plausible":    []float64{0, 1},
				"impossible":   []float64{0, 2},
				"setup":        "",
				"source":       "",
			},
		},
		http.StatusUnprocessableEntity,
		nil,
	)
	assert.Contains(t, *p.Detail, "furlong")
	c.json("PATCH", "/battery", m{"revision": b.Revision, "set": m{"id": "", "name": "Ropes", "tests": []string{"cmj", "own-rope-climb"}}}, http.StatusOK, &b)
	assert.Equal(t, "own-ropes", b.Sets[len(b.Sets)-1].ID)

	s := c.screen(c.golfer("Magnus"))
	p = c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{{"test": "own-rope-climb", "trial": 1, "text": "150"}}}, http.StatusUnprocessableEntity, nil)
	assert.Contains(t, *p.Detail, "not possible")
	var now gen.Screen
	c.json(
		"PATCH",
		"/screens/"+s.Id,
		m{
			"circumstances": m{"set": "own-ropes"},
			"cells":         []m{{"test": "own-rope-climb", "trial": 1, "text": "12.5"}, {"test": "own-rope-climb", "trial": 2, "text": "12"}},
		},
		http.StatusOK,
		&now,
	)
	assert.Equal(t, []string{"cmj", "own-rope-climb"}, now.Set)
	for _, x := range now.Tests {
		if x.Test == "own-rope-climb" {
			assert.Equal(t, 12.0, *x.Sides[0].Result, "less is better")
			assert.Equal(t, 1.0, *x.Gap)
		}
	}
	p = c.json("PATCH", "/battery", m{"revision": b.Revision, "removeTest": "own-rope-climb"}, http.StatusForbidden, nil)
	assert.Contains(t, *p.Detail, "would lose them")

	// The file carries the test with it, so that it reads the same elsewhere.
	_, body := c.do("GET", "/athletes/"+c.golfer("Magnus")+"/export", "", nil, nil)
	assert.Contains(t, string(body), `"own-rope-climb"`)
}

func TestTargetsAndConfidenceAreTheCoachs(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Eilidh")
	gap := func() float64 {
		var r gen.Read
		c.get("/athletes/"+id+"/read", http.StatusOK, &r)
		for _, x := range r.Tests {
			if x.Test == "cmj" {
				return *x.Gap
			}
		}
		return 0
	}
	before := gap()
	var b gen.Battery
	c.json("PATCH", "/battery", m{"revision": 0, "targets": m{"test": "cmj", "targets": []m{{"value": 60, "spread": 7}}}}, http.StatusOK, &b)
	assert.Greater(t, gap(), before)
	c.json("PATCH", "/battery", m{"revision": b.Revision, "targets": m{"test": "cmj", "targets": []m{{"value": 60, "spread": 0}}}}, http.StatusUnprocessableEntity, nil)
	c.json("PATCH", "/battery", m{"revision": b.Revision, "targets": m{"test": "cmj", "reset": true, "targets": []m{}}}, http.StatusOK, &b)
	assert.Equal(t, before, gap())
	c.json("PATCH", "/battery", m{"revision": b.Revision, "confidence": 90}, http.StatusOK, &b)
	assert.Equal(t, 90, b.Confidence)
}

func TestAScreenDayFromPlanToResults(t *testing.T) {
	c := withDemo(t)
	ids := c.everybody()
	require.Len(t, ids, 6)
	var d gen.Day
	c.post("/days", m{"date": today, "name": "Autumn screen", "start": "09:00", "athletes": ids, "set": "usual", "dry": true}, http.StatusOK, &d)
	assert.Empty(t, d.Id, "only planned")
	assert.GreaterOrEqual(t, d.Plan.Minutes, d.Plan.LowerBound)
	c.post("/days", m{"date": today, "name": "Autumn screen", "start": "09:00", "athletes": ids, "set": "usual"}, http.StatusOK, &d)
	c.post("/days", m{"date": today, "name": "x", "start": "9:00", "athletes": ids}, http.StatusUnprocessableEntity, nil)
	c.post("/days", m{"date": today, "name": "x", "start": "09:00", "athletes": append(ids, ids[0])}, http.StatusUnprocessableEntity, nil)

	at := -1
	for i, s := range d.Stations {
		if s.Name == "Range" {
			at = i
		}
	}
	require.GreaterOrEqual(t, at, 0)
	var sheet gen.StationSheet
	c.get(fmt.Sprintf("/days/%s/stations/%d", d.Id, at), http.StatusOK, &sheet)
	require.Len(t, sheet.Rows, 6)
	for i := 1; i < 6; i++ {
		assert.LessOrEqual(t, sheet.Rows[i-1].Start, sheet.Rows[i].Start, "in running order")
	}
	// What each did last time stands there before anything of the day does.
	last := 0
	for _, row := range sheet.Rows {
		for _, x := range row.Tests {
			assert.NotEqual(t, today, x.Date.String(), "nothing was done today yet")
			if x.Test == "hip-ir" {
				last++
			}
		}
	}
	assert.Equal(t, 5, last, "all but the newcomer")
	who := sheet.Rows[0].Golfer.Id
	var s gen.Screen
	c.json("PATCH", "/days/"+d.Id+"/golfers/"+who, m{"cells": []m{{"test": "hip-ir", "side": "lead", "trial": 1, "text": "33", "seen": 0}}}, http.StatusOK, &s)
	assert.Equal(t, today, s.Date)
	// The other tester begins at the same golfer and meets the same screen.
	c.json("PATCH", "/days/"+d.Id+"/golfers/"+who, m{"cells": []m{{"test": "hip-ir", "side": "trail", "trial": 1, "text": "35", "seen": 0}}}, http.StatusOK, &s)
	c.get(fmt.Sprintf("/days/%s/stations/%d", d.Id, at), http.StatusOK, &sheet)
	assert.GreaterOrEqual(t, len(sheet.Rows[0].Trials), 2)
	c.get(fmt.Sprintf("/days/%s/stations/%d", d.Id, 15), http.StatusNotFound, nil)
	c.json("DELETE", "/days/"+d.Id, nil, http.StatusNoContent, nil)
	c.get("/days/"+d.Id, http.StatusNotFound, nil)
	c.get("/screens/"+s.Id, http.StatusOK, nil)
}

// The version rises with every change and only then: what a second tablet waits
// for.
func TestTheVersionTellsOfChanges(t *testing.T) {
	c := withDemo(t)
	version := func() int64 {
		var v struct{ Version int64 }
		c.get("/version", http.StatusOK, &v)
		return v.Version
	}
	s := c.screen(c.golfer("Eilidh"))
	a := version()
	assert.Equal(t, a, version())
	c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{{"test": "mass", "trial": 2, "text": "59"}}}, http.StatusOK, nil)
	assert.Greater(t, version(), a)
}

func TestRepeatsOfASquad(t *testing.T) {
	c := withDemo(t)
	var list []retest.Test
	c.get("/repeats", http.StatusOK, &list)
	for _, x := range list {
		assert.LessOrEqual(t, len(x.Pairs), 12, x.Test)
	}
}

// The live stream of a dynamometer over HTTP: squeezes are measured as they
// come, and losing the instrument is told without losing what was recorded.
func TestALiveGripTestOverHTTP(t *testing.T) {
	t.Parallel()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(t.Context())
	defer cancel()
	go func() {
		_ = device.ServeGrip(
			ctx,
			l,
			device.GripPlan{Pattern: "pulses", PeakKg: 40, Repeats: 3, RateHz: 200, HoldS: 0.3, RestS: 0.3, HangUpAt: 700, Duplicate: 0.02, Garbage: 0.02, Seed: 4},
		)
	}()
	s := newServerWith(t, pgtest.Store(t), l.Addr().String(), "")
	require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
	c := s.client(t)
	c.get("/devices", http.StatusUnauthorized, nil)
	c.post("/session", map[string]string{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	var devices []gen.Device
	c.get("/devices", http.StatusOK, &devices)
	require.Len(t, devices, 1)

	req, err := http.NewRequestWithContext(t.Context(), "GET", s.URL+httpapi.Base+"/devices/grip/live", nil)
	require.NoError(t, err)
	res, err := c.http.Do(req)
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	require.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
	type event struct {
		State    string
		Samples  [][2]float64
		Squeezes []struct{ Onset, Peak float64 }
		Garbage  int
		Lost     int
		Health   struct{ Kept, Duplicates int }
	}
	var last event
	lost := false
	begin := time.Now()
	scan := bufio.NewScanner(res.Body)
	scan.Buffer(nil, 1<<20)
	for scan.Scan() && time.Since(begin) < 20*time.Second {
		data, ok := strings.CutPrefix(scan.Text(), "data: ")
		if !ok {
			continue
		}
		last = event{}
		require.NoError(t, json.Unmarshal([]byte(data), &last))
		lost = lost || last.State == "lost"
		if lost && last.State == "live" && len(last.Squeezes) >= 5 {
			break
		}
	}
	assert.True(t, lost, "the instrument hung up and that was told")
	require.GreaterOrEqual(t, len(last.Squeezes), 5, "what came before the loss is kept")
	for i, q := range last.Squeezes {
		if i < len(last.Squeezes)-1 { // the last one may still be rising
			assert.InDelta(t, 40, q.Peak, 1.5)
		}
		if i > 0 {
			assert.Greater(t, q.Onset, last.Squeezes[i-1].Onset, "one clock for the whole recording")
		}
	}
	assert.Positive(t, last.Garbage)
	assert.Positive(t, last.Health.Duplicates)
}

func TestNoDynamometerIsSaid(t *testing.T) {
	s := newServerWith(t, pgtest.Store(t), "127.0.0.1:1", "127.0.0.1:1")
	require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
	c := s.client(t)
	c.post("/session", map[string]string{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil)
	p := c.get("/devices/grip/live", http.StatusNotFound, nil)
	assert.Contains(t, *p.Detail, "dunnock sim grip")
}
