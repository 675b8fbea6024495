package httpapi_test

import (
	"encoding/json"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Dates are fields in the form of files; within a sentence they are written as a
// coach writes them.
func TestSentencesHoldNoDateInTheFormOfFiles(t *testing.T) {
	within := regexp.MustCompile(`\d{4}-\d\d-\d\d`)
	field := regexp.MustCompile(`^\d{4}-\d\d-\d\d(T.*)?$`)
	c := withDemo(t)
	seen := 0
	var walk func(path string, v any)
	walk = func(path string, v any) {
		switch v := v.(type) {
		case map[string]any:
			for k, x := range v {
				walk(path+"."+k, x)
			}
		case []any:
			for _, x := range v {
				walk(path, x)
			}
		case string:
			seen++
			if within.MatchString(v) && !field.MatchString(v) {
				assert.Fail(t, "a date in the form of files", "%s: %s", path, v)
			}
		}
	}
	get := func(path string) (out any) {
		_, b := c.do("GET", path, "", nil, nil)
		require.NoError(t, json.Unmarshal(b, &out), path)
		walk(path, out)
		return out
	}
	get("/meta")
	get("/repeats")
	ids := func(v any, key string) (out []string) {
		if m, ok := v.(map[string]any); ok && key != "" {
			v = m[key]
		}
		list, _ := v.([]any)
		for _, x := range list {
			out = append(out, x.(map[string]any)["id"].(string))
		}
		return out
	}
	golfers := ids(get("/athletes"), "athletes")
	require.NotEmpty(t, golfers)
	for _, id := range golfers {
		get("/athletes/" + id)
		get("/athletes/" + id + "/read")
		for _, p := range ids(get("/athletes/"+id+"/programmes"), "") {
			get("/programmes/" + p)
		}
		for _, s := range ids(get("/athletes/"+id+"/screens"), "") {
			get("/screens/" + s)
		}
		for i, r := range ids(get("/athletes/"+id+"/force"), "recordings") {
			if i < 3 {
				get("/recordings/" + r)
			}
		}
	}
	assert.Greater(t, seen, 3000, "there was something to look at")
}
