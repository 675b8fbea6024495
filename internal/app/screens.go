package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"time"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/quality"
	"dunnock/internal/formats"
	"dunnock/internal/store"
)

// Sheet is a screen with what its trials come to.
type Sheet struct {
	store.Screen
	Tests     []quality.TestRead // as of the screen's day
	Clearance athlete.ClearanceStatus
	Variants  map[string]string // reference variant of each test
	Set       []string          // tests of the screen's battery, in order
	Battery   *measure.Battery
	// Since is the revision whose difference this is: Trials and Tests hold only
	// what changed, Cleared the cells that went. 0: a whole sheet.
	Since   int
	Cleared []measure.Trial
}

// since leaves only what changed since the sheet was before, which was at the
// revision just before this one.
func (s *Sheet) since(before *Sheet, changes []Change) {
	s.Since = s.Revision - 1
	s.Trials = slices.DeleteFunc(s.Trials, func(t measure.Trial) bool { return s.Revs[t.Key()] != s.Revision })
	was := make(map[string]*quality.TestRead, len(before.Tests))
	for i := range before.Tests {
		was[before.Tests[i].Test] = &before.Tests[i]
	}
	s.Tests = slices.DeleteFunc(s.Tests, func(t quality.TestRead) bool {
		old := was[t.Test]
		return old != nil && reflect.DeepEqual(*old, t)
	})
	for _, c := range changes {
		if c.Clear {
			s.Cleared = append(s.Cleared, measure.Trial{Test: c.Test, Side: measure.Side(c.Side), Number: c.Trial})
		}
	}
}

// Screens returns a golfer's screens, newest first.
func (a *App) Screens(ctx context.Context, who *Actor, athleteID string) ([]store.Screen, error) {
	if err := a.store.For(who.PracticeID).HasAthlete(ctx, athleteID); err != nil {
		return nil, words(err, "golfer")
	}
	return a.store.For(who.PracticeID).Screens(ctx, athleteID)
}

// NewScreen makes an empty screen on a day, today at the latest. set is its
// battery; nil takes the golfer's last one.
func (a *App) NewScreen(ctx context.Context, who *Actor, athleteID string, on civil.Date, set *string) (*Sheet, error) {
	var id string
	_, err := a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) (err error) {
		id, err = a.newScreen(ctx, who, p, athleteID, on, set)
		return err
	})
	if err != nil {
		return nil, words(err, "screen on that day")
	}
	return a.Sheet(ctx, who, id)
}

// newScreen is NewScreen within a unit of work; it returns the screen's id.
func (a *App) newScreen(ctx context.Context, who *Actor, p *store.Practice, athleteID string, on civil.Date, set *string) (string, error) {
	if err := p.LockGolfer(ctx, athleteID); err != nil {
		return "", words(err, "golfer")
	}
	got, err := p.File(ctx, athleteID)
	if err != nil {
		return "", words(err, "golfer")
	}
	if text := badDay(on, a.Today(who.Zone), got.Facts.Athlete); text != "" {
		return "", invalid("date", "%s", text)
	}
	c := athlete.Circumstances{Tester: who.Name}
	if n := len(got.Facts.Screens); n > 0 {
		last := got.Facts.Screens[n-1].Circumstances
		c.Set, c.Place, c.Floor = last.Set, last.Place, last.Floor
	}
	if set != nil {
		c.Set = *set
	}
	id, err := p.CreateScreen(ctx, athleteID, on, c)
	return id, words(err, "screen on that day")
}

func badDay(on, today civil.Date, p athlete.Profile) string {
	switch {
	case on.IsZero():
		return "Say on which day the screen was done."
	case on.After(today):
		return fmt.Sprintf("%s is in the future: a screen is dated on the day it was done.", on.Short())
	case on.Before(p.BirthDate.Add(5 * 365)):
		return fmt.Sprintf("%s is before the golfer's fifth birthday.", on)
	}
	return ""
}

// Sheet returns a screen with its results.
func (a *App) Sheet(ctx context.Context, who *Actor, id string) (*Sheet, error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return nil, err
	}
	var s *store.Screen
	var got *store.Athlete
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		if s, err = p.Screen(ctx, id); err != nil {
			return words(err, "screen")
		}
		got, err = p.File(ctx, s.AthleteID)
		return words(err, "golfer")
	})
	if err != nil {
		return nil, err
	}
	f := a.dress(who, &got.Facts)
	f.Battery = b.changes
	return sheetOf(s, f, b, a.method)
}

// sheetOf reads a screen as of its own day: later screens are left out.
func sheetOf(s *store.Screen, f *athlete.File, b battery, by *method.Method) (*Sheet, error) {
	sheet := &Sheet{Screen: *s, Clearance: f.ClearanceOn(f.AsOf), Variants: map[string]string{}, Set: b.setOf(s.Circumstances.Set), Battery: b.tests}
	ref := f.Athlete.ReferenceVariant(s.Date)
	for i := range b.tests.Tests() {
		t := &b.tests.Tests()[i]
		if v := ref(t); v != "" {
			sheet.Variants[t.ID] = v
		}
	}
	f.AsOf = s.Date
	sch, err := by.Schools.Find(f.School)
	if err != nil {
		return nil, err
	}
	sheet.Tests = quality.Tests(f, sch)
	for i, t := range sheet.Tests {
		if t.Date != s.Date && !t.Date.IsZero() {
			// An earlier result is history here, not this screen's.
			sheet.Tests[i] = history(t)
		}
	}
	return sheet, nil
}

// history turns a result from an earlier screen into a row that was not
// measured here and says what it was last time.
func history(t quality.TestRead) quality.TestRead {
	t.Status, t.Gap, t.Difference = quality.Untested, nil, nil
	t.Sentence = "Last on " + t.Date.Short() + ". " + t.Sentence
	return t
}

// Change is one cell to be saved; an empty one is cleared. Seen is the revision
// of the cell the editor saw; nil saves over whatever is there.
type Change struct {
	measure.Cell
	Clear bool
	Seen  *int
}

// SaveCells saves all the cells of a screen or none of them. Two editors may
// save at once; a cell somebody else wrote differently since it was seen comes
// back as a Field with a Clash. circumstances may be nil. held is the revision of
// the sheet the editor holds, 0 for none: where nothing else moved since then,
// only what changed is returned.
func (a *App) SaveCells(ctx context.Context, who *Actor, id string, circumstances func(*athlete.Circumstances), changes []Change, held int) (*Sheet, error) {
	saved, err := a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		return a.saveCells(ctx, who, p, b, id, circumstances, changes)
	})
	if err != nil {
		return nil, words(err, "screen")
	}
	return saved.sheet(held, changes)
}

// saved is what a save did: the golfer's file as it was before and the screen as
// it is now.
type saved struct {
	file   *athlete.File
	screen *store.Screen
	tests  battery
	by     *method.Method
}

// sheet reads the screen anew; where the editor holds the sheet as it was just
// before, only what changed is returned.
func (s *saved) sheet(held int, changes []Change) (*Sheet, error) {
	var before *Sheet
	if held == s.screen.Revision-1 {
		was := *s.file
		var err error
		if before, err = sheetOf(s.screen, &was, s.tests, s.by); err != nil {
			return nil, err
		}
	}
	for i := range s.file.Screens {
		if s.file.Screens[i].Date == s.screen.Date {
			s.file.Screens[i] = s.screen.Screen
		}
	}
	now, err := sheetOf(s.screen, s.file, s.tests, s.by)
	if err == nil && before != nil {
		now.since(before, changes)
	}
	return now, err
}

// batteryTries is how often a write that found other tests than it was read with
// is read anew.
const batteryTries = 3

// errOtherTests is returned inside of a unit of work when the battery changed
// since it was looked at.
var errOtherTests = errors.New("the tests were changed meanwhile")

// write runs do in one unit of work with the battery held: no test it reads with
// is changed or removed while it goes on.
func (a *App) write(ctx context.Context, who *Actor, do func(*store.Practice, battery) (*saved, error)) (out *saved, err error) {
	for range batteryTries {
		b, err := a.battery(ctx, who)
		if err != nil {
			return nil, err
		}
		_, err = a.store.For(who.PracticeID).Together(ctx, func(p *store.Practice) error {
			revision, err := p.HoldBattery(ctx)
			if err != nil {
				return err
			}
			if revision != b.revision {
				return errOtherTests
			}
			out, err = do(p, b)
			return err
		})
		if !errors.Is(err, errOtherTests) {
			return out, err
		}
		a.forget(who.PracticeID)
	}
	return nil, &Error{Kind: Conflict, Text: "The tests are being changed at this moment. Try again."}
}

// saveCells is SaveCells within a unit of work.
func (a *App) saveCells(ctx context.Context, who *Actor, p *store.Practice, b battery, id string, circumstances func(*athlete.Circumstances), changes []Change) (*saved, error) {
	of, err := p.LockScreen(ctx, id)
	if err != nil {
		return nil, words(err, "screen")
	}
	got, err := p.File(ctx, of)
	if err != nil {
		return nil, words(err, "golfer")
	}
	_, on, err := p.ScreenOf(ctx, id)
	if err != nil {
		return nil, words(err, "screen")
	}
	f := a.dress(who, &got.Facts)
	f.Battery = b.changes
	cells, fields := a.parse(who, f, b.tests, on, changes)
	if circumstances != nil {
		var c athlete.Circumstances
		circumstances(&c)
		if text := c.Check(); text != "" {
			fields = append(fields, Field{Name: "circumstances", Text: text})
		}
	}
	if len(fields) > 0 {
		return nil, &Error{Kind: Invalid, Text: fields[0].Text, Fields: fields}
	}
	s, err := p.SaveScreen(ctx, id, circumstances, cells)
	var clash *store.ClashError
	if errors.As(err, &clash) {
		return nil, clashWords(who, b.tests, clash)
	}
	if err != nil {
		return nil, words(err, "screen")
	}
	return &saved{f, s, b, a.method}, nil
}

func clashWords(who *Actor, tests *measure.Battery, clash *store.ClashError) *Error {
	e := &Error{Kind: Conflict, Text: "Somebody else wrote into the same cell."}
	for _, c := range clash.Cells {
		f := Field{Name: fmt.Sprintf("cells[%d].value", c.Index), Clash: &Clash{Seen: c.Rev}}
		if c.Now == nil {
			f.Text = "Somebody else cleared this cell meanwhile: keep yours, or leave it empty?"
		} else {
			t, _ := tests.Find(c.Now.Test)
			f.Clash.Text = shown(t, *c.Now, who)
			who := c.Now.Tester
			if who == "" {
				who = "Somebody else"
			}
			f.Text = fmt.Sprintf("%s wrote %s here meanwhile: keep yours, or take theirs?", who, f.Clash.Text)
		}
		e.Fields = append(e.Fields, f)
	}
	e.Text = e.Fields[0].Text
	return e
}

// parse reads changes into cells and names what is wrong with each.
func (a *App) parse(who *Actor, f *athlete.File, tests *measure.Battery, on civil.Date, changes []Change) ([]store.Cell, []Field) {
	var cells []store.Cell
	var fields []Field
	seen := map[string]int{}
	now := a.now().UTC().Format(time.RFC3339)
	for i, c := range changes {
		at := func(name string) string { return fmt.Sprintf("cells[%d].%s", i, name) }
		if c.Clear {
			cells = append(cells, store.Cell{Trial: measure.Trial{Test: c.Test, Side: measure.Side(c.Side), Number: c.Trial}, Clear: true, Seen: c.Seen})
			continue
		}
		if c.At == "" {
			c.At = now
		}
		if c.Tester == "" {
			c.Tester = who.Name
		}
		t, err := c.Parse(tests, f.Athlete.ReferenceVariant(on))
		if err != nil {
			var ce *measure.CellError
			if errors.As(err, &ce) {
				fields = append(fields, Field{Name: at(ce.Field), Text: ce.Text, Unlikely: ce.Unlikely})
			}
			continue
		}
		if text := mayNot(f, tests, t); text != "" {
			fields = append(fields, Field{Name: at("test"), Text: text})
			continue
		}
		if first, twice := seen[t.Key()]; twice {
			fields = append(fields, Field{Name: at("trial"), Text: fmt.Sprintf("the same trial as cell %d", first+1)})
			continue
		}
		seen[t.Key()] = i
		cells = append(cells, store.Cell{Trial: t, Seen: c.Seen})
	}
	return cells, fields
}

// mayNot says why a trial may not be recorded: tests that cost effort need a
// cleared golfer.
func mayNot(f *athlete.File, tests *measure.Battery, t measure.Trial) string {
	test, _ := tests.Find(t.Test)
	if c := f.ClearanceOn(f.AsOf); test.Exertion && t.Status == measure.Done && !c.MayExert() {
		return test.Name + " costs effort, and the golfer is not cleared for it. " + c.Text
	}
	return ""
}

// DeleteScreen removes a screen.
func (a *App) DeleteScreen(ctx context.Context, who *Actor, id string) error {
	return words(a.store.For(who.PracticeID).DeleteScreen(ctx, id), "screen")
}

// ImportTrials reads a CSV of one golfer's trials. With commit and without errors
// everything is saved; otherwise nothing is. A trial that is there already is an
// error unless it is the same.
func (a *App) ImportTrials(ctx context.Context, who *Actor, athleteID string, r io.Reader, commit, keepUnlikely bool) (*formats.TrialsCSV, bool, error) {
	var out formats.TrialsCSV
	body, err := io.ReadAll(io.LimitReader(r, formats.MaxCSV+1))
	if err != nil {
		return nil, false, err
	}
	_, err = a.write(ctx, who, func(p *store.Practice, b battery) (*saved, error) {
		if err := p.LockGolfer(ctx, athleteID); err != nil {
			return nil, words(err, "golfer")
		}
		got, err := p.File(ctx, athleteID)
		if err != nil {
			return nil, words(err, "golfer")
		}
		f := a.dress(who, &got.Facts)
		out = formats.ReadTrials(ctx, bytes.NewReader(body), b.tests, f.Athlete, keepUnlikely)
		if len(out.Errors) == 0 {
			out.Errors = append(out.Errors, a.importProblems(who, f, b.tests, out.Screens)...)
		}
		if !commit || len(out.Errors) > 0 {
			return nil, errLooked
		}
		return nil, words(p.ImportScreens(ctx, athleteID, out.Screens), "screen")
	})
	if errors.Is(err, errLooked) {
		return &out, false, nil
	}
	if err != nil {
		return nil, false, words(err, "screen")
	}
	return &out, true, nil
}

// errLooked ends a unit of work that only looked.
var errLooked = errors.New("nothing is saved")

func (a *App) importProblems(who *Actor, f *athlete.File, tests *measure.Battery, screens []athlete.Screen) []formats.RowError {
	var out []formats.RowError
	have := map[string]measure.Trial{}
	for _, s := range f.Screens {
		for _, t := range s.Trials {
			have[s.Date.String()+"|"+t.Key()] = t
		}
	}
	for _, s := range screens {
		if text := badDay(s.Date, a.Today(who.Zone), f.Athlete); text != "" {
			out = append(out, formats.RowError{Column: "date", Text: text})
		}
		for _, t := range s.Trials {
			if text := mayNot(f, tests, t); text != "" {
				out = append(out, formats.RowError{Column: "test", Text: text})
				break
			}
			old, there := have[s.Date.String()+"|"+t.Key()]
			if there && !sameResult(old, t) {
				test, _ := tests.Find(t.Test)
				out = append(out, formats.RowError{Column: "value", Text: fmt.Sprintf("the screen of %s already has %s %s trial %d with %s, the file says %s: change one of them", s.Date.Short(), t.Test, t.Side, t.Number, shown(test, old, who), shown(test, t, who))})
			}
		}
	}
	return out
}

// sameResult reports whether two trials say the same was measured.
func sameResult(a, b measure.Trial) bool {
	if (a.Lift == nil) != (b.Lift == nil) || a.Lift != nil && *a.Lift != *b.Lift {
		return false
	}
	return a.Status == b.Status && a.Value == b.Value && a.MassG == b.MassG
}

// shown writes what stands in a cell, in the units the practice sees.
func shown(test *measure.Test, t measure.Trial, who *Actor) string {
	if t.Status != measure.Done || test == nil {
		return string(t.Status)
	}
	return t.Text(test, who.Units.Shown(test.Unit))
}
