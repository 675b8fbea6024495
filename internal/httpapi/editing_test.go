package httpapi_test

import (
	"bufio"
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi"
	"dunnock/internal/httpapi/gen"
)

// drafted is the demo golfer's programme, a draft of the given school.
func drafted(t *testing.T, c *client, name string) (athleteID string, v gen.ProgrammeView) {
	t.Helper()
	id := c.golfer(name)
	c.post("/athletes/"+id+"/programmes", m{"school": "measured-gap"}, http.StatusCreated, &v)
	return id, v
}

func TestADraftAgainShowsTheDifferenceFirstAndKeepsLocks(t *testing.T) {
	c := withDemo(t)
	id, v := drafted(t, c, "Torquil")
	edits := "/programmes/" + v.Id + "/edits"
	it := v.Programme.Blocks[0].Weeks[1].Sessions[0].Items[0]
	c.post(edits, m{"revision": v.Revision, "edit": m{"kind": "lock", "at": it.ID, "on": true}}, http.StatusOK, &v)
	assert.Equal(t, "Locked "+it.Name, v.Undo)

	var list []gen.PlanDifference
	c.post("/athletes/"+id+"/programmes/preview", m{"school": "swing-led-speed"}, http.StatusOK, &list)
	require.NotEmpty(t, list)
	assert.Contains(t, list[0].Words, "The school is Swing-led speed")
	revision := v.Revision
	c.get("/programmes/"+v.Id, http.StatusOK, &v)
	assert.Equal(t, revision, v.Revision, "a preview stores nothing")

	c.post("/athletes/"+id+"/programmes", m{"school": "swing-led-speed"}, http.StatusCreated, &v)
	found := false
	for _, w := range v.Programme.Blocks[0].Weeks {
		for _, s := range w.Sessions {
			for _, x := range s.Items {
				found = found || x.ID == it.ID && x.Locked && x.DoseText == it.DoseText
			}
		}
	}
	assert.True(t, found, "what is locked is there, as it was")
}

func TestAVersionIsComparedAndWithdrawn(t *testing.T) {
	c := withDemo(t)
	id, v := drafted(t, c, "Torquil")
	c.post("/programmes/"+v.Id+"/withdraw", m{"why": "x"}, http.StatusForbidden, nil)
	c.post("/programmes/"+v.Id+"/issue", m{"revision": v.Revision, "note": "for the test"}, http.StatusOK, &v)
	first, number := v.Id, v.Version
	c.post("/athletes/"+id+"/programmes", m{"from": first}, http.StatusCreated, &v)
	var list []gen.PlanDifference
	c.get("/programmes/"+v.Id+"/differences?from="+first, http.StatusOK, &list)
	assert.Empty(t, list)
	it := v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0]
	c.post("/programmes/"+v.Id+"/edits", m{"revision": v.Revision, "edit": m{"kind": "remove", "at": it.ID}}, http.StatusOK, &v)
	c.get("/programmes/"+v.Id+"/differences?from="+first, http.StatusOK, &list)
	require.Len(t, list, 1)
	assert.Equal(t, it.Name+" is gone.", list[0].Words)

	c.post("/programmes/"+first+"/withdraw", m{"why": " "}, http.StatusUnprocessableEntity, nil)
	c.post("/programmes/"+first+"/withdraw", m{"why": "hurt his wrist"}, http.StatusOK, &v)
	assert.Equal(t, gen.ProgrammeViewStatusWithdrawn, v.Status)
	assert.Equal(t, "hurt his wrist", *v.WithdrawnWhy)
	c.post("/programmes/"+first+"/withdraw", m{"why": "again"}, http.StatusForbidden, nil)
	var g gen.Athlete
	c.get("/athletes/"+id, http.StatusOK, &g)
	for _, b := range g.Lane.Blocks {
		assert.NotEqual(t, number, b.Version, "nothing is trained by it any more")
	}
}

// Each of two who have a programme open sees the other's change within two seconds.
func TestTwoEditorsSeeEachOther(t *testing.T) {
	t.Parallel()
	c := withDemo(t)
	_, v := drafted(t, c, "Torquil")
	req, err := http.NewRequestWithContext(t.Context(), "GET", c.s.URL+httpapi.Base+"/programmes/"+v.Id+"/live", nil)
	require.NoError(t, err)
	res, err := c.http.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	require.Equal(t, http.StatusOK, res.StatusCode)
	lines := bufio.NewScanner(res.Body)
	next := func() (out struct {
		Revision  int
		Label, By string
		Own       bool
	}) {
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				require.NoError(t, json.Unmarshal([]byte(data), &out))
				return out
			}
		}
		return out
	}
	assert.Equal(t, v.Revision, next().Revision)
	it := v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0]
	begin := time.Now()
	c.post("/programmes/"+v.Id+"/edits", m{"revision": v.Revision, "edit": m{"kind": "note", "at": it.ID, "note": "slow"}}, http.StatusOK, &v)
	got := next()
	t.Logf("seen after %v", time.Since(begin))
	assert.Equal(t, v.Revision, got.Revision)
	assert.Equal(t, "A note on "+it.Name, got.Label)
	assert.True(t, got.Own)
	c.get("/programmes/00000000-0000-4000-8000-000000000000/live", http.StatusNotFound, nil)
}

func TestAPlanGoesOutAndComesBack(t *testing.T) {
	c := withDemo(t)
	id, v := drafted(t, c, "Torquil")
	res, file := c.do("GET", "/programmes/"+v.Id+"/exports/json", "", nil, nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	put := func(body string, status int) (p gen.Problem) {
		t.Helper()
		res, got := c.do("POST", "/athletes/"+id+"/programmes/import", "application/octet-stream", []byte(body), nil)
		require.Equal(t, status, res.StatusCode, "%s", got)
		if status == http.StatusCreated {
			require.NoError(t, json.Unmarshal(got, &v))
			return p
		}
		require.NoError(t, json.Unmarshal(got, &p))
		require.NotNil(t, p.Detail, "%s", got)
		return p
	}
	before := v.Programme
	put(string(file), http.StatusCreated)
	assert.Equal(t, before.Blocks, v.Programme.Blocks, "as it went out")

	at := func(key string) string {
		var doc map[string]any
		require.NoError(t, json.Unmarshal(file, &doc))
		week := doc["blocks"].([]any)[0].(map[string]any)["weeks"].([]any)[0].(map[string]any)
		session := week["sessions"].([]any)[0].(map[string]any)
		item := session["items"].([]any)[0].(map[string]any)
		switch key {
		case "unknown":
			item["exercise"] = "no-such-thing"
		case "twice":
			session["items"].([]any)[1].(map[string]any)["id"] = item["id"]
		case "reps":
			item["dose"].(map[string]any)["sets"] = 4000
		case "date":
			session["date"] = "2019-01-01"
		case "field":
			session["mood"] = "good"
		case "empty":
			doc["blocks"] = []any{}
		case "slot":
			item["slot"] = "pocket"
		case "newer":
			doc["format"] = "dunnock-programme/9"
		}
		b, err := json.Marshal(doc)
		require.NoError(t, err)
		return string(b)
	}
	revision := v.Revision
	for key, why := range map[string]string{
		"unknown": `b1.w1.s1.i1: there is no exercise "no-such-thing"`, "twice": "stands for two parts", "reps": "sets of 4000 is outside", "date": "lies outside its week",
		"field": "mood", "empty": "it has 0 blocks", "slot": `there is no slot "pocket"`, "newer": "written by a newer one",
	} {
		p := put(at(key), http.StatusUnprocessableEntity)
		assert.Contains(t, *p.Detail, why, key)
	}
	put("{", http.StatusUnprocessableEntity)
	put("", http.StatusUnprocessableEntity)
	c.get("/programmes/"+v.Id, http.StatusOK, &v)
	assert.Equal(t, revision, v.Revision, "nothing was changed")
}
