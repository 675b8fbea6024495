package school

import (
	"encoding/json"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/library"
)

// whole is a school of our own with everything a school needs.
func whole(t *testing.T) map[string]any {
	t.Helper()
	b, err := files.ReadFile("data/measured-gap.json")
	require.NoError(t, err)
	var s map[string]any
	require.NoError(t, json.Unmarshal(b, &s))
	s["id"], s["name"] = "barn", "Barn"
	return s
}

// in is the object at a path within a school.
func in(s map[string]any, path ...string) map[string]any {
	for _, key := range path {
		s = s[key].(map[string]any)
	}
	return s
}

func file(t *testing.T, name string, s map[string]any) fstest.MapFS {
	t.Helper()
	b, err := json.Marshal(s)
	require.NoError(t, err)
	return fstest.MapFS{"data/" + name: {Data: b}}
}

func TestASchoolIsReadWholeOrNotAtAll(t *testing.T) {
	got, err := read(file(t, "barn.json", whole(t)))
	require.NoError(t, err)
	s, err := got.Find("barn")
	require.NoError(t, err)
	assert.Equal(t, "Fast and light", s.Days["C"].Title)
	_, err = got.Find("")
	assert.ErrorContains(t, err, `there is no school "measured-gap": use barn`)

	for want, spoil := range map[string]func(map[string]any){
		`unknown field "colour"`:                 func(s map[string]any) { s["colour"] = "red" },
		`the id is "byre", not that of the file`: func(s map[string]any) { s["id"] = "byre" },
		"needs a name and its logic":             func(s map[string]any) { delete(s, "logic") },
		"otherSideShare is 0 to 100%, not 140":   func(s map[string]any) { s["otherSideShare"] = 140 },
		"relevance names no quality":             func(s map[string]any) { delete(s, "relevance") },
		"relevance of mobility is 0 to 1, not 2": func(s map[string]any) {
			s["relevance"] = map[string]float64{"mobility": 2}
		},
		`weeks: "AZ" is not 2 kinds of day`: func(s map[string]any) { s["weeks"] = []string{"A", "AZ", "ABC", "CADB"} },
		"day B needs a title":               func(s map[string]any) { delete(s["days"].(map[string]any), "B") },
		"days are [A B C D] and no others": func(s map[string]any) {
			in(s, "days")["D"], in(s, "days")["E"] = in(s, "days")["A"], in(s, "days")["A"]
		},
		`day A: there is no slot "dance"`:  func(s map[string]any) { in(s, "days", "A", "patterns")["dance"] = "x" },
		"ballShare is above 0 and at most": func(s map[string]any) { in(s, "days", "A")["ballShare"] = 0 },
		"doses: throw for novice has 2 weeks, not 4": func(s map[string]any) {
			in(s, "doses", "throw")["novice"] = []string{"2x3", "3x3"}
		},
		"written 3x5@4, 2x30s or 3x4 70%, not": func(s map[string]any) {
			in(s, "doses", "throw")["novice"] = []string{"2 of 3"}
		},
		"and no others":                  func(s map[string]any) { in(s, "doses")["dance"] = in(s, "doses")["throw"] },
		"weights are five, each above 0": func(s map[string]any) { delete(in(s, "weights"), "suitsDay") },
	} {
		s := whole(t)
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

func TestADoseIsReadAsItIsWritten(t *testing.T) {
	four := 4
	for text, want := range map[string]Cell{
		"3x5@4":   {Sets: 3, Reps: 5, Reserve: &four},
		"2x30s":   {Sets: 2, Seconds: 30},
		"3x4 70%": {Sets: 3, Reps: 4, IntentPercent: 70},
		"10x12":   {Sets: 10, Reps: 12},
	} {
		var c Cell
		require.NoError(t, c.UnmarshalText([]byte(text)))
		assert.Equal(t, want, c)
		b, err := c.MarshalText()
		require.NoError(t, err)
		assert.Equal(t, text, string(b))
	}
	for _, text := range []string{"", "3", "0x5", "3x0", "3x5@", "3x5 %", "3x5 70", " 3x5", "3x5s@4x"} {
		assert.Error(t, new(Cell).UnmarshalText([]byte(text)), text)
	}
}

func TestABlockOfAnyLengthHasADoseForEachWeek(t *testing.T) {
	s, err := Shipped().Find("")
	require.NoError(t, err)
	sets := func(weeks int) (out []int) {
		for w := range weeks {
			out = append(out, s.Dose("throw", athlete.AdvancedTier, w, weeks).Sets)
		}
		return out
	}
	assert.Equal(t, []int{5, 4}, sets(2))
	assert.Equal(t, []int{5, 6, 6, 4}, sets(4))
	assert.Equal(t, []int{5, 6, 6, 6, 6, 4}, sets(6), "a longer block stays at the last rising week")
}

func TestRowsShareDosesOfTheirKind(t *testing.T) {
	assert.Equal(t, Row("upper"), RowOf(library.SlotPull, library.Reps))
	assert.Equal(t, Row("main-lift"), RowOf(library.SlotSecond, library.Reps))
	assert.Equal(t, Row("trunk-hold"), RowOf(library.SlotTrunk, library.Seconds))
	assert.Equal(t, Row("jump"), RowOf(library.SlotJump, library.Contacts))
}
