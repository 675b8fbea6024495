package httpapi_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/library"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/school"
	"dunnock/internal/httpapi/gen"
)

// Numbers of a rule are tried, changed with a reason, journalled, hold in the next draft,
// and are put back.
func TestNumbersOfARuleAreChanged(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var p gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", map[string]any{}, http.StatusCreated, &p)
	var list struct {
		Rules   []gen.RuleView
		Journal []gen.RuleChange
	}
	rule := func(id string) gen.RuleView {
		c.get("/rules", http.StatusOK, &list)
		for _, r := range list.Rules {
			if r.Id == id {
				return r
			}
		}
		t.Fatalf("no rule %s", id)
		return gen.RuleView{}
	}
	wave := rule("WAVE")
	assert.Equal(t, 20.0, wave.Numbers["risePercent"])
	assert.Contains(t, wave.Template, "{risePercent}")
	assert.Empty(t, list.Journal)

	var tried gen.RuleView
	c.post("/rules/CONTACTS/try", map[string]any{"numbers": map[string]float64{"advanced": 6}}, http.StatusOK, &tried)
	require.NotEmpty(t, tried.Caught, "Torquil's draft would break it")
	assert.Equal(t, "Torquil Brae", tried.Caught[0].Name)
	assert.Empty(t, rule("CONTACTS").Caught, "trying changes nothing")

	put := func(rule, body string) (int, string) {
		res, b := c.do("PUT", "/rules/"+rule, "application/json", []byte(body), nil)
		return res.StatusCode, string(b)
	}
	status, body := put("CONTACTS", `{"numbers": {"advanced": 40}, "reason": "Grass is hard here."}`)
	require.Equal(t, http.StatusNoContent, status, body)
	assert.Equal(t, 40.0, rule("CONTACTS").Numbers["advanced"])
	assert.Equal(t, 120.0, rule("CONTACTS").Ours["advanced"])
	require.Len(t, list.Journal, 1)
	assert.Equal(t, "Grass is hard here.", list.Journal[0].Reason)
	assert.Equal(t, gen.RuleNumbers{"advanced": 120}, list.Journal[0].Before)

	c.post("/athletes/"+id+"/programmes", map[string]any{}, http.StatusCreated, &p)
	assert.Contains(t, p.Programme.RulebookVersion, "+")
	for _, w := range p.Programme.Blocks[0].Weeks {
		for i := range w.Sessions {
			assert.LessOrEqual(t, w.Sessions[i].Contacts(), 40, "the next draft keeps to it")
		}
	}
	for want, body := range map[string]string{
		"there is no such number": `{"numbers": {"charm": 1}, "reason": "x"}`,
		"above 0":                 `{"numbers": {"advanced": -1}, "reason": "x"}`,
		"whole number":            `{"numbers": {"advanced": 40.5}, "reason": "x"}`,
		"the numbers it has":      `{"numbers": {"advanced": 40}, "reason": "x"}`,
		"reason":                  `{"numbers": {"advanced": 50}, "reason": " "}`,
	} {
		status, b := put("CONTACTS", body)
		assert.Equal(t, http.StatusUnprocessableEntity, status, b)
		assert.Contains(t, strings.ToLower(b), strings.ToLower(want))
	}
	status, body = put("SWINGS", `{"numbers": {"setLeast": 9}, "reason": "x"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, body, "more than set most")
	status, _ = put("DANCE", `{"numbers": {"a": 9}, "reason": "x"}`)
	assert.Equal(t, http.StatusNotFound, status)

	status, _ = put("CONTACTS", `{"numbers": {}, "reason": "Ours again."}`)
	require.Equal(t, http.StatusNoContent, status)
	assert.Equal(t, 120.0, rule("CONTACTS").Numbers["advanced"])
	assert.Len(t, list.Journal, 2)
}

// A school of one's own is a copy that is changed: it is read whole or refused by name,
// planned under, and goes when nobody trains under it.
func TestASchoolOfOnesOwn(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var list []gen.SchoolView
	c.get("/schools", http.StatusOK, &list)
	require.Len(t, list, 6)
	own := list[0].School
	own.ID, own.Name, own.OtherSideShare = "", "Links way", 30
	var saved struct{ Id string }
	c.post("/schools", own, http.StatusOK, &saved)
	c.get("/schools", http.StatusOK, &list)
	require.Len(t, list, 7)

	var p gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", map[string]any{"school": saved.Id}, http.StatusCreated, &p)
	assert.Equal(t, "Links way", p.Programme.SchoolName)

	var raw map[string]any
	b, _ := json.Marshal(own)
	require.NoError(t, json.Unmarshal(b, &raw))
	delete(raw, "relevance")
	res, body := c.do("POST", "/schools", "application/json", must(json.Marshal(raw)), nil)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, string(body), "elevance of maximal-strength is missing")
	ours := list[0].School
	res, body = c.do("POST", "/schools", "application/json", must(json.Marshal(ours)), nil)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, string(body))
	again := own
	res, body = c.do("POST", "/schools", "application/json", must(json.Marshal(again)), nil)
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, string(body), "of that name already")

	res, _ = c.do("DELETE", "/schools/"+saved.Id, "", nil, nil)
	assert.Equal(t, http.StatusNoContent, res.StatusCode)
	c.get("/programmes/"+p.Id, http.StatusOK, &p)
	assert.Equal(t, school.Default, "measured-gap")
	res, _ = c.do("DELETE", "/schools/"+saved.Id, "", nil, nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode)
}

func must(b []byte, err error) []byte {
	if err != nil {
		panic(err)
	}
	return b
}

// Two schools side by side, and a broken rule mended in a draft and undone.
func TestComparedAndMended(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	var x plan.Compared
	c.get("/athletes/"+id+"/compare?a=measured-gap&b=swing-led-speed", http.StatusOK, &x)
	assert.Equal(t, "Swing-led speed", x.B.Name)
	assert.NotEmpty(t, x.Sentences)
	c.get("/athletes/"+id+"/compare?a=measured-gap&b=byre", http.StatusUnprocessableEntity, nil)

	var p gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", map[string]any{}, http.StatusCreated, &p)
	var item derive.Item
	for _, s := range p.Programme.Blocks[0].Weeks[1].Sessions {
		for _, it := range s.Items {
			if it.Slot == library.SlotThrow {
				item = it
			}
		}
	}
	edit := func(e map[string]any, status int) {
		c.post("/programmes/"+p.Id+"/edits", map[string]any{"revision": p.Revision, "edit": e}, status, &p)
	}
	edit(map[string]any{"kind": "dose", "at": item.ID, "dose": map[string]int{"sets": 12}}, http.StatusOK)
	var broken *rulebook.Result
	for i := range p.Rules {
		if r := &p.Rules[i]; r.Status == rulebook.Broken && r.Rule == "WAVE" {
			broken = r
		}
	}
	require.NotNil(t, broken, fmt.Sprint(p.Rules))
	edit(map[string]any{"kind": "mend", "rule": "WAVE", "at": broken.At}, http.StatusOK)
	for _, r := range p.Rules {
		assert.False(t, r.Status == rulebook.Broken && r.Rule == "WAVE" && r.At == broken.At, r.Text)
	}
	assert.NotEmpty(t, p.Undo)
	revision := p.Revision
	edit(map[string]any{"kind": "mend", "rule": "WAVE", "at": broken.At}, http.StatusUnprocessableEntity)
	p.Revision = revision
}
