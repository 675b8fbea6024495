package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strings"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/label"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/quality"
	"dunnock/internal/formats"
	"dunnock/internal/formats/table"
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
		return fmt.Sprintf("%s is in the future: a screen is dated on the day it was done.", on.Words())
	case on.Before(p.BirthDate.Add(5 * 365)):
		return fmt.Sprintf("%s is before the golfer's fifth birthday.", on)
	}
	return ""
}

// LayPaste lays what was copied from a spreadsheet against the tests of a screen
// by the labels in it; ok is false where it has none. Nothing is saved.
func (a *App) LayPaste(ctx context.Context, who *Actor, id, text string) (laid label.Laid, ok bool, err error) {
	b, err := a.battery(ctx, who)
	if err != nil {
		return label.Laid{}, false, err
	}
	var got *store.Athlete
	err = a.store.For(who.PracticeID).Snapshot(ctx, func(p *store.Practice) error {
		of, _, err := p.ScreenOf(ctx, id)
		if err != nil {
			return words(err, "screen")
		}
		got, err = p.File(ctx, of)
		return words(err, "golfer")
	})
	if err != nil {
		return label.Laid{}, false, err
	}
	var grid [][]string
	for row := range strings.Lines(text) {
		if len(grid) == maxPasted {
			return label.Laid{}, false, &Error{Kind: Invalid, Text: fmt.Sprintf("More than %d rows were pasted: bring them in as a file.", maxPasted)}
		}
		cells := strings.Split(strings.TrimRight(row, "\r\n"), "\t")
		if len(cells) > maxAcross {
			return label.Laid{}, false, &Error{Kind: Invalid, Text: fmt.Sprintf("More than %d columns were pasted: bring them in as a file.", maxAcross)}
		}
		grid = append(grid, cells)
	}
	laid, ok = label.New(b.tests).Lay(grid, got.Facts.Athlete.PlayingSide == athlete.RightSided)
	return laid, ok, nil
}

// How many rows and columns of a spreadsheet are laid over a screen at once.
const (
	maxPasted = 500
	maxAcross = 60
)

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
	return sheetOf(s, f, b, b.method)
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
	t.Sentence = "Last on " + t.Date.Words() + ". " + t.Sentence
	return t
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

func (a *App) importProblems(who *Actor, f *athlete.File, tests *measure.Battery, screens []athlete.Screen) []table.RowError {
	var out []table.RowError
	have := map[string]measure.Trial{}
	for _, s := range f.Screens {
		for _, t := range s.Trials {
			have[s.Date.String()+"|"+t.Key()] = t
		}
	}
	for _, s := range screens {
		if text := badDay(s.Date, a.Today(who.Zone), f.Athlete); text != "" {
			out = append(out, table.RowError{Column: "date", Text: text})
		}
		for _, t := range s.Trials {
			if text := mayNot(f, tests, t); text != "" {
				out = append(out, table.RowError{Column: "test", Text: text})
				break
			}
			old, there := have[s.Date.String()+"|"+t.Key()]
			if there && !sameResult(old, t) {
				test, _ := tests.Find(t.Test)
				out = append(
					out,
					table.RowError{
						Column: "value",
						Text: fmt.Sprintf(
							"the screen of %s already has %s %s trial %d with %s, the file says %s: change one of them",
							s.Date.Words(),
							t.Test,
							t.Side,
							t.Number,
							shown(test, old, who),
							shown(test, t, who),
						),
					},
				)
			}
		}
	}
	return out
}
