package store_test

import (
	"bytes"
	"context"
	"errors"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/measure"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

// Whatever the conditions of a statement are, they hold together with the
// practice's.
func TestTheGuardHoldsWithOrRawAndMaps(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	a, _ := practice(t, s, "a@example.org")
	b, _ := practice(t, s, "b@example.org")
	mine, err := a.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	theirs, err := b.CreateAthlete(ctx, testkit.Strong())
	require.NoError(t, err)

	for name, q := range map[string]func(*gorm.DB) *gorm.DB{
		"or":             func(db *gorm.DB) *gorm.DB { return db.Where("id = ?", mine).Or("id = ?", theirs) },
		"only or":        func(db *gorm.DB) *gorm.DB { return db.Or("id = ?", theirs).Or("id = ?", mine) },
		"raw or":         func(db *gorm.DB) *gorm.DB { return db.Where("id = ? OR 1 = 1", mine) },
		"raw or, tabs":   func(db *gorm.DB) *gorm.DB { return db.Where("id = ?\tOR\n1 = 1", mine) },
		"nothing at all": func(db *gorm.DB) *gorm.DB { return db },
	} {
		var rows []store.AthleteRow
		require.NoError(t, q(a.OutsideTx(ctx)).Find(&rows).Error, name)
		require.Len(t, rows, 1, name)
		assert.Equal(t, mine, rows[0].ID, name)
	}

	other := store.PracticeOf(b)
	for name, change := range map[string]func(*gorm.DB) error{
		"map": func(tx *gorm.DB) error {
			return tx.Model(&store.AthleteRow{}).Where("id = ?", mine).Updates(map[string]any{"practice_id": other}).Error
		},
		"column": func(tx *gorm.DB) error {
			return tx.Model(&store.AthleteRow{}).Where("id = ?", mine).Update("practice_id", other).Error
		},
		"struct": func(tx *gorm.DB) error {
			return tx.Model(&store.AthleteRow{}).Where("id = ?", mine).Updates(&store.AthleteRow{PracticeID: other}).Error
		},
	} {
		assert.ErrorContains(t, a.InTx(ctx, change), "does not change its practice", name)
	}
	require.NoError(t, a.InTx(ctx, func(tx *gorm.DB) error {
		return tx.Model(&store.AthleteRow{}).Where("id = ?", mine).Or("id = ?", theirs).Update("goal_text", "x").Error
	}))
	got, err := b.Athlete(ctx, theirs)
	require.NoError(t, err)
	assert.NotEqual(t, "x", got.Facts.Athlete.GoalText)
}

// A unit of work is seen together or not at all, also in parts of its own.
func TestAUnitOfWorkSpansCalls(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	broken := errors.New("broken off")
	_, err := p.Together(ctx, func(u *store.Practice) error {
		id, err := u.CreateAthlete(ctx, testkit.Weak())
		require.NoError(t, err)
		_, err = u.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
		require.NoError(t, err)
		return broken
	})
	require.ErrorIs(t, err, broken)
	names, err := p.Names(ctx)
	require.NoError(t, err)
	assert.Empty(t, names)

	before, err := p.DataVersion(ctx)
	require.NoError(t, err)
	version, err := p.Together(ctx, func(u *store.Practice) error {
		id, err := u.CreateAthlete(ctx, testkit.Weak())
		require.NoError(t, err)
		_, err = u.Together(ctx, func(part *store.Practice) error {
			_, err := part.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
			require.NoError(t, err)
			return broken
		})
		require.ErrorIs(t, err, broken, "a part that fails takes back only itself")
		_, err = u.CreateScreen(ctx, id, testkit.Day.Add(-1), athlete.Circumstances{})
		return err
	})
	require.NoError(t, err)
	assert.Equal(t, before+1, version, "one unit, one version")
	names, err = p.Names(ctx)
	require.NoError(t, err)
	require.Len(t, names, 1)
	screens, err := p.Screens(ctx, names[0].ID)
	require.NoError(t, err)
	assert.Len(t, screens, 1)
	days, err := p.ScreenDates(ctx, names[0].ID)
	require.NoError(t, err)
	assert.Empty(t, days, "a screen with nothing in it is not done")

	// Two units that meet head on both come to an end.
	other, err := p.CreateAthlete(ctx, testkit.Strong())
	require.NoError(t, err)
	var wg sync.WaitGroup
	for _, order := range [][2]string{{names[0].ID, other}, {other, names[0].ID}} {
		wg.Go(func() {
			_, err := p.Together(ctx, func(u *store.Practice) error {
				if err := u.LockGolfer(ctx, order[0]); err != nil {
					return err
				}
				time.Sleep(50 * time.Millisecond)
				return u.LockGolfer(ctx, order[1])
			})
			assert.NoError(t, err)
		})
	}
	wg.Wait()
}

// A golfer is read as they were at one moment, whatever is written meanwhile.
func TestAGolferIsReadFromOneSnapshot(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	require.NoError(t, p.Snapshot(ctx, func(s *store.Practice) error {
		first, err := s.File(ctx, id)
		require.NoError(t, err)
		_, err = p.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
		require.NoError(t, err)
		again, err := s.File(ctx, id)
		require.NoError(t, err)
		assert.Equal(t, first, again)
		_, err = s.CreateScreen(ctx, id, testkit.Day.Add(-3), athlete.Circumstances{})
		assert.Error(t, err, "a snapshot writes nothing")
		return nil
	}))
}

// The golfer's own version rises with whatever is changed of them, and only of
// them.
func TestFactsVersionsRise(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Weak())
	require.NoError(t, err)
	other, err := p.CreateAthlete(ctx, testkit.Strong())
	require.NoError(t, err)
	versions := func() map[string]int64 {
		ids, vs, err := p.FactsVersions(ctx)
		require.NoError(t, err)
		out := map[string]int64{}
		for i := range ids {
			out[ids[i]] = vs[i]
		}
		return out
	}
	last := versions()
	raised := func(what string, err error) {
		t.Helper()
		require.NoError(t, err, what)
		now := versions()
		assert.Greater(t, now[id], last[id], what)
		assert.Equal(t, last[other], now[other], what)
		last = now
	}
	screen, err := p.CreateScreen(ctx, id, testkit.Day, athlete.Circumstances{})
	raised("screen", err)
	mass := testkit.Trials(testkit.Weak().Athlete, "mass", "", 60)[0]
	raised("cell", save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: mass}})))
	raised("cleared cell", save(p.SaveScreen(ctx, screen, nil, []store.Cell{{Trial: mass, Clear: true}})))
	f := testkit.Weak()
	f.Competitions = []athlete.Competition{{Date: testkit.Day, Name: "Match"}}
	raised("facts", p.UpdateAthlete(ctx, id, 1, f))
	raised("imported", p.ImportScreens(ctx, id, []athlete.Screen{{Date: testkit.Day.Add(-9), Trials: []measure.Trial{mass}}}))
	raised("screen removed", p.DeleteScreen(ctx, screen))
}

// Tries at the same moment are counted one by one.
func TestTriesAreCountedBeforeTheyAreMade(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	now := time.Now()
	var mu sync.Mutex
	allowed := 0
	var wg sync.WaitGroup
	for range 60 {
		wg.Go(func() {
			ok, err := s.AddTry(ctx, "name:x", 5, now, now.Add(-time.Minute))
			assert.NoError(t, err)
			if ok {
				mu.Lock()
				allowed++
				mu.Unlock()
			}
		})
	}
	wg.Wait()
	assert.Equal(t, 5, allowed)
	require.NoError(t, s.ForgetTries(ctx, "name:", now.Add(-time.Hour)))
	ok, err := s.AddTry(ctx, "name:x", 5, now, now.Add(-time.Minute))
	require.NoError(t, err)
	assert.True(t, ok)
}

// waits for the pool have a limit, and whether the database lives is known
// whatever the pool does.
func TestAFullPoolIsSaidAndHealthAnswers(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	for range 16 {
		c, err := s.Pool().Acquire(ctx)
		require.NoError(t, err)
		defer c.Release()
	}
	begin := time.Now()
	require.NoError(t, s.Ping(ctx))
	assert.Less(t, time.Since(begin), time.Second)
	_, err := p.Names(ctx)
	assert.True(t, store.Unavailable(err), "%v", err)
}

// What people had is there after the change of schema, and can be worked with.
func TestTheStateBeforeIsMigrated(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, pgtest.Restored(t, "testdata/state-3.sql.gz"), store.Options{})
	require.NoError(t, err)
	t.Cleanup(s.Close)
	n, err := s.Migrate(ctx)
	require.NoError(t, err)
	assert.Positive(t, n)
	practices, err := s.Practices(ctx)
	require.NoError(t, err)
	require.Len(t, practices, 1)
	p := s.For(practices[0])
	squad, err := p.Squad(ctx, false)
	require.NoError(t, err)
	require.Len(t, squad, 7)
	trials, drafts, issued := 0, 0, 0
	for _, g := range squad {
		f, err := p.File(ctx, g.ID)
		require.NoError(t, err)
		for _, s := range f.Facts.Screens {
			trials += len(s.Trials)
		}
		for _, x := range g.Programmes {
			got, err := p.Programme(ctx, x.ID)
			require.NoError(t, err)
			if x.Status == store.Issued {
				issued++
				continue
			}
			drafts++
			undo, redo, err := p.Steps(ctx, x.ID, store.Editor{})
			require.NoError(t, err)
			require.NotEmpty(t, undo, "steps of before are of nobody known: anybody takes them back")
			require.NotEmpty(t, redo)
			require.NoError(t, p.Step(ctx, x.ID, 1, store.Editor{Name: "Coach"}))
			require.NoError(t, p.Step(ctx, x.ID, -1, store.Editor{Name: "Coach"}))
			require.NoError(t, p.SaveStep(ctx, x.ID, got.Revision+2, "Another", store.Editor{Name: "Coach"}, got.Doc))
		}
		recs, err := p.Recordings(ctx, g.ID)
		require.NoError(t, err)
		for _, r := range recs {
			assert.Equal(t, 1, r.Revision)
			require.NoError(t, p.UpdateRecording(ctx, &r))
			assert.Equal(t, 2, r.Revision)
		}
	}
	assert.Equal(t, 487, trials)
	assert.Equal(t, []int{1, 1}, []int{drafts, issued})
	imports, err := p.Imports(ctx)
	require.NoError(t, err)
	require.Len(t, imports, 2)
	waiting, saved := imports[0], imports[1]
	assert.Equal(t, store.Uploaded, waiting.State)
	_, file, err := p.ImportRows(ctx, waiting.ID)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(file, []byte("golfer,")), "an upload nobody read yet is still there")
	removed, err := p.UndoImport(ctx, saved.ID, "%d")
	require.NoError(t, err)
	assert.Positive(t, removed)
	left, err := p.Names(ctx)
	require.NoError(t, err)
	assert.Len(t, left, 6, "the golfer it had made is gone")
}
