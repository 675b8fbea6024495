package formats

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/training"
	"dunnock/internal/formats/table"
)

// LogFormat names the layout of a file of logs on disk.
const LogFormat = "dunnock-logs/1"

// LogFile is one golfer's logs as JSON: every entry, so that nothing is lost on the way.
type LogFile struct {
	Format   string       `json:"format"`
	Golfer   string       `json:"golfer"`
	Sessions []LogSession `json:"sessions"`
}

// LogSession is one session of it. Rows are what a table says of it; a file has entries.
type LogSession struct {
	Session string           `json:"session"`
	Kind    string           `json:"kind"`
	Title   string           `json:"title"`
	Date    civil.Date       `json:"date"`
	Entries []training.Entry `json:"entries,omitempty"`
	Log     *training.Log    `json:"-"` // of what is written
	// Names are what each item was done as, by its id: of what is written.
	Names map[string]LogItem `json:"-"`
	Rows  []LogRow           `json:"-"` // of what was read from a table
}

// LogItem is what an item of a session was done as.
type LogItem struct{ Exercise, Name string }

// LogRow is one row of a table of logs: a set, or a session without one.
type LogRow struct {
	Line int
	Item string
	LogItem
	Set     int
	Done    *training.SetDone // nil: the row is of the session alone
	How     training.How
	State   training.State
	LeftOut string
}

// MarshalJSON leaves out what is of tables.
func (s LogSession) MarshalJSON() ([]byte, error) {
	return json.Marshal(struct {
		Session string           `json:"session"`
		Kind    string           `json:"kind"`
		Title   string           `json:"title"`
		Date    civil.Date       `json:"date"`
		Entries []training.Entry `json:"entries"`
	}{s.Session, s.Kind, s.Title, s.Date, s.Entries})
}

// LogColumns are the columns of a table of logs, one row a set.
var LogColumns = []string{
	"date", "session", "title", "item", "exercise", "name", "set", "state", "load_kg", "reps", "seconds", "left", "speeds_mps", "void",
	"grip_kg", "jump_cm", "pain", "region", "note", "effort", "minutes", "session_state", "session_note",
}

// logNumbers are the columns that are numbers in a workbook.
var logNumbers = []int{6, 8, 9, 10, 11, 13, 14, 15, 16, 19, 20}

func number[T int | float64](v *T) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(float64(*v), 'f', -1, 64)
}

// logRows gives the rows of logs to yield.
func logRows(list []LogSession, yield func(cells []string) error) error {
	for _, s := range list {
		how := []string{number(s.Log.How.Effort), number(s.Log.How.Minutes), string(s.Log.State), s.Log.How.Note}
		head := []string{s.Date.String(), s.Session, s.Title}
		none := make([]string, 16)
		if len(s.Log.Items) == 0 {
			if err := yield(slices.Concat(head, none, how)); err != nil {
				return err
			}
		}
		for _, it := range s.Log.Items {
			as := s.Names[string(it.Item)]
			of := []string{string(it.Item), as.Exercise, as.Name}
			if it.LeftOut {
				cells := slices.Concat(of, []string{"", "left-out"}, make([]string, 10), []string{it.Why})
				if err := yield(slices.Concat(head, cells, how)); err != nil {
					return err
				}
			}
			for _, x := range it.Sets {
				if err := yield(slices.Concat(head, of, setCells(&x), how)); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

func setCells(x *training.Numbered) []string {
	var speeds []string
	void := 0
	for _, w := range x.Swings {
		if w.Void {
			void++
			continue
		}
		side := ""
		if w.Other {
			side = "o"
		}
		speeds = append(speeds, strconv.FormatFloat(w.Mps, 'f', -1, 64)+side)
	}
	pain, region, voids := "", "", ""
	if x.Pain != nil {
		pain, region = strconv.Itoa(x.Pain.Level), x.Pain.Region
	}
	if void > 0 {
		voids = strconv.Itoa(void)
	}
	return []string{
		strconv.Itoa(x.Number), string(x.State), number(x.LoadKg), number(x.Reps), number(x.Seconds), number(x.Reserve),
		strings.Join(speeds, " "), voids, number(x.GripKg), number(x.JumpCm), pain, region, x.Note,
	}
}

// WriteLogsCSV writes logs as UTF-8 CSV with decimal points, one row a set; a text a
// spreadsheet would run gets an apostrophe in front.
func WriteLogsCSV(w io.Writer, list []LogSession) error {
	cw := csv.NewWriter(w)
	if err := cw.Write(LogColumns); err != nil {
		return err
	}
	err := logRows(list, func(cells []string) error {
		for i := range cells {
			cells[i] = table.Quote(cells[i])
		}
		return cw.Write(cells)
	})
	if err != nil {
		return err
	}
	cw.Flush()
	return cw.Error()
}

// WriteLogsXLSX writes the same as a workbook; its cells are values, never formulas.
func WriteLogsXLSX(w io.Writer, list []LogSession) error {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }()
	if err := f.SetSheetName("Sheet1", "logs"); err != nil {
		return err
	}
	sw, err := f.NewStreamWriter("logs")
	if err != nil {
		return err
	}
	row := 1
	if err := writeRow(sw, row, LogColumns); err != nil {
		return err
	}
	if err := logRows(list, func(cells []string) error {
		row++
		return writeRow(sw, row, cells, logNumbers...)
	}); err != nil {
		return err
	}
	if err := sw.Flush(); err != nil {
		return err
	}
	return f.Write(w)
}

// ReadLogs reads a file of logs: JSON, or a table as it is written (CSV or XLSX). The error is
// a *table.Error where the file is none; rows that cannot be read are named, the others come.
func ReadLogs(ctx context.Context, b []byte) ([]LogSession, []table.RowError, error) {
	if t := bytes.TrimSpace(b); len(t) > 0 && t[0] == '{' {
		return readLogsJSON(b)
	}
	t, err := table.Read(ctx, b)
	if err != nil {
		return nil, nil, err
	}
	at := map[string]int{}
	for i, h := range t.Header {
		name := strings.ToLower(strings.TrimSpace(h))
		if !slices.Contains(LogColumns, name) {
			return nil, nil, table.None("there is no column %q in a file of logs: its columns are %s", h, strings.Join(LogColumns, ", "))
		}
		at[name] = i
	}
	if _, ok := at["date"]; !ok {
		return nil, nil, table.None("a file of logs needs the column date")
	}
	r := logReader{at: at, byKey: map[string]int{}}
	for i := range t.Rows {
		r.row(&t.Rows[i])
	}
	return r.out, r.errors, nil
}

func readLogsJSON(b []byte) ([]LogSession, []table.RowError, error) {
	var f struct {
		Format   string `json:"format"`
		Golfer   string `json:"golfer"`
		Sessions []struct {
			Session string           `json:"session"`
			Kind    string           `json:"kind"`
			Title   string           `json:"title"`
			Date    civil.Date       `json:"date"`
			Entries []training.Entry `json:"entries"`
		} `json:"sessions"`
	}
	if len(b) > table.MaxBytes {
		return nil, nil, table.None("the file is larger than %d MB: split it", table.MaxBytes>>20)
	}
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&f); err != nil {
		return nil, nil, table.None("%v", where(b, dec.InputOffset(), err))
	}
	if f.Format != LogFormat {
		return nil, nil, table.None("it says format %q: a file of logs says %s", f.Format, LogFormat)
	}
	out := make([]LogSession, len(f.Sessions))
	for i, s := range f.Sessions {
		out[i] = LogSession{Session: s.Session, Kind: s.Kind, Title: s.Title, Date: s.Date, Entries: s.Entries}
	}
	return out, nil, nil
}

// logReader reads rows of a table into sessions.
type logReader struct {
	at     map[string]int
	byKey  map[string]int
	out    []LogSession
	errors []table.RowError
}

// mostLogErrors bounds how many rows are named.
const mostLogErrors = 200

func (r *logReader) row(row *table.Row) {
	var failed error
	cell := func(name string) string {
		if i, ok := r.at[name]; ok && i < len(row.Cells) {
			return strings.TrimPrefix(row.Cells[i], "'")
		}
		return ""
	}
	fail := func(column, format string, args ...any) {
		if failed == nil {
			failed = fmt.Errorf(format, args...)
			if len(r.errors) < mostLogErrors {
				r.errors = append(r.errors, table.RowError{Row: row.Line, Column: column, Text: failed.Error()})
			}
		}
	}
	float := func(name string) *float64 {
		s := strings.Replace(cell(name), ",", ".", 1)
		if s == "" {
			return nil
		}
		v, err := strconv.ParseFloat(s, 64)
		if err != nil {
			fail(name, "%q is no number", cell(name))
			return nil
		}
		return &v
	}
	whole := func(name string) *int {
		v := float(name)
		if v == nil {
			return nil
		}
		if *v != float64(int(*v)) {
			fail(name, "%q is no whole number", cell(name))
			return nil
		}
		n := int(*v)
		return &n
	}
	day, err := civil.Parse(cell("date"))
	if err != nil {
		fail("date", "%q is no date: write it as 2026-11-24", cell("date"))
	}
	x := LogRow{Line: row.Line, Item: cell("item"), LogItem: LogItem{cell("exercise"), cell("name")}, How: training.How{Effort: whole("effort"), Minutes: whole("minutes"), Note: cell("session_note")}, State: training.State(cell("session_state"))}
	if n := whole("set"); n != nil {
		x.Set = *n
	}
	switch state := cell("state"); {
	case state == "left-out":
		x.LeftOut = cell("note")
		if x.LeftOut == "" {
			x.LeftOut = "left out"
		}
	case x.Set != 0:
		done := training.SetDone{State: training.SetState(state), LoadKg: float("load_kg"), Reps: whole("reps"), Seconds: whole("seconds"), Reserve: whole("left"), GripKg: float("grip_kg"), JumpCm: float("jump_cm"), Note: cell("note"), Sure: true}
		if done.State == "" {
			done.State = training.SetDoneState
		}
		for _, w := range strings.Fields(cell("speeds_mps")) {
			v, err := strconv.ParseFloat(strings.TrimSuffix(w, "o"), 64)
			if err != nil {
				fail("speeds_mps", "%q is no speed", w)
				break
			}
			done.Swings = append(done.Swings, training.Swing{Mps: v, Other: strings.HasSuffix(w, "o")})
		}
		if p := whole("pain"); p != nil {
			done.Pain = &training.Hurt{Region: cell("region"), Level: *p}
		}
		x.Done = &done
	}
	if failed != nil {
		return
	}
	key := day.String() + "|" + cell("session") + "|" + cell("title")
	i, there := r.byKey[key]
	if !there {
		i = len(r.out)
		r.byKey[key] = i
		r.out = append(r.out, LogSession{Session: cell("session"), Title: cell("title"), Date: day})
	}
	r.out[i].Rows = append(r.out[i].Rows, x)
}

// LogsRead is what a file of logs holds, and what became of it.
type LogsRead struct {
	Sessions []string         `json:"sessions"` // that came, by id
	Sets     int              `json:"sets"`
	Errors   []table.RowError `json:"errors"`
	Notes    []string         `json:"notes"`
	Saved    bool             `json:"saved"`
}
