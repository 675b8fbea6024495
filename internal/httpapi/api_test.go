package httpapi_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/demo"
	"dunnock/internal/httpapi/gen"
)

type m = map[string]any

const nobody = "00000000-0000-4000-8000-000000000000"

// Every route of the contract, and every address there is not.
func TestNothingWithoutASession(t *testing.T) {
	c := newServer(t).client(t)
	contract, err := gen.GetSpec()
	require.NoError(t, err)
	asked := 0
	for path, item := range contract.Paths.Map() {
		address := regexp.MustCompile(`\{[^}]*\}`).ReplaceAllString(path, nobody)
		for method, op := range item.Operations() {
			res, _ := c.do(method, address, "application/json", nil, nil)
			if op.Extensions["x-least-role"] == "anybody" {
				assert.NotEqual(t, http.StatusUnauthorized, res.StatusCode, "%s %s", method, path)
				continue
			}
			asked++
			assert.Equal(t, http.StatusUnauthorized, res.StatusCode, "%s %s", method, path)
		}
	}
	assert.Greater(t, asked, 55)
	for _, address := range []string{"/nowhere", "/devices/plates/live", "/devices/grip/live"} {
		res, _ := c.do("GET", address, "", nil, nil)
		assert.Equal(t, http.StatusUnauthorized, res.StatusCode, address)
	}
}

func TestFirstRun(t *testing.T) {
	s := newServer(t)
	c := s.client(t)
	code, err := s.app.NewSetupCode(context.Background())
	require.NoError(t, err)
	form := m{"code": "WRONG", "practice": "P", "zone": "Europe/London", "name": "N", "email": "N@example.org", "password": "long enough"}
	p := c.post("/setup", form, http.StatusUnprocessableEntity, nil)
	assert.Equal(t, "code", (*p.Errors)[0].Field)
	form["code"], form["zone"] = code, "Moon/Crater"
	assert.Equal(t, "zone", (*c.post("/setup", form, http.StatusUnprocessableEntity, nil).Errors)[0].Field)
	form["zone"], form["password"] = "Europe/London", "short"
	assert.Equal(t, "password", (*c.post("/setup", form, http.StatusUnprocessableEntity, nil).Errors)[0].Field)
	form["password"] = "long enough"
	c.post("/setup", form, http.StatusOK, nil)
	c.get("/session", http.StatusOK, nil)
	c.post("/setup", form, http.StatusUnprocessableEntity, nil) // the code is spent
}

func TestGuessingTheCodeIsSlowedDown(t *testing.T) {
	c := newServer(t).client(t)
	form := m{"code": "WRONG", "practice": "P", "zone": "UTC", "name": "N", "email": "n@example.org", "password": "long enough"}
	for range 5 {
		c.post("/setup", form, http.StatusUnprocessableEntity, nil)
	}
	c.post("/setup", form, http.StatusTooManyRequests, nil)
}

func TestSignInIsLimitedAndSignedOutIsOut(t *testing.T) {
	c := withDemo(t)
	other := c.s.client(t)
	for range 5 {
		p := other.post("/session", m{"email": "guess@example.org", "password": "wrong password"}, http.StatusUnauthorized, nil)
		assert.Contains(t, *p.Detail, "email address or the password")
	}
	res, _ := other.do("POST", "/session", "application/json", []byte(`{"email":"guess@example.org","password":"x"}`), nil)
	assert.Equal(t, http.StatusTooManyRequests, res.StatusCode)
	assert.Equal(t, "900", res.Header.Get("Retry-After"))
	other.post("/session", m{"email": demo.Email, "password": demo.Password}, http.StatusOK, nil) // another name is not held up

	c.json("DELETE", "/session", nil, http.StatusNoContent, nil)
	c.get("/athletes", http.StatusUnauthorized, nil)
}

func TestSessionCookieAndHeaders(t *testing.T) {
	s := newServer(t)
	require.NoError(t, demo.LoadSquad(context.Background(), s.app, false))
	c := s.client(t)
	res, _ := c.do("POST", "/session", "application/json", []byte(fmt.Sprintf(`{"email":%q,"password":%q}`, demo.Email, demo.Password)), nil)
	cookie := res.Header.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Lax")
	assert.Equal(t, "no-store", res.Header.Get("Cache-Control"))

	page, err := http.Get(s.URL + "/golfers/anything")
	require.NoError(t, err)
	body, _ := io.ReadAll(page.Body)
	_ = page.Body.Close()
	csp := page.Header.Get("Content-Security-Policy")
	assert.Contains(t, csp, "default-src 'self'")
	assert.Contains(t, csp, "script-src 'self'")
	assert.NotContains(t, string(body), "__NONCE__")
	nonce := strings.Split(strings.Split(string(body), `content="`)[1], `"`)[0]
	assert.Contains(t, csp, "'nonce-"+nonce+"'")
	assert.Equal(t, "nosniff", page.Header.Get("X-Content-Type-Options"))
	asset, err := http.Get(s.URL + "/assets/app.js")
	require.NoError(t, err)
	_ = asset.Body.Close()
	assert.Contains(t, asset.Header.Get("Cache-Control"), "immutable")
	missing, err := http.Get(s.URL + "/assets/none.js")
	require.NoError(t, err)
	_ = missing.Body.Close()
	assert.Equal(t, http.StatusNotFound, missing.StatusCode)
}

func TestRequestsFromOtherSitesAreRefused(t *testing.T) {
	c := withDemo(t)
	for _, h := range []map[string]string{{"Sec-Fetch-Site": "cross-site"}, {"Origin": "http://elsewhere.example"}} {
		res, _ := c.do("POST", "/athletes", "application/json", []byte(`{}`), h)
		assert.Equal(t, http.StatusForbidden, res.StatusCode)
	}
}

func TestWrongFieldsAreNamed(t *testing.T) {
	c := withDemo(t)
	p := c.post("/athletes", m{"profile": m{"name": "", "birthDate": "soon", "playingSide": "up", "trainingMonths": -1}}, http.StatusUnprocessableEntity, nil)
	var fields []string
	for _, e := range *p.Errors {
		fields = append(fields, e.Field)
	}
	assert.ElementsMatch(t, []string{"profile.name", "profile.birthDate", "profile.playingSide", "profile.trainingMonths"}, fields)
	p = c.post("/athletes", m{"profile": m{"name": "X", "birthDate": "2090-01-01", "playingSide": "left", "trainingMonths": 0}}, http.StatusUnprocessableEntity, nil)
	assert.Equal(t, "athlete.birthDate", (*p.Errors)[0].Field)
	c.post("/athletes", "not an object", http.StatusUnprocessableEntity, nil)
	c.get("/athletes/not-an-id", http.StatusBadRequest, nil)
	c.get("/athletes/"+nobody, http.StatusNotFound, nil)
	res, _ := c.do("POST", "/athletes", "application/json", make([]byte, 600<<10), nil)
	assert.Equal(t, http.StatusRequestEntityTooLarge, res.StatusCode)
}

func change(a gen.Athlete) m {
	return m{
		"revision":     a.Revision,
		"profile":      a.Profile,
		"clearance":    a.Clearance,
		"limits":       a.Limits,
		"training":     a.Training,
		"competitions": a.Competitions,
		"school":       a.School,
		"startDate":    a.StartDate,
	}
}

func TestIntakeIsSavedOnceAndTellsTheSecondEditor(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var a gen.Athlete
	c.get("/athletes/"+id, http.StatusOK, &a)
	first := change(a)
	profile := a.Profile
	profile.GoalText = "118 mph"
	first["profile"] = profile
	c.json("PUT", "/athletes/"+id, first, http.StatusOK, &a)
	assert.Equal(t, "118 mph", a.Profile.GoalText)
	p := c.json("PUT", "/athletes/"+id, first, http.StatusConflict, nil)
	assert.Contains(t, *p.Detail, "changed by somebody else")
	bad := change(a)
	bad["limits"] = []m{{"region": "knee", "kind": "load-cap", "until": "", "setBy": "doctor"}}
	p = c.json("PUT", "/athletes/"+id, bad, http.StatusUnprocessableEntity, nil)
	assert.Equal(t, "limits[0].capKg", (*p.Errors)[0].Field)
	bad["limits"], bad["school"] = a.Limits, "no-such"
	c.json("PUT", "/athletes/"+id, bad, http.StatusUnprocessableEntity, nil)
}

func TestWhatIsTypedIsUnderstoodOrAsked(t *testing.T) {
	c := withDemo(t)
	s := c.screen(c.golfer("Torquil")) // plays from the right
	refused := func(cell m) gen.FieldError {
		p := c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{cell}}, http.StatusUnprocessableEntity, nil)
		require.Len(t, *p.Errors, 1)
		return (*p.Errors)[0]
	}
	e := refused(m{"test": "trap-bar-lift", "trial": 1, "text": "150x5"})
	assert.Contains(t, *e.Offers, "150x5@2")
	e = refused(m{"test": "height", "trial": 2, "text": "72"})
	assert.Equal(t, []string{"72 in"}, *e.Offers)
	assert.True(t, strings.HasPrefix(e.Detail, "Standing height, trial 2: "), e.Detail)

	// Far from the golfer's own past: a question, once.
	cell := m{"test": "hip-ir", "side": "lead", "trial": 2, "text": "48°"}
	e = refused(cell)
	assert.True(t, *e.Unlikely)
	assert.Regexp(t, `^Hip internal rotation, prone, lead, trial 2: 48\.0° is far from the [0-9.]+° of \w+ \d`, e.Detail)
	cell["confirmed"] = true
	c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{cell}}, http.StatusOK, nil)

	// A block with labels is laid by name; nothing is saved by it.
	var before, after gen.Screen
	c.get("/screens/"+s.Id, http.StatusOK, &before)
	var laid gen.LaidPaste
	c.json("POST", "/screens/"+s.Id+"/paste", m{"text": "Test\tLeft\tRight\nGrip (lb)\t120\t118\nCountermovment jump\t38\t\nShoe\t46\t46"}, http.StatusOK, &laid)
	require.True(t, laid.Labelled)
	assert.Equal(t, []gen.LaidLine{
		{Test: "grip", Name: "Grip", Side: "lead", Label: "Grip (lb)", Cells: []gen.LaidCell{{Trial: 1, Text: "120 lb"}}},
		{Test: "grip", Name: "Grip", Side: "trail", Label: "Grip (lb)", Cells: []gen.LaidCell{{Trial: 1, Text: "118 lb"}}},
		{Test: "cmj", Name: "Countermovement jump", Label: "Countermovment jump", Near: true, Cells: []gen.LaidCell{{Trial: 1, Text: "38"}}},
	}, laid.Lines)
	assert.Equal(t, []gen.PasteLeftOut{{Text: "Shoe 46 46", Why: "no test is called like this"}}, laid.LeftOut)
	c.get("/screens/"+s.Id, http.StatusOK, &after)
	assert.Equal(t, before, after)
	laid = gen.LaidPaste{}
	c.json("POST", "/screens/"+s.Id+"/paste", m{"text": "42\t43\n44\t45"}, http.StatusOK, &laid)
	assert.False(t, laid.Labelled)
	c.json("POST", "/screens/"+s.Id+"/paste", m{"text": strings.Repeat("Grip L\t1\n", 501)}, http.StatusUnprocessableEntity, nil)
	c.json("POST", "/screens/"+s.Id+"/paste", m{"text": strings.Repeat("Grip L\t", 61)}, http.StatusUnprocessableEntity, nil)
}

func TestScreensTakeAllCellsOrNone(t *testing.T) {
	c := withDemo(t)
	s := c.screen(c.golfer("Eilidh"))
	cells := []m{{"test": "push-up", "trial": 1, "text": "7"}, {"test": "grip", "side": "lead", "trial": 1, "text": "-3"}, {"test": "cmj", "trial": 1, "text": "70"}}
	p := c.json("PATCH", "/screens/"+s.Id, m{"cells": cells}, http.StatusUnprocessableEntity, nil)
	require.Len(t, *p.Errors, 2)
	assert.Equal(t, "cells[1].value", (*p.Errors)[0].Field)
	assert.True(t, *(*p.Errors)[1].Unlikely)
	var now gen.Screen
	c.get("/screens/"+s.Id, http.StatusOK, &now)
	assert.Equal(t, s, now, "nothing is half-saved")

	cells = []m{
		{"test": "push-up", "trial": 1, "text": "7"},
		{"test": "driver-speed", "trial": 1, "text": "88", "unit": "mph"},
		{"test": "grip", "side": "lead", "trial": 1},
	}
	now = gen.Screen{}
	c.json("PATCH", "/screens/"+s.Id, m{"cells": cells}, http.StatusOK, &now)
	texts := map[string]string{}
	for _, tr := range now.Trials {
		side := ""
		if tr.Side != nil {
			side = *tr.Side
		}
		texts[fmt.Sprint(tr.Test, side, tr.Trial)] = tr.Text
	}
	assert.Equal(t, "7", texts["push-up1"])
	assert.Equal(t, "88", texts["driver-speed1"], "a speed comes back as it was typed")
	assert.NotContains(t, texts, "griplead1")
	// An editor that has not seen this is told what stands there now.
	p = c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{{"test": "push-up", "trial": 1, "text": "9", "seen": 2}}}, http.StatusConflict, nil)
	require.NotNil(t, (*p.Errors)[0].Clash)
	assert.Equal(t, "7", (*p.Errors)[0].Clash.Text)
	c.json(
		"PATCH",
		"/screens/"+s.Id,
		m{"cells": []m{{"test": "push-up", "trial": 1, "text": "9", "seen": (*p.Errors)[0].Clash.Seen}}, "circumstances": m{"place": "barn", "intent": "full"}},
		http.StatusOK,
		&now,
	)
	assert.Equal(t, "barn", *now.Circumstances.Place)
	many := make([]m, 401)
	for i := range many {
		many[i] = m{"test": "cmj", "trial": 1}
	}
	c.json("PATCH", "/screens/"+s.Id, m{"cells": many}, http.StatusUnprocessableEntity, nil)
}

// An editor that holds the sheet as it was just before is told only what moved;
// laid over what it holds, that is the whole sheet.
func TestASaveAnswersOnlyTheDifference(t *testing.T) {
	c := withDemo(t)
	held := c.screen(c.golfer("Eilidh"))
	cells := []m{{"test": "push-up", "trial": 1, "text": "7"}, {"test": "grip", "side": "lead", "trial": 1}}
	var now, whole gen.Screen
	c.json("PATCH", "/screens/"+held.Id, m{"cells": cells, "held": held.Revision}, http.StatusOK, &now)
	c.get("/screens/"+held.Id, http.StatusOK, &whole)
	require.NotNil(t, now.Since)
	assert.Equal(t, held.Revision, *now.Since)
	require.Len(t, now.Trials, 1)
	assert.Equal(t, "push-up", now.Trials[0].Test)
	require.Len(t, *now.Cleared, 1)
	assert.Equal(t, "grip", (*now.Cleared)[0].Test)
	assert.Less(t, len(now.Tests), len(held.Tests)/4, "few tests are touched by two cells")
	for i, test := range held.Tests {
		for _, n := range now.Tests {
			if n.Test == test.Test {
				held.Tests[i] = n
			}
		}
	}
	assert.Equal(t, whole.Tests, held.Tests)

	now = gen.Screen{}
	c.json("PATCH", "/screens/"+held.Id, m{"cells": cells[:1], "held": held.Revision}, http.StatusOK, &now)
	assert.Nil(t, now.Since, "somebody else saved since: the whole sheet")
	assert.Len(t, now.Tests, len(whole.Tests))
}

func TestUnclearedGolfersAreNotExerted(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Jonas")
	var s gen.Screen
	c.post("/athletes/"+id+"/screens", m{"date": today.Add(1)}, http.StatusUnprocessableEntity, nil)
	c.post("/athletes/"+id+"/screens", m{"date": today}, http.StatusCreated, &s)
	c.post("/athletes/"+id+"/screens", m{"date": today}, http.StatusConflict, nil)
	assert.False(t, s.MayExert)
	c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{{"test": "hip-ir", "side": "lead", "trial": 1, "text": "30"}}}, http.StatusOK, nil)
	p := c.json("PATCH", "/screens/"+s.Id, m{"cells": []m{{"test": "cmj", "trial": 1, "text": "30"}}}, http.StatusUnprocessableEntity, nil)
	assert.Contains(t, *p.Detail, "not cleared")
	c.json("DELETE", "/screens/"+s.Id, nil, http.StatusNoContent, nil)
	c.json("DELETE", "/screens/"+s.Id, nil, http.StatusNotFound, nil)
}

func TestImports(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Finn")
	send := func(query, body string, status int) (r gen.ImportReport) {
		t.Helper()
		res, got := c.do("POST", "/athletes/"+id+"/imports"+query, "text/csv", []byte(body), nil)
		require.Equal(t, status, res.StatusCode, string(got))
		if status == http.StatusOK {
			require.NoError(t, json.Unmarshal(got, &r))
		}
		return r
	}
	const header = "date,test,side,trial,value,unit,status,note\n"
	var before []gen.ScreenRow
	c.get("/athletes/"+id+"/screens", http.StatusOK, &before)
	good := header + "2026-10-01,cmj,,1,28,cm,,\n2026-10-01,grip,lead,1,24,kg,,\n"
	r := send("", good, http.StatusOK)
	assert.False(t, r.Saved)
	assert.Equal(t, 2, r.Screens[0].Trials)
	var rows []gen.ScreenRow
	c.get("/athletes/"+id+"/screens", http.StatusOK, &rows)
	assert.Equal(t, before, rows, "a look saves nothing")

	r = send("?commit=true", header+"2026-10-01,cmj,,1,28,cm,,\n2026-10-01,grip,lead,1,forty,kg,,\n", http.StatusOK)
	assert.False(t, r.Saved)
	assert.Equal(t, 3, r.Errors[0].Row)
	c.get("/athletes/"+id+"/screens", http.StatusOK, &rows)
	assert.Equal(t, before, rows, "one bad row saves nothing")

	assert.True(t, send("?commit=true", good, http.StatusOK).Saved)
	assert.True(t, send("?commit=true", good, http.StatusOK).Saved, "the same again is no conflict")
	r = send("?commit=true", strings.Replace(good, ",28,", ",29,", 1), http.StatusOK)
	assert.Contains(t, r.Errors[0].Detail, "already has cmj")
	r = send("", header+"2026-12-25,cmj,,1,28,cm,,\n", http.StatusOK)
	assert.Contains(t, r.Errors[0].Detail, "in the future")
	unlikely := header + "2026-10-02,cmj,,1,70,cm,,\n"
	assert.True(t, *send("?commit=true", unlikely, http.StatusOK).Errors[0].Unlikely)
	assert.True(t, send("?commit=true&confirm=true", unlikely, http.StatusOK).Saved)
	send("", strings.Repeat("x", 50<<20), http.StatusRequestEntityTooLarge)
	assert.Contains(t, send("", "", http.StatusOK).Errors[0].Detail, "empty")
}

func TestReadUnderEachSchool(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var r gen.Read
	c.get("/athletes/"+id+"/read", http.StatusOK, &r)
	assert.Contains(t, r.Headline, "Mobility holds Torquil back most: lead hip turns in 21.5°, 35° is wanted")
	c.get("/athletes/"+id+"/read?school=strength-first", http.StatusOK, &r)
	assert.Equal(t, "strength-first", r.School)
	c.get("/athletes/"+id+"/read?school=none", http.StatusUnprocessableEntity, nil)
	c.units(m{"speed": "m/s", "mass": "lb", "length": "in", "distance": "ft"}, http.StatusOK)
	c.get("/athletes/"+id+"/read", http.StatusOK, &r)
	assert.Contains(t, r.Speed.GoalSentence, "m/s")
	assert.Contains(t, r.Headline, "35° is wanted")
	said := ""
	for _, q := range r.Qualities {
		said += q.Sentence + q.Against
	}
	assert.Regexp(t, `\d in\b`, said, "jumps")
	c.units(m{"speed": "knots", "mass": "kg", "length": "cm", "distance": "m"}, http.StatusUnprocessableEntity)
	for _, name := range []string{"Marit", "Finn", "Magnus", "Eilidh", "Jonas"} {
		c.get("/athletes/"+c.golfer(name)+"/read", http.StatusOK, nil)
	}
}

func TestErasingTakesEverything(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Marit") // has an issued programme
	c.json("DELETE", "/athletes/"+id, nil, http.StatusNoContent, nil)
	c.get("/athletes/"+id, http.StatusNotFound, nil)
	var n int
	require.NoError(
		t,
		c.s.store.Pool().QueryRow(context.Background(), "SELECT count(*) FROM trials t JOIN screens s ON s.id = t.screen_id WHERE s.athlete_id = $1", id).Scan(&n),
	)
	assert.Zero(t, n)
}

func TestPracticesAreApartOverHTTP(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	s := c.screen(id)
	_, err := c.s.app.AddUser(context.Background(), app.Setup{Practice: "Other", Zone: "UTC", Name: "O", Email: "o@example.org", Password: "long enough"}, false)
	require.NoError(t, err)
	other := c.s.client(t)
	other.post("/session", m{"email": "o@example.org", "password": "long enough"}, http.StatusOK, nil)
	other.get("/athletes/"+id, http.StatusNotFound, nil)
	other.get("/athletes/"+id+"/export", http.StatusNotFound, nil)
	other.get("/screens/"+s.Id, http.StatusNotFound, nil)
	other.json("PATCH", "/screens/"+s.Id, m{}, http.StatusNotFound, nil)
	other.json("DELETE", "/athletes/"+id, nil, http.StatusNotFound, nil)
	var squad struct{ Athletes []gen.SquadRow }
	other.get("/athletes", http.StatusOK, &squad)
	assert.Empty(t, squad.Athletes)
}
