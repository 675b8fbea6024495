package formats

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
)

// Mapping says what the columns of a table mean. It is remembered for the next
// file with the same header.
type Mapping struct {
	Source  string          `json:"source"`  // name of where such files come from
	Decimal string          `json:"decimal"` // "." or ","
	Dates   string          `json:"dates"`   // one of DateFormats
	Columns []MappingColumn `json:"columns"` // one for each column of the header
	// Golfer (an id) and Date stand in for columns the table does not have.
	Golfer string     `json:"golfer,omitempty"`
	Date   civil.Date `json:"date,omitzero"`
	// AddGolfers makes golfers that are not there yet; then birth date and playing
	// side must be mapped.
	AddGolfers   bool `json:"addGolfers,omitempty"`
	KeepUnlikely bool `json:"keepUnlikely,omitempty"`
}

// MappingColumn is the meaning of one column.
type MappingColumn struct {
	Field string `json:"field"` // one of Fields; "" leaves the column out
	// Of a measure column: every cell is a trial of this test.
	Test  string `json:"test,omitempty"`
	Side  string `json:"side,omitempty"`
	Trial int    `json:"trial,omitempty"`
	Unit  string `json:"unit,omitempty"`
}

// Measure is the field of a column that holds one test's values.
const Measure = "measure"

// Fields are what a column may mean, besides nothing.
var Fields = []string{
	"golfer",
	"birthDate",
	"sex",
	"playingSide",
	"date",
	"test",
	"side",
	"trial",
	"value",
	"unit",
	"status",
	"variant",
	"pain",
	"region",
	"note",
	"tester",
	"device",
	DayMass,
	DaySleep,
	DayHeartRate,
	Measure,
}

// Fields of columns that hold one number a day: they become a series beside the load, no
// trials of a screen.
const (
	DayMass      = "dayMass"
	DaySleep     = "daySleep"
	DayHeartRate = "dayHeartRate"
)

// DayValue is one number of a day: body mass in kg, hours slept, or the resting heart rate
// in beats a minute.
type DayValue struct {
	Kind  string  `json:"kind"` // mass, sleep or heart-rate
	Value float64 `json:"value"`
}

// dayKinds are the kinds of day values by field, with what they may be.
var dayKinds = map[string]struct {
	kind, name  string
	least, most float64
}{
	DayMass: {"mass", "body mass, kg", 25, 250}, DaySleep: {"sleep", "hours slept", 0, 24}, DayHeartRate: {"heart-rate", "resting heart rate", 25, 220},
}

// DateFormats are the ways a date may be written; a workbook's own dates are
// understood under each of them.
var DateFormats = []string{"YYYY-MM-DD", "DD.MM.YYYY", "DD/MM/YYYY", "MM/DD/YYYY"}

var dateLayouts = map[string][]string{
	"YYYY-MM-DD": {"2006-01-02"}, "DD.MM.YYYY": {"2.1.2006"}, "DD/MM/YYYY": {"2/1/2006"}, "MM/DD/YYYY": {"1/2/2006"},
}

// Check returns everything that is wrong with a mapping of a table; by column
// where it is a column's fault.
func (m *Mapping) Check(t *Table, b *measure.Battery) []RowError {
	var out []RowError
	bad := func(column, format string, args ...any) {
		out = append(out, RowError{Column: column, Text: fmt.Sprintf(format, args...)})
	}
	if m.Decimal != "." && m.Decimal != "," {
		bad("decimal", "say whether decimals are written with a point or a comma")
	}
	if _, ok := dateLayouts[m.Dates]; !ok {
		bad("dates", "say how dates are written: %s. 04/07 may be 4 July or 7 April", strings.Join(DateFormats, ", "))
	}
	if len(m.Columns) != len(t.Header) {
		bad("columns", "the mapping has %d columns, the file %d", len(m.Columns), len(t.Header))
		return out
	}
	first := map[string]string{}
	for i, c := range m.Columns {
		name := t.Header[i]
		key := c.Field
		switch {
		case c.Field == "":
			continue
		case !slices.Contains(Fields, c.Field):
			bad(name, "%q is nothing a column can mean", c.Field)
			continue
		case c.Field == Measure:
			probe := measure.Cell{Test: c.Test, Side: c.Side, Trial: max(c.Trial, 1), Unit: c.Unit, Status: string(measure.Skipped)}
			if _, err := probe.Parse(b, func(*measure.Test) string { return "" }); err != nil {
				var ce *measure.CellError
				if errors.As(err, &ce) && ce.Field != "variant" {
					bad(name, "%s", ce.Text)
					continue
				}
			}
			if x, ok := b.Find(c.Test); ok && c.Unit != "" {
				u, err := unit.Parse(c.Unit)
				if err == nil && !(x.Flight && (u == unit.Second || u == unit.Millisecond)) {
					_, err = unit.Convert(1, u, x.Unit)
				}
				if err != nil {
					bad(name, "%s is measured in %s, not in %s", x.Name, x.Unit, c.Unit)
				}
			} else if headed := unitOfHeader(name); ok && headed != "" && headed != x.Unit {
				bad(name, "the column is headed %q: say which unit its values are in", headed)
			}
			key = fmt.Sprintf("%s %s trial %d", c.Test, c.Side, max(c.Trial, 1))
		}
		if before, twice := first[key]; twice {
			bad(name, "columns %q and %q both mean %s: choose one", before, name, key)
			continue
		}
		first[key] = name
	}
	has := func(f string) bool { _, ok := first[f]; return ok }
	wide := slices.ContainsFunc(m.Columns, func(c MappingColumn) bool { return c.Field == Measure })
	days := has(DayMass) || has(DaySleep) || has(DayHeartRate)
	switch {
	case wide && (has("test") || has("value") || has("trial")):
		bad("columns", "either each column is a test, or each row is a trial with test and value: not both")
	case !wide && !days && !(has("test") && has("value")):
		bad("columns", "say which columns hold the results: a column for each test, or one with the test and one with the value")
	}
	if !has("golfer") && m.Golfer == "" {
		bad("golfer", "say which column names the golfer, or for which golfer the file is")
	}
	if !has("date") && m.Date.IsZero() {
		bad("date", "say which column holds the date, or on which day everything was done")
	}
	if m.AddGolfers && !(has("birthDate") && has("playingSide")) {
		bad("golfer", "new golfers need a birth date and a playing side: map both columns, or add the golfers first")
	}
	return out
}

// Record is one cell of a table read through a mapping.
type Record struct {
	Line      int
	Column    string
	Golfer    string // as written; "" for the mapping's golfer
	BirthDate civil.Date
	Sex       string
	Side      string // playing side
	Date      civil.Date
	Cell      measure.Cell
	Day       *DayValue // a number of the day instead of a trial
}

// Read gives every trial of a row to yield, or what is wrong with the row. The
// mapping must have passed Check.
func (m *Mapping) Read(t *Table, row *TableRow, yield func(Record)) *RowError {
	at := map[string]string{}
	for i, c := range m.Columns {
		if c.Field != "" && c.Field != Measure && i < len(row.Cells) {
			at[c.Field] = unquoteFormula(row.Cells[i])
		}
	}
	bad := func(column, format string, args ...any) *RowError {
		return &RowError{Row: row.Line, Column: column, Text: fmt.Sprintf(format, args...)}
	}
	if extra := len(row.Cells) - len(t.Header); extra > 0 && slices.ContainsFunc(row.Cells[len(t.Header):], func(s string) bool { return s != "" }) {
		hint := ""
		if m.Decimal == "," {
			hint = ": are decimals written with a comma in a comma-separated file?"
		}
		return bad("row", "%d cells where the header has %d%s", len(row.Cells), len(t.Header), hint)
	}
	rec := Record{Line: row.Line, Golfer: at["golfer"], Date: m.Date}
	if m.Golfer == "" && rec.Golfer == "" {
		return bad("golfer", "the golfer is missing")
	}
	var err error
	if s, ok := at["date"]; ok {
		if rec.Date, err = m.date(t, s); err != nil {
			return bad("date", "%v", err)
		}
	}
	if s := at["birthDate"]; s != "" {
		if rec.BirthDate, err = m.date(t, s); err != nil {
			return bad("birthDate", "%v", err)
		}
	}
	if rec.Sex, err = oneOf(at["sex"], map[string]string{"": "", "m": athlete.Male, "male": athlete.Male, "f": athlete.Female, "female": athlete.Female}); err != nil {
		return bad("sex", "%v", err)
	}
	if rec.Side, err = oneOf(at["playingSide"], map[string]string{"": "", "r": athlete.RightSided, "right": athlete.RightSided, "l": athlete.LeftSided, "left": athlete.LeftSided}); err != nil {
		return bad("playingSide", "%v", err)
	}
	cell := measure.Cell{
		Status:       at["status"],
		Variant:      at["variant"],
		Region:       at["region"],
		Note:         at["note"],
		Tester:       at["tester"],
		Device:       at["device"],
		DecimalComma: m.Decimal == ",",
		Confirmed:    m.KeepUnlikely,
	}
	if s := at["pain"]; s != "" {
		if cell.Pain, err = strconv.Atoi(s); err != nil {
			return bad("pain", "pain is a number from 0 to 10, not %q", s)
		}
	}
	if _, long := at["test"]; long {
		cell.Test, cell.Side, cell.Text, cell.Unit, cell.Trial = at["test"], at["side"], plainNumber(at["value"]), at["unit"], 1
		if s := at["trial"]; s != "" {
			if cell.Trial, err = strconv.Atoi(s); err != nil {
				return bad("trial", "%q is not a trial number", s)
			}
		}
		rec.Column, rec.Cell = "value", cell
		yield(rec)
		return nil
	}
	for i, c := range m.Columns {
		k, ok := dayKinds[c.Field]
		if !ok || i >= len(row.Cells) || row.Cells[i] == "" {
			continue
		}
		v, err := m.dayNumber(row.Cells[i], c)
		switch {
		case err != nil:
			return bad(t.Header[i], "%q is no number", row.Cells[i])
		case v < k.least || v > k.most:
			return bad(t.Header[i], "%s is %g to %g, not %s", k.name, k.least, k.most, row.Cells[i])
		}
		day := rec
		day.Column, day.Day = t.Header[i], &DayValue{k.kind, v}
		yield(day)
	}
	for i, c := range m.Columns {
		if c.Field != Measure || i >= len(row.Cells) || row.Cells[i] == "" {
			continue // an empty cell of a wide table was not measured
		}
		x := cell
		x.Test, x.Side, x.Trial, x.Unit, x.Text = c.Test, c.Side, max(c.Trial, 1), c.Unit, plainNumber(row.Cells[i])
		switch s := strings.ToLower(x.Text); s {
		case string(measure.Stopped), string(measure.Skipped):
			x.Status, x.Text = s, ""
		}
		rec.Column, rec.Cell = t.Header[i], x
		yield(rec)
	}
	return nil
}

// dayNumber reads a number of a day; a body mass in pounds where the column says so, and a
// time slept as hours and minutes, 7:30.
func (m *Mapping) dayNumber(s string, c MappingColumn) (float64, error) {
	if h, min, ok := strings.Cut(s, ":"); ok && c.Field == DaySleep {
		hours, err1 := strconv.Atoi(h)
		minutes, err2 := strconv.Atoi(min)
		return float64(hours) + float64(minutes)/60, errors.Join(err1, err2)
	}
	if m.Decimal == "," {
		s = strings.Replace(s, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || c.Field != DayMass || c.Unit == "" {
		return v, err
	}
	u, err := unit.Parse(c.Unit)
	if err != nil {
		return 0, err
	}
	v, err = unit.Convert(v, u, unit.Kilogram)
	return unit.Round(v, 2), err
}

func oneOf(s string, known map[string]string) (string, error) {
	if v, ok := known[strings.ToLower(s)]; ok {
		return v, nil
	}
	return "", fmt.Errorf("%q is not understood", s)
}

var serial = regexp.MustCompile(`^[0-9]{4,5}(\.[0-9]+)?$`)

// date reads a date as the mapping says it is written. A workbook keeps dates
// as day numbers.
func (m *Mapping) date(t *Table, s string) (civil.Date, error) {
	if t.Kind == "xlsx" && serial.MatchString(s) {
		v, _ := strconv.ParseFloat(s, 64)
		day, err := excelize.ExcelDateToTime(v, t.From1904)
		if err == nil {
			return civil.Of(day), nil
		}
	}
	for _, layout := range dateLayouts[m.Dates] {
		if day, err := time.Parse(layout, s); err == nil {
			return civil.Parse(day.Format("2006-01-02"))
		}
	}
	return civil.Date{}, fmt.Errorf("%q is not a date written %s", s, m.Dates)
}

// LeftOut names the columns of a table with anything in them that a mapping does
// not bring in.
func (m *Mapping) LeftOut(t *Table) []string {
	out := []string{}
	for i, h := range t.Header {
		if i < len(m.Columns) && m.Columns[i].Field != "" || !slices.ContainsFunc(t.Rows, func(r TableRow) bool { return i < len(r.Cells) && r.Cells[i] != "" }) {
			continue
		}
		if h == "" {
			h = fmt.Sprintf("column %d", i+1)
		}
		out = append(out, h)
	}
	return out
}
