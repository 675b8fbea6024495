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
	"dunnock/internal/core/measure"
	"dunnock/internal/core/school"
	"dunnock/internal/formats"
	"dunnock/internal/store"
)

type importRead struct {
	formats.Report
	golfers []store.GolferScreens
}

// importer reads a table row by row into golfers and screens.
type importer struct {
	a      *App
	who    *Actor
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
	days    []store.DayValue
	haveDay map[string]float64 // of the practice, by kind and date
}

// json is the report as it is kept.
func (r *importRead) json() string {
	b, err := json.Marshal(&r.Report)
	if err != nil {
		return ""
	}
	return string(b)
}

// readImport reads rows against what the practice holds, through the unit of
// work or the snapshot it is given. In a unit of work the golfers the file names
// are taken first, so that nobody writes theirs meanwhile.
func (a *App) readImport(
	ctx context.Context,
	who *Actor,
	p *store.Practice,
	table *formats.Table,
	m formats.Mapping,
	b battery,
	progress func(int),
) (*importRead, error) {
	x := &importer{
		a:     a,
		who:   who,
		tests: b.tests,
		m:     m,
		out: &importRead{
			Report: formats.Report{Rows: len(table.Rows), LeftOut: m.LeftOut(table), NewGolfers: []string{}, Errors: []formats.RowError{}, Verdicts: []formats.RowVerdict{}},
		},
		byName: map[string][]*importGolfer{},
		byID:   map[string]*importGolfer{},
	}
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
		if len(g.screens) == 0 && len(g.days) == 0 {
			continue
		}
		x.out.Golfers++
		s := store.GolferScreens{ID: g.id, Days: g.days}
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
		x.out.Verdicts = append(x.out.Verdicts, formats.RowVerdict{Row: row.Line, Text: first})
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
	if r.Day != nil {
		x.day(g, &r, fail)
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
func (x *importer) day(g *importGolfer, r *formats.Record, fail func(column, text string, unlikely bool)) {
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
	f := x.a.dress(
		x.who,
		&athlete.File{
			Format:  athlete.Format,
			School:  school.Default,
			Athlete: athlete.Profile{Name: strings.Join(strings.Fields(r.Golfer), " "), BirthDate: r.BirthDate, Sex: r.Sex, PlayingSide: r.Side},
		},
	)
	if problems := f.Athlete.Validate(f.AsOf); len(problems) > 0 {
		return nil, fmt.Sprintf("%q cannot be made: %s", r.Golfer, problems[0].Text)
	}
	g := &importGolfer{id: fmt.Sprintf("new-%d", len(x.order)), file: f, fresh: true}
	x.add(g)
	return g, ""
}
