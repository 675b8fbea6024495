package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/naming"
	"dunnock/internal/core/school"
	"dunnock/internal/formats/sheets"
	"dunnock/internal/formats/table"
	"dunnock/internal/store"
)

type importRead struct {
	sheets.Report
	golfers []store.GolferScreens
}

// importer reads a table row by row into golfers and screens.
type importer struct {
	a      *App
	who    *Actor
	setup  *store.Setup // a new golfer begins with
	tests  *measure.Battery
	m      sheets.Mapping
	out    *importRead
	book   *naming.Book
	means  map[string]naming.Match // of every name that was looked up
	byID   map[string]*importGolfer
	fresh  map[string][]*importGolfer // made by the file, by name
	order  []*importGolfer
	nobody int            // the row of which it was said last that its golfer is not known
	asked  map[string]int // names whose meaning has to be said, to their place in the report
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
	days    []store.DayValue
	haveDay map[string]float64 // of the practice, by kind and date
	written []string           // names in the file that were said to mean this golfer
}

// json is the report as it is kept.
func (r *importRead) json() string {
	b, err := json.Marshal(&r.Report)
	if err != nil {
		return ""
	}
	return string(b)
}

// newGolfer is said of a name that is nobody's who is there.
const newGolfer = "new"

// readImport reads rows against what the practice holds, through the unit of
// work or the snapshot it is given. In a unit of work the golfers the file names
// are taken first, so that nobody writes theirs meanwhile.
func (a *App) readImport(
	ctx context.Context,
	who *Actor,
	p *store.Practice,
	g *table.Grid,
	m sheets.Mapping,
	b battery,
	progress func(int),
) (*importRead, error) {
	labels := sheets.NewLabels(label.New(b.tests), g)
	if m.Layout.Top == 0 {
		m.Layout = sheets.Layout{Top: 1, Heads: 1} // of a mapping made by an earlier version
	}
	t, err := m.Layout.Table(g, labels)
	if err != nil {
		return nil, err
	}
	setup, err := p.Setup(ctx)
	if err != nil {
		return nil, err
	}
	x := &importer{
		a:     a,
		who:   who,
		setup: setup,
		tests: b.tests,
		m:     m,
		out: &importRead{
			Report: sheets.Report{Rows: len(t.Rows), NewGolfers: []string{}, Errors: []table.RowError{}, AskGolfers: []sheets.Ask{}, AskTests: []sheets.Ask{}, Verdicts: []sheets.RowVerdict{}},
		},
		means: map[string]naming.Match{},
		byID:  map[string]*importGolfer{},
		fresh: map[string][]*importGolfer{},
		asked: map[string]int{},
	}
	if err := x.load(ctx, p, sheets.NewReader(t, &m, b.tests, labels), t); err != nil {
		return nil, err
	}
	rows := sheets.NewReader(t, &m, b.tests, labels)
	for i := range t.Rows {
		x.row(rows, &t.Rows[i])
		if i%200 == 199 {
			progress(i + 1)
			if ctx.Err() != nil {
				return nil, ctx.Err()
			}
		}
	}
	x.out.LeftOut, x.out.Notes = rows.LeftOut(), rows.Notes()
	x.askTests(rows.Unknown())
	x.gather()
	return x.out, nil
}

// gather brings what was read of each golfer into the order in which it is written.
func (x *importer) gather() {
	for _, g := range x.order {
		if len(g.screens) == 0 && len(g.days) == 0 {
			continue
		}
		x.out.Golfers++
		s := store.GolferScreens{ID: g.id, Days: g.days, AlsoWritten: g.written}
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
}

// askTests asks once for each test that is not ours.
func (x *importer) askTests(unknown []sheets.Unknown) {
	for _, u := range unknown[:min(len(unknown), maxAsked)] {
		ask := sheets.Ask{Written: u.Written, Rows: u.Rows, Near: []sheets.Choice{}}
		if t, ok := x.tests.Find(u.Near); ok {
			ask.Near = append(ask.Near, sheets.Choice{ID: t.ID, Name: t.Name})
		}
		x.out.AskTests = append(x.out.AskTests, ask)
	}
}

// load loads the golfers the file names, with their screens.
func (x *importer) load(ctx context.Context, p *store.Practice, rows *sheets.Reader, t *table.Table) error {
	people, err := names(ctx, p)
	if err != nil {
		return err
	}
	x.book = naming.New(people)
	wanted := map[string]bool{x.m.Golfer: true}
	for written := range rows.Names(t) {
		if id := x.m.Golfers[written]; id != "" {
			wanted[id] = true
			continue
		}
		m := x.book.Find(written)
		x.means[written] = m
		for _, who := range m.Same {
			wanted[who.ID] = true
		}
	}
	ids := []string{}
	for _, who := range people {
		if wanted[who.ID] {
			ids = append(ids, who.ID)
		}
	}
	if p.Writing() {
		if err := p.LockGolfers(ctx, ids); err != nil {
			return err
		}
	}
	days, err := p.DayValues(ctx, ids)
	if err != nil {
		return err
	}
	for some := range slices.Chunk(ids, restandBatch) {
		list, err := p.Files(ctx, some)
		if err != nil {
			return err
		}
		for i := range list {
			f := x.a.dress(x.who, &list[i].Facts)
			g := &importGolfer{id: list[i].ID, file: f, have: map[string]measure.Trial{}}
			for _, s := range f.Screens {
				for _, t := range s.Trials {
					g.have[s.Date.String()+"|"+t.Key()] = t
				}
			}
			x.add(g)
			for _, d := range days[g.id] {
				g.haveDay[d.Kind+"|"+d.Date.String()] = d.Value
			}
		}
	}
	return nil
}

func (x *importer) add(g *importGolfer) {
	g.seen, g.screens, g.haveDay = map[string]int{}, map[civil.Date]*athlete.Screen{}, map[string]float64{}
	g.status = g.file.ClearanceOn(g.file.AsOf)
	x.byID[g.id] = g
	x.order = append(x.order, g)
}

func (x *importer) row(rows *sheets.Reader, row *table.Row) {
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
			x.out.Errors = append(x.out.Errors, table.RowError{Row: row.Line, Column: column, Text: text, Unlikely: unlikely})
		}
	}
	if e := rows.Row(row, func(r sheets.Record) { x.record(r, fail) }); e != nil {
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
		x.out.Verdicts = append(x.out.Verdicts, sheets.RowVerdict{Row: row.Line, Text: first})
	}
}

func (x *importer) record(r sheets.Record, fail func(column, text string, unlikely bool)) {
	if r.Line == x.nobody {
		return // it was said of the row
	}
	g, text := x.golfer(r)
	if g == nil {
		x.nobody = r.Line
		fail("golfer", text, false)
		return
	}
	if text := badDay(r.Date, g.file.AsOf, g.file.Athlete); text != "" {
		fail("date", text, false)
		return
	}
	if r.Day != nil {
		x.day(g, &r, fail)
		return
	}
	if test, ok := x.tests.Find(r.Cell.Test); ok && r.Hand != "" {
		r.Cell.Side = string(r.Hand.SideOf(test, g.file.Athlete.PlayingSide == athlete.RightSided))
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
		fail(r.Column, fmt.Sprintf("the screen of %s has %s here already, the file says %s", r.Date.Words(), shown(test, old, x.who), shown(test, t, x.who)), false)
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

// day takes a number of a day.
func (x *importer) day(g *importGolfer, r *sheets.Record, fail func(column, text string, unlikely bool)) {
	key := r.Day.Kind + "|" + r.Date.String()
	if line, twice := g.seen[key]; twice {
		fail(r.Column, fmt.Sprintf("the same day as row %d: %s of %s", line, g.file.Athlete.Name, r.Date.Words()), false)
		return
	}
	g.seen[key] = r.Line
	if old, there := g.haveDay[key]; there && old != r.Day.Value {
		fail(r.Column, fmt.Sprintf("%s has %g here already, the file says %g", r.Date.Words(), old, r.Day.Value), false)
		return
	}
	g.days = append(g.days, store.DayValue{Kind: r.Day.Kind, Date: r.Date, Value: r.Day.Value})
	x.out.Days++
}

// golfer finds who a record is of, or makes them where the mapping allows it.
func (x *importer) golfer(r sheets.Record) (*importGolfer, string) {
	if r.Golfer == "" {
		if g := x.byID[x.m.Golfer]; g != nil {
			return g, ""
		}
		return nil, "the golfer chosen for this file is not there any more"
	}
	said := x.m.Golfers[r.Golfer]
	if said != "" && said != newGolfer {
		g := x.byID[said]
		if g == nil {
			return nil, fmt.Sprintf("the golfer chosen for %q is not there any more", r.Golfer)
		}
		if !slices.Contains(g.written, r.Golfer) {
			g.written = append(g.written, r.Golfer)
		}
		return g, ""
	}
	means := x.means[r.Golfer]
	key := strings.ToLower(strings.Join(strings.Fields(r.Golfer), " "))
	var found []*importGolfer
	born := func(g *importGolfer) {
		if g != nil && (r.BirthDate.IsZero() || g.file.Athlete.BirthDate == r.BirthDate) {
			found = append(found, g)
		}
	}
	if said != newGolfer {
		for _, who := range means.Same {
			born(x.byID[who.ID])
		}
	}
	for _, g := range x.fresh[key] {
		born(g)
	}
	switch {
	case len(found) == 1:
		return found[0], ""
	case said == newGolfer && x.m.AddGolfers && len(found) == 0:
	case len(found) > 1:
		x.ask(r.Golfer, means.Same)
		return nil, fmt.Sprintf("there are %d golfers named %q: say which is meant, or add a column with the birth date", len(found), r.Golfer)
	case !x.m.AddGolfers && len(means.Same) > 0:
		x.ask(r.Golfer, means.Same)
		return nil, fmt.Sprintf("%q has another birth date here", r.Golfer)
	case !x.m.AddGolfers:
		x.ask(r.Golfer, means.Near)
		return nil, fmt.Sprintf("there is no golfer %q: say who is meant, or let the import make new golfers", r.Golfer)
	case len(means.Near) > 0:
		x.ask(r.Golfer, means.Near)
		return nil, fmt.Sprintf("%q may be somebody who is there: say who is meant, or that they are new", r.Golfer)
	}
	if r.BirthDate.IsZero() || r.Plays == "" {
		return nil, fmt.Sprintf("%q is new: birth date and playing side are needed", r.Golfer)
	}
	f := x.a.dress(
		x.who,
		&athlete.File{
			Format:  athlete.Format,
			School:  school.Default,
			Athlete: athlete.Profile{Name: strings.Join(strings.Fields(r.Golfer), " "), BirthDate: r.BirthDate, Sex: r.Sex, PlayingSide: r.Plays},
		},
	)
	x.setup.Begin(&f.Training)
	if problems := f.Athlete.Validate(f.AsOf); len(problems) > 0 {
		return nil, fmt.Sprintf("%q cannot be made: %s", r.Golfer, problems[0].Text)
	}
	g := &importGolfer{id: fmt.Sprintf("new-%d", len(x.order)), file: f, fresh: true}
	x.add(g)
	x.fresh[key] = append(x.fresh[key], g)
	return g, ""
}

// ask asks once whom a name means.
func (x *importer) ask(written string, near []naming.Person) {
	at, there := x.asked[written]
	if !there {
		if len(x.out.AskGolfers) == maxAsked {
			return
		}
		at = len(x.out.AskGolfers)
		x.asked[written] = at
		a := sheets.Ask{Written: written, Near: []sheets.Choice{}}
		for _, who := range near {
			c := sheets.Choice{ID: who.ID, Name: who.Names[0]}
			if g := x.byID[who.ID]; g != nil {
				c.Note = "born " + g.file.Athlete.BirthDate.Words()
			}
			a.Near = append(a.Near, c)
		}
		x.out.AskGolfers = append(x.out.AskGolfers, a)
	}
	x.out.AskGolfers[at].Rows++
}
