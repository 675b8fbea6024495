package sheets

import (
	"fmt"
	"iter"
	"maps"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/formats/table"
)

// Record is one cell of a table read through a mapping.
type Record struct {
	Line      int
	Column    string
	Golfer    string // as written; "" for the mapping's golfer
	BirthDate civil.Date
	Sex       string
	Plays     string // playing side
	Date      civil.Date
	// Hand is set in place of the cell's side where left or right was written: which
	// side it is depends on the golfer.
	Hand label.Hand
	Cell measure.Cell
	Day  *DayValue // a number of the day instead of a trial
}

// Reader reads the rows of a table by a mapping, and keeps what it did not bring
// in. It is for one pass over the rows, from the first to the last.
type Reader struct {
	t       *table.Table
	m       *Mapping
	b       *measure.Battery
	labels  *Labels
	above   map[string]string // of the row above, by field
	trials  map[string]int    // taken, of rows that number none
	unknown map[string]*Unknown
	order   []string

	notMeasured, summaries, headers, empty, filled int
	remarks                                        []string
	left                                           map[string]int // rows of names that are left out
}

// Unknown is the name of a test that is not ours.
type Unknown struct {
	Written string
	Rows    int
	Near    string // id of the test it is near to, or ""
}

// NewReader returns a reader. The mapping must have passed Check.
func NewReader(t *table.Table, m *Mapping, b *measure.Battery, labels *Labels) *Reader {
	return &Reader{t: t, m: m, b: b, labels: labels, above: map[string]string{}, trials: map[string]int{}, unknown: map[string]*Unknown{}, left: map[string]int{}}
}

// Names are the golfers a table names, as they are written. It is a pass over the
// rows of its own.
func (r *Reader) Names(t *table.Table) iter.Seq[string] {
	return func(yield func(string) bool) {
		seen := map[string]bool{}
		for i := range t.Rows {
			if r.m.Golfer != "" {
				return
			}
			name := r.fields(t.Rows[i].Cells)[Golfer]
			if name == "" || seen[name] {
				continue
			}
			seen[name] = true
			if !yield(name) {
				return
			}
		}
	}
}

// down are the fields an empty cell of which is that of the row above.
var down = []string{Golfer, LastName, FirstName, Date, "test"}

// fields are the cells of a row that are no values, by field.
func (r *Reader) fields(cells []string) map[string]string {
	at := map[string]string{}
	for i, c := range r.m.Columns {
		if c.Field == "" || c.Field == Measure || c.Field == Summary {
			continue
		}
		text := ""
		if i < len(cells) {
			text = table.Unquote(cells[i])
		}
		if r.m.FillDown && slices.Contains(down, c.Field) {
			if text == "" {
				text = r.above[c.Field]
			} else {
				r.above[c.Field] = text
			}
		}
		at[c.Field] = text
	}
	if last, ok := at[LastName]; ok {
		at[Golfer] = strings.TrimSpace(at[FirstName] + " " + last)
	}
	return at
}

// Row gives every trial of a row to yield, or says what is wrong with the row.
func (r *Reader) Row(row *table.Row, yield func(Record)) *table.RowError {
	bad := func(column, format string, args ...any) *table.RowError {
		return &table.RowError{Row: row.Line, Column: column, Text: fmt.Sprintf(format, args...)}
	}
	if extra := len(row.Cells) - len(r.t.Header); extra > 0 && !table.Empty(row.Cells[len(r.t.Header):]) {
		hint := ""
		if r.m.Decimal == "," {
			hint = ": are decimals written with a comma in a comma-separated file?"
		}
		return bad("row", "%d cells where the header has %d%s", len(row.Cells), len(r.t.Header), hint)
	}
	switch {
	case r.headerAgain(row.Cells):
		r.headers++
		return nil
	case r.m.sumsUp(row.Cells):
		r.summaries++
		return nil
	case !r.m.results(row.Cells):
		r.without(row.Cells)
		return nil
	}
	at := r.fields(row.Cells)
	if named := r.m.nameAt(); r.m.FillDown && named >= 0 && (named >= len(row.Cells) || row.Cells[named] == "") && at[Golfer] != "" {
		r.filled++
	}
	rec := Record{Line: row.Line, Golfer: at[Golfer], Date: r.m.Date}
	if r.m.Golfer != "" {
		rec.Golfer = ""
	} else if rec.Golfer == "" {
		return bad("golfer", "the golfer is missing")
	}
	if r.m.Golfers[rec.Golfer] == LeaveOut && rec.Golfer != "" {
		r.left[rec.Golfer]++
		return nil
	}
	var err error
	if s, ok := at[Date]; ok && (s != "" || !r.dated()) {
		if rec.Date, err = r.date(s); err != nil {
			return bad("date", "%v", err)
		}
	}
	if s := at[BirthDate]; s != "" {
		if rec.BirthDate, err = r.birth(s); err != nil {
			return bad("birthDate", "%v", err)
		}
	}
	if rec.Sex, err = oneOf(at["sex"], sexes); err != nil {
		return bad("sex", "%v", err)
	}
	if rec.Plays, err = oneOf(at[PlayingSide], plays); err != nil {
		return bad("playingSide", "%v", err)
	}
	cell := measure.Cell{Status: at["status"], Variant: at["variant"], Region: at["region"], Note: at["note"], Tester: at["tester"], Device: at["device"], DecimalComma: r.m.Decimal == ",", Confirmed: r.m.KeepUnlikely}
	if s := at["pain"]; s != "" {
		if cell.Pain, err = strconv.Atoi(s); err != nil {
			return bad("pain", "pain is a number from 0 to 10, not %q", s)
		}
	}
	if e := r.dayValues(row, rec, yield); e != nil {
		return e
	}
	v := value{cell: cell, record: rec}
	if text, long := at["test"]; long {
		if !r.testOf(text, &v) {
			return r.notOurs(row, text)
		}
		if v.test == nil {
			return nil // left out, as was said
		}
		if e := r.sideOf(at["side"], &v); e != "" {
			return bad("side", "%s", e)
		}
		if s := at["unit"]; s != "" {
			v.cell.Unit = s
		}
		if s := at["trial"]; s != "" {
			l, ok := r.labels.reader.Read(s)
			if v.trial, err = strconv.Atoi(s); err != nil && (!ok || l.Trial == 0) {
				return bad("trial", "%q is not a trial number", s)
			} else if err != nil {
				v.trial = l.Trial
			}
		}
	}
	return r.values(row, at, v, yield)
}

// dated reports whether every column of results has a day of its own.
func (r *Reader) dated() bool {
	return !r.m.Date.IsZero() || !slices.ContainsFunc(r.m.Columns, func(c MappingColumn) bool { return c.Field == Measure && c.Date.IsZero() })
}

var (
	sexes = map[string]string{"": "", "m": athlete.Male, "male": athlete.Male, "man": athlete.Male, "boy": athlete.Male, "f": athlete.Female, "female": athlete.Female, "w": athlete.Female, "woman": athlete.Female, "girl": athlete.Female}
	plays = map[string]string{
		"": "", "r": athlete.RightSided, "right": athlete.RightSided, "rh": athlete.RightSided, "right handed": athlete.RightSided, "right-handed": athlete.RightSided, "righty": athlete.RightSided,
		"l": athlete.LeftSided, "left": athlete.LeftSided, "lh": athlete.LeftSided, "left handed": athlete.LeftSided, "left-handed": athlete.LeftSided, "lefty": athlete.LeftSided,
	}
)

func oneOf(s string, known map[string]string) (string, error) {
	if v, ok := known[strings.ToLower(s)]; ok {
		return v, nil
	}
	return "", fmt.Errorf("%q is not understood", s)
}

// headerAgain reports a row that repeats the header, as at the top of a page.
func (r *Reader) headerAgain(cells []string) bool {
	same := 0
	for i, c := range cells {
		if c == "" {
			continue
		}
		if i >= len(r.t.Header) || !strings.EqualFold(c, r.t.Header[i]) && !strings.HasSuffix(strings.ToLower(r.t.Header[i]), strings.ToLower(joint+c)) {
			return false
		}
		same++
	}
	return same > 1
}

// sumsUp reports a row that sums up the others: it is called so where a name would
// stand.
func (m *Mapping) sumsUp(cells []string) bool {
	i := slices.IndexFunc(cells, func(c string) bool { return c != "" })
	if i < 0 || i < len(m.Columns) && !slices.Contains([]string{Golfer, LastName, FirstName, "test", ""}, m.Columns[i].Field) {
		return false
	}
	says := false
	for _, w := range strings.FieldsFunc(strings.ToLower(cells[i]), func(c rune) bool { return strings.ContainsRune(" .:-", c) }) {
		switch {
		case slices.Contains(summaryWords, w):
			says = true
		case !slices.Contains(groupWords, w):
			return false
		}
	}
	return says
}

var (
	summaryWords = []string{"average", "averages", "mean", "means", "avg", "ave", "median", "sd", "stdev", "total", "totals", "sum", "cv", "min", "minimum", "maximum", "count", "n"}
	groupWords   = []string{"team", "squad", "group", "all", "boys", "girls", "men", "women", "overall", "of", "the", "class"}
)

// results reports whether a row holds anything that is brought in.
func (m *Mapping) results(cells []string) bool {
	for i, c := range m.Columns {
		if i < len(cells) && cells[i] != "" && (c.Field == Measure || c.Field == "value" || c.Field == "status" || dayKinds[c.Field].kind != "") {
			return true
		}
	}
	return false
}

// maxRemarks is how many remarks are said word for word.
const maxRemarks = 5

// without takes a row that holds nothing to bring in: a remark, a golfer who was not
// there, a name the rows under it are of.
func (r *Reader) without(cells []string) {
	r.fields(cells) // the name, for the rows under it
	i := slices.IndexFunc(cells, func(c string) bool { return c != "" })
	first, _ := utf8.DecodeRuneInString(cells[i])
	named := i < len(r.m.Columns) && slices.Contains(down, r.m.Columns[i].Field) && unicode.IsLetter(first) && len(strings.Fields(cells[i])) <= 4
	switch {
	case named && r.m.FillDown:
	case named || !table.Empty(cells[i+1:]):
		r.empty++
	default:
		r.remarks = append(r.remarks, cells[i])
	}
}

// LeftOut says what was not brought in: columns with anything in them, rows that
// sum up or repeat, remarks, and how many cells say that nothing was measured.
func (r *Reader) LeftOut() []string {
	out := []string{}
	for i := range r.t.Header {
		c := r.m.Columns[i]
		if c.Field != "" && c.Field != Summary || !slices.ContainsFunc(r.t.Rows, func(r table.Row) bool { return i < len(r.Cells) && r.Cells[i] != "" }) {
			continue
		}
		name := headed(r.t, i)
		if c.Field == Summary {
			name += " (worked out from others)"
		}
		out = append(out, name)
	}
	count := func(n int, one, many string) {
		switch {
		case n == 1:
			out = append(out, "1 "+one)
		case n > 1:
			out = append(out, fmt.Sprintf("%d %s", n, many))
		}
	}
	count(r.notMeasured, "cell in which nothing was measured", "cells in which nothing was measured")
	count(r.summaries, "row with averages", "rows with averages")
	count(r.empty, "row without results", "rows without results")
	count(r.headers, "row that repeats the header", "rows that repeat the header")
	for _, text := range slices.Sorted(maps.Keys(r.left)) {
		count(r.left[text], fmt.Sprintf("row of %q", text), fmt.Sprintf("rows of %q", text))
	}
	for _, text := range r.remarks[:min(len(r.remarks), maxRemarks)] {
		out = append(out, fmt.Sprintf("“%s”", text))
	}
	count(len(r.remarks)-maxRemarks, "more remark", "more remarks")
	return out
}

// Notes says what was taken for granted.
func (r *Reader) Notes() []string {
	switch r.filled {
	case 0:
		return []string{}
	case 1:
		return []string{"1 row without a name is taken to be of the golfer above."}
	}
	return []string{fmt.Sprintf("%d rows without a name are taken to be of the golfer above.", r.filled)}
}
