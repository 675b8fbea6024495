package app_test

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/rotation"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats"
	"dunnock/internal/formats/sheets"
	"dunnock/internal/store"
)

// fresh is the user as the next request sees them, with the data version of now.
func fresh(t *testing.T, a *app.App, u *app.Actor) *app.Actor {
	t.Helper()
	now, err := a.Actor(context.Background(), u.UserID)
	require.NoError(t, err)
	return now
}

// squadOf stores n golfers with a jump tested twice within a week.
func squadOf(t *testing.T, a *app.App, u *app.Actor, n int) []string {
	t.Helper()
	first := []float64{34.2, 38.9, 29.7, 41.3, 36, 32.5, 45.1, 27.8, 39.4, 35.6}
	second := []float64{35, 38.1, 30.9, 42.6, 35.2, 33.9, 45.9, 28.1, 38.2, 36.7}
	var ids []string
	for i := range n {
		f := testkit.Strong()
		f.Athlete.Name = fmt.Sprintf("Golfer %02d", i)
		f.Screens = []athlete.Screen{
			{Date: testkit.Day.Add(-7), Trials: testkit.Trials(f.Athlete, "cmj", "", first[i])},
			{Date: testkit.Day, Trials: testkit.Trials(f.Athlete, "cmj", "", second[i])},
		}
		ids = append(ids, golfer(t, a, u, f))
	}
	return ids
}

// The typical error of the ten stored pairs is the one R gives for them, and it
// judges every golfer's change from then on.
func TestTheSquadsOwnErrorIsUsedFromTenPairs(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	ids := squadOf(t, a, u, 9)
	from := func() string {
		r, err := a.Read(ctx, fresh(t, a, u), ids[0], "")
		require.NoError(t, err)
		for _, x := range r.Tests {
			if x.Test == "cmj" {
				return x.ErrorFrom
			}
		}
		return ""
	}
	assert.Equal(t, "our default", from())
	f := testkit.Strong()
	f.Athlete.Name = "The tenth"
	f.Screens = []athlete.Screen{
		{Date: testkit.Day.Add(-7), Trials: testkit.Trials(f.Athlete, "cmj", "", 35.6)},
		{Date: testkit.Day, Trials: testkit.Trials(f.Athlete, "cmj", "", 36.7)},
	}
	tenth := golfer(t, a, u, f)
	assert.Equal(t, "this squad's 10 test-retest pairs", from())
	list, err := a.Repeats(ctx, fresh(t, a, u))
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.InDelta(t, 0.695581, list[0].Used, 1e-6)

	// The export carries it, so that the file reads the same elsewhere.
	file, err := a.Export(ctx, fresh(t, a, u), ids[0])
	require.NoError(t, err)
	assert.Equal(t, 10, file.Battery.Errors["cmj"].Pairs)

	require.NoError(t, a.EraseGolfer(ctx, u, tenth))
	assert.Equal(t, "our default", from(), "nine pairs are too few again")
}

func TestAGolferStandsInTheSquad(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	ids := squadOf(t, a, u, 6)
	r, err := a.Read(ctx, fresh(t, a, u), ids[3], "") // 42.6: the best of six
	require.NoError(t, err)
	for _, x := range r.Tests {
		if x.Test == "cmj" {
			require.NotNil(t, x.Sides[0].Squad)
			assert.Equal(t, 92.0, *x.Sides[0].Squad) // 100·5.5/6
		}
	}
}

func TestAnOwnTestKeepsItsMeaning(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	own := measure.Test{
		Name:       "Rope",
		Group:      "Strength",
		Unit:       "s",
		Kind:       measure.Unsided,
		Trials:     2,
		Rule:       measure.Best,
		Error:      1,
		Plausible:  [2]float64{1, 60},
		Impossible: [2]float64{0, 120},
	}
	b, err := a.EditBattery(ctx, u, 0, app.BatteryEdit{Test: &own})
	require.NoError(t, err)
	b, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{Test: &own})
	require.NoError(t, err)
	var ids []string
	for _, x := range b.Tests {
		if x.Own {
			ids = append(ids, x.ID)
		}
	}
	assert.Equal(t, []string{"own-rope", "own-rope-2"}, ids, "the same name twice gets an id of its own")

	changed := own
	changed.ID, changed.Unit = "own-rope", "cm"
	_, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{Test: &changed})
	assert.Equal(t, app.Refused, kind(t, err))
	changed.Unit, changed.Trials = "s", 1
	_, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{Test: &changed})
	assert.Equal(t, app.Refused, kind(t, err))
	changed.Trials, changed.Name = 3, "Rope climb"
	b, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{Test: &changed})
	require.NoError(t, err)

	for _, e := range []app.BatteryEdit{{}, {RemoveTest: "own-nope"}, {RemoveSet: "nope"}, {Set: &measure.Set{Name: "X"}}, {Set: &measure.Set{Tests: []string{"cmj"}}}, {Set: &measure.Set{Name: "X", Tests: []string{"cmj", "cmj"}}},
		{Targets: &app.TargetEdit{Test: "own-rope"}}, {Confidence: 42}} {
		_, err = a.EditBattery(ctx, u, b.Revision, e)
		assert.Error(t, err, "%+v", e)
	}
	b, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{Set: &measure.Set{Name: "Mine", Tests: []string{"own-rope", "cmj"}}})
	require.NoError(t, err)
	_, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{Set: &measure.Set{Name: "Mine", Tests: []string{"cmj"}}})
	assert.Equal(t, app.Conflict, kind(t, err))
	b, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{RemoveSet: "own-mine"})
	require.NoError(t, err)
	_, err = a.EditBattery(ctx, u, b.Revision, app.BatteryEdit{RemoveTest: "own-rope-2"})
	require.NoError(t, err)
}

func TestAScreenTakesTheLastOnesBatteryAndPlace(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	g, err := a.AddGolfer(ctx, u, testkit.Strong().Athlete)
	require.NoError(t, err)
	quick := "quick"
	s, err := a.NewScreen(ctx, u, g.ID, testkit.Day.Add(-20), &quick)
	require.NoError(t, err)
	assert.Len(t, s.Set, 7)
	_, err = a.SaveCells(ctx, u, s.ID, func(c *athlete.Circumstances) { c.Place, c.Floor = "barn", "rubber" }, nil, 0)
	require.NoError(t, err)
	_, err = a.SaveCells(ctx, u, s.ID, func(c *athlete.Circumstances) { c.Intent = "flat out" }, nil, 0)
	assert.Equal(t, app.Invalid, kind(t, err))
	s, err = a.NewScreen(ctx, u, g.ID, testkit.Day, nil)
	require.NoError(t, err)
	assert.Equal(t, []string{"quick", "barn", "rubber", u.Name}, []string{s.Circumstances.Set, s.Place, s.Floor, s.Circumstances.Tester})
	assert.Empty(t, s.Intent, "intent is said anew each time")
}

func TestDaysThatAreRefused(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	id := golfer(t, a, u, testkit.Strong())
	good := app.DayRequest{Date: testkit.Day.Add(3), Name: "Day", Start: "09:00", Athletes: []string{id}, Set: "quick"}
	for name, do := range map[string]func(*app.DayRequest){
		"no day":       func(r *app.DayRequest) { r.Date = testkit.Day.Add(-400) },
		"no name":      func(r *app.DayRequest) { r.Name = "  " },
		"nobody":       func(r *app.DayRequest) { r.Athletes = nil },
		"twice":        func(r *app.DayRequest) { r.Athletes = []string{id, id} },
		"unknown test": func(r *app.DayRequest) { r.Stations = []rotation.TestStation{{Tests: []string{"nope"}}} },
		"no tests":     func(r *app.DayRequest) { r.Stations = []rotation.TestStation{{}} },
	} {
		r := good
		do(&r)
		_, err := a.PlanDay(ctx, u, r, true)
		assert.Equal(t, app.Invalid, kind(t, err), name)
	}
	d, err := a.PlanDay(ctx, u, good, false)
	require.NoError(t, err)
	_, err = a.SaveAtStation(ctx, u, d.ID, id, []app.Change{{Cell: measure.Cell{Test: "mass", Trial: 1, Text: "80"}}})
	assert.Equal(t, app.Refused, kind(t, err), "results of a day to come are not written down")
	_, err = a.SaveAtStation(ctx, u, d.ID, "00000000-0000-0000-0000-000000000000", nil)
	assert.Equal(t, app.NotFound, kind(t, err))

	// A golfer who is erased leaves a place without a name, and the day still opens.
	require.NoError(t, a.EraseGolfer(ctx, u, id))
	d, err = a.Day(ctx, u, d.ID)
	require.NoError(t, err)
	assert.Equal(t, "(erased)", d.Golfers[0].Name)
	_, rows, _, err := a.Station(ctx, u, d.ID, 0)
	require.NoError(t, err)
	assert.Empty(t, rows)
}

// bring uploads a table, checks it with a change to the proposed mapping and
// waits for the verdict.
func bring(t *testing.T, a *app.App, u *app.Actor, table string, change func(*sheets.Mapping)) *app.ImportView {
	t.Helper()
	ctx := context.Background()
	v, err := a.Upload(ctx, u, "t.csv", strings.NewReader(table))
	require.NoError(t, err)
	m := v.Proposed
	change(&m)
	_, err = a.CheckImport(ctx, u, v.ID, m)
	require.NoError(t, err)
	return wait(t, a, u, v.ID)
}

func wait(t *testing.T, a *app.App, u *app.Actor, id string) *app.ImportView {
	t.Helper()
	for range 500 {
		v, err := a.Import(context.Background(), u, id)
		require.NoError(t, err)
		if v.State != store.Checking && v.State != store.Saving {
			return v
		}
		time.Sleep(10 * time.Millisecond)
	}
	t.Fatal("the import does not end")
	return nil
}

func TestVerdictsOfAnImport(t *testing.T) {
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.School = "measured-gap"
	golfer(t, a, u, f)
	twin := testkit.Strong()
	twin.Athlete.BirthDate = twin.Athlete.BirthDate.Add(1)
	twin.Screens = nil
	golfer(t, a, u, twin)
	rows := "golfer,birth date,date,test,side,trial,value,unit,status\n"
	none := func(*sheets.Mapping) {}
	for row, says := range map[string]string{
		"Worked A,,2026-11-20,cmj,,1,30,cm,":                       "there are 2 golfers named",
		"Worked A,1991-03-10,2026-11-24,cmj,,1,30,cm,":             "has 33.1 here already, the file says 30",
		"Worked A,1999-01-01,2026-11-20,cmj,,1,30,cm,":             "has another birth date here",
		"Nobody,1991-03-10,2026-11-20,cmj,,1,30,cm,":               "there is no golfer",
		"Worked A,1991-03-10,2027-01-01,cmj,,1,30,cm,":             "in the future",
		"Worked A,1991-03-10,2026-11-20,cmj,,1,abc,cm,":            "not a number",
		"Worked A,1991-03-10,2026-11-20,cmj,,7,30,cm,":             "trials 1 to 3",
		"Worked A,1991-03-10,2026-11-20,cmj,,1,30,kg,":             "measured in cm",
		"Worked A,1991-03-10,2026-11-20,cmj,lead,1,30,cm,":         "has no sides",
		"Worked A,1991-03-10,2026-11-20,cmj,,1,30,cm,half-hearted": "status",
	} {
		v := bring(t, a, u, rows+row+"\n", none)
		require.Equal(t, 1, v.Report.ErrorRows, row)
		assert.Contains(t, v.Report.Errors[0].Text, says, row)
		assert.Contains(t, v.Report.Verdicts[0].Text, says)
	}
	v := bring(t, a, u, rows+"Worked A,1991-03-10,2026-11-20,cmj,,1,30,cm,\nWorked A,1991-03-10,2026-11-20,cmj,,1,31,cm,\n", none)
	assert.Contains(t, v.Report.Errors[0].Text, "the same trial as row 2")
	v = bring(t, a, u, rows+"Worked A,1991-03-10,2026-11-24,cmj,,1,33.1,cm,\n", none)
	assert.Zero(t, v.Report.ErrorRows, "what is there already is no quarrel")
}

func TestNewGolfersComeOnlyWhenAskedFor(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	table := "golfer,birth date,playing side,sex,date,cmj,grip lead 1\nAda North,1990-05-01,left,f,2026-11-20,28,\nBo South,1990-05-02,,m,2026-11-20,30,\n"
	v := bring(t, a, u, table, func(m *sheets.Mapping) { m.AddGolfers = true })
	require.Equal(t, 1, v.Report.ErrorRows)
	assert.Contains(t, v.Report.Errors[0].Text, "birth date and playing side are needed")
	v = bring(t, a, u, strings.Replace(table, "02,,m", "02,r,m", 1), func(m *sheets.Mapping) { m.AddGolfers = true })
	require.Zero(t, v.Report.ErrorRows, "%+v", v.Report)
	assert.Equal(t, []string{"Ada North", "Bo South"}, v.Report.NewGolfers)
	_, err := a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err)
	require.Equal(t, store.Saved, wait(t, a, u, v.ID).State)
	squad, err := a.Squad(ctx, u, false)
	require.NoError(t, err)
	require.Len(t, squad, 2)
	assert.Equal(t, "left", squad[0].Side)
	_, err = a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err, "asking again is no error, and saves nothing twice")
	squad, err = a.Squad(ctx, u, false)
	require.NoError(t, err)
	require.Len(t, squad, 2)
	_, err = a.UndoImport(ctx, u, v.ID)
	require.NoError(t, err)
	squad, err = a.Squad(ctx, u, false)
	require.NoError(t, err)
	assert.Empty(t, squad, "golfers it made go with it")
}

func TestFilesThatAreNoGolfer(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.School = "no such school"
	f.Battery = &measure.Changes{
		Own: []measure.Test{
			{
				ID:         "own-rope",
				Name:       "Rope",
				Group:      "Strength",
				Unit:       "s",
				Kind:       measure.Unsided,
				Trials:     2,
				Rule:       measure.Best,
				Error:      1,
				Plausible:  [2]float64{1, 60},
				Impossible: [2]float64{0, 120},
			},
		},
	}
	f.Screens[0].Trials = append(f.Screens[0].Trials, measure.Trial{Test: "own-rope", Number: 1, Status: measure.Done, Value: 9})
	var b bytes.Buffer
	require.NoError(t, formats.WriteJSON(&b, f))
	g, err := a.BringGolfer(ctx, u, bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, "measured-gap", g.Facts.School, "a school we do not have is the usual one")
	view, err := a.Battery(ctx, fresh(t, a, u))
	require.NoError(t, err)
	found := false
	for _, x := range view.Tests {
		found = found || x.ID == "own-rope"
	}
	assert.True(t, found, "its own test came with it")
	_, err = a.BringGolfer(ctx, u, bytes.NewReader(b.Bytes()))
	assert.Equal(t, app.Conflict, kind(t, err))
	f.Athlete.Name, f.Battery.Own[0].Unit = "Another", "cm"
	b.Reset()
	require.NoError(t, formats.WriteJSON(&b, f))
	_, err = a.BringGolfer(ctx, u, bytes.NewReader(b.Bytes()))
	assert.Equal(t, app.Conflict, kind(t, err), "their test of that name is another one")
	_, err = a.BringGolfer(ctx, u, strings.NewReader("golfer,date\n"))
	assert.Equal(t, app.Invalid, kind(t, err))
}
