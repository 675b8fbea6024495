package upgrade_test

import (
	"compress/gzip"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/programme/upgrade"
	"dunnock/internal/core/testkit"
)

// steps are the undo steps of a draft as they were stored before parts had ids.
func steps(t *testing.T) []json.RawMessage {
	t.Helper()
	f, err := os.Open("testdata/first.json.gz")
	require.NoError(t, err)
	defer func() { _ = f.Close() }()
	r, err := gzip.NewReader(f)
	require.NoError(t, err)
	var docs []json.RawMessage
	require.NoError(t, json.NewDecoder(r).Decode(&docs))
	require.Greater(t, len(docs), 1)
	return docs
}

func view(p *programme.Programme) *derive.Programme {
	m := method.BeforeFreezing()
	return derive.View(p, m.Exercises, m.Schools)
}

// Nothing that was shown is lost: every place, name, zone, cue, minute, total and
// word that was stored is what is worked out now.
func TestADocumentOfTheFirstFormatShowsWhatItShowed(t *testing.T) {
	for _, doc := range steps(t) {
		p, err := upgrade.Read(doc)
		require.NoError(t, err)
		require.NoError(t, p.Check())
		assert.Equal(t, programme.Format, p.Format)
		now, err := json.Marshal(view(p))
		require.NoError(t, err)
		var was, is any
		require.NoError(t, json.Unmarshal(doc, &was))
		require.NoError(t, json.Unmarshal(now, &is))
		was.(map[string]any)["format"] = programme.Format
		assert.Equal(t, was, without(is))
	}
}

// without takes away what the first format did not have.
func without(v any) any {
	switch v := v.(type) {
	case map[string]any:
		delete(v, "id")
		for _, later := range []string{"phase", "serves", "level", "kindWords", "typed"} {
			if _, text := v[later].(float64); !text { // the golfer's own level stays
				delete(v, later)
			}
		}
		for k := range v {
			v[k] = without(v[k])
		}
	case []any:
		for i := range v {
			v[i] = without(v[i])
		}
	}
	return v
}

func TestTheSameDocumentGetsTheSameIDs(t *testing.T) {
	docs := steps(t)
	a, err := upgrade.Read(docs[0])
	require.NoError(t, err)
	b, err := upgrade.Read(docs[0])
	require.NoError(t, err)
	assert.Equal(t, a, b)

	// Over the undo steps a line keeps its id: whatever is in both is the same
	// exercise on the same day.
	for _, doc := range docs[1:] {
		next, err := upgrade.Read(doc)
		require.NoError(t, err)
		kept := 0
		for _, w := range a.Blocks[0].Weeks {
			for _, s := range w.Sessions {
				for _, it := range s.Items {
					if spot, ok := next.Find(it.ID); ok {
						kept++
						assert.Equal(t, it.Exercise, spot.Item.Exercise)
						assert.Equal(t, s.Date, spot.Session.Date)
					}
				}
			}
		}
		assert.Greater(t, kept, 50)
	}
}

func TestADocumentIsReadAsItWasWritten(t *testing.T) {
	r, err := plan.Generate(testkit.Strong(), method.Shipped(), "k")
	require.NoError(t, err)
	b, err := json.Marshal(r.Doc)
	require.NoError(t, err)
	p, err := upgrade.Read(b)
	require.NoError(t, err)
	assert.Equal(t, r.Doc, p)
}

func TestWhatIsNoDocumentIsRefused(t *testing.T) {
	for want, text := range map[string]string{
		"read a programme: unexpected end":             `{`,
		"written by a newer one":                       `{"format": "dunnock-programme/3"}`,
		`unknown field "colour"`:                       `{"format": "dunnock-programme/2", "colour": "red"}`,
		`read a programme: json: unknown field "sets"`: `{"format": "dunnock-programme/1", "sets": 3}`,
		"a block has no id":                            `{"format": "dunnock-programme/2", "blocks": [{}]}`,
	} {
		_, err := upgrade.Read([]byte(text))
		assert.ErrorContains(t, err, want)
	}
}

// Two of one exercise in a session of the first format are told apart.
func TestTwinsAreToldApart(t *testing.T) {
	item := `{"slot": "trunk", "exercise": "trunk-plank"}`
	p, err := upgrade.Read(
		[]byte(
			`{"format": "dunnock-programme/1", "blocks": [{"weeks": [{"number": 1, "sessions": [{"letter": "A", "items": [` + strings.Join(
				[]string{item, item, item},
				",",
			) + `]}]}]}]}`,
		),
	)
	require.NoError(t, err)
	var ids []programme.ID
	for _, it := range p.Blocks[0].Weeks[0].Sessions[0].Items {
		ids = append(ids, it.ID)
	}
	assert.Equal(t, []programme.ID{"b1-w1-A-trunk-trunk-plank", "b1-w1-A-trunk-trunk-plank-2", "b1-w1-A-trunk-trunk-plank-3"}, ids)
}
