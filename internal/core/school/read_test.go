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

// stage is a school's first one.
func stage(s map[string]any) map[string]any { return s["stages"].([]any)[0].(map[string]any) }

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
	assert.Equal(t, "Fast and light", s.Day("C").Title)
	_, err = got.Find("")
	assert.ErrorContains(t, err, `there is no school "measured-gap": use barn`)

	for want, spoil := range map[string]func(map[string]any){
		`unknown field "colour"`:                       func(s map[string]any) { s["colour"] = "red" },
		`the id is "byre", not that of the file`:       func(s map[string]any) { s["id"] = "byre" },
		"needs a name and its logic":                   func(s map[string]any) { delete(s, "logic") },
		"otherSideShare is 0 to 100%, not 140":         func(s map[string]any) { s["otherSideShare"] = 140 },
		"relevance of grip is missing":                 func(s map[string]any) { delete(in(s, "relevance"), "grip") },
		"relevance of mobility is missing, or not 0 t": func(s map[string]any) { in(s, "relevance")["mobility"] = 2 },
		"relevance is of maximal-strength":             func(s map[string]any) { in(s, "relevance")["charm"] = 1 },
		"stages: one, or several with next":            func(s map[string]any) { delete(s, "stages") },
		`next is "block", "met" or left out, not "x"`:  func(s map[string]any) { s["next"] = "x" },
		"says for whom it is (fits)":                   func(s map[string]any) { delete(s, "fits") },
		"prefer and avoid are given":                   func(s map[string]any) { delete(s, "avoid") },
		"stage 1: lead is missing":                     func(s map[string]any) { delete(stage(s), "lead") },
		`raise: there is no quality "charm"`:           func(s map[string]any) { stage(s)["raise"] = []string{"charm"} },
		`swing is keep, build or lead`:                 func(s map[string]any) { stage(s)["swing"] = []string{"keep", "keep"} },
		`weeks: "AZ" is not 2 kinds of day`:            func(s map[string]any) { stage(s)["weeks"] = []string{"A", "AZ", "ABC", "CADB"} },
		"add up to 99, not 100": func(s map[string]any) {
			stage(s)["zones"] = [][]int{{99, 0, 0, 0, 0, 0}, {100, 0, 0, 0, 0, 0}, {100, 0, 0, 0, 0, 0}}
		},
		`pairs: there is no kind "waltz"`: func(s map[string]any) {
			stage(s)["pairs"] = map[string]any{"kinds": []string{"waltz"}, "most": 1}
		},
		"pairs: at most two a session": func(s map[string]any) { stage(s)["pairs"] = map[string]any{"kinds": []string{}, "most": 1} },
		"implements rise from":         func(s map[string]any) { s["implements"] = []int{20, -20} },
		`dayPatterns: there is no day "Q"`: func(s map[string]any) {
			s["dayPatterns"] = map[string]any{"Q": map[string]string{"throw": "x"}}
		},
		`dayPatterns: there is no slot "dance"`: func(s map[string]any) {
			s["dayPatterns"] = map[string]any{"A": map[string]string{"dance": "x"}}
		},
		"doses: throw for novice has 2 weeks, not 4": func(s map[string]any) {
			s["doses"] = map[string]any{"throw": map[string][]string{"novice": {"2x3", "3x3"}}}
		},
		"written 3x5@4, 2x30s or 3x4 70%, not": func(s map[string]any) {
			s["doses"] = map[string]any{"throw": map[string][]string{"novice": {"2 of 3"}}}
		},
		"and no others, not of": func(s map[string]any) {
			s["doses"] = map[string]any{"dance": map[string][]string{"novice": {"2x3"}}}
		},
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
