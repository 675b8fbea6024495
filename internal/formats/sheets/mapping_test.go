package sheets_test

import (
	"bytes"
	"context"
	"slices"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats/sheets"
	"dunnock/internal/formats/table"
)

const wide = "Name;Date;Grip (kg) lead 1;Grip (kg) lead 2;CMJ;hip-ir trail 2;shoe size\nAda;24.11.2026;31,5;30,9;28,4;stopped;39\nBo;24.11.2026;;44;;;\n"

// laid is a file as it would be read if nobody said anything.
type laid struct {
	grid   *table.Grid
	labels *sheets.Labels
	layout sheets.Layout
	table  *table.Table
	m      sheets.Mapping
}

func lay(t testing.TB, b []byte) *laid {
	t.Helper()
	g, err := table.ReadGrid(context.Background(), b)
	require.NoError(t, err)
	x := &laid{grid: g, labels: sheets.NewLabels(label.New(measure.Shipped()), g)}
	x.layout = sheets.GuessLayout(g, x.labels)
	x.table, err = x.layout.Table(g, x.labels)
	require.NoError(t, err)
	x.m = sheets.Guess(x.table, x.labels)
	x.m.Layout = x.layout
	x.m.Date = sheets.TitleDate(x.table, x.layout.Above(g), &x.m)
	return x
}

// read reads all rows by the mapping as it is.
func (x *laid) read(t testing.TB) ([]sheets.Record, []table.RowError, *sheets.Reader) {
	t.Helper()
	require.Empty(t, x.m.Check(x.table, measure.Shipped()), "%+v", x.table.Header)
	var out []sheets.Record
	var bad []table.RowError
	r := sheets.NewReader(x.table, &x.m, measure.Shipped(), x.labels)
	for i := range x.table.Rows {
		if e := r.Row(&x.table.Rows[i], func(r sheets.Record) { out = append(out, r) }); e != nil {
			bad = append(bad, *e)
		}
	}
	return out, bad, r
}

func TestAWideTableIsGuessedAndRead(t *testing.T) {
	x := lay(t, []byte(wide))
	m := x.m
	assert.Equal(t, ",", m.Decimal)
	assert.Equal(t, sheets.DayFirst, m.Dates)
	assert.Equal(t, []sheets.MappingColumn{
		{
			Field: "golfer",
		}, {Field: "date"}, {Field: "measure", Test: "grip", Side: "lead", Trial: 1, Unit: "kg"}, {Field: "measure", Test: "grip", Side: "lead", Trial: 2, Unit: "kg"},
		{Field: "measure", Test: "cmj", Trial: 1}, {Field: "measure", Test: "hip-ir", Side: "trail", Trial: 2}, {},
	}, m.Columns)
	records, bad, _ := x.read(t)
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
		records, bad, _ := lay(t, b).read(t)
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
	records, bad, _ := lay(t, b.Bytes()).read(t)
	require.Empty(t, bad)
	assert.Equal(t, testkit.Day, records[0].Date)
	assert.Equal(t, "28.4", records[0].Cell.Text)
}

func TestMappingsThatAreRefused(t *testing.T) {
	x := lay(t, []byte(wide))
	for name, c := range map[string]struct {
		change func(m *sheets.Mapping)
		says   string
	}{
		"two columns, one field":   {func(m *sheets.Mapping) { m.Columns[6] = sheets.MappingColumn{Field: "golfer"} }, `columns "Name" and "shoe size" both mean the golfer’s name`},
		"two columns, one trial":   {func(m *sheets.Mapping) { m.Columns[3].Trial = 1 }, "both mean Grip, lead, trial 1"},
		"a trial that is not":      {func(m *sheets.Mapping) { m.Columns[3].Trial = 9 }, "trials 1 to 3"},
		"a unit that cannot be":    {func(m *sheets.Mapping) { m.Columns[4].Unit = "kg" }, "is measured in cm, not in kg"},
		"a side that is missing":   {func(m *sheets.Mapping) { m.Columns[2].Side = "" }, "use lead or trail, left or right"},
		"nobody":                   {func(m *sheets.Mapping) { m.Columns[0] = sheets.MappingColumn{} }, "which column names the golfer"},
		"no day":                   {func(m *sheets.Mapping) { m.Columns[1] = sheets.MappingColumn{} }, "which column holds the date"},
		"both layouts":             {func(m *sheets.Mapping) { m.Columns[6] = sheets.MappingColumn{Field: "test"} }, "not both"},
		"no results":               {func(m *sheets.Mapping) { m.Columns = m.Columns[:2] }, "the mapping has 2 columns"},
		"new golfers without born": {func(m *sheets.Mapping) { m.AddGolfers = true }, "need a birth date"},
		"decimals":                 {func(m *sheets.Mapping) { m.Decimal = "" }, "point or a comma"},
	} {
		m := x.m
		m.Columns = slices.Clone(m.Columns)
		c.change(&m)
		var all []string
		for _, e := range m.Check(x.table, measure.Shipped()) {
			all = append(all, e.Text)
		}
		assert.Contains(t, strings.Join(all, "\n"), c.says, name)
	}
}

func TestRowsThatAreRefused(t *testing.T) {
	for row, says := range map[string]string{
		"Ada;24 Nov;31,5": "has no year", "Ada;31.02.2026;31,5": "no date", ";24.11.2026;31,5": "the golfer is missing", "Ada;24.11.2026;31,5;30": "4 cells where the header has 3",
		"Ada;11/24/2026;31,5": "no date with the day first",
	} {
		x := lay(t, []byte("golfer;date;grip lead 1\nBo;24.11.2026;31,5\n"+row+"\n"))
		x.m.Dates, x.m.Decimal, x.m.FillDown = sheets.DayFirst, ",", false
		_, bad, _ := x.read(t)
		require.Len(t, bad, 1, row)
		assert.Contains(t, bad[0].Text, says)
		assert.Equal(t, 3, bad[0].Row)
	}
}

// Whatever is laid out, guessed and read, nothing breaks, and what is read has a
// test and a trial.
func FuzzSheets(f *testing.F) {
	f.Add([]byte(wide))
	f.Add([]byte("golfer,date,test,value\nA,2026-11-24,cmj,30\n"))
	for _, x := range files {
		if x.text != "" {
			f.Add([]byte(x.text))
		}
	}
	f.Fuzz(func(t *testing.T, b []byte) {
		g, err := table.ReadGrid(context.Background(), b)
		if err != nil {
			return
		}
		labels := sheets.NewLabels(label.New(measure.Shipped()), g)
		l := sheets.GuessLayout(g, labels)
		for _, l := range []sheets.Layout{l, {Sheet: l.Sheet, Top: l.Top, Heads: l.Heads, Turned: !l.Turned}, {Top: 2, Heads: 3}} {
			tab, err := l.Table(g, labels)
			if err != nil {
				continue
			}
			m := sheets.Guess(tab, labels)
			m.Golfer = "somebody"
			m.Date = sheets.TitleDate(tab, l.Above(g), &m)
			if len(m.Check(tab, measure.Shipped())) > 0 {
				continue
			}
			r := sheets.NewReader(tab, &m, measure.Shipped(), labels)
			for i := range tab.Rows {
				_ = r.Row(&tab.Rows[i], func(r sheets.Record) {
					if r.Day == nil {
						assert.NotEmpty(t, r.Cell.Test)
						assert.Positive(t, r.Cell.Trial)
					}
				})
			}
			_, _ = r.LeftOut(), r.Unknown()
		}
	})
}

// Numbers of days come through the mapping every table has: with their units, and nothing that
// cannot be.
func TestNumbersOfDays(t *testing.T) {
	x := lay(t, []byte("Name,Date,Morning weight (lb),Sleep,Resting HR\nMarit,2026-11-20,140,7:30,52\nMarit,2026-11-21,141,25,52\nMarit,2026-11-22,,6.5,\n"))
	assert.Equal(t, []string{"golfer", "date", sheets.DayMass, sheets.DaySleep, sheets.DayHeartRate}, []string{x.m.Columns[0].Field, x.m.Columns[1].Field, x.m.Columns[2].Field, x.m.Columns[3].Field, x.m.Columns[4].Field})
	got, bad, _ := x.read(t)
	require.Len(t, bad, 1)
	assert.Contains(t, bad[0].Text, "0 to 24")
	assert.Equal(t, 3, bad[0].Row)
	var days []sheets.DayValue
	for _, r := range got {
		if r.Line != 3 {
			days = append(days, *r.Day)
		}
	}
	assert.Equal(t, []sheets.DayValue{{Kind: "mass", Value: 63.5}, {Kind: "sleep", Value: 7.5}, {Kind: "heart-rate", Value: 52}, {Kind: "sleep", Value: 6.5}}, days)
}

// A day over the columns is read by the order that is said, not by the one that was guessed.
func TestDaysOverColumnsFollowTheOrderThatIsSaid(t *testing.T) {
	x := lay(t, []byte("Name,04/07/2026,05/07/2026\n,CMJ,CMJ\nAda,31,32\n"))
	require.Empty(t, x.m.Dates, "it has to be said")
	for order, days := range map[string][]string{sheets.DayFirst: {"2026-07-04", "2026-07-05"}, sheets.MonthFirst: {"2026-04-07", "2026-05-07"}} {
		x.m.Dates = order
		x.m.Redate(x.table)
		records, bad, _ := x.read(t)
		require.Empty(t, bad)
		assert.Equal(t, days, []string{records[0].Date.String(), records[1].Date.String()})
	}
}
