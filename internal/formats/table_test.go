package formats_test

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
)

const wide = "Name;Date;Grip (kg) lead 1;Grip (kg) lead 2;CMJ;hip-ir trail 2;shoe size\nAda;24.11.2026;31,5;30,9;28,4;stopped;39\nBo;24.11.2026;;44;;;\n"

func cells(t *testing.T, table *formats.Table, m *formats.Mapping) ([]formats.Record, []formats.RowError) {
	t.Helper()
	require.Empty(t, m.Check(table, measure.Shipped()))
	var out []formats.Record
	var bad []formats.RowError
	for i := range table.Rows {
		if e := m.Read(table, &table.Rows[i], func(r formats.Record) { out = append(out, r) }); e != nil {
			bad = append(bad, *e)
		}
	}
	return out, bad
}

func TestAWideTableIsGuessedAndRead(t *testing.T) {
	table, err := formats.ReadTable(context.Background(), []byte(wide))
	require.NoError(t, err)
	m := formats.Guess(table, measure.Shipped())
	assert.Equal(t, ",", m.Decimal)
	assert.Equal(t, "DD.MM.YYYY", m.Dates)
	assert.Equal(t, []formats.MappingColumn{
		{
			Field: "golfer",
		}, {Field: "date"}, {Field: "measure", Test: "grip", Side: "lead", Trial: 1, Unit: "kg"}, {Field: "measure", Test: "grip", Side: "lead", Trial: 2, Unit: "kg"},
		{Field: "measure", Test: "cmj", Trial: 1}, {Field: "measure", Test: "hip-ir", Side: "trail", Trial: 2}, {},
	}, m.Columns)
	records, bad := cells(t, table, &m)
	assert.Empty(t, bad)
	require.Len(t, records, 5, "empty cells of a wide table were not measured")
	trial, err := records[0].Cell.Parse(measure.Shipped(), func(*measure.Test) string { return "" })
	require.NoError(t, err)
	assert.Equal(t, 31.5, trial.Value)
	assert.Equal(t, civil.MustParse("2026-11-24"), records[0].Date)
	assert.Equal(t, "stopped", records[3].Cell.Status)
	assert.Equal(t, "Bo", records[4].Golfer)
}

func TestTheSameTableInManyWrappings(t *testing.T) {
	utf16le := []byte{0xFF, 0xFE}
	for _, u := range utf16.Encode([]rune(wide)) {
		utf16le = append(utf16le, byte(u), byte(u>>8))
	}
	f := excelize.NewFile()
	for i, row := range strings.Split(strings.TrimSpace(wide), "\n") {
		for j, c := range strings.Split(row, ";") {
			at, _ := excelize.CoordinatesToCellName(j+1, i+2) // begins in row 2
			require.NoError(t, f.SetCellValue("Sheet1", at, c))
		}
	}
	var book bytes.Buffer
	require.NoError(t, f.Write(&book))
	for name, b := range map[string][]byte{
		"tabs": []byte(strings.ReplaceAll(wide, ";", "\t")), "mark": append([]byte{0xEF, 0xBB, 0xBF}, wide...), "utf-16": utf16le, "workbook": book.Bytes(),
		"windows lines": []byte(strings.ReplaceAll(wide, "\n", "\r\n")),
	} {
		table, err := formats.ReadTable(context.Background(), b)
		require.NoError(t, err, name)
		m := formats.Guess(table, measure.Shipped())
		records, bad := cells(t, table, &m)
		assert.Len(t, records, 5, name)
		assert.Empty(t, bad, name)
	}
}

func TestAWorkbooksOwnDatesAndNumbers(t *testing.T) {
	f := excelize.NewFile()
	require.NoError(t, f.SetSheetRow("Sheet1", "A1", &[]any{"golfer", "date", "cmj"}))
	require.NoError(t, f.SetSheetRow("Sheet1", "A2", &[]any{"Ada", testkit.Day.Time(), 28.4000000000000021}))
	var b bytes.Buffer
	require.NoError(t, f.Write(&b))
	table, err := formats.ReadTable(context.Background(), b.Bytes())
	require.NoError(t, err)
	m := formats.Guess(table, measure.Shipped())
	records, bad := cells(t, table, &m)
	require.Empty(t, bad)
	assert.Equal(t, testkit.Day, records[0].Date)
	assert.Equal(t, "28.4", records[0].Cell.Text)
}

// bomb is a workbook whose sheet unfolds to n megabytes.
func bomb(t *testing.T, megabytes int) []byte {
	t.Helper()
	var plain bytes.Buffer
	require.NoError(t, excelize.NewFile().Write(&plain))
	zr, err := zip.NewReader(bytes.NewReader(plain.Bytes()), int64(plain.Len()))
	require.NoError(t, err)
	var out bytes.Buffer
	zw := zip.NewWriter(&out)
	chunk := bytes.Repeat([]byte(" "), 1<<20)
	for _, part := range zr.File {
		w, err := zw.Create(part.Name)
		require.NoError(t, err)
		r, err := part.Open()
		require.NoError(t, err)
		var b bytes.Buffer
		_, _ = b.ReadFrom(r)
		before, after, rows := strings.Cut(b.String(), "</sheetData>")
		_, _ = w.Write([]byte(before))
		if rows {
			for range megabytes {
				_, _ = w.Write(chunk)
			}
			_, _ = w.Write([]byte("</sheetData>"))
		}
		_, _ = w.Write([]byte(after))
	}
	require.NoError(t, zw.Close())
	return out.Bytes()
}

func TestFilesThatAreRefused(t *testing.T) {
	small := bomb(t, 300)
	require.Less(t, len(small), 1<<20, "300 MB folded into less than one")
	for name, x := range map[string]struct {
		b    []byte
		says string
	}{
		"zip bomb":      {small, "unfolds to more than"},
		"no workbook":   {[]byte("PK\x03\x04 and nothing"), "could not be read"},
		"old workbook":  {[]byte("\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1"), "old kind"},
		"picture":       {[]byte("\x89PNG\r\n\x1a\n\x00\x00\x00"), "not a text file"},
		"empty":         {nil, "empty"},
		"latin-1":       {[]byte("golfer,date,cmj\nJos\xe9,2026-11-24,30\n"), "not UTF-8"},
		"header only":   {[]byte("golfer,date,cmj\n"), "no rows"},
		"one column":    {[]byte("hello\nworld\n"), "one column only"},
		"quotes":        {[]byte("golfer,date,cmj\n\"Ada,2026-11-24,30\n"), "quotes do not match"},
		"half a char":   {[]byte{0xFF, 0xFE, 'a'}, "cut off"},
		"far too large": {bytes.Repeat([]byte("a,"), 7<<20), "larger than"},
	} {
		_, err := formats.ReadTable(context.Background(), x.b)
		require.Error(t, err, name)
		assert.Contains(t, err.Error(), x.says, name)
	}
}

func TestMappingsThatAreRefused(t *testing.T) {
	table, err := formats.ReadTable(context.Background(), []byte(wide))
	require.NoError(t, err)
	for name, x := range map[string]struct {
		change func(m *formats.Mapping)
		says   string
	}{
		"two columns, one field":   {func(m *formats.Mapping) { m.Columns[6] = formats.MappingColumn{Field: "golfer"} }, `columns "Name" and "shoe size" both mean golfer`},
		"two columns, one trial":   {func(m *formats.Mapping) { m.Columns[3].Trial = 1 }, "both mean grip lead trial 1"},
		"a trial that is not":      {func(m *formats.Mapping) { m.Columns[3].Trial = 9 }, "trials 1 to 3"},
		"a unit that cannot be":    {func(m *formats.Mapping) { m.Columns[4].Unit = "kg" }, "is measured in cm, not in kg"},
		"a side that is missing":   {func(m *formats.Mapping) { m.Columns[2].Side = "" }, "use lead or trail"},
		"nobody":                   {func(m *formats.Mapping) { m.Columns[0] = formats.MappingColumn{} }, "which column names the golfer"},
		"no day":                   {func(m *formats.Mapping) { m.Columns[1] = formats.MappingColumn{} }, "which column holds the date"},
		"both layouts":             {func(m *formats.Mapping) { m.Columns[6] = formats.MappingColumn{Field: "test"} }, "not both"},
		"no results":               {func(m *formats.Mapping) { m.Columns = m.Columns[:2] }, "the mapping has 2 columns"},
		"new golfers without born": {func(m *formats.Mapping) { m.AddGolfers = true }, "need a birth date"},
		"decimals":                 {func(m *formats.Mapping) { m.Decimal = "" }, "point or a comma"},
	} {
		m := formats.Guess(table, measure.Shipped())
		x.change(&m)
		var all []string
		for _, e := range m.Check(table, measure.Shipped()) {
			all = append(all, e.Text)
		}
		assert.Contains(t, strings.Join(all, "\n"), x.says, name)
	}
}

func TestRowsThatAreRefused(t *testing.T) {
	for row, says := range map[string]string{
		"Ada;2026-11-24;31,5": "not a date written DD.MM.YYYY", "Ada;31.02.2026;31,5": "not a date", ";24.11.2026;31,5": "the golfer is missing", "Ada;24.11.2026;31,5;30": "4 cells where the header has 3",
	} {
		table, err := formats.ReadTable(context.Background(), []byte("golfer;date;grip lead 1\n"+row+"\n"))
		require.NoError(t, err)
		m := formats.Guess(table, measure.Shipped())
		m.Dates, m.Decimal = "DD.MM.YYYY", ","
		_, bad := cells(t, table, &m)
		require.Len(t, bad, 1, row)
		assert.Contains(t, bad[0].Text, says)
		assert.Equal(t, 2, bad[0].Row)
	}
}

// What is exported comes back as it was, formulas are no formulas any more, and
// a workbook says the same as the CSV.
func TestTheTidyExportGoesRound(t *testing.T) {
	f := testkit.Strong()
	f.Athlete.Name = "=HYPERLINK(\"x\")"
	f.Screens[0].Trials[0].Note = "@SUM(1)"
	f.Screens[0].Trials[1].Note = "'quoted"
	f.Screens[0].Trials = append(
		f.Screens[0].Trials,
		measure.Trial{Test: "side-hold", Side: "lead", Number: 1, Status: measure.Stopped, Pain: 6, Region: "lumbar-spine", Note: "-1+2"},
		measure.Trial{Test: "start-direction", Number: 1, Status: measure.Done, Value: -2.5},
	)
	var b, book bytes.Buffer
	require.NoError(t, formats.WriteTidyCSV(&b, []*athlete.File{f}))
	rows, err := csv.NewReader(bytes.NewReader(b.Bytes())).ReadAll()
	require.NoError(t, err)
	for _, r := range rows {
		for _, c := range r {
			if c != "" && strings.ContainsRune("=@\t\r", rune(c[0])) {
				t.Errorf("a spreadsheet would run %q", c)
			}
		}
	}
	assert.Contains(t, b.String(), "-2.5", "a negative number stays a number")
	assert.Contains(t, b.String(), "'-1+2")
	require.NoError(t, formats.WriteTidyXLSX(&book, []*athlete.File{f}, f.Tests()))
	for _, x := range [][]byte{b.Bytes(), book.Bytes()} {
		table, err := formats.ReadTable(context.Background(), x)
		require.NoError(t, err)
		m := formats.Guess(table, measure.Shipped())
		records, bad := cells(t, table, &m)
		require.Empty(t, bad)
		require.Len(t, records, len(f.Screens[0].Trials))
		for i, r := range records {
			assert.Equal(t, f.Athlete.Name, r.Golfer)
			got, err := r.Cell.Parse(measure.Shipped(), f.Athlete.ReferenceVariant(testkit.Day))
			require.NoError(t, err)
			want := f.Screens[0].Trials[i]
			if want.Variant == "" {
				want.Variant = got.Variant
			}
			assert.True(t, want.SameAs(got), "%+v %+v", want, got)
		}
	}
}

func FuzzReadTable(f *testing.F) {
	f.Add([]byte(wide))
	f.Add([]byte("golfer,date,test,value\nA,2026-11-24,cmj,30\n"))
	f.Add([]byte("PK\x03\x04"))
	f.Add([]byte{0xFF, 0xFE, 'a', 0, ',', 0})
	f.Fuzz(func(t *testing.T, b []byte) {
		table, err := formats.ReadTable(context.Background(), b)
		if err != nil {
			return
		}
		m := formats.Guess(table, measure.Shipped())
		_ = table.Fingerprint()
		if len(m.Check(table, measure.Shipped())) > 0 {
			return
		}
		for i := range table.Rows {
			_ = m.Read(table, &table.Rows[i], func(r formats.Record) {
				_, _ = r.Cell.Parse(measure.Shipped(), func(*measure.Test) string { return "" })
			})
		}
	})
}

func BenchmarkReadWideTable(b *testing.B) {
	var s strings.Builder
	s.WriteString("golfer,date")
	for i := range 60 {
		fmt.Fprintf(&s, ",column %d", i)
	}
	for g := range 1000 {
		fmt.Fprintf(&s, "\nGolfer %d,2026-11-24%s", g, strings.Repeat(",31.5", 60))
	}
	b.SetBytes(int64(s.Len()))
	for b.Loop() {
		if _, err := formats.ReadTable(context.Background(), []byte(s.String())); err != nil {
			b.Fatal(err)
		}
	}
}
