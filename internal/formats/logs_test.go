package formats_test

import (
	"bytes"
	"context"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/civil"
	"dunnock/internal/core/library"
	"dunnock/internal/core/programme"
	"dunnock/internal/core/training"
	"dunnock/internal/formats"
	"dunnock/internal/formats/table"
)

func logged() []formats.LogSession {
	reserve, effort, minutes := 2, 7, 55
	kg := 60.0
	s := &programme.Session{ID: "s1", Items: []programme.Item{
		{ID: "li", Slot: library.SlotMain, Exercise: "lift-trap-bar", Dose: programme.Dose{Sets: 2, Reps: 5, Unit: library.Reps, Reserve: &reserve, LoadKg: &kg}},
		{ID: "sw", Slot: library.SlotSwings, Exercise: "swing-driver", Dose: programme.Dose{Sets: 1, Reps: 3, Unit: library.Swings}},
	}}
	day := civil.MustParse("2026-11-20")
	n := training.Notebook{Device: "phone", Session: "s1", At: time.Date(2026, 11, 20, 17, 0, 0, 0, time.UTC)}
	n.Run(s, day, training.How{Effort: &effort, Minutes: &minutes, Note: "=1+1 felt good"}, func(it *programme.Item, set int, x *training.SetDone) bool {
		if it.ID == "sw" {
			x.Swings = []training.Swing{{Mps: 44.1}, {Mps: 43.2, Other: true}, {Mps: 41, Void: true}}
		}
		if it.ID == "li" && set == 2 {
			x.State, x.Pain = training.SetStoppedState, &training.Hurt{Region: "knee", Level: 3}
		}
		return true
	})
	return []formats.LogSession{{
		Session: "s1", Kind: "planned", Title: "Lift", Date: day, Entries: n.Entries, Log: training.Fold(n.Entries),
		Names: map[string]formats.LogItem{"li": {Exercise: "lift-trap-bar", Name: "Trap-bar deadlift"}, "sw": {Exercise: "swing-driver", Name: "Driver swing"}},
	}}
}

// What is written is read again: as a table set by set, as JSON entry by entry.
func TestLogsGoOutAndComeBack(t *testing.T) {
	list := logged()
	for name, write := range map[string]func(*bytes.Buffer) error{
		"csv":  func(b *bytes.Buffer) error { return formats.WriteLogsCSV(b, list) },
		"xlsx": func(b *bytes.Buffer) error { return formats.WriteLogsXLSX(b, list) },
	} {
		var b bytes.Buffer
		require.NoError(t, write(&b), name)
		if name == "csv" {
			assert.Contains(t, b.String(), "'=1+1 felt good", "a spreadsheet runs nothing")
		}
		got, wrong, err := formats.ReadLogs(context.Background(), b.Bytes())
		require.NoError(t, err, name)
		assert.Empty(t, wrong)
		require.Len(t, got, 1)
		require.Len(t, got[0].Rows, 3)
		assert.Equal(t, list[0].Date, got[0].Date)
		row := got[0].Rows[1]
		assert.Equal(t, "li", row.Item)
		assert.Equal(t, training.SetStoppedState, row.Done.State)
		assert.Equal(t, 60.0, *row.Done.LoadKg)
		assert.Equal(t, 3, row.Done.Pain.Level)
		assert.Equal(t, 7, *row.How.Effort)
		assert.Equal(t, []training.Swing{{Mps: 44.1}, {Mps: 43.2, Other: true}}, got[0].Rows[2].Done.Swings)
	}
	var b bytes.Buffer
	require.NoError(t, formats.WriteJSON(&b, formats.LogFile{Format: formats.LogFormat, Golfer: "G", Sessions: list}))
	got, _, err := formats.ReadLogs(context.Background(), b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, list[0].Log, training.Fold(got[0].Entries), "nothing is lost")
}

func TestLogsThatCannotBeRead(t *testing.T) {
	for text, want := range map[string]string{
		"date,lunch\n2026-11-20,soup":                        `no column "lunch"`,
		"session,set\ns,1":                                   "needs the column date",
		`{"format":"other/1","golfer":"","sessions":[]}`:     "dunnock-logs/1",
		`{"format":"dunnock-logs/1","golfer":"","shoes":[]}`: "shoes",
		"": "",
	} {
		_, _, err := formats.ReadLogs(context.Background(), []byte(text))
		var no *table.Error
		require.ErrorAs(t, err, &no, text)
		assert.Contains(t, no.Text, want)
	}
	_, wrong, err := formats.ReadLogs(context.Background(), []byte("date,item,set,load_kg,reps\n2026-11-20,a,1,much,5\n20.11.2026,a,2,50,5\n2026-11-20,a,3,50,5.5\n2026-11-20,a,4,50,5\n"))
	require.NoError(t, err)
	require.Len(t, wrong, 3)
	assert.Equal(t, []int{2, 3, 4}, []int{wrong[0].Row, wrong[1].Row, wrong[2].Row})
}

func FuzzReadLogs(f *testing.F) {
	f.Add([]byte("date,session,set\n2026-11-20,s,1\n"))
	f.Add([]byte(`{"format":"dunnock-logs/1","golfer":"g","sessions":[]}`))
	f.Add([]byte(strings.Repeat("a,", 50)))
	f.Fuzz(func(t *testing.T, b []byte) {
		list, _, err := formats.ReadLogs(context.Background(), b)
		if err == nil {
			for _, s := range list {
				_ = len(s.Rows)
			}
		}
	})
}
