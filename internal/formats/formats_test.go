package formats_test

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
)

const header = "date,test,side,trial,value,unit,status,note\n"

func read(text string) formats.TrialsCSV {
	return formats.ReadTrials(context.Background(), strings.NewReader(text), measure.Shipped(), testkit.Strong().Athlete, false)
}

func TestCSVsThatAreRead(t *testing.T) {
	for name, text := range map[string]string{
		"commas":          header + "2026-09-20,grip,lead,1,42.5,kg,,\n2026-09-20,cmj,,1,,,stopped,knee\n",
		"BOM":             "\xEF\xBB\xBF" + header + "2026-09-20,grip,lead,1,42.5,kg,,\n2026-09-20,cmj,,1,,,stopped,knee\n",
		"semicolons":      "date;test;side;trial;value;unit;status;note\n2026-09-20;grip;lead;1;42,5;kg;;\n2026-09-20;cmj;;1;;;stopped;knee\n",
		"windows endings": strings.ReplaceAll(header+"2026-09-20,grip,lead,1,42.5,kg,,\n2026-09-20,cmj,,1,,,stopped,knee\n", "\n", "\r\n"),
		"quotes":          header + "2026-09-20,grip,lead,1,\"42.5\",kg,,\"one, two\"\n2026-09-20,cmj,,1,,,stopped,\n",
		"fewer columns":   "test,trial,value,date,side,status\ngrip,1,42.5,2026-09-20,lead,\ncmj,1,,2026-09-20,,stopped\n",
	} {
		got := read(text)
		require.Empty(t, got.Errors, name)
		require.Len(t, got.Screens, 1, name)
		require.Len(t, got.Screens[0].Trials, 2, name)
		assert.Equal(t, 42.5, got.Screens[0].Trials[0].Value, name)
		assert.Equal(t, measure.Stopped, got.Screens[0].Trials[1].Status, name)
	}
}

func TestCSVsThatAreRefused(t *testing.T) {
	row := func(cells string) string { return header + "2026-09-20,mass,,1,90,kg,,\n" + cells + "\n" }
	for name, c := range map[string]struct {
		text   string
		row    int
		column string
		says   string
	}{
		"empty":              {"", 0, "file", "empty"},
		"header only":        {header, 0, "file", "no rows"},
		"UTF-16":             {"\xFF\xFEd\x00a\x00", 0, "file", "one column only"},
		"workbook":           {"PK\x03\x04rest", 0, "file", "workbook"},
		"binary":             {"ab\x00cd", 0, "file", "not a text file"},
		"tabs":               {"date\ttest\n", 0, "file", "no rows"},
		"no header":          {"hello\nworld\n", 0, "file", "one column only"},
		"unknown column":     {"date,test,trial,value,colour\n1,2,3,4,5\n", 0, "file", `"colour"`},
		"column twice":       {"date,test,trial,value,value\n1,2,3,4,5\n", 0, "file", "twice"},
		"column missing":     {"date,test,value,note\n1,2,3,4\n", 0, "file", `no column "trial"`},
		"decimal comma":      {row("2026-09-20,grip,lead,1,42,5,kg,,"), 3, "row", "decimal comma"},
		"quoted comma":       {row(`2026-09-20,grip,lead,1,"4,25,1",kg,,`), 3, "value", "commas and points"},
		"unknown test":       {row("2026-09-20,gripp,lead,1,42,kg,,"), 3, "test", "there is no test"},
		"text in a number":   {row("2026-09-20,grip,lead,1,forty,kg,,"), 3, "value", "not a number"},
		"impossible":         {row("2026-09-20,grip,lead,1,-4,kg,,"), 3, "value", "not possible"},
		"the same trial":     {row("2026-09-20,mass,,1,91,kg,,"), 3, "trial", "the same trial as row 2"},
		"a date that is not": {row("20.09.2026,mass,,2,91,kg,,"), 3, "date", "YYYY-MM-DD"},
		"a trial that's not": {row("2026-09-20,mass,,two,91,kg,,"), 3, "trial", "not a trial number"},
		"broken quotes":      {row("2026-09-20,mass,,2,\"91,kg,,"), 3, "row", "quotes"},
	} {
		got := read(c.text)
		if assert.NotEmpty(t, got.Errors, name) {
			e := got.Errors[0]
			assert.Equal(t, c.row, e.Row, name)
			assert.Equal(t, c.column, e.Column, name)
			assert.Contains(t, e.Error(), c.says, name)
		}
	}
}

func TestCSVOfAnySize(t *testing.T) {
	got := read(header + strings.Repeat("x", formats.MaxCSV))
	assert.Contains(t, got.Errors[0].Text, "larger than 2 MB")
	got = read(header + strings.Repeat("2026-09-20,mass,,1,90,kg,,\n", 1000))
	assert.Len(t, got.Errors, 999, "every doubled row is named")
	unlikely := header + "2026-09-20,cmj,,1,70,cm,,\n"
	assert.True(t, read(unlikely).Errors[0].Unlikely)
	assert.Empty(t, formats.ReadTrials(context.Background(), strings.NewReader(unlikely), measure.Shipped(), testkit.Strong().Athlete, true).Errors)
}

func FuzzReadTrials(f *testing.F) {
	f.Add([]byte(header + "2026-09-20,grip,lead,1,42.5,kg,,\n"))
	f.Add([]byte("date;test;trial;value\n2026-09-20;cmj;1;30,5\n"))
	f.Add([]byte("\xFF\xFE"))
	f.Add([]byte(header + "\"\n"))
	f.Fuzz(func(t *testing.T, b []byte) {
		got := formats.ReadTrials(context.Background(), bytes.NewReader(b), measure.Shipped(), testkit.Strong().Athlete, false)
		if len(got.Errors) > 0 {
			return
		}
		if len(got.Screens) == 0 {
			t.Fatal("neither screens nor an error")
		}
		for _, s := range got.Screens {
			for _, tr := range s.Trials {
				if msg := tr.Check(measure.Shipped()); msg != "" {
					t.Fatal(msg)
				}
			}
		}
	})
}

func encode(t *testing.T, f *athlete.File) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, formats.WriteJSON(&b, f))
	return b.Bytes()
}

func TestAnExportComesBackByteForByte(t *testing.T) {
	f := testkit.Strong()
	f.School = "measured-gap"
	first := encode(t, f)
	got, err := formats.ReadAthlete(bytes.NewReader(first))
	require.NoError(t, err)
	assert.Equal(t, string(first), string(encode(t, got)))
}

func TestExportsMeetTheirSchema(t *testing.T) {
	b, err := os.ReadFile("../../docs/athlete.schema.json")
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("athlete.schema.json", doc))
	schema, err := c.Compile("athlete.schema.json")
	require.NoError(t, err)
	valid := func(b []byte) error {
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
		require.NoError(t, err)
		return schema.Validate(v)
	}
	for _, f := range []*athlete.File{testkit.Strong(), testkit.Weak()} {
		f.School = "measured-gap"
		assert.NoError(t, valid(encode(t, f)))
	}
	full := testkit.Strong()
	full.Clearance.InjuredOn = testkit.Day
	full.ColdStart = &athlete.ColdStart{On: testkit.Day, Mps: []float64{45, 46}, Before: "desk", Raised: true}
	full.Implements = []implement.Implement{{ID: "l", Name: "Light stick", Kind: implement.Speed, MassG: 250, LengthM: 1.1, BalanceM: 0.7}}
	for _, key := range athlete.ForceKeys() {
		full.ForceFindings = append(full.ForceFindings, athlete.ForceFinding{Key: key, On: testkit.Day, Sentence: "Unlike.", Low: true, Weaker: "trail", Instructor: true})
	}
	full.Battery = &measure.Changes{
		Own:        []measure.Test{{ID: "own-x", Name: "X", Group: "Range"}},
		Errors:     map[string]measure.TestError{"cmj": {Value: 1, Pairs: 12}},
		Confidence: 90,
	}
	full.Screens[0].Circumstances = athlete.Circumstances{
		Before:     "desk",
		LastLesson: testkit.Day,
		ClubChange: "new",
		Intent:     athlete.FullIntent,
		Tester:     "T",
		Place:      "P",
		Floor:      "F",
		Set:        "full",
	}
	full.Screens[0].Trials = append(
		full.Screens[0].Trials,
		measure.Trial{
			Test:   "implement-ladder",
			Side:   "playing",
			Number: 1,
			Status: measure.Done,
			Value:  50,
			MassG:  310,
			Tester: "T",
			Device: "D",
			At:     "2026-11-24T09:00:00Z",
		},
	)
	assert.NoError(t, valid(encode(t, full)), "every field there is has its place in the schema")
	assert.Error(t, valid([]byte(strings.Replace(string(encode(t, testkit.Strong())), `"playingSide": "right"`, `"playingSide": "up"`, 1))))
}

// Files of the format before are read, and written in the one of now.
func TestFilesOfTheFormatBeforeAreRead(t *testing.T) {
	before := strings.Replace(string(encode(t, testkit.Strong())), athlete.Format, athlete.FormatBefore, 1)
	f, err := formats.ReadAthlete(strings.NewReader(before))
	require.NoError(t, err)
	assert.Equal(t, athlete.Format, f.Format)
}

func TestExportsThatAreRefused(t *testing.T) {
	good := string(encode(t, testkit.Strong()))
	for name, c := range map[string]struct{ text, says string }{
		"empty":         {"", "empty"},
		"cut off":       {good[:len(good)/2], "ends in the middle"},
		"not JSON":      {"{\n  \"format\": dunnock", "line 2"},
		"wrong type":    {strings.Replace(good, `"trainingMonths": 36`, `"trainingMonths": "many"`, 1), "trainingMonths"},
		"unknown field": {strings.Replace(good, `"format":`, `"colour": 1, "format":`, 1), "colour"},
		"other format":  {strings.Replace(good, "dunnock-athlete/2", "dunnock-athlete/9", 1), "format"},
		"goes on":       {good + "{}", "goes on"},
		"bad trial":     {strings.Replace(good, `"value": 90`, `"value": 9000`, 1), "screens[0].trials[0]"},
		"bad date":      {strings.Replace(good, "1991-03-10", "1991-13-10", 1), "not a date"},
		"in the future": {strings.Replace(good, "1991-03-10", "2091-03-10", 1), "athlete.birthDate"},
		"an array":      {"[]", "line 1"},
	} {
		_, err := formats.ReadAthlete(strings.NewReader(c.text))
		assert.ErrorContains(t, err, c.says, name)
	}
}

func FuzzReadAthlete(f *testing.F) {
	b, err := json.Marshal(testkit.Weak())
	if err != nil {
		f.Fatal(err)
	}
	f.Add(b)
	f.Add([]byte(`{"format":"dunnock-athlete/1"}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		got, err := formats.ReadAthlete(bytes.NewReader(b))
		if err == nil && len(got.Validate()) > 0 {
			t.Fatal("an invalid file was let through")
		}
	})
}
