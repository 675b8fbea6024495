// Package sheets reads the spreadsheets people keep: any sheet of a workbook, with
// titles above the header and headers of several rows, golfers down or across, a
// test a column or a trial a row. Three things are said of a file, each proposed
// first and then looked at: its Layout (which sheet, which header, which way), its
// Mapping (what the columns mean, how dates and decimals are written) and, while
// its rows are read (Reader), whom and what the names in it mean. What is not
// brought in is always said.
//
// Bytes are read by package table; package label knows how tests are called.
package sheets

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats/table"
)

// Mapping says what the columns of a table mean. It is remembered for the next
// file with the same header.
type Mapping struct {
	Source  string          `json:"source"`  // name of where such files come from
	Decimal string          `json:"decimal"` // "." or ","
	Dates   string          `json:"dates"`   // DayFirst or MonthFirst; "" where it has to be said
	Columns []MappingColumn `json:"columns"` // one for each column of the header
	Layout  Layout          `json:"layout,omitzero"`
	// Golfer (an id) and Date stand in for columns the table does not have.
	Golfer string     `json:"golfer,omitempty"`
	Date   civil.Date `json:"date,omitzero"`
	// FillDown takes an empty name, date or test to be the one of the row above.
	FillDown bool `json:"fillDown,omitempty"`
	// Golfers and Tests say whom and what names mean that are not ours: ids by the name
	// as it is written, and LeaveOut for what is not brought in.
	Golfers map[string]string `json:"golfers,omitempty"`
	Tests   map[string]string `json:"tests,omitempty"`
	// AddGolfers makes golfers that are not there yet; then birth date and playing
	// side must be mapped.
	AddGolfers   bool `json:"addGolfers,omitempty"`
	KeepUnlikely bool `json:"keepUnlikely,omitempty"`
}

// LeaveOut is said of a name whose rows are not brought in.
const LeaveOut = "-"

// MappingColumn is the meaning of one column.
type MappingColumn struct {
	Field string `json:"field"` // one of Fields; "" leaves the column out
	// Of a measure column: every cell is a trial of this test, or of the test the row
	// names.
	Test string `json:"test,omitempty"`
	// Side is a side of the test, or "left" or "right", which is the one or the other by
	// the golfer's playing side; with two of them, "left/right", each cell holds both.
	Side  string     `json:"side,omitempty"`
	Trial int        `json:"trial,omitempty"`
	Unit  string     `json:"unit,omitempty"`
	Date  civil.Date `json:"date,omitzero"` // of a column headed with its day
	// Near marks what was only near the names we know: to be looked at.
	Near bool `json:"near,omitempty"`
}

// The fields that are asked for by name.
const (
	Golfer      = "golfer"
	FirstName   = "firstName"
	LastName    = "lastName"
	BirthDate   = "birthDate"
	PlayingSide = "playingSide"
	Date        = "date"
	// Measure is the field of a column that holds one test's values.
	Measure = "measure"
	// Summary is the field of a column worked out from others: it is left out.
	Summary = "summary"
)

// Fields of columns that hold one number a day: they become a series beside the load, no
// trials of a screen.
const (
	DayMass      = "dayMass"
	DaySleep     = "daySleep"
	DayHeartRate = "dayHeartRate"
)

// Fields are what a column may mean, besides nothing.
var Fields = []string{
	Golfer, FirstName, LastName, BirthDate, "sex", PlayingSide, Date, "test", "side", "trial", "value", "unit", "status", "variant", "pain", "region", "note", "tester", "device",
	DayMass, DaySleep, DayHeartRate, Measure, Summary,
}

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

// has reports whether a column holds one of the fields.
func (m *Mapping) has(fields ...string) bool {
	return slices.ContainsFunc(m.Columns, func(c MappingColumn) bool { return slices.Contains(fields, c.Field) })
}

// NamesGolfers reports whether a column names the golfers.
func (m *Mapping) NamesGolfers() bool { return m.nameAt() >= 0 }

// nameAt is the column that names the golfers, or -1.
func (m *Mapping) nameAt() int {
	return slices.IndexFunc(m.Columns, func(c MappingColumn) bool { return c.Field == Golfer || c.Field == LastName })
}

// Redate reads the days that stand over columns by the order of day and month the
// mapping says now.
func (m *Mapping) Redate(t *table.Table) {
	for i, h := range t.Header {
		if i >= len(m.Columns) || m.Columns[i].Date.IsZero() {
			continue
		}
		for part := range strings.SplitSeq(h, joint) {
			if d, ok := dateIn(t, part, m.Dates); ok {
				m.Columns[i].Date = d
			}
		}
	}
}

// Renew writes the dates of a mapping that was remembered by an earlier version as
// they are written now; where that said nothing of the order, it is what the file
// shows.
func (m *Mapping) Renew(shown string) {
	if order := orders[m.Dates]; m.Dates != "" {
		m.Dates = order
	}
	if m.Dates == "" {
		m.Dates = shown
	}
}

// key is what a column means, the same for two that mean the same; "" for one that
// may be there often.
func (c MappingColumn) key() string {
	switch c.Field {
	case "", Summary:
		return ""
	case Measure:
		return fmt.Sprintf("%s %s trial %d %s", c.Test, c.Side, max(c.Trial, 1), c.Date)
	}
	return c.Field
}

// bySide are the sides a mapping may name that depend on the golfer.
func bySide(side string) (first, second label.Hand, ok bool) {
	a, b, two := strings.Cut(side, "/")
	first, second = label.Hand(a), label.Hand(b)
	if first != label.Left && first != label.Right || two && second != other(first) {
		return "", "", false
	}
	return first, second, true
}

// sideProblem says what is wrong with the side of a measure column, or "".
func sideProblem(t *measure.Test, side string) string {
	if _, _, ok := bySide(side); ok && t.Kind != measure.Unsided {
		return ""
	}
	a, b, two := strings.Cut(side, "/")
	switch {
	case t.HasSide(measure.Side(a)) && (!two || t.HasSide(measure.Side(b)) && a != b):
		return ""
	case t.Kind == measure.Unsided:
		return t.Name + " has no sides: leave the side empty"
	}
	s := t.Kind.Sides()
	return fmt.Sprintf("%s needs a side: use %s or %s, left or right", t.Name, s[0], s[1])
}

// Check returns everything that is wrong with a mapping of a table; by column
// where it is a column's fault.
func (m *Mapping) Check(t *table.Table, b *measure.Battery) []table.RowError {
	var out []table.RowError
	bad := func(column, format string, args ...any) {
		out = append(out, table.RowError{Column: column, Text: fmt.Sprintf(format, args...)})
	}
	if m.Decimal != "." && m.Decimal != "," {
		bad("decimal", "say whether decimals are written with a point or a comma")
	}
	if _, ok := orders[m.Dates]; !ok {
		bad("dates", "say whether the day or the month comes first: 04/07 may be 4 July or 7 April")
	}
	if len(m.Columns) != len(t.Header) {
		bad("columns", "the mapping has %d columns, the file %d", len(m.Columns), len(t.Header))
		return out
	}
	first := map[string]string{}
	has := m.has
	for i, c := range m.Columns {
		name := headed(t, i)
		switch {
		case c.Field == "", c.Field == Summary:
			continue
		case !slices.Contains(Fields, c.Field):
			bad(name, "%q is nothing a column can mean", c.Field)
			continue
		case c.Field == Measure && c.Test == "" && has("test"):
			if _, _, ok := bySide(c.Side); !ok && strings.Contains(c.Side, "/") {
				bad(name, "the sides of two values are left/right or right/left")
				continue
			}
		case c.Field == Measure:
			if text := measureProblem(c, name, b); text != "" {
				bad(name, "%s", text)
				continue
			}
		}
		key := c.key()
		if before, twice := first[key]; twice {
			bad(name, "columns %q and %q both mean %s: choose one", before, name, c.words(b))
			continue
		}
		first[key] = name
	}
	wide := m.wide()
	switch {
	case wide && (has("test") || has("value") || has("trial")):
		bad("columns", "either each column is a test, or each row is a trial with test and value: not both")
	case !wide && !has(DayMass, DaySleep, DayHeartRate) && !(has("test") && has("value", Measure)):
		bad("columns", "say which columns hold the results: a column for each test, or one with the test and one with the value")
	}
	if !has(Golfer, LastName) && m.Golfer == "" {
		bad("golfer", "say which column names the golfer, or for which golfer the file is")
	}
	if !has(Date) && m.Date.IsZero() && slices.ContainsFunc(m.Columns, func(c MappingColumn) bool {
		return c.Date.IsZero() && c.Field != "" && c.Field != Golfer && (c.Field == Measure || c.Field == "value" || strings.HasPrefix(c.Field, "day"))
	}) {
		bad("date", "say which column holds the date, or on which day everything was done")
	}
	if m.AddGolfers && !(has(BirthDate) && has(PlayingSide)) {
		bad("golfer", "new golfers need a birth date and a playing side: map both columns, or add the golfers first")
	}
	return out
}

// measureProblem says what is wrong with a column of a test's values, or "".
func measureProblem(c MappingColumn, name string, b *measure.Battery) string {
	x, ok := b.Find(c.Test)
	if !ok {
		return "say which test the column holds"
	}
	if text := sideProblem(x, c.Side); text != "" {
		return text
	}
	side, _, _ := strings.Cut(c.Side, "/")
	if _, _, hand := bySide(c.Side); hand {
		side = string(x.Kind.Sides()[0])
	}
	probe := measure.Cell{Test: c.Test, Side: side, Trial: max(c.Trial, 1), Unit: c.Unit, Status: string(measure.Skipped)}
	if _, err := probe.Parse(b, func(*measure.Test) string { return "" }); err != nil {
		var ce *measure.CellError
		if errors.As(err, &ce) && ce.Field != "variant" {
			return ce.Text
		}
	}
	if c.Unit == "" {
		if headed := label.UnitOf(name); headed != "" && headed != x.Unit {
			return fmt.Sprintf("the column is headed %q: say which unit its values are in", headed)
		}
		return ""
	}
	u, err := unit.Parse(c.Unit)
	if err == nil && !(x.Flight && (u == unit.Second || u == unit.Millisecond)) {
		_, err = unit.Convert(1, u, x.Unit)
	}
	if err != nil {
		return fmt.Sprintf("%s is measured in %s, not in %s", x.Name, x.Unit, c.Unit)
	}
	return ""
}

// words is what a column means, before a coach's eyes.
func (c MappingColumn) words(b *measure.Battery) string {
	if c.Field != Measure {
		return fieldWords[c.Field]
	}
	if t, ok := b.Find(c.Test); ok {
		return measure.Cell{Side: c.Side, Trial: max(c.Trial, 1)}.Place(t)
	}
	return strings.TrimSpace(fmt.Sprintf("%s trial %d", c.Side, max(c.Trial, 1)))
}

var fieldWords = map[string]string{
	Golfer: "the golfer’s name", FirstName: "the first name", LastName: "the last name", BirthDate: "the birth date", "sex": "the sex", PlayingSide: "the playing side", Date: "the date",
	"test": "the test", "side": "the side", "trial": "the trial", "value": "the value", "unit": "the unit", "status": "the status", "variant": "the way of doing it", "pain": "the pain",
	"region": "the body region", "note": "the note", "tester": "the tester", "device": "the device", DayMass: "the body mass of the day", DaySleep: "the hours slept", DayHeartRate: "the resting heart rate",
}

// headed is the heading of a column, or its place.
func headed(t *table.Table, i int) string {
	if h := t.Header[i]; h != "" {
		return h
	}
	return fmt.Sprintf("column %d", i+1)
}
