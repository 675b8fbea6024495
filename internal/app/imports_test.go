package app_test

import (
	"bytes"
	"context"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dunnock/internal/app"
	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/formats/sheets"
	"dunnock/internal/store"
)

// A file names golfers in its own way and sides by left and right: whom it means is
// asked once and remembered, and which side is lead depends on the golfer.
func TestNamesAreAskedOnceAndHandsAreTheGolfers(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	right, left := testkit.Strong(), testkit.Strong()
	right.Athlete.Name, right.Screens = "Ada North", nil
	left.Athlete.Name, left.Athlete.PlayingSide, left.Screens = "Bo South", athlete.LeftSided, nil
	ada := golfer(t, a, u, right)
	bo := golfer(t, a, u, left)
	const text = "Name,Date,Grip L,Grip R\n\"North, Ada\",20/11/2026,40,38\nB. South,20/11/2026,48,47\nSomebody Else,20/11/2026,30,31\n"
	v := bring(t, a, u, text, func(*sheets.Mapping) {})
	require.Equal(t, 2, v.Report.ErrorRows, "%+v", v.Report.Errors)
	require.Len(t, v.Report.AskGolfers, 2)
	assert.Equal(t, sheets.Ask{Written: "B. South", Rows: 1, Near: []sheets.Choice{{ID: bo, Name: "Bo South"}}}, v.Report.AskGolfers[0])
	assert.Empty(t, v.Report.AskGolfers[1].Near)
	assert.Contains(t, v.Report.Errors[1].Text, `no golfer "Somebody Else"`)

	said := func(m *sheets.Mapping) {
		m.Golfers = map[string]string{"B. South": bo, "Somebody Else": sheets.LeaveOut}
	}
	v = bring(t, a, u, text, said)
	require.Zero(t, v.Report.ErrorRows, "%+v", v.Report.Errors)
	assert.Contains(t, v.Report.LeftOut, `1 row of "Somebody Else"`)
	_, err := a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err)
	require.Equal(t, store.Saved, wait(t, a, u, v.ID).State)
	for id, lead := range map[string]float64{ada: 40, bo: 47} {
		f, _, err := a.ExportFiles(ctx, u, id)
		require.NoError(t, err)
		for _, trial := range f[0].Screens[0].Trials {
			if trial.Side == measure.Side(measure.Lead) {
				assert.Equal(t, lead, trial.Value, "the lead hand of who plays from the right is the left")
			}
		}
	}
	got, err := a.Golfer(ctx, u, bo)
	require.NoError(t, err)
	assert.Equal(t, []string{"B. South"}, got.Facts.Athlete.AlsoWritten)

	again := strings.ReplaceAll(strings.Split(text, "Somebody")[0], "20/11", "21/11")
	v = bring(t, a, u, again, func(*sheets.Mapping) {})
	assert.Zero(t, v.Report.ErrorRows, "it is not asked again: %+v", v.Report.Errors)

	// The name goes with the golfer, and so do the files it is written in.
	require.NoError(t, a.EraseGolfer(ctx, u, bo))
	left2, err := a.Import(ctx, u, v.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Failed, left2.State)
	assert.Nil(t, left2.Header)
}

// A workbook's other sheet is chosen, and the header said by hand.
func TestASheetAndItsHeaderAreChosen(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.Athlete.Name, f.Screens = "Ada North", nil
	golfer(t, a, u, f)
	book := excelize.NewFile()
	for i, row := range [][]any{{"Name", "Date", "CMJ", "Grip L"}, {"Ada North", "Fri 20 Nov 2026", 31, 40}} {
		at, _ := excelize.CoordinatesToCellName(1, i+1)
		require.NoError(t, book.SetSheetRow("Sheet1", at, &row))
	}
	_, err := book.NewSheet("Spring")
	require.NoError(t, err)
	for i, row := range [][]any{{"what we did"}, {"who", "when", "jump"}, {"Ada North", "Mon 20 Apr 2026", 29}} {
		at, _ := excelize.CoordinatesToCellName(1, i+1)
		require.NoError(t, book.SetSheetRow("Spring", at, &row))
	}
	var b bytes.Buffer
	require.NoError(t, book.Write(&b))
	v, err := a.Upload(ctx, u, "book.xlsx", &b)
	require.NoError(t, err)
	assert.Equal(t, []app.ImportPage{{Name: "Sheet1", Rows: 2}, {Name: "Spring", Rows: 3}}, v.Sheets)
	assert.Equal(t, sheets.Layout{Sheet: 0, Top: 1, Heads: 1}, v.Proposed.Layout)
	v, err = a.LayImport(ctx, u, v.ID, sheets.Layout{Sheet: 1})
	require.NoError(t, err)
	assert.Equal(t, sheets.Layout{Sheet: 1, Top: 2, Heads: 1}, v.Proposed.Layout)
	assert.Equal(t, []string{"who", "when", "jump"}, v.Header)
	assert.Equal(t, "what we did", v.First[0].Cells[0])
	_, err = a.LayImport(ctx, u, v.ID, sheets.Layout{Sheet: 7})
	assert.Equal(t, app.Invalid, kind(t, err))
	_, err = a.LayImport(ctx, u, v.ID, sheets.Layout{Sheet: 1, Top: 99, Heads: 1})
	assert.Equal(t, app.Invalid, kind(t, err))
	m := v.Proposed
	m.Columns[2] = sheets.MappingColumn{Field: sheets.Measure, Test: "cmj", Trial: 1}
	_, err = a.CheckImport(ctx, u, v.ID, m)
	require.NoError(t, err)
	v = wait(t, a, u, v.ID)
	require.Zero(t, v.Report.ErrorRows, "%+v", v.Report.Errors)
	assert.Equal(t, 1, v.Report.Trials)
}

// What an earlier version kept of an upload, one header and its rows, is read on.
func TestAnUploadOfAnEarlierVersionIsReadOn(t *testing.T) {
	ctx := context.Background()
	a, u, s := practice(t, testkit.Day)
	f := testkit.Strong()
	f.Athlete.Name, f.Screens = "Ada North", nil
	golfer(t, a, u, f)
	const (
		head   = `{"table":{"kind":"csv","separator":59,"header":["Name","Day","CMJ"],"rows":[{"l":2,"c":["Ada North","20.11.2026","31,5"]}]},"rows":1,"print":"x"}`
		parsed = `{"kind":"csv","separator":59,"header":["Name","Day","CMJ"],"rows":[{"l":2,"c":["Ada North","20.11.2026","31,5"]}]}`
		mapped = `{"source":"","decimal":",","dates":"DD.MM.YYYY","columns":[{"field":"golfer"},{"field":"date"},{"field":"measure","test":"cmj","trial":1}]}`
	)
	id, err := s.For(u.PracticeID).CreateImport(ctx, "old.csv", "N", head, []byte(parsed))
	require.NoError(t, err)
	v, err := a.Import(ctx, u, id)
	require.NoError(t, err)
	assert.Equal(t, []string{"Name", "Day", "CMJ"}, v.Header)
	var m sheets.Mapping
	require.NoError(t, json.Unmarshal([]byte(mapped), &m))
	_, err = a.CheckImport(ctx, u, id, m)
	require.NoError(t, err)
	v = wait(t, a, u, id)
	require.Zero(t, v.Report.ErrorRows, "%+v", v.Report.Errors)
	assert.Equal(t, []int{1, 1}, []int{v.Report.Trials, v.Report.GoodRows})
	_, err = a.CommitImport(ctx, u, id, false)
	require.NoError(t, err)
	assert.Equal(t, store.Saved, wait(t, a, u, id).State)
}

// Two who are new and have one name are told apart by their birth dates, and a row that has
// none is asked about.
func TestTwoNewGolfersOfOneName(t *testing.T) {
	a, u, _ := practice(t, testkit.Day)
	const head = "golfer,birth date,playing side,date,cmj\n"
	rows := "Ada North,1990-05-01,left,2026-11-20,28\nAda North,1995-05-01,left,2026-11-20,30\n"
	v := bring(t, a, u, head+rows, func(m *sheets.Mapping) { m.AddGolfers = true })
	assert.Equal(t, []string{"Ada North", "Ada North"}, v.Report.NewGolfers)
	v = bring(t, a, u, head+rows+"Ada North,,,2026-11-21,31\n", func(m *sheets.Mapping) { m.AddGolfers = true })
	require.Equal(t, 1, v.Report.ErrorRows)
	assert.Contains(t, v.Report.Errors[0].Text, "there are 2 golfers named")
}

// The order of day and month that is said at the look counts for days over columns too.
func TestAnOrderSaidAtTheLookCountsForDaysOverColumns(t *testing.T) {
	ctx := context.Background()
	a, u, _ := practice(t, testkit.Day)
	f := testkit.Strong()
	f.Athlete.Name, f.Screens = "Ada North", nil
	id := golfer(t, a, u, f)
	v := bring(t, a, u, "Name,04/07/2026\n,CMJ\nAda North,31\n", func(m *sheets.Mapping) { m.Dates = sheets.MonthFirst })
	require.Zero(t, v.Report.ErrorRows, "%+v", v.Report.Errors)
	_, err := a.CommitImport(ctx, u, v.ID, false)
	require.NoError(t, err)
	require.Equal(t, store.Saved, wait(t, a, u, v.ID).State)
	got, _, err := a.ExportFiles(ctx, u, id)
	require.NoError(t, err)
	assert.Equal(t, "2026-04-07", got[0].Screens[0].Date.String())
}
