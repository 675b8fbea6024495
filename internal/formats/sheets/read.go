package sheets

import (
	"errors"
	"fmt"
	"iter"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
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
				if text = r.above[c.Field]; text != "" && c.Field == Golfer {
					r.filled++
				}
			} else {
				r.above[c.Field] = text
				if c.Field == Golfer || c.Field == LastName {
					delete(r.above, Date)
					delete(r.above, "test")
				}
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

// value is a result on its way from a cell to a record.
type value struct {
	record Record
	cell   measure.Cell
	test   *measure.Test
	side   string // of the test, or left and right, or two of them
	trial  int
}

// testOf finds the test a row names; its label may say side, trial and unit too.
// Of a test that is left out the value's test stays empty; false: it is not ours.
func (r *Reader) testOf(text string, v *value) bool {
	if id, said := r.m.Tests[text]; said {
		if id == LeaveOut {
			r.left[text]++
			return true
		}
		t, ok := r.b.Find(id)
		v.test = t
		if l, read := r.labels.reader.Read(text); ok && read {
			v.label(l)
		}
		return ok
	}
	if t, ok := r.b.Find(strings.TrimSpace(text)); ok {
		v.test = t
		return true
	}
	x := r.labels.read(text)
	if x.kind != test || x.label.Near {
		return false
	}
	v.test = x.label.Test
	v.label(x.label)
	return true
}

func (v *value) label(l label.Label) {
	if s := sideWords(l); s != "" && v.test.Kind != measure.Unsided {
		v.side = strings.TrimSuffix(s, "/")
	}
	v.trial = l.Trial
	v.cell.Unit = string(l.Unit)
}

// notOurs notes a test that is not known.
func (r *Reader) notOurs(row *table.Row, text string) *table.RowError {
	u := r.unknown[text]
	if u == nil {
		u = &Unknown{Written: text}
		if x := r.labels.read(text); x.kind == test {
			u.Near = x.label.Test.ID
		}
		r.unknown[text] = u
		r.order = append(r.order, text)
	}
	u.Rows++
	if text == "" {
		return &table.RowError{Row: row.Line, Column: "test", Text: "the test is missing"}
	}
	return &table.RowError{Row: row.Line, Column: "test", Text: fmt.Sprintf("no test is called %q: say which is meant", text)}
}

// Unknown are the names of tests that are not ours, in the order of the rows.
func (r *Reader) Unknown() []Unknown {
	var out []Unknown
	for _, text := range r.order {
		if text != "" {
			out = append(out, *r.unknown[text])
		}
	}
	return out
}

// sideOf reads the side a row names.
func (r *Reader) sideOf(text string, v *value) string {
	text = strings.TrimSpace(text)
	if text == "" || label.NotMeasured(text) {
		return ""
	}
	if v.test.Kind == measure.Unsided {
		if slices.Contains([]string{"both", "bilateral", "b", "two", "double"}, strings.ToLower(text)) {
			return ""
		}
		return sideProblem(v.test, text)
	}
	if v.test.HasSide(measure.Side(strings.ToLower(text))) {
		v.side = strings.ToLower(text)
		return ""
	}
	if l, ok := r.labels.reader.Read(text); ok && l.Test == nil && (l.Hand != "" || l.Side != "") {
		v.side = strings.TrimSuffix(sideWords(l), "/")
		return ""
	}
	return sideProblem(v.test, text)
}

// values gives the results of a row.
func (r *Reader) values(row *table.Row, at map[string]string, v value, yield func(Record)) *table.RowError {
	if text, ok := at["value"]; ok {
		if text == "" && v.cell.Status == "" {
			r.notMeasured++
			return nil
		}
		return r.put(row, "value", text, v, yield)
	}
	for i, c := range r.m.Columns {
		if c.Field != Measure || i >= len(row.Cells) || row.Cells[i] == "" {
			continue // an empty cell of a wide table was not measured
		}
		x := v
		if c.Test != "" {
			x.test, _ = r.b.Find(c.Test)
			x.trial = c.Trial
		} else if c.Trial > 0 {
			x.trial = c.Trial
		}
		if x.test == nil {
			continue
		}
		if c.Side != "" {
			x.side = c.Side
			if x.test.Kind == measure.Unsided && r.m.sidesFilled(row.Cells) > 1 {
				return &table.RowError{Row: row.Line, Column: headed(r.t, i), Text: sideProblem(x.test, c.Side)}
			}
		}
		if c.Unit != "" {
			x.cell.Unit = c.Unit
		}
		if !c.Date.IsZero() {
			x.record.Date = c.Date
		}
		if e := r.put(row, headed(r.t, i), table.Unquote(row.Cells[i]), x, yield); e != nil {
			return e
		}
	}
	return nil
}

// sidesFilled is on how many sides a row has results.
func (m *Mapping) sidesFilled(cells []string) int {
	sides := map[string]bool{}
	for i, c := range m.Columns {
		if c.Field == Measure && c.Side != "" && i < len(cells) && cells[i] != "" && !label.NotMeasured(cells[i]) {
			sides[c.Side] = true
		}
	}
	return len(sides)
}

// split are the marks between several numbers in one cell.
var split = regexp.MustCompile(`\s*[/|;]\s*|,\s+`)

// put gives what one cell holds: a trial, a trial of each side, or several trials.
func (r *Reader) put(row *table.Row, column, text string, v value, yield func(Record)) *table.RowError {
	text = strings.TrimSpace(table.PlainNumber(text))
	if text != "" && label.NotMeasured(text) {
		r.notMeasured++
		return nil
	}
	switch s := strings.ToLower(text); s {
	case string(measure.Stopped), string(measure.Skipped):
		v.cell.Status, text = s, ""
	}
	if v.test.Kind == measure.Unsided {
		v.side = ""
	}
	if v.side == "" && v.test.Kind != measure.Unsided && pair.MatchString(text) {
		return &table.RowError{Row: row.Line, Column: column, Text: fmt.Sprintf("%q holds two values: say that the column is left/right or right/left", text)}
	}
	sides := strings.Split(v.side, "/")
	texts := []string{text}
	if bits := split.Split(text, -1); len(bits) > 1 && !slices.ContainsFunc(bits, func(s string) bool { return s == "" }) {
		texts = bits
	}
	if len(sides) == 2 {
		if len(texts) != 2 {
			return &table.RowError{Row: row.Line, Column: column, Text: fmt.Sprintf("%q is not two values: %s are written like 52/48", text, strings.Join(sides, " and "))}
		}
		for i, s := range sides {
			v.give(r, row.Line, column, s, texts[i], max(v.trial, 1), yield)
		}
		return nil
	}
	for i, text := range texts {
		trial := v.trial + i
		if v.trial == 0 {
			key := strings.Join([]string{strings.ToLower(v.record.Golfer), v.record.Date.String(), v.test.ID, v.side}, "|")
			r.trials[key]++
			trial = r.trials[key]
		}
		v.give(r, row.Line, column, v.side, text, trial, yield)
	}
	return nil
}

// give yields one trial.
func (v value) give(r *Reader, line int, column, side, text string, trial int, yield func(Record)) {
	if text != "" && label.NotMeasured(text) {
		r.notMeasured++
		return
	}
	rec := v.record
	rec.Line, rec.Column, rec.Cell = line, column, v.cell
	rec.Cell.Test, rec.Cell.Side, rec.Cell.Trial, rec.Cell.Text = v.test.ID, side, trial, text
	if hand, _, ok := bySide(side); ok {
		rec.Hand, rec.Cell.Side = hand, ""
	}
	yield(rec)
}

// dayValues gives the numbers of the day a row holds.
func (r *Reader) dayValues(row *table.Row, rec Record, yield func(Record)) *table.RowError {
	for i, c := range r.m.Columns {
		k, ok := dayKinds[c.Field]
		if !ok || i >= len(row.Cells) || row.Cells[i] == "" {
			continue
		}
		if label.NotMeasured(row.Cells[i]) {
			r.notMeasured++
			continue
		}
		v, err := r.dayNumber(row.Cells[i], c)
		switch {
		case err != nil:
			return &table.RowError{Row: row.Line, Column: headed(r.t, i), Text: fmt.Sprintf("%q is no number", row.Cells[i])}
		case v < k.least || v > k.most:
			return &table.RowError{Row: row.Line, Column: headed(r.t, i), Text: fmt.Sprintf("%s is %g to %g, not %s", k.name, k.least, k.most, row.Cells[i])}
		}
		day := rec
		day.Column, day.Day = headed(r.t, i), &DayValue{k.kind, v}
		yield(day)
	}
	return nil
}

// dayNumber reads a number of a day; a body mass in pounds where the column says so, and a
// time slept as hours and minutes, 7:30.
func (r *Reader) dayNumber(s string, c MappingColumn) (float64, error) {
	if h, min, ok := strings.Cut(s, ":"); ok && c.Field == DaySleep {
		hours, err1 := strconv.Atoi(h)
		minutes, err2 := strconv.Atoi(min)
		return float64(hours) + float64(minutes)/60, errors.Join(err1, err2)
	}
	if r.m.Decimal == "," {
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
	out := []string{}
	if r.filled > 0 {
		out = append(out, fmt.Sprintf("%d rows without a name are taken to be of the golfer above.", r.filled))
	}
	return out
}
