package store_test

import (
	"context"
	"sync"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dunnock/internal/core/athlete"
	"dunnock/internal/core/implement"
	"dunnock/internal/core/speed"
	"dunnock/internal/core/speed/diary"
	"dunnock/internal/core/testkit"
	"dunnock/internal/postgres/pgtest"
	"dunnock/internal/store"
)

func swingOf(id string, mps float64) diary.Swing {
	return diary.Swing{ID: id, Swing: speed.Swing{Key: speed.Key{Implement: "driver", Side: speed.Playing, Intent: speed.Full}, Set: 1, AtS: -1, ClubMps: mps}}
}

func TestASeriesIsKeptAndComesBack(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, _ := practice(t, s, "a@example.org")
	other, _ := practice(t, s, "b@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Strong())
	require.NoError(t, err)
	own := uuid.NewString()
	series, err := p.CreateSeries(ctx, store.Series{ID: own, AthleteID: id, Date: testkit.Day, Kind: diary.ColdStartKind, Before: "desk"})
	require.NoError(t, err)
	assert.Equal(t, own, series)
	again, err := p.CreateSeries(ctx, store.Series{ID: own, AthleteID: id, Date: testkit.Day, Kind: diary.ColdStartKind})
	require.NoError(t, err, "sent twice is kept once")
	assert.Equal(t, own, again)
	_, err = other.Series(ctx, series)
	require.ErrorIs(t, err, store.ErrNotFound, "another practice does not see it")

	// Many browsers at once: nothing is lost.
	var wg sync.WaitGroup
	for i := range 8 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			_, err := p.ChangeSeries(ctx, series, func(s *store.Series) error {
				s.Swings = append(s.Swings, swingOf(uuid.NewString(), 45+float64(i)/4))
				return nil
			})
			assert.NoError(t, err)
		}()
	}
	wg.Wait()
	got, err := p.Series(ctx, series)
	require.NoError(t, err)
	assert.Len(t, got.Swings, 8)
	assert.Equal(t, 9, got.Revision)
	_, err = p.ChangeSeries(ctx, series, func(s *store.Series) error {
		s.Swings = make([]diary.Swing, store.MaxSwings+1)
		return nil
	})
	require.ErrorIs(t, err, store.ErrFull)

	all, err := p.AllSeries(ctx, id)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "desk", all[0].Before)
}

// The newest cold start stands in the golfer's file, over what the facts say, and a
// change of it is a change of the golfer.
func TestTheNewestColdStartIsTheGolfers(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	f := testkit.Strong()
	f.ColdStart = &athlete.ColdStart{On: testkit.Day.Add(-90), Mps: []float64{44}}
	id, err := p.CreateAthlete(ctx, f)
	require.NoError(t, err)
	newest := func() *athlete.ColdStart {
		a, err := p.File(ctx, id)
		require.NoError(t, err)
		all, err := p.Files(ctx, []string{id})
		require.NoError(t, err)
		assert.Equal(t, a.Facts.ColdStart, all[0].Facts.ColdStart)
		return a.Facts.ColdStart
	}
	version := func() int64 {
		_, v, err := p.FactsVersions(ctx)
		require.NoError(t, err)
		return v[0]
	}
	assert.Equal(t, []float64{44}, newest().Mps, "brought in with the golfer")
	before := version()
	series, err := p.CreateSeries(ctx, store.Series{AthleteID: id, Date: testkit.Day, Kind: diary.ColdStartKind})
	require.NoError(t, err)
	assert.Equal(t, []float64{44}, newest().Mps, "no swing yet")
	_, err = p.ChangeSeries(ctx, series, func(s *store.Series) error {
		s.Swings = []diary.Swing{swingOf("a", 45), swingOf("b", 46), swingOf("c", 47), swingOf("d", 48)}
		s.Swings[1].Void = "slip"
		return nil
	})
	require.NoError(t, err)
	assert.Equal(t, []float64{45, 47, 48}, newest().Mps, "what is void does not count")
	assert.Greater(t, version(), before)
	require.NoError(t, p.DeleteSeries(ctx, series))
	assert.Equal(t, []float64{44}, newest().Mps)
	require.ErrorIs(t, p.DeleteSeries(ctx, series), store.ErrNotFound)
}

func TestAGolfersSeriesGoWithThem(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	id, err := p.CreateAthlete(ctx, testkit.Strong())
	require.NoError(t, err)
	series, err := p.CreateSeries(ctx, store.Series{AthleteID: id, Date: testkit.Day, Kind: diary.TrainingKind})
	require.NoError(t, err)
	require.NoError(t, p.Erase(ctx, id))
	_, err = p.Series(ctx, series)
	require.ErrorIs(t, err, store.ErrNotFound)
}

func TestImplementsOfAPractice(t *testing.T) {
	ctx := context.Background()
	p, _ := practice(t, pgtest.Store(t), "a@example.org")
	got, err := p.Implements(ctx)
	require.NoError(t, err)
	assert.Empty(t, got)
	want := []implement.Implement{{ID: "l", Name: "Light stick", Kind: implement.Speed, MassG: 250, LengthM: 1.1}}
	put := func(list []implement.Implement) ([]implement.Implement, error) { return append(list, want[0]), nil }
	require.NoError(t, p.ChangeImplements(ctx, put))
	got, err = p.Implements(ctx)
	require.NoError(t, err)
	assert.Equal(t, want, got)
	require.ErrorIs(t, p.ChangeImplements(ctx, func([]implement.Implement) ([]implement.Implement, error) { return nil, context.Canceled }), context.Canceled)

	// Many at once: none takes away what another put there.
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() { assert.NoError(t, p.ChangeImplements(ctx, put)) })
	}
	all.Wait()
	got, err = p.Implements(ctx)
	require.NoError(t, err)
	assert.Len(t, got, 9)
}
