package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"runtime/debug"
	"slices"
	"strings"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
	text "dunnock/internal/core/words"
	"dunnock/internal/formats"
	"dunnock/internal/store"
)

// ImportView is a file being brought in, with what a coach needs to say how it
// is read.
type ImportView struct {
	store.Import
	Kind     string
	Sheet    string
	Header   []string
	Sample   [][]string // the first rows
	Rows     int
	Proposed formats.Mapping
	Known    string // name of the source when files like this were read before
	Report   *ImportReport
}

// ImportReport is the verdict on a file.
type ImportReport struct {
	Rows       int                `json:"rows"`
	GoodRows   int                `json:"goodRows"`
	Trials     int                `json:"trials"`
	Golfers    int                `json:"golfers"`
	Screens    int                `json:"screens"`
	NewGolfers []string           `json:"newGolfers"`
	Errors     []formats.RowError `json:"errors"` // the first maxErrors
	ErrorRows  int                `json:"errorRows"`
	Unlikely   int                `json:"unlikely"`
	LeftOut    []string           `json:"leftOut"` // columns with values that are not brought in
	// Verdicts is the first rows one by one: "" for a good one.
	Verdicts []RowVerdict `json:"verdicts"`
}

// RowVerdict is one row of the file and what is said of it.
type RowVerdict struct {
	Row  int    `json:"row"`
	Text string `json:"text"`
}

const (
	sampleRows  = 8
	maxErrors   = 500
	maxVerdicts = 200
)

// importHead is what is shown of an upload before it is read.
type importHead struct {
	Table *formats.Table `json:"table"` // the first rows
	Rows  int            `json:"rows"`
	Print string         `json:"print"` // names the layout
}

// headRows is how many rows a head holds: enough to guess how a file is written.
const headRows = 50

// reading lets one table be read at a time: what a file may unfold to is then
// held once, however many are uploaded.
var reading = make(chan struct{}, 1)

func turn(ctx context.Context, c chan struct{}) (done func(), err error) {
	select {
	case c <- struct{}{}:
		return func() { <-c }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// readTable reads an upload into what is kept of it.
func readTable(ctx context.Context, b []byte) (head string, parsed []byte, err error) {
	done, err := turn(ctx, reading)
	if err != nil {
		return "", nil, err
	}
	defer done()
	t, err := formats.ReadTable(ctx, b)
	if err != nil {
		return "", nil, tableWords(err)
	}
	h, err := json.Marshal(importHead{t.Head(headRows), len(t.Rows), t.Fingerprint()})
	if err != nil {
		return "", nil, err
	}
	parsed, err = json.Marshal(t)
	return string(h), parsed, err
}

// Upload reads a file, keeps its rows and proposes what they mean.
func (a *App) Upload(ctx context.Context, u *store.User, name string, r io.Reader) (*ImportView, error) {
	b, err := io.ReadAll(io.LimitReader(r, formats.MaxTable+1))
	if err != nil {
		return nil, err
	}
	name = strings.TrimSpace(name)
	if !text.Visible(name) {
		name = "file"
	}
	if problem := text.Line(name, 10_000); problem != "" {
		return nil, invalid("name", "The file's name %s.", problem)
	}
	head, parsed, err := readTable(ctx, b)
	if err != nil {
		return nil, err
	}
	id, err := a.store.For(u.PracticeID).CreateImport(ctx, clip(name, 200), u.Name, head, parsed)
	if err != nil {
		return nil, words(err, "file")
	}
	return a.Import(ctx, u, id)
}

// clip cuts a text to at most n letters.
func clip(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n])
	}
	return s
}

func tableWords(err error) error {
	var t *formats.TableError
	if errors.As(err, &t) {
		return invalid("file", "%s", t.Text)
	}
	return err
}

// Imports lists the practice's imports, newest first.
func (a *App) Imports(ctx context.Context, u *store.User) ([]store.Import, error) {
	return a.store.For(u.PracticeID).Imports(ctx)
}

// Import returns one import as it is now.
func (a *App) Import(ctx context.Context, u *store.User, id string) (*ImportView, error) {
	p := a.store.For(u.PracticeID)
	got, err := p.Import(ctx, id)
	if err != nil {
		return nil, words(err, "import")
	}
	v := &ImportView{Import: *got}
	if got.Report != "" {
		v.Report = &ImportReport{}
		if err := json.Unmarshal([]byte(got.Report), v.Report); err != nil {
			return nil, err
		}
	}
	switch got.State {
	case store.Checking, store.Saving:
		return v, p.AskedFor(ctx, id)
	case store.Saved, store.Undone:
		return v, nil
	}
	head := got.Head
	if head == "" {
		if head, err = a.readOld(ctx, p, id); err != nil || head == "" {
			return v, err
		}
	}
	var h importHead
	if err := json.Unmarshal([]byte(head), &h); err != nil {
		return nil, err
	}
	v.Kind, v.Sheet, v.Header, v.Rows = h.Table.Kind, h.Table.Sheet, h.Table.Header, h.Rows
	for _, r := range h.Table.Rows[:min(sampleRows, len(h.Table.Rows))] {
		v.Sample = append(v.Sample, r.Cells)
	}
	name, known, err := p.Source(ctx, h.Print)
	switch {
	case err == nil:
		v.Known = name
		err = json.Unmarshal([]byte(known), &v.Proposed)
	case errors.Is(err, store.ErrNotFound):
		b, berr := a.battery(ctx, u)
		if berr != nil {
			return nil, berr
		}
		v.Proposed, err = formats.Guess(h.Table, b.tests), nil
	}
	if err != nil {
		return nil, err
	}
	if got.Mapping != "" {
		err = json.Unmarshal([]byte(got.Mapping), &v.Proposed)
	}
	return v, err
}

// readOld reads the file of an upload an earlier version kept as it came. "" when
// there is none.
func (a *App) readOld(ctx context.Context, p *store.Practice, id string) (head string, err error) {
	_, file, err := p.ImportRows(ctx, id)
	if err != nil || file == nil {
		return "", words(err, "import")
	}
	head, parsed, err := readTable(ctx, file)
	if err != nil {
		return "", err
	}
	return head, words(p.KeepRows(ctx, id, head, parsed), "import")
}

// rows loads the table of an import as it was read on arrival.
func (a *App) rows(ctx context.Context, p *store.Practice, id string) (*formats.Table, error) {
	parsed, _, err := p.ImportRows(ctx, id)
	if err != nil {
		return nil, words(err, "import")
	}
	if parsed == nil {
		return nil, &Error{Kind: Refused, Text: "The contents of this file were dropped: bring it in again."}
	}
	t := &formats.Table{}
	return t, json.Unmarshal(parsed, t)
}

// CheckImport reads the file by a mapping without saving anything; the answer is
// at once, the work goes on behind it.
func (a *App) CheckImport(ctx context.Context, u *store.User, id string, m formats.Mapping) (*ImportView, error) {
	p := a.store.For(u.PracticeID)
	v, err := a.Import(ctx, u, id)
	if err != nil {
		return nil, err
	}
	if v.Header == nil {
		return nil, &Error{Kind: Refused, Text: "This file cannot be checked now: it is being worked on, is saved, or its contents were dropped."}
	}
	b, err := a.battery(ctx, u)
	if err != nil {
		return nil, err
	}
	if bad := m.Check(&formats.Table{Header: v.Header}, b.tests); len(bad) > 0 {
		e := &Error{Kind: Invalid, Text: bad[0].Text}
		for _, x := range bad {
			e.Fields = append(e.Fields, Field{Name: x.Column, Text: x.Text})
		}
		return nil, e
	}
	mapping, err := json.Marshal(m)
	if err != nil {
		return nil, err
	}
	run := uuid.NewString()
	idle := []string{store.Uploaded, store.Checked, store.Cancelled, store.Failed}
	if err := p.BeginImport(ctx, id, run, idle, store.Checking, string(mapping), v.Rows); err != nil {
		return nil, words(err, "import")
	}
	if strings.TrimSpace(m.Source) != "" {
		remembered := m
		remembered.Golfer, remembered.Date, remembered.KeepUnlikely = "", civil.Date{}, false
		rt, err := json.Marshal(remembered)
		if err != nil {
			return nil, err
		}
		print := (&formats.Table{Header: v.Header}).Fingerprint()
		if err := p.RememberSource(ctx, print, m.Source, string(rt)); err != nil {
			return nil, words(err, "source")
		}
	}
	a.behind(u, id, run, v.Rows, func(ctx context.Context, progress func(int)) error {
		t, err := a.rows(ctx, p, id)
		if err != nil {
			return err
		}
		var r *importRead
		err = p.Snapshot(ctx, func(p *store.Practice) error {
			r, err = a.readImport(ctx, u, p, t, m, b, progress)
			return err
		})
		if err != nil {
			return err
		}
		return p.EndImport(ctx, id, run, store.Checked, r.json(), "")
	})
	return a.Import(ctx, u, id)
}

// CommitImport saves everything a checked file holds, or nothing. With
// keepUnlikely, unlikely values are kept as confirmed. Asking again while it is
// saved, or after, is no error.
func (a *App) CommitImport(ctx context.Context, u *store.User, id string, keepUnlikely bool) (*ImportView, error) {
	p := a.store.For(u.PracticeID)
	got, err := a.Import(ctx, u, id)
	if err != nil {
		return nil, err
	}
	switch got.State {
	case store.Saving, store.Saved:
		return got, nil
	case store.Checked:
	default:
		return nil, &Error{Kind: Refused, Text: "Check the file first: only a file that was looked at is saved."}
	}
	var m formats.Mapping
	if err := json.Unmarshal([]byte(got.Mapping), &m); err != nil {
		return nil, err
	}
	m.KeepUnlikely = keepUnlikely
	run := uuid.NewString()
	err = p.BeginImport(ctx, id, run, []string{store.Checked}, store.Saving, "", got.Rows)
	if errors.Is(err, store.ErrConflict) {
		return a.Import(ctx, u, id) // somebody else began: it is theirs to finish
	}
	if err != nil {
		return nil, words(err, "import")
	}
	a.behind(u, id, run, got.Rows, func(ctx context.Context, progress func(int)) error {
		t, err := a.rows(ctx, p, id)
		if err != nil {
			return err
		}
		r, err := a.saveImport(ctx, u, id, run, t, m, progress)
		if err == nil && r.ErrorRows > 0 {
			return p.EndImport(ctx, id, run, store.Checked, r.json(), "Nothing was saved: rows need a look.")
		}
		return err
	})
	return a.Import(ctx, u, id)
}

// saveImport matches, checks and saves a file in one unit of work, with its
// state: against what is there now, under locks. With rows that need a look
// nothing is saved.
func (a *App) saveImport(ctx context.Context, u *store.User, id, run string, t *formats.Table, m formats.Mapping, progress func(int)) (r *importRead, err error) {
	_, err = a.write(ctx, u, func(p *store.Practice, b battery) (*saved, error) {
		if err := p.HoldGolfers(ctx); err != nil {
			return nil, err
		}
		if r, err = a.readImport(ctx, u, p, t, m, b, progress); err != nil {
			return nil, err
		}
		if r.ErrorRows > 0 {
			return nil, errLooked
		}
		n, err := p.WriteImport(ctx, id, r.golfers, func(int) {})
		if err != nil {
			return nil, err
		}
		note := fmt.Sprintf("%s saved; %d were there already.", plural(n, "trial"), r.Trials-n)
		return nil, p.EndImport(ctx, id, run, store.Saved, r.json(), note)
	})
	if errors.Is(err, errLooked) {
		err = nil
	}
	return r, err
}

// CancelImport asks a running import to stop; nothing of it is kept.
func (a *App) CancelImport(ctx context.Context, u *store.User, id string) error {
	return words(a.store.For(u.PracticeID).CancelImport(ctx, id), "import")
}

// UndoImport takes back what an import saved and nobody changed since. Undoing
// again is no error.
func (a *App) UndoImport(ctx context.Context, u *store.User, id string) (*ImportView, error) {
	_, err := a.store.For(u.PracticeID).UndoImport(ctx, id, "%d trials taken back. What was changed by hand since stays.")
	if errors.Is(err, store.ErrConflict) {
		return nil, &Error{Kind: Refused, Text: "Only an import that was saved can be taken back."}
	}
	if err != nil {
		return nil, words(err, "import")
	}
	return a.Import(ctx, u, id)
}

const (
	runsAtOnce = 2                      // checks and saves; others wait their turn
	lifeSign   = 500 * time.Millisecond // between signs of life of a run
)

// behind runs a step of an import beside the request. Signs of life and progress
// are given by a second goroutine: the step itself, which may hold a connection,
// never waits for another one. Its context ends with the program, when the coach
// cancels, and when nobody waits for a check any more.
func (a *App) behind(u *store.User, id, run string, total int, step func(ctx context.Context, progress func(int)) error) {
	p := a.store.For(u.PracticeID)
	ctx, stop := context.WithCancel(a.base)
	var done atomic.Int64
	a.beside("import "+id, func() {
		defer stop()
		tick := time.NewTicker(lifeSign)
		defer tick.Stop()
		for {
			select {
			case <-ctx.Done():
				return
			case <-tick.C:
			}
			if over, err := p.ImportProgress(ctx, id, run, int(done.Load()), total); err == nil && over {
				return
			}
		}
	})
	a.beside("import "+id, func() {
		defer stop()
		err := func() (err error) {
			defer func() {
				if r := recover(); r != nil {
					err = fmt.Errorf("panic: %v\n%s", r, debug.Stack())
				}
			}()
			over, err := turn(ctx, a.runs)
			if err != nil {
				return err
			}
			defer over()
			return step(ctx, func(n int) { done.Store(int64(n)) })
		}()
		if err == nil {
			return
		}
		state, note := store.Failed, "It went wrong on our side; nothing was saved. Check the file again."
		var known *Error
		switch {
		case errors.As(err, &known):
			note = known.Text
		case errors.Is(err, store.ErrStopped), ctx.Err() != nil:
			state, note = store.Cancelled, "Stopped: nothing was saved. Check the file again to go on."
		default:
			slog.Error("import", "id", id, "error", err)
		}
		// The end is written even when the program is stopping; where it cannot be,
		// the import is given back once its run shows no life.
		end, cancel := context.WithTimeout(context.WithoutCancel(ctx), 5*time.Second)
		defer cancel()
		if err := p.EndImport(end, id, run, state, "", note); err != nil && !errors.Is(err, store.ErrStopped) {
			slog.Error("import", "id", id, "error", err)
		}
	})
}

type importRead struct {
	ImportReport
	golfers []store.GolferScreens
}

// importer reads a table row by row into golfers and screens.
type importer struct {
	a      *App
	u      *store.User
	tests  *measure.Battery
	m      formats.Mapping
	out    *importRead
	byName map[string][]*importGolfer
	byID   map[string]*importGolfer
	order  []*importGolfer
}

// importGolfer is one golfer with what the file and the practice hold.
type importGolfer struct {
	id      string
	file    *athlete.File
	fresh   bool
	status  athlete.ClearanceStatus
	have    map[string]measure.Trial // of the practice, by date and cell
	seen    map[string]int           // of the file, by date and cell: line
	screens map[civil.Date]*athlete.Screen
}

// json is the report as it is kept.
func (r *importRead) json() string {
	b, err := json.Marshal(&r.ImportReport)
	if err != nil {
		return ""
	}
	return string(b)
}

// readImport reads rows against what the practice holds, through the unit of
// work or the snapshot it is given. In a unit of work the golfers the file names
// are taken first, so that nobody writes theirs meanwhile.
func (a *App) readImport(ctx context.Context, u *store.User, p *store.Practice, table *formats.Table, m formats.Mapping, b battery, progress func(int)) (*importRead, error) {
	x := &importer{a: a, u: u, tests: b.tests, m: m, out: &importRead{ImportReport: ImportReport{Rows: len(table.Rows), LeftOut: m.LeftOut(table), NewGolfers: []string{}, Errors: []formats.RowError{}, Verdicts: []RowVerdict{}}}, byName: map[string][]*importGolfer{}, byID: map[string]*importGolfer{}}
	if err := x.load(ctx, p, table); err != nil {
		return nil, err
	}
	for i := range table.Rows {
		x.row(table, &table.Rows[i])
		if i%200 == 199 {
			progress(i + 1)
			if ctx.Err() != nil {
				return nil, ctx.Err()
			}
		}
	}
	for _, g := range x.order {
		if len(g.screens) == 0 {
			continue
		}
		x.out.Golfers++
		s := store.GolferScreens{ID: g.id}
		if g.fresh {
			s.New = g.file
			x.out.NewGolfers = append(x.out.NewGolfers, g.file.Athlete.Name)
		}
		for _, screen := range g.screens {
			x.out.Screens++
			s.Screens = append(s.Screens, *screen)
		}
		slices.SortFunc(s.Screens, func(a, b athlete.Screen) int { return a.Date.Sub(b.Date) })
		x.out.golfers = append(x.out.golfers, s)
	}
	return x.out, nil
}

// load loads the golfers the file names, with their screens.
func (x *importer) load(ctx context.Context, p *store.Practice, table *formats.Table) error {
	all, err := p.Names(ctx)
	if err != nil {
		return err
	}
	named := map[string]bool{}
	for i, c := range x.m.Columns {
		if c.Field != "golfer" {
			continue
		}
		for _, row := range table.Rows {
			if i < len(row.Cells) {
				named[nameKey(row.Cells[i])] = true
			}
		}
	}
	ids := []string{}
	for _, g := range all {
		if g.ID == x.m.Golfer || named[nameKey(g.Facts.Athlete.Name)] {
			ids = append(ids, g.ID)
		}
	}
	if p.Writing() {
		if err := p.LockGolfers(ctx, ids); err != nil {
			return err
		}
	}
	for some := range slices.Chunk(ids, restandBatch) {
		list, err := p.Files(ctx, some)
		if err != nil {
			return err
		}
		for i := range list {
			f := x.a.dress(x.u, &list[i].Facts)
			g := &importGolfer{id: list[i].ID, file: f, have: map[string]measure.Trial{}}
			for _, s := range f.Screens {
				for _, t := range s.Trials {
					g.have[s.Date.String()+"|"+t.Key()] = t
				}
			}
			x.add(g)
		}
	}
	return nil
}

func (x *importer) add(g *importGolfer) {
	g.seen, g.screens = map[string]int{}, map[civil.Date]*athlete.Screen{}
	g.status = g.file.ClearanceOn(g.file.AsOf)
	k := nameKey(g.file.Athlete.Name)
	x.byName[k] = append(x.byName[k], g)
	x.byID[g.id] = g
	x.order = append(x.order, g)
}

func nameKey(s string) string { return strings.ToLower(strings.Join(strings.Fields(s), " ")) }

func (x *importer) row(table *formats.Table, row *formats.TableRow) {
	errors := 0
	first := ""
	fail := func(column, text string, unlikely bool) {
		errors++
		if first == "" {
			first = text
		}
		if unlikely {
			x.out.Unlikely++
		}
		if len(x.out.Errors) < maxErrors {
			x.out.Errors = append(x.out.Errors, formats.RowError{Row: row.Line, Column: column, Text: text, Unlikely: unlikely})
		}
	}
	if e := x.m.Read(table, row, func(r formats.Record) { x.record(r, fail) }); e != nil {
		fail(e.Column, e.Text, false)
	}
	if errors > 0 {
		x.out.ErrorRows++
	} else {
		x.out.GoodRows++
	}
	if len(x.out.Verdicts) < maxVerdicts {
		if errors > 1 {
			first = fmt.Sprintf("%s (and %d more)", first, errors-1)
		}
		x.out.Verdicts = append(x.out.Verdicts, RowVerdict{row.Line, first})
	}
}

func (x *importer) record(r formats.Record, fail func(column, text string, unlikely bool)) {
	g, text := x.golfer(r)
	if g == nil {
		fail("golfer", text, false)
		return
	}
	if text := badDay(r.Date, g.file.AsOf, g.file.Athlete); text != "" {
		fail("date", text, false)
		return
	}
	t, err := r.Cell.Parse(x.tests, g.file.Athlete.ReferenceVariant(r.Date))
	if err != nil {
		var ce *measure.CellError
		if errors.As(err, &ce) {
			fail(r.Column, ce.Text, ce.Unlikely)
		}
		return
	}
	if test, _ := x.tests.Find(t.Test); test.Exertion && t.Status == measure.Done && !g.status.MayExert() && !g.fresh && r.Date == g.file.AsOf {
		fail(r.Column, test.Name+" costs effort, and "+g.file.Athlete.Name+" is not cleared for it.", false)
		return
	}
	key := r.Date.String() + "|" + t.Key()
	if line, twice := g.seen[key]; twice {
		fail(r.Column, fmt.Sprintf("the same trial as row %d: %s %s %d of %s on %s", line, t.Test, t.Side, t.Number, g.file.Athlete.Name, r.Date.Words()), false)
		return
	}
	g.seen[key] = r.Line
	if old, there := g.have[key]; there && !sameResult(old, t) {
		test, _ := x.tests.Find(t.Test)
		fail(r.Column, fmt.Sprintf("the screen of %s has %s here already, the file says %s", r.Date.Words(), shown(test, old, x.u), shown(test, t, x.u)), false)
		return
	} else if there {
		t = old
	}
	s := g.screens[r.Date]
	if s == nil {
		s = &athlete.Screen{Date: r.Date}
		g.screens[r.Date] = s
	}
	s.Trials = append(s.Trials, t)
	x.out.Trials++
}

// golfer finds who a record is of, or makes them where the mapping allows it.
func (x *importer) golfer(r formats.Record) (*importGolfer, string) {
	if r.Golfer == "" {
		if g := x.byID[x.m.Golfer]; g != nil {
			return g, ""
		}
		return nil, "the golfer chosen for this file is not there any more"
	}
	var found []*importGolfer
	for _, g := range x.byName[nameKey(r.Golfer)] {
		if r.BirthDate.IsZero() || g.file.Athlete.BirthDate == r.BirthDate {
			found = append(found, g)
		}
	}
	switch {
	case len(found) == 1:
		return found[0], ""
	case len(found) > 1:
		return nil, fmt.Sprintf("there are %d golfers named %q: add a column with the birth date", len(found), r.Golfer)
	case !x.m.AddGolfers:
		if len(x.byName[nameKey(r.Golfer)]) > 0 {
			return nil, fmt.Sprintf("%q has another birth date here", r.Golfer)
		}
		return nil, fmt.Sprintf("there is no golfer %q: add them first, or let the import make new golfers", r.Golfer)
	case r.BirthDate.IsZero() || r.Side == "":
		return nil, fmt.Sprintf("%q is new: birth date and playing side are needed", r.Golfer)
	}
	f := x.a.dress(x.u, &athlete.File{Format: athlete.Format, School: school.Default, Athlete: athlete.Profile{Name: strings.Join(strings.Fields(r.Golfer), " "), BirthDate: r.BirthDate, Sex: r.Sex, PlayingSide: r.Side}})
	if problems := f.Athlete.Validate(f.AsOf); len(problems) > 0 {
		return nil, fmt.Sprintf("%q cannot be made: %s", r.Golfer, problems[0].Text)
	}
	g := &importGolfer{id: fmt.Sprintf("new-%d", len(x.order)), file: f, fresh: true}
	x.add(g)
	return g, ""
}

// ExportFiles loads one golfer, or with "" all of the practice, for an export.
func (a *App) ExportFiles(ctx context.Context, u *store.User, athleteID string) ([]*athlete.File, *measure.Battery, error) {
	b, err := a.battery(ctx, u)
	if err != nil {
		return nil, nil, err
	}
	if athleteID != "" {
		f, err := a.file(ctx, u, athleteID)
		if err != nil {
			return nil, nil, err
		}
		return []*athlete.File{f}, b.tests, nil
	}
	files, err := a.files(ctx, u)
	for _, f := range files {
		f.Battery = b.changes
	}
	return files, b.tests, err
}
