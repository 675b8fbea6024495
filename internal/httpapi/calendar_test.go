package httpapi_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi/gen"
)

// A golfer's calendar holds what was issued and the competitions, and no word about health;
// whoever has the private address reads it without signing in, until it is revoked.
func TestACalendarIsFetchedAndRevoked(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var p gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", map[string]any{}, http.StatusCreated, &p)
	read := func(who *client, address string) map[string]ical.Event {
		res, body := who.do("GET", address, "", nil, nil)
		require.Equal(t, http.StatusOK, res.StatusCode, string(body))
		assert.Contains(t, res.Header.Get("Content-Type"), "text/calendar")
		cal, err := ical.NewDecoder(strings.NewReader(string(body))).Decode()
		require.NoError(t, err)
		out := map[string]ical.Event{}
		for _, e := range cal.Events() {
			title, err := e.Props.Text(ical.PropSummary)
			require.NoError(t, err)
			uid, err := e.Props.Text(ical.PropUID)
			require.NoError(t, err)
			e.Props.Del(ical.PropDateTimeStamp) // the moment it is asked for
			out[uid+" "+title] = e
		}
		assert.Len(t, out, len(cal.Events()), "no two are the same")
		return out
	}
	only := read(c, "/athletes/"+id+"/calendar.ics")
	require.Len(t, only, 1, "a draft is nobody's calendar yet")
	c.post("/programmes/"+p.Id+"/issue", map[string]any{"revision": p.Revision}, http.StatusOK, nil)
	var a gen.Athlete
	c.get("/athletes/"+id, http.StatusOK, &a)
	change := map[string]any{
		"revision": a.Revision, "profile": a.Profile, "clearance": a.Clearance, "limits": []map[string]any{{"region": "shoulder", "kind": "no-overhead", "until": "", "setBy": "doctor", "note": "frozen"}},
		"competitions": a.Competitions, "school": a.School, "situation": a.Situation, "startDate": a.StartDate,
	}
	training := map[string]any{"days": a.Training.Days, "sessions": a.Training.Sessions, "minutes": a.Training.Minutes, "kit": a.Training.Kit, "startsAt": "25:00", "where": "The barn"}
	change["training"] = training
	res, body := c.do("PUT", "/athletes/"+id, "application/json", mustJSON(t, change), nil)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, string(body), "17:30")
	training["startsAt"] = "17:30"
	res, body = c.do("PUT", "/athletes/"+id, "application/json", mustJSON(t, change), nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(body))

	var made, kept gen.CalendarAddress
	c.post("/athletes/"+id+"/calendar-address", nil, http.StatusOK, &made)
	c.get("/athletes/"+id+"/calendar-address", http.StatusOK, &kept)
	require.NotNil(t, made.Path)
	assert.Nil(t, kept.Path, "it is shown once")
	require.NotNil(t, kept.MadeAt)
	address := strings.TrimPrefix(*made.Path, "/api/v1")

	stranger := c.s.client(t)
	events := read(stranger, address)
	sessions := 0
	for _, w := range p.Programme.Blocks[0].Weeks {
		sessions += len(w.Sessions)
	}
	found := 0
	for title, e := range events {
		for _, word := range []string{"shoulder", "pain", "frozen", "doctor", "limit"} {
			assert.NotContains(t, strings.ToLower(title), word)
		}
		assert.Nil(t, e.Props.Get(ical.PropDescription))
		if strings.Contains(title, "Session ") {
			found++
			where, err := e.Props.Text(ical.PropLocation)
			require.NoError(t, err)
			assert.Equal(t, "The barn", where)
			assert.True(t, strings.HasSuffix(e.Props.Get(ical.PropDateTimeStart).Value, "00Z"))
		}
	}
	assert.Equal(t, sessions, found)

	// A new address ends the one before; a revoked one opens nothing, as one that never was.
	c.post("/athletes/"+id+"/calendar-address", nil, http.StatusOK, &made)
	stranger.get(address, http.StatusNotFound, nil)
	address = strings.TrimPrefix(*made.Path, "/api/v1")
	assert.Equal(t, events, read(stranger, strings.TrimSuffix(address, ".ics")))
	res, _ = c.do("DELETE", "/athletes/"+id+"/calendar-address", "", nil, nil)
	require.Equal(t, http.StatusNoContent, res.StatusCode)
	stranger.get(address, http.StatusNotFound, nil)
	stranger.get("/calendars/x", http.StatusNotFound, nil)
	c.get("/athletes/"+nobody+"/calendar.ics", http.StatusNotFound, nil)
	c.post("/athletes/"+nobody+"/calendar-address", nil, http.StatusNotFound, nil)
}
