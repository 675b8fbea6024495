// Package formats turns bytes into core types and back: the CSV of one golfer's
// trials, the tidy export, the JSON export of one golfer, FHIR for clinics, and the
// referral note. Rows are read by package table, the spreadsheets people keep by
// package sheets. Whatever is wrong with the bytes is named by
// row and column or by path; nothing is guessed.
package formats

import (
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/formats/table"
)

// MaxCSV is the largest CSV that is read, in bytes; MaxRows its most rows.
const (
	MaxCSV  = 2 << 20
	MaxRows = 20000
)

// Columns of a CSV of trials, as docs/formats.md describes them.
var Columns = []string{"date", "test", "side", "trial", "value", "unit", "status", "note"}

var required = []string{"date", "test", "trial", "value"}

// TrialsCSV is what a CSV holds.
type TrialsCSV struct {
	Rows    int
	Screens []athlete.Screen // by date
	Errors  []table.RowError
}

// ReadTrials reads a CSV of trials for one golfer. With keepUnlikely, values
// outside plausible limits are kept as confirmed. Screens are complete only
// when Errors is empty.
func ReadTrials(ctx context.Context, r io.Reader, tests *measure.Battery, p athlete.Profile, keepUnlikely bool) TrialsCSV {
	out := TrialsCSV{Screens: []athlete.Screen{}}
	whole := func(format string, args ...any) TrialsCSV {
		out.Errors = append(out.Errors, table.RowError{Column: "file", Text: fmt.Sprintf(format, args...)})
		return out
	}
	b, err := io.ReadAll(io.LimitReader(r, MaxCSV+1))
	switch {
	case err != nil:
		return whole("the file could not be read: %v", err)
	case len(b) > MaxCSV:
		return whole("the file is larger than %d MB: split it by golfer or by date", MaxCSV>>20)
	}
	t, err := table.Read(ctx, b)
	var te *table.Error
	if errors.As(err, &te) && te.Row > 0 {
		out.Errors = append(out.Errors, table.RowError{Row: te.Row, Column: "row", Text: te.Text})
		return out
	}
	if err != nil {
		return whole("%v", err)
	}
	index, problem := columnsOf(t.Header)
	if problem != "" {
		return whole("%s", problem)
	}
	reader := trialReader{tests: tests, p: p, out: &out, table: t, index: index, keep: keepUnlikely, seen: map[string]int{}, at: map[civil.Date]int{}}
	for _, row := range t.Rows {
		if out.Rows++; out.Rows > MaxRows {
			return whole("the file has more than %d rows: split it", MaxRows)
		}
		reader.row(row)
	}
	slices.SortFunc(out.Screens, func(a, b athlete.Screen) int { return a.Date.Sub(b.Date) })
	return out
}

func columnsOf(names []string) (map[string]int, string) {
	index := map[string]int{}
	for i, n := range names {
		n = strings.ToLower(strings.TrimSpace(n))
		if !slices.Contains(Columns, n) {
			return nil, fmt.Sprintf("column %d is named %q, which is not known: use %s", i+1, n, strings.Join(Columns, ", "))
		}
		if _, twice := index[n]; twice {
			return nil, fmt.Sprintf("column %q stands twice in the header", n)
		}
		index[n] = i
	}
	for _, n := range required {
		if _, ok := index[n]; !ok {
			return nil, fmt.Sprintf("the header has no column %q: it needs at least %s", n, strings.Join(required, ", "))
		}
	}
	return index, ""
}

type trialReader struct {
	tests *measure.Battery
	p     athlete.Profile
	out   *TrialsCSV
	table *table.Table
	index map[string]int
	keep  bool
	seen  map[string]int // trial → line
	at    map[civil.Date]int
}

func (t *trialReader) fail(line int, column, format string, args ...any) {
	t.out.Errors = append(t.out.Errors, table.RowError{Row: line, Column: column, Text: fmt.Sprintf(format, args...)})
}

func (t *trialReader) row(r table.Row) {
	line, record := r.Line, r.Cells
	if len(record) > t.table.Width {
		hint := ""
		if t.table.Separator == ',' {
			hint = ": a decimal comma in a comma-separated file? Write 42.5, or separate columns by semicolons"
		}
		t.fail(line, "row", "%d cells where the header has %d%s", len(record), t.table.Width, hint)
		return
	}
	cell := func(name string) string {
		if i, ok := t.index[name]; ok && i < len(record) {
			return table.Unquote(record[i])
		}
		return ""
	}
	date, err := civil.Parse(cell("date"))
	if err != nil {
		t.fail(line, "date", "%v", err)
		return
	}
	number, err := strconv.Atoi(cell("trial"))
	if err != nil {
		t.fail(line, "trial", "%q is not a trial number", cell("trial"))
		return
	}
	c := measure.Cell{
		Test:         cell("test"),
		Side:         cell("side"),
		Trial:        number,
		Text:         cell("value"),
		Unit:         cell("unit"),
		Status:       cell("status"),
		Note:         cell("note"),
		DecimalComma: t.table.Separator != ',',
		Confirmed:    t.keep,
	}
	trial, err := c.Parse(t.tests, t.p.ReferenceVariant(date))
	if err != nil {
		var ce *measure.CellError
		if errors.As(err, &ce) {
			t.out.Errors = append(t.out.Errors, table.RowError{Row: line, Column: ce.Field, Text: ce.Text, Unlikely: ce.Unlikely})
		}
		return
	}
	key := date.String() + "|" + trial.Key()
	if first, twice := t.seen[key]; twice {
		t.fail(line, "trial", "the same trial as row %d: %s %s %d on %s", first, trial.Test, trial.Side, trial.Number, date.Words())
		return
	}
	t.seen[key] = line
	i, ok := t.at[date]
	if !ok {
		i = len(t.out.Screens)
		t.at[date] = i
		t.out.Screens = append(t.out.Screens, athlete.Screen{Date: date})
	}
	t.out.Screens[i].Trials = append(t.out.Screens[i].Trials, trial)
}
