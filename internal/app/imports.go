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
	"dunnock/internal/core/measure"
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
	Report   *formats.Report
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
func (a *App) Upload(ctx context.Context, who *Actor, name string, r io.Reader) (*ImportView, error) {
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
	var t *formats.TableError
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
		v.Report = &formats.Report{}
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
		b, berr := a.battery(ctx, who)
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
func (a *App) CheckImport(ctx context.Context, who *Actor, id string, m formats.Mapping) (*ImportView, error) {
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
	a.behind(who, id, run, v.Rows, func(ctx context.Context, progress func(int)) error {
		t, err := a.rows(ctx, p, id)
		if err != nil {
			return err
		}
		var r *importRead
		err = p.Snapshot(ctx, func(p *store.Practice) error {
			r, err = a.readImport(ctx, who, p, t, m, b, progress)
			return err
		})
		if err != nil {
			return err
		}
		return p.EndImport(ctx, id, run, store.Checked, r.json(), "")
	})
	return a.Import(ctx, who, id)
}

// ExportFiles loads one golfer, or with "" all of the practice, for an export.
func (a *App) ExportFiles(ctx context.Context, who *Actor, athleteID string) ([]*athlete.File, *measure.Battery, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, nil, err
	}
	if athleteID != "" {
		f, err := a.file(ctx, who, athleteID)
		if err != nil {
			return nil, nil, err
		}
		return []*athlete.File{f}, b.tests, nil
	}
	files, err := a.files(ctx, who)
	for _, f := range files {
		f.Battery = b.changes
	}
	return files, b.tests, err
}
