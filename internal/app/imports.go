package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
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

// Upload keeps a file and proposes how to read it.
func (a *App) Upload(ctx context.Context, u *store.User, name string, r io.Reader) (*ImportView, error) {
	b, err := io.ReadAll(io.LimitReader(r, formats.MaxTable+1))
	if err != nil {
		return nil, err
	}
	name = strings.TrimSpace(name)
	if name == "" {
		name = "file"
	}
	if _, err := formats.ReadTable(b); err != nil {
		return nil, tableWords(err)
	}
	id, err := a.store.For(u.PracticeID).CreateImport(ctx, fmt.Sprintf("%.200s", name), u.Name, b)
	if err != nil {
		return nil, err
	}
	return a.Import(ctx, u, id)
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
	if got.State == store.Checking || got.State == store.Saving {
		return v, nil // progress is asked for often: the file is left alone
	}
	table, err := a.table(ctx, u, id)
	if err != nil {
		return nil, err
	}
	v.Kind, v.Sheet, v.Header, v.Rows = table.Kind, table.Sheet, table.Header, len(table.Rows)
	for _, r := range table.Rows[:min(sampleRows, len(table.Rows))] {
		v.Sample = append(v.Sample, r.Cells)
	}
	name, known, err := p.Source(ctx, table.Fingerprint())
	switch {
	case err == nil:
		v.Known = name
		err = json.Unmarshal([]byte(known), &v.Proposed)
	case errors.Is(err, store.ErrNotFound):
		b, berr := a.battery(ctx, u)
		if berr != nil {
			return nil, berr
		}
		v.Proposed, err = formats.Guess(table, b.tests), nil
	}
	if err != nil {
		return nil, err
	}
	if got.Mapping != "" {
		err = json.Unmarshal([]byte(got.Mapping), &v.Proposed)
	}
	return v, err
}

func (a *App) table(ctx context.Context, u *store.User, id string) (*formats.Table, error) {
	b, err := a.store.For(u.PracticeID).ImportContent(ctx, id)
	if err != nil {
		return nil, words(err, "import")
	}
	t, err := formats.ReadTable(b)
	return t, tableWords(err)
}

// CheckImport reads the file by a mapping without saving anything; the answer is
// at once, the work goes on behind it.
func (a *App) CheckImport(ctx context.Context, u *store.User, id string, m formats.Mapping) (*ImportView, error) {
	table, err := a.table(ctx, u, id)
	if err != nil {
		return nil, err
	}
	b, err := a.battery(ctx, u)
	if err != nil {
		return nil, err
	}
	if bad := m.Check(table, b.tests); len(bad) > 0 {
		e := &Error{Kind: Invalid, Text: bad[0].Text}
		for _, x := range bad {
			e.Fields = append(e.Fields, Field{Name: x.Column, Text: x.Text})
		}
		return nil, e
	}
	text, err := json.Marshal(m)
	if err != nil {
		return nil, err
	}
	p := a.store.For(u.PracticeID)
	idle := []string{store.Uploaded, store.Checked, store.Cancelled, store.Failed}
	if err := p.StartImport(ctx, id, idle, store.Checking, string(text), len(table.Rows)); err != nil {
		return nil, words(err, "import")
	}
	if strings.TrimSpace(m.Source) != "" {
		remembered := m
		remembered.Golfer, remembered.Date, remembered.KeepUnlikely = "", civil.Date{}, false
		rt, err := json.Marshal(remembered)
		if err != nil {
			return nil, err
		}
		if err := p.RememberSource(ctx, table.Fingerprint(), m.Source, string(rt)); err != nil {
			return nil, err
		}
	}
	a.behind(u, id, func(ctx context.Context) (string, *ImportReport, string, error) {
		r, err := a.readImport(ctx, u, id, table, m, b.tests)
		if err != nil {
			return "", nil, "", err
		}
		return store.Checked, &r.ImportReport, "", nil
	})
	return a.Import(ctx, u, id)
}

// CommitImport saves everything a checked file holds, or nothing. With
// keepUnlikely, unlikely values are kept as confirmed.
func (a *App) CommitImport(ctx context.Context, u *store.User, id string, keepUnlikely bool) (*ImportView, error) {
	p := a.store.For(u.PracticeID)
	got, err := p.Import(ctx, id)
	if err != nil {
		return nil, words(err, "import")
	}
	if got.State != store.Checked {
		return nil, &Error{Kind: Refused, Text: "Check the file first: only a file that was looked at is saved."}
	}
	var m formats.Mapping
	if err := json.Unmarshal([]byte(got.Mapping), &m); err != nil {
		return nil, err
	}
	m.KeepUnlikely = keepUnlikely
	table, err := a.table(ctx, u, id)
	if err != nil {
		return nil, err
	}
	b, err := a.battery(ctx, u)
	if err != nil {
		return nil, err
	}
	if err := p.StartImport(ctx, id, []string{store.Checked}, store.Saving, "", len(table.Rows)); err != nil {
		return nil, words(err, "import")
	}
	a.behind(u, id, func(ctx context.Context) (string, *ImportReport, string, error) {
		r, err := a.readImport(ctx, u, id, table, m, b.tests)
		if err != nil {
			return "", nil, "", err
		}
		if r.ErrorRows > 0 {
			return store.Checked, &r.ImportReport, "Nothing was saved: rows need a look.", nil
		}
		total := len(table.Rows) + len(r.golfers)
		n, err := p.CommitImport(ctx, id, r.golfers, func(done int) bool {
			if done%10 != 0 {
				return ctx.Err() != nil
			}
			stop, err := p.ImportProgress(ctx, id, len(table.Rows)+done, total)
			return stop || err != nil
		})
		if err != nil {
			return "", nil, "", err
		}
		return store.Saved, &r.ImportReport, fmt.Sprintf("%d trials saved; %d were there already.", n, r.Trials-n), nil
	})
	return a.Import(ctx, u, id)
}

// CancelImport asks a running import to stop; nothing of it is kept.
func (a *App) CancelImport(ctx context.Context, u *store.User, id string) error {
	return words(a.store.For(u.PracticeID).CancelImport(ctx, id), "import")
}

// UndoImport takes back what an import saved and nobody changed since.
func (a *App) UndoImport(ctx context.Context, u *store.User, id string) (*ImportView, error) {
	p := a.store.For(u.PracticeID)
	if err := p.StartImport(ctx, id, []string{store.Saved}, store.Saving, "", 0); err != nil {
		return nil, words(err, "import")
	}
	n, err := p.UndoImport(ctx, id)
	if err != nil {
		_ = p.FinishImport(ctx, id, store.Saved, "", "")
		return nil, err
	}
	if err := p.FinishImport(ctx, id, store.Undone, "", fmt.Sprintf("%d trials taken back. What was changed by hand since stays.", n)); err != nil {
		return nil, err
	}
	return a.Import(ctx, u, id)
}

// behind runs a step of an import beside the request, and writes down how it
// ended. Its context ends with the program.
func (a *App) behind(u *store.User, id string, step func(context.Context) (state string, r *ImportReport, note string, err error)) {
	a.work.Add(1)
	go func() {
		defer a.work.Done()
		ctx := a.base
		state, report, note, err := step(ctx)
		if err != nil {
			state, note = store.Failed, "It went wrong on our side; nothing was saved."
			switch {
			case errors.Is(err, store.ErrStopped):
				state, note = store.Cancelled, "Cancelled: nothing was saved."
			case ctx.Err() == nil:
				slog.Error("import", "id", id, "error", err)
			}
		}
		text := ""
		if report != nil {
			b, err := json.Marshal(report)
			if err == nil {
				text = string(b)
			}
		}
		// The end is written even when the program is stopping.
		if err := a.store.For(u.PracticeID).FinishImport(context.WithoutCancel(ctx), id, state, text, note); err != nil {
			slog.Error("import", "id", id, "error", err)
		}
	}()
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

func (a *App) readImport(ctx context.Context, u *store.User, id string, table *formats.Table, m formats.Mapping, tests *measure.Battery) (*importRead, error) {
	x := &importer{a: a, u: u, tests: tests, m: m, out: &importRead{ImportReport: ImportReport{Rows: len(table.Rows), NewGolfers: []string{}, Errors: []formats.RowError{}, Verdicts: []RowVerdict{}}}, byName: map[string][]*importGolfer{}, byID: map[string]*importGolfer{}}
	if err := x.load(ctx); err != nil {
		return nil, err
	}
	p := a.store.For(u.PracticeID)
	for i := range table.Rows {
		x.row(table, &table.Rows[i])
		if i%500 == 499 {
			stop, err := p.ImportProgress(ctx, id, i+1, len(table.Rows))
			if err != nil {
				return nil, err
			}
			if stop {
				return nil, store.ErrStopped
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

func (x *importer) load(ctx context.Context) error {
	list, err := x.a.store.For(x.u.PracticeID).Files(ctx, nil)
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
		fail(r.Column, fmt.Sprintf("the same trial as row %d: %s %s %d of %s on %s", line, t.Test, t.Side, t.Number, g.file.Athlete.Name, r.Date), false)
		return
	}
	g.seen[key] = r.Line
	if old, there := g.have[key]; there && (old.Status != t.Status || old.Value != t.Value || old.MassG != t.MassG) {
		test, _ := x.tests.Find(t.Test)
		fail(r.Column, fmt.Sprintf("the screen of %s has %s here already, the file says %s", r.Date, shown(test, old, x.u), shown(test, t, x.u)), false)
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
	files, err := a.files(ctx, u, nil)
	for _, f := range files {
		f.Battery = b.changes
	}
	return files, b.tests, err
}
