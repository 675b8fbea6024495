package httpapi_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/card"
	"dunnock/internal/httpapi/gen"
)

// A session's card is in the golfer's own words, item by item as the programme has them.
func TestACardIsInTheGolfersWords(t *testing.T) {
	c := withDemo(t)
	id := c.golfer("Torquil") // plays from the right: the lead side is the left
	var list []gen.ProgrammeRow
	c.get("/athletes/"+id+"/programmes", http.StatusOK, &list)
	require.NotEmpty(t, list)
	var v gen.ProgrammeView
	c.get("/programmes/"+list[0].Id, http.StatusOK, &v)
	said := ""
	for _, s := range v.Programme.Blocks[0].Weeks[0].Sessions {
		var items []card.Item
		c.get("/programmes/"+list[0].Id+"/sessions/"+string(s.ID)+"/card", http.StatusOK, &items)
		require.Len(t, items, len(s.Items))
		for i, it := range items {
			assert.Equal(t, s.Items[i].ID, it.ID)
			said += it.Name + ". " + it.Dose + ". " + it.Why + ". "
		}
	}
	assert.Contains(t, said, "left hip turns in 21.5°, 35° is wanted")
	assert.Contains(t, said, "to your right one set more")
	for _, word := range []string{"lead ", "trail ", "target", "reserve", "→"} {
		assert.NotContains(t, strings.ToLower(said), word)
	}
	c.get("/programmes/"+list[0].Id+"/sessions/none/card", http.StatusNotFound, nil)
}
