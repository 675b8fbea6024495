package app_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
	"dunnock/internal/formats/sheets"
	"dunnock/internal/store"
)

// breakOff makes the database refuse a change of a table in the middle of
// whatever is going on, until the test mends it.
func breakOff(t *testing.T, s *store.Store, table, when string) (mend func()) {
	t.Helper()
	ctx := context.Background()
	_, err := s.Pool().Exec(ctx, `CREATE FUNCTION break_off() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'broken off'; END $$;`)
	require.NoError(t, err)
	_, err = s.Pool().Exec(ctx, fmt.Sprintf("CREATE TRIGGER break_off BEFORE %s ON %s FOR EACH ROW EXECUTE FUNCTION break_off()", when, table))
	require.NoError(t, err)
	return func() {
		_, err := s.Pool().Exec(ctx, "DROP FUNCTION break_off CASCADE")
		require.NoError(t, err)
	}
}

// A golfer's export comes in whole or not at all, and can be tried again.
func TestAGolferFileIsAllOrNothing(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	f := testkit.Strong()
	f.AsOf, f.Battery = testkit.Day, &measure.Changes{
		Own: []measure.Test{
			{
				ID:         "own-x",
				Name:       "X",
				Group:      "Strength",
				Unit:       "kg",
				Kind:       "none",
				Trials:     1,
				Rule:       "best",
				Error:      1,
				Plausible:  [2]float64{1, 9},
				Impossible: [2]float64{0, 10},
				Source:     "own",
				Own:        true,
			},
		},
	}
	var b bytes.Buffer
	require.NoError(t, formats.WriteJSON(&b, f))
	for _, table := range []string{"trials", "screens", "athletes", "battery_changes"} {
		mend := breakOff(t, s, table, "INSERT")
		_, err := a.BringGolfer(ctx, u, bytes.NewReader(b.Bytes()))
		require.Error(t, err, table)
		rows, err := a.Squad(ctx, u, false)
		require.NoError(t, err)
		assert.Empty(t, rows, table)
		v, err := a.Battery(ctx, u)
		require.NoError(t, err)
		assert.Zero(t, v.Revision, "nor is the own test there")
		mend()
	}
	g, err := a.BringGolfer(ctx, u, bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	assert.Len(t, g.Lane.Screens, len(f.Screens))
	_, err = a.BringGolfer(ctx, u, bytes.NewReader(b.Bytes()))
	assert.Equal(t, app.Conflict, kind(t, err))
}

// Golfer files obey the limits of the forms.
func TestGolferFilesObeyTheLimits(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	for says, change := range map[string]func(*athlete.File){
		"letters":    func(f *athlete.File) { f.Athlete.Name = strings.Repeat("x", 121) },
		"seen":       func(f *athlete.File) { f.Athlete.Name = "\u200b" },
		"line break": func(f *athlete.File) { f.Athlete.Name = "a\nb" },
		"code 0":     func(f *athlete.File) { f.Athlete.GoalText = "a\x00" },
		"110 years":  func(f *athlete.File) { f.Athlete.BirthDate = civil.MustParse("0009-01-01") },
		"right or l": func(f *athlete.File) { f.Athlete.WritingHand = "both" },
		"after the":  func(f *athlete.File) { f.Screens[0].Date = f.AsOf.Add(3) },
		"ahead":      func(f *athlete.File) { f.Competitions = []athlete.Competition{{Date: f.AsOf.Add(40 * 366), Name: "x"}} },
		"at most 30": func(f *athlete.File) {
			for range 31 {
				f.Limits = append(f.Limits, athlete.Limit{Region: "hip", Kind: athlete.NoImpact, SetBy: "coach"})
			}
		},
		"400 kg": func(f *athlete.File) {
			f.Limits = []athlete.Limit{{Region: "hip", Kind: athlete.LoadCap, CapKg: 1e9, SetBy: "coach"}}
		},
		"and 40 kg":     func(f *athlete.File) { f.Training.BarKg = 1e200 },
		"at most 300":   func(f *athlete.File) { f.Screens[0].Trials[0].Note = strings.Repeat("x", 301) },
		"sessions a we": func(f *athlete.File) { f.Training.Sessions = 3_000_000_000 },
	} {
		f := testkit.Strong()
		f.AsOf = testkit.Day
		change(f)
		var b bytes.Buffer
		require.NoError(t, formats.WriteJSON(&b, f))
		_, err := a.BringGolfer(ctx, u, &b)
		require.Error(t, err, says)
		assert.Equal(t, app.Invalid, kind(t, err), says)
		assert.ErrorContains(t, err, says)
	}
	rows, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Empty(t, rows)
}

// An undo that is broken off in the middle leaves everything as it was, says so,
// and can be done again.
func TestAnUndoBrokenOffCanBeDoneAgain(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	table := "golfer,birthDate,playingSide,date,test,trial,value\nAda North,1990-01-02,r,2026-11-02,cmj,1,30\n"
	v := bring(t, a, u, table, func(m *sheets.Mapping) { m.AddGolfers = true })
	_, err := a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err)
	require.Equal(t, store.Saved, wait(t, a, u, v.ID).State)
	for _, c := range []string{"trials", "screens", "athletes"} {
		mend := breakOff(t, s, c, "DELETE")
		_, err = a.UndoImport(ctx, u, v.ID)
		require.Error(t, err, c)
		got, err := a.Import(ctx, u, v.ID)
		require.NoError(t, err)
		assert.Equal(t, store.Saved, got.State, "what is shown is what is there")
		rows, err := a.Squad(ctx, u, false)
		require.NoError(t, err)
		require.Len(t, rows, 1)
		assert.Len(t, rows[0].Lane.Screens, 1)
		mend()
	}
	got, err := a.UndoImport(ctx, u, v.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Undone, got.State)
	rows, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Empty(t, rows)
}

// A save that is broken off ends as failed with nothing saved, and the file can be
// checked and saved again.
func TestASaveBrokenOffCanBeDoneAgain(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	table := "golfer,birthDate,playingSide,date,test,trial,value\nAda North,1990-01-02,r,2026-11-02,cmj,1,30\n"
	v := bring(t, a, u, table, func(m *sheets.Mapping) { m.AddGolfers = true })
	mend := breakOff(t, s, "trials", "INSERT")
	_, err := a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err)
	got := wait(t, a, u, v.ID)
	assert.Equal(t, store.Failed, got.State)
	rows, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Empty(t, rows)
	mend()
	_, err = a.CheckImport(ctx, u, v.ID, got.Proposed)
	require.NoError(t, err)
	require.Equal(t, store.Checked, wait(t, a, u, v.ID).State)
	_, err = a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err)
	assert.Equal(t, store.Saved, wait(t, a, u, v.ID).State)
}

// A tidy export comes back into an empty practice without a hand.
func TestATidyExportComesBackWithoutAHand(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	golfer(t, a, u, testkit.Strong())
	golfer(t, a, u, testkit.Weak())
	files, tests, err := a.ExportFiles(ctx, u)
	require.NoError(t, err)
	trials := 0
	for _, f := range files {
		for _, s := range f.Screens {
			trials += len(s.Trials)
		}
	}
	for _, kind := range []string{"csv", "xlsx"} {
		var b bytes.Buffer
		if kind == "csv" {
			require.NoError(t, formats.WriteTidyCSV(&b, files))
		} else {
			require.NoError(t, formats.WriteTidyXLSX(&b, files, tests))
		}
		other, v, _ := practice(t, testkit.Day)
		x, err := other.Upload(ctx, v, "tidy."+kind, &b)
		require.NoError(t, err)
		for i, c := range x.Proposed.Columns {
			if x.Header[i] != "time" {
				assert.NotEmpty(t, c.Field, "%s: %s", kind, x.Header[i])
			}
		}
		m := x.Proposed
		m.AddGolfers = true
		_, err = other.CheckImport(ctx, v, x.ID, m)
		require.NoError(t, err)
		checked := wait(t, other, v, x.ID)
		require.Zero(t, checked.Report.ErrorRows, "%+v", checked.Report.Errors)
		assert.Equal(t, trials, checked.Report.Trials)
	}
}

// A test that somebody types a result of is not removed at that moment: either it
// stays with its result, or it goes and the result is refused.
func TestATestInUseIsNotRemovedByARace(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Strong())
	screens, err := a.Screens(ctx, u, id)
	require.NoError(t, err)
	for range 25 {
		u = asNow(t, a, u)
		v, err := a.Battery(ctx, u)
		require.NoError(t, err)
		v, err = a.EditBattery(
			ctx,
			u,
			v.Revision,
			app.BatteryEdit{
				Test: &measure.Test{
					Name:       "Rope climb",
					Group:      "Strength",
					Unit:       "s",
					Kind:       "none",
					Trials:     1,
					Rule:       "best",
					Error:      1,
					Plausible:  [2]float64{3, 60},
					Impossible: [2]float64{1, 120},
					Setup:      "x",
				},
			},
		)
		require.NoError(t, err)
		own := ""
		for _, x := range v.Tests {
			if x.Own {
				own = x.ID
			}
		}
		u = asNow(t, a, u)
		var wg sync.WaitGroup
		var typed, removed error
		wg.Go(func() {
			_, typed = a.SaveCells(ctx, u, screens[0].ID, nil, []app.Change{{Cell: measure.Cell{Test: own, Trial: 1, Text: "10"}}}, 0)
		})
		wg.Go(func() {
			_, removed = a.EditBattery(ctx, u, v.Revision, app.BatteryEdit{RemoveTest: own})
		})
		wg.Wait()
		require.False(t, typed == nil && removed == nil, "the result is there and its test is not")
		if typed == nil {
			require.Error(t, removed)
			u = asNow(t, a, u)
			_, err = a.SaveCells(ctx, u, screens[0].ID, nil, []app.Change{{Cell: measure.Cell{Test: own, Trial: 1}, Clear: true}}, 0)
			require.NoError(t, err)
			u = asNow(t, a, u)
			v, err = a.Battery(ctx, u)
			require.NoError(t, err)
			_, err = a.EditBattery(ctx, u, v.Revision, app.BatteryEdit{RemoveTest: own})
			require.NoError(t, err)
		}
	}
}

// A database that is gone is an error, never a golfer who was erased.
func TestAHiccupIsNoErasure(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Strong())
	d, err := a.PlanDay(ctx, u, app.DayRequest{Date: testkit.Day, Name: "D", Start: "09:00", Athletes: []string{id}, Set: "usual"}, false)
	require.NoError(t, err)
	_, rows, _, err := a.Station(ctx, u, d.ID, 0)
	require.NoError(t, err)
	require.Len(t, rows, 1)
	s.Close()
	_, _, _, err = a.Station(ctx, u, d.ID, 0)
	require.Error(t, err)
	var known *app.Error
	assert.False(t, errors.As(err, &known) && known.Kind == app.NotFound)
	_, err = a.Golfer(ctx, u, id)
	require.Error(t, err)
	assert.False(t, errors.As(err, &known) && known.Kind == app.NotFound)
}

// A restart forgets the wrong tries of the first run's code.
func TestARestartForgetsWrongCodes(t *testing.T) {
	ctx := context.Background()
	s := newStore(t)
	a := app.New(s, time.Now, testkit.Day)
	_, err := a.NewSetupCode(ctx)
	require.NoError(t, err)
	setup := app.Setup{Code: "WRONG", Practice: "P", Zone: "UTC", Name: "N", Email: "n@example.org", Password: "long enough"}
	here := app.Visitor{Remote: "127.0.0.1"}
	for range 5 {
		_, _, err = a.FirstRun(ctx, setup, here)
		assert.Equal(t, app.Invalid, kind(t, err))
	}
	_, _, err = a.FirstRun(ctx, setup, here)
	assert.Equal(t, app.TooMany, kind(t, err))
	b := app.New(s, time.Now, testkit.Day)
	code, err := b.NewSetupCode(ctx)
	require.NoError(t, err)
	setup.Code = code
	setup.Password = "short"
	for range 8 {
		_, _, err = b.FirstRun(ctx, setup, here)
		assert.Equal(t, app.Invalid, kind(t, err), "the right code is no try")
	}
	setup.Password = "long enough"
	_, _, err = b.FirstRun(ctx, setup, here)
	require.NoError(t, err)
}

// What is wrong with a new user is said in sentences, each by its field.
func TestAddingAUserAnswersInSentences(t *testing.T) {
	a := app.New(newStore(t), time.Now, testkit.Day)
	_, err := a.AddUser(context.Background(), app.Setup{Practice: "\u200b", Zone: "Mars/Base", Name: strings.Repeat("x", 121), Email: "nobody", Password: "short"}, false)
	var e *app.Error
	require.ErrorAs(t, err, &e)
	require.Len(t, e.Fields, 5)
	for _, f := range e.Fields {
		assert.True(t, strings.HasSuffix(f.Text, "."), f.Text)
	}
}

// One golfer's change is worked into what is known of the practice without the
// others' being read anew, and the answers are those of reading everything.
func TestOneChangeDoesNotForgetTheOthers(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	ids := []string{golfer(t, a, u, testkit.Strong()), golfer(t, a, u, testkit.Weak())}
	for i := range 12 { // pairs of screens within ten days, so that errors are measured
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Repeat %d", i)
		second := f.Screens[0]
		second.Date = second.Date.Add(-6)
		second.Trials = testkit.Trials(f.Athlete, "cmj", "", 35+float64(i%3))
		f.Screens = append(f.Screens, second)
		ids = append(ids, golfer(t, a, u, f))
	}
	for i, id := range ids {
		u = asNow(t, a, u)
		_, err := a.Read(ctx, u, id, "")
		require.NoError(t, err)
		screens, err := a.Screens(ctx, u, id)
		require.NoError(t, err)
		_, err = a.SaveCells(ctx, u, screens[0].ID, nil, []app.Change{{Cell: measure.Cell{Test: "cmj", Trial: 1, Text: fmt.Sprint(33 + i%5)}}}, 0)
		require.NoError(t, err)
		u = asNow(t, a, u)
		fresh := app.New(s, time.Now, testkit.Day)
		for _, other := range ids {
			kept, err := a.Read(ctx, u, other, "")
			require.NoError(t, err)
			anew, err := fresh.Read(ctx, u, other, "")
			require.NoError(t, err)
			require.Equal(t, anew, kept)
		}
	}
	require.NoError(t, a.EraseGolfer(ctx, u, ids[3]))
	u = asNow(t, a, u)
	kept, err := a.Repeats(ctx, u)
	require.NoError(t, err)
	anew, err := app.New(s, time.Now, testkit.Day).Repeats(ctx, u)
	require.NoError(t, err)
	assert.Equal(t, anew, kept)
}
