package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/rotation"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

func TestUndoLeavesGolfersWhoHaveSomethingOfTheirOwn(t *testing.T) {
	ctx := context.Background()
	for what, give := range map[string]func(t *testing.T, p *store.Practice, id string){
		"recording": func(t *testing.T, p *store.Practice, id string) {
			_, err := p.CreateRecording(ctx, store.Recording{AthleteID: id, Date: testkit.Day, Kind: "jump", Name: "j", Side: "right", RawBytes: 1, Hash: "h", Mapping: []byte("{}"), Settings: []byte("{}"), Result: []byte("{}"), Version: "1"}, []byte("x"))
			require.NoError(t, err)
		},
		"screen day": func(t *testing.T, p *store.Practice, id string) {
			_, err := p.CreateScreenDay(ctx, &store.ScreenDay{Date: testkit.Day, Name: "D", Start: "09:00", Stations: []rotation.TestStation{}, Plan: &rotation.Plan{}, Athletes: []string{id}})
			require.NoError(t, err)
		},
		"screen": func(t *testing.T, p *store.Practice, id string) {
			_, err := p.CreateScreen(ctx, id, testkit.Day.Add(-4), athlete.Circumstances{})
			require.NoError(t, err)
		},
		"facts": func(t *testing.T, p *store.Practice, id string) {
			require.NoError(t, p.UpdateAthlete(ctx, id, 1, testkit.Strong()))
		},
		"": func(*testing.T, *store.Practice, string) {},
	} {
		p, _ := practice(t, pgtest.Store(t), "a@example.org")
		imp, err := p.CreateImport(ctx, "f.csv", "Coach", "{}", []byte("x"))
		require.NoError(t, err)
		run := uuid.NewString()
		require.NoError(t, p.BeginImport(ctx, imp, run, []string{store.Uploaded}, store.Saving, "{}", 1))
		_, err = p.Together(ctx, func(u *store.Practice) error {
			g := store.GolferScreens{
				New:     testkit.Strong(),
				Screens: []athlete.Screen{{Date: testkit.Day, Trials: testkit.Trials(testkit.Strong().Athlete, "mass", "", 90)}},
			}
			if _, err := u.WriteImport(ctx, imp, []store.GolferScreens{g}, func(int) {}); err != nil {
				return err
			}
			return u.EndImport(ctx, imp, run, store.Saved, "", "")
		})
		require.NoError(t, err)
		names, err := p.Names(ctx)
		require.NoError(t, err)
		give(t, p, names[0].ID)
		_, err = p.UndoImport(ctx, imp, "%d")
		require.NoError(t, err, what)
		left, err := p.Names(ctx)
		require.NoError(t, err)
		want := 1
		if what == "" {
			want = 0
		}
		assert.Len(t, left, want, "a golfer with a %s", what)
	}
}

// An import whose server stopped is given back as what it is.
func TestAnImportWhoseServerStoppedGoesOn(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	for begun, back := range map[string]string{store.Checking: store.Uploaded, store.Saving: store.Checked} {
		imp, err := p.CreateImport(ctx, "f.csv", "Coach", "{}", []byte("x"))
		require.NoError(t, err)
		run := uuid.NewString()
		require.NoError(t, p.BeginImport(ctx, imp, run, []string{store.Uploaded}, begun, "{}", 1))
		over, err := p.ImportProgress(ctx, imp, run, 1, 2)
		require.NoError(t, err)
		assert.False(t, over)
		_, err = s.Pool().Exec(ctx, "UPDATE imports SET touched_at = now() - interval '1 minute' WHERE id = $1", imp)
		require.NoError(t, err)
		got, err := p.Import(ctx, imp)
		require.NoError(t, err)
		assert.Equal(t, back, got.State)
		var stored string
		require.NoError(t, s.Pool().QueryRow(ctx, "SELECT state FROM imports WHERE id = $1", imp).Scan(&stored))
		assert.Equal(t, back, stored, "the state shown is the state stored")
		over, err = p.ImportProgress(ctx, imp, run, 1, 2)
		require.NoError(t, err)
		assert.True(t, over, "a run that was taken for dead stops")
		require.ErrorIs(t, p.EndImport(ctx, imp, run, store.Saved, "", ""), store.ErrStopped, "and writes nothing")
	}
}

// A check nobody asks about any more stops; what is being saved goes on.
func TestACheckNobodyWaitsForStops(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	for state, stops := range map[string]bool{store.Checking: true, store.Saving: false} {
		imp, err := p.CreateImport(ctx, "f.csv", "Coach", "{}", []byte("x"))
		require.NoError(t, err)
		run := uuid.NewString()
		require.NoError(t, p.BeginImport(ctx, imp, run, []string{store.Uploaded}, state, "{}", 1))
		_, err = s.Pool().Exec(ctx, "UPDATE imports SET asked_at = now() - interval '2 minutes' WHERE id = $1", imp)
		require.NoError(t, err)
		over, err := p.ImportProgress(ctx, imp, run, 1, 2)
		require.NoError(t, err)
		assert.Equal(t, stops, over, state)
		require.NoError(t, p.AskedFor(ctx, imp))
		over, err = p.ImportProgress(ctx, imp, run, 1, 2)
		require.NoError(t, err)
		assert.False(t, over, "somebody asks again")
	}
}

// Rows of uploads nobody saved go after a week, with what was said of them.
func TestOldRowsAreDropped(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	imp, err := p.CreateImport(ctx, "f.csv", "Coach", `{"names":"x"}`, []byte("x"))
	require.NoError(t, err)
	n, err := s.DropOldRows(ctx, time.Now().Add(store.ContentsKept-time.Hour))
	require.NoError(t, err)
	assert.Zero(t, n)
	n, err = s.DropOldRows(ctx, time.Now().Add(store.ContentsKept+time.Hour))
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	got, err := p.Import(ctx, imp)
	require.NoError(t, err)
	assert.Equal(t, store.Failed, got.State)
	assert.Empty(t, got.Head)
	assert.Contains(t, got.Note, "Bring it in again")
}

// An import is all or nothing, and is taken back without what was changed by
// hand since.
func TestImportsAreAllOrNothingAndTakenBack(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	w := testkit.Weak()
	id, err := p.CreateAthlete(ctx, w)
	require.NoError(t, err)
	require.NoError(t, p.ImportScreens(ctx, id, []athlete.Screen{{Date: testkit.Day, Trials: testkit.Trials(w.Athlete, "mass", "", 60)}}))
	imp, err := p.CreateImport(ctx, "f.csv", "Coach", "{}", []byte("x"))
	require.NoError(t, err)
	brought := []store.GolferScreens{
		{
			ID:      id,
			Screens: []athlete.Screen{{Date: testkit.Day, Trials: append(testkit.Trials(w.Athlete, "mass", "", 60), testkit.Trials(w.Athlete, "cmj", "", 24, 25)...)}},
		},
		{New: testkit.Strong(), Screens: []athlete.Screen{{Date: testkit.Day, Trials: testkit.Trials(testkit.Strong().Athlete, "mass", "", 90)}}},
	}
	count := func() (golfers, trials int) {
		files, err := p.Files(ctx, nil)
		require.NoError(t, err)
		for _, f := range files {
			for _, s := range f.Facts.Screens {
				trials += len(s.Trials)
			}
		}
		return len(files), trials
	}
	commit := func(run string, cancel bool) (written int, err error) {
		require.NoError(t, p.BeginImport(ctx, imp, run, []string{store.Uploaded, store.Cancelled}, store.Saving, "{}", 2))
		_, err = p.Together(ctx, func(unit *store.Practice) (err error) {
			if written, err = unit.WriteImport(ctx, imp, brought, func(int) {}); err != nil {
				return err
			}
			if cancel {
				require.NoError(t, p.CancelImport(ctx, imp), "from elsewhere, while it is being saved")
			}
			return unit.EndImport(ctx, imp, run, store.Saved, "", "")
		})
		return written, err
	}
	run := uuid.NewString()
	_, err = commit(run, true)
	require.ErrorIs(t, err, store.ErrStopped)
	g, n := count()
	assert.Equal(t, []int{1, 1}, []int{g, n}, "cancelled at the last moment: nothing is there")
	require.NoError(t, p.EndImport(ctx, imp, run, store.Cancelled, "", ""))

	written, err := commit(uuid.NewString(), false)
	require.NoError(t, err)
	assert.Equal(t, 3, written, "the one that was there already is not written again")
	g, n = count()
	assert.Equal(t, []int{2, 4}, []int{g, n})
	rows, _, err := p.ImportRows(ctx, imp)
	require.NoError(t, err)
	assert.Nil(t, rows, "what is saved is not kept a second time")

	screens, err := p.Screens(ctx, id)
	require.NoError(t, err)
	require.NoError(t, save(p.SaveScreen(ctx, screens[0].ID, nil, []store.Cell{{Trial: testkit.Trials(w.Athlete, "cmj", "", 26)[0]}})))
	removed, err := p.UndoImport(ctx, imp, "%d")
	require.NoError(t, err)
	assert.Equal(t, 2, removed)
	_, err = p.UndoImport(ctx, imp, "%d")
	require.NoError(t, err, "taking back twice is no error")
	g, n = count()
	assert.Equal(t, []int{1, 2}, []int{g, n}, "what was changed by hand stays, and what was there before")
}
