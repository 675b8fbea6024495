package app

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"strings"

	"github.com/google/uuid"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/naming"
	text "dunnock/internal/core/words"
	"dunnock/internal/formats/sheets"
	"dunnock/internal/formats/table"
	"dunnock/internal/store"
)

// ImportView is a file being brought in, with what a coach needs to say how it
// is read.
type ImportView struct {
	store.Import
	Kind     string
	Encoding string       // where the file is not UTF-8
	From1904 bool         // a workbook that counts its days from 1904
	Sheets   []ImportPage // of the file, those that are seen first
	First    []table.Row  // the first rows of the sheet as they stand
	Header   []string
	Sample   [][]string // the first rows under the header
	Rows     int
	Proposed sheets.Mapping
	Known    string // name of the source when files like this were read before
	Report   *sheets.Report
}

// ImportPage is a sheet of a file.
type ImportPage struct {
	Name   string `json:"name"`
	Hidden bool   `json:"hidden,omitempty"`
	Rows   int    `json:"rows"`
}

const (
	sampleRows  = 8
	firstRows   = 14
	maxErrors   = 500
	maxVerdicts = 200
	maxAsked    = 200 // names whose meaning is asked at once
)

// importHead is what is shown of an upload before it is read.
type importHead struct {
	Table    *table.Table    `json:"table"` // the first rows
	Rows     int             `json:"rows"`
	Print    string          `json:"print"` // names the layout as it was guessed
	Encoding string          `json:"encoding,omitempty"`
	Sheets   []ImportPage    `json:"sheets,omitempty"`
	First    []table.Row     `json:"first,omitempty"`
	Proposed *sheets.Mapping `json:"proposed,omitempty"` // nil in heads of an earlier version
	Known    string          `json:"known,omitempty"`
}

// headRows is how many rows a head holds.
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

// readUpload reads an upload into what is kept of it.
func (a *App) readUpload(ctx context.Context, who *Actor, b []byte) (head string, parsed []byte, err error) {
	done, err := turn(ctx, reading)
	if err != nil {
		return "", nil, err
	}
	defer done()
	g, err := table.ReadGrid(ctx, b)
	if err != nil {
		return "", nil, tableWords(err)
	}
	if head, err = a.propose(ctx, who, g, nil); err != nil {
		return "", nil, err
	}
	parsed, err = json.Marshal(g)
	return head, parsed, err
}

// propose says how a file could be read: by what was remembered of such files, or
// as it looks. With a layout it is read by that one.
func (a *App) propose(ctx context.Context, who *Actor, g *table.Grid, layout *sheets.Layout) (string, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return "", err
	}
	p := a.store.For(who.PracticeID)
	labels := sheets.NewLabels(label.New(b.tests), g)
	guess := sheets.GuessLayout(g, labels)
	t, err := guess.Table(g, labels)
	if err != nil {
		return "", tableWords(err)
	}
	h := importHead{Print: t.Fingerprint(), Encoding: g.Encoding}
	at := guess
	if layout != nil {
		at = *layout
		if t, err = at.Table(g, labels); err != nil {
			return "", tableWords(err)
		}
	}
	m := sheets.Guess(t, labels)
	name, known, err := p.Source(ctx, h.Print)
	switch {
	case errors.Is(err, store.ErrNotFound):
	case err != nil:
		return "", err
	default:
		var r sheets.Mapping
		if err := json.Unmarshal([]byte(known), &r); err != nil {
			return "", err
		}
		if l, rt, ok := remembered(r, guess, layout, g, labels); ok {
			r.Renew(m.Dates)
			at, t, m, h.Known = l, rt, r, name
		}
	}
	m.Layout = at
	if m.Golfer == "" || m.Date.IsZero() {
		if err := a.fromTitles(ctx, p, g, t, &m); err != nil {
			return "", err
		}
	}
	h.Proposed, h.Table, h.Rows = &m, t.Head(headRows), len(t.Rows)
	for _, s := range g.Sheets {
		h.Sheets = append(h.Sheets, ImportPage{s.Name, s.Hidden, len(s.Rows)})
	}
	h.First = table.Head(g.Sheets[at.Sheet].Rows, firstRows)
	head, err := json.Marshal(h)
	return string(head), err
}

// remembered is the layout of a mapping that was remembered for files that look
// like this one, where it fits: the guess, unless another way was chosen then.
func remembered(m sheets.Mapping, guess sheets.Layout, asked *sheets.Layout, g *table.Grid, labels *sheets.Labels) (sheets.Layout, *table.Table, bool) {
	l := guess
	if m.Layout.Heads != guess.Heads && m.Layout.Top > 0 || m.Layout.Turned != guess.Turned {
		l = m.Layout
		l.Sheet = guess.Sheet
	}
	if asked != nil && *asked != l {
		return l, nil, false
	}
	t, err := l.Table(g, labels)
	return l, t, err == nil && len(t.Header) == len(m.Columns)
}

// fromTitles takes the golfer and the day from what stands above the header where
// no column says them: the name of the sheet, a title, "Date: 24 Nov 2026".
func (a *App) fromTitles(ctx context.Context, p *store.Practice, g *table.Grid, t *table.Table, m *sheets.Mapping) error {
	above := m.Layout.Above(g)
	if m.Date.IsZero() {
		m.Date = sheets.TitleDate(t, above, m)
	}
	if len(above) == 0 || m.Golfer != "" || m.NamesGolfers() {
		return nil
	}
	people, err := names(ctx, p)
	if err != nil {
		return err
	}
	book := naming.New(people)
	for _, text := range above {
		if _, after, ok := strings.Cut(text, ":"); ok {
			text = after
		}
		if same := book.Find(text).Same; len(same) == 1 {
			m.Golfer = same[0].ID
			return nil
		}
	}
	return nil
}

// names are the practice's golfers with every name they go by in files.
func names(ctx context.Context, p *store.Practice) ([]naming.Person, error) {
	all, err := p.Names(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]naming.Person, len(all))
	for i := range all {
		x := &all[i].Facts.Athlete
		out[i] = naming.Person{ID: all[i].ID, Names: append([]string{x.Name}, x.AlsoWritten...)}
	}
	return out, nil
}

// Upload reads a file, keeps its rows and proposes what they mean.
func (a *App) Upload(ctx context.Context, who *Actor, name string, r io.Reader) (*ImportView, error) {
	b, err := io.ReadAll(io.LimitReader(r, table.MaxBytes+1))
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
	head, parsed, err := a.readUpload(ctx, who, b)
	if err != nil {
		return nil, err
	}
	id, err := a.store.For(who.PracticeID).CreateImport(ctx, clip(name, 200), who.Name, head, parsed)
	if err != nil {
		return nil, words(err, "file")
	}
	return a.Import(ctx, who, id)
}

// clip cuts a text to at most n letters.
func clip(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n])
	}
	return s
}

func tableWords(err error) error {
	var t *table.Error
	if errors.As(err, &t) {
		return invalid("file", "%s", t.Text)
	}
	return err
}

// Imports lists the practice's imports, newest first.
func (a *App) Imports(ctx context.Context, who *Actor) ([]store.Import, error) {
	return a.store.For(who.PracticeID).Imports(ctx)
}

// Import returns one import as it is now.
func (a *App) Import(ctx context.Context, who *Actor, id string) (*ImportView, error) {
	p := a.store.For(who.PracticeID)
	got, err := p.Import(ctx, id)
	if err != nil {
		return nil, words(err, "import")
	}
	v := &ImportView{Import: *got}
	if got.Report != "" {
		v.Report = &sheets.Report{}
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
		if head, err = a.readOld(ctx, who, p, id); err != nil || head == "" {
			return v, err
		}
	}
	var h importHead
	if err := json.Unmarshal([]byte(head), &h); err != nil {
		return nil, err
	}
	if h.Proposed == nil { // an earlier version read it: its first row is the header
		if h, err = a.proposeOld(ctx, who, p, id); err != nil {
			return nil, err
		}
	}
	v.Kind, v.From1904, v.Encoding, v.Sheets, v.First, v.Header, v.Rows = h.Table.Kind, h.Table.From1904, h.Encoding, h.Sheets, h.First, h.Table.Header, h.Rows
	for _, r := range h.Table.Rows[:min(sampleRows, len(h.Table.Rows))] {
		v.Sample = append(v.Sample, r.Cells)
	}
	v.Proposed, v.Known = *h.Proposed, h.Known
	if got.Mapping != "" {
		var last sheets.Mapping
		if err = json.Unmarshal([]byte(got.Mapping), &last); err == nil && len(last.Columns) == len(v.Header) {
			last.Renew(v.Proposed.Dates)
			last.Layout = v.Proposed.Layout
			v.Proposed = last
		}
	}
	return v, err
}

// readOld reads the file of an upload an earlier version kept as it came. "" when
// there is none.
func (a *App) readOld(ctx context.Context, who *Actor, p *store.Practice, id string) (head string, err error) {
	_, file, err := p.ImportRows(ctx, id)
	if err != nil || file == nil {
		return "", words(err, "import")
	}
	head, parsed, err := a.readUpload(ctx, who, file)
	if err != nil {
		return "", err
	}
	return head, words(p.KeepRows(ctx, id, head, parsed), "import")
}

// proposeOld proposes anew for a table an earlier version read.
func (a *App) proposeOld(ctx context.Context, who *Actor, p *store.Practice, id string) (h importHead, err error) {
	g, err := a.grid(ctx, p, id)
	if err != nil {
		return h, err
	}
	head, err := a.propose(ctx, who, g, nil)
	if err != nil {
		return h, err
	}
	return h, json.Unmarshal([]byte(head), &h)
}

// grid loads the rows of an import as they were read on arrival.
func (a *App) grid(ctx context.Context, p *store.Practice, id string) (*table.Grid, error) {
	parsed, _, err := p.ImportRows(ctx, id)
	if err != nil {
		return nil, words(err, "import")
	}
	if parsed == nil {
		return nil, &Error{Kind: Refused, Text: "The contents of this file were dropped: bring it in again."}
	}
	var kept struct {
		table.Grid
		// What an earlier version kept: one header and its rows.
		Sheet  string      `json:"sheet"`
		Header []string    `json:"header"`
		Rows   []table.Row `json:"rows"`
	}
	if err := json.Unmarshal(parsed, &kept); err != nil {
		return nil, err
	}
	if kept.Sheets == nil && len(kept.Rows) > 0 {
		head := table.Row{Line: max(1, kept.Rows[0].Line-1), Cells: kept.Header}
		kept.Sheets = []table.Sheet{{Name: kept.Sheet, Rows: append([]table.Row{head}, kept.Rows...)}}
	}
	return &kept.Grid, nil
}

// idle are the states in which an import may be read anew.
var idle = []string{store.Uploaded, store.Checked, store.Cancelled, store.Failed}

// LayImport reads a file by another layout; with its Top left out the sheet's own is
// guessed. What its columns mean is proposed anew.
func (a *App) LayImport(ctx context.Context, who *Actor, id string, l sheets.Layout) (*ImportView, error) {
	p := a.store.For(who.PracticeID)
	if _, err := p.Import(ctx, id); err != nil {
		return nil, words(err, "import")
	}
	g, err := a.grid(ctx, p, id)
	if err != nil {
		return nil, err
	}
	if l.Sheet < 0 || l.Sheet >= len(g.Sheets) {
		return nil, invalid("sheet", "There is no such sheet in the file.")
	}
	if l.Top <= 0 {
		b, err := a.battery(ctx, who)
		if err != nil {
			return nil, err
		}
		l = sheets.LayoutOf(g, l.Sheet, sheets.NewLabels(label.New(b.tests), g))
	}
	head, err := a.propose(ctx, who, g, &l)
	if err != nil {
		return nil, err
	}
	if err := p.LayImport(ctx, id, idle, head); err != nil {
		return nil, words(err, "import")
	}
	return a.Import(ctx, who, id)
}

// CheckImport reads the file by a mapping without saving anything; the answer is
// at once, the work goes on behind it.
func (a *App) CheckImport(ctx context.Context, who *Actor, id string, m sheets.Mapping) (*ImportView, error) {
	p := a.store.For(who.PracticeID)
	v, err := a.Import(ctx, who, id)
	if err != nil {
		return nil, err
	}
	if v.Header == nil {
		return nil, &Error{Kind: Refused, Text: "This file cannot be checked now: it is being worked on, is saved, or its contents were dropped."}
	}
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	m.Layout = v.Proposed.Layout // changed by LayImport alone
	m.Redate(&table.Table{Kind: v.Kind, From1904: v.From1904, Header: v.Header})
	if bad := m.Check(&table.Table{Kind: v.Kind, Header: v.Header}, b.tests); len(bad) > 0 {
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
	if err := p.BeginImport(ctx, id, run, idle, store.Checking, string(mapping), v.Rows); err != nil {
		return nil, words(err, "import")
	}
	if strings.TrimSpace(m.Source) != "" {
		if err := rememberSource(ctx, p, v, m); err != nil {
			return nil, words(err, "source")
		}
	}
	a.behind(who, id, run, v.Rows, func(ctx context.Context, progress func(int)) error {
		g, err := a.grid(ctx, p, id)
		if err != nil {
			return err
		}
		var r *importRead
		err = p.Snapshot(ctx, func(p *store.Practice) error {
			r, err = a.readImport(ctx, who, p, g, m, b, progress)
			return err
		})
		if err != nil {
			return tableWords(err)
		}
		return p.EndImport(ctx, id, run, store.Checked, r.json(), "")
	})
	return a.Import(ctx, who, id)
}

// rememberSource keeps how files that look like this one are read: all but what is
// of this file alone. Whom its names mean is kept with the golfers.
func rememberSource(ctx context.Context, p *store.Practice, v *ImportView, m sheets.Mapping) error {
	var h importHead
	if err := json.Unmarshal([]byte(v.Head), &h); err != nil {
		return err
	}
	m.Golfer, m.Golfers, m.Date, m.KeepUnlikely = "", nil, civil.Date{}, false
	text, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return p.RememberSource(ctx, h.Print, m.Source, string(text))
}

// ExportFiles loads golfers for an export; with none named, all of the practice.
func (a *App) ExportFiles(ctx context.Context, who *Actor, golfers ...string) ([]*athlete.File, *measure.Battery, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, nil, err
	}
	if len(golfers) > 0 {
		out := make([]*athlete.File, 0, len(golfers))
		for _, id := range golfers {
			f, err := a.file(ctx, who, id)
			if err != nil {
				return nil, nil, err
			}
			out = append(out, f)
		}
		return out, b.tests, nil
	}
	files, err := a.files(ctx, who)
	for _, f := range files {
		f.Battery = b.changes
	}
	return files, b.tests, err
}
