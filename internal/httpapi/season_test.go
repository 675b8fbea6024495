package httpapi_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi/gen"
)

// A season has no gap, starts with the block a draft makes, and goes on from what was issued.
func TestSeasonStartsWithTheBlockThatIsDrafted(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil")
	season := func() gen.Season {
		var s gen.Season
		c.get("/athletes/"+id+"/season", http.StatusOK, &s)
		require.NotEmpty(t, s.Blocks)
		for i := 1; i < len(s.Blocks); i++ {
			assert.Equal(t, s.Blocks[i-1].End.Add(1), s.Blocks[i].Start, "a block begins where the one before ends")
		}
		assert.Equal(t, s.Blocks[len(s.Blocks)-1].End, s.End)
		return s
	}
	before := season()
	for _, b := range before.Blocks {
		assert.NotEmpty(t, b.Why, "every block says why it stands there")
		if b.Kind == gen.SeasonBlockKindBlock {
			assert.NotEmpty(t, b.Rows)
			assert.NotEmpty(t, b.School)
		}
	}
	var p gen.ProgrammeView
	c.post("/athletes/"+id+"/programmes", map[string]any{}, http.StatusCreated, &p)
	first := before.Blocks[0]
	assert.Len(t, p.Programme.Blocks[0].Weeks, len(first.Rows))
	assert.Equal(t, first.Start.Monday(), p.Programme.Blocks[0].Weeks[0].Start)

	var words struct{ Path struct{ Season string } }
	c.get("/athletes/"+id, http.StatusOK, &words)
	assert.Regexp(t, `^peak in \d+ weeks?$`, words.Path.Season)

	c.get("/athletes/00000000-0000-4000-8000-000000000000/season", http.StatusNotFound, nil)

	// Without days to train on some are assumed, and it is said.
	var a gen.Athlete
	c.get("/athletes/"+id, http.StatusOK, &a)
	a.Training.Days = []string{}
	res, body := c.do("PUT", "/athletes/"+id, "application/json", mustJSON(t, map[string]any{
		"revision": a.Revision, "profile": a.Profile, "clearance": a.Clearance, "limits": a.Limits, "training": a.Training,
		"competitions": a.Competitions, "school": a.School, "startDate": a.StartDate, "situation": a.Situation,
	}), nil)
	require.Equal(t, http.StatusOK, res.StatusCode, string(body))
	assert.Contains(t, strings.Join(season().Notes, " "), "days")
}
