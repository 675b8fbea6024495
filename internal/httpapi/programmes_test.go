package httpapi_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi/gen"
)

func TestProgrammeFromDraftToVersion(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Eilidh")
	var v gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", m{}, http.StatusCreated, &v)
	base := "/programmes/" + v.Id
	assert.Len(t, v.Programme.Blocks[0].Weeks, 4)

	edit := func(revision int, e m, status int) gen.Problem {
		t.Helper()
		return c.post(base+"/edits", m{"revision": revision, "edit": e}, status, &v)
	}
	first := v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0]
	edit(v.Revision, m{"kind": "dose", "at": first.ID, "dose": m{"sets": 99}}, http.StatusUnprocessableEntity)
	edit(v.Revision+7, m{"kind": "remove", "at": first.ID}, http.StatusConflict) // of a revision there is not yet
	edit(v.Revision, m{"kind": "juggle", "at": first.ID}, http.StatusUnprocessableEntity)
	edit(v.Revision, m{"kind": "remove", "at": first.ID, "scope": "line"}, http.StatusOK)
	assert.Equal(t, "Removed "+first.Name, v.Undo)
	c.post(base+"/steps", m{"by": -1}, http.StatusOK, &v)
	assert.Equal(t, first.Exercise, v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0].Exercise)
	p := c.post(base+"/steps", m{"by": -1}, http.StatusNotFound, nil)
	assert.Contains(t, *p.Detail, "step of yours to undo")

	var alts []gen.Alternative
	c.get(base+"/alternatives?at="+string(first.ID), http.StatusOK, &alts)
	assert.NotEmpty(t, alts)
	c.get(base+"/alternatives?at=gone", http.StatusUnprocessableEntity, nil)

	// Drafting again is a step of the same draft.
	draft := v.Id
	c.post("/athletes/"+id+"/programmes", m{"school": "strength-first"}, http.StatusCreated, &v)
	assert.Equal(t, draft, v.Id)
	assert.Equal(t, "Drafted under Strength first", v.Undo)
	c.post("/athletes/"+id+"/programmes", m{"school": "none"}, http.StatusUnprocessableEntity, nil)
	c.post("/athletes/"+id+"/programmes", m{"startDate": "2029-01-01"}, http.StatusUnprocessableEntity, nil)

	assert.Nil(t, v.MadeBy, "a draft follows the exercises and rules of today")
	c.post(base+"/issue", m{"revision": v.Revision}, http.StatusOK, &v)
	assert.Equal(t, 1, v.Version)
	require.NotNil(t, v.MadeBy)
	assert.Contains(t, *v.MadeBy, "As it was issued: exercises ")
	first = v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0]
	edit(v.Revision, m{"kind": "remove", "at": first.ID}, http.StatusForbidden)
	c.json("DELETE", base, nil, http.StatusForbidden, nil)
	c.post("/athletes/"+id+"/programmes", m{"from": v.Id}, http.StatusCreated, &v)
	assert.NotEqual(t, draft, v.Id)
	assert.Equal(t, first.ID, v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0].ID, "ids go on into the next version")
	c.json("DELETE", "/programmes/"+v.Id, nil, http.StatusNoContent, nil)
	c.post("/athletes/"+id+"/programmes", m{"from": nobody}, http.StatusNotFound, nil)
	var list []gen.ProgrammeRow
	c.get("/athletes/"+id+"/programmes", http.StatusOK, &list)
	assert.Len(t, list, 1)
}

func TestIssuingNeedsClearanceAndReasons(t *testing.T) {
	c := withDemo(t)
	var v gen.ProgrammeView
	c.post("/athletes/"+c.golfer("Jonas")+"/programmes", m{}, http.StatusCreated, &v)
	p := c.post("/programmes/"+v.Id+"/issue", m{"revision": v.Revision, "note": "please"}, http.StatusForbidden, nil)
	assert.Contains(t, *p.Detail, "CLEAR")

	c.post("/athletes/"+c.golfer("Eilidh")+"/programmes", m{}, http.StatusCreated, &v)
	at := v.Programme.Blocks[0].Weeks[0].Sessions[0].Items[0].ID
	c.post("/programmes/"+v.Id+"/edits", m{"revision": v.Revision, "edit": m{"kind": "dose", "at": at, "dose": m{"reps": 12}}}, http.StatusOK, &v)
	p = c.post("/programmes/"+v.Id+"/issue", m{"revision": v.Revision, "note": " "}, http.StatusUnprocessableEntity, nil)
	assert.Equal(t, "note", (*p.Errors)[0].Field)
	c.post("/programmes/"+v.Id+"/issue", m{"revision": v.Revision, "note": "her own wish"}, http.StatusOK, &v)
}

func TestARedFlagStopsDrafting(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Eilidh")
	var a gen.Athlete
	c.get("/athletes/"+id, http.StatusOK, &a)
	a.Clearance.Yes = []string{"flag-faint"}
	c.json("PUT", "/athletes/"+id, change(a), http.StatusOK, nil)
	p := c.post("/athletes/"+id+"/programmes", m{}, http.StatusForbidden, nil)
	assert.Contains(t, *p.Detail, "refer to a doctor now")
}
