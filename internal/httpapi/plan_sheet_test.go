package httpapi_test

import (
	"encoding/csv"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/httpapi/gen"
)

// A block goes on paper in one request, or a week or a session of it; what is not in it is
// not found, and other papers and formats are refused.
func TestAProgrammeOnPaper(t *testing.T) {
	c := withDemo(t)
	var p gen.ProgrammeView
	c.post("/athletes/"+c.golfer("Torquil")+"/programmes", map[string]any{}, http.StatusCreated, &p)
	at := "/programmes/" + p.Id + "/exports/"
	get := func(address, kind string) string {
		res, body := c.do("GET", address, "", nil, nil)
		require.Equal(t, http.StatusOK, res.StatusCode, string(body))
		assert.Contains(t, res.Header.Get("Content-Type"), kind)
		assert.Contains(t, res.Header.Get("Content-Disposition"), "torquil-brae-programme-")
		return string(body)
	}
	week := p.Programme.Blocks[0].Weeks[0]
	whole := len(get(at+"pdf", "application/pdf"))
	one := len(get(at+"pdf?paper=a5&at="+string(week.Sessions[0].ID), "application/pdf"))
	some := len(get(at+"pdf?paper=letter&at="+string(week.ID), "application/pdf"))
	assert.Less(t, one, some)
	assert.Less(t, some, whole)
	get(at+"xlsx", "spreadsheetml")
	rows, err := csv.NewReader(strings.NewReader(get(at+"csv?at="+string(week.Sessions[0].ID), "text/csv"))).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, len(week.Sessions[0].Items)+1)

	c.get(at+"pdf?at=nowhere", http.StatusNotFound, nil)
	c.get("/programmes/"+nobody+"/exports/pdf", http.StatusNotFound, nil)
	for _, no := range []string{"pdf?paper=a0", "docx"} {
		res, _ := c.do("GET", at+no, "", nil, nil)
		assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, no)
	}
}
