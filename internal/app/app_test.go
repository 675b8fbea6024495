package app_test

import (
	"context"
	"encoding/json"
	"errors"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/civil"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/method"
	"dunnock/internal/core/plan"
	"dunnock/internal/core/programme/derive"
	"dunnock/internal/core/rulebook"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

func newStore(t *testing.T) *store.Store {
	t.Helper()
	return pgtest.Store(t)
}

func practice(t *testing.T, today civil.Date) (*app.App, *app.Actor, *store.Store) {
	t.Helper()
	s := pgtest.Store(t)
	a := app.New(s, time.Now, today)
	u, err := a.AddUser(context.Background(), app.Setup{Practice: "P", Zone: "Pacific/Auckland", Name: "N", Email: "n@example.org", Password: "long enough"}, true)
	require.NoError(t, err)
	return a, u, s
}

func kind(t *testing.T, err error) app.Kind {
	t.Helper()
	var e *app.Error
	require.ErrorAs(t, err, &e)
	assert.NotEmpty(t, e.Text)
	return e.Kind
}

// Today is the practice's, not the server's.
func TestTodayIsThePractices(t *testing.T) {
	evening := func() time.Time { return time.Date(2026, 11, 24, 20, 0, 0, 0, time.UTC) }
	a := app.New(nil, evening, civil.Date{})
	assert.Equal(t, "2026-11-25", a.Today("Pacific/Auckland").String())
	assert.Equal(t, "2026-11-24", a.Today("Europe/London").String())
	assert.Equal(t, "2026-11-24", a.Today("no such zone").String())
	assert.Equal(t, testkit.Day, app.New(nil, evening, testkit.Day).Today("Pacific/Auckland"))
}

// golfer stores a hand-worked golfer with their screen.
func golfer(t *testing.T, a *app.App, u *app.Actor, f *athlete.File) string {
	t.Helper()
	ctx := context.Background()
	g, err := a.AddGolfer(ctx, u, f.Athlete)
	require.NoError(t, err)
	facts := *f
	facts.Screens, facts.School = nil, "measured-gap"
	g, err = a.SaveGolfer(ctx, u, g.ID, g.Revision, &facts)
	require.NoError(t, err)
	for _, s := range f.Screens {
		sheet, err := a.NewScreen(ctx, u, g.ID, s.Date, nil)
		require.NoError(t, err)
		var changes []app.Change
		for _, tr := range s.Trials {
			test, _ := measure.Shipped().Find(tr.Test)
			changes = append(changes, app.Change{Cell: measure.Cell{Test: tr.Test, Side: string(tr.Side), Trial: tr.Number, Text: tr.Text(test, "")}})
		}
		_, err = a.SaveCells(ctx, u, sheet.ID, nil, changes, 0)
		require.NoError(t, err)
	}
	return g.ID
}

// What comes out of the database is what the core computes on the file.
func TestStoredAndFiledGolfersReadTheSame(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.School = "measured-gap"
	id := golfer(t, a, u, f)
	stored, err := a.Read(ctx, u, id, "")
	require.NoError(t, err)
	filed, err := plan.Generate(f, method.Shipped(), "t")
	require.NoError(t, err)
	assert.Equal(t, filed.Read, stored)
	v, err := a.Draft(ctx, u, id, app.Wanted{})
	require.NoError(t, err)
	assert.Equal(t, nameless(t, filed.Programme), nameless(t, v.View), "but for the ids, which are the golfer's own")
	assert.Equal(t, filed.Rules, v.Rules)
}

// nameless is the JSON of a programme without the ids of its parts.
func nameless(t *testing.T, p *derive.Programme) string {
	t.Helper()
	b, err := json.Marshal(p)
	require.NoError(t, err)
	return regexp.MustCompile(`"id":"[^"]*",`).ReplaceAllString(string(b), "")
}

// A draft goes on from the last issued version that began before it: what was done is
// known, and an undo and an edit keep it known.
func TestADraftGoesOnFromTheLastIssuedBlock(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	id := golfer(t, a, u, f)
	first, err := a.Draft(ctx, u, id, app.Wanted{Start: testkit.Day.Add(-28)})
	require.NoError(t, err)
	assert.Nil(t, first.Doc.Before)
	_, err = a.Issue(ctx, u, first.ID, first.Revision, "")
	require.NoError(t, err)
	second, err := a.Draft(ctx, u, id, app.Wanted{Start: testkit.Day})
	require.NoError(t, err)
	require.NotNil(t, second.Doc.Before)
	done := first.View.Blocks[0].Weeks[0].Sessions[0].Items[0].Exercise
	assert.Contains(t, second.Doc.Before.Last, done)
	second, err = a.Edit(ctx, u, second.ID, second.Revision, false, plan.Edit{Kind: plan.EditRemove, At: second.View.Blocks[0].Weeks[0].Sessions[0].Items[0].ID})
	require.NoError(t, err)
	second, err = a.Step(ctx, u, second.ID, -1)
	require.NoError(t, err)
	require.NotNil(t, second.Doc.Before)
	for _, r := range second.Rules {
		if r.Rule == "NOVEL" {
			assert.Equal(t, rulebook.Met, r.Status)
		}
	}
}

func TestWhatIsDueGravestFirst(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	due := func() string {
		rows, err := a.Squad(ctx, u, false)
		require.NoError(t, err)
		require.Len(t, rows, 1)
		return rows[0].Due.Text
	}
	g, err := a.AddGolfer(ctx, u, testkit.Strong().Athlete)
	require.NoError(t, err)
	assert.Equal(t, "Intake: questions open", due())
	save := func(do func(*athlete.File)) {
		t.Helper()
		f := g.Facts
		do(&f)
		g, err = a.SaveGolfer(ctx, u, g.ID, g.Revision, &f)
		require.NoError(t, err)
	}
	save(func(f *athlete.File) {
		f.Clearance = athlete.Clearance{AnsweredOn: testkit.Day, Yes: []string{"flag-faint"}}
	})
	assert.Equal(t, "Red flag: refer now, no training", due())
	save(func(f *athlete.File) { f.Clearance.Yes = []string{"heart"} })
	assert.Equal(t, "Intake: needs clearance", due())
	save(func(f *athlete.File) { f.Clearance.Yes = []string{} })
	assert.Equal(t, "Screen: none yet", due())
	weigh := func(s *app.Sheet) {
		t.Helper()
		_, err := a.SaveCells(ctx, u, s.ID, nil, []app.Change{{Cell: measure.Cell{Test: "mass", Trial: 1, Text: "80"}}}, 0)
		require.NoError(t, err)
	}
	sheet, err := a.NewScreen(ctx, u, g.ID, testkit.Day.Add(-60), nil)
	require.NoError(t, err)
	assert.Equal(t, "Screen: none yet", due(), "an empty screen is not done")
	weigh(sheet)
	assert.Equal(t, "Screen: retest due, last on Fri 25 Sep 2026", due())
	require.NoError(t, a.DeleteScreen(ctx, u, sheet.ID))
	sheet, err = a.NewScreen(ctx, u, g.ID, testkit.Day, nil)
	require.NoError(t, err)
	weigh(sheet)
	assert.Equal(t, "Programme: none yet", due())
	v, err := a.Draft(ctx, u, g.ID, app.Wanted{Start: testkit.Day.Add(-28)})
	require.NoError(t, err)
	assert.Equal(t, "Programme: draft to issue", due())
	_, err = a.Issue(ctx, u, v.ID, v.Revision, "")
	require.NoError(t, err)
	assert.Equal(t, "Programme: block ended, retest", due())
	v, err = a.Draft(ctx, u, g.ID, app.Wanted{Start: testkit.Day})
	require.NoError(t, err)
	_, err = a.Issue(ctx, u, v.ID, v.Revision, "")
	require.NoError(t, err)
	assert.Equal(t, "On version 2", due())
	got, err := a.Golfer(ctx, u, g.ID)
	require.NoError(t, err)
	assert.Equal(t, app.Path{Intake: "cleared", Screen: "done Tue 24 Nov 2026", Force: "none yet", Speed: "none yet", WarmUp: "none kept", Floor: "nothing logged", Read: "ready", Season: "no peak set", Programme: "version 2 issued", Progress: "block running"}, got.Path)
}

// A sheet speaks of its own day: neither a later screen nor an earlier one
// passes for it.
func TestASheetSpeaksOfItsDay(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.Screens[0].Trials = testkit.Trials(f.Athlete, "cmj", "", 34)
	f.Screens = append(
		f.Screens,
		athlete.Screen{Date: testkit.Day.Add(-30), Trials: append(testkit.Trials(f.Athlete, "cmj", "", 30), testkit.Trials(f.Athlete, "mass", "", 90)...)},
	)
	id := golfer(t, a, u, f)
	list, err := a.Screens(ctx, u, id)
	require.NoError(t, err)
	find := func(s *app.Sheet, test string) (status, sentence string, before float64) {
		for _, x := range s.Tests {
			if x.Test == test {
				if len(x.Sides) > 0 && x.Sides[0].Change != nil {
					before = x.Sides[0].Change.Before
				}
				return string(x.Status), x.Sentence, before
			}
		}
		return "", "", 0
	}
	newest, err := a.Sheet(ctx, u, list[0].ID)
	require.NoError(t, err)
	status, _, before := find(newest, "cmj")
	assert.Equal(t, "measured", status)
	assert.Equal(t, 30.0, before)
	status, sentence, _ := find(newest, "mass")
	assert.Equal(t, "not-measured", status)
	assert.Contains(t, sentence, "Last on Sun 25 Oct 2026")
	oldest, err := a.Sheet(ctx, u, list[1].ID)
	require.NoError(t, err)
	_, _, before = find(oldest, "cmj")
	assert.Zero(t, before, "a later screen is not its past")
}

func TestErrorsSayWhatToDo(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Weak())
	const nobody = "00000000-0000-4000-8000-000000000000"
	_, err := a.Golfer(ctx, u, nobody)
	assert.Equal(t, app.NotFound, kind(t, err))
	_, err = a.Golfer(ctx, u, "not an id")
	assert.Equal(t, app.NotFound, kind(t, err))
	_, err = a.NewScreen(ctx, u, id, testkit.Day.Add(1), nil)
	assert.Equal(t, app.Invalid, kind(t, err))
	_, err = a.NewScreen(ctx, u, id, civil.Date{}, nil)
	assert.Equal(t, app.Invalid, kind(t, err))
	_, err = a.NewScreen(ctx, u, id, civil.MustParse("1990-01-01"), nil)
	assert.ErrorContains(t, err, "fifth birthday")
	_, err = a.Read(ctx, u, id, "no-school")
	assert.Equal(t, app.Invalid, kind(t, err))
	_, err = a.AddUser(ctx, app.Setup{Practice: "P", Zone: "UTC", Name: "N", Email: "N@example.org", Password: "long enough"}, false)
	assert.Equal(t, app.Conflict, kind(t, err))
	_, err = a.Actor(ctx, nobody)
	assert.Equal(t, app.SignedOut, kind(t, err))
	_, _, err = a.ImportTrials(ctx, u, nobody, strings.NewReader(""), false, false)
	assert.Equal(t, app.NotFound, kind(t, err))

	s.Close()
	err = a.Healthy(ctx)
	require.Error(t, err)
	var known *app.Error
	assert.False(t, errors.As(err, &known), "a dead database is a fault, not something a coach can mend")
}
