package school

import (
	"encoding/json"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func whole() map[string]any {
	return map[string]any{
		"id": "barn", "name": "Barn", "logic": "Whatever stands in the barn.", "relevance": map[string]float64{"mobility": 0.5},
		"strengthLeads": false, "mobilityFromJointGap": 0, "otherSideShare": 40, "liftOnFastDay": false,
		"slots": []map[string]any{{"minutes": 0, "add": []string{"throw"}}, {"minutes": 45, "add": []string{"jump"}}}, "prefer": map[string]float64{},
	}
}

func file(t *testing.T, name string, s map[string]any) fstest.MapFS {
	t.Helper()
	b, err := json.Marshal(s)
	require.NoError(t, err)
	return fstest.MapFS{"data/" + name: {Data: b}}
}

func TestASchoolIsReadWholeOrNotAtAll(t *testing.T) {
	got, err := read(file(t, "barn.json", whole()))
	require.NoError(t, err)
	s, err := got.Find("barn")
	require.NoError(t, err)
	assert.Equal(t, []string{"throw", "jump"}, s.SlotsFor(60))
	_, err = got.Find("")
	assert.ErrorContains(t, err, `there is no school "measured-gap": use barn`)

	for want, spoil := range map[string]func(map[string]any){
		`unknown field "colour"`:                 func(s map[string]any) { s["colour"] = "red" },
		`the id is "byre", not that of the file`: func(s map[string]any) { s["id"] = "byre" },
		"needs a name and its logic":             func(s map[string]any) { delete(s, "logic") },
		"otherSideShare is 0 to 100%, not 140":   func(s map[string]any) { s["otherSideShare"] = 140 },
		"mobilityFromJointGap is -1":             func(s map[string]any) { s["mobilityFromJointGap"] = -1 },
		"relevance names no quality":             func(s map[string]any) { delete(s, "relevance") },
		"relevance of mobility is 0 to 1, not 2": func(s map[string]any) {
			s["relevance"] = map[string]float64{"mobility": 2}
		},
		"slots begin with those a session has from 0": func(s map[string]any) { delete(s, "slots") },
		"45 stands behind 45": func(s map[string]any) {
			s["slots"] = []map[string]any{{"minutes": 0}, {"minutes": 45}, {"minutes": 45}}
		},
	} {
		s := whole()
		spoil(s)
		_, err := read(file(t, "barn.json", s))
		assert.ErrorContains(t, err, want)
		assert.ErrorContains(t, err, "data/barn.json")
	}
}

func TestTheDefaultSchoolComesFirst(t *testing.T) {
	all := Shipped().All()
	require.NotEmpty(t, all)
	assert.Equal(t, Default, all[0].ID)
}
