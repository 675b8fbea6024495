package sheets

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/unit"
	"dunnock/internal/formats/table"
)

// This file reads the results a row holds: which test each is of, on which side, and
// how many stand in one cell.

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
